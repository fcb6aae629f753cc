"""The list of Dress: every component by kind with a small true picture, those of this home first, and the themes.

The themes are those that were imported. What is typed narrows it.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QModelIndex, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QKeyEvent, QMouseEvent, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QLineEdit, QStyledItemDelegate, QStyleOptionViewItem, QTreeWidget, QTreeWidgetItem, QWidget

from ...components.catalogue import COMPONENTS
from ...components.define.kinds import KINDS
from ...components.model import Component
from ...components.read.presence import Presence
from ...language import comma_separated, plural, right_to_left, tr, with_note
from ..kit.icons import draw_icon
from ..kit.parts import placed, plain_column, row_box
from ..kit.style import Style

_ID, _TICK, _LOW = Qt.ItemDataRole.UserRole, QRectF(8, 13, 16, 16), 42
_PLACE = Qt.ItemDataRole.UserRole + 1  # the page that a row leads to, of rows that are no component
_ARROW = 24.0  # pixels at the end of a row that lead to its page
_PICTURE = QRectF(31, 5, 51, 32)
_HEAD_HIGH, _PLACE_HIGH = 26, 62
ELSEWHERE = tr("Not found in this home folder")
INSTALLED = tr("Installed, not set up here")
_FOLDED = (INSTALLED, ELSEWHERE)
BROUGHT = tr("Imported")
WHOLE = tr("Whole look")


class ListPlace(NamedTuple):
    """A page for all components at once, as a row above them: its id, title, plain line, and icon."""

    id: str
    title: str
    tip: str
    icon: str


class ComponentState(NamedTuple):
    """What a row says: whether its component is dressed, how many pairs fail, what is written and when it shows.

    short: None where nothing is written; tip: what is said when the pointer rests on the row.
    """

    dressed: bool
    short: int | None
    words: str
    tip: str = ""


class ComponentList(QWidget):
    """A field to type into, and the rows. Knows no look: it is told what each row says."""

    chosen = pyqtSignal(str)  # a component's id or a theme's path
    ticked = pyqtSignal(str, bool)
    all_ticked = pyqtSignal(object, bool)  # ids of all that are installed and not set up
    opened = pyqtSignal()  # the chosen row, to be shown in full
    place_opened = pyqtSignal(str)  # the id of a page for all components

    def __init__(
        self,
        style: Style,
        picture_of: Callable[[str], QPixmap | None],
        places: Sequence[ListPlace] = (),
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._style = style
        self.places = {place.id: place for place in places}
        self._filling = False
        self.all_at_hand = False  # whether the pointer is on the tick for all
        self._last = ""
        self.standings: dict[str, ComponentState] = {}
        column = plain_column(self, 6)
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("Filter: terminal, decorations, rofi …"))
        self.field.setAccessibleName(tr("Filter the list of components"))
        self.field.setClearButtonEnabled(True)
        self.field.textChanged.connect(self._narrow)
        self.tree = QTreeWidget()
        self.tree.setAccessibleName(tr("Components and themes"))
        self.tree.setHeaderHidden(True)
        self.tree.setRootIsDecorated(False)
        self.tree.setIndentation(0)
        self.tree.setMouseTracking(True)
        self.tree.setVerticalScrollMode(QTreeWidget.ScrollMode.ScrollPerPixel)
        self.tree.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.tree.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.tree.setItemDelegate(_Rows(self, style, picture_of))
        self.tree.setMinimumHeight(200)
        self.tree.currentItemChanged.connect(self._current_changed)
        self.tree.itemClicked.connect(self._clicked)
        self.tree.itemActivated.connect(self.lead_on)
        self.tree.itemChanged.connect(self._changed)
        column.addWidget(self.field)
        column.addWidget(self.tree, 1)
        self._rows: dict[str, QTreeWidgetItem] = {}
        self._heads: dict[str, QTreeWidgetItem] = {}

    # Filling

    def fill(self, presence: dict[str, Presence], brought: Sequence[str]) -> None:
        """Show the components of a home first, by kind, then the others; and the themes that were brought.

        What is merely installed has one tick for all of it.
        """
        before = self.current()
        self._filling = True
        self.tree.clear()
        self._rows, self._heads = {}, {}
        for place in self.places.values():
            row = self._row_under(WHOLE, place.title, place.tip)
            row.setData(0, _PLACE, place.id)
            row.setData(0, Qt.ItemDataRole.AccessibleDescriptionRole, place.tip)
        self._add_brought(brought)
        for kind in KINDS:
            for component in (c for c in COMPONENTS if c.kind == kind and _here(c, presence)):
                self._add(kind, component.id, component.title, presence[component.id].why, True)
        others = [c for c in COMPONENTS if not _here(c, presence)]
        for component in sorted(others, key=lambda c: not presence[c.id].installed):
            found = presence[component.id]
            self._add(INSTALLED if found.installed else ELSEWHERE, component.id, component.title, found.why, True)
        for name, head in self._heads.items():
            head.setText(0, with_note(tr(name), str(head.childCount())) if name in _FOLDED else tr(name))
            head.setExpanded(name not in _FOLDED)
        if INSTALLED in self._heads:
            self._heads[INSTALLED].setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsUserCheckable)
            self._heads[INSTALLED].setCheckState(0, Qt.CheckState.Unchecked)
            self._heads[INSTALLED].setToolTip(0, tr("Tick to include all of them"))
        self._filling = False
        self._narrow(self.field.text())
        self.choose(before if before in self._rows else next(iter(self._rows), ""))

    def show_brought(self, brought: Sequence[str]) -> None:
        """Show other themes that were brought; all other rows stay."""
        before, head = self.current(), self._heads.pop(BROUGHT, None)
        self._filling = True
        if head is not None:
            self._rows = {key: row for key, row in self._rows.items() if row.parent() is not head}
            self.tree.takeTopLevelItem(self.tree.indexOfTopLevelItem(head))
        self._add_brought(brought)
        self._filling = False
        self._narrow(self.field.text())
        self.choose(before if before in self._rows else next(iter(self._rows), ""))

    def _add_brought(self, brought: Sequence[str]) -> None:
        for path in brought:
            self._add(BROUGHT, path, Path(path).name, path, False)
        if brought:
            self._heads[BROUGHT].setText(0, tr(BROUGHT))
            self._heads[BROUGHT].setExpanded(True)

    def _row_under(self, head: str, title: str, tip: str) -> QTreeWidgetItem:
        if head not in self._heads:
            top = QTreeWidgetItem([head])
            top.setFlags(Qt.ItemFlag.ItemIsEnabled)
            self._heads[head] = top
            last = self.tree.topLevelItemCount()
            self.tree.insertTopLevelItem(min(last, 1) if head == BROUGHT else last, top)
        row = QTreeWidgetItem(self._heads[head], [title])
        row.setToolTip(0, tip)
        row.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
        return row

    def _add(self, head: str, key: str, title: str, tip: str, tickable: bool) -> None:
        row = self._row_under(head, title, tip)
        row.setData(0, _ID, key)
        if tickable:
            row.setFlags(row.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            row.setCheckState(0, Qt.CheckState.Unchecked)
        self._rows[key] = row

    def show_standings(self, standings: dict[str, ComponentState]) -> None:
        """Say in every row what becomes of its component."""
        self._filling = True
        self.standings = standings
        for key, standing in standings.items():
            row = self._rows.get(key)
            if row is not None:
                row.setToolTip(0, standing.tip)
                told = comma_separated((standing.words, self.note_of(standing)[0]))
                row.setData(0, Qt.ItemDataRole.AccessibleDescriptionRole, told)
            if row is not None and row.flags() & Qt.ItemFlag.ItemIsUserCheckable:
                row.setCheckState(0, Qt.CheckState.Checked if standing.dressed else Qt.CheckState.Unchecked)
        if INSTALLED in self._heads:
            all_ = all(standings[key].dressed for key in self._ids_under(INSTALLED) if key in standings)
            self._heads[INSTALLED].setCheckState(0, Qt.CheckState.Checked if all_ else Qt.CheckState.Unchecked)
        self._filling = False
        self.update_rows()

    def _ids_under(self, name: str) -> list[str]:
        head = self._heads[name]
        return [key for key, row in self._rows.items() if row.parent() is head]

    def update_rows(self) -> None:
        """Paint the rows anew."""
        port = self.tree.viewport()
        if port is not None:
            port.update()

    def visible_ids(self) -> list[str]:
        """Return the keys of the rows that are in sight, from the top."""
        port = self.tree.viewport()
        if port is None:
            return []
        area = port.rect()
        rows = [(self.tree.visualItemRect(row), key) for key, row in self._rows.items()]
        return [key for rect, key in sorted(rows, key=lambda r: r[0].y()) if rect.height() and rect.intersects(area)]

    @staticmethod
    def note_of(standing: ComponentState) -> tuple[str, str]:
        """Return how many pairs have insufficient contrast, in words, and the colour of these."""
        if standing.short is None or not standing.dressed:
            return "", "quiet"
        return (
            (plural("{count} insufficient", "{count} insufficient", standing.short), "bad")
            if standing.short
            else ("✓", "good")
        )

    # Choosing

    def current(self) -> str:
        """Return the key of the chosen row, of the last one while a head has the keyboard; empty when there is none."""
        item = self.tree.currentItem()
        key = str(item.data(0, _ID) or "") if item is not None else ""
        return key or (self._last if self._last in self._rows else "")

    def row(self, key: str) -> QTreeWidgetItem | None:
        """Return the row of a component or theme."""
        return self._rows.get(key)

    def choose(self, key: str) -> None:
        """Choose a row; one that is folded away or narrowed out is brought to sight."""
        row = self._rows.get(key)
        if row is None:
            return
        if row.isHidden():
            self.field.clear()
        head = row.parent()
        if head is not None:
            head.setExpanded(True)
        self.tree.setCurrentItem(row)
        there = self._rows.get(key)  # made again where the choice has changed what is listed
        if there is not None:
            self.tree.scrollToItem(there)

    def _current_changed(self, item: QTreeWidgetItem | None) -> None:
        if item is not None and not self._filling and item.data(0, _ID):
            self._last = str(item.data(0, _ID))
            self.chosen.emit(self._last)

    def lead_on(self, item: QTreeWidgetItem) -> None:
        """Go to the page that a row leads to."""
        if item.data(0, _PLACE):
            self.place_opened.emit(str(item.data(0, _PLACE)))
        elif item.data(0, _ID):
            self.opened.emit()

    def _clicked(self, item: QTreeWidgetItem) -> None:
        if item.data(0, _PLACE):
            self.lead_on(item)
        elif not item.data(0, _ID) and not self.all_at_hand:
            item.setExpanded(not item.isExpanded())

    def _changed(self, item: QTreeWidgetItem) -> None:
        checked = item.checkState(0) == Qt.CheckState.Checked
        if not self._filling and item.data(0, _ID):
            self.ticked.emit(str(item.data(0, _ID)), checked)
        elif not self._filling and item is self._heads.get(INSTALLED):
            self.all_ticked.emit(frozenset(self._ids_under(INSTALLED)), checked)

    def _narrow(self, words: str) -> None:
        """Hide the rows that do not have every word in title, kind, readers or files' names."""
        wanted = words.lower().split()
        found = {
            c.id: f"{c.title} {tr(c.kind)} {c.reads} {' '.join((*c.programs, *c.covers))}".lower() for c in COMPONENTS
        }
        for key, row in self._rows.items():
            text = found.get(key, key.lower())
            row.setHidden(not all(word in text for word in wanted))
        if wanted:
            self.tree.scrollToTop()
        for name, head in self._heads.items():
            shown = [head.child(i) for i in range(head.childCount())]
            for row in (row for row in shown if row is not None and row.data(0, _PLACE)):
                row.setHidden(not all(word in f"{row.text(0)} {row.toolTip(0)}".lower() for word in wanted))
            head.setHidden(all(row is None or row.isHidden() for row in shown))
            if wanted:
                head.setExpanded(True)
            elif name in _FOLDED:
                current = self.tree.currentItem()
                head.setExpanded(current is not None and current.parent() is head)


def _here(component: Component, presence: dict[str, Presence]) -> bool:
    return presence[component.id].here


def _head_tick(box: QRectF) -> QRectF:
    """Return where the tick for all stands in the row of a head."""
    return placed(QRectF(box.right() - 24, box.y() + 8, 16, 16), box)


def _row_arrow(box: QRectF) -> QRectF:
    """Return where a row leads on to its page."""
    return placed(QRectF(box.right() - _ARROW - 8, box.y(), _ARROW + 8, box.height()), box)


def _row_tick(box: QRectF) -> QRectF:
    """Return where the tick of a row stands."""
    return placed(_TICK.translated(box.topLeft()), box)


class _Rows(QStyledItemDelegate):
    """Paints heads and rows: tick, picture, title, what is written and when it shows, and how many pairs fail."""

    def __init__(self, list_: ComponentList, style: Style, picture_of: Callable[[str], QPixmap | None]) -> None:
        super().__init__(list_)
        self._list, self._style, self._picture_of = list_, style, picture_of

    def sizeHint(self, _option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """Return the size of a head or a row."""
        return QSize(200, _PLACE_HIGH if index.data(_PLACE) else _LOW if index.data(_ID) else _HEAD_HIGH)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """Paint one."""
        if painter is None:
            return
        painter.save()
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        if index.data(_ID):
            self._row(painter, option, index)
        elif index.data(_PLACE):
            self._place(painter, option, index)
        else:
            self._head(painter, option, index)
        painter.restore()

    def _head(self, p: QPainter, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        box = QRectF(option.rect)
        item = self._list.tree.itemFromIndex(index)
        font = QFont(option.font)
        font.setBold(True)
        p.setFont(font)
        p.setPen(self._style.c("quiet"))
        p.drawText(placed(box.adjusted(26, 6, -4, 0), box), Qt.AlignmentFlag.AlignVCenter, str(index.data()))
        p.setBrush(Qt.BrushStyle.NoBrush)
        arrow = placed(QRectF(box.x() + 8, box.y() + 13, 11, 11), box)
        if item is not None and not item.isExpanded():
            p.translate(arrow.center())
            p.rotate(90 if right_to_left() else -90)
            p.translate(-arrow.center())
        draw_icon(p, "down", arrow, self._style.c("quiet"))
        p.resetTransform()
        if item is not None and index.data(Qt.ItemDataRole.CheckStateRole) is not None:
            self._tick(p, _head_tick(box), item.checkState(0) == Qt.CheckState.Checked)

    def _place(self, p: QPainter, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        place, s = self._list.places[str(index.data(_PLACE))], self._style
        box, whole = row_box(p, option, s), QRectF(option.rect)
        frame = placed(_PICTURE.translated(whole.topLeft()), whole)
        draw_icon(p, place.icon, QRectF(frame.center().x() - 11, frame.center().y() - 11, 22, 22), s.c("text"))
        left, align = whole.x() + _PICTURE.right() + 8, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop
        p.setPen(s.c("text"))
        p.drawText(placed(QRectF(left, whole.y() + 2, box.right() - _ARROW - left, 20), whole), align, place.title)
        p.setPen(s.c("quiet"))
        under = QRectF(left, whole.y() + 20, box.right() - 4 - left, _PLACE_HIGH - 20)
        p.drawText(placed(under, whole), int(align | Qt.TextFlag.TextWordWrap), place.tip)
        self._arrow(p, whole)

    def _arrow(self, p: QPainter, whole: QRectF) -> None:
        """Draw what leads to the page of a row."""
        box = QRectF(_row_arrow(whole).center().x() - 6, whole.y() + 6, 12, 12)  # beside the title: words are longer
        p.save()
        p.translate(box.center())
        p.rotate(90 if right_to_left() else -90)
        p.translate(-box.center())
        draw_icon(p, "down", box, self._style.c("quiet"))
        p.restore()

    def _row(self, p: QPainter, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        key, s = str(index.data(_ID)), self._style
        box = row_box(p, option, s)
        standing = self._list.standings.get(key, ComponentState(False, None, "…"))
        whole = QRectF(option.rect)
        at = whole.topLeft()
        if index.data(Qt.ItemDataRole.CheckStateRole) is not None:
            self._tick(p, _row_tick(whole), standing.dressed)
        picture = self._picture_of(key)
        frame = placed(_PICTURE.translated(at), whole)
        if picture is not None:
            p.setOpacity(1.0 if standing.dressed else 0.55)
            p.drawPixmap(frame, picture, QRectF(picture.rect()))
            p.setOpacity(1.0)
        p.setPen(QPen(s.c("edge"), 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRoundedRect(frame, 3, 3)
        if picture is None:
            draw_icon(p, "dress", QRectF(frame.center().x() - 8, frame.center().y() - 8, 16, 16), s.c("disabled"))
        left, right = at.x() + _PICTURE.right() + 8, box.right() - _ARROW
        note, kind = self._list.note_of(standing)
        wide = p.fontMetrics().horizontalAdvance(note)
        p.setPen(s.c(kind))
        p.drawText(placed(QRectF(right - wide, at.y() + 2, wide, 20), whole), Qt.AlignmentFlag.AlignVCenter, note)
        p.setPen(s.c("text" if standing.dressed else "quiet"))
        room = right - left - wide - 6
        title = p.fontMetrics().elidedText(str(index.data()), Qt.TextElideMode.ElideRight, round(room))
        p.drawText(placed(QRectF(left, at.y() + 2, room, 20), whole), Qt.AlignmentFlag.AlignVCenter, title)
        p.setPen(s.c("quiet"))
        room = box.right() - 4 - left
        under = p.fontMetrics().elidedText(standing.words, Qt.TextElideMode.ElideMiddle, round(room))
        p.drawText(placed(QRectF(left, at.y() + 20, room, 19), whole), Qt.AlignmentFlag.AlignVCenter, under)
        self._arrow(p, whole)

    def _tick(self, p: QPainter, box: QRectF, on: bool) -> None:
        s = self._style
        p.setPen(QPen(s.c("accent" if on else "edge"), 1))
        p.setBrush(s.c("accent" if on else "raised"))
        p.drawRoundedRect(box, 4, 4)
        if on:
            draw_icon(p, "tick", box.adjusted(2, 2, -2, -2), s.c("on_accent"), 4)

    def editorEvent(self, event: object, model: object, option: QStyleOptionViewItem, index: QModelIndex) -> bool:
        """Let a click on the tick, or the space key, change it; one on the arrow leads to the row's page."""
        self._list.all_at_hand = False
        if (
            isinstance(event, QMouseEvent)
            and event.type() == QEvent.Type.MouseButtonRelease
            and index.data(_ID)
            and _row_arrow(QRectF(option.rect)).contains(event.position())
        ):
            self._list.choose(str(index.data(_ID)))
            self._list.opened.emit()
            return True
        if index.data(Qt.ItemDataRole.CheckStateRole) is None:
            return False
        box = QRectF(option.rect)
        place = (_row_tick(box) if index.data(_ID) else _head_tick(box)).adjusted(-8, -8, 6, 8)
        on_tick = (
            isinstance(event, QMouseEvent)
            and event.type() == QEvent.Type.MouseButtonRelease
            and place.contains(event.position())
        )
        if isinstance(event, QMouseEvent):
            self._list.all_at_hand = not index.data(_ID) and place.contains(event.position())
        pressed = isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Space
        if on_tick or pressed:
            item = self._list.tree.itemFromIndex(index)
            if item is not None:
                checked = item.checkState(0) == Qt.CheckState.Checked
                item.setCheckState(0, Qt.CheckState.Unchecked if checked else Qt.CheckState.Checked)
            return True
        return False
