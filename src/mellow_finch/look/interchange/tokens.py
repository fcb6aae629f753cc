"""Design tokens of the W3C community group (.tokens.json): named values in nested groups, colours among them."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping
from typing import Any

from ...colour.rgb import Rgba, from_unit
from ...errors import ParseError
from ...language import tr
from ...syntax.spans import Problem
from ...syntax.typed import read_typed
from .model import MOST_COLOURS, ColourList, Interchange, PaletteEntry, decoded, finished, role_named, unique_slugs

_ALIAS = re.compile(r"\{([^{}]+)\}\Z")
_HEX = re.compile(r"#(?:[0-9a-fA-F]{3,4}|[0-9a-fA-F]{6}|[0-9a-fA-F]{8})\Z")
_DEEPEST = 60
_MOST_STEPS = 32


def read_tokens(data: bytes) -> ColourList:
    """Read every colour token, aliases followed; tokens that cannot be read are listed with their lines.

    Raises ParseError when it is no JSON object or holds no colour.
    """
    text = decoded(data[:16_000_000])
    try:
        tree = json.loads(text)
    except json.JSONDecodeError as error:
        raise ParseError(
            tr("The file is not valid JSON: {msg}.").format(msg=error.msg), error.lineno, error.colno
        ) from error
    except RecursionError as error:
        raise ParseError(tr("The file is nested too deeply to hold design tokens.")) from error
    if not isinstance(tree, dict):
        raise ParseError(tr("The file contains no design tokens."))
    tokens = {path: (value, kind) for path, value, kind in _walk(tree, (), "", 0)}
    entries: list[PaletteEntry] = []
    problems: list[Problem] = []
    for path, (value, kind) in tokens.items():
        followed = _followed(value, tokens)
        colour = _colour(followed) if kind == "color" or _looks_coloured(followed) else None
        if colour is not None and len(entries) < MOST_COLOURS:
            name = path.rpartition(".")[2]
            entries.append(PaletteEntry(colour, path, role_named(name) or role_named(path)))
        elif kind == "color":
            name = path.rpartition(".")[2]
            line = text.count("\n", 0, max(0, text.find(json.dumps(name, ensure_ascii=False)))) + 1
            problems.append(Problem(line, 1, tr("“{path}” has no readable colour.").format(path=path)))
    description = tree.get("$description")
    return finished(description if isinstance(description, str) else "", entries, problems, tr("file of design tokens"))


def _walk(group: Mapping[str, Any], path: tuple[str, ...], kind: str, depth: int) -> Iterator[tuple[str, Any, str]]:
    own = group.get("$type", kind)
    kind = own if isinstance(own, str) else kind
    if "$value" in group:
        yield ".".join(path), group["$value"], kind
        return
    if depth < _DEEPEST:
        for name, inner in group.items():
            if not name.startswith("$") and isinstance(inner, dict):
                yield from _walk(inner, (*path, name), kind, depth + 1)


def _followed(value: Any, tokens: Mapping[str, tuple[Any, str]]) -> Any:
    for _ in range(_MOST_STEPS):
        found = _ALIAS.match(value) if isinstance(value, str) else None
        if found is None:
            return value
        value = tokens.get(found.group(1), (None, ""))[0]
    return None


def _looks_coloured(value: Any) -> bool:
    return (isinstance(value, dict) and value.get("colorSpace") == "srgb") or (
        isinstance(value, str) and _HEX.match(value) is not None
    )


def _colour(value: Any) -> Rgba | None:
    """Return the colour of a token's value: a spelling, or an object with a colour space and components."""
    try:
        if isinstance(value, str):
            if _HEX.match(value):
                from ...colour.rgb import parse_hex

                return parse_hex(value)
            return read_typed(value)
        if not isinstance(value, dict):
            return None
        alpha = min(1.0, max(0.0, float(value.get("alpha", 1))))
        parts = value.get("components", value.get("channels"))
        if value.get("colorSpace") == "srgb" and isinstance(parts, list) and len(parts) == 3:
            r, g, b = (0.0 if p == "none" else float(p) for p in parts)
            return from_unit(r, g, b, alpha)
        if value.get("colorSpace") == "oklch" and isinstance(parts, list) and len(parts) == 3:
            return read_typed(f"oklch({' '.join(str(p) for p in parts)})")._replace(a=alpha)
        spelled = value.get("hex")
        return _colour(spelled)._replace(a=alpha) if isinstance(spelled, str) and _HEX.match(spelled) else None  # type: ignore[union-attr]
    except (ValueError, TypeError, OverflowError):
        return None


def write_tokens(colours: ColourList) -> bytes:
    """Return one group of colour tokens in the form of 2025, with a hexadecimal spelling beside the components."""
    rows = {
        slug: {
            "$value": {
                "colorSpace": "srgb",
                "components": [round(v, 6) for v in e.colour.unit],
                "alpha": round(e.colour.a, 6),
                "hex": e.colour.opaque.hex,
            },
            **({"$description": e.name} if e.name else {}),
        }
        for slug, e in zip(unique_slugs(colours.entries), colours.entries, strict=True)
    }
    head = {"$description": colours.name} if colours.name else {}
    return (json.dumps({**head, "colour": {"$type": "color", **rows}}, indent=1, ensure_ascii=True) + "\n").encode()


TOKENS = Interchange(
    id="tokens",
    title=tr("Design tokens (JSON)"),
    suffixes=(".tokens.json", ".tokens", ".json"),
    sniff=lambda data: 80 if b'"$value"' in data[:400_000] else 0,
    read=read_tokens,
    write=write_tokens,
    alpha=True,
)
