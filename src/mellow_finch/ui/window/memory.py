"""What the window remembers from one time to the next, and what it was at when it was ended by force."""

from __future__ import annotations

import json
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from PyQt6.QtCore import QSettings, QSize

from ...colour.rgb import Rgba, parse_hex
from ...disk.facts import read_plain
from ...disk.own import state_folder
from ...disk.write import save
from ...errors import FinchError
from ...wear.places import history_folder, own_home, window_file
from .settings import Preference, Settings, read_settings

if TYPE_CHECKING:  # what knows looks comes after the first paint
    from ..model.document import HistoryState

SIDE_WIDE = 350  # pixels that the panel of a step is wide where nobody drew it wider
_MOST_RECENT = 10
_MOST_STATES = 30
_MOST_BYTES = 64_000_000
KIND = "mellow-finch session"


class SavedSession(NamedTuple):
    """Where a person was: the states of the look, oldest first, which of them was in force, and the step in sight.

    asked: whether the system asked the program to end, as at a log-out, which is no crash.
    """

    states: list[HistoryState]
    at: int
    step: str = "gather"
    asked: bool = False


def own_home_or_none() -> Path | None:
    """Return the home of whoever runs this, None where the system does not know one."""
    try:
        return own_home()
    except FinchError:
        return None


class Memory:
    """Keeps sizes, the step, what was opened last, and the session; faults of the disk lose only that."""

    def __init__(self, settings: Path | None = None, state: Path | None = None) -> None:
        path = settings or window_file()
        with suppress(OSError):  # then nothing is remembered
            path.parent.mkdir(parents=True, exist_ok=True)
        self._settings = QSettings(str(path), QSettings.Format.IniFormat)
        self._state = state or state_folder()
        self._file = self._state / "open.json"

    # Sizes and places

    def size(self, most: QSize) -> QSize:
        """Return the size the window had, as far as a screen has room for it."""
        kept = self._settings.value("size", QSize(1280, 800))
        wanted = kept if isinstance(kept, QSize) and kept.isValid() else QSize(1280, 800)
        return wanted.boundedTo(most)

    def screen(self) -> QSize | None:
        """Return the size of the screen, as it is at the usual size of text, None where it is not known yet."""
        kept = self._settings.value("screen")
        return kept if isinstance(kept, QSize) and kept.isValid() else None

    def keep_screen(self, size: QSize) -> None:
        """Keep the size of the screen, as it is at the usual size of text."""
        if size != self.screen():
            self._settings.setValue("screen", size)

    def side(self) -> int:
        """Return how wide the panel of a step was."""
        try:
            return int(self._settings.value("side", SIDE_WIDE))
        except (TypeError, ValueError):
            return SIDE_WIDE

    def step(self) -> str:
        """Return the step that was in sight."""
        return str(self._settings.value("step", "gather"))

    def keep_window(self, size: QSize, side: int, step: str) -> None:
        """Keep how the window is."""
        for name, value in (("size", size), ("side", side), ("step", step)):
            self._settings.setValue(name, value)
        self._settings.sync()

    def settings(self) -> Settings:
        """Return what a person chose in the preferences."""
        return read_settings(lambda key: self._settings.value(f"choice/{key}"))

    def choose(self, setting: Preference, value: object) -> None:
        """Keep what a person chose."""
        self._settings.setValue(f"choice/{setting.key}", setting.stored(value))
        self._settings.sync()

    # What was opened last

    def recent(self) -> list[Path]:
        """Return the pictures and looks that were opened last and are still there, the newest first."""
        rows = self._settings.value("recent", [])
        rows = [rows] if isinstance(rows, str) else rows if isinstance(rows, list) else []
        return [p for p in map(Path, rows) if p.is_file()]

    def opened(self, path: Path | str) -> None:
        """Note that something was opened."""
        path = Path(path)
        rows = [path, *(p for p in self.recent() if p != path)][:_MOST_RECENT]
        self._settings.setValue("recent", [str(p) for p in rows])

    # Colours

    def colours(self, kind: str) -> list[Rgba]:
        """Return the colours of a kind, "recent" or "favourites", that were kept."""
        rows = self._settings.value(f"colours/{kind}", [])
        rows = [rows] if isinstance(rows, str) else rows if isinstance(rows, list) else []
        return [colour for row in rows if (colour := _hex(str(row))) is not None]

    def keep_colours(self, kind: str, colours: Sequence[Rgba]) -> None:
        """Keep others in their place."""
        self._settings.setValue(f"colours/{kind}", [colour.hex for colour in colours])
        self._settings.sync()

    # The session

    def use_home(self, home: Path) -> None:
        """Keep sessions of this home from now on: what was open in one is never offered in another."""
        own = self._state / "open" / f"{history_folder(home).name}.json"
        old = self._state / "open.json"  # of versions that had one for all: it counts for the person's own
        if old.exists() and not own.exists() and home == own_home_or_none():
            with suppress(OSError):
                own.parent.mkdir(parents=True, exist_ok=True)
                old.replace(own)
        self._file = own

    def keep_session(self, states: Sequence[HistoryState], at: int, step: str, asked: bool = False) -> None:
        """Write where the person is, so that it can be taken up again; asked: see Session."""
        from ...look.carry import look_text

        first = max(0, min(at, len(states) - _MOST_STATES))
        rows = [
            {"words": s.words, "look": json.loads(look_text(s.look, self._file.parent))}
            for s in states[first : first + _MOST_STATES]
        ]
        told = {"kind": KIND, "at": at - first, "step": step, "asked": asked, "states": rows}
        data = json.dumps(told, ensure_ascii=False)
        try:
            save(self._file, data.encode("utf-8"), sync=False)
        except (FinchError, OSError):
            return

    def forget_session(self) -> None:
        """Forget it: the window was closed as a window is closed."""
        with suppress(OSError):
            self._file.unlink(missing_ok=True)

    def session(self) -> SavedSession | None:
        """Return where a person was when the program was ended by force, None when it was not."""
        if not self._file.exists():
            return None
        from ...look.carry import read_look_text
        from ..model.document import HistoryState

        try:
            data = json.loads(read_plain(self._file, _MOST_BYTES) or b"null")
            if not isinstance(data, dict) or data.get("kind") != KIND:
                return None
            states = [
                HistoryState(str(row["words"])[:200], read_look_text(json.dumps(row["look"]), self._file).look)
                for row in data["states"]
            ]
            at, step, asked = int(data["at"]), str(data.get("step", "gather")), data.get("asked") is True
        except (FinchError, ValueError, KeyError, TypeError, RecursionError):
            return None
        return SavedSession(states, at, step, asked) if states and 0 <= at < len(states) else None


def _hex(words: str) -> Rgba | None:
    try:
        return parse_hex(words)
    except ValueError:
        return None
