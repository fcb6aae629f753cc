"""A shelf as one page of HTML: every look with its small desktop and its colours; no network, no script."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Iterable
from html import escape
from typing import NamedTuple

from ..colour.contrast import plain_ink
from ..colour.rgb import Rgba
from ..language import html_language, plural, tone_word, tr
from ..look.model import Look
from ..palette.roles import role_title

SHOWN = (
    *("window", "view", "header", "panel", "menu", "selection", "accent", "link"),
    *("success", "warning", "error", "terminal"),
)
_STYLE = """
:root { color-scheme: light; }
body { font: 16px/1.5 "Atkinson Hyperlegible", system-ui, sans-serif; color: #1c1d1f; background: #f4f4f3;
  max-width: 80rem; margin: 2rem auto; padding: 0 1.5rem; }
h1 { font-size: 2rem; line-height: 1.2; margin: 0; } h2 { font-size: 1.2rem; margin: 0; }
.wall { display: grid; grid-template-columns: repeat(auto-fill, minmax(20rem, 1fr)); gap: 1.5rem; margin: 1.5rem 0;
  padding: 0; list-style: none; }
.look { background: #ffffff; border: 1px solid #c9cbce; border-radius: 8px; overflow: hidden; }
.look img { display: block; width: 100%; height: auto; } .words { padding: .7rem 1rem 1rem; }
.words p { margin: 0 0 .6rem; color: #4a4c50; }
.swatches { display: grid; grid-template-columns: repeat(3, 1fr); gap: 4px; padding: 0; margin: 0; list-style: none; }
.swatches li { border: 1px solid #c9cbce; border-radius: 4px; padding: .15rem .4rem; font-size: .8rem; }
.swatches span { display: block; }
@media print { body { background: #ffffff; max-width: none; margin: 0; } .look { break-inside: avoid; }
  * { print-color-adjust: exact; } }
"""


class ShownLook(NamedTuple):
    """A look as it stands on the page: with the PNG of its small desktop, and its tags."""

    look: Look
    png: bytes
    tags: tuple[str, ...] = ()


def shelf_page(rows: Iterable[ShownLook], title: str = "") -> str:
    """Return the page. What comes from outside is escaped."""
    looks = [_look(row) for row in rows]
    title = title or tr("The Shelf")
    count = plural("{count} look.", "{count} looks.", len(looks))
    return (
        f'<!DOCTYPE html>\n<html {html_language()}>\n<head>\n<meta charset="utf-8" />\n'
        f'<meta name="viewport" content="width=device-width, initial-scale=1" />\n<title>{escape(title)}</title>\n'
        f"<style>{_STYLE}</style>\n</head>\n<body>\n<main>\n<h1>{escape(title)}</h1>\n<p>{count}</p>\n"
        f'<ul class="wall">\n{"".join(looks)}</ul>\n</main>\n</body>\n</html>\n'
    )


def _look(row: ShownLook) -> str:
    look = row.look
    picture = b64encode(row.png).decode("ascii")
    tags = f", {escape(', '.join(row.tags))}" if row.tags else ""
    alt = tr("A desktop in the colours of {name}").format(name=look.name)
    swatches = "".join(_swatch(role, look.colours[role]) for role in SHOWN)
    return (
        f'<li class="look"><img src="data:image/png;base64,{picture}" alt="{escape(alt)}" />'
        f'<div class="words"><h2>{escape(look.name)}</h2><p>{tone_word(look.tone)}{tags}</p>'
        f'<ul class="swatches">{swatches}</ul></div></li>\n'
    )


def _swatch(role: str, colour: Rgba) -> str:
    style = f"background-color:{colour.opaque.hex};color:{plain_ink(colour.opaque).hex}"
    return f'<li style="{style}">{escape(role_title(role))}<span>{colour.hex}</span></li>'
