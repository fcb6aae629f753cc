"""The parts and shades of a definition: those of its kind that it gives places, and its own."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any

from ...colour.requirement import MARK, TEXT, required
from ...syntax.parsed import toml_of
from ..model import Part
from ..write.palette import Shade

PACKAGE = "mellow_finch.components"


@cache
def set_of(name: str) -> Mapping[str, Any]:
    """Return what is said of the parts and shades of a kind, nothing for no name."""
    if not name:
        return {}
    return toml_of(files(PACKAGE).joinpath("sets", f"{name}.toml").read_text(encoding="utf-8"))


def as_tuple(value: Any) -> tuple[str, ...]:
    """Return words that a row gives as a list, alone or not at all."""
    return (value,) if isinstance(value, str) else tuple(value or ())


def _part(row: list[Any], place: Any, surfaces: Mapping[str, str]) -> Part:
    """Return a part from a row [id, state, "text/fill", options] and its places; surfaces: their kind by role."""
    id_, state, roles, *rest = row
    options = dict(rest[0]) if rest else {}
    text_role, _, fill_role = roles.partition("/")
    edge_need = options.pop("edge_need", MARK.level if options.get("edge") else 0.0)
    need = options.pop("need", TEXT.level if text_role else 0.0)
    common = {
        "id": id_,
        "state": state,
        "text_role": text_role,
        "fill_role": fill_role,
        "edge_role": options.pop("edge", ""),
        "around_role": options.pop("around", ""),
        "need": required(need),
        "edge_need": required(edge_need, mark=True),
        "surface": surfaces.get(fill_role, ""),
        **options,
    }
    if isinstance(place, str):
        return Part(at=place, **common)
    text, fill, edge = (*place, "", "", "")[:3]
    return Part(text=text, fill=fill, edge=edge, **common)


def parts_of(row: Mapping[str, Any]) -> tuple[Part, ...]:
    """Return the parts of the kind that the definition gives places, and its own."""
    places = dict(row.get("parts", {}))
    if "ansi" in row:
        ground = places["terminal"][1]
        places |= {f"colour {i}": [place, ground] for i, place in enumerate(row["ansi"]) if place}
    rows = [*set_of(row.get("set", "")).get("parts", ()), *row.get("own", ())]
    for name, count, roles, options, *start in row.get("numbered", ()):
        first = start[0] if start else 1
        rows += [[f"{name} {i}", "", roles, options] for i in range(first, first + count)]
        places |= {f"{name} {i}": [] for i in range(first, first + count)}
    keyed = {f"{r[0]}:{r[1]}" if r[1] else r[0]: r for r in rows}
    unknown = set(places) - set(keyed)
    if unknown:
        raise ValueError(f"{row['id']}: no such parts: {', '.join(sorted(unknown))}")
    surfaces = row.get("surfaces", {})
    return tuple(_part(r, places[key], surfaces) for key, r in keyed.items() if key in places)


def shades_of(row: Mapping[str, Any]) -> dict[str, Shade]:
    """Return the shades of the definition's kind, and its own."""
    found = {**set_of(row.get("set", "")).get("shades", {}), **row.get("shades", {})}
    return {name: Shade(**s) for name, s in found.items()}
