"""The small window on top that counts down while a look is tried."""

from __future__ import annotations

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QProgressBar, QPushButton, QVBoxLayout, QWidget

from ...language import plural, tr
from ..kit.flow import WrapCheck
from ..kit.parts import label

_TICK_MS = 100


class TrialBox(QDialog):
    """Asks whether the look stays; says back when nobody answers. It stays above the windows that it is about."""

    kept = pyqtSignal()
    given_back = pyqtSignal()
    follow_asked = pyqtSignal(bool)  # whether the desktop is to follow what is changed in the look meanwhile

    def __init__(self, seconds: int, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Keep this look?"))
        self.setWindowFlag(Qt.WindowType.WindowStaysOnTopHint)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._left_ms = seconds * 1000
        self._answered = False
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 14)
        column.setSpacing(10)
        column.addWidget(label(tr("Keep this look?"), "title"))
        self.words = label("")
        self.words.setMinimumWidth(300)
        column.addWidget(self.words)
        self.bar = QProgressBar()
        self.bar.setRange(0, self._left_ms)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName(tr("Time left"))
        column.addWidget(self.bar)
        self.live = WrapCheck(tr("Update the desktop while I edit"))
        self.live.setToolTip(tr("Programs that follow without a restart take each change; the time then restarts"))
        self.live.clicked.connect(self.follow_asked)
        column.addWidget(self.live)
        row = QHBoxLayout()
        self.back = QPushButton(tr("Undo"))
        self.back.setToolTip(tr("Every file is restored byte for byte, every setting to its previous value"))
        self.back.clicked.connect(lambda: self._answer(False))
        self.keep = QPushButton(tr("Keep"))
        self.keep.setProperty("main", True)
        self.keep.setToolTip(tr("The look stays until you undo it"))
        self.keep.clicked.connect(lambda: self._answer(True))
        self.back.setDefault(True)  # a key that was meant for another window changes nothing
        row.addWidget(self.back)
        row.addWidget(self.keep)
        column.addLayout(row)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._tick)
        self._timer.start(_TICK_MS)
        self._say()

    def _say(self) -> None:
        seconds = -(-self._left_ms // 1000)
        self.words.setText(
            plural(
                "Everything is undone in {count} second.",
                "Everything is undone in {count} seconds.",
                seconds,
            )
        )
        self.bar.setValue(self._left_ms)

    def begin_anew(self, seconds: int) -> None:
        """Let the time start anew: the desktop has followed a change."""
        if not self._answered:
            self._left_ms = seconds * 1000
            self.bar.setRange(0, self._left_ms)
            self._say()

    def _tick(self) -> None:
        self._left_ms -= _TICK_MS
        if self._left_ms <= 0:
            self._answer(False)
        else:
            self._say()

    def _answer(self, keep: bool) -> None:
        if not self._answered:
            self._answered = True
            self._timer.stop()
            (self.kept if keep else self.given_back).emit()
        super().reject()

    def reject(self) -> None:
        """Go back by Escape, and when it is closed."""
        self._answer(False)
