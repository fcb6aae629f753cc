"""Drawings of themes rendered in a process of their own: `python -m` with this module (see intake.worker).

The renderer follows names of files in a drawing; those are taken out of it first.
"""

from __future__ import annotations

import re
from typing import Any

from PyQt6.QtCore import QByteArray, QSize, Qt
from PyQt6.QtGui import QGuiApplication, QImage, QPainter
from PyQt6.QtSvg import QSvgRenderer

from ...intake.worker import Table, allow, serve

_OUTSIDE = re.compile(rb"(?i)\b(href|src)\s*=\s*(?:\"(?!#|data:)[^\"]*\"|'(?!#|data:)[^']*')")
_ROOM = 1_500_000_000
SECONDS = 2.0


def without_names(data: bytes) -> bytes:
    """Return a drawing that speaks of no other file."""
    return _OUTSIDE.sub(rb'\1=""', data)


def answer(table: Table, body: bytearray, _handles: list[int]) -> tuple[Table, Any]:
    """Return a drawing as ARGB pixels, premultiplied; nothing of one that cannot be read. "side": its most pixels."""
    allow(SECONDS, _ROOM)
    renderer = QSvgRenderer(QByteArray(without_names(bytes(body))))
    size = renderer.defaultSize()
    if not renderer.isValid() or size.isEmpty():
        return {"size": [0, 0]}, b""
    side = int(table["side"])
    if max(size.width(), size.height()) > side:
        size.scale(QSize(side, side), Qt.AspectRatioMode.KeepAspectRatio)
        size = size.expandedTo(QSize(1, 1))
    image = QImage(size, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    renderer.render(painter)
    painter.end()
    bits = image.constBits()
    assert bits is not None
    return {"size": [image.width(), image.height()]}, bits.asstring(image.sizeInBytes())


if __name__ == "__main__":
    app = QGuiApplication(["drawing"])
    serve(answer)
