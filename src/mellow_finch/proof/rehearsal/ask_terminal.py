"""Asks the terminal that this runs in which colours it shows, and writes its answers into a file as JSON."""

import json
import os
import re
import select
import sys
import termios
import time
import tty
from pathlib import Path

_GIVEN_UP = 3  # questions in a row without an answer; some terminals answer only those for the sixteen
_BUSY_S = 10.0  # until a question is given up that was not read
_LATE_S = 0.5  # for a colour that comes after the answer to what was asked later
QUESTIONS = {"text": "10;?", "ground": "11;?", **{f"ansi_{i}": f"4;{i};?" for i in range(16)}}


def answer(fd: int, question: str) -> str:
    """Return the colour that the terminal answers with, "" when it stays silent.

    Every terminal answers what kind it is (ECMA-48, DA), in turn: until it did, a busy one has not read the question.
    """
    os.write(fd, f"\x1b]{question}\x07\x1b[c".encode())
    got, read = b"", False
    until = time.monotonic() + _BUSY_S
    while time.monotonic() < until:
        if select.select([fd], [], [], 0.1)[0]:
            got += os.read(fd, 200)
        if not read and re.search(rb"\x1b\[\?[\d;]*c", got):
            read, until = True, time.monotonic() + _LATE_S
        found = re.search(rb"rgba?:([0-9a-fA-F]+)/([0-9a-fA-F]+)/([0-9a-fA-F]+)(?:/[0-9a-fA-F]+)?(?:\x07|\x1b\\)", got)
        if found and read:
            return "#" + "".join(part.decode()[:2] for part in found.groups()).lower()
    return ""


def main() -> None:
    """Ask, and write."""
    fd = os.open("/dev/tty", os.O_RDWR)
    old = termios.tcgetattr(fd)
    tty.setraw(fd)
    try:
        time.sleep(0.3)
        said, silent = {}, 0
        for name, question in QUESTIONS.items():
            said[name] = answer(fd, question) if silent < _GIVEN_UP else ""
            silent = 0 if said[name] else silent + 1
    finally:
        termios.tcsetattr(fd, termios.TCSADRAIN, old)
    part = Path(sys.argv[1] + ".part")
    part.write_text(json.dumps(said))
    part.rename(sys.argv[1])


if __name__ == "__main__":
    main()
