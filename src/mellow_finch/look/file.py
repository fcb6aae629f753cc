"""The file of a look: versioned JSON, unknown keys kept, written atomically by the caller."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import asdict
from types import MappingProxyType
from typing import Any

from ..colour.rgb import Rgba
from ..components.emblems import fits as emblem_fits
from ..components.model import Emblem
from ..errors import ParseError
from ..language import tr
from ..palette.pairs import PAIRS, failing
from ..palette.recipe import TONES, Recipe, Tone
from ..palette.roles import FOLLOWS, ROLE_IDS
from ..palette.solve import solve
from ..palette.temper import Temper, temper_from
from ..palette.veil import KIND_BY_ID
from ..palette.wanted import wanted_palette
from ..picture.backdrop import PLAIN, Backdrop, Extremes
from ..picture.placement import MODES, Placement
from ..recolour.groups import KEEP, is_free
from .companions import fits
from .decode import Table, WrongValueError, checked_colour, checked_number, checked_text, checked_tree, read_json
from .model import Look, Member

VERSION = 1
KIND = "mellow-finch look"
SUFFIX = ".finchlook"
MOST_BYTES = 4_000_000
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
        "companions",
        "emblems",
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
        "companions": dict(sorted(look.companions.items())),
        "emblems": {key: emblem._asdict() for key, emblem in sorted(look.emblems.items())},
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


def _backdrop(data: Table) -> Backdrop:
    if not data.data:
        return PLAIN
    places = []
    for name in data.table("places").data:
        place = data.table("places").table(name)
        sharp, soft = place.rows("sharp", checked_colour, 64), place.rows("soft", checked_colour, 64)
        if sharp and soft:
            places.append((checked_text(name, "places"), Extremes(sharp, soft)))
    return Backdrop(data.colour("darkest"), data.colour("lightest"), data.colour("mean"), tuple(places))


def _shares(data: Table) -> Mapping[str, float]:
    return MappingProxyType({k: data.number(k, 0.0, 1.0) for k in data.data if k in KIND_BY_ID})


def look_from_json(text: str, label: str = tr("The look")) -> Look:
    """Read a look; roles it lacks are worked out from those it has.

    Raises ParseError with a sentence that says what is wrong and where.
    """
    try:
        data = read_json(text)
    except json.JSONDecodeError as error:
        raise ParseError(
            tr("{label} is not valid JSON: {msg}.").format(label=label, msg=error.msg), error.lineno, error.colno
        ) from error
    except RecursionError as error:
        raise ParseError(tr("{label} is nested too deeply to be a look.").format(label=label)) from error
    except WrongValueError as error:
        raise ParseError(tr("{label} is damaged: {error}.").format(label=label, error=error)) from error
    if not isinstance(data, dict) or data.get("kind") != KIND:
        raise ParseError(
            tr("{label} is not a look of Mellow Finch.").format(label=label),
            hint=tr("Such files end in {suffix}.").format(suffix=SUFFIX),
        )
    version = data.get("version")
    if isinstance(version, bool) or not isinstance(version, int) or version < 1:
        raise ParseError(tr("{label} has no usable version number.").format(label=label))
    if version > VERSION:
        raise ParseError(
            tr("{label} was written by a newer Mellow Finch (version {version}).").format(label=label, version=version),
            hint=tr("Update first."),
        )
    try:
        return _look(Table(data))
    except (WrongValueError, RecursionError) as error:
        raise ParseError(tr("{label} is damaged: {error}.").format(label=label, error=error)) from error


def _look(data: Table, depth: int = 0) -> Look:
    tone = data.text("tone")
    if tone not in TONES:
        raise WrongValueError(tr("the tone “{tone}” is neither dark nor light").format(tone=tone[:40]))
    recipe, temper = _recipe(data.table("recipe", needed=True)), _temper(data.table("temper"))
    palettes = {}
    for name in TONES:
        roles = data.table("tones", needed=True).table(name, needed=True).table("roles", needed=True)
        given = {r: roles.colour(r) for r in roles.data if r in ROLE_IDS}
        if set(given) != set(ROLE_IDS):
            given = _completed(given, recipe, temper, name)
        palettes[name] = MappingProxyType({r: given[r] for r in ROLE_IDS})
    return Look(
        name=data.text("name", most=400),
        tone=tone,
        recipe=recipe,
        palettes=MappingProxyType(palettes),
        source=data.text("source", ""),
        backdrop=_backdrop(data.table("backdrop")),
        pins=data.rows("pins", checked_colour, 256),
        locks=frozenset(r for r in data.texts("locks") if r in ROLE_IDS),
        left_out=frozenset(data.texts("left_out")),
        added=frozenset(data.texts("added")),
        beside=frozenset(data.texts("beside")),
        knobs=dict(data.each("knobs", checked_number)),
        mend_as_you_go=data.flag("mend_as_you_go", True),
        mends=frozenset(data.texts("mends")),
        temper=temper,
        linked=data.flag("linked", True),
        opacity=_shares(data.table("opacity")),
        drawn={t: _shares(data.table("drawn").table(t)) for t in TONES if data.table("drawn").has(t)},
        blur=data.flag("blur", False),
        pictures=data.rows("pictures", _member, 1_000),
        placement=_placement(data.table("placement")),
        origin=data.text("origin", ""),
        brought=data.rows("brought", checked_text, 100),
        regrouped={k: v for k, v in data.each("regrouped", checked_text) if v in ROLE_IDS or v == KEEP or is_free(v)},
        split=frozenset(data.texts("split")),
        words=dict(data.each("words", checked_text)),
        companions={k: v for k, v in data.each("companions", checked_text) if fits(k, v)},
        emblems=_emblems(data.table("emblems")),
        variants=data.rows("variants", lambda one, where: _look(Table(one, where), 1), 200) if depth == 0 else (),
        unknown={k: checked_tree(v, k) for k, v in data.data.items() if k not in _KNOWN},
    )


def _emblems(data: Table) -> dict[str, Emblem]:
    rows = {key: data.table(key) for key in data.data}
    found = {key: Emblem(row.text("file", ""), row.text("role", "")) for key, row in rows.items()}
    return {key: emblem for key, emblem in found.items() if emblem_fits(key, emblem.role, frozenset(ROLE_IDS))}


def _member(value: object, where: str) -> Member:
    row = Table(value, where)
    return Member(row.text("path"), row.number("weight", 0.0, 1_000.0))


def _placement(data: Table) -> Placement:
    plain = Placement()
    mode = data.text("mode", plain.mode)
    if mode not in {row.id for row in MODES}:
        raise WrongValueError(tr("“{mode}” is no way to lay a picture").format(mode=mode[:40]))
    width, height = (int(data.number(k, 64, 32768, getattr(plain, k))) for k in ("width", "height"))
    return Placement(mode, width, height)


def _recipe(data: Table) -> Recipe:
    return Recipe(data.colour("accent"), data.number("hue_deg", -3600.0, 3600.0), data.number("tint", 0.0, 1.0))


def _temper(data: Table) -> Temper:
    return temper_from({k: checked_number(v, data.path(k)) for k, v in data.data.items()})


def _completed(given: dict[str, Rgba], recipe: Recipe, temper: Temper, tone: Tone) -> dict[str, Rgba]:
    along = {role: given[leader] for role, leader in FOLLOWS.items() if leader in given}
    wanted = {**wanted_palette(recipe, tone, temper), **along, **given}
    short = {j.pair for j in failing(wanted) if j.pair.text in given and j.pair.surface in given}
    return solve(wanted, given, pairs=tuple(p for p in PAIRS if p not in short))
