"""A look for every user of a computer: what an administrator may read and run, as a folder with a script each way.

Nothing of it is run by us. Only what every user can share goes along: themes, schemes, decorations, the picture, and
defaults that each user may still choose otherwise.
"""

from __future__ import annotations

from collections.abc import Iterator
from importlib.resources import files
from pathlib import Path
from xml.sax.saxutils import quoteattr

from ..components.files import NewHome, OutFile
from ..disk.facts import read_plain
from ..look.dressed import dress, every_component
from ..look.model import Look
from ..session.stores.gsettings import quoted
from .contents import HOME, picture_name, settings_for_anyone
from .shelf import pictures_of

# Where what lies in a home's folder is found for everybody, from the first that fits; {folder} is the look's.
_PLACES: tuple[tuple[str, str], ...] = (
    (".local/share/mellow-finch/", ""),
    (".local/share/fonts/", ""),
    (".local/share/", "usr/local/share/"),
    (".config/Kvantum/{folder}/", "usr/share/Kvantum/{folder}/"),
)
_DEFAULTS = {
    ".config/kdeglobals": "etc/xdg/kdeglobals",
    ".config/plasmarc": "etc/xdg/plasmarc",
    ".config/gtk-3.0/settings.ini": "etc/xdg/gtk-3.0/settings.ini",
}
_SCRIPTS = ("apply.sh", "undo.sh")
_README = """{name}, for every user of this computer.

tree    what is copied, as it lies from the root of the computer
apply.sh    copies it; each file that is there already is kept first
undo.sh     gives it all back

Read both, then run apply.sh as root. ROOT=/some/folder before it tries everything in a folder first. Users who have
chosen a theme themselves keep it; the others have this one from their next login on, and so has a login screen of GTK.
"""


def _place_of(path: str, folder: str) -> str:
    """Return where a file of a home lies for everybody, from the root; empty for one that does not."""
    if path in _DEFAULTS:
        return _DEFAULTS[path]
    if folder not in path:
        return ""
    for start, there in _PLACES:
        head = start.format(folder=folder)
        if path.startswith(head):
            return there and there.format(folder=folder) + path[len(head) :]
    return ""


def _defaults(look: Look, picture: str) -> Iterator[OutFile]:
    """Yield what desktops take as the value of whoever has chosen none."""
    schemas: dict[str, list[str]] = {}
    channels: dict[str, dict[str, str]] = {}
    for store, schema, key, raw in settings_for_anyone(look):
        if HOME in raw and not picture:
            continue
        value = raw.replace(f"{HOME}/.local/share", "/usr/local/share")
        if store == "gsettings" and ":" not in schema:
            plain = value in ("true", "false") or value.isdigit()
            schemas.setdefault(schema, []).append(f"{key}={value if plain else quoted(value)}")
        elif store == "xfconf" and "*" not in key:
            channels.setdefault(schema, {})[key] = value
    rows = "\n".join(f"[{schema}]\n" + "\n".join(keys) + "\n" for schema, keys in schemas.items())
    yield OutFile(f"usr/share/glib-2.0/schemas/90_{look.folder.lower()}.gschema.override", rows.encode("utf-8"))
    for channel, keys in channels.items():
        body = "".join(_properties(keys))
        head = f'<?xml version="1.0" encoding="UTF-8"?>\n<channel name={quoteattr(channel)} version="1.0">\n'
        text = f"{head}{body}</channel>\n"
        yield OutFile(f"etc/xdg/xfce4/xfconf/xfce-perchannel-xml/{channel}.xml", text.encode("utf-8"))


def _properties(keys: dict[str, str]) -> Iterator[str]:
    """Yield the elements of a channel's keys, which have one folder above them."""
    groups: dict[str, dict[str, str]] = {}
    for key, value in keys.items():
        group, _, name = key.strip("/").partition("/")
        groups.setdefault(group, {})[name] = value
    for group, own in groups.items():
        yield f'  <property name={quoteattr(group)} type="empty">\n'
        for name, value in own.items():
            yield f'    <property name={quoteattr(name)} type="string" value={quoteattr(value)}/>\n'
        yield "  </property>\n"


def for_all_users(look: Look) -> tuple[OutFile, ...]:
    """Return the folder's files: what is copied, below tree, and the scripts.

    Raises FileAccessError for a picture that cannot be read.
    """
    found: dict[str, bytes] = {}
    for output in dress(look, NewHome(), every_component(look)).outputs:
        place = _place_of(output.path, look.folder)
        if place:
            found[place] = output.data
    picture = ""
    if pictures_of(look):
        picture = f"usr/local/share/backgrounds/{look.folder}/{picture_name(look)}"
        found[picture] = read_plain(Path(pictures_of(look)[0])) or b""
    found |= dict(_defaults(look, picture))
    scripts = files("mellow_finch.shelf").joinpath("scripts")
    rows = [OutFile(f"tree/{path}", data) for path, data in sorted(found.items())]
    rows += [OutFile(name, scripts.joinpath(f"for-all-{name}").read_bytes()) for name in _SCRIPTS]
    rows.append(OutFile("about.txt", f"folder={look.folder}\nname={look.name}\n".encode()))
    rows.append(OutFile("README.txt", _README.format(name=look.name).encode("utf-8")))
    return tuple(rows)
