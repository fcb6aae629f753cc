"""Makes the guide as pages for a browser, into a folder laid out like share/."""

from __future__ import annotations

import html
import re
import shutil
import sys
from pathlib import Path

import markdown

from mellow_finch.ui.help.pages import pages

ROOT = Path(__file__).resolve().parents[1]
_STYLE = (
    "body{font:17px/1.6 system-ui,sans-serif;max-width:46rem;margin:2rem auto;padding:0 1.25rem;color:#1c1d1f;"
    "background:#fff}nav{font-size:.95em;border-bottom:1px solid #767b80;padding-bottom:.75rem}nav a{margin-right:1rem}"
    "img{max-width:100%;height:auto}a{color:#0b5f66}table{border-collapse:collapse}td,th{border:1px solid #9a9ea2;"
    "padding:.3rem .6rem;text-align:left;vertical-align:top}code{background:#eef0f1;padding:0 .2em}"
)


def make(share: Path) -> list[Path]:
    """Write every page and the pictures, and return the pages."""
    into = share / "doc/mellow-finch/guide"
    into.mkdir(parents=True, exist_ok=True)
    links = " ".join(f'<a href="{page.name}.html">{html.escape(page.title.split(":")[0])}</a>' for page in pages())
    out = []
    for page in pages():
        body = markdown.markdown(page.text, extensions=["tables"])
        body = re.sub(r'href="(\w+)\.md"', r'href="\1.html"', body)
        out.append(into / f"{page.name}.html")
        out[-1].write_text(
            f'<!DOCTYPE html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n'
            f"<title>{html.escape(page.title)}</title>\n"
            f'<meta name="viewport" content="width=device-width, initial-scale=1">\n<style>{_STYLE}</style>\n</head>\n'
            f"<body>\n<nav>{links}</nav>\n<main>\n{body}\n</main>\n</body>\n</html>\n",
            encoding="utf-8",
        )
    pictures = Path(__file__).resolve().parents[1] / "src/mellow_finch/guide/pictures"
    if pictures.is_dir():
        shutil.copytree(pictures, into / "pictures", dirs_exist_ok=True)
    return out


if __name__ == "__main__":
    for path in make(Path(sys.argv[1])):
        print(path)
