"""Patterns of data files: compiled when they are first used, since most of them never are while a window is open."""

from __future__ import annotations

import re
from functools import cached_property
from typing import Any, cast


class _Late:
    """A pattern that is compiled when something is first asked of it."""

    def __init__(self, text: str, flags: int) -> None:
        self._text, self._flags = text, flags

    @cached_property
    def _own(self) -> re.Pattern[str]:
        return re.compile(self._text, self._flags)

    def __getattr__(self, name: str) -> Any:
        return getattr(self._own, name)


def late(text: str, flags: int = 0) -> re.Pattern[str]:
    """Return a pattern to be used as any other. What is wrong with it (re.error) shows when it is first used."""
    return cast("re.Pattern[str]", _Late(text, flags))
