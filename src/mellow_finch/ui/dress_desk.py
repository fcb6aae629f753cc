"""Dress as a whole: its panel, the themes brought along, and what the centre shows of the chosen one."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from ..errors import FinchError
from ..session.base import Session
from ..wear.history import History
from ..wear.places import history_folder
from ..wear.themes import theme_plan
from ..wear.wear import put_on
from .asking import Asking
from .changes import ChangesView
from .document import Document
from .jobs import Jobs
from .panel_dress import DressPanel
from .pictures_beside import PicturesView
from .style import Style
from .theme_desk import ThemeDesk


class DressDesk(QObject):
    """Puts the parts of Dress together; the window says when it is in sight."""

    said = pyqtSignal(str)
    trouble = pyqtSignal(str)
    worn = pyqtSignal()  # a theme was put into the home
    shown = pyqtSignal()  # what the centre is to show may be another thing now

    def __init__(self, document: Document, style: Style, jobs: Jobs) -> None:
        super().__init__()
        self._document = document
        self.themes = ThemeDesk(document, jobs)
        self.panel = DressPanel(document, style, self.themes)
        self.changes = ChangesView(style)
        self.beside = PicturesView(style)
        self.themes.trouble.connect(self.trouble)
        self.themes.changed.connect(lambda _: self.shown.emit())
        self.panel.view_changed.connect(lambda _: self.shown.emit())
        self.panel.chosen.connect(self.shown)

    def connect(self, asking: Asking) -> None:
        """Connect what has to be asked for in dialogs."""
        self.panel.file_asked.connect(asking.theme_file)
        self.panel.folder_asked.connect(asking.theme_folder)
        self.panel.theme.save_asked.connect(lambda path: asking.save_theme(self.themes, path))
        asking.theme_chosen.connect(self.themes.bring)

    def take_theme(self, in_sight: bool) -> None:
        """Let the stage show the chosen theme while Dress is in sight, and the home otherwise."""
        known = self.themes.known.get(self.panel.theme_path()) if in_sight else None
        self._document.themed = (known.before, known.after or known.before) if known is not None else ({}, {})

    def view(self, stage: QWidget) -> QWidget:
        """Return what the centre shows, filled anew: the stage, the changes of files, or pictures."""
        if self.panel.view == "changes":
            self.changes.show_changes(self.panel.changes())
            return self.changes
        if self.panel.view == "pictures":
            self.beside.show_pictures(self.panel.pictures(), self.panel.surfaces())
            return self.beside
        return stage

    def wear(self, path: str, session: Session) -> None:
        """Put a recoloured theme into the home, with a way back in Wear."""
        known, look, home = self.themes.known.get(path), self._document.look, self._document.home
        if known is None or known.outcome is None or look is None or home is None:
            return
        try:
            plan = theme_plan(known.outcome, known.theme.found, look.tone, home)
            done = put_on(plan, History(history_folder(home)), session)
        except FinchError as error:
            self.trouble.emit(error.line())
            return
        words = f"“{known.outcome.name}” is in the home, {len(plan.writes)} files; Wear takes it off again."
        self.said.emit(words if done is not None else f"“{known.outcome.name}” is in the home already.")
        self.worn.emit()
