"""Commands about colours: out of pictures, schemes, palettes and themes, into palettes and pictures."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from ..errors import FileAccessError, ParseError
from ..language import as_sentence, comma_separated, plural, titled, tone_word, tr
from .parts import JSON_OPTION, in_a_sentence, print_json, say

if TYPE_CHECKING:
    from ..look.model import Look

_MODES = ["fill", "fit", "stretch", "tile", "centre"]


@click.command()
@click.argument("pictures", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--swatches", default=8, show_default=True, type=click.IntRange(1, 64), help=tr("Number of colours."))
@JSON_OPTION
@in_a_sentence
def gather(pictures: tuple[Path, ...], swatches: int, as_json: bool) -> None:
    """Show the colours of one or several images, with their shares."""
    from ..picture.fit import in_common
    from ..picture.gather import gather_loaded
    from ..picture.load import load_picture
    from ..picture.swatches import swatches_of

    loaded = [load_picture(p) for p in pictures]
    found = gather_loaded(loaded, swatches)
    shared = in_common([swatches_of(p, 24) for p in loaded]) if len(loaded) > 1 else 1.0
    if as_json:
        rows = [{"colour": s.colour.hex, "share": round(s.share, 6), "at": [round(v, 4) for v in s.at]} for s in found]
        print_json({"swatches": rows, "in_common": round(shared, 4)})
        return
    if len(loaded) > 1:
        say(tr("The images have {shared:.0%} of their area in common.").format(shared=shared))
    for s in found:
        say(
            "  ".join(
                [
                    tr("{hex}  {share:7.2%}  x {x:.2f}  y {y:.2f}").format(
                        hex=s.colour.hex, share=s.share, x=s.at[0], y=s.at[1]
                    ),
                    *([tr("(small and vivid)")] if s.vivid else []),
                ]
            )
        )


@click.command()
@click.argument("source", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option(
    "--tone",
    type=click.Choice(["dark", "light"]),
    help=tr("Dark or light variant; dark unless the source says otherwise."),
)
@click.option("--accent", help=tr("The accent colour to start from: hex, rgb(), hsl(), oklch() or a colour name."))
@click.option("--contrast", type=click.Choice(["4.5", "7"]), help=tr("The contrast ratio required of text."))
@click.option("--screen", metavar="WxH", help=tr("The screen size, for what lies behind translucent surfaces."))
@click.option("--placement", type=click.Choice(_MODES), help=tr("How the wallpaper is placed on the screen."))
@click.option(
    "--as-given", is_flag=True, help=tr("Keep the colours of a palette file as they are, even unreadable ones.")
)
@click.option("--name", help=tr("The look's name; by default that of the image."))
@click.option(
    "--along",
    multiple=True,
    metavar="NAME=VALUE",
    help=tr('Options beside colours, such as radius=8 or font="Marsh Hand 11"; rofi/radius=0 for one component.'),
)
@click.option(
    "--emblem",
    "--image",
    multiple=True,
    metavar="NAME=FILE|ROLE",
    help=tr("Replace an image of a component, such as widget/logo.png, by another file or a role's colour."),
)
@click.option("--save", type=click.Path(path_type=Path, dir_okay=False), help=tr("Save the look to a file."))
@JSON_OPTION
@in_a_sentence
def derive(
    source: tuple[Path, ...],
    tone: str | None,
    accent: str | None,
    contrast: str | None,
    screen: str | None,
    placement: str | None,
    as_given: bool,
    name: str | None,
    along: tuple[str, ...],
    emblem: tuple[str, ...],
    save: Path | None,
    as_json: bool,
) -> None:
    """Derive a look from images, a scheme, a palette file or a theme, or read one, and show its roles and pairs."""
    from dataclasses import replace

    from ..look.carry import save_look
    from ..look.edits import with_temper
    from ..palette.pairs import judge

    look = _look_of(source, tone, accent, _placement(screen, placement), as_given)
    if contrast:
        look = with_temper(look, replace(look.temper, text_need=float(contrast)))
    if name:
        look = replace(look, name=name)
    look = _with_more(look, along, emblem)
    if save is not None:
        save_look(look, save)
    pairs = [
        {
            "tone": t,
            "text": j.pair.text,
            "surface": j.pair.surface,
            "ratio": round(j.ratio, 3),
            "need": j.pair.need.level,
            "passes": j.passes,
        }
        for t in ("dark", "light")
        for j in judge(look.palettes[t], look.pairs)
    ]
    if as_json:
        tones = {t: {"roles": {r: c.hex for r, c in p.items()}} for t, p in look.palettes.items()}
        print_json({"name": look.name, "tones": tones, "pairs": pairs, "along": _along(look)})
        return
    say(comma_separated((look.name, tone_word(look.tone))))
    for role, colour in look.colours.items():
        say(f"  {colour.hex}  {role}")
    short = sum(not p["passes"] for p in pairs)
    say(
        plural(
            "{count} pair, {short} with insufficient contrast",
            "{count} pairs, {short} with insufficient contrast",
            len(pairs),
            short=short,
        )
        if short
        else plural("The one pair has enough contrast.", "All {count} pairs have enough contrast.", len(pairs))
    )


def _along(look: Look) -> dict[str, str]:
    """Return what goes along with a look, that of single components behind their ids."""
    own = {f"{o.name}/{id_}": v for o, one in look.decisions.items() for id_, v in one.companions.items()}
    return {**look.companions, **own}


def _with_more(look: Look, along: tuple[str, ...], emblems: tuple[str, ...]) -> Look:
    """Return a look with what goes along and with pictures of components, as NAME=VALUE. Raises ParseError."""
    from ..components.decisions import Emblem
    from ..components.write.emblems import fits
    from ..look.decision_edits import with_companion, with_emblem
    from ..palette.roles import ROLE_IDS

    for words in along:
        key, _, value = words.partition("=")
        component, slash, id_ = key.rpartition("/")
        try:
            if slash and not component:
                raise ValueError(key)
            look = with_companion(look, id_, value, component)
        except ValueError as error:
            raise ParseError(tr("“{words}” is not an option of a look.").format(words=words)) from error
    for words in emblems:
        key, _, value = words.partition("=")
        role = value if value in ROLE_IDS else ""
        component, _, picture = key.partition("/")
        if not component or not fits(picture, role, frozenset(ROLE_IDS)) or not (role or Path(value).is_file()):
            raise ParseError(
                tr("“{words}” does not name an image of a component and its replacement.").format(words=words)
            )
        look = with_emblem(look, component, picture, Emblem("" if role else str(Path(value).resolve()), role))
    return look


def _is_look(path: Path) -> bool:
    """Tell whether a JSON file is a saved look rather than design tokens."""
    from ..disk.facts import first_bytes
    from ..look.file import KIND

    try:
        return path.suffix == ".json" and KIND.encode() in first_bytes(path, 400)
    except FileAccessError:
        return False


def _typed(text: str) -> Any:
    from ..syntax.typed import read_typed

    try:
        return read_typed(text)
    except ValueError as error:
        raise ParseError(as_sentence(str(error))) from error


def _placement(screen: str | None, mode: str | None) -> Any:
    from ..picture.placement import Placement

    plain = Placement()
    width, height = plain.width, plain.height
    if screen:
        parts = screen.lower().replace("×", "x").split("x")
        if len(parts) != 2 or not all(p.isascii() and p.isdigit() and 64 <= int(p) <= 32768 for p in parts):
            raise ParseError(
                tr("“{screen}” is not a screen size.").format(screen=screen), hint=tr("Give it as 1920x1080.")
            )
        width, height = int(parts[0]), int(parts[1])
    return Placement(mode or plain.mode, width, height)  # type: ignore[arg-type]


def _look_of(source: tuple[Path, ...], tone: str | None, accent: str | None, placement: Any, as_given: bool) -> Any:
    """Return the look of a look's file, a scheme's name, a theme's folder, a palette file, or pictures."""
    from ..look.carry import load_look
    from ..look.edits import with_accent, with_tone
    from ..look.file import SUFFIX
    from ..look.from_colours import look_of_list
    from ..look.from_theme import look_of_theme
    from ..look.gather import look_of_pictures
    from ..look.interchange.catalogue import holds_palette, read_palette
    from ..look.ready import ready_scheme

    first = source[0]
    colour = _typed(accent) if accent else None
    scheme = ready_scheme(str(first)) if len(source) == 1 and not first.exists() else None
    if scheme is not None:
        look = scheme.look()
    elif first.suffix == SUFFIX or _is_look(first):
        look = load_look(first)
    elif first.is_dir():
        look = look_of_theme(first)
    elif len(source) == 1 and holds_palette(first):
        found = read_palette(first)
        for problem in found.problems:
            click.echo(f"mellow-finch: {first.name}, line {problem.line}: {problem.message}", err=True)
        look = look_of_list(found, tone or "dark", as_given=as_given)  # type: ignore[arg-type]
    else:
        return look_of_pictures(source, tone or "dark", colour, placement=placement)  # type: ignore[arg-type]
    look = with_tone(look, tone) if tone else look  # type: ignore[arg-type]
    return with_accent(look, colour) if colour is not None else look


@click.command()
@JSON_OPTION
@in_a_sentence
def schemes(as_json: bool) -> None:
    """List the built-in schemes; `derive` takes their names."""
    from ..look.ready import READY

    if as_json:
        rows = [
            {"id": s.id, "title": s.title, "note": s.note, "tone": s.tone, "colours": [c.hex for c in s.colours]}
            for s in READY
        ]
        print_json({"schemes": rows})
        return
    for s in READY:
        say(f"{s.id:13} {s.tone:6} {' '.join(c.hex for c in s.colours)}  {titled(s.title, s.note)}")


@click.command()
@click.argument("look", type=click.Path(path_type=Path))
@click.argument("target", type=click.Path(path_type=Path, dir_okay=False))
@click.option("--as", "form", default="", help=tr("The format, if the file name extension does not tell it."))
@click.option("--tone", type=click.Choice(["dark", "light"]), help=tr("Which variant; by default the current one."))
@in_a_sentence
def export(look: Path, target: Path, form: str, tone: str | None) -> None:
    """Export a look's palette in the format of another program."""
    from ..disk.write import save
    from ..look.carry import load_look
    from ..look.edits import with_tone
    from ..look.interchange.catalogue import export_bytes

    loaded = load_look(look)
    save(target, export_bytes(with_tone(loaded, tone) if tone else loaded, target, form))  # type: ignore[arg-type]


@click.command()
@click.argument("look", type=click.Path(path_type=Path))
@click.argument("folder", type=click.Path(path_type=Path))
@JSON_OPTION
@in_a_sentence
def match(look: Path, folder: Path, as_json: bool) -> None:
    """Rank the images of a folder by how well they go with a look, best first."""
    from ..look.carry import load_look
    from ..picture.rank import PictureCache, pictures_in, rank
    from ..progress import Silent
    from ..wear.places import cache_folder

    rows = rank(pictures_in(folder), load_look(look).colours, Silent(), PictureCache(cache_folder()))
    if as_json:
        print_json({"pictures": [{"path": str(r.path), "fit": round(r.fit, 2), "problem": r.problem} for r in rows]})
        return
    for r in rows:
        say(f"{r.fit:5.1f}  {r.path}" if r.seen is not None else f"    -  {r.problem}")


@click.command()
@click.argument("picture", type=click.Path(path_type=Path))
@click.argument("look", type=click.Path(path_type=Path))
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, dir_okay=False), help=tr("The image file to write.")
)
@click.option("--strength", default=0.6, show_default=True, type=click.FloatRange(0, 1), help=tr("Strength, 0 to 1."))
@in_a_sentence
def tone(picture: Path, look: Path, into: Path, strength: float) -> None:
    """Tint an image toward a look, as a new file; the original is never overwritten."""
    from ..disk.write import save
    from ..look.carry import load_look
    from ..picture.toning import toned_file
    from ..progress import Silent

    save(into, toned_file(picture, into, load_look(look).colours, strength, Silent()))


COMMANDS = (gather, derive, schemes, export, match, tone)
