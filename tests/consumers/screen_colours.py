"""Prints how many pixels of the screen have each of its commonest colours, as JSON. Run as a program."""

from __future__ import annotations

import json
import sys
from collections import Counter

import numpy as np
from PyQt6.QtGui import QGuiApplication, QImage


def main() -> None:
    """Grab the first screen."""
    app = QGuiApplication(sys.argv)
    screen = app.primaryScreen()
    assert screen is not None
    image = screen.grabWindow(0).toImage().convertToFormat(QImage.Format.Format_RGB32)
    bits = image.constBits()
    assert bits is not None
    pixels = np.frombuffer(bits.asstring(image.sizeInBytes()), np.uint32) & 0xFFFFFF
    print(json.dumps({f"#{value:06x}": count for value, count in Counter(pixels.tolist()).most_common(24)}))


if __name__ == "__main__":
    main()
