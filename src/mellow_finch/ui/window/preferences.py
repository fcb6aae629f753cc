"""What a person can choose of the program itself: appearance, the need of new looks, what is asked, what is kept."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QDialog, QFormLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from ...language import megabytes, plural, tr
from ...wear.places import cache_folder
from ..kit.parts import Choice, label
from .memory import Memory
from .settings import PREFERENCES, Preference, fits


def kept_bytes(folder: Path) -> tuple[int, int]:
    """Return how many rows the cache of pictures has, and their bytes."""
    try:
        sizes = [row.stat().st_size for row in folder.iterdir()]
    except OSError:
        return 0, 0
    return len(sizes), sum(sizes)


class Preferences(QDialog):
    """Choices take effect at once and are kept."""

    chosen = pyqtSignal()

    def __init__(self, memory: Memory, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._memory = memory
        self.setWindowTitle(tr("Preferences"))
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 14)
        column.setSpacing(12)
        form = QFormLayout()
        form.setVerticalSpacing(10)
        form.setHorizontalSpacing(16)
        self.boxes: dict[str, QComboBox] = {}
        now = memory.settings()
        known = memory.screen()
        screen = (known.width(), known.height()) if known is not None else None
        for setting in PREFERENCES:
            box = Choice()
            box.setAccessibleName(setting.title)
            for option in setting.options:
                if setting.name != "size" or fits(float(str(option.value)), screen):
                    box.addItem(option.words, option.value)
            box.setCurrentIndex(max(0, box.findData(getattr(now, setting.name))))
            box.activated.connect(lambda _, setting=setting: self._choose(setting))
            form.addRow(label(setting.title, wrap=False), box)
            self.boxes[setting.name] = box
        column.addLayout(form)
        row = QHBoxLayout()
        self.cache = label("", "quiet", wrap=False)
        self.clear = QPushButton(tr("Delete them"))
        self.clear.setToolTip(tr("Thumbnails and colours of sorted images; they are read again when needed"))
        self.clear.clicked.connect(self._clear)
        row.addWidget(self.cache, 1)
        row.addWidget(self.clear)
        column.addLayout(row)
        done = QPushButton(tr("Done"))
        done.setProperty("main", True)
        done.clicked.connect(self.accept)
        column.addWidget(done)
        self._count()

    def _choose(self, setting: Preference) -> None:
        self._memory.choose(setting, self.boxes[setting.name].currentData())
        self.chosen.emit()

    def _count(self) -> None:
        count, size = kept_bytes(cache_folder())
        self.cache.setText(
            plural(
                "{count} image is stored as a thumbnail, {size}",
                "{count} images are stored as thumbnails, {size}",
                count,
                size=megabytes(size, 1),
            )
        )
        self.clear.setEnabled(count > 0)

    def _clear(self) -> None:
        try:
            for row in cache_folder().iterdir():
                row.unlink()
        except OSError:
            pass  # what cannot be removed is counted again below
        self._count()
