"""Dress, companions: icons, cursors, buttons and the like that go with the colours. Off until asked."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from ...errors import line_of
from ...language import plural, tr
from ...look.model import Look
from ...theme.bundle.installed import ThemeChoice, icon_themes, places, pointer_themes, ranked_by_look
from ..kit.jobs import JobProgress, Jobs
from ..kit.parts import label
from ..model.document import Document
from .choices_page import ChoicesPage

_SIZES = ("24", "32", "48", "64")
_READING = "finding icons and pointers"
_IDS = ("icons", "pointers", "pointer_size", "buttons", "compositor", "sandboxes")
Found = tuple[tuple[ThemeChoice, ...], tuple[ThemeChoice, ...]]


class CompanionsPage(ChoicesPage):
    """What this computer has is found when the page is first seen."""

    def __init__(self, document: Document, jobs: Jobs, parent: QWidget | None = None) -> None:
        words = tr("Icons, cursor, fonts and window buttons to match. Each stays as it is until you choose.")
        super().__init__(document, words, _IDS, parent)
        self._jobs = jobs
        self._found: Found | None = None
        self._column.addLayout(self._form)
        self.state = label("", "quiet")
        self._column.addWidget(self.state)
        self.fill("buttons", [("left", tr("On the left")), ("right", tr("On the right"))])
        self.fill("compositor", [("on", tr("On, for translucent surfaces"))])
        self.fill("sandboxes", [("read", tr("Allow themes and stylesheets"))])
        self.fill("pointer_size", [(size, plural("{count} pixel", "{count} pixels", int(size))) for size in _SIZES])

    def refresh(self) -> None:
        """Show what the look has, what this computer has being found off the window's thread the first time."""
        look = self._document.look
        if look is None or not self.isVisible():
            return
        if self._found is None and self._document.home is not None:
            self._read()
        elif self._found is not None:
            self._show_themes(look)
        self.show_chosen(look)

    def _read(self) -> None:
        home = self._document.home
        assert home is not None
        self.state.setText(tr("Looking for icon and cursor themes …"))

        def work(_progress: JobProgress) -> Found:
            return icon_themes(places(home)), pointer_themes(places(home))

        def done(found: Found) -> None:
            self._found = found
            self.state.setText(
                tr("Installed icon themes: {icons}. Cursor themes: {cursors}.").format(
                    icons=len(found[0]), cursors=len(found[1])
                )
            )
            if self._document.look is not None:
                self._show_themes(self._document.look)
                self.show_chosen(self._document.look)

        self._jobs.start(_READING, work, done, lambda error: self.state.setText(line_of(error)))

    def _show_themes(self, look: Look) -> None:
        """Offer icon themes by how well their colour goes with the look, and pointers."""
        assert self._found is not None
        icons, pointers = self._found
        self.fill("icons", [(t.name, t.title, t) for t in ranked_by_look(icons, look.colours)])
        self.fill("pointers", [(t.name, t.title) for t in pointers])
