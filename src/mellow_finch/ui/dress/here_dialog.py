"""The themes of this computer to choose from, by kind: what each dresses, where it lies, its colours."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

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
from ...language import comma_separated, parted, tr, tr_in
from ...palette.roles import ROLE_BY_ID
from ...theme.bundle.installed import ICONS, InstalledTheme
from ..kit.parts import Choice, label, untinted
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
    return untinted(pixmap)


def _sign(colour: Rgba, look: Mapping[str, Rgba]) -> QIcon:
    """Return signs in a theme's leading colour as they stand on a look's panel, menu and view."""
    pixmap = QPixmap(_SIZE)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    wide = _SIZE.width() / 3
    for i, role in enumerate(("panel", "menu", "view")):
        painter.fillRect(QRectF(i * wide, 0, wide + 1, _SIZE.height()), qcolor(look[role]))
        painter.setBrush(qcolor(colour))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawRoundedRect(QRectF(i * wide + 4, 11, wide - 8, 12), 3, 3)
    painter.end()
    return untinted(pixmap)


def _told(here: InstalledTheme) -> str:
    """Return what there is to know of a theme: what it dresses, or where its signs stand out."""
    if here.faint:
        return tr("hard to see on {names}").format(names=parted(ROLE_BY_ID[role].title for role in here.faint))
    if here.kinds == (ICONS,) and here.colours:
        return tr("clearly visible on panel, menu and view")
    return parted(here.kinds)


class HereDialog(QDialog):
    """Lists themes; one is chosen, or another folder or archive.

    sections: a title and the themes of each kind; look: colours by role, on which the signs of icons are shown; doing:
    what the button says that takes the chosen one, other: that for one that is not listed; about: what comes of it.
    """

    chosen = pyqtSignal(object)  # the path of a theme's folder
    other_asked = pyqtSignal()

    def __init__(
        self,
        sections: Mapping[str, Sequence[InstalledTheme]],
        in_use: str,
        look: Mapping[str, Rgba],
        doing: str,
        other: str,
        about: str,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._sections, self._in_use, self._look, self._about = sections, in_use, look, about
        self.setWindowTitle(tr("Themes of this computer"))
        self.setMinimumSize(560, 520)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 14)
        column.setSpacing(10)
        self.words = label("", "quiet")
        column.addWidget(self.words)
        line = QHBoxLayout()
        self.kind = Choice()
        self.kind.setAccessibleName(tr("Kind of theme"))
        self.kind.addItems(list(sections))
        self.kind.currentTextChanged.connect(self.show_kind)
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("Filter"))
        self.field.setAccessibleName(tr("Filter the themes"))
        self.field.textChanged.connect(self._narrow)
        line.addWidget(self.kind)
        line.addWidget(self.field, 1)
        column.addLayout(line)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Themes of this computer"))
        self.list.setIconSize(_SIZE)
        self.list.setSpacing(3)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setWordWrap(True)
        self.list.itemActivated.connect(lambda _: self.bring())
        column.addWidget(self.list, 1)
        row = QHBoxLayout()
        row.addStretch(1)
        self.other = QPushButton(other)
        self.other.clicked.connect(self._ask_other)
        row.insertWidget(0, self.other)
        leave, self.bring_button = QPushButton(tr("Cancel")), QPushButton(doing)
        self.bring_button.setProperty("main", True)
        leave.clicked.connect(self.reject)
        self.bring_button.clicked.connect(self.bring)
        row.addWidget(leave)
        row.addWidget(self.bring_button)
        column.addLayout(row)
        self.show_kind(next(iter(sections)))

    def show_kind(self, kind: str) -> None:
        """List the themes of a kind."""
        themes = self._sections[kind]
        self.words.setText(self._about)
        self.kind.setVisible(len(self._sections) > 1)
        self.list.clear()
        for here in themes:
            where = tr_in("a theme", "yours") if here.own else tr("system")
            facts = [where, tr("in use")] if here.path.name == self._in_use else [where]
            item = QListWidgetItem(f"{here.path.name}\n{comma_separated([*facts, _told(here)])}")
            item.setData(Qt.ItemDataRole.UserRole, here.path)
            if len(here.colours) == 1:
                item.setIcon(_sign(here.colours[0], self._look))
            elif here.colours:
                item.setIcon(_picture(here.colours))
            self.list.addItem(item)
        self.list.setCurrentRow(0)
        self._narrow(self.field.text())

    def _narrow(self, words: str) -> None:
        """Show what fits the words, and choose the first of it where what was chosen does not."""
        rows = [item for i in range(self.list.count()) if (item := self.list.item(i)) is not None]
        for item in rows:
            item.setHidden(words.strip().lower() not in item.text().lower())
        shown = [item for item in rows if not item.isHidden()]
        if shown and self.list.currentItem() not in shown:
            self.list.setCurrentItem(shown[0])
        self.bring_button.setEnabled(bool(shown))

    def _ask_other(self) -> None:
        self.reject()
        self.other_asked.emit()

    def bring(self) -> None:
        """Bring the chosen theme along."""
        item = self.list.currentItem()
        if item is not None and not item.isHidden():
            self.chosen.emit(item.data(Qt.ItemDataRole.UserRole))
            self.accept()
