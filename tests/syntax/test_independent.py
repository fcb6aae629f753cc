"""Every literal is found: the scanners against parsers and tokenizers that are not ours, on files made at random."""

from __future__ import annotations

import configparser
import json
import re
import tomllib
import xml.etree.ElementTree as ET

import pytest
import tinycss2
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.syntax.catalogue import format_by_id
from mellow_finch.syntax.literals import NAMES

HEX = st.integers(0, 0xFFFFFF).map(lambda v: f"#{v:06x}")
BYTE = st.integers(0, 255)
TRIPLES = st.tuples(BYTE, BYTE, BYTE).map(lambda t: ",".join(map(str, t)))
WORDS = st.sampled_from(["12", "Sans 10", "true", "left_ptr", "a/b.png", "", "4px"])
NAMED = st.sampled_from([n for n in sorted(NAMES) if n != "transparent"])
CALLS = st.tuples(BYTE, BYTE, BYTE).map(lambda t: f"rgba({t[0]}, {t[1]}, {t[2]}, 0.5)")


def found(form, text):
    return [text[s.start : s.end] for s in format_by_id(form).scan(text)]


KEYED = {  # format: how its colours are spelled, the section that its keys stand in, the mark between key and value
    "kde-scheme": (TRIPLES, "Colors:View", "="),
    "terminal-scheme": (TRIPLES, "Color1", "="),
    "bar-ini": (st.integers(0, 0xFFFFFFFF).map(lambda v: f"#{v:08X}"), "bar/main", " = "),
    "terminal-bare": (st.integers(0, 0xFFFFFF).map(lambda v: f"{v:06x}"), "colors", "="),
    "launcher-bare": (st.integers(0, 0xFFFFFFFF).map(lambda v: f"{v:08x}"), "colors", "="),
    "dock-keys": (st.tuples(BYTE, BYTE, BYTE, BYTE).map(lambda t: ";;".join(map(str, t))), "PlankTheme", "="),
    "notification-keys": (HEX, "urgency=high", "="),
    "desktop-palette": (HEX, "Palette", "="),
    "lock-bare": (st.integers(0, 0xFFFFFF).map(lambda v: f"{v:06x}"), "", "="),
    "panel-blocks": (HEX, "", " = "),
}
KEYS = {
    "kde-scheme": "BackgroundNormal{}", "terminal-scheme": "Color{}", "bar-ini": "background-{}", "terminal-bare": "regular{}",
    "launcher-bare": "text{}", "dock-keys": "FillStartColor{}", "notification-keys": "text-color{}",
    "desktop-palette": "base{}_color", "lock-bare": "ring{}-color", "panel-blocks": "background_color{}",
}  # fmt: skip


@pytest.mark.long
@pytest.mark.parametrize("form", KEYED)
@given(data=st.data())
def test_settings_against_configparser(form, data):
    colours, section, mark = KEYED[form]
    rows = data.draw(st.lists(st.one_of(colours.map(lambda c: (True, c)), WORDS.map(lambda w: (False, w))), max_size=8))
    lines = [f"[{section}]"] if section else []
    for i, (coloured, value) in enumerate(rows):
        key = KEYS[form].format(i % 8 if form == "terminal-bare" else i) if coloured else f"other{i}"
        lines += [f"; note {value}" if i % 5 == 4 and form in ("bar-ini",) else "", f"{key}{mark}{value}"]
    text = "\n".join(lines) + "\n"
    parser = configparser.ConfigParser(interpolation=None, strict=False, delimiters=("=",), comment_prefixes=("#", ";"))
    parser.optionxform = str
    parser.read_string(text if section else f"[top]\n{text}")
    wanted = {v for s in parser.sections() for k, v in parser[s].items() if not k.startswith("other")}
    assert set(found(form, text)) == wanted


@given(st.dictionaries(st.sampled_from(["black", "red", "cyan", "white"]), HEX), st.lists(HEX, max_size=4), HEX)
def test_toml_against_tomllib(named, listed, note):
    text = "[colors.normal]\n" + "".join(f'{k} = "{v}" # {note}\n' for k, v in named.items())
    text += "[colors]\nansi = [\n" + "".join(f'  "{c}",\n' for c in listed) + "]\n[font]\nsize = 11\n"
    data = tomllib.loads(text)
    wanted = [*data["colors"]["normal"].values(), *data["colors"]["ansi"]]
    assert found("terminal-toml", text) == wanted


@given(
    st.recursive(
        st.one_of(HEX, CALLS, st.integers(), st.booleans()),
        lambda inner: st.one_of(
            st.lists(inner, max_size=4),
            st.dictionaries(st.sampled_from(["bg", "text", "#112233", "palette"]), inner, max_size=4),
        ),
        max_leaves=14,
    ),
    st.sampled_from([None, 1]),
)
def test_json_against_json(value, indent):
    text = json.dumps({"theme": value}, indent=indent)

    def colours(part):
        if isinstance(part, dict):
            return [c for v in part.values() for c in colours(v)]
        if isinstance(part, list):
            return [c for v in part for c in colours(v)]
        return [part] if isinstance(part, str) else []

    assert found("json", text) == colours(json.loads(text))


SHAPES = st.lists(
    st.tuples(
        st.sampled_from(["fill", "stroke", "stop-color", "id", "d"]), st.one_of(HEX, NAMED, CALLS), st.booleans()
    ),
    max_size=10,
)


@given(SHAPES, st.lists(HEX, max_size=3), HEX)
def test_drawings_against_an_xml_parser(shapes, styled, note):
    rows = "".join(
        f'<{"mask" if masked else "g"}><rect {key}="{value}"/></{"mask" if masked else "g"}>'
        for key, value, masked in shapes
    )
    sheet = "".join(f".c{i} {{ fill: {c} }}" for i, c in enumerate(styled))
    text = f"<svg><!-- {note} --><style>{sheet}</style>{rows}<path style='fill:{note};opacity:1'/></svg>"
    wanted: list[str] = []

    def walk(element):
        if element.tag == "mask":
            return
        if element.tag == "style":
            tokens = tinycss2.parse_component_value_list(element.text or "")
            wanted.extend(f"#{t.value}" for b in tokens if b.type == "{} block" for t in b.content if t.type == "hash")
        wanted.extend(element.get(key) for key in ("fill", "stroke", "stop-color") if element.get(key))
        wanted.extend(re.findall(r"fill:([^;]+)", element.get("style") or ""))
        for child in element:
            walk(child)

    walk(ET.fromstring(text))
    assert found("svg", text) == wanted


@given(
    st.lists(
        st.tuples(
            st.sampled_from(["color", "background", "border", "font-family", "margin"]),
            st.one_of(HEX, NAMED, CALLS, WORDS),
        ),
        max_size=14,
    ),
    st.sampled_from(["style-sheet", "scss", "rasi"]),
)
def test_sheets_against_tinycss2(rows, form):
    text = "/* #123456 red */\n" + "".join(f".a{i}:hover {{\n  {k}: 1px {v};\n}}\n" for i, (k, v) in enumerate(rows))
    wanted: list[str] = []
    for rule in tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True):
        for d in tinycss2.parse_declaration_list(rule.content, skip_comments=True, skip_whitespace=True):
            wanted.extend(
                t.serialize()
                for t in (d.value if d.type == "declaration" else ())
                if t.type in ("hash", "function")
                or (t.type == "ident" and t.lower_value in NAMES and d.name != "font-family")
            )
    assert [s.replace(" ", "") for s in found(form, text)] == [w.replace(" ", "") for w in wanted]


@given(
    st.lists(
        st.tuples(
            st.sampled_from(["*color1", "XTerm*background", "a.cursorColor", "*faceName"]), st.one_of(HEX, NAMED, WORDS)
        ),
        max_size=12,
    )
)
def test_resources_line_by_line(rows):
    text = "".join(f"{k}:\t{v}\n! {k}: {v}\n" for k, v in rows)
    wanted = [v for _, v in rows if v.startswith("#") or v in NAMES]
    assert found("x-resources", text) == wanted
