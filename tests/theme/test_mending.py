"""Sheets that share nothing are mended side by side, and what comes of it is the same."""

from __future__ import annotations

import pytest

from mellow_finch.errors import Cancelled
from mellow_finch.intake.worker import WorkerLostError
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.result.recolour import recolour_theme
from mellow_finch.theme.sheets import processes as mending
from mellow_finch.theme.sheets.processes import SheetJob, together

SHEET = """
window, .background { background-color: #f2f2f0; color: #222222; }
button { background-color: #e4e4e0; color: #333333; border: 1px solid #c8c8c0; }
entry { background-color: #ffffff; color: #777777; }
.dim-label { opacity: 0.4; }
"""


@pytest.fixture
def theme(tmp_path):
    for name in ("gtk-3.0/gtk.css", "gtk-3.0/gtk-dark.css", "gtk-4.0/gtk.css"):
        (tmp_path / "Tern" / name).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / "Tern" / name).write_text(SHEET)
    return open_theme(tmp_path / "Tern")


def job(entry, *files):
    return SheetJob(entry, "gtk-3", "", tuple((f, 0) for f in files), {}, {}, (), frozenset(), frozenset())


def test_sheets_that_share_a_file_go_together_in_their_order():
    rows = [job("a", "a", "x"), job("b", "b"), job("c", "c", "y"), job("d", "y", "x"), job("e", "b")]
    assert sorted([s.entry for s in group] for group in together(rows)) == [["a", "c", "d"], ["b", "e"]]


@pytest.mark.long
def test_side_by_side_gives_what_one_after_the_other_gives(monkeypatch, theme, look):
    plain = recolour_theme(theme, look.scheme())
    assert plain.rules > 0
    monkeypatch.setattr(mending, "_MOST_KEPT", 0)
    mending._KEPT.clear()
    monkeypatch.setattr(mending, "_LARGE", 0)
    monkeypatch.setattr(mending.os, "cpu_count", lambda: 4)
    asked = []
    monkeypatch.setattr(mending, "ask", lambda *a, ask=mending.ask, **k: asked.append(a[0]) or ask(*a, **k))
    beside = recolour_theme(theme, look.scheme())
    assert beside.fresh == plain.fresh and beside.rules == plain.rules and beside.short == plain.short
    assert asked and set(asked) == {"mellow_finch.theme.sheets.processes"}

    def lost(*_args, **_more):
        raise WorkerLostError("gone")

    monkeypatch.setattr(mending, "ask", lost)
    assert recolour_theme(theme, look.scheme()).fresh == plain.fresh
    monkeypatch.setattr(mending, "ask", lambda *_a, **_m: ({"raised": "MemoryError"}, b""))
    assert recolour_theme(theme, look.scheme()).fresh == plain.fresh


def test_it_can_be_stopped_while_others_are_waited_for(monkeypatch, theme, look):
    monkeypatch.setattr(mending, "_LARGE", 0)
    monkeypatch.setattr(mending.os, "cpu_count", lambda: 2)

    mending._KEPT.clear()

    class Stop:
        def report(self, done, total, note):
            if done:
                raise Cancelled("stopped")

    with pytest.raises(Cancelled):
        recolour_theme(theme, look.scheme(), progress=Stop())


@pytest.mark.long
def test_what_was_mended_lately_is_kept_and_what_differs_is_not(monkeypatch, theme, looks):
    mending._KEPT.clear()
    worked = []
    real = mending.mend_sheets
    monkeypatch.setattr(mending, "mend_sheets", lambda order: worked.append(1) or real(order))
    first = recolour_theme(theme, looks[0].scheme())
    count = len(worked)
    assert count == 3
    again = recolour_theme(theme, looks[0].scheme())
    assert len(worked) == count and again.fresh == first.fresh and again.rules == first.rules
    other = recolour_theme(theme, looks[1].scheme())
    assert len(worked) == 2 * count and other.fresh != first.fresh
    assert recolour_theme(theme, looks[0].scheme()).fresh == first.fresh and len(worked) == 2 * count
