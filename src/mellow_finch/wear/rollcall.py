"""After wearing, and at any time: every component of the look that is worn, with what it does as far as can be seen."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..components.catalogue import COMPONENT_BY_ID
from ..components.model import Component
from ..language import comma_separated, parted, plural, tr
from ..session.base import DesktopSession, NotifyResult
from .journal import SettingRow, Snapshot

State = Literal["follows", "told", "later", "restart", "needs you", "differs"]
TITLES: Mapping[State, str] = {
    "follows": tr("Follows"),
    "told": tr("Reload requested"),
    "later": tr("When it starts"),
    "restart": tr("After a restart"),
    "needs you": tr("Action needed"),
    "differs": tr("Overridden"),
}
_PICTURE = "picture"
_PUBLISHED = {"/Net/ThemeName": "Net/ThemeName", "gtk-theme": "Net/ThemeName", "Net/ThemeName": "Net/ThemeName"}


@dataclass(frozen=True, slots=True)
class Call:
    """What one component answers: words say why; restarts: whether it can be started again from here."""

    component: str
    title: str
    state: State
    words: str
    restarts: bool = False

    @property
    def settled(self) -> bool:
        """Tell whether a person has nothing to do about it."""
        return self.state in ("follows", "told", "later")


def roll_call(
    snapshot: Snapshot, session: DesktopSession, told: Mapping[str, NotifyResult] | None = None
) -> tuple[Call, ...]:
    """Return what every component of a snapshot does now, what needs the person first.

    told: what came of telling programs, when that was just now.
    """
    settings: dict[str, list[SettingRow]] = {}
    for row in snapshot.settings:
        if row.before.state != "absent":
            settings.setdefault(row.component if row.component in COMPONENT_BY_ID else _PICTURE, []).append(row)
    ids = dict.fromkeys([*(c for f in snapshot.files for c in f.components), *settings])
    found = [c for i in ids if (c := COMPONENT_BY_ID.get(i)) is not None]
    running = session.running({p for c in found for p in programs_of(c)})
    shown = session.shown()
    calls = [_call(c, settings.get(c.id, ()), session, running, shown, told or {}) for c in found]
    if _PICTURE in settings:
        calls.append(_by_settings(_PICTURE, tr("The wallpaper"), settings[_PICTURE], session, shown))
    order = ("needs you", "differs", "restart", "told", "follows", "later")
    return tuple(sorted(calls, key=lambda call: order.index(call.state)))


def programs_of(component: Component) -> frozenset[str]:
    """Return every executable that a component is about."""
    return frozenset((*component.programs, *component.restarts[:1], *(way.program for way in component.follow)))


def _call(
    component: Component,
    settings: Collection[SettingRow],
    session: DesktopSession,
    running: Collection[str],
    shown: Mapping[str, str],
    told: Mapping[str, NotifyResult],
) -> Call:
    title, own = component.title, set(component.programs)
    runs = bool(own & set(running))
    restarts = bool(component.restarts) and component.restarts[0] in running
    if settings and component.effect != "restart":
        return _by_settings(component.id, title, settings, session, shown)
    if component.exported:
        return Call(component.id, title, "needs you", component.restart)
    if component.follow:
        return _by_way(component, running, told, restarts)
    if own and not runs:
        return Call(component.id, title, "later", tr("It is not running now; it shows the look when it starts."))
    if component.effect == "at once":
        words = tr("It reads its files by itself.") if own else component.restart
        return Call(component.id, title, "follows", words)
    if component.effect == "restart":
        return Call(component.id, title, "restart", component.restart, restarts)
    return Call(component.id, title, "needs you", component.restart, restarts)


def _by_settings(
    id_: str, title: str, rows: Collection[SettingRow], session: DesktopSession, shown: Mapping[str, str]
) -> Call:  # fmt: skip
    """Answer by what the settings are when they are read back, and by what the desktop publishes of them."""
    other = [row for row in rows if row.after is not None and not session.read(row.setting).has(row.after)]
    if other:
        names = parted(dict.fromkeys(f"“{row.title or row.key}”" for row in other))
        return Call(id_, title, "differs", tr("{names} was edited since the look was applied.").format(names=names))
    if shown and not any(name in shown for name in _PUBLISHED.values()) and any(r.key in _PUBLISHED for r in rows):
        words = tr("No X settings daemon publishes the theme here, so programs show it when they start.")
        return Call(id_, title, "later", words)
    published = [(row, shown[name]) for row in rows if (name := _PUBLISHED.get(row.key, "")) in shown]
    behind = [row for row, value in published if value != row.after]
    if behind and session.desktop not in ("", "gnome"):
        words = tr("The setting is correct, but the desktop still publishes “{published}”.").format(
            published=published[0][1]
        )
        return Call(id_, title, "needs you", words)
    words = (
        tr("The setting was verified, and the desktop publishes it.") if published else tr("The setting was verified.")
    )
    return Call(id_, title, "follows", words)


def _by_way(component: Component, running: Collection[str], told: Mapping[str, NotifyResult], restarts: bool) -> Call:
    id_, title = component.id, component.title
    if not any(way.program in running for way in component.follow):
        return Call(id_, title, "later", tr("It is not running now; it shows the look when it starts."))
    answer = told.get(id_)
    if answer is None or answer.outcome == "not running":
        return Call(id_, title, "told", tr("A reload was requested when the look was applied."), restarts)
    if answer.outcome == "told":
        return Call(id_, title, "told", tr("A reload of its files was requested."), restarts)
    why = f": {answer.words}" if answer.words else ""
    how = tr("It rejected the change") if answer.outcome == "refused" else tr("The reload request failed")
    return Call(id_, title, "needs you", f"{how}{why}. {component.restart}", restarts)


def counted(calls: Sequence[Call]) -> str:
    """Return how many follow, will follow, and need an action, in a line."""
    follow = sum(call.state in ("follows", "told") for call in calls)
    later = sum(call.state == "later" for call in calls)
    left = sum(not call.settled for call in calls)
    rows = (
        plural("{count} follows", "{count} follow", follow) if follow else "",
        plural("{count} will follow when it starts", "{count} will follow when they start", later) if later else "",
        plural("{count} needs an action", "{count} need an action", left) if left else "",
    )
    return comma_separated(filter(None, rows))
