"""Benches of the window, driven as by a hand: how long until what was asked for is painted."""

from __future__ import annotations

import gc
import os
import shutil
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from .core import demo_home, four_k, timed
from .figures import Figures

LIVING: list[Any] = []  # the application and what lets the window go first, which have to outlive every window
_TICK_MS = 2
FRAME, FRAME_MOST = 16.0, 25.0  # milliseconds: one step of a drag, and the 95th percentile


def turn_until(done: Callable[[], bool], seconds: float = 60) -> None:
    """Let the event loop turn until something is so, or for so many seconds."""
    from PyQt6.QtCore import QEventLoop, QTimer

    until = time.monotonic() + seconds
    while not done() and time.monotonic() < until:
        loop = QEventLoop()
        QTimer.singleShot(10, loop.quit)
        loop.exec()


def open_window(folder: Path) -> tuple[Any, Any]:
    """Return a window with a picture open and nothing left to do, and the application."""
    from PyQt6.QtWidgets import QApplication

    from mellow_finch.ui.app import make_app
    from mellow_finch.ui.kit.pace import WindowFirst
    from mellow_finch.ui.kit.style import Style
    from mellow_finch.ui.window.parts import OpenWindow as Window

    app = QApplication.instance()
    if app is None:
        app, style = make_app(["bench"])
        LIVING.extend((app, WindowFirst(app)))
    else:
        style = Style()
    home = demo_home(folder)
    window = Window(style, home)
    window.resize(1280, 800)
    window.show()
    window.make_ready()
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    at_rest(window)
    return window, app


def at_rest(window: Any) -> None:
    """Wait until a window has nothing left to do."""
    turn_until(lambda: not window.jobs._running and not window.tally._resting.isActive())


def steps(app: Any, step: Callable[[int], object], count: int = 60, skip: int = 5) -> list[float]:
    """Return the milliseconds from the hand to the painted window, the first few left out."""

    def turn(i: int) -> None:
        step(i)
        app.processEvents()

    return timed(turn, count)[skip:]


def close(window: Any) -> None:
    """Close a window that asks nothing."""
    window.document.stack.setClean()
    window.close()


def drag(folder: Path, told: Figures) -> None:
    """One step of a slider drag: solve, and paint plumage and what of the stage there is time for; zooming; panning."""
    from PyQt6.QtCore import QPointF

    window, app = open_window(folder)
    window.show_step("tune")
    for role, axis in (("accent", 0), ("accent", 2), ("window", 0), ("panel", 0), ("menu_text", 0)):
        window.document.select(role)
        at_rest(window)
        page = window.tune.role
        page._gesture.begin()
        start, by = page._lch[axis], 0.0025 if axis == 0 else 1.0
        times = steps(app, lambda i: page._move(axis, start + by * i))  # noqa: B023
        told.spread(f"Drag of {role}, axis {axis}", times, FRAME, FRAME_MOST)
    stage = window.stage
    at_rest(window)
    told.spread("Zooming", steps(app, lambda i: stage.zoom(1.03)), FRAME, FRAME_MOST)
    back = [1 if i % 40 < 20 else -1 for i in range(60)]
    panned = steps(app, lambda i: stage._move(QPointF(3 * back[i], 2 * back[i])))
    told.spread("Panning", panned, FRAME, FRAME_MOST)
    close(window)


def whole(folder: Path, told: Figures) -> None:
    """One step of a whole-look slider in the window: temper both variants, and paint."""
    window, app = open_window(folder)
    window.show_step("tune")
    page = window.tune.whole
    window.tune.show_page("whole")
    for name, slider in page.sliders.items():
        at_rest(window)
        page._gesture.begin()
        low, step, go = slider.low, (slider.high - slider.low) / 60, slider.moved.emit
        times = steps(app, lambda i, low=low, step=step, go=go: go(low + step * i))
        told.spread(f"Whole-look drag of {name}", times, FRAME, FRAME_MOST)
        window.document.stack.undo()
    close(window)


def stall(folder: Path, told: Figures) -> None:
    """Longest gap between two turns of the event loop while the window works."""
    from PyQt6.QtCore import QEventLoop, Qt, QTimer

    from mellow_finch.demo.build import demo_archive

    window, app = open_window(folder)
    gaps: list[float] = []
    last = [time.perf_counter()]

    def tick() -> None:
        now = time.perf_counter()
        gaps.append((now - last[0]) * 1000 - _TICK_MS)
        last[0] = now

    timer = QTimer()
    timer.setTimerType(Qt.TimerType.PreciseTimer)
    timer.timeout.connect(tick)
    timer.start(_TICK_MS)

    def watch(words: str, begin: Callable[[], object]) -> None:
        at_rest(window)
        gaps.clear()
        last[0] = time.perf_counter()
        QTimer.singleShot(0, begin)
        loop = QEventLoop()
        QTimer.singleShot(300, loop.quit)  # what follows when the hand rests begins in this time
        loop.exec()
        at_rest(window)
        told.tell(f"Longest stall while {words}", max(gaps), "ms", 50)

    _, png = four_k(folder)
    many = folder / "many"
    many.mkdir()
    for i in range(200):
        shutil.copy(folder / "4k.jpg", many / f"{i:03}.jpg")
    watch("opening a 4K PNG", lambda: window.open_path(str(png)))
    watch("ranking 200 pictures", lambda: window.matching.rank_folder(many))
    window.show_step("gather")

    def tone_all() -> None:
        for i in range(40):
            window.matching.preview_tone(0.02 * i + 0.1)
            app.processEvents()

    watch("toning at 40 steps of a slider", tone_all)
    for step in ("dress", "proof", "tune"):
        watch(f"opening {step}", lambda step=step: window.show_step(step))
    watch("bringing a theme", lambda: window.open_path(str(demo_archive(window.document.home))))
    watch("opening wear", lambda: window.show_step("wear"))
    turn_until(lambda: window.wear._known is not None and window.wear._known.plan is not None)
    watch("applying the look", lambda: window.wear.wear())
    window.document.stack.setClean()
    close(window)


def hand(folder: Path, told: Figures) -> None:
    """A step chosen, a key typed into a filter, something found: until it is painted."""
    window, app = open_window(folder)
    names = ("tune", "dress", "proof", "wear", "gather")
    for name in names:  # each is made when it is first shown
        told.tell(f"First change to {name}", steps(app, lambda _, n=name: window.show_step(n), 1, 0)[0], "ms", 50)
        at_rest(window)
    for name in names:
        times = []
        for _ in range(9):
            window.show_step("tune" if name == "gather" else "gather")
            at_rest(window)
            times += steps(app, lambda _, n=name: window.show_step(n), 1, 0)
        told.spread(f"Change to {name}", times, 50)
    window.show_step("dress")
    at_rest(window)
    typed = [*(("kitty"[:n]) for n in range(1, 6)), *("kitty"[:n] for n in range(4, -1, -1))] * 3
    field = window.dress.list.field
    told.spread("A key in Dress's filter", steps(app, lambda i: field.setText(typed[i]), len(typed), 0), 50, 50)
    told.tell("Find anything, opened first", steps(app, lambda _: window.find_anything(), 1, 0)[0], "ms", 50)
    finder = app.activeModalWidget()
    words = [*(("accent"[:n]) for n in range(1, 7)), *("accent"[:n] for n in range(5, -1, -1))] * 3
    times = steps(app, lambda i: finder.line.setText(words[i]), len(words), 0)
    told.spread("A key in Find anything", times, 50, 50)
    finder.reject()
    again = []
    for _ in range(9):
        again += steps(app, lambda _: window.find_anything(), 1, 0)
        app.activeModalWidget().reject()
        app.processEvents()
    told.spread("Find anything, opened", again, 50)
    close(window)


def view(folder: Path, told: Figures) -> None:
    """Switching tone or accent in Dress until the stage shows the component in view, for every fifth one."""
    from mellow_finch.colour.rgb import Rgba
    from mellow_finch.components.catalogue import COMPONENTS
    from mellow_finch.look.edits import with_role

    window, app = open_window(folder)
    window.show_step("dress")
    rows: list[tuple[float, str, str]] = []
    for component in COMPONENTS[::5]:
        window.dress.choose(component.id)
        app.processEvents()
        for what in ("tone", "accent"):
            times = []
            for i in range(5):
                while window.tally._resting.isActive() or window.staging.behind:
                    app.processEvents()
                window.dress.thumbs._timer.stop()
                started = time.perf_counter()
                if what == "tone":
                    window.actions_by_id["tone"].trigger()
                else:
                    colour = Rgba(120 + 5 * i, 90, 60 + i)
                    window.document.edit("Accent", lambda look, colour=colour: with_role(look, "accent", colour))
                window.stage.repaint()
                times.append((time.perf_counter() - started) * 1000)
            rows.append((statistics.median(times), component.id, what))
    close(window)
    for what in ("tone", "accent"):
        own = sorted(r for r in rows if r[2] == what)
        told.spread(f"The component in view after another {what}", [ms for ms, _, _ in own], 33, 50)
        print("  slowest:", ", ".join(f"{name} {ms:.0f}" for ms, name, _ in own[-3:]))


def start(folder: Path, told: Figures) -> None:
    """CPU time until the first paint in every language, whole process; whether scipy was imported before it."""
    code = "\n".join(
        (
            "import os, pathlib, sys, time",
            "from mellow_finch.ui import app as start",
            "import mellow_finch.ui.window.window as w",
            "class Watched(w.Window):",
            "    def paintEvent(self, event):",
            "        super().paintEvent(event)",
            "        print(time.process_time(), 'scipy' in sys.modules, flush=True)",
            "        os._exit(0)",
            "start.Window = Watched",
            "start.run(pathlib.Path(sys.argv[1]))",
        )
    )
    early = 0
    for language in ("en", "de", "fr", "es", "zh_CN", "ar"):
        environment = {**os.environ, "LANGUAGE": language, "LANG": "C.UTF-8", "HOME": str(folder)}
        times = []
        for _ in range(5):
            done = subprocess.run(
                [sys.executable, "-c", code, str(folder)], env=environment, capture_output=True, text=True, check=True
            )
            seconds, scipy = done.stdout.split()[:2]
            times.append(float(seconds))
            early += scipy == "True"
        told.tell(f"First paint, {language}, processor time", statistics.median(times), "s", 0.5)
    told.tell("Starts that import scipy before the first paint", early, "", 0)


def wall(folder: Path, told: Figures) -> None:
    """A look drawn for the wall of the Shelf, and a sheet of twelve cards: processor time, and the time on the way."""
    from mellow_finch.demo.build import demo_pictures
    from mellow_finch.look.gather import look_of_pictures
    from mellow_finch.look.ready import READY
    from mellow_finch.ui.shelf.card import sheet
    from mellow_finch.ui.shelf.drawn import subject_of
    from mellow_finch.ui.shelf.wall import SMALL

    window, _ = open_window(folder)
    desk = window.shelving.desk
    pictures = demo_pictures(demo_home(folder))
    looks = [look_of_pictures([path], "dark") for path in pictures] + [scheme.look() for scheme in READY]
    looks = looks[:12]
    times = timed(lambda i: desk.small_of(looks[i % len(looks)], SMALL * 2), 24)[2:]
    told.spread("A look on the wall", times, 40)
    close(window)
    started = time.process_time()
    sheet([subject_of(look) for look in looks])
    told.tell("A sheet of twelve cards, processor time", time.process_time() - started, "s", 3)


def memory(folder: Path, told: Figures) -> None:
    """Two hundred openings of pictures and themes in one window, in a process of its own: does it end where ten did?"""
    code = "import sys, pathlib; from bench.window import many_openings; many_openings(pathlib.Path(sys.argv[1]))"
    root = Path(__file__).resolve().parents[1]
    environment = {**os.environ, "PYTHONPATH": f"{root / 'src'}:{root}"}
    done = subprocess.run(
        [sys.executable, "-c", code, str(folder)], env=environment, capture_output=True, text=True, check=True
    )
    ten, all_ = (float(word) for word in done.stdout.split()[-2:])
    told.tell("Memory after ten openings", ten, "MB", 250)
    told.tell("Memory after two hundred openings", all_, "MB", 250)
    told.tell("Two hundred openings / ten, memory", all_ / ten, "", 1.1)


def many_openings(folder: Path) -> None:
    """Open pictures and themes in turn, step after step; print the resident megabytes after ten and after all."""
    import psutil

    from mellow_finch.demo.build import demo_archive, demo_pictures

    home = demo_home(folder)
    window, _ = open_window(folder)
    things = [*demo_pictures(home), *four_k(folder), demo_archive(home)]
    names = ("gather", "tune", "dress", "proof", "wear")
    own = psutil.Process()
    after: list[float] = []
    for i in range(200):
        window.open_path(str(things[i % len(things)]))
        window.show_step(names[i % len(names)])
        at_rest(window)
        if i in (9, 199):
            turn_until(lambda: False, 22)  # a person rests now and then, too
            gc.collect()
            after.append(own.memory_info().rss / 1e6)
    print(*after, flush=True)
    close(window)
