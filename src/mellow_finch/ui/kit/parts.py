"""Small things that every panel is made of."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QIcon,
    QKeyEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
)
from PyQt6.QtWidgets import (
    QLabel,
    QLayout,
    QSizePolicy,
    QStyle,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from ...colour.rgb import Rgba
from ...errors import shown
from ...language import in_its_direction, right_to_left, tr
from .fields import ComboBox
from .style import Style, qcolor


class PlainLabel(QLabel):
    """A label that spells control characters out: names in it come from files."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        if right_to_left():  # the toolkit lets each text choose its own side
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignAbsolute
            self.setAlignment(right | Qt.AlignmentFlag.AlignVCenter)

    def setText(self, words: str | None) -> None:
        """Show words, in the language's own direction though they begin with a foreign name."""
        super().setText(in_its_direction(shown(words or "")))


class ElidedLabel(PlainLabel):
    """One line that ends in dots where it has no room for all, and then tells all of it when pointed at."""

    def setText(self, words: str | None) -> None:
        """Show words."""
        super().setText(words)
        self.setToolTip(self.text())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Draw as many words as there is room for."""
        painter = QPainter(self)
        short = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.contentsRect().width())
        style = self.style()
        if style is not None:
            align = int(self.alignment())
            style.drawItemText(
                painter, self.contentsRect(), align, self.palette(), self.isEnabled(), short, self.foregroundRole()
            )


_EDGE = QColor(128, 128, 128)  # seen on dark and on light windows


def swatch(colour: Rgba, size: QSize, edge: QColor = _EDGE, scale: float = 1.0) -> QIcon:
    """Return a small area of a colour with an edge; scale: pixels of the screen by one of the window's."""
    made = QPixmap(size * scale)
    made.setDevicePixelRatio(scale)
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    painter.setPen(QPen(edge, 1))
    painter.setBrush(qcolor(colour))
    painter.drawRect(QRectF(0.5, 0.5, size.width() - 1, size.height() - 1))
    painter.end()
    return untinted(made)


def untinted(pixmap: QPixmap) -> QIcon:
    """Return a picture as an icon that looks the same where its row is chosen, hovered or off: its colours count."""
    icon = QIcon()
    for mode in (QIcon.Mode.Normal, QIcon.Mode.Selected, QIcon.Mode.Active, QIcon.Mode.Disabled):
        icon.addPixmap(pixmap, mode)
    return icon


def label(words: str = "", kind: str = "", wrap: bool = True) -> QLabel:
    """Return a label; kind is one of the style's: title, section, quiet, bad, good."""
    made = PlainLabel()
    made.setText(words)
    made.setProperty("kind", kind)
    made.setWordWrap(wrap)
    made.setTextFormat(Qt.TextFormat.PlainText)
    return made


def set_kind(made: QWidget, kind: str) -> None:
    """Give a label, or a field, another kind."""
    if made.property("kind") != kind:
        made.setProperty("kind", kind)
        style = made.style()
        if style is not None:
            style.unpolish(made)
            style.polish(made)
        made.updateGeometry()  # other letters may need other lines


def row_box(painter: QPainter, option: QStyleOptionViewItem, style: Style) -> QRectF:
    """Return where a row of a list is drawn, marked first when it is chosen."""
    box = QRectF(option.rect).adjusted(2, 1, -2, -1)
    if option.state & QStyle.StateFlag.State_Selected:
        painter.setPen(QPen(style.c("accent"), 2))
        painter.setBrush(style.c("pressed"))
        painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), 5, 5)
    return box


def take_files(event: QDragEnterEvent | None) -> None:
    """Take what is dragged over a widget if it is files."""
    data = event.mimeData() if event is not None else None
    if event is not None and data is not None and data.hasUrls():
        event.acceptProposedAction()


def dropped_files(event: QDropEvent | None) -> list[str]:
    """Return the paths of the files that were dropped."""
    data = event.mimeData() if event is not None else None
    return [url.toLocalFile() for url in data.urls() if url.isLocalFile()] if data is not None else []


class Choice(ComboBox):
    """A combo box that is told by its name too; the toolkit tells its value in the name's place."""

    def setAccessibleName(self, name: str | None) -> None:
        """Name it."""
        super().setAccessibleName(name)
        self.setAccessibleDescription(name)


class BufferedWidget(QLabel):
    """A widget that paints itself. To those who do not see it, it is told as a picture, not as a room for others."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        nothing = QPixmap(1, 1)
        nothing.fill(Qt.GlobalColor.transparent)
        self.setPixmap(nothing)  # what the toolkit takes for a picture


class DropTarget(BufferedWidget):
    """Something that files can be dropped on."""

    dropped = pyqtSignal(object)  # the paths of files

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAcceptDrops(True)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take files."""
        take_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Tell which files were dropped."""
        paths = dropped_files(event)
        if paths:
            self.dropped.emit(paths)


def plain_column(widget: QWidget, spacing: int) -> QVBoxLayout:
    """Give a page a column that begins at its very edges."""
    column = QVBoxLayout(widget)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(spacing)
    return column


def emptied(layout: QLayout) -> None:
    """Take everything out of a layout and let it go."""
    while layout.count():
        item = layout.takeAt(0)
        if item is None:
            continue
        widget, inner = item.widget(), item.layout()
        if widget is not None:
            widget.setParent(None)
            widget.deleteLater()
        elif inner is not None:
            emptied(inner)


def set_margins(of: QLayout | QWidget, start: int, top: int, end: int, bottom: int) -> None:
    """Set margins, in px, by where a line starts and ends; the toolkit knows left and right only."""
    left, right = (end, start) if right_to_left() else (start, end)
    of.setContentsMargins(left, top, right, bottom)


def sideways(event: QKeyEvent | None) -> int:
    """Return 1 for the arrow key that goes on in a row, -1 for the one that goes back, 0 for any other key."""
    step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()), 0) if event is not None else 0
    return -step if right_to_left() else step


def placed(rect: QRectF, box: QRectF) -> QRectF:
    """Return where a part of a box lies, on the other side of it where a line goes from right to left."""
    if not right_to_left():
        return rect
    return QRectF(box.left() + box.right() - rect.right(), rect.y(), rect.width(), rect.height())


def mirrored(p: QPainter, width: float) -> None:
    """Let what is painted along a line from low to high go from right to left where the language does; no letters."""
    if right_to_left():
        p.translate(width, 0)
        p.scale(-1, 1)


class Bar(QWidget):
    """A figure of 0..100 as a bar, its number beside it."""

    def __init__(self, style: Style, value: float, name: str) -> None:
        super().__init__()
        self._style, self._value, self._name = style, value, name
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.set_value(value)

    def sizeHint(self) -> QSize:
        """Return a low, wide size."""
        return QSize(90, 16)

    def set_value(self, value: float) -> None:
        """Show another figure."""
        self._value = value
        words = tr("{name}: {value:.0f} of 100").format(name=self._name, value=value)
        self.setAccessibleName(words)
        self.setToolTip(words)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the bar."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        words = f"{self._value:.0f}"
        box = QRectF(0.5, (self.height() - 8) / 2, self.width() - 31, 8)
        p.setPen(QPen(self._style.c("edge"), 1))
        p.setBrush(self._style.c("sunken"))
        p.drawRoundedRect(box, 4, 4)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(self._style.c("accent"))
        share = min(1.0, max(0.0, self._value / 100))
        p.drawRoundedRect(QRectF(box.x(), box.y(), max(8.0, box.width() * share), 8), 4, 4)
        p.setPen(self._style.c("text"))
        p.drawText(
            QRectF(box.right() + 4, 0, 26, self.height()),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            words,
        )
