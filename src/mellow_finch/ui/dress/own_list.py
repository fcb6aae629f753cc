"""The components of a person's own in one list: the files of each, and why one is not used; they are deleted here."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QTreeWidget, QTreeWidgetItem, QVBoxLayout, QWidget

from ...components.catalogue import own_rows
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
        self.tree = QTreeWidget()
        self.tree.setAccessibleName(tr("Your own components"))
        self.tree.setColumnCount(len(_COLUMNS))
        self.tree.setHeaderLabels(list(_COLUMNS))
        self.tree.setRootIsDecorated(False)
        self.tree.setItemsExpandable(False)
        self.tree.setColumnWidth(0, 200)
        self.tree.setColumnWidth(1, 330)
        self.tree.currentItemChanged.connect(lambda *_: self._update())
        column.addWidget(self.tree, 1)
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
        rows = own_rows()
        self.tree.clear()
        for file, component, why in rows:
            title = component.title if component is not None else file
            paths = parted(isolated(f"~/{p}") for p in component.places) if component is not None else ""
            item = QTreeWidgetItem([title, paths, tr("Left out") if why else tr("Used")])
            reason = QTreeWidgetItem([why]) if why else None
            for one in (item, reason):
                if one is not None:
                    one.setData(0, Qt.ItemDataRole.UserRole, file)
            item.setToolTip(1, paths)
            self.tree.addTopLevelItem(item)
            if reason is not None:
                item.addChild(reason)
                reason.setFirstColumnSpanned(True)
                reason.setToolTip(0, reason.text(0))
            item.setExpanded(True)
        self.words.setText(
            tr("Each recolours the files listed; one that does not work is left out, with the reason below it.")
            if rows
            else tr("You have no components of your own.")
        )
        if rows:
            self.tree.setCurrentItem(self.tree.topLevelItem(0))
        self._update()

    def chosen(self) -> str:
        """Return the file of the definition that is chosen, empty for none."""
        item = self.tree.currentItem()
        return str(item.data(0, Qt.ItemDataRole.UserRole)) if item is not None else ""

    def _update(self) -> None:
        self.delete.setEnabled(bool(self.chosen()))
