"""Starting the window. Everything that lives as long as the program is made here and passed in."""

from __future__ import annotations

import gc
import sys
from pathlib import Path
from traceback import clear_frames
from types import TracebackType

from PyQt6.QtCore import QRectF, Qt, QTimer
from PyQt6.QtGui import QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import QApplication, QMessageBox

from ..language import tr
from .kit.icons import draw_icon
from .kit.style import PlainTips, Style, load_fonts
from .window.memory import Memory
from .window.window import Window

_TOLD: set[type[BaseException]] = set()  # kinds of faults whose words are on the screen
_BOXES: list[QMessageBox] = []  # the box in sight, kept as long as it is


def _hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """Keep the program alive after a fault of its own, and say so plainly, once for each kind of fault.

    A painter that the fault left at work on a widget is let go of before the toolkit goes on, and the words wait until
    the work at hand has ended: either would end the program.
    """
    import logging  # not on the way to the first paint

    logging.getLogger("mellow_finch").error("fault", exc_info=(kind, error, trace))
    if trace is not None:
        clear_frames(trace)
    if kind not in _TOLD:
        _TOLD.add(kind)
        QTimer.singleShot(0, lambda: _say_fault(kind))


def _say_fault(kind: type[BaseException]) -> None:
    box = QMessageBox()
    box.setWindowTitle("Mellow Finch")
    box.setText(
        tr(
            "Something in Mellow Finch went wrong: {kind}. "
            "Your files were not touched by it; save your look and start again."
        ).format(kind=kind.__name__)
    )
    box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    box.finished.connect(lambda: _TOLD.discard(kind))
    box.open()
    _BOXES[:] = [box]


def make_app(arguments: list[str]) -> tuple[QApplication, Style]:
    """Return the application with its fonts and appearance."""
    gc.set_threshold(20_000, 20, 50)  # edits make many small values; collecting them seldom keeps drags smooth
    app = QApplication(arguments)
    app.setApplicationName("mellow-finch")
    app.setApplicationDisplayName("Mellow Finch")
    app.setDesktopFileName("mellow-finch")
    app.setStyle(PlainTips("Fusion"))
    load_fonts()
    style = Style()
    style.use(app, True)
    pixmap = QPixmap(64, 64)
    pixmap.fill(style.c("accent"))
    painter = QPainter(pixmap)
    draw_icon(painter, "dress", QRectF(8, 8, 48, 48), style.c("on_accent"))
    painter.end()
    app.setWindowIcon(QIcon.fromTheme("mellow-finch", QIcon(pixmap)))
    return app, style


def run(home: Path, *paths: Path | None, shelf: bool = False) -> int:
    """Open the window on a home with what is named, or on the Shelf; return the exit code."""
    app, style = make_app(sys.argv[:1])
    sys.excepthook = _hook
    window = Window(style, memory=Memory())
    window.show()

    def begin() -> None:
        window.use_home(home)
        named = [str(path.absolute()) for path in paths if path is not None]
        if named:
            window.opening.open_paths(named)
        elif shelf:
            window.actions_by_id["shelf"].trigger()
        else:
            window.session_bar.offer()

    window.after_first_paint(begin)
    return app.exec()
