"""Makes the icon in every usual size from the one drawing, into a folder laid out like share/."""

from __future__ import annotations

import sys
from pathlib import Path

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QGuiApplication, QImage, QPainter
from PyQt6.QtSvg import QSvgRenderer

SIZES = (16, 22, 24, 32, 48, 64, 128, 256, 512)


def make(share: Path) -> list[Path]:
    """Write every size beside the drawing, and return the files."""
    drawing = QSvgRenderer(str(share / "icons/hicolor/scalable/apps/mellow-finch.svg"))
    out = []
    for size in SIZES:
        image = QImage(size, size, QImage.Format.Format_ARGB32)
        image.fill(Qt.GlobalColor.transparent)
        painter = QPainter(image)
        drawing.render(painter, QRectF(0, 0, size, size))
        painter.end()
        out.append(share / f"icons/hicolor/{size}x{size}/apps/mellow-finch.png")
        out[-1].parent.mkdir(parents=True, exist_ok=True)
        image.save(str(out[-1]))
    return out


if __name__ == "__main__":
    app = QGuiApplication(sys.argv[:1])
    for path in make(Path(sys.argv[1])):
        print(path)
