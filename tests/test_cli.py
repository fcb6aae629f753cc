"""The command line: its words, its JSON keys, its exit codes, one line for every mistake."""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from click.testing import CliRunner

from mellow_finch.cli import app
from mellow_finch.components.decisions import Emblem, Owner
from mellow_finch.demo.build import demo_archive
from mellow_finch.look.carry import load_look

ROOT = Path(__file__).resolve().parents[1]


def run(*words: object, code: int = 0) -> str:
    result = CliRunner().invoke(app, [str(w) for w in words])
    assert result.exit_code == code, (result.output, result.exception)
    return result.output


@pytest.fixture
def kept(pictures, tmp_path) -> Path:
    path = tmp_path / "kept" / "dusk.finchlook"
    run("derive", pictures[1], "--save", path)
    return path


def test_gather(pictures):
    rows = json.loads(run("gather", pictures[0], pictures[1], "--swatches", 6, "--json"))["swatches"]
    assert [r["share"] for r in rows] == sorted((r["share"] for r in rows), reverse=True)
    assert all(set(r) == {"colour", "share", "at"} and len(r["colour"]) == 7 for r in rows)
    assert "%" in run("gather", pictures[0])


def test_derive(pictures, kept):
    data = json.loads(run("derive", pictures[0], "--tone", "light", "--accent", "#208070", "--name", "Marsh", "--json"))
    assert data["name"] == "Marsh" and set(data["tones"]) == {"dark", "light"}
    assert all(p["passes"] and p["ratio"] >= p["need"] for p in data["pairs"])
    assert set(data["pairs"][0]) == {"tone", "text", "surface", "ratio", "need", "passes"}
    again = json.loads(run("derive", kept, "--accent", "#804020", "--json"))
    assert again["tones"]["dark"]["roles"]["accent"] == "#804020"
    assert "pairs have enough contrast" in run("derive", kept)


def test_shape_and_pictures_go_along(kept, home, tmp_path):
    more = ("--along", "radius=3", "--along", "rofi/radius=0", "--emblem", "widget/logo.png=accent")
    saved = tmp_path / "more.finchlook"
    assert json.loads(run("derive", kept, *more, "--save", saved, "--json"))["along"] == {
        "radius": "3",
        "rofi/radius": "0",
    }
    assert load_look(saved).decided(Owner.component("widget")).emblems == {"logo.png": Emblem(role="accent")}
    run("dress", saved, "--into", tmp_path / "made")
    (sheet,) = (tmp_path / "made").rglob("wofi/style.css")
    (launcher,) = (tmp_path / "made").rglob("rofi/themes/*.rasi")
    assert "border-radius: 3px" in sheet.read_text() and re.search(r"border-radius:\s+0", launcher.read_text())


def test_components_are_listed_with_what_the_home_has(home, tmp_path):
    rows = json.loads(run("components", "--home", home, "--json"))["components"]
    assert len(rows) >= 40 and set(rows[0]) == {"id", "title", "kind", "here", "why", "effect"}
    by_id = {r["id"]: r for r in rows}
    assert by_id["rofi"]["here"] and "~/.config/rofi/config.rasi" in by_id["rofi"]["why"]
    assert not by_id["wezterm"]["here"]
    words = run("components", "--home", home)
    assert "+ kitty" in words and "  wezterm" in words


def test_dress_writes_all_that_can_be_made_and_wear_what_is_here(kept, home, tmp_path):
    run("dress", kept, "--into", tmp_path / "out", "--home", home)
    assert (tmp_path / "out/.config/wezterm/colors/Dusk-murmuration.toml").is_file()
    assert list((tmp_path / "out/.local/share/mellow-finch/panel").glob("*@2.png"))
    plan = json.loads(run("wear", kept, "--home", home, "--dry-run", "--json"))
    touched = {w["component"] for w in plan["writes"]}
    assert {"rofi", "openbox", "gtk-4"} <= touched and "wezterm" not in touched
    assert any(sentence.startswith("Openbox decorations: Run") for sentence in plan["restart"])


def test_dress_and_proof(kept, tmp_path):
    into = tmp_path / "out"
    words = run("dress", kept, "--into", into)
    assert "gtk-3: .local/share/themes/Dusk-murmuration/gtk-3.0/gtk.css" in words
    assert (into / ".config/gtk-4.0/gtk.css").is_file()
    for what in (kept, into):
        data = json.loads(run("proof", what, "--json"))
        assert data["failing"] == 0 and len(data["pairs"]) > 300
        assert set(data["pairs"][0]) == {
            "tone",
            "component",
            "part",
            "state",
            "text",
            "surface",
            "ratio",
            "need",
            "passes",
            "lightness",
        }
    only = tmp_path / "only"
    run("dress", kept, "--into", only, "--only", "kde")
    assert not (only / ".config/gtk-4.0").exists()


def test_proof_of_a_home_with_faults_ends_with_1(home):
    words = run("proof", home, code=1)
    assert "pairs have" in words and "of 4.5" in words


def test_recolour(kept, home, tmp_path):
    theme = home / ".local/share/themes/Saltpan"
    data = json.loads(run("recolour", theme, kept, "--into", tmp_path / "new", "--json"))
    assert {"files", "groups", "kinds", "name", "failing", "words"} <= set(data)
    assert set(data["files"][0]) == {"path", "literals", "replaced"}
    assert {"from", "to", "role", "places", "files"} <= set(data["groups"][0])
    folder = tmp_path / "new/.local/share/themes" / data["name"]
    assert (folder / "gnome-shell/gnome-shell.css").is_file() and f"Name={data['name']}" in (
        folder / "index.theme"
    ).read_text()
    assert data["failing"] == [] and {"kind": "GTK 3 theme", "count": 1} in data["kinds"]
    assert "of 407 colour values replaced" in run("recolour", theme, kept, "--into", tmp_path / "new")


def test_recolour_does_as_a_person_says(kept, home, tmp_path):
    sheet = home / ".local/share/themes/Saltpan/gnome-shell/gnome-shell.css"
    first = json.loads(run("recolour", sheet, kept, "--into", tmp_path / "a", "--json"))["groups"][0]
    words = ("--group", f"{first['key']}=keep", "--name", "Ebb", "--no-mend")
    kept_one = json.loads(run("recolour", sheet, kept, "--into", tmp_path / "b", *words, "--json"))["groups"]
    assert next(g for g in kept_one if g["key"] == first["key"])["to"] == first["from"]
    assert "has no “=”" in run("recolour", sheet, kept, "--into", tmp_path / "c", "--group", "x", code=2)
    assert "no role “hat”" in run("recolour", sheet, kept, "--into", tmp_path / "c", "--group", "x=hat", code=2)
    assert "Choose another one" in run("recolour", sheet, kept, "--into", sheet.parent, code=2)
    widget = home / ".config/conky/conky.conf"
    data = json.loads(run("recolour", widget, kept, "--into", tmp_path / "d", "--replace", "wlp3s0=eth7", "--json"))
    assert {w["word"] for w in data["words"]} >= {"wlp3s0"}
    text = (tmp_path / "d/conky.conf").read_text()
    assert "wlp3s0" not in text and text.count("eth7") == widget.read_text().count("wlp3s0")


@pytest.mark.long
def test_recolour_takes_some_of_several_themes_and_lets_a_bar_follow(kept, tmp_path):
    for name in ("Knot", "Tern"):
        (tmp_path / f"pack/{name}/gtk-3.0").mkdir(parents=True)
        (tmp_path / f"pack/{name}/gtk-3.0/gtk.css").write_text(
            "window, .background { background-color: #23262b; color: #eee; }\nheaderbar { background-color: #f2f2f0; }\n"
        )
    words = ("recolour", tmp_path / "pack", kept, "--into", tmp_path / "new")
    data = json.loads(run(*words, "--only", "Knot", "--json"))
    assert len(data["files"]) == 1 and "Knot" in data["files"][0]["path"] and data["inverse"] == ["header"]
    assert "Header: the theme's own contrast stays" in run(*words, "--yes", "--only", "Tern")
    assert "own contrast" not in run(*words, "--yes", "--only", "Tern", "--group", "part:header=header")
    assert "It holds Knot, Tern" in run(*words, "--yes", "--only", "Dunlin", code=2)


def test_wear_and_undo(kept, home):
    before = {p: p.read_bytes() for p in home.rglob("*") if p.is_file()}
    dry = json.loads(run("wear", kept, "--home", home, "--dry-run", "--json"))
    assert dry["snapshot"] is None and {w["action"] for w in dry["writes"]} == {"create", "change"}
    assert "there is nobody to ask here" in run("wear", kept, "--home", home, code=2)
    assert {p: p.read_bytes() for p in home.rglob("*") if p.is_file()} == before
    done = json.loads(run("wear", kept, "--home", home, "--yes", "--json"))
    assert done["snapshot"] and done["writes"] == dry["writes"] and done["restart"] and done["settings"] == []
    assert "Nothing to change" in run("wear", kept, "--home", home)
    state = json.loads(run("status", "--home", home, "--json"))
    assert state["worn"]["look"] == "Dusk murmuration" and state["changed"] == [] and state["pending"] is None
    (home / ".Xresources").write_text("mine")
    assert "is applied; 1 file was changed since" in run("status", "--home", home)
    assert "--overwrite PATH" in run("undo", "--home", home, "--yes", code=2)
    assert "nobody to ask" in run("undo", "--home", home, code=2)
    words = run("undo", "--home", home, "--yes", "--leave-all")
    assert "was undone" in words and "“.Xresources” stays as it is" in words
    (home / ".Xresources").write_bytes(before[home / ".Xresources"])
    assert {p: p.read_bytes() for p in home.rglob("*") if p.is_file()} == before
    assert "nothing to complete" in run("finish", "--home", home, "--yes", code=2)
    assert "No look is applied" in run("status", "--home", home)


def test_plain_words_are_taken_for_commands_and_options(kept, home, tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    assert run("check", kept, "--json") == run("proof", kept, "--json")
    done = json.loads(run("apply", kept, "--home", home, "--yes", "--json"))
    assert done["snapshot"]
    (home / ".Xresources").write_text("mine")
    assert "“.Xresources” stays as it is" in run("undo", "--home", home, "--yes", "--keep", ".Xresources")
    assert "saved as" in run("shelf", "save", kept, "--yes") and "dusk" in run("shelf", "list").lower()
    run("shelf", "delete", "Dusk-murmuration", "--yes")
    assert "No such command" in run("put-on", kept, code=2) and "apply (wear)" in run("--help")


def test_a_component_can_be_left_out(kept, home):
    rows = json.loads(
        run("wear", kept, "--home", home, "--without", "gtk-3", "--without", "rofi", "--dry-run", "--json")
    )
    touched = {c for w in rows["writes"] for c in w["components"]}
    assert "gtk-4" in touched and not touched & {"gtk-3", "rofi"}
    assert "no component “hat”" in run("wear", kept, "--home", home, "--without", "hat", "--dry-run", code=2)


def test_what_would_be_new_in_the_top_of_a_home_is_told_and_made_when_asked_for(kept, tmp_path):
    home = tmp_path / "new"
    (home / ".config").mkdir(parents=True)
    told = run("wear", kept, "--home", home, "--files-only", "--yes")
    assert "skipped  .Xresources: it would be new (--with terminal)" in told
    assert [p.name for p in home.iterdir() if p.is_file()] == []
    data = json.loads(run("wear", kept, "--home", home, "--files-only", "--yes", "--with", "terminal", "--json"))
    assert data["held"] == {} and (home / ".Xresources").is_file()
    run("undo", "--home", home, "--yes")
    assert [p.name for p in home.iterdir() if p.is_file()] == []


def test_the_persons_own_home_is_the_one_that_is_meant(kept, home, monkeypatch):
    own = Path.home()
    (own / ".config/kitty").mkdir(parents=True)
    (own / ".config/kitty/kitty.conf").write_text("background #102030\n")
    dry = json.loads(run("wear", kept, "--dry-run", "--json"))
    assert any(w["path"] == ".config/kitty/kitty.conf" for w in dry["writes"])
    demo = json.loads(run("wear", kept, "--demo", "--dry-run", "--json"))
    assert any(w["component"] == "rofi" for w in demo["writes"])
    run("wear", kept, "--yes")
    assert (own / ".config/gtk-4.0/gtk.css").is_file()
    run("undo", "--yes")
    assert [p for p in own.rglob("*") if p.is_file() and ".local/state" not in str(p)] == [
        own / ".config/kitty/kitty.conf"
    ]
    assert "name two different home folders" in run("wear", kept, "--demo", "--home", home, code=2)


def test_the_window_opens_on_the_persons_own_home_and_demo_on_the_demos(monkeypatch):
    opened = []
    monkeypatch.setattr("mellow_finch.ui.app.run", lambda home, picture=None, **_: opened.append((home, picture)) or 0)
    run()
    run("demo")
    picture = opened[1][1]
    assert (
        opened[0] == (Path.home(), None) and opened[1][0].parent.name == "demo" and picture.is_relative_to(opened[1][0])
    )


def mellow_finch(*words, **options):
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), **options.pop("env", {})}
    return subprocess.run([sys.executable, "-m", "mellow_finch.cli", *map(str, words)], env=environment, **options)


@pytest.mark.long
def test_output_that_is_lost_is_said_and_the_work_is_done(kept, home):
    before = {p: p.read_bytes() for p in home.rglob("*") if p.is_file()}
    with Path("/dev/full").open("w") as full:
        done = mellow_finch("wear", kept, "--home", home, "--yes", stdout=full, stderr=subprocess.PIPE, text=True)
    assert done.returncode == 2 and done.stderr.count("\n") == 1
    assert done.stderr.startswith("mellow-finch: Done, but the output could not be written: ")
    assert "is applied." in run("status", "--home", home)
    reading, writing = os.pipe()
    os.close(reading)
    done = mellow_finch("undo", "--home", home, "--yes", stdout=writing, stderr=subprocess.PIPE, text=True)
    os.close(writing)
    assert (done.returncode, done.stderr) == (0, "")
    assert {p: p.read_bytes() for p in home.rglob("*") if p.is_file()} == before
    with Path("/dev/full").open("w") as full:
        done = mellow_finch("undo", "--home", home, stdout=full, stderr=full)
    assert done.returncode == 2


@pytest.mark.long
def test_names_that_the_terminal_cannot_spell(kept, home, pictures, tmp_path):
    place = tmp_path / os.fsdecode(b"marsh-\xf6-\xe6\xb5\xb7")
    shutil.copytree(home, place)
    for env in ({"PYTHONIOENCODING": "ascii"}, {"PYTHONUTF8": "1"}, {"LC_ALL": "C", "PYTHONUTF8": "0"}):
        done = mellow_finch("status", "--home", place, "--json", capture_output=True, env=env)
        assert done.returncode == 0 and not done.stderr, done.stderr
        assert json.loads(done.stdout)["worn"] is None
    look = json.loads(kept.read_text())
    kept.write_text(json.dumps({**look, "name": "\x1b[31mred\u202e"}))
    assert "\x1b" not in run("derive", kept) and "\\x1b[31mred" in run("derive", kept)


@pytest.mark.parametrize(
    "words, says",
    [
        (["gather", "none.png"], "there is no such file"), (["derive", "none.finchlook"], "there is no such file"),
        (["undo", "--home", "HOME"], "nothing to undo"), (["dress", "KEPT", "--into", "x", "--only", "hat"], "no component “hat”"),
        (["derive", "PICTURE", "--along", "radius=900"], "is not an option of a look"),
        (["derive", "PICTURE", "--emblem", "widget/logo.png=none.png"], "does not name an image"),
        (["derive", "PICTURE", "--accent", "blueish"], "is not a colour such as"), (["proof", "PICTURE"], "not UTF-8"),
        (["recolour", "PICTURE", "KEPT", "--into", "x"], "can be recoloured"), (["wear", "KEPT", "--home", "none"], "is not a folder"),
    ],
)  # fmt: skip
def test_mistakes_are_one_line_and_exit_2(words, says, kept, home, pictures, tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    put = {"KEPT": kept, "HOME": home, "PICTURE": pictures[0]}
    result = CliRunner().invoke(app, [str(put.get(w, w)) for w in words])
    assert result.exit_code == 2 and says in result.stderr
    assert result.stderr.startswith("mellow-finch: ") and result.stderr.count("\n") == 1


def test_wrong_use_exits_2():
    assert CliRunner().invoke(app, ["gather"]).exit_code == 2
    assert CliRunner().invoke(app, ["nonsense"]).exit_code == 2


def test_several_pictures_say_what_they_have_in_common(pictures):
    data = json.loads(run("gather", pictures[1], pictures[3], "--json"))
    assert 0 <= data["in_common"] < 0.3
    assert "of their area in common" in run("gather", pictures[1], pictures[3])
    both = json.loads(run("derive", pictures[1], pictures[3], "--json"))
    assert all(p["passes"] for p in both["pairs"])


@pytest.mark.long
def test_schemes_palettes_and_themes_are_sources(home, tmp_path):
    rows = json.loads(run("schemes", "--json"))["schemes"]
    assert len(rows) >= 12 and set(rows[0]) == {"id", "title", "note", "tone", "colours"}
    assert "Kingfisher" in run("schemes")
    save = tmp_path / "k.json"
    data = json.loads(run("derive", "kingfisher", "--contrast", "7", "--save", save, "--json"))
    assert data["name"] == "Kingfisher" and {p["need"] for p in data["pairs"]} >= {7.0}
    assert all(p["passes"] for p in data["pairs"])
    assert json.loads(run("derive", save, "--json"))["tones"] == data["tones"]
    assert json.loads(run("proof", save, "--json"))["failing"] == 0
    for name in ("k.gpl", "k.ase", "k.colors", "k.css", "k.tokens.json", "k.Xresources"):
        run("export", save, tmp_path / name)
        back = json.loads(run("derive", tmp_path / name, "--json"))
        assert all(p["passes"] for p in back["pairs"])
    run("export", save, tmp_path / "named.css", "--as", "gtk", "--tone", "light")
    assert "@define-color window_bg_color #" in (tmp_path / "named.css").read_text()
    theme = json.loads(run("derive", home / ".local/share/themes/Saltpan", "--json"))
    assert theme["tones"]["light"]["roles"]["accent"] == "#ff2fa0" and not all(p["passes"] for p in theme["pairs"])


def test_screen_and_placement_decide_what_lies_behind(pictures, tmp_path):
    looks = []
    for words in (("--screen", "3440x1440"), ("--placement", "centre", "--screen", "3840x2160")):
        path = tmp_path / f"{len(looks)}.finchlook"
        run("derive", pictures[0], *words, "--save", path)
        looks.append(json.loads(path.read_text())["backdrop"])
    assert looks[0]["places"]["panel"] != looks[1]["places"]["panel"]


def test_match_and_tone(kept, pictures, tmp_path):
    rows = json.loads(run("match", kept, pictures[0].parent, "--json"))["pictures"]
    assert rows[0]["path"].endswith("dusk-murmuration.jpg") and rows[0]["fit"] > rows[-1]["fit"]
    assert "dusk-murmuration.jpg" in run("match", kept, pictures[0].parent).splitlines()[0]
    run("tone", pictures[0], kept, "--into", tmp_path / "new" / "toned.png", "--strength", "0.8")
    assert (tmp_path / "new" / "toned.png").stat().st_size > 10_000
    assert "would overwrite the original" in run("tone", pictures[0], kept, "--into", pictures[0], code=2)


@pytest.mark.parametrize(
    "words, says",
    [
        (("derive", "kingfisher", "--screen", "wide"), "is not a screen size"),
        (("derive", "kingfisher", "--accent", "bluish"), "is not a colour such as"),
        (("derive", "no-such-scheme"), "no such file"),
        (("match", "none.finchlook", "."), "no such file"),
    ],
)
def test_new_mistakes_are_one_line(words, says):
    output = run(*words, code=2)
    assert says in output and len(output.strip().splitlines()) == 1


def test_a_torn_palette_is_used_and_its_lines_are_told(tmp_path):
    path = tmp_path / "torn.gpl"
    path.write_text("GIMP Palette\n1 2 3 background\nnothing\n200 90 40 accent\n")
    output = run("derive", path)
    assert "torn.gpl, line 3: “nothing” is not three numbers" in output and "pairs have enough contrast" in output


def test_a_theme_is_worn_in_the_place_of_ours(kept, home, tmp_path):
    before = {p: p.read_bytes() for p in home.rglob("*") if p.is_file()}
    words = ("wear", kept, "--home", home, "--files-only", "--yes")
    folder = load_look(kept).folder
    run(*words, "--theme", demo_archive(home))
    sheet = home / f".local/share/themes/{folder}/gtk-3.0/gtk.css"
    assert "Turnstone" in sheet.read_text() and (home / f".icons/{folder}/cursors/left_ptr").is_file()
    run("undo", "--home", home, "--yes")
    assert {p: p.read_bytes() for p in home.rglob("*") if p.is_file()} == before
    (tmp_path / "notes.ini").write_text("[a]\ncolour=#ffffff\n")
    said = CliRunner().invoke(app, [*map(str, words), "--theme", str(tmp_path / "notes.ini")])
    assert said.exit_code == 2 and "has nothing that this desktop uses" in said.stderr
    assert {p: p.read_bytes() for p in home.rglob("*") if p.is_file()} == before
