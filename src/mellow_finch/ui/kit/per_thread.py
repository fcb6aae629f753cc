"""Results that each thread keeps for itself: fonts, laid out words and pixmaps belong to the thread that made them.

Two threads that draw with one laid out text crash the toolkit, and so does a thread that draws with one whose maker has
ended. So a job forgets what it kept when it ends.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache, wraps
from threading import get_ident
from typing import Any, ParamSpec, TypeVar, cast

P = ParamSpec("P")
R = TypeVar("R")
_kept: dict[int, dict[object, Callable[..., Any]]] = {}  # by thread: of each function the cache of its results


def kept_per_thread(most: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Keep the latest results of a function, for each thread its own; most: how many of them."""

    def kept(function: Callable[P, R]) -> Callable[P, R]:
        @wraps(function)
        def asked(*words: P.args, **named: P.kwargs) -> R:
            own = _kept.setdefault(get_ident(), {})
            if function not in own:
                own[function] = lru_cache(maxsize=most)(function)
            return cast(R, own[function](*words, **named))

        return asked

    return kept


def forget() -> None:
    """Let go of what the running thread keeps; to be called by it, when its work has ended."""
    _kept.pop(get_ident(), None)
