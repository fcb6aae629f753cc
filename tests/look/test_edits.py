"""Every edit of a look: what follows, what holds, and that everything stays readable after any sequence of them."""

from __future__ import annotations

from dataclasses import replace

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule

from mellow_finch.colour.blend import over
from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.rgb import Rgba
from mellow_finch.errors import ImpossibleLocksError
from mellow_finch.look import edits
from mellow_finch.look.model import Look, derived_look
from mellow_finch.palette.recipe import TONES, Recipe
from mellow_finch.palette.roles import ROLE_IDS
from mellow_finch.palette.temper import CONTROLS
from mellow_finch.palette.veil import KIND_BY_ID, KINDS
from mellow_finch.picture.backdrop import Backdrop, Extremes

COLOURS = st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t))
BUSY = Backdrop(
    Rgba(10, 14, 30), Rgba(255, 244, 220), Rgba(120, 110, 100),
    (("everywhere", Extremes((Rgba(10, 14, 30), Rgba(255, 244, 220), Rgba(20, 0, 255)), (Rgba(60, 60, 70), Rgba(200, 190, 180)))),),
)  # fmt: skip


def fresh_look() -> Look:
    return derived_look("Marsh", Recipe(Rgba(186, 120, 70), 60.0, 0.02), "dark", backdrop=BUSY)


class Editing(RuleBasedStateMachine):
    """A person at work: any edit in any order, and what may never happen."""

    def __init__(self) -> None:
        super().__init__()
        self.look = fresh_look()

    def change(self, edit, *arguments) -> None:
        locked = {t: {r: self.look.palettes[t][r] for r in self.look.locks} for t in TONES}
        try:
            self.look = edit(self.look, *arguments)
        except ImpossibleLocksError as error:
            assert error.hint and str(error).endswith(".")
            return
        for tone in TONES:
            moved = {r for r, c in locked[tone].items() if self.look.palettes[tone][r] != c}
            assert moved <= set(arguments[:1])  # only the role that the person changed on purpose

    @rule(role=st.sampled_from(ROLE_IDS), colour=COLOURS)
    def change_a_role(self, role, colour):
        if role not in self.look.locks:
            self.change(edits.with_role, role, colour)

    @rule(role=st.sampled_from(ROLE_IDS), on=st.booleans())
    def lock(self, role, on):
        if len(self.look.locks) < 6 or not on:
            self.look = edits.with_lock(self.look, role, on)

    @rule(control=st.sampled_from(CONTROLS), share=st.floats(0, 1))
    def temper(self, control, share):
        value = control.low + share * (control.high - control.low)
        self.change(edits.with_temper, replace(self.look.temper, **{control.id: value}))

    @rule(need=st.sampled_from([4.5, 7.0]))
    def ask_for_contrast(self, need):
        self.change(edits.with_temper, replace(self.look.temper, text_need=need))

    @rule(colour=COLOURS)
    def lead_by(self, colour):
        if "accent" not in self.look.locks:
            self.change(edits.with_accent, colour)

    @rule(tone=st.sampled_from(TONES))
    def switch(self, tone):
        self.look = edits.with_tone(self.look, tone)

    @rule(on=st.booleans())
    def link(self, on):
        self.look = replace(self.look, linked=on)

    @rule(kind=st.sampled_from(sorted(KIND_BY_ID)), alpha=st.one_of(st.none(), st.floats(0, 1)))
    def see_through(self, kind, alpha):
        self.change(edits.with_opacity, kind, alpha)

    @rule(on=st.booleans())
    def blur(self, on):
        self.change(edits.with_blur, on)

    @precondition(lambda self: not set(self.look.locks))
    @rule()
    def set_of_sixteen(self):
        self.change(edits.with_ansi_set)

    @invariant()
    def every_pair_passes(self):
        for tone in TONES:
            assert not self.look.failing(tone), self.look.failing(tone)[:3]

    @invariant()
    def texts_read_over_the_picture(self):
        for tone in TONES:
            own, drawn = self.look.palettes[tone], self.look.drawn_opacity(tone)
            for kind in KINDS:
                for pair in self.look.pairs:
                    if pair.surface in kind.roles and kind.id in drawn:
                        for ground in self.look.backdrop.at(kind.place, self.look.blur):
                            face = over(own[pair.surface]._replace(a=drawn[kind.id]), ground)
                            assert ratio(own[pair.text], face) >= pair.need


TestEditing = Editing.TestCase
TestEditing.settings = settings(max_examples=12, stateful_step_count=14, deadline=None)
