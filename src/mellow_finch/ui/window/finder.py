"""Find anything by typing: roles, components, schemes, what was opened last, actions, buttons and preferences."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QObject, QPoint, QSize, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QAbstractButton, QDialog, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout

from ...components.catalogue import COMPONENT_BY_ID, COMPONENTS
from ...language import keys, parted, tr
from ...look.ready import READY
from ...palette.roles import ROLES
from ..help.pages import pages
from ..kit.panels import ListedPanel, PagedPanel, TabButton
from . import moves
from .actions import ACTIONS
from .settings import PREFERENCES
from .shell import Shell
from .steps.rows import STEPS

_MOST = 40
_WIDE, _HIGH = 560, 420


class SearchResult(NamedTuple):
    """One thing that can be found. kind and note: said beside its name; run: what choosing it does.

    also: further words by which it is found.
    """

    words: str
    kind: str
    note: str
    run: Callable[[], object]
    also: str = ""


def everything(shell: Shell) -> list[SearchResult]:
    """Return all that can be found in a window as it stands."""
    look, opening = shell.bench.document.look, shell.bench.opening
    rows = [
        SearchResult(
            row.title.rstrip("…"), tr("Action"), keys(row.shortcut), shell.actions_by_id[row.id].trigger, row.also
        )
        for row in ACTIONS
        if shell.actions_by_id[row.id].isEnabled() and row.id != "find"
    ]
    if look is not None:
        rows += [
            SearchResult(r.title, tr("Role"), look.colours[r.id].hex, partial(moves.change_role, shell, r.id), r.shows)
            for r in ROLES
        ]
        rows += [
            SearchResult(
                c.title,
                tr("Component"),
                tr(c.kind),
                partial(moves.show_component, shell, c.id),
                " ".join((c.id, *c.programs)),
            )
            for c in COMPONENTS
        ]
        rows += _files(shell)
    rows += _controls(shell)
    rows += [
        SearchResult(k.name, tr("Saved look"), parted(k.tags), partial(shell.shelving.open_kept, k.id))
        for k in shell.shelving.kept_looks()
    ]
    rows += [
        SearchResult(page.title, tr("Guide"), "", partial(moves.show_guide, shell, page.name), page.headings)
        for page in pages()
    ]
    rows += [SearchResult(s.title, tr("Scheme"), s.note, partial(opening.open_scheme, s.id)) for s in READY]
    rows += [SearchResult(p.stem, tr("Recent"), p.name, partial(shell.open_path, str(p))) for p in shell.recent()]
    if shell.memory is not None:
        rows += [
            SearchResult(s.title, tr("Preference"), "", partial(moves.choose_preferences, shell, s.name),
                  " ".join(o.words for o in s.options))
            for s in PREFERENCES
        ]  # fmt: skip
    return rows


def _files(shell: Shell) -> Iterator[SearchResult]:
    """Yield the files that the look changes or makes, those known so far; choosing one shows its lines."""
    document = shell.bench.document
    dressed = document.dressed if document.worked_out else None
    for id_, files in dressed.files.items() if dressed is not None else ():
        component = COMPONENT_BY_ID.get(id_)
        if component is not None:
            for file in files:
                name = file.path.rpartition("/")[2]
                show = partial(moves.show_component, shell, id_, "changes")
                yield SearchResult(name, tr("File"), component.title, show, f"~/{file.path}")


def _controls(shell: Shell) -> Iterator[SearchResult]:
    """Yield the pages and buttons of every step that can be gone to; choosing one leads to it, and presses nothing."""
    titles = {row.title.rstrip("…") for row in ACTIONS}
    for row in STEPS:
        step = shell.step_by_id[row.id]
        if not step.available():
            continue
        if isinstance(step.panel, ListedPanel):
            for name, (title, tip) in step.panel.pages.items():
                if title and tip:
                    titles.add(title)
                    yield SearchResult(title, row.title, tip, partial(_lead_to_page, shell, row.id, name))
        bar = step.bar()
        over = bar.findChildren(QAbstractButton) if bar is not None else []
        for button in (*step.panel.findChildren(QAbstractButton), *over):
            words = button.text().replace("&", "").rstrip("… ")
            if len(words) < 3 or words in titles or button.isHidden():
                continue
            titles.add(words)
            if isinstance(button, TabButton):
                yield SearchResult(words, row.title, button.toolTip(), partial(_lead_to, shell, row.id, button))
            else:
                yield SearchResult(words, row.title, "", partial(_lead_to, shell, row.id, button), button.toolTip())


def _lead_to(shell: Shell, step: str, button: QAbstractButton) -> None:
    """Show the page that a button stands on, and give it the focus; a tab is chosen."""
    shell.show_step(step)
    panel = shell.step_by_id[step].panel
    if isinstance(button, TabButton):
        button.click()
    elif isinstance(panel, PagedPanel | ListedPanel):
        panel.show_page_of(button)
    button.setFocus(Qt.FocusReason.ShortcutFocusReason)


def _lead_to_page(shell: Shell, step: str, page: str) -> None:
    """Show a page that a list leads to."""
    shell.show_step(step)
    panel = shell.step_by_id[step].panel
    if isinstance(panel, ListedPanel):
        panel.show_page(page)


def ranked(rows: list[SearchResult], typed: str) -> list[SearchResult]:
    """Return what has every typed word in it: names that begin with the first word, then the whole phrase, lead."""
    wanted = typed.lower().split()
    phrase = " ".join(wanted)
    if not wanted:
        return rows[:_MOST]
    found = [r for r in rows if all(w in f"{r.words} {r.kind} {r.note} {r.also}".lower() for w in wanted)]

    def place(row: SearchResult) -> tuple[bool, bool, bool, bool, int]:
        low = row.words.lower()
        said = phrase in f"{low} {row.also.lower()}"
        return not low.startswith(wanted[0]), wanted[0] not in low, not said, not row.also, len(low)

    return sorted(found, key=place)[:_MOST]


class Finder(QDialog):
    """A line to type in, and what there is of that name."""

    def __init__(self, shell: Shell) -> None:
        window = shell.widget
        super().__init__(window)
        self.setWindowTitle(tr("Find anything"))
        self.setModal(True)
        self._rows = everything(shell)
        self.shown: list[SearchResult] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 10)
        self.line = QLineEdit()
        self.line.setPlaceholderText(tr("Find a role, a component, a scheme, a look, an action …"))
        self.line.setAccessibleName(tr("Search for"))
        self.line.textChanged.connect(self._typed)
        self.line.installEventFilter(self)
        column.addWidget(self.line)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Search results"))
        self.list.itemActivated.connect(lambda _: self.go())
        self.list.itemClicked.connect(lambda _: self.go())
        column.addWidget(self.list, 1)
        self.resize(QSize(_WIDE, _HIGH))
        self.move(window.mapToGlobal(QPoint((window.width() - _WIDE) // 2, 90)))
        self._typed("")
        self.line.setFocus()

    def _typed(self, words: str) -> None:
        self.shown = ranked(self._rows, words)
        self.list.clear()
        for row in self.shown:
            item = QListWidgetItem(f"{row.words}\n{'   '.join(filter(None, (row.kind, row.note)))}")
            item.setSizeHint(QSize(0, 44))
            self.list.addItem(item)
        if self.shown:
            self.list.setCurrentRow(0)
        else:
            item = QListWidgetItem(tr("Nothing found."))
            item.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addItem(item)

    def go(self) -> None:
        """Do what was chosen."""
        at = self.list.currentRow()
        if 0 <= at < len(self.shown):
            row = self.shown[at]
            self.accept()
            row.run()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Walk over what was found while typing."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            by = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_PageUp: -8, Qt.Key.Key_PageDown: 8}
            step = by.get(Qt.Key(event.key()), 0)
            if step and self.shown:
                self.list.setCurrentRow(min(len(self.shown) - 1, max(0, self.list.currentRow() + step)))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.go()
                return True
        return False
