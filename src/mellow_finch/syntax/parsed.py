"""Data files of the package taken apart: what was parsed when it was made ready is not parsed again at every start."""

from __future__ import annotations

import hashlib
import json
import tomllib
from collections.abc import Iterable
from functools import cache
from importlib.resources import files
from pathlib import Path
from typing import Any

# What `make` writes, by ./finch and by the packages' build; where it is missing everything is parsed as it is.
PLACE = "syntax/parsed.json"
FOLDERS = ("components/definitions", "components/sets", "syntax/formats", "session")


def _key(text: str) -> str:
    return hashlib.blake2b(text.encode("utf-8"), digest_size=12).hexdigest()


@cache
def _known() -> dict[str, str]:
    try:
        found = json.loads(files("mellow_finch").joinpath(PLACE).read_text(encoding="utf-8"))
    except (OSError, ValueError):
        return {}
    return found if isinstance(found, dict) else {}


def toml_of(text: str) -> dict[str, Any]:
    """Return what a TOML text says, freshly made. Raises tomllib.TOMLDecodeError, a ValueError, for what is none."""
    told = _known().get(_key(text))
    row: dict[str, Any] = json.loads(told) if told is not None else tomllib.loads(text)
    return row


def made(texts: Iterable[str]) -> str:
    """Return what is kept of some texts, by what they say, so that one that has changed since is parsed again."""
    return json.dumps({_key(text): json.dumps(tomllib.loads(text)) for text in texts}, sort_keys=True)


def make(package: Path) -> None:
    """Write what is kept of the data files of a package's folder into it."""
    paths = [path for folder in FOLDERS for path in sorted((package / folder).rglob("*.toml"))]
    (package / PLACE).write_text(made(path.read_text(encoding="utf-8") for path in paths), encoding="utf-8")
