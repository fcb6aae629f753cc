"""The components of a person's own in one list: the files of each, and why one is not used; they are deleted here."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from ...components.catalogue import COMPONENT_BY_ID
from ...components.made import file_of, set_aside
from ...components.own import own_texts
from ...language import isolated, parted, tr
from ..kit.parts import label

_COLUMNS = (tr("Component"), tr("Files"), tr("Status"))


class OwnList(QDialog):
    """Shows them; says which one is to be deleted, and shows the list anew after that."""

    delete_asked = pyqtSignal(str)  # the file of a definition

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Your own components"))
        self.setMinimumSize(720, 360)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 14)
        column.setSpacing(10)
        self.words = label("", "quiet")
        column.addWidget(self.words)
        self.table = QTableWidget(0, len(_COLUMNS))
        self.table.setAccessibleName(tr("Your own components"))
        self.table.setHorizontalHeaderLabels(list(_COLUMNS))
        self.table.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QTableWidget.SelectionMode.SingleSelection)
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.setWordWrap(True)
        head, side = self.table.horizontalHeader(), self.table.verticalHeader()
        if head is not None and side is not None:
            head.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
            side.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
            side.hide()
        self.table.setColumnWidth(0, 170)
        self.table.setColumnWidth(1, 220)
        self.table.itemSelectionChanged.connect(self._update)
        column.addWidget(self.table, 1)
        row = QHBoxLayout()
        self.delete = QPushButton(tr("Delete"))
        self.delete.setToolTip(tr("Delete the definition; the program's own file stays as it is"))
        self.delete.clicked.connect(lambda: self.delete_asked.emit(self.chosen()))
        close = QPushButton(tr("Close"))
        close.clicked.connect(self.accept)
        row.addWidget(self.delete)
        row.addStretch(1)
        row.addWidget(close)
        column.addLayout(row)
        self.show_all()

    def show_all(self) -> None:
        """Show what there is now."""
        aside = {row.file: row for row in set_aside()}
        used = {file_of(c.id): c for c in COMPONENT_BY_ID.values() if file_of(c.id)}
        files = [file for file, _ in own_texts()]
        self.table.setRowCount(len(files))
        for number, file in enumerate(files):
            component, why = used.get(file), aside.get(file)
            title = component.title if component is not None else file
            paths = parted(isolated(f"~/{p}") for p in component.places) if component is not None else ""
            for place, words in enumerate((title, paths, why.why if why is not None else tr("Used"))):
                item = QTableWidgetItem(words)
                item.setToolTip(words)
                item.setData(Qt.ItemDataRole.UserRole, file)
                self.table.setItem(number, place, item)
        self.words.setText(
            tr("Each recolours the files beside it; one that does not work is left out, and the status says why.")
            if files
            else tr("You have no components of your own.")
        )
        if files and not self.table.selectedItems():
            self.table.selectRow(0)
        self._update()

    def chosen(self) -> str:
        """Return the file of the definition that is chosen, empty for none."""
        item = self.table.currentItem()
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None and self.table.selectedItems() else ""

    def _update(self) -> None:
        self.delete.setEnabled(bool(self.chosen()))
