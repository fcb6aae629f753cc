"""Dress: every component and every theme that was imported, what each gets, and its colours old beside new."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QMenu, QPushButton, QWidget

from ...components.catalogue import COMPONENT_BY_ID, COMPONENTS
from ...components.decisions import Owner
from ...components.files import OutFile, text_of
from ...components.model import Component, Paints
from ...components.write.emblems import KINDS, emblems_of, made_among
from ...language import counted_files, plural, tr
from ...look.decision_edits import with_added, with_dressed
from ...look.dressed import Dressed
from ...look.theme_edits import with_worn
from ...look.worn_themes import worn_by
from ...syntax.catalogue import Format, format_of
from ...theme.bundle.opened import theme_name
from ..kit.effects import EFFECTS
from ..kit.icons import icon
from ..kit.jobs import Jobs
from ..kit.panels import ListedPanel, tab_bar
from ..kit.parts import plain_column
from ..kit.style import Style
from ..model.choosing import AskColour
from ..model.document import Document
from ..model.themes import ThemeDesk
from ..stage.thumbs import Thumbs
from .changes import Change
from .companions_page import CompanionsPage
from .component_list import ComponentList
from .component_page import ComponentPage
from .component_rows import ComponentState, ListPlace
from .group_list import GroupList
from .pictures_beside import PicturePair, PreviewGround, pictures_of
from .shape_page import ShapePage
from .theme_page import ThemePage

_TOLD = 8  # files that a row's tip names
PLACES = (
    ListPlace("shape", tr("Shape"), tr("corners, borders, gaps, density and fonts"), "tune"),
    ListPlace("companions", tr("Companions"), tr("icons, cursor and window buttons to match the colours"), "gather"),
)


def _format(file: OutFile) -> Format | None:
    """Return the format of a file that is written."""
    return format_of(file.path, file.data[:4096].decode("utf-8", "replace"))


class DressPanel(ListedPanel):
    """Lists the components and the themes; their pages, and those for all of them, are places of the list."""

    view_changed = pyqtSignal(str)
    chosen = pyqtSignal()  # another component or theme
    folder_asked = pyqtSignal()
    file_asked = pyqtSignal()
    here_asked = pyqtSignal()  # themes of this computer are to be listed
    own_asked = pyqtSignal()  # a component of the person's own is to be made
    own_list_asked = pyqtSignal()

    def __init__(
        self,
        document: Document,
        style: Style,
        jobs: Jobs,
        desk: ThemeDesk,
        thumbs: Thumbs,
        views: Sequence[tuple[str, str, str]],
        ask_colour: AskColour,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(
            tr("Dress"),
            tr("Choose what gets the colours. Untick what should stay as it is; drop a theme here to recolour it too."),
            tr("All components"),
        )
        self._document, self._style, self._desk = document, style, desk
        style.follow(lambda: self.back.setIcon(icon("back", style.c("text"), style.c("disabled"))))
        self._made: tuple[int, tuple[str, ...]] = (0, ())
        self._filling = False
        self.view = "stage"
        document.judged.connect(self.show_standings)
        self.thumbs = thumbs
        self._build_list()
        thumbs.painted.connect(self.list.update_rows)
        both = QWidget()
        column = plain_column(both, 0)
        self.component = ComponentPage(document, style, ask_colour)
        self.component.theme_asked.connect(self._wear_theme)
        column.addWidget(self.component)
        self.theme = ThemePage(document, style, desk, ask_colour)
        column.addWidget(self.theme)
        self.add("one", "", "", both)
        shape, companions = PLACES
        self.shape = self.add(shape.id, shape.title, shape.tip, ShapePage(document))
        self.companions = self.add(companions.id, companions.title, companions.tip, CompanionsPage(document, jobs))
        self.page_changed.connect(lambda _: self._refresh_choices())
        self._build_views(views)
        document.selected.connect(self._selected)
        desk.opened.connect(self._opened)
        desk.changed.connect(lambda path: self.refresh() if path == self.theme_path() else None)

    # Building

    def _build_list(self) -> None:
        self.list = ComponentList(self._style, self._picture_of, PLACES)
        self.list.place_opened.connect(self.show_page)
        self.list.chosen.connect(lambda _: self._other())
        self.list.ticked.connect(self._ticked)
        self.list.all_ticked.connect(self._all_ticked)
        bar = self.list.tree.verticalScrollBar()
        if bar is not None:
            bar.valueChanged.connect(lambda _: self._catch_up())
        self.list.field.textChanged.connect(lambda _: self._catch_up())
        self.list.opened.connect(lambda: self.show_page("one"))
        all_ = QWidget()
        column = plain_column(all_, 8)
        column.addWidget(self.list, 1)
        self.bring = QPushButton(tr("Import a theme or file…"))
        self.bring.setToolTip(tr("A theme folder, an archive of themes, icons or cursors, or any configuration file"))
        menu = QMenu(self.bring)
        for words, signal in (
            (tr("A file or an archive…"), self.file_asked),
            (tr("A folder…"), self.folder_asked),
            (tr("From this computer…"), self.here_asked),
            (tr("Your own program…"), self.own_asked),
            (tr("Your own components…"), self.own_list_asked),
        ):
            action = menu.addAction(words)
            if action is not None:
                action.triggered.connect(signal)
        self.bring.setMenu(menu)
        column.addWidget(self.bring)
        self.add("all", "", "", all_, scrolls=False)

    def _build_views(self, views: Sequence[tuple[str, str, str]]) -> None:
        self.centre_bar, self.views = tab_bar(tr("Show in the centre"), views, self.show_view)

    # What is chosen

    def current(self) -> Component:
        """Return the chosen component, the first of all while a theme is."""
        return COMPONENT_BY_ID.get(self.list.current(), COMPONENTS[0])

    def theme_path(self) -> str:
        """Return the path of the chosen theme, empty while a component is chosen."""
        look, chosen = self._document.look, self.list.current()
        return chosen if look is not None and chosen in look.brought else ""

    def choose(self, name: str) -> None:
        """Choose a component by its id, or a theme by its path."""
        self.list.choose(name)

    def page_in_sight(self) -> ComponentPage | ThemePage:
        """Return the page of the chosen component or theme."""
        return self.theme if self.theme_path() else self.component

    @property
    def groups(self) -> GroupList:
        """Return the rows of the chosen component."""
        return self.component.groups

    def show_view(self, name: str) -> None:
        """Show the stage, or a view of the chosen one."""
        self.view = name
        self.views[name].setChecked(True)
        self.view_changed.emit(name)

    def _selected(self, _role: str, component: str, _part: str) -> None:
        if not self.theme_path() and component:
            self.choose(component)

    def _wear_theme(self, component: str, path: str) -> None:
        """Let a component wear a theme that was brought, or our own again."""
        look = self._document.look
        now = worn_by(look).get(component, "") if look is not None else ""
        if look is None or path == now:
            return
        owner = path or now
        uses = look.decided(Owner.theme(owner)).worn
        fresh = uses | {component} if path else uses - {component}
        self._desk.change(owner, tr("Choose what uses a theme"), lambda look: with_worn(look, owner, fresh))

    def _opened(self, path: str) -> None:
        self._fill()
        if self.list.current() == path:
            self.refresh()
        else:
            self.choose(path)
        self.show_page("one")

    def _other(self) -> None:
        self._desk.in_sight = self.theme_path()
        self._desk.catch_up()
        if self.theme_path() and self._desk.asks(self.theme_path()):
            self.show_page("one")  # where that can be answered
        if not self._filling:
            self.refresh()
        self.chosen.emit()

    def _ticked(self, name: str, wanted: bool) -> None:
        look, component = self._document.look, COMPONENT_BY_ID.get(name)
        if look is None or component is None:
            return
        here = self._document.present[name].here
        words = (tr("Include {title}") if wanted else tr("Leave out {title}")).format(title=component.title)
        self._document.edit(words, lambda now: with_dressed(now, name, wanted, here))

    def _all_ticked(self, names: frozenset[str], wanted: bool) -> None:
        words = tr("Include all that is installed") if wanted else tr("Leave out what is not set up")
        self._document.edit(
            words, lambda now: with_added(now, names) if wanted else replace(now, added=now.added - names)
        )

    # Showing

    def refresh(self) -> None:
        """Show what the look gives every component and theme."""
        look, dressed = self._document.look, self._document.dressed
        if look is None or dressed is None:
            return
        self._fill()
        self.show_standings()
        self._refresh_choices()
        self.thumbs.forget()
        path = self.theme_path()
        self.theme.setVisible(bool(path))
        self.component.setVisible(not path)
        self.name_page("one", theme_name(Path(path)) if path else "")  # a component's page says itself what it is of
        if path:
            self.theme.show_theme(path)
        else:
            component = self.current()
            self.component.show_component(component, self._document.dressed_with(component.id))
            self.component.show_themes(self._desk.themes_for(component.id), worn_by(look).get(component.id, ""))

    def _refresh_choices(self) -> None:
        self.companions.refresh()
        self.shape.refresh()

    def show_standings(self) -> None:
        """Say in every row what becomes of its component, as soon as that has been worked out."""
        dressed = self._document.dressed if self._document.worked_out else None
        if dressed is not None and self.isVisible():
            self.list.show_standings(self._standings(dressed))

    def _fill(self) -> None:
        """Make the rows anew when the home or the themes that were brought are others."""
        look = self._document.look
        brought = look.brought if look is not None else ()
        made = (id(self._document.present), brought)
        if made != self._made and self._document.present:
            old, self._made = self._made, made
            self._filling = True
            if old[0] == made[0]:
                self.list.show_brought(brought)
            else:
                self.list.fill(dict(self._document.present), brought)
            self._filling = False

    def _standings(self, dressed: Dressed) -> dict[str, ComponentState]:
        short: dict[str, int] = {}
        for f in self._document.findings_known or ():
            short[f.component] = short.get(f.component, 0) + (not f.passes)
        out: dict[str, ComponentState] = {}
        worn = worn_by(dressed.look)
        for component in COMPONENTS:
            files = dressed.files.get(component.id)
            shows = tr("prepared") if component.exported else EFFECTS[component.effect]
            count = len(files or ())
            words = f"{counted_files(count)} · {shows}" if count else tr("nothing to write here")
            if component.id in worn and count:
                name = theme_name(Path(worn[component.id]))
                words = tr("{files} of theme {name}").format(files=counted_files(count), name=name)
            if files is None:
                words = tr("left out") if self._document.present[component.id].here else tr(component.kind)
            why = self._document.present[component.id].why
            tips = [why, *(f"~/{file.path}" for file in (files or ())[:_TOLD])]
            if count > _TOLD:
                tips.append(plural("and {count} more", "and {count} more", count - _TOLD))
            tip = "\n".join(tips)
            out[component.id] = ComponentState(
                files is not None, short.get(component.id, 0) if count else None, words, tip
            )
        for path in dressed.look.brought:
            known = self._desk.known.get(path)
            outcome = known.outcome if known is not None else None
            waits = tr("not loaded yet") if self._desk.asks(path) else tr("loading …")
            words = plural("{count} file recoloured", "{count} files recoloured", outcome.changed) if outcome else waits
            out[path] = ComponentState(True, len(outcome.short) if outcome else None, words, path)
        return out

    def _picture_of(self, key: str) -> QPixmap | None:
        return self.thumbs.of(key)

    def _catch_up(self) -> None:
        self.thumbs.catch_up()

    # What the centre shows

    def screen_paints(self) -> tuple[Mapping[str, Paints], Mapping[str, Paints]]:
        """Return what the files say that the screen shows now, and with the look, of all that is dressed."""
        dressed = self._document.dressed
        if dressed is None:
            return {}, {}
        after = {c.id: dressed.paints[c.id] for c in dressed.components}
        return {id_: self._document.worn_paints(id_) for id_ in after}, after

    def changes(self) -> list[Change]:
        """Return what changes in the files of the chosen component or theme."""
        path, known = self.theme_path(), self._desk.known.get(self.theme_path())
        if path:
            if known is None or known.outcome is None:
                return []
            rows = []
            for name, text in known.theme.texts.items():
                fresh = known.outcome.fresh.get(name, text.text)
                if fresh != text.text:
                    rows.append(Change(name, text.text, fresh, text.format.scan))
            return sorted(rows, key=lambda c: (c.name.count("!"), -len(c.after)))
        component = self.current().id
        files = self._document.dressed_with(component).files[component] if self._document.dressed is not None else ()
        out: list[Change] = []
        for file in (f for f in files if b"\0" not in f.data):  # pictures and archives have no lines
            old, new = text_of(self._document.files, file.path), file.data.decode("utf-8", "replace")
            origin = self.current().origin
            if not old and origin is not None:
                old = text_of(self._document.files, origin(self._document.files))
            form = _format(file)
            if old != new:
                out.append(Change(f"~/{file.path}", old, new, form.scan if form is not None else None))
        return out

    def pictures(self) -> list[PicturePair]:
        """Return the redrawn pictures of the chosen theme."""
        if not self.theme_path():
            return self._emblems()
        known = self._desk.known.get(self.theme_path())
        if known is None or known.outcome is None:
            return []
        return pictures_of(known.theme, known.outcome)

    def _emblems(self) -> list[PicturePair]:
        """Return the pictures that the chosen component shows and that become others."""
        component, look, home = self.current(), self._document.look, self._document.files
        if look is None or self._document.dressed is None or component.kind not in KINDS:
            return []
        files = self._document.dressed_with(component.id).files[component.id]
        made = made_among(files)
        rows = []
        for shown in emblems_of(files, home):
            fresh = made.get(shown.made(component.id))
            if fresh is not None:
                old = home(shown.path) or fresh
                rows.append(PicturePair(shown.name, partial(bytes, old), partial(bytes, fresh)))
        return rows

    def surfaces(self) -> list[PreviewGround]:
        """Return what the pictures lie on: the look's surfaces, and before it the theme's own where it has them."""
        look, known = self._document.look, self._desk.known.get(self.theme_path())
        if look is None:
            return []
        own = {role: colour for f in (known.theme.families if known else ()) for colour, role in reversed(f.leading)}
        return [
            PreviewGround(title, own.get(role, look.colours[role]), look.colours[role])
            for title, role in (("panel", "panel"), ("menu", "menu"), ("view", "view"))
        ]
