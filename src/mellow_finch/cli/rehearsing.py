"""The command that tries real programs with a look before anything is written."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from ..language import parted, plural, titled, tr, with_note
from .home import history_of, known_components
from .parts import JSON_OPTION, YES_OPTION, check_into, home_options, in_a_sentence, may_go_on, print_json, say

if TYPE_CHECKING:
    from ..proof.rehearsal.conductor import Rehearsed


@click.command()
@in_a_sentence
@click.argument("look", type=click.Path(path_type=Path))
@click.option("--only", multiple=True, help=tr("A component; can be repeated."))
@click.option("--slow", is_flag=True, help=tr("Include programs that start slowly."))
@click.option("--anew", "--again", is_flag=True, help=tr("Start every program again, ignoring earlier results."))
@click.option(
    "--into", type=click.Path(path_type=Path, file_okay=False), help=tr("A folder for the images before and after.")
)
@home_options
@YES_OPTION
@JSON_OPTION
def rehearse(
    look: Path,
    only: tuple[str, ...],
    slow: bool,
    anew: bool,
    into: Path | None,
    home: Path,
    yes: bool,
    as_json: bool,
) -> int:
    """Start real programs of this computer with the look in a hidden session, and measure what they show.

    Nothing in your home folder changes. Exit code 1 if a program shows unreadable text.
    """
    from ..look.carry import load_look
    from ..look.dressed import dress as dress_look
    from ..look.worn_themes import worn_themes
    from ..proof.rehearsal.conductor import in_order
    from ..proof.rehearsal.conductor import rehearse as hold
    from ..proof.rehearsal.last import note_rehearsal
    from ..proof.rehearsal.room import backdrop_of, wall, wall_words
    from ..wear.plan import own_files
    from ..wear.present import present_here

    if into is not None:
        check_into(into, yes)
    if wall() == "none" and not may_go_on(tr("{sentence} Continue?").format(sentence=wall_words()), yes):
        say(tr("Nothing was started."))
        return 0
    loaded = load_look(look)
    history = history_of(home, "rehearse")
    files = own_files(home, history)
    chosen = known_components(only)
    present = present_here(home, files, history)
    dressed = dress_look(loaded, files, chosen | present if chosen else None, present, themes=worn_themes(loaded))
    rows: list[Rehearsed] = []
    for row in hold(dressed, home, backdrop_of(loaded.source), chosen, slow, keep=not anew):
        rows.append(row)
        if not as_json and row.state != "absent":
            say(titled(_named(row), row.words + _where(row)))
    ordered = in_order(rows)
    if not chosen:
        note_rehearsal(loaded, ordered)
    if into is not None:
        _save(ordered, into)
    bad = [r for r in ordered if r.state == "unreadable"]
    if as_json:
        print_json({"programs": [_as_json(r) for r in ordered], "unreadable": len(bad), "wall": wall()})
        return 1 if bad else 0
    absent = [r.program for r in ordered if r.state == "absent"]
    if absent:
        say(tr("Not installed: {names}.").format(names=parted(absent)))
    tried = len(ordered) - len(absent)
    good = sum(r.state == "as_look" for r in ordered)
    say(
        plural(
            "{count} program tried: {good} as the look, {bad} with unreadable text.",
            "{count} programs tried: {good} as the look, {bad} with unreadable text.",
            tried,
            good=good,
            bad=len(bad),
        )
    )
    return 1 if bad else 0


def _named(row: Rehearsed) -> str:
    return with_note(row.component.title, " ".join(filter(None, (row.program, row.version))))


def _where(row: Rehearsed) -> str:
    return f" [{row.where}]" if row.where and row.state in ("other", "unreadable") else ""


def _save(rows: list[Rehearsed], into: Path) -> None:
    from ..disk.below import Below

    below = Below(into)
    for row in rows:
        for name, data in ((f"{row.id}.png", row.picture), (f"{row.id}-before.png", row.before)):
            if data:
                below.write(name, data)


def _as_json(row: Rehearsed) -> dict[str, Any]:
    return {
        "id": row.id,
        "component": row.component.id,
        "program": row.program,
        "version": row.version if row.state != "absent" else "",
        "state": row.state,
        "words": row.words,
        "texts": row.shown.texts,
        "unreadable": [
            {
                "text": t.ink.hex,
                "surface": t.ground.hex,
                "ratio": round(t.ratio, 2),
                "need": t.need.level,
                "boxes": [list(b) for b in t.boxes[:20]],
            }
            for t in row.shown.short
        ],
        "parts": [
            {
                "part": p.part.key,
                "what": p.what,
                "wanted": p.wanted.hex,
                "seen": p.seen.hex if p.seen else "",
                "difference": round(p.difference, 1) if p.seen else None,
            }
            for p in row.shown.parts
        ],
        "where": row.where,
        "box": list(row.box),
    }


COMMANDS = (rehearse,)
