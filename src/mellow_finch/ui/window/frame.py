"""How the window is laid out: header, ribbon, the tour, then centre and panel side by side, then the footer."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QSplitter, QStackedWidget, QVBoxLayout, QWidget

from ...language import tr
from ..kit.jobs import Jobs
from ..kit.parts import label
from ..kit.style import Style
from .banners import Banners, Notice
from .header import Header
from .track import StepTrack

SIDE = (320, 520)  # pixels that the panel of a step is wide at least and at most
_BAR = 40  # pixels that the tabs over the centre take
_RIBBON = 50  # pixels that the plumage takes
_LEAST_HIGH = 440
FIRST_HINT = tr("Start from one or several images, a scheme, a palette file or a theme.")


class WindowFrame(QWidget):
    """Knows no look. told: what is told unasked, over the centre; led: the tour's bar; first: the first view."""

    def __init__(
        self,
        style: Style,
        actions: Mapping[str, QAction],
        told: Iterable[QWidget],
        led: QWidget,
        first: QWidget,
        jobs: Jobs,
    ) -> None:
        super().__init__()
        self.setObjectName("page")
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        self.track = StepTrack(style)
        self.header = Header(style, actions, self.track, jobs)
        outer.addWidget(self.header)
        self._ribbon = QVBoxLayout()
        self._gap = QWidget()
        self._gap.setFixedHeight(_RIBBON)  # where the plumage will be
        self._ribbon.addWidget(self._gap)
        outer.addLayout(self._ribbon)
        outer.addWidget(led)
        self._bars = QStackedWidget()
        self._bars.setFixedHeight(_BAR)
        self._bars.hide()
        self.centre = QStackedWidget()
        self.centre.addWidget(first)
        work = QWidget()
        self._work = QVBoxLayout(work)
        self._work.setContentsMargins(0, 0, 0, 0)
        self._work.setSpacing(0)
        self._work.addWidget(self._bars)
        self._work.addWidget(self.centre, 1)
        self.side = QStackedWidget()
        self.side.setObjectName("panel")
        self.side.setMinimumWidth(SIDE[0])
        self.side.setMaximumWidth(SIDE[1])
        self.side.setMinimumHeight(_LEAST_HIGH)  # lists in it become shorter before the window grows
        self._bar_of: dict[QWidget, QWidget] = {}
        self.side.currentChanged.connect(lambda _: self._show_bar())
        self._splitter = QSplitter(Qt.Orientation.Horizontal)
        self._splitter.setHandleWidth(2)
        self._splitter.setChildrenCollapsible(False)
        self._splitter.addWidget(work)
        self._splitter.addWidget(self.side)
        self._splitter.setStretchFactor(0, 1)
        outer.addWidget(self._splitter, 1)
        outer.addWidget(self._made_footer())
        row = Notice()
        self.notice = row.words
        self.banners = Banners(self, work, (row, *told))

    def _made_footer(self) -> QWidget:
        footer = QWidget()
        footer.setObjectName("footer")
        footer.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(footer)
        row.setContentsMargins(14, 5, 14, 5)
        self.footer = QLabel(FIRST_HINT)
        self.footer.setTextFormat(Qt.TextFormat.PlainText)
        self.home = label("", "quiet", wrap=False)
        row.addWidget(self.footer, 1)
        row.addWidget(self.home)
        return footer

    def split(self, wide: int, side: int) -> None:
        """Give the panel of a step its width."""
        self._splitter.setSizes([max(1, wide - side), side])

    def complete(self, plumage: QWidget, strip: QWidget, stage: QWidget) -> None:
        """Take in what the first paint did without; the strip stands under the stage as long as that is in sight."""
        self._gap.hide()
        self._ribbon.addWidget(plumage)
        self._work.addWidget(strip)
        strip.hide()
        self.centre.currentChanged.connect(lambda _: strip.setVisible(self.centre.currentWidget() is stage))

    def take_bar(self, bar: QWidget | None, panel: QWidget) -> None:
        """Take in what stands over the centre as long as a panel is in sight."""
        if bar is not None:
            self._bars.addWidget(bar)
            self._bar_of[panel] = bar

    def _show_bar(self) -> None:
        panel = self.side.currentWidget()
        bar = self._bar_of.get(panel) if panel is not None else None
        if bar is not None:
            self._bars.setCurrentWidget(bar)
        self._bars.setVisible(bar is not None)

    def say_hint(self, words: str) -> None:
        """Say in the footer what a step is for, or where everything begins."""
        self.footer.setText(words or FIRST_HINT)
