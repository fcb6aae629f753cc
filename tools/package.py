"""Builds packages into a folder: the source archive and the wheel, or one package of another kind.

The same bytes for the same commit. Texts without a translation stop it.
"""

from __future__ import annotations

import shutil
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "src"), str(ROOT / "tools")]

import languages  # noqa: E402
from deb import build_deb  # noqa: E402
from others import build_arch, build_rpm  # noqa: E402
from portable import build_portable  # noqa: E402
from wheel import build  # noqa: E402

KINDS = {"deb": build_deb, "portable": build_portable, "rpm": build_rpm, "arch": build_arch}


def lacking() -> str:
    """Return which languages lack texts and how many, empty when none does."""
    counts = {language: len(languages.missing(language)) for language in languages.LANGUAGES}
    return ", ".join(f"{language} {count}" for language, count in counts.items() if count)


def main(words: list[str]) -> None:
    """Build what the words say: a kind or nothing, a folder, "--unfinished" to build with texts untranslated."""
    if shutil.which("git") is None:
        sys.exit("What goes into a package is asked of git, which is missing: sudo apt-get install git")
    words, unfinished = [w for w in words if w != "--unfinished"], "--unfinished" in words
    if not unfinished and (found := lacking()):
        sys.exit(
            f"Texts lack a translation: {found}. “tools/languages.py missing” names them; "
            "with --unfinished a package is built in which they are English."
        )
    if words and words[0] in KINDS:
        print(KINDS[words[0]](Path(words[1] if len(words) > 1 else ROOT / "dist")))
        return
    for package in build(Path(words[0] if words else ROOT / "dist")):
        print(package)


if __name__ == "__main__":
    main(sys.argv[1:])
