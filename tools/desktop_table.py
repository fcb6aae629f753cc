"""Write the tables of docs/desktops.md from the data: what each desktop sets, and how programs are told."""

from __future__ import annotations

import sys
from pathlib import Path

from mellow_finch.components.catalogue import COMPONENTS
from mellow_finch.session.desktop import Desktop, desktops

START, END = "<!-- made by tools/desktop_table.py -->", "<!-- end -->"
PAGE = Path(__file__).resolve().parents[1] / "docs" / "desktops.md"


def _rows(desktop: Desktop) -> list[str]:
    out = [f"### {desktop.title}", "", f"Tried: {desktop.tried}.", "", "| sets | where | with |", "| --- | --- | --- |"]
    for row in desktop.rows:
        place = f"{row.store} `{row.schema} {row.key}`".replace("` ", "`").replace("|", "\\|")
        when = ["each that there is"] if row.every else []
        when += ["where it is set"] if row.only_set else []
        when += [f"when `{row.writes}` is written"] if row.writes else []
        out.append(f"| {row.title} | {place} | `{row.value}`{', ' if when else ''}{', '.join(when)} |")
    for place in desktop.stores:
        how = f"in `{place.file}`" if place.file else "in its key file"
        out += ["", f"`{place.id}`: read {how}, set by `{' '.join(place.command)}`."]
    if desktop.settle_s:
        out += ["", f"Going back waits {desktop.settle_s:g} s before the theme's folder goes."]
    return [*out, ""]


def tables() -> str:
    """Return the tables as Markdown."""
    out: list[str] = []
    for desktop in desktops():
        out += _rows(desktop)
    out += [
        "### Programs that are told",
        "",
        "| component | program | how | its own check before |",
        "| --- | --- | --- | --- |",
    ]
    for component in COMPONENTS:
        for way in component.follow:
            words = f"SIG{way.words[0]}" if way.how == "signal" else " ".join(way.words)
            out.append(
                f"| {component.title} | {way.program} | {way.how}: `{words}` | {' '.join(way.check) or 'none'} |"
            )
    again = [f"{c.title} (`{c.restarts[0]}`)" for c in COMPONENTS if c.restarts]
    out += ["", f"May be started again on request: {', '.join(again)}. Everything else is only named.", ""]
    return "\n".join(out)


def page(text: str) -> str:
    """Return the page with its tables made anew."""
    head, _, rest = text.partition(START)
    return f"{head}{START}\n\n{tables()}{END}{rest.partition(END)[2]}"


if __name__ == "__main__":
    fresh = page(PAGE.read_text(encoding="utf-8"))
    if "--check" in sys.argv:
        sys.exit(fresh != PAGE.read_text(encoding="utf-8"))
    PAGE.write_text(fresh, encoding="utf-8")
