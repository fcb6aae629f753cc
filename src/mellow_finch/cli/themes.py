"""The commands about themes, configurations and archives that exist already."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from ..colour.rgb import Rgba, parse_hex
from ..errors import ParseError
from ..language import comma_separated, parted, plural, standing, titled, tr
from .parts import JSON_OPTION, YES_OPTION, check_into, in_a_sentence, print_json, say

if TYPE_CHECKING:
    from ..components.model import Scheme
    from ..theme.bundle.model import Theme
    from ..theme.result.account import Choices, Outcome


def _pairs(rows: tuple[str, ...], option: str, last: bool = False) -> dict[str, str]:
    """Return what options of the form OLD=NEW say, parted at the first “=”, or at the last."""
    for row in rows:
        if "=" not in row:
            shown = f"{option} {row}".strip()
            raise ParseError(
                tr("“{shown}” has no “=” in it.").format(shown=shown),
                hint=tr("Write {example}.").format(example=f"{option} OLD=NEW".strip()),
            )
    parted = [row.rpartition("=") if last else row.partition("=") for row in rows]
    return {old: new for old, _, new in parted}


@click.command()
@click.argument("path", type=click.Path(path_type=Path))
@click.argument("look", type=click.Path(path_type=Path))
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, file_okay=False), help=tr("The folder to write into.")
)
@click.option("--name", default="", help=tr("The new theme's name; by default made of the old name and the look's."))
@click.option(
    "--group",
    "groups",
    multiple=True,
    metavar="KEY=ROLE",
    help=tr("Map a group of colours to a role, a colour as #rrggbb, or “keep”."),
)
@click.option("--split", "splits", multiple=True, metavar="KEY", help=tr("Split a group."))
@click.option("--only", multiple=True, metavar="NAME", help=tr("Which themes to take from an archive with several."))
@click.option("--replace", "words", multiple=True, metavar="OLD=NEW", help=tr("Replace a name from another computer."))
@click.option(
    "--mine", is_flag=True, help=tr("Replace every name from another computer that has a counterpart on this one.")
)
@click.option(
    "--no-mend",
    "--no-fix",
    is_flag=True,
    help=tr("Replace the colour values exactly as the look says, readable or not."),
)
@click.option(
    "--ask-toolkit",
    "--check-toolkit",
    is_flag=True,
    help=tr("Have the real toolkit paint it before and after, measure that, and fix what is left."),
)
@YES_OPTION
@JSON_OPTION
@in_a_sentence
def recolour(
    path: Path,
    look: Path,
    into: Path,
    name: str,
    groups: tuple[str, ...],
    splits: tuple[str, ...],
    only: tuple[str, ...],
    words: tuple[str, ...],
    mine: bool,
    no_mend: bool,
    ask_toolkit: bool,
    yes: bool,
    as_json: bool,
) -> None:
    """Recolour an existing theme, file or archive, and report what was replaced and how often."""
    from ..components.decisions import Decisions
    from ..look.carry import load_look
    from ..palette.roles import ROLE_BY_ID
    from ..recolour.groups import KEEP, is_free
    from ..theme.bundle.foreign import foreign_words, suggested, this_machine
    from ..theme.bundle.kinds import counted
    from ..theme.result.account import Choices
    from ..theme.result.recolour import recolour_theme
    from ..wear.themes import lay_down

    check_into(into, yes)
    chosen = _pairs(groups, "--group", last=True)
    unknown = next((r for r in chosen.values() if r not in ROLE_BY_ID and r != KEEP and not is_free(r)), None)
    if unknown is not None:
        raise ParseError(
            tr("There is no role “{unknown}”.").format(unknown=unknown),
            hint=tr("“mellow-finch derive” lists the roles."),
        )
    theme = _read(path, splits, only)
    found = foreign_words(theme, this_machine())
    replaced = (suggested(found) if mine else {}) | _pairs(words, "--replace")
    if "/" in name or name in (".", ".."):
        raise ParseError(
            tr("“{name}” cannot be the name of a theme.").format(name=name), hint=tr("It becomes the name of a folder.")
        )
    scheme = load_look(look).scheme()
    scheme = replace(scheme, mend=False) if no_mend else scheme
    decided = Decisions.spelled(chosen)
    choices = Choices(decided, replaced, name)
    result = recolour_theme(theme, scheme, choices)
    painted = None
    if ask_toolkit:
        result, painted = _painted(theme, scheme, choices, result)
    lay_down(result.outputs, into, theme.bundle.sources(path))
    if as_json:
        print_json(
            {
                "toolkit": painted,
                "files": [f._asdict() for f in result.files],
                "groups": [{**g.as_json(), "key": g.key} for g in result.groups],
                "kinds": [{"kind": kind, "count": count} for kind, count in counted(theme.found)],
                "name": result.name,
                "rules_added": result.rules,
                "inverse": list(result.inverse),
                "pictures": len(result.pictures),
                "failing": [s._asdict() for s in result.short],
                "words": [
                    {"kind": w.kind, "word": w.text, "instead": replaced.get(w.text, ""), "places": len(w.places)}
                    for w in found
                ],
                "notes": list(result.notes),
            }
        )
        return
    for kind, count in counted(theme.found):
        say(f"{kind}{f' ({count})' if count > 1 else ''}")
    for f in result.files:
        say(
            plural(
                "{path}: {replaced} of {count} colour value replaced",
                "{path}: {replaced} of {count} colour values replaced",
                f.literals,
                path=f.path,
                replaced=f.replaced,
            )
        )
    for g in result.groups:
        role = g.role or "kept"
        say(f"  {g.source.hex} -> {g.target.hex}  {role}: {standing(g.places, g.files)}  [{g.key}]")
    if result.pictures:
        say(plural("{count} image redrawn", "{count} images redrawn", len(result.pictures)))
    if result.rules:
        say(
            plural(
                "{count} rule added at the end of its stylesheets, where no colour alone has enough contrast",
                "{count} rules added at the end of its stylesheets, where no colour alone has enough contrast",
                result.rules,
            )
        )
    for s in result.short:
        say(
            tr("{ratio:5.2f} of {need:g}  {sheet}: {part} still has insufficient contrast").format(
                ratio=s.ratio, need=s.need, sheet=s.sheet, part=s.part.removeprefix("=")
            )
        )
    for name in result.inverse:
        if not decided.parts.get(name):
            role = ROLE_BY_ID[name].title
            stays = tr("{role}: the theme's own contrast stays (--group part:{name}={name} lets it follow)")
            say(stays.format(role=role, name=name))
    for w in found:
        say(f"{w.says}{f' -> {replaced[w.text]}' if w.text in replaced else ''}")
    for note in result.notes:
        say(note)
    for when, told in (painted or {}).items():
        say(titled(when, told["summary"]))
        for place in told["short"][:20]:
            say(f"  {place['ratio']:5.2f}  {place['widget']}, {place['state']}: {place['what']}")


def _read(path: Path, splits: tuple[str, ...], only: tuple[str, ...]) -> Theme:
    """Return a theme, of several in an archive those that are named. Raises ParseError for a name that is not there."""
    from ..theme.bundle.model import roots_of
    from ..theme.bundle.opened import open_bundle
    from ..theme.bundle.read import read_theme

    bundle = open_bundle(path)
    theme = read_theme(bundle, splits)
    names = {root: root.rstrip("/").rpartition("/")[2] for root in roots_of(theme.offers)}
    unknown = next((name for name in only if name not in names.values()), None)
    if unknown is not None:
        raise ParseError(
            tr("There is no theme “{unknown}” in it.").format(unknown=unknown),
            hint=tr("It holds {names}.").format(names=parted(names.values() or (bundle.name,))),
        )
    left = [root for root, name in names.items() if name not in only]
    return read_theme(bundle, splits, left=left) if only and left else theme


def _painted(theme: Theme, scheme: Scheme, choices: Choices, result: Outcome) -> tuple[Outcome, dict[str, Any]]:
    """Return the theme mended by what the real toolkit painted, and that, before and after. Raises ToolkitError."""
    from ..proof.toolkit.ask import ask_before, may_be_asked, mend_by_painting

    if not may_be_asked(theme):
        raise ParseError(
            tr("The toolkit cannot check this kind of theme."),
            hint=tr("Only themes for GTK 3 and 4 and styles drawn from SVG can be checked this way."),
        )
    settled = mend_by_painting(theme, scheme, choices, result)
    verdicts = {"before": ask_before(theme, scheme.text_need), "after": settled.verdict}
    told = {
        when: {"summary": v.summary, "places": len(v.places), "short": [p._asdict() for p in v.short]}
        for when, v in verdicts.items()
    }
    return settled.outcome, told


@click.command()
@click.argument("path", type=click.Path(path_type=Path))
@click.argument("colours", nargs=-1, required=True, metavar="OLD=NEW…")
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, file_okay=False), help=tr("The folder to write into.")
)
@click.option("--shades", is_flag=True, help=tr("Let the shades of each colour follow by the same amount."))
@click.option("--leave", "--keep", multiple=True, metavar="COLOUR", help=tr("A shade to keep as it is."))
@YES_OPTION
@JSON_OPTION
@in_a_sentence
def swap(
    path: Path, colours: tuple[str, ...], into: Path, shades: bool, leave: tuple[str, ...], yes: bool, as_json: bool
) -> None:
    """Replace one colour by another everywhere in a theme, a file or an archive, and nothing else. Needs no look."""
    from ..theme.bundle.opened import open_bundle
    from ..theme.bundle.read import read_theme
    from ..theme.result.swap import swapped
    from ..wear.themes import lay_down

    check_into(into, yes)
    pairs = {_colour(old): _colour(new) for old, new in _pairs(colours, "").items()}
    theme = read_theme(open_bundle(path))
    result = swapped(theme, pairs, shades, [_colour(c) for c in leave])
    count = lay_down(result.outputs, into, theme.bundle.sources(path))
    if as_json:
        rows = [r.as_json() for r in result.rows]
        print_json({"swaps": rows, "files": [f._asdict() for f in result.files], "notes": list(result.notes)})
        return
    for row in result.rows:
        facts = [standing(row.places, row.files), tr("a shade")] if row.shade else [standing(row.places, row.files)]
        say(f"{row.source.hex} -> {row.target.hex}  {comma_separated(facts)}")
    say(plural("{count} file written.", "{count} files written.", count))
    for note in result.notes:
        say(note)


def _colour(text: str) -> Rgba:
    try:
        return parse_hex(text)
    except ValueError as error:
        raise ParseError(f"{error}.", hint=tr("Write colours as #rrggbb.")) from error


COMMANDS = (recolour, swap)
