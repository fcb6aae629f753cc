"""The header strip: the look's name with its menu, dark or light, undo and redo, steps, compare, curtain, save."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QToolButton, QWidget

from .actions import ACTIONS


class Header(QWidget):
    """Buttons for actions that are wanted at any step."""

    def __init__(self, actions: Mapping[str, QAction]) -> None:
        super().__init__()
        self._actions = actions
        self.setObjectName("header")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 7, 14, 7)
        row.setSpacing(8)
        self.name = QToolButton()
        self.name.setText("No look yet")
        self.name.setToolTip("Name, open and save looks")
        self.name.setAccessibleName("Menu")
        self.name.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.name.setMenu(self._menu())
        font = self.name.font()
        font.setBold(True)
        font.setPointSizeF(12)
        self.name.setFont(font)
        row.addWidget(self.name)
        row.addStretch(1)
        self.tone = self._tool("tone", "Dark")
        self.undo = self._tool("undo")
        self.redo = self._tool("redo")
        self.steps = self._tool("steps", "Steps")
        self.compare = QPushButton("Compare")
        self.compare.setToolTip("Hold to see the desktop as it was")
        self.compare.setEnabled(False)
        self.curtain = self._tool("curtain", "Curtain")
        self.save = self._tool("save_look", "Save")
        self.compare.setMinimumHeight(self.tone.sizeHint().height())
        for button in (self.tone, self.undo, self.redo, self.steps, self.compare, self.curtain, self.save):
            row.addWidget(button)

    def say_undo(self, words: str) -> None:
        """Name the step that undoing takes back."""
        self.undo.setToolTip(f"Undo {words} (Ctrl+Z)" if words else "Undo (Ctrl+Z)")

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        current: QMenu | None = None
        title = ""
        for spec in ACTIONS:
            if spec.menu != title:
                title = spec.menu
                current = menu.addMenu(title)
            if current is not None:
                current.addAction(self._actions[spec.id])
        return menu

    def _tool(self, action: str, words: str = "") -> QToolButton:
        button = QToolButton()
        own = self._actions[action]
        button.setAccessibleName(own.text())
        button.setToolTip(own.toolTip())
        button.clicked.connect(own.trigger)
        if words:
            button.setText(words)
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        button.setIconSize(QSize(18, 18))
        own.changed.connect(lambda: button.setEnabled(own.isEnabled()))
        button.setEnabled(own.isEnabled())
        return button
