"""The panels on the right of the window: plain ones, of several pages under tabs, and of pages that a list leads to."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import TypeVar

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QLayout,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from ...language import keys, titled, with_note
from .flow import Flow
from .parts import label, set_margins, sideways


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
        self.back = QPushButton(back)
        self.back.setToolTip(with_note(back, keys(QKeySequence(QKeySequence.StandardKey.Back).toString())))
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

    def name_page(self, name: str, title: str) -> None:
        """Give a page another title."""
        self.pages[name] = title, self.pages[name][1]
        if self.page == name:
            self.page_title.setText(title)

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
