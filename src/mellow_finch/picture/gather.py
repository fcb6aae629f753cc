"""The colours common to one or several pictures."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

import numpy as np

from ..colour.rgb import from_unit
from ..colour.spaces import lab_to_srgb, srgb_to_lab
from .load import Picture, load_picture
from .quantize import nearest_centres, quantize
from .swatches import Swatch, swatches_of

_PER_PICTURE = 24


def gather_pictures(paths: Sequence[Path], count: int = 8) -> tuple[Swatch, ...]:
    """Return up to count swatches of the pictures taken together, each picture with the same weight.

    Raises PictureError or FileAccessError for a picture that cannot be read.
    """
    return gather_loaded([load_picture(Path(p)) for p in paths], count)


def gather_loaded(pictures: Sequence[Picture], count: int = 8) -> tuple[Swatch, ...]:
    """Return the swatches of pictures that are loaded already."""
    if len(pictures) == 1:
        return swatches_of(pictures[0], count)
    rows = [s for p in pictures for s in swatches_of(p, _PER_PICTURE)]
    lab = srgb_to_lab(np.array([s.colour.unit for s in rows]))
    share = np.array([s.share for s in rows]) / len(pictures)
    centres, _ = quantize(lab, share, count)
    labels = nearest_centres(lab, centres)
    found: list[Swatch] = []
    for i in range(len(centres)):
        members = np.flatnonzero(labels == i)
        if members.size:
            mean = (lab[members] * share[members, None]).sum(0) / share[members].sum()
            lead = rows[int(members[share[members].argmax()])]
            colour = from_unit(*np.clip(lab_to_srgb(mean), 0, 1).tolist())
            found.append(Swatch(colour, float(share[members].sum()), lead.at, lead.vivid))
    return tuple(sorted(found, key=lambda s: -s.share))
