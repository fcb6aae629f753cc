"""A box in which a colour is chosen or typed, without waiting for it: what is chosen is told when it is."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QColorDialog, QWidget

from ...colour.rgb import Rgba
from ...language import tr
from .style import qcolor


def ask_colour(parent: QWidget, start: Rgba, chosen: Callable[[Rgba], object]) -> QColorDialog:
    """Open a box with a colour to start from, and call what is to be done with the one that is chosen."""
    box = QColorDialog(qcolor(start.opaque), parent)
    box.setOption(QColorDialog.ColorDialogOption.DontUseNativeDialog)
    box.setWindowTitle(tr("A colour of its own"))
    box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)

    def take(colour: QColor) -> None:
        chosen(Rgba(colour.red(), colour.green(), colour.blue()))

    box.colorSelected.connect(take)
    box.open()
    return box
