"""Themes that a person imported: read and recoloured off the window's thread, kept by their path.

What was decided of them lives in the look; here is only what follows from it, and what was read from disk.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from ...components.decisions import Owner
from ...components.model import Paints, Scheme
from ...errors import line_of
from ...language import tr
from ...look.decision_edits import with_decisions
from ...look.from_theme import look_of_brought, with_colours_of
from ...look.model import Look
from ...look.theme_edits import with_brought, with_newer
from ...look.worn_themes import WornTheme, worn_by
from ...theme.bundle.foreign import ForeignName, ThisComputer, foreign_words, this_machine
from ...theme.bundle.model import Theme, roots_of
from ...theme.bundle.opened import Bundle, open_bundle, theme_name
from ...theme.bundle.read import read_theme
from ...theme.result.account import Choices, Outcome
from ...theme.result.recolour import recolour_theme
from ...theme.result.uses import chosen_for, other_roots
from ...theme.sheets.shown import shown_now, shown_paints
from ..kit.jobs import JobProgress, Jobs
from .document import Document

_REST = 250  # milliseconds after the last change before a theme is recoloured anew


class Brought(NamedTuple):
    """A theme as far as it is known.

    before and after: what its sheets draw, by component; words: of another computer.
    """

    theme: Theme
    words: tuple[ForeignName, ...]
    before: Mapping[str, Paints]
    outcome: Outcome | None = None
    after: Mapping[str, Paints] = {}


def _stamp(path: Path) -> tuple[int, int]:
    """Return what tells whether a file is another one now: when it was changed, and its size; zeros where it is not."""
    try:
        state = path.stat()
    except OSError:
        return 0, 0
    return state.st_mtime_ns, state.st_size


class ThemeDesk(QObject):
    """Opens themes and keeps them in the look's colours."""

    changed = pyqtSignal(str)  # the path of a theme of which more is known now
    progressed = pyqtSignal(str, int, int, str)
    trouble = pyqtSignal(str)
    opened = pyqtSignal(str)

    def __init__(self, document: Document, jobs: Jobs, here: ThisComputer | None = None) -> None:
        super().__init__()
        self._document, self._jobs, self._here = document, jobs, here
        self._bundles: dict[str, Bundle] = {}
        self.known: dict[str, Brought] = {}
        self._seen: dict[str, tuple[int, int]] = {}  # what told each file when it was read
        self._lost: set[str] = set()  # what could not be read, until it is brought again
        self._allowed: set[str] = set()  # what the person brought or agreed to; a look alone lets nothing be read
        self._asked: dict[str, tuple[object, ...]] = {}  # what each outcome was made for
        self.in_sight = ""  # the path of the theme that is shown, which is recoloured first
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST)
        self._rest.timeout.connect(self.catch_up)
        jobs.progressed.connect(self._progressed)
        document.changed.connect(lambda *_: self._rest.start())

    def bring(self, path: Path) -> None:
        """Bring a theme, a configuration or an archive along; it is read first, so that a wrong one is told at once."""
        key = str(path)
        self._allowed.add(key)
        look = self._document.look
        if look is not None and key in look.brought:
            if self._seen.get(key) != _stamp(path):  # it was downloaded anew
                self._bundles.pop(key, None)
                self.known.pop(key, None)
                self._asked.pop(key, None)
            self.catch_up()
            self.opened.emit(key)
            return
        alike = (p for p in look.brought if theme_name(Path(p)) == theme_name(path)) if look is not None else ()
        older = next(iter(alike), "")

        def done(brought: Brought) -> None:
            self.known[key] = brought
            if older:
                words = tr("Replace {name} by the newer one").format(name=theme_name(path))
                self._document.edit(words, lambda look: with_newer(look, older, key))
                self.opened.emit(key)
                return
            left = brought.theme.left

            def bring(look: Look) -> Look:
                return with_decisions(with_brought(look, key), Owner.theme(key), left=left)

            self._document.edit(tr("Import {name}").format(name=path.name), bring)
            QTimer.singleShot(0, lambda: self.opened.emit(key))  # when what has changed was painted

        self._start_reading(key, frozenset(), done)

    def allow(self, paths: Collection[str]) -> None:
        """Let themes be read that a look names which the person made or kept; those that it wears are read at once."""
        self._allowed |= set(paths)
        self._rest.start()

    def change(self, path: str, words: str, change: Callable[[Look], Look]) -> None:
        """Change what the look says of a theme, as one step.

        Where the theme keeps its own colours, the look takes its palette from them, so that everything goes with it.
        """
        look, brought = self._document.look, self.known.get(path)
        if look is None:
            return
        fresh = change(look)
        if brought is None or not fresh.decided(Owner.theme(path)).as_is or fresh == look:
            self._document.edit(words, change)
            return

        def work(progress: JobProgress) -> Look:
            quick = replace(fresh.scheme(), mend=False)
            outcome = recolour_theme(brought.theme, quick, fresh.choices(path), progress)
            return look_of_brought(fresh, brought.theme, outcome)

        def done(found: Look) -> None:
            self.progressed.emit(path, 0, 0, "")
            self._document.edit(words, lambda now: with_colours_of(change(now), found))

        def failed(error: Exception) -> None:
            self.progressed.emit(path, 0, 0, "")
            self._document.edit(words, change)
            self.trouble.emit(line_of(error))

        self._jobs.start(f"palette {path}", work, done, failed)

    def themes_for(self, component: str) -> dict[str, str]:
        """Return the themes that were brought and that a component could wear, by path with their names."""
        look = self._document.look
        brought = look.brought if look is not None else ()
        serving = (p for p in brought if p in self.known and chosen_for(self.known[p].theme, component, "dark", True))
        return {path: theme_name(Path(path)) for path in serving}

    def ready(self, look: Look) -> bool:
        """Tell whether every theme that a look wears is in its colours, but for those that cannot be read."""
        paths = set(worn_by(look).values()) & self._allowed - self._lost
        return all(self.up_to_date(path) and path in self._document.themes for path in paths)

    def asks(self, path: str) -> bool:
        """Tell whether a look names something that has not been read, since the person was not asked yet."""
        return path not in self._allowed

    def put_aside(self, path: str) -> None:
        """Take a theme out of the look; its files are not touched."""
        self._jobs.cancel(f"theme {path}")
        self._document.edit(
            tr("Remove {name}").format(name=Path(path).name), lambda look: with_brought(look, path, False)
        )

    def stop(self, path: str) -> None:
        """Stop what is being done about a theme."""
        for what in ("read", "theme", "palette"):
            self._jobs.cancel(f"{what} {path}")
        self.progressed.emit(path, 0, 0, "")

    def busy(self, path: str) -> bool:
        """Tell whether something is being done about a theme."""
        return any(self._jobs.running(f"{what} {path}") for what in ("read", "theme", "palette"))

    def _start_reading(
        self, key: str, splits: frozenset[str], done: Callable[[Brought], None], left: frozenset[str] | None = None
    ) -> None:
        """Read a theme; left: the folders that stay out, None for those that another one of it stands for."""
        tone = self._document.look.tone if self._document.look is not None else "dark"

        def work(progress: JobProgress) -> Brought:
            self._seen[key] = _stamp(Path(key))
            bundle = self._bundles.get(key) or open_bundle(Path(key), progress)
            self._bundles[key] = bundle
            out = other_roots(bundle, tone) if left is None else left
            theme = read_theme(bundle, splits, progress, out)
            here = self._here or this_machine()
            return Brought(theme, foreign_words(theme, here), shown_paints(theme, None, False))

        def failed(error: Exception) -> None:
            self._lost.add(key)
            self.progressed.emit(key, 0, 0, "")
            self.changed.emit(key)
            self.trouble.emit(line_of(error))

        self._lost.discard(key)
        self._jobs.start(f"read {key}", work, done, failed)

    # Keeping up with the look

    def catch_up(self) -> None:
        """Read and recolour whatever the look has imported and is not up to date, the one in sight first."""
        look = self._document.look
        if look is None:
            return
        for path in sorted(self._allowed & set(look.brought), key=lambda p: (p != self.in_sight, p)):
            decided = look.decided(Owner.theme(path))
            splits, left = decided.splits, decided.left
            brought = self.known.get(path)
            if brought is not None:
                left &= frozenset(roots_of(brought.theme.offers))
            if brought is None or (brought.theme.splits, brought.theme.left) != (splits, left):
                if not self._jobs.running(f"read {path}") and path not in self._lost:
                    self._start_reading(path, splits, partial(self._read, path), left)
            elif (path == self.in_sight or decided.worn) and self._asked.get(path) != self._needs(look, path):
                self._recolour(look, path, brought)
            elif decided.worn and self.up_to_date(path):
                self._wear(path, brought)

    def _read(self, path: str, brought: Brought) -> None:
        self.known[path] = brought
        self._asked.pop(path, None)
        self.changed.emit(path)
        self.catch_up()

    @staticmethod
    def _needs(look: Look, path: str) -> tuple[object, ...]:
        """Return all of a look that a theme's recolouring depends on."""
        choices = look.choices(path)
        choices = replace(choices, decided=replace(choices.decided, worn=frozenset()))
        own = () if choices.decided.as_is else (look.colours, look.folder)
        needs = (look.tone, look.mend_as_you_go, look.temper.text_need, look.backdrop, look.drawn_opacity(), look.blur)
        return (*needs, *own, choices)

    def choices(self, look: Look, path: str) -> Choices:
        """Return what a look says of a theme."""
        return look.choices(path)

    def _recolour(self, look: Look, path: str, brought: Brought) -> None:
        scheme, choices = look.scheme(), self.choices(look, path)
        needs = self._needs(look, path)
        self._asked[path] = needs
        dark = look.tone == "dark"

        def work(progress: JobProgress) -> Brought:
            quick: Scheme = replace(scheme, mend=False)
            if scheme.mend and brought.theme.sheets:
                first = recolour_theme(brought.theme, quick, choices, progress)
                progress.give(brought._replace(after=shown_now(brought.theme, first, dark), outcome=first))
            outcome = recolour_theme(brought.theme, scheme, choices, progress)
            return brought._replace(
                outcome=outcome,
                after=shown_now(brought.theme, outcome, dark),
                before=shown_paints(brought.theme, None, dark),
            )

        def done(fresh: Brought) -> None:
            self.progressed.emit(path, 0, 0, "")
            part(fresh)

        def part(fresh: object) -> None:
            if isinstance(fresh, Brought):
                self._keep(path, fresh)

        def failed(error: Exception) -> None:
            self._asked.pop(path, None)
            self.progressed.emit(path, 0, 0, "")
            self.trouble.emit(line_of(error))

        self._jobs.start(f"theme {path}", work, done, failed, part)

    def take(self, path: str, of: Outcome, outcome: Outcome) -> bool:
        """Put an outcome that was mended further in the place of the one it was made of; say no when that is gone."""
        brought, look = self.known.get(path), self._document.look
        if brought is None or look is None or brought.outcome is not of:
            return False
        after = shown_now(brought.theme, outcome, look.tone == "dark")
        self._keep(path, brought._replace(outcome=outcome, after=after))
        return True

    def _keep(self, path: str, brought: Brought) -> None:
        """Keep what is known of a theme, and let the look wear it where it does."""
        self.known[path] = brought
        look = self._document.look
        if look is not None and look.decided(Owner.theme(path)).worn:
            self._wear(path, brought)
        self.changed.emit(path)

    def _wear(self, path: str, brought: Brought) -> None:
        """Let the look wear a theme as it is recoloured now, where it does not yet."""
        worn = self._document.themes.get(path)
        if brought.outcome is not None and (worn is None or worn.outcome is not brought.outcome):
            self._document.take_theme(path, WornTheme(brought.theme, brought.outcome, brought.after))

    def _progressed(self, key: str, done: int, total: int, note: str) -> None:
        kind, _, path = key.partition(" ")
        if kind in ("read", "theme", "palette"):
            self.progressed.emit(path, done, total, note)

    def up_to_date(self, path: str) -> bool:
        """Tell whether a theme's outcome is the look's."""
        look, brought = self._document.look, self.known.get(path)
        return (
            look is not None
            and brought is not None
            and brought.outcome is not None
            and not self.busy(path)
            and self._asked.get(path) == self._needs(look, path)
        )
