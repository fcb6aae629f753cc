"""The cascade over a tree of nodes: specificity, states, inheritance, named colours and functions."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour.rgb import Rgba
from mellow_finch.syntax.cascade import _compile, paint, paint_literals
from mellow_finch.syntax.css_values import mix, shade
from mellow_finch.syntax.sheet import Sheet

A = "window.background > box > button.flat:hover"


@pytest.mark.parametrize(
    "sheet, expected",
    [
        ("button { background-color: #010101 }", Rgba(1, 1, 1)),
        ("button:hover { background-color: #020202 } button { background-color: #010101 }", Rgba(2, 2, 2)),
        ("button { background-color: #010101 } button { background-color: #020202 }", Rgba(2, 2, 2)),
        ("button:active { background-color: #010101 }", None),
        ("button:not(:hover) { background-color: #010101 }", None),
        ("window > box button.flat { background: #030303 url(x.png) }", Rgba(3, 3, 3)),
        ("label, button { background-image: linear-gradient(to bottom, #040404, #050505) }", Rgba(4, 4, 4)),
        ("@define-color a #060606; @define-color b @a; button { background-color: @b }", Rgba(6, 6, 6)),
        ("button { background-color: @b } @define-color b @a; @define-color a #060606;", Rgba(6, 6, 6)),
        ("button { background-color: alpha(#0a0a0a, 0.5) }", Rgba(10, 10, 10, 0.5)),
        ("button { background-color: mix(#000000, #646464, 0.5) }", Rgba(50, 50, 50)),
        ("button { background-color: #fff } button { background-color: transparent }", None),
        ("button:prelight { background-color: #070707 } bad(( { color: red }", Rgba(7, 7, 7)),
        ("broken { color: ; } button { background-color: @nothing }", None),
    ],
)
def test_fill(sheet, expected):
    assert paint(sheet, [A])[A].fill == expected


def test_text_is_inherited_and_edges_are_not():
    sheet = "window { color: #111111; border: 1px solid red } box { border-bottom-color: lime } label { }"
    found = paint(sheet, ["window > box > label", "window > box", "window"])
    assert found["window > box > label"].text == Rgba(17, 17, 17)
    assert found["window > box > label"].edge is None
    assert found["window > box"].edge == Rgba(0, 255, 0)
    assert found["window"].edge == Rgba(255, 0, 0)


def test_fills_lie_on_one_another():
    sheet = "window { background-color: #000 } box { background-color: rgba(255,255,255,.5) }"
    assert paint(sheet, ["window > box > label"])["window > box > label"].fills == (
        (Rgba(0, 0, 0),), (Rgba(255, 255, 255, 0.5),), (),
    )  # fmt: skip


def test_older_names_of_states_are_the_same_states():
    sheet = "a:insensitive { color: red }"
    assert paint(sheet, ["a:disabled"])["a:disabled"].text == paint(sheet, ["a:insensitive"])["a:insensitive"].text


def test_literals_can_be_exchanged_without_the_text():
    sheet = "a { color: #111; background: #222 }"
    found = paint_literals(sheet, [Rgba(9, 9, 9), Rgba(8, 8, 8)], ["a"])["a"]
    assert found.text == Rgba(9, 9, 9) and found.fill == Rgba(8, 8, 8)
    assert paint(sheet, ["a"])["a"].text == Rgba(17, 17, 17)
    assert paint_literals(sheet, [Rgba(9, 9, 9), Rgba(8, 8, 8)], ["b", "a"])["b"].text is None
    assert paint_literals(sheet, [Rgba(9, 9, 9), Rgba(7, 7, 7)], ["b", "a"])["a"].fill == Rgba(7, 7, 7)


def test_functions_of_the_toolkit():
    assert mix(Rgba(0, 0, 0), Rgba(255, 255, 255), 0.25) == Rgba(64, 64, 64)
    assert shade(Rgba(100, 100, 100), 1.3) == Rgba(130, 130, 130)
    assert shade(Rgba(200, 200, 200), 2.0) == Rgba(255, 255, 255)


def test_inherit_takes_the_colour_from_above_whatever_weaker_rules_say():
    sheet = "bar { color: #ffffff } button { color: #000000 } bar button.flat { color: inherit }"
    found = paint(sheet, ["bar > button", "bar > button.flat", "button.flat"])
    assert found["bar > button"].text == Rgba(0, 0, 0) and found["bar > button.flat"].text == Rgba(255, 255, 255)
    assert found["button.flat"].text == Rgba(0, 0, 0)


@pytest.mark.parametrize("gap", ["", " ", "\n\t"])
def test_functions_may_stand_apart_from_their_bracket(gap):
    """As the toolkit reads them, and themes are written."""
    sheet = f"@define-color quiet mix{gap}(#ffffff, #000000, 0.5); label {{ color: @quiet }}"
    assert paint(sheet, ["label"])["label"].text == Rgba(128, 128, 128)


COLOURS = st.tuples(*[st.integers(0, 255)] * 3).map(lambda c: Rgba(*c))


@given(st.lists(st.lists(COLOURS, min_size=4, max_size=4), min_size=2, max_size=6))
def test_defined_colours_follow_the_literals_that_they_come_from(rows):
    skeleton = """
        @define-color a __literal0; @define-color b shade(@a, 1.2); @define-color later mix(@d, @b, 0.5);
        @define-color c __literal1; @define-color d alpha(@c, 0.4); @define-color a mix(__literal2, @c, 0.3);
        label { color: @later; background-color: __literal3; }
    """
    sheet = Sheet(skeleton)
    sheet.know(["label"])
    sheet.name_roots(rows[0])
    for literals in rows:
        fresh = Sheet(skeleton)
        fresh.know(["label"])
        assert sheet.names(literals) == fresh.names(literals)
        assert sheet.paint(literals, ["label"]) == fresh.paint(literals, ["label"])


def test_sheets_that_differ_in_comments_alone_are_taken_apart_once():
    """What stands in strings is no comment, and what only looks like the end of one ends none."""
    rows = ("label {{ color: #123456; }}", "/* a", '/* b */ entry {{ background: url("x/*y"); color: #abcdef; }}')
    text = "\n".join(("/* {} */", *rows))
    first, second = (paint(text.format(name), ["label", "entry"]) for name in ("Fog", "Dusk /* Rain"))
    assert first == second and first["entry"].text == Rgba(0xAB, 0xCD, 0xEF)
    rules = {id(_compile(f"/* {n} */ label {{ content: '/* {k} */'; color: __literal0 }}")) for n in "ab" for k in "cd"}
    assert len(rules) == 2
