"""Looks of earlier versions of the file, brought up to the one of today, a version at a time. Data in, data out."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from ..components.decisions import Slot
from .decode import MOST_ROWS, Table, WrongValueError, checked_text

VERSION = 2
_ROOT = "root:"  # what keys of version 1 begin with that are of one of several themes in an archive


def upgraded(data: Mapping[str, Any], version: int) -> dict[str, Any]:
    """Return a look's data as this version has it. Raises WrongValueError for values that cannot be what they say."""
    out = dict(data)
    for step in _STEPS[version - 1 :]:
        out = step(out)
    variants = out.get("variants")
    if isinstance(variants, list):
        out["variants"] = [upgraded(one, version) if isinstance(one, dict) else one for one in variants[:MOST_ROWS]]
    return out


def _from_1(data: dict[str, Any]) -> dict[str, Any]:
    """Put decisions, which were keys of "owner/what", under their owners, and split the origin into kind and name."""
    gone = ("regrouped", "split", "knobs", "mends", "emblems", "beside")
    table = Table(data)
    brought = set(table.rows("brought", checked_text, 100))
    rows: dict[str, dict[str, Any]] = {}

    def own(key: str) -> tuple[dict[str, Any], str]:
        owner, name = _owner_of(key, brought)
        kind = "theme" if owner in brought else "component"
        return rows.setdefault(owner, {kind: owner}), name

    for key, choice in table.each("regrouped", checked_text):
        row, name = own(key)
        if "theme" in row and name.startswith(_ROOT):
            row.setdefault("left", []).append(name.removeprefix(_ROOT))
        else:
            slot = Slot.spelled(name)
            row.setdefault(slot.kind, {})[slot.key] = choice
    for key in table.texts("split"):
        row, name = own(key)
        row.setdefault("splits", []).append(name)
    for key in table.texts("mends"):
        row, name = own(key)
        row.setdefault("mends", []).append(name)
    for what in ("knobs", "emblems"):
        for key, value in table.table(what).data.items():
            row, name = own(key)
            row.setdefault(what, {})[name] = value
    for component in table.texts("beside"):
        rows.setdefault(component, {"component": component})["beside"] = True
    companions = {}
    for key, value in table.table("companions").data.items():
        if "/" in key:
            row, name = own(key)
            row.setdefault("companions", {})[name] = value
        else:
            companions[key] = value
    out = {key: value for key, value in data.items() if key not in gone}
    return out | {"origin": _origin_of(data.get("origin")), "companions": companions, "decisions": list(rows.values())}


def _owner_of(key: str, brought: set[str]) -> tuple[str, str]:
    """Return the owner that a key begins with, and the rest: of themes one in another, the longest path counts."""
    path = max((p for p in brought if key.startswith(f"{p}/")), key=len, default="")
    if path:
        return path, key[len(path) + 1 :]
    owner, _, name = key.partition("/")
    return owner, name


def _origin_of(words: object) -> dict[str, str] | None:
    """Return what a sentence such as "Theme Saltpan" says."""
    if not words:
        return None
    if not isinstance(words, str):
        raise WrongValueError("origin")
    kind, _, name = words.partition(" ")
    known = {"Scheme": "scheme", "Theme": "theme", "Palette": "palette"}.get(kind)
    return {"kind": known, "name": name} if known else {"kind": "palette", "name": words}


_STEPS: tuple[Callable[[dict[str, Any]], dict[str, Any]], ...] = (_from_1,)
