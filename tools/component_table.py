"""Writes the table of components in docs/formats.md anew from their definitions."""

from __future__ import annotations

import re
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "src"))

from mellow_finch.components.catalogue import COMPONENTS  # noqa: E402
from mellow_finch.components.files import NoFiles  # noqa: E402
from mellow_finch.look.ready import READY  # noqa: E402

BEGIN, END = "<!-- components: tools/component_table.py -->", "<!-- end -->"


def table() -> str:
    """Return the table's text."""
    scheme = READY[0].look().scheme()
    rows = [
        "| id | component | kind | files, NAME being the look's | shows | tried with |",
        "| --- | --- | --- | --- | --- | --- |",
    ]
    for c in (c for c in COMPONENTS if not c.id.startswith("own-")):
        paths = [f"`~/{f.path.replace(scheme.folder, 'NAME')}`" for f in c.write(scheme, NoFiles())] or [
            f"`~/{s}`, recoloured in place" for s in c.signs[:2]
        ]
        more = f" and {len(paths) - 2} more" if len(paths) > 3 else ""
        shown = ", ".join(paths[:2] if more else paths) + more
        effect = "laid ready" if c.exported else c.effect
        title = f"{c.title}, and {', '.join(c.covers)}" if c.covers else c.title
        rows.append(f"| {c.id} | {title} | {c.kind} | {shown} | {effect} | {c.tried} |")
    return "\n".join(rows)


def main() -> None:
    """Write the table between its marks."""
    path = ROOT / "docs" / "formats.md"
    text = path.read_text(encoding="utf-8")
    fresh = re.sub(
        re.escape(BEGIN) + r".*?" + re.escape(END), lambda _: f"{BEGIN}\n{table()}\n{END}", text, flags=re.DOTALL
    )
    path.write_text(fresh, encoding="utf-8")
    readme = ROOT / "README.md"
    counted = re.sub(r"(<!-- count -->)\d+", rf"\g<1>{len(COMPONENTS)}", readme.read_text(encoding="utf-8"))
    readme.write_text(counted, encoding="utf-8")


if __name__ == "__main__":
    main()
