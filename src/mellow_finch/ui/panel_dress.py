"""Dress: every component and every theme that was brought along, what each gets, and its colours old beside new."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QHeaderView,
    QMenu,
    QPushButton,
    QStackedWidget,
    QTreeWidget,
    QTreeWidgetItem,
    QWidget,
)

from ..components.catalogue import COMPONENTS
from ..components.model import Component, OutFile, splits_of, text_of
from ..look.edits import with_group, with_split
from ..recolour.groups import KEEP, map_for, states_of
from ..recolour.rewrite import subject_of
from ..syntax.catalogue import Format, format_of
from ..theme.layout import shown_targets
from .changes import Change
from .document import Document
from .dress_theme import ThemePage, group_row
from .group_list import GroupList, Row
from .icons import icon
from .parts import Panel, TabButton, label, plain_column
from .pictures_beside import Picture, Surface, pictures_of
from .style import Style
from .theme_desk import ThemeDesk

_EFFECTS = {"at once": "shows at once", "reload": "shows after a reload", "restart": "shows after a restart"}
_VIEWS = (
    ("stage", "Stage", "The desktop as it will be"),
    ("changes", "Changes", "The lines of the files that change"),
    ("pictures", "Pictures", "The pictures of a theme, old beside new"),
)


def _format(file: OutFile) -> Format | None:
    """Return the format of a file that is written."""
    return format_of(file.path, file.data[:4096].decode("utf-8", "replace"))


class DressPanel(Panel):
    """Lists the components and the themes; the chosen one is shown in full."""

    view_changed = pyqtSignal(str)
    chosen = pyqtSignal()  # another component or theme
    folder_asked = pyqtSignal()
    file_asked = pyqtSignal()

    def __init__(self, document: Document, style: Style, desk: ThemeDesk, parent: QWidget | None = None) -> None:
        super().__init__("Dress", "Untick what should stay as it is. Drop a theme of yours to recolour it too.", parent)
        self._document, self._style, self._desk = document, style, desk
        self._filling = False
        self.view = "stage"
        self._build_tree()
        self._build_views()
        self._pages = QStackedWidget()
        self._pages.addWidget(self._build_component())
        self.theme = ThemePage(document, style, desk)
        self._pages.addWidget(self.theme)
        self.column.addWidget(self._pages)
        self.column.addStretch(1)
        document.selected.connect(self._selected)
        desk.opened.connect(self._opened)
        desk.changed.connect(lambda path: self.refresh() if path == self.theme_path() else None)

    # Building

    def _build_tree(self) -> None:
        self.tree = QTreeWidget()
        self.tree.setAccessibleName("Components and themes")
        self.tree.setHeaderLabels(["Component", "Files", "Readable"])
        self.tree.setRootIsDecorated(False)
        self.tree.setFixedHeight(206)
        self.tree.setUniformRowHeights(True)
        for i, component in enumerate(COMPONENTS):
            item = QTreeWidgetItem([component.title, "", ""])
            item.setData(0, Qt.ItemDataRole.UserRole, component.id)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(0, Qt.CheckState.Checked)
            self.tree.addTopLevelItem(item)
            if i == 4:
                self.tree.setCurrentItem(item)
        head = self.tree.header()
        if head is not None:
            head.setStretchLastSection(False)
            head.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
            for column in (1, 2):
                head.setSectionResizeMode(column, QHeaderView.ResizeMode.ResizeToContents)
        self.tree.itemChanged.connect(self._ticked)
        self.tree.currentItemChanged.connect(lambda *_: self._other())
        self.column.addWidget(self.tree)
        self.bring = QPushButton("Bring a theme or file…")
        self.bring.setToolTip("A theme's folder, an archive of themes, icons or pointers, or any configuration")
        menu = QMenu(self.bring)
        for words, signal in (("A file or an archive…", self.file_asked), ("A folder…", self.folder_asked)):
            action = menu.addAction(words)
            if action is not None:
                action.triggered.connect(signal)
        self.bring.setMenu(menu)
        self.column.addWidget(self.bring)

    def _build_views(self) -> None:
        row = QHBoxLayout()
        row.setSpacing(2)
        group = QButtonGroup(self)
        self.tabs: dict[str, TabButton] = {}
        for name, words, tip in _VIEWS:
            button = TabButton(words, tip)
            button.clicked.connect(lambda _=False, name=name: self.show_view(name))
            group.addButton(button)
            row.addWidget(button)
            self.tabs[name] = button
        self.tabs["stage"].setChecked(True)
        self.column.addLayout(row)

    def _build_component(self) -> QWidget:
        page = QWidget()
        column = plain_column(page, 8)
        self.reads = label("")
        self.effect = label("", "quiet")
        self.groups_title = label("", "section")
        self.groups = GroupList(self._style)
        self.groups.asked.connect(self._ask)
        self.groups.split_asked.connect(self._split)
        self.groups.pointed.connect(lambda role: self._document.select(role) if role and role != KEEP else None)
        self.files_title = label("What is written", "section")
        self.files = label("", "quiet")
        for widget in (self.reads, self.effect, self.groups_title, self.groups, self.files_title, self.files):
            column.addWidget(widget)
        return page

    # What is chosen

    def current(self) -> Component:
        """Return the chosen component, the last one chosen while a theme is."""
        chosen = self._chosen()
        return next((c for c in COMPONENTS if c.id == chosen), COMPONENTS[0])

    def theme_path(self) -> str:
        """Return the path of the chosen theme, empty while a component is chosen."""
        look, chosen = self._document.look, self._chosen()
        return chosen if look is not None and chosen in look.brought else ""

    def _chosen(self) -> str:
        item = self.tree.currentItem()
        return str(item.data(0, Qt.ItemDataRole.UserRole)) if item is not None else COMPONENTS[0].id

    def choose(self, name: str) -> None:
        """Choose a component by its id, or a theme by its path."""
        for i in range(self.tree.topLevelItemCount()):
            item = self.tree.topLevelItem(i)
            if item is not None and item.data(0, Qt.ItemDataRole.UserRole) == name:
                self.tree.setCurrentItem(item)

    def show_view(self, name: str) -> None:
        """Show the stage, the changes or the pictures."""
        self.view = name
        self.tabs[name].setChecked(True)
        self.view_changed.emit(name)

    def _selected(self, _role: str, component: str, _part: str) -> None:
        if not self.theme_path():
            self.choose(component)

    def _opened(self, path: str) -> None:
        self._fill_themes()
        self.choose(path)
        self.refresh()

    def _other(self) -> None:
        if self._filling:
            return
        self._desk.in_sight = self.theme_path()
        self._desk.catch_up()
        self.refresh()
        self.chosen.emit()

    def _ticked(self, item: QTreeWidgetItem, _column: int) -> None:
        look = self._document.look
        name = str(item.data(0, Qt.ItemDataRole.UserRole))
        if self._filling or look is None or name in look.brought:
            return
        leave = item.checkState(0) == Qt.CheckState.Unchecked
        out = look.left_out | {name} if leave else look.left_out - {name}
        self._document.edit(
            f"{'Leave out' if leave else 'Dress'} {item.text(0)}", lambda now: replace(now, left_out=out)
        )

    def _ask(self, key: str, choice: str) -> None:
        owner = self.current().id
        self._document.edit("Map a group of colours", lambda look: with_group(look, owner, key, choice))

    def _split(self, key: str, apart: bool) -> None:
        owner = self.current().id
        whole = key if apart else key.rpartition("/")[0]
        words = "Take a group apart" if apart else "Put a group together"
        self._document.edit(words, lambda look: with_split(look, owner, whole, apart))

    # Showing

    def refresh(self) -> None:
        """Show what the look gives every component and theme."""
        look, dressed = self._document.look, self._document.dressed
        if look is None or dressed is None:
            return
        self._fill_themes()
        self._filling = True
        short: dict[str, int] = {}
        for f in self._document.findings:
            short[f.component] = short.get(f.component, 0) + (not f.passes)
        for i, component in enumerate(COMPONENTS):
            item = self.tree.topLevelItem(i)
            if item is None:
                continue
            files = dressed.files.get(component.id, ())
            item.setCheckState(0, Qt.CheckState.Unchecked if component.id in look.left_out else Qt.CheckState.Checked)
            item.setText(1, str(len(files)) if files else "–")
            left = short.get(component.id, 0)
            item.setText(2, _state(len(files), left, component.id in look.left_out))
        self._filling = False
        path = self.theme_path()
        self._pages.setCurrentIndex(1 if path else 0)
        if path:
            self.theme.show_theme(path)
        else:
            self._show(self.current())

    def _fill_themes(self) -> None:
        look = self._document.look
        brought = look.brought if look is not None else ()
        self._filling = True
        have = [self.tree.topLevelItem(i) for i in range(len(COMPONENTS), self.tree.topLevelItemCount())]
        paths = [str(item.data(0, Qt.ItemDataRole.UserRole)) for item in have if item is not None]
        if paths != list(brought):
            chosen = self._chosen()
            while self.tree.topLevelItemCount() > len(COMPONENTS):
                self.tree.takeTopLevelItem(self.tree.topLevelItemCount() - 1)
            for path in brought:
                item = QTreeWidgetItem([Path(path).name, "", ""])
                item.setData(0, Qt.ItemDataRole.UserRole, path)
                item.setToolTip(0, path)
                item.setIcon(0, icon("dress", self._style.c("text"), self._style.c("disabled")))
                self.tree.addTopLevelItem(item)
            self.tree.setFixedHeight(206 + 27 * min(4, len(brought)))
            self.choose(chosen)
        for i, path in enumerate(brought, len(COMPONENTS)):
            row, known = self.tree.topLevelItem(i), self._desk.known.get(path)
            if row is not None:
                outcome = known.outcome if known is not None else None
                row.setText(1, str(outcome.changed) if outcome else "…")
                row.setText(2, _state(1, len(outcome.short), False) if outcome else "…")
        self._filling = False

    def _show(self, component: Component) -> None:
        dressed = self._document.dressed
        assert dressed is not None
        files = dressed.files.get(component.id, ())
        self.reads.setText(component.reads + ".")
        self.effect.setText(f"It {_EFFECTS[component.effect]}. {component.restart}")
        self.files.setText(
            "\n".join(f"~/{f.path}" for f in files)
            or f"Nothing: this home has no {component.needs_file or 'use for it'}."
        )
        rows = self._rows(component)
        if rows:
            self.groups_title.setText(f"{len(rows)} groups of colours in {sum(r.places for r in rows)} places")
        self.groups_title.setVisible(bool(rows))
        self.groups.setVisible(bool(rows))
        self.groups.show_rows(rows)

    def _rows(self, component: Component) -> list[Row]:
        dressed = self._document.dressed
        assert dressed is not None
        files = dressed.files.get(component.id, ())
        form = _format(files[0]) if files and component.rewrites else None
        if form is None:
            return []
        look = dressed.look
        splits = splits_of(component.id, look.split)
        subject = subject_of(text_of(self._document.files, files[0].path), form.scan, splits)
        roles = look.choices_of(component.id)
        chart = map_for(subject.groups, subject.spans, look.colours, roles)
        targets = shown_targets(subject.groups, chart, look.colours, roles)
        return [
            group_row(g, targets[g.key], 1, roles, splits, tuple(states_of(g, subject.spans).items()))
            for g in subject.groups
        ]

    # What the centre shows

    def changes(self) -> list[Change]:
        """Return what changes in the files of the chosen component or theme."""
        path, known = self.theme_path(), self._desk.known.get(self.theme_path())
        if path:
            if known is None or known.outcome is None:
                return []
            rows = []
            for name, text in known.theme.texts.items():
                fresh = known.outcome.fresh.get(name, text.text)
                if fresh != text.text:
                    rows.append(Change(name, text.text, fresh, text.format.scan))
            return sorted(rows, key=lambda c: (c.name.count("!"), -len(c.after)))
        dressed = self._document.dressed
        files = dressed.files.get(self.current().id, ()) if dressed is not None else ()
        out: list[Change] = []
        for file in files:
            old, new = text_of(self._document.files, file.path), file.data.decode("utf-8", "replace")
            form = _format(file)
            if old != new:
                out.append(Change(f"~/{file.path}", old, new, form.scan if form is not None else None))
        return out

    def pictures(self) -> list[Picture]:
        """Return the redrawn pictures of the chosen theme."""
        known = self._desk.known.get(self.theme_path())
        if known is None or known.outcome is None:
            return []
        return pictures_of(known.theme, known.outcome)

    def surfaces(self) -> list[Surface]:
        """Return what the pictures lie on: the look's surfaces, and before it the theme's own where it has them."""
        look, known = self._document.look, self._desk.known.get(self.theme_path())
        if look is None:
            return []
        own = {role: colour for f in (known.theme.families if known else ()) for colour, role in reversed(f.leading)}
        return [
            Surface(title, own.get(role, look.colours[role]), look.colours[role])
            for title, role in (("panel", "panel"), ("menu", "menu"), ("view", "view"))
        ]


def _state(files: int, short: int, left_out: bool) -> str:
    if files:
        return f"{short} short" if short else "all"
    return "left out" if left_out else "none here"
