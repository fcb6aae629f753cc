"""Begins a new component or a new text format: a data file with a comment at every line that is to be thought about.

`./finch new component NAME` and `./finch new format NAME`; NAME is short, small letters, digits and hyphens.
"""

from __future__ import annotations

import re
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
DEFINITIONS = ROOT / "src/mellow_finch/components/definitions"
FORMATS = ROOT / "src/mellow_finch/syntax/formats"
_NAME = re.compile(r"[a-z][a-z0-9-]{1,39}")

COMPONENT = """\
# A new component; docs/new-component.md says what every field means. Its file lies in the folder of its kind: move it
# where another kind is right.

id = "{name}"                       # short, and never changed once people have looks that name it
title = "{title}"                   # for people
kind = "Notifications"              # one of the kinds in components/define/kinds.py
set = "notice"                      # the parts of its kind: a file in components/sets
reads = "{title}, in the colours of its configuration"   # who reads the files; no full stop
effect = "restart"                  # "at once", "reload" or "restart"
restart = "Start {title} again."    # what a person does about that
# tried = "{title} 1.0: painted its window"   # only what really read such a file and showed it; say how it was asked
programs = ["{name}"]               # executables that tell that a home has it
signs = [".config/{name}/config"]   # files that tell it

[parts]                             # what it draws: text, fill and edge, by their places in the file
"notice" = ["text", "background"]
"notice edge" = ["", "border"]

[[read]]                            # how the file is read back; nothing is judged or drawn from the palette
paths = [".config/{name}/config"]
patterns = [['{{}}', '^[ \\t]*(\\w+)[ \\t]*=[ \\t]*(#[0-9a-fA-F]{{6}})']]

[[files]]                           # how it is written
paths = [".config/{name}/config"]
how = "keys"                        # a line for each key, in the place of an equal one; all else stays
template = '''
text = ‹notice_text›
background = ‹notice›
border = ‹outline›
'''
"""

FORMAT = """\
# A new text format, told by its file's name and beginning; docs/new-format.md says what every field means.

title = "{title}"                   # what kind of thing such a file belongs to, for people
reader = "{name}"                   # who reads such files
syntax = "keyed"                    # "css", "keyed", "xml", "lua", "xresources" or "xpm": the scanner
globs = ["{name}.conf"]             # names; with "/" seen from a folder above
# tell = ['^\\[colors\\]']             # patterns of which the first 4096 characters must match all
notations = ["hex"]                 # spellings its real reader takes: syntax/notations.py has them all
comments = ["#"]                    # what begins a comment
# inside = ["#"]                    # what may also stand inside a value
keys = "color"                      # which keys hold colours; leave it out where any may
order = 5                           # smaller is tried first: the surer a format is of its files, the smaller
roles = [                           # places that have a role for certain; the rest is guessed by use
  ['(?i)background$', 'window'],
  ['(?i)foreground$', 'text'],
]
"""


def begin(kind: str, name: str, into: Path | None = None) -> Path:
    """Write the file of a new component or format and return its path; raises ValueError with what is wrong."""
    if kind not in ("component", "format"):
        raise ValueError(f"“{kind}” is neither “component” nor “format”.")
    if not _NAME.fullmatch(name):
        raise ValueError(f"“{name}” is no name: small letters, digits and hyphens, a letter first.")
    folder = into or (DEFINITIONS / "notifications" if kind == "component" else FORMATS)
    file = folder / f"{name}.toml"
    if file.exists():
        raise ValueError(f"“{file.name}” is there already.")
    words = {"name": name, "title": name.replace("-", " ").capitalize()}
    file.write_text((COMPONENT if kind == "component" else FORMAT).format(**words), encoding="utf-8")
    return file


def main() -> int:
    """Begin what was asked for and say what comes next."""
    if len(sys.argv) != 3:
        print("Use: ./finch new component NAME, or ./finch new format NAME", file=sys.stderr)
        return 2
    try:
        file = begin(sys.argv[1], sys.argv[2])
    except ValueError as error:
        print(error, file=sys.stderr)
        return 2
    guide = "docs/new-component.md" if sys.argv[1] == "component" else "docs/new-format.md"
    print(f"{file.relative_to(ROOT)} is made. Fill it in ({guide}), then: ./finch test tests/components tests/syntax")
    return 0


if __name__ == "__main__":
    sys.exit(main())
