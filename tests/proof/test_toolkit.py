"""The real toolkit asked about a theme: what it paints is the verdict; where it cannot be asked, that is said."""

from __future__ import annotations

import json

import pytest
from click.testing import CliRunner
from PyQt6.QtGui import QImage

from mellow_finch.cli import app
from mellow_finch.demo.turnstone import turnstone_archive
from mellow_finch.look.carry import look_text
from mellow_finch.proof.toolkit import ask as toolkit
from mellow_finch.proof.toolkit.ask import (
    MeasuredPlace,
    ToolkitError,
    Verdict,
    ask,
    ask_after,
    ask_before,
    may_be_asked,
    mend_by_painting,
)
from mellow_finch.theme.bundle.read import open_theme
from mellow_finch.theme.result.account import Choices, OutEntry
from mellow_finch.theme.result.recolour import recolour_theme
from mellow_finch.theme.sheets.places import nested_parts

MUDDLE = "window { background-color: #202020; } label, button, menuitem { color: #303030; }"


@pytest.fixture
def able():
    if toolkit.reason_not():
        pytest.skip(f"NO GTK 3: {toolkit.reason_not()}")


@pytest.fixture
def archive(tmp_path):
    path = tmp_path / "turnstone.tar.gz"
    path.write_bytes(turnstone_archive())
    return path


@pytest.mark.long
@pytest.mark.consumer
def test_before_and_after_are_painted_and_measured(able, archive, look):
    theme = open_theme(archive)
    assert may_be_asked(theme)
    before, after = ask_before(theme), ask_after(recolour_theme(theme, look.scheme()))
    assert len(after.places) > 120 and after.short == () and "all with enough contrast" in after.summary
    assert len(before.short) > 0 and before.version.startswith("3.")
    assert [p.need.shortfall(p.ratio) for p in before.places] == sorted(
        p.need.shortfall(p.ratio) for p in before.places
    )
    pictures = [QImage.fromData(v.pictures[0]) for v in (before, after)]
    assert all(not p.isNull() and p.height() > 1000 for p in pictures) and pictures[0] != pictures[1]
    shown = {pictures[1].pixelColor(x, y).name() for x in range(0, 600, 3) for y in range(0, 1500, 3)}
    assert {look.colours["window"].hex, look.colours["accent"].hex} <= shown


@pytest.mark.long
@pytest.mark.consumer
def test_what_cannot_be_read_is_found(able):
    verdict = ask({".themes/Muddle/gtk-3.0/gtk.css": OutEntry(MUDDLE.encode(), 0o644, "")}, "Muddle")
    assert {"button", "label"} <= {p.widget for p in verdict.short} and "insufficient contrast" in verdict.summary


def test_where_it_cannot_be_asked_that_is_said(monkeypatch, archive, look, home, tmp_path):
    monkeypatch.setattr(toolkit, "reason_not", lambda *_: "GTK 3 cannot be asked here: our own judgement counts.")
    with pytest.raises(ToolkitError, match="our own judgement counts"):
        ask({}, "None")
    (tmp_path / "a.finchlook").write_text(look_text(look, tmp_path))
    words = [
        "recolour",
        str(archive),
        str(tmp_path / "a.finchlook"),
        "--into",
        str(tmp_path / "out"),
        "--yes",
        "--ask-toolkit",
    ]
    said = CliRunner().invoke(app, words)
    assert said.exit_code != 0 and "our own judgement counts" in said.output


@pytest.mark.long
def test_mending_goes_on_from_what_was_painted_while_that_helps(monkeypatch, archive, look):
    theme = open_theme(archive)
    place = next(p for p in nested_parts() if p.id == "=tab, text" and not p.state)
    short = MeasuredPlace("tab", "rest", "text", 1.2, "#d22828", "#c81e1e", place.at)
    fine = short._replace(ratio=6.0)
    asked: list[int] = []

    def answer(*rows):
        verdicts = [Verdict("3.24", tuple(row), ()) for row in rows]

        def after(outcome, _generations, _text_need):
            asked.append(outcome.rules)
            return verdicts[min(len(asked), len(verdicts)) - 1]

        asked.clear()
        monkeypatch.setattr(toolkit, "ask_after", after)

    outcome = recolour_theme(theme, look.scheme())
    answer([short], [fine])
    settled = mend_by_painting(theme, look.scheme(), Choices(), outcome)
    assert settled.short_at_first == 1 and settled.verdict.short == () and asked == [outcome.rules, outcome.rules + 1]
    answer([short], [short])  # it does not help: what was there stays
    assert mend_by_painting(theme, look.scheme(), Choices(), outcome).outcome is outcome and len(asked) == 3
    answer([short], [short, short], [fine])  # what one rule spoils the next makes good
    assert mend_by_painting(theme, look.scheme(), Choices(), outcome).verdict.short == () and len(asked) == 3
    answer([fine])
    assert mend_by_painting(theme, look.scheme(), Choices(), outcome).outcome is outcome and len(asked) == 1


def test_a_toolkit_that_hangs_or_ends_is_told(monkeypatch):
    monkeypatch.setattr(toolkit, "reason_not", lambda *_: "")
    monkeypatch.setattr(toolkit, "_walled", lambda: ())
    monkeypatch.setattr(toolkit, "_CPU_S", 0.01)
    with pytest.raises(ToolkitError, match=r"did not draw the theme"):
        ask({}, "None")


NEWER = """
window { background-color: #fafafa; color: #2a2a2a; }
button { background-color: #e6e6e6; color: #3a3a3a; border: 1px solid #d0d0d0; background-image: none; }
button.suggested-action { background-color: #9ad0f0; color: #ffffff; }
entry, textview text { background-color: #ffffff; color: #9a9a9a; }
.dim-label { opacity: 0.4; }
"""


@pytest.mark.consumer
@pytest.mark.long
def test_both_generations_are_asked_and_the_newer_one_is_mended_by_its_own_tree(tmp_path, look):
    if toolkit.reason_not(4) or toolkit.reason_not(3):
        pytest.skip("NO GTK 4")
    for generation in (3, 4):
        sheet = tmp_path / f"Tern/gtk-{generation}.0/gtk.css"
        sheet.parent.mkdir(parents=True)
        sheet.write_text(NEWER)
    theme = open_theme(tmp_path / "Tern")
    before = ask_before(theme)
    assert {p.generation for p in before.places} == {3, 4} and before.version.count(".") == 4
    newer = [p for p in before.short if p.generation == 4]
    assert {"dim label", "suggested-action"} <= {p.widget for p in newer} and newer[0].words.startswith("GTK 4: ")
    settled = mend_by_painting(theme, look.scheme(), Choices(), recolour_theme(theme, look.scheme()))
    assert [p for p in settled.verdict.short if p.what == "text"] == []
    assert sum(p.generation == 4 for p in settled.verdict.places) > 120


def test_one_that_ends_leaves_the_word_to_the_other(monkeypatch):
    place = MeasuredPlace("button", "rest", "text", 7.0, "#000000", "#ffffff")

    def answer(_entries, _name, generation, _text_need):
        if generation == 4:
            raise ToolkitError("GTK 4 ended over the theme")
        return Verdict("3.24.38", (place,), (b"png",))

    monkeypatch.setattr(toolkit, "ask", answer)
    assert toolkit.ask_both({}, "Tern", (3, 4)) == Verdict("3.24.38", (place,), (b"png",))
    with pytest.raises(ToolkitError, match="ended"):
        toolkit.ask_both({}, "Tern", (4,))


def test_needs_by_state():
    rows = [
        MeasuredPlace("button", s, w, 2.9, "#000000", "#ffffff") for s, w in (("disabled", "text"), ("rest", "edge"))
    ]
    assert [r.passes for r in rows] == [True, False] and rows[1].words == "button: edge"


@pytest.mark.long
@pytest.mark.consumer
def test_the_command_tells_what_was_painted(able, archive, look, tmp_path):
    (tmp_path / "a.finchlook").write_text(look_text(look, tmp_path))
    words = [
        "recolour",
        str(archive),
        str(tmp_path / "a.finchlook"),
        "--into",
        str(tmp_path / "out"),
        "--yes",
        "--ask-toolkit",
        "--json",
    ]
    said = CliRunner().invoke(app, words)
    assert said.exit_code == 0, said.output
    told = json.loads(said.output)["toolkit"]
    assert told["after"]["short"] == [] and told["before"]["short"] and told["after"]["places"] > 120
