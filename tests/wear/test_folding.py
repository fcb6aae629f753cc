"""Settings and files of one place: neither takes the other for a person's edit, and going back is exact."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.look.decision_edits import with_companion
from mellow_finch.look.dressed import Output, dress
from mellow_finch.session.base import DesktopSetting
from mellow_finch.session.desktop import desktop_named
from mellow_finch.session.real import RealSession
from mellow_finch.syntax.ini import read_ini
from mellow_finch.syntax.lines import set_lines
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import folded, make_plan, own_files
from mellow_finch.wear.wear import put_on, undo_last

WORDS = st.lists(st.text("abcxyz-", min_size=1, max_size=5), min_size=1, max_size=3).map(" ".join)


@given(st.lists(WORDS, max_size=6), WORDS, st.text("pq/.", min_size=1, max_size=8))
def test_only_the_lines_that_begin_with_the_words_change(lines, words, value):
    text = "".join(f"{line}\n" for line in lines)
    fresh = set_lines(text, words, value).splitlines()
    begin = words.split()
    hit = [line for line in lines if line.split()[: len(begin)] == begin and len(line.split()) > len(begin)]
    for old, new in zip(lines, fresh, strict=False):
        assert new == (f"{words} {value}" if old in hit else old)
    assert len(fresh) == len(lines) + (not hit)


def test_any_word_stands_for_a_name_and_is_kept():
    text = 'output "Marsh 2" bg /old.png fill\n  output HDMI-1 bg  /x.png tile\noutput HDMI-1 pos 0 0\n'
    fresh = set_lines(text, "output * bg", '"/new.png" fit')
    assert fresh == 'output "Marsh 2" bg "/new.png" fit\n  output HDMI-1 bg  "/new.png" fit\noutput HDMI-1 pos 0 0\n'
    assert set_lines("exec reeds", "output * bg", "x") == "exec reeds\noutput * bg x\n"


def test_a_setting_in_a_file_that_is_written_goes_into_it(files):
    icons = DesktopSetting(".config/kdeglobals#Icons", "Theme", "Sedge", "keyfile")
    other = DesktopSetting(".config/kcminputrc#Mouse", "cursorTheme", "Sedge", "keyfile")
    told = {icons: ("Icons", ""), other: ("Cursor theme", "")}
    (output,), rest = folded([Output(".config/kdeglobals", b"[General]\nName=x\n", ("kde",))], told, files)
    assert read_ini(output.data.decode()) == {"General/Name": "x", "Icons/Theme": "Sedge"}
    assert list(rest) == [other]


def test_a_file_that_only_chooses_is_left_to_the_store_that_tells(files):
    choice = DesktopSetting(".config/plasmarc#Theme", "name", "Look", "plasma-theme")
    alone = Output(".config/plasmarc", b"[Theme]\nname=Look\n", ("desktop-theme",))
    outputs, rest = folded([alone], {choice: ("Theme", "desktop-theme")}, lambda path: None)
    assert outputs == () and list(rest) == [choice]
    more = alone._replace(data=b"[Theme]\nname=Look\n[Marsh]\nreeds=1\n")
    outputs, rest = folded([more], {choice: ("Theme", "desktop-theme")}, lambda path: None)
    assert outputs == (more,) and rest == {}


def test_sandboxed_programs_may_read_when_asked_and_not_any_more_afterwards(look, home, monkeypatch):
    monkeypatch.setenv("XDG_CURRENT_DESKTOP", "Tidal")
    place = home / ".local/share/flatpak/overrides/global"
    asked = with_companion(look, "sandboxes", "read")
    for before in (None, "[Context]\nfilesystems=~/Marsh;xdg-data/themes:ro;\n\n[Environment]\nREEDS=1\n"):
        if before is not None:
            place.parent.mkdir(parents=True)
            place.write_text(before)
        history, session = History(history_folder(home)), RealSession(home)
        plain = make_plan(dress(look, own_files(home, history), frozenset({"kitty"})), home, session)
        assert not any(s.store == "keyfile" for s in plain.settings)
        plan = make_plan(dress(asked, own_files(home, history), frozenset({"kitty"})), home, session)
        put_on(plan, history, session)
        entries = read_ini(place.read_text())["Context/filesystems"].split(";")
        assert entries.count("xdg-data/themes:ro") == 1 and "~/.themes:ro" in entries
        assert before is None or entries[0] == "~/Marsh"
        undo_last(history, session)
        assert place.read_text() == before if before else not place.parent.parent.exists()


def test_plasma_gets_fonts_and_buttons_in_its_own_spelling(look, home, monkeypatch):
    monkeypatch.setenv("XDG_CURRENT_DESKTOP", "KDE")
    asked = with_companion(with_companion(look, "font", "Marsh Sans 11"), "buttons", "left")
    session = RealSession(home)
    assert session.desktop == desktop_named("plasma").id
    dressed = dress(asked, own_files(home, History(history_folder(home))), frozenset({"kde"}))
    plan = make_plan(dressed, home, session)
    kde = read_ini(next(w.data for w in plan.writes if w.path == ".config/kdeglobals").decode())
    assert kde["General/font"] == "Marsh Sans,11,-1,5,50,0,0,0,0,0"
    assert {s.key: s.value for s in plan.settings if "kwinrc" in s.schema} == {
        "ButtonsOnLeft": "XIA",
        "ButtonsOnRight": "M",
    }
    assert [way.program for owner, way in plan.ways if owner == "plasma"] == ["kwin_x11", "kwin_wayland"]
