"""The steps that make a component's files: whole files, regions and keys in a person's own, recolouring in place."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from pathlib import PurePosixPath
from typing import Any

from ..colour.rgb import Rgba
from ..syntax.ini import read_ini, set_sections
from ..syntax.region import put_region
from .inplace import Ways, recoloured_files
from .makers import MAKERS
from .model import Files, OutFile, Part, Scheme, as_bytes, layered, place_in, root_of, text_of
from .shades import Worn
from .template import filled
from .unfold import Include
from .values import first_of


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One file, or one kind of file, that a component makes.

    paths: where, from the home folder, {folder} being the look's and {each} the folder of every file that `each`
    matches; of several the first that is there is taken, else the first. how: "whole", "region", "ini", "toml",
    "xml-name", "recolour" or the name of a maker; when: "present" or "absent" for files that must or must not be there
    before; unless: patterns of files that must not be there. told: a pattern that files to be recoloured contain;
    first: whether only the first of them counts; include: how they take in other files, which are recoloured with them;
    named: (path, pattern) rows whose group is a list of further files; exact: see ways_of; reader: the name of a reader
    of their own; ways: how they are read; to: where a recoloured file goes instead of its own place, the pictures that
    it names staying where they are.
    """

    paths: tuple[str, ...]
    how: str = "whole"
    when: str = ""
    each: str = ""
    template: str = ""
    spell: str = "hex"
    comment: tuple[str, str] = ("#", "")
    at: str = "end"
    format: str = ""
    reader: str = ""
    told: str = ""
    first: bool = False
    exact: bool = False
    unless: tuple[str, ...] = ()
    include: Include | None = None
    named: tuple[tuple[str, str], ...] = ()
    options: Mapping[str, Any] | None = None
    ways: Ways | None = None
    to: str = ""


@dataclass(frozen=True, slots=True)
class Job:
    """What a step works with: the component's parts and colours, the look, the files by then, and what was made."""

    owner: str
    parts: tuple[Part, ...]
    scheme: Scheme
    worn: Worn
    words: Mapping[str, str]
    numbers: Mapping[str, float]
    files: Files
    made: Mapping[str, bytes]

    def place(self, path: str) -> str:
        """Return a path with the look's folder in it."""
        return path.replace("{folder}", self.scheme.folder)

    def fill(self, text: str, spelling: str) -> str:
        """Return a template filled in."""
        return filled(text, spelling, self.worn, self.words)

    @property
    def colours(self) -> Mapping[str, Rgba]:
        """Return every role and shade."""
        return self.worn.colours


def words_of(scheme: Scheme, files: Files) -> dict[str, str]:
    """Return the words that templates may name; the look's name in letters that no format takes amiss.

    config: the folder of settings as a whole path; settings: the same with "~" where it lies at its usual place, so
    that a file can be carried to another machine.
    """
    config = place_in(files, ".config")
    name = scheme.plain_name
    return {
        "name": name,
        "folder": scheme.folder,
        "tone": scheme.tone,
        "dark": "true" if scheme.tone == "dark" else "false",
        "banner": f"{name}, {scheme.tone}: written by Mellow Finch.",
        "id": scheme.folder.lower(),
        "config": config,
        "settings": "~/.config" if config == f"{root_of(files)}/.config" else config,
    }


def run(steps: tuple[Step, ...], job: Job) -> tuple[OutFile, ...]:
    """Return the files that the steps make, each step seeing what the ones before it made."""
    out: dict[str, bytes] = {}
    for step in steps:
        seen = replace(job, files=layered(job.files, (OutFile(p, d) for p, d in out.items())), made=dict(out))
        out.update(_made(step, seen))
    return tuple(OutFile(path, data) for path, data in out.items())


def _made(step: Step, job: Job) -> Iterator[tuple[str, bytes]]:
    if step.how == "recolour":
        yield from recoloured_files(step, job)
        return
    if any(job.files.find(pattern) for pattern in step.unless):
        return
    for path in _targets(step, job):
        there = job.files(path) is not None
        if (step.when == "present" and not there) or (step.when == "absent" and there):
            continue
        if step.how in MAKERS:
            for name, data in MAKERS[step.how](job, step.options or {}):
                yield str(PurePosixPath(path) / name) if name else path, data
        else:
            body = job.fill(step.template, step.spell)
            yield path, as_bytes(_WAYS[step.how](text_of(job.files, path), body, step))


def _targets(step: Step, job: Job) -> list[str]:
    paths = [job.place(p) for p in step.paths]
    if not step.each:
        return [first_of(job.files, tuple(paths)) or next(p for p in paths if "*" not in p)]
    folders = dict.fromkeys(str(PurePosixPath(found).parent) for found in job.files.find(step.each))
    return [paths[0].replace("{each}", folder) for folder in folders]


def _whole(_old: str, body: str, _step: Step) -> str:
    return body


def _region(old: str, body: str, step: Step) -> str:
    return put_region(old, body, step.comment, "start" if step.at == "start" else "end")


def _ini(old: str, body: str, _step: Step) -> str:
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
    return set_sections(old, {name: keys for name, keys in sections.items() if name})


def _toml(old: str, body: str, _step: Step) -> str:
    if not old.strip():
        return body
    import tomlkit
    from tomlkit.exceptions import TOMLKitError

    try:
        document = tomlkit.parse(old)
    except TOMLKitError:
        return old  # what its reader refuses too stays as it is
    _merge(document, tomllib.loads(body))
    return tomlkit.dumps(document)


def _merge(into: Any, fresh: Mapping[str, Any]) -> None:
    for key, value in fresh.items():
        if isinstance(value, dict) and isinstance(into.get(key), dict):
            _merge(into[key], value)
        else:
            into[key] = value


_THEME_NAME = re.compile(r"(<theme>(?:(?!</theme>).)*?<name>)[^<]*(</name>)", re.DOTALL)


def _theme_name(old: str, body: str, _step: Step) -> str:
    return _THEME_NAME.sub(lambda m: m.group(1) + body.strip() + m.group(2), old, count=1)


_WAYS: dict[str, Callable[[str, str, Step], str]] = {
    "whole": _whole,
    "region": _region,
    "ini": _ini,
    "toml": _toml,
    "xml-name": _theme_name,
}
