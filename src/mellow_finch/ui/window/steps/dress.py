"""Dress in the window: its desk, the views of the centre, and who answers what its pages ask."""

from __future__ import annotations

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QWidget

from ....components.catalogue import COMPONENTS
from ....language import plural
from ....look.model import Look
from ...dress.desk import DressDesk
from ..shell import Shell, StepStatus
from .base import StageStep


class DressStep(StageStep):
    """Shows the chosen component or theme on the stage, as changes, as groups of colours, or as pictures."""

    def __init__(self, shell: Shell) -> None:
        super().__init__(shell)
        b = self._bench
        self.desk = DressDesk(b.document, shell.appearance, shell.jobs, b.staging, b.wearing, b.choosing.ask)
        self.panel, self.themes = self.desk.panel, self.desk.themes
        self.desk.asks_toolkit = lambda: b.settings.asks_toolkit
        ask, page = b.dialogs, self.panel
        self.desk.shown.connect(self._shown)
        page.theme.offers = b.wallpaper_colours
        page.theme.wear_asked.connect(self.desk.wear)
        page.theme.save_asked.connect(lambda path: ask.save_theme(self.themes, path))
        page.file_asked.connect(ask.theme_file)
        page.folder_asked.connect(ask.theme_folder)
        page.here_asked.connect(lambda: self.desk.list_here(ask.theme_file))
        page.own_asked.connect(ask.own_program)
        page.own_list_asked.connect(ask.own_list)
        page.component.roles_asked.connect(ask.change_own)
        page.component.forget_asked.connect(ask.forget_own)
        page.component.emblems.file_asked.connect(lambda name: ask.emblem(page.component, name))
        ask.own_changed.connect(self._own_changed)
        ask.theme_chosen.connect(self.themes.bring)
        b.opening.theme_found.connect(self.themes.bring)
        b.opening.themes_named.connect(self.themes.allow)
        self.themes.opened.connect(lambda _: QTimer.singleShot(0, self._show))  # when its page was filled
        self.desk.trouble.connect(shell.say_trouble)
        self.desk.said.connect(shell.say)

    def _show(self) -> None:
        self._shell.show_step("dress")

    def bar(self) -> QWidget | None:
        """Return the tabs that choose what is in the centre."""
        return self.panel.centre_bar

    def views(self) -> tuple[QWidget, ...]:
        """Return what stands in the place of the stage."""
        return tuple(self.desk.views.values())

    def centre(self) -> QWidget:
        """Return what is chosen for the centre, filled anew."""
        return self.desk.view(self._bench.stage)

    def enter(self) -> None:
        """Let the stage show the chosen theme."""
        self.desk.take_theme(True)

    def leave(self) -> None:
        """Let the stage show the home."""
        self.desk.take_theme(False)

    def _shown(self) -> None:
        """Show what is chosen: on the stage, as changes of files, or as pictures."""
        if self._shell.step == "dress":
            self.desk.take_theme(True)
            self._shell.show_stage()
            self._shell.show_centre()
            self._bench.strip.refresh()  # what is at hand is drawn from it too

    def _own_changed(self, id_: str) -> None:
        """Take up a component that the person has made, changed or forgotten, and show it."""
        self.panel.choose(COMPONENTS[0].id)  # what is in sight may be gone
        self._bench.document.components_changed()
        if id_:
            self.show_component(id_)

    def show_component(self, component: str, view: str = "") -> None:
        """Go to a component, and to a view of it where one is named."""
        self._shell.show_step("dress")
        self.panel.choose(component)
        self.panel.show_page("one")
        if view:
            self.panel.show_view(view)

    def refresh(self) -> None:
        """Bring the list and the page in sight up to date."""
        self.panel.refresh()

    def status(self, look: Look | None) -> StepStatus | None:
        """Return how many components are dressed, once that is worked out."""
        if look is None:
            return StepStatus("")
        if self._bench.document.findings_known is None:
            return None
        dressed = self._bench.document.dressed
        return StepStatus(plural("{count} included", "{count} included", len(dressed.components) if dressed else 0))
