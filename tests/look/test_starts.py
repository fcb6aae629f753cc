"""Starting from schemes, palettes and themes: what is known is kept, what is derived can be read."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.colour.rgb import Rgba
from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.files import FolderFiles
from mellow_finch.errors import FileAccessError, ParseError
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_accent, with_opacity, with_role
from mellow_finch.look.from_colours import look_of_list, swatches_of_colours
from mellow_finch.look.from_theme import look_of_files, look_of_theme, roles_of_theme, start_of_theme
from mellow_finch.look.interchange.model import ColourList, PaletteEntry
from mellow_finch.look.model import Origin
from mellow_finch.look.ready import READY, ready_scheme
from mellow_finch.palette.recipe import TONES
from mellow_finch.proof.proof import prove
from mellow_finch.theme.bundle.read import open_theme

COLOURS = st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t))


@pytest.mark.some(4)
@pytest.mark.parametrize(
    "scheme", [pytest.param(s, id=s.id, marks=[pytest.mark.long] if i % 3 else []) for i, s in enumerate(READY)]
)
def test_every_scheme_gives_a_readable_look_of_its_own(scheme, files):
    look = scheme.look()
    assert look.tone == scheme.tone and look.origin == Origin("scheme", scheme.title) and look.name == scheme.title
    for tone in TONES:
        assert not look.failing(tone)
    assert all(f.passes for f in prove(dress(look, files)))
    assert (
        abs(rgba_to_oklch(look.colours["accent"])[2] - rgba_to_oklch(scheme.accent)[2]) < 8
        or rgba_to_oklch(scheme.accent)[1] < 0.02
    )


def test_the_schemes_are_varied():
    assert len(READY) >= 12 and len({s.id for s in READY}) == len({s.title for s in READY}) == len(READY)
    assert len({s.accent for s in READY}) == len(READY)
    hues = sorted(rgba_to_oklch(s.accent)[2] for s in READY if rgba_to_oklch(s.accent)[1] > 0.08)
    gaps = np.diff([*hues, hues[0] + 360])
    assert gaps.max() < 62  # every region of hue has one
    chroma = [rgba_to_oklch(s.accent)[1] for s in READY]
    assert min(chroma) < 0.05 and max(chroma) > 0.16
    assert min(sum(s.tone == t for s in READY) for t in TONES) >= 5
    assert sum(s.temper.text_need >= 7 for s in READY) == 2
    assert {s.temper.warmth > 0 for s in READY} == {True, False} and any(s.temper.warmth < 0 for s in READY)
    assert ready_scheme("Kingfisher") is ready_scheme("kingfisher") and ready_scheme("no such") is None


def test_a_scheme_keeps_the_desk(look):
    base = with_opacity(replace(look, left_out=frozenset({"kde"})), "menus", 0.8)
    fresh = READY[0].look(base)
    assert (fresh.source, fresh.left_out, fresh.placement) == (base.source, base.left_out, base.placement)
    assert fresh.opacity == {"menus": 0.8} and 0 < fresh.drawn_opacity("dark")["menus"] <= 1


@settings(max_examples=25)
@given(st.lists(COLOURS, min_size=1, max_size=300))
def test_a_list_of_any_length_gives_a_readable_look(colours):
    rows = swatches_of_colours(colours)
    assert 1 <= len(rows) <= 16 and sum(s.share for s in rows) == pytest.approx(1, abs=0.05)
    look = look_of_list(ColourList("x", tuple(PaletteEntry(c) for c in colours)))
    assert not look.failing("dark") and not look.failing("light")


def test_two_and_three_hundred_colours_work_and_a_vivid_stray_is_kept():
    greys = [Rgba(v, v, v + 2) for v in range(20, 250)] + [Rgba(v, v + 1, v) for v in range(40, 110)]
    red = Rgba(230, 20, 40)
    assert any(s.colour == red for s in swatches_of_colours([*greys, red]))
    two = look_of_list(ColourList("two", (PaletteEntry(Rgba(20, 24, 30)), PaletteEntry(Rgba(240, 150, 60)))))
    assert two.recipe.accent == Rgba(240, 150, 60)


def test_known_roles_of_a_list_are_taken_and_say_the_tone():
    rows = (PaletteEntry(Rgba(250, 248, 240), "background", "window"), PaletteEntry(Rgba(30, 90, 60), "accent", "accent"), PaletteEntry(Rgba(40, 40, 40), "text", "window_text"))  # fmt: skip
    look = look_of_list(ColourList("paper", rows), "dark")
    assert look.tone == "light" and look.colours["window"] == Rgba(250, 248, 240)
    assert look.colours["accent"] == Rgba(30, 90, 60) and look.colours["window_text"] == Rgba(40, 40, 40)
    assert look.recipe.accent == Rgba(30, 90, 60)


def test_a_theme_is_read_as_it_is_with_its_faults(home):
    look = look_of_theme(home / ".local/share/themes/Saltpan")
    assert look.name == "Saltpan" and look.origin == Origin("theme", "Saltpan") and look.tone == "light"
    assert look.colours["accent"] == Rgba(0xFF, 0x2F, 0xA0)
    short = look.failing()
    assert {"menu_text", "outline"} <= {j.pair.text for j in short}
    assert not look.failing("dark")
    roles = roles_of_theme(open_theme(home / ".local/share/themes/Saltpan"), False)
    assert all(look.colours[r] == c for r, c in roles.items()) and len(roles) > 25


def test_what_was_taken_for_each_role_is_told_with_its_place_and_with_what_else_there_is(home):
    look, taken = start_of_theme(home / ".local/share/themes/Saltpan")
    assert {role: rows[0].colour for role, rows in taken.items()} == {role: look.colours[role] for role in taken}
    parts = [(role, row) for role, rows in taken.items() for row in rows if row.component]
    assert len(taken) > 25 and len(parts) > len(taken)
    for role, row in parts:
        part = COMPONENT_BY_ID[row.component].by_key[row.part]
        assert role in (part.fill_role, part.text_role, "outline")
    for rows in taken.values():
        assert len({row.colour for row in rows}) == len(rows)
    named = start_of_theme(home / ".local/share/themes/Saltpan/gtk-3.0/gtk.css")[1]
    assert named["window"][0].colour == taken["window"][0].colour


def test_changing_what_is_disliked_leaves_the_rest_alone(home):
    look = look_of_theme(home / ".local/share/themes/Saltpan")
    before = {(j.pair.text, j.pair.surface) for j in look.failing()}
    fresh = with_role(look, "accent", Rgba(20, 110, 120))
    moved = {r for r in look.colours if fresh.colours[r] != look.colours[r]}
    assert moved <= {"accent", "accent_text"}
    assert {(j.pair.text, j.pair.surface) for j in fresh.failing()} <= before
    led = with_accent(look, Rgba(20, 110, 120))
    assert led.colours["selection"] != look.colours["selection"] and led.colours["menu"] == look.colours["menu"]


def test_what_is_worn_can_be_the_start(home):
    look = look_of_files("Current desktop", FolderFiles(home))
    assert look.origin.kind == "theme" and look.colours["terminal"] != look.colours["window"]


def test_palette_like_themes_and_single_sheets(home, tmp_path, look):
    from mellow_finch.look.interchange.catalogue import export_bytes

    path = tmp_path / "marsh.colors"
    path.write_bytes(export_bytes(look, path))
    back = look_of_theme(path)
    assert back.colours["window"] == look.colours["window"] and back.tone == look.tone
    sheet = look_of_theme(home / ".local/share/themes/Saltpan/gtk-3.0/gtk.css")
    assert sheet.name == "Saltpan" and sheet.colours["accent"] == Rgba(0xFF, 0x2F, 0xA0)
    shell = look_of_theme(home / ".local/share/themes/Saltpan/gnome-shell/gnome-shell.css")
    assert shell.colours["panel"] != sheet.colours["panel"]


@pytest.mark.parametrize(
    "make, words",
    [
        (lambda p: p / "none", "no such file"),
        (lambda p: p, "contains no readable theme"),
        (lambda p: (p / "x.css", (p / "x.css").write_text("a { margin: 0 }"))[0], "defines too few colours"),
        (lambda p: (p / "x.gpl", (p / "x.gpl").write_text("GIMP Palette\n1 2 3\n"))[0], "defines too few colours"),
    ],
)
def test_what_is_no_theme_is_said(tmp_path, make, words):
    with pytest.raises((ParseError, FileAccessError), match=words):
        look_of_theme(make(tmp_path))
