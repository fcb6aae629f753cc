"""The same work without a window. Exit codes: 0 done, 1 findings, 2 wrong use or bad input.

One file a family of commands: colours and looks, a home and what is dressed, wearing, themes that exist.
"""

from __future__ import annotations

import inspect
import sys
from pathlib import Path

import click

from .. import __version__
from ..language import tr
from . import colours, doctor, follow, home, rehearsing, shelf, themes, wearing
from .parts import PlainWords, drawing, in_a_sentence, let_go_of_lost_output, speak_any_name


@click.group(
    cls=PlainWords,
    also={
        "apply": "wear",
        "check": "proof",
        "complete": "finish",
        "extract": "gather",
        "tint": "tone",
        "try": "rehearse",
    },
    invoke_without_command=True,
    context_settings={"help_option_names": ["-h", "--help"]},
)
@click.version_option(__version__, prog_name="Mellow Finch")
@click.pass_context
def app(context: click.Context) -> None:
    """One palette from an image for every part of the desktop, readable everywhere, with a way back.

    Without a command the window opens on your own home folder.
    """
    if context.invoked_subcommand is None:
        from ..ui.app import run
        from ..wear.places import own_home

        sys.exit(run(own_home(), alone=False))


for command in (
    *home.COMMANDS,
    *wearing.COMMANDS,
    *rehearsing.COMMANDS,
    *doctor.COMMANDS,
    *colours.COMMANDS,
    *themes.COMMANDS,
    *shelf.COMMANDS,
    *follow.COMMANDS,
):
    app.add_command(command)


@app.command("open")
@click.argument("files", nargs=-1, type=click.Path(path_type=Path, exists=True))
@click.option("--shelf", "action", flag_value="shelf", help=tr("Show the Shelf first."))
@click.option("--choose", "action", flag_value="open_picture", help=tr("Ask for an image first."))
@click.option(
    "--take-off", "--undo", "action", flag_value="take_off", help=tr("Show how to restore the previous state.")
)
@click.option("--own-window", is_flag=True, help=tr("Open a new window even if one is already open."))
@in_a_sentence
def open_(files: tuple[Path, ...], action: str | None, own_window: bool) -> None:
    """Open the window on your own home folder with images, a look, a parcel, a palette or a theme."""
    from ..ui.app import run
    from ..wear.places import own_home

    sys.exit(run(own_home(), *files, action=action or "", alone=own_window))


@app.command(hidden=True)
@click.argument("file", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@click.argument("into", type=click.Path(path_type=Path, dir_okay=False))
@click.option("--size", type=click.IntRange(16, 1024), default=256)
@in_a_sentence
def thumbnail(file: Path, into: Path, size: int) -> None:
    """Draw a thumbnail of a look or a parcel, for file managers."""
    with drawing("thumbnail"):
        from ..ui.shelf.drawn import save_thumbnail

        save_thumbnail(file, into, size)


@app.command()
@click.argument("picture", required=False, type=click.Path(path_type=Path))
@click.option("--fresh", is_flag=True, help=tr("Rebuild the demo home folder."))
@in_a_sentence
def demo(picture: Path | None, fresh: bool) -> None:
    """Open the window on Reedholm's demo home folder, with an image or a look if one is named."""
    from ..demo.build import build_demo_home, demo_pictures
    from ..ui.app import run
    from ..wear.places import demo_folder

    home = build_demo_home(demo_folder(), fresh)
    sys.exit(run(home, picture or next(iter(demo_pictures(home)), None)))


def _spoken(command: click.Command) -> None:
    """Put what a command and those below it say of themselves into the language in force."""
    command.help = tr(inspect.cleandoc(command.help)) if command.help else None
    for below in command.commands.values() if isinstance(command, click.Group) else ():
        _spoken(below)


_spoken(app)


def main() -> None:
    """Run the command line."""
    speak_any_name()
    try:
        app(prog_name="mellow-finch")
    finally:
        let_go_of_lost_output()
