"""Parcels: the same look arrives, nothing of the sender goes along, and the scripts give an exact home back."""

from __future__ import annotations

import hashlib
import json
import os
import random
import shutil
import stat
import subprocess
import zipfile
from contextlib import suppress
from dataclasses import replace
from pathlib import Path

import pytest
from click.testing import CliRunner

from mellow_finch.cli import app
from mellow_finch.components.catalogue import COMPONENTS, read_anew
from mellow_finch.components.define.own import definition_of, forget, keep, own_texts, propose
from mellow_finch.demo.build import build_demo_home
from mellow_finch.errors import FinchError, ParseError
from mellow_finch.look.dressed import dress
from mellow_finch.look.file import look_to_json
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.look.theme_edits import with_brought
from mellow_finch.session.commands import Answer
from mellow_finch.session.none import NoDesktop
from mellow_finch.shelf import fonts
from mellow_finch.shelf.contents import HOME, home_files
from mellow_finch.shelf.credits import credits_of
from mellow_finch.shelf.parcel import receive, send, take_in
from mellow_finch.shelf.shelf import Shelf
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan, own_files
from mellow_finch.wear.wear import put_on, undecided_files, undo_last
from tests.wear.conftest import state as whole_state

SHELLS = [shell for shell in (("dash",), ("busybox", "sh"), ("bash", "--posix")) if shutil.which(shell[0])]


@pytest.fixture(scope="module")
def sent(tmp_path_factory, pictures):
    folder = tmp_path_factory.mktemp("sender")
    picture = Path(shutil.copy(pictures[0], folder / "dawn at the hide.jpg"))
    theme = folder / "Marsh"
    (theme / "gtk-3.0").mkdir(parents=True)
    (theme / "gtk-3.0/gtk.css").write_text("window { background-color: #ff2fa0; color: #202020; }\n")
    (theme / "LICENSE").write_text("Free to pass on.\n")
    look = with_brought(look_of_pictures([picture], "dark"), str(theme))
    others = [c.id for c in COMPONENTS if c.id not in ("gtk-4", "gtk-3", "kde", "kitty", "terminal", "rofi", "dunst")]
    look = replace(look, left_out=frozenset(others) - frozenset(others[::4]))  # some of every kind are enough
    path = folder / "parcel.zip"
    send(look, path, b"card")
    return look, path, folder


def test_the_same_look_arrives(sent, tmp_path):
    look, path, _ = sent
    kept = take_in(receive(path), Shelf(tmp_path / "shelf"), ["post"])
    back = Shelf(tmp_path / "shelf").load(kept.id).look

    def plain(one):
        bare = replace(one, source="", pictures=(), brought=(), decisions={})
        return look_to_json(bare)

    assert plain(back) == plain(look) and kept.tags == ("post",)
    assert Path(back.source).read_bytes() == Path(look.source).read_bytes()
    assert len(back.brought) == 1 and Path(back.brought[0]).is_relative_to(tmp_path / "shelf")
    again = tmp_path / "again.zip"
    send(back, again, b"card")
    third = take_in(receive(again), Shelf(tmp_path / "third"))
    assert (tmp_path / "third" / third.id / "look.finchlook").read_bytes() == (
        tmp_path / "shelf" / kept.id / "look.finchlook"
    ).read_bytes()


@pytest.mark.long
def test_components_of_ones_own_go_along_and_arrive(pictures, tmp_path, monkeypatch):
    home, folder = tmp_path / "home", tmp_path / "definitions"
    (home / ".config").mkdir(parents=True)
    (home / ".config/tides.ini").write_text('[colors]\nbackground = "#ff2fa0"\nforeground = "#4d5559"\n')
    monkeypatch.setattr("mellow_finch.components.define.own.own_folder", lambda: folder)
    text = definition_of(propose(home, home / ".config/tides.ini"), "Tides", "Widgets")
    keep(text)
    keep(text.replace("own-tides", "own-other").replace('effect = "restart"', 'effect = "restart"\nrestarts = ["x"]'))
    read_anew()
    try:
        send(look_of_pictures([pictures[0]], "dark"), tmp_path / "parcel.zip")
        for name in ("own-tides", "own-other"):
            forget(name)
        received = receive(tmp_path / "parcel.zip")
        assert [(o.id, o.title, o.paths) for o in received.offers] == [("own-tides", "Tides", (".config/tides.ini",))]
        assert "1 of the author's components" in received.words() and received.asks() == [
            "“Tides” recolours ~/.config/tides.ini."
        ]
        take_in(received, Shelf(tmp_path / "shelf"))
        assert own_texts() == [("own-tides.toml", f"received = true\n{text}")]
        second = receive(tmp_path / "parcel.zip")
        assert second.offers == () and second.refused == (
            "“Tides” is left out: a component of that name already exists.",
        )
        mine = text.replace("Tides", "My tides")
        keep(mine)
        take_in(received, Shelf(tmp_path / "shelf"))
        assert own_texts() == [("own-tides.toml", mine)]
    finally:
        forget("own-tides")
        read_anew()


def test_the_same_look_gives_the_same_parcel(sent, tmp_path):
    look, path, _ = sent
    send(look, tmp_path / "b.zip", b"card")
    assert (tmp_path / "b.zip").read_bytes() == path.read_bytes()


def test_whose_themes_go_along_is_said_with_their_terms(sent, tmp_path):
    look, path, _ = sent
    with zipfile.ZipFile(path) as parcel:
        assert "Marsh (LICENSE: Free to pass on.)" in parcel.read("README.txt").decode()
    bare = tmp_path / "Bare"
    (bare / "gtk-3.0").mkdir(parents=True)
    (bare / "gtk-3.0/gtk.css").write_text("window { color: #202020; }\n")
    told = list(credits_of(replace(look, brought=(str(bare), str(tmp_path / "gone")))))
    assert told == ["Bare (it says no licence; ask who made it)"]


def test_fonts_go_along_only_with_their_licence(sent, tmp_path, monkeypatch):
    look, _, _ = sent
    font = next((Path(__file__).parents[2] / "src/mellow_finch/ui/kit/fonts").glob("*-Regular.ttf"))
    for name, terms in (("Marsh Hand", "OFL.txt"), ("Mud Hand", "")):
        (tmp_path / name).mkdir()
        shutil.copy(font, tmp_path / name / "regular.ttf")
        if terms:
            (tmp_path / name / terms).write_text("Marsh font licence\n")

    def listed(words, *_):
        family = words[-1].partition("=")[2]
        return Answer(0, f"{tmp_path / family}/regular.ttf\n" if (tmp_path / family).is_dir() else "")

    monkeypatch.setattr(fonts, "ask", listed)
    named = {"font": "Marsh Hand 11", "fixed_font": "Mud Hand 10", "document_font": "Not Here 10"}
    path = tmp_path / "fonts.zip"
    send(replace(look, companions=named), path)
    with zipfile.ZipFile(path) as parcel:
        names = [n for n in parcel.namelist() if n.startswith("home/.local/share/fonts/")]
    assert sorted(n.rpartition("/")[2] for n in names) == ["OFL.txt", "regular.ttf"]
    received = receive(path)
    kept = take_in(received, Shelf(tmp_path / "shelf"))
    back = Shelf(tmp_path / "shelf").load(kept.id).look
    assert len(back.brought) == len(look.brought) + 1 and back.companions == named
    send(back, tmp_path / "again.zip")
    with zipfile.ZipFile(tmp_path / "again.zip") as parcel:
        assert sum(n.startswith("themes/fonts-") for n in parcel.namelist()) == 1


def test_nothing_of_the_sender_goes_along(sent):
    _, path, folder = sent
    with zipfile.ZipFile(path) as parcel:
        names = parcel.namelist()
        assert {"look.finchlook", "manifest.json", "README.txt", "install.sh", "uninstall.sh", "card.png"} <= set(names)
        assert any(n.startswith("themes/") for n in names) and any(n.startswith("pictures/") for n in names)
        for name in names:
            data = parcel.read(name)
            for word in (str(folder), os.environ["HOME"], str(folder.parent)):
                assert word.encode() not in data, (name, word)


@pytest.mark.parametrize("spoil", ["cut", "other", "flip", "newer", "empty", "manifest"])
def test_damaged_hostile_and_newer_parcels_are_told_in_a_sentence(sent, tmp_path, spoil):
    _, path, _ = sent
    bad = tmp_path / "bad.zip"
    with zipfile.ZipFile(path) as parcel:
        parts = {n: parcel.read(n) for n in parcel.namelist()}
    if spoil == "flip":
        parts["look.finchlook"] = parts["look.finchlook"].replace(b"dark", b"dusk", 1)
    elif spoil == "newer":
        parts["manifest.json"] = parts["manifest.json"].replace(b'"version": 1', b'"version": 99', 1)
    elif spoil == "manifest":
        parts["manifest.json"] = b"[" * 90_000
    elif spoil == "other":
        parts = {"reeds.txt": b"x"}
    with zipfile.ZipFile(bad, "w") as out:
        for name, data in parts.items():
            out.writestr(name, data)
    if spoil == "cut":
        bad.write_bytes(bad.read_bytes()[:4000])
    elif spoil == "empty":
        bad.write_bytes(b"")
    with pytest.raises(FinchError) as told:
        receive(bad)
    assert str(told.value).endswith(".") and "Traceback" not in str(told.value)
    run = CliRunner().invoke(app, ["shelf", "receive", str(bad), "--yes"])
    assert run.exit_code == 2 and run.output.count("\n") <= 2


def test_what_is_not_listed_is_not_taken(sent, tmp_path):
    _, path, _ = sent
    bad = tmp_path / "more.zip"
    shutil.copy(path, bad)
    with zipfile.ZipFile(bad, "a") as out:
        out.writestr("pictures/extra.png", b"not listed")
    assert "pictures/extra.png" not in receive(bad).files


def test_files_of_a_person_are_added_to_and_never_taken_the_place_of(look):
    rows = {f.path: f for f in home_files(look)}
    assert rows[".config/kitty/kitty.conf"].way == "after" and rows[".Xresources"].way == "after"
    assert rows[f".local/share/themes/{look.folder}/gtk-3.0/gtk.css"].way in ("whole", "text")
    assert rows[".config/alacritty/alacritty.toml"].way == "new"
    for row in rows.values():
        assert row.way in ("whole", "text", "new") or row.block
        assert (HOME.encode() in row.data) <= (row.way != "whole")


# The scripts


def state(home):
    """Return all that a home is: contents, modes, links, folders."""
    out = {}
    for path in sorted(home.rglob("*")):
        info = path.lstat()
        kind = str(path.readlink()) if path.is_symlink() else path.read_bytes() if path.is_file() else ""
        out[str(path.relative_to(home))] = (stat.S_IMODE(info.st_mode), kind)
    return out


def made_up_home(home, seed, paths):
    """Make a home in which files are there in every odd way."""
    rng = random.Random(seed)
    home.mkdir(parents=True)
    for path in paths:
        place = home / path
        odd = rng.choice(["none", "none", "file", "no end", "read only", "link", "link away", "folder", "strict"])
        if odd == "none" or any(p.exists() and not p.is_dir() for p in place.parents):
            continue
        place.parent.mkdir(parents=True, exist_ok=True)
        if place.exists() or place.is_symlink():
            continue
        if odd == "folder":
            place.mkdir()
        elif odd in ("link", "link away"):
            real = home / "own files" / f"Ärger {rng.randrange(10**6)}.conf"
            real.parent.mkdir(exist_ok=True)
            real.write_text("mine\n")
            place.symlink_to(os.path.relpath(real, place.parent) if odd == "link" else real)
        else:
            place.write_text("mine | & \\ stays" + ("" if odd == "no end" else "\n"))
            place.chmod({"read only": 0o444, "strict": 0o600}.get(odd, 0o640))
    return home


def run(shell, script, home, *words):
    environment = {"PATH": os.environ["PATH"], "HOME": str(home), "LC_ALL": "C.UTF-8"}
    return subprocess.run([*shell, str(script), *words], env=environment, capture_output=True, text=True, timeout=60)


@pytest.fixture(scope="module")
def unpacked(sent, tmp_path_factory):
    folder = tmp_path_factory.mktemp("parcel of a look")
    with zipfile.ZipFile(sent[1]) as parcel:
        parcel.extractall(folder)
    return folder


@pytest.mark.skipif(not SHELLS, reason="no POSIX shell is here")
@pytest.mark.parametrize("seed", [0, *(pytest.param(i, marks=pytest.mark.long) for i in range(1, 6))])
def test_installing_and_taking_back_gives_the_exact_home(unpacked, sent, tmp_path, seed):
    shell = SHELLS[seed % len(SHELLS)]
    files = [row.split("|")[2] for row in (unpacked / "lists/files.txt").read_text().splitlines()]
    home = made_up_home(tmp_path / "ein Heim & mehr | für Ü", seed, files)
    before = state(home)
    dry = run(shell, unpacked / "install.sh", home, "--dry-run", "--all", "--no-settings")
    assert dry.returncode == 0 and state(home) == before, dry.stderr
    done = run(shell, unpacked / "install.sh", home, "--all", "--no-settings")
    assert done.returncode == 0 and done.stderr == "", done.stderr
    sheet = home / f".local/share/themes/{sent[0].folder}/gtk-3.0/gtk.css"
    assert sheet.is_dir() or sheet.read_bytes()
    assert not [p for p in home.rglob("*") if p.is_file() and b"@HOME@" in p.read_bytes()]
    twice = run(shell, unpacked / "install.sh", home, "--all")
    assert twice.returncode == 1 and "installed already" in twice.stderr
    back = run(shell, unpacked / "uninstall.sh", home)
    assert back.returncode == 0 and back.stderr == "", back.stderr
    assert state(home) == before
    assert run(shell, unpacked / "uninstall.sh", home).returncode == 1


@pytest.mark.long
@pytest.mark.skipif(not SHELLS, reason="no POSIX shell is here")
def test_what_was_edited_since_stays_and_is_said(unpacked, tmp_path):
    home = tmp_path / "home"
    (home / ".config/kitty").mkdir(parents=True)
    own = home / ".config/kitty/kitty.conf"
    own.write_text("font_size 12\n")
    run(SHELLS[0], unpacked / "install.sh", home, "--all", "--no-settings")
    assert own.read_text().startswith("font_size 12\n") and "mellow-finch" in own.read_text()
    own.write_text(own.read_text() + "# my own line\n")
    mine = own.read_text()
    back = run(SHELLS[0], unpacked / "uninstall.sh", home)
    assert "kitty.conf: it was edited since" in back.stdout and own.read_text() == mine
    assert not (home / ".local/share/themes").exists()


@pytest.mark.skipif(not SHELLS, reason="no POSIX shell is here")
def test_only_kinds_that_are_asked_for_and_programs_that_are_here(unpacked, tmp_path):
    home = tmp_path / "home"
    home.mkdir()
    kinds = [row.split("|")[1] for row in (unpacked / "lists/components.txt").read_text().splitlines()]
    assert "Terminals" in kinds
    one = run(SHELLS[0], unpacked / "install.sh", home, "--only", "Terminals", "--all", "--no-settings")
    assert one.returncode == 0 and (home / ".config/kitty").exists() and not (home / ".config/gtk-4.0").exists()
    wrong = run(SHELLS[0], unpacked / "install.sh", home, "--reeds")
    assert wrong.returncode == 2 and "not known here" in wrong.stderr
    help_ = run(SHELLS[0], unpacked / "install.sh", home, "--help")
    assert help_.returncode == 0 and "Terminals" in help_.stdout


@pytest.mark.skipif(not SHELLS, reason="no POSIX shell is here")
def test_a_file_comes_in_the_form_that_the_readers_here_want(pictures, tmp_path):
    """Programs that renamed their sections between versions are told apart where the parcel arrives."""
    look = look_of_pictures([pictures[0]], "dark")
    wanted = {"foot", "fuzzel"}
    look = replace(look, left_out=frozenset(c.id for c in COMPONENTS) - wanted)
    send(look, tmp_path / "parcel.zip")
    with zipfile.ZipFile(tmp_path / "parcel.zip") as parcel:
        parcel.extractall(tmp_path / "parcel")
    for say, section, other in (
        ("[colors]", "[colors]", "[colors-dark]"),
        ("[colors-dark]", "[colors-dark]", "[colors]"),
    ):
        home = tmp_path / section
        (home / ".config/foot").mkdir(parents=True)
        own = home / ".config/foot/foot.ini"
        own.write_text(f"font=monospace:size=11\n\n{say}\nbackground=112233\n")
        done = run(SHELLS[0], tmp_path / "parcel/install.sh", home, "--all", "--no-settings")
        assert done.returncode == 0 and done.stderr == "", done.stderr
        made = [p for p in (home / ".config/foot").rglob("*") if p.is_file()]
        lines = [line for p in made for line in p.read_text().splitlines()]
        assert section in lines and other not in lines, made
        assert "background=112233" in lines
        back = run(SHELLS[0], tmp_path / "parcel/uninstall.sh", home)
        assert back.returncode == 0 and own.read_text().endswith("background=112233\n")


@pytest.mark.consumer
def test_the_scripts_pass_the_shells_own_checker():
    if shutil.which("shellcheck") is None:
        pytest.skip("shellcheck is not installed")
    from importlib.resources import files

    folder = files("mellow_finch.shelf").joinpath("scripts")
    for name in ("install.sh", "uninstall.sh"):
        done = subprocess.run(["shellcheck", "-s", "sh", str(folder / name)], capture_output=True, text=True)
        assert done.returncode == 0, done.stdout


def test_the_command_line_does_the_whole_of_it(sent, tmp_path, monkeypatch):
    look, path, _ = sent
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))

    def finch(*words):
        done = CliRunner().invoke(app, ["shelf", *words])
        assert done.exit_code == 0, (words, done.output, done.exception)
        return done.output

    assert "is saved as" in finch("receive", str(path), "--yes")
    (row,) = json.loads(finch("list", "--json"))["looks"]
    assert row["name"] == look.name and json.loads(finch("show", row["id"], "--json"))["roles"]["dark"]["accent"]
    finch("send", row["id"], str(tmp_path / "on.zip"))
    assert receive(tmp_path / "on.zip").look.name == look.name
    finch("drop", row["id"], "--yes")
    assert json.loads(finch("list", "--json"))["looks"] == []
    with pytest.raises(ParseError):
        Shelf().find(row["id"])


SETTING = """
set -e
$(ls /usr/lib/*/xfce4/xfconf/xfconfd | head -1) >/dev/null 2>&1 & sleep 1
xfconf-query -c xsettings -p /Net/ThemeName -n -t string -s Before
dconf write /org/gnome/desktop/interface/icon-theme "'Mine'"
told() { echo "$1|$(gsettings get org.gnome.desktop.interface gtk-theme)|$(gsettings get org.gnome.desktop.background picture-uri)|$(xfconf-query -c xsettings -p /Net/ThemeName)|$(dconf dump /org/gnome/desktop/ | tr '\\n' ' ')"; }
told before; sh install.sh --all >/dev/null; told worn; sh uninstall.sh >/dev/null; told back
kill %1
"""


@pytest.mark.long
@pytest.mark.consumer
def test_settings_of_real_stores_are_set_and_given_back_not_set_included(sent, tmp_path):
    for program in ("gsettings", "dconf", "xfconf-query", "dbus-run-session"):
        if shutil.which(program) is None:
            pytest.skip(f"NO {program.upper()}")
    look, path, _ = sent
    home, parcel, run = tmp_path / "home", tmp_path / "parcel", tmp_path / "run"
    run.mkdir(mode=0o700)
    home.mkdir()
    with zipfile.ZipFile(path) as packed:
        packed.extractall(parcel)
    env = {"PATH": os.environ["PATH"], "HOME": str(home), "XDG_RUNTIME_DIR": str(run), "LC_ALL": "C.UTF-8"}
    done = subprocess.run(
        ["dbus-run-session", "bash", "-c", SETTING], cwd=parcel, env=env, capture_output=True, text=True, timeout=60
    )
    rows = {line.partition("|")[0]: line.partition("|")[2] for line in done.stdout.splitlines() if "|" in line}
    assert set(rows) == {"before", "worn", "back"}, done.stdout + done.stderr
    assert rows["before"] == rows["back"] and "icon-theme='Mine'" in rows["back"]
    theme, picture, named, _ = rows["worn"].split("|")
    assert theme == f"'{look.folder}'" and named == look.folder and f"file://{home}/.local/share/backgrounds" in picture


def test_a_parcel_that_is_received_twice_is_on_the_shelf_once(sent, tmp_path):
    _, path, _ = sent
    shelf = Shelf(tmp_path / "own")
    first, second = (take_in(receive(path), shelf) for _ in range(2))
    assert first.id == second.id and len(shelf.looks()) == 1


def with_definitions(path, into, texts):
    """Write a parcel with other definitions in it, as a sender could."""
    with zipfile.ZipFile(path) as parcel:
        parts = {name: parcel.read(name) for name in parcel.namelist() if not name.startswith("definitions/")}
    told = json.loads(parts.pop("manifest.json"))
    parts |= {f"definitions/{i:04d}.toml": text.encode("utf-8", "surrogatepass") for i, text in enumerate(texts)}
    told["files"] = [{"path": p, "bytes": len(d), "sha256": hashlib.sha256(d).hexdigest()} for p, d in parts.items()]
    with zipfile.ZipFile(into, "w") as parcel:
        for name, data in {**parts, "manifest.json": json.dumps(told).encode()}.items():
            parcel.writestr(name, data)
    return into


def test_what_definitions_of_a_stranger_may_not_do_is_said_and_the_look_comes_in_all_the_same(
    sent, tmp_path, monkeypatch
):
    folder = tmp_path / "definitions"
    monkeypatch.setattr("mellow_finch.components.define.own.own_folder", lambda: folder)
    good = GOOD.replace("PATH", ".config/tides/tides.ini")
    bad = {
        good.replace(".config/tides/tides.ini", ".bashrc"): "may not write “.bashrc”",
        good.replace(".config/tides/tides.ini", ".config/kitty/kitty.conf"): "writes the same files",
        good.replace('title = "Tides"', "title = 3"): "This is not a definition",
        good: "a component of that name already exists",
        "id = [": "This is not a definition",
    }
    received = receive(with_definitions(sent[1], tmp_path / "x.zip", [good, *bad]))
    assert [o.id for o in received.offers] == ["own-tides"] and len(received.refused) == len(bad)
    for said, words in zip(received.refused, bad.values(), strict=True):
        assert words in said, (said, words)
    take_in(received, Shelf(tmp_path / "shelf"))
    assert [name for name, _ in own_texts()] == ["own-tides.toml"]


GOOD = """id = "own-tides"
title = "Tides"
kind = "Widgets"
scene = "own"
reads = "Tides"
effect = "restart"
restart = "Start Tides again."
signs = ["PATH"]
own = [["place 1", "", "/window"]]
[parts]
"place 1" = ["", "colors/background"]
[[read]]
paths = ["PATH"]
format = "bar-ini"
[[files]]
paths = ["PATH"]
how = "recolour"
format = "bar-ini"
"""


@pytest.mark.long
@pytest.mark.skipif(not SHELLS, reason="no POSIX shell is here")
def test_a_file_of_two_names_and_what_a_file_has_beside_its_bytes_stay(unpacked, tmp_path):
    home = tmp_path / "home"
    (home / ".config/kitty").mkdir(parents=True)
    for name in (".Xresources", ".config/kitty/kitty.conf"):
        (home / name).write_text("mine\n")
    os.link(home / ".Xresources", home / "dots")
    (home / ".config/kitty/kitty.conf").chmod(0o444)
    with suppress(OSError):  # not every file system keeps attributes
        os.setxattr(home / ".config/kitty/kitty.conf", "user.note", b"mine")
    before = whole_state(home)
    done = run(SHELLS[0], unpacked / "install.sh", home, "--all", "--no-settings")
    assert done.returncode == 0 and done.stderr == "", done.stderr
    now = whole_state(home)
    assert now["dots"][-1] == before["dots"][-1] and b"mellow-finch" in (home / "dots").read_bytes()
    assert now[".config/kitty/kitty.conf"][5] == before[".config/kitty/kitty.conf"][5]
    done = run(SHELLS[0], unpacked / "uninstall.sh", home)
    assert done.stdout.endswith("Done: everything is as it was.\n") and done.stderr == "", done.stdout + done.stderr
    assert whole_state(home) == before


@pytest.mark.long
@pytest.mark.skipif(not SHELLS, reason="no POSIX shell is here")
def test_a_parcel_taken_off_under_a_look_can_be_taken_off_once_more_after_it(unpacked, sent, look, tmp_path):
    home = build_demo_home(tmp_path / "home")
    before, history = whole_state(home), History(history_folder(home))
    assert run(SHELLS[0], unpacked / "install.sh", home, "--all", "--no-settings").returncode == 0
    plan = make_plan(dress(look, own_files(home, history)), home)
    assert put_on(plan, history, NoDesktop(), overwrite={w.path for w in plan.writes}) is not None
    done = run(SHELLS[0], unpacked / "uninstall.sh", home)
    assert "run this again" in done.stdout and "stays" in done.stdout, done.stdout
    left = set(undecided_files(history.last_worn(), history))
    undo_last(history, NoDesktop(), overwrite=left)
    done = run(SHELLS[0], unpacked / "uninstall.sh", home)
    assert done.stdout.endswith("Done: everything is as it was.\n"), done.stdout
    assert whole_state(home) == before
    assert run(SHELLS[0], unpacked / "uninstall.sh", home).returncode == 1  # there is nothing left to do


FAKE = """#!/bin/sh
store=$(dirname "$0")/store
case $1 in
  writable) echo true ;;
  get) [ "${GSETTINGS_BACKEND-}" != memory ] && cat "$store/$3" 2>/dev/null || echo "'usual'" ;;
  set) [ -e "$store/broken" ] && { echo "failed to commit changes" >&2; exit 0; }; printf '%s\\n' "$4" >"$store/$3" ;;
  reset) rm -f "$store/$3" ;;
esac
"""


@pytest.mark.long
@pytest.mark.some(1)
@pytest.mark.skipif(not SHELLS, reason="no POSIX shell is here")
@pytest.mark.parametrize("broken", [False, True])
def test_settings_that_the_desktop_did_not_take_are_not_told_as_set(unpacked, tmp_path, broken, monkeypatch):
    home, tools = tmp_path / "home", tmp_path / "tools"
    home.mkdir()
    (tools / "store").mkdir(parents=True)
    (tools / "gsettings").write_text(FAKE)
    (tools / "gsettings").chmod(0o755)
    if broken:
        (tools / "store/broken").touch()
    monkeypatch.setenv("PATH", f"{tools}:{os.environ['PATH']}")
    done = run(SHELLS[0], unpacked / "install.sh", home, "--all")
    assert done.returncode == 0 and ("the desktop did not take it" in done.stdout) == broken, done.stdout
    assert bool(list((tools / "store").glob("gtk-theme"))) != broken
    done = run(SHELLS[0], unpacked / "uninstall.sh", home)
    assert done.stdout.endswith("Done: everything is as it was.\n"), done.stdout
    assert not list((tools / "store").glob("gtk-theme")) and not [p for p in home.iterdir() if p.name != ".cache"]
