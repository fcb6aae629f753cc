"""A person and looks taking turns on one home, at random: after every step no line of the person's is lost unsaid.

Used by a short test and by `tools/sequences.py`, which runs hundreds and kills some of the steps.
"""

from __future__ import annotations

import os
import random
import shutil
import signal
import subprocess
import time
import zipfile
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS, read_anew
from mellow_finch.components.define.own import definition_of, own_folder, propose
from mellow_finch.demo.build import build_demo_home, demo_pictures
from mellow_finch.errors import FinchError, WearError
from mellow_finch.follow.follower import Follower
from mellow_finch.follow.rules import Rules
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.look.model import Look
from mellow_finch.session.simulated import SimulatedSession
from mellow_finch.shelf.parcel import send
from mellow_finch.shelf.shelf import Shelf
from mellow_finch.theme.bundle.opened import open_bundle
from mellow_finch.theme.bundle.read import read_theme
from mellow_finch.theme.result.recolour import recolour_theme
from mellow_finch.wear.history import History
from mellow_finch.wear.names import plan_to_follow
from mellow_finch.wear.plan import Plan, own_files
from mellow_finch.wear.status import status_of
from mellow_finch.wear.themes import theme_plan
from mellow_finch.wear.wear import finish, go_back_to, put_on, undo_last

from .homes import state

_COMMENTS = {
    ".css": ("/* ", " */"), ".rasi": ("/* ", " */"), ".scss": ("// ", ""), ".lua": ("-- ", ""), ".vim": ('" ', ""),
    ".kdl": ("// ", ""), ".json": ("// ", ""), ".jsonc": ("// ", ""), ".el": ("; ", ""), ".xml": ("<!-- ", " -->"),
    ".svg": ("<!-- ", " -->"), ".js": ("// ", ""),
}  # fmt: skip
_NAMED = {".vimrc": ('" ', ""), ".Xresources": ("! ", ""), ".jwmrc": ("<!-- ", " -->"), ".emacs": ("; ", "")}
_ODD = (".png", ".gz", ".zip", ".jpg", ".webp", ".ttf", ".xcf")
ZONE = ZoneInfo("Europe/Berlin")
_OWN_ID = "own-tide-clock"


class LineLostError(AssertionError):
    """A line of the person's is gone, and nobody asked."""


def odd_home(home: Path) -> Path:
    """Make a home odd where that is easily broken: links of both kinds, modes, attributes, other line ends."""
    (home / "dots").mkdir()
    if (home / ".Xresources").exists():
        (home / ".Xresources").rename(home / "dots/resources")
        (home / ".Xresources").symlink_to("./dots/resources")
        (home / "dots/resources").chmod(0o600)
    if (home / ".config/kitty/kitty.conf").exists():
        os.link(home / ".config/kitty/kitty.conf", home / "dots/kitty-too")
    (home / ".config/conky/conky.conf").chmod(0o755)
    (home / ".config/kdeglobals").chmod(0o444)
    with suppress(OSError):
        os.setxattr(home / ".config/conky/conky.conf", "user.note", b"mine")
    return home


class Turns:
    """One home and its person, by a seed; steps are taken by name."""

    def __init__(self, folder: Path, template: Path, seed: int, only: frozenset[str] | None = None) -> None:
        """Copy a home; only: the components that looks dress, all where none are named."""
        self.folder, self.random, self.only = folder, random.Random(seed), only
        self.home = folder / "home"
        shutil.copytree(template, self.home, symlinks=True)
        with suppress(OSError):  # a copy parts what had two names
            (self.home / "dots/kitty-too").unlink()
            os.link(self.home / ".config/kitty/kitty.conf", self.home / "dots/kitty-too")
        self.session = SimulatedSession()
        self.history_folder = folder / "state" / "m" / "history"
        self.looks = _looks()
        self.mine: dict[str, set[str]] = {}  # lines that the person wrote, by file
        self.before: dict[str, dict[str, tuple[object, ...]]] = {}  # the home before each look, by snapshot
        self.parcel = folder / "parcel"
        self.parcel_in = False
        self.loose: set[str] = set()  # files whose bytes at the end a parcel's scripts have had a part in
        self.number = 0
        self.log: list[str] = []
        self.now = datetime(2026, 11, 30, 12, tzinfo=ZONE)
        self.kill = self.killed = False

    def history(self) -> History:
        """Return the history, read anew."""
        return History(self.history_folder, wait_s=5)

    # What looks do

    def plan(self, look: Look) -> Plan:
        """Return what applying a look would do now."""
        files = own_files(self.home, self.history())
        ids = self.only if self.only is not None else every_component(look)
        ids |= {_OWN_ID} & set(COMPONENT_BY_ID)
        return plan_to_follow(
            lambda folder: dress(look, files, ids, folder=folder), look.folder, self.home, self.session, self.history()
        )

    def wear(self) -> None:
        """Apply one of the looks, deciding at random about edits."""
        self._apply(self.plan(self.random.choice(self.looks)))

    def bring(self) -> None:
        """Apply a recoloured theme alone."""
        theme = read_theme(open_bundle(next(p for p in sorted((self.home / ".themes").iterdir()) if p.is_dir())))
        look = self.random.choice(self.looks)
        found = recolour_theme(theme, look.scheme())
        self._apply(theme_plan(found, theme.found, look.tone, self.home))

    def _apply(self, plan: Plan) -> None:
        held = state(self.home)

        def work(overwrite: set[str], leave: set[str]) -> None:
            snapshot = put_on(plan, self.history(), self.session, overwrite=overwrite, leave=leave)
            if snapshot is not None:
                self.before[snapshot.id] = held

        self._asked(work, held)

    def follow(self) -> None:
        """Let the follower look around, some hours later."""
        self.now += timedelta(hours=self.random.choice([1, 7, 12]))
        shelf = Shelf(self.folder / "shelf")
        if not shelf.looks():
            shelf.keep(self.looks[0])
        rules = Rules(day="clock", picture=False)
        follower = Follower(self.home, self.session, rules, shelf, self.history(), self.folder / "follow")
        if self.random.random() < 0.5:
            follower.go_on()
        held, known = state(self.home), {s.id for s in self.history().snapshots()}
        words, _ = follower.step(self.now)
        for snapshot in self.history().snapshots():
            if snapshot.id not in known:
                self.before[snapshot.id] = held
        self.log.append(words)
        assert "went wrong" not in words, words

    def undo(self) -> None:
        """Undo the newest look."""
        if self.history().last_worn() is not None:
            self._asked(lambda give, keep: undo_last(self.history(), self.session, give, keep))

    def go_back(self) -> None:
        """Go back to before any of the looks that are applied."""
        worn = [s.id for s in self.history().snapshots() if s.status == "worn"]
        if worn:
            chosen = self.random.choice(worn)
            self._asked(lambda give, keep: go_back_to(chosen, self.history(), self.session, give, keep))

    def _asked(
        self, work: Callable[[set[str], set[str]], object], held: dict[str, tuple[object, ...]] | None = None
    ) -> None:
        """Do something that may ask about files, answering at random; what is given up is not looked for any more."""
        overwrite: set[str] = set()
        leave: set[str] = set()
        for _ in range(40):
            try:
                if self.kill:
                    self._killed(lambda: work(overwrite, leave), held)
                else:
                    work(overwrite, leave)
                break
            except WearError as error:
                if not error.edited and not error.damaged:
                    self.log.append(str(error))
                    break
                for path in (*error.edited, *error.damaged):
                    give_up = path in error.edited and self.random.random() < 0.5
                    (overwrite if give_up else leave).add(path)
        for path in overwrite:
            self.mine.pop(path, None)

    def _killed(self, work: Callable[[], object], held: dict[str, tuple[object, ...]] | None) -> None:
        """Do it in a process that is killed at a random moment, then finish or undo what is left."""
        known = {s.id for s in self.history().snapshots()}
        reading, writing = os.pipe()
        child = os.fork()
        if child == 0:
            os.close(reading)
            try:
                work()
            except WearError as error:
                os.write(writing, "\n".join((*error.edited, "", *error.damaged)).encode()[:60_000] or b"?")
            finally:
                os._exit(0)
        os.close(writing)
        time.sleep(self.random.uniform(0, 1.2))
        with suppress(ProcessLookupError):
            os.kill(child, signal.SIGKILL)
        _, how = os.waitpid(child, 0)
        with os.fdopen(reading, "rb") as said:
            told = said.read().decode()
        self.kill, self.killed = False, True
        self.log.append("killed" if os.WIFSIGNALED(how) else "ended first")
        history = self.history()
        history.tidy()
        for snapshot in history.snapshots():
            if snapshot.id not in known and held is not None:
                self.before[snapshot.id] = held
        if told:
            edited, _, damaged = told.partition("\n\n")
            raise WearError(
                "asked", "", tuple(filter(None, edited.split("\n"))), tuple(filter(None, damaged.split("\n")))
            )
        if history.pending() is not None:
            end = finish if self.random.random() < 0.5 else undo_last
            self._asked(lambda give, keep: end(self.history(), self.session, give, keep))

    # What the person does

    def _texts(self) -> list[str]:
        """Return files that a person would write into: those that looks have written, and configurations."""
        rows = {row.path for s in self.history().snapshots() if s.status == "worn" for row in s.files}
        rows |= {p.relative_to(self.home).as_posix() for p in self.home.glob(".config/*/*") if p.is_file()}
        found = []
        for path in sorted(rows):
            place = self.home / path
            if place.suffix not in _ODD and place.is_file() and b"\0" not in place.read_bytes()[:4096]:
                found.append(path)
        return found

    def edit(self) -> None:
        """Write a line into a few files, anywhere in them."""
        for path in self.random.sample(self._texts(), k=3):
            place = self.home / path
            start, end = _NAMED.get(place.name, _COMMENTS.get(place.suffix, ("# ", "")))
            self.number += 1
            line = f"{start}mine {self.number}{end}"
            ends = b"\r\n" if b"\r\n" in place.read_bytes() else b"\n"
            lines = place.read_bytes().splitlines(keepends=True)
            if lines and not lines[-1].endswith(b"\n"):
                lines[-1] += ends
            at = self.random.choice([0, len(lines), self.random.randint(0, len(lines))])
            mode = place.stat().st_mode
            place.chmod(mode | 0o200)
            with place.open("r+b") as file:  # as an editor that keeps the file: its names and attributes stay
                data = b"".join([*lines[:at], line.encode() + ends, *lines[at:]])
                file.write(data)
                file.truncate(len(data))
            place.chmod(mode)
            self.mine.setdefault(path, set()).add(line)
            self.log.append(f"edited {path}")

    def delete(self) -> None:
        """Delete a file or give it another name."""
        rows = [p for p in self._texts() if (self.home / p).lstat().st_nlink == 1 and not (self.home / p).is_symlink()]
        path = self.random.choice(rows)
        place = self.home / path
        if self.random.random() < 0.5:
            place.rename(place.with_name(f"{place.name}.bak{self.number}"))
            self.number += 1
        else:
            place.unlink()
        self.mine.pop(path, None)
        self.log.append(f"deleted {path}")

    def own(self) -> None:
        """Make a component of one's own, or take it away again."""
        if _OWN_ID in COMPONENT_BY_ID:
            (own_folder() / f"{_OWN_ID}.toml").unlink(missing_ok=True)
        else:
            path = self.home / self.random.choice([".config/tides.ini", ".bashrc", ".config/kitty/kitty.conf"])
            if not path.exists():
                path.write_text('[colors]\nbackground = "#ff2fa0"\nforeground = "#4d5559"\n')
            with suppress(FinchError):
                text = definition_of(propose(self.home, path), "Tide clock", "Widgets")
                own_folder().mkdir(parents=True, exist_ok=True)
                (own_folder() / f"{_OWN_ID}.toml").write_text(text)
        read_anew()

    def script(self) -> None:
        """Let a parcel's own scripts put it on or take it off."""
        if not self.parcel.exists():
            self.parcel.mkdir()
            with zipfile.ZipFile(_parcel()) as archive:
                archive.extractall(self.parcel)
        name = "uninstall.sh" if self.parcel_in else "install.sh"
        words = ["sh", str(self.parcel / name), *([] if self.parcel_in else ["--all", "--no-settings"])]
        env = {"PATH": os.environ["PATH"], "HOME": str(self.home), "XDG_STATE_HOME": str(self.folder / "parcels")}
        done = subprocess.run(words, env=env, capture_output=True, text=True)
        assert done.returncode == 0, (name, done.stderr)
        self.loose |= {row.split("|")[2] for row in (self.parcel / "lists/files.txt").read_text().splitlines()}
        self.parcel_in = any((self.folder / "parcels").rglob("log"))

    # What must hold

    def check(self, after: str) -> None:
        """Every line of the person's is where it was written, or was asked about."""
        for path, lines in self.mine.items():
            place = self.home / path
            text = place.read_text(errors="replace") if place.is_file() else ""
            lost = [line for line in lines if line not in text]
            if lost:
                raise LineLostError(f"after {after}: {path} lost {lost}; {self.log[-12:]}")
        left = [name for _, _, files in os.walk(self.home) for name in files if name.startswith(".finch-")]
        assert not left, (after, left)

    def end(self) -> None:
        """Take everything off; what no parcel had a part in is exactly as before the looks that were applied."""
        worn = [s for s in self.history().snapshots() if s.status == "worn"]
        now = state(self.home)
        wanted = dict(now)
        for snapshot in reversed(worn):
            for row in snapshot.files:
                short = os.path.relpath(row.target, self.home)
                for path in {row.path, short}:
                    if path in self.before[snapshot.id]:
                        wanted[path] = self.before[snapshot.id][path]
                    else:
                        wanted.pop(path, None)
        overwrite: set[str] = set()
        while self.history().last_worn() is not None:
            try:
                undo_last(self.history(), self.session, overwrite)
            except WearError as error:
                assert error.edited and not error.damaged, str(error)
                overwrite |= set(error.edited)
        after = state(self.home)
        if not self.killed:  # a process that was killed has set what only it had in memory
            assert self.session.settings == SimulatedSession().settings
        for path in sorted({*wanted, *after}):
            one, other = wanted.get(path), after.get(path)
            if "folder" in (one or other or ("",))[0:1] or path in self.loose or path.startswith("dots/"):
                continue
            assert one == other, (path, one and one[:4], other and other[:4], self.log[-20:])

    STEPS = ("wear", "wear", "wear", "edit", "edit", "undo", "go_back", "follow", "delete", "own", "bring", "script")

    def step(self, name: str) -> None:
        """Take one step and look whether all holds."""
        self.log.append(name)
        getattr(self, name)()
        self.check(name)


_KEPT: dict[str, object] = {}


def _looks() -> Sequence[Look]:
    """Return a few looks that differ in all that a look may say."""
    if "looks" not in _KEPT:
        home = build_demo_home(Path(os.environ.get("FINCH_SEQUENCES", "/tmp")) / f"pictures-{os.getpid()}")
        first, second, third = (look_of_pictures([p], "dark") for p in demo_pictures(home)[:3])
        _KEPT["looks"] = (first, replace(second, tone="light"), replace(third, companions={"radius": "6"}), first)
    return _KEPT["looks"]  # type: ignore[return-value]


def _parcel() -> Path:
    """Return a parcel of one of the looks."""
    if "parcel" not in _KEPT:
        path = Path(os.environ.get("FINCH_SEQUENCES", "/tmp")) / f"parcel-{os.getpid()}.zip"
        send(replace(_looks()[1], name="Sent"), path)
        _KEPT["parcel"] = path
    return _KEPT["parcel"]  # type: ignore[return-value]


def taken_back() -> None:
    """Take the component of one's own out of the catalogue again."""
    (own_folder() / f"{_OWN_ID}.toml").unlink(missing_ok=True)
    read_anew()
    assert _OWN_ID not in {c.id for c in COMPONENTS}


def settled(turns: Turns) -> str:
    """Return how a home stands, for a report."""
    return status_of(turns.history()).words()
