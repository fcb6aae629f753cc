"""Let every reader have spoilt inputs, and say what did not hold: `python tools/mutate.py COUNT [WORD]`.

WORD: only readers whose name holds it. Seeds that start anew are taken from the clock; `--from N` says where to begin.
"""

from __future__ import annotations

import argparse
import os
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path[:0] = [str(ROOT), str(ROOT / "src")]
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# Readers that start a process, or take whole themes apart, are tried less often than those of a moment.
_LESS = {"archive": 4, "theme file": 4, "whole picture": 2}


def main() -> int:
    """Try them; return 1 when something did not hold."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("count", type=int)
    asked.add_argument("word", nargs="?", default="")
    asked.add_argument("--from", dest="start", type=int, default=int(time.time()) % 1_000_000 * 1_000_000)
    wanted = asked.parse_args()
    from tools.rigs.mutants import Watch, readers, tried

    from mellow_finch.demo.build import build_demo_home, demo_pictures
    from mellow_finch.look.gather import look_of_pictures

    with tempfile.TemporaryDirectory() as name:
        folder = Path(name).resolve()
        for kind in ("STATE", "DATA", "CONFIG", "CACHE"):
            os.environ[f"XDG_{kind}_HOME"] = str(folder / kind)
        look = look_of_pictures([demo_pictures(build_demo_home(folder / "demo" / "home"))[0]], "dark")
        rows = [r for r in readers(folder, look) if wanted.word in r.name]
        place = folder / "given"
        place.mkdir()
        watch = Watch(folder)
        counts: Counter[str] = Counter()
        wrong: list[str] = []
        started = time.monotonic()
        seed = wanted.start
        while sum(counts.values()) < wanted.count:
            if seed % 500 == 0 and counts:
                print(f"… {sum(counts.values())}", file=sys.stderr, flush=True)
            for row in rows:
                if seed % _LESS.get(row.name, 1):
                    continue
                counts[row.name] += 1
                for line in tried(row, seed, place, watch):
                    wrong.append(line)
                    print(line, flush=True)
            seed += 1
        print(f"{sum(counts.values())} inputs in {time.monotonic() - started:.0f} s, {len(wrong)} did not hold.")
        print(", ".join(f"{name} {count}" for name, count in counts.most_common()))
    return bool(wrong)


if __name__ == "__main__":
    sys.exit(main())
