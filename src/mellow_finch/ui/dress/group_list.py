"""The groups of colours of a file or theme: old beside new, the role each goes to, and how that is changed by hand."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QAction,
    QContextMenuEvent,
    QDragEnterEvent,
    QDragLeaveEvent,
    QDropEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import QMenu, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from ...colour.rgb import Rgba
from ...components.decisions import Slot
from ...language import comma_separated, parted, plural, standing, states, tr
from ...palette.roles import ROLES, role_title
from ...recolour.groups import KEEP, is_free
from ..kit.drag import carries_colour, dropped_choice
from ..kit.icons import draw_icon
from ..kit.style import Style, qcolor
from ..model.choosing import AskColour

_SHOWN = 14  # rows that are shown at first


class ColourGroup(NamedTuple):
    """One group as it is shown. shades: the colours beside the main one, with the state each stands in."""

    key: Slot
    old: Rgba
    new: Rgba
    role: str
    reason: str
    places: int
    files: int
    chosen: bool = False
    split: bool = False
    may_split: bool = True
    shades: tuple[tuple[Rgba, str], ...] = ()

    @property
    def words(self) -> str:
        """Return what becomes of the group."""
        if self.role in ("", KEEP):
            return tr("stays as it is")
        if is_free(self.role):
            return tr("a separate colour, {role}").format(role=self.role)
        return role_title(self.role)

    @property
    def standing(self) -> str:
        """Return in how many places and files it stands."""
        if self.files > 1:
            return standing(self.places, self.files)
        return plural("{count} occurrence", "{count} occurrences", self.places)


class GroupWidget(QWidget):
    """One row. A role that is dropped on it, or chosen from its menu, is asked for."""

    asked = pyqtSignal(object, str)  # the group's key, and a role, "keep", or nothing for the guess
    split_asked = pyqtSignal(str, bool)
    pointed = pyqtSignal(str)  # the group's role

    def __init__(self, style: Style, row: ColourGroup, ask_colour: AskColour, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style, self.row, self._ask = style, row, ask_colour
        self._over = False
        self.setAcceptDrops(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.show_row(row)

    def sizeHint(self) -> QSize:
        """Return a row's size."""
        return QSize(280, 44)

    def show_row(self, row: ColourGroup) -> None:
        """Show a group."""
        self.row = row
        shades = parted(f"{c.hex}{f' ({states(state)})' if state else ''}" for c, state in row.shades[:8])
        why = tr("chosen by you") if row.chosen else row.reason
        lines = [tr("{old} becomes {new}: {why}.").format(old=row.old.hex, new=row.new.hex, why=why)]
        if shades:
            lines.append(tr("Its shades: {shades}").format(shades=shades))
        lines.append(tr("Drop a role from the ribbon on it, or click for other choices."))
        self.setToolTip("\n".join(lines))
        self.setAccessibleName(comma_separated((row.old.hex, row.words, row.standing)))
        self.update()

    def menu(self) -> QMenu:
        """Return what can be done with the group."""
        menu = QMenu(self)

        def add(words: str, run: Callable[[], None], checked: bool = False) -> None:
            action = QAction(words, menu)
            action.setCheckable(checked)
            action.setChecked(checked)
            action.triggered.connect(run)
            menu.addAction(action)

        key = self.row.key
        kept = self.row.role in ("", KEEP)
        add(tr("Keep as it is"), lambda: self.asked.emit(key, KEEP), kept)
        add(tr("A separate colour …"), lambda: self._ask_colour(key), is_free(self.row.role))
        if self.row.chosen:
            add(tr("As suggested"), lambda: self.asked.emit(key, ""))
        if self.row.split:
            add(tr("Merge again"), lambda: self.split_asked.emit(key.key, False))
        elif self.row.may_split:
            add(tr("Split"), lambda: self.split_asked.emit(key.key, True))
        menu.addSeparator()
        for group in dict.fromkeys(r.group for r in ROLES):
            inner = menu.addMenu(group)
            if inner is None:
                continue
            for role in (r for r in ROLES if r.group == group):
                action = QAction(role.title, inner)
                action.setCheckable(True)
                action.setChecked(role.id == self.row.role)
                action.triggered.connect(lambda _=False, role=role: self.asked.emit(key, role.id))
                inner.addAction(action)
        return menu

    def _ask_colour(self, key: Slot) -> None:
        self._ask(self, self.row.new, lambda colour: self.asked.emit(key, colour.hex))

    def _open_menu(self) -> None:
        menu = self.menu()
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.mapToGlobal(self.rect().bottomLeft()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Select the row's role, and offer what else it can be."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.setFocus()
            self.pointed.emit(self.row.role)
            self._open_menu()

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """Offer the same."""
        self._open_menu()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Offer it from the keyboard too."""
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self._open_menu()
        else:
            super().keyPressEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take roles."""
        if event is not None and carries_colour(event):
            self._over = True
            self.update()
            event.acceptProposedAction()

    def dragLeaveEvent(self, event: QDragLeaveEvent | None) -> None:
        """Look as before."""
        self._over = False
        self.update()

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Give the group the role that was dropped."""
        self._over = False
        self.update()
        role = dropped_choice(event)
        if role:
            self.asked.emit(self.row.key, role)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the row: old, an arrow, new; the role; how often."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        s, row = self._style, self.row
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        if self._over or self.hasFocus() or self.underMouse():
            p.setPen(QPen(s.c("accent" if self._over or self.hasFocus() else "edge"), 2 if self._over else 1))
            p.setBrush(s.c("pressed") if self._over else Qt.BrushStyle.NoBrush)
            p.drawRoundedRect(box, 5, 5)
        p.setPen(QPen(s.c("edge"), 1))
        for i, colour in enumerate((row.old, row.new)):
            p.setBrush(qcolor(colour))
            p.drawRoundedRect(QRectF(5 + i * 42, 6, 30, 22), 4, 4)
        for i, (shade, _) in enumerate(row.shades[:5]):
            p.setBrush(qcolor(shade))
            p.drawRect(QRectF(5 + i * 6.1, 31, 5, 7))
        p.setPen(QPen(s.c("quiet"), 1.4))
        p.drawLine(37, 17, 44, 17)
        p.drawLine(41, 14, 44, 17)
        p.drawLine(41, 20, 44, 17)
        p.setPen(s.c("text"))
        wide = self.width() - 86 - 22
        words = p.fontMetrics().elidedText(row.words, Qt.TextElideMode.ElideRight, wide)
        p.drawText(QRectF(86, 4, wide, 20), Qt.AlignmentFlag.AlignVCenter, words)
        p.setPen(s.c("quiet"))
        why = tr("your choice") if row.chosen else row.reason
        under = p.fontMetrics().elidedText(f"{row.standing} · {why}", Qt.TextElideMode.ElideRight, wide + 16)
        p.drawText(QRectF(86, 22, wide + 16, 18), Qt.AlignmentFlag.AlignVCenter, under)
        p.setBrush(Qt.BrushStyle.NoBrush)
        draw_icon(p, "down", QRectF(self.width() - 20, 8, 12, 12), s.c("quiet"))


class GroupList(QWidget):
    """Rows, most places first; the long tail on demand."""

    asked = pyqtSignal(object, str)
    split_asked = pyqtSignal(str, bool)
    pointed = pyqtSignal(str)

    def __init__(self, style: Style, ask_colour: AskColour, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._style, self._ask = style, ask_colour
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(2)
        self.rows: list[GroupWidget] = []
        self.more = QPushButton()
        self.more.setProperty("flat", True)
        self.more.clicked.connect(self._show_all)
        self._column.addWidget(self.more)
        self._all = False
        self._known: Sequence[ColourGroup] = ()

    @property
    def known(self) -> Sequence[ColourGroup]:
        """Return every row, shown or not."""
        return self._known

    def show_rows(self, rows: Sequence[ColourGroup]) -> None:
        """Show groups."""
        self._known = rows
        shown = rows if self._all else rows[:_SHOWN]
        while len(self.rows) < len(shown):
            made = GroupWidget(self._style, shown[len(self.rows)], self._ask)
            made.asked.connect(self.asked)
            made.split_asked.connect(self.split_asked)
            made.pointed.connect(self.pointed)
            self._column.insertWidget(len(self.rows), made)
            self.rows.append(made)
        for made, row in zip(self.rows, shown, strict=False):
            if made.row != row:
                made.show_row(row)
        for i, made in enumerate(self.rows):
            made.setVisible(i < len(shown))
        left = len(rows) - len(shown)
        self.more.setVisible(left > 0)
        self.more.setText(plural("Show {count} more", "Show {count} more", left))

    def _show_all(self) -> None:
        self._all = True
        self.show_rows(self._known)
