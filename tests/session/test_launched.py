"""Pictures that compositors' configurations start a program with: read, replaced in place, and shown."""

from __future__ import annotations

import shlex
import subprocess
import sys

import psutil
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.components.files import FolderFiles
from mellow_finch.components.model import ReloadMethod
from mellow_finch.look.dressed import dress
from mellow_finch.picture.placement import Showing
from mellow_finch.session.base import DesktopSetting
from mellow_finch.session.desktop import Wish, desktop_named, settings_for
from mellow_finch.session.now import now
from mellow_finch.session.real import RealSession
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.session.stores import launched
from mellow_finch.session.stores.launched import LaunchedPictures
from mellow_finch.syntax.launched import picture_lines, pictures_in, with_picture
from mellow_finch.wear.plan import make_plan

NAMES = st.text("abz09_ -.é", min_size=1, max_size=9).map(lambda name: f"/{name.strip() or 'x'}.jpg")
MODES = st.sampled_from(["fill", "fit", "stretch", "tile", "center"])


@st.composite
def starts(draw):
    """Return a file that starts swaybg once or more, among other lines, and the pictures and modes in it."""
    lines, meant = ["# swaybg -i /not/this.png", "waybar &", "export SWAYBG=1"], []
    for _ in range(draw(st.integers(1, 3))):
        path, mode, swapped = draw(NAMES), draw(st.one_of(st.none(), MODES)), draw(st.booleans())
        quote = draw(st.sampled_from(["'", '"'])) if shlex.quote(path) != path else ""
        words = [["-i", f"{quote}{path}{quote}"], ["-m", mode] if mode else []]
        words = words[::-1] if swapped else words
        line = " ".join(["swaybg", *draw(st.sampled_from([[], ["-o", "DP-1"]])), *words[0], *words[1]])
        lines.append(draw(st.sampled_from(["{} &", "exec {}", "exec-once = {}", "{} >/dev/null 2>&1 &"])).format(line))
        meant.append((path, mode or ""))
    return "\n".join([*lines, "conky"]) + "\n", meant


@given(starts(), NAMES, MODES)
def test_a_picture_is_replaced_in_place_and_a_shell_reads_it(made, path, mode):
    text, meant = made
    row = picture_lines()["swaybg"]
    assert pictures_in(text, row, "/home/reed") == meant
    number = len(meant) - 1
    fresh = with_picture(text, row, number, path, mode)
    assert pictures_in(fresh, row, "/home/reed") == [*meant[:-1], (path, mode if meant[-1][1] else "")]
    changed = [(a, b) for a, b in zip(text.splitlines(), fresh.splitlines(), strict=True) if a != b]
    assert len(changed) <= 1
    for _, line in changed:
        words = shlex.split(line.partition("&")[0].replace(">/dev/null 2>", ""))
        assert words[words.index("-i") + 1] == path
    assert with_picture(fresh, row, number, *meant[-1]).split() == text.replace("'", "").replace('"', "").split() or (
        pictures_in(with_picture(fresh, row, number, *meant[-1]), row, "") == meant
    )


OLD = (
    "preload = ~/a.png\npreload = ~/b.png\nwallpaper = eDP-1,~/a.png\nwallpaper = ,contain:/c/d e.png\nsplash = false\n"
)
NEW = (
    "wallpaper {\n    monitor = DP-1\n    path = ~/a b.png # dawn\n    fit_mode = cover\n}\n"
    "wallpaper {\n    fit_mode = tile\n    monitor =\n    path = /z.png\n}\nsplash = true\n"
)


def test_a_file_of_its_own_in_both_forms():
    row = picture_lines()["hyprpaper"]
    assert pictures_in(OLD, row, "/h") == [("/h/a.png", ""), ("/c/d e.png", "")]
    assert with_picture(OLD, row, 0, "/n.jpg", "fit") == OLD.replace("preload = ~/a.png", "preload = /n.jpg").replace(
        "eDP-1,~/a.png", "eDP-1,/n.jpg"
    )
    assert pictures_in(NEW, row, "/h") == [("/h/a b.png", "fill"), ("/z.png", "tile")]
    assert with_picture(NEW, row, 1, "/n p.jpg", "fit") == NEW.replace("tile", "contain").replace("/z.png", "/n p.jpg")


@pytest.mark.parametrize("path", ["/a'b.jpg", '/a"b.jpg', "/a$b.jpg", "/a\nb.jpg"])
def test_a_path_that_a_line_cannot_hold_changes_nothing(path):
    text = "swaybg -i /old.png\n"
    assert with_picture(text, picture_lines()["swaybg"], 0, path, "fill") == text
    assert with_picture(text, picture_lines()["swaybg"], 4, "/new.png", "fill") == text


def settings_of(id_, home, picture="/p/dawn.jpg"):
    session = RealSession(home)
    session.desktop = id_
    wish = Wish("Dawn", "dark", picture, "fill")
    return session, [s for s, _ in settings_for(desktop_named(id_), wish, (), session) if s.value == picture]


FILES = {
    "labwc": (".config/labwc/autostart", "swaybg -i ~/old.png -m fit &\n"),
    "hyprland": (".config/hypr/hyprpaper.conf", NEW),
    "river": (".config/river/init", 'riverctl spawn "swaybg -i /old.png -m fill"\n'),
    "wayfire": (".config/wf-shell.ini", "[background]\nimage = /old.png\n"),
}


@pytest.mark.parametrize("id_", FILES)
def test_a_compositors_picture_is_told_set_and_put_back(id_, tmp_path):
    path, text = FILES[id_]
    assert settings_of(id_, tmp_path)[1] == []  # nothing of theirs names a picture, so nothing is set
    (tmp_path / path).parent.mkdir(parents=True)
    (tmp_path / path).write_text(text)
    session, rows = settings_of(id_, tmp_path)
    before = [session.read(row) for row in rows]
    assert rows and all(found.state == "set" for found in before)
    assert now(session).picture == before[0].value
    for row in rows:
        session.write(row)
    assert (
        all(session.read(row).has(row.value) for row in rows) and session.file(rows[0].store, path) == tmp_path / path
    )
    for row, old in zip(rows, before, strict=True):
        session.write(row._replace(value=old.value, kind=old.kind))
    assert (tmp_path / path).read_text() == text.replace("~", str(tmp_path))


def test_sway_leaves_its_own_line_out_where_a_program_draws_the_picture(tmp_path):
    (tmp_path / ".config/sway").mkdir(parents=True)
    (tmp_path / ".config/sway/config").write_text("output * bg /old.png fill\n")
    assert [s.store for s in settings_of("sway", tmp_path)[1]] == []  # it is in lines, with how it lies
    (tmp_path / ".config/sway/config").write_text("exec swaybg -i /old.png\n")
    assert [s.key for s in settings_of("sway", tmp_path)[1]] == ["swaybg 1"]
    assert settings_of("sway", tmp_path, "/a'b.png")[1] == []


def test_a_picture_in_a_file_that_the_look_writes_goes_into_it(look, tmp_path, monkeypatch):
    (tmp_path / ".config/hypr").mkdir(parents=True)
    config = tmp_path / ".config/hypr/hyprland.conf"
    config.write_text("general {\n    col.active_border = rgb(ff0000)\n}\nexec-once = swaybg -i /old.png -m fill\n")
    session = SimulatedSession(MADE_UP["plain"])
    monkeypatch.setattr(SimulatedSession, "desktop", "hyprland")
    monkeypatch.setattr(SimulatedSession, "keys", lambda self, store, schema, pattern: LaunchedPictures(tmp_path).keys(schema, pattern))  # fmt: skip
    dressed = dress(look, FolderFiles(tmp_path), frozenset({"hyprland"}))
    plan = make_plan(dressed, tmp_path, session)
    (write,) = [w for w in plan.writes if w.path == ".config/hypr/hyprland.conf"]
    assert f"swaybg -i {look.source} -m fill" in write.data.decode()
    assert not [s for s in plan.settings if s.store == "launched"]
    assert ("hyprland", ReloadMethod("again", "swaybg", (".config/hypr/hyprland.conf",))) in plan.ways


def test_what_draws_the_picture_is_started_anew_and_the_old_one_ends(tmp_path, monkeypatch):
    log = tmp_path / "log"
    (tmp_path / "bin").mkdir()
    program = tmp_path / "bin/swaybg"
    program.write_text(
        f"#!{sys.executable}\nimport sys, time\nopen({str(log)!r}, 'a').write(f'{{sys.argv[1:]}}\\n')\ntime.sleep(60)\n"
    )
    program.chmod(0o755)
    monkeypatch.setenv("PATH", f"{program.parent}:/usr/bin:/bin")
    (tmp_path / "start").write_text("swaybg -i ~/dawn.jpg -m fill >/dev/null 2>&1 &\n")
    monkeypatch.setattr(launched, "_COVERS_S", 0.0)
    way = ReloadMethod("again", "swaybg", ("start",))
    session = RealSession(tmp_path)
    assert session.tell(way).outcome == "not running"
    old = subprocess.Popen([str(program), "-i", "/old.png"])
    try:
        while not log.exists():
            pass
        assert session.tell(way).outcome == "told"
        old.wait(20)
        (new,) = launched.own_processes(("swaybg",))["swaybg"]
        assert new != old.pid
        while f"['-i', '{tmp_path}/dawn.jpg', '-m', 'fill']" not in log.read_text():
            assert psutil.pid_exists(new)
        assert session.tell(ReloadMethod("again", "swaybg", ("none",))).outcome == "not running"
    finally:
        launched.end(launched.own_processes(("swaybg",)).get("swaybg", ()))
        old.kill()


def test_a_daemon_that_tells_its_picture_is_asked(tmp_path, monkeypatch):
    (tmp_path / "bin").mkdir()
    asked = tmp_path / "bin/swww"
    asked.write_text(
        '#!/bin/sh\n[ $1 = query ] && echo \'DP-1: 1920x1080, scale: 1, currently displaying: image: /p/old dawn.png\'\n[ $1 = img ] && echo "$2" > "$HOME/told"\nexit 0\n'
    )
    daemon = tmp_path / "bin/swww-daemon"
    daemon.write_text(f"#!{sys.executable}\nimport time; print(1, flush=True); time.sleep(60)\n")
    for file in (asked, daemon):
        file.chmod(0o755)
    monkeypatch.setenv("PATH", f"{daemon.parent}:/usr/bin:/bin")
    monkeypatch.setenv("HOME", str(tmp_path))
    session = RealSession(tmp_path)
    row = DesktopSetting("", "picture", "/p/new.png", "swww")
    assert session.read(row).state == "absent"
    with subprocess.Popen([str(daemon)], stdout=subprocess.PIPE) as running:
        running.stdout.readline()
        try:
            assert session.read(row).has("/p/old dawn.png")
            session.write(row)
            assert (tmp_path / "told").read_text().strip() == "/p/new.png"
        finally:
            running.kill()


def test_sway_gets_a_line_for_each_screen_that_it_tells(tmp_path, monkeypatch):
    (tmp_path / ".config/sway").mkdir(parents=True)
    (tmp_path / ".config/sway/config").write_text("output * bg /old.png fill\n")
    (tmp_path / "bin").mkdir()
    asked = tmp_path / "bin/swaymsg"
    asked.write_text('#!/bin/sh\necho \'[{"name": "DP-1"}, {"name": "HDMI-A-2"}]\'\n')
    asked.chmod(0o755)
    monkeypatch.setenv("PATH", f"{asked.parent}:/usr/bin:/bin")
    session = RealSession(tmp_path)
    session.desktop = "sway"
    wish = Wish("Dawn", "dark", "/p/a.jpg", pictures=("/p/a.jpg", "/p/b.jpg"), showing=Showing("monitors"))

    def lines():
        found = settings_for(desktop_named("sway"), wish, (), session)
        return [(s.key, s.value) for s, _ in found if s.store == "lines"]

    whole = ("output * bg", '"/p/a.jpg" fill')
    assert lines() == [whole]  # nobody tells of screens
    monkeypatch.setenv("WAYLAND_DISPLAY", "wayland-9")
    monkeypatch.setenv("SWAYSOCK", "/run/sway")
    assert lines() == [whole, ("output DP-1 bg", '"/p/a.jpg" fill'), ("output HDMI-A-2 bg", '"/p/b.jpg" fill')]
    asked.write_text("#!/bin/sh\necho no\n")
    assert lines() == [whole]
