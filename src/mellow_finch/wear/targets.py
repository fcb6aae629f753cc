"""Where a file of a home really goes, what lies there, and whether it can be written at all. Changes nothing."""

from __future__ import annotations

import base64
import hashlib
import os
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from ..components.files import moved_path
from ..disk.facts import Facts, all_bytes, facts_of, odd_kind, open_plain
from ..disk.write import stays_same_file
from ..errors import FileAccessError, WearError, file_errors
from ..language import tr
from ..session.xdg import moved_folders

_MOST_NAME = 255  # bytes of one name in a path, on every file system in use


@dataclass(frozen=True, slots=True)
class There:
    """What lies at a place.

    kind: "" for nothing, "file", "link" for a symbolic link, else words for something odd; digest: SHA-256 of a file's
    bytes, or of a link's text; size: of those bytes.
    """

    kind: str = ""
    digest: str = ""
    facts: Facts | None = None
    size: int = 0


NOTHING = There()


def digest(data: bytes) -> str:
    """Return the SHA-256 of bytes."""
    return hashlib.sha256(data).hexdigest()


def facts_as_json(facts: Facts | None) -> dict[str, Any] | None:
    """Return the facts of a file as a journal keeps them."""
    if facts is None:
        return None
    attributes = {n: base64.b64encode(v).decode("ascii") for n, v in facts.attributes}
    return {"mode": facts.mode, "uid": facts.uid, "gid": facts.gid, "attributes": attributes}


def facts_from_json(data: dict[str, Any] | None) -> Facts | None:
    """Return the facts that a journal kept; raises ValueError, KeyError or TypeError when they are none."""
    if data is None:
        return None
    attributes = tuple((str(n), base64.b64decode(v)) for n, v in data["attributes"].items())
    return Facts(int(data["mode"]), int(data["uid"]), int(data["gid"]), attributes)


def read_there(path: Path) -> tuple[There, bytes]:
    """Return what lies at a path, links not followed, with its bytes or the text of its link.

    Raises FileAccessError when it cannot be read.
    """
    with file_errors(path, "read"):
        try:
            state = path.lstat()
        except (FileNotFoundError, NotADirectoryError):
            return NOTHING, b""
        if path.is_symlink():
            text = os.fsencode(os.readlink(path))  # noqa: PTH115 - a Path would tidy the text up
            return There("link", digest(text), None, len(text)), text
    if odd := odd_kind(state.st_mode):
        return There(odd), b""
    handle = open_plain(path)
    if handle is None:
        return NOTHING, b""
    try:
        data = all_bytes(handle, path)
        return There("file", digest(data), facts_of(handle), len(data)), data
    finally:
        os.close(handle)


def look_there(path: Path) -> There:
    """Return what lies at a path; what cannot be read counts as odd."""
    try:
        return read_there(path)[0]
    except FileAccessError:
        return There(tr("something unreadable"))


@dataclass(frozen=True, slots=True)
class Target:
    """Where one file of a home goes.

    path: from the home folder, as components name it; place: the real path, links followed, but for a link that leads
    to what is not the person's, which is replaced itself; in_place: whether the file must stay the same one, since it
    has other names or another owner; blocked: the sentence that says why nothing can be written there, else "".
    """

    path: str
    place: Path
    there: There
    in_place: bool = False
    blocked: str = ""
    hint: str = ""

    def checked(self) -> Target:
        """Return the target; raises WearError when nothing can be written there."""
        if self.blocked:
            raise WearError(self.blocked, self.hint)
        return self


def check_home(home: Path) -> None:
    """Raise WearError when a home is not a folder of whoever runs this, or has a name that settings cannot hold."""
    with file_errors(home, "open"):
        state = home.stat()
        if not home.is_dir():
            raise WearError(tr("“{home}” is not a folder.").format(home=home), tr("Name an existing home folder."))
    if state.st_uid != os.geteuid():
        raise WearError(
            tr("“{home}” belongs to someone else, who could not undo a look applied by you.").format(home=home),
            tr("Its owner has to apply the look."),
        )
    if any(ord(c) < 32 or ord(c) == 127 for c in str(home.resolve())):
        raise WearError(
            tr(
                "The name of this home folder contains a line break or another control character, "
                "which settings cannot store."
            ),
            tr("Give the folder another name."),
        )


def target_of(home: Path, path: str) -> Target:
    """Return where a file goes, with the reason when it cannot; raises FileAccessError when that is not to be told."""
    if ".." in Path(path).parts or Path(path).is_absolute():
        return Target(path, home, NOTHING, blocked=tr("“{path}” lies outside the home folder.").format(path=path))
    named = home / moved_path(path, moved_folders(home))
    if any(len(os.fsencode(part)) > _MOST_NAME for part in named.parts):
        return Target(path, named, NOTHING, blocked=tr("“{path}” has a name that is too long.").format(path=path))
    try:
        place = named.resolve()
    except (OSError, RuntimeError):
        return Target(
            path, named, NOTHING, blocked=tr("“{path}” is a link that points to itself.").format(path=path), hint=_MOVE
        )
    with file_errors(named, "follow"):
        if place.is_symlink():
            return Target(
                path,
                named,
                NOTHING,
                blocked=tr("“{path}” is a link that points to itself.").format(path=path),
                hint=_MOVE,
            )
        if named.is_symlink() and not place.is_relative_to(home.resolve()) and not _writable(place):
            place = named.parent.resolve() / named.name  # the link gives way, and comes back with the old desktop
    return _judged(path, place)


_MOVE = tr("Move it away, or leave out its component.")
_OWN = tr("Take ownership of it, or leave out its component.")


def _judged(path: str, place: Path) -> Target:
    try:
        there = read_there(place)[0]
    except FileAccessError:
        return Target(
            path,
            place,
            NOTHING,
            blocked=tr("“{path}” cannot be read, so it could not be restored.").format(path=path),
            hint=_OWN,
        )
    if there.kind not in ("", "file", "link"):
        words = tr("“{path}” is {kind}, but a file has to be written there.").format(path=path, kind=there.kind)
        return Target(path, place, there, blocked=words, hint=_MOVE)
    above = place.parent
    while not os.path.lexists(above):
        above = above.parent
    if not above.is_dir():
        words = tr("“{above}” is a file where a folder is needed for “{path}”.").format(above=above, path=path)
        return Target(path, place, there, blocked=words, hint=_MOVE)
    in_place = there.kind == "file" and stays_same_file(place.stat())
    if in_place and not os.access(place, os.W_OK):
        return Target(
            path,
            place,
            there,
            True,
            tr("“{path}” belongs to someone else or is read-only.").format(path=path),
            _OWN,
        )
    if not in_place and not os.access(above, os.W_OK):
        return Target(path, place, there, False, tr("Nothing can be written into “{above}”.").format(above=above), _OWN)
    return Target(path, place, there, in_place)


def _writable(place: Path) -> bool:
    """Tell whether a place outside of the home is the person's own to write."""
    try:
        state = place.stat()
    except OSError:
        above = place.parent
        return above.is_dir() and above.stat().st_uid == os.geteuid() and os.access(above, os.W_OK)
    return state.st_uid == os.geteuid() and os.access(place, os.W_OK)
