"""Every edit of a look: what follows, what holds, and that everything stays readable after any sequence of them."""

from __future__ import annotations

import json
from dataclasses import replace

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule

from mellow_finch.colour.blend import over
from mellow_finch.colour.contrast import luminance, ratio
from mellow_finch.colour.difference import oklab_distance
from mellow_finch.colour.gamut import oklch_to_rgba, rgba_to_oklch
from mellow_finch.colour.requirement import TEXT
from mellow_finch.colour.rgb import Rgba
from mellow_finch.errors import Cancelled, ImpossibleLocksError
from mellow_finch.look import edits
from mellow_finch.look.file import look_from_json, look_to_json
from mellow_finch.look.model import Look, derived_look
from mellow_finch.look.ready import READY
from mellow_finch.palette import ansi
from mellow_finch.palette.ansi import APART, nearest_pair
from mellow_finch.palette.recipe import TONES, Recipe
from mellow_finch.palette.roles import FOLLOWS, ROLE_IDS
from mellow_finch.palette.temper import CONTROLS, Temper
from mellow_finch.palette.veil import KIND_BY_ID, KINDS, least_opacity
from mellow_finch.picture.backdrop import Backdrop, Extremes
from mellow_finch.progress import between_pieces

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
                            assert ratio(own[pair.text], face) >= pair.need.level


TestEditing = Editing.TestCase
TestEditing.settings = settings(max_examples=12, stateful_step_count=14, deadline=None)


def test_an_accent_leads_its_family_in_both_halves_when_linked():
    look = fresh_look()
    led = edits.with_accent(look, Rgba(70, 150, 200))
    assert led.colours["accent"] == Rgba(70, 150, 200) and led.recipe.accent == Rgba(70, 150, 200)
    for tone in TONES:
        for role in ("selection", "link", "focus"):
            assert abs((rgba_to_oklch(led.palettes[tone][role])[2] - 238 + 180) % 360 - 180) < 25
        assert led.palettes[tone]["window"] == look.palettes[tone]["window"]
    apart = edits.with_accent(replace(look, linked=False), Rgba(70, 150, 200))
    assert apart.palettes["light"] == look.palettes["light"]
    locked = edits.with_accent(edits.with_lock(look, "link", True), Rgba(70, 150, 200))
    assert locked.colours["link"] == look.colours["link"]


def test_what_is_carried_over_keeps_the_other_halfs_level():
    old, new, other = oklch_to_rgba(0.3, 0.03, 60), oklch_to_rgba(0.4, 0.06, 200), oklch_to_rgba(0.9, 0.02, 60)
    moved = rgba_to_oklch(edits.carried_over(old, new, other, False))
    assert abs(moved[0] - 0.9) < 0.01 and abs(moved[2] - 200) < 6 and moved[1] > 0.03
    assert edits.carried_over(old, oklch_to_rgba(0.5, 0.03, 60), other, False) == other
    assert (
        rgba_to_oklch(edits.carried_over(old, oklch_to_rgba(0.4, 0.03, 60), oklch_to_rgba(0.6, 0.02, 60), True))[0]
        > 0.68
    )


def test_borders_go_along_with_header_bars_until_they_are_changed():
    look = fresh_look()
    assert all(look.colours[a] == look.colours[b] for a, b in FOLLOWS.items())
    both = edits.with_role(look, "header", Rgba(70, 60, 50))
    assert both.colours["border"] == Rgba(70, 60, 50) and both.colours["border_text"] == both.colours["header_text"]
    own = edits.with_role(look, "border", Rgba(90, 50, 50))
    after = edits.with_role(own, "header", Rgba(60, 60, 70))
    assert after.colours["border"] == Rgba(90, 50, 50)


def test_whole_look_controls_come_back_and_keep_what_was_changed_by_hand():
    look = fresh_look()
    there = edits.with_temper(look, replace(look.temper, warmth=0.8, panel=0.9))
    assert there != look and edits.with_temper(there, Temper()).palettes == look.palettes
    mine = edits.with_role(replace(look, linked=False), "card", Rgba(60, 70, 90))
    warm = edits.with_temper(mine, replace(mine.temper, warmth=1.0))
    shift = oklab_distance(warm.colours["card"], Rgba(60, 70, 90))
    assert 0.004 < shift < 0.05 and oklab_distance(warm.colours["card"], look.colours["card"]) > 0.03
    locked = edits.with_temper(edits.with_lock(mine, "card", True), replace(mine.temper, warmth=1.0))
    assert locked.colours["card"] == Rgba(60, 70, 90)
    seven = edits.with_temper(look, replace(look.temper, text_need=7.0))
    assert not seven.failing("dark") and all(p.need != TEXT for p in seven.pairs)


def test_opacity_never_falls_below_what_reads_unless_one_goes_freely():
    look = fresh_look()
    thin = edits.with_opacity(look, "windows", 0.1)
    least = least_opacity(look.colours, "windows", {}, BUSY)
    assert thin.opacity == {"windows": 0.1} and thin.drawn_opacity()["windows"] >= least
    assert thin.scheme().drawn("window").a == thin.drawn_opacity()["windows"]
    free = edits.with_opacity(replace(look, mend_as_you_go=False), "windows", 0.1)
    assert free.drawn_opacity() == {"windows": 0.1}
    assert edits.with_opacity(thin, "windows", None).drawn_opacity() == {}
    assert edits.with_blur(thin, True).drawn_opacity()["windows"] <= thin.drawn_opacity()["windows"]


def test_terminal_colours_are_put_apart_again_when_the_ground_moves():
    look = fresh_look()
    moved = edits.with_role(look, "terminal", Rgba(245, 240, 230))
    assert not moved.failing() and nearest_pair(moved.colours)[0] >= APART
    orange = oklch_to_rgba(0.72, 0.12, 58)
    near = edits.with_role(look, "ansi_1", orange)
    assert near.colours["ansi_1"] == orange and nearest_pair(near.colours)[0] >= APART
    again = edits.with_ansi_set(replace(look, locks=frozenset({"ansi_2"})))
    assert again.colours["ansi_2"] == look.colours["ansi_2"]


def test_terminal_colours_stay_a_set_over_a_see_through_ground():
    look = edits.with_opacity(fresh_look(), "terminal", 0.75)
    drawn = look.drawn_opacity()["terminal"]
    assert nearest_pair(look.colours, "normal")[0] >= APART
    # A busy picture behind leaves only pale colours readable, so what is left for other eyes is little, but not nothing.
    assert all(nearest_pair(look.colours, vision)[0] >= 4.0 for vision in ("deutan", "protan"))
    for ground in BUSY.at("everywhere"):
        face = over(look.colours["terminal"]._replace(a=drawn), ground)
        assert all(ratio(look.colours[f"ansi_{i}"], face) >= 4.5 for i in (*range(1, 8), *range(9, 16)))


def test_variants_are_kept_used_dropped_and_saved():
    look = fresh_look()
    other = edits.with_accent(look, Rgba(70, 150, 200))
    kept = edits.with_variant(other, look, "Evening")
    assert [v.name for v in kept.variants] == ["Evening"] and kept.colours == other.colours
    used = edits.as_variant(kept, "Evening")
    assert used.palettes == look.palettes and used.name == other.name and used.variants == kept.variants
    twice = edits.with_variant(kept, other, "Evening")
    assert len(twice.variants) == 1 and twice.variants[0].colours == other.colours
    assert edits.without_variant(kept, "Evening").variants == ()
    with pytest.raises(KeyError):
        edits.as_variant(kept, "Noon")
    full = edits.with_temper(edits.with_opacity(kept, "menus", 0.8), replace(kept.temper, header=0.4))
    assert look_from_json(look_to_json(full)) == full


def test_a_look_of_an_older_file_is_completed():
    data = json.loads(look_to_json(fresh_look()))
    for key in ("temper", "linked", "opacity", "drawn", "blur", "pictures", "placement", "origin", "variants"):
        del data[key]
    for tone in TONES:
        for role in FOLLOWS:
            del data["tones"][tone]["roles"][role]
    back = look_from_json(json.dumps(data))
    assert back == fresh_look()
    data["opacity"] = {"windows": 3, "nothing": 1}
    data["placement"] = {"mode": "fill", "width": 9, "height": 10**9}
    odd = look_from_json(json.dumps(data))
    assert odd.opacity == {"windows": 1.0} and (odd.placement.width, odd.placement.height) == (64, 32768)


@pytest.mark.long
@pytest.mark.some(1)
@pytest.mark.parametrize("need", [5.5, 7.0])
def test_asking_for_more_contrast_never_turns_light_surfaces_dark_nor_dark_ones_light(looks, need):
    for look in (*looks, *(ready.look() for ready in READY)):
        strict = edits.with_temper(look, replace(look.temper, text_need=need))
        for tone in TONES:
            before, after = look.palettes[tone], strict.palettes[tone]
            for role in ("window", "view", "card", "menu", "header", "sidebar", "panel", "terminal"):
                assert (luminance(before[role]) > 0.18) == (luminance(after[role]) > 0.18), (look.name, tone, role)
            moved = [oklab_distance(before[role], after[role]) for role in before]
            assert sum(moved) / len(moved) < 0.05, (look.name, tone)


@pytest.mark.parametrize("name", ["temper", "role", "accent", "reset"])
def test_the_half_that_nobody_looks_at_is_made_when_it_is_looked_at(name, monkeypatch):
    """It is the same as it would be at once, equal whenever it is compared, and solved once at most."""
    look = replace(fresh_look(), opacity={"panel": 0.8})
    change = {
        "temper": lambda: edits.with_temper(look, replace(look.temper, warmth=0.6)),
        "role": lambda: edits.with_role(look, "window", Rgba(70, 30, 30)),
        "accent": lambda: edits.with_accent(look, Rgba(20, 160, 120)),
        "reset": lambda: edits.with_role_reset(edits.with_role(look, "window", Rgba(70, 30, 30)), "window"),
    }[name]
    solved, solve = [], edits.solve
    monkeypatch.setattr(edits, "solve", lambda *words, **named: solved.append(words) or solve(*words, **named))
    at_once = change()
    lead = len(solved)
    light = dict(at_once.palettes["light"])
    assert len(solved) == lead + 1 and at_once.drawn["light"] and len(solved) == lead + 1
    assert not look_from_json(look_to_json(at_once)).failing("light")
    later = change()
    assert later == at_once and dict(later.palettes["light"]) == light
    assert later != look and set(later.palettes) == set(TONES) and len(later.palettes) == 2


def test_locks_of_the_other_half_do_not_stop_the_one_in_force():
    """Where the other half has no way, it stays as it was, readable."""
    look = edits.with_role(edits.with_tone(replace(fresh_look(), linked=False), "light"), "window", Rgba(255, 255, 255))
    for role in ("window", "window_text", "view", "view_text"):
        look = edits.with_lock(look, role, True)
    light = dict(look.palettes["light"])
    dark = edits.with_temper(edits.with_tone(look, "dark"), replace(look.temper, depth=1.0))
    assert not dark.failing("dark") and not dark.failing("light")
    assert all(dark.palettes["light"][r] == light[r] for r in look.locks)


def test_what_was_worked_out_ahead_is_not_worked_out_by_the_hand(monkeypatch):
    """No set of the terminal's hues, which takes longest, is sought anew along a control; and it can be stopped."""
    look, sought, stopped = fresh_look(), [], []
    edits.temper_ahead(look)
    monkeypatch.setattr(ansi, "_choose", lambda domains: sought.append(domains))
    for control in CONTROLS:
        for step in range(0, edits._AHEAD + 1, 4):
            value = control.low + (control.high - control.low) * step / edits._AHEAD
            edits.with_temper(look, replace(look.temper, **{control.id: value}))
    assert sought == []

    def stop() -> None:
        stopped.append(1)
        if len(stopped) == 3:
            raise Cancelled("Stopped.")

    between_pieces(stop)
    try:
        with pytest.raises(Cancelled):
            edits.temper_ahead(look)
    finally:
        between_pieces(stop, False)
    assert len(stopped) == 3
