"""What a desktop shows now: its picture, whether it is dark, and its theme, to start a look from."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple
from urllib.parse import unquote, urlsplit

from ..language import tr
from .base import DesktopSession, DesktopSetting
from .desktop import desktop_named, keys_of

_SCHEME = DesktopSetting("org.gnome.desktop.interface", "color-scheme")
_THEME = DesktopSetting("org.gnome.desktop.interface", "gtk-theme")


class Now(NamedTuple):
    """What was found; empty for what was not. dark: None where the desktop does not say."""

    desktop: str = ""
    picture: str = ""
    dark: bool | None = None
    theme: str = ""

    def words(self) -> str:
        """Return it as a sentence."""
        tone = {True: tr(", dark"), False: tr(", light"), None: ""}[self.dark]
        theme = tr(", in “{theme}”").format(theme=self.theme) if self.theme else ""
        picture = tr(", with “{name}” on the screen").format(name=Path(self.picture).name) if self.picture else ""
        rest = f"{tone}{theme}{picture}"
        if not self.desktop:
            return tr("Your desktop is of its own{rest}.").format(rest=rest)
        return tr("Your desktop is {desktop}{rest}.").format(desktop=self.desktop, rest=rest)


def now(session: DesktopSession) -> Now:
    """Return what the desktop that runs shows. Asks settings only."""
    desktop = desktop_named(session.desktop)
    picture = theme = ""
    for row in desktop.rows if desktop is not None else ():
        if row.value not in ("{picture}", "{uri}", "{theme}") or (row.value == "{theme}" and row.component != "gtk-3"):
            continue
        keys = keys_of(row, session)[:1]
        found = session.read(DesktopSetting(row.schema, keys[0], store=row.store, kind=row.kind)).value if keys else ""
        if row.value == "{theme}":
            theme = theme or found
        else:
            picture = picture or _path(found)
    theme = theme or session.read(_THEME).value
    scheme = session.read(_SCHEME).value
    said = {"prefer-dark": True, "prefer-light": False}.get(scheme)
    return Now(
        desktop.title if desktop is not None else "",
        picture,
        said if said is not None else ("dark" in theme.lower() if theme else None),
        theme,
    )


def _path(value: str) -> str:
    """Return the path of a picture, named by a path or by an address of a file."""
    parts = urlsplit(value)
    if parts.scheme == "file":
        return unquote(parts.path)
    return value if value.startswith("/") else ""
