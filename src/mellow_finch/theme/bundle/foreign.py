"""Words in somebody's files that belong to another computer, and fonts that are missing here. Only read, never run.

Found are network interfaces, monitors, home folders and places for the weather where they stand in settings, and font
families; each with what this computer has instead, to be replaced in every file at once when the person says so.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from ...disk.facts import read_plain
from ...errors import FileAccessError
from ...intake.bounded import BoundsError, run_bounded
from ...language import listed, standing, tr
from ...syntax.spans import line_of
from .model import Theme

INTERFACE, MONITOR, HOME, CITY, FONT = "interface", "monitor", "home", "city", "font"
TITLES: Mapping[str, str] = {
    INTERFACE: tr("Network interface"),
    MONITOR: tr("Monitor"),
    HOME: tr("Home folder"),
    CITY: tr("Location"),
    FONT: tr("Font"),
}


@dataclass(frozen=True, slots=True)
class ThisComputer:
    """What this computer has. Anything may be empty when it is not known."""

    interfaces: tuple[str, ...] = ()
    monitors: tuple[str, ...] = ()
    home: str = ""
    city: str = ""
    fonts: frozenset[str] = frozenset()


_DEVICE = r"(?:en[opsx][\w]{1,12}|eth\d{1,2}|wl[opsx][\w]{1,12}|wlan\d{1,2}|ww[apsx]\w{1,12}|usb\d|br\d|ppp\d|tun\d)"
_OUTPUT = r"(?:e?DP|HDMI(?:-[AB])?|DVI(?:-[ID])?|VGA|LVDS|Virtual|DisplayPort)-?\d(?:-\d)?"
_ROWS: tuple[tuple[str, re.Pattern[str]], ...] = (
    (INTERFACE, re.compile(rf"(?<![\w./-])({_DEVICE})(?![\w.])")),
    (MONITOR, re.compile(rf"(?<![\w-])({_OUTPUT})(?![\w-])")),
    (HOME, re.compile(r"(?<![\w.])(/home/[A-Za-z_][\w.-]*)(?=[/\s\"'})\]:;,]|$)", re.MULTILINE)),
    (
        CITY,
        re.compile(
            r"(?im)(?:\b(?:city|location|place|town|wttr\.in/|city_id|lat_?lon)\b\s*[=:]?\s*[\"']?|wttr\.in/)"
            r"([A-Z][A-Za-z' -]{2,40}?)(?=[\"'?,;\s\]})]*(?:$|[\"'?,;\]})]))"
        ),
    ),
)
_FONTS = (
    re.compile(
        r"(?im)\bfont(?:[-_]?family|_?name|\d)?\s*[=:]\s*[\"']?([A-Z][A-Za-z0-9 +_-]{1,48}?)(?=[:,;\"'\n]|\s+\d+|$)"
    ),
    re.compile(r"\$\{font\d?\s+([A-Z][^:}]{1,48}?)(?=[:}])"),
    re.compile(r"(?im)\bxftfont\s+([A-Z][^:\n]{1,48}?)(?=[:\n])"),
)
_GENERIC = frozenset(
    "sans serif monospace mono cursive fantasy system-ui inherit initial sans-serif bold italic regular normal".split()  # noqa: SIM905
)


@dataclass(frozen=True, slots=True)
class ForeignName:
    """A word that is not of this computer. kind: what it names; instead: what this computer has, empty when unknown.

    places: (file, line) of each time it stands somewhere.
    """

    kind: str
    text: str
    instead: str
    places: tuple[tuple[str, int], ...]

    @property
    def says(self) -> str:
        """Return the word in a sentence."""
        files = len({path for path, _ in self.places})
        words = (
            tr("{kind} “{word}” is not installed here: {places}")
            if self.kind == FONT
            else tr("{kind} “{word}” does not belong to this computer: {places}")
        )
        return words.format(kind=TITLES[self.kind], word=self.text, places=standing(len(self.places), files))


# Themes and widgets say such words; drawings and stylesheets of themes do not.
_LOOKED_AT = frozenset(
    "lua widget-words bar-ini panel-blocks notification-rc notification-keys manager-words compositor-words rasi json "  # noqa: SIM905
    "terminal-words terminal-bare terminal-toml terminal-yaml launcher-bare scss shell-scripts".split()
)


def foreign_words(theme: Theme, here: ThisComputer) -> tuple[ForeignName, ...]:
    """Return the words of a theme's settings that belong to another computer, and its missing fonts, kind by kind."""
    found: dict[tuple[str, str], list[tuple[str, int]]] = {}
    for path, text in theme.texts.items():
        if text.format.id in _LOOKED_AT or path.endswith("waybar/style.css"):
            for kind, word, at in _words_in(text.text):
                if not _is_ours(kind, word, here):
                    found.setdefault((kind, word), []).append((path, line_of(text.text, at)[0]))
    order = list(TITLES)
    rows = sorted(found.items(), key=lambda row: (order.index(row[0][0]), row[0][1]))
    return tuple(ForeignName(kind, word, _instead(kind, word, here), tuple(places)) for (kind, word), places in rows)


def _words_in(text: str) -> Iterable[tuple[str, str, int]]:
    for kind, pattern in _ROWS:
        for found in pattern.finditer(text):
            yield kind, found.group(1).strip(), found.start(1)
    for pattern in _FONTS:
        for found in pattern.finditer(text):
            name = re.sub(r"\s+(?:Bold|Italic|Regular|Light|Medium|\d+)+$", "", found.group(1).strip())
            if name.lower() not in _GENERIC and not name.lower().startswith(("true", "false")):
                yield FONT, name, found.start(1)


def _is_ours(kind: str, word: str, here: ThisComputer) -> bool:
    if kind == INTERFACE:
        return word in here.interfaces
    if kind == MONITOR:
        return word in here.monitors
    if kind == HOME:
        return word == here.home
    if kind == CITY:
        return word == here.city
    return not here.fonts or word.lower() in here.fonts


def _instead(kind: str, word: str, here: ThisComputer) -> str:
    if kind == INTERFACE:
        wireless = word.startswith(("wl", "ww"))
        alike = [i for i in here.interfaces if i.startswith(("wl", "ww")) == wireless]
        return next(iter(alike or here.interfaces), "")
    if kind == MONITOR:
        return next(iter(here.monitors), "")
    if kind == HOME:
        return here.home
    if kind == CITY:
        return here.city
    mono = "mono" in word.lower() or "code" in word.lower()
    wanted = (
        ("dejavu sans mono", "liberation mono", "monospace") if mono else ("dejavu sans", "liberation sans", "sans")
    )
    best = next((w for w in wanted if w in here.fonts), wanted[-1])
    return best.title().replace("Dejavu", "DejaVu")


# What may be written instead of a word of each kind: never what a format could take for more than that.
_FITS: Mapping[str, re.Pattern[str]] = {
    INTERFACE: re.compile(r"[A-Za-z0-9][\w.:-]{0,31}", re.ASCII),
    MONITOR: re.compile(r"[A-Za-z0-9][\w-]{0,31}", re.ASCII),
    HOME: re.compile(r"(?:/(?!\.\.(?:/|$))[\w.-]+){1,20}"),
    CITY: re.compile(r"\w[\w .-]{0,59}"),
    FONT: re.compile(r"\w[\w .+-]{0,59}"),
}


def fitting_words(theme: Theme, chosen: Mapping[str, str]) -> tuple[dict[str, str], tuple[str, ...]]:
    """Return what is to be written instead of words that a theme really holds, and a sentence for each that is not.

    A word is replaced by one of its own kind alone: whoever chose it, it lands in files that programs run.
    """
    if not chosen:
        return {}, ()
    kinds: dict[str, set[str]] = {}
    for path, text in theme.texts.items():
        if text.format.id in _LOOKED_AT or path.endswith("waybar/style.css"):
            for kind, word, _ in _words_in(text.text):
                kinds.setdefault(word, set()).add(kind)
    good: dict[str, str] = {}
    notes: list[str] = []
    for word, instead in chosen.items():
        if word in kinds and not all(_FITS[kind].fullmatch(instead) for kind in kinds[word]):
            titles = listed([TITLES[kind] for kind in sorted(kinds[word])])
            notes.append(
                tr("“{instead}” does not fit ({titles}), so “{word}” stays.").format(
                    instead=instead, titles=titles, word=word
                )
            )
        elif word in kinds:
            good[word] = instead
    return good, tuple(notes)


def suggested(words: Iterable[ForeignName]) -> dict[str, str]:
    """Return what would be written instead of each word for which this computer has something."""
    return {w.text: w.instead for w in words if w.instead}


@cache
def this_machine() -> ThisComputer:
    """Return what this computer has; what cannot be learned is empty."""
    return ThisComputer(_interfaces(), _monitors(), str(Path.home()), "", _fonts())


def _interfaces() -> tuple[str, ...]:
    folder = Path("/sys/class/net")
    try:
        names = sorted(p.name for p in folder.iterdir() if p.name != "lo")
    except OSError:
        return ()
    return tuple(sorted(names, key=lambda n: (not _is_up(folder / n), n)))


def _is_up(folder: Path) -> bool:
    return _said(folder / "operstate") == b"up"


def _said(path: Path) -> bytes:
    """Return what the system says in a file of its own."""
    try:
        return (read_plain(path) or b"").strip()
    except FileAccessError:
        return b""


def _monitors() -> tuple[str, ...]:
    rows = sorted(Path("/sys/class/drm").glob("card*-*/status"))
    return tuple(row.parent.name.partition("-")[2] for row in rows if _said(row) == b"connected")


def _fonts() -> frozenset[str]:
    try:
        done = run_bounded(["fc-list", "--format", "%{family}\n"], 60, 20)
    except (OSError, BoundsError):
        return frozenset()
    return frozenset(name.strip().lower() for line in done.stdout.splitlines() for name in line.split(",") if name)
