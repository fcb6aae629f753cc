"""Fields that the wheel changes only where they have the focus: over any other it scrolls what they stand in."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QComboBox, QDoubleSpinBox, QSlider, QTimeEdit, QWidget


def passes_wheel(field: QWidget, event: QWheelEvent | None) -> bool:
    """Leave a turn of the wheel to what a field stands in, unless the field has the focus; tell whether it was left."""
    if event is None or field.hasFocus():
        return False
    event.ignore()
    return True


class ComboBox(QComboBox):
    """A combo box with a calm wheel."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)  # the usual one takes the focus by the wheel

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Change with the focus alone."""
        if not passes_wheel(self, event):
            super().wheelEvent(event)


class NumberField(QDoubleSpinBox):
    """A number with a calm wheel."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Change with the focus alone."""
        if not passes_wheel(self, event):
            super().wheelEvent(event)


class TimeField(QTimeEdit):
    """A time with a calm wheel."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Change with the focus alone."""
        if not passes_wheel(self, event):
            super().wheelEvent(event)


class Slider(QSlider):
    """A slider with a calm wheel."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Change with the focus alone."""
        if not passes_wheel(self, event):
            super().wheelEvent(event)
