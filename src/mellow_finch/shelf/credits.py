"""Whose themes go along with a look, and what may be done with them, as their own files say."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from ..errors import FinchError
from ..look.model import Look
from ..theme.bundle.kinds import is_terms
from ..theme.bundle.opened import open_bundle, theme_name

_MOST = 90  # letters of a line of terms


def credits_of(look: Look) -> Iterator[str]:
    """Yield a line for each theme of a look that is there: its name, the file with its terms, their first line."""
    for path in (Path(p) for p in look.brought):
        if not path.exists():
            continue
        try:
            bundle = open_bundle(path)
            own = sorted((p for p in bundle.entries if is_terms(p)), key=lambda p: (p.count("/"), p))
            terms = bundle.data(own[0]).decode("utf-8", "replace") if own else ""
        except (FinchError, KeyError):
            continue  # it goes along as it is; nothing can be said of it
        first = next((" ".join(line.split()) for line in terms.splitlines() if line.strip()), "")
        said = f"{own[0].rpartition('/')[2]}: {first[:_MOST]}" if own else "it says no licence; ask who made it"
        yield f"{theme_name(path)} ({said})"
