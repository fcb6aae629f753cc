"""Makes the list of places as GTK 3 nests them, from its gallery: what the program judges sheets by is data of its own.

Run where the toolkit's bindings and a hidden screen are; writes `src/mellow_finch/theme/toolkit_tree.txt`, a row for
each place: widget | state | what is measured | the way down to the node.
"""

from __future__ import annotations

from pathlib import Path

from mellow_finch.proof.toolkit.ask import ask

TREE = Path(__file__).resolve().parents[1] / "src/mellow_finch/theme/toolkit_tree.txt"


def rows() -> list[str]:
    """Return the rows, in the order of their names; what every window has around its widgets is "*"."""
    from mellow_finch.theme.toolkit import AROUND

    places = sorted(ask({}, "Adwaita").places, key=lambda p: (p.widget, p.state, p.what))
    kept = (p for p in places if p.place)
    return [" | ".join((p.widget, p.state, p.what, p.place.replace(AROUND, "*", 1))) for p in kept]


if __name__ == "__main__":
    TREE.write_text("\n".join(rows()) + "\n", encoding="utf-8")
    print(TREE)
