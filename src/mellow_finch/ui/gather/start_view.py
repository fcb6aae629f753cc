"""What Gather shows before there is a look: the picture on the screen, others of this computer, and schemes."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QImage, QPainter, QPixmap
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QScrollArea, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from ...colour.rgb import Rgba
from ...language import tr
from ...look.gather import name_of
from ...look.ready import READY
from ...picture.rank import PictureSummary
from ..kit.flow import Flow
from ..kit.parts import DropTarget, label, plain_column, untinted
from ..kit.style import Style, qcolor

_TILE, _STRIP = QSize(168, 105), 16


class StartView(DropTarget):
    """Tiles to begin with. Is told what there is; emits what is chosen, and what is dropped."""

    picture_chosen = pyqtSignal(str)
    scheme_chosen = pyqtSignal(str)
    tour_asked = pyqtSignal()

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style
        self.setAccessibleName(tr("Images and schemes to start from"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        inner = QWidget()
        self._column = QVBoxLayout(inner)
        self._column.setContentsMargins(28, 24, 28, 24)
        self._column.setSpacing(8)
        head = QHBoxLayout()
        head.addWidget(label(tr("Drop an image here, or start with one of these"), "title"), 1)
        self.tour = QPushButton(tr("Take the tour"))
        self.tour.setToolTip(tr("Five steps on a demo home folder"))
        self.tour.clicked.connect(self.tour_asked)
        head.addWidget(self.tour)
        self._column.addLayout(head)
        self.now = self._section(tr("Current wallpaper"))
        self.pictures = self._section(tr("Images on this computer"))
        self.schemes = self._section(tr("Schemes, without an image"))
        self._column.addStretch(1)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # its tiles take the focus, and it follows them
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(inner)
        plain_column(self, 0).addWidget(area)
        self.tiles: dict[str, QToolButton] = {}
        for scheme in READY:
            tile = self._tile(scheme.title, _bands(scheme.colours))
            tile.clicked.connect(lambda _=False, name=scheme.id: self.scheme_chosen.emit(name))
            self._put(self.schemes, tile)
            self.tiles[scheme.id] = tile

    def _section(self, title: str) -> QWidget:
        box = QWidget()
        column = plain_column(box, 6)
        column.addWidget(label(title, "section"))
        rows = QWidget()
        tiles = Flow(10, packed=True)
        tiles.setContentsMargins(0, 0, 0, 0)
        rows.setLayout(tiles)
        column.addWidget(rows)
        self._column.addWidget(box)
        box.hide()
        return rows

    def _put(self, rows: QWidget, tile: QWidget) -> None:
        layout, box = rows.layout(), rows.parentWidget()
        assert layout is not None and box is not None
        layout.addWidget(tile)
        box.show()

    def _tile(self, title: str, image: QImage) -> QToolButton:
        tile = QToolButton()
        tile.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
        tile.setIconSize(QSize(_TILE.width(), _TILE.height() + _STRIP))
        tile.setIcon(untinted(QPixmap.fromImage(image)))
        tile.setText(tile.fontMetrics().elidedText(title, Qt.TextElideMode.ElideRight, _TILE.width()))
        tile.setAccessibleName(title)
        tile.setAutoRaise(True)
        return tile

    def add_picture(self, path: Path, seen: PictureSummary, now: bool = False) -> None:
        """Offer a picture with its colours; now: whether it is the one on the screen."""
        image = _framed(QImage.fromData(seen.thumbnail, "JPEG"), [(s.colour, s.share) for s in seen.swatches])
        tile = self._tile(name_of(path), image)
        tile.setToolTip(str(path))
        tile.clicked.connect(lambda: self.picture_chosen.emit(str(path)))
        self._put(self.now if now else self.pictures, tile)
        self.tiles[str(path)] = tile

    def clear_pictures(self) -> None:
        """Offer no pictures, before those of another home come."""
        for rows in (self.now, self.pictures):
            layout, box = rows.layout(), rows.parentWidget()
            while layout is not None and layout.count():
                item = layout.takeAt(0)
                tile = item.widget() if item is not None else None
                if tile is not None:
                    tile.deleteLater()
            if box is not None:
                box.hide()
        schemes = {scheme.id for scheme in READY}
        self.tiles = {key: tile for key, tile in self.tiles.items() if key in schemes}


def _framed(picture: QImage, swatches: Sequence[tuple[Rgba, float]]) -> QImage:
    """Return a tile: the picture cut to its shape, and its colours by their shares below."""
    out = QImage(_TILE.width(), _TILE.height() + _STRIP, QImage.Format.Format_RGB32)
    out.fill(Qt.GlobalColor.black)
    cut = picture.scaled(
        _TILE, Qt.AspectRatioMode.KeepAspectRatioByExpanding, Qt.TransformationMode.SmoothTransformation
    )
    p = QPainter(out)
    p.drawImage(
        0,
        0,
        cut.copy(
            (cut.width() - _TILE.width()) // 2, (cut.height() - _TILE.height()) // 2, _TILE.width(), _TILE.height()
        ),
    )
    x, total = 0.0, sum(share for _, share in swatches) or 1.0
    for colour, share in swatches:
        wide = _TILE.width() * share / total
        p.fillRect(QRectF(x, _TILE.height(), wide + 1, _STRIP), qcolor(colour))
        x += wide
    p.end()
    return out


def _bands(colours: Sequence[Rgba]) -> QImage:
    """Return a tile of a scheme: its colours as bands."""
    out = QImage(_TILE.width(), _TILE.height() + _STRIP, QImage.Format.Format_RGB32)
    p = QPainter(out)
    wide = out.width() / len(colours)
    for i, colour in enumerate(colours):
        p.fillRect(QRectF(i * wide, 0, wide + 1, out.height()), qcolor(colour))
    p.end()
    return out
