"""Measure, print figures and ratios, and name what is worse than in the run before; nothing here passes or fails.

`python -m bench [--keep] [NAME…]`: the named benches, all without names; --keep writes the figures down.
"""

from __future__ import annotations

import compileall
import os
import sys
import tempfile
from pathlib import Path

import mellow_finch

from . import core, window
from .figures import KEPT, Figures
from .steady import steady
from .themes import themes

BENCHES = {
    bench.__name__: bench
    for bench in (
        *(core.palette, core.error, core.solve, core.rank, core.sheet, core.icons, core.dress, core.wear),
        *(window.drag, window.whole, window.stall, window.hand, window.view, window.start, window.wall),
        window.memory,
    )
}
LONG = {"steady": steady, "themes": themes}  # by their names only; they print tables of their own


def compiled(scratch: Path) -> None:
    """Compile the program's modules as an installed one has them, so that imports are not measured as compiling."""
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
    os.environ["PYTHONPYCACHEPREFIX"] = sys.pycache_prefix = str(scratch / "compiled")
    sys.dont_write_bytecode = False
    compileall.compile_dir(Path(mellow_finch.__file__).parent, quiet=1)


def main() -> None:
    """Run the named benches, all without names."""
    names = [word for word in sys.argv[1:] if word != "--keep"]
    figures = Figures()
    with tempfile.TemporaryDirectory() as scratch:
        compiled(Path(scratch))
        for name in names or BENCHES:
            if name in LONG:
                LONG[name](Path(scratch))
                continue
            print(f"\n{name}: the yardstick takes {figures.measure_yard():.2f} s", flush=True)
            BENCHES[name](Path(scratch), figures)
    missed = [row.name for row in figures.rows.values() if row.wanted is not None and row.at_rest > row.wanted]
    worse = figures.compare()
    print(f"\n{len(figures.rows)} figures, {len(missed)} not as wanted, {len(worse)} worse than in the run before")
    for line in worse:
        print(f"  {line}")
    if "--keep" in sys.argv:
        figures.keep()
        print(f"Kept in {KEPT.name}")


if __name__ == "__main__":
    main()
