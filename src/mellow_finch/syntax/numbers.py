"""Numbers as files spell them, held to what anything can be done with."""

from __future__ import annotations

_MOST = 1e9


def number(text: str | float) -> float:
    """Return a decimal number, at most a thousand million either way, whatever it is spelled with."""
    return max(-_MOST, min(_MOST, float(text)))


def share(text: str, whole: float = 1.0) -> float:
    """Return a number as a share of a whole; one with a percent sign is a share of a hundred."""
    return number(text[:-1]) / 100 if text.endswith("%") else number(text) / whole
