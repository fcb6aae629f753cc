"""Typed values out of JSON that may come from anywhere: what is of another type or out of bounds is told by its key."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from math import isfinite
from typing import Any, NoReturn, TypeVar

from ..colour.rgb import Rgba, parse_hex
from ..language import tr

T = TypeVar("T")
MOST_TEXT = 4_000  # characters of one text: a path, a name
MOST_ROWS = 10_000  # of one list or table
MOST_NUMBER = 1e9
_MOST_DIGITS = 20
_MOST_DEPTH = 40


class WrongValueError(ValueError):
    """A value that cannot be what it stands for; the message names its key."""


def _no_constant(word: str) -> NoReturn:
    raise WrongValueError(tr("{word} is not a number").format(word=word))


def _integer(digits: str) -> int:
    if len(digits) > _MOST_DIGITS:
        raise WrongValueError(tr("a number has {count} digits").format(count=len(digits)))
    return int(digits)


def _decimal(digits: str) -> float:
    number = float(digits) if len(digits) <= 60 else float("inf")
    if not isfinite(number):
        raise WrongValueError(tr("“{digits}” is too large or too long a number").format(digits=digits[:20]))
    return number


def read_json(text: str) -> Any:
    """Return what JSON says, every number finite and short.

    Raises json.JSONDecodeError, RecursionError, or WrongValueError for numbers that are none.
    """
    return json.loads(text, parse_constant=_no_constant, parse_int=_integer, parse_float=_decimal)


class Table:
    """One JSON object whose values are asked for by key and type."""

    def __init__(self, data: object, where: str = "") -> None:
        if not isinstance(data, dict):
            raise WrongValueError(tr("{words} is not a table").format(words=where or "it"))
        if len(data) > MOST_ROWS:
            raise WrongValueError(tr("{words} has too many entries").format(words=where or "it"))
        self.data: dict[str, Any] = data
        self._where = where

    def path(self, key: str) -> str:
        """Return the whole way to a key."""
        return f"{self._where}.{key}" if self._where else key

    def has(self, key: str) -> bool:
        """Tell whether there is a value, null counting as none."""
        return self.data.get(key) is not None

    def _value(self, key: str) -> Any:
        if not self.has(key):
            raise WrongValueError(tr("{path} is missing").format(path=self.path(key)))
        return self.data[key]

    def text(self, key: str, default: str | None = None, most: int = MOST_TEXT) -> str:
        """Return a text."""
        if default is not None and not self.has(key):
            return default
        return checked_text(self._value(key), self.path(key), most)

    def flag(self, key: str, default: bool) -> bool:
        """Return true or false."""
        value = self.data.get(key, default)
        if not isinstance(value, bool):
            raise WrongValueError(tr("{path} is neither true nor false").format(path=self.path(key)))
        return value

    def number(self, key: str, low: float, high: float, default: float | None = None) -> float:
        """Return a number, brought into its range."""
        if default is not None and not self.has(key):
            return default
        return min(high, max(low, checked_number(self._value(key), self.path(key))))

    def colour(self, key: str) -> Rgba:
        """Return an opaque colour."""
        return checked_colour(self._value(key), self.path(key))

    def table(self, key: str, needed: bool = False) -> Table:
        """Return the table at a key, an empty one where there is none and none is needed."""
        return Table(self._value(key) if needed or self.has(key) else {}, self.path(key))

    def rows(self, key: str, of: Callable[[Any, str], T], most: int = MOST_ROWS) -> tuple[T, ...]:
        """Return a list whose every entry is read in one way."""
        value = self.data.get(key)
        if value is None:
            return ()
        if not isinstance(value, list):
            raise WrongValueError(tr("{path} is not a list").format(path=self.path(key)))
        if len(value) > most:
            raise WrongValueError(tr("{path} has more than {most} entries").format(path=self.path(key), most=most))
        return tuple(of(one, f"{self.path(key)}[{i}]") for i, one in enumerate(value))

    def texts(self, key: str) -> tuple[str, ...]:
        """Return a list of texts."""
        return self.rows(key, checked_text)

    def each(self, key: str, of: Callable[[Any, str], T]) -> Iterator[tuple[str, T]]:
        """Yield the keys and values of a table whose every value is read in one way."""
        inner = self.table(key)
        for name, value in inner.data.items():
            yield checked_text(name, inner.path(tr("a key"))), of(value, inner.path(name))


def checked_text(value: object, where: str, most: int = MOST_TEXT) -> str:
    """Return a text that is one, of bounded length and of real characters."""
    if not isinstance(value, str):
        raise WrongValueError(tr("{where} is not text").format(where=where))
    if len(value) > most:
        raise WrongValueError(tr("{where} is longer than {most} characters").format(where=where, most=most))
    if any("\ud800" <= c <= "\udfff" for c in value):
        raise WrongValueError(tr("{where} contains an invalid character").format(where=where))
    return value


def checked_number(value: object, where: str) -> float:
    """Return a finite number."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise WrongValueError(tr("{where} is not a number").format(where=where))
    if not abs(value) <= MOST_NUMBER:
        raise WrongValueError(tr("{where} is too large").format(where=where))
    return float(value)


def checked_colour(value: object, where: str) -> Rgba:
    """Return an opaque colour of the form #rrggbb."""
    text = checked_text(value, where, 40)
    try:
        return parse_hex(text).opaque
    except ValueError as error:
        raise WrongValueError(f"{where}: {error}") from error


def checked_tree(value: object, where: str, depth: int = 0) -> Any:
    """Return anything that JSON can say, bounded in depth, to be written down again as it came."""
    if depth > _MOST_DEPTH:
        raise WrongValueError(tr("{where} is nested too deeply").format(where=where))
    if isinstance(value, dict):
        table = Table(value, where)
        return {checked_text(k, where): checked_tree(v, table.path(k), depth + 1) for k, v in value.items()}
    if isinstance(value, list):
        if len(value) > MOST_ROWS:
            raise WrongValueError(tr("{where} has too many entries").format(where=where))
        return [checked_tree(v, f"{where}[{i}]", depth + 1) for i, v in enumerate(value)]
    if isinstance(value, str):
        return checked_text(value, where, 100 * MOST_TEXT)
    return value
