"""Contracts over every scanner, and what each finds in its own syntax."""

from __future__ import annotations

import json
import random
import shutil
import subprocess
from itertools import pairwise
from pathlib import Path

import pytest
import tinycss2
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour.rgb import Rgba
from mellow_finch.recolour.rewrite import new_colours, respelled, rewrite, subject_of
from mellow_finch.syntax.catalogue import format_by_id, format_of, formats, read_format
from mellow_finch.syntax.css import scan_css
from mellow_finch.syntax.ini import drop_keys, ini_colours, read_ini, set_keys
from mellow_finch.syntax.literals import NAMES, read_literal, respell
from mellow_finch.syntax.lua import lua_settings, scan_lua
from mellow_finch.syntax.notations import NOTATIONS, read_as, spell_as
from mellow_finch.syntax.region import BEGIN, END, put_region
from mellow_finch.syntax.spans import line_of, replace_spans
from mellow_finch.syntax.xml import extents
from mellow_finch.syntax.xresources import resource_value, scan_xresources, xresources_colours
from tests.every import every

SAMPLES = json.loads(
    (Path(__file__).parents[1] / "data" / "samples.json").read_text()
)  # by format: a text, and how many colours


@pytest.fixture(params=[f.id for f in formats()])
def form(request):
    return format_by_id(request.param)


def check(spans, text):
    assert all(0 <= s.start < s.end <= len(text) for s in spans)
    assert all(a.end <= b.start for a, b in pairwise(spans))


def test_finds_what_there_is(form):
    text, count = SAMPLES[form.id]
    spans = form.scan(text)
    check(spans, text)
    assert len(spans) == count, [text[s.start : s.end] for s in spans]


def test_null_rewrite_is_the_identity(form):
    sample = SAMPLES[form.id][0]
    for text in (sample, sample.replace("\n", "\r\n"), "\ufeff" + sample, sample.rstrip("\n"), ""):
        spans = form.scan(text)
        assert respelled(text, spans, [s.colour for s in spans]) == text


def test_new_colours_are_found_again_and_all_else_stays(form):
    text = SAMPLES[form.id][0]
    spans = form.scan(text)
    fresh = [Rgba(16 + i, 32, 48, s.colour.a) for i, s in enumerate(spans)]
    changed = respelled(text, spans, fresh)
    again = form.scan(changed)
    assert [s.colour[:3] for s in again] == [c[:3] for c in fresh]
    assert all(abs(a.colour.a - c.a) < 0.01 for a, c in zip(again, fresh, strict=True))

    def bare(whole, found):
        return replace_spans(whole, ((s, "") for s in found))

    assert bare(changed, again) == bare(text, spans)


def test_every_format_is_told_by_its_own_sample(form):
    text = SAMPLES[form.id][0]
    named = next(g for g in form.globs)
    name = named.replace("*", "x")
    found = format_of(name, text)
    assert found is not None and len(found.scan(text)) == SAMPLES[form.id][1], found


def test_a_new_format_is_one_data_file():
    row = """
title = "Tide table"
reader = "the tide clock"
syntax = "keyed"
globs = ["*.tide"]
notations = ["argb"]
comments = ["%"]
separators = ":"
alpha = true
roles = [['/ebb$', 'panel']]
"""
    form = read_format("tide", row)
    assert format_of("reed/low.tide", "", [form]) is form
    (span,) = form.scan("% #ff000000\nebb: #80102030\n")
    assert span.colour[:3] == (16, 32, 48) and form.role_of(span) == "panel"
    assert respelled("ebb: #80102030", form.scan("ebb: #80102030"), [Rgba(1, 2, 3, 128 / 255)]) == "ebb: #80010203"


@every("seed", range(8))
def test_torn_text_never_raises(form, seed):
    rng = random.Random(seed)
    text = SAMPLES[form.id][0]
    cut = text[: rng.randrange(len(text))]
    noise = "".join(rng.choice(text + "{}[]()\"'#;:/*\\\n\0") for _ in range(200))
    for whole in (cut, noise, cut + noise):
        check(form.scan(whole), whole)


@given(st.text(max_size=120))
def test_any_text_never_raises(text):
    for form in formats():
        check(form.scan(text), text)


@pytest.mark.long
@pytest.mark.parametrize("name", [n for n in NOTATIONS if n not in ("name", "bare-name", "hash-word", "left")])
@given(rgb=st.tuples(*[st.integers(0, 255)] * 3), alpha=st.integers(0, 255))
def test_every_notation_says_what_it_is_told(name, rgb, alpha):
    old = {
        "hex": "#abcdef", "hexa": "#abcdef12", "argb": "#12abcdef", "deep": "#aaaabbbbcccc", "bare": "ABCDEF",
        "bare-alpha": "abcdef12", "bare-argb": "12abcdef", "0x": "0x12ABCDEF", "function": "rgba(1, 2, 3, 0.5)",
        "wide": "hwb(10 20% 30% / 0.5)", "qt-function": "rgba(1, 2, 3, 50%)", "hex-inside": "rgba( abcdef12 )", "x11": "rgb:ab/cd/ef",
        "decimals": "1,2,3,4", "semicolons": "1;;2;;3;;4", "braces": "{ 0.5, 0.25, 0.1 }",
        "sgr": "1;2;3", "columns": "  1   2   3", "integer": "66051",
    }[name]  # fmt: skip
    wanted = Rgba(*rgb, alpha / 255 if NOTATIONS[name].alpha else 1.0)
    again = read_as(name, spell_as(name, old, wanted))
    assert again is not None and again[:3] == wanted[:3] and abs(again.a - wanted.a) < 0.006
    assert spell_as(name, old, read_as(name, old)) == old


def test_x_reads_short_colours_from_the_left():
    (span,) = scan_xresources("*c: #a1f")
    assert span.colour == Rgba(0xA0, 0x10, 0xF0)
    assert respelled("*c: #a1f", [span], [Rgba(0x11, 0x22, 0x33)]) == "*c: #112233"


def test_css_contexts():
    spans = scan_css("@media (x: y) { #panel .b:hover {\n color : #fff }\n}\n@define-color bg white;")
    assert [(s.where, s.key) for s in spans] == [("@media (x: y) #panel .b:hover", "color"), ("", "@define-color bg")]


def test_css_agrees_with_an_independent_tokenizer(files):
    text = files(".local/share/themes/Saltpan/gnome-shell/gnome-shell.css").decode()
    wanted = 0

    def count(tokens):
        nonlocal wanted
        for t in tokens:
            if (
                t.type == "hash"
                or (t.type == "function" and t.lower_name in ("rgb", "rgba"))
                or (t.type == "ident" and t.lower_value in NAMES and t.lower_value != "transparent")
            ):
                wanted += 1
            elif t.type == "function":
                count(t.arguments)

    for rule in tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True):
        for item in tinycss2.parse_declaration_list(rule.content, skip_comments=True, skip_whitespace=True):
            if item.type == "declaration":
                count(item.value)
    assert len(scan_css(text)) == wanted > 400


def lua_says(text: str, tmp_path) -> dict[str, str]:
    lua = shutil.which("lua5.4") or shutil.which("lua5.3") or shutil.which("lua")
    if lua is None:
        pytest.skip("NO LUA: install lua5.4 to check widget files with a real Lua")
    path = tmp_path / "widget.lua"
    path.write_text(
        "conky = {}\n" + text + "\nfor k, v in pairs(conky.config) do print(k .. '\\t' .. tostring(v)) end\n"
        "print('fg\\t' .. string.format('%06x', tide.dial.fg_colour))\nprint('sum\\t' .. tide.checksum)\n"
    )
    done = subprocess.run([lua, str(path)], capture_output=True, text=True, timeout=20)
    assert done.returncode == 0, done.stderr
    return dict(line.split("\t", 1) for line in done.stdout.splitlines())


@pytest.mark.consumer
def test_lua_agrees_with_a_real_lua(files, look, tmp_path):
    text = files(".config/conky/conky.conf").decode()
    before = lua_says(text, tmp_path)
    for key, value in lua_settings(text).items():
        if key in before and key != "template0":
            assert before[key] == value, key
    subject = subject_of(text, scan_lua)
    fresh = new_colours(subject, look.colours)
    after = lua_says(rewrite(subject, fresh), tmp_path)
    accent = look.colours["accent"].hex.removeprefix("#")
    assert after["color1"] == after["fg"] == accent and after["color0"] == accent.upper()
    named = {s.key: c for s, c in zip(subject.spans, fresh, strict=True)}
    assert after["default_color"] == named["default_color"].hex and after["sum"] == before["sum"]
    assert after["color3"] == named["color3"].hex  # a name becomes hexadecimal
    assert {k: v for k, v in after.items() if "colo" not in k and k != "fg"} == {
        k: v for k, v in before.items() if "colo" not in k and k != "fg"
    }


@pytest.mark.parametrize(
    "old, colour, new",
    [
        ("#ABC", Rgba(0x11, 0x22, 0x33), "#123"), ("#ABC", Rgba(1, 2, 3), "#010203"), ("#aabbcc", Rgba(255, 0, 10), "#ff000a"),
        ("#AABBCC", Rgba(255, 0, 10), "#FF000A"), ("0xABCDEF", Rgba(1, 2, 254), "0x0102FE"), ("abcdef", Rgba(1, 2, 3), "010203"),
        ("rgb(1,2,3)", Rgba(4, 5, 6), "rgb(4,5,6)"), ("rgba( 1 , 2 , 3 , .5 )", Rgba(4, 5, 6, 0.5), "rgba( 4 , 5 , 6 , .5 )"),
        ("rgba(1,2,3,.5)", Rgba(4, 5, 6, 0.25), "rgba(4,5,6,0.25)"), ("rgb(10%, 20%, 30%)", Rgba(255, 0, 51), "rgb(100%, 0%, 20%)"),
        ("red", Rgba(1, 2, 3), "#010203"), ("red", Rgba(255, 0, 0), "red"), ("#11223344", Rgba(1, 2, 3, 0x44 / 255), "#01020344"),
        ("1,2,3", Rgba(4, 5, 6), "4,5,6"), ("hsl(0, 100%, 50%)", Rgba(0, 255, 0), "hsl(120, 100%, 50%)"),
        ("#112233", Rgba(1, 2, 3, 0.5), "rgba(1, 2, 3, 0.5)"), ("rgb(1, 2, 3)", Rgba(4, 5, 6, 0.5), "rgba(4, 5, 6, 0.5)"),
    ],
)  # fmt: skip
def test_spelling_style_is_kept(old, colour, new):
    assert respell(old, colour) == new


@given(
    st.sampled_from(["#abc", "#AABBCC", "rgb(1, 2, 3)", "rgba(9,8,7,0.4)", "#11223344", "red"]),
    st.tuples(*[st.integers(0, 255)] * 3),
)
def test_respelled_means_the_colour(old, rgb):
    before = read_literal(old)
    assert before is not None
    wanted = Rgba(*rgb, before.a)
    again = read_literal(respell(old, wanted))
    assert again is not None and again[:3] == wanted[:3] and abs(again.a - wanted.a) < 1e-6


def test_ini_keeps_every_other_line():
    text = "; top\r\n[A]\r\nx = 1\r\n# note\r\n\r\n[B][C]\r\ny=2"
    assert read_ini(text) == {"A/x": "1", "B][C/y": "2"}
    assert set_keys(text, "A", {"x": "9"}) == text.replace("x = 1", "x = 9")
    assert set_keys(text, "A", {"z": "3"}) == text.replace("# note\r\n", "# note\r\nz=3\r\n")
    assert set_keys(text, "D", {"k": "v"}).endswith("y=2\r\n\r\n[D]\r\nk=v\r\n")
    assert set_keys("", "S", {"k": "v"}) == "[S]\nk=v\n"
    assert set_keys("[S]\na = 1\n", "S", {"a": "2", "k": "v"}, " = ") == "[S]\na = 2\nk = v\n"
    assert drop_keys(text, "A", ("x",)) == text.replace("x = 1\r\n", "")
    assert ini_colours("[A]\nx=1,2,3\ny=1,2\n") == {"A/x": Rgba(1, 2, 3)}


def test_x_resources_and_our_region():
    assert xresources_colours("*color1: red\nXTerm*color1: #00ff00\n") == {"color1": Rgba(0, 255, 0)}
    assert scan_xresources("!*color1: red\n") == []
    mine = "*faceName: Mono\n"
    once = put_region(mine, "*a: 1", ("!", ""))
    assert once == f"{mine}! {BEGIN}\n*a: 1\n! {END}\n"
    assert put_region(once, "*a: 2", ("!", "")) == once.replace("*a: 1", "*a: 2")
    assert put_region("x: y", "b", ("!", "")).startswith("x: y\n! >>>")


@given(
    st.text(alphabet="ab=#\n é", max_size=60),
    st.text(alphabet="xy\n", max_size=20),
    st.sampled_from([("#", ""), ("/*", "*/"), ("--", "")]),
    st.sampled_from(["start", "end"]),
)
def test_a_region_keeps_every_other_byte_and_is_replaced_in_place(text, body, comment, place):
    once = put_region(text, body, comment, place)
    begin, end = once.index(comment[0] + " >>>"), once.index("<<< mellow-finch")
    assert begin < end and text.strip("\n") in once
    assert put_region(once, body, comment, place) == once
    other = put_region(once, "zz", comment, place)
    assert other.count("mellow-finch") == 2 and text.strip("\n") in other and "zz" in other
    crlf = put_region("a = 1\r\n", "b\nc", comment, place)
    assert crlf.count("\n") == crlf.count("\r\n")


def test_lines_and_columns_count_from_one():
    assert line_of("ab\ncd", 4) == (2, 2) and line_of("ab", 0) == (1, 1)


@given(
    st.text(alphabet="ab=[]#\n\r ;1", max_size=80),
    st.dictionaries(
        st.sampled_from(["a", "b", "a][b"]),
        st.dictionaries(st.sampled_from(["a", "b", "c"]), st.just("9"), max_size=3),
        max_size=3,
    ),
)
def test_several_sections_are_set_as_one_by_one(text, sections):
    from mellow_finch.syntax.ini import set_keys, set_sections

    one_by_one = text
    for name, keys in sections.items():
        one_by_one = set_keys(one_by_one, name, keys)
    assert set_sections(text, sections) == one_by_one


@pytest.mark.parametrize(
    "text, value",
    [
        ("*background: 1\nXTerm*background: 2", "2"),
        ("XTerm*background: 1\n*background: 2", "1"),
        ("XTerm*background: 1\nxterm*background: 2", "2"),
        ("xterm*background: 1\nXTerm.vt100.background: 2", "1"),
        ("XTerm*background: 1\nXTerm*VT100*background: 2\nXTerm*vt100.background: 3", "3"),
        ("XTerm.vt100.background: 1\nXTerm*background: 2", "1"),
        ("*VT100.background: 1\nXTerm*background: 2", "2"),
        ("XTerm*Background: 1\n*background: 2", "1"),
        ("XTerm.?.background: 1\nXTerm*background: 2", "1"),
        ("XTerm*background: 1\nXTerm*background: 2", "2"),
        ("XClock*background: 1", None),
        ("XTerm*vt100.scrollbar.background: 1", None),
        ("", None),
    ],
)
def test_the_closest_resource_wins(text, value):
    """Worked out by the resource manager's rules, and heard from xterm itself in tests/consumers/test_terminals.py."""
    question = ("xterm", "vt100", "background"), ("XTerm", "VT100", "Background")
    assert resource_value(text, *question) == value


def test_elements_are_told_with_where_they_begin_and_end():
    text = '<svg><!-- <g id="no"> --><g id="a"><g id="b"/><path id=\'c\'></path></g><g id="open"><p></g></svg>'
    found = extents(text)
    assert {k: text[s:e] for k, (s, e) in found.items()} == {
        "a": '<g id="a"><g id="b"/><path id=\'c\'></path></g>',
        "b": '<g id="b"/>',
        "c": "<path id='c'></path>",
    }


def test_settings_of_a_widget_may_stand_several_on_a_line():
    text = "conky.config = { default_color='e4e1e8', color1=\"7aa2f7\", -- color2='ff0000',\n  own_window = true, alpha=3 }"
    assert lua_settings(text) == {"default_color": "e4e1e8", "color1": "7aa2f7", "own_window": "true", "alpha": "3"}
