"""Ask the index which wheel each line of the lock has, for every Python and machine, and keep the answer for a test.

    python tools/wheels.py

Needs the network. What is kept in tests/data/lock-wheels.json is looked at without it: a lock that has changed since
is told by tests/test_packaging.py. Nothing is installed.
"""

from __future__ import annotations

import json
import re
import subprocess
import sys
import tempfile
from pathlib import Path

from packaging.markers import Marker
from packaging.specifiers import SpecifierSet

ROOT = Path(__file__).resolve().parents[1]
LOCK = ROOT / "requirements.lock"
KEPT = ROOT / "tests" / "data" / "lock-wheels.json"
PYTHONS = ("3.11", "3.12", "3.13", "3.14")
MACHINES = ("x86_64", "aarch64")
_GLIBC = (*range(5, 43),)  # of manylinux tags, 2.N
_LINE = re.compile(r"^([\w.-]+)==([^\s;\\]+)[ \t]*(?:;([^\\\n]*))?", re.MULTILINE)


def wanted(text: str, python: str, machine: str) -> dict[str, str]:
    """Return {name: version} of the lines of a lock that count for a Python on Linux."""
    environment = {
        "python_version": python,
        "python_full_version": f"{python}.0",
        "platform_machine": machine,
        "sys_platform": "linux",
        "platform_system": "Linux",
        "os_name": "posix",
        "implementation_name": "cpython",
        "platform_python_implementation": "CPython",
    }
    rows = _LINE.findall(text)
    return {
        name: version for name, version, marker in rows if not marker.strip() or Marker(marker).evaluate(environment)
    }


def resolved(rows: dict[str, str], python: str, machine: str) -> dict[str, str]:
    """Return {name: wheel's file name}; ends the program with what pip says where one has none."""
    platforms = [f"manylinux_2_{n}_{machine}" for n in _GLIBC] + [f"manylinux2014_{machine}", f"linux_{machine}"]
    with tempfile.TemporaryDirectory() as folder:
        report = Path(folder) / "report.json"
        words = ["-q", "--dry-run", "--ignore-installed", "--no-deps", "--only-binary=:all:", "--target", folder]
        words += ["--python-version", python, "--report", str(report), "--ignore-requires-python"]  # looked at below
        words += [word for p in platforms for word in ("--platform", p)]
        words += [f"{name}=={version}" for name, version in rows.items()]
        done = subprocess.run([sys.executable, "-m", "pip", "install", *words], capture_output=True, text=True)
        if done.returncode:
            errors = [line for line in done.stderr.splitlines() if line.startswith("ERROR")]
            sys.exit(f"Python {python} on {machine}: {' '.join(errors) or done.stderr[-400:]}")
        data = json.loads(report.read_text(encoding="utf-8"))
    found = {}
    for row in data["install"]:
        name = re.sub(r"[-_.]+", "-", row["metadata"]["name"]).lower()
        needs = row["metadata"].get("requires_python", "")
        if python not in SpecifierSet(needs):
            sys.exit(f"Python {python}: {name} needs {needs}")
        found[name] = row["download_info"]["url"].rpartition("/")[2].partition("#")[0]
    return found


def main() -> None:
    """Resolve the lock for all of them and keep it."""
    text = LOCK.read_text(encoding="utf-8")
    out = {
        f"{python} {machine}": dict(sorted(resolved(wanted(text, python, machine), python, machine).items()))
        for python in PYTHONS
        for machine in MACHINES
    }
    KEPT.write_text(json.dumps(out, indent=1) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
