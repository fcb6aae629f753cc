"""What a desktop shows now: its picture, whether it is dark, and its theme, to start a look from."""

from __future__ import annotations

import html
import re
from pathlib import Path
from typing import NamedTuple
from urllib.parse import unquote, urlsplit

from ..disk.facts import read_plain
from ..errors import FileAccessError
from ..language import comma_separated, tone_word, tr
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
        facts = [self.desktop] if self.desktop else []
        if self.dark is not None:
            facts.append(tone_word("dark" if self.dark else "light"))
        if self.theme:
            facts.append(tr("theme “{name}”").format(name=self.theme))
        if self.picture:
            facts.append(tr("wallpaper “{name}”").format(name=Path(self.picture).name))
        if not facts:
            return tr("Your desktop is not recognised.")
        return tr("Your desktop: {facts}.").format(facts=comma_separated(facts))


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
            picture = picture or _first_image(_path(found))
    theme = theme or session.read(_THEME).value
    scheme = session.read(_SCHEME).value
    said = {"prefer-dark": True, "prefer-light": False}.get(scheme)
    return Now(
        desktop.title if desktop is not None else "",
        picture,
        said if said is not None else ("dark" in theme.lower() if theme else None),
        theme,
    )


def _first_image(path: str) -> str:
    """Return the first image of a list of them that changes by the time, or the path itself."""
    if not path.endswith(".xml"):
        return path
    try:
        found = re.search(rb"<file>(?:\s*<size[^>]*>)?\s*([^<]+?)\s*<", read_plain(Path(path)) or b"")
    except FileAccessError:
        return ""
    return html.unescape(found[1].decode("utf-8", "replace")) if found else ""


def _path(value: str) -> str:
    """Return the path of a picture, named by a path or by an address of a file."""
    parts = urlsplit(value)
    if parts.scheme == "file":
        return unquote(parts.path)
    return value if value.startswith("/") else ""
