"""The commands that look at what a home has and what would be written: components, dress, proof."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from ..errors import ParseError
from ..language import parted, plural, titled, tone_word, tr
from .parts import JSON_OPTION, YES_OPTION, check_into, drawing, home_options, in_a_sentence, print_json, say

if TYPE_CHECKING:
    from ..look.model import Look
    from ..proof.report import Report
    from ..wear.history import History


def history_of(home: Path, who: str) -> History:
    from ..wear.history import History
    from ..wear.places import history_folder

    return History(history_folder(home), who=tr("The command “{who}”").format(who=who))


@click.command()
@in_a_sentence
@home_options
@JSON_OPTION
def components(home: Path, as_json: bool) -> None:
    """List the components, and whether a home folder has them."""
    from ..components.catalogue import COMPONENTS
    from ..wear.plan import own_files
    from ..wear.present import presence_in

    history = history_of(home, "components")
    there = presence_in(home, own_files(home, history), history)
    found = [(c, there[c.id]) for c in COMPONENTS]
    if as_json:
        rows = [
            {"id": c.id, "title": c.title, "kind": c.kind, "here": p.here, "why": p.why, "effect": c.effect}
            for c, p in found
        ]
        print_json({"components": rows})
        return
    for component, presence in found:
        say(f"{'+' if presence.here else ' '} {component.id:16} {titled(component.title, presence.why)}")


def known_components(names: tuple[str, ...]) -> frozenset[str]:
    from ..components.catalogue import COMPONENT_BY_ID

    unknown = [c for c in names if c not in COMPONENT_BY_ID]
    if unknown:
        raise ParseError(
            tr("There is no component “{unknown}”.").format(unknown=unknown[0]),
            hint=tr("Known are {names}.").format(names=parted(COMPONENT_BY_ID)),
        )
    return frozenset(names)


@click.command()
@in_a_sentence
@click.argument("look", type=click.Path(path_type=Path))
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, file_okay=False), help=tr("The folder to write into.")
)
@click.option("--only", multiple=True, help=tr("A component; can be repeated."))
@click.option(
    "--for-all", "everyone", is_flag=True, help=tr("For every user: a folder with scripts for an administrator to run.")
)
@home_options
@YES_OPTION
def dress(look: Path, into: Path, only: tuple[str, ...], everyone: bool, home: Path, yes: bool) -> None:
    """Write every component's files into a folder laid out like a home folder; change nothing else."""
    from ..disk.below import Below
    from ..look.carry import load_look, look_text
    from ..look.dressed import dress as dress_look
    from ..look.dressed import every_component
    from ..look.file import SUFFIX
    from ..wear.plan import own_files

    chosen = known_components(only)
    check_into(into, yes)
    loaded = load_look(look)
    if everyone:
        _dress_for_all(loaded, into)
        return
    files = own_files(home, history_of(home, "dress"))
    dressed = dress_look(loaded, files, chosen or every_component(loaded))
    below = Below(into)
    below.write(f"{loaded.folder}{SUFFIX}", look_text(loaded, into).encode("utf-8"))
    for output in dressed.outputs:
        below.write(output.path, output.data)
        say(titled(parted(output.components), output.path))


def _dress_for_all(look: Look, into: Path) -> None:
    """Write what an administrator may run for every user of a computer."""
    from ..disk.below import Below
    from ..shelf.for_all import for_all_users

    below = Below(into)
    for file in for_all_users(look):
        below.write(file.path, file.data)
        if file.path.endswith(".sh"):
            (into / file.path).chmod(0o755)
        say(file.path)
    say(
        tr("Nothing was installed. Read README.txt and both scripts in “{folder}”, then run apply.sh.").format(
            folder=into
        )
    )


@click.command()
@in_a_sentence
@click.argument("look", type=click.Path(path_type=Path))
@home_options
@JSON_OPTION
def proof(look: Path, home: Path, as_json: bool) -> int:
    """Check every pair of a look, or of a folder of coloured files; exit code 1 if one has insufficient contrast."""
    from ..components.files import FolderFiles
    from ..components.judge import Behind
    from ..look.carry import load_look
    from ..look.dressed import as_it_is, every_component
    from ..look.dressed import dress as dress_look
    from ..look.edits import with_tone
    from ..look.file import SUFFIX
    from ..palette.recipe import TONES
    from ..picture.backdrop import PLAIN
    from ..proof.proof import Finding, findings, prove
    from ..wear.plan import own_files

    rows: list[Finding] = []
    if look.is_dir():
        beside = [load_look(p) for p in sorted(look.glob(f"*{SUFFIX}"))]
        behind, tone = (
            (Behind.of(beside[0].scheme()), beside[0].tone) if len(beside) == 1 else (Behind(PLAIN), "as found")
        )
        rows += findings(as_it_is(FolderFiles(look)), behind, tone)
    else:
        loaded = load_look(look)
        files = own_files(home, history_of(home, "proof"))
        for tone in TONES:
            rows += prove(dress_look(with_tone(loaded, tone), files, every_component(loaded)))
    rows.sort(key=lambda f: f.shortfall)
    short = [f for f in rows if not f.passes]
    if as_json:
        print_json({"pairs": [_pair_as_json(f) for f in rows], "failing": len(short)})
    else:
        for f in short:
            say(
                tr("{ratio:5.2f} of {need:g}  {component}: {words} ({tone})").format(
                    ratio=f.ratio, need=f.need.level, component=f.component, words=f.words, tone=tone_word(f.tone)
                )
            )
        say(
            plural(
                "{short} of {count} pair has insufficient contrast.",
                "{short} of {count} pairs have insufficient contrast.",
                len(rows),
                short=len(short),
            )
            if short
            else plural("The one pair has enough contrast.", "All {count} pairs have enough contrast.", len(rows))
        )
    return 1 if short else 0


@click.command()
@in_a_sentence
@click.argument("look", type=click.Path(path_type=Path))
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, dir_okay=False), help=tr("FILE.html or FILE.pdf.")
)
@home_options
def report(look: Path, into: Path, home: Path) -> None:
    """Save a contrast report to share: every pair of a look, or of a folder of coloured files, as HTML or PDF."""
    from ..disk.write import save
    from ..proof.report import as_html

    if into.suffix.lower() not in (".html", ".pdf"):
        raise ParseError(
            tr("“{name}” is neither HTML nor PDF.").format(name=into.name),
            hint=tr("Name a file that ends in .html or .pdf."),
        )
    made = _report(look, home)
    page = as_html(made)
    if into.suffix.lower() == ".html":
        save(into, page.encode("utf-8"))
    else:
        with drawing("report"):
            from ..ui.kit.printing import pdf_of

            save(into, pdf_of(page))
    short = len(made.short)
    say(
        plural(
            "“{into}”: {count} pair, {words}.",
            "“{into}”: {count} pairs, {words}.",
            len(made.findings),
            into=into,
            words=plural("{count} with insufficient contrast", "{count} with insufficient contrast", short)
            if short
            else tr("all with enough contrast"),
        )
    )


def _report(look: Path, home: Path) -> Report:
    from ..components.files import FolderFiles
    from ..look.carry import load_look
    from ..proof.report import report_of_folder, report_of_look
    from ..wear.plan import own_files

    if look.is_dir():
        return report_of_folder(look.resolve().name, FolderFiles(look))
    return report_of_look(load_look(look), own_files(home, history_of(home, "report")))


def _list_own(as_json: bool) -> None:
    """Print a person's own components, those that are not used with the reason."""
    from ..components.catalogue import own_rows

    rows: list[dict[str, Any]] = [
        {
            "file": row.file,
            "id": row.component.id if row.component is not None else "",
            "title": row.component.title if row.component is not None else "",
            "paths": list(row.component.places) if row.component is not None else [],
            "used": not row.why,
            "why": row.why,
        }
        for row in own_rows()
    ]
    if as_json:
        print_json({"definitions": rows})
        return
    for row in rows:
        say(titled(row["file"], row["why"] or parted(str(p) for p in row["paths"])))
    if not rows:
        say(tr("You have no components of your own."))


def _remove_own(name: str) -> None:
    """Remove a definition by its component's id or its file's name."""
    from ..components.catalogue import read_anew
    from ..components.define.guarded import file_of
    from ..components.define.own import remove

    if not remove(file_of(name) or (name if name.endswith(".toml") else f"{name}.toml")):
        raise ParseError(
            tr("There is no definition “{name}”.").format(name=name), hint=tr("“define --list” names them.")
        )
    read_anew()
    say(tr("“{name}” is removed; its program's file stays as it is.").format(name=name))


def _pair_as_json(finding: object) -> dict[str, object]:
    from ..colour.measures import FURTHER
    from ..proof.proof import Finding

    assert isinstance(finding, Finding)
    f = finding
    return {
        "tone": f.tone,
        "component": f.component,
        "part": f.part.id,
        "state": f.part.state,
        "text": f.text.hex,
        "surface": f.surface.hex,
        "ratio": round(f.ratio, 3),
        "need": f.need.level,
        "passes": f.passes,
        **{m.id: round(m.of(f.text.opaque, f.surface.opaque), 1) for m in FURTHER},
    }


@click.command()
@in_a_sentence
@click.argument("file", required=False, type=click.Path(path_type=Path, dir_okay=False))
@click.option("--name", default="", help=tr("The program's name."))
@click.option("--kind", default="Terminal programs", show_default=True, help=tr("The kind it is listed under."))
@click.option(
    "--role", "roles", multiple=True, metavar="PLACE=ROLE", help=tr("Another role for an occurrence; can be repeated.")
)
@click.option("--look-only", is_flag=True, help=tr("Only list the colours that were found."))
@click.option("--list", "listing", is_flag=True, help=tr("List your own components, and those that do not work."))
@click.option("--remove", "removed", metavar="ID", help=tr("Remove one of them; the program's file stays as it is."))
@home_options
@JSON_OPTION
def define(
    file: Path | None,
    name: str,
    kind: str,
    roles: tuple[str, ...],
    look_only: bool,
    listing: bool,
    removed: str | None,
    home: Path,
    as_json: bool,
) -> None:
    """Make your own component from a program's file: its colours are mapped to roles."""
    if listing:
        _list_own(as_json)
        return
    if removed is not None:
        _remove_own(removed)
        return
    if file is None or not name:
        raise ParseError(tr("A file and a name are required."), hint=tr("define FILE --name NAME, or define --list."))
    from ..components.define.kinds import KINDS
    from ..components.define.own import definition_of, keep, propose

    if kind not in KINDS:
        raise ParseError(
            tr("There is no kind “{kind}”.").format(kind=kind),
            hint=tr("Known are {names}.").format(names=parted(KINDS)),
        )
    found = propose(home, file)
    chosen = dict(row.rpartition("=")[::2] for row in roles)
    strange = sorted(set(chosen) - {row.place for row in found.rows})
    if strange:
        raise ParseError(
            tr("There is no colour at “{strange}” in “{name}”.").format(strange=strange[0], name=file.name)
        )
    text = definition_of(found, name, kind, chosen)
    place = None if look_only else keep(text)
    rows = [{"place": r.place, "colour": r.colour.hex, "role": chosen.get(r.place, r.role)} for r in found.rows]
    if as_json:
        missed = [{"line": line, "words": words} for line, words in found.missed]
        kept = place and str(place)
        print_json(
            {"file": found.path, "format": found.format.id, "places": rows, "not_understood": missed, "kept": kept}
        )
        return
    for row in rows:
        say(f"{row['colour']}  {titled(row['place'], row['role'])}")
    for line, words in found.missed:
        say(tr("line {line}: {words} is not understood and stays as it is").format(line=line, words=words))
    if place is not None:
        say(tr("“{name}” is now a component: “{place}”.").format(name=name, place=place))


COMMANDS = (components, dress, proof, report, define)
