"""The colours common to one or several pictures."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..colour.rgb import from_unit
from ..colour.spaces import lab_to_srgb, srgb_to_lab
from .load import LoadedPicture
from .quantize import nearest_centres, quantize
from .swatches import Swatch, swatches_of

_PER_PICTURE = 24


def gather_loaded(pictures: Sequence[LoadedPicture], count: int = 8) -> tuple[Swatch, ...]:
    """Return the swatches of pictures that are loaded already."""
    if len(pictures) == 1:
        return swatches_of(pictures[0], count)
    return common_swatches([swatches_of(p, _PER_PICTURE) for p in pictures], count=count)


def common_swatches(
    members: Sequence[Sequence[Swatch]], weights: Sequence[float] | None = None, count: int = 8
) -> tuple[Swatch, ...]:
    """Return up to count swatches common to several pictures, largest share first.

    members: the swatches of each picture; weights: how much each counts, all alike when not given; one with weight 0
    is left out. A swatch lies where it lies in the picture that has most of it. Empty when nothing has any weight.
    """
    amounts = np.ones(len(members)) if weights is None else np.asarray(weights, dtype=np.float64)
    used = [(row, w) for row, w in zip(members, amounts.tolist(), strict=True) if w > 0 and row]
    if not used:
        return ()
    total = sum(w for _, w in used)
    rows = [(s, s.share * w / total) for row, w in used for s in row]
    lab = srgb_to_lab(np.array([s.colour.unit for s, _ in rows]))
    share = np.array([part for _, part in rows])
    centres, _ = quantize(lab, share, count)
    labels = nearest_centres(lab, centres)
    found: list[Swatch] = []
    for i in range(len(centres)):
        members_of = np.flatnonzero(labels == i)
        if members_of.size:
            mean = (lab[members_of] * share[members_of, None]).sum(0) / share[members_of].sum()
            lead = rows[int(members_of[share[members_of].argmax()])][0]
            colour = from_unit(*np.clip(lab_to_srgb(mean), 0, 1).tolist())
            found.append(Swatch(colour, float(share[members_of].sum()), lead.at, lead.vivid))
    return tuple(sorted(found, key=lambda s: -s.share))
