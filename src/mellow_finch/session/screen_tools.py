"""Colours and pictures of the screen on compositors whose portals give none: by the two programs that are usual there.

Sway, labwc, river and others of their kind let any program look at the screen; slurp lets a person point, grim looks.
"""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import time
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from ..colour.rgb import Rgba
from ..language import tr
from ..progress import Progress
from .commands import ask

_AROUND, _SAME = 20, 0.6  # pixels around a point; the share of them that a pointer may leave as they were
_LOOK_S = 0.2
_GONE_S = 0.15  # in which what pointing has drawn over the screen is gone from it
_UNVEILED = ("-b", "#00000000", "-c", "#00000000", "-s", "#00000000", "-w", "0")  # a person points at true colours
_SHOT_S = 20.0
_OUTPUTS = (  # what a compositor's programs find it by, and how it is asked for its screens
    ("SWAYSOCK", ("swaymsg", "-r", "-t", "get_outputs")),
    ("HYPRLAND_INSTANCE_SIGNATURE", ("hyprctl", "-j", "monitors")),
)
_PPM = re.compile(rb"P6\s+(\d{1,6})\s+(\d{1,6})\s+255\s")


def point_at_colour(progress: Progress) -> Rgba | None:
    """Let the person point at the screen; None when they called it off. Raises OSError where it cannot be done.

    Blocks until they have pointed; progress may raise Cancelled meanwhile.
    """
    before = _shot(["-s", "1"])
    place = _asked(progress, ["slurp", "-p", "-f", "%x %y", *_UNVEILED])
    if not place:
        return None
    time.sleep(_GONE_S)
    try:
        x, y = (int(word) for word in place.split())
    except ValueError as error:
        raise OSError(str(error)) from error
    left, top = max(0, x - _AROUND), max(0, y - _AROUND)
    now = _shot(["-s", "1", "-g", f"{left},{top} {2 * _AROUND + 1}x{2 * _AROUND + 1}"])
    # Where pointers are drawn by software, one stands in the picture now. What was there before is taken, where both
    # show the same around it: the corner of all screens may lie elsewhere than at 0, 0.
    then = before[top : top + now.shape[0], left : left + now.shape[1]]
    same = then.shape == now.shape and float((then == now).all(axis=2).mean()) >= _SAME
    r, g, b = (int(v) for v in (then if same else now)[min(y - top, now.shape[0] - 1), min(x - left, now.shape[1] - 1)])
    return Rgba(r, g, b)


def photographed() -> NDArray[np.uint8]:
    """Return a picture of the whole screen, (height, width, 3) sRGB. Raises OSError where it cannot be taken."""
    return _shot([])


def outputs() -> list[str]:
    """Return the names of the screens as the compositor tells them, none where it is not asked for them."""
    if not os.environ.get("WAYLAND_DISPLAY"):
        return []
    for variable, words in _OUTPUTS:
        if os.environ.get(variable):
            try:
                return [str(row["name"]) for row in json.loads(ask(words).out)]
            except (ValueError, TypeError, KeyError):
                return []
    return []


def can_point() -> bool:
    """Tell whether both programs are there, on a screen that they know."""
    return can_look() and shutil.which("slurp") is not None


def can_look() -> bool:
    """Tell whether pictures can be taken."""
    return bool(os.environ.get("WAYLAND_DISPLAY")) and shutil.which("grim") is not None


def _asked(progress: Progress, words: Sequence[str]) -> bytes:
    with subprocess.Popen(words, stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.PIPE) as asking:
        try:
            while True:
                progress.report(0, 0, tr("Waiting for the desktop's colour picker"))
                try:
                    said, _ = asking.communicate(timeout=_LOOK_S)
                except subprocess.TimeoutExpired:
                    continue
                return said if asking.returncode == 0 else b""
        finally:
            asking.kill()


def _shot(more: Sequence[str]) -> NDArray[np.uint8]:
    words = ["grim", *more, "-t", "ppm", "-"]
    try:
        said = subprocess.run(words, stdin=subprocess.DEVNULL, capture_output=True, timeout=_SHOT_S, check=True).stdout
    except subprocess.SubprocessError as error:
        raise OSError(str(error)) from error
    head = _PPM.match(said)
    width, height = (int(head[1]), int(head[2])) if head is not None else (0, 0)
    if head is None or not 0 < 3 * width * height <= len(said) - head.end():
        raise OSError("that is no picture of a screen")
    return np.frombuffer(said, np.uint8, 3 * width * height, head.end()).reshape(height, width, 3)
