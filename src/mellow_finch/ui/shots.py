"""Pictures of every main view, made from the demo data: python -m mellow_finch.ui.shots DIR [GUIDE_DIR].

GUIDE_DIR takes smaller ones of the views that the guide shows. Both in the language in force.
"""

from __future__ import annotations

import re
import sys
import tempfile
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import cast

from PIL import Image
from PyQt6.QtCore import QEventLoop, QPointF, QSize, Qt, QTimer
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QAbstractItemView, QApplication

from ..colour.rgb import Rgba, parse_hex
from ..demo.build import build_demo_home, demo_archive
from ..language import code
from ..look.edits import with_role, with_temper
from ..look.gather import look_of_pictures
from ..palette.recipe import TONES
from ..session.composition import Composition
from ..shelf.shelf import Shelf
from ..theme.bundle.foreign import ThisComputer
from .app import make_app
from .help.pages import pages
from .kit.style import Style
from .stage.scene import Shape, close_of
from .window.parts import OpenWindow
from .window.shelving import Shelving
from .window.steps.proof import ProofStep

SIZE = QSize(1280, 800)
_PROGRAMS = 9  # that fill the wall
_GUIDE_WIDE = 800  # px, of a picture in the guide
_GUIDE_COLOURS = 96
_MIDDLE = QAbstractItemView.ScrollHint.PositionAtCenter
Keep = Callable[[str, QImage], None]

# A desktop of another kind than the demo's: a window manager, with a bar, notifications and a widget beside it.
_OF_PARTS = Composition("waybar", False, "", "dunst", "terminal", "widget", "openbox")


def pause(milliseconds: int) -> None:
    """Let the window live for a while."""
    loop = QEventLoop()
    QTimer.singleShot(milliseconds, loop.quit)
    loop.exec()


def wait(window: OpenWindow) -> None:
    """Let every job end and everything be painted."""
    for _ in range(600):
        QApplication.processEvents()
        pause(20)
        if not window.jobs._running:
            break
    pause(60)


def shoot(folder: Path, home: Path, app: QApplication, style: Style) -> list[Path]:
    """Make every picture into a folder; return their paths."""
    folder.mkdir(parents=True, exist_ok=True)
    made: list[Path] = []

    def keep(name: str, image: QImage) -> None:
        path = folder / f"{name}.png"
        image.convertToFormat(QImage.Format.Format_RGB32).save(str(path))
        made.append(path)

    window = OpenWindow(style, home)
    window.resize(SIZE)
    window.show()
    wait(window)
    for part in (_gather, _tune, _rest, _shelf):
        part(window, home, keep)
    window.close()
    app.processEvents()
    return made


def _gather(window: OpenWindow, home: Path, keep: Keep) -> None:
    """Make the pictures of Gather: one picture under the eyedropper, several, schemes, and matching."""
    pictures = home / "Pictures"
    while sum(path.startswith("/") for path in window.desk.start.tiles) < len(list(pictures.glob("*.jpg"))):
        pause(50)
    wait(window)
    keep("0-start", window.grab().toImage())
    window.open_path(str(pictures / "reedbed-at-dawn.jpg"))
    wait(window)
    window.picture.set_dropper(True)
    frame = window.picture.frame()
    window.picture.point_at(QPointF(frame.x() + frame.width() * 0.66, frame.y() + frame.height() * 0.55))
    pause(40)
    keep("1-gather", window.grab().toImage())
    window.picture.set_dropper(False)
    names = ("reedbed-at-dawn", "dusk-murmuration", "mudflat-in-rain", "frost-on-sedge")
    window.opening.open_paths([str(pictures / f"{name}.jpg") for name in names])
    wait(window)
    keep("1b-gather-several", window.grab().toImage())
    window.open_path(str(pictures / "lighthouse-fog.jpg"))
    wait(window)
    window.gather.show_page("schemes")
    window.opening.open_scheme("redshank")
    wait(window)
    keep("1c-gather-schemes", window.grab().toImage())
    window.gather.show_page("picture")


def _tune(window: OpenWindow, home: Path, keep: Keep) -> None:
    """Make the pictures of Tune: a role, the whole look, the terminal, glass, eyes, and the steps taken."""
    window.open_path(str(home / "Pictures" / "reedbed-at-dawn.jpg"))
    wait(window)
    window.show_step("tune")
    window.document.select("menu_hover", "gtk-3", "menu item:hover")
    wait(window)
    keep("2-tune", window.grab().toImage())
    window.tune.show_page("whole")
    window.document.edit("Warmth", lambda look: with_temper(look, replace(look.temper, warmth=0.5, panel=0.8)))
    wait(window)
    keep("2b-tune-look", window.grab().toImage())
    window.tune.show_page("terminal")
    window.document.select("ansi_2", "terminal", "colour 2")
    wait(window)
    window.tune.show_page("glass")
    for kind in ("windows", "menus", "terminal"):
        window.tune.glass.checks[kind].click()
    window.tune.glass.blur.click()
    window.document.select("menu", "gtk-3", "menu")
    usual, window.staging.shape = window.staging.shape, Shape(_OF_PARTS)
    window.staging.show()
    wait(window)
    keep("2d-tune-glass", window.grab().toImage())
    window.staging.shape = usual
    window.staging.show()
    window.tune.show_page("eyes")
    window.tune.eyes.choose("deutan")
    wait(window)
    window.tune.eyes.choose("normal")
    window.tune.show_page("role")
    window.switch_steps()
    wait(window)
    window.steps.keep_as(window.document.states()[-3], "Before the glass")
    window.steps.list.setCurrentRow(window.steps.list.count() - 1)
    window.steps.compare()
    wait(window)
    window.actions_by_id["curtain"].trigger()
    while window.document.stack.canUndo():
        window.document.stack.undo()
    wait(window)


def _shelf(window: OpenWindow, home: Path, keep: Keep) -> None:
    """Make the pictures of the shelf and of a card, with a shelf of its own."""
    with tempfile.TemporaryDirectory() as made:
        shelving = Shelving(window, Shelf(Path(made) / "shelf"), Path(made) / "wall")
        names = ("lighthouse-fog", "frost-on-sedge", "mudflat-in-rain", "dusk-murmuration", "reedbed-at-dawn")
        for i, name in enumerate(names):
            for tone in TONES if i % 2 else TONES[:1]:
                look = look_of_pictures([home / "Pictures" / f"{name}.jpg"], tone)
                shelving.desk.shelf.keep(look, ["hide", "autumn"] if i == 3 else ["visitors"], when=f"2026-11-{20 + i}")
        shelving.show()
        for _ in range(200):
            wait(window)
            if shelving.desk.rested:
                break
        first = shelving.desk.looks[1]
        shelving.desk.choose(first.id)
        wait(window)
        keep("7-shelf", window.grab().toImage())
        shelving.save_card([first], Path(made) / "card.png")
        wait(window)
        keep("7b-card", QImage(str(Path(made) / "card.png")))


def _components(window: OpenWindow, keep: Keep) -> None:
    """Make the picture of Dress with a code editor in view, the small pictures painted."""
    window.show_step("dress")
    if window.document.look is not None and window.document.look.tone != "dark":
        window.actions_by_id["tone"].trigger()
    window.dress.choose("code-editor")
    window.dress.list.tree.scrollToItem(window.dress.list.row("code-editor"), _MIDDLE)
    for _ in range(100):
        wait(window)
        if set(window.dress.list.visible_ids()) <= window.dress.thumbs.fresh:
            break
    keep("3-dress", window.grab().toImage())
    window.actions_by_id["tone"].trigger()
    wait(window)


def _dress(window: OpenWindow, home: Path, keep: Keep) -> None:
    """Make the pictures of Dress: a theme that was imported on the stage, its changes, its pictures."""
    window.themes._here = ThisComputer(("eth0", "wlan0"), ("DP-1",), "/home/warden", "", frozenset({"dejavu sans"}))
    window.open_path(str(demo_archive(home)))
    for _ in range(600):
        wait(window)
        if window.themes.up_to_date(window.dress.theme_path()):
            break
    _as_it_is(window, keep)
    window.document.select("menu_text")
    wait(window)
    window.dress.show_view("groups")
    wait(window)
    keep("3d-dress-colours", window.grab().toImage())
    window.dress.show_view("changes")
    wait(window)
    keep("3b-dress-changes", window.grab().toImage())
    window.dress.show_view("stage")
    window.dress.theme.aside.click()
    wait(window)


def _as_it_is(window: OpenWindow, keep: Keep) -> None:
    """Make the picture of a theme that is used as it is but for its accent, and go back to before."""
    path, use, steps = window.dress.theme_path(), window.dress.theme.use, window.document.stack.index()
    use.own.click()
    _until_worn(window, path)
    use.swap_asked.emit(use.swatches[0].colour, parse_hex("#2e7d5b"))
    _until_worn(window, path)
    keep("3c-dress-theme", window.grab().toImage())
    window.document.stack.setIndex(steps)
    wait(window)


def _until_worn(window: OpenWindow, path: str) -> None:
    for _ in range(1200):
        wait(window)
        look = window.document.look
        if look is not None and not window.themes.busy(path) and window.themes.ready(look):
            break
        pause(20)


def _rest(window: OpenWindow, home: Path, keep: Keep) -> None:
    """Make the pictures of Dress, Proof and Wear, and of the window in its light appearance."""
    window.open_path(str(home / "Pictures" / "dusk-murmuration.jpg"))
    wait(window)
    _components(window, keep)
    _dress(window, home, keep)
    window.document.edit("Let me go freely", lambda look: replace(look, mend_as_you_go=False))
    window.document.edit("Change it", lambda look: with_role(look, "menu_text", Rgba(120, 70, 120)))
    window.show_step("proof")
    wait(window)
    window.proof.list.setCurrentRow(0)
    wait(window)
    keep("4-proof", window.grab().toImage())
    window.stage.look_at(close_of("gtk-3"))
    wait(window)
    keep("4b-proof-near", window.grab().toImage())
    window.stage.whole()
    window.proof.mend_all()
    window.document.edit("Keep", lambda look: replace(look, mend_as_you_go=True))
    window.open_path(str(home / "Pictures" / "frost-on-sedge.jpg"))
    wait(window)
    window.actions_by_id["tone"].trigger()
    window.show_step("proof")
    wait(window)
    if code() == "en":
        _programs(window, keep)
    window.show_step("wear")
    wait(window)
    keep("5-wear", window.grab().toImage())
    window.wear.wear()
    wait(window)
    tree = window.wear.calls.tree
    tree.setCurrentItem(tree.topLevelItem(0))
    keep("5b-roll-call", window.grab().toImage())
    window.wear.go_back()
    wait(window)
    window.switch_appearance()
    window.open_path(str(home / "Pictures" / "lighthouse-fog.jpg"))
    wait(window)
    window.show_step("tune")
    window.tune.show_page("terminal")
    window.tune.terminal.printed["editor"].click()
    wait(window)
    window.tune.terminal.swatches["ansi_4"].change_asked.emit()
    wait(window)
    keep("6-light-window", window.grab().toImage())
    window.bench.choosing.chooser.close_with(False)  # type: ignore[union-attr]
    window.tune.terminal.printed["session"].click()
    window.tune.show_page("role")
    window.switch_appearance()


def _programs(window: OpenWindow, keep: Keep) -> None:
    """Make the picture of real programs, where this computer has some of them; the other one stays otherwise."""
    panel = cast(ProofStep, window.step_by_id["proof"]).panel
    panel.show_page("programs")
    panel.programs.start()
    while panel.programs.running:
        pause(100)
    pause(300)
    if len(panel.programs.rows) >= _PROGRAMS:
        keep("4c-programs", window.grab().toImage())
    panel.show_page("pairs")


def for_guide(made: list[Path], folder: Path) -> None:
    """Make the smaller pictures that the guide's pages name, of few colours each."""
    shown = {name for page in pages() for name in re.findall(r"\(pictures/([^)]+)\)", page.text)}
    folder.mkdir(parents=True, exist_ok=True)
    for path in (path for path in made if path.name in shown):
        small = QImage(str(path)).scaledToWidth(_GUIDE_WIDE, Qt.TransformationMode.SmoothTransformation)
        small = small.convertToFormat(QImage.Format.Format_RGBX8888)
        data = small.constBits().asstring(small.sizeInBytes())
        picture = Image.frombytes("RGBX", (small.width(), small.height()), data).convert("RGB")
        picture.quantize(_GUIDE_COLOURS).save(folder / path.name, optimize=True)


def main() -> None:
    """Make the pictures."""
    folder = Path(sys.argv[1])
    app, style = make_app(sys.argv[:1])
    with tempfile.TemporaryDirectory() as scratch:
        home = build_demo_home(Path(scratch) / "demo" / "home")
        made = shoot(folder, home, app, style)
    for path in made:
        print(path.name)
    if len(sys.argv) > 2:
        for_guide(made, Path(sys.argv[2]))


if __name__ == "__main__":
    main()
