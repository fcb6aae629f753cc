"""The plumage: the ribbon of all roles of the look, always in sight."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping

from PyQt6.QtCore import QEvent, QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QContextMenuEvent,
    QDragEnterEvent,
    QDragMoveEvent,
    QDropEvent,
    QFont,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PyQt6.QtWidgets import QSlider, QToolTip, QWidget

from ...colour.rgb import parse_hex
from ...components.catalogue import COMPONENTS
from ...language import comma_separated, isolated, plural, right_to_left, tr
from ...look.edits import with_role_by_hand
from ...palette.roles import ROLE_BY_ID, ROLES
from ..kit.drag import begins_drag, carries_colour, colour_data, drag, dropped_choice
from ..kit.icons import draw_icon
from ..kit.parts import sideways
from ..kit.style import Style, qcolor
from ..model.document import Document

HIGH = 50
_TOP = 19.0  # where the chips begin, under their captions


def use_counts() -> Mapping[str, int]:
    """Return in how many parts of all components each role shows."""
    counts: Counter[str] = Counter()
    for component in COMPONENTS:
        for part in component.parts:
            counts.update(r for r in (part.text_role, part.fill_role) if r)
    return counts


class Plumage(QSlider):
    """One chip a role, wider the more it is used; marks for locks and for failing pairs. Click or arrow keys select.

    To those who do not see it, it is told as a slider over the roles, with the chosen role as its description.
    """

    menu_asked = pyqtSignal(str, QPoint)  # a role, and where on the screen
    change_asked = pyqtSignal(str, QPoint)  # a role, and where in the ribbon

    def __init__(self, document: Document, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)
        self.setRange(0, len(ROLES) - 1)
        self._document, self._style = document, style
        self._counts = use_counts()
        self._held: QPointF | None = None
        self._laid: tuple[int, list[tuple[str, QRectF]]] = (0, [])  # a width, and where the chips lie at it
        self._captioned: tuple[int, list[tuple[str, QRectF]]] = (0, [])  # and the captions
        self.setFixedHeight(HIGH)
        self.setMinimumWidth(400)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAcceptDrops(True)
        self.setAccessibleName(tr("Plumage: all colours of the look"))
        document.changed.connect(lambda *_: self._tell())
        document.selected.connect(lambda *_: self._tell())
        self.valueChanged.connect(self._asked)

    def _tell(self) -> None:
        """Show the chosen role, and tell it."""
        role, look = self._document.role, self._document.look
        if look is not None and role in ROLE_BY_ID:
            facts = [ROLE_BY_ID[role].title, look.colours[role].hex]
            self.setAccessibleDescription(comma_separated([*facts, tr("locked")] if role in look.locks else facts))
            self.setValue([r.id for r in ROLES].index(role))
        self.update()

    def _asked(self, place: int) -> None:
        """Select the role that a screen reader asks for."""
        if ROLES[place].id != self._document.role:
            self._document.select(ROLES[place].id)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Leave the wheel alone."""
        if event is not None:
            event.ignore()

    def sizeHint(self) -> QSize:
        """Return a wide, low size."""
        return QSize(1000, HIGH)

    def chips(self) -> list[tuple[str, QRectF]]:
        """Return each role with where its chip lies; widths tell how much a role is used, groups stand apart."""
        if self._laid[0] != self.width():
            self._laid = (self.width(), self._lay())
        return self._laid[1]

    def _lay(self) -> list[tuple[str, QRectF]]:
        gap = 6.0
        groups = len({r.group for r in ROLES})
        weights = {r.id: 1.6 + min(8.0, self._counts.get(r.id, 0) ** 0.62) for r in ROLES}
        room = self.width() - 20 - gap * (groups - 1)
        unit = room / sum(weights.values())
        out: list[tuple[str, QRectF]] = []
        x, group = 10.0, ROLES[0].group
        for role in ROLES:
            if role.group != group:
                x, group = x + gap, role.group
            w = weights[role.id] * unit
            left = self.width() - x - w if right_to_left() else x
            out.append((role.id, QRectF(left, _TOP, w, 26)))
            x += w
        return out

    def captions(self) -> list[tuple[str, QRectF]]:
        """Return the name of each group of roles with the room there is for it over its chips."""
        if self._captioned[0] == self.width():
            return self._captioned[1]
        out: list[tuple[str, QRectF]] = []
        for (_, rect), role in zip(self.chips(), ROLES, strict=True):
            if out and out[-1][0] == role.group:
                out[-1] = role.group, out[-1][1].united(QRectF(rect.left(), 3, rect.width(), 15))
            else:
                out.append((role.group, QRectF(rect.left(), 3, rect.width(), 15)))
        self._captioned = (self.width(), out)
        return out

    def role_at(self, x: float) -> str:
        """Return the role whose chip lies at a place, empty when none does."""
        return next((role for role, rect in self.chips() if rect.left() <= x < rect.right()), "")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the ribbon."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        look = self._document.look
        short = look.failing() if look is not None else ()
        failing = {role for j in short for role in (j.pair.text, j.pair.surface)}
        chosen: QRectF | None = None
        font = QFont(self.font())
        font.setPixelSize(12)
        p.setFont(font)
        p.setPen(self._style.c("quiet"))
        metrics = p.fontMetrics()
        for words, room in self.captions():
            if metrics.horizontalAdvance(words) <= room.width() + 4:
                p.drawText(room.adjusted(0, 0, 6, 0), Qt.AlignmentFlag.AlignVCenter, words)
        for role, rect in self.chips():
            if look is None:
                p.fillRect(rect.adjusted(0, 0, -1, 0), self._style.c("line"))
                continue
            colour = qcolor(look.colours[role])
            p.fillRect(rect, colour)
            ink = QColor(255, 255, 255) if colour.lightnessF() < 0.5 else QColor(0, 0, 0)
            if role in look.locks:
                size = min(12.0, rect.width() - 1)
                draw_icon(p, "lock", QRectF(rect.center().x() - size / 2, _TOP + 2, size, size), ink)
            if role in failing:
                mark = QPainterPath(QPointF(rect.center().x(), _TOP + 15))
                mark.lineTo(rect.center().x() + 5, _TOP + 24)
                mark.lineTo(rect.center().x() - 5, _TOP + 24)
                mark.closeSubpath()
                p.setPen(QPen(ink, 1.2))
                p.setBrush(self._style.c("bad"))
                p.drawPath(mark)
            if role == self._document.role:
                chosen = rect
        p.setBrush(Qt.BrushStyle.NoBrush)
        if chosen is not None and look is not None:
            p.setPen(QPen(self._style.c("window"), 2))
            p.drawRect(chosen.adjusted(-1, -1, 1, 1))
            p.setPen(QPen(self._style.c("text"), 2))
            p.drawRect(chosen.adjusted(-3, -3, 3, 3))
        if self.hasFocus():
            p.setPen(QPen(self._style.c("accent"), 2))
            p.drawRoundedRect(QRectF(3, 2, self.width() - 6, self.height() - 4), 5, 5)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """Ask for the menu of the role under the pointer, or of the selected one."""
        if event is not None:
            by_keys = event.reason() == QContextMenuEvent.Reason.Keyboard
            role = self._document.role if by_keys else self.role_at(event.pos().x())
            if role:
                self._document.select(role)
                self.menu_asked.emit(role, event.globalPos())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Select the role under the pointer."""
        if event is not None and (role := self.role_at(event.position().x())):
            self._document.select(role)
            self._held = event.position() if event.button() == Qt.MouseButton.LeftButton else None

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Ask for the role under the pointer to be changed."""
        if event is not None and (role := self.role_at(event.position().x())):
            self.change_asked.emit(role, event.position().toPoint())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag a role off the ribbon, to drop it on a group of colours."""
        look, held = self._document.look, self._held
        if look is None or held is None or not begins_drag(event, held):
            return
        self._held = None
        if role := self.role_at(held.x()):
            drag(self, colour_data(look.colours[role], role), look.colours[role])

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take roles and colours."""
        if event is not None and carries_colour(event):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        """Take them on chips."""
        if event is not None:
            event.setAccepted(bool(self.role_at(event.position().x())))

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Give the role under the pointer the colour that was dropped."""
        look, choice = self._document.look, dropped_choice(event)
        role = self.role_at(event.position().x()) if event is not None else ""
        if event is not None and look is not None and role and choice and choice != role:
            colour = look.colours[choice] if choice in look.colours else parse_hex(choice)
            event.acceptProposedAction()
            self._document.select(role)
            words = tr("Change {title}").format(title=ROLE_BY_ID[role].title)
            self._document.edit(words, lambda now: with_role_by_hand(now, role, colour))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Select the role before or after."""
        step = sideways(event)
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            at = next(rect for role, rect in self.chips() if role == self._document.role).bottomLeft().toPoint()
            self.change_asked.emit(self._document.role, at)
            return
        if not step:
            super().keyPressEvent(event)
            return
        ids = [r.id for r in ROLES]
        self._document.select(ids[(ids.index(self._document.role) + step) % len(ids)])

    def event(self, event: QEvent | None) -> bool:
        """Say what a chip is when the pointer rests on it."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            role = self.role_at(event.pos().x())
            look = self._document.look
            if role and look is not None:
                row = ROLE_BY_ID[role]
                places = self._counts.get(role, 0)
                lines = [
                    f"{row.title}  {isolated(look.colours[role].hex)}",
                    row.shows,
                    plural("Used in {count} part.", "Used in {count} parts.", places),
                ]
                QToolTip.showText(
                    event.globalPos(), "\n".join([*lines, tr("Locked")] if role in look.locks else lines), self
                )
            return True
        return super().event(event)
