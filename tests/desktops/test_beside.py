"""The stage beside real screens: whatever it draws of made homes is there after a look was applied, in that colour."""

from __future__ import annotations

import os
import re
import shlex
import shutil
from pathlib import Path

import pytest
from tools.rigs.sessions import OWN

from mellow_finch.palette.recipe import TONES

from .test_desktops import driven, pytestmark  # noqa: F401 - real desktops run with a word of their own

PAGE = Path(__file__).resolve().parents[2] / "docs" / "desktops.md"
START, END = "<!-- made by tests/desktops/test_beside.py -->", "<!-- end of the homes -->"
MOST = 3.0  # of a surface from what the stage draws, in CIEDE2000


@pytest.fixture(scope="module")
def told():
    """Collect a row for each home, and put them into the page of desktops where every one of them was seen."""
    found = {}
    yield found
    if found.keys() == {(name, tone) for name in OWN for tone in TONES} and os.environ.get("FINCH_WRITE") == "1":
        head = f"| home | drawn by the stage, and there | apart at most, {' | '.join(TONES)} |"
        rows = [
            f"| {name} | {', '.join(sorted(found[name, 'dark'][0]))} | {' | '.join(f'{found[name, t][1]:.1f}' for t in TONES)} |"
            for name in OWN
        ]
        table = "\n".join([head, "| --- | --- | --- | --- |", *rows])
        text = PAGE.read_text(encoding="utf-8")
        made = f"{START}\n\n{table}\n\n{END}"
        PAGE.write_text(re.sub(f"{START}.*{END}", lambda _: made, text, flags=re.DOTALL), encoding="utf-8")


@pytest.mark.parametrize("tone", TONES)
@pytest.mark.parametrize("name", OWN)
def test_what_the_stage_draws_of_a_home_is_on_its_real_screen(name, tone, home, tmp_path, told):
    own = OWN[name]
    words = (*own.starts, *(words for _, words in own.opens if not words.startswith("click")))
    missing = [program for program in (shlex.split(line)[0] for line in words) if shutil.which(program) is None]
    if missing:
        pytest.skip(f"{', '.join(missing)} not installed")
    out, _ = driven(own.desktop, home, tmp_path / "person", "beside", FINCH_HOME=name, FINCH_TONE=tone)
    assert out["worn"][0] == 0, out["worn"]
    rows = [row for row in out["rows"] if row[0] not in own.unseen]
    assert [row for row in rows if row[5] is None or row[5] > MOST] == []
    roles = {row[0] for row in rows}
    assert roles.isdisjoint(own.empty) and roles >= {"gtk-3", "gtk-4", "kde"}
    told[name, tone] = roles, max(row[5] for row in rows)
