"""The eyedropper for the whole screen: a still of each screen under a loupe, or the desktop's own picker.

On X11 the screen can be read; elsewhere the desktop's portal is asked over D-Bus; where neither works, a clear word.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, QPointF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QGuiApplication, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QScreen
from PyQt6.QtWidgets import QWidget

from ...colour.rgb import Rgba
from ...errors import line_of
from ...language import tr
from ...session.portal import pick_colour
from ..kit.jobs import Jobs
from ..kit.loupe import paint_loupe

NameOf = Callable[[Rgba], str]
_SETTLE_MS = 250  # what other windows need to paint themselves where ours has gone


class ScreenStill(QWidget):
    """A still of one screen that fills it; moving shows the loupe, a click or Return takes, Escape calls off."""

    taken = pyqtSignal(object)  # Rgba
    called_off = pyqtSignal()

    def __init__(self, screen: QScreen, still: QImage, name_of: NameOf) -> None:
        super().__init__(None, Qt.WindowType.FramelessWindowHint | Qt.WindowType.WindowStaysOnTopHint)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._still, self._name_of = still, name_of
        self._at: QPointF | None = None
        self.setAccessibleName(tr("Screen eyedropper"))
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setGeometry(screen.geometry())

    def _pixel(self, at: QPointF) -> tuple[int, int]:
        """Return the pixel of the still under a point: the two differ where a screen is scaled."""
        x = int(at.x() * self._still.width() / max(1, self.width()))
        y = int(at.y() * self._still.height() / max(1, self.height()))
        return min(self._still.width() - 1, max(0, x)), min(self._still.height() - 1, max(0, y))

    def colour_at(self, at: QPointF) -> Rgba:
        """Return the screen's colour under a point."""
        c = self._still.pixelColor(*self._pixel(at))
        return Rgba(c.red(), c.green(), c.blue())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the still and the loupe."""
        p = QPainter(self)
        p.drawImage(self.rect(), self._still)
        if self._at is not None:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            colour = self.colour_at(self._at)
            x, y = self._pixel(self._at)
            paint_loupe(p, self._at, self.size().toSizeF(), self._still, x, y, colour, self._name_of(colour))

    def look_at(self, at: QPointF) -> None:
        """Move the loupe."""
        self._at = QPointF(min(self.width() - 1.0, max(0.0, at.x())), min(self.height() - 1.0, max(0.0, at.y())))
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Move the loupe."""
        if event is not None:
            self.look_at(event.position())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take the colour, or call it off with another button."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.taken.emit(self.colour_at(event.position()))
        elif event is not None:
            self.called_off.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Move the loupe by keys, take with Return, call off with Escape."""
        if event is None:
            return
        moves = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
        key = Qt.Key(event.key())
        at = self._at or QPointF(self.rect().center())
        if key in moves:
            far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            self.look_at(QPointF(at.x() + moves[key][0] * far, at.y() + moves[key][1] * far))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.taken.emit(self.colour_at(at))
        elif key == Qt.Key.Key_Escape:
            self.called_off.emit()


class ScreenPicker(QObject):
    """Picks one colour at a time; the window that asks steps aside meanwhile."""

    taken = pyqtSignal(object)  # Rgba
    trouble = pyqtSignal(str)
    ended = pyqtSignal()

    def __init__(self, window: QWidget, jobs: Jobs, name_of: NameOf) -> None:
        super().__init__(window)
        self._window, self._jobs, self._name_of = window, jobs, name_of
        self.stills: list[ScreenStill] = []
        self._aside = False

    def pick(self) -> None:
        """Begin to pick, in the way that this desktop allows."""
        if self.stills or self._aside or self._jobs.running("portal"):
            return
        if QGuiApplication.platformName() == "xcb":
            self._aside = True
            self._window.hide()
            QTimer.singleShot(_SETTLE_MS, self._show_stills)
        else:
            self._jobs.start("portal", pick_colour, self._answered, self._refused)

    def _show_stills(self) -> None:
        for screen in QGuiApplication.screens():
            still = screen.grabWindow().toImage().convertToFormat(QImage.Format.Format_RGB32)
            if still.isNull():
                continue
            still.setDevicePixelRatio(1)
            widget = ScreenStill(screen, still, self._name_of)
            widget.taken.connect(self._take)
            widget.called_off.connect(self._end)
            self.stills.append(widget)
        if not self.stills:
            self._end()
            self.trouble.emit(tr("The screen cannot be read here. Pick the colour from the image, or type it."))
            return
        for widget in self.stills:
            widget.show()
        self.stills[0].activateWindow()
        self.stills[0].setFocus()

    def _take(self, colour: Rgba) -> None:
        self._end()
        self.taken.emit(colour)

    def _end(self) -> None:
        if self._aside:  # the window first: closing the last one in sight would end the program
            self._aside = False
            self._window.show()
            self._window.raise_()
            self._window.activateWindow()
        for widget in self.stills:
            widget.close()
        self.stills = []
        self.ended.emit()

    def _answered(self, colour: Rgba | None) -> None:
        self.ended.emit()
        if colour is not None:
            self.taken.emit(colour)

    def _refused(self, error: Exception) -> None:
        self.ended.emit()
        self.trouble.emit(line_of(error))
