"""What is followed: the rules that a person set, kept in one small file."""

from __future__ import annotations

import json
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta, tzinfo
from pathlib import Path
from typing import Any, Literal, get_args

from ..disk.facts import read_plain
from ..disk.own import config_folder
from ..disk.write import save
from ..errors import ParseError
from ..language import parted, tr
from ..palette.recipe import Tone
from .sun import checked_place, next_change, sun_is_up

DayRule = Literal["none", "sun", "clock", "desktop"]
DAY_RULES: Mapping[DayRule, str] = {
    "none": tr("always the look's own variant"),
    "sun": tr("light from sunrise to sunset, otherwise dark"),
    "clock": tr("light and dark at set times"),
    "desktop": tr("light or dark as the desktop is set"),
}
_MOST = 20_000


@dataclass(frozen=True, slots=True)
class Rules:
    """The rules.

    look: the id or name of a saved look, empty for the one kept last; night: that of the dark half, empty for the same;
    picture: whether a new wallpaper gives a new look with the controls and locks of that one; kept: whether one that is
    the picture of a saved look gives that look instead; turn: saved looks of which each has a day; place: latitude and
    longitude; light_at, dark_at: local times; paused: whether nothing is followed just now.
    """

    look: str = ""
    night: str = ""
    picture: bool = True
    kept: bool = True
    day: DayRule = "none"
    place: tuple[float, float] | None = None
    light_at: time = time(7)
    dark_at: time = time(19)
    turn: tuple[str, ...] = ()
    paused: bool = False

    def tone(self, now: datetime, prefers_dark: bool | None, own: Tone) -> Tone:
        """Return the half that is wanted at a moment; now: with its zone."""
        if self.day == "sun" and self.place is not None:
            return "light" if sun_is_up(*self.place, now) else "dark"
        if self.day == "clock":
            return "light" if self.light_at <= now.time() < self.dark_at else "dark"
        if self.day == "desktop" and prefers_dark is not None:
            return "dark" if prefers_dark else "light"
        return own

    def look_of(self, day: date) -> str:
        """Return the kept look that has a day, empty for what is worn."""
        return self.turn[day.toordinal() % len(self.turn)] if self.turn else self.look

    def light_between(self, now: datetime) -> tuple[time, time] | None:
        """Return from when to when a day is light, None where that is not known or never changes.

        now: with its zone.
        """
        if self.day == "clock":
            return self.light_at, self.dark_at
        if self.day != "sun" or self.place is None:
            return None
        midnight = datetime.combine(now.date(), time(0, 0), now.tzinfo)
        first = next_change(*self.place, midnight)
        last = next_change(*self.place, first + timedelta(minutes=1)) if first is not None else None
        if first is None or last is None:
            return None
        turns = (first, last) if not sun_is_up(*self.place, midnight) else (last, first)
        return turns[0].time(), turns[1].time()

    def next_turn(self, now: datetime) -> datetime:
        """Return when something changes by itself next; tomorrow's first minute at the latest."""
        midnight = datetime.combine(now.date() + timedelta(days=1), time(0, 1), now.tzinfo)
        rows = [midnight]
        if self.day == "clock":
            rows += [
                _at(now.date() + timedelta(days=d), t, now.tzinfo)
                for d in (0, 1)
                for t in (self.light_at, self.dark_at)
            ]
        elif self.day == "sun" and self.place is not None:
            turn = next_change(*self.place, now)
            rows += [turn] if turn is not None else []
        return min(moment for moment in rows if moment > now)

    def as_toml(self) -> str:
        """Return the rules as their file."""
        rows = [
            f"look = {json.dumps(self.look)}",
            f"night = {json.dumps(self.night)}",
            f"kept = {str(self.kept).lower()}",
            f"picture = {str(self.picture).lower()}",
            f"day = {json.dumps(self.day)}",
        ]
        if self.place is not None:
            rows.append(f"place = [{self.place[0]:g}, {self.place[1]:g}]")
        rows += [f'light_at = "{self.light_at:%H:%M}"', f'dark_at = "{self.dark_at:%H:%M}"']
        rows += [f"turn = {json.dumps(list(self.turn))}", f"paused = {str(self.paused).lower()}"]
        return "".join(f"{row}\n" for row in rows)


def _at(day: date, moment: time, zone: tzinfo | None) -> datetime:
    return datetime.combine(day, moment, zone)


def clock_time(text: str) -> time:
    """Return a time of the clock on the wall; raises ValueError for one that names a zone, as for what is none."""
    found = time.fromisoformat(text)
    if found.tzinfo is not None:
        raise ValueError(tr("“{time}” contains a time zone; times here are local").format(time=text))
    return found


def rules_from(text: str) -> Rules:
    """Read rules; raises ParseError with a sentence that says what is wrong."""
    try:
        data: dict[str, Any] = tomllib.loads(text)
    except (tomllib.TOMLDecodeError, RecursionError) as error:
        raise ParseError(tr("The rules for following cannot be read: {error}.").format(error=error)) from error
    try:
        day = data.get("day", "none")
        if day not in get_args(DayRule):
            raise ValueError(tr("“{day}” is not one of {names}").format(day=day, names=parted(get_args(DayRule))))
        place = data.get("place")
        found = None if place is None else checked_place(float(place[0]), float(place[1]))
        rules = Rules(
            look=str(data.get("look", "")),
            night=str(data.get("night", "")),
            kept=bool(data.get("kept", True)),
            picture=bool(data.get("picture", True)),
            day=day,
            place=found,
            light_at=clock_time(data.get("light_at", "07:00")),
            dark_at=clock_time(data.get("dark_at", "19:00")),
            turn=tuple(str(t) for t in data.get("turn", ())),
            paused=bool(data.get("paused", False)),
        )
    except (ValueError, TypeError, IndexError, KeyError) as error:
        raise ParseError(tr("The rules for following cannot be read: {error}.").format(error=error)) from error
    if rules.day == "sun" and rules.place is None:
        raise ParseError(tr("Sunrise and sunset need a location."), hint=tr("Set it with --place LATITUDE,LONGITUDE."))
    return rules


def rules_file() -> Path:
    """Return where the rules are kept."""
    return config_folder() / "follow.toml"


def load_rules(path: Path | None = None) -> Rules:
    """Return the person's rules, the usual ones where none were set. Raises ParseError."""
    data = read_plain(path or rules_file(), _MOST)
    return rules_from(data.decode("utf-8", "replace")) if data else Rules()


def save_rules(rules: Rules, path: Path | None = None) -> None:
    """Keep rules. Raises FileAccessError."""
    place = path or rules_file()
    place.parent.mkdir(parents=True, exist_ok=True)
    save(place, rules.as_toml().encode("utf-8"))


def paused(rules: Rules, on: bool) -> Rules:
    """Return the rules, followed or not."""
    return replace(rules, paused=on)
