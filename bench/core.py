"""Benches of the heart, without a window: pictures, palettes, sheets, icons, files."""

from __future__ import annotations

import os
import random
import resource
import shutil
import statistics
import time
import tomllib
from collections.abc import Callable
from dataclasses import replace
from importlib.resources import files
from pathlib import Path

import numpy as np
from PIL import Image

from .figures import Figures


def demo_home(folder: Path) -> Path:
    """Return the demo's home folder, made when it is first asked for."""
    from mellow_finch.demo.build import build_demo_home

    return build_demo_home(folder / "demo" / "home")


def first_look(folder: Path):  # type: ignore[no-untyped-def]
    """Return the dark look of the demo's first picture."""
    from mellow_finch.demo.build import demo_pictures
    from mellow_finch.look.gather import look_of_pictures

    return look_of_pictures(demo_pictures(demo_home(folder))[:1], "dark")


def timed(work: Callable[[int], object], count: int = 60) -> list[float]:
    """Return the milliseconds that each of several turns took."""
    times = []
    for i in range(count):
        started = time.perf_counter()
        work(i)
        times.append((time.perf_counter() - started) * 1000)
    return times


def four_k(folder: Path) -> tuple[Path, Path]:
    """Make a 4K picture from a demo picture, as JPEG and as PNG."""
    from mellow_finch.demo.build import demo_pictures

    jpeg, png = folder / "4k.jpg", folder / "4k.png"
    if not png.exists():
        image = Image.open(demo_pictures(demo_home(folder))[0]).convert("RGB")
        image = image.resize((3840, 2400), Image.Resampling.LANCZOS).crop((0, 120, 3840, 2280))
        grain = np.random.default_rng(0).normal(0, 3, (2160, 3840, 1))
        image = Image.fromarray(np.clip(np.asarray(image) + grain, 0, 255).astype(np.uint8))
        image.save(jpeg, quality=92)
        image.save(png)
    return jpeg, png


def palette(folder: Path, told: Figures) -> None:
    """Palette of a 4K picture against only decoding it."""
    from mellow_finch.picture.load import load_picture
    from mellow_finch.picture.swatches import swatches_of

    jpeg, png = four_k(folder)

    def draft() -> None:
        image = Image.open(jpeg)
        image.draft("RGB", (480, 270))
        image.load()

    def ours(path: Path) -> Callable[[], object]:
        return lambda: swatches_of(load_picture(path), 8)

    told.paired("4K JPEG palette / decode at 1/8", ours(jpeg), draft, 1.2)
    told.paired("4K JPEG palette / full decode", ours(jpeg), lambda: Image.open(jpeg).load(), 0.7)
    told.paired("4K PNG palette / decode", ours(png), lambda: Image.open(png).load(), 1.05)


def error(folder: Path, told: Figures) -> None:
    """Mean CIEDE2000 error at 16 colours against scikit-learn's KMeans on a 100,000-pixel sample in Lab."""
    from sklearn.cluster import KMeans

    from mellow_finch.colour.difference import delta_e_2000
    from mellow_finch.colour.spaces import srgb_to_lab
    from mellow_finch.demo.build import demo_pictures
    from mellow_finch.picture.histogram import histogram
    from mellow_finch.picture.load import load_picture
    from mellow_finch.picture.quantize import nearest_centres, quantize

    ratios = []
    for path in demo_pictures(demo_home(folder)):
        picture = load_picture(path, 960)
        pixels = picture.pixels.reshape(-1, 3)
        chosen = np.random.default_rng(0).choice(len(pixels), 100_000, replace=len(pixels) < 100_000)
        lab = srgb_to_lab(pixels[chosen] / 255)
        hist = histogram(picture.pixels)

        def mean(centres: np.ndarray, lab: np.ndarray = lab) -> float:
            return float(delta_e_2000(lab, centres[nearest_centres(lab, centres)]).mean())

        ours = mean(quantize(hist.lab, hist.share, 16)[0])
        ratios.append(ours / mean(KMeans(16, n_init=1, random_state=0).fit(lab).cluster_centers_))
    told.tell("Error at 16 colours / KMeans, mean of the pictures", statistics.mean(ratios), "", 1.03)
    told.tell("Error at 16 colours / KMeans, worst picture", max(ratios))


def solve(folder: Path, told: Figures) -> None:
    """Re-solving after one role change, and one step of each whole-look control."""
    from mellow_finch.colour.gamut import oklch_to_rgba, rgba_to_oklch
    from mellow_finch.look.edits import with_role, with_temper
    from mellow_finch.palette.temper import CONTROLS

    look = first_look(folder)
    for role in ("window", "menu_text", "accent", "terminal"):
        lightness, chroma, hue = rgba_to_oklch(look.colours[role])
        times = timed(lambda i: with_role(look, role, oklch_to_rgba(lightness + 0.003 * i, chroma, hue)))  # noqa: B023
        told.spread(f"Solving anew after a change of {role}", times, 5)
    for control in CONTROLS:
        step = (control.high - control.low) / 200
        start = getattr(look.temper, control.id)
        sign = 1 if start < control.high else -1
        times = timed(
            lambda i: with_temper(look, replace(look.temper, **{control.id: start + sign * step * i}))  # noqa: B023
        )
        told.spread(f"Whole look, {control.id}", times, 12)


def rank(folder: Path, told: Figures) -> None:
    """Ranking 200 4K JPEGs by fit: time a picture, and how much memory grows from the first twenty to the last."""
    from mellow_finch.picture.rank import PictureCache, pictures_in
    from mellow_finch.picture.rank import rank as rank_pictures
    from mellow_finch.progress import Silent

    jpeg, _ = four_k(folder)
    many = folder / "ranked"
    many.mkdir()
    for i in range(200):
        shutil.copy(jpeg, many / f"{i:03}.jpg")
    colours = first_look(folder).colours
    memory: list[int] = []
    started = time.perf_counter()
    rank_pictures(
        pictures_in(many), colours, Silent(), PictureCache(folder / "kept"),
        lambda _: memory.append(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss),
    )  # fmt: skip
    told.tell("Ranking 200 4K JPEGs, each", (time.perf_counter() - started) * 5, "ms", 60)

    def draft() -> None:
        image = Image.open(jpeg)
        image.draft("RGB", (240, 135))
        image.load()

    told.paired("Ranking a 4K JPEG / decode at 1/8", lambda: rank_pictures([jpeg], colours, Silent()), draft, 2.0)
    told.tell("Memory that ranking 180 pictures more takes", (memory[-1] - memory[19]) / 1024, "MB", 5)
    started = time.perf_counter()
    rank_pictures(pictures_in(many), colours, Silent(), PictureCache(folder / "kept"))
    told.tell("Ranking 200 4K JPEGs from what is kept, each", (time.perf_counter() - started) * 5, "ms", 1)


def dress(folder: Path, told: Figures) -> None:
    """Dressing all components of a look in one process, against reading the definitions they are made from."""
    from mellow_finch.colour.rgb import Rgba
    from mellow_finch.components.files import FolderFiles
    from mellow_finch.look.dressed import Writings, every_component
    from mellow_finch.look.dressed import dress as dress_look
    from mellow_finch.look.edits import with_role
    from mellow_finch.look.ready import READY

    home = FolderFiles(demo_home(folder))
    looks = [scheme.look() for scheme in READY[:6]]
    definitions = Path(str(files("mellow_finch.components").joinpath("definitions")))
    texts = [path.read_text(encoding="utf-8") for path in sorted(definitions.rglob("*.toml"))]
    at = iter(range(1000))

    def all_of_them() -> None:
        look = looks[next(at) % len(looks)]
        list(dress_look(look, home, every_component(look)).files.values())

    def of_another_accent() -> None:
        look = with_role(looks[0], "accent", Rgba(200, 40, next(at) % 256))
        list(dress_look(look, home, every_component(look), None, kept).files.values())

    kept = Writings()
    told.tell("Dressing all components, the first time", timed(lambda _: all_of_them(), 1)[0], "ms", 400)
    told.tell("Dressing all components again", statistics.median(timed(lambda _: all_of_them(), 9)), "ms", 120)
    told.paired(
        "Dressing all components / reading their definitions",
        all_of_them,
        lambda: [tomllib.loads(t) for t in texts],
        1.0,
    )
    list(dress_look(looks[0], home, every_component(looks[0]), None, kept).files.values())
    told.tell("Another accent", statistics.median(timed(lambda _: of_another_accent(), 9)), "ms", 120)


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


def sheet(_folder: Path, told: Figures) -> None:
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

    told.tell("10,000-line sheet, the first time", timed(lambda _: whole_way(), 1)[0], "ms")
    told.paired(
        "10,000-line sheet read, grouped, rewritten / tokenized",
        whole_way,
        lambda: tinycss2.parse_component_value_list(text),
        0.5,
    )


def icons(folder: Path, told: Figures) -> None:
    """An icon theme of 5,000 drawings opened, recoloured and written, in one process."""
    from mellow_finch.demo.turnstone import turnstone_files
    from mellow_finch.look.ready import READY
    from mellow_finch.theme.bundle.read import open_theme
    from mellow_finch.theme.result.recolour import recolour_theme
    from mellow_finch.wear.themes import lay_down

    theme = folder / "Turnstone"
    (theme / "48/apps").mkdir(parents=True)
    (theme / "index.theme").write_bytes(turnstone_files()["icons/Turnstone/index.theme"])
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
    told.tell("Icon theme of 5,000 drawings, read and recoloured", time.perf_counter() - started, "s", 15)
    lay_down(outcome.outputs, folder / "out")
    told.tell("Icon theme of 5,000 drawings, written too", time.perf_counter() - started, "s", 20)


def wear(folder: Path, told: Figures) -> None:
    """A thousand files put on and taken off with journal and kept bytes, beside only writing them down safely.

    Where the disk is quick to sync, the ratio tells of our own work, else of how often we sync.
    """
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
    times: list[tuple[float, float]] = []
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
        peer = time.perf_counter() - off
        shutil.rmtree(plain)
        times.append(((worn - started) / peer, (off - worn) / peer))
    on, back = (statistics.median(column) for column in zip(*times, strict=True))
    told.tell("A thousand files applied / only written and synced", on)
    told.tell("A thousand files undone / only written and synced", back)
