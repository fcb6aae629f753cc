"""Spoils definitions of components and parcels at random: each must be one sentence, or work, and the program goes on.

Run it from the project's root: python -m tools.spoil COUNT [SEED]; every tenth is a parcel. It prints what it counted,
or the first that raised anything else.
"""

from __future__ import annotations

import logging
import os
import random
import sys
import tempfile
import zipfile
from collections import Counter
from pathlib import Path

_SCRATCH = Path(tempfile.mkdtemp(prefix="spoil-"))
os.environ["XDG_CONFIG_HOME"] = str(_SCRATCH / "config")

from tests.components.test_made import hold_up, plain_look, spoilt_text  # noqa: E402
from tests.shelf.test_parcel import with_definitions  # noqa: E402

from mellow_finch.components.catalogue import COMPONENTS, shipped_components  # noqa: E402
from mellow_finch.errors import FinchError  # noqa: E402
from mellow_finch.shelf.parcel import receive, send, take_in  # noqa: E402
from mellow_finch.shelf.shelf import Shelf  # noqa: E402


def spoilt_parcel(good: Path, seed: int) -> Path:
    """Return a parcel that is spoilt somewhere: its bytes, its list, its look or its definitions."""
    chance, path = random.Random(seed), _SCRATCH / "spoilt.zip"
    kind = chance.choice(["bytes", "parts", "definitions", "definitions"])
    if kind == "bytes":
        data = bytearray(good.read_bytes())
        for _ in range(chance.randrange(1, 30)):
            data[chance.randrange(len(data))] = chance.randrange(256)
        path.write_bytes(data[: chance.choice([len(data), chance.randrange(len(data))])])
    elif kind == "parts":
        with zipfile.ZipFile(good) as archive:
            parts = {name: archive.read(name) for name in archive.namelist()}
        for name in chance.sample(sorted(parts), 2):
            data = bytearray(parts[name] or b"x")
            data[chance.randrange(len(data))] = chance.randrange(256)
            parts[name] = bytes(data)
        with zipfile.ZipFile(path, "w") as archive:
            for name, data in parts.items():
                archive.writestr(chance.choice([name] * 20 + ["../" + name, "/" + name]), data)
    else:
        with_definitions(good, path, [spoilt_text(seed + i) for i in range(chance.randrange(1, 6))])
    return path


def _taken(good: Path, seed: int) -> str:
    """Read a spoilt parcel; return whether it was taken or refused with a sentence."""
    try:
        received = receive(spoilt_parcel(good, seed))
        if seed % 1000 == 0:
            take_in(received, Shelf(_SCRATCH / "shelf"))
    except FinchError as error:
        assert "\n" not in str(error)
        return "refused"
    return "taken"


def main() -> None:
    """Spoil COUNT things."""
    count, first = int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 0
    logging.getLogger("mellow_finch").addHandler(logging.NullHandler())
    logging.getLogger("mellow_finch").propagate = False
    counts: Counter[str] = Counter()
    good = _SCRATCH / "good.zip"
    send(plain_look(), good)
    for seed in range(first, first + count):
        try:
            if seed % 10:
                counts[f"definition {hold_up(spoilt_text(seed), plain_look())}"] += 1
            else:
                counts[f"parcel {_taken(good, seed)}"] += 1
        except Exception:
            print(f"SEED {seed}")
            raise
        if seed % 5000 == 4999:
            print(seed + 1, dict(counts), flush=True)
    assert len(COMPONENTS) == len(shipped_components())
    print(dict(counts))


if __name__ == "__main__":
    main()
