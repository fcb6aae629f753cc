"""Terminal colours: X resources, and escape sequences for terminals that are open."""

from __future__ import annotations

from collections.abc import Mapping

from ..colour.rgb import Rgba
from ..syntax.region import put_region
from ..syntax.xresources import xresources_colours
from .model import Component, Files, OutFile, Paint, Part, Scheme, as_bytes, text_of

RESOURCES = ".Xresources"
SEQUENCES = ".local/share/mellow-finch/terminal.osc"
RESOURCE_NAMES: tuple[tuple[str, str], ...] = (
    ("background", "terminal"),
    ("foreground", "terminal_text"),
    ("cursorColor", "cursor"),
    ("cursorColor2", "cursor_text"),
    ("highlightColor", "terminal_selection"),
    ("highlightTextColor", "terminal_selection_text"),
    *((f"color{i}", f"ansi_{i}") for i in range(16)),
)
_CLASSES = ("*", "XTerm*", "URxvt*")  # tight names too: the person's own tight lines must not win
_SEE_THROUGH = "URxvt*"


def write_terminal(scheme: Scheme, get: Files) -> tuple[OutFile, ...]:
    """Return the person's resource file with a region of ours, and a file of escape sequences."""
    rows = [f"{cls}{name}: {scheme.colours[role].hex}" for cls in _CLASSES for name, role in RESOURCE_NAMES]
    ground = scheme.drawn("terminal")
    if (
        ground.a < 1
    ):  # the one of these classes that can be see-through spells its opacity, in percent, before the colour
        rows += [f"{_SEE_THROUGH}depth: 32", f"{_SEE_THROUGH}background: [{round(ground.a * 100)}]{ground.opaque.hex}"]
    region = put_region(text_of(get, RESOURCES), "\n".join(rows), ("!", ""))
    return (
        OutFile(RESOURCES, as_bytes(region)),
        OutFile(SEQUENCES, escape_sequences(scheme.colours).encode("ascii")),
    )


def escape_sequences(colours: Mapping[str, Rgba]) -> str:
    """Return OSC 4, 10, 11, 12, 17 and 19 with six-digit colours, each ended by ST."""
    rows = [f"4;{i};{colours[f'ansi_{i}'].hex}" for i in range(16)]
    singles = (
        (10, "terminal_text"),
        (11, "terminal"),
        (12, "cursor"),
        (17, "terminal_selection"),
        (19, "terminal_selection_text"),
    )
    rows += [f"{code};{colours[role].hex}" for code, role in singles]
    return "".join(f"\x1b]{row}\x1b\\" for row in rows)


def read_terminal(get: Files) -> dict[str, Paint]:
    """Return what the resource file says."""
    values = xresources_colours(text_of(get, RESOURCES))
    if not values:
        return {}
    return {
        p.key: Paint(
            values.get(p.fill),
            values.get(p.text),
            values.get(p.edge),
            ((values["background"],),) if p.under and "background" in values else (),
        )
        for p in PARTS
    }


_DIM = {8: 3.0}
PARTS: tuple[Part, ...] = (
    Part(id="terminal", text="foreground", fill="background", text_role="terminal_text", fill_role="terminal"),
    Part(
        id="marked text",
        text="highlightTextColor",
        fill="highlightColor",
        text_role="terminal_selection_text",
        fill_role="terminal_selection",
    ),
    Part(
        id="cursor",
        text="cursorColor2",
        fill="cursorColor",
        edge="cursorColor",
        edge_need=3.0,
        under="terminal",
        text_role="cursor_text",
        fill_role="cursor",
    ),
    *(
        Part(
            id=f"colour {i}",
            text=f"color{i}",
            fill="background",
            text_role=f"ansi_{i}",
            fill_role="terminal",
            need=0.0 if i == 0 else _DIM.get(i, 4.5),
        )
        for i in range(16)
    ),
)
TERMINAL = Component(
    tried="xterm 379 and rxvt-unicode 9.30: painted background; escape sequences in xterm",
    everywhere=True,
    scene="terminal",
    id="terminal",
    title="Terminals",
    kind="Terminals",
    reads="Terminals that read X resources; open ones through escape sequences",
    effect="at once",
    restart="Open terminals follow at once; for new ones run “xrdb -merge ~/.Xresources”.",
    parts=PARTS,
    write=write_terminal,
    read=read_terminal,
)
