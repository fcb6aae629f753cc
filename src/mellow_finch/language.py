"""The language of what people read: sentences are looked up in a catalogue, numbers and dates are spelled its way.

The language is that of the environment (LANGUAGE, LC_ALL, LC_MESSAGES, LANG), chosen when the program starts. English
is the language of the sources, so a text without a translation is shown as it stands there. Placeholders have names, so
that a translation can order them as it must: `tr("“{name}” is kept.").format(name=…)`.
"""

from __future__ import annotations

import datetime
import gettext
import json
import os
import re
import string
import unicodedata
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path

DOMAIN = "mellow-finch"
FOLDER = Path(os.environ.get("FINCH_LOCALE") or Path(__file__).parent / "locale")
RIGHT_TO_LEFT = ("ar",)
_RIGHT_TO_LEFT_MARK = "\u200f"
_LEFT_TO_RIGHT_ISOLATE, _POP_ISOLATE = "\u2066", "\u2069"
_SIGNS = ("/", "~", "#", "-", ".")  # what paths, colours and options begin with, and a sentence would turn round
_NUMBERED = re.compile(r"(.*?)( \d+)?")


def wanted() -> list[str]:
    """Return the languages that the environment asks for, best first, up to the first that needs no translation."""
    told = next((v for n in ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG") if (v := os.environ.get(n))), "")
    if any(os.environ.get(n, "") in ("C", "POSIX", "C.UTF-8") for n in ("LC_ALL",)):
        return []
    out: list[str] = []
    for name in filter(None, told.split(":")):
        if name.partition("_")[0].partition(".")[0] in ("en", "C", "POSIX"):
            break
        out.append(name)
    return out


def _installed(languages: Sequence[str]) -> gettext.NullTranslations:
    return gettext.translation(DOMAIN, FOLDER, languages, fallback=True) if languages else gettext.NullTranslations()


_CATALOGUE = _installed(wanted())
if wanted():  # what the library of the command line says is looked up there too
    gettext.bindtextdomain(DOMAIN, str(FOLDER))
    gettext.textdomain(DOMAIN)


@dataclass(frozen=True)
class _Conventions:
    """How a language spells things, of the data of Unicode's CLDR; `tools/languages.py cldr` writes them.

    Patterns have {0}, {1} or the letters of CLDR's dates in them; grouping_from: digits before the first group sign.
    """

    decimal: str
    group: str
    minus: str
    grouping_from: int
    percent: str
    date: str
    time: str
    date_time: str
    months: Sequence[str]
    list: Mapping[str, str]
    gigabyte: str
    megabyte: str
    kilobyte: str
    between_sentences: str


@cache
def _cldr() -> _Conventions:
    """Return how the language in force spells numbers, dates, sizes and lists."""
    rows = json.loads((Path(__file__).parent / "locale/cldr.json").read_text("utf-8"))
    return _Conventions(**rows.get(code(), rows["en"]))


def code() -> str:
    """Return the language in force, such as "de" or "zh_CN"; "en" where nothing is translated."""
    return _CATALOGUE.info().get("language", "") or "en"


def right_to_left() -> bool:
    """Tell whether the language in force is written from right to left."""
    return code().partition("_")[0] in RIGHT_TO_LEFT


def html_language() -> str:
    """Return the attributes of a page's first element that tell its language and direction."""
    return f'lang="{code().replace("_", "-")}"' + (' dir="rtl"' if right_to_left() else "")


class _Spelling(string.Formatter):
    """Puts values into a sentence as the language spells them: numbers by its signs, paths in their own direction."""

    def format_field(self, value: object, spec: str) -> str:
        """Return a value as it stands in a sentence."""
        words = format(value, spec)
        if isinstance(value, int | float):
            return spelled(words) if spec[-1:] in ("f", "g", "%") else words
        return isolated(words) if words.startswith(_SIGNS) or "/" in words else words


_SPELLING = _Spelling()


class TranslatedText(str):
    """A sentence of another language; what is put into it is spelled that language's way."""

    __slots__ = ()

    def format(self, *values: object, **named_values: object) -> str:
        """Return the sentence with the values at their places."""
        return _SPELLING.vformat(self, values, named_values)


def tr(text: str) -> str:
    """Return a text in the language in force."""
    if not text or _CATALOGUE.__class__ is gettext.NullTranslations:
        return text
    return TranslatedText(_CATALOGUE.gettext(text))


def plural(one: str, many: str, count: int, **values: object) -> str:
    """Return the text for a count, with the count put in at {count} and further values at their names."""
    return TranslatedText(_CATALOGUE.ngettext(one, many, count)).format(count=decimal(count, 0), **values)


def tr_in(context: str, text: str) -> str:
    """Return a text that means different things in different places, in the language in force."""
    return TranslatedText(_CATALOGUE.pgettext(context, text))


def spelled(number: str) -> str:
    """Return a number that was written as 4.5, 1,116 or 45% with the signs of the language; spaces before it stay."""
    rules = _cldr()
    body = number.lstrip()
    digits = body.rstrip("%")
    whole, point, rest = digits.partition(".")
    if len(whole.lstrip("+-").replace(",", "")) < 4 + rules.grouping_from - 1:
        whole = whole.replace(",", "")
    signs = whole.replace(",", "\0").replace("-", rules.minus).replace("\0", rules.group)
    out = f"{signs}{rules.decimal if point else ''}{rest}"
    return number[: len(number) - len(body)] + (rules.percent.format(out) if body.endswith("%") else out)


def isolated(words: str) -> str:
    """Return words such as a path, a colour or an option so that a line from right to left does not turn them round.

    The marks are the isolates of the Unicode Bidirectional Algorithm (UAX 9); other languages need none.
    """
    return f"{_LEFT_TO_RIGHT_ISOLATE}{words}{_POP_ISOLATE}" if words and right_to_left() else words


def in_its_direction(words: str) -> str:
    """Return a line of the language such that it runs in the language's direction though a foreign name begins it."""
    if not right_to_left() or not any(unicodedata.bidirectional(letter) in ("R", "AL") for letter in words):
        return words
    return words if words.startswith(_RIGHT_TO_LEFT_MARK) else _RIGHT_TO_LEFT_MARK + words


def decimal(value: float, digits: int) -> str:
    """Return a number with so many digits behind the decimal sign, in groups of thousands as the language has them."""
    return spelled(f"{value:,.{digits}f}")


def percent(share: float, digits: int = 0) -> str:
    """Return a share of 0..1 in percents with so many digits behind the decimal sign."""
    return spelled(f"{share:.{digits}%}")


def gigabytes(size: int) -> str:
    """Return a size in bytes as gigabytes, with the unit's sign in the language."""
    return _cldr().gigabyte.format(decimal(size / 1_000_000_000, 1))


def megabytes(size: int, digits: int = 0) -> str:
    """Return a size in bytes as megabytes, with the unit's sign in the language."""
    return _cldr().megabyte.format(decimal(size / 1_000_000, digits))


def kilobytes(size: int) -> str:
    """Return a size in bytes as whole kilobytes, with the unit's sign in the language."""
    return _cldr().kilobyte.format(decimal(size / 1000, 0))


def day(iso: str) -> str:
    """Return a date that is given as 2026-11-28 as the language spells it."""
    date = datetime.date.fromisoformat(iso[:10])
    rules = _cldr()
    return rules.date.format(
        d=date.day,
        dd=f"{date.day:02}",
        MM=f"{date.month:02}",
        M=date.month,
        MMM=rules.months[date.month - 1],
        y=date.year,
    )


def moment(iso: str) -> str:
    """Return a date and the time of day that are given as 2026-11-28T10:00 as the language spells them."""
    time = datetime.datetime.fromisoformat(iso)
    rules = _cldr()
    at = rules.time.format(H=time.hour, HH=f"{time.hour:02}", mm=f"{time.minute:02}")
    return rules.date_time.format(date=day(iso), time=at)


def tone_word(tone: str) -> str:
    """Return "dark" or "light", as which a look or its half is told, in the language in force."""
    return {
        "dark": tr_in("a look or its half", "dark"),
        "light": tr_in("a look or its half", "light"),
        "as found": tr("unchanged"),
    }.get(tone, tone)


def named(words: str) -> str:
    """Return the name of a part of a desktop, in the language in force; a number at its end stays."""
    name, number = _NUMBERED.fullmatch(words).groups() if words else ("", None)  # type: ignore[union-attr]
    return tr(name) + (number or "")


def states(words: str) -> str:
    """Return the states of a part, such as "selected, idle", in the language in force."""
    return comma_separated(tr_in("state of a part", word) for word in words.split(", ")) if words else ""


def standing(places: int, files: int) -> str:
    """Return in how many places of how many files something stands."""
    where = plural("in {count} file", "in {count} files", files)
    return plural("{count} occurrence {where}", "{count} occurrences {where}", places, where=where)


def groups_in(groups: int, places: int) -> str:
    """Return how many groups of colours there are, in how many places."""
    where = plural("at {count} occurrence", "at {count} occurrences", places)
    return plural("{count} group of colours {where}", "{count} groups of colours {where}", groups, where=where)


def counted_files(count: int) -> str:
    """Return how many files there are."""
    return plural("{count} file", "{count} files", count)


def stacked(names: Sequence[str]) -> str:
    """Return what stands on what, such as “Menu text on Menu”; one name for itself."""
    out = "".join(names[:1])
    for surface in names[1:]:
        out = tr("{text} on {surface}").format(text=out, surface=surface)
    return out


def sentences(*rows: str) -> str:
    """Return sentences one after the other, with the space between them that the language has."""
    return _cldr().between_sentences.join(filter(None, rows))


def keys(shortcut: str) -> str:
    """Return a shortcut such as "Ctrl+Shift+Z" with its keys called as on keyboards of the language."""
    names = {"Ctrl": tr_in("key", "Ctrl"), "Shift": tr_in("key", "Shift"), "Escape": tr_in("key", "Escape")}
    return isolated("+".join(names.get(name, name) for name in shortcut.split("+")))


def as_sentence(words: str) -> str:
    """Return a phrase with the full stop that the language has."""
    return tr("{words}.").format(words=words)


def titled(title: str, words: str) -> str:
    """Return what is said under a title in the same line: “Menus: readable”."""
    return tr("{title}: {words}").format(title=title, words=words)


def with_note(words: str, note: str) -> str:
    """Return words with a note in brackets behind them."""
    return tr("{words} ({note})").format(words=words, note=note)


def as_ratio(value: float) -> str:
    """Return a contrast as it stands in a line, "4.50 : 1"."""
    return isolated(f"{decimal(value, 2)} : 1")


def parted(names: Iterable[str]) -> str:
    """Return names one after the other, with the sign between them that the language has for that."""
    return tr_in("between the names of a list", ", ").join(names)


def comma_separated(facts: Iterable[str]) -> str:
    """Return facts about one thing in a line, with the comma that the language has."""
    return tr_in("between the facts of a line", ", ").join(filter(None, facts))


def some(names: Sequence[str], most: int) -> str:
    """Return the first of several names, and how many more there are."""
    if len(names) <= most:
        return parted(names)
    return plural("{names} and {count} more", "{names} and {count} more", len(names) - most, names=parted(names[:most]))


def listed(names: Sequence[str]) -> str:
    """Return names as a list in a sentence: “a”, “a and b”, “a, b and c”."""
    if len(names) < 2:
        return "".join(names)
    rules = _cldr().list
    if len(names) == 2:
        return _paired(rules["two"], *names)
    out = _paired(rules["end"], names[-2], names[-1])
    for name in reversed(names[1:-2]):
        out = _paired(rules["middle"], name, out)
    return _paired(rules["start"], names[0], out)


def _paired(pattern: str, first: str, second: str) -> str:
    """Return two names in a pattern such as “{0} and {1}”, whatever signs are in them."""
    before, _, rest = pattern.partition("{0}")
    between, _, after = rest.partition("{1}")
    return f"{before}{first}{between}{second}{after}"
