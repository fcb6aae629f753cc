"""Stores of settings: read, set, put back, "not set" included, on files and real servers where there are some."""

from __future__ import annotations

import os
import shutil
import struct
import subprocess
import sys
import time
from contextlib import suppress
from pathlib import Path

import psutil
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.components.model import ReloadMethod
from mellow_finch.session import processes, x11
from mellow_finch.session.base import DesktopSetting
from mellow_finch.session.outsiders import outsiders
from mellow_finch.session.real import RealSession
from mellow_finch.session.stores.keyfile import KeyFiles
from mellow_finch.session.stores.xfconf import Xfconf
from mellow_finch.session.stores.xsettingsd import Xsettingsd

NAMES = st.text("abcdefgh", min_size=1, max_size=6)


@given(
    st.dictionaries(NAMES, st.dictionaries(NAMES, NAMES, max_size=3), max_size=3), NAMES, NAMES, NAMES, st.booleans()
)
def test_a_key_that_is_set_and_taken_back_leaves_the_file_as_it_was(
    tmp_path_factory, sections, section, key, value, crlf
):
    home = tmp_path_factory.mktemp("keys")
    end = "\r\n" if crlf else "\n"
    text = end.join(f"[{s}]{end}" + end.join(f"{k}={v}" for k, v in keys.items()) + end for s, keys in sections.items())
    path = home / "a/b.conf"
    if sections:
        path.parent.mkdir()
        path.write_bytes(text.encode())
    store, place = KeyFiles(home), f"a/b.conf#{section}"
    before = store.read(place, key)
    store.write(place, key, value, "")
    assert store.read(place, key).has(value) and key in store.keys(place, "*")
    if before.state == "set":
        store.write(place, key, before.value, before.kind)
    else:
        store.reset(place, key, before.kind)
    assert store.read(place, key) == before
    if sections:
        assert path.read_bytes() == text.encode()
    else:
        assert list(home.iterdir()) == []


def test_xfconf_tells_what_the_person_set_by_their_own_files(tmp_path, monkeypatch):
    folder = tmp_path / ".config/xfce4/xfconf/xfce-perchannel-xml"
    folder.mkdir(parents=True)
    (folder / "xsettings.xml").write_text(
        '<channel name="xsettings"><property name="Net" type="empty">'
        '<property name="ThemeName" type="string" value="Saltpan"/><property name="Icon" type="empty"/></property>'
        '<property name="n" type="array"><value type="double" value="0.5"/><value type="int" value="3"/></property>'
        "</channel>"
    )
    monkeypatch.delenv("XDG_CONFIG_HOME", raising=False)
    store = Xfconf(tmp_path)
    assert store._own("xsettings", "/Net/ThemeName") and not store._own("xsettings", "/Net/Icon")
    assert store._in_file(folder / "xsettings.xml", "/n") == "[0.5, 3]"
    (folder / "xsettings.xml").write_text("<torn")
    assert not store._own("xsettings", "/Net/ThemeName")


def xsettings(rows):
    data = struct.pack("<BxxxII", 0, 7, len(rows))
    for name, value in rows.items():
        kind = 0 if isinstance(value, int) else 1
        raw = name.encode()
        data += struct.pack("<BxH", kind, len(raw)) + raw + b"\0" * (-len(raw) % 4) + struct.pack("<I", 1)
        if kind == 0:
            data += struct.pack("<i", value)
        else:
            text = value.encode()
            data += struct.pack("<I", len(text)) + text + b"\0" * (-len(text) % 4)
    return data


@given(st.dictionaries(st.text("abcXYZ/", min_size=1, max_size=9), st.one_of(st.integers(-9, 9), NAMES), max_size=6))
def test_the_x_settings_are_read_as_their_specification_lays_them_out(rows):
    assert x11.parsed(xsettings(rows)) == {k: str(v) for k, v in rows.items()}


@given(st.binary(max_size=80))
def test_torn_x_settings_raise_only_what_is_said(data):
    with suppress(struct.error):
        assert all(isinstance(name, str) for name in x11.parsed(data))


def test_a_signal_reaches_only_the_programs_of_that_name(tmp_path):
    script = tmp_path / "reedbar"
    script.write_text(
        f"#!{sys.executable}\nimport signal, pathlib, time\n"
        "signal.signal(signal.SIGUSR2, lambda *_: pathlib.Path(__file__).with_name('told').touch())\n"
        "pathlib.Path(__file__).with_name('up').touch()\nwhile True: time.sleep(0.05)\n"
    )
    script.chmod(0o755)
    child = subprocess.Popen([str(script)])
    try:
        until = time.monotonic() + 10
        while not (tmp_path / "up").exists() and time.monotonic() < until:
            time.sleep(0.02)
        assert processes.own_processes(("reedbar", "mudbar")) == {"reedbar": (child.pid,)}
        session = RealSession(tmp_path)
        assert session.tell(ReloadMethod("signal", "mudbar", ("USR2",))).outcome == "not running"
        assert session.tell(ReloadMethod("signal", "reedbar", ("USR2",), ("false",))).outcome == "refused"
        assert session.tell(ReloadMethod("command", "reedbar", ("no-such-command",))).outcome == "missing"
        assert session.tell(ReloadMethod("command", "reedbar", ("false",))).outcome == "refused"
        assert session.tell(ReloadMethod("command", "reedbar", ("true",))).outcome == "told"
        assert not (tmp_path / "told").exists()
        assert session.tell(ReloadMethod("signal", "reedbar", ("USR2",))).outcome == "told"
        while not (tmp_path / "told").exists() and time.monotonic() < until:
            time.sleep(0.02)
        assert (tmp_path / "told").exists()
        (tmp_path / "up").unlink()
        monkey = os.environ["PATH"]
        os.environ["PATH"] = f"{tmp_path}{os.pathsep}{monkey}"
        try:
            threading_wait(child)
            assert session.restart("reedbar", ("reedbar",)).outcome == "told"
        finally:
            os.environ["PATH"] = monkey
        while not (tmp_path / "up").exists() and time.monotonic() < until:
            time.sleep(0.02)
        again = processes.own_processes(("reedbar",))["reedbar"]
        assert child.pid not in again
        processes.end(again)
    finally:
        child.kill()
        child.wait()


def threading_wait(child):
    """Let a child that ends be taken away by its parent, as a shell does."""
    import threading

    threading.Thread(target=child.wait, daemon=True).start()


def test_what_will_not_follow_is_found_by_names_alone(tmp_path):
    home, root = tmp_path / "home", tmp_path / "root"
    (home / ".local/share/flatpak/app/org.reedholm.Tides").mkdir(parents=True)
    (root / "snap/ringbook").mkdir(parents=True)
    (root / "snap/core22").mkdir()
    (home / "Applications").mkdir()
    (home / "Applications/Wader.AppImage").write_bytes(b"\x7fELF\0\0\0\0AI\x02rest")
    (home / "Applications/notes.txt").write_bytes(b"plain")
    (tmp_path / "bin").mkdir()
    for name in ("dwm", "cmus", "herons"):
        (tmp_path / "bin" / name).write_text("#!/bin/sh\n")
        (tmp_path / "bin" / name).chmod(0o755)
    for folder, said in (("chromium", '{"extensions": {"theme": {"system_theme": 0}}}'), ("vivaldi", "[]"),
                         ("google-chrome", '{"extensions": {"theme": {"system_theme": 1}}}')):  # fmt: skip
        (home / f".config/{folder}/Default").mkdir(parents=True)
        (home / f".config/{folder}/Default/Preferences").write_text(said)
    found = {row.kind: row for row in outsiders(home, {"PATH": str(tmp_path / "bin")}, root)}
    assert found["own colours"].names == ("Chromium",) and "Use GTK" in found["own colours"].cure
    assert found["built in"].names == ("dwm",) and found["own settings"].names == ("cmus",) and "no way" not in found
    assert found["flatpak"].names == ("org.reedholm.Tides",) and "flatpak override" in found["flatpak"].cure
    assert found["snap"].names == ("ringbook",)
    assert found["appimage"].names == ("Wader.AppImage",)
    assert "QT_QPA_PLATFORMTHEME" in found["qt"].why
    assert "qt" not in {r.kind for r in outsiders(home, {"QT_QPA_PLATFORMTHEME": "qt5ct"}, root)}
    assert "qt" not in {r.kind for r in outsiders(home, {"XDG_CURRENT_DESKTOP": "KDE"}, root)}


@pytest.mark.consumer
@pytest.mark.skipif(shutil.which("xvfb-run") is None or shutil.which("xrdb") is None, reason="no X server or xrdb")
def test_x_resources_are_put_back_exactly(tmp_path):
    script = """
import subprocess, sys
from mellow_finch.session.base import DesktopSetting
from mellow_finch.session.real import RealSession
def query():
    return sorted(subprocess.run(["xrdb", "-query"], capture_output=True, text=True).stdout.splitlines())
subprocess.run(["xrdb", "-load", "-"], input="*marsh:\\twet\\nXTerm*geometry:\\t80x24\\n", text=True)
before = query()
session = RealSession()
rows = [DesktopSetting("", "*marsh", "dry", "xresources"), DesktopSetting("", "*fresh", "#102030", "xresources")]
was = [session.read(r) for r in rows]
for r in rows: session.write(r)
assert [session.read(r).value for r in rows] == ["dry", "#102030"]
for r, w in zip(rows, was):
    session.write(r._replace(value=w.value)) if w.state == "set" else session.reset(r, w.kind)
assert [session.read(r) for r in rows] == was and query() == before, (query(), before)
print("exact", session.compositor(), session.shown())
"""
    source = str(Path(__file__).resolve().parents[2] / "src")
    environment = {**os.environ, "PYTHONPATH": source, "HOME": str(tmp_path)}
    environment.pop("WAYLAND_DISPLAY", None)
    done = subprocess.run(
        ["xvfb-run", "-a", "-s", "-noreset", sys.executable, "-c", script],
        env=environment,
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert "exact False" in done.stdout, done.stdout + done.stderr


def test_the_settings_daemons_file_is_no_store_where_it_does_not_run(tmp_path):
    store = Xsettingsd(tmp_path)
    assert store.read("", "Net/ThemeName").state == "absent"
    assert RealSession(tmp_path).read(DesktopSetting("", "x", store="no such store")).state == "absent"


@pytest.mark.parametrize(
    ("theirs", "ours"),
    [
        ({}, True),
        ({"DBUS_SESSION_BUS_ADDRESS": "unix:path=/own,guid=3"}, True),
        ({"DBUS_SESSION_BUS_ADDRESS": "unix:path=/other"}, False),
        ({"DBUS_SESSION_BUS_ADDRESS": "unix:path=/other", "DISPLAY": ":77"}, True),
        ({"DBUS_SESSION_BUS_ADDRESS": "unix:path=/other", "DISPLAY": ":78"}, False),
        ({"DBUS_SESSION_BUS_ADDRESS": "unix:path=/other", "WAYLAND_DISPLAY": "wayland-1", "XDG_RUNTIME_DIR": "/r"}, True),
        ({"DBUS_SESSION_BUS_ADDRESS": "unix:path=/other", "WAYLAND_DISPLAY": "wayland-1", "XDG_RUNTIME_DIR": "/q"}, False),
    ],
)  # fmt: skip
def test_what_runs_in_another_session_of_the_person_is_not_of_this_one(theirs, ours, tmp_path, monkeypatch):
    for name, value in {"DBUS_SESSION_BUS_ADDRESS": "unix:path=/own", "DISPLAY": ":77", "WAYLAND_DISPLAY": "wayland-1", "XDG_RUNTIME_DIR": "/r"}.items():  # fmt: skip
        monkeypatch.setenv(name, value)
    program = shutil.copy(shutil.which("sleep"), tmp_path / "mudbar")
    child = subprocess.Popen([program, "60"], env=theirs)
    until = time.monotonic() + 20
    try:
        while psutil.Process(child.pid).environ() != theirs and time.monotonic() < until:  # it is just being started
            time.sleep(0.02)
        assert processes.own_processes(("mudbar",)) == ({"mudbar": (child.pid,)} if ours else {})
    finally:
        child.kill()
        child.wait()
