"""Lets a person and looks take turns on a home with every program, at random, and checks after every step.

Run it from the project's root: python -m tools.sequences SEEDS [--kills N] [--from SEED] [--steps N]; it prints what it
counted, or the first seed at which a line was lost or the end was not exact.
"""

from __future__ import annotations

import os
import shutil
import sys
import tempfile
import traceback
from collections import Counter
from pathlib import Path

_SCRATCH = Path(tempfile.mkdtemp(prefix="sequences-"))
os.environ["FINCH_SEQUENCES"] = str(_SCRATCH)
os.environ["XDG_CONFIG_HOME"] = str(_SCRATCH / "config")

import click  # noqa: E402 - the folders above count from the first import of ours on
from tools.rigs.homes import full_home  # noqa: E402
from tools.rigs.turns import Turns, odd_home, taken_back  # noqa: E402


@click.command()
@click.argument("seeds", type=int)
@click.option("--kills", default=0, help="How many steps to kill, over all sequences.")
@click.option("--from", "first", default=0, help="The first seed.")
@click.option("--steps", default=8, help="Steps a sequence.")
def main(seeds: int, kills: int, first: int, steps: int) -> None:
    """Run that many sequences."""
    template = odd_home(full_home(_SCRATCH / "template"))
    counts: Counter[str] = Counter()
    wrong = 0
    for seed in range(first, first + seeds):
        folder = _SCRATCH / f"home-{seed}"
        turns = Turns(folder, template, seed)
        try:
            for _ in range(steps):
                name = turns.random.choice(Turns.STEPS)
                turns.kill = counts["kills"] < kills and name in ("wear", "undo", "go_back")
                killing = turns.kill
                turns.step(name)
                turns.kill = False
                counts[name] += 1
                counts["kills"] += killing and "killed" in turns.log
            turns.end()
            counts["sequences"] += 1
        except Exception:
            wrong += 1
            print(f"SEED {seed}: {turns.log}")
            traceback.print_exc()
            sys.stderr.flush()
        finally:
            taken_back()
            shutil.rmtree(folder, ignore_errors=True)
        if seed % 10 == 9:
            print(dict(counts), f"wrong {wrong}", flush=True)
    print(dict(counts), f"wrong {wrong}", flush=True)
    shutil.rmtree(_SCRATCH, ignore_errors=True)
    sys.exit(1 if wrong else 0)


if __name__ == "__main__":
    main()
