"""The same picture cropped, halved or saved anew should give nearly the same look."""

from __future__ import annotations

import os
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from PIL import Image

MOVED = 5.0  # CIEDE2000 from which a look counts as another
ROLES = ("accent", "window", "panel", "selection", "link")


def _variants(path: Path, folder: Path) -> Iterator[tuple[str, Path]]:
    with Image.open(path) as opened:
        image = opened.convert("RGB")
    width, height = image.size
    cut = (round(width * 0.015), round(height * 0.015), round(width * 0.985), round(height * 0.985))
    plain = folder / f"{path.stem}.png"
    image.save(plain)
    yield "plain", plain
    for name, fresh in (("cropped by 3 %", image.crop(cut)), ("halved", image.resize((width // 2, height // 2)))):
        target = folder / f"{path.stem}-{name[:4]}.png"
        fresh.save(target, compress_level=1)
        yield name, target
    target = folder / f"{path.stem}-60.jpg"
    image.save(target, quality=60)
    yield "JPEG at 60", target


def _moves(job: tuple[str, str]) -> tuple[str, dict[str, float]]:
    from mellow_finch.colour.difference import colour_difference
    from mellow_finch.look.gather import look_of_pictures

    path, folder = Path(job[0]), Path(job[1]) / str(os.getpid())
    folder.mkdir(parents=True, exist_ok=True)
    looks = {name: look_of_pictures([p], "dark").colours for name, p in _variants(path, folder)}
    own = looks.pop("plain")
    return path.name, {n: max(colour_difference(own[r], c[r]) for r in ROLES) for n, c in looks.items()}


def steady(folder: Path) -> None:
    """Every picture of a folder (FINCH_PICTURES; else the demo's): how far the look moves when it is handled."""
    from mellow_finch.demo.build import build_demo_home, demo_pictures

    where = os.environ.get("FINCH_PICTURES")
    endings = (".png", ".jpg", ".jpeg", ".webp")
    pictures = sorted(p for p in Path(where).iterdir() if p.suffix in endings) if where else []
    pictures = pictures or demo_pictures(build_demo_home(folder / "demo/home"))
    with ProcessPoolExecutor() as pool:
        rows = list(pool.map(_moves, [(str(p), str(folder)) for p in pictures]))
    for name in rows[0][1]:
        moved = [(found[name], picture) for picture, found in rows if found[name] > MOVED]
        worst = ", ".join(f"{picture} {far:.0f}" for far, picture in sorted(moved, reverse=True)[:8])
        print(f"Moved by over {MOVED:g}, {name}: {len(moved)} of {len(rows)} (wanted: 1 in 20); {worst}")
