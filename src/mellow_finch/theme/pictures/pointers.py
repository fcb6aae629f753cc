"""Which colours a theme's pointers take from a look."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

from ...colour.gamut import rgba_to_oklch
from ...colour.rgb import Rgba
from ...components.model import Scheme
from ...recolour.colour_map import Anchor, ColourMap, map_of, vivid_among
from ...recolour.pointers import Pointer, straight


def pointer_map(pointers: Iterable[Pointer], scheme: Scheme) -> ColourMap:
    """Return the map of pointers: a pointer's body takes the look's window text, its edge what it lies on.

    A coloured pointer keeps its greys and turns toward the accent.
    """
    counts: Counter[Rgba] = Counter()
    for pointer in pointers:
        for image in pointer.images[:1]:
            colours, alpha = straight(image.pixels)
            counts.update(Rgba(*c) for c, a in zip(colours.tolist(), alpha.tolist(), strict=True) if a > 200)
    flags = dict(zip(counts, vivid_among(list(counts)), strict=True))
    vivid = Counter({c: n for c, n in counts.items() if flags[c]})
    if sum(vivid.values()) > 0.08 * max(1, sum(counts.values())):
        lead = vivid.most_common(1)[0][0]
        return map_of([Anchor(lead, scheme.colours["accent"])])
    grey = Counter({c: n for c, n in counts.items() if not flags[c]})
    if not grey:
        return map_of([])
    body = grey.most_common(1)[0][0]
    colours_ = scheme.colours
    # The body keeps being dark or light, whichever it is; the look's own greys take over.
    light = rgba_to_oklch(body)[0] > 0.5
    pair = (colours_["window_text"], colours_["window"])
    pale, deep = sorted(pair, key=lambda c: -rgba_to_oklch(c)[0])
    edge = max(grey, key=lambda c: (abs(rgba_to_oklch(c)[0] - rgba_to_oklch(body)[0]), grey[c]))
    return map_of([Anchor(body, pale if light else deep, 2), Anchor(edge, deep if light else pale, 1)])
