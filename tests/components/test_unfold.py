"""Files that take in others: read where they are named, and parted again byte for byte."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.components.files import Layered, NoFiles
from mellow_finch.components.read.unfold import Include, home_path, unfolded
from mellow_finch.components.read.values import ReadingRule, values_in
from mellow_finch.syntax.ini import read_ini, set_keys, set_sections
from mellow_finch.syntax.region import put_region

LINES = Include(re.compile(r"(?m)^include[ \t]+([^\n]+)"))
SECTIONED = Include(re.compile(r"(?m)^include[ \t]*=[ \t]*([^\n]+)"), (";", ""), True)
SHEET = Include(re.compile(r"""@import\s+["']([^"']+)["'];"""), ("/*", "*/"))


def files(**texts: str) -> Layered:
    return Layered(
        NoFiles(), {name.replace("__", "/").replace("_", "."): text.encode() for name, text in texts.items()}
    )


NAMES = ("a.conf", "b.conf", "sub/c.conf", "d.conf")
LINE = st.sampled_from(
    [
        *(f"include {n}" for n in NAMES),
        "include ../a.conf",
        "include /etc/x",
        "include *.conf",
        "key #aabbcc",
        "",
        "# no",
        "x\r",
    ]
)


@given(st.dictionaries(st.sampled_from(NAMES), st.lists(LINE, max_size=6), min_size=1), st.booleans())
def test_what_was_taken_in_is_parted_exactly(graph, ending):
    texts = {name: "\n".join(lines) + ("\n" if ending else "") for name, lines in graph.items()}
    home = Layered(NoFiles(), {n: t.encode() for n, t in texts.items()})
    for start in texts:
        whole = unfolded(home, start, LINES)
        parted = dict(whole.folded(whole.text))
        assert all(texts[name] == text for name, text in parted.items()) and start in parted
        louder = dict(whole.folded(whole.text.replace("#aabbcc", "#112233")))
        assert louder == {n: t.replace("#aabbcc", "#112233") for n, t in parted.items()}


def test_order_and_sections_are_the_readers():
    home = files(main_ini="[colors]\na=1\ninclude=~/sub_ini\nb=2\n", sub_ini="[cursor]\nc=3\n")
    home = Layered(home, {"sub_ini": b"[cursor]\nc=3\n"})
    whole = unfolded(home, "main.ini", SECTIONED)
    assert read_ini(whole.text) == {"colors/a": "1", "cursor/c": "3", "colors/b": "2"}
    sheet = Layered(NoFiles(), {"x/a.css": b"@import 'b.css'; p{}", "x/b.css": b"q{color:red}"})
    text = unfolded(sheet, "x/a.css", SHEET).text
    assert text.index("q{color:red}") < text.index("p{}")


@pytest.mark.parametrize(
    "word, path",
    [
        ("~/.config/x", ".config/x"), ('"$HOME/x y"', "x y"), ("${XDG_CONFIG_HOME}/foot/a", ".config/foot/a"),
        ("b.conf", ".config/kitty/b.conf"), ("../b", ".config/b"), ("/etc/passwd", ""), ("../../../x", ""), ("", ".config/kitty"),
    ],
)  # fmt: skip
def test_paths_as_configurations_spell_them(word, path):
    assert home_path(NoFiles(), word, ".config/kitty/kitty.conf") == path


def test_the_file_that_is_chosen_counts_not_the_first():
    reading = ReadingRule(
        paths=("colours/{chosen}.conf",),
        format="terminal-words",
        via=(("rc", re.compile(r"(?m)^theme (\w+)$")),),
    )
    home = Layered(
        NoFiles(),
        {
            "rc": b"theme b\ntheme c\n",
            **{f"colours/{n}.conf": f"background #0000{i}{i}".encode() for i, n in enumerate("abc")},
        },
    )
    assert values_in(home, (reading,))["background"].hex == "#000022"
    plain = Layered(NoFiles(), {"colours/a.conf": b"background #000011"})
    assert values_in(plain, (reading,))["background"].hex == "#000011"


def test_a_key_that_stands_twice_is_set_each_time():
    text = "[a]\nx=1\ny=2\nx=3\n[b]\nx=4\n[a]\nx=5\n"
    meant = "[a]\nx=9\ny=2\nx=9\n[b]\nx=4\n[a]\nx=9\n"
    assert set_keys(text, "a", {"x": "9"}) == meant and set_sections(text, {"a": {"x": "9"}}) == meant


def test_a_region_goes_back_to_the_end_where_it_wins():
    once = put_region("a\n", "ours")
    assert put_region(once, "ours") == once
    later = put_region(once + "b\n", "ours")
    assert later.index("b\n") < later.index("ours") and later.count("ours") == 1
    two = put_region(put_region("a\n", "first", name="one"), "second", name="two")
    assert two.count(">>>") == 2 and put_region(two, "other", name="one").count("second") == 1
