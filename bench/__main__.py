"""Measure, print figures and ratios; nothing here passes or fails."""

from __future__ import annotations

import os
import random
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from .steady import steady
from .themes import themes

ROUNDS = 9
KEPT: list[Any] = []


def paired(ours: Callable[[], object], peer: Callable[[], object], rounds: int = ROUNDS) -> tuple[float, float, float]:
    """Return median milliseconds of ours and of the peer, and the median of their ratios, run in turn."""
    ours(), peer()
    a: list[float] = []
    b: list[float] = []
    for _ in range(rounds):
        for work, times in ((ours, a), (peer, b)):
            started = time.perf_counter()
            work()
            times.append((time.perf_counter() - started) * 1000)
    return statistics.median(a), statistics.median(b), statistics.median(x / y for x, y in zip(a, b, strict=True))


def four_k(folder: Path) -> tuple[Path, Path]:
    """Make a 4K picture from a demo picture, as JPEG and as PNG."""
    from mellow_finch.demo.build import build_demo_home, demo_pictures

    source = demo_pictures(build_demo_home(folder / "demo" / "home"))[0]
    image = Image.open(source).convert("RGB").resize((3840, 2400), Image.Resampling.LANCZOS).crop((0, 120, 3840, 2280))
    grain = np.random.default_rng(0).normal(0, 3, (2160, 3840, 1))
    image = Image.fromarray(np.clip(np.asarray(image) + grain, 0, 255).astype(np.uint8))
    image.save(folder / "4k.jpg", quality=92)
    image.save(folder / "4k.png")
    return folder / "4k.jpg", folder / "4k.png"


def palette(folder: Path) -> None:
    """Palette of a 4K picture against only decoding it."""
    from mellow_finch.picture.load import load_picture
    from mellow_finch.picture.swatches import swatches_of

    jpeg, png = four_k(folder)

    def draft() -> None:
        image = Image.open(jpeg)
        image.draft("RGB", (480, 270))
        image.load()

    for name, path, peer, limit in (
        ("4K JPEG palette / decode at 1/8", jpeg, draft, 2.0),
        ("4K JPEG palette / full decode", jpeg, lambda: Image.open(jpeg).load(), 0.7),
        ("4K PNG palette / decode", png, lambda: Image.open(png).load(), 1.2),
    ):
        ours, theirs, ratio = paired(lambda path=path: swatches_of(load_picture(path), 8), peer)
        print(f"{name}: {ours:.0f} ms / {theirs:.0f} ms = {ratio:.2f} (wanted: at most {limit})")


def error(folder: Path) -> None:
    """Mean CIEDE2000 error at 16 colours against scikit-learn's KMeans on a 100,000-pixel sample in Lab."""
    from sklearn.cluster import KMeans

    from mellow_finch.colour.difference import delta_e_2000
    from mellow_finch.colour.spaces import srgb_to_lab
    from mellow_finch.demo.build import build_demo_home, demo_pictures
    from mellow_finch.picture.histogram import histogram
    from mellow_finch.picture.load import load_picture
    from mellow_finch.picture.quantize import nearest_centres, quantize

    ratios = []
    for path in demo_pictures(build_demo_home(folder / "demo" / "home")):
        picture = load_picture(path, 960)
        pixels = picture.pixels.reshape(-1, 3)
        chosen = np.random.default_rng(0).choice(len(pixels), 100_000, replace=len(pixels) < 100_000)
        lab = srgb_to_lab(pixels[chosen] / 255)
        hist = histogram(picture.pixels)

        def mean(centres: np.ndarray, lab: np.ndarray = lab) -> float:
            return float(delta_e_2000(lab, centres[nearest_centres(lab, centres)]).mean())

        ours = mean(quantize(hist.lab, hist.share, 16)[0])
        peer = mean(KMeans(16, n_init=1, random_state=0).fit(lab).cluster_centers_)
        ratios.append(ours / peer)
        print(f"{path.stem}: {ours:.3f} / {peer:.3f} = {ours / peer:.3f}")
    print(f"Error at 16 colours / KMeans: mean {statistics.mean(ratios):.3f} (wanted: at most 1.03)")


def _window(folder: Path) -> tuple[Any, Any]:
    """Return a window with a picture open, and its application, of which there is one."""
    from PyQt6.QtCore import QEventLoop, QTimer
    from PyQt6.QtWidgets import QApplication

    from mellow_finch.demo.build import build_demo_home
    from mellow_finch.ui.app import make_app
    from mellow_finch.ui.kit.style import Style
    from mellow_finch.ui.window.parts import OpenWindow as Window

    app = QApplication.instance()
    if app is None:
        app, style = make_app(["bench"])
        KEPT.append(app)
    else:
        style = Style()
    home = build_demo_home(folder / "demo" / "home")
    window = Window(style, home)
    window.resize(1280, 800)
    window.show()
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    while window.jobs._running:
        loop = QEventLoop()
        QTimer.singleShot(20, loop.quit)
        loop.exec()
    return window, app


def _steps(words: str, wanted: str, app: Any, step: Callable[[int], object], count: int = 60) -> None:
    """Print how long steps take from the hand to the painted window."""
    times = []
    for i in range(count):
        started = time.perf_counter()
        step(i)
        app.processEvents()
        times.append((time.perf_counter() - started) * 1000)
    times = sorted(times[5:])
    middle, most = times[len(times) // 2], times[int(len(times) * 0.95)]
    print(f"{words}: median {middle:.1f} ms, 95 % {most:.1f} ms (wanted: {wanted})")


def _drag_role(window: Any, app: Any, role: str, axis: int, bar: str) -> None:
    page = window.tune.role
    page._gesture.begin()
    start, by = page._lch[axis], 0.0025 if axis == 0 else 1.0
    _steps(f"Drag of {role}, axis {axis}", bar, app, lambda i: page._move(axis, start + by * i))


def drag(folder: Path) -> None:
    """One step of a slider drag: solve, and paint plumage and what of the stage there is time for; zooming; panning."""
    from PyQt6.QtCore import QPointF

    window, app = _window(folder)
    window.show_step("tune")
    bar = "16, 95 % 25" if app.devicePixelRatio() == 1 else "25 at this pixel ratio"
    for role, axis in (("accent", 0), ("accent", 2), ("window", 0), ("panel", 0), ("menu_text", 0)):
        window.document.select(role)
        app.processEvents()
        _drag_role(window, app, role, axis, bar)
    stage = window.stage
    _steps("Zooming", "16", app, lambda i: stage.zoom(1.03))
    _steps("Panning", "16", app, lambda i: stage._move(QPointF(3 if i % 40 < 20 else -3, 2 if i % 40 < 20 else -2)))
    window.document.stack.setClean()
    window.close()


def stall(folder: Path) -> None:
    """Longest gap between two turns of the event loop while the window works."""
    from PyQt6.QtCore import QTimer

    from mellow_finch.demo.build import demo_archive

    window, app = _window(folder)
    gaps: list[float] = []
    last = [time.perf_counter()]

    def tick() -> None:
        now = time.perf_counter()
        gaps.append((now - last[0]) * 1000)
        last[0] = now

    timer = QTimer()
    timer.timeout.connect(tick)
    timer.start(0)

    def watch(words: str, begin: Callable[[], object]) -> None:
        for _ in range(5):
            app.processEvents()
        gaps.clear()
        last[0] = time.perf_counter()
        begin()
        until = time.monotonic() + 60
        while time.monotonic() < until:
            app.processEvents()
            if not window.jobs._running and len(gaps) > 40:
                break
        print(f"Longest stall while {words}: {max(gaps):.0f} ms (wanted: at most 50)")

    _, png = four_k(folder)
    many = folder / "many"
    many.mkdir()
    for i in range(200):
        shutil.copy(folder / "4k.jpg", many / f"{i:03}.jpg")
    watch("opening a 4K PNG", lambda: window.open_path(str(png)))
    watch("ranking 200 pictures", lambda: window.matching.rank_folder(many))
    ran: list[float] = []
    window.show_step("gather")

    def tone_all() -> None:
        for i in range(40):
            ran.append(i)
            window.matching.preview_tone(0.02 * i + 0.1)
            app.processEvents()

    watch("toning at 40 steps of a slider", tone_all)
    watch("opening Dress", lambda: window.show_step("dress"))
    watch("opening Proof", lambda: window.show_step("proof"))
    watch("bringing a theme", lambda: window.open_path(str(demo_archive(window.document.home))))
    watch("opening Wear", lambda: window.show_step("wear"))
    while window.wear._known is None or window.wear._known.plan is None:
        app.processEvents()
    watch(f"wearing {len(window.wear._known.plan.writes)} files", lambda: window.wear.wear())
    window.document.stack.setClean()
    window.close()


def start(folder: Path) -> None:
    """CPU time until the first paint in every language, whole process, and whether scipy was imported before it."""
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
    for language in ("en", "de", "fr", "es", "zh_CN", "ar"):
        environment = {**os.environ, "LANGUAGE": language, "LANG": "C.UTF-8", "HOME": str(folder)}
        times = []
        for _ in range(5):
            done = subprocess.run(
                [sys.executable, "-c", code, str(folder)], env=environment, capture_output=True, text=True, check=True
            )
            seconds, scipy = done.stdout.split()[:2]
            times.append(float(seconds))
        words = f"{statistics.median(times):.2f} s CPU (wanted: under 0.6), scipy imported before: {scipy}"
        print(f"First paint, {language}: {words}")


def yardstick(folder: Path) -> None:
    """A plain counting loop, by which figures of different runs can be compared."""
    started = time.perf_counter()
    total = 0
    for i in range(5_000_000):
        total += i
    print(f"Yardstick: counting to five million takes {time.perf_counter() - started:.2f} s")


def solve(folder: Path) -> None:
    """Re-solving after one role change, and one step of each whole-look control, both halves of the look."""
    from dataclasses import replace

    from mellow_finch.colour.gamut import oklch_to_rgba, rgba_to_oklch
    from mellow_finch.demo.build import build_demo_home, demo_pictures
    from mellow_finch.look.edits import with_role, with_temper
    from mellow_finch.look.gather import look_of_pictures
    from mellow_finch.palette.temper import CONTROLS

    look = look_of_pictures(demo_pictures(build_demo_home(folder / "demo" / "home"))[:1], "dark")

    def spread(work: Callable[[int], object], count: int = 60) -> tuple[float, float]:
        times = []
        for i in range(count):
            started = time.perf_counter()
            work(i)
            times.append((time.perf_counter() - started) * 1000)
        times.sort()
        return times[count // 2], times[int(count * 0.95)]

    for role in ("window", "menu_text", "accent", "terminal"):
        lightness, chroma, hue = rgba_to_oklch(look.colours[role])
        middle, most = spread(lambda i: with_role(look, role, oklch_to_rgba(lightness + 0.003 * i, chroma, hue)))  # noqa: B023
        print(f"Re-solving after a change of {role}: median {middle:.1f} ms, 95 % {most:.1f} ms (wanted: under 5)")
    for control in CONTROLS:
        step = (control.high - control.low) / 200
        start = getattr(look.temper, control.id)
        sign = 1 if start < control.high else -1
        middle, most = spread(
            lambda i: with_temper(look, replace(look.temper, **{control.id: start + sign * step * i}))  # noqa: B023
        )
        print(f"Whole look, {control.title}: median {middle:.1f} ms, 95 % {most:.1f} ms a step (wanted: under 33)")


def rank(folder: Path) -> None:
    """Ranking 200 4K JPEGs by fit: time a picture, and how much memory grows from the first twenty to the last."""
    import resource
    import shutil

    from mellow_finch.demo.build import build_demo_home, demo_pictures
    from mellow_finch.look.gather import look_of_pictures
    from mellow_finch.picture.rank import PictureCache, pictures_in
    from mellow_finch.picture.rank import rank as rank_pictures
    from mellow_finch.progress import Silent

    jpeg, _ = four_k(folder)
    many = folder / "many"
    many.mkdir()
    for i in range(200):
        shutil.copy(jpeg, many / f"{i:03}.jpg")
    colours = look_of_pictures(demo_pictures(build_demo_home(folder / "demo" / "home"))[:1], "dark").colours
    memory: list[int] = []
    started = time.perf_counter()
    rank_pictures(
        pictures_in(many), colours, Silent(), PictureCache(folder / "kept"),
        lambda _: memory.append(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss),
    )  # fmt: skip
    each = (time.perf_counter() - started) / 200 * 1000

    def draft() -> None:
        image = Image.open(jpeg)
        image.draft("RGB", (240, 135))
        image.load()

    ours, theirs, ratio = paired(lambda: rank_pictures([jpeg], colours, Silent()), draft)
    print(f"Ranking 200 4K JPEGs: {each:.0f} ms a picture (wanted: under 60)")
    print(f"One of them against a decode at 1/8: {ours:.0f} ms / {theirs:.0f} ms = {ratio:.2f}")
    print(
        f"Memory from the 20th to the 200th: {(memory[-1] - memory[19]) / 1024:+.1f} MB of {memory[-1] / 1024:.0f} MB"
    )
    started = time.perf_counter()
    rank_pictures(pictures_in(many), colours, Silent(), PictureCache(folder / "kept"))
    print(f"Once more, from what is kept: {(time.perf_counter() - started) / 200 * 1000:.1f} ms a picture")


def whole(folder: Path) -> None:
    """One step of a whole-look slider in the window: temper both halves, and paint."""
    window, app = _window(folder)
    window.show_step("tune")
    page = window.tune.whole
    window.tune.show_page("whole")
    for name, slider in page.sliders.items():
        page._gesture.begin()
        low, step, go = slider.low, (slider.high - slider.low) / 60, slider.moved.emit
        _steps(f"Drag of {name}", "16, 95 % 25", app, lambda i, low=low, step=step, go=go: go(low + step * i))
        window.document.stack.undo()
    window.document.stack.setClean()
    window.close()


def dress(folder: Path) -> None:
    """Dressing all components of a look in one process, against reading the definitions they are made from."""
    import tomllib
    from importlib.resources import files

    from mellow_finch.colour.rgb import Rgba
    from mellow_finch.components.model import FolderFiles
    from mellow_finch.demo.build import build_demo_home
    from mellow_finch.look.dressed import Writings, every_component
    from mellow_finch.look.dressed import dress as dress_look
    from mellow_finch.look.edits import with_role
    from mellow_finch.look.ready import READY

    home = FolderFiles(build_demo_home(folder / "demo" / "home"))
    looks = [scheme.look() for scheme in READY[:6]]
    texts = [e.read_text(encoding="utf-8") for e in files("mellow_finch.components").joinpath("definitions").iterdir()]
    at = iter(range(1000))

    def all_of_them() -> int:
        look = looks[next(at) % len(looks)]
        return sum(len(f) for f in dress_look(look, home, every_component(look)).files.values())

    def of_another_accent() -> None:
        look = with_role(looks[0], "accent", Rgba(200, 40, next(at) % 256))
        list(dress_look(look, home, every_component(look), None, kept).files.values())

    kept = Writings()
    started = time.perf_counter()
    count = all_of_them()
    first = time.perf_counter() - started
    ours, theirs, ratio = paired(all_of_them, lambda: [tomllib.loads(t) for t in texts])
    print(
        f"Dressing all components, {count} files: first {first * 1000:.0f} ms (wanted: 500), then {ours:.0f} ms (150);"
        f" reading their definitions {theirs:.0f} ms, ratio {ratio:.2f}"
    )
    list(dress_look(looks[0], home, every_component(looks[0]), None, kept).files.values())
    ours, theirs, ratio = paired(of_another_accent, all_of_them)
    print(f"Another accent: {ours:.0f} ms, all of it anew {theirs:.0f} ms, ratio {ratio:.2f}")


def view(folder: Path) -> None:
    """Switching tone or accent in Dress until the stage shows the component in view, for every component."""
    from mellow_finch.colour.rgb import Rgba
    from mellow_finch.components.catalogue import COMPONENTS
    from mellow_finch.look.edits import with_role

    window, app = _window(folder)
    window.show_step("dress")
    rows: list[tuple[float, str, str]] = []
    for component in COMPONENTS:
        window.dress.choose(component.id)
        app.processEvents()
        for what in ("tone", "accent"):
            times = []
            for i in range(7):
                while any(t.isActive() for t in (window.tally._resting, window.dress._resting, window.staging._rest)):
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
    window.close()
    for what in ("tone", "accent"):
        own = sorted(r for r in rows if r[2] == what)
        over = [r for r in own if r[0] > 33]
        worst = ", ".join(f"{name} {ms:.0f}" for ms, name, _ in own[-3:])
        print(
            f"The component in view after another {what}: median {own[len(own) // 2][0]:.1f} ms, slowest {worst} ms;"
            f" {len(over)} of {len(own)} over the wanted 33"
        )


def long_sheet(lines: int = 10_000) -> str:
    """Return a toolkit sheet of many lines, as a preprocessor would write it; every literal another colour."""
    rng = random.Random(0)
    nodes = ("button", "entry", "menu menuitem", "headerbar .title", "list row", "notebook tab", "popover.background")
    states = ("", ":hover", ":checked", ":disabled", ":backdrop")
    rows: list[str] = []
    while len(rows) < lines:
        rows.append(f"{rng.choice(nodes)}{rng.choice(states)}, .c{rng.randrange(900)} > {rng.choice(nodes)} {{")
        for _ in range(rng.randrange(2, 6)):
            r, g, b = (rng.randrange(256) for _ in range(3))
            rows.append(
                rng.choice(
                    (
                        f"  color: #{r:02x}{g:02x}{b:02x};",
                        f"  background-color: rgba({r}, {g}, {b}, 0.5);",
                        f"  border: 1px solid #{r // 16:x}{g // 16:x}{b // 16:x};",
                        "  padding: 4px 6px;",
                        "  box-shadow: inset 0 1px alpha(@theme_fg_color, 0.2), 0 1px 2px rgba(0, 0, 0, 0.2);",
                        "  transition: all 200ms ease-out;",
                    )
                )
            )
        rows.append("}")
    return "\n".join(rows[:lines]) + "\n"


def sheet(_folder: Path) -> None:
    """A 10,000-line sheet read, grouped and rewritten, against tinycss2 only tokenizing it."""
    import tinycss2

    from mellow_finch.look.ready import READY
    from mellow_finch.recolour.rewrite import new_colours, rewrite, subject_of
    from mellow_finch.syntax.css import scan_css

    text, colours = long_sheet(), READY[0].look(None).colours

    def whole_way() -> None:
        subject_of.cache_clear()
        subject = subject_of(text, scan_css)
        rewrite(subject, new_colours(subject, colours))

    started = time.perf_counter()
    whole_way()
    first = (time.perf_counter() - started) * 1000
    ours, theirs, ratio = paired(whole_way, lambda: tinycss2.parse_component_value_list(text))
    print(
        f"10,000-line sheet read, grouped, rewritten / tokenized: {ours:.0f} ms / {theirs:.0f} ms = {ratio:.2f}"
        f" (wanted: at most 1.5); the first time {first:.0f} ms = {first / theirs:.2f}"
    )


def icons(folder: Path) -> None:
    """An icon theme of 5,000 drawings opened, recoloured and written, in one process."""
    from mellow_finch.demo.turnstone import turnstone_files
    from mellow_finch.look.ready import READY
    from mellow_finch.theme.bundle.read import open_theme
    from mellow_finch.theme.result.recolour import recolour_theme
    from mellow_finch.wear.themes import lay_down

    theme = folder / "Turnstone"
    (theme / "48/apps").mkdir(parents=True)
    files = turnstone_files()
    (theme / "index.theme").write_bytes(files["icons/Turnstone/index.theme"])
    rng = random.Random(1)
    for i in range(5000):
        shapes = "".join(
            f'  <path d="M0 {rng.randrange(48)} '
            + " ".join(f"L{rng.random() * 48:.2f} {rng.random() * 48:.2f}" for _ in range(30))
            + f'" style="fill:#{rng.randrange(1 << 24):06x};stroke:none"/>\n'
            + '  <rect fill="#2f6fe0" width="9" height="3"/>\n'
            for _ in range(rng.randrange(2, 9))
        )
        (theme / f"48/apps/icon-{i}.svg").write_text(f'<svg xmlns="http://www.w3.org/2000/svg">\n{shapes}</svg>\n')
    started = time.perf_counter()
    outcome = recolour_theme(open_theme(theme), READY[0].look(None).scheme())
    done = time.perf_counter() - started
    count = lay_down(outcome.outputs, folder / "out")
    print(
        f"Icon theme of 5,000 drawings: {done:.1f} s to read and recolour, {time.perf_counter() - started:.1f} s with"
        f" writing {count} files (wanted: under 20)"
    )


def wear(folder: Path) -> None:
    """A thousand files put on and taken off with journal and kept bytes, beside only writing them down safely."""
    from mellow_finch.look.dressed import Output
    from mellow_finch.session.none import NoDesktop
    from mellow_finch.wear.history import History
    from mellow_finch.wear.plan import Plan, planned
    from mellow_finch.wear.wear import put_on, undo_last

    rng = random.Random(3)
    home, plain = folder / "home", folder / "plain"
    outputs = [Output(f"d{i % 40}/f{i}", rng.randbytes(2000), ("a",)) for i in range(1000)]
    for output in outputs[:500]:
        (home / output.path).parent.mkdir(parents=True, exist_ok=True)
        (home / output.path).write_bytes(b"old")
    history = History(folder / "state" / "m" / "history")
    writes, same, _ = planned(home, outputs)
    times: list[tuple[float, float, float]] = []
    for _ in range(5):
        started = time.perf_counter()
        put_on(Plan("Marsh", home, writes, (), (), same), history, NoDesktop())
        worn = time.perf_counter()
        undo_last(history, NoDesktop())
        off = time.perf_counter()
        for output in outputs:
            target = plain / output.path
            target.parent.mkdir(parents=True, exist_ok=True)
            with target.open("wb") as stream:
                stream.write(output.data)
                stream.flush()
                os.fsync(stream.fileno())
        done = time.perf_counter()
        shutil.rmtree(plain)
        times.append((worn - started, off - worn, done - off))
    on, back, peer = (statistics.median(column) for column in zip(*times, strict=True))
    print(
        f"A thousand files: {on:.2f} s to put on ({on / peer:.1f} of only writing and syncing them), {back:.2f} s to"
        f" take off ({back / peer:.1f})"
    )


BENCHES = {
    "yardstick": yardstick,
    "palette": palette,
    "error": error,
    "solve": solve,
    "rank": rank,
    "sheet": sheet,
    "icons": icons,
    "drag": drag,
    "stall": stall,
    "whole": whole,
    "dress": dress,
    "view": view,
    "start": start,
    "wear": wear,
    "steady": steady,
}
LONG = {"themes": themes}  # by their names only


def main() -> None:
    """Run the named benches, all without names."""
    with tempfile.TemporaryDirectory() as scratch:
        for name in sys.argv[1:] or BENCHES:
            (BENCHES | LONG)[name](Path(scratch))


if __name__ == "__main__":
    main()
