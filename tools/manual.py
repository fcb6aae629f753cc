"""Makes manual pages and completions of shells from the commands themselves, into a folder laid out like share/."""

from __future__ import annotations

import gzip
import inspect
import io
import re
import sys
from collections.abc import Iterator
from pathlib import Path

import click
from click.shell_completion import BashComplete, FishComplete, ShellComplete, ZshComplete

from mellow_finch import __version__
from mellow_finch.cli import app

NAME = "mellow-finch"
_SHELLS: dict[str, tuple[type[ShellComplete], str]] = {
    "bash": (BashComplete, f"bash-completion/completions/{NAME}"),
    "zsh": (ZshComplete, f"zsh/site-functions/_{NAME}"),
    "fish": (FishComplete, f"fish/vendor_completions.d/{NAME}.fish"),
}
_FILES = (
    ("~/.local/share/mellow-finch/shelf", "Looks that were kept."),
    ("~/.local/state/mellow-finch/history", "What was there before each look, by home; going back reads it."),
    ("~/.config/mellow-finch", "Settings of the window, rules of following, definitions of one's own."),
    ("~/.cache/mellow-finch", "Thumbnails and colours of pictures; losing it loses nothing."),
)


def _roff(text: str) -> str:
    """Return words as they may stand in a manual page."""
    text = text.replace("\\", "\\\\").replace("-", "\\-")
    return re.sub(r"(?m)^([.'])", r"\\&\1", text)


def commands(command: click.Command, way: tuple[str, ...] = (NAME,)) -> Iterator[tuple[tuple[str, ...], click.Command]]:
    """Yield every command with the words that call it, those below after those above."""
    yield way, command
    if isinstance(command, click.Group):
        for name, below in sorted(command.commands.items()):
            yield from commands(below, (*way, name))


def page(way: tuple[str, ...], command: click.Command) -> str:
    """Return the manual page of one command."""
    context = click.Context(command, info_name=" ".join(way))
    told = inspect.cleandoc(command.help or "")
    first = told.split("\n\n")[0].replace("\n", " ")
    out = [
        f'.TH "{"-".join(way).upper()}" 1 "" "Mellow Finch {__version__}" "Mellow Finch"',
        ".SH NAME",
        f"{_roff('-'.join(way))} \\- {_roff(first.split('. ')[0].rstrip('.'))}",
        ".SH SYNOPSIS",
        f".B {_roff(' '.join(way))}",
        _roff(" ".join(command.collect_usage_pieces(context))),
        ".SH DESCRIPTION",
        *("\n.PP\n".join(_roff(part.replace("\n", " ")) for part in told.split("\n\n")).split("\n")),
    ]
    rows = [r for p in command.get_params(context) if (r := p.get_help_record(context))]
    if rows:
        out.append(".SH OPTIONS")
        for names, words in rows:
            out += [".TP", f"\\fB{_roff(names)}\\fR", _roff(words) or "\\&"]
    if isinstance(command, click.Group):
        out.append(".SH COMMANDS")
        for name, below in sorted(command.commands.items()):
            out += [".TP", f"\\fB{_roff(name)}\\fR", _roff(below.get_short_help_str(200))]
    if len(way) == 1:
        out.append(".SH FILES")
        for path, words in _FILES:
            out += [".TP", f"\\fI{_roff(path)}\\fR", _roff(words)]
        out += [".SH EXIT STATUS", "0 done, 1 findings, 2 wrong use or bad input.", ".SH ENVIRONMENT"]
        out += ["LANGUAGE, LC_ALL, LC_MESSAGES and LANG choose the language; XDG_CONFIG_HOME and others are followed."]
    else:
        out += [".SH SEE ALSO", f".BR {_roff('-'.join(way[:-1]))} (1)"]
    return "\n".join(out) + "\n"


def make(into: Path) -> list[Path]:
    """Write every page and completion, and return the files."""
    out = []
    for way, command in commands(app):
        out.append(into / "man/man1" / f"{'-'.join(way)}.1.gz")
        packed = io.BytesIO()
        with gzip.GzipFile(fileobj=packed, mode="wb", mtime=0) as stream:
            stream.write(page(way, command).encode("utf-8"))
        _put(out[-1], packed.getvalue())
    for kind, place in _SHELLS.values():
        out.append(into / place)
        _put(out[-1], kind(app, {}, NAME, "_MELLOW_FINCH_COMPLETE").source().encode("utf-8"))
    return out


def _put(path: Path, data: bytes) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(data)


if __name__ == "__main__":
    for made in make(Path(sys.argv[1])):
        print(made)
