"""Makes the guide as pages for a browser, into a folder laid out like share/."""

from __future__ import annotations

import html
import re
import shutil
import sys
from pathlib import Path

import markdown

sys.path.insert(0, str(Path(__file__).parent))
from languages import LANGUAGES
from mellow_finch.language import RIGHT_TO_LEFT
from mellow_finch.ui.help.pages import pages, picture

ROOT = Path(__file__).resolve().parents[1]
_STYLE = (
    "body{font:17px/1.6 system-ui,sans-serif;max-width:46rem;margin:2rem auto;padding:0 1.25rem;color:#1c1d1f;"
    "background:#fff}nav{font-size:.95em;border-bottom:1px solid #767b80;padding-bottom:.75rem}nav a{margin-right:1rem}"
    "img{max-width:100%;height:auto}a{color:#0b5f66}table{border-collapse:collapse}td,th{border:1px solid #9a9ea2;"
    "padding:.3rem .6rem;text-align:start;vertical-align:top}code{background:#eef0f1;padding:0 .2em}"
)


def make(share: Path) -> list[Path]:
    """Write every page of every language and the pictures, and return the pages."""
    into = share / "doc/mellow-finch/guide"
    into.mkdir(parents=True, exist_ok=True)
    out = []
    for language in ("en", *LANGUAGES):
        folder = into if language == "en" else into / language
        folder.mkdir(exist_ok=True)
        own = pages(language)
        titles = ((page.name, page.title.partition(":")[0].partition("：")[0].strip()) for page in own)
        links = " ".join(f'<a href="{name}.html">{html.escape(title)}</a>' for name, title in titles)
        direction = ' dir="rtl"' if language in RIGHT_TO_LEFT else ""
        for page in own:
            body = markdown.markdown(page.text, extensions=["tables"])
            body = re.sub(r'href="(\w+)\.md"', r'href="\1.html"', body)
            for name in re.findall(r'src="pictures/([^"]+)"', body):
                (folder / "pictures").mkdir(exist_ok=True)
                shutil.copy(picture(name, language), folder / "pictures" / name)
            out.append(folder / f"{page.name}.html")
            out[-1].write_text(
                f'<!DOCTYPE html>\n<html lang="{language.replace("_", "-")}"{direction}>\n<head>\n'
                f'<meta charset="utf-8">\n<title>{html.escape(page.title)}</title>\n'
                f'<meta name="viewport" content="width=device-width, initial-scale=1">\n'
                f"<style>{_STYLE}</style>\n</head>\n"
                f"<body>\n<nav>{links}</nav>\n<main>\n{body}\n</main>\n</body>\n</html>\n",
                encoding="utf-8",
            )
    return out


if __name__ == "__main__":
    for path in make(Path(sys.argv[1])):
        print(path)
