"""The commands of the shelf: what is kept, and how it is carried to other computers."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from ..language import day, megabytes, parted, plural, tone_word, tr
from .parts import JSON_OPTION, YES_OPTION, PlainWords, drawing, in_a_sentence, may_go_on, print_json, say

if TYPE_CHECKING:
    from ..look.model import Look


@click.group(cls=PlainWords, also={"delete": "drop", "export": "send", "import": "receive", "save": "keep"})
def shelf() -> None:
    """Saved looks: list, show, add and delete them, write and read parcels, make cards."""


@shelf.command("list")
@click.argument("words", nargs=-1)
@click.option(
    "--sort", type=click.Choice(["newest", "name", "hue", "lightness"]), default="newest", help=tr("Sort order.")
)
@click.option("--tone", type=click.Choice(["dark", "light"]), default=None, help=tr("Only looks of this variant."))
@click.option("--strict", is_flag=True, help=tr("Only looks whose text reaches 7:1 everywhere."))
@JSON_OPTION
@in_a_sentence
def list_(words: tuple[str, ...], sort: str, tone: str | None, strict: bool, as_json: bool) -> None:
    """List the saved looks, or those whose name or tags contain some words."""
    from ..shelf.kept import narrowed, sorted_by
    from ..shelf.shelf import Shelf

    own = Shelf()
    rows = sorted_by(narrowed(own.looks(), " ".join(words), tone or "", strict=strict), sort)
    if as_json:
        print_json({"looks": [k.as_json() for k in rows], "bytes": own.size()})
        return
    for k in rows:
        tags = f"  [{', '.join(k.tags)}]" if k.tags else ""
        say(f"{k.id:32}  {k.tone:5}  {k.accent.hex}  {k.name}{tags}")
    say(
        plural(
            "{count} look, {size} in “{folder}”.",
            "{count} looks, {size} in “{folder}”.",
            len(rows),
            size=megabytes(own.size(), 1),
            folder=own.folder,
        )
    )


@shelf.command()
@click.argument("look")
@JSON_OPTION
@in_a_sentence
def show(look: str, as_json: bool) -> None:
    """Show a saved look: its colours, images, tags and folder."""
    from ..shelf.kept import SOURCES, size_of
    from ..shelf.shelf import Shelf, pictures_of

    own = Shelf()
    kept = own.find(look)
    found = own.load(kept.id).look
    folder = own.place(kept.id)
    if as_json:
        roles = {t: {r: c.hex for r, c in found.palettes[t].items()} for t in found.palettes}
        print_json({**kept.as_json(), "folder": str(folder), "roles": roles, "bytes": size_of(folder)})
        return
    say(
        tr("{name}, {tone}, from {sources}, saved {kept}").format(
            name=kept.name, tone=tone_word(kept.tone), sources=SOURCES[kept.source], kept=day(kept.kept)
        )
    )
    for tone in found.palettes:
        names = ("window", "window_text", "accent", "selection", "panel", "terminal")
        say(f"  {tone:5}  " + "  ".join(f"{name} {found.palettes[tone][name].hex}" for name in names))
    for path in pictures_of(found):
        say(f"  {Path(path).name}")
    if kept.tags:
        say(tr("  tags: {names}").format(names=parted(kept.tags)))
    say(tr("  {size} in “{folder}”").format(size=megabytes(size_of(folder), 1), folder=folder))


@shelf.command()
@click.argument("look", type=click.Path(path_type=Path))
@click.option("--tag", "tags", multiple=True, help=tr("A tag; can be repeated."))
@YES_OPTION
@JSON_OPTION
@in_a_sentence
def keep(look: Path, tags: tuple[str, ...], yes: bool, as_json: bool) -> None:
    """Save a look's file to the Shelf, with a copy of its images."""
    from ..look.carry import load_look
    from ..shelf.shelf import ASK_BYTES, Shelf, size_of_pictures

    found = load_look(look)
    size = size_of_pictures(found)
    large = size > ASK_BYTES
    copies = not large or may_go_on(tr("Its images take {size}. Copy them too?").format(size=megabytes(size)), yes)
    kept = Shelf().keep(found, tags, copies)
    if as_json:
        print_json(kept.as_json())
    else:
        say(tr("“{name}” is saved as “{id}”.").format(name=kept.name, id=kept.id))


@shelf.command()
@click.argument("looks", nargs=-1, required=True)
@YES_OPTION
@in_a_sentence
def drop(looks: tuple[str, ...], yes: bool) -> None:
    """Delete looks from the Shelf for good."""
    from ..shelf.shelf import Shelf

    own = Shelf()
    found = [own.find(words) for words in looks]
    names = parted(f"“{k.name}”" for k in found)
    if not may_go_on(tr("Delete {names} for good?").format(names=names), yes):
        say(tr("Nothing was deleted."))
        return
    for kept in found:
        own.drop(kept.id)
    own.empty()
    say(tr("Deleted: {names}.").format(names=names))


@shelf.command()
@click.argument("look")
@click.argument("into", type=click.Path(path_type=Path, dir_okay=False))
@in_a_sentence
def send(look: str, into: Path) -> None:
    """Export a parcel: the look with all it needs in one archive, and scripts for those without Mellow Finch."""
    from ..shelf.parcel import send as write

    size = write(_look(look), into)
    say(tr("“{into}”: {size}.").format(into=into, size=megabytes(size, 1)))


def _look(words: str) -> Look:
    """Return a look from the shelf, or from a file: one that is named by its path, or by a look's own suffix."""
    from ..look.carry import load_look
    from ..look.file import SUFFIX
    from ..shelf.shelf import Shelf

    if Path(words).is_file() and (words.endswith(SUFFIX) or "/" in words):
        return load_look(Path(words))
    own = Shelf()
    return own.load(own.find(words).id).look


@shelf.command()
@click.argument("parcel", type=click.Path(path_type=Path, dir_okay=False))
@YES_OPTION
@JSON_OPTION
@in_a_sentence
def receive(parcel: Path, yes: bool, as_json: bool) -> None:
    """Import a parcel: its look is saved to the Shelf. Nothing in it is run."""
    from ..shelf.parcel import receive as read
    from ..shelf.parcel import take_in
    from ..shelf.shelf import Shelf

    received = read(parcel)
    if not as_json:
        say(received.words())
        for words in received.asks():
            say(words)
        say(
            plural(
                "It colours {count} component; nothing is written before you apply it.",
                "It colours {count} components; nothing is written before you apply it.",
                len(received.components),
            )
        )
    if not may_go_on(tr("Save it to the Shelf?"), yes):
        say(tr("Nothing was saved."))
        return
    kept = take_in(received, Shelf())
    if as_json:
        print_json(
            {
                **kept.as_json(),
                "components": list(received.components),
                "made_with": received.made_with,
                "own": [{"id": one.id, "title": one.title, "paths": list(one.paths)} for one in received.offers],
                "left_out": list(received.refused),
            }
        )
    else:
        say(tr("“{name}” is saved as “{id}”.").format(name=kept.name, id=kept.id))


@shelf.command()
@click.argument("looks", nargs=-1, required=True)
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, dir_okay=False), help=tr("A .png file; .svg for one look.")
)
@click.option("--tall", is_flag=True, help=tr("For phones: 1080x1920 instead of 1600x1000."))
@in_a_sentence
def card(looks: tuple[str, ...], into: Path, tall: bool) -> None:
    """Draw an image that shows a look, or a sheet of several."""
    with drawing("card"):
        from ..ui.shelf.drawn import save_card

        save_card([_look(words) for words in looks], into, "tall" if tall else "wide")
    say(plural("“{into}” shows {count} look.", "“{into}” shows {count} looks.", len(looks), into=into))


@shelf.command()
@click.argument("looks", nargs=-1)
@click.option("--into", required=True, type=click.Path(path_type=Path, dir_okay=False), help=tr("An .html file."))
@in_a_sentence
def page(looks: tuple[str, ...], into: Path) -> None:
    """Export looks, by default the whole Shelf, as one HTML page without network or script."""
    from ..shelf.shelf import Shelf

    own = Shelf()
    chosen = [own.find(words) for words in looks] if looks else own.looks()
    with drawing("page"):
        from ..ui.shelf.drawn import save_page

        save_page([(own.load(kept.id).look, kept.tags) for kept in chosen], into)
    say(plural("“{into}” shows {count} look.", "“{into}” shows {count} looks.", len(chosen), into=into))


COMMANDS = (shelf,)
