"""The files of a slideshow: its images in one folder, in order, and a list of them for desktops that read one."""

from __future__ import annotations

from pathlib import Path
from xml.sax.saxutils import escape

from ..disk.facts import read_plain
from ..look.dressed import Output
from ..session.desktop import SLIDE_LIST, Desktop, Wish, slide_name, slides_folder

OWNER = "slides"  # what stands for a component of these files
_CHANGES_S = 1.0  # in which one image turns into the next


def slides(desktop: Desktop | None, wish: Wish) -> list[Output]:
    """Return the files that a desktop needs for a slideshow, none where it has no such thing.

    Raises FileAccessError when an image cannot be read.
    """
    rows = [row.value for row in desktop.rows if row.needs == "cycling"] if desktop is not None else []
    if not rows or not wish.cycles:
        return []
    folder = slides_folder(wish.theme)
    if any("{slide_list" in value for value in rows):
        return [Output(f"{folder}/{SLIDE_LIST}", _list(wish).encode("utf-8", "surrogateescape"), (OWNER,))]
    found = [(slide_name(i, path), read_plain(Path(path))) for i, path in enumerate(wish.pictures)]
    return [Output(f"{folder}/{name}", data, (OWNER,)) for name, data in found if data is not None]


def _list(wish: Wish) -> str:
    """Return the list as XML: each image for its minutes, and how one turns into the next."""
    out = ["<background>", "  <starttime><year>2026</year><month>1</month><day>1</day>"]
    out.append("    <hour>0</hour><minute>0</minute><second>0</second></starttime>")
    still = wish.showing.minutes * 60 - _CHANGES_S
    for here, after in zip(wish.pictures, (*wish.pictures[1:], wish.pictures[0]), strict=True):
        out.append(f"  <static><duration>{still:.1f}</duration><file>{escape(here)}</file></static>")
        out.append(
            f'  <transition type="overlay"><duration>{_CHANGES_S:.1f}</duration>'
            f"<from>{escape(here)}</from><to>{escape(after)}</to></transition>"
        )
    return "\n".join([*out, "</background>"]) + "\n"
