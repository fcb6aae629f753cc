"""Measure, print figures and ratios; nothing here passes or fails."""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from PIL import Image

ROUNDS = 9


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


def drag(folder: Path) -> None:
    """One step of a slider drag: solve, dress, read back, judge, and paint plumage and stage."""
    from PyQt6.QtCore import QEventLoop, QTimer

    from mellow_finch.demo.build import build_demo_home
    from mellow_finch.ui.app import make_app
    from mellow_finch.ui.window import Window

    app, style = make_app(["bench"])
    home = build_demo_home(folder / "demo" / "home")
    window = Window(style, home)
    window.resize(1280, 800)
    window.show()
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    while window.jobs._running:
        loop = QEventLoop()
        QTimer.singleShot(20, loop.quit)
        loop.exec()
    window.show_step("tune")
    for role, axis in (("accent", 0), ("accent", 2), ("window", 0), ("menu_text", 0)):
        window.document.select(role)
        app.processEvents()
        window.tune.role._begin()
        start = window.tune.role._lch[axis]
        times = []
        for i in range(60):
            started = time.perf_counter()
            window.tune.role._move(axis, start + (0.0025 if axis == 0 else 1.0) * i)
            app.processEvents()
            times.append((time.perf_counter() - started) * 1000)
        times = sorted(times[5:])
        middle, most = times[len(times) // 2], times[int(len(times) * 0.95)]
        print(f"Drag of {role}, axis {axis}: median {middle:.1f} ms, 95 % {most:.1f} ms (wanted: 33)")
    window.close()


def start(folder: Path) -> None:
    """CPU time until the first paint, whole process, and whether scipy was imported before it."""
    code = "\n".join(
        (
            "import os, sys, time",
            "from mellow_finch.ui import app as start",
            "import mellow_finch.ui.window as w",
            "class Watched(w.Window):",
            "    def paintEvent(self, event):",
            "        super().paintEvent(event)",
            "        print(time.process_time(), 'scipy' in sys.modules, flush=True)",
            "        os._exit(0)",
            "start.Window = Watched",
            "start.run()",
        )
    )
    times = []
    for _ in range(5):
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
        seconds, scipy = done.stdout.split()[:2]
        times.append(float(seconds))
    print(f"First paint: {statistics.median(times):.2f} s CPU (wanted: under 0.6), scipy imported before: {scipy}")


BENCHES = {"palette": palette, "error": error, "drag": drag, "start": start}


def main() -> None:
    """Run the named benches, all without names."""
    with tempfile.TemporaryDirectory() as scratch:
        for name in sys.argv[1:] or BENCHES:
            BENCHES[name](Path(scratch))


if __name__ == "__main__":
    main()
