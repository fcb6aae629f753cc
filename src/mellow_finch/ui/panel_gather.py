"""Gather: where the colours come from. Pictures, schemes and files, or pictures that match the look."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from .gather_match import MatchPage
from .gather_picture import PicturePage
from .gather_schemes import SchemesPage
from .parts import PagedPanel
from .style import Style

PAGES = (
    ("picture", "Pictures", "take the colours of one or several pictures"),
    ("schemes", "Schemes", "start from a scheme, a palette file or a theme"),
    ("match", "Match", "find pictures that go with the look, or tone one"),
)


class GatherPanel(PagedPanel):
    """Holds the pages; the window listens to them."""

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__("Gather", "Choose where the desktop's colours come from.", PAGES, parent)
        self.picture = PicturePage(style)
        self.schemes = SchemesPage(style)
        self.match = MatchPage(style)
        for name, page in (("picture", self.picture), ("schemes", self.schemes), ("match", self.match)):
            self.columns[name].addWidget(page)
            if name != "match":
                self.columns[name].addStretch(1)
