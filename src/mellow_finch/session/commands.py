"""Running a desktop's own commands: never through a shell, never without an end."""

from __future__ import annotations

import os
import shutil
import subprocess
import threading
from collections.abc import Mapping, Sequence
from typing import NamedTuple

from ..intake.bounded import BoundsError, run_bounded
from ..language import tr

LIMIT_S = 5.0  # in which nothing is done
_CPU_S = 20.0


class Answer(NamedTuple):
    """What a command said: its exit code, None when it is missing or did not end in time, and its two outputs."""

    code: int | None
    out: str = ""
    said: str = ""

    @property
    def ok(self) -> bool:
        """Tell whether it ended well."""
        return self.code == 0


def ask(words: Sequence[str], text: str | None = None, extra: Mapping[str, str] | None = None) -> Answer:
    """Run a command and return its answer; text: what it is given to read; extra: variables of its environment."""
    command = shutil.which(words[0])
    if command is None:
        return Answer(None, said=tr("“{words}” is not installed").format(words=words[0]))
    environment = {**os.environ, **extra} if extra else None
    try:
        done = run_bounded([command, *words[1:]], _CPU_S, LIMIT_S, text, environment)
    except (OSError, ValueError) as error:
        return Answer(None, said=str(error))
    except BoundsError:
        return Answer(None, said=tr("“{words}” did not answer").format(words=words[0]))
    return Answer(done.returncode, done.stdout, done.stderr.strip())


def start(words: Sequence[str]) -> bool:
    """Start a command that goes on by itself; tell whether it could be."""
    command = shutil.which(words[0])
    if command is None:
        return False
    null = subprocess.DEVNULL
    try:
        child = subprocess.Popen([command, *words[1:]], stdin=null, stdout=null, stderr=null, start_new_session=True)
    except OSError:
        return False
    threading.Thread(target=child.wait, daemon=True).start()  # nothing is left of it when it ends
    return True
