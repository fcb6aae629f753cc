"""Everything that is asked for in a dialog: files, names, another home; and what is told in one."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QInputDialog, QMessageBox, QWidget

from ... import __version__
from ...disk.write import save
from ...errors import FinchError
from ...intake.archives import ARCHIVES
from ...language import plural, tr
from ...look.carry import look_text
from ...look.file import SUFFIX
from ...look.interchange.catalogue import INTERCHANGES, SUFFIXES, export_bytes
from ...picture.around import folder_of_pictures
from ...picture.load import SUFFIXES as PICTURE_SUFFIXES
from ...picture.toning import toned_name
from ...wear.themes import lay_down
from ..dress.component_page import ComponentPage
from ..model.document import Document
from ..model.matching import Matching
from ..model.opening import Opening
from ..model.themes import ThemeDesk
from .own_dialogs import OwnDialogs

_PICTURES = tr("Images ({names})").format(names=" ".join("*" + s for s in PICTURE_SUFFIXES))
_LOOKS = tr("Looks ({names})").format(names=f"*{SUFFIX}")
_ARCHIVES = " ".join(f"*{suffix}" for row in ARCHIVES for suffix in row.suffixes)
_THEMES = tr("Archives ({archives});;All files (*)").format(archives=_ARCHIVES)
_PALETTES = tr("Palettes ({names});;All files (*)").format(names=" ".join("*" + s for s in SUFFIXES))


class Dialogs(OwnDialogs):
    """Asks, and hands the answers on."""

    home_chosen = pyqtSignal(object)
    theme_chosen = pyqtSignal(object)  # the path of a theme, file or archive that is to be recoloured

    def __init__(self, window: QWidget, document: Document, opening: Opening, matching: Matching) -> None:
        super().__init__(window, document)
        self._opening = opening
        opening.keeps_given = self.keep_given
        self._matching = matching

    def _folder(self) -> str:
        home = self._document.home
        return str(folder_of_pictures(home)) if home is not None else ""

    def pictures(self) -> None:
        """Let the person choose pictures to open."""
        paths, _ = QFileDialog.getOpenFileNames(self._window, tr("Open images"), self._folder(), _PICTURES)
        if paths:
            self._opening.open_paths(paths)

    def more_pictures(self) -> None:
        """Let the person choose pictures to take into the look."""
        paths, _ = QFileDialog.getOpenFileNames(self._window, tr("Add images"), self._folder(), _PICTURES)
        if paths:
            self._opening.add_paths(paths)

    def look(self) -> None:
        """Let the person choose a look to open."""
        path, _ = QFileDialog.getOpenFileName(self._window, tr("Open a look"), "", _LOOKS)
        if path:
            self._opening.open_look(Path(path))

    def palette(self) -> None:
        """Let the person choose a palette file to import."""
        path, _ = QFileDialog.getOpenFileName(self._window, tr("Import a palette"), self._folder(), _PALETTES)
        if path:
            self._opening.open_palette(Path(path))

    def theme(self) -> None:
        """Let the person choose a theme's folder to start from."""
        path = QFileDialog.getExistingDirectory(self._window, tr("Start from a theme folder"), self._themes())
        if path:
            self._opening.open_theme(Path(path))

    def theme_file(self) -> None:
        """Let the person choose a configuration or an archive to recolour."""
        path, _ = QFileDialog.getOpenFileName(
            self._window, tr("Import a theme archive or a file"), self._themes(), _THEMES
        )
        if path:
            self.theme_chosen.emit(Path(path))

    def theme_folder(self) -> None:
        """Let the person choose a theme's folder to recolour."""
        path = QFileDialog.getExistingDirectory(self._window, tr("Import a theme folder"), self._themes())
        if path:
            self.theme_chosen.emit(Path(path))

    def emblem(self, page: ComponentPage, name: str) -> None:
        """Let the person choose a picture in the place of one that a component shows."""
        title = tr("An image to replace {name}").format(name=name)
        path, _ = QFileDialog.getOpenFileName(self._window, title, self._folder(), _PICTURES)
        if path:
            page.take_picture(name, Path(path))

    def _themes(self) -> str:
        home = self._document.home
        themes = home / ".local/share/themes" if home is not None else None
        return str(themes if themes is not None and themes.is_dir() else home or "")

    def save_theme(self, desk: ThemeDesk, path: str) -> None:
        """Let the person choose a folder into which a recoloured theme is written, laid out like a home."""
        known = desk.known.get(path)
        if known is None or known.outcome is None:
            return
        folder = QFileDialog.getExistingDirectory(self._window, tr("Save a copy into a folder"), self._folder())
        if folder:
            self.write_theme(desk, path, Path(folder))

    def write_theme(self, desk: ThemeDesk, path: str, folder: Path) -> None:
        """Write a recoloured theme into a folder."""
        known = desk.known.get(path)
        if known is None or known.outcome is None:
            return
        source = Path(path)
        sources = {source} if source.is_file() else {source / p for p in known.theme.bundle.entries}
        try:
            count = lay_down(known.outcome.outputs, folder, frozenset(sources))
        except FinchError as error:
            self.trouble.emit(error.line())
            return
        self.said.emit(
            plural(
                "{count} file is in {name}, laid out like a home folder.",
                "{count} files are in {name}, laid out like a home folder.",
                count,
                name=folder.name,
            )
        )

    def folder(self) -> None:
        """Let the person choose a folder whose pictures are ranked."""
        path = QFileDialog.getExistingDirectory(self._window, tr("Choose a folder of images"), self._folder())
        if path:
            self._matching.rank_folder(Path(path))

    def toned(self) -> None:
        """Let the person choose where the toned picture is saved."""
        look = self._document.look
        if look is not None and look.source:
            source = Path(look.source)
            start = str(source.with_name(toned_name(source, look.folder)))
            path, _ = QFileDialog.getSaveFileName(self._window, tr("Save the tinted image"), start, _PICTURES)
            if path:
                self._matching.save_toned(Path(path))

    def save(self) -> None:
        """Let the person choose where the look is saved."""
        look = self._document.look
        if look is not None:
            path, _ = QFileDialog.getSaveFileName(self._window, tr("Save the look"), f"{look.folder}{SUFFIX}", _LOOKS)
            if path:
                self.save_look(Path(path if path.endswith(SUFFIX) else path + SUFFIX))

    def save_look(self, path: Path) -> None:
        """Save the look."""
        look = self._document.look
        if look is not None and self._written(path, look_text(look, path.parent).encode("utf-8")):
            self._document.stack.setClean()
            self.said.emit(tr("Saved as {name}.").format(name=path.name))

    def export(self) -> None:
        """Let the person choose a palette format, and where the palette is written."""
        look = self._document.look
        if look is None:
            return
        filters = {f"{f.title} (*{f.suffixes[0]})": f for f in INTERCHANGES}
        path, chosen = QFileDialog.getSaveFileName(
            self._window, tr("Export the palette"), f"{look.folder}.gpl", ";;".join(filters)
        )
        if path:
            form = filters.get(chosen)
            target = Path(path)
            if form is not None and not target.name.endswith(form.suffixes):
                target = target.with_name(target.name.removesuffix(".gpl") + form.suffixes[0])
            self.export_palette(target, form.id if form is not None else "")

    def export_palette(self, path: Path, form: str = "") -> None:
        """Write the palette of the tone in force."""
        look = self._document.look
        if look is None:
            return
        try:
            data = export_bytes(look, path, form)
        except FinchError as error:
            self.trouble.emit(error.line())
            return
        if self._written(path, data):
            self.said.emit(
                (
                    tr("The dark palette was exported as {name}.")
                    if look.tone == "dark"
                    else tr("The light palette was exported as {name}.")
                ).format(name=path.name)
            )

    def _written(self, path: Path, data: bytes) -> bool:
        try:
            save(path, data)
        except FinchError as error:
            self.trouble.emit(error.line())
            return False
        return True

    def name(self) -> None:
        """Let the person name the look."""
        look = self._document.look
        if look is not None:
            name, good = QInputDialog.getText(self._window, tr("Name the look"), tr("Name:"), text=look.name)
            if good and name.strip():
                self._document.edit(
                    tr("Name it {name}").format(name=name.strip()), lambda now: replace(now, name=name.strip())
                )

    def variant_name(self, keep: Callable[[str], None]) -> None:
        """Let the person name a variant."""
        look = self._document.look
        if look is not None:
            start = tr("Variant {count}").format(count=len(look.variants) + 1)
            name, good = QInputDialog.getText(self._window, tr("Save a variant"), tr("Name:"), text=start)
            if good and name.strip():
                keep(name.strip())

    def home(self) -> None:
        """Let the person choose another home."""
        path = QFileDialog.getExistingDirectory(
            self._window, tr("Choose the home folder to apply the look to"), str(Path.home())
        )
        if path:
            self.home_chosen.emit(Path(path))

    def fault_report(self) -> None:
        """Save what runs here and what went wrong, for others to read."""
        path, _ = QFileDialog.getSaveFileName(
            self._window, tr("Save a fault report"), str(Path.home() / "mellow-finch-report.txt"), tr("Text (*.txt)")
        )
        if not path:
            return
        from ...wear.health import fault_report
        from ...wear.history import History
        from ...wear.places import history_folder, own_home

        home = self._document.home or own_home()
        dressed = self._document.dressed
        more = [f"dressed: {', '.join(c.id for c in dressed.components)}" if dressed is not None else "no look"]
        text = fault_report(home, History(history_folder(home)), more)
        if self._written(Path(path), text.encode("utf-8")):
            self.said.emit(tr("Saved as {name}.").format(name=Path(path).name))

    def tell_shortcuts(self, rows: Sequence[tuple[str, str]]) -> None:
        """List shortcuts with what they do."""
        lines = [f"{shortcut:16} {title}" for shortcut, title in rows]
        self._tell(tr("Keyboard shortcuts"), "\n".join(lines))

    def about_to_close(self, name: str) -> str:
        """Ask what becomes of changes that were not saved; return "save", "close" or "stay"."""
        box = QMessageBox(self._window)
        box.setWindowTitle(tr("Close Mellow Finch"))
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(tr("“{name}” has unsaved changes.").format(name=name))
        buttons = {
            "save": box.addButton(tr("Save…"), QMessageBox.ButtonRole.AcceptRole),
            "close": box.addButton(tr("Close without saving"), QMessageBox.ButtonRole.DestructiveRole),
            "stay": box.addButton(tr("Cancel"), QMessageBox.ButtonRole.RejectRole),
        }
        box.setEscapeButton(buttons["stay"])
        box.exec()
        return next((name for name, button in buttons.items() if button is box.clickedButton()), "stay")

    def keep_given(self, name: str, moved: int, given: int) -> bool:
        """Ask whether terminal colours stay as a file gives them, or move as far as they must to be readable."""
        box = QMessageBox(self._window)
        box.setWindowTitle(tr("Import a palette"))
        box.setTextFormat(Qt.TextFormat.PlainText)
        words = plural(
            "{moved} of the {count} terminal colour of “{name}” has insufficient contrast as it is.",
            "{moved} of the {count} terminal colours of “{name}” have insufficient contrast as they are.",
            given,
            moved=moved,
            name=name,
        )
        box.setText(words)
        box.addButton(tr("Make them readable"), QMessageBox.ButtonRole.AcceptRole)
        keep = box.addButton(tr("Keep them as they are"), QMessageBox.ButtonRole.RejectRole)
        box.exec()
        return box.clickedButton() is keep

    def may_wear(self, count: int) -> bool:
        """Ask whether so many files may be written."""
        box = QMessageBox(self._window)
        box.setWindowTitle(tr("Apply this look"))
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(
            plural(
                "{count} file will be written. The old one is backed up; Undo restores it.",
                "{count} files will be written. The old ones are backed up; Undo restores them.",
                count,
            )
        )
        go = box.addButton(tr("Apply"), QMessageBox.ButtonRole.AcceptRole)
        box.addButton(tr("Not now"), QMessageBox.ButtonRole.RejectRole)
        box.exec()
        return box.clickedButton() is go

    def about(self) -> None:
        """Say what this is."""
        self._tell(
            tr("About Mellow Finch"),
            tr(
                "Mellow Finch {version}\n\nOne palette, every component, readable everywhere.\n\nFree "
                "software under the GNU General Public License, version 3 or later.\nThe fonts "
                "Atkinson Hyperlegible and its Mono ship under the SIL Open Font License."
            ).format(version=__version__),
        )

    def _tell(self, title: str, words: str) -> None:
        box = QMessageBox(self._window)
        box.setWindowTitle(title)
        box.setText(words)
        box.open()
