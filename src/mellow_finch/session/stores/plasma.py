"""The picture behind Plasma's desktop, through the scripts that its shell runs."""

from __future__ import annotations

import fnmatch
import json
import time
from pathlib import Path
from typing import Any

from ..base import ABSENT, SettingValue
from ..bus import Address, BusError, call
from .keyfile import KeyFiles

_SHELL = Address("org.kde.plasmashell", "/PlasmaShell", "org.kde.PlasmaShell")
_IMAGE, _COLOUR = "org.kde.image", "org.kde.color"
_SEEN_S = 0.6  # more than the shell waits before it reads a file that changed
_ALL = """
var out = {};
desktops().forEach(function (d) {
    d.currentConfigGroup = ["Wallpaper", "org.kde.image", "General"];
    out[d.id] = [d.wallpaperPlugin, String(d.readConfig("Image", "")), String(d.readConfig("FillMode", ""))];
});
print(JSON.stringify(out));
"""
_SET = """
var want = %s;
desktops().forEach(function (d) {
    if (String(d.id) !== want[0]) { return; }
    d.wallpaperPlugin = want[1];
    d.currentConfigGroup = ["Wallpaper", "org.kde.image", "General"];
    d.writeConfig("Image", want[2] === "" ? undefined : want[2]);
    d.writeConfig("FillMode", want[3] === "" ? undefined : want[3]);
    d.reloadConfig();
});
"""


class PlasmaTheme(KeyFiles):
    """The file in which the panel's theme is chosen; what runs sees it change, but not go away."""

    def reset(self, schema: str, key: str, kind: str) -> None:
        """Choose the shell's own theme, and take the key out once that was seen."""
        self.write(schema, key, "default", "")
        time.sleep(_SEEN_S)
        super().reset(schema, key, kind)


class PlasmaPictures:
    """A key is a desktop's number, a value the address of its picture, a kind "plug-in|how it lies".

    How it lies is empty where that was never set.
    """

    def _run(self, script: str) -> str | None:
        """Return what a script printed, None where no shell of this kind runs."""
        try:
            return str(call(_SHELL, "evaluateScript", "s", (script,))[0])
        except (BusError, IndexError):
            return None

    def _desktops(self) -> dict[str, tuple[str, str, str]]:
        try:
            found: Any = json.loads(self._run(_ALL) or "{}")
            return {str(n): (str(plugin), str(image), str(mode)) for n, (plugin, image, mode) in found.items()}
        except (ValueError, TypeError, AttributeError):
            return {}

    def read(self, _schema: str, key: str) -> SettingValue:
        """Return a desktop's picture; it counts as set, empty where it shows another kind of thing."""
        found = self._desktops().get(key)
        return ABSENT if found is None else SettingValue("set", found[1], f"{found[0]}|{found[2]}")

    def write(self, _schema: str, key: str, value: str, kind: str) -> None:
        """Set a desktop's picture; a kind without a plug-in is a picture."""
        plugin, _, mode = kind.rpartition("|")
        if not value:  # the shell's own picture comes back only when the plug-in is taken up anew
            self._run(_SET % json.dumps([key, _COLOUR, value, mode]))
        self._run(_SET % json.dumps([key, plugin or _IMAGE, value, mode]))

    def reset(self, schema: str, key: str, kind: str) -> None:
        """Let a desktop show what it shows when nothing was set."""
        self.write(schema, key, "", kind)

    def keys(self, _schema: str, pattern: str) -> list[str]:
        """Return the numbers of the desktops."""
        return sorted(fnmatch.filter(self._desktops(), pattern))

    def file(self, _schema: str) -> Path | None:
        """Return that they stand in no file of the person's own."""
        return None

    def reread(self, _schema: str) -> None:
        """Do nothing."""
