"""Asking the real toolkit what it paints: a gallery of every usual widget in every state, in a process of its own.

The process has an empty home with nothing but the theme in it, a hidden screen, no network where that can be taken
away, and twenty seconds. Where it cannot be run, our own judgement of the sheets is what counts.
"""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import tempfile
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from pathlib import Path
from typing import Any, NamedTuple

from ...colour.requirement import DISABLED, MARK, TEXT, Requirement
from ...colour.rgb import parse_hex
from ...components.model import Scheme
from ...disk.facts import must_read
from ...errors import FinchError
from ...intake.bounded import BoundsError, run_bounded
from ...language import named, parted, plural, states, tr
from ...progress import Progress, Silent
from ...theme.bundle.families import DRAWN_STYLE
from ...theme.bundle.kinds import target_path
from ...theme.bundle.model import Theme
from ...theme.result.account import Choices, MeasuredFailure, Outcome, OutEntry
from ...theme.result.recolour import recolour_theme
from ...theme.sheets.places import nested_part

LIMIT_S = 20.0  # in which nothing is done
_CPU_S = 120.0  # of painting a gallery, as slow as processors are
_PYTHON = "/usr/bin/python3"  # the interpreter that has the toolkit's bindings
_NAMES = "import gi; gi.require_version('Gtk', '{}.0'); from gi.repository import Gtk"
_MOST_PICTURE = 40_000_000
_BEFORE = "Before"
_DRAWN = ".config/Kvantum"
_CHOOSES = f"{_DRAWN}/kvantum.kvconfig"
_IDLE = 1  # how often in a row it may not help before that is the end: one place's rule can disturb another
_MOST_TIMES = 3  # that mending goes on
QT = 5  # stands among the generations for Qt's widgets, drawn by the engine of SVG styles
_KINDS = {"toolkit-3": 3, "toolkit-4": 4, "drawn-style": QT}
_GALLERIES = {3: "gallery_gtk3.py", 4: "gallery_gtk4.py", QT: "gallery_qt5.py"}
_NAMED = {3: "GTK 3", 4: "GTK 4", QT: "Qt"}
_OF_QT = "from PyQt5.QtWidgets import QStyleFactory as f; raise SystemExit('kvantum' not in f.keys())"
# What says the colour of words in a drawn style, by the widget in the gallery and its state; "panel": of what it is in.
_KEYS_OF_QT = {
    "label": {"rest": "GeneralColors/window.text.color", "disabled": "GeneralColors/disabled.text.color"},
    "button": {
        "rest": "PanelButtonCommand/text.normal.color",
        "hover": "PanelButtonCommand/text.focus.color",
        "pressed": "PanelButtonCommand/text.press.color",
        "checked": "PanelButtonCommand/text.toggle.color",
    },
    "check": {"rest": "CheckBox/text.normal.color", "checked": "CheckBox/text.normal.color"},
    "radio": {"rest": "RadioButton/text.normal.color", "checked": "RadioButton/text.normal.color"},
    "entry": {"rest": "LineEdit/text.normal.color"},
    "combo": {"rest": "ComboBox/text.normal.color"},
    "list row": {"rest": "ItemView/text.normal.color", "selected": "ItemView/text.toggle.color"},
    "tab": {"rest": "Tab/text.normal.color", "checked": "Tab/text.toggle.color"},
    "menu bar item": {"rest": "MenuBarItem/text.normal.color", "panel": "MenuBar/text.normal.color"},
    "menu item": {
        "rest": "MenuItem/text.normal.color",
        "hover": "MenuItem/text.focus.color",
        "disabled": "MenuItem/text.normal.color",
    },
    "tooltip": {"rest": "ToolTip/text.normal.color", "panel": "GeneralColors/tooltip.text.color"},
    "frame": {"rest": "GroupBox/text.normal.color"},
    "tool button": {"rest": "PanelButtonTool/text.normal.color"},
    "progress": {"rest": "Progressbar/text.normal.color"},
}


_FAINT = 0.4  # how much is seen of the words of a menu's entry that is off: they have no key of their own


class ToolkitError(FinchError):
    """The toolkit could not be asked."""


class MeasuredPlace(NamedTuple):
    """One place as the toolkit painted it: a widget in a state, its text, edge or mark, the colours as #rrggbb.

    place: the way down to its node as the toolkit nests it; generation: of GTK, 3 or 4, or QT;
    text_need: what texts have to reach.
    """

    widget: str
    state: str
    what: str
    ratio: float
    text: str
    surface: str
    place: str = ""
    generation: int = 3
    text_need: float = TEXT.level

    @property
    def need(self) -> Requirement:
        """Return what the place needs."""
        kind = DISABLED if self.state == "disabled" else TEXT if self.what == "text" else MARK
        return kind.raised(self.text_need)

    @property
    def passes(self) -> bool:
        """Tell whether it reaches that."""
        return self.need.met(self.ratio)

    @property
    def words(self) -> str:
        """Return what it is, for people."""
        state = "" if self.state == "rest" else f", {states(self.state)}"
        what = {"text": tr("text"), "edge": tr("edge"), "mark": tr("mark")}[self.what]
        which = {4: "GTK 4: ", QT: "Qt: "}.get(self.generation, "")
        return f"{which}{named(self.widget)}{state}: {what}"


@dataclass(frozen=True, slots=True)
class Verdict:
    """What the toolkit painted: every place, the worst first, and pictures of the gallery as PNG, one a generation.

    Where both generations were asked, version names both.
    """

    version: str
    places: tuple[MeasuredPlace, ...]
    pictures: tuple[bytes, ...]

    @property
    def short(self) -> tuple[MeasuredPlace, ...]:
        """Return the places that have insufficient contrast, worst first."""
        return tuple(p for p in self.places if not p.passes)

    @property
    def summary(self) -> str:
        """Return the verdict in a sentence."""
        count, toolkit = len(self.short), self.version if self.version.startswith("Qt") else f"GTK {self.version}"
        said = (
            tr("all with enough contrast")
            if not count
            else plural("{count} with insufficient contrast", "{count} with insufficient contrast", count)
        )
        return plural(
            "{toolkit} drew {count} place: {said}.",
            "{toolkit} drew {count} places: {said}.",
            len(self.places),
            toolkit=toolkit,
            said=said,
        )


@cache
def reason_not(generation: int = 3) -> str:
    """Return why a generation of the toolkit, or Qt, cannot be asked here, empty where it can."""
    names = _OF_QT if generation == QT else _NAMES.format(generation)
    bare = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    missing = not Path(_PYTHON).exists()
    missing = missing or bool(subprocess.run([_PYTHON, "-c", names], env=bare, capture_output=True).returncode)
    if missing:
        words = tr("{toolkit} cannot be used here ({packages} are missing): our own check is used.")
        of_gtk = ("python3-gi", f"gir1.2-gtk-{generation}.0")
        packages = parted(("python3-pyqt5", "qt5-style-kvantum") if generation == QT else of_gtk)
        return words.format(toolkit=_NAMED[generation], packages=packages)
    if generation != QT and shutil.which("xvfb-run") is None:
        return tr("There is no hidden screen for the toolkit (xvfb is missing): our own check is used.")
    return ""


@cache
def _walled() -> tuple[str, ...]:
    """Return the words that run a command without a network, none where that is not allowed."""
    words = ("unshare", "--map-root-user", "--net")
    if shutil.which(words[0]) is None:
        return ()
    done = subprocess.run([*words, "true"], capture_output=True)
    return words if done.returncode == 0 else ()


def ask_both(
    entries: Mapping[str, OutEntry], name: str, generations: Collection[int], text_need: float = TEXT.level
) -> Verdict:
    """Return what those generations of the toolkit paint that answer; see ask. Raises ToolkitError where none does."""
    rows: list[Verdict] = []
    trouble: ToolkitError | None = None
    for generation in generations:
        try:
            rows.append(ask(entries, name, generation, text_need))
        except ToolkitError as error:
            trouble = trouble or error
    if trouble is not None and not rows:
        raise trouble
    places = sorted((p for row in rows for p in row.places), key=lambda p: p.need.shortfall(p.ratio))
    return Verdict(parted(row.version for row in rows), tuple(places), tuple(p for row in rows for p in row.pictures))


def ask(entries: Mapping[str, OutEntry], name: str, generation: int = 3, text_need: float = TEXT.level) -> Verdict:
    """Return what a generation of the toolkit paints with a theme.

    entries: its files by their path from the home; name: its own; text_need: the ratio that texts have to reach. Raises
    ToolkitError where it cannot be asked, does not answer in time, or ends over the theme.
    """
    reason = reason_not(generation)
    if reason:
        raise ToolkitError(reason)
    with tempfile.TemporaryDirectory(prefix="finch-gallery-") as made:
        home = Path(made)
        _lay(entries, home)
        picture, memory = home / "gallery.png", home / "screen"
        memory.mkdir()
        gallery = str(files("mellow_finch.proof.toolkit").joinpath(_GALLERIES[generation]))
        last = (memory / "Xvfb_screen0", picture) if generation == 4 else (picture,)
        if generation == QT:
            name = drawn_style_in(entries)
            (home / _CHOOSES).write_text(f"[General]\ntheme={name}\n", encoding="utf-8")
            screen: tuple[str, ...] = ()
        else:
            screen = ("xvfb-run", "-a", "-n", str(_own_screen()), "-s", f"-screen 0 1400x4500x24 -fbdir {memory}")
        words = [*_walled(), *screen, _PYTHON, gallery, name, *map(str, last)]
        told = _run(words, home, generation)
        painted = (MeasuredPlace(*row)._replace(generation=generation, text_need=text_need) for row in told["rows"])
        rows = sorted(painted, key=lambda p: p.need.shortfall(p.ratio))
        version = f"Qt {told['version']}" if generation == QT else str(told["version"])
        return Verdict(version, tuple(rows), (must_read(picture, _MOST_PICTURE),))


def drawn_style_in(entries: Mapping[str, OutEntry]) -> str:
    """Return what the first drawn style among some files is called, which need not be that of a theme beside it."""
    return next(p[len(_DRAWN) + 1 :].partition("/")[0] for p in entries if p.startswith(f"{_DRAWN}/"))


def _own_screen() -> int:
    """Return a number of a screen to try first: two that look for a free one at once may take the same."""
    return 100 + os.getpid() * 7 % 20_000


def _lay(entries: Mapping[str, OutEntry], home: Path) -> None:
    for path, entry in entries.items():
        target = home / path
        target.parent.mkdir(parents=True, exist_ok=True)
        if entry.link:
            target.symlink_to(entry.link)
        else:
            target.write_bytes(entry.data)


def _run(words: list[str], home: Path, generation: int) -> dict[str, Any]:
    environment = {
        "PATH": os.environ.get("PATH", os.defpath),
        "HOME": str(home),
        "XDG_DATA_HOME": str(home / ".local/share"),
        "XDG_CONFIG_HOME": str(home / ".config"),
        "XDG_RUNTIME_DIR": str(home),
        "GTK_A11Y": "none",
        "NO_AT_BRIDGE": "1",
        "GDK_BACKEND": "x11",
        "GSK_RENDERER": "cairo",
        "GSETTINGS_BACKEND": "memory",
        "LC_ALL": "C.UTF-8",
        **({"QT_QPA_PLATFORM": "offscreen", "QT_STYLE_OVERRIDE": "kvantum"} if generation == QT else {}),
        "PYTHONDONTWRITEBYTECODE": "1",  # nothing is left where the program lies
    }
    try:
        done = run_bounded(words, _CPU_S, LIMIT_S, environment=environment, folder=home)
        told: dict[str, Any] = json.loads(done.stdout)
    except BoundsError as error:
        raise ToolkitError(
            tr("{toolkit} did not draw the theme: our own check is used.").format(toolkit=_NAMED[generation])
        ) from error
    except (OSError, ValueError) as error:
        ended = tr("{toolkit} crashed on the theme: our own check is used.")
        raise ToolkitError(ended.format(toolkit=_NAMED[generation])) from error
    return told


def may_be_asked(theme: Theme) -> bool:
    """Tell whether a theme holds something that the toolkit paints."""
    return bool(_generations(theme))


def _generations(theme: Theme) -> tuple[int, ...]:
    return tuple(sorted({_KINDS[found.kind.id] for found in theme.found if found.kind.id in _KINDS}))


def ask_before(theme: Theme, text_need: float = TEXT.level) -> Verdict:
    """Return what the toolkit paints with a theme as it came; see ask. Raises ToolkitError."""
    entries: dict[str, OutEntry] = {}
    for drawn in (False, True):
        found = next((f for f in theme.found if f.kind.id in _KINDS and (_KINDS[f.kind.id] == QT) == drawn), None)
        if found is None:
            continue
        inside = ((p, e) for p, e in theme.bundle.entries.items() if p.startswith(found.root) and not e.link)
        for path, entry in inside:
            place = target_path(found, _BEFORE, path) if drawn else f".themes/{_BEFORE}/{path[len(found.root) :]}"
            entries[place] = OutEntry(theme.bundle.data(path), entry.mode, "")
    return ask_both(entries, _BEFORE, _generations(theme), text_need)


class Settled(NamedTuple):
    """A theme mended by what the toolkit painted: the outcome, the last verdict, how many fell short at first."""

    outcome: Outcome
    verdict: Verdict
    short_at_first: int


def mend_by_painting(
    theme: Theme, scheme: Scheme, choices: Choices, outcome: Outcome, progress: Progress | None = None
) -> Settled:
    """Let the toolkit paint an outcome, and mend on from what it painted short, while that helps.

    Raises ToolkitError where it cannot be asked.
    """
    progress = progress or Silent()
    generations = _generations(theme)
    verdict = ask_after(outcome, generations, scheme.text_need)
    first = len(verdict.short)
    told: list[list[MeasuredFailure]] = []
    now, idle = verdict, 0
    for step in range(_MOST_TIMES):
        if not now.short or not scheme.mend or idle > _IDLE:
            break
        progress.report(step, _MOST_TIMES, tr("Fixing the contrast of what the toolkit drew"))
        told.append([row for place in now.short for row in told_of(place)])
        fresh = recolour_theme(theme, scheme, choices, told=told)
        now = ask_after(fresh, generations, scheme.text_need)
        idle += 1
        if len(now.short) < len(verdict.short):
            outcome, verdict, idle = fresh, now, 0
    return Settled(outcome, verdict, first)


def told_of(place: MeasuredPlace) -> list[MeasuredFailure]:
    """Return a place as mending is told of it, by each key that may say its colour; none where that helps nothing."""
    if place.generation == QT:
        keys = _KEYS_OF_QT.get(place.widget, {})
        text, surface = parse_hex(place.text), parse_hex(place.surface)
        if place.what == "mark":  # it is no key that says its colour, but the drawing
            return [MeasuredFailure(place.widget, "mark", text, surface, place.ratio, place.need.level, DRAWN_STYLE)]
        named = [keys[name] for name in (place.state, "panel") if name in keys]
        seen = _FAINT if (place.widget, place.state) == ("menu item", "disabled") else 1.0
        return [
            MeasuredFailure(key, "text", text, surface, place.ratio, place.need.level, DRAWN_STYLE, seen)
            for key in named
        ]
    part = nested_part(place.widget, place.state, place.what, place.place)
    what = "edge" if place.what == "edge" else "text"
    text, surface = parse_hex(place.text), parse_hex(place.surface)
    return [MeasuredFailure(part.key, what, text, surface, place.ratio, place.need.level, f"gtk-{place.generation}")]


def ask_after(outcome: Outcome, generations: Collection[int] = (3,), text_need: float = TEXT.level) -> Verdict:
    """Return what generations of the toolkit paint with a theme as it will be; see ask. Raises ToolkitError."""
    return ask_both(outcome.outputs, outcome.name, generations, text_need)
