"""Tune: one role at a time, the whole look, the terminal, translucency, and other eyes."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from ..kit.parts import PagedPanel
from ..kit.style import Style
from ..model.document import Document
from .eyes_page import EyesPage
from .glass_page import GlassPage
from .role_page import RolePage
from .terminal_page import TerminalPage
from .whole_page import WholePage

PAGES = (
    ("role", "Role", "one role's colour"),
    ("whole", "Look", "the whole look at once"),
    ("terminal", "Terminal", "the sixteen terminal colours as a set"),
    ("glass", "Glass", "see-through surfaces"),
    ("eyes", "Eyes", "the desktop as other eyes see it"),
)


class TunePanel(PagedPanel):
    """Holds the pages; the one in sight is kept up to date."""

    screen_asked = pyqtSignal()

    def __init__(self, document: Document, style: Style, parent: QWidget | None = None) -> None:
        super().__init__("Tune", "Click anything on the stage to change its colour.", PAGES, parent)
        self.role = RolePage(document, style)
        self.whole = WholePage(document, style)
        self.terminal = TerminalPage(document, style)
        self.glass = GlassPage(document, style)
        self.eyes = EyesPage(document, style)
        for name, page in (
            ("role", self.role),
            ("whole", self.whole),
            ("terminal", self.terminal),
            ("glass", self.glass),
            ("eyes", self.eyes),
        ):
            self.columns[name].addWidget(page)
            self.columns[name].addStretch(1)
        self.role.screen_asked.connect(self.screen_asked)
        self.page_changed.connect(lambda _: self.refresh())
        document.selected.connect(lambda *_: self.refresh() if self.page == "terminal" else None)

    def refresh(self) -> None:
        """Bring the page in sight up to date."""
        {
            "role": self.role.refresh,
            "whole": self.whole.refresh,
            "terminal": self.terminal.refresh,
            "glass": self.glass.refresh,
            "eyes": self.eyes.refresh,
        }[self.page]()
