"""Gather in the window: its panel and views, and who answers what they ask."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QWidget

from ....language import tr
from ....look.model import Look
from ...gather.desk import GatherDesk
from ..shell import OnStage, Shell, StepStatus
from .base import StageStep


class GatherStep(StageStep):
    """Works on the picture, or on several side by side."""

    def __init__(self, shell: Shell) -> None:
        super().__init__(shell)
        b = self._bench
        self.desk = GatherDesk(
            b.document, shell.appearance, shell.jobs, b.opening, b.matching, shell.picture, b.staging
        )
        self.panel = self.desk.panel
        g, ask = self.panel, b.dialogs
        g.picture.open_asked.connect(ask.pictures)
        g.picture.add_asked.connect(ask.more_pictures)
        g.picture.screen_asked.connect(lambda: b.picking.pick(False))
        g.schemes.import_asked.connect(ask.palette)
        g.schemes.export_asked.connect(ask.export)
        g.schemes.theme_asked.connect(lambda: shell.actions_by_id["open_theme"].trigger())
        g.schemes.taken.role_asked.connect(lambda role, at, parent: b.role_menu.show_for(role, at, parent))
        g.match.folder_asked.connect(ask.folder)
        g.match.save_asked.connect(ask.toned)
        for source in (b.opening, b.matching, self.desk):
            source.trouble.connect(lambda words: self.panel.picture.show_busy("") if words else None)
        shell.jobs.failed.connect(lambda _: self.panel.picture.show_busy(""))
        self.desk.trouble.connect(shell.say_trouble)
        self.desk.said.connect(shell.say)
        b.home_taken.connect(self._offer)

    def _offer(self, home: Path) -> None:
        """Offer what the desktop shows now, and the pictures of the demo home."""
        self.desk.look_at_desktop(self._bench.wearing.session)
        self.desk.offer_pictures_of(home)
        if self._bench.settings.shows_pictures:
            self.desk.offer_around(home, self._bench.wearing.session)

    def views(self) -> tuple[QWidget, ...]:
        """Return what there is to start from, the picture, and the sheet of several."""
        return (self.desk.start, self._shell.picture, self.desk.sheet)

    def centre(self) -> QWidget:
        """Return what there is to start from, the picture, or several side by side."""
        return self.desk.view()

    def on_stage(self) -> OnStage:
        """Return that the stage is not in use."""
        return OnStage(used=False)

    def available(self) -> bool:
        """Tell that everything begins here."""
        return True

    def enter(self) -> None:
        """Bring up to date what waits while it is out of sight."""
        self.desk.come_in_sight()

    def follow(self, old: Look | None, new: Look, in_sight: bool) -> None:
        """Show what the look comes from."""
        self.desk.follow(old, new, in_sight)

    def refresh(self) -> None:
        """Do nothing: all of it is brought up to date as it changes."""

    def status(self, look: Look | None) -> StepStatus:
        """Return what the look starts from."""
        return StepStatus(self.desk.start_words(look) if look is not None else tr("no image yet"))
