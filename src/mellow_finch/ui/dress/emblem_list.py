"""The pictures that a component's files show, each with the picture and the colour that are to take its place."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QFormLayout, QHBoxLayout, QLabel, QWidget

from ...components.decisions import Emblem, Owner
from ...components.files import Files
from ...components.write.emblems import SUFFIXES, ShownPicture
from ...language import isolated, tr
from ...look.model import Look
from ...palette.roles import ROLES
from ..kit.parts import Choice, emptied, label, plain_column, swatch, untinted

_SIDE = 24
_MOST = 40  # pictures of a folder that are offered
_ANOTHER = "?"


class EmblemList(QWidget):
    """Knows no look's history: it shows what is and says what was chosen."""

    chosen = pyqtSignal(str, object)  # the picture's name and its emblem
    file_asked = pyqtSignal(str)  # the picture's name

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        column = plain_column(self, 6)
        column.addWidget(label(tr("Images of this component"), "section"))
        self._rows = QWidget()
        self._column = plain_column(self._rows, 8)
        column.addWidget(self._rows)
        self.files: dict[str, Choice] = {}
        self.roles: dict[str, Choice] = {}

    def show_pictures(self, owner: str, pictures: Sequence[ShownPicture], look: Look, home: Files) -> None:
        """Show pictures of a component with what a look makes of them."""
        emptied(self._column)
        self.files, self.roles = {}, {}
        self.setVisible(bool(pictures))
        emblems = look.decided(Owner.component(owner)).emblems
        for shown in pictures:
            emblem = emblems.get(shown.name, Emblem())
            self._column.addWidget(self._row(shown, emblem, look, home))

    def _row(self, shown: ShownPicture, emblem: Emblem, look: Look, home: Files) -> QWidget:
        box = QWidget()
        form = QFormLayout(box)
        form.setContentsMargins(0, 0, 0, 0)
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapAllRows)
        head = QHBoxLayout()
        picture = QLabel()
        picture.setPixmap(_small(home(shown.path)))
        head.addWidget(picture)
        head.addWidget(label(isolated(f"~/{shown.path}"), "quiet"), 1)
        form.addRow(head)
        files, roles = Choice(), Choice()
        files.setAccessibleName(tr("Image to replace {name}").format(name=shown.name))
        roles.setAccessibleName(tr("Colour of {name}").format(name=shown.name))
        files.addItem(tr("As it is"), "")
        folder = shown.path.rpartition("/")[0]
        beside = [p for p in home.find(f"{folder}/*" if folder else "*") if p.lower().endswith(SUFFIXES)]
        for path in [p for p in beside if p != shown.path][:_MOST]:
            files.addItem(untinted(_small(home(path))), path.rpartition("/")[2], home.place(path))
        if emblem.file and files.findData(emblem.file) < 0:
            files.addItem(Path(emblem.file).name, emblem.file)
        files.addItem(tr("Another file…"), _ANOTHER)
        files.setCurrentIndex(max(0, files.findData(emblem.file)))
        roles.addItem(tr("In its own colours"), "")
        for role in ROLES:
            roles.addItem(swatch(look.colours[role.id], QSize(_SIDE, _SIDE)), role.title, role.id)
        roles.setCurrentIndex(max(0, roles.findData(emblem.role)))
        for one in (files, roles):
            one.setIconSize(QSize(_SIDE, _SIDE))
            one.setSizeAdjustPolicy(Choice.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            one.setMinimumContentsLength(12)
            one.activated.connect(lambda _, name=shown.name: self._choose(name))
            form.addRow(one)
        self.files[shown.name], self.roles[shown.name] = files, roles
        return box

    def _choose(self, name: str) -> None:
        file = str(self.files[name].currentData() or "")
        if file == _ANOTHER:
            self.file_asked.emit(name)
            return
        self.chosen.emit(name, Emblem(file, str(self.roles[name].currentData() or "")))


def _small(data: bytes | None) -> QPixmap:
    pixmap = QPixmap()
    if data is not None:
        pixmap.loadFromData(data)
    if pixmap.isNull():
        return pixmap
    mode = Qt.TransformationMode.SmoothTransformation
    return pixmap.scaled(_SIDE, _SIDE, Qt.AspectRatioMode.KeepAspectRatio, mode)
