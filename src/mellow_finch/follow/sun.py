"""Whether the sun is up at a place, and when that changes next, worked out here without any network.

A well-kept library does the astronomy. Both questions are asked of a moment, not of a calendar's day: in the far east
and west the sun's day is another one than the calendar's.
"""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

_HORIZON_DEG = -0.833  # of the sun's middle when its upper limb is seen on the horizon, refraction included
_STEP = timedelta(minutes=20)  # shorter than any day or night that is looked for
_FOUND = timedelta(seconds=20)
_LONGEST = timedelta(hours=30)


def checked_place(latitude: float, longitude: float) -> tuple[float, float]:
    """Return a place; raises ValueError for one that is none.

    latitude: -90..90, north positive; longitude: -180..180, east positive.
    """
    if not (-90 <= latitude <= 90 and -180 <= longitude <= 180):
        raise ValueError("no place on earth")
    return latitude, longitude


def sun_is_up(latitude: float, longitude: float, now: datetime) -> bool:
    """Tell whether some of the sun is above the horizon; now: with its zone."""
    from astral import Observer
    from astral.sun import elevation

    here = Observer(latitude, longitude)
    return float(elevation(here, now.astimezone(UTC), with_refraction=False)) > _HORIZON_DEG


def next_change(latitude: float, longitude: float, now: datetime) -> datetime | None:
    """Return when the sun rises or sets next, in the zone of now; None where it does neither within thirty hours."""
    start = late = now.astimezone(UTC)
    up = sun_is_up(latitude, longitude, start)
    while late - start < _LONGEST:
        early, late = late, late + _STEP
        if sun_is_up(latitude, longitude, late) == up:
            continue
        while late - early > _FOUND:
            middle = early + (late - early) / 2
            if sun_is_up(latitude, longitude, middle) == up:
                early = middle
            else:
                late = middle
        return late.astimezone(now.tzinfo)
    return None
