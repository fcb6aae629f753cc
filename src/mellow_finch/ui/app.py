"""Starting the window. Everything that lives as long as the program is made here and passed in."""

from __future__ import annotations

import gc
import os
import signal
import socket
import sys
from collections.abc import Callable
from pathlib import Path
from traceback import clear_frames
from types import TracebackType

from PyQt6.QtCore import QLibraryInfo, QLocale, QRectF, QSocketNotifier, Qt, QTimer, QTranslator
from PyQt6.QtGui import QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import QApplication, QMessageBox
from PyQt6.sip import voidptr

from ..language import code, right_to_left, tr
from .instance import NAME, answer, handed_over
from .kit.icons import draw_icon
from .kit.idle_memory import hold_little
from .kit.pace import WindowFirst
from .kit.style import PlainTips, Style, load_fonts
from .window.memory import Memory
from .window.settings import fits
from .window.window import Window

_SWITCH_S = 0.0005  # how long a job keeps the window's thread waiting for the interpreter, each time that it wants it
_READY_MS = 2500  # after the first paint
_TOLD: set[type[BaseException]] = set()  # kinds of faults whose words are on the screen
_BOXES: list[QMessageBox] = []  # the box in sight, kept as long as it is


def _hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """Keep the program alive after a fault of its own, and say so plainly, once for each kind of fault.

    A painter that the fault left at work on a widget is let go of before the toolkit goes on, and the words wait until
    the work at hand has ended: either would end the program.
    """
    import logging  # not on the way to the first paint

    from ..disk.log import start_log

    start_log()
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
            "Mellow Finch ran into an internal error: {kind}. Your files were not affected; save your look and restart."
        ).format(kind=kind.__name__)
    )
    box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    box.finished.connect(lambda: _TOLD.discard(kind))
    box.open()
    _BOXES[:] = [box]


def make_app(arguments: list[str]) -> tuple[QApplication, Style]:
    """Return the application with its fonts and appearance."""
    gc.set_threshold(20_000, 20, 50)  # edits make many small values; collecting them seldom keeps drags smooth
    sys.setswitchinterval(_SWITCH_S)
    hold_little()
    app = QApplication(arguments)
    app.setApplicationName("mellow-finch")
    app.setApplicationDisplayName("Mellow Finch")
    app.setDesktopFileName(NAME)
    if right_to_left():
        app.setLayoutDirection(Qt.LayoutDirection.RightToLeft)
    _speak(app)
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


def _speak(app: QApplication) -> None:
    """Let the toolkit's own words, such as those of file dialogs, be in the language in force; numbers in its way."""
    if code() == "en":
        return
    # Arabic by its spelling with the digits 0 to 9, which the files and colours beside it have too.
    locale = QLocale("ar_AE" if code() == "ar" else code())
    QLocale.setDefault(locale)
    translator = QTranslator(app)
    if translator.load(locale, "qtbase", "_", QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)):
        app.installTranslator(translator)


def large_type() -> None:
    """Draw everything larger where a person asked for it; the toolkit takes it from the environment at its start."""
    memory = Memory()
    size, known = memory.settings().size, memory.screen()
    if known is not None and not fits(size, (known.width(), known.height())):
        size = 1.0  # on another screen than it was asked for on
    if size != 1 and "QT_SCALE_FACTOR" not in os.environ:
        os.environ["QT_SCALE_FACTOR"] = f"{size:g}"


def _end_when_asked(app: QApplication, window: Window) -> Callable[[], None]:
    """Let the window end quietly when the system asks it to, as at a log-out; return what lets go of the signals."""
    ours, theirs = socket.socketpair()
    theirs.setblocking(False)
    before = signal.set_wakeup_fd(theirs.fileno())
    for number in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
        signal.signal(number, lambda *_: None)  # the notifier below is told
    notifier = QSocketNotifier(voidptr(ours.fileno()), QSocketNotifier.Type.Read, window)

    def ended() -> None:
        notifier.setEnabled(False)
        window.end_quietly()
        app.exit(0)  # unlike quit, this closes no window, which would ask

    notifier.activated.connect(ended)

    def let_go() -> None:
        notifier.setEnabled(False)
        signal.set_wakeup_fd(before)
        for end in (ours, theirs):
            end.close()

    return let_go


def run(home: Path, *paths: Path | None, action: str = "", alone: bool = True) -> int:
    """Open the window on a home with what is named, or with an action; return the exit code.

    alone: whether this is a window of its own; else what is named goes to the one that is there, if there is one.
    """
    if not alone and handed_over([path for path in paths if path is not None], action):
        return 0
    large_type()
    app, style = make_app(sys.argv[:1])
    sys.excepthook = _hook
    WindowFirst(app)
    window = Window(style, memory=Memory())
    window.show()

    def act(name: str) -> None:
        if name in window.actions_by_id and QApplication.activeModalWidget() is None:
            window.actions_by_id[name].trigger()
        to_front()

    def opened(named: list[str]) -> None:
        if QApplication.activeModalWidget() is None:  # a question is being asked: first that
            window.bench.opening.open_paths(named)
        to_front()

    def to_front() -> None:
        window.setWindowState(window.windowState() & ~Qt.WindowState.WindowMinimized)
        window.raise_()
        window.activateWindow()

    def begin() -> None:
        from ..disk.log import start_log

        start_log()
        window.use_home(home)
        named = [str(path.absolute()) for path in paths if path is not None]
        if named:
            window.bench.opening.open_paths(named)
        elif action:
            act(action)
        else:
            window.session_bar.offer()
        if not alone:
            answer(window, opened, act)
        later.start(_READY_MS)

    later = QTimer(window)
    later.setSingleShot(True)
    later.timeout.connect(window.make_ready)
    window.after_first_paint(begin)
    let_go = _end_when_asked(app, window)
    try:
        return app.exec()
    finally:
        let_go()
