"""Files of keys and values in other people's themes: their pairs are told by the keys, judged, and mended."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.rgb import Rgba
from mellow_finch.components.decisions import Decisions
from mellow_finch.recolour.groups import KEEP
from mellow_finch.syntax.catalogue import format_by_id
from mellow_finch.theme.bundle.model import ThemeText
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.result.account import Choices
from mellow_finch.theme.result.recolour import recolour_theme
from mellow_finch.theme.sheets.keyed import mend_keyed, pairs_of

BORDERS = """\
window.active.title.bg.color: #334455
window.active.title.bg.colorTo: #445566
window.active.label.text.color: #dddddd
window.active.title.separator.color: #999999
window.active.button.unpressed.bg.color: #202830
window.active.button.unpressed.image.color: #cccccc
menu.items.bg.color: #ffffff
menu.items.text.color: #111111
menu.items.disabled.text.color: #888888
menu.items.active.bg.color: #336699
menu.items.active.text.color: #ffffff
"""
TOOLKIT = """\
gtk-color-scheme = "fg_color:#101010;bg_color:#eeeeee;base_color:#ffffff;text_color:#202020;tooltip_bg_color:#f5f5b5;tooltip_fg_color:#000000"
style "default" {
  fg[NORMAL] = "#111111"
  bg[NORMAL] = "#dddddd"
  fg[INSENSITIVE] = "#777777"
  text[NORMAL] = "#121212"
  base[NORMAL] = "#ffffff"
}
style "menu" {
  fg[NORMAL] = "#eeeeee"
  bg[NORMAL] = "#333333"
}
"""


def text_of(form, words):
    found = format_by_id(form)
    spans = tuple(found.scan(words))
    return ThemeText("x", found, words, spans, tuple(found.role_of(s) for s in spans) if found.roles else ())


def told(text):
    """Return the pairs as (colour of the text, colours of the grounds, need)."""
    return [
        (text.spans[p.text].colour.hex, tuple(text.spans[g].colour.hex for g in p.grounds), p.need.level)
        for p in pairs_of(text)
    ]


def test_borders_are_paired_by_thing_and_state():
    assert told(text_of("window-borders-rc", BORDERS)) == [
        ("#dddddd", ("#334455", "#445566"), 4.5),  # both ends of the title's gradient
        ("#cccccc", ("#202830",), 3.0),
        ("#111111", ("#ffffff",), 4.5),
        ("#888888", ("#ffffff",), 2.5),
        ("#ffffff", ("#336699",), 4.5),
    ]


def test_the_older_toolkit_is_paired_within_its_styles_and_by_the_names_of_its_scheme():
    assert told(text_of("gtkrc", TOOLKIT)) == [
        ("#101010", ("#eeeeee",), 4.5),
        ("#202020", ("#ffffff",), 4.5),
        ("#000000", ("#f5f5b5",), 4.5),
        ("#111111", ("#dddddd",), 4.5),
        ("#777777", ("#dddddd",), 2.5),
        ("#121212", ("#ffffff",), 4.5),
        ("#eeeeee", ("#333333",), 4.5),
    ]


@given(
    st.lists(st.tuples(*[st.integers(0, 255)] * 3).map(lambda c: Rgba(*c)), min_size=11, max_size=11),
    st.sets(st.integers(0, 10)),
)
def test_what_is_mended_can_be_read_and_nothing_else_moves(colours, kept):
    text = text_of("window-borders-rc", BORDERS)
    fresh = list(colours)
    short = {s.part for s in mend_keyed("x", text, fresh, kept)}
    pairs = pairs_of(text)
    texts, stuck = {p.text for p in pairs}, set()
    for pair in pairs:  # grounds on which neither black nor white can be read with some room give way
        inks = (Rgba(0, 0, 0), Rgba(255, 255, 255))
        if max(min(ratio(ink, colours[g]) for g in pair.grounds) for ink in inks) < pair.need.level * 1.03:
            stuck |= set(pair.grounds)
    assert all(fresh[i] == colours[i] for i in range(11) if i not in texts | stuck or i in kept)
    for pair in pairs:
        reads = min(ratio(fresh[pair.text], fresh[g]) for g in pair.grounds) >= pair.need.level
        assert reads or text.spans[pair.text].key in short
        if stuck.isdisjoint(pair.grounds) and all(
            pair.need.holds(colours[pair.text], colours[g]) for g in pair.grounds
        ):
            assert fresh[pair.text] == colours[pair.text]


@pytest.mark.parametrize("level", [4.5, 7.0])
@pytest.mark.parametrize("tone", ["dark", "light"])
def test_a_theme_of_such_files_can_be_read_when_it_is_recoloured(tmp_path, looks, tone, level):
    from mellow_finch.look.edits import with_temper, with_tone

    for name, words in (("openbox-3/themerc", BORDERS), ("gtk-2.0/gtkrc", TOOLKIT)):
        (tmp_path / "Tern" / name).parent.mkdir(parents=True)
        (tmp_path / "Tern" / name).write_text(words)
    theme = open_theme(tmp_path / "Tern")
    strict = with_temper(looks[1], replace(looks[1].temper, text_need=level))
    scheme = with_tone(strict, tone).scheme()
    result = recolour_theme(theme, scheme)
    assert result.short == ()
    for path, text in theme.texts.items():
        now = ThemeText(path, text.format, result.fresh[path], tuple(text.format.scan(result.fresh[path])), text.sure)
        pairs = pairs_of(now)
        assert len(pairs) >= 5
        for pair in pairs:
            need = pair.need.raised(level)
            assert all(need.holds(now.spans[pair.text].colour, now.spans[g].colour) for g in pair.grounds)
    group = next(g for f in theme.families for g in f.groups if g.anchor == Rgba(0xDD, 0xDD, 0xDD))
    choices = {g.key: KEEP for f in theme.families for g in f.groups if group.anchor in g.shades}
    kept = recolour_theme(theme, scheme, Choices(Decisions.spelled(choices)))
    assert "#dddddd" in kept.fresh["openbox-3/themerc"]
