"""Components whose file exists already: recoloured in place, and mended until what it draws can be read."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from functools import lru_cache

from ...colour.rgb import Rgba
from ...palette.fit import fit, fit_surface
from ...palette.veil import is_asked, opacity_of
from ...recolour.rewrite import RecolourSubject, Scan, Sure, new_colours, respelled, rewrite, subject_of
from ...syntax.spans import ColourSpan
from ..judge import Behind, DrawnPair, judge_parts, surfaces_under
from ..model import Paint, Paints, Part, Scheme
from .implied import with_words_readable

ReadText = Callable[[str], Paints]
ReadColours = Callable[
    [RecolourSubject, list[Rgba]], Paints
]  # the same reading, from the spans' colours without their text
_ROUNDS = 4
_GROUND = 3  # how much more the ground of everything counts than that of one thing
_MARK_BLUE = 7  # the blue of marker colours; red and green carry the number of the literal


@lru_cache(maxsize=16)
def trace(subject: RecolourSubject, read: ReadText) -> dict[str, tuple[int | None, int | None, int | None]]:
    """Return for each part the indices of the literals that its text, fill and edge come from.

    Found by reading the text with every literal replaced by a colour that numbers it.
    """
    return traced(subject.text, subject.spans, read)


def traced(
    text: str, spans: Sequence[ColourSpan], read: ReadText
) -> dict[str, tuple[int | None, int | None, int | None]]:
    """Return for each part the indices of the spans that its text, fill and edge come from."""
    marked = [Rgba(i >> 8 & 255, i & 255, _MARK_BLUE, span.colour.a) for i, span in enumerate(spans)]
    paints = read(respelled(text, spans, marked))

    def number(colour: Rgba | None) -> int | None:
        if colour is None or colour.b != _MARK_BLUE:
            return None
        index = colour.r << 8 | colour.g
        return index if index < len(marked) else None

    return {key: (number(p.text), number(p.fill), number(p.edge)) for key, p in paints.items()}


def recoloured(
    text: str,
    scan: Scan,
    read: ReadText,
    parts: Sequence[Part],
    scheme: Scheme,
    owner: str,
    alpha: bool = True,
    read_colours: ReadColours | None = None,
    sure: Sure | None = None,
    apart: bool = False,
) -> str:
    """Return the text in the scheme's colours, its drawn pairs mended as the scheme asks.

    owner: the component's id; alpha: whether the syntax can spell translucency;
    read_colours: a quicker way to the same reading; sure: the role that each literal has for certain;
    apart: whether the colours are distinguished by their hues.
    """
    decided = scheme.decided(owner)
    subject = subject_of(text, scan, decided.splits, sure, apart)
    colours = new_colours(subject, scheme.colours, decided.by_group)
    if alpha and scheme.opacity:
        colours = _see_through(colours, subject, read, parts, scheme)
    wanted = {p.key for p in parts} if scheme.mend else set(decided.mends)
    if wanted:
        behind = Behind.of(scheme)
        colours = mended(subject, read, parts, colours, behind, wanted, alpha, read_colours)
        if apart and scheme.mend:
            written = rewrite(subject, colours)
            colours = with_words_readable(subject, colours, parts, behind, trace(subject, read), read, written, alpha)
    return rewrite(subject, colours)


def _see_through(
    colours: list[Rgba], subject: RecolourSubject, read: ReadText, parts: Sequence[Part], scheme: Scheme
) -> list[Rgba]:
    """Return the colours with the look's opacity given to the fills of surfaces that lie on the picture."""
    sources = trace(subject, read)
    colours = list(colours)
    for part in parts:
        kind = part.veil
        at = sources.get(part.key, (None, None, None))[1]
        if part.on_picture and is_asked(kind, scheme.opacity) and at is not None and colours[at].a > 0:
            colours[at] = colours[at]._replace(a=opacity_of(kind, scheme.opacity))
    return colours


def mended(
    subject: RecolourSubject,
    read: ReadText,
    parts: Sequence[Part],
    colours: list[Rgba],
    behind: Behind,
    keys: set[str],
    alpha: bool = True,
    read_colours: ReadColours | None = None,
) -> list[Rgba]:
    """Return the span colours with the smallest changes that make the pairs of the named parts readable.

    A literal that several parts share is moved to where it suits all of them; where no colour of the text will do,
    the surface moves, a translucent one becoming less so.
    """
    sources = trace(subject, read)
    colours = list(colours)
    under = {p.under for p in parts}
    grounds: Counter[int | None] = Counter()
    for part in parts:
        grounds[sources.get(part.key, (None, None, None))[1]] += _GROUND if part.id in under or part.on_picture else 1
    for _ in range(_ROUNDS):
        paints = read_colours(subject, colours) if read_colours else read(rewrite(subject, colours))
        short = [p for p in judge_parts(parts, paints, behind) if not p.passes and p.part.key in keys]
        if not short:
            break
        done: set[int] = set()
        for pair in short:
            text_at, fill_at, edge_at = sources.get(pair.part.key, (None, None, None))
            at = text_at if pair.what == "text" else edge_at
            if at is not None and at in done:
                continue
            rows = _surfaces_of(at, pair, parts, paints, sources, behind)
            # A ground that also writes on something smaller stays: what it writes on gives way.
            stays = pair.what == "text" and fill_at is not None and grounds[at] > grounds[fill_at]
            better = None if at is None or stays else fit(colours[at], rows, alpha)
            if at is not None and better is not None:
                colours[at] = better
                done.add(at)
            elif fill_at is not None and fill_at not in done:
                colours[fill_at] = _moved(colours[fill_at], pair, paints[pair.part.key], behind, alpha)
                done.add(fill_at)
    return colours


def _surfaces_of(
    at: int | None,
    pair: DrawnPair,
    parts: Iterable[Part],
    paints: Paints,
    sources: dict[str, tuple[int | None, int | None, int | None]],
    behind: Behind,
) -> list[tuple[Rgba, float]]:
    """Return every surface that one literal is drawn on as text or edge, with the need it has there."""
    rows: list[tuple[Rgba, float]] = []
    for part in parts:
        if part.key not in paints:
            continue
        text_at, _, edge_at = sources.get(part.key, (None, None, None))
        if (text_at == at and part.need and at is not None) or (part is pair.part and pair.what == "text"):
            rows += [(s, behind.need(part).level) for s in surfaces_under(paints[part.key].layers, behind, part.place)]
        if (edge_at == at and part.edge_need and at is not None) or (part is pair.part and pair.what == "edge"):
            rows += [(s, part.edge_need.level) for s in surfaces_under(paints[part.key].below, behind, part.place)]
    return rows


def _moved(fill: Rgba, pair: DrawnPair, paint: Paint, behind: Behind, may_rise: bool) -> Rgba:
    """Return the literal of a surface moved out of the way of what is drawn on it."""
    text = paint.text if pair.what == "text" and paint.text is not None else pair.text
    below = surfaces_under(paint.below, behind, pair.part.place)
    drawn_alpha = paint.fill.a if paint.fill is not None else fill.a
    return fit_surface(fill, text, below, pair.need.level, may_rise, drawn_alpha)
