"""Find anything by typing: roles, components, schemes, recent looks and pictures, and actions with their shortcuts."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, NamedTuple

from PyQt6.QtCore import QEvent, QObject, QPoint, QSize, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QDialog, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout

from ...components.catalogue import COMPONENTS
from ...language import tr
from ...look.ready import READY
from ...palette.roles import ROLES
from ..kit.style import Style
from .actions import ACTIONS

if TYPE_CHECKING:
    from .window import Window

_MOST = 40
_WIDE, _HIGH = 560, 420


class Found(NamedTuple):
    """One thing that can be found. kind and note: said beside its name; run: what choosing it does."""

    words: str
    kind: str
    note: str
    run: Callable[[], object]


def everything(window: Window) -> list[Found]:
    """Return all that can be found in a window as it stands."""
    rows: list[Found] = []
    document, opening = window.document, window.opening
    for spec in ACTIONS:
        action = window.actions_by_id[spec.id]
        if action.isEnabled() and spec.id != "find":
            rows.append(Found(spec.text.rstrip("…"), tr("Action"), spec.shortcut, action.trigger))
    if document.look is not None:
        rows += [
            Found(r.title, tr("Role"), document.look.colours[r.id].hex, partial(window.change_role, r.id))
            for r in ROLES
        ]
        rows += [Found(c.title, tr("Component"), tr(c.kind), partial(window.show_component, c.id)) for c in COMPONENTS]
    rows += [Found(s.title, tr("Scheme"), s.note, partial(opening.open_scheme, s.id)) for s in READY]
    rows += [Found(p.stem, tr("Recent"), p.name, partial(window.open_path, str(p))) for p in window.recent()]
    return rows


def ranked(rows: list[Found], typed: str) -> list[Found]:
    """Return what has every typed word in it, those whose name begins with the first word leading."""
    wanted = typed.lower().split()
    if not wanted:
        return rows[:_MOST]
    found = [r for r in rows if all(w in f"{r.words} {r.kind} {r.note}".lower() for w in wanted)]

    def place(row: Found) -> tuple[bool, bool, int]:
        low = row.words.lower()
        return not low.startswith(wanted[0]), wanted[0] not in low, len(low)

    return sorted(found, key=place)[:_MOST]


class Finder(QDialog):
    """A line to type in, and what there is of that name."""

    def __init__(self, window: Window, style: Style) -> None:
        super().__init__(window)
        self.setWindowTitle(tr("Find anything"))
        self.setModal(True)
        self._rows = everything(window)
        self.shown: list[Found] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 10)
        self.line = QLineEdit()
        self.line.setPlaceholderText(tr("Find a role, a component, a scheme, a look, an action …"))
        self.line.setAccessibleName(tr("What to find"))
        self.line.textChanged.connect(self._typed)
        self.line.installEventFilter(self)
        column.addWidget(self.line)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("What was found"))
        self.list.itemActivated.connect(lambda _: self.go())
        self.list.itemClicked.connect(lambda _: self.go())
        column.addWidget(self.list, 1)
        self.resize(QSize(_WIDE, _HIGH))
        self.move(window.mapToGlobal(QPoint((window.width() - _WIDE) // 2, 90)))
        self._typed("")
        self.line.setFocus()

    def _typed(self, words: str) -> None:
        self.shown = ranked(self._rows, words)
        self.list.clear()
        for row in self.shown:
            item = QListWidgetItem(f"{row.words}\n{'   '.join(filter(None, (row.kind, row.note)))}")
            item.setSizeHint(QSize(0, 44))
            self.list.addItem(item)
        if self.shown:
            self.list.setCurrentRow(0)
        else:
            item = QListWidgetItem(tr("Nothing of that name."))
            item.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addItem(item)

    def go(self) -> None:
        """Do what was chosen."""
        at = self.list.currentRow()
        if 0 <= at < len(self.shown):
            row = self.shown[at]
            self.accept()
            row.run()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Walk over what was found while typing."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            by = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_PageUp: -8, Qt.Key.Key_PageDown: 8}
            step = by.get(Qt.Key(event.key()), 0)
            if step and self.shown:
                self.list.setCurrentRow(min(len(self.shown) - 1, max(0, self.list.currentRow() + step)))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.go()
                return True
        return False
