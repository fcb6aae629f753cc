"""The wall of programs: real pictures of each with the look, the worst first, and one of them large."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QImage, QKeyEvent, QPainter, QResizeEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QStackedWidget,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from ...language import comma_separated, titled, tr
from ...proof.rehearsal.conductor import Rehearsed
from ...proof.rehearsal.verdict import state_title
from ..kit.card import draw_card
from ..kit.parts import label, plain_column, row_box
from ..kit.style import Style
from .before_after import BeforeAfter
from .programs import Programs, image_of

_LEAST, _SHARE = 216, 1.5  # width of a card's picture at least, and its proportions
_EDGE = 6  # pixels of the list around its cards
_BESIDE, _UNDER = 18, 58  # pixels of a card around its picture
_ROW = int(Qt.ItemDataRole.UserRole)
MARKS = {
    "as_look": ("✓", "good"),
    "unreadable": ("✗", "bad"),
    "other": ("≠", "bad"),
    "own": ("○", "quiet"),
    "failed": ("!", "bad"),
    "absent": ("–", "quiet"),
}


class _Cards(QStyledItemDelegate):
    """Draws a program: its picture, what it is, and how it stands."""

    def __init__(self, style: Style, wall: ProgramWall) -> None:
        super().__init__(wall)
        self._style, self._wall = style, wall

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """Return a cell's size."""
        small = self._wall.small_size()
        return QSize(small.width() + _BESIDE, small.height() + _UNDER)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """Paint a cell."""
        row: Rehearsed | None = index.data(_ROW)
        if painter is None or row is None:
            return
        s = self._style
        painter.save()
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        box = row_box(painter, option, s)
        small = self._wall.small_size()
        frame = QRectF(box.x() + 7, box.y() + 7, small.width(), small.height())
        title, (mark, kind) = row.component.title, MARKS[row.state]
        name = title if row.program in title.lower() else titled(title, row.program)
        words = (name, f"{mark} {state_title(row.state)}", s.c(kind))
        draw_card(painter, s, frame, self._wall.small(row), s.c("sunken"), words)
        painter.restore()


class ProgramWall(QWidget):
    """All programs as cards, or one of them large; what is going on stands above."""

    chosen = pyqtSignal(object)  # a Rehearsed
    place_chosen = pyqtSignal(int)

    def __init__(self, programs: Programs, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._programs, self._style = programs, style
        self._small: dict[int, tuple[Rehearsed, QImage]] = {}
        column = plain_column(self, 6)
        column.setContentsMargins(10, 8, 10, 8)
        head = QHBoxLayout()
        self.words = label("", "section")
        head.addWidget(self.words, 1)
        self.bar = QProgressBar()
        self.bar.setFixedWidth(180)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName(tr("Programs tried"))
        head.addWidget(self.bar)
        self.back = QPushButton(tr("All programs"))
        self.back.setToolTip(tr("Show all of them (Escape)"))
        self.back.clicked.connect(self.show_all)
        head.addWidget(self.back)
        column.addLayout(head)
        self.stack = QStackedWidget()
        column.addWidget(self.stack, 1)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Programs, worst first"))
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setUniformItemSizes(True)
        self.list.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.list.setItemDelegate(_Cards(style, self))
        self.list.currentItemChanged.connect(lambda *_: self._tell())
        self.list.itemActivated.connect(lambda _: self.show_one())
        self.list.itemClicked.connect(lambda _: self.show_one())
        self.stack.addWidget(self.list)
        self.empty = label("", "quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        blank = QWidget()
        inside = QVBoxLayout(blank)
        inside.addStretch(2)
        inside.addWidget(self.empty)
        self.begin = QPushButton(tr("Try my programs"))
        self.begin.setProperty("main", True)
        self.begin.setToolTip(tr("Start them in a hidden session; nothing in your home folder changes"))
        self.begin.clicked.connect(lambda: programs.start())
        inside.addWidget(self.begin, 0, Qt.AlignmentFlag.AlignHCenter)
        inside.addStretch(3)
        self.stack.addWidget(blank)
        self.large = BeforeAfter(style)
        self.large.place_chosen.connect(self.place_chosen)
        self.stack.addWidget(self.large)
        programs.changed.connect(self.refresh)
        programs.progressed.connect(self._progress)
        self.refresh()

    def small_size(self) -> QSize:
        """Return how large a card's picture is: as many fill a row as there is room for."""
        bar = self.list.verticalScrollBar()
        room = self.list.width() - (bar.sizeHint().width() if bar is not None else 0) - 2 * _EDGE
        number = max(1, room // (_LEAST + _BESIDE))
        wide = room // number - _BESIDE
        return QSize(wide, round(wide / _SHARE))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Let the cards fill their rows."""
        super().resizeEvent(event)
        QTimer.singleShot(0, self._lay)  # when the list has its new size

    def _lay(self) -> None:
        small = self.small_size()
        cell = QSize(small.width() + _BESIDE, small.height() + _UNDER)
        if cell != self.list.gridSize():
            self._small.clear()
            self.list.setGridSize(cell)

    def small(self, row: Rehearsed) -> QImage:
        """Return a program's picture as a card shows it: what it painted, in the proportions of the card."""
        kept = self._small.get(id(row))
        if kept is not None and kept[0] is row:
            return kept[1]
        whole = image_of(row.picture)
        image = whole
        if not whole.isNull():
            x, y, wide, high = row.box
            share = _SHARE
            wide = max(wide + 24, 360)
            high = max(high + 24, int(wide / share))
            wide = max(wide, int(high * share))
            if high > whole.height():  # a tall picture shows its top
                high, wide = whole.height(), min(whole.width(), int(whole.height() * share))
            wide, high = min(wide, whole.width()), min(int(wide / share), whole.height())
            left = min(max(0, x - 12), whole.width() - wide)
            top = min(max(0, y - 12), whole.height() - high)
            ratio = self.devicePixelRatioF()
            size = self.small_size() * ratio
            image = whole.copy(left, top, wide, high).scaled(
                size, Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
            )
        self._small[id(row)] = (row, image)
        return image

    def current(self) -> Rehearsed | None:
        """Return the program that is chosen."""
        item = self.list.currentItem()
        found: Rehearsed | None = item.data(_ROW) if item is not None else None
        return found

    def refresh(self) -> None:
        """Show what is known."""
        programs, keep = self._programs, self.current()
        rows = programs.rows
        self.list.blockSignals(True)
        self.list.clear()
        for row in rows:
            item = QListWidgetItem()
            item.setData(_ROW, row)
            item.setData(
                Qt.ItemDataRole.DisplayRole, titled(comma_separated((row.component.title, row.program)), row.words)
            )
            item.setToolTip(row.words)
            self.list.addItem(item)
            if keep is not None and row.id == keep.id:
                self.list.setCurrentItem(item)
        self.list.blockSignals(False)
        if not rows:
            self._small.clear()
            self.stack.setCurrentIndex(1)
        elif self.stack.currentIndex() == 1:
            self.show_all()
        elif self.stack.currentIndex() == 2 and self.current() is not keep:
            self.show_one()
        self.say()
        self._tell()

    def say(self) -> None:
        """Say what is going on, and what can be done."""
        programs = self._programs
        running, reason = programs.running, programs.reason_not
        self.bar.setVisible(running)
        self.back.setVisible(self.stack.currentIndex() == 2)
        if self.stack.currentIndex() == 2 and (row := self.current()) is not None:
            self.words.setText(f"{row.component.title} · {row.program} {row.version}".rstrip())
        elif running:
            self.words.setText(tr("Trying your programs in a hidden session …"))
        else:
            self.words.setText(programs.summary or tr("Your programs with this look"))
        self.begin.setVisible(not running and not reason)
        self.empty.setText(
            reason
            or (
                tr("The first images appear in a moment.")
                if running
                else tr(
                    "Real programs of this computer are started with the look in a hidden session,\n"
                    "and the text in their screenshots is measured. Nothing in your home folder "
                    "changes."
                )
            )
        )

    def _progress(self, done: int, total: int, _note: str) -> None:
        self.bar.setMaximum(max(1, total))
        self.bar.setValue(done)

    def _tell(self) -> None:
        self.chosen.emit(self.current())

    def show_all(self) -> None:
        """Show the cards."""
        self.stack.setCurrentIndex(0 if self._programs.rows else 1)
        self._lay()
        self.say()
        self.list.setFocus()

    def show_one(self) -> None:
        """Show the chosen program large."""
        row = self.current()
        if row is None:
            return
        boxes = [(row.box[0] + b[0], row.box[1] + b[1], b[2], b[3]) for text in row.shown.short for b in text.boxes[:1]]
        self.large.show_pair(image_of(row.before), image_of(row.picture), boxes)
        self.stack.setCurrentIndex(2)
        self.say()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Go back to the cards by Escape."""
        if event is not None and event.key() == Qt.Key.Key_Escape and self.stack.currentIndex() == 2:
            self.show_all()
            return
        super().keyPressEvent(event)
