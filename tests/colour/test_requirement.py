"""What contrast is asked of what, and the measures that are told of a pair."""

from __future__ import annotations

import pytest
from hypothesis import given

from mellow_finch.colour.lightness_contrast import lightness_contrast
from mellow_finch.colour.measures import FURTHER, MEASURES
from mellow_finch.colour.requirement import DISABLED, LARGE, MARK, NONE, TEXT, measure, required
from mellow_finch.colour.rgb import parse_hex
from tests.colour.test_contrast import COLOURS


@pytest.mark.parametrize(
    ("level", "mark", "kind"),
    [(0, False, NONE), (2.5, False, DISABLED), (3.0, False, LARGE), (3.0, True, MARK), (4.5, False, TEXT)],
)
def test_a_number_of_a_data_file_is_a_requirement(level, mark, kind):
    assert required(level, mark) == kind
    assert required(3.7, mark).level == 3.7 and required(3.7, mark).raised(7).level == 3.7


def test_a_look_that_asks_for_more_asks_it_of_plain_text_alone():
    assert TEXT.raised(7).level == 7 and TEXT.raised(3) == TEXT
    assert all(one.raised(7) == one for one in (LARGE, MARK, DISABLED, NONE))
    assert not NONE and TEXT and NONE.shortfall(1) > 1e9 and TEXT.times(2).level == 9


@given(COLOURS, COLOURS)
def test_what_holds_is_what_does_not_fall_short(text, surface):
    found = measure(text, surface)
    assert TEXT.holds(text, surface) == TEXT.met(found) == (TEXT.shortfall(found) >= 1)


@pytest.mark.parametrize(
    ("text", "surface", "published"),
    [
        ("#888888", "#ffffff", 63.056469930209424),
        ("#ffffff", "#888888", -68.54146436644962),
        ("#000000", "#aaaaaa", 58.146262578561334),
        ("#aaaaaa", "#000000", -56.24113336839742),
        ("#112233", "#ddeeff", 91.66830811481631),
        ("#ddeeff", "#112233", -93.06770049484275),
        ("#112233", "#444444", 8.32326136957393),
        ("#444444", "#112233", -7.526878460278154),
        ("#777777", "#777777", 0.0),
    ],
)
def test_lightness_contrast_is_as_it_is_published(text, surface, published):
    assert lightness_contrast(parse_hex(text), parse_hex(surface)) == pytest.approx(published, abs=1e-9)


@given(COLOURS, COLOURS)
def test_every_measure_can_be_told_of_any_pair(text, surface):
    assert MEASURES[0].of is measure and MEASURES[1:] == FURTHER
    assert all(m.spelled(m.of(text, surface)) and m.title and m.tip for m in MEASURES)
    assert -108.5 < lightness_contrast(text, surface) < 106.5
