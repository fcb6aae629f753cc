"""The walls around a rehearsal: a home, a bus, screens and processes of its own, no network, bounds of time and memory.

With bubblewrap all of the computer is read-only in there, and the private home lies where the person's own is, so that
paths in its files hold. Without it the system's own namespaces do the same for the home and the network.
"""

from __future__ import annotations

import getpass
import io
import json
import os
import select
import shlex
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import asdict, dataclass
from functools import cache
from importlib.resources import files
from pathlib import Path
from typing import Any, Literal, NamedTuple

import psutil
from PIL import Image

from ...disk.facts import read_plain
from ...errors import FileAccessError, FinchError
from ...intake.bounded import busyness
from ...itself import own_script
from ...language import tr
from ...picture.load import load_picture

Wall = Literal["whole", "part", "none"]

_MOST_BUSY = 3.0  # times as long as usual that a program may be still before it is taken to be done
_LIMIT_S = 12.0  # in which a program has painted
_MOST_MEMORY = 6 << 30
_AT_ONCE = 3
_LOOK_S = 0.1
_MOST_PICTURE = 40_000_000
_ID = 1000  # whom programs take themselves for where the person is root: some refuse to run as that
_PASSED = ("PATH", "LANG", "LC_ALL", "XDG_CURRENT_DESKTOP", "XDG_DATA_DIRS", "XDG_CONFIG_DIRS", "QT_QPA_PLATFORMTHEME")
_ROOM = "finch-rehearsal"
HOME = "{home}"  # stands in an act for where the home lies
_HIDDEN = ("/tmp", "/var/tmp")
_OPEN = ("proc", "sys", "dev", "run", "tmp")  # what stays as it is where there is no bubblewrap
# Strokes are drawn unsmoothed, so that their colour is seen in the pixels.
_FONTS = """<?xml version="1.0"?>
<!DOCTYPE fontconfig SYSTEM "fonts.dtd">
<fontconfig>
  <include ignore_missing="yes">/etc/fonts/fonts.conf</include>
  <match target="font"><edit name="antialias" mode="assign"><bool>false</bool></edit></match>
  <match target="pattern"><edit name="antialias" mode="assign"><bool>false</bool></edit></match>
</fontconfig>
"""


class RoomError(FinchError):
    """A rehearsal could not be held."""


@dataclass(frozen=True, slots=True)
class Act:
    """One program to be started, and what is done with it.

    run: its words; program: who is asked for its version; on: the screen it needs; first, then: commands before it and
    after it; keys: what is pressed; windows: whether two windows are opened for it to draw borders around; answers: a
    file in which its answers are left; config: what the compositor reads that is the program itself (compositor).
    """

    id: str
    run: str
    program: str = ""
    on: Literal["x11", "wayland"] = "x11"
    first: tuple[str, ...] = ()
    then: tuple[str, ...] = ()
    keys: tuple[str, ...] = ()
    windows: bool = False
    answers: str = ""
    config: str = ""
    compositor: bool = False
    limit: float = _LIMIT_S


class Played(NamedTuple):
    """What came of an act: its picture as PNG, empty where there is none; the box around what it painted.

    answers: colours that it told by name; trouble: what went wrong, empty when nothing did; took: seconds; mask: a PNG
    of which pixels it painted; version: of the program, where it tells.
    """

    id: str
    picture: bytes
    box: tuple[int, int, int, int]
    answers: Mapping[str, str]
    trouble: str
    took: float
    mask: bytes = b""
    version: str = ""


@cache
def wall() -> Wall:
    """Return how well a rehearsal can be shut off here: whole, its home and network alone, or not at all."""
    if _runs([*_bubble(Path("/tmp"), Path.home()), "true"]):
        return "whole"
    return "part" if _runs([*_SPACES, "true"]) else "none"


_SPACES = ("unshare", "--map-root-user", "--net", "--mount", "--ipc", "--pid", "--fork", "--kill-child")


def _runs(words: Sequence[str]) -> bool:
    if shutil.which(words[0]) is None:
        return False
    with suppress(OSError, subprocess.TimeoutExpired):
        return subprocess.run(words, capture_output=True, timeout=10).returncode == 0
    return False


def missing() -> str:
    """Return what keeps rehearsals from being held here, a sentence, empty when nothing does."""
    if shutil.which("Xvfb") is None:
        return tr("There is no hidden screen here: Xvfb is missing (package xvfb).")
    return ""


def wall_words() -> str:
    """Return a sentence about what a rehearsal is shut off from here."""
    return {
        "whole": tr("Isolated: your home folder, your session, the network; the rest of the computer is read-only."),
        "part": tr(
            "Isolated: your home folder, your session, the network. bubblewrap is missing, so "
            "temporary folders are not protected."
        ),
        "none": tr(
            "Neither bubblewrap nor namespaces work here: programs get their own home folder, but "
            "nothing keeps them from your files and the network."
        ),
    }[wall()]


def _bubble(room: Path, home: Path) -> list[str]:
    words = [
        "bwrap",
        "--ro-bind",
        "/",
        "/",
        "--dev",
        "/dev",
        "--proc",
        "/proc",
        "--tmpfs",
        "/tmp",
        "--tmpfs",
        "/var/tmp",
    ]
    words += ["--perms", "1777", "--dir", "/tmp/.X11-unix"]
    words += ["--unshare-net", "--unshare-pid", "--unshare-ipc", "--die-with-parent", "--new-session"]
    if os.geteuid() == 0:
        words += ["--unshare-user", "--uid", str(_ID), "--gid", str(_ID)]
    for folder in ("/run/user", "/run/dbus", "/dev/shm"):
        if Path(folder).is_dir():
            words += ["--tmpfs", folder]
    words += ["--bind", str(room), f"/tmp/{_ROOM}"]
    if (room / "home").is_dir():
        words += ["--bind", str(room / "home"), str(home), "--ro-bind", str(room / "passwd"), "/etc/passwd"]
        words += ["--unshare-uts", "--hostname", "hide"]
    hidden = (home, *(Path(name) for name in _HIDDEN))
    for place in _program_places():
        if any(place.is_relative_to(folder) for folder in hidden):
            words += ["--ro-bind", str(place), str(place)]
    return words


def _program_places() -> list[Path]:
    """Return where this program and its interpreter lie."""
    own = Path(str(files("mellow_finch"))).resolve().parent
    found = (Path(sys.prefix), Path(sys.base_prefix), Path(sys.prefix).resolve(), Path(sys.base_prefix).resolve(), own)
    return list(dict.fromkeys(found))


def _walled(room: Path, home: Path) -> tuple[list[str], str]:
    """Return the words before a command, and where the room lies for it."""
    how = wall()
    if how == "whole":
        return [*_bubble(room, home), "--"], f"/tmp/{_ROOM}"
    if how == "none":
        return [], str(room)
    tops = (p for p in sorted(Path("/").iterdir()) if p.is_dir() and not p.is_symlink() and p.name not in _OPEN)
    read_only = "mount --rbind {0} {0} && mount -o remount,bind,ro {0} || true"
    lines = [f"{{ {read_only.format(shlex.quote(str(top)))}; }}" for top in tops]
    for place in (p for p in _program_places() if p.is_relative_to(home)):
        at = room / "home" / place.relative_to(home)
        lines += [f"mkdir -p {shlex.quote(str(at))}", shlex.join(["mount", "--bind", str(place), str(at)])]
    lines.append(shlex.join(["mount", "--rbind", str(room / "home"), str(home)]))
    lines += [f"mount -t tmpfs none {f}" for f in ("/run/user", "/run/dbus", "/tmp/.X11-unix") if Path(f).is_dir()]
    lines.append(f'exec unshare --user --map-user={_ID} --map-group={_ID} "$@"')  # some refuse to run as root
    return [*_SPACES, "sh", "-c", " && ".join(lines), "sh"], str(room)


def backdrop_of(source: str) -> bytes:
    """Return what lies behind everything: the look's picture, a plain one where it cannot be read; small, as PNG."""
    out = io.BytesIO()
    try:
        image: Image.Image = Image.fromarray(load_picture(Path(source)).pixels) if source else _plain()
    except FinchError:
        image = _plain()
    image.convert("RGB").save(out, "PNG", compress_level=1)
    return out.getvalue()


def _plain() -> Image.Image:
    return Image.new("RGB", (64, 48), (112, 120, 124))


def lay(files_: Mapping[str, bytes], home: Path) -> None:
    """Lay files into a private home; executable is what says how it is run."""
    for path, data in files_.items():
        place = home / path
        if not place.resolve().is_relative_to(home.resolve()):
            continue  # a path out of the home is no file of it
        place.parent.mkdir(parents=True, exist_ok=True)
        place.write_bytes(data)
        if data.startswith(b"#!"):
            place.chmod(0o755)


def hold(
    acts: Sequence[Act],
    laid: Mapping[str, bytes],
    picture: bytes,
    home: Path,
    at_once: int = _AT_ONCE,
    halted: Callable[[], bool] = lambda: False,
) -> Iterator[Played]:
    """Yield what comes of acts, each when it is over, in a private home that holds some files.

    laid: by path from the home; picture: what lies behind everything, a picture file's bytes; home: where the person's
    own lies; at_once: how many at a time; halted: whether all of it is to end. Ending the iteration ends everything.
    Raises RoomError.
    """
    reason = missing()
    if reason:
        raise RoomError(reason)
    with tempfile.TemporaryDirectory(prefix="finch-room-") as made:
        room = Path(made)
        for name in ("home", "run"):
            (room / name).mkdir()
        lay(laid, room / "home")
        fonts = room / "home/.config/fontconfig/fonts.conf"
        fonts.parent.mkdir(parents=True, exist_ok=True)
        fonts.write_text(_FONTS)
        (room / "picture").write_bytes(picture)
        me = _ID if os.geteuid() == 0 else os.geteuid()
        (room / "passwd").write_text(f"reedholm:x:{me}:{me}:Reedholm:{home}:/bin/sh\n")
        before, seen = _walled(room, home)
        at = home if before else room / "home"
        job = {
            "acts": [_placed(asdict(act), str(at)) for act in acts],
            "at_once": at_once,
            "busy": min(_MOST_BUSY, busyness()),
            "picture": f"{seen}/picture",
            "folder": str(at / "Reedholm") if (room / "home/Reedholm").is_dir() else str(at),
            "runtime": f"{seen}/run",
            "environment": _environment(at, room),
        }
        (room / "job.json").write_text(json.dumps(job))
        inside = str(files("mellow_finch.proof.rehearsal").joinpath("inside.py"))
        words = [*before, *own_script(inside, f"{seen}/job.json")]
        most_s = sum(act.limit + 6 for act in acts)
        try:
            yield from _watched(words, room, {act.id: act for act in acts}, most_s, halted)
        finally:
            if not before:
                _end_left(str(room))


def _end_left(room: str) -> None:
    """End what went on by itself in a home where no wall ends it."""
    for process in psutil.process_iter():
        with suppress(psutil.Error, OSError):
            if process.environ().get("HOME", "").startswith(room):
                process.kill()


def _placed(value: Any, home: str) -> Any:
    """Return a value with the home's place in all its texts."""
    if isinstance(value, dict):
        return {key: _placed(inner, home) for key, inner in value.items()}
    if isinstance(value, (list, tuple)):
        return [_placed(inner, home) for inner in value]
    return value.replace(HOME, home) if isinstance(value, str) else value


def _environment(home: Path, room: Path) -> dict[str, str]:
    kept = {name: os.environ[name] for name in _PASSED if name in os.environ}
    path = kept.get("PATH", os.defpath)
    for more in ("/usr/local/bin", "/usr/bin", "/bin", "/usr/games", "/usr/sbin"):
        path = path if more in path.split(":") else f"{path}:{more}"
    away = {}
    if home.is_relative_to(room):  # no wall lays it where the system says that the person's is
        names = {"CONFIG": ".config", "DATA": ".local/share", "CACHE": ".cache", "STATE": ".local/state"}
        away = {f"XDG_{name}_HOME": str(home / path) for name, path in names.items()}
    return {
        "LANG": "C.UTF-8",
        **kept,
        **away,
        "PATH": path,
        "HOME": str(home),
        "USER": getpass.getuser() if away else "reedholm",
        "SHELL": "/bin/sh",
        "LC_ALL": "C.UTF-8",
        "COLORTERM": "truecolor",
        "EDITOR": "true",
        "GTK_A11Y": "none",
        "NO_AT_BRIDGE": "1",
        "GTK_USE_PORTAL": "0",
        "GSETTINGS_BACKEND": "keyfile",
        "GIO_USE_VFS": "local",
        "LIBGL_ALWAYS_SOFTWARE": "1",
        "GSK_RENDERER": "cairo",
        "QT_LOGGING_RULES": "*=false",
        "PYTHONDONTWRITEBYTECODE": "1",
    }


def _watched(
    words: list[str], room: Path, acts: Mapping[str, Act], most_s: float, halted: Callable[[], bool]
) -> Iterator[Played]:
    """Run the director of acts and yield what it tells; ends it when it needs too much."""
    with tempfile.TemporaryFile() as said:
        process = subprocess.Popen(
            words, stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=said, start_new_session=True
        )
        assert process.stdout is not None
        os.set_blocking(process.stdout.fileno(), False)
        left, rest, until = dict(acts), b"", time.monotonic() + most_s * busyness()
        try:
            while left:
                over = process.poll() is not None
                read = process.stdout.read() or b""
                *lines, rest = (rest + read).split(b"\n")
                for line in lines:
                    played = _played(line, room)
                    if played is not None and left.pop(played.id, None) is not None:
                        yield played
                if over and not read:
                    break
                if halted():
                    return
                if time.monotonic() > until or _memory(process.pid) > _MOST_MEMORY:
                    break
                if not read:
                    select.select([process.stdout], [], [], _LOOK_S)
        finally:
            _end(process)
        said.seek(0)
        last = said.read()[-400:].decode(errors="replace").strip().rpartition("\n")[2]
        for id_ in left:
            yield Played(id_, b"", (0, 0, 0, 0), {}, last or "it did not come to an end", 0.0)


def _played(line: bytes, room: Path) -> Played | None:
    with suppress(ValueError, KeyError, TypeError, FileAccessError):
        told = json.loads(line)
        shot = room / f"{told['id']}.png"
        picture = read_plain(shot, _MOST_PICTURE) or b""
        trouble = told.get("trouble", "")
        if trouble and told.get("said", "").strip():
            trouble += f" ({told['said'].strip().splitlines()[-1][:200]})"
        box = tuple(told.get("box", (0, 0, 0, 0)))
        over = room / f"{told['id']}.mask.png"
        mask = read_plain(over, _MOST_PICTURE) or b""
        return Played(
            told["id"], picture, box, told.get("answers", {}), trouble, told["took"], mask, told.get("version", "")
        )
    return None


def _memory(pid: int) -> int:
    total = 0
    with suppress(psutil.Error):
        first = psutil.Process(pid)
        for process in (first, *first.children(recursive=True)):
            with suppress(psutil.Error):
                total += process.memory_info().rss
    return total


def _end(process: subprocess.Popen[bytes]) -> None:
    found: list[psutil.Process] = []
    with suppress(psutil.Error):
        first = psutil.Process(process.pid)
        found = [*first.children(recursive=True), first]
    for one in found:
        with suppress(psutil.Error):
            one.kill()
    process.wait()
    if process.stdout is not None:
        process.stdout.close()
