"""A theme read once: what it holds, its texts with every literal, its sheets joined, its colours grouped."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Collection, Mapping
from pathlib import Path

from ...errors import ParseError, UnsafeArchiveError
from ...intake.archives import gunzipped
from ...intake.budget import Budget
from ...language import tr
from ...progress import Progress, Silent, give_way
from ...recolour.images import KINDS as PICTURES
from ...recolour.pointers import MAGIC
from ...syntax.catalogue import format_of
from ...syntax.css import nested_too_deeply
from .families import with_families
from .gresource import read_resources
from .imports import Joined, joined
from .kinds import owner_of, recognise
from .model import INSIDE, Theme, ThemeText, roots_of
from .opened import Bundle, open_bundle, text_of_bytes

_MOST_TEXT = 16_000_000

_MOST_JUDGED = 1_500_000  # characters of a sheet with its imports that are judged and mended

_ENTRY = re.compile(r"(?:^|/)(gtk-[34]\.\d+/gtk(?:-dark)?|gnome-shell/gnome-shell|cinnamon/cinnamon)\.css$")


def open_theme(path: Path, progress: Progress | None = None) -> Theme:
    """Read a theme from a folder, an archive or a file.

    Raises FileAccessError or UnsafeArchiveError, and ParseError when nothing in it has colours that can be changed.
    """
    return read_theme(open_bundle(path, progress), progress=progress)


def read_theme(
    bundle: Bundle, splits: Collection[str] = (), progress: Progress | None = None, left: Collection[str] = ()
) -> Theme:
    """Read a theme; see open_theme. splits: keys of groups that are taken apart; left: folders of themes in it that
    stay out, unless that is all of them."""
    progress = progress or Silent()
    budget = bundle.budget.anew()
    heads: dict[str, bytes] = {}

    def peek(path: str) -> bytes:
        if path not in heads:
            heads[path] = bundle.data(path)
        return heads[path]

    offers = found = recognise(bundle, peek)
    left = frozenset(left) & frozenset(roots_of(offers))
    if left and len(left) < len(roots_of(offers)):
        bundle = bundle.without(left)
        found = recognise(bundle, peek)
    texts: dict[str, ThemeText] = {}
    pictures: list[str] = []
    pointers: list[str] = []
    resources: dict[str, dict[str, bytes]] = {}
    problems = [
        tr("“{path}” leads out of the folder, so it is left out.").format(path=path) for path in bundle.left_out
    ]
    names = [p for p, e in bundle.entries.items() if not e.link]
    if any(_PROGRAM.search(path.lower()) for path in names):
        problems.append(
            tr("Its start screen and desktop layout are programs. They are left out: nothing that is imported is run.")
        )
    for done, path in enumerate(names):
        give_way()
        if done % 50 == 0:
            progress.report(done, len(names), tr("Reading the theme"))
        low = path.lower()
        owner = owner_of(path, found)
        if owner is not None and owner.kind.code and low.endswith(".js"):
            continue
        if low.endswith(PICTURES):
            if owner is not None or not _WALLPAPER.search(low):
                pictures.append(path)
        elif low.endswith(".gresource"):
            try:
                resources[path] = read_resources(peek(path), budget)
            except UnsafeArchiveError as error:
                problems.append(tr("“{path}” stays as it is: {error}").format(path=path, error=error))
                continue
            for inner, data in resources[path].items():
                if inner.lower().endswith(PICTURES):
                    pictures.append(f"{path}{INSIDE}{inner}")
                else:
                    _take_text(texts, f"{path}{INSIDE}{inner}", data, problems, budget)
        elif _worth_reading(low):
            data = peek(path)
            if data[:4] == MAGIC:
                pointers.append(path)
            else:
                _take_text(texts, path, data, problems, budget)
        heads.pop(path, None)
    if not (texts or pointers or (pictures and found) or any(f.kind.id == "fonts" for f in found)):
        raise ParseError(
            tr("Nothing in “{name}” can be recoloured.").format(name=bundle.name),
            hint=tr("Stylesheets, theme and terminal files, widgets, drawings, images and cursors can."),
        )
    drawings = tuple(p for p, t in texts.items() if t.format.id == "svg")
    sheets = _joined_sheets(texts, resources)
    for path in [p for p, sheet in sheets.items() if len(sheet.skeleton) > _MOST_JUDGED]:
        del sheets[path]
        problems.append(
            tr(
                "“{path}” is too large to be checked: its colours change, but insufficient contrast is not fixed."
            ).format(path=path)
        )
    for path, text in texts.items():
        line = nested_too_deeply(text.text) if text.format.syntax == "css" else 0
        if line:
            problems.append(
                tr(
                    "“{path}” is nested too deeply from line {line} on: colours there change, but are not checked."
                ).format(path=path, line=line)
            )
    theme = Theme(
        bundle, found, texts, (), tuple(pictures), tuple(pointers), drawings, sheets, resources, {}, frozenset(splits),
        tuple(problems), offers, frozenset(left),
    )  # fmt: skip
    return with_families(theme)


# Endings of files that hold no colours of ours: programs, texts for people, fonts, photographs, sounds.
_DULL = (
    *(".js", ".py", ".md", ".txt", ".html", ".so", ".cache", ".mo", ".po", ".pdf", ".qml"),
    *(".ttf", ".otf", ".woff", ".woff2", ".ttc", ".jpg", ".jpeg", ".mp3", ".ogg", ".wav"),
)


_PROGRAM = re.compile(r"(?:^|/)look-and-feel/.*\.(?:qml|js)$")  # of a whole theme of Plasma
_WALLPAPER = re.compile(r"(?:^|/)(?:wallpapers?|backgrounds?)/")  # beside a theme: a look has its own


def _worth_reading(low: str) -> bool:
    return not low.endswith(_DULL)


def _take_text(texts: dict[str, ThemeText], path: str, data: bytes, problems: list[str], budget: Budget) -> None:
    packed = path.lower().endswith(".svgz") and data[:2] == b"\x1f\x8b"
    if packed:
        try:
            data = gunzipped(data, budget)
        except UnsafeArchiveError as error:
            problems.append(tr("“{path}” stays as it is: {error}").format(path=path, error=error))
            return
    text = text_of_bytes(data)
    if text is None:
        return
    name = path.rpartition(INSIDE)[2]
    form = format_of(name[:-1] if packed else name, text[:4096])
    if form is None:
        return
    if len(data) > _MOST_TEXT:
        problems.append(tr("“{name}” is larger than 16 MB and stays as it is.").format(name=name))
        return
    spans = tuple(form.scan(text))
    if spans or form.syntax == "css":
        texts[path] = ThemeText(
            path, form, text, spans, tuple(form.role_of(s) for s in spans) if form.roles else (), packed
        )


def _joined_sheets(texts: Mapping[str, ThemeText], resources: Mapping[str, Mapping[str, bytes]]) -> dict[str, Joined]:
    addresses = {
        f"resource://{inner}": f"{outer}{INSIDE}{inner}" for outer, files in resources.items() for inner in files
    }

    # The first bundle beside the sheet is meant where several hold the same address.
    def alias_for(entry: str) -> dict[str, str]:
        folder = posixpath.dirname(entry)
        own = {
            f"resource://{inner}": f"{outer}{INSIDE}{inner}"
            for outer, files in resources.items()
            if posixpath.dirname(outer) == folder
            for inner in files
        }
        return addresses | own

    plain = {p: t.text for p, t in texts.items() if t.format.syntax == "css"}
    spans = {p: texts[p].spans for p in plain}
    out: dict[str, Joined] = {}
    for path in plain:
        single = len(texts) == 1 and INSIDE not in path
        if _ENTRY.search(path) or single:
            table = alias_for(path)
            out[path] = joined(path, plain, spans, lambda name, table=table: table.get(name, name))  # type: ignore[misc]
    return out
