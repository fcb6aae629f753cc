"""Rehearse every program that is here with a look in both tones, and write down what each showed.

    ./finch test programs [--root DIR [PROGRAM…]]

In the demo home, in a hidden session. With --root (needs root): in a Debian system in a folder, where the programs are
installed first, as an ordinary user of it. A row for each program stands in docs/formats.md afterwards, with a column
for each system; programs that a system does not have keep what was found out before.
"""

from __future__ import annotations

import json
import os
import platform
import sys
import tempfile
from collections.abc import Iterable, Iterator
from datetime import date
from pathlib import Path
from typing import NamedTuple

import msgspec

HERE = Path(__file__).resolve().parents[1]
PAGE = HERE / "docs" / "formats.md"
START, END = "<!-- made by tools/tried.py -->", "<!-- end of the programs -->"
MARKS = {"as_look": "✓", "unreadable": "✗", "other": "≠", "own": "○", "failed": "!"}
TONES = ("dark", "light")
# Packages that are not called as their program is.
PACKAGES = {
    "batcat": "bat", "nvim": "neovim", "emacs": "emacs-nox", "soffice": "libreoffice-writer libreoffice-gtk3",
    "gimp-2.10": "gimp", "notify-send": "libnotify-bin", "i3": "i3-wm", "task": "taskwarrior", "conky": "conky-std",
    "imv-x11": "imv", "rg": "ripgrep", "kak": "kakoune", "swaync": "sway-notification-center", "urxvt": "rxvt-unicode",
    "mako": "mako-notifier", "weechat": "weechat-curses", "delta": "git-delta", "xrdb": "x11-xserver-utils",
    "xfconf-query": "xfconf", "xfce4-notifyd": "xfce4-notifyd", "zathura": "zathura zathura-pdf-poppler",
    "herbstclient": "herbstluftwm", "sh": "dash", "ls": "coreutils",
}  # fmt: skip


class Tried(NamedTuple):
    """What one program showed: its version, and a mark for each tone."""

    component: str
    program: str
    version: str
    marks: str


def rehearsed() -> Iterator[Tried]:
    """Yield what the programs of this system showed in both tones."""
    from mellow_finch.components.files import FolderFiles
    from mellow_finch.demo.build import build_demo_home
    from mellow_finch.look.dressed import dress, every_component
    from mellow_finch.look.edits import with_tone
    from mellow_finch.look.ready import READY
    from mellow_finch.proof.rehearsal.conductor import rehearse
    from mellow_finch.proof.rehearsal.room import backdrop_of

    found: dict[str, dict[str, Tried]] = {}
    with tempfile.TemporaryDirectory() as made:
        home = build_demo_home(Path(made) / "home")
        picture = backdrop_of(str(home / "Pictures/dusk-murmuration.jpg"))
        for tone in TONES:
            look = with_tone(READY[0].look(), tone)
            dressed = dress(look, FolderFiles(home), every_component(look))
            for row in rehearse(dressed, home, picture, slow=True, keep=False):
                if row.state == "absent":
                    continue
                print(f"{row.component.id}, {row.program} {row.version}, {tone}: {row.words}", file=sys.stderr)
                told = Tried(row.component.title, row.program, row.version, MARKS[row.state])
                found.setdefault(row.id, {})[tone] = told
    for tones in found.values():
        last = next(t for t in reversed(tones.values()))
        yield last._replace(marks="".join(tones[tone].marks if tone in tones else "–" for tone in TONES))


def system() -> str:
    """Return what this system is called: its name and what tells its release."""
    told = platform.freedesktop_os_release()
    release = told.get("VERSION_ID") or told.get("VERSION_CODENAME", "")
    return f"{told['NAME'].removesuffix(' GNU/Linux')} {release}".strip()


def in_root(folder: Path, only: Iterable[str]) -> tuple[str, list[Tried]]:
    """Install the programs in a system in a folder, and return what it is called and what they showed."""
    from mellow_finch.components.catalogue import COMPONENTS
    from rooted import COMMON, USER, Root

    root = Root(folder)
    root.run("apt-get update -qq")
    if not root.install(f"{COMMON} bubblewrap sway grim wtype wl-clipboard"):
        sys.exit("What every program needs could not be installed.")
    wanted = set(only)
    rows = [r for c in COMPONENTS for r in c.rehearsals if not wanted or r.program in wanted]
    for name in sorted({n for row in rows for n in (row.program, *row.needs)}):
        package = PACKAGES.get(Path(name).name, Path(name).name)
        if not root.install(package):
            print(f"{package}: not there", file=sys.stderr)
    root.put_tree()
    line = "cd /opt/finch && /opt/venv/bin/python tools/tried.py --print"
    done = root.run(line, USER, PYTHONPATH="/opt/finch/src", XDG_RUNTIME_DIR=f"/home/{USER}/run")
    print(done.stderr, file=sys.stderr)
    told = msgspec.json.decode(done.stdout.splitlines()[-1], type=tuple[str, list[Tried]])
    return told


def written(text: str, name: str, rows: Iterable[Tried], day: date) -> str:
    """Return the page with what the programs of one system showed; of others it keeps what stands there. Pure."""
    head, _, rest = text.partition(START)
    old, _, tail = rest.partition(END)
    lines = [[cell.strip() for cell in row.split("|")[1:-1]] for row in old.splitlines() if row.startswith("|")]
    systems = [cell.partition(",")[0] for cell in lines[0][2:]] if lines else []
    titles = dict(zip(systems, lines[0][2:], strict=True)) if lines else {}
    cells = {(row[0], row[1]): dict(zip(systems, row[2:], strict=True)) for row in lines[2:]}
    titles[name] = f"{name}, {day}"
    for row in rows:
        cells.setdefault((row.component, row.program), {})[name] = f"{row.version} {row.marks}".strip()
    table = [["component", "program", *titles.values()], ["---"] * (2 + len(titles))]
    table += [[*key, *(cells[key].get(system_, "") for system_ in titles)] for key in sorted(cells)]
    body = "\n".join(f"| {' | '.join(row)} |" for row in table)
    return f"{head}{START}\n\n{body}\n\n{END}{tail}"


def main(arguments: list[str]) -> int:
    """Do what is asked for; return 1 where a program of which it is not known why shows something else."""
    if arguments[:1] == ["--print"]:
        print(json.dumps([system(), list(rehearsed())]))
        return 0
    if arguments[:1] == ["--root"]:
        if len(arguments) < 2 or os.getuid() != 0 or not (Path(arguments[1]) / "usr/bin/apt-get").exists():
            sys.exit("It needs root, and a Debian system in a folder.")
        name, rows = in_root(Path(arguments[1]), arguments[2:])
    elif arguments:
        print(__doc__)
        return 0
    else:
        name, rows = system(), list(rehearsed())
    PAGE.write_text(written(PAGE.read_text(encoding="utf-8"), name, rows, date.today()), encoding="utf-8")
    print(f"{name}: {len(rows)} programs, {sum(row.marks != '✓✓' for row in rows)} not as the look in both tones.")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
