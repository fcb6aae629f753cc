"""The one look that the window holds, its undo stack, and everything that follows from it."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from ...components import catalogue
from ...components.files import Files, NoFiles, SteadyFiles
from ...components.model import Paints
from ...components.read.presence import Presence
from ...errors import FinchError
from ...language import tr
from ...look.dressed import Dressed, Writings, as_it_is, dress, first_said
from ...look.model import Look
from ...look.worn_themes import NO_THEMES, WornTheme
from ...palette.roles import ROLE_BY_ID
from ...proof.proof import Finding, prove
from ...session.xdg import home_files
from ...wear.history import History
from ...wear.places import history_folder
from ...wear.plan import own_files
from ...wear.present import presence_in


class ReplaceLook(QUndoCommand):
    """One undoable step: one look gives way to another."""

    def __init__(self, document: Document, text: str, old: Look, new: Look, merge: int) -> None:
        super().__init__(text)
        self._document, self.old, self.new, self._merge = document, old, new, merge

    def id(self) -> int:
        """Return the gesture this step belongs to, -1 for one that stands alone."""
        return self._merge

    def redo(self) -> None:
        """Show the new look."""
        self._document.show(self.new)

    def undo(self) -> None:
        """Show the old look."""
        self._document.show(self.old)

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        """Take over the later step of the same gesture."""
        if not isinstance(other, ReplaceLook):
            return False
        self.new = other.new
        if self.new == self.old:
            self.setObsolete(True)
        return True


class HistoryState(NamedTuple):
    """A state of the look, and what led to it in words."""

    words: str
    look: Look


class Document(QObject):
    """Holds the look; `edit` is the only way to change it. Widgets listen and hold no state of their own."""

    changed = pyqtSignal(object, object)  # old and new look, or None
    selected = pyqtSignal(str, str, str)  # role, component, part key
    trouble = pyqtSignal(str)  # a sentence for the person
    home_changed = pyqtSignal()
    beside_changed = pyqtSignal()
    judged = pyqtSignal()  # the findings of the look are known now

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.stack = QUndoStack(self)
        self.look: Look | None = None
        self.home: Path | None = None
        self.files: Files = NoFiles()
        self._steady = SteadyFiles(self.files)  # what a drag works on: files are not read again at every step
        self._writings = Writings()  # on these files
        self.before: Mapping[str, Paints] = {}
        self._worn: Mapping[str, Paints] = {}
        self.present: Mapping[str, Presence] = {}  # by component, whether the home has it and how that was told
        self.role = "accent"
        self.component, self.part = "", ""
        self.beside: tuple[HistoryState | None, HistoryState | None] = (None, None)
        self.themed: tuple[Mapping[str, Paints], Mapping[str, Paints]] = ({}, {})  # a theme's, before and after
        self.themes: dict[str, WornTheme] = {}  # those that the look wears, as far as they are ready
        self.in_view = ""  # the component that the stage shows in the place of its kind
        self._gesture = 0
        self.dragging = False  # whether the change being told is one of a drag
        self._dressed: Dressed | None = None
        self._ahead: Dressed | None = None  # the next look, dressed before it is shown
        self._preview: tuple[str, Look, Dressed] | None = None
        self._findings: tuple[Finding, ...] | None = None
        self._dressed_on: Files | None = None  # the files that a job works on
        self._beside_paints: dict[int, Mapping[str, Paints]] = {}
        self._kept: list[Look] = []  # the looks whose ids are keys above

    def set_home(self, home: Path) -> None:
        """Work on the files of a home folder."""
        self.home = home
        self.files = own_files(home, History(history_folder(home)))
        self._look_at_home(home)
        self.home_changed.emit()
        if self.look is not None:
            self.changed.emit(self.look, self.look)

    def _look_at_home(self, home: Path) -> None:
        self.before = as_it_is(self.files)
        self._worn = as_it_is(home_files(home))
        self.present = presence_in(home, self.files, History(history_folder(home)))
        self._hold_still()
        self._forget()

    def worn_paints(self, component: str) -> Paints:
        """Return what the files of a component say as they lie in the home now, those of a worn look included."""
        return self._worn.get(component, {})

    def read_anew(self) -> None:
        """Read the home's files again after they changed on disk."""
        if self.home is not None and not self.dragging:
            self.files = own_files(self.home, History(history_folder(self.home)))
            self._look_at_home(self.home)
            if self.look is not None:
                self.changed.emit(self.look, self.look)

    def components_changed(self) -> None:
        """Take up what the person has made a component, or forgotten."""
        catalogue.read_anew()
        self.read_anew()

    def start(self, look: Look) -> None:
        """Begin with a look; the history of steps starts anew."""
        self.stack.clear()
        self.show(look)

    def take_up(self, states: Sequence[HistoryState], at: int) -> None:
        """Begin with states of an earlier session, undo and redo leading to all of them; at: the one in force."""
        self.stack.clear()
        self.show(states[0].look)
        for before, state in pairwise(states):
            self.stack.push(ReplaceLook(self, state.words, before.look, state.look, -1))
        self.stack.setIndex(at)

    def show(self, look: Look) -> None:
        """Make a look the current one; called by the undo stack."""
        old, self.look = self.look, look
        known, findings = self._dressed, self._findings
        self._forget()
        self._dressed = self._standing(known, look)
        if self._dressed is not None:
            self._findings = findings
        else:
            self._dressed = self._standing(self._ahead, look)
        self._ahead = None
        if self.beside[1] is not None:
            self.set_beside(None, None)
        self.changed.emit(old, look)

    def _forget(self) -> None:
        self._dressed = None
        self._preview = None
        self._findings = None

    @property
    def dressed(self) -> Dressed | None:
        """Return the look dressed on the home, worked out when first asked for."""
        if self._dressed is None and self.look is not None:
            self._dressed = self.dress(self.look, self.dragging)
        return self._dressed

    def dress(self, look: Look, steady: bool = False, folder: str = "") -> Dressed:
        """Return a look dressed on what this home has; steady: as it was when the drag began; folder: see dress."""
        themes = self.themes if look is self.look else NO_THEMES  # in its colours, not in those of another look
        if steady:
            return dress(look, self._steady, present=self._here, writings=self._writings, themes=themes)
        return dress(look, self.files, present=self._here, folder=folder, themes=themes)

    def dressed_ahead(self, look: Look, drawn: Collection[str]) -> Dressed:
        """Return a look that is to be shown next dressed, with what is drawn of it worked out; any thread may."""
        ahead = dress(look, self.files, present=self._here, themes=self.themes)
        for id_ in drawn:
            ahead.paints.get(id_)
        return ahead

    def take_ahead(self, dressed: Dressed) -> None:
        """Take up what a job dressed, for when its look is shown next."""
        self._ahead = dressed

    def _standing(self, dressed: Dressed | None, look: Look) -> Dressed | None:
        """Return what was dressed before where it stands for a look, on the files and with the themes there are."""
        if dressed is None or dressed.home is not self.files or dressed.wardrobe.themes is not self.themes:
            return None
        return dressed.serving(look)

    @property
    def _here(self) -> frozenset[str] | None:
        """Return the components that the home has, None where that was not looked at."""
        return frozenset(id_ for id_, found in self.present.items() if found.here) if self.present else None

    def take_theme(self, path: str, worn: WornTheme) -> None:
        """Take up a theme that the look wears, in its colours as they are now."""
        self.themes = {**self.themes, path: worn}
        if self.look is not None:
            self._forget()
            self.changed.emit(self.look, self.look)

    def dressed_with(self, component: str) -> Dressed:
        """Return the look dressed on the home, with one component more when it does not dress that one."""
        assert self.look is not None and self.dressed is not None
        if component in self.dressed.files:
            return self.dressed
        if self._preview is None or self._preview[:2] != (component, self.look):
            files = self._steady if self.dragging else self.files
            only = frozenset({component})
            self._preview = (component, self.look, dress(self.look, files, only, themes=self.themes))
        return self._preview[2]

    @property
    def findings(self) -> tuple[Finding, ...]:
        """Return every pair of every dressed component, worst first."""
        if self._findings is None:
            self._findings = prove(self.dressed) if self.dressed else ()
        return self._findings

    @property
    def findings_known(self) -> tuple[Finding, ...] | None:
        """Return the findings if they have been worked out, which a job does a moment after each change."""
        return self._findings

    @property
    def worked_out(self) -> bool:
        """Tell whether every file of the look was written and judged already."""
        return self.look is None or (self._findings is not None and self._dressed is not None)

    def adopt(self, dressed: Dressed, findings: tuple[Finding, ...]) -> None:
        """Take over what a job worked out, if it is still what is wanted."""
        worn = dressed.wardrobe.themes is self.themes
        if dressed.look is self.look and worn and self._dressed_on is self.files and not self.dragging:
            self._dressed, self._findings = dressed, findings
            self.judged.emit()

    def apart(self) -> Dressed | None:
        """Return the look dressed once more, for a job to work out and for adopt to take over."""
        self._dressed_on = self.files
        return self.dress(self.look) if self.look is not None else None

    def new_gesture(self) -> int:
        """Return a merge key for one drag: all its edits become one undoable step."""
        self._gesture += 1
        self._hold_still()
        return self._gesture

    def _hold_still(self) -> None:
        self._steady, self._writings = SteadyFiles(self.files), Writings()

    def edit(self, text: str, change: Callable[[Look], Look], merge: int = -1, base: Look | None = None) -> bool:
        """Change the look as one undoable step; base is the look that a drag started from.

        An edit that cannot be made tells the person why, and False comes back.
        """
        if self.look is None:
            return False
        try:
            fresh = change(base or self.look)
        except FinchError as error:
            self.trouble.emit(error.line())
            return False
        if fresh == self.look:
            return True
        self.dragging = merge != -1
        self.stack.push(ReplaceLook(self, text, self.look, fresh, merge))
        self.dragging = False
        return True

    def gesture(self) -> Gesture:
        """Return something to make the edits of drags with, each drag one undoable step."""
        return Gesture(self)

    def follow(self, on: bool) -> None:
        """Let everything else follow an edit so that it stays readable, or let the person go freely."""
        words = tr("Keep readable while editing") if on else tr("Edit freely")
        self.edit(words, lambda look: replace(look, mend_as_you_go=on))

    def link(self, on: bool) -> None:
        """Let dark and light go together, or apart."""
        self.edit(
            tr("Dark and light together") if on else tr("Dark and light separately"),
            lambda look: replace(look, linked=on),
        )

    def states(self) -> list[HistoryState]:
        """Return every state that undo and redo lead to, oldest first, each with what led to it."""
        commands = [self.stack.command(i) for i in range(self.stack.count())]
        steps = [c for c in commands if isinstance(c, ReplaceLook)]
        if not steps:
            return [HistoryState(tr("Start"), self.look)] if self.look is not None else []
        return [HistoryState(tr("Start"), steps[0].old), *(HistoryState(c.text(), c.new) for c in steps)]

    def set_beside(self, left: HistoryState | None, right: HistoryState | None) -> None:
        """Lay states beside each other under the curtain: None left is the home as it was, None right the look now."""
        self.beside = (left, right)
        self.beside_changed.emit()

    @property
    def left_paints(self) -> Mapping[str, Paints]:
        """Return what is on the curtain's left: the home as it was, or a state that was chosen."""
        return (
            self._paints_of(self.beside[0]) if self.beside[0] is not None else first_said(self.themed[0], self.before)
        )

    @property
    def right_paints(self) -> Mapping[str, Paints]:
        """Return what is on the curtain's right: the look now, or a state that was chosen."""
        if self.beside[1] is not None:
            return self._paints_of(self.beside[1])
        if self.dressed is None:
            return {}
        preview = self.dressed_with(self.in_view).paints if self.in_view else {}
        return first_said(self.themed[1], self.dressed.paints, preview, self.before)

    def _paints_of(self, state: HistoryState) -> Mapping[str, Paints]:
        key = id(state.look)
        if key not in self._beside_paints:
            self._beside_paints = {
                key: self.dress(state.look).paints,
                **dict(list(self._beside_paints.items())[:1]),
            }
            self._kept = [state.look, *self._kept[:1]]
        return self._beside_paints[key]

    def select(self, role: str, component: str = "", part: str = "") -> None:
        """Select a role everywhere, and the part of a component through which it was found."""
        if role in ROLE_BY_ID:  # a shade of a component's own is no role
            self.role = role
        self.component, self.part = component, part
        self.selected.emit(self.role, component, part)


class Gesture:
    """The edits of one drag after another: each starts from the look there was when the drag began."""

    def __init__(self, document: Document) -> None:
        self._document = document
        self._base: Look | None = None
        self._merge = -1

    def begin(self) -> None:
        """Begin a drag."""
        self._base = self._document.look
        self._merge = self._document.new_gesture()

    def edit(self, words: str, change: Callable[[Look], Look]) -> None:
        """Change the look that the drag began with; all edits of a drag are one step."""
        self._document.edit(words, change, self._merge, self._base)
