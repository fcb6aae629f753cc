"""Tune: one role at a time, the whole look, the terminal, translucency, and other eyes."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from ...language import tr
from ..kit.panels import PagedPanel
from ..kit.style import Style
from ..model.choosing import Choosing
from ..model.document import Document
from ..model.role_menu import RoleMenu
from .eyes_page import EyesPage
from .glass_page import GlassPage
from .role_page import RolePage
from .terminal_page import TerminalPage
from .whole_page import WholePage


class TunePanel(PagedPanel):
    """Holds the pages; the one in sight is kept up to date."""

    screen_asked = pyqtSignal()

    def __init__(
        self, document: Document, style: Style, choosing: Choosing, menu: RoleMenu, parent: QWidget | None = None
    ) -> None:
        super().__init__(tr("Tune"), tr("Adjust colours. Click anything in the preview to change its colour."), parent)
        self.role = self.add("role", tr("Role"), tr("one role's colour"), RolePage(document, style, choosing, menu))
        self.whole = self.add("whole", tr("Look"), tr("the whole look at once"), WholePage(document, style))
        tip = tr("the sixteen terminal colours as a set")
        self.terminal = self.add("terminal", tr("Terminal"), tip, TerminalPage(document, style, choosing, menu))
        self.glass = self.add("glass", tr("Opacity"), tr("translucent surfaces and blur"), GlassPage(document, style))
        self.eyes = self.add(
            "eyes", tr("Colour vision"), tr("the desktop with other colour vision"), EyesPage(document, style)
        )
        self.role.screen_asked.connect(self.screen_asked)
        self.page_changed.connect(lambda _: self.refresh())
        document.selected.connect(lambda *_: self.refresh() if self.page == "terminal" else None)

    def refresh(self) -> None:
        """Bring the page in sight up to date."""
        page: RolePage | WholePage | TerminalPage | GlassPage | EyesPage = getattr(self, self.page)
        page.refresh()
