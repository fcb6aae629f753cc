"""What Dress can show in the centre beside the stage, one row a view: a tab, the widget, and how it is filled."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple

from PyQt6.QtWidgets import QWidget

from ...language import tr
from ..kit.style import Style
from ..model.choosing import AskColour
from ..model.document import Document
from .changes import ChangesView
from .group_table import GroupTable
from .panel import DressPanel
from .pictures_beside import PicturesView
from .screen_view import ScreenView


class CentreView(NamedTuple):
    """One view: its id, the words of its tab, how it is made once, and how it is filled with what is chosen."""

    id: str
    title: str
    tip: str
    make: Callable[[DressPanel, Document, Style, AskColour], QWidget]
    fill: Callable[[DressPanel, Any], None]


def _groups(panel: DressPanel, document: Document, style: Style, ask_colour: AskColour) -> GroupTable:
    table = GroupTable(style, ask_colour)
    table.asked.connect(lambda keys, choice: panel.page_in_sight().ask_all(keys, choice))
    table.split_asked.connect(lambda key, apart: panel.page_in_sight().split(key, apart))
    table.pointed.connect(document.select)
    return table


def _fill_screen(panel: DressPanel, view: ScreenView) -> None:
    before, after = panel.screen_paints()
    view.show_paints(before, after)


STAGE = ("stage", tr("Stage"), tr("The desktop with this look"))
VIEWS: tuple[CentreView, ...] = (
    CentreView(
        "groups",
        tr("Colours"),
        tr("Its groups of colours as a table: sort, filter, map several at once"),
        _groups,
        lambda panel, view: view.show_rows(panel.page_in_sight().groups.known),
    ),
    CentreView(
        "changes",
        tr("Changes"),
        tr("The lines of the files that change"),
        lambda _panel, _document, style, _ask: ChangesView(style),
        lambda panel, view: view.show_changes(panel.changes()),
    ),
    CentreView(
        "pictures",
        tr("Images"),
        tr("The images of a theme, before and after"),
        lambda _panel, _document, style, _ask: PicturesView(style),
        lambda panel, view: view.show_pictures(panel.pictures(), panel.surfaces()),
    ),
    CentreView(
        "screen",
        tr("My screen"),
        tr("A screenshot of your own desktop, in the colours of the look"),
        lambda _panel, _document, style, _ask: ScreenView(style),
        _fill_screen,
    ),
)
TABS = (STAGE, *((view.id, view.title, view.tip) for view in VIEWS))
