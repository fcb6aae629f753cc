"""Run by itself: lays out every view of the window in the language in force, and prints what does not fit as JSON."""

from __future__ import annotations

import json
import os
import re
import sys
import tempfile
import time
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QFont, QFontMetrics
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QCheckBox,
    QComboBox,
    QHeaderView,
    QLabel,
    QListWidget,
    QRadioButton,
    QScrollArea,
    QTreeWidget,
    QWidget,
)

from mellow_finch.demo.build import build_demo_home, demo_archive, demo_pictures
from mellow_finch.look.ready import READY
from mellow_finch.ui.app import make_app
from mellow_finch.ui.follow.dialog import FollowDialog
from mellow_finch.ui.help.guide import Guide
from mellow_finch.ui.help.pages import pages
from mellow_finch.ui.kit.flow import WrapCheck
from mellow_finch.ui.window.memory import Memory
from mellow_finch.ui.window.parts import OpenWindow as Window
from mellow_finch.ui.window.preferences import Preferences
from mellow_finch.ui.window.track import StepButton


def wait(app: QApplication, window: Window, least_s: float = 0.1) -> None:
    """Let the window do its work."""
    until = time.monotonic() + least_s
    while time.monotonic() < until or (window.jobs._running and time.monotonic() < until + 4):
        app.processEvents()
        time.sleep(0.005)


def cut_in(root: QWidget, seen: set[str]) -> list[str]:
    """Return the words that do not fit where they stand."""
    out = []
    for widget in root.findChildren(QWidget):
        if not widget.isVisibleTo(root) or widget.width() == 0:
            continue
        text = ""
        if isinstance(widget, QLabel):
            text = widget.text()
            if text and not widget.wordWrap():
                wide = widget.fontMetrics().boundingRect(widget.contentsRect(), 0, text).width()
                if wide > widget.contentsRect().width() + 2:
                    out.append(f"label {text[:60]!r}: {wide} > {widget.contentsRect().width()}")
            elif text and widget.heightForWidth(widget.width()) > widget.height() + 3:
                out.append(f"label {text[:60]!r}: {widget.heightForWidth(widget.width())} > {widget.height()} high")
        elif isinstance(widget, (QAbstractButton, QComboBox)):
            text = widget.text() if isinstance(widget, QAbstractButton) else widget.currentText()
            short = widget.minimumSizeHint().width() if isinstance(widget, QComboBox) else widget.sizeHint().width()
            if isinstance(widget, WrapCheck):
                short = 0 if widget.heightForWidth(widget.width()) <= widget.height() + 3 else 10_000
            if text and widget.property("elides") is None and short > widget.width() + 2:
                out.append(f"{type(widget).__name__} {text[:60]!r}: {short} > {widget.width()}")
            if isinstance(widget, (QCheckBox, QRadioButton)) and text:
                edge = widget.mapTo(root, QPoint(widget.width(), 0)).x()
                if edge > root.width() + 2:
                    out.append(f"{type(widget).__name__} {text[:60]!r}: beyond the edge")
        elif (
            isinstance(widget, QScrollArea)
            and (inside := widget.widget()) is not None
            and inside.width() > widget.viewport().width() + 2
            and not widget.horizontalScrollBar().isVisible()
        ):
            widest = [w for w in inside.findChildren(QWidget) if w.isVisibleTo(inside)]
            widest.sort(key=lambda w: -w.minimumSizeHint().width())
            told = [
                f"{type(w).__name__} {w.accessibleName() or w.toolTip()} {w.minimumSizeHint().width()}"
                for w in widest[:4]
            ]
            out.append(f"page {inside.width()} > {widget.viewport().width()}: {told}")
        elif isinstance(widget, QHeaderView) and widget.model() is not None:
            for i in range(widget.count()):
                if not widget.isSectionHidden(i) and widget.sectionSizeHint(i) > widget.sectionSize(i) + 1:
                    title = widget.model().headerData(i, Qt.Orientation.Horizontal)
                    out.append(f"column {title!r}: {widget.sectionSizeHint(i)} > {widget.sectionSize(i)}")
        if isinstance(widget, StepButton):
            out += painted_in(widget)
        if text:
            seen.add(text)
        seen.update(told_by(widget))
    return out


def told_by(widget: QWidget) -> set[str]:
    """Return the words of a list, a tree or a choice, and what a widget says when it is pointed at."""
    out = {widget.toolTip()}
    if isinstance(widget, QComboBox):
        out |= {widget.itemText(i) for i in range(widget.count())}
    elif isinstance(widget, QListWidget):
        out |= {item.text() for i in range(widget.count()) if (item := widget.item(i)) is not None}
    elif isinstance(widget, QTreeWidget):
        rows = [item for i in range(widget.topLevelItemCount()) if (item := widget.topLevelItem(i)) is not None]
        heads = [widget.headerItem()] if widget.headerItem() is not None else []
        out |= {row.text(column) for row in (*heads, *rows) for column in range(widget.columnCount())}
    return out


# What is no word of ours: names of looks, schemes, themes, programs and places, and what stands in files.
_FOREIGN = re.compile(
    r"[#${}/~.·×@_]|^\W*$|^[a-z0-9-]+$|\d$|wlp|Turnstone|Reedbed|Sedge Sans|Breeze|Adwaita|palettes?\.|^colors? |prefer-"
)


def untranslated(seen: set[str], names: set[str]) -> list[str]:
    """Return the words that a catalogue in which every text ends with “~” does not know."""
    return sorted(
        words
        for words in seen
        if re.search(r"[A-Za-z]{3}", words)
        and "~" not in words
        and not re.search(r"[áéíóú]", words)
        and words not in names
        and not _FOREIGN.search(words)
    )


def painted_in(step: StepButton) -> list[str]:
    """Return the words of a step that do not fit: its title beside its icon, and the line under that."""
    font, out = QFont(step.font()), []
    for words, points, bold, room in (
        (step._step.title, 11, step.isChecked(), step.width() - 34),
        (step.left, 9.5, step.urgent, step.width() - 14),
    ):
        font.setPointSizeF(points)
        font.setBold(bold)
        wide = QFontMetrics(font).horizontalAdvance(words)
        if wide > room:
            out.append(f"step {words!r}: {wide} > {room}")
    return out


def main() -> None:
    """Lay out every view."""
    app, style = make_app(sys.argv[:1])
    cut: list[str] = []
    seen: set[str] = set()
    with tempfile.TemporaryDirectory() as scratch:
        home = build_demo_home(Path(scratch) / "demo/home")
        home_pictures = demo_pictures(home)
        window = Window(style, home=home, memory=Memory(Path(scratch) / "s.ini", Path(scratch)))
        window.resize(1280, 800)
        window.show()
        window.complete()
        wait(app, window)

        def look(name: str, widget: QWidget | None = None) -> None:
            wait(app, window)
            for _ in range(8):  # what is being laid out still gets another look
                if not (found := cut_in(widget or window, seen)):
                    break
                wait(app, window, 0.3)
            cut.extend(f"{name}: {row}" for row in found)

        look("empty")
        window.begin_tour()
        for at in range(5):
            window.tour.go(at)
            look(f"tour {at}")
        window.tour.end()
        window.open_path(str(home / "Pictures/reedbed-at-dawn.jpg"))
        wait(app, window, 1)
        window.show_step("gather")
        for page in window.gather.tabs:
            window.gather.show_page(page)
            look(f"gather {page}")
        window.show_step("tune")
        for page in window.tune.tabs:
            window.tune.show_page(page)
            look(f"tune {page}")
        window.tune.show_page("terminal")
        window.tune.terminal.swatches["ansi_4"].change_asked.emit()
        look("chooser")
        window.bench.choosing.chooser.close_with(False)
        window.show_step("dress")
        for page in window.dress.pages:
            window.dress.show_page(page)
            look(f"dress {page}")
        window.open_path(str(demo_archive(home)))
        for _ in range(200):
            wait(app, window)
            if window.themes.up_to_date(window.dress.theme_path()):
                break
        for view in ("groups", "changes", "pictures", "stage"):
            window.dress.show_view(view)
            look(f"theme {view}")
        window.dress.theme.use.own.click()
        wait(app, window, 1)
        look("theme as it is")
        window.dress.theme.aside.click()
        for component in ("gtk-3", "kitty", "widget", "code-editor", "rofi"):
            window.dress.choose(component)
            window.dress.show_page("one")
            look(f"component {component}")
        window.show_step("proof")
        look("proof")
        window.step_by_id["proof"].panel.show_page("programs")
        look("programs")
        window.step_by_id["proof"].panel.show_page("pairs")
        window.show_step("wear")
        look("wear")
        window.wear.wear()
        wait(app, window, 1)
        look("roll call")
        window.wear.go_back()
        wait(app, window, 1)
        window.actions_by_id["steps"].trigger()
        look("steps")
        window.actions_by_id["shelf"].trigger()
        look("shelf")
        window.actions_by_id["guide"].trigger()
        look("guide", window.findChild(Guide))
        window.actions_by_id["follow"].trigger()
        look("follow", window.findChild(FollowDialog))
        window.actions_by_id["preferences"].trigger()
        look("preferences", window.findChild(Preferences))
    looks = {path.stem.replace("-", " ").capitalize() for path in home_pictures}
    names = looks | {scheme.title for scheme in READY} | {page.title for page in pages()}
    told = {
        "seen": len(seen),
        "cut": sorted(set(cut)),
        "untranslated": untranslated(seen, names),
        "right_to_left": app.layoutDirection() == Qt.LayoutDirection.RightToLeft,
    }
    print(json.dumps(told), flush=True)
    os._exit(0)  # nobody is asked about what was not saved


if __name__ == "__main__":
    main()
