"""What a person can choose of the program itself: appearance, the need of new looks, what is asked, what is kept."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QDialog, QFormLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from ...colour.requirement import TEXT
from ...language import decimal, plural, tr
from ...wear.places import cache_folder
from ..kit.parts import Choice, label
from .memory import Memory

# Each choice: its id, what it is called, what can be chosen (value and words), the usual first.
CHOICES: tuple[tuple[str, str, tuple[tuple[str, str], ...]], ...] = (
    (
        "appearance",
        tr("This window"),
        (("dark", tr("Dark")), ("light", tr("Light")), ("desktop", tr("Like the desktop"))),
    ),
    (
        "contrast",
        tr("Contrast of this window"),
        (
            ("desktop", tr("Like the desktop")),
            ("usual", tr("Usual")),
            ("high", tr("High: nothing quiet, strong edges")),
        ),
    ),
    (
        "size",
        tr("Size of text and controls"),
        (
            ("1", tr("Usual")),
            ("1.25", tr("A quarter larger, from the next start")),
            ("1.5", tr("Half as large again, from the next start")),
            ("2", tr("Twice as large, from the next start")),
        ),
    ),
    (
        "need",
        tr("Text in new looks needs"),
        ((f"{TEXT.level:g}", tr("4.5 : 1, as WCAG's level AA asks")), ("7", tr("7 : 1, as its level AAA asks"))),
    ),
    (
        "ask",
        tr("Before a look is worn"),
        (
            ("no", tr("The plan is in sight; nothing more is asked")),
            ("yes", tr("The number of files is said and asked about")),
        ),
    ),
    (
        "keep",
        tr("A look that is worn"),
        (("yes", tr("Is kept on the Shelf")), ("no", tr("Is kept when I say so"))),
    ),
)
USUAL: dict[str, str] = {id_: rows[0][0] for id_, _, rows in CHOICES}


def kept_bytes(folder: Path) -> tuple[int, int]:
    """Return how many rows the cache of pictures has, and their bytes."""
    try:
        sizes = [row.stat().st_size for row in folder.iterdir()]
    except OSError:
        return 0, 0
    return len(sizes), sum(sizes)


class Preferences(QDialog):
    """Choices take effect at once and are kept."""

    chosen = pyqtSignal(str, str)

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
        for id_, title, rows in CHOICES:
            box = Choice()
            box.setAccessibleName(title)
            for value, words in rows:
                box.addItem(words, value)
            box.setCurrentIndex(max(0, box.findData(memory.choice(id_, USUAL[id_]))))
            box.activated.connect(lambda _, id_=id_: self._choose(id_))
            form.addRow(label(title, wrap=False), box)
            self.boxes[id_] = box
        column.addLayout(form)
        row = QHBoxLayout()
        self.cache = label("", "quiet", wrap=False)
        self.clear = QPushButton(tr("Forget them"))
        self.clear.setToolTip(tr("Thumbnails and colours of ranked pictures; they are read again when they are wanted"))
        self.clear.clicked.connect(self._clear)
        row.addWidget(self.cache, 1)
        row.addWidget(self.clear)
        column.addLayout(row)
        done = QPushButton(tr("Done"))
        done.setProperty("main", True)
        done.clicked.connect(self.accept)
        column.addWidget(done)
        self._count()

    def _choose(self, id_: str) -> None:
        value = str(self.boxes[id_].currentData())
        self._memory.choose(id_, value)
        self.chosen.emit(id_, value)

    def _count(self) -> None:
        count, size = kept_bytes(cache_folder())
        self.cache.setText(
            plural(
                "{count} picture is kept as a thumbnail, {size} MB",
                "{count} pictures are kept as thumbnails, {size} MB",
                count,
                size=decimal(size / 1000000.0, 1),
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
