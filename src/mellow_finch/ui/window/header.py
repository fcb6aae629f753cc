"""The header strip, one line: the look's name with its menu, the steps, dark or light, and what any step wants."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QAction, QFont, QFontMetrics, QResizeEvent
from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QMenu, QPushButton, QToolButton, QWidget

from ...language import right_to_left, tr
from ...palette.recipe import TONES
from ..kit.icons import icon
from ..kit.jobs import Jobs
from ..kit.style import Style
from .actions import ACTIONS, MENUS, OWN_MENU
from .track import StepTrack
from .work_mark import WorkMark

_NAME_WIDE = 190
_NAME_NARROW = 136
_HALF_PADDING = 22  # px beside the words of a half
_LEAST = 800  # px of the narrowest window: a tile of half a screen has little more
_MOST_FROM = 1000  # px from which all but two tools have room
_ALL_FROM = 1240  # px from which every tool has room
_WORDS_FROM = 1500  # px from which there is room for words
_UNDER = (tr("Undo"), tr("Redo"), tr("History"), tr("Before"), tr("Split"), tr("Find"), tr("Menu"))


class ToneSwitch(QWidget):
    """Dark and light as two halves, the one in force pressed."""

    asked = pyqtSignal()

    def __init__(self, tip: str) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.halves: dict[str, QPushButton] = {}
        group = QButtonGroup(self)
        for tone, end in zip(TONES, ("right", "left") if right_to_left() else ("left", "right"), strict=True):
            half = QPushButton(tr("Dark") if tone == "dark" else tr("Light"))
            half.setCheckable(True)
            half.setProperty("half", end)
            half.setToolTip(tip)
            bold = QFont(half.font())
            bold.setBold(True)  # as the half in force is
            half.setMinimumWidth(QFontMetrics(bold).horizontalAdvance(half.text()) + _HALF_PADDING)
            half.setAccessibleName(tr("The look's dark variant") if tone == "dark" else tr("The look's light variant"))
            half.clicked.connect(lambda _=False, tone=tone: self._ask(tone))
            group.addButton(half)
            row.addWidget(half)
            self.halves[tone] = half
        self.tone = "dark"

    def _ask(self, tone: str) -> None:
        if tone != self.tone:
            self.asked.emit()

    def show_tone(self, tone: str) -> None:
        """Show which half is in force."""
        self.tone = tone
        self.halves[tone].setChecked(True)


class Header(QWidget):
    """Buttons for actions that are wanted at any step."""

    def __init__(self, style: Style, actions: Mapping[str, QAction], track: StepTrack, jobs: Jobs) -> None:
        super().__init__()
        self._actions, self._style = actions, style
        self.setObjectName("header")
        self.setMinimumWidth(_LEAST)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(self)
        row.setContentsMargins(8, 3, 8, 3)
        row.setSpacing(4)
        self.name = QToolButton()
        self.name.setToolTip(tr("Name, open and save looks"))
        self.name.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.name.setFixedWidth(_NAME_WIDE)
        self._name = ""
        self.name.setMinimumHeight(32)
        self.recent = QMenu(tr("Recent"), self)
        self.recent.setEnabled(False)
        self.name.setMenu(self._menu(OWN_MENU))
        font = self.name.font()
        font.setBold(True)
        font.setPointSizeF(11)
        self.name.setFont(font)
        self.say_name(tr("No look yet"))
        row.addWidget(self.name)
        row.addStretch(1)
        row.addWidget(track)
        row.addStretch(1)
        self.work = WorkMark(style, jobs)
        row.addWidget(self.work)
        self.tone = ToneSwitch(actions["tone"].toolTip())
        self.tone.asked.connect(actions["tone"].trigger)
        row.addWidget(self.tone)
        self.undo = self._tool("undo")
        self.redo = self._tool("redo")
        self.steps = self._tool("steps")
        self.compare = QToolButton()
        self.compare.setToolTip(tr("Hold to see the desktop before"))
        self.compare.setAccessibleName(tr("Compare: hold to see the desktop before"))
        self.curtain = self._tool("curtain")
        self.finder = self._tool("find")
        self._tools = (self.undo, self.redo, self.steps, self.compare, self.curtain, self.finder)
        for button in self._tools:
            button.setIconSize(QSize(18, 18))
            button.setProperty("bare", True)
            row.addWidget(button)
        self.more = QToolButton()
        self.more.setToolTip(tr("More"))
        self.more.setAccessibleName(tr("Menu"))
        self.more.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.more.setProperty("bare", True)
        self.more.setIconSize(QSize(18, 18))
        self.more.setMenu(self._menu(*(title for title in MENUS if title != OWN_MENU)))
        row.addWidget(self.more)
        self.allow(False)
        style.follow(self._restyle)

    def _restyle(self) -> None:
        buttons = {row.icon: getattr(self, row.id if row.id != "find" else "finder") for row in ACTIONS if row.icon}
        for name, button in (buttons | {"before": self.compare, "menu": self.more}).items():
            button.setIcon(icon(name, self._style.c("text"), self._style.c("disabled")))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Write what the tools are under them where there is room; a narrow window has some in its menu alone."""
        super().resizeEvent(event)
        self._fit(self.width())

    def _fit(self, wide: int) -> None:
        words = wide >= _WORDS_FROM
        style = Qt.ToolButtonStyle.ToolButtonTextUnderIcon if words else Qt.ToolButtonStyle.ToolButtonIconOnly
        for button, under in zip((*self._tools, self.more), _UNDER, strict=True):
            if button.toolButtonStyle() != style:
                button.setToolButtonStyle(style)
                button.setText(under if words else "")
        for button in self._tools:
            rare = button in (self.steps, self.curtain)
            button.setVisible(wide >= (_ALL_FROM if rare else _MOST_FROM))
        name = _NAME_WIDE if wide >= _ALL_FROM else _NAME_NARROW
        if self.name.width() != name:
            self.name.setFixedWidth(name)
            self.say_name(self._name)

    def allow(self, on: bool) -> None:
        """Let what needs a look be used, or not."""
        self.compare.setEnabled(on)
        self.tone.setEnabled(on)

    def say_name(self, words: str) -> None:
        """Show the look's name, shortened where it is long."""
        self._name = words
        self.name.setText(
            self.name.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, self.name.width() - 46)
        )
        self.name.setAccessibleName(tr("Look: {words}").format(words=words))

    def list_recent(self, paths: Sequence[Path], open_path: Callable[[str], None]) -> None:
        """List what was opened last in the menu."""
        self.recent.clear()
        for path in paths:
            action = QAction(path.name, self.recent)
            action.setToolTip(str(path))
            action.triggered.connect(lambda _=False, p=str(path): open_path(p))
            self.recent.addAction(action)
        if not paths:
            self.recent.addAction(tr("Nothing opened yet")).setEnabled(False)  # type: ignore[union-attr]

    def say_undo(self, words: str) -> None:
        """Name the step that undoing takes back."""
        self.undo.setToolTip(tr("Undo: {words} (Ctrl+Z)").format(words=words) if words else tr("Undo (Ctrl+Z)"))

    def _menu(self, *titles: str) -> QMenu:
        menu = QMenu(self)
        for title in titles:
            inside = menu if len(titles) == 1 else menu.addMenu(title)
            if inside is None:
                continue
            for spec in ACTIONS:
                if spec.menu == title:
                    inside.addAction(self._actions[spec.id])
                    if spec.id == "open_look":
                        inside.addMenu(self.recent)
        return menu

    def _tool(self, action: str) -> QToolButton:
        button = QToolButton()
        own = self._actions[action]
        button.setAccessibleName(own.text())
        button.setToolTip(own.toolTip())
        button.clicked.connect(own.trigger)
        own.changed.connect(lambda: button.setEnabled(own.isEnabled()))
        button.setEnabled(own.isEnabled())
        return button
