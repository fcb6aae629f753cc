"""Xfce's settings by channel and property, over the session bus."""

from __future__ import annotations

import fnmatch
import json
import os
from collections.abc import Callable, Collection
from pathlib import Path
from typing import Any

from defusedxml import ElementTree

from ...disk.facts import read_plain
from ...errors import FileAccessError
from ..base import ABSENT, SettingValue
from ..bus import Address, BusError, call

_DAEMON = Address("org.xfce.Xfconf", "/org/xfce/Xfconf", "org.xfce.Xfconf")
_CHANNELS = ".config/xfce4/xfconf/xfce-perchannel-xml"
_SYSTEM = (Path("/etc/xdg/xfce4/xfconf/xfce-perchannel-xml"),)


def _plain(value: Any) -> Any:
    """Return a value without the types of an array's members; `kind` names them."""
    return [member[1] for member in value] if isinstance(value, list) else value


class Xfconf:
    """Reads and writes properties with their types.

    Only the person's own files tell whether a property is set, and these are written some seconds late: one that has
    the system's value, and does not stand in a file of the person's with it, counts as not set. filled: channels that
    their program fills with its own defaults and in which nothing may be reset (programs crash over it): what is there
    counts as set.
    """

    def __init__(self, home: Path, filled: Collection[str] = ("xfwm4",)) -> None:
        self._home, self._filled = home, frozenset(filled)

    def _call(self, method: str, signature: str, body: tuple[Any, ...]) -> Any:
        """Return what the settings daemon answers, None when it does not or refuses."""
        try:
            body = call(_DAEMON, method, signature, body)
        except BusError:
            return None
        return body[0] if body else True

    def read(self, schema: str, key: str) -> SettingValue:
        """Return what a property is."""
        found = self._call("GetProperty", "ss", (schema, key))
        if found is None:
            return SettingValue("unset") if self._call("ListChannels", "", ()) is not None else ABSENT
        kind, value = found
        text = value if isinstance(value, str) else json.dumps(_plain(value))
        if schema in self._filled or self._own(schema, key) == text or not self._like_system(schema, key, text):
            return SettingValue("set", text, kind if kind != "av" else _array_kind(value))
        return SettingValue("unset")

    def write(self, schema: str, key: str, value: str, kind: str) -> None:
        """Set a property."""
        signature = kind or "s"
        if signature.startswith("av"):
            members = signature[2:]
            body: Any = [(members[i], v) for i, v in enumerate(json.loads(value))]
            self._call("SetProperty", "ssv", (schema, key, ("av", body)))
            return
        plain: Any = value if signature == "s" else json.loads(value)
        self._call("SetProperty", "ssv", (schema, key, (signature, plain)))

    def reset(self, schema: str, key: str, _kind: str) -> None:
        """Let a property be not set; in channels that their program fills, nothing is."""
        if schema not in self._filled:
            self._call("ResetProperty", "ssb", (schema, key, False))

    def keys(self, schema: str, pattern: str) -> list[str]:
        """Return the properties of a channel that match."""
        found = self._call("GetAllProperties", "ss", (schema, "/"))
        return sorted(fnmatch.filter(found, pattern)) if isinstance(found, dict) else []

    def file(self, _schema: str) -> Path | None:
        """Return that they stand in no file of the person's own."""
        return None

    def reread(self, _schema: str) -> None:
        """Do nothing."""

    # What is set by whom

    def _own(self, channel: str, key: str) -> str | None:
        told = Path(os.environ.get("XDG_CONFIG_HOME", ""))
        base = told if told.is_absolute() else self._home / ".config"
        return self._in_file(base / _CHANNELS.removeprefix(".config/") / f"{channel}.xml", key)

    def _like_system(self, channel: str, key: str, text: str) -> bool:
        """Tell whether a property has the value that the system's files give it; they say nothing of most."""
        values = (self._in_file(folder / f"{channel}.xml", key) for folder in _SYSTEM)
        return next((v == text for v in values if v is not None), False)

    @staticmethod
    def _in_file(path: Path, key: str) -> str | None:
        """Return a property's value in a channel's file as text; None where it has none in it."""
        try:
            data = read_plain(path)
            node = ElementTree.fromstring(data) if data else None
        except (FileAccessError, ElementTree.ParseError, ValueError):
            return None
        for name in filter(None, key.split("/")):
            if node is None:
                return None
            node = next((c for c in node.findall("property") if c.get("name") == name), None)
        if node is None or node.get("type") == "empty":
            return None
        if node.get("type") == "array":
            return json.dumps([_typed(c.get("type", ""), c.get("value", "")) for c in node.findall("value")])
        value = _typed(node.get("type", ""), node.get("value", ""))
        return value if isinstance(value, str) else json.dumps(value)


_READERS: dict[str, Callable[[str], Any]] = {
    "int": int, "uint": int, "int64": int, "uint64": int, "double": float, "bool": lambda v: v == "true"
}  # fmt: skip


def _typed(kind: str, text: str) -> Any:
    try:
        return _READERS.get(kind, str)(text)
    except ValueError:
        return text


def _array_kind(value: Any) -> str:
    return "av" + "".join(str(member[0]) for member in value)
