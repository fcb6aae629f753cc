"""Checks what must be true of a release as far as a machine can; `docs/release.md` has the rest.

Prints a line for each thing that is not, and fails when there is one. With a version (`tools/release.py 1.0.0`) that
version is asked for in every place that names it.
"""

from __future__ import annotations

import re
import subprocess
import sys
import tomllib
from collections.abc import Iterator
from pathlib import Path
from xml.etree import ElementTree

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "src"), str(ROOT / "tools")]

import architecture  # noqa: E402
import languages  # noqa: E402


def _text(name: str) -> str:
    return (ROOT / name).read_text(encoding="utf-8")


def _versions(wanted: str) -> Iterator[str]:
    told = tomllib.loads(_text("pyproject.toml"))["project"]["version"]
    wanted = wanted or told
    if told != wanted:
        yield f"pyproject.toml says version {told}"
    metainfo = ElementTree.parse(next((ROOT / "packaging/share/metainfo").glob("*.xml")))
    newest = metainfo.find("releases/release")
    if newest is None or newest.get("version") != wanted:
        yield f"the newest release of the metainfo is not {wanted}"
    if not re.search(rf"^## {re.escape(wanted)}\b", _text("CHANGELOG.md"), re.MULTILINE):
        yield f"CHANGELOG.md has no section {wanted}"


def _documents() -> Iterator[str]:
    readme = _text("README.md")
    shots = {path.name for path in (ROOT / "docs/screenshots").glob("*.png")}
    linked = set(re.findall(r"docs/screenshots/([\w-]+\.png)", readme))
    if shots != linked:
        yield f"screenshots and README differ: {', '.join(sorted(shots ^ linked))}"
    for page in (ROOT / "src/mellow_finch/guide").rglob("*.md"):
        for name in re.findall(r"\(pictures/([\w-]+\.png)\)", page.read_text(encoding="utf-8")):
            if not (page.parent / "pictures" / name).is_file():
                yield f"{page.relative_to(ROOT)} shows {name}, which is not there"
    for page in (*ROOT.glob("*.md"), *(ROOT / "docs").glob("*.md")):
        for target in re.findall(r"\]\((?!https?:|mailto:|#)([^)#]+)", page.read_text(encoding="utf-8")):
            if not (page.parent / target).exists():
                yield f"{page.relative_to(ROOT)} links to {target}, which is not there"
    if _text("docs/architecture.svg") != architecture.drawn():
        yield "docs/architecture.svg is old: tools/architecture.py"
    if _text("docs/architecture.md") != architecture.page():
        yield "docs/architecture.md is old: tools/architecture.py"


def _catalogues() -> Iterator[str]:
    for language in languages.LANGUAGES:
        if lacking := languages.missing(language):
            yield f"{language} lacks {len(lacking)} texts"


def _locks() -> Iterator[str]:
    for name in ("requirements.lock", "requirements-dev.lock"):
        words = _text(name)
        if "--index-url" in words or "://" in words:
            yield f"{name} names where packages come from"
        if "--hash=sha256:" not in words:
            yield f"{name} has no hashes"


def _clean() -> Iterator[str]:
    told = subprocess.run(["git", "status", "--porcelain"], cwd=ROOT, capture_output=True, text=True).stdout
    if told.strip():
        yield "there are changes that are not committed"


def wrong(wanted: str = "") -> list[str]:
    """Return what is not as it must be; texts without a translation and what is not committed only for a release."""
    checks = [_versions(wanted), _documents(), _locks(), *([_catalogues(), _clean()] if wanted else [])]
    return [words for check in checks for words in check]


if __name__ == "__main__":
    found = wrong(*sys.argv[1:2])
    print("\n".join(found) or "Everything that can be checked is as it should be.")
    sys.exit(1 if found else 0)
