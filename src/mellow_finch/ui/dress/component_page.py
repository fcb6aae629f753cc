"""The page of one component: who reads it, whether this home has it, its roles and groups, its numbers, its files."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from ...components.decisions import Emblem, Owner, Slot
from ...components.model import OWN, Component, Knob, Part
from ...components.write.emblems import KINDS, emblems_of
from ...components.write.palette import roles_before
from ...language import as_sentence, groups_in, isolated, parted, plural, sentences, spelled, tr
from ...look.decision_edits import with_beside, with_choice, with_emblem, with_knob, with_split
from ...look.dressed import Dressed
from ...recolour.groups import KEEP, map_for, states_of
from ...theme.result.outputs import shown_targets
from ..kit.effects import EFFECTS
from ..kit.flow import WrapCheck
from ..kit.parts import Choice, emptied, label, plain_column
from ..kit.plain_slider import PlainSlider
from ..kit.style import Style
from ..model.choosing import AskColour
from ..model.document import Document
from .emblem_list import EmblemList
from .group_list import ColourGroup, GroupList
from .theme_page import group_row


class KnobSlider(PlainSlider):
    """A slider for a number of a component, in its own unit."""

    def __init__(self, style: Style, knob: Knob) -> None:
        super().__init__(style, knob.title, knob.low, knob.high)
        self.knob = knob

    def _words(self, value: float) -> str:
        value = round(value / self.knob.step) * self.knob.step
        return spelled(f"{value:g} {self.knob.unit}" if self.knob.unit else f"{value / self.knob.start:.0%}")


class ComponentPage(QWidget):
    """Shows a component in full; every change is one undoable step."""

    roles_asked = pyqtSignal(str)  # of a component of the person's own
    forget_asked = pyqtSignal(str)
    theme_asked = pyqtSignal(str, str)  # the component, and the path of the theme that it is to wear, empty for ours

    def __init__(self, document: Document, style: Style, ask_colour: AskColour, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._style = document, style
        self._component: Component | None = None
        column = plain_column(self, 8)
        self.title = label("", "section")
        self.reads = label("")
        self.effect = label("", "quiet")
        self.beside = WrapCheck(tr("Keep my file, write the new one next to it"))
        self.beside.setToolTip(
            tr("The recoloured file gets the look's name, so that several themes can exist side by side")
        )
        self.beside.toggled.connect(self._set_beside)
        self.theme = Choice()
        self.theme.setAccessibleName(tr("Theme of this component"))
        self.theme.setToolTip(tr("The look's own theme, or one that you imported"))
        self.theme.activated.connect(lambda _: self.theme_asked.emit(self._owner(), self.theme.currentData()))
        self._knobs_box = QWidget()
        self._knobs = plain_column(self._knobs_box, 4)
        self.sliders: dict[str, KnobSlider] = {}
        self._gesture = document.gesture()
        self.emblems = EmblemList()
        self.emblems.chosen.connect(self._set_emblem)
        self.groups_title = label("", "section")
        self.groups = GroupList(style, ask_colour)
        self.groups.asked.connect(self._ask)
        self.groups.split_asked.connect(self.split)
        self.groups.pointed.connect(lambda role: document.select(role) if role and role != KEEP else None)
        self.own_box = QWidget()
        row = QHBoxLayout(self.own_box)
        row.setContentsMargins(0, 0, 0, 0)
        for words, tip, signal in (
            (tr("Its roles…"), tr("Which colour of its file has which role"), self.roles_asked),
            (tr("Remove"), tr("Remove it from the list; its file stays as it is"), self.forget_asked),
        ):
            button = QPushButton(words)
            button.setToolTip(tip)
            button.clicked.connect(lambda _on, signal=signal: signal.emit(self._owner()))
            row.addWidget(button)
        row.addStretch(1)
        self.files_title = label(tr("What is written"), "section")
        self.files = label("", "quiet")
        for widget in (
            self.title,
            self.reads,
            self.effect,
            self.own_box,
            self.theme,
            self.beside,
            self._knobs_box,
            self.emblems,
            self.groups_title,
            self.groups,
            self.files_title,
            self.files,
        ):
            column.addWidget(widget)

    # Changing

    def _owner(self) -> str:
        assert self._component is not None
        return self._component.id

    def _ask(self, slot: Slot, choice: str) -> None:
        owner = Owner.component(self._owner())
        words = tr("Assign a role") if slot.kind == "roles" else tr("Map a group of colours")
        self._document.edit(words, lambda look: with_choice(look, owner, [slot], choice))

    def ask_all(self, keys: Sequence[Slot], choice: str) -> None:
        """Give several groups a role as one step."""
        owner = Owner.component(self._owner())
        self._document.edit(
            plural("Map {count} group of colours", "Map {count} groups of colours", len(keys)),
            lambda look: with_choice(look, owner, keys, choice),
        )

    def split(self, key: str, apart: bool) -> None:
        owner = Owner.component(self._owner())
        whole = key if apart else key.rpartition("/")[0]
        words = tr("Split a group") if apart else tr("Merge a group")
        self._document.edit(words, lambda look: with_split(look, owner, whole, apart))

    def _set_beside(self, on: bool) -> None:
        owner = self._owner()
        words = tr("Write as separate theme") if on else tr("Recolour in place")
        self._document.edit(words, lambda look: with_beside(look, owner, on))

    def _set_emblem(self, name: str, emblem: Emblem) -> None:
        owner = self._owner()
        words = tr("Image {name}").format(name=name)
        self._document.edit(words, lambda look: with_emblem(look, owner, name, emblem))

    def take_picture(self, name: str, file: Path) -> None:
        """Put a file in the place of a picture that the component shows."""
        look = self._document.look
        if look is not None:
            role = look.decided(Owner.component(self._owner())).emblems.get(name, Emblem()).role
            self._set_emblem(name, Emblem(str(file), role))

    def _set_knob(self, knob: Knob, value: float) -> None:
        owner = self._owner()
        value = round(value / knob.step) * knob.step
        self._gesture.edit(knob.title, lambda look: with_knob(look, owner, knob.id, value))

    # Showing

    def show_themes(self, themes: Mapping[str, str], worn: str) -> None:
        """Show the themes that the component could wear, by path with their names; worn: the path of that it does."""
        self.theme.setVisible(bool(themes))
        self.theme.clear()
        self.theme.addItem(tr("Theme: the look's own"), "")
        for path, name in themes.items():
            self.theme.addItem(tr("Theme: {name}").format(name=name), path)
        self.theme.setCurrentIndex(max(0, self.theme.findData(worn)))

    def show_component(self, component: Component, dressed: Dressed) -> None:
        """Show a component of a dressed look, also one that the look does not dress."""
        other = self._component is None or self._component.id != component.id
        self._component = component
        document, look = self._document, dressed.look
        decided = look.decided(Owner.component(component.id))
        self.title.setText(component.title)
        with_it = tr("{names} change with it.").format(names=parted(component.covers)) if component.covers else ""
        self.reads.setText(sentences(as_sentence(component.reads), with_it))
        presence = document.present.get(component.id)
        why = as_sentence(presence.why) if presence is not None else ""
        laid = (
            tr("Prepared; install it yourself.")
            if component.exported
            else tr("Takes effect: {effects}.").format(effects=EFFECTS[component.effect])
        )
        self.effect.setText(sentences(why, laid, component.restart))
        self.own_box.setVisible(component.id.startswith(OWN))
        self.beside.setVisible(component.rewrites and component.kind == "Widgets")
        self.beside.blockSignals(True)
        self.beside.setChecked(decided.beside)
        self.beside.blockSignals(False)
        if other:
            self._make_knobs(component)
        for knob in component.knobs:
            if not self.sliders[knob.id].slider.isSliderDown():
                self.sliders[knob.id].show_value(decided.knobs.get(knob.id, knob.start))
        files = dressed.files.get(component.id, ())
        pictures = emblems_of(files, document.files) if component.kind in KINDS else []
        self.emblems.show_pictures(component.id, pictures, look, document.files)
        groups = self._groups(component, dressed) if files else []
        known = {r.key for r in groups}
        rows = [*groups, *(r for r in self._roles(component, dressed) if files and r.key not in known)]
        places = sum(r.places for r in groups)
        found = groups_in(len(groups), places)
        self.groups_title.setText(
            found if groups else plural("{count} colour, by its role", "{count} colours, by their roles", len(rows))
        )
        for widget in (self.groups_title, self.groups):
            widget.setVisible(bool(rows))
        self.groups.show_rows(rows)
        nothing = (
            tr("Nothing: this home folder has no {file}.").format(file=component.needs_file)
            if component.needs_file
            else tr("Nothing: this home folder does not use it.")
        )
        self.files.setText("\n".join(isolated(f"~/{f.path}") for f in files) or nothing)

    def _make_knobs(self, component: Component) -> None:
        emptied(self._knobs)
        self.sliders = {}
        for knob in component.knobs:
            slider = KnobSlider(self._style, knob)
            slider.began.connect(self._gesture.begin)
            slider.moved.connect(lambda value, knob=knob: self._set_knob(knob, value))
            self._knobs.addWidget(slider)
            self.sliders[knob.id] = slider
        self._knobs_box.setVisible(bool(component.knobs))

    def _groups(self, component: Component, dressed: Dressed) -> list[ColourGroup]:
        """Return the groups of a file that is recoloured."""
        look, files = dressed.look, self._document.files
        decided = look.decided(Owner.component(component.id))
        splits, roles = decided.splits, decided.by_group
        subject = component.subject(files, splits) if component.subject is not None else None
        if subject is None:
            return []
        colours = component.colours(look.scheme(), files) if component.colours is not None else look.colours
        chart = map_for(subject.groups, subject.spans, colours, roles)
        targets = shown_targets(subject.groups, chart, colours, roles)
        return [
            group_row(g, targets[g.key], 1, roles, splits, tuple(states_of(g, subject.spans).items()))
            for g in subject.groups
        ]

    def _roles(self, component: Component, dressed: Dressed) -> list[ColourGroup]:
        """Return the roles and shades that a component's own files are made of."""
        if component.colours is None or not component.roles:
            return []
        look = dressed.look
        colours = component.colours(look.scheme(), self._document.files)
        chosen = look.decided(Owner.component(component.id)).roles
        before = roles_before(component.parts, self._document.before.get(component.id, {}))
        counts = _counts(component.parts)
        rows = []
        for role in component.roles:
            choice = chosen.get(role, "")
            old, new = before.get(role, colours[role]), colours[role]
            why, places = tr("default"), counts.get(role, 1)
            rows.append(
                ColourGroup(
                    Slot("roles", role), old, new, choice or role, why, places, 1, bool(choice), may_split=False
                )
            )
        return sorted(rows, key=lambda r: -r.places)


def _counts(parts: tuple[Part, ...]) -> dict[str, int]:
    out: dict[str, int] = {}
    for part in parts:
        for role in (part.text_role, part.fill_role, part.edge_role):
            if role:
                out[role] = out.get(role, 0) + 1
    return out
