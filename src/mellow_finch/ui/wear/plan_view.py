"""What will be written, as a wide tree: by part of the desktop, with what happens to it and when it shows, in words."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import NamedTuple
from urllib.parse import unquote

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QHeaderView, QPushButton, QTreeWidget, QTreeWidgetItem, QWidget

from ...components.catalogue import COMPONENT_BY_ID
from ...components.model import Component
from ...language import comma_separated, counted_files, isolated, listed, parted, plural, tr
from ...theme.bundle.opened import theme_name
from ...theme.result.uses import USES, named_use_of
from ...wear.journal import SettingRow
from ...wear.plan import Write
from ...wear.slides import OWNER as SLIDES
from ..kit.effects import EFFECTS
from ..kit.parts import label, plain_column
from ..model.known import Known

_COLUMNS = (tr("Component"), tr("Changes"), tr("Takes effect"))
_SET = tr("At once: set on the desktop")
_MOST_VALUES = 3  # that are told one by one
_SCREEN = re.compile(r"/monitor([^/]+)/")  # in keys that hold the picture of one screen
_IN_WORDS = {
    "true": tr("on"),
    "false": tr("off"),
    "prefer-dark": tr("dark"),
    "prefer-light": tr("light"),
    "default": tr("set by the theme"),
}


class PlanRow(NamedTuple):
    """A row of the plan: what, what happens to it and when it shows, in words, and the lines below that open.

    asks: 0 where a person has to put it in place, 1 where something has to be started again, 2 where nothing has.
    """

    what: str
    happens: str
    shows: str
    lines: tuple[tuple[str, str], ...]
    asks: int


class PlanView(QWidget):
    """Shows a plan. Only files that would be new in the home's top are asked for here."""

    more_asked = pyqtSignal(object)  # ids of the components whose files are to be made too

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        column = plain_column(self, 6)
        column.setContentsMargins(10, 8, 10, 8)
        self.words = label("", "section")
        column.addWidget(self.words)
        self.tree = QTreeWidget()
        self.tree.setAccessibleName(tr("What will be written, by component"))
        self.tree.setColumnCount(len(_COLUMNS))
        self.tree.setHeaderLabels(list(_COLUMNS))
        self.tree.setUniformRowHeights(True)
        self.tree.setTextElideMode(Qt.TextElideMode.ElideRight)
        header = self.tree.header()
        if header is not None:
            header.setStretchLastSection(False)
            header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.tree.setColumnWidth(1, 280)
        self.tree.setColumnWidth(2, 330)
        column.addWidget(self.tree, 1)
        self.held_box = QWidget()
        row = QHBoxLayout(self.held_box)
        row.setContentsMargins(0, 0, 0, 0)
        self.held = label("", "quiet")
        self.make_held = QPushButton(tr("Create them too"))
        self.make_held.clicked.connect(self._ask_for_held)
        row.addWidget(self.held, 1)
        row.addWidget(self.make_held)
        column.addWidget(self.held_box)
        self.held_box.hide()
        self._shown: Known | None = None

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Leave the first column room in a narrow window."""
        super().resizeEvent(event)
        self.tree.setColumnWidth(1, min(280, self.width() * 30 // 100))
        self.tree.setColumnWidth(2, min(330, self.width() * 36 // 100))

    def show_known(self, known: Known) -> None:
        """Show the plan of what is known, or why there is none."""
        if known is self._shown:
            return
        self._shown = known
        opened = {i.text(0) for i in self._heads() if i.isExpanded()}
        self.tree.clear()
        plan = known.plan
        if plan is None:
            self.words.setText(known.problem or known.sentence())
            self._show_held({})
            return
        for edit in known.edits:
            words_of_edit = tr("⚠ Your own edits would be overwritten: {file}").format(file=edit.words())
            item = QTreeWidgetItem([words_of_edit])
            item.setToolTip(0, "\n".join(edit.lines[:20]))
            self.tree.addTopLevelItem(item)
            item.setFirstColumnSpanned(True)
        for sign in known.unseen:
            item = QTreeWidgetItem(
                [tr("⚠ {title}: {what}. {action}").format(title=sign.title, what=sign.what, action=sign.cure)]
            )
            item.setToolTip(0, f"{sign.what}\n{sign.cure}")
            self.tree.addTopLevelItem(item)
            item.setFirstColumnSpanned(True)
        rows = plan_rows(known)
        for row in rows:
            head = QTreeWidgetItem([row.what, row.happens, row.shows])
            for i, words in enumerate((row.what, row.happens, row.shows)):
                head.setToolTip(i, words)
            font = head.font(0)
            font.setBold(True)
            head.setFont(0, font)
            for line in row.lines:
                item = QTreeWidgetItem(list(line))
                for i, told in enumerate(line):
                    item.setToolTip(i, told)
                head.addChild(item)
            self.tree.addTopLevelItem(head)
            head.setExpanded(row.what in opened)
        self._show_held(known.held)
        self.words.setText(
            tr("{files} and {settings} for {parts}").format(
                files=counted_files(len(plan.writes)),
                settings=plural("{count} setting", "{count} settings", len(known.settings)),
                parts=plural("{count} part of the desktop", "{count} parts of the desktop", len(rows)),
            )
            if rows
            else tr("✓ Every file is up to date")
        )

    def _show_held(self, held: Mapping[str, Sequence[str]]) -> None:
        """Tell the files that would be new in the home's top, which only the person may ask for."""
        paths = list(dict.fromkeys(path for paths in held.values() for path in paths))
        self.held.setText(
            plural(
                "{files} would be new in your home folder; it is only created if you ask.",
                "{files} would be new in your home folder; they are only created if you ask.",
                len(paths),
                files=parted([isolated(f"~/{path}") for path in paths]),
            )
        )
        self.held_box.setVisible(bool(paths))

    def _ask_for_held(self) -> None:
        if self._shown is not None:
            self.more_asked.emit(frozenset(self._shown.held))

    def _heads(self) -> list[QTreeWidgetItem]:
        rows = (self.tree.topLevelItem(i) for i in range(self.tree.topLevelItemCount()))
        return [row for row in rows if row is not None]


def plan_rows(known: Known) -> list[PlanRow]:
    """Return what a plan does, by part of the desktop, what needs the person first."""
    assert known.plan is not None
    rows = [*_setting_rows(known), *_file_rows(known), *_program_rows(known)]
    return sorted(rows, key=lambda row: row.asks)


def _file_rows(known: Known) -> Iterator[PlanRow]:
    assert known.plan is not None
    by: dict[str, list[Write]] = {}
    for write in known.plan.writes:
        use = named_use_of(write.path)
        named = use.id if use is not None else ""
        by.setdefault(next((c for c in write.components if c in COMPONENT_BY_ID), named), []).append(write)
    for id_, writes in by.items():
        theme = known.plan.worn.get(id_, "")
        new = sum(w.action == "create" for w in writes)
        counts = (
            tr("theme {name}").format(name=theme_name(Path(theme))) if theme else "",
            plural("{count} new file", "{count} new files", new) if new else "",
            plural("{count} file changed", "{count} files changed", len(writes) - new) if len(writes) > new else "",
        )
        component = COMPONENT_BY_ID.get(id_)
        if component is not None:
            title, shows = component.title, _shows(component, known)
        else:
            title, shows = next(
                ((use.title, _SET) for use in USES if use.id == id_),
                (tr("Slideshow") if id_ == SLIDES else tr("Files"), ""),
            )
        asks = 2 if component is None else 0 if component.exported else 1 if component.effect == "restart" else 2
        yield PlanRow(title, comma_separated([c for c in counts if c]), shows, tuple(_line(w) for w in writes), asks)


def _program_rows(known: Known) -> Iterator[PlanRow]:
    """Yield what runs afterwards by the person's own wish, where anything changes."""
    if known.after and known.plan is not None and (known.plan.writes or known.settings):
        count = plural("{count} program", "{count} programs", len(known.after))
        lines = tuple((isolated(str(path)), tr("runs afterwards")) for path in known.after)
        yield PlanRow(tr("Your own programs"), count, tr("When everything is applied"), lines, 2)


def _line(write: Write) -> tuple[str, str]:
    others = [COMPONENT_BY_ID[c].title for c in write.components[1:] if c in COMPONENT_BY_ID]
    facts = [tr("new file") if write.action == "create" else tr("changed")]
    if others:
        facts.append(tr("with {names}").format(names=listed(others)))
    return isolated(f"~/{write.path}"), comma_separated(facts)


def _setting_rows(known: Known) -> Iterator[PlanRow]:
    """Yield a row for each thing that is set, however many keys hold it."""
    by: dict[str, list[SettingRow]] = {}
    for row in known.settings:
        by.setdefault(row.title or row.key, []).append(row)
    for title, settings in by.items():
        screens: dict[str, list[str]] = {}
        for row in settings:
            screen = _SCREEN.search(row.key)
            screens.setdefault(in_words(row.after or ""), []).append(screen.group(1) if screen else "")
        happens = [
            tr("{value} on {screens}").format(value=value, screens=listed(sorted({s for s in on if s})))
            if any(on)
            else value
            for value, on in screens.items()
        ]
        if len(happens) > _MOST_VALUES:
            happens = [plural("{count} change", "{count} changes", len(settings))]
        lines = tuple((isolated(f"{row.schema} {row.key}"), isolated(row.after or tr("not set"))) for row in settings)
        yield PlanRow(tr(title), comma_separated(happens), _SET, lines, 2)


def in_words(value: str) -> str:
    """Return what a setting becomes as a person says it: a file by its name, yes and no as on and off."""
    bare = value.strip("'")
    return _IN_WORDS.get(bare) or unquote(bare.rstrip("/").rpartition("/")[2]) or tr("nothing")


def _shows(component: Component, known: Known) -> str:
    """Return when a component's files show, as things are just now."""
    if any(row.component == component.id for row in known.settings) and component.effect != "restart":
        return _SET
    if any(way.program in known.running for way in component.follow):
        return tr("At once: a reload is requested")
    if component.follow:
        return tr("When it starts; it is not running now")
    return component.restart or EFFECTS[component.effect]
