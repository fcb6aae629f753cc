"""Whole themes: grouped, recoloured, mended, laid out; nothing but literals changes unless nothing else helps."""

from __future__ import annotations

import random
import re
from dataclasses import replace
from itertools import pairwise

import cssselect2
import pytest
import tinycss2
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.colour.rgb import Rgba, parse_hex
from mellow_finch.components.decisions import Decisions, Owner, Slot
from mellow_finch.components.judge import Behind
from mellow_finch.demo.turnstone import turnstone_archive, turnstone_files
from mellow_finch.errors import Cancelled, FileAccessError, FinchError, ParseError, UnsafeArchiveError
from mellow_finch.look.decision_edits import with_choice, with_split
from mellow_finch.look.edits import with_tone
from mellow_finch.look.file import look_from_json, look_to_json
from mellow_finch.look.theme_edits import with_brought, with_left, with_words
from mellow_finch.palette.roles import ROLE_IDS
from mellow_finch.recolour.groups import KEEP, group_spans, states_of
from mellow_finch.syntax.cascade import paint
from mellow_finch.syntax.sheet import Sheet
from mellow_finch.syntax.spans import replace_spans
from mellow_finch.theme.bundle.foreign import ThisComputer, foreign_words, suggested
from mellow_finch.theme.bundle.model import roots_of
from mellow_finch.theme.bundle.opened import open_bundle
from mellow_finch.theme.bundle.read import open_theme, read_theme
from mellow_finch.theme.result.account import Choices, MeasuredFailure
from mellow_finch.theme.result.recolour import recolour_theme
from mellow_finch.theme.sheets.mender import Mender
from mellow_finch.theme.sheets.places import all_parts, nested_parts
from mellow_finch.theme.sheets.rules import BEGIN
from mellow_finch.theme.sheets.shown import shown_now, shown_paints
from mellow_finch.wear.themes import lay_down

SHEET = "themes/Turnstone/gtk-3.0/gtk.css"


@pytest.fixture(scope="module")
def theme(tmp_path_factory):
    path = tmp_path_factory.mktemp("t") / "Turnstone.tar.gz"
    path.write_bytes(turnstone_archive())
    return open_theme(path)


@pytest.fixture(scope="module")
def dark(looks):
    return looks[0].scheme()


@pytest.fixture(scope="module")
def outcome(theme, dark):
    return recolour_theme(theme, dark)


def same_theme(theme):
    """Return a scheme under which every anchor of a theme is what it is."""
    colours = dict.fromkeys(ROLE_IDS, Rgba(0, 0, 0))
    for family in theme.families:
        colours |= {role: colour for colour, role in reversed(family.leading)}
    return colours


# Nothing but literals


def test_keeping_every_group_changes_no_byte(theme, dark):
    choices = Choices(Decisions.spelled({g.key: KEEP for f in theme.families for g in f.groups}))
    result = recolour_theme(theme, replace(dark, mend=False), choices)
    for path, text in theme.texts.items():
        if path in result.fresh:
            assert result.fresh[path] == text.text
    kept = [p for p in theme.bundle.entries if p.startswith("themes/") and not p.endswith(("index.theme", ".png"))]
    for path in kept:
        placed = next(o for o in result.outputs if o.endswith(path.partition("/Turnstone/")[2]))
        assert result.outputs[placed].data == theme.bundle.data(path)


def test_only_literals_change_and_the_count_is_what_a_diff_says(theme, dark):
    result = recolour_theme(theme, replace(dark, mend=False))
    for row in result.files:
        path = next(p for p in theme.texts if row.path.endswith(p.partition("/Turnstone")[2] or p.rpartition("/")[2]))
        text = theme.texts[path]
        fresh = result.fresh.get(path)
        if fresh is None:
            continue
        again = text.format.scan(fresh)
        assert replace_spans(text.text, ((s, "") for s in text.spans)) == replace_spans(fresh, ((s, "") for s in again))
        assert row.replaced == sum(a.colour != b.colour for a, b in zip(text.spans, again, strict=True))
        changed = sum(a != b for a, b in zip(text.text.splitlines(), fresh.splitlines(), strict=True))
        places = {
            text.text.count("\n", 0, a.start) for a, b in zip(text.spans, again, strict=True) if a.colour != b.colour
        }
        assert changed == len(places)


def test_what_no_colour_can_mend_is_mended_at_the_end_and_counted(theme, dark, outcome):
    text, fresh = theme.texts[SHEET].text, outcome.fresh[SHEET]
    body, _, rules = fresh.partition(f"\n{BEGIN}")
    again = theme.texts[SHEET].format.scan(body)
    assert replace_spans(text, ((s, "") for s in theme.texts[SHEET].spans)) == replace_spans(
        body, ((s, "") for s in again)
    )
    assert rules.count("{") == outcome.rules > 0 and "dim-label" in rules
    assert recolour_theme(theme, dark).fresh == outcome.fresh


def test_rules_that_say_the_same_are_one_and_name_no_place_of_the_gallery_alone(outcome):
    rules = outcome.fresh[SHEET].partition(BEGIN)[2]
    said = [row.partition("{")[2] for row in rules.splitlines() if "{" in row]
    assert len(set(said)) == len(said) > 2 and "," in rules and "scrolledwindow viewport" not in rules


def test_what_the_toolkit_painted_short_is_given_a_rule_that_outweighs(theme, dark, outcome):
    part = next(p for p in nested_parts() if p.id == "=tab, text" and not p.state)
    under, text = Rgba(200, 30, 30), Rgba(210, 40, 40)
    told = MeasuredFailure(part.key, "text", text, under, 1.1, 4.5)
    mended = recolour_theme(theme, dark, told=[[told, told._replace(part="=not there")]])
    fresh = mended.fresh[SHEET]
    assert fresh != outcome.fresh[SHEET] and fresh.partition(BEGIN)[0] == outcome.fresh[SHEET].partition(BEGIN)[0]
    spans = theme.texts[SHEET].format.scan(fresh)
    sheet = Sheet(replace_spans(fresh, ((s, f"__literal{i}") for i, s in enumerate(spans))))
    sheet.know([part.at])
    painted = sheet.paint([s.colour for s in spans], [part.at])[part.at]
    assert painted.text is not None and ratio(painted.text, under) >= 4.5
    assert recolour_theme(theme, dark, told=[[]]).fresh == outcome.fresh


def test_of_several_themes_in_one_archive_some_are_taken(tmp_path, dark):
    for name in ("Tern", "Knot"):
        (tmp_path / f"pack/{name}/gtk-3.0").mkdir(parents=True)
        (tmp_path / f"pack/{name}/gtk-3.0/gtk.css").write_text(INVERSE)
    (tmp_path / "pack/Knot/gtk-3.0/gtk-dark.css").symlink_to("../../Tern/gtk-3.0/gtk.css")
    bundle = open_bundle(tmp_path / "pack")
    whole = read_theme(bundle)
    assert roots_of(whole.offers) == ("Knot/", "Tern/")
    taken = read_theme(bundle, left=frozenset({"Tern/", "none"}))
    assert taken.left == {"Tern/"} and {f.root for f in taken.found} == {"Knot/"} and taken.offers == whole.offers
    outputs = recolour_theme(taken, dark).outputs
    assert outputs and all("Knot" in path for path in outputs)
    lent = next(e for p, e in outputs.items() if p.endswith("gtk-dark.css"))
    assert b"headerbar" in lent.data and not lent.link  # what it borrowed from the other is its own now
    assert {f.root for f in read_theme(bundle, left=("Knot/", "Tern/")).found} == {"Knot/", "Tern/"}


INVERSE = """
window, .background { background-color: #f2f2f0; color: #222222; }
headerbar { background-color: #23262b; color: #eeeeee; }
.sidebar { background-color: #f0f0ee; color: #333333; }
"""


@pytest.mark.long
@pytest.mark.some(2)
@pytest.mark.parametrize("choice", ["", "header", "panel", "divider", KEEP])
def test_a_header_that_a_theme_means_otherwise_stays_or_follows(tmp_path, looks, choice):
    (tmp_path / "Tern/gtk-3.0").mkdir(parents=True)
    (tmp_path / "Tern/gtk-3.0/gtk.css").write_text(INVERSE)
    scheme = with_tone(looks[0], "light").scheme()
    decided = Decisions(parts={"header": choice} if choice else {})
    result = recolour_theme(open_theme(tmp_path / "Tern"), scheme, Choices(decided))
    assert result.inverse == ("header",) and result.short == ()
    place = "window.background > headerbar.titlebar"
    header = paint(result.fresh["gtk-3.0/gtk.css"], [place])[place].fill
    assert header is not None
    if choice in ("header", "panel", "divider"):
        assert colour_difference(header, scheme.colours[choice]) < 3
    else:
        assert rgba_to_oklch(header)[0] < 0.5 < rgba_to_oklch(scheme.colours["header"])[0]


# Readable


@pytest.mark.some(2)
@pytest.mark.parametrize("tone", ["dark", "light"])
@pytest.mark.parametrize("number", [0, 3])
def test_every_pair_of_the_sheet_can_be_read(theme, looks, tone, number):
    scheme = with_tone(looks[number], tone).scheme()
    result = recolour_theme(theme, scheme)
    assert result.short == ()
    joined = result.fresh["themes/Turnstone/gtk-3.0/colours.css"] + result.fresh[SHEET]
    scan = theme.texts[SHEET].format.scan
    spans = scan(joined)
    sheet = Sheet(replace_spans(joined, ((s, f"__literal{i}") for i, s in enumerate(spans))))
    judged = Mender(sheet, all_parts(), [s.colour for s in spans], Behind.of(scheme)).pairs()
    assert len(judged) > 200
    assert [p for p in judged if not p.passes] == []


def text_by_an_independent_cascade(css, path):
    """Return the text colour and the innermost fill of a way of (type, classes), by cssselect2 and nothing of ours."""
    from xml.etree.ElementTree import Element, SubElement

    matcher = cssselect2.Matcher()
    names = dict(re.findall(r"@define-color\s+(\S+)\s+(#\w+);", css))
    for rule in tinycss2.parse_stylesheet(css, skip_comments=True, skip_whitespace=True):
        if rule.type != "qualified-rule":
            continue
        found = {}
        for d in tinycss2.parse_declaration_list(rule.content, skip_comments=True, skip_whitespace=True):
            if d.type == "declaration" and d.name in ("color", "background-color"):
                value = tinycss2.serialize(d.value).strip()
                found[d.name] = names.get(value.lstrip("@"), value)
        for part in tinycss2.serialize(rule.prelude).split(","):
            try:
                for selector in cssselect2.compile_selector_list(
                    re.sub(r":(hover|selected|checked|active)", r".is-\1", part)
                ):
                    matcher.add_selector(selector, found)
            except cssselect2.SelectorError:
                continue
    root = top = Element("root")
    for kind, classes in path:
        top = SubElement(top, kind, {"class": classes})
    colour = fill = None
    for element in cssselect2.ElementWrapper.from_xml_root(root).iter_subtree():
        own = {}
        for *_, found in matcher.match(element):
            own |= found
        colour = own.get("color", colour)
        fill = own.get("background-color") or fill
    return colour, fill


def wcag(a, b):
    from coloraide import Color

    return Color(a).contrast(b, method="wcag21")


@pytest.mark.parametrize(
    "path",
    [
        [("window", "background")],
        [("window", "background"), ("button", "")],
        [("window", "background"), ("button", "is-hover")],
        [("window", "background"), ("button", "suggested-action")],
        [("window", "background"), ("button", "destructive-action")],
        [("window", "background"), ("menu", ""), ("menuitem", "")],
        [("window", "background"), ("menu", ""), ("menuitem", "is-hover")],
        [("window", "background"), ("entry", "")],
        [("window", "background"), ("list", ""), ("row", "is-selected")],
        [("window", "background"), ("infobar", "warning")],
        [("window", "background"), ("infobar", "error")],
    ],
)
def test_an_independent_cascade_finds_the_same_readable(outcome, path):
    css = outcome.fresh["themes/Turnstone/gtk-3.0/colours.css"] + outcome.fresh[SHEET].partition(BEGIN)[0]
    colour, fill = text_by_an_independent_cascade(css, path)
    assert wcag(colour, fill) >= 4.5, (colour, fill)


def test_character_is_kept(theme, dark):
    result = recolour_theme(theme, replace(dark, mend=False))
    old, new = theme.texts[SHEET], theme.texts[SHEET].format.scan(result.fresh[SHEET])
    greys = {
        a.colour.opaque: b.colour.opaque
        for a, b in zip(old.spans, new, strict=True)
        if rgba_to_oklch(a.colour.opaque)[1] < 0.03
    }
    order = sorted(greys, key=lambda c: rgba_to_oklch(c)[0])
    lights = [rgba_to_oklch(greys[c])[0] for c in order]
    assert all(a >= b - 0.004 for a, b in pairwise(lights))  # a light theme under a dark look
    reds = [b.colour for a, b in zip(old.spans, new, strict=True) if a.colour == parse_hex("#d64545")]
    assert reds and all(8 < rgba_to_oklch(c.opaque)[2] < 45 for c in reds)


@pytest.mark.long
@pytest.mark.some(1)
@pytest.mark.parametrize("tone", ["dark", "light"])
def test_states_still_tell_apart_where_the_theme_told_them(theme, looks, tone):
    from coloraide import Color

    result = recolour_theme(theme, with_tone(looks[1], tone).scheme())
    sheets = []
    parts = all_parts()
    for texts in ({p: t.text for p, t in theme.texts.items()}, result.fresh):
        text = texts["themes/Turnstone/gtk-3.0/colours.css"] + texts[SHEET]
        spans = theme.texts[SHEET].format.scan(text)
        sheet = Sheet(replace_spans(text, ((s, f"__literal{i}") for i, s in enumerate(spans))))
        sheet.know([p.at for p in parts])
        painted = sheet.paint([s.colour for s in spans], [p.at for p in parts])
        # Labels lie in what is hovered: the innermost fill on the way counts.
        sheets.append(
            {k: next((f[0] for f in reversed(v.fills) if f and f[0].a >= 1), None) for k, v in painted.items()}
        )
    rest = {p.id: p.at for p in parts if not p.state}
    told = 0
    for part in parts:
        pairs = [(s.get(rest.get(part.id, "")), s[part.at]) for s in sheets]
        if part.state not in ("hover", "pressed") or any(c is None for pair in pairs for c in pair):
            continue
        before, after = (Color(a.hex).distance(b.hex, space="oklab") for a, b in pairs)
        if before >= 0.021:
            told += 1
            assert after >= 0.0199, (part.key, pairs)
    assert told > 10


def test_work_can_be_stopped(theme, dark):
    class Stop:
        def __init__(self, after):
            self.left = after

        def report(self, done, total, note):
            self.left -= 1
            if self.left < 0:
                raise Cancelled("Stopped.")

    for after in (0, 1, 3):
        with pytest.raises(Cancelled):
            recolour_theme(theme, dark, progress=Stop(after))
    with pytest.raises(Cancelled):
        read_theme(theme.bundle, progress=Stop(0))


# Groups


def test_one_accent_is_one_row_over_all_files(theme, outcome):
    row = next(g for g in outcome.groups if g.source == parse_hex("#2f6fe0") and g.key.startswith("light"))
    literals = sum(s.colour.opaque == row.source for p in theme.families[0].paths for s in theme.texts[p].spans)
    assert row.role == "accent" and row.places >= literals and row.files >= 3


def test_hover_and_pressed_are_shades_of_a_group(theme):
    family = theme.families[0]
    group = next(g for g in family.groups if g.anchor == parse_hex("#2f6fe0"))
    assert "hover" in states_of(group, family.spans).values()


def test_a_group_is_mapped_kept_or_taken_apart(theme, dark):
    group = theme.families[0].groups[0]
    scheme = replace(dark, mend=False)
    moved = recolour_theme(theme, scheme, Choices(Decisions.spelled({group.key: "error"})))
    row = next(g for g in moved.groups if g.key == group.key)
    assert row.target == dark.colours["error"] and row.role == "error"
    path = next(p for p in theme.families[0].paths if p == SHEET)
    spans = theme.texts[path].format.scan(moved.fresh[path])
    assert any(s.colour.opaque == dark.colours["error"] for s in spans)
    apart = read_theme(theme.bundle, [group.key])
    parts = [g for g in apart.families[0].groups if g.key.startswith(f"{group.key}/")]
    assert len(parts) > 1 and sorted(i for g in parts for i in g.spans) == sorted(group.spans)


def test_what_was_decided_is_saved_with_the_look(looks):
    shell, theme = Owner.component("shell"), Owner.theme("/downloads/x.zip")
    look = with_choice(looks[0], shell, [Slot("groups", "surface:#1c1c1f")], "menu")
    look = with_split(look, shell, "text:#ffffff", True)
    look = with_words(with_brought(look, theme.name), {"eth1": "eth0"})
    look = with_choice(look, theme, [Slot("groups", "light/text:#111111")], KEEP)
    look = with_left(look, theme.name, "Saltpan-compact/", True)
    assert look_from_json(look_to_json(look)) == look
    gone = with_brought(look, theme.name, False)
    assert gone.brought == () and set(gone.decisions) == {shell}
    parted = with_choice(look, shell, [Slot("groups", "text:#ffffff/menu:#ffffff")], "view")
    assert with_split(parted, shell, "text:#ffffff", False).decided(shell).groups == look.decided(shell).groups
    assert with_left(look, theme.name, "Saltpan-compact/", False).decided(theme).left == set()


@settings(max_examples=30)
@given(
    st.lists(
        st.tuples(
            st.sampled_from(["a", "b:hover", "menu"]),
            st.sampled_from(["color", "background-color", "border-color", "box-shadow"]),
            st.integers(0, 0xFFFFFF),
        ),
        max_size=40,
    ),
    st.data(),
)
def test_every_literal_is_in_exactly_one_group(rows, data):
    from mellow_finch.syntax.css import scan_css

    css = "".join(f"{s} {{ {k}: #{v:06x}; }}\n" for s, k, v in rows)
    spans = scan_css(css)
    groups = group_spans(spans)
    keys = [g.key for g in groups]
    assert sorted(i for g in groups for i in g.spans) == list(range(len(spans))) and len(set(keys)) == len(keys)
    if keys:
        split = group_spans(spans, splits=[data.draw(st.sampled_from(keys))])
        assert sorted(i for g in split for i in g.spans) == list(range(len(spans)))


# Where it goes


def test_laid_out_like_a_home_with_index_licence_and_credits(outcome, looks):
    name = f"Turnstone-{looks[0].folder}"
    base = f".local/share/themes/{name}"
    assert (
        outcome.name == name
        and outcome.outputs[f"{base}/LICENCE"].data == turnstone_files()["themes/Turnstone/LICENCE"]
    )
    index = outcome.outputs[f"{base}/index.theme"].data.decode()
    assert f"Name={name}" in index and f"GtkTheme={name}" in index and "Comment=Made in the hide" in index
    assert f"{base}/openbox-3/themerc" in outcome.outputs and ".config/conky" in " ".join(outcome.outputs)


def test_links_between_themes_lead_to_their_new_names(tmp_path, dark):
    for name in ("Ebb", "Flood"):
        (tmp_path / "tides" / name / "gtk-3.0").mkdir(parents=True)
        (tmp_path / "tides" / name / "gtk-3.0/gtk.css").write_text(
            "window { color: #111111; background-color: #eeeeee; }"
        )
    (tmp_path / "tides/Ebb/gtk-3.0/tide.css").write_text("a { color: #222222; }")
    (tmp_path / "tides/Flood/gtk-3.0/tide.css").symlink_to("../../Ebb/gtk-3.0/tide.css")
    result = recolour_theme(open_theme(tmp_path / "tides"), dark)
    lay_down(result.outputs, tmp_path / "home")
    links = [p for p in (tmp_path / "home").rglob("tide.css") if p.is_symlink()]
    assert len(links) == 1 and "Flood-" in str(links[0]) and "Ebb-" in str(links[0].resolve()) and links[0].is_file()


def test_pictures_beside_the_parts_of_a_theme_go_wherever_its_parts_go(tmp_path, dark):
    """A sheet finds "../assets" although GTK 2 is looked for elsewhere than the others."""
    root = tmp_path / "Mudflat"
    for name in ("assets", "gtk-2.0", "gtk-3.0", "gtk-3.20"):
        (root / name).mkdir(parents=True)
    tick = '<svg xmlns="http://www.w3.org/2000/svg"><path fill="#2f6fe0" d="M0 0h9v9z"/></svg>'
    (root / "assets/tick.svg").write_text(tick)
    (root / "assets/again.svg").symlink_to("tick.svg")
    (root / "gtk-3.0/own.svg").symlink_to("../assets/tick.svg")
    (root / "gtk-2.0/gtkrc").write_text('style "reed" { bg[NORMAL] = "#d8d4c8" }\nclass "GtkWidget" style "reed"\n')
    (root / "gtk-3.20/later.css").write_text("entry { color: #2f6fe0; }\n")
    (root / "gtk-3.0/gtk.css").write_text(
        'window { background-color: #ffffff; color: #111111; }\ncheck { -gtk-icon-source: url("../assets/tick.svg"); }\n'
    )
    made = recolour_theme(open_theme(root), dark)
    (sheet,) = [p for p in made.outputs if p.endswith("gtk-3.0/gtk.css")]
    (settings,) = [p for p in made.outputs if p.endswith("gtk-2.0/gtkrc")]
    for path in (sheet, settings):
        top = path.rpartition("/gtk-")[0]
        assert b"#2f6fe0" not in made.outputs[f"{top}/assets/tick.svg"].data
        assert made.outputs[f"{top}/assets/again.svg"].link == "tick.svg"
    own = sheet.replace("gtk.css", "own.svg")
    assert made.outputs[own].link == "../assets/tick.svg"
    assert len([p for p in made.outputs if p.endswith("later.css")]) == 1


def test_what_is_written_stays_in_its_folder(tmp_path, outcome):
    (tmp_path / "home/.local/share").mkdir(parents=True)
    (tmp_path / "elsewhere").mkdir()
    (tmp_path / "home/.local/share/themes").symlink_to(tmp_path / "elsewhere")
    with pytest.raises(FileAccessError, match="a link or a file blocks the way"):
        lay_down(outcome.outputs, tmp_path / "home")
    assert list((tmp_path / "elsewhere").iterdir()) == []


def test_a_format_that_says_its_roles_gets_them(outcome, looks):
    text = next(e.data for p, e in outcome.outputs.items() if p.endswith("openbox-3/themerc")).decode()
    assert f"menu.items.active.bg.color: {looks[0].colours['menu_hover'].hex}" in text
    assert "menu.items.text.color: rgb:" in text and "flat solid" in text


def test_the_stage_shows_what_the_sheets_say(theme, outcome, looks):
    before, after = shown_paints(theme, None, True), shown_now(theme, outcome, True)
    assert set(before) == set(after) == {"gtk-3"}
    assert (
        before["gtk-3"]["window"].fill == parse_hex("#f2f4f8")
        and after["gtk-3"]["window"].fill == looks[0].colours["window"]
    )


# Words of another machine


HERE = ThisComputer(("eth0", "wlan3"), ("DP-1",), "/home/warden", "", frozenset({"dejavu sans"}))


def test_words_of_another_machine_are_found_and_replaced(theme, dark):
    words = foreign_words(theme, HERE)
    assert {(w.kind, w.text, w.instead) for w in words} == {
        ("interface", "wlp59s0", "wlan3"), ("monitor", "HDMI-A-2", "DP-1"), ("home", "/home/maren", "/home/warden"),
        ("font", "Sedge Sans", "DejaVu Sans"),
    }  # fmt: skip
    assert all(w.places and w.text in w.says for w in words)
    result = recolour_theme(theme, replace(dark, mend=False), Choices(words=suggested(words)))
    fresh = next(e.data for p, e in result.outputs.items() if p.endswith("turnstone.conf")).decode()
    assert (
        "wlp59s0" not in fresh
        and fresh.count("wlan3") == 2
        and "/home/warden/Pictures" in fresh
        and "DejaVu Sans:size=12" in fresh
    )


def test_words_that_are_of_this_machine_are_none(theme):
    here = ThisComputer(("wlp59s0",), ("HDMI-A-2",), "/home/maren", "", frozenset({"sedge sans"}))
    assert foreign_words(theme, here) == ()


# Bad input


@pytest.mark.some(2)
@pytest.mark.parametrize("seed", [*range(4), *(pytest.param(i, marks=pytest.mark.long) for i in range(4, 12))])
def test_torn_themes_are_told_in_words_or_recoloured(seed, tmp_path, dark):
    rng = random.Random(seed)
    for name, data in turnstone_files().items():
        path = tmp_path / "torn" / name
        path.parent.mkdir(parents=True, exist_ok=True)
        torn = bytearray(data)
        for _ in range(rng.randrange(4)):
            torn[rng.randrange(len(torn))] = rng.randrange(256)
        path.write_bytes(torn[: rng.randrange(len(torn))] if rng.random() < 0.3 else torn)
    try:
        result = recolour_theme(open_theme(tmp_path / "torn"), dark)
        assert result.outputs
    except FinchError as error:
        assert str(error).endswith(".")


@pytest.mark.long
def test_a_sheet_of_two_megabytes_is_recoloured_and_not_judged(tmp_path, dark):
    path = tmp_path / "gtk.css"
    path.write_text(
        "".join(
            f".a{i % 900} > b:hover {{ color: #{i % 4096:03x}; background: rgba(1,2,{i % 255},.5); }}\n"
            for i in range(33_000)
        )
    )
    assert path.stat().st_size > 2_000_000
    result = recolour_theme(open_theme(path), replace(dark, mend=False))
    assert result.files[0].literals == 66_000 and "too large to be checked" in result.notes[0]


def test_what_cannot_be_recoloured_is_said(tmp_path):
    for name, data in (("note.txt", b"red"), ("empty.css", b""), ("reed.jpg", b"\xff\xd8\xff")):
        (tmp_path / name).write_bytes(data)
        if name != "empty.css":
            with pytest.raises(ParseError, match=f"Nothing in “{name}” can be recoloured"):
                open_theme(tmp_path / name)
    (tmp_path / "x.zip").write_bytes(b"PK\x03\x04 no zip")
    with pytest.raises(UnsafeArchiveError, match="damaged"):
        open_theme(tmp_path / "x.zip")


def test_bytes_that_are_not_text_survive(tmp_path, dark):
    (tmp_path / "odd.css").write_bytes(b"\xef\xbb\xbf/* \xff\xfe */\r\na { color: #ff0000; }")
    out = recolour_theme(open_theme(tmp_path / "odd.css"), dark).outputs["odd.css"].data
    assert (
        out.startswith(b"\xef\xbb\xbf/* \xff\xfe */\r\na { color: #") and out.endswith(b"; }") and b"ff0000" not in out
    )


def test_imports_go_round_without_end(tmp_path, dark):
    folder = tmp_path / "Ring/gtk-3.0"
    folder.mkdir(parents=True)
    (folder / "gtk.css").write_text('@import "a.css"; window { color: #222; background-color: #eee; }')
    (folder / "a.css").write_text(
        '@import "gtk.css"; @import url("none.css"); button { color: #333; background-color: #fff; }'
    )
    theme = open_theme(tmp_path / "Ring")
    assert theme.sheets["gtk-3.0/gtk.css"].files == ("gtk-3.0/gtk.css", "gtk-3.0/a.css")
    assert recolour_theme(theme, dark).short == ()


def test_surfaces_that_matter_come_in_the_looks_own_colours(looks, tmp_path):
    """Read back by the cascade from the written sheet, a colour that serves two places among them."""
    sheet = tmp_path / "Marsh/gtk-3.0/gtk.css"
    sheet.parent.mkdir(parents=True)
    sheet.write_text(
        "@define-color bg #e8e4f0; @define-color own #ff2fa0; @define-color bad #c00010;\n"
        ".background { background-color: @bg; color: #202020; }\n"
        "textview text { background-color: white; color: #101010; }\n"
        "button { background-image: linear-gradient(to bottom, shade(@bg, 1.1), @bg); color: #202020; }\n"
        "button.suggested-action { background-color: @own; background-image: none; color: white; }\n"
        "button.suggested-action:hover { background-color: shade(@own, 1.2); }\n"
        "button.destructive-action { background-color: @bad; background-image: none; color: white; }\n"
        "label.error { color: @bad; } row:selected { background-color: @own; color: white; }\n"
        "menu { background-color: @bg; color: #202020; }\n"
        "headerbar { background-color: #201a28; color: #f0f0f0; }\n"
    )
    places = {
        "window.background": ("window",),
        "window.background > textview.view > text": ("view",),
        "window.background > button.text-button.suggested-action": ("accent",),
        "window.background > button.text-button.destructive-action": ("error",),
        "window.background > menu": ("menu",),
        "window.background > list > row.activatable:selected": ("selection", "accent"),
    }
    for look in (looks[0], with_tone(looks[3], "light")):
        outcome = recolour_theme(read_theme(open_bundle(tmp_path / "Marsh")), look.scheme(), Choices())
        assert not outcome.short
        (text,) = [o.data.decode() for p, o in outcome.outputs.items() if p.endswith("gtk.css")]
        found = paint(text, list(places))
        for place, roles in places.items():
            near = min(colour_difference(found[place].fill, look.colours[r]) for r in roles)
            assert near <= 3, (place, look.tone, found[place].fill)
        header = paint(text, ["window.background > headerbar.titlebar"])["window.background > headerbar.titlebar"]
        # Dark in a light theme is meant so, and stays a contrast; in a dark look it is what the look has anyway.
        assert rgba_to_oklch(header.fill)[0] < 0.45
        assert (colour_difference(header.fill, look.colours["header"]) <= 3) == (look.tone == "dark")
        assert outcome.inverse == (() if look.tone == "dark" else ("header",))


@pytest.mark.long
@pytest.mark.some(2)
@pytest.mark.parametrize("choice", ["keep", "#3c8f6a", "link"])
def test_a_surface_that_a_person_decided_about_stays_as_decided(looks, tmp_path, choice):
    """Settling surfaces in the look's colours must not take a choice back."""
    sheet = tmp_path / "Marsh/gtk-3.0/gtk.css"
    sheet.parent.mkdir(parents=True)
    sheet.write_text(
        ".background { background-color: #e8e4f0; color: #202020; }\n"
        "button.suggested-action { background-color: #7a0f6a; background-image: none; color: white; }\n"
    )
    look, theme = looks[0], read_theme(open_bundle(tmp_path / "Marsh"))
    key = next(g.key for f in theme.families for g in f.groups if parse_hex("#7a0f6a") in g.shades)
    outcome = recolour_theme(theme, look.scheme(), Choices(Decisions.spelled({key: choice})))
    (text,) = [o.data.decode() for p, o in outcome.outputs.items() if p.endswith("gtk.css")]
    place = "window.background > button.text-button.suggested-action"
    wanted = {"keep": parse_hex("#7a0f6a"), "link": look.colours["link"]}.get(choice) or parse_hex(choice)
    assert colour_difference(paint(text, [place])[place].fill, wanted) <= 3
