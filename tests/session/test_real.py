"""The person's own desktop, asked and changed through the real settings store on a bus of its own."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from mellow_finch.session.base import ABSENT, DesktopSetting
from mellow_finch.session.none import NoDesktop
from mellow_finch.session.real import RealSession
from mellow_finch.session.stores.gsettings import quoted, unquoted

ROOT = Path(__file__).resolve().parents[2]
SCRIPT = """
import json, sys
from pathlib import Path
from mellow_finch.look.dressed import Output
from mellow_finch.session.base import DesktopSetting
from mellow_finch.session.real import RealSession
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import Plan, planned
from mellow_finch.wear.wear import put_on, undo_last

S = "org.gnome.desktop.interface"
keys = ("color-scheme", "gtk-theme", "icon-theme", "cursor-theme", "cursor-size", "no-such-key")
session = RealSession()
def now():
    return {k: list(session.read(DesktopSetting(S, k)))[:2] for k in keys}
out = {"fresh": now()}
session.write(DesktopSetting(S, "icon-theme", ""))                       # set to empty
session.write(DesktopSetting(S, "cursor-theme", "Adwaita"))              # set to what is the default anyway
session.write(DesktopSetting(S, "cursor-size", "32"))                    # no text
session.write(DesktopSetting("no.such.schema", "key", "x"))
out["before"] = now()
home = Path.home()
writes, same, made_of = planned(home, [Output("file", b"new", ("a",))])
rows = (("color-scheme", "prefer-dark"), ("gtk-theme", "It's \\\\ ours"), ("icon-theme", "Ours"), ("cursor-theme", "Ours"), ("cursor-size", "48"), ("no-such-key", "x"))
settings = tuple(DesktopSetting(S, k, v) for k, v in rows)
history = History(history_folder(home))
put_on(Plan("Marsh", home, writes, (), settings, same, "", made_of), history, session)
out["worn"] = now()
undo_last(history, session)
out["after"] = now()
put_on(Plan("Marsh", home, writes, (), settings, same, "", made_of), history, session)
session.write(DesktopSetting(S, "gtk-theme", "Mine"))
out["left"] = list(undo_last(history, session).left)
out["kept"] = now()["gtk-theme"]
print(json.dumps(out))
"""


@pytest.mark.some(1)
@pytest.mark.consumer
@pytest.mark.parametrize("with_dconf", [True, False])
def test_settings_are_put_back_exactly_not_set_included(tmp_path, with_dconf):
    for program in ("gsettings", "dbus-run-session", "dconf"):
        if shutil.which(program) is None:
            pytest.skip(
                f"NO {program.upper()}: install libglib2.0-bin dconf-cli dbus to try settings in the real store"
            )
    if not Path("/usr/share/glib-2.0/schemas/org.gnome.desktop.interface.gschema.xml").exists():
        pytest.skip("NO SCHEMAS: install gsettings-desktop-schemas to try settings in the real store")
    home = tmp_path / "home"
    home.mkdir()
    env = {k: v for k, v in os.environ.items() if not k.startswith("XDG_")}
    env |= {"HOME": str(home), "PYTHONPATH": str(ROOT / "src"), "XDG_RUNTIME_DIR": str(tmp_path)}
    if not with_dconf:  # the file store, and no dconf command to ask
        tools = tmp_path / "tools"
        tools.mkdir()
        for program in ("gsettings", "dbus-run-session", "dbus-daemon"):
            (tools / program).symlink_to(shutil.which(program))
        env |= {"PATH": str(tools), "GSETTINGS_BACKEND": "keyfile"}
    done = subprocess.run(
        [shutil.which("dbus-run-session"), "--", sys.executable, "-c", SCRIPT], capture_output=True, text=True, env=env, timeout=120
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-2000:]
    said = json.loads(done.stdout.strip().splitlines()[-1])
    assert said["fresh"]["gtk-theme"][0] == "unset" and said["fresh"]["no-such-key"][0] == "absent"
    assert said["before"]["icon-theme"] == ["set", ""] and said["before"]["cursor-size"] == ["set", "32"]
    # Without the store's own command, what has its default cannot be told from what is not set: it comes back as that.
    assert said["before"]["cursor-theme"] == (["set", "Adwaita"] if with_dconf else ["unset", ""])
    assert said["worn"]["gtk-theme"] == ["set", "It's \\ ours"] and said["worn"]["cursor-size"] == ["set", "48"]
    assert said["worn"]["color-scheme"] == ["set", "prefer-dark"]
    assert said["after"] == said["before"]
    assert said["left"] == ["“gtk-theme” was changed since and stays as it is."] and said["kept"] == ["set", "Mine"]


@pytest.mark.parametrize("text", ["", "plain", "It's", 'two "quotes"', "back\\slash", "a\nb", "ünïcode 海"])
def test_texts_are_quoted_and_unquoted(text):
    assert unquoted(quoted(text)) == text
    assert unquoted("uint32 5") == "uint32 5" and unquoted("'torn") == "'torn"


def test_without_any_store_every_setting_is_absent(monkeypatch, tmp_path):
    monkeypatch.setenv("PATH", str(tmp_path))
    for session in (RealSession(), NoDesktop()):
        setting = DesktopSetting("org.gnome.desktop.interface", "gtk-theme", "x")
        session.write(setting)
        session.reset(setting)
        assert session.read(setting) == ABSENT
    assert NoDesktop().broadcast("x") == 0
