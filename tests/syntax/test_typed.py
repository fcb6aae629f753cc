"""Colours as people type them."""

from __future__ import annotations

import pytest
from coloraide import Color
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.colour.rgb import Rgba
from mellow_finch.syntax.typed import read_typed, spellings


@pytest.mark.parametrize(
    "text",
    [
        "#4f8a8b", "#4AC", " #4f8a8b80 ; ", "rgb(79 138 139)", "rgb(79, 138, 139)", "RGBA(79,138,139,.5)",
        "hsl(200 50% 40%)", "hsl(200, 50%, 40%)", "oklch(0.6 0.06 200)", "oklch(60% 0.06 200deg)",
        "oklch(0.6 15% 0.5turn / 50%)", "oklab(0.6 0.02 -0.05)", "oklch(0.6 none 200)", "rebeccapurple", "Light Blue",
    ],
)  # fmt: skip
def test_spellings_agree_with_the_oracle(text):
    plain = text.strip().rstrip("; ").lower()
    plain = plain.replace(" ", "") if "light" in plain else plain
    oracle = Color(plain).convert("srgb").clip().coords(nans=False)
    assert max(abs(a - b * 255) for a, b in zip(read_typed(text)[:3], oracle, strict=True)) <= 1.01
    assert read_typed(text).a == 1.0


@pytest.mark.parametrize(
    "text",
    [
        "",
        "bluish",
        "#12345",
        "rgb(1,2)",
        "oklch(0.6 0.1)",
        "oklch(a b c)",
        "url(x)",
        "transparent",
        "rgb(1 2 3",
        "javascript(1,2,3)",
    ],
)
def test_what_is_none_is_refused_in_words(text):
    with pytest.raises(ValueError, match="is not a colour such as"):
        read_typed(text)


@pytest.mark.long
@given(st.text(max_size=30))
def test_any_text_gives_a_colour_or_the_sentence(text):
    try:
        assert isinstance(read_typed(text), Rgba)
    except ValueError as error:
        assert "is not a colour such as" in str(error)


@given(st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t)))
def test_every_offered_spelling_comes_back(colour):
    for words in spellings(colour):
        assert max(abs(a - b) for a, b in zip(read_typed(words)[:3], colour[:3], strict=True)) <= 1
    assert read_typed(spellings(colour)[0]) == colour
