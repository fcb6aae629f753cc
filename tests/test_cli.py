"""The command line: its words, its JSON keys, its exit codes, one line for every mistake."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from click.testing import CliRunner

from mellow_finch.cli import app


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
    assert "pairs can be read" in run("derive", kept)


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
        }
    only = tmp_path / "only"
    run("dress", kept, "--into", only, "--only", "kde")
    assert not (only / ".config/gtk-4.0").exists()


def test_proof_of_a_home_with_faults_ends_with_1(home):
    words = run("proof", home, code=1)
    assert "pairs fall short" in words and "of 4.5" in words


def test_recolour(kept, home, tmp_path):
    theme = home / ".local/share/themes/Saltpan"
    data = json.loads(run("recolour", theme, kept, "--into", tmp_path / "new", "--json"))
    assert set(data) == {"files", "groups"} and set(data["files"][0]) == {"path", "literals", "replaced"}
    assert set(data["groups"][0]) == {"from", "to", "role", "places", "files"}
    assert (tmp_path / "new/gnome-shell/gnome-shell.css").is_file()
    assert "places in" in run("recolour", theme, kept, "--into", tmp_path / "new")
    assert "Choose another one" in run("recolour", theme, kept, "--into", theme, code=2)


def test_wear_and_undo(kept, home):
    before = {p: p.read_bytes() for p in home.rglob("*") if p.is_file()}
    dry = json.loads(run("wear", kept, "--home", home, "--dry-run", "--json"))
    assert dry["snapshot"] is None and {w["action"] for w in dry["writes"]} == {"create", "change"}
    assert {p: p.read_bytes() for p in home.rglob("*") if p.is_file()} == before
    done = json.loads(run("wear", kept, "--home", home, "--json"))
    assert done["snapshot"] and done["writes"] == dry["writes"] and done["restart"]
    assert "Nothing had to change" in run("wear", kept, "--home", home)
    assert "was taken off" in run("undo", "--home", home)
    assert {p: p.read_bytes() for p in home.rglob("*") if p.is_file()} == before


@pytest.mark.parametrize(
    "words, says",
    [
        (["gather", "none.png"], "there is no such file"), (["derive", "none.finchlook"], "there is no such file"),
        (["undo", "--home", "HOME"], "nothing to undo"), (["dress", "KEPT", "--into", "x", "--only", "hat"], "no component “hat”"),
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
