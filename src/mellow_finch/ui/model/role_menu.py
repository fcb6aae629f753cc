"""What can be done with a role's colour wherever it is shown: copied in every spelling, pasted, locked, changed."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, QPoint, pyqtSignal
from PyQt6.QtGui import QAction, QGuiApplication
from PyQt6.QtWidgets import QMenu, QWidget

from ...colour.rgb import Rgba
from ...language import isolated, tr
from ...look.edits import with_lock, with_role_by_hand
from ...look.interchange.catalogue import export_bytes
from ...palette.roles import ROLE_BY_ID
from ..kit.clipboard import copy
from ..kit.drag import colour_in
from ..kit.swatch_button import add_copies
from .choosing import Choosing
from .document import Document

# Formats of a whole palette that are text, by the id under which they are exported.
_PALETTES = (("css", "CSS"), ("tokens", "JSON"), ("gpl", "GPL"))


def copied_colour() -> Rgba | None:
    """Return the colour that lies on the clipboard, as text or as a colour; None where none does."""
    clipboard = QGuiApplication.clipboard()
    return colour_in(clipboard.mimeData()) if clipboard is not None else None


class RoleMenu(QObject):
    """Shows the menu of a role; copies and pastes the one that is selected."""

    component_asked = pyqtSignal(str)
    said = pyqtSignal(str)

    def __init__(self, document: Document, choosing: Choosing, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document, self._choosing = document, choosing

    def copy(self, role: str = "") -> None:
        """Copy a role's colour as hex; without one, that of the selected role."""
        look, role = self._document.look, role or self._document.role
        if look is not None and role in look.colours:
            copy(look.colours[role].hex)
            words = tr("Copied: {colour} ({role})")
            self.said.emit(words.format(colour=look.colours[role].hex, role=ROLE_BY_ID[role].title))

    def paste(self, role: str = "") -> None:
        """Give a role the colour on the clipboard; without one, the selected role."""
        role, colour = role or self._document.role, copied_colour()
        if colour is None:
            self._document.trouble.emit(tr("There is no colour on the clipboard. Copy one as hex, rgb() or oklch()."))
        elif self._document.look is not None and role in self._document.look.colours:
            self._document.edit(tr("Paste a colour"), lambda look: with_role_by_hand(look, role, colour.opaque))

    def copy_palette(self, kind: str = "") -> None:
        """Copy all colours: as a list of hex colours, or in a format that is text."""
        look = self._document.look
        if look is None:
            return
        if kind:
            copy(export_bytes(look, Path("palette"), kind).decode("utf-8", "replace"))
        else:
            copy("\n".join(f"{look.colours[role].hex}  {row.title}" for role, row in ROLE_BY_ID.items()))
        self.said.emit(tr("The palette is on the clipboard."))

    def show_for(self, role: str, at: QPoint, parent: QWidget, component: str = "") -> QMenu | None:
        """Show the menu of a role at a place of the screen; component: the one that shows it there."""
        look = self._document.look
        if look is None or role not in look.colours:
            return None
        colour, locked = look.colours[role], role in look.locks
        menu = QMenu(parent)
        head = menu.addAction(f"{ROLE_BY_ID[role].title}  {isolated(colour.hex)}")
        assert head is not None
        head.setEnabled(False)
        add_copies(menu, colour, f"--{role.replace('_', '-')}: {colour.hex};")
        whole = menu.addMenu(tr("Copy the whole palette"))
        assert whole is not None
        self._add(whole, tr("As a list of hex colours"), self.copy_palette)
        for kind, title in _PALETTES:
            self._add(whole, tr("As {kind}").format(kind=title), partial(self.copy_palette, kind))
        menu.addSeparator()
        pasted = copied_colour()
        words = tr("Paste {colour}").format(colour=pasted.hex) if pasted is not None else tr("Paste a colour")
        self._add(menu, words, partial(self.paste, role)).setEnabled(pasted is not None and not locked)
        self._add(menu, tr("Unlock") if locked else tr("Lock"), partial(self._lock, role, not locked))
        change = partial(self._choosing.ask_role, role, parent, parent.mapFromGlobal(at))
        self._add(menu, tr("Change…"), change).setEnabled(not locked)
        if component:
            self._add(menu, tr("Show where it is used"), partial(self.component_asked.emit, component))
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(at)
        return menu

    def _add(self, menu: QMenu, words: str, run: object) -> QAction:
        action = QAction(words, menu)
        action.triggered.connect(lambda _=False: run())  # type: ignore[operator]
        menu.addAction(action)
        return action

    def _lock(self, role: str, on: bool) -> None:
        words = tr("Lock a colour") if on else tr("Unlock a colour")
        self._document.edit(words, lambda look: with_lock(look, role, on))
