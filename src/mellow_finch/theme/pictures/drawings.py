"""The pictures of a theme: drawings, pixel pictures and pointers, redrawn through the map, signs kept readable."""

from __future__ import annotations

import gzip
import re
from collections import Counter
from collections.abc import Callable, Hashable, Sequence
from functools import cached_property
from typing import Any, TypeVar
from weakref import WeakKeyDictionary

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from ...colour.blend import over
from ...colour.contrast import ratio
from ...colour.difference import colour_difference
from ...colour.gamut import oklch_to_rgbas, rgba_to_oklch
from ...colour.requirement import MARK
from ...colour.rgb import Rgba, parse_hex
from ...colour.spaces import srgb_to_oklch
from ...components.files import as_bytes
from ...components.model import Scheme
from ...errors import PictureError
from ...intake.pictures import opened
from ...language import tr
from ...palette.fit import fit
from ...recolour.colour_map import Anchor, ColourMap, is_vivid, map_of, vivid_among
from ...recolour.groups import KEEP, chosen_colour
from ...recolour.images import colours_in, recoloured_image
from ...recolour.pointers import read_pointer
from ...recolour.rewrite import respelled
from ...recolour.ticks import Face, face_of, with_clear_tick
from ...syntax.xml import extents
from ..bundle.kinds import owner_of
from ..bundle.model import Theme, ThemeText
from ..result.account import Choices, MeasuredFailure, RecolouredGroup
from .decorations import Decoration
from .pointers import pointer_map

T = TypeVar("T")

LEAD = "icons/lead"  # the key of the group that the leading colour of an icon theme makes
_SURFACES = ("panel", "menu", "view")
_ICON = 128  # pixels a side up to which a picture of an icon theme has to be told from what it lies on
_SIGN_SPREAD = 0.3  # lightness within which the greys of a drawing make one sign
_HUES_APART = 24.0
_COMMON = 40  # colours among which the leading one is looked for


# Controls that themes draw as pictures: these must stand out from what they lie on.
_MARK = re.compile(r"(?:check|radio|switch|toggle|slider|scale|knob|option)[\w-]*(?:@\d)?\.(?:svg|png)$", re.IGNORECASE)
_OFF = re.compile(r"disabled|insensitive|backdrop-ins", re.IGNORECASE)
_CHOSEN = re.compile(r"checked|selected|active|mixed|(?:^|[-_])on\b", re.IGNORECASE)
# By the widget that Qt painted, what the elements of a drawn style begin with that show its tick.
_TICKS = {"check": "checkbox-checked", "radio": "radio-checked"}
_TICKED = re.compile(r"(?:checkbox|radio)-checked(?!.*disabled)")
_TICK_MORE = 1.2  # what a tick gets above its need, being blurred
_SAME_TICK = 12.0  # CIEDE2000 up to which the colour that was seen of a tick is that of a literal
_SURE = 1.1  # what a mark gets above its need, being blurred where it is drawn


# By theme and path: the colours of a picture, and what was made of it last and of what that depended on.
_COLOURS: WeakKeyDictionary[Theme, dict[str, NDArray[np.uint8] | None]] = WeakKeyDictionary()
_MADE: WeakKeyDictionary[Theme, dict[tuple[str, str], tuple[Hashable, Any]]] = WeakKeyDictionary()

_LIFTS = tuple(sorted((0.03 * n for n in range(-20, 21)), key=abs))  # steps of lightness, the least first


def _stands_out(colours: Sequence[Rgba], surfaces: Sequence[Rgba]) -> bool:
    return all(max(ratio(c, s) for c in set(colours)) >= MARK.level * _SURE for s in surfaces)


def _lighter(colours: Sequence[Rgba], step: float) -> list[Rgba]:
    """Return opaque colours by a step of OKLCh's lightness lighter, or darker where it is negative."""
    lch = np.array([rgba_to_oklch(c.opaque) for c in colours])
    lch[:, 0] = np.clip(lch[:, 0] + step, 0, 1)
    return oklch_to_rgbas(lch)


def _solid_colours(image: Image.Image) -> list[Rgba]:
    """Return the commonest solid colours of a small picture, at most twelve."""
    pixels = np.asarray(image.convert("RGBA")).reshape(-1, 4)
    counts = Counter(map(tuple, pixels[pixels[:, 3] > 160][:, :3].tolist()))
    return [Rgba(*c) for c, _ in counts.most_common(12)]


class Drawings:
    """Redraws the pictures of one theme for one look.

    Those of an icon theme are carried by a map of their own, under which greys do not turn round; those that belong to
    stylesheets go through the sheet's. A drawing of one grey is a sign: it gets a colour that reads on panel, menu and
    view.
    """

    def __init__(
        self,
        theme: Theme,
        scheme: Scheme,
        charts: Sequence[ColourMap],
        choices: Choices,
        told: Sequence[Sequence[MeasuredFailure]] = (),
    ) -> None:
        self._theme, self._scheme, self._charts, self._told = theme, scheme, charts, told
        self._choice = choices.decided.by_group.get(LEAD, "accent")
        rows = [Anchor(parse_hex(old), parse_hex(new), 10) for old, new in choices.decided.swaps.items()]
        self._swaps = map_of(rows) if choices.decided.as_is else None  # the map of a theme that keeps its own colours
        self._iconic = {
            path
            for path in (*theme.drawings, *theme.pictures)
            if (owner := owner_of(path.partition("!")[0], theme.found)) is not None and owner.kind.derived
        }
        symbolic = re.compile(r"-symbolic(?:-rtl)?(?:\.symbolic)?\.(?:svg|png)$")
        # What toolkits colour themselves when they load it stays as it is.
        self.paths = {p for p in theme.drawings if not (p in self._iconic and symbolic.search(p))}
        self.pictures = {p for p in theme.pictures if not (p in self._iconic and symbolic.search(p))}
        self.pointers = set(theme.pointers)
        self._known: dict[ColourMap, dict[Rgba, Rgba]] = {}
        self._repainted: dict[str, bytes] = {}
        self._beside: dict[str, dict[str, str]] = {}
        self._decorations: dict[str, Decoration] = {}

    # Maps

    @cached_property
    def _counts(self) -> Counter[Rgba]:
        counts: Counter[Rgba] = Counter()
        for path in self.paths & self._iconic:
            counts.update({s.colour.opaque for s in self._theme.texts[path].spans if s.colour.a > 0})
        for path in sorted(self.pictures & self._iconic)[:: max(1, len(self.pictures) // 200)]:
            counts.update(self._main_colours(path))
        return counts

    @cached_property
    def chart(self) -> ColourMap:
        """Return the map of icon themes: their leading colour becomes the accent, greys take the look's tint."""
        if self._swaps is not None:
            return self._swaps
        anchors: list[Anchor] = []
        lead = self.lead
        colours = self._scheme.colours
        target = chosen_colour(self._choice, colours)
        if lead is not None and target is not None:
            anchors.append(Anchor(lead, target, 10))
        return map_of(anchors)

    @cached_property
    def lead(self) -> Rgba | None:
        """Return the commonest colour of the icons, None when they have none."""
        colours = list(self._counts)
        vivid = [c for c, yes in zip(colours, vivid_among(colours), strict=True) if yes]
        if not vivid:
            return None
        lch = srgb_to_oklch(np.array([c.unit for c in vivid]))
        counts = np.array([self._counts[c] for c in vivid], dtype=np.float64)
        common = sorted(range(len(vivid)), key=lambda i: (-counts[i], vivid[i]))[:_COMMON]

        def near(hue: float) -> NDArray[np.bool_]:
            return np.asarray(np.abs((lch[:, 2] - hue + 180) % 360 - 180) < _HUES_APART)

        best = max(common, key=lambda i: (float(counts[near(lch[i, 2])].sum()), counts[i], vivid[i]))
        close = near(lch[best, 2])
        lead = max((i for i in common if close[i]), key=lambda i: (counts[i] * lch[i, 1], vivid[i]))
        return vivid[lead]

    @cached_property
    def pointer_chart(self) -> ColourMap:
        """Return the map of pointers."""
        if self._swaps is not None:
            return self._swaps
        return pointer_map([read_pointer(self._theme.data(p), p) for p in sorted(self.pointers)[:12]], self._scheme)

    def _chart_of(self, path: str) -> ColourMap:
        if path in self._iconic:
            return self.chart
        return self._charts[self._theme.family_of.get(path, 0)]

    def _decoration_of(self, path: str) -> Decoration | None:
        """Return the decoration that a drawing belongs to, None for others and where a theme keeps its own colours."""
        owner = owner_of(path, self._theme.found)
        if owner is None or owner.kind.id != "decoration" or self._swaps is not None:
            return None
        if owner.root not in self._decorations:
            self._decorations[owner.root] = Decoration(self._theme, owner.root, self._scheme)
        return self._decorations[owner.root]

    def _carried(self, chart: ColourMap, colours: Sequence[Rgba]) -> dict[Rgba, Rgba]:
        known = self._known.setdefault(chart, {})
        if not known and chart is self.__dict__.get("chart"):
            known |= chart.carry_all(self._counts)
        missing = [c for c in colours if c not in known]
        if missing:
            known |= chart.carry_all(missing)
        return known

    # Drawings

    def redrawn(self, path: str) -> tuple[bytes, int, int]:
        """Return a drawing's new bytes, how many literals changed and how many it has."""
        text = self._theme.texts[path]
        old = [s.colour.opaque for s in text.spans]
        decoration = self._decoration_of(path)
        if decoration is not None:
            new = decoration.redrawn(text)
        else:
            known = self._carried(self._chart_of(path), old)
            new = [known[c] for c in old]
        if path in self._iconic:
            new = self._readable(new, old)
        elif _MARK.search(path) and not _OFF.search(path):
            new = self._marked(new)
        if self._told and (owner := owner_of(path, self._theme.found)) is not None and owner.kind.id == "drawn-style":
            self._clear_ticks(text, new)
        colours = [c._replace(a=s.colour.a) for c, s in zip(new, text.spans, strict=True)]
        count = sum(c != s.colour for c, s in zip(colours, text.spans, strict=True))
        data = as_bytes(respelled(text.text, text.spans, colours)) if count else b""
        return (gzip.compress(data, mtime=0) if text.packed and count else data), count, len(text.spans)

    def _clear_ticks(self, text: ThemeText, new: list[Rgba]) -> None:
        """Give the ticks of a drawn style that were painted short a colour for the box that they were painted on.

        What is drawn last of a control lies on top; it is the tick where it has the colour that was seen.
        """
        known = {part: where for part, where in extents(text.text).items() if _TICKED.match(part)}
        for row in (row for rows in self._told for row in rows if row.what == "mark"):
            for part, (start, end) in known.items():
                if not part.startswith(_TICKS.get(row.part, "-")):
                    continue
                inside = [i for i, s in enumerate(text.spans) if start <= s.start and s.end <= end]
                # A large tick is taken for the box, and what is left of that for the tick.
                ways = ((row.text, row.surface), (row.surface, row.text))
                seen = ((i, around, colour) for i in reversed(inside) for colour, around in ways)
                found = next((s for s in seen if colour_difference(new[s[0]], s[2]) <= _SAME_TICK), None)
                better = fit(new[found[0]], [(found[1], row.need * _TICK_MORE)]) if found else None
                if found is not None and better is not None:
                    new[found[0]] = better

    def _readable(self, new: list[Rgba], old: list[Rgba]) -> list[Rgba]:
        """Return the colours of an icon so that it can be told from panel, menu and view."""
        if not new:
            return new
        surfaces = [face for role in _SURFACES for face in self._scheme.faces(role)]
        lights = [] if any(map(is_vivid, set(old))) else [rgba_to_oklch(c)[0] for c in old]
        if lights and max(lights) - min(lights) <= _SIGN_SPREAD:
            ink = self._ink
            if ink is not None:
                main = Counter(old).most_common(1)[0][0]
                l0 = rgba_to_oklch(main)[0]
                l1, c1, h1 = rgba_to_oklch(ink)
                way = -1 if l1 > 0.5 else 1
                rows = [(min(1, max(0, l1 + way * abs(light - l0) * 0.6)), c1, h1) for light in lights]
                return [ink if o == main else c for o, c in zip(old, oklch_to_rgbas(np.array(rows)), strict=True)]
        return new if _stands_out(new, surfaces) else self._shifted(new, surfaces)

    def _marked(self, new: list[Rgba]) -> list[Rgba]:
        """Return the colours of a control that is a picture so that it can be told from what it lies on."""
        surfaces = self._under_marks
        if not new or not self._scheme.mend or _stands_out(new, surfaces):
            return new
        return self._shifted(new, surfaces)

    def _framed(self, colours: list[Rgba], edge: Sequence[Rgba]) -> list[Rgba]:
        """Return the colours of a control in pixels so that its first pixels can be told from what it lies on."""
        surfaces = self._under_marks
        if not edge or not colours:
            return self._marked(colours)

        def shown(step: float) -> bool:
            drawn = [
                (s, [over(c._replace(a=e.a), s) for c, e in zip(_lighter(edge, step), edge, strict=True)])
                for s in surfaces
            ]
            return all(max(ratio(c, s) for c in found) >= MARK.level * _SURE for s, found in drawn)

        step = next((step for step in _LIFTS if shown(step)), 0.0)
        return _lighter(colours, step) if step else colours

    @cached_property
    def _under_marks(self) -> list[Rgba]:
        return [face for role in ("window", "view") for face in self._scheme.faces(role)]

    @cached_property
    def _ink(self) -> Rgba | None:
        rows = [(face, MARK.level) for role in _SURFACES for face in self._scheme.faces(role)]
        return fit(self._scheme.colours["window_text"], rows)

    def _shifted(self, new: list[Rgba], surfaces: Sequence[Rgba]) -> list[Rgba]:
        """Return the colours lightened or darkened together by the least that makes one stand out everywhere."""
        moved = (_lighter(new, step) for step in _LIFTS)
        return next((colours for colours in moved if _stands_out(colours, surfaces)), new)

    # Pixels

    def _main_colours(self, path: str) -> list[Rgba]:
        try:
            image = opened(self._theme.data(path), path).convert("RGBA").resize((16, 16))
        except PictureError:
            return []
        return [Rgba(r, g, b) for r, g, b, a in np.asarray(image).reshape(-1, 4).tolist() if a > 200]

    def beside(self, entry: str) -> dict[str, str]:
        """Return, by file name, the paths of the pictures that a sheet names, those nearest to it first."""
        if entry in self._beside:
            return self._beside[entry]
        folder = f"{entry.rpartition('/')[0]}/"
        text = self._theme.sheets[entry].skeleton
        owner = owner_of(entry, self._theme.found)
        root = owner.root if owner is not None else folder
        near = [path for path in self._theme.pictures if path.startswith(root)]
        out: dict[str, str] = {}
        for path in sorted(near, key=lambda p: not p.startswith(folder)):  # "../assets" comes after what lies beside
            name = path.rpartition("/")[2]
            if name in text:
                out.setdefault(name, path)
        self._beside[entry] = out
        return out

    def fills(self, entry: str) -> dict[str, tuple[Rgba, ...]]:
        """Return, by file name, what the pictures beside a sheet fill a box with when they are redrawn."""
        return {name: self._made(path, "fill", self._fill) for name, path in self.beside(entry).items()}

    def faces(self, entry: str) -> dict[str, Face]:
        """Return, by file name, what the controls beside a sheet show that are pictures, when they are redrawn."""
        out: dict[str, Face] = {}
        for name, path in self.beside(entry).items():
            if _MARK.search(name):
                try:
                    out[name] = self._made(path, "face", self._face)
                except PictureError:
                    continue
        return out

    def _face(self, path: str) -> Face:
        return face_of(self.repainted(path), path.rpartition("/")[2])

    def _fill(self, path: str) -> tuple[Rgba, ...]:
        """Return the darkest and the lightest of the rows in the middle of a picture, redrawn."""
        try:
            data = self.repainted(path)
            pixels = np.asarray(opened(data, path).convert("RGBA"), dtype=np.float64)
        except PictureError:
            return ()
        high, wide = pixels.shape[:2]
        middle = pixels[
            high // 5 : max(high // 5 + 1, high - high // 5), wide // 4 : max(wide // 4 + 1, wide - wide // 4)
        ]
        rows = middle.mean(axis=1)
        light = rows[:, :3].sum(axis=1)
        found = (rows[int(light.argmin())], rows[int(light.argmax())])
        return tuple(dict.fromkeys(Rgba(round(r), round(g), round(b), a / 255) for r, g, b, a in found))

    def repainted(self, path: str) -> bytes:
        """Return a pixel picture's new bytes, the old ones where nothing changes."""
        if path not in self._repainted:
            self._repainted[path] = self._made(path, "data", self._paint_anew)
        return self._repainted[path]

    def _made(self, path: str, what: str, make: Callable[[str], T]) -> T:
        """Return what is made of a picture, as it was made for the look before where its colours become the same."""
        key = self._becomes.get(path)
        if key is None:
            return make(path)
        known = _MADE.setdefault(self._theme, {})
        if (path, what) not in known or known[path, what][0] != key:
            known[path, what] = key, make(path)
        found: T = known[path, what][1]
        return found

    @cached_property
    def _becomes(self) -> dict[str, Hashable]:
        """Return for pictures of sheets all that it depends on how they are redrawn: their colours, what is around."""
        around = (self._scheme.mend, *self._under_marks) if self._scheme.mend else ()
        out: dict[str, Hashable] = {}
        for chart, rows in self._colours_by_chart().items():
            chart.learn(np.concatenate(list(rows.values())))
            out |= {path: (chart.carry_pixels(colours).tobytes(), around) for path, colours in rows.items()}
        return out

    def _colours_by_chart(self) -> dict[ColourMap, dict[str, NDArray[np.uint8]]]:
        known = _COLOURS.setdefault(self._theme, {})
        out: dict[ColourMap, dict[str, NDArray[np.uint8]]] = {}
        for path in sorted(self.pictures - self._iconic):
            if path not in known:
                try:
                    known[path] = colours_in(self._theme.data(path), path)
                except PictureError:
                    known[path] = None
            colours = known[path]
            if colours is not None:
                out.setdefault(self._chart_of(path), {})[path] = colours
        return out

    def _paint_anew(self, path: str) -> bytes:
        name = path.rpartition("/")[2]
        fresh = recoloured_image(self._theme.data(path), name, self._chart_of(path))
        iconic = path in self._iconic
        if not self._scheme.mend or not (iconic or (_MARK.search(path) and not _OFF.search(path))):
            return fresh
        image = opened(fresh, name)
        if iconic and max(image.size) > _ICON:
            return fresh
        colours = _solid_colours(image)
        moved = self._readable(colours, colours) if iconic else self._framed(colours, face_of(fresh, name).edge)
        if moved != colours:
            anchors = [Anchor(a, b, firm=True) for a, b in zip(colours, moved, strict=True)]
            fresh = recoloured_image(fresh, name, map_of(anchors))
        if not iconic and _CHOSEN.search(name):
            fresh = with_clear_tick(fresh, name, self._scheme.faces("window")[0], MARK.level * _SURE)
        return fresh

    def group_rows(self) -> list[RecolouredGroup]:
        """Return the account of an icon theme's colours: its leading one."""
        lead = self.lead if self._iconic else None
        if lead is None:
            return []
        files = sum(any(s.colour.opaque == lead for s in self._theme.texts[p].spans) for p in self.paths & self._iconic)
        files = files or len(self.pictures & self._iconic)  # pixels are not counted one by one
        target = chosen_colour(self._choice, self._scheme.colours) or lead
        role = "" if self._choice == KEEP else self._choice
        return [
            RecolouredGroup(
                LEAD, lead, target, role, tr("the most common colour of the icons"), self._counts[lead], files
            )
        ]
