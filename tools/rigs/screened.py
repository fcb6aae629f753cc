"""Run a command on a virtual screen that tells how often it is drawn: some window managers draw on no other.

python -m tools.rigs.screened COMMAND…
"""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Sequence
from pathlib import Path

SERVER = "Xtigervnc"


def main(words: Sequence[str]) -> int:
    """Start the screen, run the words on it, end it, and return how they ended."""
    told, tells = os.pipe()
    size = ["-geometry", "1280x800", "-depth", "24"]
    inside = str(Path(os.environ["XDG_RUNTIME_DIR"]) / "screen")  # nobody looks at it from elsewhere
    closed = ["-rfbport", "-1", "-rfbunixpath", inside, "-SecurityTypes", "None", "-nolisten", "tcp"]
    server = subprocess.Popen(
        [SERVER, *size, *closed, "-displayfd", str(tells)],
        pass_fds=[tells], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    os.close(tells)
    try:
        with os.fdopen(told) as line:
            number = line.readline().strip()
        if not number:
            return server.wait() or 1
        return subprocess.run(words, env={**os.environ, "DISPLAY": f":{number}"}).returncode
    finally:
        server.kill()


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
