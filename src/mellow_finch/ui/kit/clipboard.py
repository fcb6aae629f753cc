"""The one way of putting words on the clipboard."""

from __future__ import annotations

from PyQt6.QtGui import QGuiApplication


def copy(words: str) -> None:
    """Put words on the clipboard, where there is one."""
    clipboard = QGuiApplication.clipboard()
    if clipboard is not None:
        clipboard.setText(words)
