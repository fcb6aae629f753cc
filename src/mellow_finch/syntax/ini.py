"""Settings files of sections with key=value lines: reading, and editing single lines in place."""

from __future__ import annotations

import re
from collections.abc import Mapping

from ..colour.rgb import Rgba

_TRIPLE = re.compile(r"\s*(\d{1,3})\s*,\s*(\d{1,3})\s*,\s*(\d{1,3})\s*(?:,\s*(\d{1,3})\s*)?\Z")


def read_ini(text: str) -> dict[str, str]:
    """Return {"Section/key": value}; nested sections keep their inner brackets, the last of equal keys wins."""
    found: dict[str, str] = {}
    section = ""
    for line in text.splitlines():
        bare = line.strip()
        if bare.startswith("[") and bare.endswith("]"):
            section = bare[1:-1]
        elif "=" in bare and bare[0] not in "#;":
            key, _, value = bare.partition("=")
            found[f"{section}/{key.strip()}"] = value.strip()
    return found


def read_triple(value: str) -> Rgba | None:
    """Return the colour of "r,g,b" or "r,g,b,a" with decimals 0..255, else None."""
    found = _TRIPLE.match(value)
    if not found:
        return None
    r, g, b, a = (min(255, int(n)) if n else 255 for n in found.groups())
    return Rgba(r, g, b, a / 255)


def ini_colours(text: str) -> dict[str, Rgba]:
    """Return {"Section/key": colour} of every decimal colour."""
    pairs = ((key, read_triple(value)) for key, value in read_ini(text).items())
    return {key: colour for key, colour in pairs if colour is not None}


def _with(line: str, value: str) -> str:
    """Return a line with another value, what stands around it as it was."""
    head, _, rest = line.partition("=")
    gap = rest[: len(rest) - len(rest.lstrip(" \t"))]
    ending = line[len(line.rstrip("\r\n")) :]
    return f"{head}={gap}{value}{ending}"


def set_keys(text: str, section: str, values: Mapping[str, str], equals: str = "=") -> str:
    """Return the text with keys of one section set: wherever they stand, else at the section's end.

    A key that stands several times is set each time, since readers differ in which one they take. Every other line,
    comments and line ends included, is kept; the section is added when it is missing. equals: what stands between a
    new key and its value, since some readers want blanks there.
    """
    end_of_line = "\r\n" if "\r\n" in text else "\n"
    lines = text.splitlines(keepends=True)
    left = dict(values)
    inside, last = False, -1
    for i, line in enumerate(lines):
        bare = line.strip()
        if bare.startswith("[") and bare.endswith("]"):
            inside = bare[1:-1] == section
            if inside:
                last = i
        elif inside and bare:
            last = i
            key = bare.partition("=")[0].strip()
            if "=" in bare and bare[0] not in "#;" and key in values:
                lines[i] = _with(line, values[key])
                left.pop(key, None)
    if not left:
        return "".join(lines)
    fresh = [f"{key}{equals}{value}{end_of_line}" for key, value in left.items()]
    if last < 0:
        if lines and not lines[-1].endswith("\n"):
            lines[-1] += end_of_line
        gap = [end_of_line] if lines else []
        return "".join([*lines, *gap, f"[{section}]{end_of_line}", *fresh])
    if not lines[last].endswith("\n"):
        lines[last] += end_of_line
    return "".join([*lines[: last + 1], *fresh, *lines[last + 1 :]])


def set_sections(text: str, sections: Mapping[str, Mapping[str, str]], equals: str = "=") -> str:
    """Return the text with the keys of several sections set, each as set_keys sets them.

    Quick where every key stands already, as in a file that was written before.
    """
    lines = text.splitlines(keepends=True)
    left = {name: dict(keys) for name, keys in sections.items()}
    seen: set[str] = set()
    own: Mapping[str, str] = {}
    still: dict[str, str] = {}
    for i, line in enumerate(lines):
        bare = line.strip()
        if bare.startswith("[") and bare.endswith("]"):
            seen.add(bare[1:-1])
            own, still = sections.get(bare[1:-1], {}), left.get(bare[1:-1], {})
        elif own and "=" in bare and bare[0] not in "#;":
            head, _, _ = line.partition("=")
            key = head.strip()
            if key in own:
                lines[i] = _with(line, own[key])
                still.pop(key, None)
    text = "".join(lines)
    for name, keys in left.items():
        if name in seen and keys:
            text = set_keys(text, name, keys, equals)
    end_of_line = "\r\n" if "\r\n" in text else "\n"
    for name, keys in left.items():
        if name not in seen and keys:
            gap = "" if not text else end_of_line if text.endswith("\n") else 2 * end_of_line
            text += gap + end_of_line.join([f"[{name}]", *(f"{k}{equals}{v}" for k, v in keys.items()), ""])
    return text


def drop_keys(text: str, section: str, keys: tuple[str, ...]) -> str:
    """Return the text without some keys of one section, every other line kept."""
    kept: list[str] = []
    inside = False
    for line in text.splitlines(keepends=True):
        bare = line.strip()
        if bare.startswith("[") and bare.endswith("]"):
            inside = bare[1:-1] == section
        if not (inside and bare.partition("=")[0].strip() in keys):
            kept.append(line)
    return "".join(kept)
