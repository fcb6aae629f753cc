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

from ...colour.rgb import parse_hex
from ...components.model import Scheme
from ...disk.facts import must_read
from ...errors import FinchError
from ...language import named, parted, plural, states, tr
from ...palette.pairs import MARK_NEED, TEXT_NEED
from ...progress import Progress, Silent
from ...theme.account import Choices, Outcome, OutEntry, Told
from ...theme.model import Theme
from ...theme.recolour import recolour_theme
from ...theme.toolkit import nested_part

LIMIT_S = 20.0
_PYTHON = "/usr/bin/python3"  # the interpreter that has the toolkit's bindings
_DISABLED_NEED = 2.5
_NAMES = "import gi; gi.require_version('Gtk', '{}.0'); from gi.repository import Gtk"
_MOST_PICTURE = 40_000_000
_BEFORE = "Before"
_IDLE = 1  # how often in a row it may not help before that is the end: one place's rule can disturb another
_MOST_TIMES = 3  # that mending goes on
_KINDS = {"toolkit-3": 3, "toolkit-4": 4}


class ToolkitError(FinchError):
    """The toolkit could not be asked."""


class Painted(NamedTuple):
    """One place as the toolkit painted it: a widget in a state, its text, edge or mark, the colours as #rrggbb.

    place: the way down to its node as the toolkit nests it; generation: of the toolkit, 3 or 4.
    """

    widget: str
    state: str
    what: str
    ratio: float
    text: str
    surface: str
    place: str = ""
    generation: int = 3

    @property
    def need(self) -> float:
        """Return the ratio that the place needs."""
        return _DISABLED_NEED if self.state == "disabled" else TEXT_NEED if self.what == "text" else MARK_NEED

    @property
    def passes(self) -> bool:
        """Tell whether it reaches that."""
        return self.ratio >= self.need

    @property
    def words(self) -> str:
        """Return what it is, for people."""
        state = "" if self.state == "rest" else f", {states(self.state)}"
        what = {"text": tr("text"), "edge": tr("edge"), "mark": tr("mark")}[self.what]
        which = "GTK 4: " if self.generation == 4 else ""
        return f"{which}{named(self.widget)}{state}: {what}"


@dataclass(frozen=True, slots=True)
class Verdict:
    """What the toolkit painted: every place, the worst first, and pictures of the gallery as PNG, one a generation.

    Where both generations were asked, version names both.
    """

    version: str
    places: tuple[Painted, ...]
    pictures: tuple[bytes, ...]

    @property
    def short(self) -> tuple[Painted, ...]:
        """Return the places that fall short, worst first."""
        return tuple(p for p in self.places if not p.passes)

    @property
    def summary(self) -> str:
        """Return the verdict in a sentence."""
        count = len(self.short)
        said = tr("all can be read") if not count else plural("{count} falls short", "{count} fall short", count)
        return plural(
            "GTK {version} painted {count} place: {said}.",
            "GTK {version} painted {count} places: {said}.",
            len(self.places),
            version=self.version,
            said=said,
        )


@cache
def reason_not(generation: int = 3) -> str:
    """Return why a generation of the toolkit cannot be asked here, empty where it can."""
    names = _NAMES.format(generation)
    if not Path(_PYTHON).exists() or subprocess.run([_PYTHON, "-c", names], capture_output=True).returncode:
        words = tr("GTK {number} cannot be asked here ({packages} are missing): our own judgement counts.")
        packages = parted(("python3-gi", f"gir1.2-gtk-{generation}.0"))
        return words.format(number=str(generation), packages=packages)
    if shutil.which("xvfb-run") is None:
        return tr("There is no hidden screen to ask the toolkit on (xvfb is missing): our own judgement counts.")
    return ""


@cache
def _walled() -> tuple[str, ...]:
    """Return the words that run a command without a network, none where that is not allowed."""
    words = ("unshare", "--map-root-user", "--net")
    if shutil.which(words[0]) is None:
        return ()
    done = subprocess.run([*words, "true"], capture_output=True)
    return words if done.returncode == 0 else ()


def ask_both(entries: Mapping[str, OutEntry], name: str, generations: Collection[int]) -> Verdict:
    """Return what those generations of the toolkit paint that answer; see ask. Raises ToolkitError where none does."""
    rows: list[Verdict] = []
    trouble: ToolkitError | None = None
    for generation in generations:
        try:
            rows.append(ask(entries, name, generation))
        except ToolkitError as error:
            trouble = trouble or error
    if trouble is not None and not rows:
        raise trouble
    places = sorted((p for row in rows for p in row.places), key=lambda p: p.ratio - p.need)
    return Verdict(parted(row.version for row in rows), tuple(places), tuple(p for row in rows for p in row.pictures))


def ask(entries: Mapping[str, OutEntry], name: str, generation: int = 3) -> Verdict:
    """Return what a generation of the toolkit paints with a theme.

    entries: its files by their path from the home; name: its own. Raises ToolkitError where it cannot be asked, does
    not answer in time, or ends over the theme.
    """
    reason = reason_not(generation)
    if reason:
        raise ToolkitError(reason)
    with tempfile.TemporaryDirectory(prefix="finch-gallery-") as made:
        home = Path(made)
        _lay(entries, home)
        picture, memory = home / "gallery.png", home / "screen"
        memory.mkdir()
        gallery = str(files("mellow_finch.proof.toolkit").joinpath(f"gallery_gtk{generation}.py"))
        last = (picture,) if generation == 3 else (memory / "Xvfb_screen0", picture)
        screen = ("-s", f"-screen 0 1400x4500x24 -fbdir {memory}")
        words = [
            *_walled(),
            "xvfb-run",
            "-a",
            "-n",
            str(_own_screen()),
            *screen,
            _PYTHON,
            gallery,
            name,
            *map(str, last),
        ]
        told = _run(words, home, generation)
        rows = sorted(
            (Painted(*row)._replace(generation=generation) for row in told["rows"]), key=lambda p: p.ratio - p.need
        )
        return Verdict(str(told["version"]), tuple(rows), (must_read(picture, _MOST_PICTURE),))


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
        "PYTHONDONTWRITEBYTECODE": "1",  # nothing is left where the program lies
    }
    try:
        done = subprocess.run(words, env=environment, cwd=home, capture_output=True, text=True, timeout=LIMIT_S)
        told: dict[str, Any] = json.loads(done.stdout)
    except subprocess.TimeoutExpired as error:
        raise ToolkitError(
            tr("GTK {number} did not paint the theme within twenty seconds: our own judgement counts.").format(
                number=str(generation)
            )
        ) from error
    except (OSError, ValueError) as error:
        ended = tr("GTK {number} ended over the theme: our own judgement counts.")
        raise ToolkitError(ended.format(number=str(generation))) from error
    return told


def may_be_asked(theme: Theme) -> bool:
    """Tell whether a theme holds something that the toolkit paints."""
    return bool(_generations(theme))


def _generations(theme: Theme) -> tuple[int, ...]:
    return tuple(sorted({_KINDS[found.kind.id] for found in theme.found if found.kind.id in _KINDS}))


def ask_before(theme: Theme) -> Verdict:
    """Return what the toolkit paints with a theme as it came. Raises ToolkitError."""
    root = next(found.root for found in theme.found if found.kind.id in _KINDS)
    inside = ((p, e) for p, e in theme.bundle.entries.items() if p.startswith(root) and not e.link)
    entries = {f".themes/{_BEFORE}/{p[len(root) :]}": OutEntry(theme.bundle.data(p), e.mode, "") for p, e in inside}
    return ask_both(entries, _BEFORE, _generations(theme))


class Settled(NamedTuple):
    """A theme mended by what the toolkit painted: the outcome, the last verdict, how many fell short at first."""

    outcome: Outcome
    verdict: Verdict
    short_at_first: int


def settle(
    theme: Theme, scheme: Scheme, choices: Choices, outcome: Outcome, progress: Progress | None = None
) -> Settled:
    """Let the toolkit paint an outcome, and mend on from what it painted short, while that helps.

    Raises ToolkitError where it cannot be asked.
    """
    progress = progress or Silent()
    generations = _generations(theme)
    verdict = ask_after(outcome, generations)
    first = len(verdict.short)
    told: list[list[Told]] = []
    now, idle = verdict, 0
    for step in range(_MOST_TIMES):
        if not now.short or not scheme.mend or idle > _IDLE:
            break
        progress.report(step, _MOST_TIMES, tr("Mending what the toolkit painted"))
        told.append([told_of(place) for place in now.short])
        fresh = recolour_theme(theme, scheme, choices, told=told)
        now = ask_after(fresh, generations)
        idle += 1
        if len(now.short) < len(verdict.short):
            outcome, verdict, idle = fresh, now, 0
    return Settled(outcome, verdict, first)


def told_of(place: Painted) -> Told:
    """Return a place as mending is told of it."""
    part = nested_part(place.widget, place.state, place.what, place.place)
    what = "edge" if place.what == "edge" else "text"
    text, surface = parse_hex(place.text), parse_hex(place.surface)
    return Told(part.key, what, text, surface, place.ratio, place.need, f"gtk-{place.generation}")


def ask_after(outcome: Outcome, generations: Collection[int] = (3,)) -> Verdict:
    """Return what generations of the toolkit paint with a theme as it will be. Raises ToolkitError."""
    return ask_both(outcome.outputs, outcome.name, generations)
