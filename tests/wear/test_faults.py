"""States that a home can be in, each said and each left again: what was found by wearing on full and on odd machines."""

from __future__ import annotations

import os
import re
import shutil
import socket
import stat
import subprocess
import sys
import time
from dataclasses import replace
from pathlib import Path

import pytest
from tools.rigs.homes import full_home

from mellow_finch.components.catalogue import COMPONENTS
from mellow_finch.components.files import FolderFiles
from mellow_finch.disk.write import save
from mellow_finch.errors import FileAccessError, WearError
from mellow_finch.look.dressed import Output, dress, every_component
from mellow_finch.look.model import folder_of
from mellow_finch.session.simulated import SimulatedSession
from mellow_finch.wear.history import History
from mellow_finch.wear.lock import holder
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import make_plan, own_files, planned
from mellow_finch.wear.status import status_of
from mellow_finch.wear.targets import target_of
from mellow_finch.wear.wear import finish, go_back_to, put_on, undo_last

from .conftest import Killed, bytes_of, killed_at, plan_for, state

ROOT = Path(__file__).resolve().parents[2]


# 1: one file is written once


@pytest.fixture(scope="module")
def full(tmp_path_factory):
    return full_home(tmp_path_factory.mktemp("full"))


def test_everything_is_worn_on_a_home_that_has_every_program_and_taken_off(look, full):
    history = History(history_folder(full))
    dressed = dress(look, own_files(full, history), every_component(look))
    assert {c.id for c in dressed.components} == {c.id for c in COMPONENTS}
    plan = make_plan(dressed, full)
    paths = [w.path for w in plan.writes]
    assert len(paths) == len(set(paths)) > 150
    assert {w.path: w.components for w in plan.writes}[".config/qt5ct/qt5ct.conf"] == ("qt-palette", "qt-sheet")
    before, session = state(full), SimulatedSession()
    snapshot = put_on(plan, history, session)
    assert [row.path for row in snapshot.files] == paths
    assert all((full / w.path).read_bytes() == w.data for w in plan.writes)
    assert make_plan(dress(look, own_files(full, history), every_component(look)), full).writes == ()
    undo_last(history, session)
    assert state(full) == before


def test_of_two_components_with_one_file_the_later_has_seen_the_earlier(look, full):
    for files in (FolderFiles(full), FolderFiles(Path("/nowhere at all"))):
        dressed = dress(look, files, every_component(look))
        last = {output.path: output.data for output in dressed.outputs}
        for id_, written in dressed.files.items():
            for file in written:
                others = next(o for o in dressed.outputs if o.path == file.path).components
                component = next(c for c in COMPONENTS if c.id == others[-1])
                assert file.data == last[file.path] or id_ in component.after, (id_, file.path)


# 2 and 3: kept bytes that are damaged, and states that could not be left


def worn(bench):
    before = state(bench.home)
    snapshot = put_on(bench.plan(), bench.history(), bench.session)
    return before, snapshot


@pytest.mark.parametrize("how", ["damaged", "missing", "a folder"])
def test_damaged_kept_bytes_are_named_and_the_others_can_be_put_back(bench, how):
    before, snapshot = worn(bench)
    blob = bench.history().blob_path(snapshot, snapshot.by_path[".config/plain.conf"])
    if how == "damaged":
        blob.write_bytes(b"rotten")
    else:
        blob.unlink()
        if how == "a folder":
            blob.mkdir()
    now = state(bench.home)
    for _ in range(2):
        with pytest.raises(WearError, match=r"backup is damaged or missing: “.config/plain.conf”") as caught:
            undo_last(bench.history(), bench.session)
        assert caught.value.damaged == (".config/plain.conf",) and "--leave" in caught.value.hint
        assert state(bench.home) == now and bench.history().pending() is None
    done = undo_last(bench.history(), bench.session, leave=[".config/plain.conf"])
    after = state(bench.home)
    assert {p for p in before if after[p][:-1] != before[p][:-1]} == {
        ".config/plain.conf"
    } and after.keys() == before.keys()
    assert done.left == ("“.config/plain.conf” stays as it is.",)
    assert put_on(bench.plan("Fog"), bench.history(), bench.session) is not None  # nothing is refused for good


def test_a_blob_that_goes_missing_half_way_is_no_dead_end(bench):
    before, snapshot = worn(bench)
    step = killed_at(12)
    with pytest.raises(Killed):
        undo_last(bench.history(step), bench.desktop(step))
    history = bench.history()
    assert history.pending() is not None
    row = next(r for r in snapshot.files if r.blob and bytes_of(state(bench.home)[r.path]) != bytes_of(before[r.path]))
    history.blob_path(snapshot, row).unlink()
    with pytest.raises(WearError, match="damaged or missing"):
        undo_last(history, bench.session)
    with pytest.raises(WearError, match="damaged or missing"):
        finish(history, bench.session)
    undo_last(history, bench.session, leave=[row.path])
    after = state(bench.home)
    changed = {p for p in before if bytes_of(after[p]) != bytes_of(before[p])}
    assert row.path in changed and len(changed) <= 2 and bench.history().pending() is None


def test_a_folder_that_the_person_removed_is_made_again(bench):
    before, _ = worn(bench)
    shutil.rmtree(bench.home / ".config")
    with pytest.raises(WearError, match="Changed since"):
        undo_last(bench.history(), bench.session)
    names = (".config/plain.conf", ".config/crlf.conf", ".config/two-names", ".config/empty")
    undo_last(bench.history(), bench.session, overwrite=names)
    after = state(bench.home)
    assert after.keys() == before.keys()  # the file of two names is two files now
    assert {p for p in after if bytes_of(after[p]) != bytes_of(before[p])} == {"dots/other-name"}
    assert after[".config/plain.conf"] == before[".config/plain.conf"]  # mode and attributes too


def test_an_empty_original_that_is_gone_comes_back(bench):
    before, _ = worn(bench)
    (bench.home / ".config/empty").unlink()
    with pytest.raises(WearError, match=r"Changed since: “.config/empty”"):
        undo_last(bench.history(), bench.session)
    undo_last(bench.history(), bench.session, overwrite=[".config/empty"])
    assert state(bench.home) == before


def test_a_file_that_became_a_folder_is_said_and_can_be_left(bench):
    before, _ = worn(bench)
    place = bench.home / ".config/plain.conf"
    place.unlink()
    (place / "mine").mkdir(parents=True)
    with pytest.raises(WearError, match="Changed since"):
        undo_last(bench.history(), bench.session)
    with pytest.raises(WearError, match="could not be restored"):
        undo_last(bench.history(), bench.session, overwrite=[".config/plain.conf"])
    shutil.rmtree(place)
    undo_last(bench.history(), bench.session, overwrite=[".config/plain.conf"])
    assert state(bench.home) == before


@pytest.mark.parametrize(
    "junk", [b"{", b"", b"[]", b"null", b'{"version": 99}', b"\xff\xfe", b'{"rows": 3, "version": 2}', b"[" * 5000]
)
def test_a_junk_manifest_blocks_nothing_and_is_set_aside(bench, junk, look):
    folder = bench.history().folder
    for name in ("00000-junk", "99999-junk"):
        (folder / name).mkdir(parents=True)
        (folder / name / "manifest.json").write_bytes(junk)
        (folder / name / "state-worn").touch()
    assert own_files(bench.home, bench.history())(".config/plain.conf") == b"colour=red\n"
    before, _ = worn(bench)
    assert len(status_of(bench.history()).broken) == 2
    undo_last(bench.history(), bench.session)
    assert state(bench.home) == before
    assert sorted(p.name for p in (folder / "set-aside").iterdir()) == ["00000-junk", "99999-junk"]


def test_what_the_first_version_kept_can_be_taken_off(bench):
    import json

    before = state(bench.home)
    folder = bench.history().folder / "00000-20260101-000000"
    folder.mkdir(parents=True)
    from mellow_finch.wear.targets import digest

    plain = bench.home / ".config/plain.conf"
    (folder / "old-0").write_bytes(plain.read_bytes())
    rows = [
        {"path": ".config/plain.conf", "target": str(plain), "component": "a", "before": digest(plain.read_bytes()), "after": digest(b"new"), "mode": 0o640, "blob": "old-0"},
        {"path": "made", "target": str(bench.home / "made"), "component": "a", "before": "", "after": digest(b"made"), "mode": 0o644, "blob": "old-1"},
    ]  # fmt: skip
    settings = [["org.gnome.desktop.interface", "gtk-theme", "Other"]]
    data = {
        "id": folder.name,
        "look": "Old",
        "when": "2026",
        "status": "worn",
        "entries": rows,
        "folders": [],
        "settings": settings,
    }
    (folder / "manifest.json").write_text(json.dumps(data))
    plain.write_bytes(b"new")
    (bench.home / "made").write_bytes(b"made")
    assert undo_last(bench.history(), bench.session).snapshot.look == "Old"
    assert {p: bytes_of(e) for p, e in state(bench.home).items()} == {p: bytes_of(e) for p, e in before.items()}
    assert bench.session.settings["org.gnome.desktop.interface", "gtk-theme"] == "Other"
    assert bench.history().snapshots()[0].status == "undone"


def test_undoing_keeps_going_and_says_what_is_left(bench, monkeypatch):
    before, _ = worn(bench)
    refused = []

    def refuse(name):
        if "plain.conf" in name:
            refused.append(name)
            raise OSError(5, "Input/output error")

    with pytest.raises(WearError, match=r"“.config/plain.conf” could not be restored: .*the disk reports an error"):
        undo_last(bench.history(refuse), bench.session)
    after = state(bench.home)
    assert {p for p in before if bytes_of(after[p]) != bytes_of(before[p])} == {".config/plain.conf"}
    assert "was interrupted" in status_of(bench.history()).words()
    undo_last(bench.history(), bench.session)
    assert state(bench.home) == before


# 4: names


def test_looks_folders_are_short_and_no_two_names_share_one(look, rich_home, history):
    names = [
        "海",
        "山",
        "Reed bed",
        "Reed-bed",
        "Reed  bed",
        " Reed bed",
        "é",
        "e",
        "x" * 222,
        "x" * 223,
        "",
        "..",
        "Dusk",
        "a\nb",
        "\ud800",
    ]
    folders = [folder_of(name) for name in names]
    assert len(set(folders)) == len(names) and all(len(f) <= 47 and f.isascii() for f in folders)
    assert folder_of("Reedbed at dawn") == "Reedbed-at-dawn"
    before = state(rich_home)
    long = replace(look, name="A picture with a name as long as file systems take " * 5)
    put_on(plan_for(long, rich_home), history, SimulatedSession())
    undo_last(history, SimulatedSession())
    assert state(rich_home) == before


def test_a_name_that_is_too_long_is_said_before_anything_is_written(bench):
    with pytest.raises(WearError, match="a name that is too long"):
        planned(bench.home, [Output("x" * 256, b"", ("a",))])
    longest = bench.home / ("y" * 255)  # temporary names do not grow with it
    longest.write_bytes(b"old")
    before = state(bench.home)
    writes, _same, _ = planned(bench.home, [Output("y" * 255, b"new", ("a",))])
    put_on(replace(bench.plan(), writes=writes), bench.history(), bench.session, overwrite=["y" * 255])
    assert longest.read_bytes() == b"new"
    undo_last(bench.history(), bench.session)
    assert state(bench.home) == before


# 5: edits between the plan and putting on


def test_an_edit_between_plan_and_putting_on_stops_it(bench):
    plan = bench.plan()
    (bench.home / ".config/plain.conf").write_bytes(b"colour=mine\n")
    before = state(bench.home)
    with pytest.raises(
        WearError, match=r"“.config/plain.conf” has changed since the list was made, so nothing was written"
    ):
        put_on(plan, bench.history(), bench.session)
    assert state(bench.home) == before


def test_a_plan_knows_what_its_look_was_dressed_on(look, rich_home, history):
    dressed = dress(look, own_files(rich_home, history))
    assert dressed.outputs
    mine = rich_home / ".config/conky/conky.conf"
    mine.write_bytes(mine.read_bytes() + b"-- mine\n")
    plan = make_plan(dressed, rich_home)  # after the edit, but of what was read before it
    with pytest.raises(WearError, match=r"“.config/conky/conky.conf” has changed since"):
        put_on(plan, history, SimulatedSession())


def test_an_edit_while_files_are_written_is_not_lost(bench):
    before = state(bench.home)
    place = bench.home / ".config/plain.conf"

    def edit(name):
        if name == "rename to index.theme":
            place.write_bytes(b"mine")

    with pytest.raises(WearError, match="is changing right now"):
        put_on(bench.plan(), bench.history(edit), bench.session)
    after = state(bench.home)
    assert place.read_bytes() == b"mine"
    assert {p for p in before if bytes_of(after[p]) != bytes_of(before[p])} <= {".config/plain.conf"}
    assert after.keys() == before.keys()


# 6: finishing


def half_put_on(bench):
    def kill(name):
        if name == "rename to plain.conf":
            raise Killed

    with pytest.raises(Killed):
        put_on(bench.plan(), bench.history(kill), bench.desktop(kill))
    assert bench.history().pending() is not None


def test_finishing_does_not_overwrite_edits(bench):
    half_put_on(bench)
    place = bench.home / ".config/plain.conf"
    place.write_bytes(b"mine")
    with pytest.raises(WearError, match=r"Changed since: “.config/plain.conf”. Nothing was completed"):
        finish(bench.history(), bench.session)
    assert place.read_bytes() == b"mine"
    done = finish(bench.history(), bench.session, leave=[".config/plain.conf"])
    assert place.read_bytes() == b"mine" and done.snapshot.status == "worn" and done.left
    assert bench.session.settings["org.gnome.desktop.interface", "gtk-theme"] == "Marsh"
    with pytest.raises(WearError, match="nothing to complete"):
        finish(bench.history(), bench.session)


def test_finishing_can_give_edits_up(bench):
    half_put_on(bench)
    place = bench.home / ".config/plain.conf"
    place.write_bytes(b"mine")
    finish(bench.history(), bench.session, overwrite=[".config/plain.conf"])
    assert place.read_bytes() == b"colour=#203040\n"


def test_new_files_that_are_gone_are_said_and_undo_is_the_way(bench):
    half_put_on(bench)
    for path in bench.home.rglob(".finch-*"):
        path.unlink()
    with pytest.raises(WearError, match="backup is damaged or missing"):
        finish(bench.history(), bench.session)
    undo_last(bench.history(), bench.session)
    assert bytes_of(state(bench.home)[".config/plain.conf"]) == b"colour=red\n"


def test_settings_changed_since_are_left_and_said(bench):
    worn(bench)
    bench.session.settings["org.gnome.desktop.interface", "icon-theme"] = "Mine"
    done = undo_last(bench.history(), bench.session)
    assert done.left == ("“icon-theme” was changed since and stays as it is.",)
    assert bench.session.settings["org.gnome.desktop.interface", "icon-theme"] == "Mine"
    assert bench.session.settings["org.gnome.desktop.interface", "color-scheme"] is None  # not set, as before


# 7: a full disk


@pytest.fixture
def small_disk(tmp_path):
    """Return a function that mounts a disk of some kilobytes, where that is allowed."""
    made = []

    def mount(name: str, kilobytes: int) -> Path:
        place = tmp_path / name
        place.mkdir()
        done = subprocess.run(
            ["mount", "-t", "tmpfs", "-o", f"size={kilobytes}k", "none", str(place)], capture_output=True
        )
        if done.returncode:
            pytest.skip("NO MOUNTING: a full disk can only be tried where small ones can be mounted (as root)")
        made.append(place)
        return place

    yield mount
    for place in made:
        subprocess.run(["umount", "-l", str(place)], check=False)


def filler(disk: Path, kilobytes: int) -> Path:
    """Leave only some kilobytes free on a disk."""
    place = disk / "filler"
    free = os.statvfs(disk)
    size = max(0, free.f_bavail * free.f_frsize - kilobytes * 1024)
    place.write_bytes(b"\0" * size)
    return place


@pytest.mark.some(1)
@pytest.mark.parametrize("history_there", [True, False])
def test_a_full_disk_changes_nothing_and_undo_needs_no_room(look, home, small_disk, tmp_path, history_there):
    """At twenty levels from full to roomy: one sentence and nothing changed, or worn, and then off with nothing free."""
    disk = small_disk("disk", 8192)
    place = disk / "home"
    shutil.copytree(home, place, symlinks=True, ignore=shutil.ignore_patterns("Pictures", "Downloads"))
    folder = disk / "state" if history_there else tmp_path / "state"
    history, session = History(folder / "m" / "history", wait_s=0), SimulatedSession()
    before = state(place)
    outcomes = []
    for free in (0, 4, 8, 16, 32, 64, 84, 120, 160, 200, 224, 300, 400, 500, 600, 700, 900, 1200, 1800, 2600):
        full = filler(disk, free)
        was = dict(session.settings)
        try:
            snapshot = put_on(make_plan(dress(look, own_files(place, history)), place), history, session)
        except (WearError, FileAccessError) as error:
            outcomes.append(False)
            assert "space" in str(error) and str(error).count(".") <= 3
            assert state(place) == before and session.settings == was and not list(place.rglob(".finch-*"))
            full.unlink()
            continue
        outcomes.append(True)
        assert snapshot is not None
        full.unlink()
        full = filler(disk, 0)
        undo_last(history, session)
        assert state(place) == before and session.settings == was, free
        full.unlink()
        shutil.rmtree(folder)
    assert outcomes == sorted(outcomes) and True in outcomes and outcomes.count(False) >= 8


def test_undo_that_has_no_room_is_refused_before_anything_changes(bench, small_disk):
    disk = small_disk("tiny", 256)
    home = disk / "home"
    home.mkdir()
    (home / "large").write_bytes(b"x" * 100_000)
    bench.home = home
    writes, _same, _ = planned(home, [Output("large", b"small", ("a",))])
    put_on(replace(bench.plan(), writes=writes, settings=()), bench.history(), bench.session, overwrite=["large"])
    full = filler(disk, 0)
    now = state(home)
    with pytest.raises(WearError, match="has no space for backups, so nothing was changed") as caught:
        undo_last(bench.history(), bench.session)
    assert state(home) == now and re.fullmatch(r"Free [\d,]+ kB there, then try again\.", caught.value.hint)
    full.unlink()
    undo_last(bench.history(), bench.session)
    assert (home / "large").read_bytes() == b"x" * 100_000


def test_a_home_that_can_only_be_read_is_said(bench, small_disk):
    disk = small_disk("frozen", 512)
    home = disk / "home"
    home.mkdir()
    (home / "file").write_bytes(b"old")
    subprocess.run(["mount", "-o", "remount,ro", str(disk)], check=True)
    with pytest.raises(WearError, match="Nothing can be written into"):
        planned(home, [Output("file", b"new", ("a",))])
    with pytest.raises(WearError, match="Nothing can be written into"):
        planned(home, [Output("new/file", b"new", ("a",))])


# 8: one at a time

RACER = """
import sys, time
from pathlib import Path
from mellow_finch.errors import WearError
from mellow_finch.look.dressed import Output
from mellow_finch.session.none import NoDesktop
from mellow_finch.wear.history import History
from mellow_finch.wear.places import history_folder
from mellow_finch.wear.plan import Plan, planned
from mellow_finch.wear.wear import put_on
home, name, rounds = Path(sys.argv[1]), sys.argv[2], int(sys.argv[3])
print("ready", flush=True)
for line in sys.stdin:
    outputs = [Output(f"conf-{i}", f"{name} {i}".encode(), ("a",)) for i in range(6)]
    writes, same, sum_ = planned(home, outputs)
    try:
        snapshot = put_on(Plan(name, home, writes, (), (), same), History(history_folder(home), wait_s=0.2), NoDesktop(), overwrite={w.path for w in writes})
        print("worn", flush=True)
    except WearError as error:
        print("refused", error.line(), flush=True)
"""


@pytest.mark.long
def test_two_at_once_leave_one_look_on_and_undo_is_exact(bench):
    """Fifty forced races: one waits or says why, and the home is never of two looks."""
    home = bench.home
    for i in range(6):
        (home / f"conf-{i}").write_text(f"own {i}")
    before = state(home)
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    racers = [
        subprocess.Popen([sys.executable, "-c", RACER, str(home), name, "50"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, env=environment)
        for name in ("Ebb", "Flood")
    ]  # fmt: skip
    assert [r.stdout.readline() for r in racers] == ["ready\n"] * 2
    said = []
    for _ in range(50):
        for racer in racers:
            racer.stdin.write("go\n")
            racer.stdin.flush()
        answers = [r.stdout.readline().strip() for r in racers]
        assert "worn" in answers
        said += [a for a in answers if a != "worn"]
        names = {(home / f"conf-{i}").read_text().split()[0] for i in range(6)}
        assert len(names) == 1 and names <= {"Ebb", "Flood"}
        while bench.history().last_worn() is not None:
            undo_last(bench.history(), bench.session)
        assert state(home) == before
    for racer in racers:
        racer.stdin.close()
        assert racer.wait(10) == 0
        racer.stdout.close()
    assert all(
        "has changed since" in s
        or "have changed since" in s
        or "is changing this home" in s
        or "is changing right now" in s
        for s in said
    )


def test_the_second_is_told_who_holds_the_home(bench):
    first = History(history_folder(bench.home), who="The window")
    with first.locked():
        with pytest.raises(WearError, match=rf"The window \(process {os.getpid()}\) is changing this home folder now"):
            put_on(bench.plan(), bench.history(), bench.session)
        assert status_of(bench.history()).busy.startswith("The window")
    assert holder(first.lock_path) == ""


# 9: what a file is, and what is no file


@pytest.mark.parametrize(
    "kind", ["pipe", "socket", "device", "folder", "loop", "parent is a file", "unreadable parent loop"]
)
def test_what_is_no_file_is_said_before_anything_is_written(bench, kind, tmp_path):
    place = bench.home / ".config/plain.conf"
    place.unlink()
    opened = None
    if kind == "pipe":
        os.mkfifo(place)
    elif kind == "socket":
        opened = socket.socket(socket.AF_UNIX)
        here = Path.cwd()
        os.chdir(place.parent)
        opened.bind(place.name)
        os.chdir(here)
    elif kind == "device":
        try:
            os.mknod(place, stat.S_IFCHR | 0o600, os.makedev(1, 3))
        except PermissionError:
            pytest.skip("NO DEVICES: only root can make one")
    elif kind == "folder":
        place.mkdir()
    elif kind == "loop":
        place.symlink_to("other")
        (place.parent / "other").symlink_to(place.name)
    elif kind == "parent is a file":
        (bench.home / ".local").write_bytes(b"a file")
        place.write_bytes(b"colour=red\n")
    else:
        shutil.rmtree(bench.home / ".config")
        (bench.home / ".config").symlink_to(".config")
    before = state(bench.home)
    started = time.monotonic()
    with pytest.raises(WearError, match=r"“.*” (is a|has|cannot be|lies)|Nothing can be"):
        bench.plan()
    assert state(bench.home) == before and time.monotonic() - started < 5
    assert FolderFiles(bench.home)(".config/plain.conf") in (None, b"colour=red\n")
    if opened is not None:
        opened.close()


@pytest.mark.skipif(os.geteuid() != 0, reason="NO ROOT: owners can only be given by root")
def test_a_link_to_what_is_not_the_persons_gives_way_and_comes_back(bench, tmp_path):
    system = tmp_path / "system"
    system.mkdir()
    (system / "gtk.css").write_bytes(b"theirs")
    os.chown(system / "gtk.css", 12345, 12345)
    link = bench.home / ".config/gtk.css"
    link.symlink_to(system / "gtk.css")
    before = state(bench.home)
    target = target_of(bench.home, ".config/gtk.css")
    assert target.place == link and target.there.kind == "link"
    writes, _same, _ = planned(bench.home, [Output(".config/gtk.css", b"ours", ("a",))])
    put_on(replace(bench.plan(), writes=writes), bench.history(), bench.session)
    assert link.read_bytes() == b"ours" and (system / "gtk.css").read_bytes() == b"theirs"
    assert own_files(bench.home, bench.history())(".config/gtk.css") == b"theirs"
    undo_last(bench.history(), bench.session)
    assert state(bench.home) == before


def test_two_names_of_one_file_that_need_different_contents_are_said(bench):
    (bench.home / "other").symlink_to(".config/plain.conf")
    with pytest.raises(WearError, match="are one file in this home"):
        planned(bench.home, [Output("other", b"1", ("a",)), Output(".config/plain.conf", b"2", ("b",))])
    with pytest.raises(WearError, match="are one file in this home"):
        planned(bench.home, [Output("dots/other-name", b"1", ("a",)), Output(".config/two-names", b"2", ("b",))])
    writes, _, _ = planned(bench.home, [Output("other", b"1", ("a",)), Output(".config/plain.conf", b"1", ("b",))])
    assert len(writes) == 1


@pytest.mark.skipif(os.geteuid() != 0, reason="NO ROOT: owners can only be given by root")
def test_root_leaves_other_peoples_homes_alone_and_owners_stay(bench):
    for path in (".config/plain.conf", ".config/two-names"):
        os.chown(bench.home / path, 4321, 1234)
    before = state(bench.home)
    put_on(bench.plan(), bench.history(), bench.session)
    now = state(bench.home)
    assert now[".config/plain.conf"][2:4] == (4321, 1234) and now[".config/two-names"][2:4] == (4321, 1234)
    undo_last(bench.history(), bench.session)
    assert state(bench.home) == before
    os.chown(bench.home, 4321, 1234)
    with pytest.raises(WearError, match="belongs to someone else"):
        put_on(bench.plan(), bench.history(), bench.session)


def test_times_of_untouched_files_stay(look, rich_home, history):
    plan = plan_for(look, rich_home)
    touched = {w.target.place for w in plan.writes}
    times = {p: p.stat().st_mtime_ns for p in rich_home.rglob("*") if p.is_file() and p.resolve() not in touched}
    put_on(plan, history, SimulatedSession())
    undo_last(history, SimulatedSession())
    assert {p: p.stat().st_mtime_ns for p in times} == times


@pytest.mark.some(3)
@pytest.mark.parametrize(
    "name", ["with space", "emoji 🐦", b"latin-\xf6", "'quotes\" and $HOME", "-dash", "per%cent;semi"]
)
def test_any_home_name_works(name, look, home):
    place = home.parent / os.fsdecode(name)
    home.rename(place)
    history, session = History(history_folder(place)), SimulatedSession()
    before = state(place)
    put_on(plan_for(look, place), history, session)
    assert state(place) != before
    undo_last(history, session)
    assert state(place) == before


def test_a_home_with_a_line_end_in_its_name_is_said(look, home):
    place = home.parent / "two\nlines"
    home.rename(place)
    with pytest.raises(WearError, match="line break or another control character"):
        plan_for(look, place)


# 10: settings belong to components


def test_no_setting_of_a_component_that_is_left_out(look, rich_home, history):
    def keys(look):
        return {s.key for s in plan_for(look, rich_home).settings if s.store != "xresources"}

    assert keys(look) == {"color-scheme", "accent-color", "gtk-theme", "theme"}
    assert keys(replace(look, left_out=frozenset({"gtk-3", "gtk-4"}))) == {"theme"}
    assert keys(replace(look, left_out=frozenset({"gtk-4"}))) == {"color-scheme", "gtk-theme", "theme"}
    bare = plan_for(replace(look, left_out=frozenset({"terminal"})), rich_home)
    assert not [s for s in bare.settings if s.store == "xresources"]


# 12: what is worn


def test_worn_is_told_by_digests(bench):
    assert status_of(bench.history()).words() == "No look is applied."
    worn(bench)
    assert status_of(bench.history()).words() == "“Marsh” is applied."
    (bench.home / ".config/plain.conf").write_bytes(b"mine")
    (bench.home / ".config/empty").unlink()
    found = status_of(bench.history())
    assert found.words() == "“Marsh” is applied; 2 files were changed since."
    assert set(found.changed) == {".config/plain.conf", ".config/empty"}
    with pytest.raises(WearError):
        go_back_to("no such", bench.history(), bench.session)


# 14: private, and one way of writing


def test_history_is_for_nobody_else(bench):
    os.umask(0o022)
    worn(bench)
    folder = bench.history().folder
    for path in (folder, *folder.rglob("*")):
        assert stat.S_IMODE(path.stat().st_mode) & 0o077 == 0, path
    assert stat.S_IMODE(folder.parent.stat().st_mode) == 0o700


def test_saving_keeps_links_modes_and_refuses_what_is_no_file(tmp_path):
    real = tmp_path / "real"
    real.write_bytes(b"old")
    real.chmod(0o600)
    (tmp_path / "link").symlink_to("real")
    save(tmp_path / "link", b"new")
    assert (
        (tmp_path / "link").is_symlink() and real.read_bytes() == b"new" and stat.S_IMODE(real.stat().st_mode) == 0o600
    )
    os.link(real, tmp_path / "second")
    save(real, b"newer")
    assert (tmp_path / "second").read_bytes() == b"newer"
    save(tmp_path / "deep/er/file", b"x")
    os.mkfifo(tmp_path / "pipe")
    for place, says in (
        (tmp_path / "pipe", "it is a pipe"),
        (tmp_path / "deep", "it is a folder"),
        (Path("/dev/null"), "it is a device"),
    ):
        with pytest.raises(FileAccessError, match=says):
            save(place, b"x")
    assert not list(tmp_path.rglob(".finch-*"))
