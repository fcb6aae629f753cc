"""Existing colours to roles: grouping, relative shades, alpha, counts."""

from __future__ import annotations

import pytest

from mellow_finch.colour.gamut import rgba_to_oklch
from mellow_finch.colour.rgb import Rgba
from mellow_finch.palette.roles import ROLE_BY_ID
from mellow_finch.recolour.groups import KEEP
from mellow_finch.recolour.guess import guess_role, use_of
from mellow_finch.recolour.rewrite import new_colours, rewrite, subject_of
from mellow_finch.syntax.css import scan_css
from mellow_finch.syntax.spans import ColourSpan

SHEET = ".local/share/themes/Saltpan/gnome-shell/gnome-shell.css"


@pytest.fixture
def subject(files):
    return subject_of(files(SHEET).decode(), scan_css)


def test_one_disliked_accent_is_one_row(subject):
    first = subject.groups[0]
    assert first.anchor == Rgba(255, 47, 160) and first.role == "accent"
    written = subject.text.lower()
    assert first.places >= written.count("#ff2fa0") + written.count("255, 47, 160") > 80


def test_every_literal_is_in_one_group(subject):
    seen = [i for g in subject.groups for i in g.spans]
    assert sorted(seen) == [i for i, s in enumerate(subject.spans) if s.colour.a > 0]
    assert all(g.role in ROLE_BY_ID and g.reason for g in subject.groups)


def test_the_leading_anchors_become_their_roles_exactly_and_alpha_stays(subject, look):
    colours = new_colours(subject, look.colours)
    exact = 0
    for group in subject.groups:
        for i in group.spans:
            assert colours[i].a == subject.spans[i].colour.a
            if subject.spans[i].colour.opaque == group.anchor:
                exact += colours[i].opaque == look.colours[group.role]
    accent = subject.groups[0]
    assert all(
        colours[i].opaque == look.colours["accent"]
        for i in accent.spans
        if subject.spans[i].colour.opaque == accent.anchor
    )
    assert exact > 200


def test_count_equals_what_a_diff_says(subject, look):
    colours = new_colours(subject, look.colours)
    fresh = rewrite(subject, colours)
    pairs = zip(subject.text.split("\n"), fresh.split("\n"), strict=True)
    changed_lines = sum(old != new for old, new in pairs)
    lines = {subject.text.count("\n", 0, s.start) for s, c in zip(subject.spans, colours, strict=True) if s.colour != c}
    assert changed_lines == len(lines)


def test_a_group_can_be_mapped_elsewhere_or_left(subject, look):
    first, second = subject.groups[:2]
    colours = new_colours(subject, look.colours, {first.key: "error", second.key: KEEP})
    at = next(i for i in subject.groups[0].spans if subject.spans[i].colour == Rgba(255, 47, 160))
    assert colours[at] == look.colours["error"]
    assert all(colours[i] == subject.spans[i].colour for i in subject.groups[1].spans)


@pytest.mark.parametrize(
    "where, key, colour, use, role",
    [
        ("#panel", "background-color", Rgba(30, 30, 30), "surface", "panel"),
        ("#panel .panel-button:hover", "color", Rgba(250, 250, 250), "text", "panel_active_text"),
        (".popup-menu-item:insensitive", "color", Rgba(60, 60, 60), "text", "disabled_text"),
        (".popup-menu", "border-color", Rgba(60, 60, 60), "line", "divider"),
        ("StEntry", "border", Rgba(60, 60, 60), "line", "outline"),
        (".message", "box-shadow", Rgba(0, 0, 0, 0.3), "shadow", "shadow"),
        (".dash-label", "background-color", Rgba(20, 20, 20), "surface", "tooltip"),
        (".run-dialog-error-box", "color", Rgba(255, 90, 80), "text", "error_ink"),
        (".quick-toggle:checked", "background-color", Rgba(255, 0, 160), "surface", "accent"),
        (".popup-menu-item:hover", "background-color", Rgba(255, 255, 255, 0.1), "surface", "menu_text"),
    ],
)
def test_guesses(where, key, colour, use, role):
    span = ColourSpan(0, 1, colour, where, key)
    lightness, chroma, _ = rgba_to_oklch(colour)
    assert use_of(span) == use
    assert guess_role(span, chroma, lightness > 0.5).role == role
