"""Themes of this machine asked of the real toolkit: does our judge see what it paints, and what do people get?"""

from __future__ import annotations

import os
import statistics
import time
from collections.abc import Iterable, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from pathlib import Path
from typing import Any, NamedTuple

WHERE = Path(os.environ.get("FINCH_THEMES", "/usr/share/themes"))
# What the toolkit paints behind a widget at rest, and the roles of a look that it may be.
ROLES = (
    ("label", "rest", ("window",)),
    ("text view", "rest", ("view",)),
    ("header title", "rest", ("header",)),
    ("sidebar", "rest", ("sidebar", "window", "view")),
    ("menu item", "rest", ("menu",)),
    ("popover", "rest", ("menu",)),
    ("tooltip", "rest", ("tooltip",)),
    ("suggested-action", "rest", ("accent",)),
    ("destructive-action", "rest", ("error",)),
    ("list row", "selected", ("selection", "accent")),
)
NEAR = 3.0  # CIEDE2000


class Row(NamedTuple):
    """What one theme gave.

    pairs: (generation, short in the toolkit, short by the judge) of every place as it came; before, after: places
    short; in_role: by widget, whether it has the look's colour; rules, rules_3 (those in sheets of GTK 3) and seconds:
    of recolouring; again: seconds of recolouring once more with another accent; peer: seconds of tokenizing.
    """

    name: str
    tone: str
    pairs: Sequence[tuple[int, bool, bool]] = ()
    before: int = 0
    after: int = 0
    text_after: int = 0
    in_role: Mapping[str, bool] = {}
    rules: int = 0
    rules_3: int = 0
    seconds: float = 0.0
    again: float = 0.0
    peer: float = 1.0
    trouble: str = ""


def _judged(theme: Any, verdict: Any, scheme: Any) -> list[tuple[int, bool, bool]]:
    """Return for every place as it came the generation, whether it is painted short, and whether the judge says so."""
    from mellow_finch.components.judge import Behind
    from mellow_finch.picture.backdrop import PLAIN
    from mellow_finch.recolour.colour_map import map_of
    from mellow_finch.syntax.sheet import Sheet
    from mellow_finch.theme.bundle.families import newest
    from mellow_finch.theme.pictures.drawings import Drawings
    from mellow_finch.theme.result.account import Choices
    from mellow_finch.theme.sheets.mender import Mender
    from mellow_finch.theme.sheets.places import nested_part

    rows = []
    as_it_came = replace(scheme, mend=False)
    drawn = Drawings(theme, as_it_came, [map_of([])] * max(1, len(theme.families)), Choices())
    for generation in (3, 4):
        places = [p for p in verdict.places if p.place and p.generation == generation]
        entries = [e for e in theme.sheets if f"gtk-{generation}." in e and e.endswith("/gtk.css")]
        if not places or not entries:
            continue
        sheet = theme.sheets[min(entries, key=newest)]
        literals = [theme.texts[p.path].spans[p.index].colour for p in sheet.pieces]
        parts = [nested_part(p.widget, p.state, p.what, p.place) for p in places]
        entry = min(entries, key=newest)
        mender = Mender(
            Sheet(sheet.skeleton, drawn.fills(entry)), parts, literals, Behind(PLAIN), faces=drawn.faces(entry)
        )
        told = {(pair.part.key, pair.what): pair.ratio for pair in mender.with_drawn()}
        for place, part in zip(places, parts, strict=True):
            said = told.get((part.key, "edge" if place.what == "edge" else "text"))
            rows.append((generation, not place.passes, said is not None and not place.need.met(said)))
    return rows


def _one(job: tuple[str, str]) -> Row:
    import tinycss2

    from mellow_finch.colour.difference import colour_difference
    from mellow_finch.colour.rgb import parse_hex
    from mellow_finch.demo.build import build_demo_home, demo_pictures
    from mellow_finch.errors import FinchError
    from mellow_finch.look.edits import with_role
    from mellow_finch.look.gather import look_of_pictures
    from mellow_finch.proof.toolkit.ask import ask_before, mend_by_painting
    from mellow_finch.theme.bundle.read import open_theme
    from mellow_finch.theme.result.account import Choices
    from mellow_finch.theme.result.recolour import recolour_theme
    from mellow_finch.theme.sheets.rules import BEGIN

    name, tone = job
    try:
        home = Path(os.environ["FINCH_BENCH_HOME"]) / str(os.getpid()) / "home"
        pictures = demo_pictures(home if home.exists() else build_demo_home(home))
        look = look_of_pictures([pictures[0]], tone)
        theme = open_theme(WHERE / name)
        before = ask_before(theme)
        started = time.process_time()
        outcome = recolour_theme(theme, look.scheme())
        seconds = time.process_time() - started
        started = time.process_time()
        for path, sheet in theme.texts.items():
            if sheet.format.syntax == "css" and path:
                tinycss2.parse_component_value_list(sheet.text)
        peer = time.process_time() - started
        started = time.process_time()
        recolour_theme(theme, with_role(look, "accent", look.colours["link"]).scheme())
        again = time.process_time() - started
        settled = mend_by_painting(theme, look.scheme(), Choices(), outcome)
    except FinchError as error:
        return Row(name, tone, trouble=str(error))
    surfaces = {(p.widget, p.state): parse_hex(p.surface) for p in settled.verdict.places if p.what == "text"}
    in_role = {
        widget: min(colour_difference(surfaces[widget, state], look.colours[role]) for role in roles) <= NEAR
        for widget, state, roles in ROLES
        if (widget, state) in surfaces
    }
    short, pairs = settled.verdict.short, _judged(theme, before, look.scheme())
    texts = sum(place.what == "text" for place in short)
    rules_3 = sum(t.partition(BEGIN)[2].count("{") for p, t in settled.outcome.fresh.items() if "gtk-3." in p)
    return Row(
        *(name, tone, pairs, len(before.short), len(short), texts),
        *(in_role, settled.outcome.rules, rules_3, seconds, again, peer),
    )


def _names(chosen: Iterable[str]) -> list[str]:
    there = sorted(path.parent.parent.name for path in WHERE.glob("*/gtk-3.0/gtk.css"))
    return [name for name in there if not chosen or name in chosen]


def themes(folder: Path) -> None:
    """Every GTK 3 theme of this machine to a dark and a light look, in the real toolkit before and after."""
    os.environ["FINCH_BENCH_HOME"] = str(folder)
    names = _names([n for n in os.environ.get("FINCH_THEME_NAMES", "").split(",") if n])
    with ProcessPoolExecutor(max(1, (os.cpu_count() or 2) // 2)) as pool:
        rows = []
        for row in pool.map(_one, [(name, tone) for name in names for tone in ("dark", "light")]):
            rows.append(row)
            print(f"{row.name}, {row.tone}: {row.trouble or _told(row)}", flush=True)
    good = [row for row in rows if not row.trouble]
    if not good:
        return
    texts = sum(not row.text_after for row in good)
    rules, older = [row.rules for row in good], [row.rules_3 for row in good]
    times, again = [row.seconds / row.peer for row in good], [row.again / row.peer for row in good]
    for generation in (3, 4):
        pairs = [(a, b) for row in good for number, a, b in row.pairs if number == generation]
        if pairs:
            missed, false = (sum(a is x and b is not x for a, b in pairs) / len(pairs) for x in (True, False))
            print(f"Judge against GTK {generation}, {len(pairs)} places: missed {missed:.1%} (wanted: at most 2 %)")
            print(f"False alarms: {false:.1%} (wanted: at most 5 %)")
    print(f"Places short: {sum(row.before for row in good)} as they came, {sum(row.after for row in good)} after")
    print(f"Without a text short: {texts} of {len(good)}")
    for widget, _, _ in ROLES:
        told = [row.in_role[widget] for row in good if widget in row.in_role]
        print(f"In the look's colour, {widget}: {sum(told)} of {len(told)} (wanted: 9 of 10)")
    print(f"Rules in GTK 3's sheets: median {statistics.median(older):g} (wanted: 10), most {max(older)} (wanted: 60)")
    print(f"Rules in all sheets: median {statistics.median(rules):g}, most {max(rules)}")
    print(f"Time against tokenizing: median {statistics.median(times):.1f} (wanted: at most 8)")
    seconds = statistics.median(row.again for row in good)
    print(f"Another accent: median {statistics.median(again):.1f} times tokenizing, {seconds:.1f} s (wanted: 1)")


def _told(row: Row) -> str:
    others = ", ".join(widget for widget, right in row.in_role.items() if not right)
    return (
        f"{row.before} short, then {row.after} ({row.text_after} texts), {row.rules} rules, {row.seconds:.1f} s, "
        f"{row.seconds / row.peer:.1f} times tokenizing; not in the look's colour: {others or 'none'}"
    )
