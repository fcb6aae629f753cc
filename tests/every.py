"""A contract over all rows of a table in one test: quick, and all rows that break it are told."""

from __future__ import annotations

import inspect
from collections.abc import Callable, Iterable
from functools import wraps
from typing import Any

import pytest

_MOST_TOLD = 12


def every(name: str, rows: Iterable[Any], told: Callable[[Any], str] = str) -> Callable[..., Any]:
    """Run a test with each row as an argument of a name; told: what a row is called when the contract is broken."""
    rows = list(rows)

    def decorate(test: Callable[..., None]) -> Callable[..., None]:
        @wraps(test)
        def run(**given: Any) -> None:
            broken = []
            for row in rows:
                try:
                    test(**{name: row}, **given)
                except pytest.skip.Exception:
                    continue
                except AssertionError as error:
                    broken.append(f"{told(row)}: {' '.join(str(error).split())[:300]}")
            assert not broken, f"{len(broken)} of {len(rows)} break it:\n" + "\n".join(broken[:_MOST_TOLD])

        signature = inspect.signature(test)
        run.__signature__ = signature.replace(  # type: ignore[attr-defined]
            parameters=[p for key, p in signature.parameters.items() if key != name]
        )
        return run

    return decorate
