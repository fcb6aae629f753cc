"""Proof: every pair of every dressed component, the failing ones first, and the smallest mends."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QPainter, QPen
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from ...colour.measures import FURTHER
from ...components.catalogue import COMPONENT_BY_ID
from ...language import decimal, isolated, parted, percent, plural, tr
from ...proof.cures import all_mended, opacity_cures
from ...proof.place import find_source
from ...proof.proof import Finding, mend
from ..kit.flow import WrapCheck
from ..kit.jobs import Jobs
from ..kit.panels import PagedPanel
from ..kit.parts import emptied, label, placed, plain_column, row_box, set_kind
from ..kit.style import FAMILY, Style, qcolor
from ..model.document import Document
from .program_page import ProgramPage
from .program_wall import ProgramWall
from .programs import Programs

_MOST = 400
_WORDS = int(Qt.ItemDataRole.UserRole) + 1


class FindingItem(QListWidgetItem):
    """A row of the list; what it is called is found out when somebody looks."""

    def __init__(self, finding: Finding, tell: Callable[[Finding], tuple[str, str]]) -> None:
        super().__init__()
        self.finding, self._tell = finding, tell
        self._told: tuple[str, str] | None = None

    def data(self, role: int) -> object:
        """Return the finding, or what it is called."""
        if role == Qt.ItemDataRole.UserRole:
            return self.finding
        if role not in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole, _WORDS):
            return super().data(role)
        if self._told is None:
            self._told = self._tell(self.finding)
        return (
            self._told
            if role == _WORDS
            else self._told[0]
            if not role
            else "\n".join((*self._told, *(m.tip for m in FURTHER)))
        )


class FindingDelegate(QStyledItemDelegate):
    """Draws a finding: a sample in its own colours, its name, and its ratio beside its need."""

    def __init__(self, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style = style

    def sizeHint(self, option: QStyleOptionViewItem, index: object) -> QSize:
        """Return a row's size."""
        return QSize(280, 50)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: object) -> None:
        """Paint a row."""
        finding: Finding | None = index.data(Qt.ItemDataRole.UserRole)  # type: ignore[attr-defined]
        if painter is None or finding is None:
            return
        s = self._style
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = row_box(painter, option, s)
        at = QRectF(box.x() + 8, box.y() + 8, 44, 32)
        sample = placed(at, box)
        painter.setPen(QPen(s.c("edge"), 1))
        painter.setBrush(qcolor(finding.surface))
        painter.drawRoundedRect(sample, 4, 4)
        font = QFont(FAMILY)
        font.setPointSizeF(13)
        painter.setFont(font)
        painter.setPen(qcolor(finding.text))
        if finding.what == "edge":
            painter.setPen(QPen(qcolor(finding.text), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(sample.adjusted(12, 8, -12, -8), 3, 3)
        else:
            painter.drawText(sample, Qt.AlignmentFlag.AlignCenter, "Aa")
        font.setPointSizeF(10.5)
        painter.setFont(font)
        painter.setPen(s.c("text"))
        left = at.right() + 12
        room = box.right() - left - 84

        def write(words: str, top: float, high: float) -> None:
            short = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, round(room))
            place = placed(QRectF(left, box.y() + top, room, high), box)
            painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, short)

        words, under = index.data(_WORDS) or (finding.words, "")  # type: ignore[attr-defined]
        write(words, 4, 22)
        font.setPointSizeF(9.5)
        painter.setFont(font)
        painter.setPen(s.c("text" if option.state & QStyle.StateFlag.State_Selected else "quiet"))
        figures = "   ".join([*_further(finding), tr("needs {need:g}").format(need=finding.need.level)])
        wide = painter.fontMetrics().horizontalAdvance(figures) + 2
        room = box.right() - left - wide - 14
        write(under or COMPONENT_BY_ID[finding.component].title, 24, 20)
        font.setPointSizeF(11)
        font.setBold(True)
        painter.setFont(font)
        painter.setPen(s.c("text" if finding.passes else "bad"))
        mark = "✓" if finding.passes else "✗"
        painter.drawText(
            placed(QRectF(box.right() - 82, box.y() + 4, 76, 22), box),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            f"{mark} {decimal(finding.ratio, 2)}",
        )
        font.setPointSizeF(9.5)
        font.setBold(False)
        painter.setFont(font)
        painter.setPen(s.c("text" if option.state & QStyle.StateFlag.State_Selected else "quiet"))
        painter.drawText(
            placed(QRectF(box.right() - 6 - wide, box.y() + 24, wide, 20), box),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            figures,
        )
        painter.restore()


def _further(finding: Finding) -> list[str]:
    """Return what further measures of contrast say of a pair."""
    return [f"{m.title} {m.spelled(m.of(finding.text, finding.surface))}" for m in FURTHER]


class ProofPanel(PagedPanel):
    """Two pages: the pairs of all files as they stand there, and real programs as they show the look."""

    def __init__(self, document: Document, jobs: Jobs, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(tr("Proof"), tr("Check contrast, in the files and in your programs."), parent)
        self.programs = Programs(document, jobs, self)
        self.wall = ProgramWall(self.programs, style)
        self.pairs = self.add(
            "pairs",
            tr("Files"),
            tr("Every pair as written to the files, at its worst place over the wallpaper."),
            PairsPage(document, style),
            scrolls=False,
        )
        self.program = self.add(
            "programs",
            tr("Programs"),
            tr("Real programs of this computer with the look, in a hidden session"),
            ProgramPage(self.programs, self.wall, style),
            scrolls=False,
        )


class PairsPage(QWidget):
    """Lists the findings; mends through the document."""

    report_asked = pyqtSignal()

    def __init__(self, document: Document, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.column = plain_column(self, 8)
        self.foot = QVBoxLayout()
        self._document = document
        self._mending: int | None = None  # how many pairs fell short when mending was asked for
        document.selected.connect(self._light)
        document.judged.connect(lambda: self.refresh() if self.isVisible() else None)
        self.verdict = label("", "section")
        self.column.addWidget(self.verdict)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Pairs, worst first"))
        self.list.setItemDelegate(FindingDelegate(style, self.list))
        self.list.setUniformItemSizes(True)
        self.list.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.list.setMinimumHeight(150)
        self.list.currentItemChanged.connect(self._chosen)
        self.column.addWidget(self.list, 1)
        self.follow = WrapCheck(tr("Keep everything readable while editing"))
        self.follow.setToolTip(
            tr("Other roles follow by the smallest change; otherwise Proof only lists insufficient contrast")
        )
        self.follow.clicked.connect(document.follow)
        self.foot.addWidget(self.follow)
        self.cures_box = QWidget()
        self.cures = plain_column(self.cures_box, 6)
        self.foot.addWidget(self.cures_box)
        row = QHBoxLayout()
        self.one = QPushButton(tr("Fix this"))
        self.one.setToolTip(tr("The smallest change of colour that gives it enough contrast"))
        self.one.clicked.connect(self.mend_one)
        self.all = QPushButton(tr("Fix all"))
        self.all.setToolTip(tr("Give every pair enough contrast"))
        self.all.setProperty("main", True)
        self.all.clicked.connect(self.mend_all)
        row.addWidget(self.one)
        row.addWidget(self.all)
        self.foot.addLayout(row)
        self.report = QPushButton(tr("Save a report…"))
        self.report.setToolTip(tr("Every pair with its sample, to share, as a page or PDF"))
        self.report.clicked.connect(self.report_asked)
        self.foot.addWidget(self.report)
        self.column.addLayout(self.foot)

    def refresh(self) -> None:
        """Show the findings of the look."""
        look = self._document.look
        if look is None:
            return
        rows = self._document.findings_known
        if rows is None:
            self.verdict.setText(tr("Checking every pair …"))
            set_kind(self.verdict, "quiet")
            return
        short = [f for f in rows if not f.passes]
        self._show_cures(short)
        if short:
            self.verdict.setText(
                plural(
                    "{count} of {total} pairs has insufficient contrast",
                    "{count} of {total} pairs have insufficient contrast",
                    len(short),
                    total=decimal(len(rows), 0),
                )
            )
            set_kind(self.verdict, "bad")
        else:
            self.verdict.setText(
                plural("✓ The one pair has enough contrast", "✓ All {count} pairs have enough contrast", len(rows))
                if rows
                else tr("No component is included, so there is nothing to check")
            )
            set_kind(self.verdict, "good")
        self.follow.setChecked(look.mend_as_you_go)
        keep = self.current()
        self.list.blockSignals(True)
        self.list.clear()
        for finding in rows[:_MOST]:
            item = FindingItem(finding, self._told)
            self.list.addItem(item)
            if keep is not None and (finding.key, finding.what) == (keep.key, keep.what):
                self.list.setCurrentItem(item)
        self.list.blockSignals(False)
        self.all.setEnabled(bool(short))
        self._update_one()

    def _show_cures(self, short: Sequence[Finding]) -> None:
        """Offer what helps where no colour does, and say it when a mend has found no way."""
        emptied(self.cures)
        dressed = self._document.dressed
        cures = opacity_cures(dressed, short) if dressed is not None and short else ()
        for cure in (c for c in cures if not c.by_colours):
            words = tr("{names}: the wallpaper shows through too much for any colour to be readable.")
            self.cures.addWidget(label(words.format(names=parted(cure.titles)), "quiet"))
            share = percent(cure.alpha)
            button = QPushButton(tr("{surface}: {share} opaque").format(surface=cure.surface.title, share=share))
            button.clicked.connect(partial(self._document.edit, button.text(), cure.applied))
            self.cures.addWidget(button)
        if self._mending is not None and len(short) >= self._mending and not cures:
            words = tr(
                "Changing these colours does not help: give the surface under them another colour in Tune or Dress."
            )
            self.cures.addWidget(label(words, "bad"))
        self._mending = None
        self.cures_box.setVisible(self.cures.count() > 0)

    def _told(self, finding: Finding) -> tuple[str, str]:
        """Return what a finding is called and what stands under that; one that only has a number, by its place."""
        title = COMPONENT_BY_ID[finding.component].title
        dressed = self._document.dressed
        if dressed is None or not finding.part.id[-1:].isdigit():
            return finding.words, title
        place = find_source(dressed, finding.component, finding.part, finding.what, finding.file)
        if place is None or not place.words:
            return finding.words, title
        file = place.path.rpartition("/")[2]
        return isolated(place.words), tr("{file}, line {line}").format(file=file, line=place.line)

    def _light(self, _role: str, component: str, part: str) -> None:
        """Choose the row of what was selected elsewhere, the worst of it."""
        now = self.current()
        if not self.isVisible() or (now is not None and (now.component, now.part.key) == (component, part)):
            return
        for i in range(self.list.count()):
            item = self.list.item(i)
            row: Finding | None = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
            if row is not None and (row.component, row.part.key) == (component, part):
                self.list.blockSignals(True)
                self.list.setCurrentRow(i)
                self.list.blockSignals(False)
                self._update_one()
                return

    def current(self) -> Finding | None:
        """Return the chosen finding."""
        item = self.list.currentItem()
        found: Finding | None = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        return found

    def _update_one(self) -> None:
        finding = self.current()
        self.one.setEnabled(finding is not None and not finding.passes)

    def _chosen(self) -> None:
        finding = self.current()
        if finding is not None:
            role = (
                finding.part.text_role
                if finding.part.text_role in (self._document.look.colours if self._document.look else ())
                else ""
            )
            self._document.select(role, finding.component, finding.part.key)
        self._update_one()

    def mend_one(self) -> None:
        """Mend the chosen finding."""
        finding = self.current()
        if finding is not None:
            self._begin_mending()
            self._document.edit(tr("Fix {words}").format(words=finding.words), lambda look: mend(look, [finding]))

    def _begin_mending(self) -> None:
        rows = self._document.findings_known
        self._mending = sum(not f.passes for f in rows) if rows is not None else None

    def mend_all(self) -> None:
        """Mend everything."""
        rows = self._document.findings
        self._begin_mending()
        dressed = self._document.dressed
        if dressed is not None:
            self._document.edit(tr("Fix all"), lambda look: all_mended(replace(dressed, look=look), rows))
