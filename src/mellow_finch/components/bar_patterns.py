"""How a bar's own file tells what stands on it."""

from __future__ import annotations

from typing import NamedTuple


class BarPatterns(NamedTuple):
    """How the file of a bar tells what stands on it: for each side a pattern whose group is a list of names.

    words: a name in such a list; named: the pattern of what a name, {} in it, stands for.
    """

    left: str = ""
    middle: str = ""
    right: str = ""
    words: str = r"[\w/#.-]+"
    named: str = ""
