"""The rules that make a component's files: whole files, regions and keys in a person's own, recolouring in place."""

from __future__ import annotations

import json
import re
import tomllib
from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace
from pathlib import PurePosixPath
from typing import Any

from ...palette.recipe import opposite
from ...palette.veil import KINDS as VEILS
from ...palette.veil import is_asked
from ...syntax.ini import read_ini, set_sections
from ...syntax.jsonc import set_members
from ...syntax.region import Place, put_region
from ..files import Files, OutFile, as_bytes, layered, text_of
from ..model import Scheme
from ..read.values import first_of
from .inplace import recoloured_files
from .makers import MAKERS
from .rule import FileRule, Job


def words_of(scheme: Scheme, files: Files, owner: str) -> dict[str, str]:
    """Return the words that templates may name; the look's name in letters that no format takes amiss.

    config: the folder of settings as a whole path; settings: the same with "~" where it lies at its usual place, so
    that a file can be carried to another computer; shine_…: of each kind of surface whose opacity the look says, where
    the person's own stays otherwise; soft_…: of those behind which the desktop blurs
    too, soft: of any; twin: the folder of the other tone, dark_folder and light_folder the two by tone; beside: set in
    the tone that is not in force.
    """
    config = files.place(".config")
    name = scheme.plain_name
    shining = [k.id for k in VEILS if is_asked(k, scheme.opacity)]
    by_tone = {f"{scheme.tone}_folder": scheme.folder, f"{opposite(scheme.tone)}_folder": scheme.twin}
    return {
        "name": name,
        "folder": scheme.folder,
        "tone": scheme.tone,
        "dark": "true" if scheme.tone == "dark" else "false",
        "banner": f"{name}, {scheme.tone}: written by Mellow Finch.",
        "id": scheme.folder.lower(),
        "config": config,
        **({"twin": scheme.twin, **by_tone} if scheme.twin else {}),
        **({"beside": "1"} if scheme.beside else {}),
        **{f"shine_{kind}": "1" for kind in shining},
        **{f"soft_{kind}": "1" for kind in shining if scheme.blur},
        **({"soft": "1"} if shining and scheme.blur else {}),
        **scheme.options_for(owner),
        "settings": "~/.config" if config == f"{files.place('')}/.config" else config,
    }


def write_rules(rules: tuple[FileRule, ...], job: Job) -> tuple[OutFile, ...]:
    """Return the files that the rules make, each rule seeing what the ones before it made."""
    out: dict[str, bytes] = {}
    for rule in rules:
        seen = replace(job, files=layered(job.files, (OutFile(p, d) for p, d in out.items())), made=dict(out))
        out.update(_made(rule, seen))
    return tuple(OutFile(path, data) for path, data in out.items())


def _made(rule: FileRule, job: Job) -> Iterator[tuple[str, bytes]]:
    if rule.how == "recolour":
        yield from recoloured_files(rule, job)
        return
    if any(job.files.find(pattern) for pattern in rule.unless) or not is_told(rule.only, job.words):
        return
    for path in _targets(rule, job):
        there = job.files(path) is not None
        if (rule.when == "present" and not there) or (rule.when == "absent" and there):
            continue
        if rule.how in MAKERS:
            for name, data in MAKERS[rule.how](job, rule.options or {}):
                yield str(PurePosixPath(path) / name) if name else path, data
        else:
            body = job.fill(rule.template, rule.spell)
            data = as_bytes(WAYS[rule.how](text_of(job.files, path), body, rule))
            if rule.how in _ONLY_THERE and data == job.files(path):
                continue
            if data or there:  # where nothing is to be said, no file is made
                yield path, data


def is_told(only: str, words: Mapping[str, str]) -> bool:
    """Tell whether what a row is for goes with the words that are told of a reader; "!" before one turns it round."""
    return not only or (only.removeprefix("!") in words) is not only.startswith("!")


def _targets(rule: FileRule, job: Job) -> list[str]:
    paths = [job.place(p) for p in rule.paths]
    if rule.how == "values":
        found = (path for p in paths for path in job.files.find(p))
        return [path for path in dict.fromkeys(found) if re.search(rule.told, text_of(job.files, path))]
    if not rule.each:
        return [first_of(job.files, tuple(paths)) or next(p for p in paths if "*" not in p)]
    folders = dict.fromkeys(str(PurePosixPath(found).parent) for found in job.files.find(rule.each))
    return [paths[0].replace("{each}", folder) for folder in folders]


def _whole(_old: str, body: str, _rule: FileRule) -> str:
    return body


def _region(old: str, body: str, rule: FileRule) -> str:
    before = str((rule.options or {}).get("before", ""))
    found = list(re.finditer(before, old, re.MULTILINE)) if before else []
    head, tail = (old[: found[-1].start()], old[found[-1].start() :]) if found else (old, "")
    at: Place = "start" if rule.at == "start" else "end"
    return put_region(head, body, rule.comment, at, rule.region, rule.line_ends) + tail


def _ini(old: str, body: str, rule: FileRule) -> str:
    sections: dict[str, dict[str, str]] = {}
    section = sections.setdefault("", {})
    now = read_ini(old)
    name = ""
    for line in body.splitlines():
        bare = line.strip()
        if bare.startswith("["):
            name = bare[1:-1]
            section = sections.setdefault(name, {})
        elif "=" in bare:
            key, _, value = (part.strip() for part in bare.partition("="))
            if key.endswith("+"):  # one more entry of a list
                key = key[:-1]
                listed = [entry.strip() for entry in now.get(f"{name}/{key}", "").split(",") if entry.strip()]
                value = ", ".join(dict.fromkeys([*listed, value]))
            section[key] = value
    equals = str((rule.options or {}).get("separator", "="))
    return set_sections(old, {name: keys for name, keys in sections.items() if name}, equals)


def _toml(old: str, body: str, _rule: FileRule) -> str:
    if not old.strip():
        return body
    import tomlkit
    from tomlkit.exceptions import TOMLKitError

    short, comments = _without_long_comments(old)
    try:
        document = tomlkit.parse(short)
    except TOMLKitError:
        return old  # what its reader refuses too stays as it is
    _merge(document, tomllib.loads(body))
    text = _MARK.sub(lambda found: comments[int(found[1])], tomlkit.dumps(document))
    lone = old.count("\n") - old.count("\r\n")
    return re.sub("(?<!\r)\n", "\r\n", text) if "\r\n" in old and not lone else text


_LONG = re.compile(r"(?:^[ \t]*#[^\n]*\n){40,}", re.MULTILINE)
_MARK = re.compile(r"^# \ue000(\d+)\ue001\r?\n", re.MULTILINE)


def _without_long_comments(text: str) -> tuple[str, list[str]]:
    """Return a text with a mark in the place of each long comment, and these: the library reads them sign by sign."""
    comments: list[str] = []
    if "\ue000" in text:
        return text, comments

    def marked(found: re.Match[str]) -> str:
        comments.append(found[0])
        return f"# \ue000{len(comments) - 1}\ue001\n"

    return _LONG.sub(marked, text), comments


def _merge(into: Any, fresh: Mapping[str, Any]) -> None:
    for key, value in fresh.items():
        if isinstance(value, dict) and isinstance(into.get(key), dict):
            _merge(into[key], value)
        else:
            into[key] = value


def _keys(old: str, body: str, rule: FileRule) -> str:
    """Return a text with lines of a key and a value set, in the place of every such line, else at the end.

    Where options say so, new ones come before the first line that matches `above`, nothing being written without one;
    or only keys that are there are set (`there`).
    """
    there = bool((rule.options or {}).get("there"))
    parted = str((rule.options or {}).get("separator", "="))
    above = str((rule.options or {}).get("above", ""))
    end = re.search(above, old, re.MULTILINE) if above else None
    if above and end is None:
        return old
    newline = "\r\n" if "\r\n" in old else "\n"
    for line in filter(str.strip, body.splitlines()):
        key = line.partition(parted)[0].strip()
        space = r"[ \t]+" if parted == " " else rf"[ \t]*{re.escape(parted)}"
        plain = line.replace("\\", "\\\\")
        if there:
            plain = rf"\g<1>{plain.strip()}"
        old, count = re.subn(rf"(?m)^([ \t]*){re.escape(key)}{space}[^\r\n]*", plain, old)
        if count or there:
            continue
        end = re.search(above, old, re.MULTILINE) if above else None
        at = end.start() if end else len(old)
        old = old[:at] + ("" if not old[:at] or old[:at].endswith("\n") else newline) + line + newline + old[at:]
    return old


_VALUE = re.compile(r"^([\w.-]+)[ \t]*=?[ \t]*(\S.*)$")


def _values(old: str, body: str, _rule: FileRule) -> str:
    """Return a text with the values of keys that are there set, the rest of their lines as it was."""
    for line in filter(str.strip, body.splitlines()):
        found = _VALUE.match(line.strip())
        if found:
            head = rf"(?m)^([ \t]*{re.escape(found[1])}(?:[ \t]*=[ \t]*|[ \t]+)['\"]?)[\w.-]+"
            old = re.sub(head, lambda m, value=found[2]: m[1] + value, old)  # type: ignore[misc]
    return old


def _replaced(old: str, body: str, rule: FileRule) -> str:
    """Return a text with what the group of a pattern finds first replaced, where there is anything to say."""
    found = re.search(str((rule.options or {}).get("pattern", "")), old, re.MULTILINE)
    if found is None or not found.groups() or not body.strip():
        return old
    return old[: found.start(1)] + body.strip() + old[found.end(1) :]


def _json(old: str, body: str, _rule: FileRule) -> str:
    try:
        return set_members(old, json.loads(body))
    except ValueError:
        return old  # what its reader refuses too stays as it is


_ITEM = re.compile(r'<item oor:path="([^"]*)"><(?:prop|node) oor:name="([^"]*)"')
_NO_ITEMS = (
    '<?xml version="1.0" encoding="UTF-8"?>\n<oor:items xmlns:oor="http://openoffice.org/2001/registry" '
    'xmlns:xs="http://www.w3.org/2001/XMLSchema" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance">\n</oor:items>\n'
)


def _items(old: str, body: str, _rule: FileRule) -> str:
    """Return a registry of settings with items set, one a line: in the place of an equal one, else at its end."""
    text = old if old.strip() else _NO_ITEMS
    end = text.rfind("</oor:items>")
    if end < 0:
        return old
    fresh = {found.groups(): line for line in body.splitlines() if (found := _ITEM.match(line))}
    lines = text[:end].splitlines(keepends=True)
    for i, line in enumerate(lines):
        found = _ITEM.match(line.strip())
        item = fresh.pop(found.groups(), None) if found else None
        if item is not None:
            lines[i] = item + line[len(line.rstrip("\r\n")) :]
    return "".join([*lines, *(f"{item}\n" for item in fresh.values()), text[end:]])


_THEME_NAME = re.compile(r"(<theme>(?:(?!</theme>).)*?<name>)[^<]*(</name>)", re.DOTALL)


def _theme_name(old: str, body: str, _rule: FileRule) -> str:
    return _THEME_NAME.sub(lambda m: m.group(1) + body.strip() + m.group(2), old, count=1)


_ONLY_THERE = ("values", "replace")  # ways that change something only where it is there
WAYS: dict[str, Callable[[str, str, FileRule], str]] = {
    "whole": _whole,
    "region": _region,
    "ini": _ini,
    "toml": _toml,
    "keys": _keys,
    "values": _values,
    "replace": _replaced,
    "json": _json,
    "items": _items,
    "xml-name": _theme_name,
}
