"""What the window is at: told after half a second, never going back, stopped from one place."""

from __future__ import annotations

import threading

import pytest
from PyQt6.QtCore import QEventLoop, QTimer

from mellow_finch.errors import Cancelled
from mellow_finch.progress import give_way
from mellow_finch.ui.kit.jobs import Jobs
from mellow_finch.ui.kit.pace import WindowFirst
from mellow_finch.ui.window import work_mark
from mellow_finch.ui.window.work_mark import WorkMark, title_of


@pytest.fixture
def marked(qtbot, shared):
    jobs = Jobs()
    mark = WorkMark(shared.appearance, jobs)
    mark.setParent(shared.header)
    mark.show()
    qtbot.addWidget(mark)
    yield jobs, mark
    jobs.shut_down()


def test_long_work_is_told_with_how_far_it_is_and_goes_away(qtbot, marked):
    jobs, mark = marked
    go, ended = threading.Event(), []

    def work(progress):
        progress.report(3, 10, "reedbed.jpg")
        progress.report(1, 10, "a second round")
        go.wait(20)

    jobs.start("theme /x/Marsh", work, ended.append)
    assert not mark.isEnabled()  # short work is nobody's business
    qtbot.waitUntil(lambda: mark.isEnabled(), timeout=10000)
    assert "Recolouring a theme" in mark.toolTip()
    (row,) = mark.told.values()
    assert row.share == 0.3 and row.note == "a second round"
    mark.click()
    assert mark.list.isVisible() and mark.window().rect().contains(mark.list.geometry())
    go.set()
    qtbot.waitUntil(lambda: bool(ended) and not mark.isEnabled(), timeout=10000)
    assert mark.list is None


def test_stop_ends_the_work_and_it_is_told_how(qtbot, marked):
    jobs, mark = marked
    failed = []

    def work(progress):
        while True:
            progress.report(0, 0, "")

    jobs.start("programs", work, lambda _: None, failed.append)
    qtbot.waitUntil(lambda: mark.isEnabled(), timeout=10000)
    mark.click()
    mark.list.stops["programs"].click()
    qtbot.waitUntil(lambda: bool(failed), timeout=10000)
    assert isinstance(failed[0], Cancelled) and not jobs.keys and mark.list is None


def test_work_that_nobody_waits_for_is_not_told(qtbot, marked, monkeypatch):
    jobs, mark = marked
    monkeypatch.setattr(work_mark, "_AFTER_S", 0.0)
    go = threading.Event()
    jobs.start("session", lambda _: go.wait(20), lambda _: None)
    assert not mark.told and title_of("session") == ""
    jobs.start("picture", lambda _: go.wait(20), lambda _: None)
    assert list(mark.told) == ["picture"]
    go.set()


def test_work_that_tells_nothing_ends_between_two_pieces(qtbot, marked):
    """What dresses and judges a look tells nobody how far it is; it ends all the same, and others go on."""
    jobs, _ = marked
    rounds, ended, others = [], threading.Event(), []

    def work(_progress):
        try:
            while True:
                rounds.append(1)
                give_way()
        finally:
            ended.set()

    jobs.start("counting", work, lambda _: None)
    qtbot.waitUntil(lambda: len(rounds) > 3, timeout=10000)
    jobs.cancel("counting")
    assert ended.wait(10)
    jobs.start("others", lambda _progress: give_way(), others.append)
    qtbot.waitUntil(lambda: others == [None], timeout=10000)
    give_way()  # nobody's work ends in this thread


def test_work_waits_while_the_windows_thread_is_busy_and_goes_on_when_it_rests(qapp):
    first, asked, seen = WindowFirst(qapp), threading.Event(), []

    def work():
        seen.append(first.rests())
        asked.set()

    try:
        thread = threading.Thread(target=work)
        thread.start()
        while not asked.is_set():  # as a slot or a paint does that takes its time
            pass
        thread.join()
        rested = threading.Event()

        def look():
            while not first.rests():
                give_way()
            rested.set()

        thread = threading.Thread(target=look)
        thread.start()
        loop = QEventLoop()
        QTimer.singleShot(5000, loop.quit)
        poll = QTimer()
        poll.timeout.connect(lambda: loop.quit() if rested.is_set() else None)
        poll.start(20)
        loop.exec()
        poll.stop()
        thread.join()
    finally:
        first.end()
    assert seen == [False]
    assert rested.is_set()
