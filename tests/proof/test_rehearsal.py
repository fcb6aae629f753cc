"""Programs tried with a look in a hidden session: the walls around them, and what is said of each."""

from __future__ import annotations

import io
import json
import os
import shutil
import socket
import sys
import threading
from dataclasses import replace
from pathlib import Path

import pytest
from PIL import Image

from mellow_finch.colour.difference import colour_difference
from mellow_finch.colour.rgb import parse_hex
from mellow_finch.components import catalogue
from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS
from mellow_finch.components.files import FolderFiles
from mellow_finch.components.model import ComponentSetting
from mellow_finch.components.rehearsal import Rehearsal
from mellow_finch.errors import Cancelled
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.edits import with_lock
from mellow_finch.proof.rehearsal import conductor, kept, room
from mellow_finch.proof.rehearsal.conductor import Rehearsed, in_order, rehearse
from mellow_finch.proof.rehearsal.measured import FlatSurface, Measured, TextPlace
from mellow_finch.proof.rehearsal.mending import mended_as_painted
from mellow_finch.proof.rehearsal.prepared import available, rows_of
from mellow_finch.proof.rehearsal.verdict import Shown, judge

needs_screen = pytest.mark.skipif(shutil.which("Xvfb") is None, reason="NO XVFB: install it to try programs")
PAINTER = Path(__file__).with_name("painter.py")
PAINTED = "Reedholm/painter.py"  # where it lies in a rehearsal's home: nothing else of ours is seen there
FILE = ".config/fuzzel/fuzzel.ini"


def backdrop() -> bytes:
    out = io.BytesIO()
    Image.radial_gradient("L").convert("RGB").save(out, "PNG")
    return out.getvalue()


def painting(ink: str, ground: str, **more) -> Rehearsal:
    run = f"'{sys.executable}' ~/{PAINTED} ~/{FILE} '{ink}' '{ground}'"
    usual = {"shows": ("launcher/fill",), "lay": {PAINTED: PAINTER.read_text()}}
    return Rehearsal(program="sh", run=f'sh -c "{run}"', **{**usual, **more})


@pytest.fixture
def stand_in(monkeypatch):
    """Let a component be tried by programs of ours."""

    def use(*rows: Rehearsal, id_: str = "fuzzel") -> None:
        component = replace(COMPONENT_BY_ID[id_], rehearsals=rows)
        monkeypatch.setitem(catalogue.COMPONENT_BY_ID, id_, component)
        monkeypatch.setattr(
            "mellow_finch.look.dressed.COMPONENTS", [component if c.id == id_ else c for c in COMPONENTS]
        )

    return use


def tried(look, home: Path, **more) -> dict[str, Rehearsed]:
    dressed = dress(look, FolderFiles(home), frozenset({"fuzzel"}))
    return {row.id: row for row in rehearse(dressed, home, backdrop(), **more)}


@needs_screen
def test_what_programs_show_is_told_apart(looks, home, stand_in, monkeypatch):
    """As the look, its own colours, other colours, text that is not readable, and no program at all."""
    file = home / FILE
    file.parent.mkdir(parents=True)
    file.write_text("[colors]\nbackground=445566ff\ntext=ffffffff\n")
    stand_in(
        painting("text", "background"),
        painting("!#202020", "!#c0c0c0"),
        painting("text", "selection"),
        painting("!#4a4a4a", "background"),
        replace_program(painting("text", "background"), "no-such-program"),
    )
    before = file.read_bytes()
    look = looks[0]
    found = tried(look, home)
    states = {id_: row.state for id_, row in found.items()}
    assert states == {
        "fuzzel": "as_look",
        "fuzzel-2": "own",
        "fuzzel-3": "other",
        "fuzzel-4": "unreadable",
        "fuzzel-5": "absent",
    }
    assert file.read_bytes() == before
    assert "not seen" not in found["fuzzel-3"].words and look.colours["menu"].hex in found["fuzzel-3"].words
    assert found["fuzzel-3"].where.startswith(f"~/{FILE}:")
    worst = found["fuzzel-4"].shown.short[0]
    assert colour_difference(worst.ink, parse_hex("#4a4a4a")) < 1 and not worst.mark
    _, _, wide, high = found["fuzzel"].box
    assert (wide, high) == (420, 260) and found["fuzzel"].before
    assert [row.state for row in in_order(found.values())] == ["unreadable", "other", "own", "absent", "as_look"]
    # The same again is known without starting anything, and is the same.
    monkeypatch.setattr(conductor, "hold", None)
    again = tried(look, home)
    assert {i: (r.state, r.picture, r.shown) for i, r in again.items()} == {
        i: (r.state, r.picture, r.shown) for i, r in found.items()
    }


def replace_program(row: Rehearsal, name: str) -> Rehearsal:
    return row._replace(program=name)


@needs_screen
def test_a_program_that_shows_nothing_is_said_and_the_others_go_on(looks, home, stand_in, monkeypatch):
    monkeypatch.setattr("mellow_finch.proof.rehearsal.prepared.LIMIT_S", 2.0)
    stand_in(Rehearsal("sh", "sh -c 'echo the tide is out >&2; exit 3'"), painting("text", "background"))
    found = tried(looks[0], home, keep=False)
    assert found["fuzzel"].state == "failed" and "the tide is out" in found["fuzzel"].words
    assert found["fuzzel-2"].state == "as_look"


@needs_screen
def test_it_can_be_stopped(looks, home, stand_in):
    stand_in(Rehearsal("sh", "sh -c 'sleep 60'"))

    class Stopping:
        told = 0

        def report(self, done, total, note):
            self.told += 1
            if self.told > 3:
                raise Cancelled("Stopped.")

    with pytest.raises(Cancelled):
        tried(looks[0], home, progress=Stopping())


ESCAPES = """
import os, pathlib, socket, sys, json
home = pathlib.Path.home()
told = {"home": sorted(p.name for p in home.iterdir()), "uid": os.getuid()}
def may(name, work):
    try:
        work(); told[name] = True
    except Exception:
        told[name] = False
(home / "written").write_text("here")
may("system", lambda: open("/usr/share/finch-was-here", "w"))
may("other", lambda: open(sys.argv[1] + "/other", "w"))
may("network", lambda: socket.create_connection(("127.0.0.1", int(sys.argv[2])), 2))
may("bus", lambda: socket.socket(socket.AF_UNIX).connect(sys.argv[3]))
may("kill", lambda: os.kill(int(sys.argv[4]), 0))
pathlib.Path(sys.argv[5]).write_text(json.dumps(told))
import time; time.sleep(30)
"""


@needs_screen
@pytest.mark.parametrize("wall", ["whole", "part"])
def test_nothing_outside_the_walls_is_reached(wall, tmp_path, monkeypatch):
    """A program that tries finds a home of its own, no network, no bus, no process of ours, and a read-only system."""
    real = room.wall()
    if real == "none" or (wall == "whole" and real != "whole"):
        pytest.skip(f"NO WALLS: {wall} cannot be tried here")
    monkeypatch.setattr(room, "wall", lambda: wall)
    home, other, runtime = tmp_path / "home", tmp_path / "other", tmp_path / "run"
    for folder in (home, other, runtime):
        folder.mkdir()
    (home / "secret").write_text("the person's own")
    listening = socket.create_server(("127.0.0.1", 0))
    listening.settimeout(0.2)
    reached: list[bool] = []

    def accept() -> None:
        while not reached:
            try:
                listening.accept()
                reached.append(True)
            except OSError:
                if halted.is_set():
                    return

    halted = threading.Event()
    threading.Thread(target=accept, daemon=True).start()
    bus = f"/run/user/{os.getuid()}/bus"
    answers = home / "Reedholm/told.json"
    script = "Reedholm/escape.py"
    port = str(listening.getsockname()[1])
    paint = f"'{sys.executable}' ~/{PAINTED} none '!#ffffff' '!#202020'"
    words = f"'{sys.executable}' '{home / script}' '{other}' {port} {bus} {os.getpid()} '{answers}'"
    act = room.Act("escape", f'sh -c "{words} & sleep 1.5; {paint}"', answers=str(answers))
    laid = {script: ESCAPES.encode(), PAINTED: PAINTER.read_bytes(), ".config/foot/foot.ini": b"[main]\n"}
    (played,) = room.hold([act], laid, backdrop(), home)
    halted.set()
    listening.close()
    assert not played.trouble, played.trouble
    told = dict(played.answers)
    assert told["home"] == [".config", "Reedholm"] and told["uid"] != 0
    assert not told["network"] and not told["bus"] and not told["kill"] and not reached
    assert sorted(p.name for p in home.iterdir()) == ["secret"]
    assert not Path("/usr/share/finch-was-here").exists() and not told["system"]
    if wall == "whole":
        assert not told["other"] and not (other / "other").exists()


def test_secrets_and_large_files_stay_outside(tmp_path, looks):
    from mellow_finch.proof.rehearsal.prepared import _laid_before

    home = tmp_path / "home"
    (home / ".config/foot").mkdir(parents=True)
    (home / ".config/foot/foot.ini").write_text("[colors]\nbackground=112233\n")
    (home / ".config/fuzzel").mkdir()
    (home / ".config/fuzzel/fuzzel.ini").write_bytes(b"#" * (3 << 20))
    (home / ".ssh").mkdir()
    (home / ".ssh/config").write_text("Host hide\n")
    foot = replace(COMPONENT_BY_ID["foot"], signs=(".ssh/*", ".config/foot/*"))
    dressed = dress(looks[0], FolderFiles(home), frozenset({"foot", "fuzzel"}))
    laid = _laid_before(dressed, [foot, COMPONENT_BY_ID["fuzzel"]])
    assert set(laid) == {".config/foot/foot.ini"}


def test_every_row_names_parts_that_there_are_and_more_than_fifty_programs():
    programs = set()
    for component in COMPONENTS:
        for row in component.rehearsals:
            programs.add(row.program)
            assert row.shows, (component.id, row.program)
            for show in row.shows:
                key, _, only = show.partition("/")
                assert key in component.by_key and only in ("", "fill", "text"), (component.id, show)
    assert len(programs) >= 50


def test_what_came_from_somebody_else_names_no_program():
    from mellow_finch.components.define.own import offered
    from mellow_finch.errors import ParseError

    text = (
        'id = "own-tide"\ntitle = "Tide"\nkind = "Widgets"\nreads = "x"\neffect = "restart"\nrestart = "x"\n'
        'received = true\n[[files]]\npaths = [".config/tide/tide.toml"]\nhow = "recolour"\nformat = "terminal-toml"\n'
    )
    offered(text)
    with pytest.raises(ParseError):
        offered(text + '[[rehearse]]\nrun = "rm -r nets"\nshows = []\n')


def judged(look, surfaces, texts=(), changed=True, id_="fuzzel", shows=("launcher/fill",), lines=()):
    dressed = dress(look, FolderFiles(Path("/nonexistent")), frozenset({id_}))
    rows = tuple(FlatSurface(colour, share, (0, 0, 9, 9)) for colour, share in surfaces)
    colours = tuple(colour for colour, _ in surfaces)
    measured = Measured(rows, tuple(texts), colours, colours + tuple(lines))
    component = COMPONENT_BY_ID[id_]
    return judge(component, dressed.paints[id_], look.scheme().colours, measured, shows, changed)


def test_verdicts(looks):
    look = looks[0]
    menu, strange = look.colours["menu"], parse_hex("#12ff34")
    box = ((1, 1, 60, 12),)
    assert judged(look, [(menu, 0.9)]).state == "as_look"
    assert judged(look, [(menu, 0.9)], changed=False).state == "own"
    assert judged(look, [(menu, 0.8), (strange, 0.2)]).state == "other"
    assert judged(look, [(menu, 0.99), (strange, 0.01)]).state == "as_look"
    assert judged(look, [(menu, 0.9)], [TextPlace(menu, menu, box)]).state == "unreadable"
    assert judged(look, [(menu, 0.9)], [TextPlace(menu, menu, box, mark=True)]).state == "as_look"
    grey = TextPlace(parse_hex("#8a8a8a"), parse_hex("#101010"), box)  # 5.5 to 1
    assert judged(look, [(menu, 0.9)], [grey]).state == "as_look"
    assert judged(look, [(menu, 0.9)], [grey._replace(asked=7.0)]).state == "unreadable"
    assert judged(look, [(strange, 0.9)]).state == "other" and judged(look, [(menu, 0.9)], shows=()).state == "other"
    # Of what is see-through only the change counts.
    glass = replace(look, opacity={"panel": 0.8}, drawn={look.tone: {"panel": 0.8}})
    seen = [(look.colours["window"], 0.9)]
    assert judged(glass, seen, id_="plank", shows=("dock",)).state == "as_look"
    assert judged(glass, seen, id_="plank", shows=("dock",), changed=False).state == "own"
    # What is quieter by what it is, is measured by what that needs.
    hint = next(p for p in COMPONENT_BY_ID["fuzzel"].parts if p.key == "launcher field:hint")
    assert hint.need.level <= 4.5


def result(id_: str, text: TextPlace) -> Rehearsed:
    return Rehearsed(id_, COMPONENT_BY_ID[id_], id_, Shown("unreadable", short=(text,)))


def test_what_was_painted_is_mended_by_the_roles_that_stand_there(looks):
    look = looks[0]
    quiet = replace(look, palettes={**look.palettes, look.tone: {**look.colours, "menu_text": parse_hex("#5a5460")}})
    dressed = dress(quiet, FolderFiles(Path("/nonexistent")), frozenset({"fuzzel"}))
    text = TextPlace(quiet.colours["menu_text"], quiet.colours["menu"], ((0, 0, 40, 12),))
    assert text.ratio < 4.5
    mended = mended_as_painted(quiet, result("fuzzel", text), dressed.paints["fuzzel"], text)
    assert mended is not None
    again = TextPlace(mended.colours["menu_text"], mended.colours["menu"], text.boxes)
    assert again.ratio >= 4.5
    # A colour that the look has nowhere is the program's own.
    strange = TextPlace(parse_hex("#12ff34"), parse_hex("#13ee33"), text.boxes)
    assert mended_as_painted(quiet, result("fuzzel", strange), dressed.paints["fuzzel"], strange) is None
    # Locks in the way are named.
    from mellow_finch.errors import ImpossibleLocksError

    held = with_lock(with_lock(quiet, "menu_text", True), "menu", True)
    with pytest.raises(ImpossibleLocksError):
        mended_as_painted(held, result("fuzzel", text), dressed.paints["fuzzel"], text)


def test_files_of_ones_own_are_mended_in_their_places(looks, home):
    look = looks[0]
    dressed = dress(look, FolderFiles(home), every_component(look))
    paints = dressed.paints["rofi"]
    part = next(p for p in COMPONENT_BY_ID["rofi"].parts if paints.get(p.key) and paints[p.key].text)
    paint = paints[part.key]
    ground = paint.layers[-1][0].opaque
    text = TextPlace(paint.text.opaque, ground, ((0, 0, 40, 12),))
    mended = mended_as_painted(look, result("rofi", text), paints, text)
    assert mended is not None and mended != look


def test_the_command_tells_what_was_found(looks, home, monkeypatch, tmp_path):
    from click.testing import CliRunner

    from mellow_finch.cli import app
    from mellow_finch.look.carry import look_text

    menu = looks[0].colours["menu"]
    text = TextPlace(menu, menu, ((4, 5, 60, 12),))
    rows = [
        Rehearsed("rofi", COMPONENT_BY_ID["rofi"], "rofi", Shown("as_look"), backdrop()),
        Rehearsed("dunst", COMPONENT_BY_ID["dunst"], "dunst", Shown("unreadable", short=(text,)), where="~/x:3"),
        Rehearsed("foot", COMPONENT_BY_ID["foot"], "foot", Shown("absent")),
    ]
    monkeypatch.setattr("mellow_finch.proof.rehearsal.conductor.rehearse", lambda *words, **more: iter(rows))
    monkeypatch.setattr("mellow_finch.proof.rehearsal.room.wall", lambda: "whole")
    file = tmp_path / "a.finchlook"
    file.write_text(look_text(looks[0], tmp_path))
    done = CliRunner().invoke(
        app, ["rehearse", str(file), "--home", str(home), "--json", "--into", str(tmp_path / "o")]
    )
    told = json.loads(done.stdout)
    assert done.exit_code == 1 and told["unreadable"] == 1
    assert [row["state"] for row in told["programs"]] == ["unreadable", "absent", "as_look"]
    assert told["programs"][0]["unreadable"][0]["boxes"] == [[4, 5, 60, 12]]
    assert (tmp_path / "o/rofi.png").exists()
    said = CliRunner().invoke(app, ["rehearse", str(file), "--home", str(home)]).stdout
    assert "[~/x:3]" in said and "Not installed: foot." in said and "2 programs tried" in said


def test_programs_are_those_of_what_is_dressed(looks, home):
    dressed = dress(looks[0], FolderFiles(home), frozenset({"rofi", "nano", "ksyntax"}))
    assert {row.component.id for row in rows_of(dressed)} == {"rofi", "nano"}
    assert {row.component.id for row in rows_of(dressed, slow=True)} == {"rofi", "nano", "ksyntax"}
    assert [row.id for row in rows_of(dressed, ["nano"])] == ["nano"]


def test_settings_lie_where_programs_look_for_them(looks, tmp_path, monkeypatch):
    """Colours of terminals that keep them in a store, and what chooses a theme; a channel of one's own keeps the rest."""
    import configparser

    from defusedxml.ElementTree import fromstring

    from mellow_finch.proof.rehearsal.settings import with_settings

    home = tmp_path / "home"
    own = home / ".config/xfce4/xfconf/xfce-perchannel-xml/xfce4-terminal.xml"
    own.parent.mkdir(parents=True)
    own.write_text(
        '<?xml version="1.1" encoding="UTF-8"?>\n<channel name="xfce4-terminal" version="1.0">\n'
        '  <property name="scrolling-lines" type="uint" value="90"/>\n'
        '  <property name="color-foreground" type="string" value="#ff00ff"/>\n</channel>\n'
    )
    channel = str(own.relative_to(home))
    row = ComponentSetting("xfce4-terminal", "/color-foreground", "#112233", "", "xfconf")

    def held(scheme, files):
        return (row, row._replace(key="/color-use-theme", value="false", kind="b"))

    terminal = replace(COMPONENT_BY_ID["xfce-terminal"], colour_settings=held)
    monkeypatch.setitem(catalogue.COMPONENT_BY_ID, "xfce-terminal", terminal)
    rows = [terminal if c.id == "xfce-terminal" else c for c in COMPONENTS]
    monkeypatch.setattr("mellow_finch.look.dressed.COMPONENTS", rows)
    dressed = dress(looks[0], FolderFiles(home), frozenset({"xfce-terminal", "gnome-terminal", "gtk-3"}))
    laid = with_settings({channel: own.read_bytes()}, dressed, [])
    found = {p.get("name"): (p.get("type"), p.get("value")) for p in fromstring(laid[channel]).findall("property")}
    colours = looks[0].colours
    assert found == {
        "scrolling-lines": ("uint", "90"),
        "color-foreground": ("string", "#112233"),
        "color-use-theme": ("bool", "false"),
    }
    keys = configparser.ConfigParser(interpolation=None)
    keys.optionxform = str
    keys.read_string(laid[".config/glib-2.0/settings/keyfile"].decode())
    assert keys["org/gnome/desktop/interface"]["gtk-theme"] == f"'{dressed.folder}'"
    profile = next(name for name in keys.sections() if name.startswith("org/gnome/terminal/legacy/profiles:/:"))
    assert keys[profile]["background-color"] == f"'{colours['terminal'].hex}'"
    assert keys[profile]["use-theme-colors"] == "false"
    # What unreadable counts as nothing.
    assert fromstring(with_settings({channel: b"<channel"}, dressed, [])[channel]).findall("property")


def test_what_was_quick_before_comes_first_the_next_time(looks, home, stand_in):
    """How long each took is kept; what takes long by what is done in it stays last."""
    slow = Rehearsal("sh", "sh -c 'sleep 9'", keys=("Down",))
    stand_in(slow, painting("text", "background"), Rehearsal("sh", "sh -c true", shows=()))
    store = kept.ResultStore()
    store.note_seconds({"fuzzel-2": 4.0})
    store.note_seconds({"fuzzel": 0.1, "fuzzel-3": 2.0})
    assert store.seconds() == {"fuzzel-2": 4.0, "fuzzel": 0.1, "fuzzel-3": 2.0}
    order: list[str] = []

    def played(stage, rows, progress, at):
        acts = sorted((stage.act(row.id) for row in rows), key=conductor._takes_long)
        order.extend(act.id for act in acts)
        return iter(())

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(conductor, "_played", played)
        patch.setattr(conductor, "missing", lambda: "")
        tried(looks[0], home)
    assert order == ["fuzzel-3", "fuzzel-2", "fuzzel"]


def test_a_program_that_goes_by_the_name_of_another_is_not_that_one(tmp_path, monkeypatch):
    for name in ("nvim", "vim.basic"):
        (tmp_path / name).write_text("#!/bin/sh\n")
        (tmp_path / name).chmod(0o755)
    row = next(r for r in COMPONENT_BY_ID["vim"].rehearsals if r.program == "vim")
    for name in row.needs:
        (tmp_path / name).symlink_to("vim.basic")
    monkeypatch.setenv("PATH", str(tmp_path))
    for real, here in (("nvim", False), ("vim.basic", True)):
        (tmp_path / "vim").symlink_to(real)
        assert available(row) is here
        (tmp_path / "vim").unlink()
