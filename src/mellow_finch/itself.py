"""Starting this program's own Python again, with the modules that this one has, wherever they lie.

A package may bring its libraries along in a folder of its own that no interpreter knows of. They are named to the new
process alone: its environment, which the programs that it starts inherit, stays as it is.
"""

from __future__ import annotations

import os
import shutil
import sys
from pathlib import Path

MODULES = Path(__file__).resolve().parents[1]  # where this program lies, beside what was brought along
LAUNCHER = "MELLOW_FINCH_LAUNCHER"  # what a package that lies anywhere says it was started by
_RUN = "import runpy, sys; sys.path.insert(0, sys.argv.pop(1)); name = sys.argv.pop(1); sys.argv[0] = name; "


def own_module(module: str, *words: str) -> list[str]:
    """Return the command that runs a module with words of its own; nothing of the folder that one stands in is run."""
    run = _RUN + "runpy.run_module(name, run_name='__main__', alter_sys=True)"
    return [sys.executable, "-P", "-c", run, str(MODULES), module, *words]


def own_script(script: str, *words: str) -> list[str]:
    """Return the command that runs a script file with words of its own, and leaves no compiled file behind."""
    run = _RUN + "runpy.run_path(name, run_name='__main__')"
    return [sys.executable, "-P", "-B", "-c", run, str(MODULES), script, *words]


def launcher() -> str:
    """Return the file that a package says it was started by, empty where there is none any more."""
    return shutil.which(os.environ.get(LAUNCHER, "")) or ""
