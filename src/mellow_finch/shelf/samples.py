"""Looks for the shelf of the demo home: one of each of its pictures, and two of schemes of ours."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path

from ..look.gather import look_of_pictures
from ..look.model import Look
from ..look.ready import READY_BY_ID
from ..palette.recipe import TONES

_SCHEMES = ("kingfisher", "redshank")
_MOST_PICTURES = 5


def sample_looks(pictures: Sequence[Path]) -> Iterator[Look]:
    """Yield the looks, each as soon as it is worked out. Raises what reading the pictures raises."""
    base = None
    for i, picture in enumerate(pictures[:_MOST_PICTURES]):
        look = look_of_pictures([picture], TONES[i % len(TONES)])
        base = base or look
        yield look
    for id_ in _SCHEMES:
        yield READY_BY_ID[id_].look(base)
