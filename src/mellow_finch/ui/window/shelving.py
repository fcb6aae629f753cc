"""The shelf in the window: showing it, keeping what is there, cards and parcels, and what is asked for these."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, Qt
from PyQt6.QtGui import QFontDatabase
from PyQt6.QtWidgets import QFileDialog, QInputDialog, QMessageBox

from ...components.catalogue import COMPONENT_BY_ID
from ...demo.build import demo_pictures
from ...disk.write import save
from ...errors import FinchError, line_of
from ...language import megabytes, parted, plural, some, tr
from ...shelf.kept import KeptLook
from ...shelf.page import ShownLook, shelf_page
from ...shelf.samples import sample_looks
from ...shelf.shelf import ASK_BYTES, LOOK, Shelf, free_name, size_of_pictures
from ...wear.history import History
from ...wear.places import cache_folder, demo_folder, history_folder
from ..kit.jobs import JobProgress
from ..kit.printing import pdf_of
from ..shelf.card import CardSubject, card, card_svg, seen_of, sheet
from ..shelf.desk import ShelfDesk, picture_of
from ..shelf.drawn import desktop_png
from ..stage.lay import PaintsOf
from ..stage.scene import drawn_of

if TYPE_CHECKING:
    from ...look.model import Look
    from ...shelf.parcel import Received
    from .shell import Shell


_SHEETS = tr("Images (*.png);;Web pages (*.html)")
_REPORTS = tr("Web pages (*.html);;PDF (*.pdf)")
_CARDS = f"{_SHEETS};;" + tr("Drawings (*.svg)")


class Shelving(QObject):
    """Connects the shelf with the window. Made when it is first wanted."""

    def __init__(self, shell: Shell, shelf: Shelf | None = None, cache: Path | None = None) -> None:
        super().__init__(shell.widget)
        self._shell, self._window, self._document = shell, shell.widget, shell.bench.document
        self._read: list[Received] = []  # parcels that wait to be asked about
        self._asking = False
        b = shell.bench
        self.desk = ShelfDesk(
            b.document, shell.appearance, shell.jobs, b.staging, cache or cache_folder().parent / "wall", shelf
        )
        shell.add_views(self.desk.panel, self.desk.wall)
        if shelf is None:
            b.document.home_changed.connect(self._take_home)
            self._take_home()
        d = self.desk
        d.trouble.connect(shell.say_trouble)
        d.said.connect(shell.say)
        d.open_asked.connect(self._open)
        d.compare_asked.connect(lambda: self._compare())
        d.name_asked.connect(self._rename)
        d.card_asked.connect(self._card)
        d.send_asked.connect(self._send)
        d.panel.follow_asked.connect(self.follow)

    def _take_home(self) -> None:
        """Use the shelf of the home that is worked on: the made-up one has its own, with looks on it."""
        home = self._document.home
        if home is None or home != demo_folder():
            self.desk.use(Shelf())
        else:
            self.desk.use(Shelf(home / ".local/share/mellow-finch/shelf"), lambda: sample_looks(demo_pictures(home)))

    def show(self) -> None:
        """Show the wall with its panel."""
        self._shell.show_views(self.desk.wall, self.desk.panel)
        self._shell.say(tr("Saved looks. Double-click one to edit it."))
        self.desk.come_in_sight(self._worn())
        self.desk.panel.field.setFocus()

    def _worn(self) -> str:
        home = self._document.home
        snapshot = History(history_folder(home)).last_worn() if home is not None else None
        return snapshot.look if snapshot is not None else ""

    def keep(self, look: Look | None = None) -> None:
        """Keep a look, the one that is there where none is given; one of the same name may be taken the place of."""
        look = look or self._document.look
        if look is None:
            return
        copies = True
        size = size_of_pictures(look)
        if size > ASK_BYTES:
            words = tr("Its images take {size}. Copy them to the Shelf too?").format(size=megabytes(size))
            copies = self._asks(tr("Save to the Shelf"), words)
        same = [k for k in self.desk.shelf.looks() if k.name == look.name]
        instead = ""
        if same and self._asks(
            tr("Save to the Shelf"),
            tr("“{name}” is already on the Shelf. Replace it by this one?").format(name=look.name),
        ):
            instead = same[0].id
        self.desk.keep(look, instead, copies)

    def keep_worn(self) -> None:
        """Keep the look that was applied, unless one of its name and colours is on the shelf already."""
        look = self._document.look
        if look is None:
            return
        same = [k for k in self.desk.shelf.looks() if k.name == look.name]
        if all(self.desk.shelf.load(k.id).look.palettes != look.palettes for k in same):
            self.desk.keep(look, with_pictures=size_of_pictures(look) <= ASK_BYTES)

    def _asks(self, title: str, words: str) -> bool:
        yes = QMessageBox.StandardButton.Yes
        return QMessageBox.question(self._window, title, words) == yes

    def _open(self, path: Path, step: str) -> None:
        self._shell.bench.opening.open_look(path)
        self._shell.show_step(step)

    def kept_looks(self) -> list[KeptLook]:
        """Return the looks on the shelf, the newest first; none where it cannot be read."""
        try:
            return self.desk.shelf.looks()
        except FinchError:
            return []

    def open_kept(self, id_: str) -> None:
        """Go on with a look that is kept."""
        self._open(self.desk.shelf.place(id_) / LOOK, "tune")

    def _compare(self) -> None:
        self._shell.show_step("tune")
        self._shell.bench.stage.set_curtain(0.5)

    def _rename(self, kept: KeptLook) -> None:
        name, sure = QInputDialog.getText(self._window, tr("Name the look"), tr("Name"), text=kept.name)
        if sure and name.strip():
            self.desk.rename(kept, name)

    def _card(self, rows: list[KeptLook]) -> None:
        start = str(Path.home() / f"{rows[0].id}.png")
        path, _ = QFileDialog.getSaveFileName(
            self._window, tr("Save a card"), start, _CARDS if len(rows) == 1 else _SHEETS
        )
        if path:
            self.save_card(rows, Path(path))

    def _subject(self, look: Look, paints: PaintsOf) -> CardSubject:
        """Return what a card shows of a look on the desktop that runs here."""
        return CardSubject(look, paints, picture_of(look.source, 1600), seen_of(look, self._shell.bench.staging.shape))

    def save_card(self, rows: list[KeptLook], path: Path) -> None:
        """Draw the card of a look, or a sheet of several, or a page of HTML with them, and save it."""
        shell, desk = self._shell, self.desk

        def work(progress: JobProgress) -> bytes:
            subjects = []
            for i, kept in enumerate(rows):
                progress.report(i, len(rows), kept.name)
                look = desk.shelf.load(kept.id).look
                paints = drawn_of(self._document.dress(look).paints, shape=shell.bench.staging.shape)
                subjects.append(self._subject(look, paints))
            if path.suffix.lower() == ".html":
                shown = [ShownLook(s.look, desktop_png(s), kept.tags) for s, kept in zip(subjects, rows, strict=True)]
                return shelf_page(shown).encode("utf-8")
            if path.suffix.lower() == ".svg" and len(subjects) == 1:
                return card_svg(subjects[0])
            return desk.png(card(subjects[0]) if len(subjects) == 1 else sheet(subjects))

        def done(data: bytes) -> None:
            try:
                save(path, data)
            except FinchError as error:
                shell.say_trouble(line_of(error))
            else:
                shell.say(
                    tr("“{name}” shows {words}.").format(
                        name=path.name,
                        words=rows[0].name if len(rows) == 1 else plural("{count} look", "{count} looks", len(rows)),
                    )
                )

        shell.jobs.start("card", work, done)

    def _send(self, rows: list[KeptLook]) -> None:
        if len(rows) == 1:
            start = str(Path.home() / f"{rows[0].id}.look.zip")
            path, _ = QFileDialog.getSaveFileName(self._window, tr("Export a look"), start, tr("Parcels (*.zip)"))
        else:
            title = plural(
                "Export {count} look: choose a folder for its parcel",
                "Export {count} looks: choose a folder for their parcels",
                len(rows),
            )
            path = QFileDialog.getExistingDirectory(self._window, title, str(Path.home()))
        if path:
            self.send(rows, Path(path))

    def send(self, rows: list[KeptLook], path: Path) -> None:
        """Write a parcel of a look, or of several looks one each into a folder."""
        from ...shelf.parcel import send

        shell, desk = self._shell, self.desk

        def work(progress: JobProgress) -> int:
            size = 0
            for i, kept in enumerate(rows):
                progress.report(i, len(rows), kept.name)
                look = desk.shelf.load(kept.id).look
                paints = drawn_of(self._document.dress(look).paints, shape=shell.bench.staging.shape)
                subject = self._subject(look, paints)
                into = path / free_name(f"{kept.id}.look.zip", lambda n: (path / n).exists()) if path.is_dir() else path
                size += send(look, into, desk.png(card(subject)), progress)
            return size

        def done(size: int) -> None:
            what = (
                tr("everything {name} needs").format(name=rows[0].name)
                if len(rows) == 1
                else plural("{count} parcel", "{count} parcels", len(rows))
            )
            shell.say(
                tr("“{name}” contains {what}, {size}.").format(name=path.name, what=what, size=megabytes(size, 1))
            )

        shell.jobs.start("send", work, done)

    def follow(self) -> None:
        """Show what is followed, and by which rules."""
        from ..follow.dialog import FollowDialog

        shell = self._shell
        self.following = FollowDialog(shell.jobs, self._document.home or Path.home(), self.desk.shelf, self._window)
        self.following.show()

    def ask_report(self) -> None:
        """Ask where the report of the look that is there is to be saved."""
        look = self._document.look
        if look is not None:
            start = str(Path.home() / f"{look.folder}.html")
            path, _ = QFileDialog.getSaveFileName(self._window, tr("Save a report"), start, _REPORTS)
            if path:
                self.save_report(Path(path))

    def save_report(self, path: Path) -> None:
        """Write the readability of what is dressed here, both halves, as a page or as PDF."""
        from ...proof.report import Report, as_html, report_of_look

        shell = self._shell
        look, files = self._document.look, self._document.files
        if look is None:
            return
        dressed = self._document.dress(look).paints.keys()

        def done(report: Report) -> None:
            page = as_html(report)
            try:
                save(path, pdf_of(page) if path.suffix.lower() == ".pdf" else page.encode("utf-8"))
            except FinchError as error:
                shell.say_trouble(error.line())
                return
            short = len(report.short)
            said = (
                plural("{count} with insufficient contrast", "{count} with insufficient contrast", short)
                if short
                else tr("all with enough contrast")
            )
            shell.say(
                plural(
                    "“{name}”: {count} pair, {said}.",
                    "“{name}”: {count} pairs, {said}.",
                    len(report.findings),
                    name=path.name,
                    said=said,
                )
            )

        shell.jobs.start("report", lambda _progress: report_of_look(look, files, dressed), done)

    def receive(self, path: Path) -> None:
        """Read a parcel, say what is in it, and put its look onto the shelf when that is wanted."""
        from ...shelf.parcel import receive

        def done(received: Received) -> None:
            self._read.append(received)
            self._ask_next()

        self._shell.jobs.start(
            f"receive {path}",  # each of several is asked about, one after the other
            lambda progress: receive(path, progress),
            done,
        )

    def _ask_next(self) -> None:
        """Ask about the parcels that were read, one at a time, however many were opened meanwhile."""
        if self._asking:
            return
        self._asking = True
        try:
            while self._read:
                received = self._read.pop(0)
                if self.asks_to_take(received):
                    self.take_in(received)
        finally:
            self._asking = False

    def asks_to_take(self, received: Received) -> bool:
        """Say what a parcel is, what it would dress here, and what is missing; return whether it is wanted."""
        box = QMessageBox(self._window)
        box.setWindowTitle(tr("A parcel"))
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(received.words())
        box.setInformativeText(self.says_of(received))
        take = box.addButton(tr("Save to the Shelf"), QMessageBox.ButtonRole.AcceptRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.exec()
        return box.clickedButton() is take

    def says_of(self, received: Received) -> str:
        """Return what a parcel would change here, and which of its parts have nothing to dress here."""
        here = {c for c, found in self._document.present.items() if found.here}
        dressed = [COMPONENT_BY_ID[c].title for c in received.components if c in here]
        absent = [COMPONENT_BY_ID[c].title for c in received.components if c not in here]
        missing = [f for f in received.look.font_families if f not in QFontDatabase.families()]
        rows = [tr("{count} of its components are here: {names}.").format(count=len(dressed), names=some(dressed, 12))]
        rows += (
            [
                plural(
                    "{count} more is for a program that is not installed.",
                    "{count} more are for programs that are not installed.",
                    len(absent),
                )
            ]
            if absent
            else []
        )
        rows += [tr("Fonts used but not installed: {names}.").format(names=parted(missing))] if missing else []
        rows += received.asks()
        rows.append(tr("Nothing in it is run, and nothing is written to your home folder before you apply it."))
        return "\n\n".join(rows)

    def take_in(self, received: Received) -> None:
        """Put a received look onto the shelf and show it there."""
        from ...shelf.parcel import take_in

        def done(kept: KeptLook) -> None:
            self.show()
            if received.offers:
                self._document.components_changed()
            self._shell.say(tr("“{name}” is on the Shelf.").format(name=kept.name))

        shelf = self.desk.shelf
        self._shell.jobs.start(f"take in {id(received)}", lambda _progress: take_in(received, shelf), done)
