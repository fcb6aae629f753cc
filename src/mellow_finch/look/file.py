"""The file of a look: versioned JSON, unknown keys kept, written atomically by the caller.

Every attribute of a look is one row of ATTRIBUTES: its key, how it is written, and how it is read and checked. Files of
earlier versions are brought up to this one in `upgrade`.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from dataclasses import asdict
from types import MappingProxyType
from typing import Any, NamedTuple, get_args

from ..colour.rgb import Rgba
from ..components.decisions import NOTHING, Decisions, Emblem, Owner
from ..components.write.emblems import fits as emblem_fits
from ..errors import ParseError
from ..language import tr
from ..palette.pairs import PAIRS, failing
from ..palette.recipe import TONES, Recipe, Tone
from ..palette.roles import FOLLOWS, ROLE_BY_ID, ROLE_IDS
from ..palette.solve import solve
from ..palette.temper import Temper, temper_from
from ..palette.veil import KIND_BY_ID
from ..palette.wanted import wanted_palette
from ..picture.backdrop import PLAIN, Backdrop, Extremes
from ..picture.placement import MINUTES, MODES, SHOWINGS, Placement, Showing
from ..recolour.groups import KEEP, is_free
from .companions import fits
from .decode import Table, WrongValueError, checked_colour, checked_number, checked_text, checked_tree, read_json
from .model import Look, Member, Origin, OriginKind
from .upgrade import VERSION, upgraded

KIND = "mellow-finch look"
SUFFIX = ".finchlook"
MOST_BYTES = 4_000_000


def look_to_json(look: Look) -> str:
    """Return the look as text, keys in a fixed order, colours as #rrggbb."""
    return json.dumps(_to_data(look), indent=1, ensure_ascii=False) + "\n"


def _to_data(look: Look) -> dict[str, Any]:
    known = {row.key: row.write(getattr(look, row.attribute or row.key)) for row in ATTRIBUTES}
    return {"kind": KIND, "version": VERSION, **known, **look.unknown}


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
        return _look(Table(upgraded(data, version)))
    except (WrongValueError, RecursionError) as error:
        raise ParseError(tr("{label} is damaged: {error}.").format(label=label, error=error)) from error


def _look(data: Table, nested: bool = False) -> Look:
    """Return the look that a table says; nested: whether it is a variant of another, which has none itself."""
    rows = [row for row in ATTRIBUTES if not (nested and row.key == "variants")]
    known = {row.key for row in ATTRIBUTES} | {"kind", "version"}
    unknown = {k: checked_tree(v, k) for k, v in data.data.items() if k not in known}
    return Look(**{row.attribute or row.key: row.read(data, row.key) for row in rows}, unknown=unknown)


def _tone(data: Table, key: str) -> str:
    tone = data.text(key)
    if tone not in TONES:
        raise WrongValueError(tr("the variant “{tone}” is neither dark nor light").format(tone=tone[:40]))
    return tone


def _palettes(data: Table, key: str) -> Mapping[str, Mapping[str, Rgba]]:
    recipe, temper = _recipe(data.table("recipe", needed=True)), _temper(data.table("temper"))
    palettes: dict[str, Mapping[str, Rgba]] = {}
    for name in TONES:
        roles = data.table(key, needed=True).table(name, needed=True).table("roles", needed=True)
        given = {r: roles.colour(r) for r in roles.data if r in ROLE_IDS}
        if set(given) != set(ROLE_IDS):
            given = _completed(given, recipe, temper, name)
        palettes[name] = MappingProxyType({r: given[r] for r in ROLE_IDS})
    return palettes


def _origin(data: Table, key: str) -> Origin | None:
    if not data.has(key):
        return None
    row = data.table(key)
    kind = row.text("kind")
    if kind not in get_args(OriginKind):
        raise WrongValueError(tr("“{kind}” is not a source of colours").format(kind=kind[:40]))
    return Origin(kind, row.text("name", ""))  # type: ignore[arg-type]


class _Field(NamedTuple):
    """One of the decisions of an owner: how it is written, and how it is read at its key."""

    write: Callable[[Any], Any]
    read: Callable[[Table, str, str], Any]  # the third is the component that it is of, empty for a theme


def _choices(data: Table, key: str, _component: str) -> dict[str, str]:
    return {k: v for k, v in data.each(key, checked_text) if v in ROLE_BY_ID or v == KEEP or is_free(v)}


def _swaps(data: Table, key: str, _component: str) -> dict[str, str]:
    return {k: v for k, v in data.each(key, checked_text) if is_free(k) and is_free(v)}


def _names(data: Table, key: str, _component: str) -> frozenset[str]:
    return frozenset(data.texts(key))


def _emblems(data: Table, key: str, _component: str) -> dict[str, Emblem]:
    rows = {name: data.table(key).table(name) for name in data.table(key).data}
    found = {name: Emblem(row.text("file", ""), row.text("role", "")) for name, row in rows.items()}
    return {name: emblem for name, emblem in found.items() if emblem_fits(name, emblem.role, frozenset(ROLE_IDS))}


def _companions(data: Table, key: str, component: str = "") -> dict[str, str]:
    return {k: v for k, v in data.each(key, checked_text) if fits(k, v, component)}


def _sorted(rows: Mapping[str, Any]) -> dict[str, Any]:
    return dict(sorted(rows.items()))


_DECISIONS: Mapping[str, _Field] = {
    "groups": _Field(_sorted, _choices),
    "roles": _Field(_sorted, _choices),
    "parts": _Field(_sorted, _choices),
    "splits": _Field(sorted, _names),
    "left": _Field(sorted, _names),
    "worn": _Field(sorted, _names),
    "as_is": _Field(bool, lambda data, key, _: data.flag(key, False)),
    "swaps": _Field(_sorted, _swaps),
    "knobs": _Field(_sorted, lambda data, key, _: dict(data.each(key, checked_number))),
    "mends": _Field(sorted, _names),
    "emblems": _Field(lambda rows: {name: emblem._asdict() for name, emblem in sorted(rows.items())}, _emblems),
    "companions": _Field(_sorted, _companions),
    "beside": _Field(bool, lambda data, key, _: data.flag(key, False)),
}


def _decisions_to_data(decisions: Mapping[Owner, Decisions]) -> list[dict[str, Any]]:
    out = []
    for owner, own in sorted(decisions.items(), key=lambda row: row[0]):
        values = ((key, getattr(own, key), field) for key, field in _DECISIONS.items())
        out.append({owner.kind: owner.name, **{key: field.write(value) for key, value, field in values if value}})
    return out


def _decisions(data: Table, key: str) -> dict[Owner, Decisions]:
    return {owner: own for owner, own in data.rows(key, _decided) if own != NOTHING}


def _decided(value: object, where: str) -> tuple[Owner, Decisions]:
    row = Table(value, where)
    owner = Owner.theme(row.text("theme")) if row.has("theme") else Owner.component(row.text("component"))
    component = owner.name if owner.kind == "component" else ""
    return owner, Decisions(**{key: field.read(row, key, component) for key, field in _DECISIONS.items()})


def _member(value: object, where: str) -> Member:
    row = Table(value, where)
    return Member(row.text("path"), row.number("weight", 0.0, 1_000.0))


def _placement(data: Table) -> Placement:
    plain = Placement()
    mode = data.text("mode", plain.mode)
    if mode not in {row.id for row in MODES}:
        raise WrongValueError(tr("“{mode}” is not a way to place an image").format(mode=mode[:40]))
    width, height = (int(data.number(k, 64, 32768, getattr(plain, k))) for k in ("width", "height"))
    return Placement(mode, width, height)


def _showing(data: Table) -> Showing:
    plain = Showing()
    kind = next((id_ for id_, _ in SHOWINGS if id_ == data.text("kind", plain.kind)), plain.kind)
    return Showing(kind, int(data.number("minutes", *MINUTES, plain.minutes)))


def _recipe(data: Table) -> Recipe:
    return Recipe(data.colour("accent"), data.number("hue_deg", -3600.0, 3600.0), data.number("tint", 0.0, 1.0))


def _temper(data: Table) -> Temper:
    return temper_from({k: checked_number(v, data.path(k)) for k, v in data.data.items()})


def _completed(given: dict[str, Rgba], recipe: Recipe, temper: Temper, tone: Tone) -> dict[str, Rgba]:
    along = {role: given[leader] for role, leader in FOLLOWS.items() if leader in given}
    wanted = {**wanted_palette(recipe, tone, temper), **along, **given}
    short = {j.pair for j in failing(wanted) if j.pair.text in given and j.pair.surface in given}
    return solve(wanted, given, pairs=tuple(p for p in PAIRS if p not in short))


def _variants(data: Table, key: str) -> tuple[Look, ...]:
    return data.rows(key, lambda one, where: _look(Table(one, where), nested=True), 200)


def _as_it_is(value: Any) -> Any:
    return value


class Attribute(NamedTuple):
    """One attribute of a look: its key in the file, how it is written, how it is read; attribute: its own name."""

    key: str
    write: Callable[[Any], Any]
    read: Callable[[Table, str], Any]
    attribute: str = ""


def _set_of(known: frozenset[str] | None = None) -> Callable[[Table, str], frozenset[str]]:
    """Return a reader of a set of texts; those that are not known are left away."""
    return lambda data, key: frozenset(text for text in data.texts(key) if known is None or text in known)


def _flag(default: bool) -> Callable[[Table, str], bool]:
    return lambda data, key: data.flag(key, default)


ATTRIBUTES: tuple[Attribute, ...] = (
    Attribute("name", _as_it_is, lambda data, key: data.text(key, most=400)),
    Attribute("tone", _as_it_is, _tone),
    Attribute("source", _as_it_is, lambda data, key: data.text(key, "")),
    Attribute("origin", lambda origin: origin and origin._asdict(), _origin),
    Attribute(
        "recipe",
        lambda r: {"accent": r.accent.hex, "hue_deg": r.hue_deg, "tint": r.tint},
        lambda data, key: _recipe(data.table(key, needed=True)),
    ),
    Attribute("temper", asdict, lambda data, key: _temper(data.table(key))),
    Attribute("linked", _as_it_is, _flag(True)),
    Attribute("opacity", dict, lambda data, key: _shares(data.table(key))),
    Attribute(
        "drawn",
        lambda drawn: {t: dict(kinds) for t, kinds in drawn.items()},
        lambda data, key: {t: _shares(data.table(key).table(t)) for t in TONES if data.table(key).has(t)},
    ),
    Attribute("blur", _as_it_is, _flag(False)),
    Attribute("pictures", lambda rows: [asdict(one) for one in rows], lambda data, key: data.rows(key, _member, 1_000)),
    Attribute("placement", asdict, lambda data, key: _placement(data.table(key))),
    Attribute("showing", asdict, lambda data, key: _showing(data.table(key))),
    Attribute("backdrop", _backdrop_to_data, lambda data, key: _backdrop(data.table(key))),
    Attribute("pins", lambda pins: [c.hex for c in pins], lambda data, key: data.rows(key, checked_colour, 256)),
    Attribute("locks", sorted, _set_of(frozenset(ROLE_IDS))),
    Attribute("left_out", sorted, _set_of()),
    Attribute("added", sorted, _set_of()),
    Attribute("mend_as_you_go", _as_it_is, _flag(True)),
    Attribute("brought", list, lambda data, key: data.rows(key, checked_text, 100)),
    Attribute("words", dict, lambda data, key: dict(data.each(key, checked_text))),
    Attribute("companions", _sorted, _companions),
    Attribute("decisions", _decisions_to_data, _decisions),
    Attribute("variants", lambda variants: [_to_data(v) for v in variants], _variants),
    Attribute(
        "tones",
        lambda palettes: {t: {"roles": {r: palettes[t][r].hex for r in ROLE_IDS}} for t in TONES},
        _palettes,
        "palettes",
    ),
)
