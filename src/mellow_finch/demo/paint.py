"""The five pictures of Reedholm, painted by this script: places on a tidal marsh, made up throughout.

Run as a module with a folder to paint them into: python -m mellow_finch.demo.paint DIR
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from itertools import pairwise
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFilter

Canvas = NDArray[np.float64]
WIDTH, HEIGHT = 1920, 1200


def noise(
    rng: np.random.Generator, width: int, height: int, cells: int, octaves: int = 5, stretch: float = 1.0
) -> Canvas:
    """Return (height, width) fractal noise 0..1; stretch over 1 draws it out sideways."""
    total = np.zeros((height, width))
    for octave in range(octaves):
        down = max(2, int(cells * 2**octave))
        across = max(2, int(down * width / height / stretch))
        layer = Image.fromarray((rng.random((down, across)) * 255).astype(np.uint8))
        total += np.asarray(layer.resize((width, height), Image.Resampling.BICUBIC), dtype=float) / 255 / 2**octave
    low, high = total.min(), total.max()
    return np.asarray((total - low) / max(high - low, 1e-9))


def sky(stops: list[tuple[float, str]], width: int = WIDTH, height: int = HEIGHT) -> Canvas:
    """Return a vertical blend through colours at heights 0 (top) to 1."""
    at = [s[0] for s in stops]
    colours = np.array([[int(s[1][i : i + 2], 16) for i in (1, 3, 5)] for s in stops], dtype=float)
    y = np.linspace(0, 1, height)
    rows = np.stack([np.interp(y, at, colours[:, i]) for i in range(3)], axis=1)
    return np.repeat(rows[:, None, :], width, axis=1)


def colour(text: str) -> Canvas:
    """Return a hexadecimal colour as an array."""
    return np.array([int(text[i : i + 2], 16) for i in (1, 3, 5)], dtype=float)


def lay(canvas: Canvas, tint: str, mask: Canvas) -> Canvas:
    """Return the canvas with a colour laid over it where the mask (0..1) says."""
    m = np.clip(mask, 0, 1)[..., None]
    return np.asarray(canvas * (1 - m) + colour(tint) * m)


def glow(x: float, y: float, radius: float, flat: float = 1.0) -> Canvas:
    """Return a soft round mask around a point given in shares of the canvas."""
    yy, xx = np.mgrid[0:HEIGHT, 0:WIDTH]
    distance = np.hypot((xx - x * WIDTH) / radius, (yy - y * HEIGHT) / radius * flat)
    return np.asarray(np.exp(-(distance**2)))


def ridge(rng: np.random.Generator, base: float, swing: float, cells: int) -> Canvas:
    """Return a mask of everything below a wavering line."""
    line = noise(rng, WIDTH, 8, cells, 5)[3]
    top = (base - swing * line) * HEIGHT
    return np.asarray(np.clip(np.arange(HEIGHT)[:, None] - top[None, :], 0, 1))


def reflect(canvas: Canvas, rng: np.random.Generator, horizon: float, ripple: float, dim: float) -> Canvas:
    """Mirror what stands above the horizon into the water below it, broken by ripples."""
    h = int(horizon * HEIGHT)
    rows = np.arange(HEIGHT - h)
    source = np.clip(h - 1 - (rows * 0.9).astype(int), 0, HEIGHT - 1)
    shift = (noise(rng, WIDTH, HEIGHT - h, 40, 3, 10) - 0.5) * ripple * (0.3 + rows[:, None] / (HEIGHT - h))
    columns = np.clip(np.arange(WIDTH)[None, :] + shift * 60, 0, WIDTH - 1).astype(int)
    lines = np.clip(source[:, None] + (shift * 46).astype(int), 0, h - 1)
    out = canvas.copy()
    out[h:] = canvas[lines, columns] * dim
    return out


def _image(canvas: Canvas) -> Image.Image:
    return Image.fromarray(np.clip(canvas, 0, 255).astype(np.uint8))


def blades(
    image: Image.Image,
    rng: np.random.Generator,
    count: int,
    base: tuple[float, float],
    tall: tuple[float, float],
    tints: list[str],
    lean: float,
    thick: float,
    heads: str = "",
) -> None:
    """Draw reeds or sedge: curved blades from the ground up, nearer ones later, taller and darker."""
    draw = ImageDraw.Draw(image)
    for i in range(count):
        near = i / count
        x = rng.random() * WIDTH * 1.1 - WIDTH * 0.05
        y = (base[0] + (base[1] - base[0]) * near) * HEIGHT + rng.random() * 30
        height = (tall[0] + (tall[1] - tall[0]) * near) * HEIGHT * (0.6 + 0.6 * rng.random())
        sway = lean * height * (rng.random() - 0.35)
        points = [(x + sway * t**2.2, y - height * t) for t in np.linspace(0, 1, 9)]
        tint = tuple(int(v) for v in colour(tints[int(rng.random() * len(tints))]) * (0.85 + 0.3 * rng.random()))
        for part, (a, b) in enumerate(pairwise(points)):
            draw.line([a, b], fill=tint, width=max(1, round(thick * (1.2 - part / 8) * (0.5 + near))))
        if heads and rng.random() < 0.45:
            tip_x, tip_y = points[-1]
            size = height * 0.07
            head = tuple(int(v) for v in colour(heads) * (0.75 + 0.45 * rng.random()))
            draw.ellipse([tip_x - size * 0.22, tip_y - size, tip_x + size * 0.22, tip_y + size], fill=head)


def bird(draw: ImageDraw.ImageDraw, x: float, y: float, size: float, tint: str, bend: float) -> None:
    """Draw a flying bird as two bent wings."""
    draw.line(
        [(x - size, y - size * bend), (x - size * 0.3, y - size * 0.35), (x, y)], fill=tint, width=max(1, int(size / 5))
    )
    draw.line(
        [(x, y), (x + size * 0.3, y - size * 0.35), (x + size, y - size * bend * 0.8)],
        fill=tint,
        width=max(1, int(size / 5)),
    )


def reedbed_at_dawn() -> Image.Image:
    """Low sun behind reeds and a still channel."""
    rng = np.random.default_rng(11)
    c = sky(
        [(0, "#2b3a5c"), (0.22, "#5a6285"), (0.40, "#b0848a"), (0.52, "#eba877"), (0.58, "#f8cf94"), (1, "#d89a6c")]
    )
    cloud = noise(rng, WIDTH, HEIGHT, 4, 6, 5)
    height = np.linspace(0, 1, HEIGHT)[:, None]
    c = lay(c, "#f3a08a", np.clip((cloud - 0.52) * 3.2, 0, 0.75) * np.clip(1.5 - np.abs(height - 0.33) * 4, 0, 1))
    c = lay(c, "#40466b", np.clip((cloud - 0.60) * 3.5, 0, 0.7) * np.clip(1.2 - height * 4, 0, 1))
    c = lay(c, "#ffd9a0", glow(0.66, 0.555, 420, 1.6) * 0.75)
    c = lay(c, "#fff3d2", glow(0.66, 0.555, 60) * 1.2)
    for base, tint, soft in ((0.575, "#a8828a", 0.8), (0.585, "#6d5c70", 0.9), (0.594, "#43405a", 1.0)):
        c = lay(c, tint, ridge(rng, base, 0.035, 9) * soft * (height < 0.605))
    c = reflect(c, rng, 0.60, 1.0, 0.80)
    c = lay(c, "#ffcf8c", glow(0.66, 0.70, 120, 0.35) * 0.35 * (height > 0.6))
    c = lay(
        c,
        "#f2c9a4",
        np.clip(noise(rng, WIDTH, HEIGHT, 3, 4, 7) - 0.45, 0, 1) * 1.1 * np.exp(-(((height - 0.60) / 0.035) ** 2)),
    )
    image = _image(c)
    blades(image, rng, 240, (0.66, 0.74), (0.07, 0.13), ["#7a5a4c", "#8d6a50", "#5d4a4a"], 0.35, 2, "#9a6b4c")
    image = image.filter(ImageFilter.GaussianBlur(1.1))
    blades(
        image,
        rng,
        900,
        (0.90, 1.06),
        (0.20, 0.44),
        ["#2b2427", "#3d2f2a", "#574031", "#7b5734", "#a97539"],
        0.4,
        4,
        "#59402f",
    )
    draw = ImageDraw.Draw(image)
    for _ in range(11):
        bird(
            draw,
            WIDTH * (0.18 + 0.30 * rng.random()),
            HEIGHT * (0.20 + 0.13 * rng.random()),
            9 + 7 * rng.random(),
            "#2c2b40",
            0.9,
        )
    return image


def mudflat_in_rain() -> Image.Image:
    """Wet mud under slanting rain, one red buoy."""
    rng = np.random.default_rng(23)
    c = sky([(0, "#56656b"), (0.25, "#7f8f92"), (0.43, "#a9b5b2"), (0.46, "#8f9a94"), (1, "#4f524b")])
    height = np.linspace(0, 1, HEIGHT)[:, None]
    cloud = noise(rng, WIDTH, HEIGHT, 3, 6, 3)
    c = lay(c, "#3d4a52", np.clip((cloud - 0.45) * 2.4, 0, 0.8) * (height < 0.46))
    c = lay(c, "#d3dad3", np.clip((0.40 - cloud) * 2.6, 0, 0.6) * (height < 0.46))
    c = lay(c, "#6d7b78", ridge(rng, 0.452, 0.016, 12) * (height < 0.46))
    c = lay(c, "#4c5a56", ridge(rng, 0.458, 0.010, 20) * (height < 0.46))
    mud = noise(rng, WIDTH, HEIGHT, 7, 6, 6)
    depth = np.clip((height - 0.46) / 0.54, 0, 1)
    wet = np.clip((mud - 0.50) * 7, 0, 1) * (height > 0.46)
    c = lay(c, "#6e6350", np.where(height > 0.46, 0.75, 0.0))
    c = lay(c, "#453d33", np.clip((0.42 - mud) * 4, 0, 0.85) * (height > 0.46))
    shine = sky([(0, "#aab6b3"), (0.46, "#b6c1bd"), (0.62, "#97a5a4"), (1, "#62706f")])
    c = c * (1 - wet[..., None] * 0.88) + shine * wet[..., None] * 0.88
    xx = np.arange(WIDTH)[None, :]
    path = 0.56 * WIDTH + 260 * np.sin(depth * 5.2 + 0.6) * depth + 60 * np.sin(depth * 19)
    channel = np.exp(-(((xx - path) / (14 + 190 * depth**1.4)) ** 2)) * (height > 0.465)
    c = lay(c, "#c2ccc6", np.clip(channel * 1.5 - 0.3, 0, 0.85))
    image = _image(c).filter(ImageFilter.GaussianBlur(0.8))
    draw = ImageDraw.Draw(image)
    for _ in range(26):
        x, y = WIDTH * rng.random(), HEIGHT * (0.53 + 0.25 * rng.random())
        s = 7 + 24 * (y / HEIGHT - 0.46)
        draw.ellipse([x - s, y - s * 0.55, x + s, y + s * 0.55], fill="#38352f")
        draw.ellipse([x + s * 0.55, y - s * 1.0, x + s * 1.2, y - s * 0.35], fill="#2b2925")
        draw.line([(x + s * 1.1, y - s * 0.7), (x + s * 1.9, y - s * 0.45)], fill="#c96a35", width=3)
        draw.line([(x - s * 0.2, y + s * 0.4), (x - s * 0.25, y + s * 1.4)], fill="#5a3f2e", width=2)
        draw.line([(x + s * 0.2, y + s * 0.4), (x + s * 0.15, y + s * 1.4)], fill="#5a3f2e", width=2)
    bx, by = 0.26 * WIDTH, 0.66 * HEIGHT
    draw.polygon([(bx - 52, by), (bx + 52, by), (bx + 22, by - 118), (bx - 22, by - 118)], fill="#b8352c")
    draw.polygon([(bx - 52, by), (bx - 8, by), (bx - 6, by - 118), (bx - 22, by - 118)], fill="#d8503f")
    draw.rectangle([bx - 38, by - 62, bx + 38, by - 44], fill="#e9e3d6")
    draw.ellipse([bx - 62, by - 16, bx + 62, by + 20], fill="#6b2a26")
    draw.line([(bx, by - 118), (bx, by - 168)], fill="#2e2f2d", width=5)
    rain = Image.new("L", (WIDTH, HEIGHT), 0)
    pen = ImageDraw.Draw(rain)
    for _ in range(1500):
        x, y, length = rng.random() * WIDTH * 1.1, rng.random() * HEIGHT, 18 + 46 * rng.random()
        pen.line([(x, y), (x - length * 0.22, y + length)], fill=int(30 + 70 * rng.random()), width=1)
    rain = rain.filter(ImageFilter.GaussianBlur(0.7))
    return Image.composite(Image.new("RGB", image.size, "#dfe6e4"), image, rain)


def dusk_murmuration() -> Image.Image:
    """Thousands of starlings turning over the hide at dusk."""
    rng = np.random.default_rng(37)
    c = sky(
        [
            (0, "#1d2046"),
            (0.25, "#3c2f6a"),
            (0.48, "#7d3f7c"),
            (0.64, "#c8587a"),
            (0.74, "#f08a62"),
            (0.79, "#f7b063"),
            (1, "#3a2440"),
        ]
    )
    height = np.linspace(0, 1, HEIGHT)[:, None]
    cloud = noise(rng, WIDTH, HEIGHT, 3, 6, 6)
    c = lay(c, "#e8668a", np.clip((cloud - 0.55) * 3, 0, 0.6) * np.clip(1.3 - np.abs(height - 0.55) * 4, 0, 1))
    c = lay(c, "#241f4a", np.clip((cloud - 0.57) * 3, 0, 0.6) * np.clip(1 - height * 2.5, 0, 1))
    c = lay(c, "#ffd08a", glow(0.30, 0.78, 380, 2.6) * 0.6)
    c = lay(c, "#57305f", ridge(rng, 0.795, 0.04, 8) * 0.9 * (height < 0.8))
    c = reflect(c, rng, 0.80, 1.1, 0.62)
    image = _image(c)
    draw = ImageDraw.Draw(image)
    t = np.linspace(0, 1, 15000)
    along = rng.random(t.size)
    x = 0.50 + 0.36 * (along - 0.5) * 2 + 0.02 * rng.normal(size=t.size)
    spine = 0.36 + 0.13 * np.sin(along * 6.4 + 0.5) - 0.10 * np.cos(along * 2.8)
    body = 0.018 + 0.085 * np.abs(np.sin(along * 5.1 + 0.9)) ** 1.4
    y = spine + body * rng.normal(size=t.size) * 0.62 + 0.01 * rng.normal(size=t.size)
    for px, py, s in zip(x, y, rng.random(t.size), strict=True):
        r = 0.8 + 1.7 * s
        draw.ellipse(
            [px * WIDTH - r * 1.4, py * HEIGHT - r * 0.7, px * WIDTH + r * 1.4, py * HEIGHT + r * 0.7], fill="#191530"
        )
    hx, hy = 0.815 * WIDTH, 0.80 * HEIGHT
    dark = "#15112a"
    draw.polygon([(hx - 130, hy - 96), (hx + 130, hy - 96), (hx + 108, hy - 160), (hx - 104, hy - 160)], fill=dark)
    draw.rectangle([hx - 112, hy - 98, hx + 112, hy - 12], fill=dark)
    draw.rectangle([hx - 84, hy - 76, hx + 84, hy - 58], fill="#ffc65a")
    draw.line([(hx - 28, hy - 76), (hx - 28, hy - 58)], fill=dark, width=5)
    draw.line([(hx + 28, hy - 76), (hx + 28, hy - 58)], fill=dark, width=5)
    for leg in (-96, -36, 30, 92):
        draw.line([(hx + leg, hy - 14), (hx + leg, hy + 66)], fill=dark, width=9)
    draw.line([(hx - 520, hy + 8), (hx - 100, hy - 14)], fill=dark, width=8)
    for leg in range(-500, -100, 66):
        draw.line([(hx + leg, hy + 4), (hx + leg, hy + 62)], fill=dark, width=5)
    blades(image, rng, 520, (0.98, 1.06), (0.08, 0.22), ["#140f24", "#1e1530", "#2c1b38"], 0.4, 4, "#1b1330")
    return image


def frost_on_sedge() -> Image.Image:
    """A pale morning, every blade rimmed with frost."""
    rng = np.random.default_rng(41)
    c = sky(
        [(0, "#a9c4dd"), (0.25, "#c9dbe8"), (0.45, "#e9ecec"), (0.52, "#f4e9dc"), (0.56, "#d5dfe4"), (1, "#b9cbd6")]
    )
    height = np.linspace(0, 1, HEIGHT)[:, None]
    c = lay(c, "#fff5df", glow(0.28, 0.40, 330) * 0.7)
    c = lay(c, "#fffdf4", glow(0.28, 0.40, 56) * 1.2)
    cloud = noise(rng, WIDTH, HEIGHT, 4, 5, 6)
    c = lay(c, "#ffffff", np.clip((cloud - 0.55) * 2, 0, 0.5) * (height < 0.5))
    for base, tint in ((0.515, "#bfd0da"), (0.535, "#a3b9c6"), (0.552, "#869fae")):
        c = lay(c, tint, ridge(rng, base, 0.05, 16) * 0.85 * (height < 0.565))
    ground = noise(rng, WIDTH, HEIGHT, 6, 6, 5)
    c = lay(c, "#f3f7f9", np.clip((ground - 0.42) * 2, 0, 0.85) * (height > 0.56))
    c = lay(c, "#7f9a9c", np.clip((0.40 - ground) * 3.5, 0, 0.7) * (height > 0.56))
    image = _image(c).filter(ImageFilter.GaussianBlur(1.2))
    blades(image, rng, 420, (0.62, 0.78), (0.06, 0.13), ["#9fb3ae", "#c3d2d3", "#8b9f93", "#dfe8ea"], 0.7, 2)
    image = image.filter(ImageFilter.GaussianBlur(1.4))
    blades(
        image,
        rng,
        620,
        (0.86, 1.05),
        (0.20, 0.40),
        ["#5c7263", "#6f8468", "#8b9672", "#a99c6c", "#dfe9ec", "#f4fafc"],
        0.75,
        4,
    )
    blades(image, rng, 330, (0.95, 1.08), (0.28, 0.46), ["#e9f2f5", "#fbfeff", "#c6d8de", "#4c6358"], 0.8, 3)
    draw = ImageDraw.Draw(image)
    for _ in range(900):
        x, y, r = rng.random() * WIDTH, HEIGHT * (0.60 + 0.40 * rng.random()), 0.8 + 1.8 * rng.random()
        draw.ellipse([x - r, y - r, x + r, y + r], fill="#ffffff")
    for i in range(7):
        x, y = (0.70 + 0.018 * i) * WIDTH, (0.725 - 0.012 * (i % 3)) * HEIGHT
        draw.ellipse([x - 6, y - 6, x + 6, y + 6], fill="#b3272d")
        draw.ellipse([x - 3, y - 4, x, y - 1], fill="#f0a09a")
    return image


def lighthouse_fog() -> Image.Image:
    """The light at the point, fog over slate water."""
    rng = np.random.default_rng(59)
    c = sky([(0, "#8c9aa4"), (0.35, "#b3bcc0"), (0.60, "#ccd0cd"), (0.66, "#a5afb0"), (1, "#4d5f69")])
    height = np.linspace(0, 1, HEIGHT)[:, None]
    yy, xx = np.mgrid[0:HEIGHT, 0:WIDTH]
    lx, ly = 0.70 * WIDTH, 0.245 * HEIGHT
    angle = np.degrees(np.arctan2(yy - ly, lx - xx))
    beam = np.exp(-(((angle + 5) / 6.5) ** 2)) * (xx < lx) * np.clip(1 - (lx - xx) / (WIDTH * 0.8), 0, 1)
    c = lay(c, "#fff1c4", beam * 0.75)
    wave = noise(rng, WIDTH, HEIGHT, 26, 4, 9)
    c = lay(c, "#33454f", np.clip((wave - 0.5) * 3, 0, 0.6) * (height > 0.66) * np.clip((height - 0.62) * 4, 0, 1))
    c = lay(c, "#dfe4e1", np.clip((0.36 - wave) * 3, 0, 0.5) * (height > 0.66))
    image = _image(c)
    draw = ImageDraw.Draw(image)
    draw.polygon(
        [
            (0.46 * WIDTH, 0.80 * HEIGHT),
            (0.55 * WIDTH, 0.715 * HEIGHT),
            (0.64 * WIDTH, 0.672 * HEIGHT),
            (0.76 * WIDTH, 0.668 * HEIGHT),
            (0.86 * WIDTH, 0.70 * HEIGHT),
            (0.96 * WIDTH, 0.735 * HEIGHT),
            (1.0 * WIDTH, 0.75 * HEIGHT),
            (1.0 * WIDTH, 0.83 * HEIGHT),
        ],
        fill="#3a4348",
    )
    for _ in range(170):
        x = WIDTH * (0.48 + 0.52 * rng.random())
        y = HEIGHT * (0.70 + 0.10 * rng.random())
        s = 10 + 36 * rng.random()
        shade = int(44 + 44 * rng.random())
        draw.polygon(
            [
                (x - s, y),
                (x - s * 0.4, y - s * 0.5),
                (x + s * 0.5, y - s * 0.4),
                (x + s, y + s * 0.1),
                (x, y + s * 0.3),
            ],
            fill=(shade, shade + 8, shade + 12),
        )
    tower = 0.68 * HEIGHT
    for i in range(6):
        top, bottom = ly + 40 + i * (tower - ly - 40) / 6, ly + 40 + (i + 1) * (tower - ly - 40) / 6
        w0, w1 = 40 + 22 * i / 6, 40 + 22 * (i + 1) / 6
        light, shade_ = ("#c23b33", "#86262a") if i % 2 == 0 else ("#ece9e0", "#a9aeae")
        draw.polygon([(lx - w0, top), (lx + w0, top), (lx + w1, bottom), (lx - w1, bottom)], fill=light)
        draw.polygon([(lx + w0 * 0.25, top), (lx + w0, top), (lx + w1, bottom), (lx + w1 * 0.25, bottom)], fill=shade_)
    draw.rectangle([lx - 56, ly + 30, lx + 56, ly + 42], fill="#2b3238")
    draw.rectangle([lx - 30, ly - 28, lx + 30, ly + 30], fill="#fff0b0")
    for post in (-30, -10, 10, 30):
        draw.line([(lx + post, ly - 28), (lx + post, ly + 30)], fill="#2b3238", width=4)
    draw.polygon([(lx - 40, ly - 26), (lx + 40, ly - 26), (lx, ly - 70)], fill="#86262a")
    out = np.asarray(image, dtype=float)
    out = lay(out, "#fff6d8", glow(0.70, 0.245, 90) * 0.7)
    fog = noise(rng, WIDTH, HEIGHT, 3, 5, 5)
    bank = np.clip((fog - 0.30) * 1.7, 0, 0.9) * np.exp(-(((height - 0.70) / 0.13) ** 2))
    out = lay(out, "#ccd3d3", bank)
    out = lay(out, "#c3cccf", np.clip((noise(rng, WIDTH, HEIGHT, 2, 5, 4) - 0.35) * 0.9, 0, 0.5))
    image = _image(out)
    draw = ImageDraw.Draw(image)
    for i in range(5):
        bird(draw, WIDTH * (0.20 + 0.055 * i), HEIGHT * (0.36 + 0.02 * ((i * 3) % 4)), 20, "#46535b", 0.5)
    return image


PICTURES: tuple[tuple[str, Callable[[], Image.Image]], ...] = (
    ("reedbed-at-dawn.jpg", reedbed_at_dawn),
    ("mudflat-in-rain.jpg", mudflat_in_rain),
    ("dusk-murmuration.jpg", dusk_murmuration),
    ("frost-on-sedge.jpg", frost_on_sedge),
    ("lighthouse-fog.jpg", lighthouse_fog),
)


def paint_all(folder: Path) -> None:
    """Paint every picture into a folder; the same files every time."""
    folder.mkdir(parents=True, exist_ok=True)
    for name, painter in PICTURES:
        painter().save(folder / name, quality=86, subsampling=0)


if __name__ == "__main__":
    paint_all(Path(sys.argv[1]))
