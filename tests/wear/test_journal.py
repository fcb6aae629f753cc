"""Whatever moment a change is interrupted at, finishing and undoing are exact: files, settings, open terminals."""

from __future__ import annotations

import contextlib

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mellow_finch.errors import WearError
from mellow_finch.wear.journal import FileRow, Snapshot, manifest_text, snapshot_from
from mellow_finch.wear.status import status_of
from mellow_finch.wear.wear import finish, put_on, undo_last

from .conftest import Killed, bytes_of, killed_at, state


def steps_of(bench, action) -> int:
    """Return how many steps an action has."""
    seen: list[str] = []
    action(bench.history(seen.append), bench.desktop(seen.append))
    return len(seen)


def no_leftovers(bench) -> None:
    bench.history().tidy()
    assert not [p for p in state(bench.home) if ".finch-" in p]
    folder = bench.history().folder
    assert not list(folder.rglob(".finch-*")) and not list(folder.glob("*/state-preparing"))
    assert not list(folder.glob("*/torn-*"))


def test_wear_and_undo_are_exact(bench):
    before, was = state(bench.home), bench.settings()
    snapshot = put_on(bench.plan(), bench.history(), bench.session)
    worn = state(bench.home)
    assert snapshot is not None and snapshot.status == "worn" and worn != before
    assert worn[".config/plain.conf"][1] == 0o640 and worn[".config/plain.conf"][5] == before[".config/plain.conf"][5]
    assert worn[".config/two-names"][-1] == (".config/two-names", "dots/other-name")  # still one file of two names
    assert bytes_of(worn["dots/other-name"]) == b"two\nlonger than before #203040"
    assert worn[".by-link"] == ("link", b"dots/linked")
    assert bench.session.settings["org.gnome.desktop.interface", "icon-theme"] == "Marsh"
    assert ("org.gnome.desktop.interface", "no-such-key") not in bench.session.settings
    undo_last(bench.history(), bench.session)
    assert state(bench.home) == before and bench.settings() == was  # not set, and set to nothing, both exactly
    assert "\x1b]111\x1b\\" in bench.session.sent[-1]
    no_leftovers(bench)


def test_killed_at_every_step_of_wearing(bench):
    """Files are old or new; then undo gives the old home back, finish the new one, settings and terminals too."""
    before, was = state(bench.home), bench.settings()
    steps = steps_of(bench, lambda h, s: put_on(bench.plan(), h, s))
    after, then = state(bench.home), bench.settings()
    undo_last(bench.history(), bench.session)
    assert steps > 70 and state(bench.home) == before
    pending = 0
    for number in range(1, steps + 1):
        step = killed_at(number)
        with pytest.raises(Killed):
            put_on(bench.plan(), bench.history(step), bench.desktop(step))
        torn = any(True for _ in bench.history().folder.glob("*/torn-*"))
        for path, entry in state(bench.home).items():
            if entry[0] == "file" and ".finch-" not in path and not (torn and "-name" in path):
                assert bytes_of(entry) in (bytes_of(before.get(path)), bytes_of(after.get(path))), (number, path)
        history = bench.history()
        history.tidy()
        found = status_of(history)
        if found.pending is not None:
            pending += 1
            with pytest.raises(WearError, match="interrupted"):
                put_on(bench.plan(), history, bench.session)
            if number % 2:
                bench.session.sent.clear()
                assert finish(history, bench.session).left == ()
                assert state(bench.home) == after and bench.settings() == then, number
                assert bench.session.sent == ["\x1b]11;#203040\x1b\\"]
        elif found.worn is None:
            assert state(bench.home) == before and bench.settings() == was, number
        if history.last_worn() is not None:
            undo_last(history, bench.session)
        assert state(bench.home) == before and bench.settings() == was, number
        no_leftovers(bench)
    assert pending >= 30


@pytest.mark.long
@pytest.mark.parametrize("ending", ["undo", pytest.param("finish", marks=pytest.mark.long)])
def test_killed_at_every_step_of_going_back(bench, ending):
    before, was = state(bench.home), bench.settings()
    put_on(bench.plan(), bench.history(), bench.session)
    steps = steps_of(bench, undo_last)
    assert steps > 40
    for number in range(1, steps + 1):
        put_on(bench.plan(), bench.history(), bench.session)
        step = killed_at(number)
        with pytest.raises(Killed):
            undo_last(bench.history(step), bench.desktop(step))
        history = bench.history()
        if history.pending() is not None and ending == "finish":
            finish(history, bench.session)
        elif history.last_worn() is not None:
            undo_last(history, bench.session)
        assert state(bench.home) == before and bench.settings() == was, number
        no_leftovers(bench)


def test_killed_at_every_step_of_finishing_and_then_once_more(bench):
    before, was = state(bench.home), bench.settings()
    steps = steps_of(bench, lambda h, s: put_on(bench.plan(), h, s))
    undo_last(bench.history(), bench.session)
    half = steps - 25
    for number in range(1, 30):
        step = killed_at(half)
        with pytest.raises(Killed):
            put_on(bench.plan(), bench.history(step), bench.desktop(step))
        step = killed_at(number)
        try:
            finish(bench.history(step), bench.desktop(step))
        except Killed:
            step = killed_at(number // 2 + 1)
            with contextlib.suppress(Killed, WearError):
                finish(bench.history(step), bench.desktop(step))
        if bench.history().pending() is not None and number % 2:
            finish(bench.history(), bench.session)
        undo_last(bench.history(), bench.session)
        assert state(bench.home) == before and bench.settings() == was, number
        no_leftovers(bench)


def test_a_look_over_a_look_killed_anywhere_comes_off_to_the_first(bench):
    put_on(bench.plan(), bench.history(), bench.session)
    first, then = state(bench.home), bench.settings()
    steps = steps_of(bench, lambda h, s: put_on(bench.plan("Fog", b"#c0c8d0"), h, s))
    undo_last(bench.history(), bench.session)
    for number in range(1, steps + 1, 5):
        step = killed_at(number)
        with pytest.raises(Killed):
            put_on(bench.plan("Fog", b"#c0c8d0"), bench.history(step), bench.desktop(step))
        history = bench.history()
        history.tidy()
        last = history.last_worn()
        if last is not None and last.look == "Fog":
            undo_last(history, bench.session)
            assert bench.session.sent[-1] == "\x1b]11;#203040\x1b\\"  # the first look's terminals come back
        assert state(bench.home) == first and bench.settings() == then, number


def test_a_disk_that_refuses_at_any_step_leaves_everything_as_it_was(bench):
    """Not a kill: the program is alive and takes it back by itself, in one sentence."""
    before, was = state(bench.home), bench.settings()
    steps = steps_of(bench, lambda h, s: put_on(bench.plan(), h, s))
    undo_last(bench.history(), bench.session)
    for number in range(4, steps, 3):
        count = [0]

        def refuse(name: str, number: int = number, count: list[int] = count) -> None:
            count[0] += 1
            if count[0] == number:
                raise OSError(28, "No space left on device") if "name" not in name else KeyboardInterrupt

        try:
            put_on(bench.plan(), bench.history(refuse), bench.session)
        except (WearError, OSError, KeyboardInterrupt) as error:
            assert "Traceback" not in str(error)
        if bench.history().last_worn() is not None:  # it refused only after the last change
            undo_last(bench.history(), bench.session)
        assert state(bench.home) == before and bench.settings() == was, number
        no_leftovers(bench)


@given(st.text(max_size=30), st.lists(st.tuples(st.text(min_size=1, max_size=20), st.booleans()), max_size=5))
@settings(max_examples=15)
def test_a_manifest_is_read_back_as_it_was_written(look, rows):
    files = tuple(
        FileRow(path=p, target=f"/x/{p}", components=("a",), before="", after="0", in_place=flag, blob="", staged="s")
        for p, flag in rows
    )
    snapshot = Snapshot("00000-x", look, "2026", files, "token", "sum", "worn")
    assert snapshot_from(manifest_text(snapshot), "00000-x", "worn") == snapshot
