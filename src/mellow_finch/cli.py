"""The same work without a window. Exit codes: 0 done, 1 findings, 2 wrong use or bad input.

Here are the commands that have to do with a home's files; those about colours are in cli_colours, those about
themes that exist already in cli_themes.
"""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Any

import click

from . import __version__, cli_colours, cli_themes
from .cli_parts import JSON_OPTION, in_a_sentence, print_json
from .errors import ParseError

_HOME = click.option(
    "--home", type=click.Path(path_type=Path, file_okay=False), help="The home folder; the demo home when not given."
)


@click.group(invoke_without_command=True, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="Mellow Finch")
@click.pass_context
def app(context: click.Context) -> None:
    """One palette from a picture, every part of the desktop dressed in it, all of it readable, and a way back."""
    if context.invoked_subcommand is None:
        from .ui.app import run

        sys.exit(run())


for command in (*cli_colours.COMMANDS, *cli_themes.COMMANDS):
    app.add_command(command)


def _home_files(home: Path | None) -> Any:
    from .demo.build import build_demo_home
    from .session.xdg import home_files
    from .wear.history import History, OriginalFiles
    from .wear.places import demo_folder, history_folder

    folder = home if home is not None else build_demo_home(demo_folder())
    if not folder.is_dir():
        raise ParseError(f"“{folder}” is not a folder.", hint="Give a home folder that exists.")
    return folder, OriginalFiles(home_files(folder), History(history_folder(folder)))


@app.command()
@_HOME
@JSON_OPTION
@in_a_sentence
def components(home: Path | None, as_json: bool) -> None:
    """List what can be dressed, and whether a home has it."""
    from .components.catalogue import COMPONENTS
    from .components.presence import presence_of
    from .session.programs import programs_of

    folder, files = _home_files(home)
    has = programs_of(folder)
    found = [(c, presence_of(c, files, has)) for c in COMPONENTS]
    if as_json:
        rows = [
            {"id": c.id, "title": c.title, "kind": c.kind, "here": p.here, "why": p.why, "effect": c.effect}
            for c, p in found
        ]
        print_json({"components": rows})
        return
    for component, presence in found:
        click.echo(f"{'+' if presence.here else ' '} {component.id:16} {component.title}: {presence.why}.")


@app.command()
@click.argument("look", type=click.Path(path_type=Path))
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, file_okay=False), help="The folder to write into."
)
@click.option("--only", multiple=True, help="A component; may be given several times.")
@_HOME
@in_a_sentence
def dress(look: Path, into: Path, only: tuple[str, ...], home: Path | None) -> None:
    """Write every component's files into a folder laid out like a home; touch nothing else."""
    from .components.catalogue import COMPONENT_BY_ID
    from .look.dressed import dress as dress_look
    from .look.dressed import every_component
    from .look.file import SUFFIX, load_look, look_to_json
    from .wear.disk import save

    unknown = [c for c in only if c not in COMPONENT_BY_ID]
    if unknown:
        raise ParseError(f"There is no component “{unknown[0]}”.", hint=f"Known are {', '.join(COMPONENT_BY_ID)}.")
    loaded = load_look(look)
    dressed = dress_look(loaded, _home_files(home)[1], frozenset(only) or every_component(loaded))
    save(into / f"{loaded.folder}{SUFFIX}", look_to_json(loaded).encode("utf-8"))
    for component, files in dressed.files.items():
        for file in files:
            save(into / file.path, file.data)
            click.echo(f"{component}: {file.path}")


@app.command()
@click.argument("look", type=click.Path(path_type=Path))
@_HOME
@JSON_OPTION
@in_a_sentence
def proof(look: Path, home: Path | None, as_json: bool) -> None:
    """Judge every pair of a look, or of a folder of dressed files; exit code 1 when one falls short."""
    from .components.judge import Behind
    from .components.model import FolderFiles
    from .look.dressed import as_it_is, every_component
    from .look.dressed import dress as dress_look
    from .look.edits import with_tone
    from .look.file import SUFFIX, load_look
    from .palette.recipe import TONES
    from .picture.backdrop import PLAIN
    from .proof.proof import Finding, findings, prove

    rows: list[Finding] = []
    if look.is_dir():
        beside = [load_look(p) for p in sorted(look.glob(f"*{SUFFIX}"))]
        behind, tone = (
            (Behind.of(beside[0].scheme()), beside[0].tone) if len(beside) == 1 else (Behind(PLAIN), "as found")
        )
        rows += findings(as_it_is(FolderFiles(look)), behind, tone)
    else:
        loaded = load_look(look)
        files = _home_files(home)[1]
        for tone in TONES:
            rows += prove(dress_look(with_tone(loaded, tone), files, every_component(loaded)))
    rows.sort(key=lambda f: f.shortfall)
    short = [f for f in rows if not f.passes]
    if as_json:
        print_json(
            {
                "pairs": [
                    {
                        "tone": f.tone,
                        "component": f.component,
                        "part": f.part.id,
                        "state": f.part.state,
                        "text": f.text.hex,
                        "surface": f.surface.hex,
                        "ratio": round(f.ratio, 3),
                        "need": f.need,
                        "passes": f.passes,
                    }
                    for f in rows
                ],
                "failing": len(short),
            }
        )
    else:
        for f in short:
            click.echo(f"{f.ratio:5.2f} of {f.need:g}  {f.component}: {f.words} ({f.tone})")
        click.echo(f"{len(short)} of {len(rows)} pairs fall short." if short else f"All {len(rows)} pairs can be read.")
    if short:
        sys.exit(1)


@app.command()
@click.argument("look", type=click.Path(path_type=Path))
@_HOME
@click.option("--dry-run", is_flag=True, help="Only list what would be done.")
@JSON_OPTION
@in_a_sentence
def wear(look: Path, home: Path | None, dry_run: bool, as_json: bool) -> None:
    """Put a look on a home: snapshot first, then every file."""
    from .components.presence import present_in
    from .look.dressed import dress as dress_look
    from .look.file import load_look
    from .session.programs import programs_of
    from .session.real import session_for
    from .session.simulated import SimulatedSession
    from .wear.history import History
    from .wear.places import history_folder
    from .wear.wear import make_plan, put_on

    folder, files = _home_files(home)
    present = present_in(files, programs_of(folder))
    plan = make_plan(dress_look(load_look(look), files, present=present), folder)
    snapshot = (
        None if dry_run else put_on(plan, History(history_folder(folder)), session_for(folder) or SimulatedSession())
    )
    if as_json:
        print_json(
            {
                "writes": [{"path": w.path, "action": w.action, "component": w.component} for w in plan.writes],
                "restart": list(plan.restart),
                "snapshot": snapshot.id if snapshot else None,
            }
        )
        return
    for w in plan.writes:
        click.echo(f"{w.action:6}  {w.path}")
    for sentence in plan.restart:
        click.echo(f"- {sentence}")
    if dry_run:
        click.echo(f"{len(plan.writes)} files would be written, {plan.same} are right already.")
    else:
        click.echo(
            f"{len(plan.writes)} files written; “mellow-finch undo” gives the old ones back."
            if snapshot
            else "Nothing had to change."
        )


@app.command()
@_HOME
@click.option("--overwrite", multiple=True, help="A file that was edited since, whose edits may be lost.")
@in_a_sentence
def undo(home: Path | None, overwrite: tuple[str, ...]) -> None:
    """Take the look off that was put on last: the exact old files come back."""
    from .session.real import session_for
    from .session.simulated import SimulatedSession
    from .wear.history import History
    from .wear.places import history_folder
    from .wear.wear import undo_last

    folder, _ = _home_files(home)
    done = undo_last(History(history_folder(folder)), session_for(folder) or SimulatedSession(), overwrite)
    click.echo(f"“{done.look}” was taken off; {len(done.entries)} files are as they were.")


@app.command()
@click.argument("picture", required=False, type=click.Path(path_type=Path))
@click.option("--fresh", is_flag=True, help="Build the demo home anew.")
@in_a_sentence
def demo(picture: Path | None, fresh: bool) -> None:
    """Open the window on the made-up home of Reedholm, with a picture or a look if one is named."""
    from .demo.build import build_demo_home
    from .ui.app import run
    from .wear.places import demo_folder

    sys.exit(run(build_demo_home(demo_folder(), fresh), picture))


def main() -> None:
    """Run the command line."""
    app()


if __name__ == "__main__":
    main()
