"""Tune, translucency: how translucent each kind of surface is, and the least opacity that can still be read."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QLabel, QWidget

from ...language import tr
from ...look.decision_edits import with_companion
from ...look.edits import with_blur, with_opacity
from ...look.model import Look
from ...palette.veil import KIND_BY_ID, KINDS, SurfaceKind, least_opacity
from ...wear.glass import starts_compositor
from ..kit.flow import WrapCheck
from ..kit.parts import label, plain_column
from ..kit.plain_slider import PlainSlider
from ..kit.style import Style
from ..model.document import Document

_FIRST = 0.85  # opacity that a kind gets when it is first made translucent


def _words(kind: SurfaceKind) -> str:
    """Return what is ticked: a surface that is translucent, or one that is set apart from the kind it is like."""
    if not kind.like:
        return tr("{title} translucent").format(title=kind.title)
    return tr("{title} separately from {other}").format(title=kind.title, other=KIND_BY_ID[kind.like].title)


class GlassPage(QWidget):
    """Sets opacities through the document."""

    flat_asked = pyqtSignal(bool)

    def __init__(self, document: Document, style: Style) -> None:
        super().__init__()
        self._document = document
        self._gesture = document.gesture()
        column = plain_column(self, 6)
        column.addWidget(label(tr("Checked over the wallpaper, at its worst place."), "quiet"))
        self.none = label(tr("No compositor is running, so translucent surfaces are drawn opaque."), "bad")
        column.addWidget(self.none)
        self.start = WrapCheck(tr("Start a compositor when this look is applied"))
        self.start.setToolTip(tr("Undo stops it again"))
        self.start.clicked.connect(self._start)
        column.addWidget(self.start)
        self.none.hide()
        self.start.hide()
        self._told: bool | None = None  # whether a compositor was said to run
        self._starts = False  # whether the look starts one
        self._blurs: bool | None = None  # whether it was said to blur
        self.checks: dict[str, QCheckBox] = {}
        self.sliders: dict[str, PlainSlider] = {}
        self._least: dict[str, tuple[float, float]] = {}  # by kind: as the desktop draws it, and with blur
        self.notes: dict[str, QLabel] = {}
        for kind in KINDS:
            check = WrapCheck(_words(kind))
            check.setToolTip(kind.tip)
            check.clicked.connect(lambda on, kind=kind: self._switch(kind, on))
            slider = PlainSlider(style, tr("Opacity"), 0.0, 1.0, tr("{tip}: opacity").format(tip=kind.tip))
            slider.slider.setAccessibleName(tr("Opacity: {title}").format(title=kind.title))
            slider.began.connect(self._gesture.begin)
            slider.moved.connect(lambda value, kind=kind: self._move(kind, value))
            note = label("", "quiet")
            for widget in (check, slider, note):
                column.addWidget(widget)
            column.addSpacing(4)
            self.checks[kind.id], self.sliders[kind.id], self.notes[kind.id] = check, slider, note
        self.blur = WrapCheck(tr("My desktop can blur the background"))
        self.blur.setToolTip(tr("The compositor draws the blur; tick this if yours supports it"))
        self.blur.clicked.connect(self._blur)
        column.addWidget(self.blur)
        self.sharp = label(tr("Nothing blurs on this desktop, so the look is applied as without blur."), "bad")
        self.sharp.hide()
        column.addWidget(self.sharp)
        self.flat = WrapCheck(tr("Show it without a compositor"))
        self.flat.setToolTip(tr("Without a compositor every surface is opaque"))
        self.flat.clicked.connect(self.flat_asked)
        column.addWidget(self.flat)

    def say_compositor(self, runs: bool | None, blurs: bool | None = None) -> None:
        """Say whether a compositor runs and blurs, None when that is not known; without one the stage is shown so."""
        self._blurs = blurs
        self.sharp.setVisible(self.blur.isChecked() and blurs is False and runs is not False)
        if runs is self._told:
            return
        self._told = runs
        self.none.setVisible(runs is False)
        self.start.setVisible(runs is False)
        self._show_flat()

    def _show_flat(self) -> None:
        """Let the stage show what will be there: opaque surfaces where no compositor runs and the look starts none."""
        if (self._told is False and not self.start.isChecked()) != self.flat.isChecked():
            self.flat.click()

    def refresh(self) -> None:
        """Show the look's opacities, and the least of each that reads."""
        look = self._document.look
        if look is None:
            return
        drawn = look.drawn_opacity()
        held = any(slider.slider.isSliderDown() for slider in self.sliders.values())
        self.blur.setChecked(look.blur)
        self.sharp.setVisible(look.blur and self._blurs is False and self._told is not False)
        starts = starts_compositor(look)
        if starts != self._starts:
            self._starts = starts
            self.start.setChecked(starts)
            self._show_flat()
        for kind in KINDS:
            on = kind.id in look.opacity
            slider, note = self.sliders[kind.id], self.notes[kind.id]
            self.checks[kind.id].setChecked(on)
            slider.setVisible(on)
            note.setVisible(on)
            if not on:
                continue
            if not held or kind.id not in self._least:  # while one is dragged, only its own opacity changes
                self._least[kind.id] = self._least_of(look, kind)
            least, soft = self._least[kind.id]
            if not slider.slider.isSliderDown():
                slider.show_value(look.opacity[kind.id])
            slider.show_least(least)
            words = tr("Text is readable from {least:.0%}.").format(least=least)
            if soft < least:
                words = tr("Readable from {least:.0%}, with blur from {soft:.0%}.").format(least=least, soft=soft)
            if drawn[kind.id] > look.opacity[kind.id] + 1e-6:
                words = tr("Drawn at {drawn:.0%}: with less, some text would be unreadable.").format(
                    drawn=drawn[kind.id]
                )
            elif look.opacity[kind.id] < least - 1e-6:
                words = tr("Some text is unreadable: {least:.0%} is needed.").format(least=least)
            note.setText(words)

    @staticmethod
    def _least_of(look: Look, kind: SurfaceKind) -> tuple[float, float]:
        """Return the least opacity of a kind at which text can be read, as the desktop draws it and with blur."""
        others = {k: v for k, v in look.drawn_opacity().items() if k != kind.id}
        plain, soft = (
            least_opacity(look.colours, kind.id, others, look.backdrop, blur, look.locks, look.pairs)
            for blur in (look.blur, True)
        )
        return plain, soft

    def _move(self, kind: SurfaceKind, value: float) -> None:
        self._gesture.edit(
            tr("Opacity: {title}").format(title=kind.title), lambda look: with_opacity(look, kind.id, value)
        )

    def _switch(self, kind: SurfaceKind, on: bool) -> None:
        words = (tr("{title} translucent") if on else tr("{title} opaque")).format(title=kind.title)
        if kind.like:
            words = (_words(kind) if on else tr("{title} like {other}")).format(
                title=kind.title, other=KIND_BY_ID[kind.like].title
            )
        self._document.edit(
            words, lambda look: with_opacity(look, kind.id, look.opacity.get(kind.like, _FIRST) if on else None)
        )

    def _start(self, on: bool) -> None:
        words = tr("Start a compositor") if on else tr("Do not start a compositor")
        self._document.edit(words, lambda look: with_companion(look, "compositor", "on" if on else ""))

    def _blur(self, on: bool) -> None:
        self._document.edit(tr("Blur background") if on else tr("No blur"), lambda look: with_blur(look, on))
