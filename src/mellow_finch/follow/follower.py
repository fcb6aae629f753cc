"""One look around: what is wanted now, and putting it on when it passes and nothing speaks against it."""

from __future__ import annotations

import json
import logging
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import asdict, dataclass, field, replace
from datetime import datetime, timedelta
from pathlib import Path

from ..disk.facts import must_read, read_plain
from ..disk.log import NAME, start_log
from ..disk.write import save
from ..errors import FileAccessError, FinchError
from ..language import percent, plural, tone_word, tr
from ..look.dressed import dress
from ..look.edits import with_lock, with_role, with_tone
from ..look.from_colours import on_the_same_desk
from ..look.gather import gathering_of
from ..look.model import Look
from ..look.worn_themes import worn_themes
from ..palette.recipe import Tone
from ..picture.load import load_picture
from ..proof.proof import prove
from ..session.base import DesktopSession
from ..session.now import Now
from ..session.now import now as desktop_now
from ..session.real import RealSession
from ..session.x11 import fills_screen
from ..session.xdg import home_files
from ..shelf.shelf import Shelf, pictures_of
from ..wear.edits import signature
from ..wear.glass import as_drawn_here
from ..wear.history import History
from ..wear.names import plan_to_follow
from ..wear.places import history_folder
from ..wear.plan import own_files
from ..wear.present import present_here
from ..wear.status import changed_files
from ..wear.wear import put_on, settings_to_change
from .rules import Rules, load_rules
from .service import follow_folder

_MOST_LOG = 200_000
_MOST_PICTURE = 200_000_000
_WAITING = "Waits: "
_WAITS = timedelta(minutes=5)  # until it is looked again whether what was waited for is over
_LOG, _STATE = "log.txt", "state.json"


@dataclass(slots=True)
class FollowerState:
    """What was followed last. picture: the wallpaper; look: the kept look; tone: the half; stopped: why nothing more is
    worn before the person says so, empty where nothing stands in the way; accepted: which edits a person has said to go
    on with, by their files' signature.
    """

    picture: str = ""
    look: str = ""
    tone: str = ""
    stopped: str = ""
    accepted: str = ""


@dataclass
class Follower:
    """Looks around once at a time; holds nothing between but what lies in its folder.

    busy: says why it should wait, empty when it need not: a program that fills the screen, a battery that runs out.
    """

    home: Path
    session: DesktopSession
    rules: Rules
    shelf: Shelf
    history: History
    folder: Path = field(default_factory=follow_folder)
    busy: Callable[[], str] = lambda: ""

    def step(self, now: datetime) -> tuple[str, datetime]:
        """Look around; return what was done in a sentence, and when to look again at the latest. Never raises."""
        state = self._state()
        try:
            words = self._step(now, state)
        except FinchError as error:
            words = tr("Nothing was applied: {error}").format(error=error)
        except Exception as error:  # nobody is there to see it: it is kept for the report, and following goes on
            start_log()
            logging.getLogger(NAME).error("the follower", exc_info=error)
            words = tr("Nothing was applied: an internal error occurred ({kind}).").format(kind=type(error).__name__)
        with suppress(FinchError, OSError):  # a full disk or one that can only be read loses no more than the note
            self._keep(state)
        with suppress(FinchError, OSError):
            self._log(now, words)
        again = self.rules.next_turn(now)
        return words, min(again, now + _WAITS) if words.startswith(_WAITING) else again

    def _step(self, now: datetime, state: FollowerState) -> str:
        if self.rules.paused:
            return tr("Paused.")
        if state.stopped:
            return tr("Stopped: {stopped}").format(stopped=state.stopped)
        edited = changed_files(self.history)
        if edited and signature(home_files(self.home), edited) != state.accepted:
            state.stopped = tr("“{edited}” was edited since the look was applied.").format(edited=edited[0])
            return tr("Stopped: {stopped}").format(stopped=state.stopped)
        waiting = self.busy()
        if waiting:
            return f"{_WAITING}{waiting}"
        shown = desktop_now(self.session)
        name = self.rules.look_of(now.date())
        wanted = self._wanted(now, name, shown)
        if wanted is None:
            return tr("There is no look to follow: save one to the Shelf, or apply one.")
        look, picture, name = wanted
        tone: Tone = self.rules.tone(now, shown.dark, look.tone)
        if (picture, name, tone) == (state.picture, state.look, state.tone):
            return tr("Nothing has changed.")
        words = self._wear(with_tone(look, tone))
        state.picture, state.look, state.tone = picture, name, tone
        return words

    def _wanted(self, now: datetime, name: str, shown: Now) -> tuple[Look, str, str] | None:
        """Return the look that is wanted, the wallpaper that it is for, and the name that it is followed by."""
        base = self.shelf.load(self.shelf.find(name).id).look if name else self._newest()
        both = [base]
        if self.rules.night and not self.rules.turn and base is not None:
            night = self.shelf.load(self.shelf.find(self.rules.night).id).look
            both.append(night)
            if self.rules.tone(now, shown.dark, base.tone) == "dark":
                base, name = night, self.rules.night
        picture = shown.picture
        new = _is_file(picture) and not any(look is not None and _same(picture, look.source) for look in both)
        if new and not self.rules.turn:
            kept = self._kept_for(picture) if self.rules.kept else None
            if kept is not None:
                return kept[0], kept[0].source or picture, kept[1]
            if self.rules.picture:
                return self._derived(picture, base), picture, name
        return None if base is None else (base, base.source or picture, name)

    def _kept_for(self, picture: str) -> tuple[Look, str] | None:
        """Return the kept look whose picture a wallpaper is, and its id; of several the one kept last."""
        for row in self.shelf.looks():
            with suppress(FinchError):  # one that cannot be read is in nobody's way
                look = self.shelf.load(row.id).look
                if any(_same(picture, own) for own in pictures_of(look)):
                    return look, row.id
        return None

    def _newest(self) -> Look | None:
        rows = self.shelf.looks()
        return self.shelf.load(rows[0].id).look if rows else None

    @staticmethod
    def _derived(picture: str, base: Look | None) -> Look:
        """Return the look of a new wallpaper, with the controls and locks of the one before it."""
        found = gathering_of([load_picture(Path(picture))])
        recipe = found.readings()[0].recipe
        if base is None:
            return found.look(recipe, "dark")
        fresh = found.look(recipe, base.tone, placement=base.placement, temper=base.temper)
        fresh = replace(on_the_same_desk(fresh, base, picture=False), variants=())
        for role in sorted(base.locks):
            fresh = with_lock(with_role(fresh, role, base.colours[role]), role, True)
        return fresh

    def _wear(self, look: Look) -> str:
        files = own_files(self.home, self.history)
        present = present_here(self.home, files, self.history)
        themes = worn_themes(look)
        dressed = dress(look, files, present=present, themes=themes)
        short = [f for f in prove(dressed) if not f.passes]
        if short:
            return plural(
                "“{name}” was not applied: {count} of its pairs has insufficient contrast.",
                "“{name}” was not applied: {count} of its pairs have insufficient contrast.",
                len(short),
                name=look.name,
            )
        plan = plan_to_follow(
            lambda folder: dress(
                as_drawn_here(look, self.session), files, present=present, folder=folder, themes=themes
            ),
            look.folder,
            self.home,
            self.session,
            self.history,
        )
        if not plan.writes and not settings_to_change(plan, self.session):
            return tr("“{name}”, {tone}, is already applied.").format(name=look.name, tone=tone_word(look.tone))
        put_on(plan, self.history, self.session)
        return tr("“{name}”, {tone}, was applied.").format(name=look.name, tone=tone_word(look.tone))

    # What is kept between two looks around

    def _state(self) -> FollowerState:
        try:
            data = json.loads(read_plain(self.folder / _STATE, 20_000) or b"{}")
            return FollowerState(**{k: str(v) for k, v in data.items() if k in FollowerState.__slots__})
        except (ValueError, TypeError, AttributeError, FinchError):
            return FollowerState()

    def _keep(self, state: FollowerState) -> None:
        save(self.folder / _STATE, json.dumps(asdict(state)).encode("utf-8"), sync=False)

    def go_on(self) -> None:
        """Follow again after it was stopped by a change that a person made; edits stay wherever a look lets them."""
        accepted = signature(home_files(self.home), changed_files(self.history))
        self._keep(replace(self._state(), stopped="", accepted=accepted))

    def stopped(self) -> str:
        """Return why nothing more is worn, empty where nothing stands in the way."""
        return self._state().stopped

    def _log(self, now: datetime, words: str) -> None:
        """Write a line where it says something new, the older half going when the log grows long."""
        path = self.folder / _LOG
        try:
            text = (read_plain(path, 4 * _MOST_LOG) or b"").decode("utf-8", "replace")
        except FileAccessError:  # too long, or no plain file: a new one where that can be
            text = ""
        if text.rstrip("\n").endswith(f"  {words}"):
            return
        text += f"{now:%Y-%m-%d %H:%M:%S}  {words}\n"
        if len(text) > _MOST_LOG:
            text = text[len(text) // 2 :].partition("\n")[2]
        save(path, text.encode("utf-8"), sync=False)

    def log(self, most: int = 20) -> list[str]:
        """Return the last lines of the log."""
        try:
            text = (read_plain(self.folder / _LOG, 4 * _MOST_LOG) or b"").decode("utf-8", "replace")
        except FileAccessError:
            return []
        return text.splitlines()[-most:]


def own_follower(home: Path) -> Follower:
    """Return the follower of a person's home on the desktop that runs."""

    def busy() -> str:
        return battery() or (tr("a full-screen program is running.") if fills_screen() else "")

    history = History(history_folder(home), who="The follower")
    return Follower(home, RealSession(home), load_rules(), Shelf(), history, busy=busy)


def _is_file(path: str) -> bool:
    """Tell whether a path that a desktop named is a file; one that cannot be on a disk is none."""
    try:
        return bool(path) and Path(path).is_file()
    except (OSError, ValueError):
        return False


def _same(first: str, second: str) -> bool:
    """Tell whether two paths are one picture, copies included."""
    if not first or not second:
        return first == second
    try:
        one, other = Path(first), Path(second)
        if one.samefile(other):
            return True
        alike = one.stat().st_size == other.stat().st_size
        return alike and must_read(one, _MOST_PICTURE) == must_read(other, _MOST_PICTURE)
    except (OSError, ValueError, FinchError):
        return False


def battery(root: Path = Path("/sys/class/power_supply")) -> str:
    """Return that the battery runs out, empty where there is none or it does not."""
    for supply in sorted(root.glob("BAT*")):
        told: Mapping[str, str] = {n: _read(supply / n) for n in ("status", "capacity")}
        if told["status"] == "Discharging" and told["capacity"].isdigit() and int(told["capacity"]) < _LOW:
            return tr("the battery is at {percent}.").format(percent=percent(int(told["capacity"]) / 100))
    return ""


_LOW = 20


def _read(path: Path) -> str:
    try:
        return (read_plain(path, 200) or b"").decode("ascii", "replace").strip()
    except FinchError:
        return ""
