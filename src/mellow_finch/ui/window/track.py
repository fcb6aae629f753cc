"""The step track: the five steps in working order along the header, each with what is left to do there."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QFontMetrics, QKeyEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QAbstractButton, QButtonGroup, QHBoxLayout, QWidget

from ...language import keys, right_to_left, with_note
from ..kit.icons import draw_icon
from ..kit.parts import sideways
from ..kit.style import Style
from .steps.rows import STEPS, StepRow

_ICON = 24  # px that an icon takes beside a title


class StepButton(QAbstractButton):
    """A step: icon, title, and a line that says what is left."""

    def __init__(self, step: StepRow, number: int, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._step, self._style = step, style
        self.left = ""
        self.urgent = False
        self.has_icon = True
        self.setCheckable(True)
        self.setAutoExclusive(True)  # so that it is told as one of several
        self.setToolTip(with_note(step.tip, keys(f"Ctrl+{number}")))
        self.setAccessibleName(step.title)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def sizeHint(self) -> QSize:
        """Return a fixed size."""
        return QSize(116, 46)

    def minimumSizeHint(self) -> QSize:
        """Return the least size at which its title can be read; the icon gives way to it."""
        return QSize(self._title_wide() + 14, 46)

    def roomy(self) -> bool:
        """Tell whether there is room for the icon beside the title."""
        return self._title_wide() + 10 + _ICON <= self.width()

    def _title_wide(self) -> int:
        return QFontMetrics(self._title_font(True)).horizontalAdvance(self._step.title)

    def _title_font(self, bold: bool) -> QFont:
        font = QFont(self.font())
        font.setPointSizeF(11)
        font.setBold(bold)
        return font

    def say(self, left: str, urgent: bool = False) -> None:
        """Set the line that says what is left there."""
        if (left, urgent) != (self.left, self.urgent):
            self.left, self.urgent = left, urgent
            self.setAccessibleDescription(left)
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the step."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        s = self._style
        if self.isChecked() or self.underMouse():
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(s.c("pressed" if self.isChecked() else "hover"))
            p.drawRoundedRect(box, 7, 7)
        if self.isChecked():
            p.setBrush(s.c("accent"))
            p.drawRoundedRect(QRectF(box.left() + 10, box.bottom() - 3, box.width() - 20, 3), 1.5, 1.5)
        if self.hasFocus():
            p.setPen(s.c("accent"))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 7, 7)
        icon = _ICON if self.has_icon else 0
        if icon:
            start = box.right() - 25 if right_to_left() else box.left() + 7
            draw_icon(p, self._step.id, QRectF(start, box.top() + 5, 18, 18), s.c("text"))
        font = self._title_font(self.isChecked())
        p.setFont(font)
        p.setPen(s.c("text"))
        middle = Qt.AlignmentFlag.AlignVCenter
        beside = box.left() + (2 if right_to_left() else 6 + icon)
        p.drawText(QRectF(beside, box.top() + 2, box.width() - 8 - icon, 22), middle, self._step.title)
        font.setPointSizeF(9.5)
        font.setBold(self.urgent)
        p.setFont(font)
        p.setPen(s.c("bad" if self.urgent else "text" if self.isChecked() else "quiet"))
        room = box.width() - 12
        words = p.fontMetrics().elidedText(self.left, Qt.TextElideMode.ElideRight, round(room))
        p.drawText(QRectF(box.left() + 6, box.top() + 22, room, 18), middle, words)


class StepTrack(QWidget):
    """The five steps, one of them chosen; the arrow keys go to the neighbours."""

    chosen = pyqtSignal(str)

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(3)
        self.buttons: dict[str, StepButton] = {}
        group = QButtonGroup(self)
        group.setExclusive(False)  # none is chosen where the Shelf is in sight
        for number, step in enumerate(STEPS, 1):
            button = StepButton(step, number, style)
            button.clicked.connect(lambda _=False, name=step.id: self.chosen.emit(name))
            group.addButton(button)
            row.addWidget(button)
            self.buttons[step.id] = button

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Show the icons where there is room for all of them."""
        super().resizeEvent(event)
        layout = self.layout()
        if layout is not None:
            layout.activate()
        roomy = all(button.roomy() for button in self.buttons.values())
        for button in self.buttons.values():
            button.has_icon = roomy
            button.update()

    def choose(self, name: str) -> None:
        """Show a step as the chosen one."""
        for step, button in self.buttons.items():
            button.setChecked(step == name)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Go to the step before or after."""
        by = sideways(event)
        rows = list(self.buttons.values())
        at = next((i for i, button in enumerate(rows) if button.hasFocus()), None)
        if by and at is not None:
            rows[(at + by) % len(rows)].setFocus()
        else:
            super().keyPressEvent(event)
