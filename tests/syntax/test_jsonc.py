"""JSON with comments: what is set is there, everything else is kept to the byte."""

from __future__ import annotations

import json
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.syntax.jsonc import set_members

OWN = """// mine
{
    "editor.fontSize": 13, // large
    /* "workbench.colorTheme": "Old", */
    "files.exclude": { "**/.git": true, },
    "workbench.colorCustomizations": {
        "editor.background": "#ff2fa0", // shrill
        "[Marsh]": { "editor.background": "#000000" }
    },
}
"""


def plain(text):
    """Return what a text means, read without comments and trailing commas, by a way of its own."""
    bare = re.sub(r'("(?:[^"\\]|\\.)*")|//[^\n]*|/\*.*?\*/', lambda m: m.group(1) or " ", text, flags=re.S)
    bare = re.sub(r'("(?:[^"\\]|\\.)*")|,(\s*[}\]])', lambda m: m.group(1) or m.group(2), bare)
    return json.loads(bare)


def test_members_are_set_and_comments_and_commas_stay():
    out = set_members(
        OWN, {"workbench.colorCustomizations": {"editor.background": "#101214", "tab.border": "#fff"}, "x": 1}
    )
    assert plain(out)["workbench.colorCustomizations"]["editor.background"] == "#101214"
    assert plain(out)["workbench.colorCustomizations"]["tab.border"] == "#fff"
    assert plain(out)["workbench.colorCustomizations"]["[Marsh]"] == {"editor.background": "#000000"}
    kept = [line for line in OWN.splitlines() if "shrill" not in line]
    fresh = iter(out.splitlines())
    assert all(line in fresh for line in kept) and "// shrill" in out
    assert set_members(out, {"x": 1}) == out


VALUES = st.recursive(
    st.one_of(st.none(), st.booleans(), st.integers(-9, 9), st.text('ab/*,{}[]"\\é:', max_size=6)),
    lambda inner: st.one_of(
        st.lists(inner, max_size=3), st.dictionaries(st.text("ab.", max_size=3), inner, max_size=3)
    ),
    max_leaves=8,
)
OBJECTS = st.dictionaries(st.text("abc.", max_size=3), VALUES, max_size=5)


def merged(old, new):
    return {
        **old,
        **{k: merged(old[k], v) if isinstance(v, dict) and isinstance(old.get(k), dict) else v for k, v in new.items()},
    }


@given(OBJECTS, OBJECTS, st.sampled_from([None, 2, 4, "\t"]), st.booleans())
def test_any_members_are_set_in_any_object(old, new, indent, crlf):
    text = json.dumps(old, indent=indent)
    text = text.replace("\n", "\r\n") if crlf else text
    out = set_members(text, new)
    assert json.loads(out) == merged(old, new)
    assert set_members(out, new) == out


@pytest.mark.parametrize("text", ["[1]", "{", '{"a": }x', "{'a': 1}", "nothing", '{"a" 1}', "{" * 100])
def test_what_is_no_object_is_refused(text):
    with pytest.raises(ValueError):
        set_members(text, {"a": 1})


def test_an_empty_file_becomes_an_object():
    assert json.loads(set_members("\n", {"a": {"b": "#fff"}})) == {"a": {"b": "#fff"}}
