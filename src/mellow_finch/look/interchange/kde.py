"""KDE-style colour schemes (.colors) as palettes."""

from __future__ import annotations

from ...components.write.kde import FOREGROUNDS, GROUPS, scheme_text
from ...language import tr
from ...syntax.ini import read_triple
from ...syntax.spans import Problem
from .model import MOST_BYTES, ColourList, Interchange, PaletteEntry, decoded, finished, unique_slugs

_OWN = "Colors:Finch"  # the group for colours that have no place of their own


def _roles() -> dict[str, str]:
    out: dict[str, str] = {}
    for group, fill, _, text, _ in GROUPS:
        out[f"{group}/BackgroundNormal"] = fill
        out[f"{group}/ForegroundNormal"] = text
    out |= {f"Colors:View/{key}": role for key, role in FOREGROUNDS if key != "ForegroundActive"}
    out["Colors:View/DecorationFocus"] = "focus"
    out["WM/activeBackground"], out["WM/activeForeground"] = "border", "border_text"
    out["WM/inactiveBackground"], out["WM/inactiveForeground"] = "border_idle", "border_idle_text"
    out["General/AccentColor"] = "accent"
    return out


_ROLE_OF = _roles()


def read_kde_list(data: bytes) -> ColourList:
    """Read every decimal colour of a scheme; keys of colour groups that have none are listed with their lines.

    Raises ParseError when there is none.
    """
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    section, name = "", ""
    for number, line in enumerate(decoded(data[:MOST_BYTES]).splitlines(), 1):
        bare = line.strip()
        if bare.startswith("[") and bare.endswith("]"):
            section = bare[1:-1]
            continue
        key, equals, value = bare.partition("=")
        if not equals or bare[0] in "#;":
            continue
        key = key.strip()
        if (section, key) == ("General", "Name"):
            name = value
        colour = read_triple(value) if len(value) < 40 else None
        if colour is not None and not section.startswith("ColorEffects"):
            entries.append(PaletteEntry(colour, f"{section}/{key}", _ROLE_OF.get(f"{section}/{key}", "")))
        elif colour is None and section.startswith("Colors:") and key.startswith(("Background", "Foreground", "Decor")):
            problems.append(
                Problem(
                    number,
                    1,
                    tr("{key} is “{value}”, not three numbers from 0 to 255.").format(key=key, value=value[:40]),
                )
            )
    return finished(name, entries, problems, tr("colour scheme"))


def write_kde_list(colours: ColourList) -> bytes:
    """Return a scheme that has each colour at the place of its role, the others in a group of their own."""
    place = {role: where for where, role in reversed(_ROLE_OF.items())}
    sections: dict[str, list[str]] = {"General": [f"Name={' '.join(colours.name.split())}"]}
    taken: set[str] = set()
    for slug, entry in zip(unique_slugs(colours.entries), colours.entries, strict=True):
        where = place.get(entry.role, "")
        where = f"{_OWN}/{slug}" if not where or where in taken else where
        taken.add(where)
        section, _, key = where.partition("/")
        c = entry.colour
        sections.setdefault(section, []).append(
            f"{key}={c.r},{c.g},{c.b}" + ("" if c.a >= 1 else f",{round(c.a * 255)}")
        )
    rows = [line for name, keys in sections.items() for line in (f"[{name}]", *keys, "")]
    return "\n".join(rows).encode("utf-8")


KDE_COLORS = Interchange(
    id="colors",
    title=tr("KDE colour scheme"),
    suffixes=(".colors",),
    sniff=lambda data: 90 if b"[Colors:" in data[:200_000] else 0,
    read=read_kde_list,
    write=write_kde_list,
    export=lambda look: scheme_text(look.scheme()).encode("utf-8"),
    alpha=True,
)
