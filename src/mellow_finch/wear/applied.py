"""What is applied, for a person's own scripts: one file in each of four formats that always say how things are now."""

from __future__ import annotations

import logging
import shlex
from collections.abc import Callable, Mapping
from contextlib import suppress
from pathlib import Path
from types import MappingProxyType

import msgspec
import tomlkit

from ..disk.facts import read_plain
from ..disk.log import NAME
from ..disk.own import state_folder
from ..disk.write import save
from ..errors import FileAccessError
from ..look.model import Look
from .history import History
from .journal import Snapshot
from .places import history_folder, own_home

KEPT = "applied.json"  # beside the old bytes of a snapshot
_STEM = "current"
_SIXTEEN = 16


class AppliedLook(msgspec.Struct, frozen=True):
    """A look as scripts want it. colours: #rrggbb by role; terminal: the sixteen in their order."""

    name: str
    tone: str
    picture: str
    colours: dict[str, str]
    terminal: tuple[str, ...]


def applied_look(look: Look) -> AppliedLook:
    """Return what scripts are told of a look."""
    colours = {role: colour.opaque.hex for role, colour in look.colours.items()}
    sixteen = tuple(colours[f"ansi_{i}"] for i in range(_SIXTEEN))
    return AppliedLook(look.name, look.tone, look.source, colours, sixteen)


def kept_bytes(look: Look) -> bytes:
    """Return what a snapshot keeps of a look, to be told when it is in force."""
    return msgspec.json.encode(applied_look(look))


def _json(look: AppliedLook) -> str:
    return msgspec.json.format(msgspec.json.encode(look), indent=2).decode() + "\n"


def _toml(look: AppliedLook) -> str:
    """Return it as a table; only texts can need an escape, and the library takes its time for each of the others."""
    texts = {"name": look.name, "tone": look.tone, "picture": look.picture}
    rows = [f"{key} = {tomlkit.item(value).as_string()}" for key, value in texts.items()]
    rows.append(f"terminal = [{', '.join(f'{chr(34)}{colour}{chr(34)}' for colour in look.terminal)}]")
    rows += ["", "[colours]", *(f'{role} = "{colour}"' for role, colour in look.colours.items())]
    return "\n".join(rows) + "\n"


def _css(look: AppliedLook) -> str:
    rows = "".join(f"  --{role.replace('_', '-')}: {colour};\n" for role, colour in look.colours.items())
    return f":root {{\n  color-scheme: {look.tone};\n{rows}}}\n"


def _sh(look: AppliedLook) -> str:
    return "".join(f"{name}={shlex.quote(value)}\n" for name, value in variables(look).items())


def variables(look: AppliedLook) -> dict[str, str]:
    """Return a look as variables of a shell or an environment."""
    told = {"FINCH_NAME": look.name, "FINCH_TONE": look.tone, "FINCH_PICTURE": look.picture}
    named = {name: value.replace("\0", "") for name, value in told.items()}
    return named | {f"FINCH_{role.upper()}": colour for role, colour in look.colours.items()}


FORMATS: Mapping[str, Callable[[AppliedLook], str]] = MappingProxyType(
    {"json": _json, "css": _css, "sh": _sh, "toml": _toml}
)


def is_own(history: History) -> bool:
    """Tell whether a history is of the home of whoever runs this."""
    with suppress(Exception):
        return history.folder == history_folder(own_home())
    return False


def current_files(history: History) -> dict[str, Path]:
    """Return where it is told by format: the person's own in the state folder, other homes' beside their history."""
    folder = state_folder() if is_own(history) else history.folder
    return {kind: folder / f"{_STEM}.{kind}" for kind in FORMATS}


def applied_now(history: History) -> tuple[Snapshot | None, AppliedLook | None]:
    """Return the snapshot that was applied last and is in force, and the look of it or of the nearest one before."""
    worn = [s for s in history.snapshots() if s.status == "worn"]
    for snapshot in reversed(worn):
        with suppress(FileAccessError, msgspec.MsgspecError):
            data = read_plain(history.folder / snapshot.id / KEPT)
            if data is not None:
                return worn[-1], msgspec.json.decode(data, type=AppliedLook)
    return (worn[-1] if worn else None), None


def tell_current(history: History, look: AppliedLook | None) -> None:
    """Write what is applied into its files; without a look they go. What cannot be written is logged, no more."""
    for kind, path in current_files(history).items():
        try:
            if look is None:
                path.unlink(missing_ok=True)
            else:
                save(path, FORMATS[kind](look).encode("utf-8", "surrogateescape"), sync=False)
        except (FileAccessError, OSError, UnicodeError) as error:
            logging.getLogger(NAME).warning("%s could not be written: %s", path.name, error)
