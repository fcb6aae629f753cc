"""The person's own desktop: its stores, its running programs, and their own terminals."""

from __future__ import annotations

import os
import signal
import stat
from collections.abc import Collection, Sequence
from contextlib import suppress
from pathlib import Path
from typing import Any

from . import x11
from .base import ABSENT, DesktopSetting, NotifyResult, Outsider, ReloadMethod, SettingValue, Store
from .blurring import PROGRAMS, USUAL, blurs
from .bus import Address, BusError, call, emit
from .commands import ask, start
from .desktop import desktops, told_apart
from .outsiders import outsiders
from .processes import end, own_processes
from .screen_tools import outputs
from .stores.gsettings import GSettings
from .stores.keyfile import KeyFiles
from .stores.launched import LaunchedPictures, again
from .stores.plasma import PlasmaPictures, PlasmaTheme
from .stores.program import Compositors
from .stores.told import ToldProgram
from .stores.xfconf import Xfconf
from .stores.xresources import XResources
from .stores.xsettingsd import Xsettingsd


class RealSession:
    """The desktop that runs now, found out when it is first asked for."""

    def __init__(self, home: Path | None = None) -> None:
        self._home = home = home or Path.home()
        programs = {name for d in desktops() for name in d.programs}
        found = told_apart(os.environ, own_processes(programs))
        self.desktop = found.id if found is not None else ""
        self._stores: dict[str, Store] = {
            "gsettings": GSettings(),
            "xfconf": Xfconf(home),
            "keyfile": KeyFiles(home),
            "xsettingsd": Xsettingsd(home),
            "xresources": XResources(),
            "plasma": PlasmaPictures(),
            "plasma-theme": PlasmaTheme(home),
            "compositors": Compositors(),
            "launched": LaunchedPictures(home),
        }
        for desktop in desktops():
            for place in desktop.stores:
                self._stores[place.id] = ToldProgram(home, place)

    def read(self, setting: DesktopSetting) -> SettingValue:
        """Return what a setting is; absent in a store that there is not."""
        store = self._stores.get(setting.store)
        return store.read(setting.schema, setting.key) if store is not None else ABSENT

    def write(self, setting: DesktopSetting) -> None:
        """Set a setting that exists."""
        store = self._stores.get(setting.store)
        if store is not None:
            store.write(setting.schema, setting.key, setting.value, setting.kind)

    def reset(self, setting: DesktopSetting, kind: str = "") -> None:
        """Let a setting be not set."""
        store = self._stores.get(setting.store)
        if store is not None:
            store.reset(setting.schema, setting.key, kind)

    def keys(self, store: str, schema: str, pattern: str) -> list[str]:
        """Return the keys of a schema that match."""
        found = self._stores.get(store)
        return found.keys(schema, pattern) if found is not None else []

    def monitors(self) -> list[str]:
        """Return the names of the screens."""
        return outputs() or x11.monitors()

    def file(self, store: str, schema: str) -> Path | None:
        """Return the file in which settings of a store stand."""
        found = self._stores.get(store)
        return found.file(schema) if found is not None else None

    def reread(self, store: str, schema: str) -> None:
        """Let what runs read that file again."""
        found = self._stores.get(store)
        if found is not None:
            found.reread(schema)

    def broadcast(self, sequences: str) -> int:
        """Write to the person's own pseudo-terminals, never waiting for one."""
        count = 0
        for path in sorted(Path("/dev/pts").glob("[0-9]*")):
            try:
                info = path.stat()
                if info.st_uid != os.getuid() or not stat.S_ISCHR(info.st_mode):
                    continue
                handle = os.open(path, os.O_WRONLY | os.O_NONBLOCK | os.O_NOCTTY)
            except OSError:
                continue
            try:
                os.write(handle, sequences.encode("ascii"))
                count += 1
            except OSError:
                continue
            finally:
                os.close(handle)
        return count

    def running(self, programs: Collection[str]) -> frozenset[str]:
        """Return which of some executables run now as the person's own."""
        return frozenset(own_processes(programs))

    def tell(self, way: ReloadMethod) -> NotifyResult:
        """Tell a running program to follow, its own checker having accepted the file first."""
        pids = own_processes((way.program,)).get(way.program, ())
        if not pids:
            return NotifyResult("not running")
        if way.check:
            checked = ask(way.check)
            if checked.code is not None and not checked.ok:
                return NotifyResult("refused", (checked.said or checked.out).strip()[:300])
        if way.how == "signal":
            for pid in pids:
                with suppress(OSError):
                    os.kill(pid, signal.Signals[f"SIG{way.words[0]}"])
            return NotifyResult("told")
        if way.how == "command":
            answer = ask(way.words)
            if answer.code is None:
                return NotifyResult("missing", answer.said)
            return (
                NotifyResult("told")
                if answer.ok
                else NotifyResult("refused", (answer.said or answer.out).strip()[:300])
            )
        if way.how == "again":
            return again(self._home, way.program, *way.words)
        return _emitted(way.words) if way.how == "emit" else _called(way.words)

    def restart(self, program: str, words: Sequence[str]) -> NotifyResult:
        """End a program that runs and start it again; without words it is started by whoever needs it next."""
        pids = own_processes((program,)).get(program, ())
        if not pids:
            return NotifyResult("not running")
        if not end(pids):
            return NotifyResult("refused", f"“{program}” does not end.")
        if words and not start(words):
            return NotifyResult("missing", f"“{words[0]}” could not be started again.")
        return NotifyResult("told")

    def compositor(self) -> bool | None:
        """Tell whether a compositor runs."""
        return x11.compositor()

    def blurs(self, starts: bool = False) -> bool | None:
        """Tell whether what draws the screen blurs, by what runs and its own file."""
        running = set(own_processes({row.program for row in PROGRAMS}))
        return blurs({USUAL} if starts and self.compositor() is False else running, self._home)

    def outside(self) -> tuple[Outsider, ...]:
        """Return the programs of this computer that will not follow."""
        return outsiders(self._home)

    def shown(self) -> dict[str, str]:
        """Return what the running desktop publishes."""
        return x11.published()


def _called(words: Sequence[str]) -> NotifyResult:
    """Call a method without arguments on the session bus: name, path, interface, method."""
    name, path, interface, method = words
    try:
        call(Address(name, path, interface), method)
    except BusError as error:
        return NotifyResult("refused", str(error))
    return NotifyResult("told")


def _emitted(words: Sequence[str]) -> NotifyResult:
    """Send a signal on the session bus; a word for each argument, digits for numbers, "group/key" for changed keys."""
    path, interface, member, signature, *arguments = words
    body: tuple[Any, ...]
    if signature == "a{saay}":
        body = ({group: [key.encode()] for group, _, key in (a.partition("/") for a in arguments)},)
    else:
        body = tuple(int(a) if kind in "iu" else a for kind, a in zip(signature, arguments, strict=True))
    try:
        emit(path, interface, member, signature, body)
    except BusError as error:
        return NotifyResult("refused", str(error))
    return NotifyResult("told")


def session_for(home: Path) -> RealSession | None:
    """Return the real desktop when this is the person's own home, else None."""
    return RealSession(home) if home.resolve() == Path.home().resolve() else None
