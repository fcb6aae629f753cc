"""Starting the window. Everything that lives as long as the program is made here and passed in."""

from __future__ import annotations

import gc
import sys
from pathlib import Path
from types import TracebackType

from PyQt6.QtGui import QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import QApplication, QMessageBox

from .icons import draw_icon
from .style import Style, load_fonts
from .window import Window


def _hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """Keep the program alive after a fault of its own, and say so plainly."""
    import logging  # not on the way to the first paint

    logging.getLogger("mellow_finch").error("fault", exc_info=(kind, error, trace))
    box = QMessageBox()
    box.setWindowTitle("Mellow Finch")
    box.setText(
        f"Something in Mellow Finch went wrong: {kind.__name__}. "
        "Your files were not touched by it; save your look and start again."
    )
    box.exec()


def make_app(arguments: list[str]) -> tuple[QApplication, Style]:
    """Return the application with its fonts and appearance."""
    gc.set_threshold(20_000, 20, 50)  # edits make many small values; collecting them seldom keeps drags smooth
    app = QApplication(arguments)
    app.setApplicationName("mellow-finch")
    app.setApplicationDisplayName("Mellow Finch")
    app.setDesktopFileName("mellow-finch")
    app.setStyle("Fusion")
    load_fonts()
    style = Style()
    style.use(app, True)
    pixmap = QPixmap(64, 64)
    pixmap.fill(style.c("accent"))
    painter = QPainter(pixmap)
    from PyQt6.QtCore import QRectF

    draw_icon(painter, "dress", QRectF(8, 8, 48, 48), style.c("on_accent"))
    painter.end()
    app.setWindowIcon(QIcon(pixmap))
    return app, style


def run(home: Path, picture: Path | None = None) -> int:
    """Open the window on a home; return the exit code."""
    app, style = make_app(sys.argv[:1])
    sys.excepthook = _hook
    window = Window(style)
    window.show()

    def begin() -> None:
        window.use_home(home)
        if picture is not None:
            window.open_path(str(picture))

    window.after_first_paint(begin)
    return app.exec()
