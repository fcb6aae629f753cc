"""The step track: the five steps in working order, each with what is left to do there."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractButton, QVBoxLayout, QWidget

from ..kit.icons import draw_icon
from ..kit.style import Style


@dataclass(frozen=True)
class Step:
    """One step: its id, its title, and what it is for."""

    id: str
    title: str
    tip: str


STEPS: tuple[Step, ...] = (
    Step("gather", "Gather", "Choose a picture and take its colours"),
    Step("tune", "Tune", "Decide which colour goes where"),
    Step("dress", "Dress", "See what every component will get"),
    Step("proof", "Proof", "Find and mend what cannot be read"),
    Step("wear", "Wear", "Put the files in place, and get back"),
)


class StepButton(QAbstractButton):
    """A step: icon, title, and a line that says what is left."""

    def __init__(self, step: Step, number: int, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._step, self._style = step, style
        self.left = ""
        self.urgent = False
        self.setCheckable(True)
        self.setToolTip(f"{step.tip} (Ctrl+{number})")
        self.setAccessibleName(step.title)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def sizeHint(self) -> QSize:
        """Return a fixed size."""
        return QSize(110, 76)

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
        box = QRectF(self.rect()).adjusted(4, 3, -4, -3)
        s = self._style
        if self.isChecked() or self.underMouse():
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(s.c("pressed" if self.isChecked() else "hover"))
            p.drawRoundedRect(box, 8, 8)
        if self.isChecked():
            p.setBrush(s.c("accent"))
            p.drawRoundedRect(QRectF(box.left(), box.top() + 10, 4, box.height() - 20), 2, 2)
        if self.hasFocus():
            p.setPen(s.c("accent"))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRoundedRect(box, 8, 8)
        draw_icon(p, self._step.id, QRectF(box.left() + 12, box.top() + 9, 22, 22), s.c("text"))
        font = QFont(self.font())
        font.setPointSizeF(11.5)
        font.setBold(self.isChecked())
        p.setFont(font)
        p.setPen(s.c("text"))
        p.drawText(QRectF(box.left() + 40, box.top() + 6, 70, 28), Qt.AlignmentFlag.AlignVCenter, self._step.title)
        font.setPointSizeF(9.5)
        font.setBold(self.urgent)
        p.setFont(font)
        p.setPen(s.c("bad" if self.urgent else "text" if self.isChecked() else "quiet"))
        p.drawText(
            QRectF(box.left() + 13, box.top() + 36, box.width() - 16, 28), Qt.AlignmentFlag.AlignVCenter, self.left
        )


class StepTrack(QWidget):
    """The five steps, one of them chosen."""

    chosen = pyqtSignal(str)

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("steps")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(118)
        column = QVBoxLayout(self)
        column.setContentsMargins(4, 10, 4, 10)
        column.setSpacing(4)
        self.buttons: dict[str, StepButton] = {}
        for number, step in enumerate(STEPS, 1):
            button = StepButton(step, number, style)
            button.clicked.connect(lambda _=False, name=step.id: self.chosen.emit(name))
            column.addWidget(button)
            self.buttons[step.id] = button
        column.addStretch(1)

    def choose(self, name: str) -> None:
        """Show a step as the chosen one."""
        for step, button in self.buttons.items():
            button.setChecked(step == name)
