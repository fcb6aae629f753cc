"""Kills wearing, undoing and finishing at random moments, and checks that each can be finished and undone exactly.

The home has every program of the catalogue and a file of every kind, links of both kinds, odd modes, CRLF and bytes
that are no UTF-8. Run it from the project's root: python -m tools.kill_wearing [TIMES]; it prints what it counted.
"""

from __future__ import annotations

import os
import random
import signal
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path

from tools.rigs.homes import bytes_of, full_home, state

from mellow_finch.demo.build import demo_pictures
from mellow_finch.disk.write import Disk
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.session.none import NoDesktop
from mellow_finch.wear.history import History
from mellow_finch.wear.plan import make_plan, own_files
from mellow_finch.wear.status import status_of
from mellow_finch.wear.wear import finish, put_on, undo_last


def odd_home(folder: Path) -> Path:
    """Return a full home with everything in it that is easily broken."""
    home = full_home(folder)
    (home / "dots").mkdir()
    (home / ".Xresources").rename(home / "dots/resources")
    (home / ".Xresources").symlink_to("./dots/resources")
    (home / "dots/resources").chmod(0o600)
    os.link(home / ".config/kitty/kitty.conf", home / "dots/kitty-too")
    (home / ".config/conky/conky.conf").chmod(0o755)
    (home / ".config/kdeglobals").chmod(0o444)
    foot = home / ".config/foot/foot.ini"
    foot.write_bytes(foot.read_bytes().replace(b"\n", b"\r\n"))
    vimrc = home / ".vimrc"
    vimrc.write_bytes(b'" m\xf6we\r\nset number\r\n')
    return home


class Rig:
    """One home, killed again and again."""

    def __init__(self, folder: Path, seed: int) -> None:
        self.home = odd_home(folder)
        self.folder = folder / "state" / "m" / "history"
        self.random = random.Random(seed)
        look = look_of_pictures([demo_pictures(self.home)[0]], "dark")
        self.plan = make_plan(dress(look, own_files(self.home, self.history()), every_component(look)), self.home)
        self.before = state(self.home)
        self.counts: Counter[str] = Counter()
        self.wear_s = self.taken(lambda: put_on(self.plan, self.history(), NoDesktop()))
        self.after = state(self.home)
        self.undo_s = self.taken(lambda: undo_last(self.history(), NoDesktop()))
        self.must("as before", state(self.home) == self.before)

    def taken(self, work: Callable[[], object]) -> float:
        """Return how many seconds work takes in a process of its own."""
        started = time.monotonic()
        child = os.fork()
        if child == 0:
            work()
            os._exit(0)
        os.waitpid(child, 0)
        return time.monotonic() - started

    def history(self) -> History:
        """Return the history, read anew."""
        return History(self.folder)

    def must(self, words: str, good: bool) -> None:
        """End with what went wrong."""
        if not good:
            now = state(self.home)
            rows = {p for p in now.keys() | self.before.keys() if now.get(p) != self.before.get(p)}
            raise SystemExit(f"NOT EXACT: {words}: {sorted(rows)[:10]}; counted so far: {dict(self.counts)}")

    def killed(self, work: Callable[[], object], longest_s: float) -> bool:
        """Run work in a process that is killed at a random moment; return whether it ended before that."""
        child = os.fork()
        if child == 0:
            try:
                work()
            finally:
                os._exit(0)
        time.sleep(self.random.uniform(0, 1.8) * longest_s)
        os.kill(child, signal.SIGKILL)
        _, status = os.waitpid(child, 0)
        return os.WIFEXITED(status)

    def whole(self) -> None:
        """Every file is the old one or the new one, but for the one that is written into while a mark says so."""
        torn = any(True for _ in self.folder.glob("*/torn-*"))
        for path, entry in state(self.home).items():
            if entry[0] == "file" and ".finch-" not in path and not (torn and "kitty" in path):
                good = bytes_of(entry) in (bytes_of(self.before.get(path)), bytes_of(self.after.get(path)))
                self.must(f"whole {path}", good)

    def settle(self, forward: bool) -> None:
        """Finish or undo what is left, and check both."""
        history = self.history()
        history.tidy()
        pending = status_of(history).pending
        if pending is not None and forward:
            finish(history, NoDesktop())
            self.counts["finished"] += 1
            self.must("finished", state(self.home) == (self.after if pending.status == "writing" else self.before))
        if history.last_worn() is not None:
            undo_last(history, NoDesktop())
            self.counts["undone"] += 1
        self.must("undone", state(self.home) == self.before)
        self.must("left-overs", not list(self.folder.rglob(".finch-*")) and not list(self.folder.glob("*/torn-*")))

    def kill_wear(self) -> None:
        """Kill putting on."""
        ended = self.killed(lambda: put_on(self.plan, self.history(), NoDesktop()), self.wear_s)
        self.counts["wear ended before it was killed" if ended else "wear killed"] += 1
        self.whole()

    def wear(self, times: int) -> None:
        """Kill putting on, many times."""
        for i in range(times):
            self.kill_wear()
            self.settle(i % 2 == 0)

    def undo(self, times: int) -> None:
        """Kill undoing, many times."""
        for i in range(times):
            put_on(self.plan, self.history(), NoDesktop())
            ended = self.killed(lambda: undo_last(self.history(), NoDesktop()), self.undo_s)
            self.counts["undo ended before it was killed" if ended else "undo killed"] += 1
            self.whole()
            self.settle(i % 2 == 0)

    def pending(self) -> None:
        """Let putting on end itself at a random step where files change places."""
        left = [self.random.randrange(1, 2 * len(self.plan.writes))]
        under_way: list[str] = []

        def step(name: str) -> None:
            if name == "marked state-writing":
                under_way.append(name)
            left[0] -= bool(under_way)
            if left[0] == 0:
                os.kill(os.getpid(), signal.SIGKILL)

        child = os.fork()
        if child == 0:
            put_on(self.plan, History(self.folder, Disk(step)), NoDesktop())
            os._exit(0)
        os.waitpid(child, 0)
        self.counts["wear killed at a step"] += 1
        self.must("interrupted", self.history().pending() is not None)

    def finishing(self, times: int) -> None:
        """Kill finishing, many times."""
        for i in range(times):
            self.pending()
            ended = self.killed(lambda: finish(self.history(), NoDesktop()), self.wear_s / 3)
            self.counts["finish ended before it was killed" if ended else "finish killed"] += 1
            self.whole()
            self.settle(i % 2 == 0)

    def twice(self, times: int) -> None:
        """Kill what is to mend the first kill, many times."""
        for i in range(times):
            self.pending()
            self.killed(lambda: finish(self.history(), NoDesktop()), self.wear_s / 3)
            if self.history().last_worn() is not None:
                self.killed(lambda: undo_last(self.history(), NoDesktop()), self.undo_s)
            self.counts["killed twice and more"] += 1
            self.whole()
            self.settle(i % 2 == 0)


def main() -> None:
    """Kill it TIMES, a third of that for the others."""
    times = int(sys.argv[1]) if len(sys.argv) > 1 else 300
    with tempfile.TemporaryDirectory() as scratch:
        rig = Rig(Path(scratch), 7)
        print(f"{len(rig.plan.writes)} files; wearing takes {rig.wear_s:.2f} s, undoing {rig.undo_s:.2f} s", flush=True)
        for work, count in (
            (rig.wear, times),
            (rig.undo, times // 3),
            (rig.finishing, times // 3),
            (rig.twice, times // 3),
        ):
            work(count)
            print(dict(rig.counts), flush=True)


if __name__ == "__main__":
    main()
