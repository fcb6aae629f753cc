"""The surfaces that matter most: bars that suit the look follow it, what a theme means by itself stays, words with them."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest

from mellow_finch.colour.blend import over
from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.components.decisions import Decisions
from mellow_finch.look.edits import with_temper, with_tone
from mellow_finch.recolour.groups import KEEP
from mellow_finch.syntax.cascade import paint
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.result.account import Choices, MeasuredFailure
from mellow_finch.theme.result.recolour import recolour_theme
from mellow_finch.theme.sheets.rules import BEGIN

SHEET = """
window, .background { background-color: #f2f2f0; color: #222222; }
headerbar { background-color: #2c2c2c; color: white; }
headerbar:backdrop { background-color: #2c2c2c; color: rgba(255, 255, 255, 0.7); }
menu, popover { background-color: rgba(255, 255, 255, 0.9); color: #222222; }
tooltip.background { background-color: rgba(0, 0, 0, 0.8); }
tooltip * { color: white; }
row:selected { background-color: rgba(0, 0, 0, 0.1); }
"""
PANEL, MENU = "stage > StWidget#panel", "stage > StWidget.popup-menu > StBoxLayout.popup-menu-content"
SHELL = """
#panel { background-color: rgba(33, 33, 33, 0.65); height: 30px; }
#panel .panel-button { color: white; }
.popup-menu-content { background-color: #ffffff; color: #222222; }
.popup-menu-item:active { background-color: #8a8a8a; color: #909090; }
"""


def brought(tmp_path, part, sheet):
    (tmp_path / "Tern" / part).mkdir(parents=True)
    name = "gnome-shell.css" if part == "gnome-shell" else "gtk.css"
    (tmp_path / "Tern" / part / name).write_text(sheet)
    return open_theme(tmp_path / "Tern"), f"{part}/{name}"


@pytest.mark.long
@pytest.mark.some(1)
@pytest.mark.parametrize("tone", ["dark", "light"])
@pytest.mark.parametrize("strip", [False, True])
def test_a_dark_bar_follows_a_dark_look_and_stays_in_a_light_one(tmp_path, look, tone, strip):
    sheet = SHEET
    if strip:  # the window draws the bar's colour, and the bar is see-through
        drawn = "linear-gradient(to bottom, #2c2c2c, #2c2c2c 48px, #f2f2f0 48px, #f2f2f0)"
        sheet = sheet.replace("headerbar { background-color: #2c2c2c;", "headerbar { background-color: transparent;")
        sheet = sheet.replace("headerbar:backdrop { background-color: #2c2c2c;", "headerbar:backdrop {")
        sheet += f"window.csd.background {{ background-color: transparent; background-image: {drawn}; }}\n"
    theme, path = brought(tmp_path, "gtk-3.0", sheet)
    scheme = with_tone(look, tone).scheme()
    made = recolour_theme(theme, scheme)
    assert made.short == () and made.inverse == (() if tone == "dark" else ("header",))
    for state in ("", ":backdrop"):
        at = f"window.background.csd{state} > headerbar.titlebar{state} > label.title{state}"
        found = paint(made.fresh[path], [at])[at]
        surface = next(f[0] for f in reversed(found.fills) if f and f[0].a)
        if tone == "dark":
            assert colour_difference(surface, scheme.colours["header"]) <= 3
            assert (
                ratio(found.text.opaque, surface) >= 7
            )  # light words stay light, and do not creep up to what they must
        else:
            assert rgba_to_oklch(surface)[0] < 0.5


@pytest.mark.some(1)
@pytest.mark.parametrize("tone", ["dark", "light"])
def test_displays_over_others_are_dark_in_either_look(tmp_path, look, tone):
    shown = ".osd { background-color: rgba(0, 0, 0, 0.8); color: white; } .app-notification { background-color: #333333; }\n"
    theme, path = brought(tmp_path, "gtk-3.0", SHEET + shown + ".app-notification label { color: white; }\n")
    made = recolour_theme(theme, with_tone(look, tone).scheme())
    assert made.short == ()
    places = [f"window.background > {kind} > label" for kind in ("box.osd", "frame.app-notification")]
    found = paint(made.fresh[path], places)
    for place in places:
        surface = found[place].fills[1][0]
        assert rgba_to_oklch(surface)[0] < 0.45 and ratio(found[place].text, surface.opaque) >= 6, (place, tone)


def test_windows_of_their_own_let_nothing_through_and_rows_are_seen(tmp_path, look):
    theme, path = brought(tmp_path, "gtk-3.0", SHEET)
    scheme = look.scheme()
    places = {
        "tooltip.background": "tooltip",
        "window.background.popup > menu": "menu",
        "window.background > list > row.activatable:selected": "selection",
    }
    found = paint(recolour_theme(theme, scheme).fresh[path], list(places))
    for place, role in places.items():
        fill = found[place].fill
        assert fill is not None and fill.a == 1 and colour_difference(fill, scheme.colours[role]) <= 3, place


@pytest.mark.parametrize(("tone", "choice"), [("dark", ""), ("light", ""), ("light", "panel"), ("light", KEEP)])
def test_a_shells_panel_follows_or_stays_and_shows_through_as_before(tmp_path, look, tone, choice):
    theme, path = brought(tmp_path, "gnome-shell", SHELL)
    scheme = with_tone(look, tone).scheme()
    made = recolour_theme(theme, scheme, Choices(Decisions(parts={"panel": choice} if choice else {})))
    follows = tone == "dark" or choice == "panel"
    words = f"{PANEL} > StButton.panel-button"
    found = paint(made.fresh[path], [PANEL, MENU, words])
    assert found[PANEL].fill.a == pytest.approx(0.65, abs=0.01)
    assert colour_difference(found[MENU].fill, scheme.colours["menu"]) <= 3
    if follows:
        assert colour_difference(found[PANEL].fill.opaque, scheme.colours["panel"]) <= 3
    else:
        assert rgba_to_oklch(found[PANEL].fill)[0] < 0.5 < rgba_to_oklch(scheme.colours["panel"])[0]
        assert made.inverse == ("panel",)
    assert ratio(found[words].text, found[PANEL].fill.opaque) >= 4.5


def test_rules_for_shells_say_nothing_that_shells_do_not_know(tmp_path, look):
    theme, path = brought(tmp_path, "gnome-shell", SHELL)
    grey = Rgba(120, 120, 120)
    parts = [p for p in COMPONENT_BY_ID["shell"].parts if p.id in ("panel button", "menu item", "clock")]
    told = [MeasuredFailure(p.key, "text", grey, Rgba(60, 60, 60), 1.1, 4.5, "shell") for p in parts]
    rules = recolour_theme(theme, look.scheme(), told=[told]).fresh[path].partition(BEGIN)[2]
    assert ".panel-button.panel-button" in rules  # outweighs by what it has itself
    assert rules and ":not" not in rules and not re.search(r"#[0-9a-f]{8}\b", rules)


def test_faint_words_stay_fainter_than_others(tmp_path, look):
    sheet = SHEET + "calendar { color: #222222; } calendar:indeterminate { color: rgba(34, 34, 34, 0.2); }\n"
    theme, path = brought(tmp_path, "gtk-3.0", sheet)
    scheme = look.scheme()
    places = [f"window.background > calendar{state}" for state in ("", ":indeterminate")]
    found = paint(recolour_theme(theme, scheme).fresh[path], places)
    ground = scheme.colours["window"]
    plain, faint = (ratio(over(found[p].text, ground), ground) for p in places)
    assert 4.5 <= faint < plain * 0.8


@pytest.mark.long
@pytest.mark.some(1)
@pytest.mark.parametrize("tone", ["dark", "light"])
def test_a_look_that_asks_for_seven_to_one_has_themes_that_reach_it(tmp_path, look, tone):
    sheet = SHEET + (
        "headerbar { background-image: linear-gradient(to bottom, #6b6b6b, #1c1c1c); }\n"
        "button { background-image: linear-gradient(to bottom, #ffffff, #9a9a9a); color: #3c3c3c; }\n"
    )
    theme, path = brought(tmp_path, "gtk-3.0", sheet)
    strict = with_tone(with_temper(look, replace(look.temper, text_need=7.0)), tone)
    made = recolour_theme(theme, strict.scheme())
    assert made.short == ()
    places = ("", " > headerbar.titlebar > label.title", " > menu > menuitem", " > button.text-button > label")
    for at in (f"window.background{place}" for place in places):
        found = paint(made.fresh[path], [at])[at]
        ground = strict.colours["window"]
        stacks = [over(stop, ground) for stop in next(f for f in reversed(found.fills) if f)]
        assert min(ratio(over(found.text, stop), stop) for stop in stacks) >= 6.99, at


@pytest.mark.long
def test_words_of_a_bar_that_a_person_gave_a_colour_keep_its_hue(tmp_path, look):
    theme, path = brought(tmp_path, "gtk-3.0", SHEET.replace("#2c2c2c; color: white", "#2c2c2c; color: #c9c9c9"))
    scheme = look.scheme()
    plain = recolour_theme(theme, scheme)
    group = next(g for g in plain.groups if "#c9c9c9" in (g.source.hex, g.key.partition(":")[2]))
    made = recolour_theme(theme, scheme, Choices(Decisions.spelled({group.key: "#3a2f9e"})))
    at = "window.background.csd > headerbar.titlebar > label.title"
    text = paint(made.fresh[path], [at])[at].text
    hue, wanted = (rgba_to_oklch(c)[2] for c in (text.opaque, parse_hex("#3a2f9e")))
    assert abs((hue - wanted + 180) % 360 - 180) < 15 and rgba_to_oklch(text.opaque)[1] > 0.05
