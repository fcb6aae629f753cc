"""What the desktop says of how windows should look."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication


def more_contrast_wanted() -> bool:
    """Tell whether the desktop asks for more contrast, where the toolkit knows."""
    hints = QGuiApplication.styleHints()
    told = getattr(hints, "accessibility", lambda: None)() if hints is not None else None
    wanted = getattr(told, "contrastPreference", lambda: None)() if told is not None else None
    return getattr(wanted, "name", "") == "HighContrast"


def prefers_light() -> bool:
    """Tell whether the desktop asks for light windows."""
    hints = QGuiApplication.styleHints()
    return hints is not None and hints.colorScheme() == Qt.ColorScheme.Light
