"""The page of one theme that was brought along: what it holds, its groups, foreign words, and where it is written."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QProgressBar,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from ...colour.rgb import Rgba
from ...components.decisions import Owner, Slot
from ...language import groups_in, parted, plural, tr
from ...look.edits import with_choice, with_left, with_split, with_words
from ...look.model import Look
from ...palette.roles import ROLE_BY_ID
from ...proof.toolkit.ask import may_be_asked
from ...recolour.groups import KEEP, Group, states_of
from ...theme.bundle.foreign import ForeignName
from ...theme.bundle.kinds import counted
from ...theme.bundle.model import Theme, roots_of
from ...theme.pictures.drawings import LEAD
from ...theme.result.account import Outcome
from ...theme.result.outputs import shown_targets
from ...theme.result.recolour import charts_of
from ...theme.sheets.surfaces import OWN_CONTRAST
from ..kit.parts import Choice, emptied, label, plain_column
from ..kit.style import Style
from ..model.document import Document
from ..model.themes import Brought, ThemeDesk
from .group_list import ColourGroup, GroupList


def theme_rows(theme: Theme, outcome: Outcome | None, look: Look, path: str) -> list[ColourGroup]:
    """Return the groups of a theme as rows, the one with the most places first."""
    choices = look.choices(path)
    chosen_roles = choices.decided.by_group
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


class WordsBox(QWidget):
    """Words of another machine: what each is, and what is written instead, in every file at once."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        column = plain_column(self, 6)
        self.title = label("", "section")
        column.addWidget(self.title)
        self._grid = QGridLayout()
        self._grid.setColumnStretch(1, 1)
        column.addLayout(self._grid)
        self.fields: dict[str, QLineEdit] = {}
        row = QHBoxLayout()
        self.replace = QPushButton(tr("Replace in every file"))
        self.replace.setToolTip(tr("Put the words of this machine in their place, in every file"))
        self.replace.clicked.connect(self._replace)
        self.leave = QPushButton(tr("Leave them"))
        self.leave.setToolTip(tr("Keep these words as they are"))
        self.leave.clicked.connect(self._leave)
        row.addWidget(self.replace)
        row.addWidget(self.leave)
        row.addStretch(1)
        column.addLayout(row)
        self._shown: tuple[ForeignName, ...] = ()

    def show_words(self, words: tuple[ForeignName, ...], chosen: Mapping[str, str]) -> None:
        """Show the words of a theme and what the look writes instead."""
        self.setVisible(bool(words))
        if words != self._shown:
            self._shown = words
            emptied(self._grid)
            self.fields = {}
            for i, word in enumerate(words):
                told = label(f"{word.text}", wrap=False)
                told.setToolTip(
                    word.says + "\n" + "\n".join(tr("{p}, line {n}").format(p=p, n=n) for p, n in word.places[:12])
                )
                field = QLineEdit()
                field.setAccessibleName(tr("Instead of {text}").format(text=word.text))
                field.setPlaceholderText(tr("leave it"))
                field.setToolTip(word.says)
                field.setText(word.instead)
                self._grid.addWidget(told, i, 0)
                self._grid.addWidget(field, i, 1)
                self.fields[word.text] = field
        here = [w.text for w in words]
        done = [w for w in here if chosen.get(w)]
        for text in done:
            self.fields[text].setText(chosen[text])
        places = sum(len(w.places) for w in words if w.text in done)
        self.title.setText(
            plural(
                "{count} word replaced {where}",
                "{count} words replaced {where}",
                len(done),
                where=plural("in {count} place", "in {count} places", places),
            )
            if done
            else plural("{count} word of another machine", "{count} words of another machine", len(words))
        )
        self.leave.setVisible(bool(done))

    def _replace(self) -> None:
        fresh = {word: field.text().strip() for word, field in self.fields.items() if field.text().strip()}
        look = self._document.look
        if look is not None:
            others = {k: v for k, v in look.words.items() if k not in self.fields}
            self._document.edit(tr("Replace words of another machine"), lambda now: with_words(now, others | fresh))

    def _leave(self) -> None:
        look = self._document.look
        if look is not None:
            others = {k: v for k, v in look.words.items() if k not in self.fields}
            self._document.edit(tr("Leave words of another machine"), lambda now: with_words(now, others))


class OwnContrastBox(QWidget):
    """The parts that a theme means otherwise than its windows: each stays so, or takes the look's colour."""

    asked = pyqtSignal(object, str)  # the part's slot, and a role, "keep", or "" for the guess

    def __init__(self) -> None:
        super().__init__()
        column = plain_column(self, 4)
        column.addWidget(label(tr("The theme's own contrast"), "section"))
        self._grid = QGridLayout()
        self._grid.setColumnStretch(1, 1)
        column.addLayout(self._grid)
        self.choices: dict[str, Choice] = {}

    def show_parts(self, parts: Sequence[str], chosen: Mapping[str, str]) -> None:
        """Show the parts of a theme and what is chosen of each; without a choice they stay as they are meant."""
        shown = [name for name in OWN_CONTRAST if name in parts or chosen.get(name)]
        self.setVisible(bool(shown))
        if list(self.choices) != shown:
            emptied(self._grid)
            self.choices = {}
            for i, name in enumerate(shown):
                title = ROLE_BY_ID[name].title
                choice = Choice()
                choice.setAccessibleName(title)
                choice.setToolTip(tr("A bar that is dark in a light theme, or light in a dark one, may be meant so"))
                choice.addItem(tr("stays as it is meant"), "")
                choice.addItem(tr("follows the look"), name)
                choice.activated.connect(lambda _, n=name, c=choice: self.asked.emit(Slot("parts", n), c.currentData()))
                self._grid.addWidget(label(title, wrap=False), i, 0)
                self._grid.addWidget(choice, i, 1)
                self.choices[name] = choice
        for name, choice in self.choices.items():
            choice.setCurrentIndex(1 if chosen.get(name) == name else 0)


class SeveralBox(QWidget):
    """The themes of an archive that holds several, to tick; one stays ticked."""

    asked = pyqtSignal(str, bool)  # the folder of a theme, and whether it is left out

    def __init__(self) -> None:
        super().__init__()
        column = plain_column(self, 4)
        self.title = label("", "section")
        column.addWidget(self.title)
        self._rows = QVBoxLayout()
        column.addLayout(self._rows)
        self.ticks: dict[str, QCheckBox] = {}

    def show_roots(self, roots: Sequence[str], left: Collection[str]) -> None:
        """Show the folders of themes, those that are left out without a tick."""
        self.setVisible(len(roots) > 1)
        if list(self.ticks) != list(roots):
            emptied(self._rows)
            self.ticks = {}
            for root in roots:
                tick = QCheckBox(root.rstrip("/").rpartition("/")[2])
                tick.setToolTip(tr("Only what is ticked is recoloured and put into the home"))
                tick.clicked.connect(lambda on, r=root: self.asked.emit(r, not on))
                self._rows.addWidget(tick)
                self.ticks[root] = tick
        for root, tick in self.ticks.items():
            tick.setChecked(root not in left)
            tick.setEnabled(root in left or len(roots) - len(left) > 1)
        self.title.setText(
            plural("{count} theme of {all}", "{count} themes of {all}", len(roots) - len(left), all=len(roots))
        )


class ThemePage(QWidget):
    """What is known and decided of one theme."""

    save_asked = pyqtSignal(str)
    wear_asked = pyqtSignal(str)
    toolkit_asked = pyqtSignal(str)

    def __init__(self, document: Document, style: Style, desk: ThemeDesk) -> None:
        super().__init__()
        self._document, self._desk = document, desk
        self._painted: dict[str, tuple[Outcome | None, str]] = {}
        self.path = ""
        column: QVBoxLayout = plain_column(self, 8)
        self.holds = label("")
        self.state = label("", "quiet")
        self.progress = QProgressBar()
        self.progress.setTextVisible(False)
        self.stop = QPushButton(tr("Stop"))
        self.stop.setToolTip(tr("Stop this; everything stays as it is"))
        self.stop.clicked.connect(lambda: desk.stop(self.path))
        working = QHBoxLayout()
        working.addWidget(self.progress, 1)
        working.addWidget(self.stop)
        self._working = QWidget()
        self._working.setLayout(working)
        working.setContentsMargins(0, 0, 0, 0)
        buttons = QHBoxLayout()
        self.wear = QPushButton(tr("Put into the home"))
        self.wear.setToolTip(tr("Write the recoloured theme into the home; Wear takes it off again"))
        self.wear.setProperty("main", True)
        self.wear.clicked.connect(lambda: self.wear_asked.emit(self.path))
        self.save = QPushButton(tr("Save a copy…"))
        self.save.setToolTip(tr("Write the recoloured files into a folder that you choose"))
        self.save.clicked.connect(lambda: self.save_asked.emit(self.path))
        self.aside = QPushButton(tr("Put aside"))
        self.aside.setToolTip(tr("Take it out of the look; its files are not touched"))
        self.aside.clicked.connect(lambda: desk.put_aside(self.path))
        self.read = QPushButton(tr("Read it"))
        self.read.setToolTip(tr("The look names it; nothing of it is read before you say so"))
        self.read.clicked.connect(lambda: desk.bring(Path(self.path)))
        for button in (self.read, self.wear, self.save):
            button.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
            buttons.addWidget(button, 1)
        self.toolkit = QPushButton(tr("Ask the real toolkit"))
        self.toolkit.setToolTip(tr("Paint every usual widget with it, before and after, and measure what is painted"))
        self.toolkit.clicked.connect(lambda: self.toolkit_asked.emit(self.path))
        self.painted = label("", "quiet")
        self.groups_title = label("", "section")
        self.groups = GroupList(style)
        self.groups.asked.connect(self._ask)
        self.groups.split_asked.connect(self.split)
        self.groups.pointed.connect(lambda role: document.select(role) if role and role != KEEP else None)
        self.words = WordsBox(document)
        self.several = SeveralBox()
        self.several.asked.connect(self._leave)
        self.contrast = OwnContrastBox()
        self.contrast.asked.connect(lambda slot, to: self._choose(tr("Choose a theme's own contrast"), slot, to))
        self.notes = label("", "quiet")
        for widget in (self.holds, self.several, self.state, self._working):
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

    def _leave(self, root: str, left: bool) -> None:
        path = self.path
        self._document.edit(tr("Choose among themes"), lambda look: with_left(look, path, root, left))

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
        words = tr("Take a group apart") if apart else tr("Put a group together")
        self._document.edit(words, lambda look: with_split(look, owner, whole, apart))

    def _progressed(self, path: str, done: int, total: int, note: str) -> None:
        if path == self.path:
            self._working.setVisible(total > 0)
            self.progress.setRange(0, max(1, total))
            self.progress.setValue(done)
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
            unread = tr("The look names this. It has not been read.") if asks else tr("It cannot be read any more.")
            self.state.setText(tr("Being read …") if busy else unread)
            self.words.hide()
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
        words.append(plural("{count} picture is redrawn", "{count} pictures are redrawn", len(outcome.pictures)))
    if outcome.rules:
        words.append(
            plural(
                "{count} rule is added at the end of its sheets",
                "{count} rules are added at the ends of its sheets",
                outcome.rules,
            )
        )
    if brought.theme.sheets:
        short = len(outcome.short)
        words.append(
            plural("{count} pair still falls short", "{count} pairs still fall short", short)
            if short
            else tr("every pair can be read")
        )
    return parted(words) + "."
