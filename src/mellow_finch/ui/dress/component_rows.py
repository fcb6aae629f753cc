"""How a row of the list of components is painted and clicked: tick, picture, title, words, how many pairs fail."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple, Protocol

from PyQt6.QtCore import QEvent, QModelIndex, QRectF, QSize, Qt, pyqtBoundSignal
from PyQt6.QtGui import QFont, QKeyEvent, QMouseEvent, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QStyledItemDelegate, QStyleOptionViewItem, QTreeWidget

from ...language import right_to_left
from ..kit.icons import draw_icon
from ..kit.parts import placed, row_box
from ..kit.style import Style

ID, _TICK, _LOW = Qt.ItemDataRole.UserRole, QRectF(8, 13, 16, 16), 42
PLACE = Qt.ItemDataRole.UserRole + 1  # the page that a row leads to, of rows that are no component
_ARROW = 24.0  # pixels at the end of a row that lead to its page
_PICTURE = QRectF(31, 5, 51, 32)
_HEAD_HIGH, _PLACE_HIGH = 26, 62


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


class RowList(Protocol):
    """The list that rows are painted for. all_at_hand: whether the tick for all of a kind was clicked."""

    tree: QTreeWidget
    all_at_hand: bool
    places: dict[str, ListPlace]
    standings: dict[str, ComponentState]

    @property
    def opened(self) -> pyqtBoundSignal:
        """Return the signal that the page of the chosen row is asked for."""

    @staticmethod
    def note_of(standing: ComponentState) -> tuple[str, str]:
        """Return the words at the end of a row, and their kind."""

    def choose(self, key: str) -> None:
        """Choose the row of a component."""


def _head_tick(box: QRectF) -> QRectF:
    """Return where the tick for all stands in the row of a head."""
    return placed(QRectF(box.right() - 24, box.y() + 8, 16, 16), box)


def _row_arrow(box: QRectF) -> QRectF:
    """Return where a row leads on to its page."""
    return placed(QRectF(box.right() - _ARROW - 8, box.y(), _ARROW + 8, box.height()), box)


def _row_tick(box: QRectF) -> QRectF:
    """Return where the tick of a row stands."""
    return placed(_TICK.translated(box.topLeft()), box)


class ComponentRows(QStyledItemDelegate):
    """Paints heads and rows: tick, picture, title, what is written and when it shows, and how many pairs fail."""

    def __init__(self, list_: RowList, style: Style, picture_of: Callable[[str], QPixmap | None]) -> None:
        super().__init__(list_.tree)
        self._list, self._style, self._picture_of = list_, style, picture_of

    def sizeHint(self, _option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """Return the size of a head or a row."""
        return QSize(200, _PLACE_HIGH if index.data(PLACE) else _LOW if index.data(ID) else _HEAD_HIGH)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """Paint one."""
        if painter is None:
            return
        painter.save()
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        if index.data(ID):
            self._row(painter, option, index)
        elif index.data(PLACE):
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
        place, s = self._list.places[str(index.data(PLACE))], self._style
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
        key, s = str(index.data(ID)), self._style
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
            and index.data(ID)
            and _row_arrow(QRectF(option.rect)).contains(event.position())
        ):
            self._list.choose(str(index.data(ID)))
            self._list.opened.emit()
            return True
        if index.data(Qt.ItemDataRole.CheckStateRole) is None:
            return False
        box = QRectF(option.rect)
        place = (_row_tick(box) if index.data(ID) else _head_tick(box)).adjusted(-8, -8, 6, 8)
        on_tick = (
            isinstance(event, QMouseEvent)
            and event.type() == QEvent.Type.MouseButtonRelease
            and place.contains(event.position())
        )
        if isinstance(event, QMouseEvent):
            self._list.all_at_hand = not index.data(ID) and place.contains(event.position())
        pressed = isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Space
        if on_tick or pressed:
            item = self._list.tree.itemFromIndex(index)
            if item is not None:
                checked = item.checkState(0) == Qt.CheckState.Checked
                item.setCheckState(0, Qt.CheckState.Unchecked if checked else Qt.CheckState.Checked)
            return True
        return False
