"""What makes room for longer words: a row that becomes several, and a check box whose words wrap."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QCheckBox, QLayout, QLayoutItem, QSizePolicy, QStyle, QStyleOptionButton, QWidget

_BOX = 26  # the indicator and the space behind it, in pixels
_LEAST = 24  # px, of what is clicked: WCAG 2.2, 2.5.8


class Flow(QLayout):
    """Lays things out side by side at one width, in as few rows as their words allow.

    packed: whether they keep the width of the widest, and begin each row at the edge, as tiles do.
    """

    def __init__(self, spacing: int = 2, packed: bool = False) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self._heights: dict[int, int] = {}
        self._widest: dict[int, int] = {}  # by item; a tab that is chosen has bolder words than one that is not
        self._packed = packed
        self.setSpacing(spacing)

    def addItem(self, item: QLayoutItem | None) -> None:
        """Take one more."""
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        """Return how many there are."""
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        """Return one of them."""
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        """Take one of them out."""
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        """Return that it takes the width there is."""
        return Qt.Orientation.Horizontal

    def hasHeightForWidth(self) -> bool:
        """Return that a narrow place makes it higher."""
        return True

    def heightForWidth(self, width: int) -> int:
        """Return how high it is at a width."""
        if width not in self._heights:
            self._heights[width] = self._lay(QRect(0, 0, width, 0), False)
        return self._heights[width]

    def invalidate(self) -> None:
        """Forget what was measured: something in it is another size, came, went or was hidden."""
        self._heights.clear()
        super().invalidate()

    def setGeometry(self, rect: QRect) -> None:
        """Lay everything out."""
        super().setGeometry(rect)
        self._lay(rect, True)

    def sizeHint(self) -> QSize:
        """Return the size in one row."""
        hints = [item.sizeHint() for item in self._shown()]
        wide = sum(h.width() for h in hints) + self.spacing() * max(0, len(hints) - 1)
        return QSize(wide, max((h.height() for h in hints), default=0))

    def minimumSize(self) -> QSize:
        """Return the least size: one in a row."""
        hints = [item.sizeHint() for item in self._shown()]
        return QSize(min(120, max((h.width() for h in hints), default=0)), max((h.height() for h in hints), default=0))

    def _shown(self) -> list[QLayoutItem]:
        return [item for item in self._items if (widget := item.widget()) is None or not widget.isHidden()]

    def _lay(self, rect: QRect, place: bool) -> int:
        margins = self.contentsMargins()
        rect = rect.marginsRemoved(margins)
        items = self._shown()
        if not items:
            return margins.top() + margins.bottom()
        widest = max(item.sizeHint().width() for item in items)
        columns = len(items)
        while columns > 1 and (rect.width() - self.spacing() * (columns - 1)) / columns < widest:
            columns -= 1
        if not self._packed and columns < len(items) and (beside := self._beside(items, rect.width())):
            return self._placed(items, beside, rect, place) + margins.top() + margins.bottom()
        rows = -(-len(items) // columns)
        if not self._packed:
            columns = -(-len(items) // rows)  # rows of nearly the same number
        wide = widest if self._packed else (rect.width() - self.spacing() * (columns - 1)) / columns
        high = max(item.sizeHint().height() for item in items)
        mirrored = self.parentWidget() is not None and self.parentWidget().isRightToLeft()  # type: ignore[union-attr]
        if place:
            for i, item in enumerate(items):
                row, column = divmod(i, columns)
                column = columns - 1 - column if mirrored else column
                left = round(rect.x() + column * (wide + self.spacing()))
                right = round(rect.x() + column * (wide + self.spacing()) + wide)
                item.setGeometry(QRect(left, rect.y() + row * (high + self.spacing()), right - left, high))
        return rows * high + (rows - 1) * self.spacing() + margins.top() + margins.bottom()

    def _beside(self, items: list[QLayoutItem], room: int) -> list[int]:
        """Return widths at which all stand in one row, each as wide as it ever was; nothing where they do not."""
        for item in items:
            self._widest[id(item)] = max(self._widest.get(id(item), 0), item.sizeHint().width())
        wide = [self._widest[id(item)] for item in items]
        left = room - sum(wide) - self.spacing() * (len(items) - 1)
        return [w + left // len(items) for w in wide] if left >= 0 else []

    def _placed(self, items: list[QLayoutItem], wide: list[int], rect: QRect, place: bool) -> int:
        high = max(item.sizeHint().height() for item in items)
        parent = self.parentWidget()
        mirrored = parent is not None and parent.isRightToLeft()
        x = rect.right() + 1 if mirrored else rect.x()
        for item, own in zip(items, wide, strict=True) if place else ():
            item.setGeometry(QRect(x - own if mirrored else x, rect.y(), own, high))
            x += -(own + self.spacing()) if mirrored else own + self.spacing()
        return high


class WrapCheck(QCheckBox):
    """A check box whose words take as many lines as they need."""

    def __init__(self, words: str, parent: QWidget | None = None) -> None:
        super().__init__(words, parent)
        policy = QSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    def hasHeightForWidth(self) -> bool:
        """Return that a narrow place makes it higher."""
        return True

    def heightForWidth(self, width: int) -> int:
        """Return how high it is at a width."""
        flags = int(Qt.TextFlag.TextWordWrap)
        room = QRect(0, 0, max(40, width - _BOX), 10_000)
        return max(_LEAST, self.fontMetrics().boundingRect(room, flags, self.text()).height() + 4)

    def sizeHint(self) -> QSize:
        """Return a size in one line."""
        return QSize(self.fontMetrics().horizontalAdvance(self.text()) + _BOX + 4, self.heightForWidth(10_000))

    def minimumSizeHint(self) -> QSize:
        """Return the size of the box and a word."""
        return QSize(_BOX + 60, _LEAST)

    def hitButton(self, pos: QPoint) -> bool:
        """Take a click on the words too."""
        return self.rect().contains(pos)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the box as ever, and the words beside it in their lines."""
        painter = QPainter(self)
        option = QStyleOptionButton()
        self.initStyleOption(option)
        words, option.text = option.text, ""
        option.rect = QRect(0, 0, self.width(), min(self.height(), max(_LEAST, self.fontMetrics().height() + 4)))
        style = self.style()
        if style is not None:
            style.drawControl(QStyle.ControlElement.CE_CheckBox, option, painter, self)
        role = self.foregroundRole()
        painter.setPen(self.palette().color(role))
        left = 0 if self.isRightToLeft() else _BOX
        align = Qt.AlignmentFlag.AlignRight if self.isRightToLeft() else Qt.AlignmentFlag.AlignLeft
        room = QRect(left, 2, self.width() - _BOX, self.height() - 2)
        painter.drawText(room, int(Qt.TextFlag.TextWordWrap | align), words)
