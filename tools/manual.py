"""Makes manual pages and completions of shells from the commands themselves, into a folder laid out like share/.

The pages come in every language; completions ask the program for their words, in the language of whoever types.
"""

from __future__ import annotations

import gzip
import inspect
import io
import os
import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import click
from click.shell_completion import BashComplete, FishComplete, ShellComplete, ZshComplete

sys.path.insert(0, str(Path(__file__).parent))
import languages
from mellow_finch import __version__
from mellow_finch.cli import app
from mellow_finch.cli.parts import PlainWords
from mellow_finch.language import tr

NAME = "mellow-finch"
_SHELLS: dict[str, tuple[type[ShellComplete], str]] = {
    "bash": (BashComplete, f"bash-completion/completions/{NAME}"),
    "zsh": (ZshComplete, f"zsh/site-functions/_{NAME}"),
    "fish": (FishComplete, f"fish/vendor_completions.d/{NAME}.fish"),
}
_FILES = (
    ("~/.local/share/mellow-finch/shelf", tr("Saved looks.")),
    (
        "~/.local/state/mellow-finch/history",
        tr("Backups of the files before each look, by home folder; undo reads them."),
    ),
    ("~/.config/mellow-finch", tr("Settings of the window, rules of following, your own components.")),
    ("~/.cache/mellow-finch", tr("Thumbnails and colours of images; it can be deleted at any time.")),
)
_NAME, _SYNOPSIS, _DESCRIPTION = tr("NAME"), tr("SYNOPSIS"), tr("DESCRIPTION")
_OPTIONS, _COMMANDS, _FILES_TITLE = tr("OPTIONS"), tr("COMMANDS"), tr("FILES")
_STATUS, _ENVIRONMENT, _SEE_ALSO = tr("EXIT STATUS"), tr("ENVIRONMENT"), tr("SEE ALSO")
_EXIT_CODES = tr("0 done, 1 findings, 2 wrong use or bad input.")
_VARIABLES = tr("LANGUAGE, LC_ALL, LC_MESSAGES and LANG choose the language; XDG_CONFIG_HOME and others are respected.")


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
        f".SH {_NAME}",
        f"{_roff('-'.join(way))} \\- {_roff(first.split('. ')[0].rstrip('.'))}",
        f".SH {_SYNOPSIS}",
        f".B {_roff(' '.join(way))}",
        _roff(" ".join(command.collect_usage_pieces(context))),
        f".SH {_DESCRIPTION}",
        *("\n.PP\n".join(_roff(part.replace("\n", " ")) for part in told.split("\n\n")).split("\n")),
    ]
    rows = [r for p in command.get_params(context) if (r := p.get_help_record(context))]
    if rows:
        out.append(f".SH {_OPTIONS}")
        for names, words in rows:
            out += [".TP", f"\\fB{_roff(names)}\\fR", _roff(words) or "\\&"]
    if isinstance(command, click.Group):
        out.append(f".SH {_COMMANDS}")
        for name, below in sorted(command.commands.items()):
            out += [".TP", f"\\fB{_roff(name)}\\fR", _roff(below.get_short_help_str(200))]
    if isinstance(command, PlainWords):
        out += [".PP", _roff(command.further_words)]
    if len(way) == 1:
        out.append(f".SH {_FILES_TITLE}")
        for path, words in _FILES:
            out += [".TP", f"\\fI{_roff(path)}\\fR", _roff(words)]
        out += [f".SH {_STATUS}", _EXIT_CODES, f".SH {_ENVIRONMENT}", _VARIABLES]
    else:
        out += [f".SH {_SEE_ALSO}", f".BR {_roff('-'.join(way[:-1]))} (1)"]
    return "\n".join(out) + "\n"


def make(into: Path) -> list[Path]:
    """Write every page and completion, and return the files; the pages of each language by a process of its own."""
    languages.compiled()
    out = pages(into / "man/man1")
    for language in languages.LANGUAGES:
        environment = {name: value for name, value in os.environ.items() if name != "LC_ALL"}
        environment |= {"LANGUAGE": language, "LANG": "C.UTF-8"}
        words = [sys.executable, __file__, str(into / "man" / language / "man1"), "pages"]
        told = subprocess.run(words, env=environment, check=True, capture_output=True, text=True).stdout
        out += map(Path, told.splitlines())
    for kind, place in _SHELLS.values():
        out.append(into / place)
        _put(out[-1], kind(app, {}, NAME, "_MELLOW_FINCH_COMPLETE").source().encode("utf-8"))
    return out


def pages(into: Path) -> list[Path]:
    """Write every page in the language in force."""
    out = []
    for way, command in commands(app):
        out.append(into / f"{'-'.join(way)}.1.gz")
        packed = io.BytesIO()
        with gzip.GzipFile(fileobj=packed, mode="wb", mtime=0) as stream:
            stream.write(page(way, command).encode("utf-8"))
        _put(out[-1], packed.getvalue())
    return out


def _put(path: Path, data: bytes) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(data)


if __name__ == "__main__":
    write = pages if sys.argv[2:] == ["pages"] else make
    for made in write(Path(sys.argv[1])):
        print(made)
