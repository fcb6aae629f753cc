"""Fields that the wheel changes only where they have the focus: over any other it scrolls what they stand in."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QComboBox, QDoubleSpinBox, QSlider, QTimeEdit, QWidget

if TYPE_CHECKING:
    _Field = QWidget
else:
    _Field = object


class CalmWheel(_Field):
    """Stands before the toolkit's own class among a field's bases."""

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Change with the focus alone; else leave the turn to what the field stands in."""
        if event is None or self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


class ComboBox(CalmWheel, QComboBox):
    """A combo box with a calm wheel, which does not give it the focus either."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)


class NumberField(CalmWheel, QDoubleSpinBox):
    """A number with a calm wheel."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)


class TimeField(CalmWheel, QTimeEdit):
    """A time with a calm wheel."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)


class Slider(CalmWheel, QSlider):
    """A slider with a calm wheel."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)
