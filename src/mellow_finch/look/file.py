"""The file of a look: versioned JSON, unknown keys kept, written atomically by the caller."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path
from types import MappingProxyType
from typing import Any

from ..colour.rgb import Rgba, parse_hex
from ..errors import ParseError, file_errors
from ..palette.derive import TONES, Recipe
from ..palette.roles import ROLE_IDS
from ..palette.solve import solve
from ..picture.backdrop import PLAIN, Backdrop
from .model import Look

VERSION = 1
KIND = "mellow-finch look"
SUFFIX = ".finchlook"
_MOST_BYTES = 4_000_000
_KNOWN = {
    "kind",
    "version",
    "name",
    "tone",
    "source",
    "recipe",
    "backdrop",
    "pins",
    "locks",
    "left_out",
    "mend_as_you_go",
    "mends",
    "tones",
}


def look_to_json(look: Look) -> str:
    """Return the look as text, keys in a fixed order, colours as #rrggbb."""
    known: dict[str, Any] = {
        "kind": KIND,
        "version": VERSION,
        "name": look.name,
        "tone": look.tone,
        "source": look.source,
        "recipe": {"accent": look.recipe.accent.hex, "hue_deg": look.recipe.hue_deg, "tint": look.recipe.tint},
        "backdrop": {k: getattr(look.backdrop, k).hex for k in ("darkest", "lightest", "mean")},
        "pins": [c.hex for c in look.pins],
        "locks": sorted(look.locks),
        "left_out": sorted(look.left_out),
        "mend_as_you_go": look.mend_as_you_go,
        "mends": sorted(look.mends),
        "tones": {t: {"roles": {r: look.palettes[t][r].hex for r in ROLE_IDS}} for t in TONES},
    }
    return json.dumps({**known, **look.unknown}, indent=1, ensure_ascii=False) + "\n"


def look_from_json(text: str, label: str = "The look") -> Look:
    """Read a look; roles it lacks are worked out from those it has.

    Raises ParseError with a sentence that says what is wrong and where.
    """
    try:
        data = json.loads(text)
    except json.JSONDecodeError as error:
        raise ParseError(f"{label} is not valid JSON: {error.msg}.", error.lineno, error.colno) from error
    except RecursionError as error:
        raise ParseError(f"{label} is nested too deeply to be a look.") from error
    if not isinstance(data, dict) or data.get("kind") != KIND:
        raise ParseError(f"{label} is not a look of Mellow Finch.", hint=f"Such files end in {SUFFIX}.")
    version = data.get("version")
    if not isinstance(version, int) or version < 1:
        raise ParseError(f"{label} has no usable version number.")
    if version > VERSION:
        raise ParseError(f"{label} was written by a newer Mellow Finch (version {version}).", hint="Update first.")
    try:
        return _look(data)
    except (KeyError, TypeError, ValueError, AttributeError) as error:
        raise ParseError(f"{label} is damaged: {_reason(error)}.") from error


def _reason(error: Exception) -> str:
    return f"{error.args[0]} is missing" if isinstance(error, KeyError) and error.args else str(error)


def _look(data: Mapping[str, Any]) -> Look:
    recipe = data["recipe"]
    palettes = {}
    for tone in TONES:
        given = {r: parse_hex(str(c)).opaque for r, c in data["tones"][tone]["roles"].items() if r in ROLE_IDS}
        if set(given) != set(ROLE_IDS):
            given = _completed(given, data, tone)
        palettes[tone] = MappingProxyType({r: given[r] for r in ROLE_IDS})
    if data["tone"] not in TONES:
        raise ValueError(f"the tone “{data['tone']}” is neither dark nor light")
    backdrop = data.get("backdrop") or {}
    return Look(
        name=str(data["name"]),
        tone=data["tone"],
        recipe=_recipe(recipe),
        palettes=MappingProxyType(palettes),
        source=str(data.get("source", "")),
        backdrop=Backdrop(*(parse_hex(backdrop[k]).opaque for k in ("darkest", "lightest", "mean")))
        if backdrop
        else PLAIN,
        pins=tuple(parse_hex(str(c)).opaque for c in data.get("pins", ())),
        locks=frozenset(str(r) for r in data.get("locks", ()) if r in ROLE_IDS),
        left_out=frozenset(str(c) for c in data.get("left_out", ())),
        mend_as_you_go=bool(data.get("mend_as_you_go", True)),
        mends=frozenset(str(m) for m in data.get("mends", ())),
        unknown={k: v for k, v in data.items() if k not in _KNOWN},
    )


def _recipe(recipe: Mapping[str, Any]) -> Recipe:
    return Recipe(parse_hex(str(recipe["accent"])).opaque, float(recipe["hue_deg"]), float(recipe["tint"]))


def _completed(given: dict[str, Rgba], data: Mapping[str, Any], tone: Any) -> dict[str, Rgba]:
    from ..palette.derive import wanted_palette

    return solve(wanted_palette(_recipe(data["recipe"]), tone) | given, given)


def load_look(path: Path) -> Look:
    """Read a look from a file. Raises FileAccessError or ParseError."""
    with file_errors(path, "open"):
        if path.stat().st_size > _MOST_BYTES:
            raise ParseError(f"“{path.name}” is too large to be a look.")
        text = path.read_text(encoding="utf-8")
    return look_from_json(text, f"“{path.name}”")
