"""The log stays small, and what is sent to others holds nothing private."""

from __future__ import annotations

import getpass
import logging
import socket
import string
from logging.handlers import RotatingFileHandler

from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.disk.log import NAME, log_tail, start_log
from mellow_finch.wear.health import fault_report, standing_of, without_private_names
from mellow_finch.wear.history import History


def test_the_log_is_turned_over_when_it_grows(tmp_path):
    logger = logging.getLogger(NAME)
    path = tmp_path / "state" / "log.txt"
    start_log(path)
    try:
        start_log(path)  # a second start adds nothing
        assert sum(isinstance(handler, RotatingFileHandler) for handler in logger.handlers) == 1
        for i in range(6000):
            logger.error("the hide's lamp number %d does not answer, and is asked again in a while", i)
        sizes = [p.stat().st_size for p in path.parent.iterdir()]
        assert len(sizes) == 3 and max(sizes) <= 200_000
        assert "number 5999" in log_tail(3, path)[-1]
        assert len(log_tail(3, path)) == 3
    finally:
        for handler in list(logger.handlers):
            logger.removeHandler(handler)
            handler.close()
        logger.propagate = True


def test_a_disk_that_refuses_loses_only_the_log(tmp_path):
    (tmp_path / "file").write_text("", encoding="utf-8")
    start_log(tmp_path / "file" / "log.txt")
    assert not any(getattr(h, "baseFilename", "").startswith(str(tmp_path)) for h in logging.getLogger(NAME).handlers)
    assert log_tail(5, tmp_path / "nowhere.txt") == []


def test_a_report_says_what_is_needed_and_nothing_private(tmp_path):
    home = tmp_path / "home" / "maren"
    home.mkdir(parents=True)
    history = History(tmp_path / "history")
    text = fault_report(home, history, [f"Xfce, picture {home}/Pictures/reeds.jpg", "/home/tomke/notes.txt was named"])
    for word in ("Mellow Finch", "Python", "numpy", "worn 0", "GB free"):
        assert word in text
    assert "~/Pictures/reeds.jpg" in text and "~/notes.txt" in text
    assert str(tmp_path / "home") not in text and "tomke" not in text and "maren" not in text
    assert standing_of(history).good


@given(
    before=st.text(alphabet=string.printable, max_size=30),
    name=st.from_regex(r"[a-z][a-z0-9_-]{2,12}", fullmatch=True),
    after=st.text(alphabet=string.ascii_letters + "/. ", max_size=30),
)
def test_no_home_of_anybody_stays_in_a_text(before, name, after):
    out = without_private_names(f"{before} /home/{name}/{after}")
    assert f"/home/{name}" not in out


def test_the_person_and_the_machine_are_left_out(monkeypatch):
    monkeypatch.setattr(getpass, "getuser", lambda: "tomke")
    monkeypatch.setattr(socket, "gethostname", lambda: "reedhide")
    assert without_private_names("tomke@reedhide: tomkes lamp") == "…@…: tomkes lamp"
