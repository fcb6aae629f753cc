"""The bar that offers what was open when the program was ended by force, and what writes it down meanwhile."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from ...language import plural, sentences, tr
from ..kit.parts import label

if TYPE_CHECKING:
    from .memory import SavedSession
    from .shell import Shell

_KEEP_MS = 3000  # after a change, before where the person is has been written


class SessionBar(QWidget):
    """Hidden until there is something to offer; without a memory it never is."""

    def __init__(self, shell: Shell) -> None:
        super().__init__()
        self._shell, self._memory = shell, shell.memory
        self._session: SavedSession | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 4, 14, 4)
        self.words = label("", "section", wrap=False)
        self.take_up = QPushButton(tr("Restore session"))
        self.take_up.setToolTip(tr("Continue where you were when the program ended"))
        self.take_up.setProperty("main", True)
        self.take_up.clicked.connect(self._take_up)
        self.let_go = QPushButton(tr("Discard"))
        self.let_go.setToolTip(tr("Discard that work; your home folder is not changed"))
        self.let_go.clicked.connect(self._let_go)
        for one in (self.words, self.take_up, self.let_go):
            row.addWidget(one)
        row.addStretch(1)
        self.keeping = QTimer(self)
        self.keeping.setSingleShot(True)
        self.keeping.timeout.connect(self.keep)
        self.hide()

    def follow(self) -> None:
        """See to it that a change is written soon."""
        if self._memory is not None and not self.keeping.isActive():
            self.keeping.start(_KEEP_MS)

    def keep(self) -> None:
        """Write where the person is, off the window's thread."""
        memory, shell = self._memory, self._shell
        if memory is not None and shell.bench.document.look is not None:
            states, at, step = shell.bench.document.states(), shell.bench.document.stack.index(), shell.step
            shell.jobs.start("session", lambda _: memory.keep_session(states, at, step), lambda _: None, lambda _: None)

    def keep_now(self) -> None:
        """Write where the person is at once: the system asks the program to end."""
        memory, shell = self._memory, self._shell
        self.keeping.stop()
        if memory is not None and shell.bench.document.look is not None and not shell.bench.document.stack.isClean():
            memory.keep_session(
                shell.bench.document.states(), shell.bench.document.stack.index(), shell.step, asked=True
            )
        elif memory is not None:
            memory.forget_session()

    def offer(self) -> None:
        """Offer to take up what was being done when the program was ended by force, or at a log-out."""
        self._session = self._memory.session() if self._memory is not None else None
        if self._session is not None:
            name = self._session.states[self._session.at].look.name
            count = len(self._session.states) - 1
            words = (
                tr("“{name}” was open here last.")
                if self._session.asked
                else tr("Mellow Finch ended while “{name}” was open.")
            )
            steps = [plural("{count} step can be restored.", "{count} steps can be restored.", count)] if count else []
            self.words.setText(sentences(words.format(name=name), *steps))
            self.show()

    def _take_up(self) -> None:
        self.hide()
        if self._session is not None:
            named = frozenset(path for state in self._session.states for path in state.look.brought)
            self._shell.bench.opening.themes_named.emit(named)
            self._shell.bench.document.take_up(self._session.states, self._session.at)
            if self._session.step in self._shell.step_by_id:
                self._shell.show_step(self._session.step)

    def _let_go(self) -> None:
        self.hide()
        if self._memory is not None:
            self._memory.forget_session()
