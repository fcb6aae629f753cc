"""Small things that every panel is made of."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import TypeVar

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QIcon,
    QKeyEvent,
    QKeySequence,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
)
from PyQt6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QStackedWidget,
    QStyle,
    QStyleOptionViewItem,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from ...colour.rgb import Rgba
from ...errors import shown
from ...language import in_its_direction, keys, right_to_left, titled, tr
from .fields import ComboBox
from .flow import Flow
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


def _scrolling() -> tuple[QScrollArea, QVBoxLayout]:
    """Return an area that scrolls up and down, and the column inside it."""
    inside = QWidget()
    column = QVBoxLayout(inside)
    set_margins(column, 0, 0, 10, 0)
    column.setSpacing(8)
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setWidget(inside)
    area.viewport().setAutoFillBackground(False)  # type: ignore[union-attr]
    inside.setAutoFillBackground(False)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    return area, column


def set_margins(of: QLayout | QWidget, start: int, top: int, end: int, bottom: int) -> None:
    """Set margins, in px, by where a line starts and ends; the toolkit knows left and right only."""
    left, right = (end, start) if right_to_left() else (start, end)
    of.setContentsMargins(left, top, right, bottom)


class _Framed(QWidget):
    """A title and a line under it, then what a panel holds, then a foot that stays in sight."""

    def __init__(self, title: str, under: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.outer = QVBoxLayout(self)
        set_margins(self.outer, 16, 14, 4, 12)
        self.outer.setSpacing(8)
        self.outer.addWidget(label(title, "title"))
        self.under = label(under, "quiet")
        set_margins(self.under, 0, 0, 12, 0)
        self.outer.addWidget(self.under)
        self.foot = QVBoxLayout()
        set_margins(self.foot, 0, 0, 12, 0)


class Panel(_Framed):
    """The right-hand side of one step: a title, a line under it, and a column of things.

    scrolls: whether the column does; not where a list in it does that itself.
    """

    def __init__(self, title: str, under: str, parent: QWidget | None = None, scrolls: bool = True) -> None:
        super().__init__(title, under, parent)
        if scrolls:
            area, self.column = _scrolling()
            self.outer.addWidget(area, 1)
        else:
            self.column = QVBoxLayout()
            set_margins(self.column, 0, 0, 12, 0)
            self.column.setSpacing(8)
            self.outer.addLayout(self.column, 1)
        self.outer.addLayout(self.foot)


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


class TabButton(QPushButton):
    """One tab of a row; the arrow keys go to its neighbours."""

    def __init__(self, words: str, tip: str) -> None:
        super().__init__(words)
        self.setCheckable(True)
        self.setAutoExclusive(True)  # so that it is told as one of several
        self.setProperty("tab", True)
        self.setToolTip(tip)
        self.setAccessibleName(titled(words, tip))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Go to the tab before or after."""
        step = sideways(event)
        group = self.group()
        if not step or group is None:
            super().keyPressEvent(event)
            return
        buttons = group.buttons()
        other = buttons[(buttons.index(self) + step) % len(buttons)]
        other.setFocus()
        other.click()


def add_tab(row: QLayout, group: QButtonGroup, words: str, tip: str, show: Callable[[], object]) -> TabButton:
    """Return one more tab of a row."""
    button = TabButton(words, tip)
    button.clicked.connect(lambda: show())
    group.addButton(button)
    row.addWidget(button)
    return button


def tab_row(
    owner: QWidget, rows: Sequence[tuple[str, str, str]], show: Callable[[str], object]
) -> tuple[QLayout, dict[str, TabButton]]:
    """Return a row of tabs, one of them pressed, and the tabs by id. rows: id, words and tip; show: is given the id."""
    row = Flow()
    group = QButtonGroup(owner)
    tabs: dict[str, TabButton] = {}
    for name, words, tip in rows:
        tabs[name] = add_tab(row, group, words, tip, partial(show, name))
    tabs[rows[0][0]].setChecked(True)
    return row, tabs


def tab_bar(
    name: str, rows: Sequence[tuple[str, str, str]], show: Callable[[str], object]
) -> tuple[QWidget, dict[str, TabButton]]:
    """Return a row of tabs as a widget of its own, for what they stand over; name: what it is told as."""
    bar = QWidget()
    bar.setAccessibleName(name)
    row, tabs = tab_row(bar, rows, show)
    row.setContentsMargins(10, 4, 10, 0)
    bar.setLayout(row)
    return bar, tabs


W = TypeVar("W", bound=QWidget)


class _Pages(_Framed):
    """A panel of several pages, one of them in sight."""

    page_changed = pyqtSignal(str)

    def __init__(self, title: str, under: str, parent: QWidget | None = None) -> None:
        super().__init__(title, under, parent)
        self.above = QWidget()  # what stands over the pages
        self._stack = QStackedWidget()
        self._names: list[str] = []
        self.outer.addWidget(self.above)
        self.outer.addWidget(self._stack, 1)
        self.outer.addLayout(self.foot)
        self.page = ""

    def _add(self, name: str, page: QWidget, fills: bool, scrolls: bool) -> None:
        if scrolls:
            area, column = _scrolling()
            column.addWidget(page)
            if not fills:
                column.addStretch(1)
            self._stack.addWidget(area)
        else:
            set_margins(page, 0, 0, 12, 0)
            self._stack.addWidget(page)
        self._names.append(name)
        self.page = self.page or name

    def show_page_of(self, widget: QWidget) -> None:
        """Bring the page in sight that a widget stands on."""
        for at, name in enumerate(self._names):
            page = self._stack.widget(at)
            if page is not None and page.isAncestorOf(widget):
                self.show_page(name)

    def show_page(self, name: str) -> None:
        """Bring a page in sight."""
        self._stack.setCurrentIndex(self._names.index(name))
        if name != self.page:
            self.page = name
            self.page_changed.emit(name)


class PagedPanel(_Pages):
    """A panel of several pages, chosen by a row of tabs."""

    def __init__(self, title: str, under: str, parent: QWidget | None = None) -> None:
        super().__init__(title, under, parent)
        self._row, self._group = Flow(), QButtonGroup(self)
        set_margins(self._row, 0, 0, 12, 0)
        self.above.setLayout(self._row)
        self.tabs: dict[str, TabButton] = {}

    def add(self, name: str, words: str, tip: str, page: W, fills: bool = False, scrolls: bool = True) -> W:
        """Add a page under a tab of its own and return it.

        fills: whether it takes all the height there is; scrolls: whether the page does, not where a list in it does.
        """
        self._add(name, page, fills, scrolls)
        self.tabs[name] = add_tab(self._row, self._group, words, tip, lambda: self.show_page(name))
        self.tabs[self.page].setChecked(True)
        return page

    def show_page(self, name: str) -> None:
        """Bring a page in sight."""
        self.tabs[name].setChecked(True)
        super().show_page(name)


class ListedPanel(_Pages):
    """A panel whose first page is a list that leads to the others, each with a way back over it."""

    def __init__(self, title: str, under: str, back: str, parent: QWidget | None = None) -> None:
        """back: what the list is called."""
        super().__init__(title, under, parent)
        self.pages: dict[str, tuple[str, str]] = {}  # by id, the title and the plain line of a page
        row = QHBoxLayout(self.above)
        set_margins(row, 0, 0, 12, 0)
        self.back = QToolButton()
        self.back.setText(back)
        self.back.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.back.setArrowType(Qt.ArrowType.RightArrow if right_to_left() else Qt.ArrowType.LeftArrow)
        self.back.setToolTip(keys(QKeySequence(QKeySequence.StandardKey.Back).toString()))
        self.back.clicked.connect(lambda: self.show_page(self._names[0]))
        self.page_title = label("", "section")
        row.addWidget(self.back)
        row.addWidget(self.page_title, 1)
        self.above.hide()

    def add(self, name: str, title: str, tip: str, page: W, scrolls: bool = True) -> W:
        """Add a page and return it; title: over it, empty where the page says itself what it is about."""
        self._add(name, page, False, scrolls)
        self.pages[name] = title, tip
        return page

    def show_page(self, name: str) -> None:
        """Bring a page in sight, the way back over all but the list."""
        first = name == self._names[0]
        self.above.setVisible(not first)
        self.under.setVisible(first)
        self.page_title.setText(self.pages[name][0])
        super().show_page(name)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Go back to the list by Alt+Left, as browsers do."""
        if event is not None and event.matches(QKeySequence.StandardKey.Back) and self.page != self._names[0]:
            self.show_page(self._names[0])
            return
        super().keyPressEvent(event)


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
