"""Painting that ends whatever happens: a painter that outlives what it paints on takes the program with it."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from PyQt6.QtGui import QPaintDevice, QPainter


@contextmanager
def painting(device: QPaintDevice) -> Iterator[QPainter]:
    """Give a painter on something that is no widget; it ends with the block, by an error too."""
    painter = QPainter(device)
    try:
        yield painter
    finally:
        painter.end()
