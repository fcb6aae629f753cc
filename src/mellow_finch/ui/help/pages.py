"""The pages of the guide: Markdown files beside the program, in the language in force where they are translated."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from pathlib import Path

from ...language import code

# The pages in their order; the first of each step is what F1 opens there.
ORDER = (
    "start",
    "gather",
    "tune",
    "dress",
    "proof",
    "wear",
    "shelf",
    "follow",
    "recipes",
    "desktops",
    "questions",
)


@dataclass(frozen=True, slots=True)
class Page:
    """One page: its name, its title, its text as Markdown."""

    name: str
    title: str
    text: str

    @property
    def headings(self) -> str:
        """Return the headings on it."""
        return " ".join(re.findall(r"(?m)^#+\s+(.+)", self.text))


@cache
def pages(language: str = "") -> tuple[Page, ...]:
    """Return every page, in order, in a language such as "de"; empty for the one in force."""
    folder = files("mellow_finch").joinpath("guide")
    own = folder.joinpath(language or code())
    out = []
    for name in ORDER:
        place = own.joinpath(f"{name}.md")
        text = (place if place.is_file() else folder.joinpath(f"{name}.md")).read_text(encoding="utf-8")
        title = re.match(r"#\s+(.+)", text)
        out.append(Page(name, title.group(1).strip() if title else name, text))
    return tuple(out)


def picture(name: str, language: str = "") -> Path:
    """Return where a picture of the guide is: the window in that language, else in English."""
    folder = Path(str(files("mellow_finch").joinpath("guide")))
    own = folder / (language or code()) / "pictures" / name
    return own if own.is_file() else folder / "pictures" / name


def page_named(name: str) -> Page:
    """Return a page, the first one where there is none of that name."""
    return next((page for page in pages() if page.name == name), pages()[0])
