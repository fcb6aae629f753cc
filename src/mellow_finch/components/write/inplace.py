"""Files of a person's own, recoloured in place: how they are read, and what is sure of their literals."""

from __future__ import annotations

import posixpath
import re
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from functools import partial as bound
from pathlib import PurePosixPath

from ...colour.gamut import rgba_to_oklch
from ...colour.rgb import Rgba
from ...recolour.colour_map import is_vivid
from ...recolour.guess import use_of
from ...recolour.rewrite import RecolourSubject, Sure
from ...syntax.cascade import paint, paint_literals
from ...syntax.catalogue import Format, format_by_id
from ...syntax.region import with_bodies, without_bodies
from ...syntax.spans import ColourSpan
from ..files import Files, as_bytes, text_of
from ..model import Paint, Paints, Part, painted
from ..read.readers import TEXT_READERS
from ..read.unfold import Unfolded, home_path, unfolded
from ..read.values import ReadingRule, paints_of, values_of
from .rewrite import recoloured, traced
from .rule import FileRule, Job, Ways


def read_sheet(text: str, parts: tuple[Part, ...], partial: bool = False) -> dict[str, Paint]:
    """Return what a style sheet says of every part.

    partial: whether a default sheet of the reader's own lies under it, so that what it does not fill is not known.
    """
    found = paint(text, [p.at for p in parts])
    return _known({p.key: painted(found[p.at]) for p in parts}, partial)


def _known(paints: dict[str, Paint], partial: bool) -> dict[str, Paint]:
    if not partial:
        return paints
    return {k: p for k, p in paints.items() if any(c.a > 0 for layer in p.layers for c in layer)}


def ways_of(
    format_: str,
    reader: str,
    parts: tuple[Part, ...],
    readings: tuple[ReadingRule, ...],
    exact: bool = False,
    partial: bool = False,
    apart: bool = False,
) -> Ways:
    """Return how files of a format are read for a component with these parts.

    exact: whether the literals of a style sheet get the roles of the parts that they draw, rather than keeping their
    relations to each other; partial: see read_sheet; apart: whether colours are told apart by hue, and what is
    of one colour stays so.
    """
    form = format_by_id(format_)
    if reader:
        own = TEXT_READERS[reader]

        def read_at(text: str, files: Files, path: str) -> Paints:
            return own(text, parts, files, path)

        return Ways(form.scan, lambda _: {}, None, None, form.alpha, read_at)
    if any(p.at for p in parts):
        places = [p.at for p in parts]

        def read_colours(subject: RecolourSubject, colours: list[Rgba]) -> Paints:
            found = paint_literals(subject.text, colours, places)
            return _known({p.key: painted(found[p.at]) for p in parts}, partial)

        def read_one(text: str) -> Paints:
            return read_sheet(text, parts, partial)

        return Ways(
            form.scan,
            read_one,
            read_colours,
            sure_of(form, read_one, parts, apart, True) if exact else None,
            True,
            apart=apart,
        )
    reading = next((r for r in readings if r.format == format_), None)

    def read(text: str) -> Paints:
        return paints_of(values_of(text, reading), parts) if reading is not None else {}

    return Ways(form.scan, read, None, sure_of(form, read, parts, apart), form.alpha, apart=apart)


def sure_of(
    form: Format, read: Callable[[str], Paints], parts: tuple[Part, ...], apart: bool = False, hued: bool = False
) -> Sure:
    """Return what says for certain which role a literal has: the one of most parts that it draws, or its format's.

    apart: colours that are distinguished by hue are left to it, and greys that are one colour get one role; hued: a
    coloured literal only has a role for certain whose colour has a hue of its own.
    """
    if apart:
        return bound(_sure_apart, form, read, parts)
    roles = {p.key: (p.text_role, p.fill_role, p.edge_role) for p in parts}

    def sure(text: str, spans: Sequence[ColourSpan]) -> list[str]:
        out = [form.role_of(span) for span in spans]
        drawn: dict[int, Counter[str]] = {}
        for key, places in traced(text, spans, read).items():
            for at, role in zip(places, roles[key], strict=True):
                if at is not None and role:
                    drawn.setdefault(at, Counter())[role] += 1
        for at, counts in drawn.items():
            role = counts.most_common(1)[0][0]
            if not hued or _HUED.search(role) or not is_vivid(spans[at].colour):
                out[at] = role
        return out

    return sure


_HUED = re.compile(r"accent|link|error|warning|success|ansi_|_ink$|focus")  # roles whose colour has a hue of its own
_QUIET = re.compile(r"quiet|idle|disabled|dim|hint")
_QUIET_CHROMA = 0.085  # OKLCH, up to which a colour of what is quiet is a tinted grey
_GROUND_WEIGHT = 3  # of what everything else lies on, beside its single parts


def _sure_apart(
    form: Format, read: Callable[[str], Paints], parts: tuple[Part, ...], text: str, spans: Sequence[ColourSpan]
) -> list[str]:
    """Return the roles of the literals of a file whose colours form a set.

    A coloured one only has the role of what it fills, where that has a hue; a grey the one that most parts give its
    colour as ground or as words: what somebody gave one colour keeps one.
    """
    by_key = {p.key: p for p in parts}
    out = [form.role_of(span) for span in spans]
    votes: dict[tuple[Rgba, str], Counter[str]] = {}
    drawn: dict[int, Counter[str]] = {}
    kinds: dict[int, set[str]] = {}
    for key, (text_at, fill_at, edge_at) in traced(text, spans, read).items():
        part = by_key[key]
        below = by_key.get(part.under, part)
        words = part.text_role if fill_at is not None or below.fill_role == part.fill_role else below.text_role
        weight = _GROUND_WEIGHT if any(p.under == part.id for p in parts) else 1
        for at, role, kind in (
            (text_at, words, "text"),
            (fill_at, part.fill_role, "fill"),
            (edge_at, part.edge_role, "edge"),
        ):
            if at is not None and role:
                drawn.setdefault(at, Counter())[role] += 1
                kinds.setdefault(at, set()).add(kind)
                votes.setdefault((spans[at].colour.opaque, kind), Counter())[role] += weight
    for i, span in enumerate(spans):
        if is_vivid(span.colour):
            if i in drawn:
                quiet = next((r for r in drawn[i] if _QUIET.search(r)), "")
                role = drawn[i].most_common(1)[0][0] if "fill" in kinds[i] else ""
                faint = rgba_to_oklch(span.colour.opaque)[1] < _QUIET_CHROMA
                out[i] = quiet if quiet and faint else role if _HUED.search(role) else ""
            continue
        own = kinds.get(i) or {"fill" if use_of(span) == "surface" else "edge" if use_of(span) == "line" else "text"}
        kind = next(k for k in ("fill", "text", "edge") if k in own)
        found = votes.get((span.colour.opaque, kind))
        if found:
            out[i] = found.most_common(1)[0][0]
    return out


def _named_in_lists(files: Files, rule: FileRule) -> Iterator[str]:
    """Yield the files of the home that settings name in lists."""
    for path, pattern, *places in rule.named:
        for words in re.findall(pattern, text_of(files, path)):
            yield from filter(None, (home_path(files, word, path) for word in words.split(",")))
            yield from (place.format(word) for word in words.split(",") if "/" not in word for place in places)


def matching(files: Files, rule: FileRule) -> list[str]:
    """Return every file that a rule recolours, in the order of its patterns, each once."""
    found = dict.fromkeys(p for pattern in rule.paths for p in (files.find(pattern) if "*" in pattern else [pattern]))
    told = rule.told.encode()
    found |= dict.fromkeys(_named_in_lists(files, rule))
    rows = [p for p in found if (data := files(p)) is not None and (not told or re.search(told, data))]
    return rows[:1] if rule.first else rows


def text_with_all(files: Files, rule: FileRule, path: str) -> Unfolded:
    """Return the text of a file that a rule recolours, with all that it takes in."""
    return unfolded(files, path, rule.include)


def in_force(files: Files, rule: FileRule) -> list[str]:
    """Return the files of a rule that are read back: the ones just written where there are any, all otherwise.

    Where variants were laid beside a person's own files, these stay as they were and are not judged.
    """
    found = matching(files, rule)
    return [p for p in found if files.fresh(p)] or found


def recoloured_files(rule: FileRule, job: Job) -> Iterator[tuple[str, bytes]]:
    """Yield the files of a person's own that a rule recolours, in their places or as variants beside them."""
    ways = rule.ways
    assert ways is not None
    scheme = replace(job.scheme, colours=job.colours, opacity=job.worn.opacity)
    done: set[str] = set()
    for path in matching(job.files, rule):
        if path in done:  # another one took it in
            continue
        whole = text_with_all(job.files, rule, path)
        text, bodies = without_bodies(whole.text) if rule.joins else (whole.text, [])
        fresh = recoloured(
            text,
            ways.scan,
            ways.reader(job.files, path),
            job.parts,
            scheme,
            job.owner,
            ways.alpha,
            ways.read_colours,
            ways.sure,
            ways.apart,
        )
        for inner, text in whole.folded(with_bodies(fresh, bodies)):
            done.add(inner)
            if rule.to:
                place = job.place(rule.to)
                yield place, as_bytes(moved_urls(text, inner, place))
            else:
                beside = job.scheme.decided(job.owner).beside
                yield variant_path(inner, job.scheme.folder) if beside else inner, as_bytes(text)


_URL = re.compile(r"""(url\(\s*["']?|@import\s+["'])(?![a-zA-Z][a-zA-Z0-9+.-]*:|/|\#)([^"')]+?)(?=\s*["')])""")


def moved_urls(text: str, old: str, new: str) -> str:
    """Return a style sheet with the files that it names by the way from its place named from another one."""
    way = posixpath.relpath(posixpath.dirname(old), posixpath.dirname(new))
    if way == ".":
        return text
    return _URL.sub(lambda m: f"{m[1]}{posixpath.normpath(f'{way}/{m[2]}')}", text)


def variant_path(path: str, folder: str) -> str:
    """Return where a variant of a file stands beside it: the look's name added to its own."""
    own = PurePosixPath(path)
    return str(own.with_name(f"{own.stem}-{folder}{own.suffix}"))
