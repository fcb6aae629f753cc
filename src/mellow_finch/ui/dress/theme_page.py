"""The page of one theme that was imported: what it holds, its groups, foreign words, and where it is written."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from ...colour.rgb import Rgba, parse_hex
from ...components.decisions import Owner, Slot
from ...language import comma_separated, groups_in, parted, plural, tr
from ...look.decision_edits import with_choice, with_split
from ...look.model import Look
from ...look.theme_edits import with_left, with_own_colours, with_swap, with_use
from ...proof.toolkit.ask import may_be_asked
from ...recolour.groups import KEEP, Group, states_of
from ...theme.bundle.kinds import counted
from ...theme.bundle.model import Theme, roots_of
from ...theme.bundle.opened import theme_name
from ...theme.pictures.drawings import LEAD
from ...theme.result.account import Outcome
from ...theme.result.outputs import shown_targets
from ...theme.result.own_colours import kept_decisions, leading_colours
from ...theme.result.recolour import charts_of
from ...theme.result.uses import chosen_for, uses_of
from ..kit.flow import Flow
from ..kit.parts import label, plain_column
from ..kit.style import Style
from ..model.choosing import AskColour
from ..model.document import Document
from ..model.themes import Brought, ThemeDesk
from .group_list import ColourGroup, GroupList
from .theme_boxes import OwnContrastBox, SeveralBox, WordsBox
from .use_box import UseBox


def theme_rows(theme: Theme, outcome: Outcome | None, look: Look, path: str) -> list[ColourGroup]:
    """Return the groups of a theme as rows, the one with the most places first."""
    choices = look.choices(path)
    as_is = choices.decided.as_is
    chosen_roles = (kept_decisions(theme, choices.decided) if as_is else choices.decided).by_group
    scheme = look.scheme()
    charts = outcome.charts if outcome is not None else charts_of(theme, scheme, choices)
    rows: list[ColourGroup] = []
    for family, chart in zip(theme.families, charts, strict=True):
        owners = [p for p in family.paths for _ in theme.texts[p].spans]
        targets = shown_targets(family.groups, chart, scheme.colours, chosen_roles)
        for group in family.groups:
            target = targets[group.key]
            files = len({owners[i] for i in group.spans})
            shades = tuple(states_of(group, family.spans).items()) if len(group.shades) < 40 else ()
            rows.append(group_row(group, target, files, chosen_roles, theme.splits, shades))
    for lead in (g for g in outcome.groups if g.key == LEAD) if outcome is not None else ():
        chosen = LEAD in chosen_roles
        role = lead.role or KEEP
        rows.append(
            ColourGroup(
                Slot.spelled(LEAD),
                lead.source,
                lead.target,
                role,
                lead.reason,
                lead.places,
                lead.files,
                chosen,
                may_split=False,
            )
        )
    return sorted(rows, key=lambda r: -r.places)


def group_row(
    group: Group,
    target: Rgba,
    files: int,
    roles: Mapping[str, str],
    splits: frozenset[str],
    shades: tuple[tuple[Rgba, str], ...] = (),
) -> ColourGroup:
    """Return a group as a row."""
    chosen = roles.get(group.key, "")
    parent = group.key.rpartition("/")[0]
    split = parent in splits
    return ColourGroup(
        key=Slot.spelled(group.key),
        old=group.anchor,
        new=target,
        role=chosen or group.role,
        reason=group.reason,
        places=group.places,
        files=files,
        chosen=bool(chosen),
        split=split,
        may_split=not group.sure and group.places > 1,
        shades=shades,
    )


class ThemePage(QWidget):
    """What is known and decided of one theme."""

    save_asked = pyqtSignal(str)
    wear_asked = pyqtSignal(str)
    toolkit_asked = pyqtSignal(str)

    def __init__(self, document: Document, style: Style, desk: ThemeDesk, ask_colour: AskColour) -> None:
        super().__init__()
        self._document, self._desk = document, desk
        self._painted: dict[str, tuple[Outcome | None, str]] = {}
        self.path = ""
        column: QVBoxLayout = plain_column(self, 8)
        self.holds = label("")
        self.offers: Callable[[], Sequence[Rgba]] = tuple  # the colours of the wallpaper
        self.use = UseBox(style, ask_colour)
        self.use.way_asked.connect(self._use)
        self.use.uses_asked.connect(self._use_for)
        self.use.stop_asked.connect(self._stop_using)
        self.use.swap_asked.connect(lambda old, new: self._change(tr("Replace a colour"), with_swap, old, new))
        self.state = label("", "quiet")
        self.progress = QProgressBar()
        self.progress.setTextVisible(False)
        self.stop = QPushButton(tr("Stop"))
        self.stop.setToolTip(tr("Stop; everything stays as it is"))
        self.stop.clicked.connect(lambda: desk.stop(self.path))
        working = QHBoxLayout()
        working.addWidget(self.progress, 1)
        working.addWidget(self.stop)
        self._working = QWidget()
        self._working.setLayout(working)
        working.setContentsMargins(0, 0, 0, 0)
        buttons = Flow(6)
        self.wear = QPushButton(tr("Write to the home folder"))
        self.wear.setToolTip(tr("Write the recoloured theme to the home folder; Undo in Wear removes it"))
        self.wear.clicked.connect(lambda: self.wear_asked.emit(self.path))
        self.save = QPushButton(tr("Save a copy…"))
        self.save.setToolTip(tr("Write the recoloured files into a folder that you choose"))
        self.save.clicked.connect(lambda: self.save_asked.emit(self.path))
        self.aside = QPushButton(tr("Remove"))
        self.aside.setToolTip(tr("Remove it from the look; its files are not changed"))
        self.aside.clicked.connect(lambda: desk.put_aside(self.path))
        self.read = QPushButton(tr("Load"))
        self.read.setToolTip(tr("The look refers to it; nothing is read before you agree"))
        self.read.clicked.connect(lambda: desk.bring(Path(self.path)))
        for button in (self.read, self.wear, self.save):
            buttons.addWidget(button)
        self.toolkit = QPushButton(tr("Check with the real toolkit"))
        self.toolkit.setToolTip(tr("Draw every common widget with it, before and after, and measure the result"))
        self.toolkit.clicked.connect(lambda: self.toolkit_asked.emit(self.path))
        self.painted = label("", "quiet")
        self.groups_title = label("", "section")
        self.groups = GroupList(style, ask_colour)
        self.groups.asked.connect(self._ask)
        self.groups.split_asked.connect(self.split)
        self.groups.pointed.connect(lambda role: document.select(role) if role and role != KEEP else None)
        self.words = WordsBox(document)
        self.several = SeveralBox()
        self.several.asked.connect(self._leave)
        self.contrast = OwnContrastBox()
        self.contrast.asked.connect(lambda slot, to: self._choose(tr("Choose a theme's own contrast"), slot, to))
        self.notes = label("", "quiet")
        for widget in (self.holds, self.state, self._working, self.use, self.several):
            column.addWidget(widget)
        column.addLayout(buttons)
        column.addWidget(self.toolkit)
        column.addWidget(self.painted)
        for widget in (self.words, self.contrast, self.groups_title, self.groups, self.notes):
            column.addWidget(widget)
        column.addWidget(self.aside)
        column.addStretch(1)
        desk.progressed.connect(self._progressed)

    def _ask(self, slot: Slot, choice: str) -> None:
        self._choose(tr("Map a group of colours"), slot, choice)

    def _choose(self, words: str, slot: Slot, choice: str) -> None:
        owner = Owner.theme(self.path)
        self._document.edit(words, lambda look: with_choice(look, owner, [slot], choice))

    def _change(self, words: str, edit: Callable[..., Look], *given: object) -> None:
        path = self.path
        self._desk.change(path, words, lambda look: edit(look, path, *given))

    def _use_for(self, uses: frozenset[str]) -> None:
        """Let the look wear the theme for other parts of the desktop; what of an archive they need comes along."""
        path, brought = self.path, self._desk.known.get(self.path)

        def used(look: Look) -> Look:
            rows = (chosen_for(brought.theme, use, look.tone, True) for use in uses) if brought is not None else ()
            for root in {row[1].root for row in rows if row is not None}:
                look = with_left(look, path, root, False)
            return with_use(look, path, uses, self._here)

        self._change(tr("Choose what uses a theme"), lambda look, _path: used(look))

    def _use(self, as_is: bool) -> None:
        """Let the look wear the theme for what is ticked, in the look's colours or in its own."""
        path, uses = self.path, self.use.ticked

        def used(look: Look) -> Look:
            own = look.decided(Owner.theme(path))
            look = with_own_colours(look, path, as_is)
            return look if own.worn else with_use(look, path, uses, self._here)

        self._desk.change(path, tr("Use {name}").format(name=theme_name(Path(path))), used)

    def _stop_using(self) -> None:
        path = self.path
        self._document.edit(
            tr("Stop using {name}").format(name=theme_name(Path(path))),
            lambda look: with_own_colours(with_use(look, path, (), self._here), path, False),
        )

    @property
    def _here(self) -> frozenset[str]:
        return frozenset(id_ for id_, found in self._document.present.items() if found.here)

    def _show_use(self, look: Look, brought: Brought) -> None:
        """Show how the theme is used, and the colours that can be replaced in it."""
        theme, own = brought.theme, look.decided(Owner.theme(self.path))
        uses = uses_of(theme.offers)
        self.use.offered, self.use.roles = self.offers(), look.colours
        self.use.show_uses(self.path, uses, own.worn, frozenset(u.id for u in uses if u.fits(self._here)), own.as_is)
        swaps = {parse_hex(old): parse_hex(new) for old, new in own.swaps.items()}
        self.use.show_colours(leading_colours(theme) if own.as_is else (), swaps)
        known = {kind for use in uses for kind in use.kinds}
        self.wear.setVisible(not self._desk.asks(self.path) and any(f.kind.id not in known for f in theme.found))

    def _leave(self, root: str, left: bool) -> None:
        path = self.path
        self._document.edit(tr("Choose which themes"), lambda look: with_left(look, path, root, left))

    def ask_all(self, keys: Sequence[Slot], choice: str) -> None:
        """Give several groups a role as one step."""
        owner = Owner.theme(self.path)
        self._document.edit(
            plural("Map {count} group of colours", "Map {count} groups of colours", len(keys)),
            lambda look: with_choice(look, owner, keys, choice),
        )

    def split(self, key: str, apart: bool) -> None:
        owner = Owner.theme(self.path)
        whole = key if apart else key.rpartition("/")[0]
        words = tr("Split a group") if apart else tr("Merge a group")
        self._document.edit(words, lambda look: with_split(look, owner, whole, apart))

    def _progressed(self, path: str, done: int, total: int, note: str) -> None:
        if path == self.path:
            self._working.setVisible(total > 0)
            self.progress.setUpdatesEnabled(False)  # it would paint the whole window at once, within this call
            self.progress.setRange(0, max(1, total))
            self.progress.setValue(done)
            self.progress.setUpdatesEnabled(True)
            if note:
                self.state.setText(f"{note} …")

    def say_painted(self, path: str, outcome: Outcome | None, words: str) -> None:
        """Show what the toolkit said of a theme; it holds for one outcome only."""
        self._painted[path] = outcome, words
        if path == self.path:
            self.show_theme(path)

    def show_theme(self, path: str) -> None:
        """Show what is known of a theme."""
        self.path = path
        look, brought = self._document.look, self._desk.known.get(path)
        busy = self._desk.busy(path)
        self._working.setVisible(busy)
        ready = self._desk.up_to_date(path)
        asks = self._desk.asks(path)
        self.read.setVisible(asks)
        self.wear.setVisible(not asks)
        self.save.setVisible(not asks)
        self.save.setEnabled(ready)
        self.wear.setEnabled(ready and self._document.home is not None)
        self.toolkit.setVisible(brought is not None and may_be_asked(brought.theme))
        self.toolkit.setEnabled(ready)
        said = self._painted.get(path)
        of_this = said is not None and brought is not None and said[0] is brought.outcome
        self.painted.setText(said[1] if said is not None and of_this else "")
        self.painted.setVisible(bool(self.painted.text()))
        if look is None or brought is None:
            self.holds.setText(path if asks else Path(path).name)
            unread = (
                tr("The look refers to this theme. It has not been loaded.")
                if asks
                else tr("It can no longer be read.")
            )
            self.state.setText(tr("Loading …") if busy else unread)
            self.words.hide()
            self.use.hide()
            self.several.hide()
            self.contrast.hide()
            self.groups.hide()
            self.groups_title.hide()
            self.notes.hide()
            return
        theme = brought.theme
        kinds = [f"{kind}{f' ({n})' if n > 1 else ''}" for kind, n in counted(theme.found)]
        self.holds.setText(parted(kinds) or tr("Files of a known format"))
        self.holds.setVisible(True)
        if not busy:
            self.state.setText(_state_words(brought))
        decided = look.decided(Owner.theme(path))
        self._show_use(look, brought)
        rows = theme_rows(theme, brought.outcome, look, path)
        literals = sum(r.places for r in rows)
        self.groups_title.setText(groups_in(len(rows), literals))
        self.groups_title.setVisible(bool(rows))
        self.groups.setVisible(bool(rows))
        self.groups.show_rows(rows)
        self.several.show_roots(roots_of(theme.offers), decided.left)
        self.words.show_words(brought.words, look.words)
        inverse = brought.outcome.inverse if brought.outcome is not None else ()
        self.contrast.show_parts(inverse, decided.parts)
        notes = brought.outcome.notes if brought.outcome is not None else ()
        self.notes.setText("\n".join(notes))
        self.notes.setVisible(bool(notes))


def _state_words(brought: Brought) -> str:
    outcome = brought.outcome
    if outcome is None:
        return tr("Not recoloured yet.")
    changed = sum(f.replaced for f in outcome.files)
    files = sum(f.replaced > 0 for f in outcome.files)
    words = [
        plural(
            "{count} colour {where} changes",
            "{count} colours {where} change",
            changed,
            where=plural("in {count} file", "in {count} files", files),
        )
    ]
    if outcome.pictures:
        words.append(plural("{count} image is redrawn", "{count} images are redrawn", len(outcome.pictures)))
    if outcome.rules:
        words.append(
            plural(
                "{count} rule is added at the end of its stylesheets",
                "{count} rules are added at the ends of its stylesheets",
                outcome.rules,
            )
        )
    if brought.theme.sheets:
        short = len(outcome.short)
        words.append(
            plural(
                "{count} pair still has insufficient contrast", "{count} pairs still have insufficient contrast", short
            )
            if short
            else tr("every pair has enough contrast")
        )
    return comma_separated(words)
