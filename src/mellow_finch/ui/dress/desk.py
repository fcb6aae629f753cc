"""Dress as a whole: its panel, the themes imported, and what the centre shows of the chosen one."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

from ...components.catalogue import COMPONENT_BY_ID
from ...errors import line_of
from ...language import plural, tr
from ...look.dressed import first_said
from ...look.from_theme import holds_theme
from ...look.worn_themes import worn_by
from ...proof.toolkit.ask import Settled, Verdict, ask_before, may_be_asked, mend_by_painting
from ...recolour.screen import Pixels, SurfaceChange, recoloured_screen
from ...session.now import now
from ...session.portal import photograph
from ...theme.bundle.installed import InstalledTheme, icons_here, pointers_here, themes_here
from ...theme.result.account import Outcome
from ...wear.themes import theme_plan
from ..kit.jobs import JobProgress, Jobs
from ..kit.style import Style
from ..model.choosing import AskColour
from ..model.document import Document
from ..model.themes import ThemeDesk
from ..model.wearing import WearDesk
from ..stage.lay import PaintsOf, ViewOptions
from ..stage.staging import Staging
from ..stage.thumbs import Thumbs
from .here_dialog import HereDialog
from .panel import DressPanel
from .screen_view import ScreenView
from .toolkit_dialog import ToolkitDialog
from .views import TABS, VIEWS

_REST_MS = 1500  # after the last change of a theme before the toolkit is asked by itself
_ASKING = "toolkit by itself"


class DressDesk(QObject):
    """Puts the parts of Dress together; the window says when it is in sight."""

    said = pyqtSignal(str)
    trouble = pyqtSignal(str)
    shown = pyqtSignal()  # what the centre is to show may be another thing now

    def __init__(
        self, document: Document, style: Style, jobs: Jobs, staging: Staging, wearing: WearDesk,
        ask_colour: AskColour,
    ) -> None:  # fmt: skip
        super().__init__()
        self.asks_toolkit: Callable[[], bool] = lambda: True  # of themes that are used, without being told to
        self._asked_of: dict[str, Outcome] = {}
        self._document, self._staging, self._wearing = document, staging, wearing
        self._jobs, self._style = jobs, style
        self.themes = ThemeDesk(document, jobs)
        wearing.themes_ready = self.themes.ready
        self.thumbs = Thumbs(self._paints_of, staging.picture, self._seen, self._wanted, jobs)
        self.panel = DressPanel(document, style, jobs, self.themes, self.thumbs, TABS, ask_colour)
        self.thumbs.setParent(self.panel)  # nothing is painted for rows that are gone
        self.views = {row.id: row.make(self.panel, document, style, ask_colour) for row in VIEWS}
        self.screen: ScreenView = self.views["screen"]  # type: ignore[assignment]
        self.screen.portal_asked.connect(self._ask_for_screen)
        self.screen.colours_asked.connect(self._colour_screen)
        self.themes.trouble.connect(self.trouble)
        self.themes.changed.connect(lambda _: self.shown.emit())
        self.themes.changed.connect(lambda _: self._rest.start())
        document.changed.connect(lambda *_: self._rest.start())
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._ask_quietly)
        self.panel.theme.toolkit_asked.connect(self.ask_toolkit)
        self.panel.view_changed.connect(lambda _: self.shown.emit())
        self.panel.chosen.connect(self.shown)

    def _ask_for_screen(self) -> None:
        """Let the desktop take a picture of the screen."""

        def done(pixels: Pixels | None) -> None:
            if pixels is None:
                self.screen.refuse(tr("No screenshot was taken."))
            else:
                self.screen.show_still(pixels)

        self._jobs.start("screen", photograph, done, lambda error: self.screen.refuse(line_of(error)))

    def _colour_screen(self, still: Pixels, changes: tuple[SurfaceChange, ...]) -> None:
        """Work out the person's screen in the colours of the look."""
        self._jobs.start(
            "screen colours",
            lambda _progress: recoloured_screen(still, changes),
            self.screen.show_fresh,
            lambda error: self.screen.refuse(line_of(error)),
        )

    def _paints_of(self, component: str) -> PaintsOf:
        """Return what a small picture of a component is painted from: its own files, and the desktop around it."""
        return first_said(self._document.dressed_with(component).paints, self._document.right_paints)

    def _seen(self) -> ViewOptions | None:
        look = self._document.look
        return self._staging.seen(look) if look is not None else None

    def _wanted(self) -> list[str]:
        known = COMPONENT_BY_ID
        return [id_ for id_ in self.panel.list.visible_ids() if id_ in known] if self.panel.isVisible() else []

    def take_theme(self, in_sight: bool) -> None:
        """Let the stage show the chosen theme while Dress is in sight, and the home otherwise."""
        path = self.panel.theme_path()
        known = self.themes.known.get(path) if in_sight else None
        self._document.in_view = self.panel.current().id if in_sight and not path else ""
        self._document.themed = (known.before, known.after or known.before) if known is not None else ({}, {})

    def view(self, stage: QWidget) -> QWidget:
        """Return what the centre shows, filled anew: the stage, the changes of files, or pictures."""
        for row in VIEWS:
            if row.id == self.panel.view:
                row.fill(self.panel, self.views[row.id])
                return self.views[row.id]
        return stage

    def list_here(self, other: Callable[[], object], start: Callable[[Path], object] | None = None) -> None:
        """List the themes of this computer, found off the window's thread.

        other: what is done for one that is not listed; start: what is done with the chosen one in the place of using
        it, of themes alone.
        """
        home, session, look = self._document.home, self._wearing.session, self._document.look
        if home is None or (look is None and start is None):
            other()
            return
        colours = look.colours if look is not None else {}

        def work(_progress: JobProgress) -> tuple[dict[str, tuple[InstalledTheme, ...]], str]:
            in_use = now(session).theme
            if start is not None:
                told = tuple(here for here in themes_here(home, in_use) if holds_theme(here.path))
                return {tr("Themes"): told}, in_use
            icons, pointers = icons_here(home, colours), pointers_here(home, colours)
            rows = {tr("Themes"): themes_here(home, in_use), tr("Icons"): icons, tr("Cursor theme"): pointers}
            return rows, in_use

        def done(found: tuple[dict[str, tuple[InstalledTheme, ...]], str]) -> None:
            doing = tr("Use it…") if start is None else tr("Start from it")
            another = tr("An archive or file…") if start is None else tr("Another folder…")
            about = (
                tr(
                    "The theme you choose stays as it is; the look uses a copy in its own colours, or "
                    "with some replaced."
                )
                if start is None
                else tr("The look starts with the colours of the theme you choose.")
            )
            self.here = HereDialog(*found, colours, doing, another, about, self.panel.window())
            self.here.chosen.connect(start or self.themes.bring)
            self.here.other_asked.connect(other)
            self.here.show()

        self._jobs.start("themes here", work, done)

    def _ask_quietly(self) -> None:
        """Let the real toolkit paint the themes that are used, one after another, and mend on from what it painted."""
        look, rows = self._document.look, self.themes.known
        if look is None or not look.mend_as_you_go or not self.asks_toolkit() or self._jobs.running(_ASKING):
            return
        used = (p for p in dict.fromkeys(worn_by(look).values()) if p in rows and self.themes.up_to_date(p))
        waiting = (p for p in used if may_be_asked(rows[p].theme) and self._asked_of.get(p) is not rows[p].outcome)
        path = next(waiting, "")
        outcome = rows[path].outcome if path else None
        if outcome is None:
            return
        theme, scheme, choices = rows[path].theme, look.scheme(), self.themes.choices(look, path)
        self._asked_of[path] = outcome

        def done(settled: Settled) -> None:
            self._asked_of[path] = settled.outcome
            if settled.outcome is not outcome:
                self.themes.take(path, outcome, settled.outcome)
            self.panel.theme.say_painted(path, settled.outcome, settled.verdict.summary)
            self._rest.start()

        self._jobs.start(
            _ASKING,
            lambda progress: mend_by_painting(theme, scheme, choices, outcome, progress),
            done,
            lambda _error: None,  # where it cannot be asked, our own judgement stands
        )

    def ask_toolkit(self, path: str) -> None:
        """Let the real toolkit paint a theme as it was and as it will be, and show what it painted."""
        known, look = self.themes.known.get(path), self._document.look
        if known is None or known.outcome is None or look is None:
            return
        theme, outcome, page = known.theme, known.outcome, self.panel.theme
        scheme, choices = look.scheme(), self.themes.choices(look, path)

        def work(progress: JobProgress) -> tuple[Verdict, Settled]:
            progress.report(0, 2, tr("The toolkit draws the theme before the change"))
            before = ask_before(theme, scheme.text_need)
            progress.report(1, 2, tr("The toolkit draws the theme after the change"))
            return before, mend_by_painting(theme, scheme, choices, outcome, progress)

        def done(found: tuple[Verdict, Settled]) -> None:
            before, settled = found
            after, mended = settled.verdict, settled.short_at_first - len(settled.verdict.short)
            words = plural(
                "{summary} Before, {count} was insufficient.",
                "{summary} Before, {count} were insufficient.",
                len(before.short),
                summary=after.summary,
            )
            if mended > 0 and self.themes.take(path, outcome, settled.outcome):
                words += " " + plural(
                    "{count} more pair was fixed from what it drew.",
                    "{count} more pairs were fixed from what it drew.",
                    mended,
                )
            now_there = self.themes.known.get(path)
            page.say_painted(path, now_there.outcome if now_there is not None else outcome, words)
            self.painted = ToolkitDialog(outcome.name, before, after, self._style, self.panel.window())
            self.painted.show()

        def failed(error: Exception) -> None:
            page.say_painted(path, outcome, line_of(error))

        page.say_painted(path, outcome, tr("The toolkit draws every common widget with it …"))
        self._jobs.start("toolkit", work, done, failed)

    def wear(self, path: str) -> None:
        """Put a recoloured theme into the home, with a way back in Wear."""
        known, look, home = self.themes.known.get(path), self._document.look, self._document.home
        if known is None or known.outcome is None or look is None or home is None:
            return
        outcome, found, tone = known.outcome, known.theme.found, look.tone

        def told(files: int) -> str:
            return plural(
                "“{name}” is in the home folder, {count} file; Undo in Wear removes it.",
                "“{name}” is in the home folder, {count} files; Undo in Wear removes it.",
                files,
                name=outcome.name,
            )

        self._wearing.wear(lambda: theme_plan(outcome, found, tone, home), told)
