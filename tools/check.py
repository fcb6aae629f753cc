"""Every check and test in one go: format, lint, types, layers, tests; then the share of tests in the code.

Arguments are handed to pytest; with any, only the tests run.
"""

from __future__ import annotations

import os
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
BIN = Path(sys.executable).parent
CHECKS = (
    ("format", [BIN / "ruff", "format", "--check", "-q", "src", "tests", "bench", "tools"]),
    ("lint", [BIN / "ruff", "check", "-q", "src", "tests", "bench", "tools"]),
    ("types", [BIN / "mypy", "--no-error-summary"]),
    ("layers", [BIN / "lint-imports", "--no-cache"]),
)


def lines(folder: str, kind: str = "py") -> int:
    """Return how many lines the files of a kind in a folder have."""
    return sum(len(p.read_text(encoding="utf-8").splitlines()) for p in (ROOT / folder).rglob(f"*.{kind}"))


def main() -> int:
    """Run everything; return the first code that is not 0."""
    wanted = sys.argv[1:]
    failed = 0
    # Tests are compiled once, beside the checks, and not by every process that runs them.
    environment = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    pytest = [sys.executable, "-m", "pytest"]
    collecting = None
    if not wanted:
        collecting = subprocess.Popen(
            [*pytest, "--collect-only", "-qq"], cwd=ROOT, env=environment, stdout=subprocess.DEVNULL
        )
    for name, command in () if wanted else CHECKS:
        started = time.monotonic()
        done = subprocess.run([str(part) for part in command], cwd=ROOT, capture_output=True, text=True)
        print(f"{name}: {'ok' if done.returncode == 0 else 'FAILED'} ({time.monotonic() - started:.0f} s)", flush=True)
        if done.returncode:
            print(done.stdout + done.stderr, flush=True)
            failed = failed or 1
    if collecting is not None:
        collecting.wait()
    processes = str((os.cpu_count() or 1) + 3)  # more than there are: many tests wait for programs
    words = wanted or ["-n", processes, "--dist", "worksteal"]
    tests = subprocess.run([*pytest, "-rs", *words], cwd=ROOT, env=environment)
    src, own, data = lines("src"), lines("tests"), lines("src", "toml")
    shares = f"{own / src:.0%} of the Python of src, {own / (src + data):.0%} with its definitions"
    print(f"Lines: src {src}, its definitions {data}, tests {own}; tests are {shares}.", flush=True)
    return failed or tests.returncode


if __name__ == "__main__":
    sys.exit(main())
