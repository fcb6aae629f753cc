"""Makes the lists of places as GTK 3 and 4 nest them, from their galleries: what sheets are judged by is data.

Run where the toolkit's bindings and a hidden screen are; writes `src/mellow_finch/theme/sheets/toolkit_tree.txt` and
`toolkit_tree4.txt`, a row for each place: widget | state | what is measured | the way down to the node.
"""

from __future__ import annotations

from pathlib import Path

from mellow_finch.proof.toolkit.ask import ask

THEME = Path(__file__).resolve().parents[1] / "src/mellow_finch/theme/sheets"


def rows(generation: int) -> list[str]:
    """Return the rows, in the order of their names; what every window has around its widgets is "*"."""
    from mellow_finch.theme.sheets.places import AROUND, AROUND_4

    around = AROUND if generation == 3 else AROUND_4
    places = sorted(ask({}, "None", generation).places, key=lambda p: (p.widget, p.state, p.what))
    kept = (p for p in places if p.place)
    return [" | ".join((p.widget, p.state, p.what, p.place.replace(around, "*", 1))) for p in kept]


if __name__ == "__main__":
    for generation, name in ((3, "toolkit_tree.txt"), (4, "toolkit_tree4.txt")):
        (THEME / name).write_text("\n".join(rows(generation)) + "\n", encoding="utf-8")
        print(THEME / name)
