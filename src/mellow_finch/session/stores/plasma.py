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
# What says what a plug-in shows, by schema: itself, the key of the value, and those whose values stand in the kind.
_PLUGINS = {
    "": (_IMAGE, "Image", ("FillMode",)),
    "slideshow": ("org.kde.slideshow", "SlidePaths", ("FillMode", "SlideInterval", "SlideshowMode", "Image")),
}
_ALL = """
var want = %s, out = {};
desktops().forEach(function (d) {
    d.currentConfigGroup = ["Wallpaper", want[0], "General"];
    out[d.id] = [d.wallpaperPlugin].concat(want[1].map(function (key) { return String(d.readConfig(key, "")); }));
});
print(JSON.stringify(out));
"""
_SET = """
var want = %s;
desktops().forEach(function (d) {
    if (String(d.id) !== want[0]) { return; }
    d.wallpaperPlugin = want[1];
    d.currentConfigGroup = ["Wallpaper", want[2], "General"];
    want[3].forEach(function (row) { d.writeConfig(row[0], row[1] === "" ? undefined : row[1]); });
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
    """A key is a desktop's number; a schema tells of which plug-in, "" for an image or "slideshow".

    A value is the address of the image, or the folder of the slideshow; a kind is "plug-in that shows|how it lies", for
    a slideshow "…|how it lies|seconds|order|image". What was never set is empty.
    """

    def _run(self, script: str) -> str | None:
        """Return what a script printed, None where no shell of this kind runs."""
        try:
            return str(call(_SHELL, "evaluateScript", "s", (script,))[0])
        except (BusError, IndexError):
            return None

    def _desktops(self, schema: str) -> dict[str, list[str]]:
        """Return by number which plug-in a desktop shows, and what a plug-in's keys say there."""
        plugin, main, others = _PLUGINS[schema]
        try:
            found: Any = json.loads(self._run(_ALL % json.dumps([plugin, [main, *others]])) or "{}")
            return {str(number): [str(value) for value in values] for number, values in found.items()}
        except (ValueError, TypeError, AttributeError):
            return {}

    def read(self, schema: str, key: str) -> SettingValue:
        """Return what a desktop shows; it counts as set, empty where it shows another kind of thing."""
        found = self._desktops(schema).get(key)
        return ABSENT if found is None else SettingValue("set", found[1], "|".join((found[0], *found[2:])))

    def write(self, schema: str, key: str, value: str, kind: str) -> None:
        """Set what a desktop shows; a kind without a plug-in is of the schema's own."""
        plugin, main, others = _PLUGINS[schema]
        shows, *rest = kind.split("|", len(others))
        rows = [(main, value), *zip(others, (*rest, *[""] * len(others)), strict=False)]
        if not value:  # the shell's own picture comes back only when the plug-in is taken up anew
            self._run(_SET % json.dumps([key, _COLOUR, plugin, rows]))
        self._run(_SET % json.dumps([key, shows or plugin, plugin, rows]))

    def reset(self, schema: str, key: str, kind: str) -> None:
        """Let a desktop show what it shows when nothing was set."""
        self.write(schema, key, "", kind)

    def keys(self, schema: str, pattern: str) -> list[str]:
        """Return the numbers of the desktops."""
        return sorted(fnmatch.filter(self._desktops(schema), pattern))

    def file(self, _schema: str) -> Path | None:
        """Return that they stand in no file of the person's own."""
        return None

    def reread(self, _schema: str) -> None:
        """Do nothing."""
