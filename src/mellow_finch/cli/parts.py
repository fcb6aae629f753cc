"""What the commands have in common: how they print, which home they mean, and how they tell what went wrong."""

from __future__ import annotations

import errno
import io
import json
import os
import sys
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager, suppress
from functools import wraps
from pathlib import Path
from typing import Any

import click

from ..errors import FinchError, ParseError, WearError, os_reason, shown
from ..language import parted, tr, with_note

JSON_OPTION = click.option("--json", "as_json", is_flag=True, help=tr("Print stable JSON."))
YES_OPTION = click.option("--yes", is_flag=True, help=tr("Continue without asking."))
_LOST = "mellow_finch.lost"  # where a command's context keeps why its output could not be written


def home_options(function: Callable[..., Any]) -> Callable[..., Any]:
    """Add --home and --demo, and hand the folder they mean to the command as `home`."""

    @click.option(
        "--home",
        "named",
        type=click.Path(path_type=Path, file_okay=False),
        help=tr("The home folder; by default your own."),
    )
    @click.option("--demo", "in_demo", is_flag=True, help=tr("The demo home folder."))
    @wraps(function)
    def with_home(named: Path | None, in_demo: bool, *args: Any, **kwargs: Any) -> Any:
        return function(*args, home=_home(named, in_demo), **kwargs)

    return with_home


def _home(named: Path | None, in_demo: bool) -> Path:
    from ..demo.build import build_demo_home
    from ..wear.places import demo_folder, own_home

    if in_demo and named is not None:
        raise ParseError(tr("--home and --demo name two different home folders."), hint=tr("Give only one of them."))
    folder = named if named is not None else build_demo_home(demo_folder()) if in_demo else own_home()
    if not folder.is_dir():
        raise ParseError(
            tr("“{folder}” is not a folder.").format(folder=folder), hint=tr("Name an existing home folder.")
        )
    return folder


def check_into(into: Path, yes: bool) -> None:
    """Ask before a folder that looks like somebody's home is written into; raises ParseError for a no."""
    from ..wear.themes import looks_like_a_home

    if looks_like_a_home(into) and not may_go_on(
        tr("“{into}” looks like a home folder. Write into it?").format(into=into), yes
    ):
        raise ParseError(tr("Nothing was written."))


def say(text: str) -> None:
    """Print a line; when the output is lost, say no more and let the work go on."""
    lost = click.get_current_context().meta
    if _LOST in lost:
        return
    try:
        click.echo(shown(text))
    except OSError as error:
        lost[_LOST] = error
        _let_go_of_output()


class PlainWords(click.Group):
    """Commands that also answer to the plain word for what they do; `also`: a command's own name by that word."""

    def __init__(self, *args: Any, also: Mapping[str, str], **more: Any) -> None:
        super().__init__(*args, **more)
        self.also = also

    def get_command(self, context: click.Context, name: str) -> click.Command | None:
        """Return a command by its own name or by a plain word."""
        return super().get_command(context, name) or super().get_command(context, self.also.get(name, ""))

    @property
    def further_words(self) -> str:
        """Return which other words are taken, as a sentence."""
        words = parted(with_note(word, name) for word, name in sorted(self.also.items()))
        return tr("Also accepted: {words}.").format(words=words)

    def format_epilog(self, context: click.Context, formatter: click.HelpFormatter) -> None:
        """Write which other words are taken."""
        formatter.write_paragraph()
        formatter.write_text(self.further_words)


def _let_go_of_output() -> None:
    """Let what is still waiting to be written go nowhere, so that ending does not fail over it."""
    try:
        nowhere = os.open(os.devnull, os.O_WRONLY)
        os.dup2(nowhere, sys.stdout.fileno())
        os.close(nowhere)
    except (OSError, io.UnsupportedOperation, AttributeError):
        return


def print_json(data: object) -> None:
    """Print data as JSON that stays the same for the same data."""
    text = json.dumps(data, indent=1, ensure_ascii=False)
    say("".join(c if c.isprintable() or c == "\n" else f"\\u{ord(c):04x}" for c in text))


def may_go_on(question: str, yes: bool) -> bool:
    """Ask whether to go on; raises WearError when there is nobody to ask."""
    if yes:
        return True
    lost = click.get_current_context().meta.get(_LOST)
    if lost is not None or sys.stdin is None or not sys.stdin.isatty():
        raise WearError(
            tr("Nothing was changed: there is nobody to ask here."), tr("Add --yes to continue without asking.")
        )
    return click.confirm(question, err=True)


def _complain(line: str) -> None:
    try:
        click.echo(f"mellow-finch: {shown(line)}", err=True)
    except OSError:
        return  # there is nowhere left to say it


def in_a_sentence(function: Callable[..., Any]) -> Callable[..., Any]:
    """Turn errors that people can cause into one line and exit code 2, and say when the output was lost.

    A command that returns a number ends with it as its exit code.
    """

    @wraps(function)
    def guarded(*args: Any, **kwargs: Any) -> Any:
        try:
            result = function(*args, **kwargs)
        except FinchError as error:
            _complain(error.line())
            sys.exit(2)
        lost = click.get_current_context().meta.get(_LOST)
        if isinstance(lost, OSError) and lost.errno != errno.EPIPE:
            _complain(tr("Done, but the output could not be written: {os_reason}.").format(os_reason=os_reason(lost)))
            sys.exit(2)
        if isinstance(result, int) and result:
            sys.exit(result)

    return guarded


def speak_any_name() -> None:
    """Let names that the terminal's encoding cannot spell be spelled out rather than end the program."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")


@contextmanager
def drawing(name: str) -> Iterator[None]:
    """Let pictures and pages be drawn without a window, inside."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from ..ui.app import make_app

    app, _ = make_app([name])
    yield
    app.processEvents()


def let_go_of_lost_output() -> None:
    """Let what cannot be written any more go nowhere, so that the interpreter's own end does not fail for it."""
    for stream in (sys.stdout, sys.stderr):
        try:
            stream.flush()
        except (OSError, ValueError):
            with suppress(OSError, ValueError):
                os.dup2(os.open(os.devnull, os.O_WRONLY), stream.fileno())
