"""When the sun rises and sets at a place, worked out here without any network.

The general solar position of NOAA's calculator: J. Meeus, "Astronomical Algorithms" (2nd ed., 1998), chapter 25, low
accuracy; the upper limb on the horizon with a refraction of 34 arc minutes. Good to about a minute below the polar
circles.
"""

from __future__ import annotations

import math
from datetime import UTC, date, datetime, time, timedelta
from typing import Literal, NamedTuple

_HORIZON_DEG = -0.833  # of the sun's middle when its upper limb is seen on the horizon
_TURNS = 4  # each works the time out once more for where the sun is at the time found before
_MINUTES_A_DEGREE = 4.0

Polar = Literal["", "up", "down"]


class Day(NamedTuple):
    """One day's light at a place, times in UTC. polar: "up" or "down" where the sun neither rises nor sets."""

    rise: datetime
    set: datetime
    polar: Polar = ""

    def is_light(self, now: datetime) -> bool:
        """Tell whether the sun is up at a moment of that day."""
        return self.polar == "up" or (not self.polar and self.rise <= now < self.set)


def day_at(latitude: float, longitude: float, day: date) -> Day:
    """Return sunrise and sunset of the day around the sun's highest place there.

    latitude: -90..90, north positive; longitude: -180..180, east positive. Raises ValueError outside of these.
    """
    if not (-90 <= latitude <= 90 and -180 <= longitude <= 180):
        raise ValueError("no place on earth")
    start = datetime.combine(day, time(), UTC)
    noon = 720 - _MINUTES_A_DEGREE * longitude
    for _ in range(2):
        noon = 720 - _MINUTES_A_DEGREE * longitude - _equation_of_time(start + timedelta(minutes=noon))
    found: list[datetime] = []
    for side in (-1, 1):
        minutes = noon
        for _ in range(_TURNS):
            moment = start + timedelta(minutes=minutes)
            declination = math.radians(_declination(moment))
            height = math.sin(math.radians(_HORIZON_DEG)) - math.sin(math.radians(latitude)) * math.sin(declination)
            cosine = height / max(1e-9, math.cos(math.radians(latitude)) * math.cos(declination))
            if abs(cosine) > 1:
                polar: Polar = "up" if cosine < -1 else "down"
                middle = start + timedelta(minutes=noon)
                return Day(middle - timedelta(hours=12), middle + timedelta(hours=12), polar)
            middle_minutes = 720 - _MINUTES_A_DEGREE * longitude - _equation_of_time(moment)
            minutes = middle_minutes + side * _MINUTES_A_DEGREE * math.degrees(math.acos(cosine))
        found.append(start + timedelta(minutes=minutes))
    return Day(found[0], found[1])


def _century(moment: datetime) -> float:
    """Return the time in Julian centuries since 2000-01-01 12:00."""
    return (moment - datetime(2000, 1, 1, 12, tzinfo=UTC)) / timedelta(days=36525)


def _sun(moment: datetime) -> tuple[float, float, float, float]:
    """Return the sun's mean longitude, mean anomaly and apparent longitude (degrees), and the eccentricity."""
    t = _century(moment)
    mean = (280.46646 + t * (36000.76983 + 0.0003032 * t)) % 360
    anomaly = 357.52911 + t * (35999.05029 - 0.0001537 * t)
    eccentricity = 0.016708634 - t * (0.000042037 + 0.0000001267 * t)
    m = math.radians(anomaly)
    centre = (
        math.sin(m) * (1.914602 - t * (0.004817 + 0.000014 * t))
        + math.sin(2 * m) * (0.019993 - 0.000101 * t)
        + math.sin(3 * m) * 0.000289
    )
    apparent = mean + centre - 0.00569 - 0.00478 * math.sin(math.radians(125.04 - 1934.136 * t))
    return mean, anomaly, apparent, eccentricity


def _obliquity(moment: datetime) -> float:
    t = _century(moment)
    mean = 23 + (26 + (21.448 - t * (46.815 + t * (0.00059 - t * 0.001813))) / 60) / 60
    return mean + 0.00256 * math.cos(math.radians(125.04 - 1934.136 * t))


def _declination(moment: datetime) -> float:
    """Return the sun's declination in degrees."""
    apparent = math.radians(_sun(moment)[2])
    return math.degrees(math.asin(math.sin(math.radians(_obliquity(moment))) * math.sin(apparent)))


def _equation_of_time(moment: datetime) -> float:
    """Return by how many minutes the sun is ahead of the clock."""
    mean, anomaly, _, e = _sun(moment)
    y = math.tan(math.radians(_obliquity(moment)) / 2) ** 2
    twice, m = math.radians(2 * mean), math.radians(anomaly)
    return (
        math.degrees(
            y * math.sin(twice)
            - 2 * e * math.sin(m)
            + 4 * e * y * math.sin(m) * math.cos(twice)
            - 0.5 * y * y * math.sin(2 * twice)
            - 1.25 * e * e * math.sin(2 * m)
        )
        * _MINUTES_A_DEGREE
    )
