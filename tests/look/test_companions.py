"""What goes with the colours: names that can stand in settings, kept in a look's file, set by a desktop's own words."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from mellow_finch.colour.rgb import Rgba
from mellow_finch.look.companions import COMPANIONS, fits
from mellow_finch.look.decision_edits import with_companion
from mellow_finch.look.file import look_from_json, look_to_json
from mellow_finch.session.desktop import Wish, desktop_named, desktops, settings_for
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.theme.bundle.installed import icon_themes, pointer_themes, ranked_by_look
from mellow_finch.wear.glass import surface_words


def test_companions_are_kept_and_what_is_none_is_not(look):
    worn = with_companion(with_companion(look, "icons", "Reed Buntings"), "font", "Atkinson Next 11")
    assert look_from_json(look_to_json(worn)).companions == {"icons": "Reed Buntings", "font": "Atkinson Next 11"}
    text = look_to_json(worn).replace("Reed Buntings", "../../etc")
    assert look_from_json(text).companions == {"font": "Atkinson Next 11"}
    assert with_companion(worn, "icons", "").companions == {"font": "Atkinson Next 11"}
    with pytest.raises(ValueError):
        with_companion(look, "icons", "a\nb")


@given(st.sampled_from([c.id for c in COMPANIONS]), st.text(max_size=90))
def test_what_fits_can_break_no_line_and_no_quotes(id_, value):
    if fits(id_, value):
        assert not set(value) & set('\n\r"\\/;=<>&$`') and 0 < len(value) <= 84


@pytest.mark.parametrize("name", ["slideshow", "no compositor", "dark first"])
def test_a_desktop_is_only_set_what_was_asked_for(name):
    made_up = MADE_UP[name]
    desktop = desktop_named(made_up.desktop)
    session = SimulatedSession(made_up)
    none = settings_for(desktop, Wish("Marsh", "dark"), (), session)
    assert not [s for s, row in none if row.title in ("Icons", "Cursor theme", "Title-bar buttons", "Slideshow")]
    asked = settings_for(desktop, Wish("Marsh", "dark", companions={"icons": "Reed", "buttons": "left"}), (), session)
    values = {row.title: s.value for s, row in asked}
    assert values["Icons"] == "Reed" and values["Title-bar buttons"] == desktop.buttons["left"]
    assert "Cursor theme" not in values


def test_every_word_of_a_desktops_rows_is_one_there_is(looks):
    for desktop in desktops():
        words = Wish("Marsh", "dark", surfaces=surface_words(looks[0])).words(desktop)
        for row in desktop.rows:
            assert row.needs in {*words, ""}, (desktop.id, row.key)
            said = [text.format(**words) for text in (row.value, row.kind, row.writes)]
            assert "{" not in "".join(said) or row.value.startswith("{"), (desktop.id, row.key)


def theme(root: Path, name: str, drawing: str = "", pointers: bool = False, hidden: bool = False) -> None:
    folder = root / name
    (folder / "scalable/places").mkdir(parents=True)
    rows = "" if pointers else "Directories=scalable/places\n"
    (folder / "index.theme").write_text(f"[Icon Theme]\nName={name.title()}\n{rows}{'Hidden=true' if hidden else ''}\n")
    if drawing:
        (folder / "scalable/places/folder.svg").write_text(drawing)
    if pointers:
        (folder / "cursors").mkdir()


def test_icon_themes_are_found_by_their_files_and_ranked_by_colour(tmp_path, look):
    def drawn(colour):
        return f'<svg xmlns="http://www.w3.org/2000/svg"><rect fill="{colour}"/><path fill="#ffffff"/></svg>'

    own, system = tmp_path / "own", tmp_path / "system"
    accent = look.colours["accent"]
    theme(own, "reed", drawn(accent.hex))
    theme(own, "sky", drawn("#3b82f6"))
    theme(system, "sky", drawn("#000000"))  # the person's own comes first
    theme(system, "hicolor", drawn("#111111"))
    theme(system, "secret", drawn("#222222"), hidden=True)
    theme(system, "torn", "<svg fill='#zz")
    theme(system, "terns", pointers=True)
    theme(system, "painted")
    (system / "painted/scalable/places/folder.png").parent.mkdir(exist_ok=True)
    Image.new("RGBA", (48, 48), (200, 60, 40, 255)).save(system / "painted/scalable/places/folder.png")
    found = icon_themes((own, system, tmp_path / "nowhere"))
    assert [t.name for t in found] == ["painted", "reed", "sky", "torn"]
    by = {t.name: t.leading for t in found}
    assert by["sky"] == Rgba(59, 130, 246) and by["painted"] == Rgba(200, 60, 40) and by["torn"] is None
    first, *_, last = ranked_by_look(found, look.colours)
    assert first.name == "reed" and last.name == "torn"
    assert [t.name for t in pointer_themes((own, system))] == ["terns"]


def test_a_look_with_companions_is_worn_and_taken_off(look, home):
    from mellow_finch.look.dressed import dress
    from mellow_finch.wear.history import History
    from mellow_finch.wear.places import history_folder
    from mellow_finch.wear.plan import make_plan, own_files
    from mellow_finch.wear.wear import put_on, undo_last

    session = SimulatedSession(MADE_UP["ringing room"])
    session.settings["xsettings", "/Net/IconThemeName"] = None
    was, history = dict(session.settings), History(history_folder(home))
    worn = replace(look, companions={"icons": "Reed", "buttons": "left"})
    put_on(make_plan(dress(worn, own_files(home, history), frozenset({"gtk-3"})), home, session), history, session)
    assert session.settings["xsettings", "/Net/IconThemeName"] == "Reed"
    assert session.settings["xfwm4", "/general/button_layout"] == "CMH|O"
    assert session.settings["xsettings", "/Gtk/DecorationLayout"] == "from CMH|O"  # the daemon follows by itself
    undo_last(history, session)
    restored = dict(session.settings)
    assert restored.pop(("xsettings", "/Gtk/DecorationLayout")) == "from O|HMC"  # and back again
    was.pop(("xsettings", "/Gtk/DecorationLayout"))
    assert restored == was
