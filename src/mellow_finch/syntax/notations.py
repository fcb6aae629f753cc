"""The ways in which files spell a colour beside the ones of stylesheets: found, read, and spelled anew in kind.

Every notation is a row: a pattern that finds it, a reader, and a writer that keeps the old spelling's style. A file
format names the notations that its real reader accepts; nothing is guessed from the digits alone.
"""

from __future__ import annotations

import colorsys
import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, lru_cache

from ..colour.rgb import Rgba, from_unit
from .literals import NAMES, read_literal, respell
from .numbers import number, share


@dataclass(frozen=True, slots=True, kw_only=True)
class Notation:
    """One way of spelling a colour.

    pattern: finds it, without groups; read: its colour or None; spell(old, colour): the colour in the old one's
    style; alpha: whether it can say translucency. Writers of notations without alpha leave it out.
    """

    id: str
    pattern: str
    read: Callable[[str], Rgba | None]
    spell: Callable[[str, Rgba], str]
    alpha: bool = False


_HEX = "[0-9a-fA-F]"
_NUM = r"[-+]?(?:\d++(?:\.\d*+)?|\.\d++)(?:[eE][-+]?\d+)?"
_NUMBERS = re.compile(_NUM + "%?")


def _short(value: float, places: int = 3) -> str:
    return f"{value:.{places}f}".rstrip("0").rstrip(".") or "0"


def _bytes(digits: str) -> list[int]:
    return list(bytes.fromhex(digits))


def _cased(fresh: str, old: str) -> str:
    return fresh.upper() if any(c in "ABCDEF" for c in old) else fresh


def _rgb_digits(colour: Rgba) -> str:
    return f"{colour.r:02x}{colour.g:02x}{colour.b:02x}"


def _alpha_digits(colour: Rgba) -> str:
    return f"{round(colour.a * 255):02x}"


def _put(text: str, found: list[re.Match[str]], fresh: list[str]) -> str:
    for place, value in reversed(list(zip(found, fresh, strict=True))):
        text = text[: place.start()] + value + text[place.end() :]
    return text


# Digits with the opacity first


def _read_argb(text: str) -> Rgba | None:
    digits = text.lstrip("#")
    digits = "".join(d * 2 for d in digits) if len(digits) in (3, 4) else digits
    *alpha, r, g, b = _bytes(digits)
    return Rgba(r, g, b, alpha[0] / 255 if alpha else 1.0)


def _spell_argb(old: str, colour: Rgba) -> str:
    mark, digits = ("#", old[1:]) if old.startswith("#") else ("", old)
    if len(digits) in (4, 8) or colour.a < 1:
        return mark + _cased(_alpha_digits(colour) + _rgb_digits(colour), digits)
    return mark + _cased(_rgb_digits(colour), digits)


# Bare digits


def _read_bare(text: str) -> Rgba | None:
    r, g, b, *alpha = _bytes(text)
    return Rgba(r, g, b, alpha[0] / 255 if alpha else 1.0)


def _spell_bare(old: str, colour: Rgba) -> str:
    tail = _alpha_digits(colour) if len(old) == 8 else ""
    return _cased(_rgb_digits(colour) + tail, old)


def _read_0x(text: str) -> Rgba | None:
    return _read_argb(text[2:])


def _spell_0x(old: str, colour: Rgba) -> str:
    digits = _rgb_digits(colour)
    return old[:2] + _cased(_alpha_digits(colour) + digits if len(old) == 10 else digits, old[2:])


# More than eight bits a channel


def _read_deep(text: str) -> Rgba | None:
    digits = text[1:]
    step = len(digits) // 3
    top = 16**step - 1
    return from_unit(*(int(digits[i * step : (i + 1) * step], 16) / top for i in range(3)))


def _spell_deep(old: str, colour: Rgba) -> str:
    step = (len(old) - 1) // 3
    top = 16**step - 1
    return "#" + _cased("".join(f"{round(v * top):0{step}x}" for v in colour.unit), old[1:])


def _read_left(text: str) -> Rgba | None:
    """Read #rgb as X does: the digits are the high ones of each channel."""
    return Rgba(*(int(d, 16) * 16 for d in text[1:4]))


def _read_x11(text: str) -> Rgba | None:
    kind, _, rest = text.partition(":")
    parts = rest.split("/")
    if kind.lower() == "rgbi":
        return from_unit(*(number(p) for p in parts))
    r, g, b, *alpha = (int(p, 16) / (16 ** len(p) - 1) for p in parts)
    return from_unit(r, g, b, alpha[0] if alpha else 1.0)


def _spell_x11(old: str, colour: Rgba) -> str:
    kind, _, rest = old.partition(":")
    parts = rest.split("/")
    values = [*colour.unit, colour.a][: len(parts)]
    if kind.lower() == "rgbi":
        return f"{kind}:" + "/".join(_short(v) for v in values)
    fresh = []
    for part, value in zip(parts, values, strict=True):
        width = max(2, len(part))
        fresh.append(_cased(f"{round(value * (16**width - 1)):0{width}x}", rest))
    return f"{kind}:" + "/".join(fresh)


# Decimals


def _read_decimals(text: str) -> Rgba | None:
    words = re.findall(r"\d+", text)
    if len(words) not in (3, 4) or any(len(w) > 9 or int(w) > 255 for w in words):
        return None
    r, g, b, *alpha = map(int, words)
    return Rgba(r, g, b, alpha[0] / 255 if alpha else 1.0)


def _spell_decimals(old: str, colour: Rgba) -> str:
    found = list(re.finditer(r"\d+", old))
    return _put(old, found, [str(v) for v in (*colour[:3], round(colour.a * 255))[: len(found)]])


def _read_integer(text: str) -> Rgba | None:
    value = int(text)
    return Rgba(value >> 16, value >> 8 & 255, value & 255) if value < 1 << 24 else None


def _spell_integer(_old: str, colour: Rgba) -> str:
    return str(colour.r << 16 | colour.g << 8 | colour.b)


def _read_braces(text: str) -> Rgba | None:
    words = _NUMBERS.findall(text)
    if len(words) != 3:
        return None
    if all(w.isdigit() for w in words):
        return from_unit(*(number(w) / 65535 for w in words))
    return from_unit(*(number(w) for w in words))


def _spell_braces(old: str, colour: Rgba) -> str:
    found = list(_NUMBERS.finditer(old))
    whole = all(f.group().isdigit() for f in found)
    # A point tells fractions from whole numbers up to 65535.
    return _put(old, found, [str(round(v * 65535)) if whole else f"{v:.4f}" for v in colour.unit])


# Functions


def _read_qt(text: str) -> Rgba | None:
    kind, _, inside = text.partition("(")
    words = _NUMBERS.findall(inside)
    if len(words) not in (3, 4):
        return None
    alpha = 1.0
    if len(words) == 4:
        alpha = share(words[3])
        alpha = alpha / 255 if alpha > 1 else alpha
    kind = kind.lower()
    if kind.startswith("rgb"):
        r, g, b = (share(w, 255) for w in words[:3])
        return from_unit(r, g, b, min(1.0, alpha))
    hue = number(words[0].rstrip("%")) / 360 % 1
    x, y = (share(w, 255) for w in words[1:3])
    x, y = min(1.0, x), min(1.0, y)
    rgb = colorsys.hls_to_rgb(hue, y, x) if kind.startswith("hsl") else colorsys.hsv_to_rgb(hue, x, y)
    return from_unit(*rgb, min(1.0, alpha))


def _spell_qt(old: str, colour: Rgba) -> str:
    found = list(_NUMBERS.finditer(old, old.index("(")))
    kind = old.lower()
    if kind.startswith("rgb"):
        values = [
            f"{_short(v / 255 * 100)}%" if f.group().endswith("%") else str(v)
            for f, v in zip(found, colour[:3], strict=False)
        ]
    else:
        if kind.startswith("hsl"):
            h, second, first = colorsys.rgb_to_hls(*colour.unit)
        else:
            h, first, second = colorsys.rgb_to_hsv(*colour.unit)
        values = [_short(h * 360)] + [
            f"{_short(v * 100)}%" if f.group().endswith("%") else str(round(v * 255))
            for f, v in zip(found[1:], (first, second), strict=False)
        ]
    if len(found) == 4:
        word = found[3].group()
        if word.endswith("%"):
            values.append(f"{_short(colour.a * 100)}%")
        else:
            values.append(_short(colour.a) if number(word) <= 1 else str(round(colour.a * 255)))
    return _put(old, found[: len(values)], values)


def _read_hex_inside(text: str) -> Rgba | None:
    return _read_bare(text[text.index("(") + 1 : -1].strip())


def _spell_hex_inside(old: str, colour: Rgba) -> str:
    digits = old[old.index("(") + 1 : -1]
    return old.replace(digits, digits.replace(digits.strip(), _spell_bare(digits.strip(), colour)))


def _read_wide(text: str) -> Rgba | None:
    """Read hwb() and cmyk(), as launchers' style files know them."""
    words = _NUMBERS.findall(text.partition("(")[2])
    units = [share(w) for w in words]
    if text.lower().startswith("hwb"):
        if len(words) not in (3, 4):
            return None
        hue, white, black = (units[0] if not words[0].endswith("%") else units[0] * 360) / 360 % 1, *units[1:3]
        white, black = min(1.0, white), min(1.0, black)
        if white + black > 1:
            white, black = white / (white + black), black / (white + black)
        base = colorsys.hsv_to_rgb(hue, 1, 1)
        r, g, b = (v * (1 - white - black) + white for v in base)
        return from_unit(r, g, b, units[3] if len(units) == 4 else 1.0)
    if len(words) not in (4, 5):
        return None
    c, m, y, k = (min(1.0, v) for v in units[:4])
    r, g, b = ((1 - v) * (1 - k) for v in (c, m, y))
    return from_unit(r, g, b, units[4] if len(units) == 5 else 1.0)


def _spell_wide(old: str, colour: Rgba) -> str:
    found = list(_NUMBERS.finditer(old, old.index("(")))
    if old.lower().startswith("hwb"):
        hue, _, _ = colorsys.rgb_to_hsv(*colour.unit)
        parts = [hue * 360, min(colour.unit), 1 - max(colour.unit)]
    else:
        k = 1 - max(colour.unit)
        parts = [0.0 if k >= 1 else (1 - v - k) / (1 - k) for v in colour.unit] + [k]
    values = []
    for i, (f, value) in enumerate(zip(found, [*parts, colour.a], strict=False)):
        hue_angle = i == 0 and old.lower().startswith("hwb")
        percent = f.group().endswith("%")
        values.append(_short(value) if hue_angle or not percent else f"{_short(value * 100)}%")
    return _put(old, found[: len(values)], values)


def _read_hash_word(text: str) -> Rgba | None:
    return read_literal(text[1:])


def _spell_hash_word(old: str, colour: Rgba) -> str:
    if old[1:].lower().startswith("rgba"):
        return f"#rgba({colour.r},{colour.g},{colour.b},{_short(colour.a)})"
    return "#" + _rgb_digits(colour)


def _spell_name(_old: str, colour: Rgba) -> str:
    return "#" + _rgb_digits(colour)


def _spell_hex(old: str, colour: Rgba) -> str:
    return respell(old, colour.opaque) if len(old) in (4, 7) else respell(old, colour)


def _spell_bare_name(old: str, colour: Rgba) -> str:
    return _rgb_digits(colour)


_WORDS = "|".join(sorted((n for n in NAMES if n != "transparent"), key=len, reverse=True))
_ROWS = (
    Notation(id="hex", pattern=f"#{_HEX}{{6}}|#{_HEX}{{3}}", read=read_literal, spell=_spell_hex),
    Notation(
        id="hexa",
        pattern=f"#{_HEX}{{8}}|#{_HEX}{{6}}|#{_HEX}{{4}}|#{_HEX}{{3}}",
        read=read_literal,
        spell=_spell_hex,
        alpha=True,
    ),
    Notation(
        id="argb",
        pattern=f"#{_HEX}{{8}}|#{_HEX}{{6}}|#{_HEX}{{4}}|#{_HEX}{{3}}",
        read=_read_argb,
        spell=_spell_argb,
        alpha=True,
    ),
    Notation(id="left", pattern=f"#{_HEX}{{3}}", read=_read_left, spell=_spell_name),
    Notation(id="deep", pattern=f"#{_HEX}{{12}}|#{_HEX}{{9}}", read=_read_deep, spell=_spell_deep),
    Notation(id="bare", pattern=f"{_HEX}{{6}}", read=_read_bare, spell=_spell_bare),
    Notation(id="bare-alpha", pattern=f"{_HEX}{{8}}|{_HEX}{{6}}", read=_read_bare, spell=_spell_bare, alpha=True),
    Notation(id="bare-argb", pattern=f"{_HEX}{{8}}", read=_read_argb, spell=_spell_argb, alpha=True),
    Notation(id="0x", pattern=f"0[xX]{_HEX}{{8}}|0[xX]{_HEX}{{6}}", read=_read_0x, spell=_spell_0x, alpha=True),
    Notation(id="function", pattern=r"(?i:rgb|hsl)a?\([^()@;{}]*\)", read=read_literal, spell=respell, alpha=True),
    Notation(id="wide", pattern=r"(?i:hwb|cmyk)\([^()]*\)", read=_read_wide, spell=_spell_wide, alpha=True),
    Notation(id="qt-function", pattern=r"(?i:rgb|hsl|hsv)a?\([^()]*\)", read=_read_qt, spell=_spell_qt, alpha=True),
    Notation(
        id="hex-inside",
        pattern=rf"rgba\(\s*{_HEX}{{8}}\s*\)|rgb\(\s*{_HEX}{{6}}\s*\)",
        read=_read_hex_inside,
        spell=_spell_hex_inside,
        alpha=True,
    ),
    Notation(
        id="x11",
        pattern=rf"(?i:rgba?):{_HEX}{{1,4}}(?:/{_HEX}{{1,4}}){{2,3}}|(?i:rgbi):{_NUM}/{_NUM}/{_NUM}",
        read=_read_x11,
        spell=_spell_x11,
    ),
    Notation(
        id="decimals",
        pattern=r"\d{1,3}\s*,\s*\d{1,3}\s*,\s*\d{1,3}(?:\s*,\s*\d{1,3})?",
        read=_read_decimals,
        spell=_spell_decimals,
        alpha=True,
    ),
    Notation(
        id="semicolons",
        pattern=r"\d{1,3};;\d{1,3};;\d{1,3};;\d{1,3}",
        read=_read_decimals,
        spell=_spell_decimals,
        alpha=True,
    ),
    Notation(id="columns", pattern=r"\d{1,3}[ ]+\d{1,3}[ ]+\d{1,3}", read=_read_decimals, spell=_spell_decimals),
    Notation(id="integer", pattern=r"\d{1,8}", read=_read_integer, spell=_spell_integer),
    Notation(id="sgr", pattern=r"\d{1,3};\d{1,3};\d{1,3}", read=_read_decimals, spell=_spell_decimals),
    Notation(
        id="braces",
        pattern=rf"\{{\s*{_NUM}\s*,\s*{_NUM}\s*,\s*{_NUM}\s*\}}",
        read=_read_braces,
        spell=_spell_braces,
    ),
    Notation(
        id="hash-word",
        pattern=rf"#rgba\([^()]*\)|#(?:{_WORDS})(?![\w-])",
        read=_read_hash_word,
        spell=_spell_hash_word,
        alpha=True,
    ),
    Notation(id="name", pattern=rf"(?i:{_WORDS})(?![\w-])", read=read_literal, spell=_spell_name),
    Notation(id="bare-name", pattern=rf"(?i:{_WORDS})(?![\w-])", read=read_literal, spell=_spell_bare_name),
)
NOTATIONS: dict[str, Notation] = {row.id: row for row in _ROWS}


@cache
def finder(names: tuple[str, ...], before: str = r"(?<![\w#])") -> re.Pattern[str]:
    """Return a pattern that finds spellings in some notations, the first that fits; before: what has to come before.

    notation_of tells which notation a match is in.
    """
    rows = "|".join(f"(?P<n{i}>{NOTATIONS[name].pattern})" for i, name in enumerate(names))
    return re.compile(rf"{before}(?:{rows})(?![\w#])")


def notation_of(names: tuple[str, ...], found: re.Match[str]) -> str:
    """Return the id of the notation of a match of their finder."""
    return names[int(str(found.lastgroup)[1:])]


@lru_cache(maxsize=65536)
def read_as(notation: str, spelling: str) -> Rgba | None:
    """Return the colour of a spelling in a notation, "" being that of stylesheets; None when it is none."""
    if not notation:
        return read_literal(spelling)
    try:
        return NOTATIONS[notation].read(spelling)
    except (ValueError, OverflowError, ZeroDivisionError):
        return None


@lru_cache(maxsize=65536)
def spell_as(notation: str, old: str, colour: Rgba) -> str:
    """Return a colour spelled in a notation, "" being that of stylesheets, in the style of the old spelling.

    The old spelling itself comes back when it means this colour already.
    """
    if not notation:
        return respell(old, colour)
    now = read_as(notation, old)
    if now is not None and now[:3] == colour[:3] and abs(now.a - colour.a) < 1 / 510:
        return old
    return NOTATIONS[notation].spell(old, colour)
