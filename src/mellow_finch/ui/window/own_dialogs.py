"""Dialogs about components of the person's own: made of a program's file, changed, listed, deleted."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from ...components.catalogue import COMPONENT_BY_ID
from ...components.model import Component
from ...errors import FinchError
from ...language import tr
from ..model.document import Document


class OwnDialogs(QObject):
    """Asks about components of the person's own."""

    trouble = pyqtSignal(str)
    said = pyqtSignal(str)
    own_changed = pyqtSignal(str)  # the id of a component of the person's own that was made or changed, or nothing

    def __init__(self, window: QWidget, document: Document) -> None:
        super().__init__(window)
        self._window, self._document = window, document

    def own_program(self) -> None:
        """Let the person choose a file of a program, and make a component of it."""
        home = self._document.home
        start = str(home / ".config") if home is not None else ""
        path, _ = QFileDialog.getOpenFileName(self._window, tr("A file with a program's colours"), start)
        if path and home is not None:
            self.make_own(home, Path(path))

    def make_own(self, home: Path, path: Path, known: Component | None = None) -> None:
        """Show the colours of a file with the roles they may have, to be kept as a component; known: it is one."""
        from ...components.define.own import propose
        from ..dress.own_dialog import OwnDialog

        try:
            found = propose(home, path)
        except FinchError as error:
            self.trouble.emit(error.line())
            return
        self.own = OwnDialog(found, self._document.look, self._window, known)
        self.own.kept.connect(self._own_kept)
        self.own.show()

    def own_list(self) -> None:
        """Show the components of the person's own, those that do not work too, to be deleted."""
        from ..dress.own_list import OwnList

        self.owned = OwnList(self._window)
        self.owned.delete_asked.connect(self._delete_own)
        self.owned.show()

    def _delete_own(self, file: str) -> None:
        from ...components.define.own import remove

        try:
            remove(file)
        except FinchError as error:
            self.trouble.emit(error.line())
        self.own_changed.emit("")
        self.owned.show_all()

    def _own_kept(self, id_: str) -> None:
        self.own_changed.emit(id_)
        self.said.emit(tr("“{name}” is now one of your components.").format(name=COMPONENT_BY_ID[id_].title))

    def change_own(self, id_: str) -> None:
        """Show the roles of a component of the person's own, to be changed."""
        home, known = self._document.home, COMPONENT_BY_ID.get(id_)
        if home is not None and known is not None:
            self.make_own(home, home / known.needs_file, known)

    def forget_own(self, id_: str) -> None:
        """Take a component of the person's own out of the list."""
        from ...components.define.own import forget

        known = COMPONENT_BY_ID.get(id_)
        forget(id_)
        self.own_changed.emit("")
        if known is not None:
            words = tr("“{name}” is no longer a component; its file stays as it is.")
            self.said.emit(words.format(name=known.title))
