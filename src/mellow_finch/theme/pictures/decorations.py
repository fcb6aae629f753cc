"""Window decorations that KWin draws from SVG: what fills their title bars, and what is drawn on those, by a look.

Of a theme's folder the file of settings, called like the folder with "rc" after it, says the colours of titles; the
fill of the bar is only drawn, and so are the buttons, each in one file with an element for every state.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import NamedTuple

from ...colour.gamut import rgba_to_oklch
from ...colour.requirement import MARK
from ...colour.rgb import Rgba
from ...components.model import Paint, Paints, Scheme
from ...palette.fit import fit
from ...recolour.colour_map import Anchor, ColourMap, map_of
from ...syntax.spans import ColourSpan
from ...syntax.xml import extents
from ..bundle.model import Theme, ThemeText

_BAR = re.compile(r"decoration-(?!(?:maximized-)?inactive)")
_IDLE_BAR = re.compile(r"decoration-(?:maximized-)?inactive")
_MASK = re.compile(r"(?:mask|hint)-")  # these are never shown
_BUTTON = re.compile(r"(?:active|inactive|hover|hover-inactive|pressed|pressed-inactive|deactivated.*)-")
_SURE = 1.1  # what a mark gets above its need, being blurred where it is drawn
_TITLE = {"ActiveTextColor": "border_text", "InactiveTextColor": "border_idle_text"}
_WEIGHT = 10.0

_Extents = Mapping[str, tuple[int, int]]


class TitleBars(NamedTuple):
    """What the title bars of a theme are filled with, focused and idle; None where none is drawn in one colour."""

    focused: Rgba | None
    idle: Rgba | None


def title_bars(text: str, spans: Sequence[ColourSpan]) -> TitleBars:
    """Return what the drawing of a decoration fills its bars with: the commonest solid colour in their elements.

    Where they are filled with gradients it is the commonest of those, both bars being taken for alike.
    """
    known = extents(text)
    solid = [s for s in spans if s.colour.a == 1 and not _is_shadow(s)]

    def filled(name: re.Pattern[str]) -> Rgba | None:
        inside = _inside(known, name)
        return _commonest(s.colour for s in solid if s.key != "stop-color" and inside(s))

    focused = filled(_BAR) or _commonest(s.colour for s in solid if s.key == "stop-color")
    return TitleBars(focused, filled(_IDLE_BAR) or focused)


def _commonest(colours: Iterable[Rgba]) -> Rgba | None:
    counts = Counter(colours)
    return counts.most_common(1)[0][0] if counts else None


def _inside(known: _Extents, name: re.Pattern[str]) -> Callable[[ColourSpan], bool]:
    places = [place for part, place in known.items() if name.match(part)]
    return lambda span: any(start <= span.start and span.end <= end for start, end in places)


class Decoration:
    """The decoration in one folder of a theme, redrawn in a look's colours."""

    def __init__(self, theme: Theme, root: str, scheme: Scheme) -> None:
        self._scheme = scheme
        texts = [text for path, text in theme.texts.items() if path.startswith(root)]
        drawn = next((t for t in texts if _is_bar(t.path)), None)
        self._bars = title_bars(drawn.text, drawn.spans) if drawn is not None else TitleBars(None, None)
        self._titles = {_TITLE[s.key]: s.colour for t in texts for s in t.spans if s.key in _TITLE}
        self.chart = self._chart()

    def _chart(self) -> ColourMap:
        """Return the map that carries bars and titles exactly; the order of greys turns round where theirs did."""
        rows = {"border": self._bars.focused, "border_idle": self._bars.idle, **self._titles}
        known = {role: colour for role, colour in rows.items() if colour is not None}
        colours = self._scheme.colours
        anchors = [Anchor(c.opaque, colours[role], _WEIGHT, firm=True) for role, c in known.items()]
        return map_of(anchors, reverses=_rises(known) != _rises(colours) if "border" in known else False)

    def redrawn(self, text: ThemeText) -> list[Rgba]:
        """Return the new colour of every literal of a drawing, opaque; shadows and what is never shown stay."""
        known = extents(text.text)
        masked = _inside(known, _MASK)
        new = self.chart.carry_all(s.colour.opaque for s in text.spans)
        out = [s.colour.opaque if masked(s) or _is_shadow(s) else new[s.colour.opaque] for s in text.spans]
        if self._scheme.mend and not _is_bar(text.path):
            for part in filter(_BUTTON.match, known):
                self._lift(out, [i for i, s in enumerate(text.spans) if _within(s, known[part])], part)
        return out

    def _lift(self, colours: list[Rgba], inside: Sequence[int], state: str) -> None:
        """Let what is drawn last in a state of a button, its sign, stand out from what is drawn below it."""
        if not inside:
            return
        bar = self._scheme.colours["border_idle" if "inactive" in state else "border"]
        sign = colours[inside[-1]]
        below = [colours[i] for i in inside if colours[i] != sign] or [bar]
        need = MARK.level * _SURE
        better = fit(sign, [(face, need) for face in {bar, *below}]) or fit(sign, [(bar, need)])
        if better is not None:
            for i in inside:
                colours[i] = better if colours[i] == sign else colours[i]


def shown_decoration(texts: Mapping[str, tuple[str, Sequence[ColourSpan]]]) -> Paints:
    """Return what a decoration shows as it is written: its title bars and their titles; texts by path, with spans."""
    bars, titles = TitleBars(None, None), dict[str, Rgba]()
    for path, (text, spans) in texts.items():
        if _is_bar(path):
            bars = title_bars(text, spans)
        titles |= {_TITLE[s.key]: s.colour for s in spans if s.key in _TITLE}
    if bars.focused is None:
        return {}
    return {
        "border": Paint(bars.focused, titles.get("border_text")),
        "border:idle": Paint(bars.idle, titles.get("border_idle_text")),
        "border frame": Paint(edge=bars.focused),
        "border frame:idle": Paint(edge=bars.idle),
    }


def _is_bar(path: str) -> bool:
    return path.rpartition("/")[2].startswith("decoration.svg")


def _is_shadow(span: ColourSpan) -> bool:
    return span.key == "stop-color" and span.colour[:3] == (0, 0, 0)


def _within(span: ColourSpan, place: tuple[int, int]) -> bool:
    return place[0] <= span.start and span.end <= place[1]


def _rises(colours: Mapping[str, Rgba]) -> bool:
    """Tell whether titles are lighter than their bar; by the bar alone where nothing says it."""
    bar, title = colours["border"], colours.get("border_text")
    return rgba_to_oklch(bar)[0] < (rgba_to_oklch(title)[0] if title is not None else 0.5)
