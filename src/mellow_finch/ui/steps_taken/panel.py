"""The steps taken as small desktops: going to one, comparing any two, and keeping states as variants."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QModelIndex, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QImage, QPainter, QPen
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from ...language import tone_word, tr
from ...look.edits import as_variant, with_variant, without_variant
from ...look.model import Look
from ..kit.flow import Flow
from ..kit.panels import Panel
from ..kit.parts import label, placed, row_box
from ..kit.style import FAMILY, Style
from ..model.document import Document, HistoryState
from ..stage.staging import SMALL

_STATE = Qt.ItemDataRole.UserRole
_INDEX, _NOTE = int(_STATE) + 1, int(_STATE) + 2


class StateDelegate(QStyledItemDelegate):
    """Draws a state: its small desktop, what led to it, and whether it is the one in force."""

    def __init__(self, style: Style, image_of: Callable[[Look], QImage | None], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style, self._image_of = style, image_of

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """Return a row's size."""
        return QSize(260, SMALL.height() + 12)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """Paint a row."""
        state: HistoryState | None = index.data(_STATE)
        if painter is None or state is None:
            return
        s = self._style
        painter.save()
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        box = row_box(painter, option, s)
        at = QRectF(box.x() + 6, box.y() + 5, SMALL.width(), SMALL.height())
        frame = placed(at, box)
        image = self._image_of(state.look)
        painter.fillRect(frame, s.c("sunken"))
        if image is not None:
            painter.drawImage(frame, image)
        painter.setPen(QPen(s.c("edge"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(frame)
        left = at.right() + 10
        font = QFont(FAMILY)
        font.setPointSizeF(10.5)
        note = str(index.data(_NOTE) or "")
        font.setBold(bool(note))
        painter.setFont(font)
        painter.setPen(s.c("text"))
        words = placed(QRectF(left, box.y() + 6, box.right() - left - 6, 40), box)
        painter.drawText(words, int(Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap), state.words)
        font.setBold(False)
        font.setPointSizeF(9.5)
        painter.setFont(font)
        painter.setPen(s.c("text" if option.state & QStyle.StateFlag.State_Selected else "quiet"))
        under = placed(QRectF(left, box.bottom() - 26, box.right() - left - 6, 20), box)
        painter.drawText(under, Qt.AlignmentFlag.AlignVCenter, note or tone_word(state.look.tone))
        painter.restore()


class StepsPanel(Panel):
    """Goes to states, compares them, keeps variants, all through the document."""

    closed = pyqtSignal()
    images_wanted = pyqtSignal(object)  # looks whose small desktops are not there yet
    compared = pyqtSignal()
    shelf_asked = pyqtSignal(object)  # a look that is to be kept on the Shelf
    name_asked = pyqtSignal(object)  # a function that takes the name of a variant

    def __init__(self, document: Document, style: Style, parent: QWidget | None = None) -> None:
        under = tr("Newest at the top. Select one step to go to it, or two to compare them.")
        super().__init__(tr("History"), under, parent, scrolls=False)
        self._document = document
        self._images: dict[int, tuple[Look, QImage]] = {}
        self._wanted: list[Look] = []
        self.list = self._made_list(tr("Steps, newest first"), style)
        self.list.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.list.itemActivated.connect(lambda _: self.go())
        self.list.itemSelectionChanged.connect(self._update_buttons)
        self.list.setMinimumHeight(130)
        self.column.addWidget(self.list, 3)
        row = Flow(6)
        self.go_button = QPushButton(tr("Go there"))
        self.go_button.setToolTip(tr("Undo or redo up to the selected step"))
        self.go_button.clicked.connect(self.go)
        self.compare_button = QPushButton(tr("Compare"))
        self.compare_button.setToolTip(
            tr("The selected step and the current look, or two selected steps, in split view")
        )
        self.compare_button.clicked.connect(self.compare)
        for button in (self.go_button, self.compare_button):
            row.addWidget(button)
        self.column.addLayout(row)
        row = Flow(6)
        self.keep_button = QPushButton(tr("Save in the look…"))
        self.keep_button.setToolTip(tr("Save the selected step as a variant, in the look's own file"))
        self.keep_button.clicked.connect(self.keep)
        self.shelve_button = QPushButton(tr("Save to the Shelf"))
        self.shelve_button.setToolTip(tr("Save the look of the selected step to the Shelf"))
        self.shelve_button.clicked.connect(self.shelve)
        for button in (self.keep_button, self.shelve_button):
            row.addWidget(button)
        self.column.addLayout(row)
        self.variant_title = label(tr("Variants"), "section")
        self.column.addWidget(self.variant_title)
        self.variants = self._made_list(tr("Saved variants"), style)
        self.variants.setMinimumHeight(72)
        self.variants.itemActivated.connect(lambda _: self.use())
        self.variants.itemSelectionChanged.connect(self._update_buttons)
        self.column.addWidget(self.variants, 1)
        row = Flow(6)
        self.use_button = QPushButton(tr("Use it"))
        self.use_button.setToolTip(tr("Continue with this variant; it can be undone"))
        self.use_button.clicked.connect(self.use)
        self.beside_button = QPushButton(tr("Compare"))
        self.beside_button.setToolTip(tr("The variant and the current look, in split view"))
        self.beside_button.clicked.connect(self.compare_variant)
        self.drop_button = QPushButton(tr("Delete it"))
        self.drop_button.setToolTip(tr("Delete the variant from the look; it can be undone"))
        self.drop_button.clicked.connect(self.drop)
        for button in (self.use_button, self.beside_button, self.drop_button):
            row.addWidget(button)
        self.column.addLayout(row)
        done = QPushButton(tr("Done"))
        done.clicked.connect(self.closed)
        self.foot.addWidget(done)

    def _made_list(self, name: str, style: Style) -> QListWidget:
        made = QListWidget()
        made.setAccessibleName(name)
        made.setItemDelegate(StateDelegate(style, self.image_of, made))
        made.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        made.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        return made

    def image_of(self, look: Look) -> QImage | None:
        """Return the small desktop of a look, asking for it when it is not there yet."""
        found = self._images.get(id(look))
        if found is not None and found[0] is look:
            return found[1]
        if not any(look is w for w in self._wanted):
            self._wanted.append(look)
            self.images_wanted.emit(look)
        return None

    def give_image(self, look: Look, image: QImage) -> None:
        """Take the small desktop of a look."""
        self._images[id(look)] = (look, image)
        self._wanted = [w for w in self._wanted if w is not look]
        for view in (self.list.viewport(), self.variants.viewport()):
            if view is not None:
                view.update()

    def forget_images(self) -> None:
        """Drop every small desktop: the picture or the home behind them has changed."""
        self._images, self._wanted = {}, []

    def refresh(self) -> None:
        """Show the steps and the variants there are."""
        look = self._document.look
        states = self._document.states()
        alive = {id(s.look) for s in states} | ({id(v) for v in look.variants} if look is not None else set())
        self._images = {k: v for k, v in self._images.items() if k in alive}
        now = self._document.stack.index()
        rows = [(i, s, tr("current") if i == now else "") for i, s in enumerate(states)]
        self._fill(self.list, list(reversed(rows)))
        self.list.setCurrentRow(len(states) - 1 - now)
        kept = look.variants if look is not None else ()
        self._fill(self.variants, [(i, HistoryState(v.name, v), "") for i, v in enumerate(kept)])
        self.variant_title.setText(tr("Variants") if kept else tr("Variants: none saved yet"))
        self.variants.setVisible(bool(kept))
        for button in (self.use_button, self.beside_button, self.drop_button):
            button.setVisible(bool(kept))
        self._update_buttons()

    @staticmethod
    def _fill(made: QListWidget, rows: Sequence[tuple[int, HistoryState, str]]) -> None:
        made.blockSignals(True)
        made.clear()
        for index, state, note in rows:
            item = QListWidgetItem()
            item.setData(_STATE, state)
            item.setData(_INDEX, index)
            item.setData(_NOTE, note)
            item.setToolTip(state.words)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{state.words}{', ' + note if note else ''}")
            made.addItem(item)
        made.blockSignals(False)

    def chosen(self) -> list[tuple[int, HistoryState]]:
        """Return the chosen steps, oldest first."""
        return sorted(
            ((item.data(_INDEX), item.data(_STATE)) for item in self.list.selectedItems()), key=lambda row: row[0]
        )

    def _variant(self) -> HistoryState | None:
        item = self.variants.currentItem()
        state: HistoryState | None = item.data(_STATE) if item is not None else None
        return state

    def _update_buttons(self) -> None:
        count = len(self.chosen())
        self.go_button.setEnabled(count == 1)
        self.keep_button.setEnabled(count == 1)
        self.shelve_button.setEnabled(count == 1)
        self.compare_button.setEnabled(count in (1, 2))
        self.compare_button.setText(tr("Compare the two") if count == 2 else tr("Compare"))
        for button in (self.use_button, self.beside_button, self.drop_button):
            button.setEnabled(self._variant() is not None)

    def go(self) -> None:
        """Go to the chosen step."""
        rows = self.chosen()
        if len(rows) == 1:
            self._document.stack.setIndex(rows[0][0])

    def compare(self) -> None:
        """Lay the chosen step beside the look now, or two chosen steps beside each other."""
        rows = self.chosen()
        if rows:
            self._document.set_beside(rows[0][1], rows[1][1] if len(rows) == 2 else None)
            self.compared.emit()

    def keep(self) -> None:
        """Keep the chosen step as a variant, under a name that is asked for."""
        rows = self.chosen()
        if len(rows) == 1:
            state = rows[0][1]
            self.name_asked.emit(lambda name: self.keep_as(state, name))

    def shelve(self) -> None:
        """Put the chosen step onto the Shelf."""
        rows = self.chosen()
        if len(rows) == 1:
            self.shelf_asked.emit(rows[0][1].look)

    def keep_as(self, state: HistoryState, name: str) -> None:
        """Keep a state as a variant."""
        self._document.edit(tr("Save “{name}”").format(name=name), lambda look: with_variant(look, state.look, name))

    def use(self) -> None:
        """Make the chosen variant the look in force."""
        state = self._variant()
        if state is not None:
            self._document.edit(
                tr("Use “{words}”").format(words=state.words), lambda look: as_variant(look, state.words)
            )

    def compare_variant(self) -> None:
        """Lay the chosen variant beside the look now."""
        state = self._variant()
        if state is not None:
            self._document.set_beside(state, None)
            self.compared.emit()

    def drop(self) -> None:
        """Let the chosen variant go."""
        state = self._variant()
        if state is not None:
            self._document.edit(
                tr("Delete “{words}”").format(words=state.words), lambda look: without_variant(look, state.words)
            )
