"""What is made ready for a quick start: the same as what it was made from, and nothing where that has changed."""

from __future__ import annotations

import re
import tomllib
from pathlib import Path

import pytest

import mellow_finch
from mellow_finch.components.define.own import keep
from mellow_finch.errors import ParseError
from mellow_finch.syntax import parsed
from mellow_finch.syntax.late import late

PACKAGE = Path(mellow_finch.__file__).parent
TEXTS = [p.read_text(encoding="utf-8") for p in sorted(PACKAGE.rglob("*.toml")) if "demo" not in p.parts]


def test_what_was_parsed_before_says_the_same_and_is_made_afresh(monkeypatch, tmp_path):
    (tmp_path / "syntax").mkdir()
    (tmp_path / parsed.PLACE).write_text(parsed.made(TEXTS), encoding="utf-8")
    monkeypatch.setattr(parsed, "files", lambda _: tmp_path)
    parsed._known.cache_clear()
    assert len(TEXTS) > 150
    for text in TEXTS:
        assert parsed.toml_of(text) == tomllib.loads(text)
    with monkeypatch.context() as m:
        m.setattr(parsed, "tomllib", None)  # nothing is parsed again
        first, again = parsed.toml_of(TEXTS[0]), parsed.toml_of(TEXTS[0])
        assert first == again and first is not again
    changed = TEXTS[0] + "\nfresh = 1\n" if "[" not in TEXTS[0] else "fresh = 1\n" + TEXTS[0]
    assert parsed.toml_of(changed)["fresh"] == 1
    for broken in ("{", "[]"):
        (tmp_path / parsed.PLACE).write_text(broken)
        parsed._known.cache_clear()
        assert parsed.toml_of(TEXTS[0]) == tomllib.loads(TEXTS[0])
    parsed._known.cache_clear()


def test_a_late_pattern_is_a_pattern():
    plain, slow = re.compile(r"(?P<a>\d+)", re.MULTILINE), late(r"(?P<a>\d+)", re.MULTILINE)
    assert slow.search("x 12").group("a") == plain.search("x 12").group("a") == "12"
    assert slow.pattern == plain.pattern and slow.flags == plain.flags and slow.sub("n", "1 2") == "n n"
    with pytest.raises(re.error):
        late("(").search("x")


@pytest.mark.parametrize("line", ['patterns = [["a/b", "("]]', 'via = [["x", "("]]'])
def test_a_definition_of_ones_own_with_a_pattern_that_is_none_is_refused(tmp_path, line):
    text = (
        'id = "mine"\ntitle = "Mine"\nkind = "Terminals"\nreads = "Mine"\neffect = "restart"\nrestart = ""\n[parts]\n'
        f'[[read]]\npaths = [".minerc"]\nformat = "bar-ini"\n{line}\n[[files]]\npaths = [".minerc"]\ntemplate = "x"\n'
    )
    with pytest.raises(ParseError, match=r"\("):
        keep(text, tmp_path)
    assert list(tmp_path.iterdir()) == []
