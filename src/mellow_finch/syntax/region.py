"""A region of ours inside a person's own file: marked by comments, written anew each time, all else kept."""

from __future__ import annotations

import re
from typing import Literal

BEGIN = ">>> mellow-finch: this region is written anew each time a look is put on"
END = "<<< mellow-finch"
Place = Literal["start", "end"]
LineEnds = Literal["", "lf"]


def put_region(
    text: str,
    body: str,
    comment: tuple[str, str] = ("#", ""),
    place: Place = "end",
    name: str = "",
    line_ends: LineEnds = "",
) -> str:
    """Return the text with our region holding body, at the start or at the end, in the place of an earlier one.

    comment: what starts and ends a comment of the format; name: tells it from other regions of ours in the same file;
    line_ends: those of the region, "lf" for readers that refuse others; else they follow those of the text.
    """
    end_of_line = "\r\n" if "\r\n" in text and line_ends != "lf" else "\n"
    marks = (f"{BEGIN} ({name})", f"{END} ({name})") if name else (BEGIN, END)
    begin, end = (f"{comment[0]} {words}{f' {comment[1]}' if comment[1] else ''}" for words in marks)
    region = end_of_line.join([begin, *body.splitlines(), end])
    start = text.find(begin)
    stop = text.find(end, start)
    if start >= 0 and stop >= 0:
        rest = text[stop + len(end) :]
        if place == "start" or not rest.strip():
            return text[:start] + region + rest
        text = text[:start] + rest.removeprefix("\r").removeprefix(
            "\n"
        )  # what was added below it since would win over it
    if place == "start":
        return f"{region}{end_of_line}{text}"
    gap = "" if not text or text.endswith("\n") else end_of_line
    return f"{text}{gap}{region}{end_of_line}"


_REGION = re.compile(rf"(?ms)^[^\n]*{re.escape(BEGIN)}[^\n]*\n.*?^[^\n]*{re.escape(END)}[^\n]*(?:\n|\Z)")


def without_regions(text: str) -> str:
    """Return a text without any region of ours."""
    return _REGION.sub("", text) if BEGIN in text else text


def without_bodies(text: str) -> tuple[str, list[str]]:
    """Return a text with the marks of our regions but nothing between them, and what stood there, in order."""
    bodies: list[str] = []

    def emptied(found: re.Match[str]) -> str:
        first, *body, last = found[0].splitlines(keepends=True)
        bodies.append("".join(body))
        return first + last

    return (_REGION.sub(emptied, text) if BEGIN in text else text), bodies


def with_bodies(text: str, bodies: list[str]) -> str:
    """Return a text of without_bodies with what stood between the marks; the same marks have to be there."""
    rest = iter(bodies)

    def filled(found: re.Match[str]) -> str:
        first, last = found[0].splitlines(keepends=True)
        return first + next(rest) + last

    return _REGION.sub(filled, text) if bodies else text
