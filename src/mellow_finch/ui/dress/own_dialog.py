"""Making a component of one's own: the colours of a file in a table, each with the role it is to have."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from ...components.define.kinds import KINDS
from ...components.define.own import Proposal, definition_of, forget, keep, roles_of
from ...components.model import Component
from ...errors import FinchError
from ...language import isolated, plural, tr
from ...look.model import Look
from ...palette.roles import ROLES
from ..kit.parts import Choice, label, swatch

_SWATCH = QSize(18, 18)
_MOST_MISSED = 6  # that are listed


class OwnDialog(QDialog):
    """Names the program, maps its colours, and keeps the definition in the person's own folder."""

    kept = pyqtSignal(str)  # the id

    def __init__(
        self, found: Proposal, look: Look | None, parent: QWidget | None = None, known: Component | None = None
    ) -> None:
        """Show what was found; known: the component that was made of it already, to be changed."""
        super().__init__(parent)
        self._found, self._known = found, known
        self._roles = roles_of(known) if known is not None else {}
        self.setWindowTitle(tr("Your own program"))
        self.setMinimumSize(640, 520)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 14)
        column.setSpacing(10)
        column.addWidget(label(f"~/{found.path}", "section"))
        words = plural(
            "{count} colour, with its most likely role. The rest of the file stays as it is.",
            "{count} colours, each with its most likely role. The rest of the file stays as it is.",
            len(found.rows),
        )
        column.addWidget(label(words, "quiet"))
        form = QFormLayout()
        likely = found.path.rpartition("/")[2].partition(".")[0].replace("-", " ").capitalize()
        self.name = QLineEdit(known.title if known is not None else likely)
        self.name.setAccessibleName(tr("Program name"))
        self.kind = Choice()
        self.kind.setAccessibleName(tr("Type"))
        for kind in KINDS:
            self.kind.addItem(tr(kind), kind)
        self.kind.setCurrentText(tr(known.kind if known is not None else "Terminal programs"))
        form.addRow(label(tr("Name"), wrap=False), self.name)
        form.addRow(label(tr("Type"), wrap=False), self.kind)
        column.addLayout(form)
        self.table = QTableWidget(len(found.rows), 3)
        self.table.setAccessibleName(tr("Colours of the file, and their roles"))
        self.table.setHorizontalHeaderLabels([tr("Now"), tr("Position"), tr("Role")])
        head, side = self.table.horizontalHeader(), self.table.verticalHeader()
        if head is not None and side is not None:
            head.setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
            side.setDefaultSectionSize(38)
            side.hide()
        self.table.setColumnWidth(0, 110)
        self.table.setColumnWidth(2, 220)
        self.boxes = [self._row(i, look) for i in range(len(found.rows))]
        column.addWidget(self.table, 1)
        missed = "\n".join(
            tr("line {line}: {words} is not understood and stays as it is").format(line=line, words=isolated(words))
            for line, words in found.missed[:_MOST_MISSED]
        )
        self.missed = label(missed, "quiet")
        self.missed.setVisible(bool(missed))
        column.addWidget(self.missed)
        self.trouble = label("", "bad")
        self.trouble.hide()
        column.addWidget(self.trouble)
        row = QHBoxLayout()
        row.addStretch(1)
        leave, self.keep_button = QPushButton(tr("Cancel")), QPushButton(tr("Save as a component"))
        self.keep_button.setProperty("main", True)
        leave.clicked.connect(self.reject)
        self.keep_button.clicked.connect(self.keep)
        row.addWidget(leave)
        row.addWidget(self.keep_button)
        column.addLayout(row)

    def _row(self, number: int, look: Look | None) -> QComboBox:
        """Fill a row of the table and return the box of its role."""
        row = self._found.rows[number]
        now, place = (
            QTableWidgetItem(swatch(row.colour.opaque, _SWATCH), isolated(row.colour.hex)),
            QTableWidgetItem(isolated(row.place)),
        )
        for column, item in enumerate((now, place)):
            item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
            self.table.setItem(number, column, item)
        box = Choice()
        box.setAccessibleName(tr("Role of {place}").format(place=row.place))
        for role in ROLES:
            if look is None:
                box.addItem(role.title, role.id)
            else:
                box.addItem(swatch(look.colours[role.id], _SWATCH), role.title, role.id)
        box.setCurrentIndex(max(0, box.findData(self._roles.get(row.place, row.role))))
        self.table.setCellWidget(number, 2, box)
        return box

    def keep(self) -> None:
        """Keep the definition; what is wrong with it is said in place."""
        roles = {row.place: str(box.currentData()) for row, box in zip(self._found.rows, self.boxes, strict=True)}
        try:
            place = keep(definition_of(self._found, self.name.text().strip(), self.kind.currentData(), roles))
        except FinchError as error:
            self.trouble.setText(error.line())
            self.trouble.show()
            return
        if self._known is not None and self._known.id != place.stem:
            forget(self._known.id)
        self.accept()
        self.kept.emit(place.stem)
