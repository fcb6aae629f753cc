"""The catalogues of translations: `update` takes in what the sources say now, `compile` makes what the program reads.

`missing` lists what a language lacks; `cldr` writes how each language spells numbers, dates, sizes and lists.
A catalogue is `locale/LANGUAGE/LC_MESSAGES/mellow-finch.po` in the package; what is compiled from it lies
beside it and is not kept in the repository.
"""

from __future__ import annotations

import ast
import inspect
import io
import json
import re
import sys
import tomllib
from collections.abc import Iterator
from datetime import UTC, datetime
from functools import cache
from pathlib import Path

from babel import Locale
from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir, extract_from_file
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po
from babel.units import format_unit

ROOT = Path(__file__).resolve().parents[1]
PACKAGE = ROOT / "src/mellow_finch"
LOCALE = PACKAGE / "locale"
LANGUAGES = ("ar", "de", "es", "fr", "zh_CN")
_KEYWORDS = {"tr": None, "plural": (1, 2), "tr_in": ((1, "c"), 2)}
_GROUPING_FROM = {"es": 2}  # CLDR's minimumGroupingDigits, which Babel leaves out: 9999, but 10.000
_MANUAL = "tools/manual.py"  # its words are those of the manual pages
_STATE = "state of a part"
_WHEN = datetime(2026, 11, 28, tzinfo=UTC)  # told in the headers, so that a file changes only when a text does


def po_of(language: str) -> Path:
    """Return where the catalogue of a language lies."""
    return LOCALE / language / "LC_MESSAGES/mellow-finch.po"


def _tables() -> Iterator[tuple[str, str | None, str]]:
    """Yield what data files say: the place, a context or none, the words."""
    from mellow_finch.components.catalogue import COMPONENTS
    from mellow_finch.components.define.kinds import KINDS
    from mellow_finch.language import _NUMBERED

    for kind in KINDS:
        yield "components/kinds.py", None, kind
    for path in sorted((PACKAGE / "components/definitions").rglob("*.toml")):
        row = tomllib.loads(path.read_text(encoding="utf-8"))
        for name in ("title", "reads", "restart", "needs_file"):
            if name in row:
                yield f"components/definitions/{path.name}", None, row[name]
        for part in (*row.get("knobs", ()), *row.get("settings", ())):
            yield f"components/definitions/{path.name}", None, part["title"]
    for component in COMPONENTS:
        for setting in component.settings:
            yield "components/sets", None, setting[3]
        for part in component.parts:
            yield "components/sets", None, _NUMBERED.fullmatch(part.id).group(1)  # type: ignore[union-attr]
            for state in filter(None, part.state.split(", ")):
                yield "components/sets", _STATE, state
    for path in sorted((PACKAGE / "session/desktops").glob("*.toml")):
        for row in tomllib.loads(path.read_text(encoding="utf-8")).get("set", ()):
            yield f"session/desktops/{path.name}", None, row["title"]
    for row in tomllib.loads((PACKAGE / "session/undressed.toml").read_text(encoding="utf-8"))["row"]:
        for name in ("title", "why", "cure"):
            yield "session/undressed.toml", None, row[name]
    yield from _widgets()


def _widgets() -> Iterator[tuple[str, str | None, str]]:
    """Yield the names and states of what the real toolkit is asked about."""
    path = "theme/sheets/toolkit_tree.txt"
    both = [(PACKAGE / name).read_text(encoding="utf-8") for name in (path, "theme/sheets/toolkit_tree4.txt")]
    rows = [row.split(" | ") for text in both for row in text.splitlines()]
    for name in dict.fromkeys(row[0] for row in rows):
        yield path, None, name
    for name in dict.fromkeys(word for row in rows for word in row[1].split(", ")):
        yield path, _STATE, name


def _commands() -> Iterator[tuple[str, str]]:
    """Yield what the commands say of themselves."""
    for path in sorted((PACKAGE / "cli").glob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.FunctionDef) and any(
                "command" in ast.dump(d) or "group" in ast.dump(d) for d in node.decorator_list
            ):
                yield f"cli/{path.name}", inspect.cleandoc(ast.get_docstring(node) or "")


def _of_the_library() -> Iterator[tuple[str, str | tuple[str, str]]]:
    """Yield what the library of the command line says, which is looked up in the same catalogue."""
    import click

    for _name, _line, message, *_ in extract_from_dir(
        Path(click.__file__).parent, keywords={"_": None, "ngettext": (1, 2)}
    ):
        yield "click", message


@cache
def catalogue() -> Catalog:
    """Return every message of the sources, untranslated."""
    out = Catalog(project="Mellow Finch", copyright_holder="The authors of Mellow Finch", charset="utf-8", fuzzy=False)
    found = extract_from_dir(PACKAGE, keywords=_KEYWORDS, comment_tags=("Translators:",), strip_comment_tags=True)
    for name, _line, message, comments, context in found:
        out.add(message, locations=[(name, None)], auto_comments=comments, context=context)
    for _line, message, comments, context in extract_from_file("python", ROOT / _MANUAL, keywords=_KEYWORDS):
        out.add(message, locations=[(_MANUAL, None)], auto_comments=comments, context=context)
    for name, context, words in _tables():
        out.add(words, locations=[(name, None)], context=context)
    for name, words in _commands():
        if words:
            out.add(words, locations=[(name, None)])
    for name, message in _of_the_library():
        out.add(message, locations=[(name, None)])
    return out


def read(language: str) -> Catalog:
    """Return the catalogue of a language as it is kept."""
    with po_of(language).open("rb") as stream:
        return read_po(stream, locale=language)


def written(kept: Catalog) -> bytes:
    """Return a catalogue as it is kept in its file."""
    out = io.BytesIO()
    write_po(out, kept, width=110, include_lineno=False, sort_output=True, ignore_obsolete=True)
    return out.getvalue()


def update() -> None:
    """Take what the sources say now into every catalogue; what is translated stays, what is gone goes."""
    now = catalogue()
    for language in LANGUAGES:
        kept = read(language) if po_of(language).exists() else Catalog(locale=language)
        kept.update(now, no_fuzzy_matching=True, update_header_comment=False)
        kept.revision_date = kept.creation_date = _WHEN
        kept.project, kept.version, kept.fuzzy = "Mellow Finch", "1", False
        kept.msgid_bugs_address = kept.last_translator = kept.language_team = "maintainers@mellowfinch.example"
        kept.header_comment = f"# Mellow Finch: {kept.locale.english_name}." if kept.locale is not None else "#"  # type: ignore[assignment]
        po_of(language).parent.mkdir(parents=True, exist_ok=True)
        po_of(language).write_bytes(written(kept))


def missing(language: str) -> list[str]:
    """Return the messages of the sources that a language lacks."""
    kept = read(language)
    out = []
    for message in catalogue():
        own = kept.get(message.id, message.context) if message.id else None
        texts = (
            own.string
            if own is not None and isinstance(own.string, tuple)
            else (own.string if own is not None else "",)
        )
        if message.id and not all(texts):
            out.append(str(message.id))
    return out


def _pattern(pattern: str) -> str:
    """Return a CLDR pattern of a date or a time as a format string of the same fields: "d MMM y" as "{d} {MMM} {y}"."""
    words = re.findall(r"d+|M+|y+|H+|m+|'[^']*'|.", pattern)
    return "".join(f"{{{w}}}" if w[0] in "dMyHm" else w.strip("'") for w in words)


def cldr() -> dict[str, dict[str, object]]:
    """Return how each language spells numbers, dates, sizes and lists, of the CLDR data that Babel carries.

    Arabic keeps the digits that settings and files are written in ("latn"); English is Britain's, as the sources are.
    """
    out: dict[str, dict[str, object]] = {}
    for language in ("en", *LANGUAGES):
        locale = Locale.parse("en_GB" if language == "en" else language)
        symbols = locale.number_symbols["latn"]
        percent = locale.percent_formats[None].pattern
        lists = locale.list_patterns["standard"]
        gigabyte, megabyte, kilobyte = (
            format_unit(5, f"digital-{name}", "short", locale=locale, numbering_system="latn").replace("5", "{0}")
            for name in ("gigabyte", "megabyte", "kilobyte")
        )
        out[language] = {
            "decimal": symbols["decimal"],
            "group": symbols["group"],
            "minus": symbols["minusSign"],
            "grouping_from": _GROUPING_FROM.get(language, 1),
            "percent": percent.replace("#,##0", "{0}").replace("%", symbols["percentSign"]),
            "date": _pattern(locale.date_formats["medium"].pattern),
            "time": _pattern(locale.datetime_skeletons["Hm"].pattern),
            "date_time": locale.datetime_formats["medium"].replace("{1}", "{date}").replace("{0}", "{time}"),
            "months": [locale.months["format"]["abbreviated"][i] for i in range(1, 13)],
            "list": {"two": lists["2"], "start": lists["start"], "middle": lists["middle"], "end": lists["end"]},
            "gigabyte": gigabyte,
            "megabyte": megabyte,
            "kilobyte": kilobyte,
            "between_sentences": "" if language == "zh_CN" else " ",
        }
    return out


def compiled(stale_only: bool = True) -> None:
    """Make what the program reads of every catalogue, where it is older than that."""
    for language in LANGUAGES:
        po = po_of(language)
        mo = po.with_suffix(".mo")
        if po.exists() and not (stale_only and mo.exists() and mo.stat().st_mtime >= po.stat().st_mtime):
            with po.open("rb") as stream:
                kept = read_po(stream, locale=language)
            with mo.open("wb") as stream:
                write_mo(stream, kept)


if __name__ == "__main__":
    word = sys.argv[1] if len(sys.argv) > 1 else ""
    if word == "update":
        update()
    elif word == "cldr":
        (LOCALE / "cldr.json").write_text(json.dumps(cldr(), ensure_ascii=False, indent=1) + "\n", encoding="utf-8")
    elif word == "compile":
        compiled()
    elif word == "missing":
        for language in sys.argv[2:] or LANGUAGES:
            for words in missing(language):
                print(f"{language}: {words}")
    else:
        sys.exit("update, compile, missing or cldr")
