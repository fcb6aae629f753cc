"""The themes of this machine to choose from: what each dresses, where it lies, its colours, the worn one first."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from ...colour.rgb import Rgba
from ...language import plural, tr, tr_in
from ...theme.installed import Here
from ..kit.parts import label
from ..kit.style import qcolor

_SIZE = QSize(54, 34)


def _picture(colours: Sequence[Rgba]) -> QIcon:
    """Return a small window in a theme's own colours: ground, lines of text, and what is chosen."""
    pixmap = QPixmap(_SIZE)
    ground, text, chosen = (qcolor(c) for c in colours)
    pixmap.fill(ground)
    painter = QPainter(pixmap)
    for y, wide in ((6, 34), (13, 26), (28, 30)):
        painter.fillRect(QRectF(6, y, wide, 3), text)
    painter.fillRect(QRectF(3, 19, 48, 7), chosen)
    painter.end()
    return QIcon(pixmap)


class HereDialog(QDialog):
    """Lists themes; the chosen one is brought along."""

    chosen = pyqtSignal(object)  # the path of a theme's folder

    def __init__(self, themes: Sequence[Here], in_use: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Themes of this machine"))
        self.setMinimumSize(560, 520)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 14)
        column.setSpacing(10)
        words = plural(
            "{count} theme. The one you choose stays as it is; a recoloured one is made beside it.",
            "{count} themes. The one you choose stays as it is; a recoloured one is made beside it.",
            len(themes),
        )
        column.addWidget(label(words, "quiet"))
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("Type to narrow"))
        self.field.setAccessibleName(tr("Narrow the themes"))
        self.field.textChanged.connect(self._narrow)
        column.addWidget(self.field)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Themes of this machine"))
        self.list.setIconSize(_SIZE)
        self.list.setSpacing(3)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setWordWrap(True)
        for here in themes:
            where = tr_in("a theme", "yours") if here.own else tr("of the system")
            worn = tr(", worn now") if here.path.name == in_use else ""
            item = QListWidgetItem(f"{here.path.name}\n{where}{worn}: {', '.join(here.kinds)}")
            item.setData(Qt.ItemDataRole.UserRole, here.path)
            if here.colours:
                item.setIcon(_picture(here.colours))
            self.list.addItem(item)
        self.list.setCurrentRow(0)
        self.list.itemActivated.connect(lambda _: self.bring())
        column.addWidget(self.list, 1)
        row = QHBoxLayout()
        row.addStretch(1)
        leave, self.bring_button = QPushButton(tr("Leave it")), QPushButton(tr("Bring it along"))
        self.bring_button.setProperty("main", True)
        self.bring_button.setEnabled(bool(themes))
        leave.clicked.connect(self.reject)
        self.bring_button.clicked.connect(self.bring)
        row.addWidget(leave)
        row.addWidget(self.bring_button)
        column.addLayout(row)

    def _narrow(self, words: str) -> None:
        for i in range(self.list.count()):
            item = self.list.item(i)
            if item is not None:
                item.setHidden(words.strip().lower() not in item.text().lower())

    def bring(self) -> None:
        """Bring the chosen theme along."""
        item = self.list.currentItem()
        if item is not None and not item.isHidden():
            self.chosen.emit(item.data(Qt.ItemDataRole.UserRole))
            self.accept()
