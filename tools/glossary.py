"""The trade's words in every language: `check` names what breaks the glossary, `terms` writes docs/terms.md.

`glossary.toml` has a row for each term: by what it is found in a source text, by which words each language may say it,
and which words may not stand for it. What is between braces or is typed (options, commands, names of files) is no text.
"""

from __future__ import annotations

import re
import sys
import tomllib
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import languages

ROOT = Path(__file__).resolve().parents[1]
TERMS = ROOT / "docs/terms.md"
NAMES = {"de": "German", "fr": "French", "es": "Spanish", "zh_CN": "Simplified Chinese", "ar": "Arabic"}
_MOST_TERMS = 40
_MOST_WORDS = 4  # forms of a term that the table shows
_TYPED = re.compile(
    r"\{[^}]*\}|[“„«「][/a-z][^”“»」]*[”“»」]|(?<!\w)--?[a-z][\w-]*|\S*[~/]\S*|\b[\w-]+\.[a-z]{2,4}\b|\b[A-Z]+\b(?= \()"
)
_HAN = "\u4e00-\u9fff"
_ARABIC = "\u0600-\u06ff"
# Punctuation of another script beside letters of this one. ";;" and "(*.x)" are of file dialogs.
_MARKS = {
    "fr": re.compile(r" [;:!?»]|« "),
    "zh_CN": re.compile(rf"[{_HAN}][,:!?]|[,:!?](?=[{_HAN}])|[{_HAN}];(?!;)|(?<!;);(?=[{_HAN}])|\.{{3}}"),
    "ar": re.compile(rf"[{_ARABIC}](?:[,?]|;(?!;))|(?:[,?]|(?<!;);)(?=[{_ARABIC}])"),
}
Row = dict[str, Any]


def glossary() -> tuple[list[Row], dict[str, list[str]]]:
    """Return the rows, and what each language never says."""
    data = tomllib.loads((ROOT / "tools/glossary.toml").read_text(encoding="utf-8"))
    return data["term"], data["banned"]


def told(text: str) -> str:
    """Return a text without what is filled into it and without what is typed."""
    return _TYPED.sub(" ", text)


def texts(language: str) -> Iterator[tuple[str, str, tuple[str, ...]]]:
    """Yield the source, its plain text and the translations of every entry that is ours; English has its own text."""
    kept = languages.catalogue() if language == "en" else languages.read(language)
    for message in kept:
        places = [place for place, _ in message.locations]
        own = message.id if isinstance(message.id, tuple) else (message.id,)
        if not message.id or "click" in places or _is_synonyms(places, own[0]):
            continue
        given = own if language == "en" else message.string
        yield own[-1], told(" ".join(own)), (given,) if isinstance(given, str) else tuple(given)


def _is_synonyms(places: list[str], text: str) -> bool:
    """Tell whether an entry lists other words by which an action is found: what is not said elsewhere belongs there."""
    return any("actions" in place for place in places) and text[:1].islower() and "," in text and "." not in text


def _means(row: Row, plain: str) -> bool:
    return re.search(row["en"], plain, 0 if row["en"][2:3].isupper() else re.IGNORECASE) is not None


def faults(language: str) -> list[str]:
    """Return every entry that says a term by a forbidden word, breaks its punctuation, or counts by one form only."""
    rows, banned = glossary()
    out = []
    for source, plain, given in texts(language):
        said = told(" ".join(given))
        wrong = [word for word in banned.get(language, ()) if re.search(word, said, re.IGNORECASE)]
        for row in rows if language != "en" else ():
            never = row.get("not", {}).get(language, ())
            wrong += [word for word in never if _means(row, plain) and re.search(word, said, re.IGNORECASE)]
        marks = _MARKS.get(language)
        wrong += [f"punctuation {found.group()!r}" for found in (marks.finditer(" ".join(given)) if marks else ())]
        if language == "ar" and len(given) > 1 and len(set(given)) < 4:
            wrong.append("plural forms alike")
        out += [f"{language}: {word}: {source!r}: {' | '.join(given)!r}" for word in wrong]
    return out


def used(language: str) -> list[tuple[str, int, Counter[str]]]:
    """Return each term with the number of entries that say it in English, and by which words this language does."""
    rows, _ = glossary()
    out = []
    entries = list(texts(language))
    for row in rows:
        stems = "|".join(sorted(row[language], key=len, reverse=True))
        word = re.compile(stems if language == "zh_CN" else rf"[\w’-]*(?:{stems})[\w’]*", re.IGNORECASE)
        about = [given for _, plain, given in entries if _means(row, plain)]
        ways: Counter[str] = Counter()
        for given in about:
            found = {m.group().lower() for m in word.finditer(told(given[-1]))}
            ways.update(sorted(found) or ("in other words",))
        out.append((row["name"], len(about), ways))
    return sorted(out, key=lambda one: -one[1])[:_MOST_TERMS]


def table() -> str:
    """Return a page with the commonest terms of each language and the words by which they are said."""
    out = [
        "# The commonest terms in each language",
        "",
        "Made by `tools/glossary.py terms` from the catalogues and `tools/glossary.toml`. A row gives a term, how many",
        "entries say it in English, and by which words the language says it, with how many entries each is in.",
    ]
    for language, name in NAMES.items():
        out += ["", f"## {name}", "", "| term | entries | said by |", "| --- | ---: | --- |"]
        for term, count, ways in used(language):
            shown = [
                f"{word} {many}"
                for word, many in sorted(ways.items(), key=lambda w: (-w[1], w[0]))
                if word != "in other words"
            ][:_MOST_WORDS]
            rest = sum(ways.values()) - sum(many for word, many in ways.items() if f"{word} {many}" in shown)
            other = [f"other forms and words {rest}"] if rest else []
            out.append(f"| {term} | {count} | {', '.join([*shown, *other])} |")
    return "\n".join(out) + "\n"


if __name__ == "__main__":
    word = sys.argv[1] if len(sys.argv) > 1 else ""
    if word == "check":
        found = [fault for language in ("en", *NAMES) for fault in faults(language)]
        print("\n".join(found))
        sys.exit(1 if found else 0)
    elif word == "terms":
        TERMS.write_text(table(), encoding="utf-8")
    else:
        sys.exit("check or terms")
