"""Terminal colours: X resources, and escape sequences for terminals that are open."""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import lru_cache

from ...colour.requirement import MARK, NONE, TEXT
from ...colour.rgb import Rgba
from ...language import tr
from ...syntax.region import put_region
from ...syntax.xresources import colour_of, parts_of, resource_value, resources, score
from ..files import Files, OutFile, as_bytes, text_of
from ..model import Component, Paint, Part, Scheme
from ..read.unfold import Include, unfolded
from ..rehearsal import Rehearsal

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


_INCLUDE = Include(re.compile(r'(?m)^[ \t]*#[ \t]*include[ \t]+[<"]([^>"\n]+)[>"][^\n]*'), ("!", ""))
# How terminals ask for a colour: the names and classes of the program and of the widgets inside it.
_ASKING: tuple[tuple[tuple[str, ...], tuple[str, ...]], ...] = (
    (("xterm", "vt100"), ("XTerm", "VT100")),
    (("urxvt",), ("URxvt",)),
    (("urxvt",), ("Rxvt",)),
)


def _class_of(name: str) -> str:
    return name[0].upper() + name[1:]


def _question(asking: tuple[tuple[str, ...], tuple[str, ...]], name: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    names, classes = asking
    return (*names, name), (*classes, _class_of(name))


@lru_cache(maxsize=4)
def _closer(text: str) -> tuple[tuple[str, str, bool], ...]:
    """Return the specifications of terminal colours in a text: each with its role, and whether xterm hears it."""
    out: dict[str, tuple[str, bool]] = {}
    for resource in resources(text):
        word = parts_of(resource.spec)[-1][1]
        for name, role in RESOURCE_NAMES:
            if word in (name, _class_of(name)):
                asked = [i for i, a in enumerate(_ASKING) if score(resource.spec, *_question(a, name)) is not None]
                if asked:
                    out[resource.spec] = role, 0 in asked
    return tuple((spec, role, heard) for spec, (role, heard) in out.items())


def _closer_rows(text: str, colours: Mapping[str, Rgba], ground: Rgba) -> list[str]:
    """Return the person's own specifications of terminal colours once more, each with the look's colour.

    One that is closer than ours wins wherever it stands; of two that are spelled alike the last one does.
    """
    veiled = ground.a < 1
    return [
        f"{spec}: {_veiled(ground) if veiled and role == 'terminal' and not heard else colours[role].hex}"
        for spec, role, heard in _closer(text)
    ]


def _veiled(ground: Rgba) -> str:
    """Return a colour with its opacity, in percent, before it."""
    return f"[{round(ground.a * 100)}]{ground.opaque.hex}"


def _font_rows(options: Mapping[str, str]) -> list[str]:
    """Return the resources that name the fixed-width font, where one was asked for."""
    family, points = options.get("fixed_font_family"), options.get("fixed_font_points")
    if not family:
        return []
    return [
        f"XTerm*faceName: {family}",
        f"XTerm*faceSize: {points}",
        *(f"{cls}{key}: xft:{family}:size={points}" for cls in ("URxvt.", "Rxvt.") for key in ("font", "boldFont")),
    ]


def write_terminal(scheme: Scheme, get: Files) -> tuple[OutFile, ...]:
    """Return the person's resource file with a region of ours, and a file of escape sequences."""
    rows = [f"{cls}{name}: {scheme.colours[role].hex}" for cls in _CLASSES for name, role in RESOURCE_NAMES]
    ground = scheme.drawn("terminal")
    if ground.a < 1:  # only one of these classes can be translucent
        rows += [f"{_SEE_THROUGH}depth: 32", f"{_SEE_THROUGH}background: {_veiled(ground)}"]
    rows += _font_rows(scheme.options_for("terminal"))
    rows += _closer_rows(unfolded(get, RESOURCES, _INCLUDE).text, scheme.colours, ground)
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
    """Return what a terminal gets when it asks, by the rules of closeness, as the resource file says."""
    text = unfolded(get, RESOURCES, _INCLUDE).text
    answers = {name: resource_value(text, *_question(_ASKING[0], name)) for name, _ in RESOURCE_NAMES}
    found = {name: colour_of(answer) for name, answer in answers.items() if answer is not None}
    values = {name: colour for name, colour in found.items() if colour is not None}
    veiled = colour_of(resource_value(text, *_question(_ASKING[1], "background")) or "")
    if veiled is not None and veiled.a < 1:  # the other of the two can be translucent
        values["background"] = veiled
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


_DIM = {8: MARK}
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
        edge_need=MARK,
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
            need=NONE if i == 0 else _DIM.get(i, TEXT),
        )
        for i in range(16)
    ),
)
TERMINAL = Component(
    tried="xterm 379 and rxvt-unicode 9.30: asked for every colour over closer resources of a home's own",
    everywhere=True,
    scene="terminal",
    id="terminal",
    title=tr("Terminals"),
    kind="Terminals",
    reads=tr("Terminals that read X resources; open ones through escape sequences"),
    effect="at once",
    restart=tr("Open terminals follow at once; new ones through X resources, loaded by “xrdb -merge ~/.Xresources”."),
    resources=RESOURCES,
    covers=("ranger", "htop", "GNU Screen"),
    shape=("fixed_font",),
    parts=PARTS,
    write=write_terminal,
    read=read_terminal,
    places=(RESOURCES, SEQUENCES),
    rehearsals=(
        Rehearsal("xterm", "xterm -geometry 100x30 -e sh {page}", asks=True, needs=("xrdb",), shows=("terminal",)),
        Rehearsal("htop", "htop", on="terminal", shows=("terminal/fill",)),
        Rehearsal(
            "urxvt", "urxvt -insecure -geometry 100x30 -e sh {page}", asks=True, needs=("xrdb",), shows=("terminal",)
        ),
    ),
)
