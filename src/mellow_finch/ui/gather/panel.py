"""Gather: where the colours come from. Pictures, schemes and files, or pictures that match the look."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from ...language import tr
from ..kit.panels import PagedPanel
from ..kit.style import Style
from .match_page import MatchPage
from .pictures_page import PicturePage
from .schemes_page import SchemesPage


class GatherPanel(PagedPanel):
    """Holds the pages; the window listens to them."""

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(tr("Gather"), tr("Extract colours from images, or start from a scheme or theme."), parent)
        self.picture = self.add(
            "picture", tr("Images"), tr("extract the colours of one or several images"), PicturePage(style)
        )
        self.schemes = self.add(
            "schemes", tr("Schemes"), tr("start from a scheme, a palette file or a theme"), SchemesPage(style)
        )
        tip = tr("find images that match the look, or tint one")
        self.match = self.add("match", tr("Match"), tip, MatchPage(style), fills=True)
