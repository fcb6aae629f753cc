"""A gallery of Qt widgets drawn by a style engine, measured by the pixels that are painted: run by itself.

python3 gallery_qt5.py THEME PICTURE, in the system's own interpreter, with a home of its own that chooses the theme.
One line of JSON is printed: {"version": "5.15.8", "rows": [[widget, state, "text" | "mark", ratio, text, surface,
""]]}; a picture of the whole gallery is left in PICTURE.
"""

import collections
import json
import sys

from gallery_common import ratio
from PyQt5.QtCore import QT_VERSION_STR, QPoint, QRect, QSize, Qt
from PyQt5.QtGui import QColor, QFont, QImage, QPainter, QPalette
from PyQt5.QtWidgets import (
    QApplication,
    QCheckBox,
    QComboBox,
    QGroupBox,
    QLabel,
    QLineEdit,
    QListWidget,
    QMenu,
    QMenuBar,
    QProgressBar,
    QPushButton,
    QRadioButton,
    QStyle,
    QStyleOptionButton,
    QStyleOptionMenuItem,
    QTabBar,
    QToolButton,
    QToolTip,
    QWidget,
)

_WIDE, _TALL = 230, 40
ROOM = QSize(_WIDE, _TALL)
_HIGH = 18  # pixels of the words in the gallery: thin letters would be blurred
_BLUR = 1.15  # how much of a letter's contrast its strongest pixel may have lost
rows: list[list[object]] = []


def grabbed(widget):
    """What a widget shows, on the window's colour where it is translucent."""
    image = QImage(widget.size(), QImage.Format_RGB32)
    image.fill(widget.palette().color(QPalette.Window))
    widget.render(image, QPoint(), flags=QWidget.DrawWindowBackground | QWidget.DrawChildren)
    return image


def measure(name, state, image, box=None, what="text"):
    """The strongest pixel of some words against the commonest one around them."""
    box = box or image.rect().adjusted(6, 6, -6, -6)
    seen = collections.Counter(
        QColor(image.pixel(i, j)).getRgb()[:3]
        for i in range(box.left(), box.right())
        for j in range(box.top(), box.bottom())
    )
    behind = seen.most_common(1)[0][0]
    best = max(seen, key=lambda c: ratio(c, behind))
    if ratio(best, behind) < 1.05 and what == "mark":  # the style draws none: a fill tells the state
        return
    found = ratio(best, behind) * (_BLUR if what == "text" else 1.0)
    colours = ("#{:02x}{:02x}{:02x}".format(*best), "#{:02x}{:02x}{:02x}".format(*behind))
    rows.append([name, state, what, round(found, 3), *colours, ""])


def shown(widget, wide=_WIDE, high=_TALL):
    widget.setFixedSize(wide, high)
    widget.ensurePolished()
    return grabbed(widget)


def main(picture):
    app = QApplication([])
    font = QFont("DejaVu Sans")
    font.setPixelSize(_HIGH)
    app.setFont(font)
    kept = []

    def keep(name, state, image, **where):
        kept.append(image)
        measure(name, state, image, **where)

    window = QWidget()
    label = QLabel("Every ring is looked up", window)
    label.setFixedSize(ROOM)
    for state, on in (("rest", True), ("disabled", False)):
        label.setEnabled(on)
        window.setFixedSize(ROOM)
        keep("label", state, grabbed(window))
    for state in ("rest", "hover", "pressed", "checked", "disabled"):
        button = QPushButton("Release the bird")
        button.setCheckable(True)
        button.setChecked(state == "checked")
        button.setDown(state == "pressed")
        button.setEnabled(state != "disabled")
        keep("button", state, drawn(button, state))
    for kind, name in ((QCheckBox, "check"), (QRadioButton, "radio")):
        for state in ("rest", "checked"):
            one = kind("Read twice")
            one.setChecked(state == "checked")
            image = shown(one)
            keep(name, state, image, box=QRect(30, 6, ROOM.width() - 36, ROOM.height() - 12))
            if state == "checked":
                side = one.style().pixelMetric(QStyle.PM_IndicatorWidth)
                box = QRect(3, (ROOM.height() - side) // 2 + 3, side - 6, side - 6)
                measure(name, state, image, box=box, what="mark")
    for state in ("rest", "disabled"):
        entry = QLineEdit("Bearded reedling")
        entry.setEnabled(state != "disabled")
        keep("entry", state, shown(entry))
    combo = QComboBox()
    combo.addItem("Wren")
    keep("combo", "rest", shown(combo), box=QRect(8, 6, 120, ROOM.height() - 12))
    birds = QListWidget()
    birds.addItems(["Wren", "Water rail", "Reed bunting"])
    birds.setCurrentRow(1)
    image = shown(birds, high=110)
    for at, state in ((0, "rest"), (1, "selected")):
        box = birds.visualItemRect(birds.item(at)).translated(birds.viewport().pos())
        keep("list row", state, image, box=box.adjusted(3, 2, -3, -2))
    tabs = QTabBar()
    tabs.addTab("Today")
    tabs.addTab("Rings")
    image = shown(tabs)
    for at, state in ((0, "checked"), (1, "rest")):
        keep("tab", state, image, box=tabs.tabRect(at).adjusted(8, 6, -8, -6))
    bar = QMenuBar()
    bar.addAction("Places")
    keep("menu bar item", "rest", shown(bar), box=QRect(6, 6, 70, ROOM.height() - 12))
    menu = QMenu()
    menu.addAction("Show on the map")
    for state in ("rest", "hover", "disabled"):
        keep("menu item", state, of_menu(menu, state))
    tip = QLabel("two chicks, both ringed")
    tip.setWindowFlags(Qt.ToolTip)
    tip.setPalette(QToolTip.palette())
    tip.setAutoFillBackground(True)
    tip.setBackgroundRole(QPalette.ToolTipBase)
    tip.setForegroundRole(QPalette.ToolTipText)
    keep("tooltip", "rest", shown(tip))
    group = QGroupBox("Cameras")
    keep("frame", "rest", shown(group, high=60), box=QRect(4, 2, 120, 26))
    tool = QToolButton()
    tool.setText("Up")
    keep("tool button", "rest", shown(tool, wide=90))
    progress = QProgressBar()
    progress.setValue(0)
    keep("progress", "rest", shown(progress))
    paint_all(kept, picture)
    print(json.dumps({"version": QT_VERSION_STR, "rows": rows}))


def drawn(button, state):
    """A button in a state that only a pointer gives, drawn by the style itself."""
    button.setFixedSize(ROOM)
    button.ensurePolished()
    image = QImage(ROOM, QImage.Format_RGB32)
    image.fill(button.palette().color(QPalette.Window))
    option = QStyleOptionButton()
    button.initStyleOption(option)
    if state == "hover":
        option.state |= QStyle.State_MouseOver
    painter = QPainter(image)
    painter.setFont(button.font())
    button.style().drawControl(QStyle.CE_PushButton, option, painter, button)
    painter.end()
    return image


def of_menu(menu, state):
    """An item of a menu, drawn by the style itself."""
    menu.ensurePolished()
    image = QImage(ROOM, QImage.Format_RGB32)
    image.fill(menu.palette().color(QPalette.Window))
    painter = QPainter(image)
    painter.setFont(menu.font())
    option = QStyleOptionMenuItem()
    option.initFrom(menu)
    option.rect = QRect(QPoint(0, 0), ROOM)
    menu.style().drawPrimitive(QStyle.PE_PanelMenu, option, painter, menu)
    option.menuItemType = QStyleOptionMenuItem.Normal
    option.text = "Show on the map"
    option.font = menu.font()
    option.palette = menu.palette()
    option.state = QStyle.State_None if state == "disabled" else QStyle.State_Enabled | QStyle.State_Active
    if state == "hover":
        option.state |= QStyle.State_Selected
    menu.style().drawControl(QStyle.CE_MenuItem, option, painter, menu)
    painter.end()
    return image


def paint_all(images, picture):
    """Leave one picture of all that was drawn, in two columns."""
    high = [max(i.height() for i in images[at : at + 2]) + 6 for at in range(0, len(images), 2)]
    whole = QImage(ROOM.width() * 2 + 18, sum(high) + 6, QImage.Format_RGB32)
    whole.fill(QApplication.palette().color(QPalette.Window))
    painter = QPainter(whole)
    for at, image in enumerate(images):
        painter.drawImage(QPoint(6 + at % 2 * (ROOM.width() + 6), 6 + sum(high[: at // 2])), image)
    painter.end()
    whole.save(picture, "PNG")


if __name__ == "__main__":
    main(sys.argv[2])
