"""The file of a look: versioned JSON, unknown keys kept, written atomically by the caller."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import asdict
from math import isfinite
from pathlib import Path
from types import MappingProxyType
from typing import Any

from ..colour.rgb import Rgba, parse_hex
from ..errors import ParseError, file_errors
from ..palette.pairs import PAIRS, failing
from ..palette.recipe import TONES, Recipe
from ..palette.roles import FOLLOWS, ROLE_IDS
from ..palette.solve import solve
from ..palette.temper import temper_from
from ..palette.veil import KIND_BY_ID
from ..palette.wanted import wanted_palette
from ..picture.backdrop import PLAIN, Backdrop, Extremes
from ..picture.placement import MODES, Placement
from ..recolour.groups import KEEP
from .model import Look, Member

VERSION = 1
KIND = "mellow-finch look"
SUFFIX = ".finchlook"
_MOST_BYTES = 4_000_000
_KNOWN = frozenset(
    [
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
        "added",
        "beside",
        "knobs",
        "mend_as_you_go",
        "mends",
        "temper",
        "linked",
        "opacity",
        "drawn",
        "blur",
        "pictures",
        "placement",
        "origin",
        "brought",
        "regrouped",
        "split",
        "words",
        "variants",
        "tones",
    ]
)


def look_to_json(look: Look) -> str:
    """Return the look as text, keys in a fixed order, colours as #rrggbb."""
    return json.dumps(_to_data(look), indent=1, ensure_ascii=False) + "\n"


def _to_data(look: Look) -> dict[str, Any]:
    known: dict[str, Any] = {
        "kind": KIND,
        "version": VERSION,
        "name": look.name,
        "tone": look.tone,
        "source": look.source,
        "origin": look.origin,
        "recipe": {"accent": look.recipe.accent.hex, "hue_deg": look.recipe.hue_deg, "tint": look.recipe.tint},
        "temper": asdict(look.temper),
        "linked": look.linked,
        "opacity": dict(look.opacity),
        "drawn": {t: dict(kinds) for t, kinds in look.drawn.items()},
        "blur": look.blur,
        "pictures": [asdict(member) for member in look.pictures],
        "placement": asdict(look.placement),
        "backdrop": _backdrop_to_data(look.backdrop),
        "pins": [c.hex for c in look.pins],
        "locks": sorted(look.locks),
        "left_out": sorted(look.left_out),
        "added": sorted(look.added),
        "beside": sorted(look.beside),
        "knobs": dict(sorted(look.knobs.items())),
        "mend_as_you_go": look.mend_as_you_go,
        "mends": sorted(look.mends),
        "brought": list(look.brought),
        "regrouped": dict(sorted(look.regrouped.items())),
        "split": sorted(look.split),
        "words": dict(look.words),
        "variants": [_to_data(v) for v in look.variants],
        "tones": {t: {"roles": {r: look.palettes[t][r].hex for r in ROLE_IDS}} for t in TONES},
    }
    return {**known, **look.unknown}


def _backdrop_to_data(drop: Backdrop) -> dict[str, Any]:
    out: dict[str, Any] = {k: getattr(drop, k).hex for k in ("darkest", "lightest", "mean")}
    if drop.places:
        out["places"] = {
            name: {"sharp": [c.hex for c in e.sharp], "soft": [c.hex for c in e.soft]} for name, e in drop.places
        }
    return out


def _backdrop(data: Mapping[str, Any]) -> Backdrop:
    if not data:
        return PLAIN
    places = tuple(
        (str(name), Extremes(_colours(e["sharp"]), _colours(e["soft"])))
        for name, e in (data.get("places") or {}).items()
        if e["sharp"] and e["soft"]
    )
    darkest, lightest, mean = _colours(data[k] for k in ("darkest", "lightest", "mean"))
    return Backdrop(darkest, lightest, mean, places)


def _colours(texts: Iterable[Any]) -> tuple[Rgba, ...]:
    return tuple(parse_hex(str(c)).opaque for c in texts)


def _shares(data: Mapping[str, Any]) -> Mapping[str, float]:
    return MappingProxyType({str(k): min(1.0, max(0.0, float(v))) for k, v in data.items() if k in KIND_BY_ID})


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


def _look(data: Mapping[str, Any], depth: int = 0) -> Look:
    recipe = data["recipe"]
    palettes = {}
    for tone in TONES:
        given = {r: parse_hex(str(c)).opaque for r, c in data["tones"][tone]["roles"].items() if r in ROLE_IDS}
        if set(given) != set(ROLE_IDS):
            given = _completed(given, data, tone)
        palettes[tone] = MappingProxyType({r: given[r] for r in ROLE_IDS})
    if data["tone"] not in TONES:
        raise ValueError(f"the tone “{data['tone']}” is neither dark nor light")
    drawn = data.get("drawn") or {}
    return Look(
        name=str(data["name"]),
        tone=data["tone"],
        recipe=_recipe(recipe),
        palettes=MappingProxyType(palettes),
        source=str(data.get("source", "")),
        backdrop=_backdrop(data.get("backdrop") or {}),
        pins=_colours(data.get("pins", ())),
        locks=frozenset(str(r) for r in data.get("locks", ()) if r in ROLE_IDS),
        left_out=frozenset(str(c) for c in data.get("left_out", ())),
        added=frozenset(str(c) for c in data.get("added", ())),
        beside=frozenset(str(c) for c in data.get("beside", ())),
        knobs={str(k): float(v) for k, v in (data.get("knobs") or {}).items() if isfinite(float(v))},
        mend_as_you_go=bool(data.get("mend_as_you_go", True)),
        mends=frozenset(str(m) for m in data.get("mends", ())),
        temper=temper_from(data.get("temper") or {}),
        linked=bool(data.get("linked", True)),
        opacity=_shares(data.get("opacity") or {}),
        drawn={t: _shares(drawn[t]) for t in TONES if t in drawn},
        blur=bool(data.get("blur", False)),
        pictures=tuple(Member(str(m["path"]), max(0.0, float(m["weight"]))) for m in data.get("pictures", ())),
        placement=_placement(data.get("placement") or {}),
        origin=str(data.get("origin", "")),
        brought=tuple(str(p) for p in data.get("brought", ())),
        regrouped={
            str(k): str(v) for k, v in (data.get("regrouped") or {}).items() if str(v) in ROLE_IDS or str(v) == KEEP
        },
        split=frozenset(str(k) for k in data.get("split", ())),
        words={str(k): str(v) for k, v in (data.get("words") or {}).items()},
        variants=tuple(_look(v, 1) for v in data.get("variants", ())) if depth == 0 else (),
        unknown={k: v for k, v in data.items() if k not in _KNOWN},
    )


def _placement(data: Mapping[str, Any]) -> Placement:
    plain = Placement()
    mode = data.get("mode", plain.mode)
    if mode not in {row.id for row in MODES}:
        raise ValueError(f"“{mode}” is no way to lay a picture")
    width, height = (int(data.get(k, getattr(plain, k))) for k in ("width", "height"))
    return Placement(mode, min(32768, max(64, width)), min(32768, max(64, height)))


def _recipe(recipe: Mapping[str, Any]) -> Recipe:
    return Recipe(parse_hex(str(recipe["accent"])).opaque, float(recipe["hue_deg"]), float(recipe["tint"]))


def _completed(given: dict[str, Rgba], data: Mapping[str, Any], tone: Any) -> dict[str, Rgba]:
    temper = temper_from(data.get("temper") or {})
    along = {role: given[leader] for role, leader in FOLLOWS.items() if leader in given}
    wanted = {**wanted_palette(_recipe(data["recipe"]), tone, temper), **along, **given}
    short = {j.pair for j in failing(wanted) if j.pair.text in given and j.pair.surface in given}
    return solve(wanted, given, pairs=tuple(p for p in PAIRS if p not in short))


def load_look(path: Path) -> Look:
    """Read a look from a file. Raises FileAccessError or ParseError."""
    with file_errors(path, "open"):
        if path.stat().st_size > _MOST_BYTES:
            raise ParseError(f"“{path.name}” is too large to be a look.")
        text = path.read_text(encoding="utf-8")
    return look_from_json(text, f"“{path.name}”")
