"""What the commands have in common: how they print, and how they tell what went wrong."""

from __future__ import annotations

import json
import sys
from collections.abc import Callable
from functools import wraps
from typing import Any

import click

from .errors import FinchError

JSON_OPTION = click.option("--json", "as_json", is_flag=True, help="Print stable JSON.")


def print_json(data: object) -> None:
    """Print data as JSON that stays the same for the same data."""
    click.echo(json.dumps(data, indent=1, ensure_ascii=False))


def in_a_sentence(function: Callable[..., Any]) -> Callable[..., Any]:
    """Turn errors that people can cause into one line and exit code 2."""

    @wraps(function)
    def guarded(*args: Any, **kwargs: Any) -> Any:
        try:
            return function(*args, **kwargs)
        except FinchError as error:
            click.echo(f"mellow-finch: {error.line()}", err=True)
            sys.exit(2)

    return guarded
