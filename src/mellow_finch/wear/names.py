"""The name of a look's theme folder: another one where running programs would not read the same name again."""

from __future__ import annotations

import re
from collections.abc import Callable
from pathlib import Path

from ..look.dressed import Dressed
from ..session.base import DesktopSession
from .history import History
from .plan import Plan, make_plan

_THEMES = ".local/share/themes/"


def name_in_use(history: History, folder: str) -> str:
    """Return the folder under which the looks that a home wears have put a theme last, empty for none.

    folder: the look's own name for it; the other one is that with "-2".
    """
    pattern = re.compile(re.escape(_THEMES + folder) + r"(?:-2)?(?=/)")
    worn = [s for s in history.snapshots() if s.status == "worn"]
    for snapshot in reversed(worn):
        for row in snapshot.files:
            found = pattern.match(row.path)
            if found:
                return found[0].removeprefix(_THEMES)
    return ""


def other_name(folder: str, now: str) -> str:
    """Return the name that takes turns with the one in use."""
    return folder if now != folder else f"{folder}-2"


def plan_to_follow(
    dress_as: Callable[[str], Dressed], folder: str, home: Path, session: DesktopSession, history: History,
    changed: bool = False,
) -> Plan:  # fmt: skip
    """Return the plan of a look, under the name of its theme that makes a running desktop read it.

    dress_as: dresses the look with its folders under a name; folder: the look's own; changed: whether it is known to be
    another one than is worn. Toolkits and borders do not read a
    theme of the same name again, so a look that is worn already and has changed takes the other name.
    Raises what make_plan raises.
    """
    now = name_in_use(history, folder)
    if now and changed:
        return make_plan(dress_as(other_name(folder, now)), home, session)
    plan = make_plan(dress_as(now or folder), home, session)
    head = f"{_THEMES}{now}/"
    differs = bool(now) and any(write.path.startswith(head) for write in plan.writes)
    if differs and any(session.read(setting).has(now) for setting in plan.settings):
        plan = make_plan(dress_as(other_name(folder, now)), home, session)
    return plan
