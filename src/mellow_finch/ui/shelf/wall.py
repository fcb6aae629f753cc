"""The wall: saved looks as true small desktops, drawn when they come in sight, dark or light at a flick."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QModelIndex, QPoint, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QImage, QPainter, QPen
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from ...language import comma_separated, day, isolated, parted, tone_word, tr
from ...shelf.kept import KeptLook
from ..kit.card import draw_card
from ..kit.parts import label, placed, row_box
from ..kit.style import Style, qcolor

SMALL = QSize(256, 160)
_KEPT = int(Qt.ItemDataRole.UserRole)
_CELL = QSize(SMALL.width() + 20, SMALL.height() + 62)


class KeptDelegate(QStyledItemDelegate):
    """Draws a saved look: its small desktop, its name, what it is, and whether it is worn."""

    def __init__(self, style: Style, wall: Wall) -> None:
        super().__init__(wall)
        self._style, self._wall = style, wall

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """Return a cell's size."""
        return _CELL

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """Paint a cell."""
        kept: KeptLook | None = index.data(_KEPT)
        if painter is None or kept is None:
            return
        s = self._style
        painter.save()
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        box = row_box(painter, option, s)
        frame = QRectF(box.x() + 8, box.y() + 8, SMALL.width(), SMALL.height())
        tone = self._wall.tone_of(kept)
        ink = s.c("text" if option.state & QStyle.StateFlag.State_Selected else "quiet")
        words = (kept.name, self._wall.words_of(kept), ink)
        under = draw_card(painter, s, frame, self._wall.image_of(kept), qcolor(kept.windows[tone]), words)
        dot = placed(QRectF(under.right() - 14, under.y() + 4, 12, 12), under)
        painter.setPen(QPen(s.c("edge"), 1))
        painter.setBrush(qcolor(kept.accents[tone]))
        painter.drawEllipse(dot)
        painter.restore()


class Wall(QWidget):
    """Shows saved looks; several can be chosen. Small desktops are asked for as they come in sight."""

    chosen = pyqtSignal()
    opened = pyqtSignal(str)  # the id of a look that was activated
    menu_asked = pyqtSignal(QPoint)
    wanted = pyqtSignal(object, str)  # a saved look and a tone whose small desktop is not there

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.tone = ""  # "", each look's own; else the half that all are shown in
        self.worn = ""  # the name of the look that is worn
        self._images: dict[tuple[str, str], QImage] = {}
        self._asked: set[tuple[str, str]] = set()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self.empty: QLabel = label("", "quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Saved looks"))
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setUniformItemSizes(True)
        self.list.setSpacing(6)
        self.list.setGridSize(_CELL + QSize(8, 8))
        self.list.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.list.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.list.setItemDelegate(KeptDelegate(style, self))
        self.list.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.list.customContextMenuRequested.connect(self._ask_menu)
        self.list.itemSelectionChanged.connect(self.chosen)
        self.list.itemActivated.connect(lambda item: self.opened.emit(item.data(_KEPT).id))
        column.addWidget(self.empty, 1)
        column.addWidget(self.list, 1)

    def show_looks(self, rows: Iterable[KeptLook], empty: str) -> None:
        """Show looks in their order; empty: what to say where there are none."""
        before = set(self.ids())
        self.list.blockSignals(True)
        self.list.clear()
        for kept in rows:
            item = QListWidgetItem(kept.name)
            item.setData(_KEPT, kept)
            item.setToolTip(f"{kept.name}\n{self.words_of(kept)}" + (f"\n{parted(kept.tags)}" if kept.tags else ""))
            item.setSizeHint(_CELL)
            self.list.addItem(item)
            item.setSelected(kept.id in before)
        self.list.blockSignals(False)
        self.empty.setText(empty)
        self.empty.setVisible(not self.list.count())
        self.list.setVisible(bool(self.list.count()))
        self.chosen.emit()

    def tone_of(self, kept: KeptLook) -> str:
        """Return the half that a look is shown in."""
        return self.tone or kept.tone

    def show_tone(self, tone: str) -> None:
        """Show every look in one half, or each in its own."""
        self.tone = tone
        self.refresh()

    def refresh(self) -> None:
        """Paint anew what is in sight."""
        view = self.list.viewport()
        if view is not None:
            view.update()

    def words_of(self, kept: KeptLook) -> str:
        """Return what a look is, in a few words."""
        facts = [tone_word(self.tone_of(kept)), day(kept.kept)]
        if kept.name == self.worn:
            facts.insert(0, tr("applied"))
        if kept.strict:
            facts.append(isolated("7:1"))
        return comma_separated(facts)

    def image_of(self, kept: KeptLook) -> QImage | None:
        """Return a look's small desktop, and ask for it where it is not there yet."""
        key = (kept.digest, self.tone_of(kept))
        if key not in self._images and key not in self._asked:
            self._asked.add(key)
            self.wanted.emit(kept, key[1])
        return self._images.get(key)

    def give_image(self, kept: KeptLook, tone: str, image: QImage) -> None:
        """Take a small desktop."""
        self._images[kept.digest, tone] = image
        self.refresh()

    def forget_images(self) -> None:
        """Forget every small desktop: what they are drawn from has changed."""
        self._images.clear()
        self._asked.clear()

    def selected(self) -> list[KeptLook]:
        """Return the looks that are chosen, in their order."""
        items = (self.list.item(i) for i in range(self.list.count()))
        return [item.data(_KEPT) for item in items if item is not None and item.isSelected()]

    def ids(self) -> list[str]:
        """Return the ids of the looks that are chosen."""
        return [kept.id for kept in self.selected()]

    def choose(self, ids: Iterable[str]) -> None:
        """Choose looks by their ids."""
        wanted = set(ids)
        for i in range(self.list.count()):
            item = self.list.item(i)
            if item is not None:
                item.setSelected(item.data(_KEPT).id in wanted)

    def _ask_menu(self, at: QPoint) -> None:
        view = self.list.viewport()
        if view is not None and self.selected():
            self.menu_asked.emit(view.mapToGlobal(at))
