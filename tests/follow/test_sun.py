"""Sunrise and sunset against an ephemeris, and all over the earth against a formula of our own."""

from __future__ import annotations

import math
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.follow.rules import Rules
from mellow_finch.follow.sun import checked_place, next_change, sun_is_up

# Made with an astronomer's ephemeris: upper limb, refraction of 34 arc minutes, times in UTC.
TABLE = (
    ("Reykjavik", 64.1466, -21.9426, "2026-03-20", "2026-03-20T07:28", "2026-03-20T19:43"),
    ("Reykjavik", 64.1466, -21.9426, "2026-06-21", "2026-06-21T02:55", "2026-06-22T00:03"),
    ("Reykjavik", 64.1466, -21.9426, "2026-09-23", "2026-09-23T07:13", "2026-09-23T19:25"),
    ("Reykjavik", 64.1466, -21.9426, "2026-12-21", "2026-12-21T11:22", "2026-12-21T15:29"),
    ("London", 51.5074, -0.1278, "2026-03-20", "2026-03-20T06:03", "2026-03-20T18:13"),
    ("London", 51.5074, -0.1278, "2026-06-21", "2026-06-21T03:43", "2026-06-21T20:21"),
    ("London", 51.5074, -0.1278, "2026-09-23", "2026-09-23T05:48", "2026-09-23T17:56"),
    ("London", 51.5074, -0.1278, "2026-12-21", "2026-12-21T08:03", "2026-12-21T15:53"),
    ("Berlin", 52.52, 13.405, "2026-03-20", "2026-03-20T05:09", "2026-03-20T17:19"),
    ("Berlin", 52.52, 13.405, "2026-06-21", "2026-06-21T02:43", "2026-06-21T19:33"),
    ("Berlin", 52.52, 13.405, "2026-09-23", "2026-09-23T04:53", "2026-09-23T17:02"),
    ("Berlin", 52.52, 13.405, "2026-12-21", "2026-12-21T07:14", "2026-12-21T14:53"),
    ("Madrid", 40.4168, -3.7038, "2026-03-20", "2026-03-20T06:18", "2026-03-20T18:26"),
    ("Madrid", 40.4168, -3.7038, "2026-06-21", "2026-06-21T04:44", "2026-06-21T19:48"),
    ("Madrid", 40.4168, -3.7038, "2026-09-23", "2026-09-23T06:03", "2026-09-23T18:10"),
    ("Madrid", 40.4168, -3.7038, "2026-12-21", "2026-12-21T07:34", "2026-12-21T16:51"),
    ("New York", 40.7128, -74.006, "2026-03-20", "2026-03-20T10:59", "2026-03-20T23:08"),
    ("New York", 40.7128, -74.006, "2026-06-21", "2026-06-21T09:25", "2026-06-22T00:30"),
    ("New York", 40.7128, -74.006, "2026-09-23", "2026-09-23T10:44", "2026-09-23T22:51"),
    ("New York", 40.7128, -74.006, "2026-12-21", "2026-12-21T12:16", "2026-12-21T21:31"),
    ("Singapore", 1.3521, 103.8198, "2026-03-20", "2026-03-19T23:09", "2026-03-20T11:15"),
    ("Singapore", 1.3521, 103.8198, "2026-06-21", "2026-06-20T23:00", "2026-06-21T11:12"),
    ("Singapore", 1.3521, 103.8198, "2026-09-23", "2026-09-22T22:53", "2026-09-23T11:00"),
    ("Singapore", 1.3521, 103.8198, "2026-12-21", "2026-12-20T23:01", "2026-12-21T11:04"),
    ("Nairobi", -1.2921, 36.8219, "2026-03-20", "2026-03-20T03:36", "2026-03-20T15:43"),
    ("Nairobi", -1.2921, 36.8219, "2026-06-21", "2026-06-21T03:33", "2026-06-21T15:35"),
    ("Nairobi", -1.2921, 36.8219, "2026-09-23", "2026-09-23T03:21", "2026-09-23T15:28"),
    ("Nairobi", -1.2921, 36.8219, "2026-12-21", "2026-12-21T03:24", "2026-12-21T15:36"),
    ("Sydney", -33.8688, 151.2093, "2026-03-20", "2026-03-19T19:57", "2026-03-20T08:06"),
    ("Sydney", -33.8688, 151.2093, "2026-06-21", "2026-06-20T20:59", "2026-06-21T06:53"),
    ("Sydney", -33.8688, 151.2093, "2026-09-23", "2026-09-22T19:43", "2026-09-23T07:51"),
    ("Sydney", -33.8688, 151.2093, "2026-12-21", "2026-12-20T18:40", "2026-12-21T09:05"),
    ("Ushuaia", -54.8019, -68.303, "2026-03-20", "2026-03-20T10:34", "2026-03-20T22:45"),
    ("Ushuaia", -54.8019, -68.303, "2026-06-21", "2026-06-21T12:58", "2026-06-21T20:11"),
    ("Ushuaia", -54.8019, -68.303, "2026-09-23", "2026-09-23T10:18", "2026-09-23T22:33"),
    ("Ushuaia", -54.8019, -68.303, "2026-12-21", "2026-12-21T07:51", "2026-12-22T01:11"),
    ("Tromso", 69.6492, 18.9553, "2026-03-20", "2026-03-20T04:43", "2026-03-20T17:01"),
    ("Tromso", 69.6492, 18.9553, "2026-06-21", "up", "up"),
    ("Tromso", 69.6492, 18.9553, "2026-09-23", "2026-09-23T04:27", "2026-09-23T16:43"),
    ("Tromso", 69.6492, 18.9553, "2026-12-21", "down", "down"),
)


@pytest.mark.parametrize("row", TABLE, ids=lambda row: f"{row[0]} {row[3]}")
def test_it_agrees_with_the_tables_within_two_minutes(row):
    _, latitude, longitude, day, rise, set_ = row
    if rise in ("up", "down"):
        noon = datetime.fromisoformat(day).replace(hour=12, tzinfo=UTC)
        assert sun_is_up(latitude, longitude, noon) == (rise == "up")
        assert next_change(latitude, longitude, noon) is None
        return
    for theirs in (rise, set_):
        moment = datetime.fromisoformat(theirs).replace(tzinfo=UTC)
        found = next_change(latitude, longitude, moment - timedelta(hours=1))
        assert found is not None and abs(found - moment) <= timedelta(minutes=2)
    assert sun_is_up(latitude, longitude, datetime.fromisoformat(rise).replace(tzinfo=UTC) + timedelta(minutes=3))


# Sixty places in every zone there is, the far east and the far west of the date line among them.
PLACES = (
    ("Pacific/Apia", -13.83, -171.77), ("Pacific/Tongatapu", -21.13, -175.2), ("Pacific/Chatham", -43.95, -176.55),
    ("Pacific/Midway", 28.2, -177.37), ("America/Adak", 51.88, -176.66), ("America/Anchorage", 61.22, -149.9),
    ("Pacific/Honolulu", 21.31, -157.86), ("Pacific/Kiritimati", 1.87, -157.4), ("Pacific/Pago_Pago", -14.28, -170.7),
    ("Pacific/Marquesas", -9.0, -139.5), ("Pacific/Gambier", -23.12, -134.97), ("America/Los_Angeles", 34.05, -118.24),
    ("America/Whitehorse", 60.72, -135.06), ("America/Denver", 39.74, -104.99), ("America/Mexico_City", 19.43, -99.13),
    ("America/Chicago", 41.88, -87.63), ("Pacific/Galapagos", -0.75, -90.3), ("Pacific/Easter", -27.15, -109.43),
    ("America/New_York", 40.71, -74.01), ("America/Lima", -12.05, -77.05), ("America/Caracas", 10.48, -66.9),
    ("America/Halifax", 44.65, -63.58), ("America/St_Johns", 47.56, -52.71), ("America/Santiago", -33.45, -70.67),
    ("America/Punta_Arenas", -53.16, -70.91), ("America/Sao_Paulo", -23.55, -46.63), ("America/Nuuk", 64.18, -51.72),
    ("America/Noronha", -3.85, -32.42), ("Atlantic/South_Georgia", -54.28, -36.5), ("Atlantic/Azores", 37.74, -25.67),
    ("Atlantic/Cape_Verde", 14.93, -23.51), ("Atlantic/Reykjavik", 64.15, -21.94), ("Europe/London", 51.51, -0.13),
    ("Africa/Lagos", 6.45, 3.39), ("Europe/Berlin", 53.6, 8.2), ("Europe/Oslo", 59.91, 10.75),
    ("Arctic/Longyearbyen", 78.22, 15.65), ("Africa/Johannesburg", -26.2, 28.05), ("Europe/Helsinki", 60.17, 24.94),
    ("Africa/Nairobi", -1.29, 36.82), ("Europe/Moscow", 55.75, 37.62), ("Asia/Tehran", 35.69, 51.39),
    ("Asia/Dubai", 25.2, 55.27), ("Asia/Kabul", 34.53, 69.17), ("Asia/Karachi", 24.86, 67.01),
    ("Indian/Kerguelen", -49.35, 70.22), ("Asia/Kolkata", 22.57, 88.36), ("Asia/Kathmandu", 27.7, 85.32),
    ("Asia/Dhaka", 23.81, 90.41), ("Asia/Yangon", 16.87, 96.2), ("Asia/Novosibirsk", 55.01, 82.94),
    ("Asia/Bangkok", 13.76, 100.5), ("Asia/Shanghai", 31.23, 121.47), ("Australia/Eucla", -31.68, 128.88),
    ("Asia/Tokyo", 35.68, 139.69), ("Australia/Adelaide", -34.93, 138.6), ("Australia/Lord_Howe", -31.55, 159.08),
    ("Asia/Magadan", 59.57, 150.8), ("Pacific/Norfolk", -29.04, 167.95), ("Pacific/Auckland", -36.85, 174.76),
)  # fmt: skip


def height_deg(latitude, longitude, moment):
    """Return the sun's height by the low-precision formulas of the Astronomical Almanac (page C5), no refraction."""
    n = (moment - datetime(2000, 1, 1, 12, tzinfo=UTC)) / timedelta(days=1)
    mean, anomaly = 280.46 + 0.9856474 * n, math.radians(357.528 + 0.9856003 * n)
    ecliptic = math.radians(mean + 1.915 * math.sin(anomaly) + 0.02 * math.sin(2 * anomaly))
    tilt = math.radians(23.439 - 4e-7 * n)
    right = math.atan2(math.cos(tilt) * math.sin(ecliptic), math.cos(ecliptic))
    declination = math.asin(math.sin(tilt) * math.sin(ecliptic))
    sidereal = math.radians((18.697374558 + 24.06570982441908 * n) % 24 * 15 + longitude)
    phi = math.radians(latitude)
    return math.degrees(
        math.asin(
            math.sin(phi) * math.sin(declination) + math.cos(phi) * math.cos(declination) * math.cos(sidereal - right)
        )
    )


@pytest.mark.long
@pytest.mark.some(2)
@pytest.mark.parametrize("place", PLACES, ids=lambda place: place[0])
def test_every_day_of_a_year_the_half_turns_when_the_sun_does_within_two_minutes(place):
    """Each turn is where the other formula says that the horizon is crossed: two minutes before and after, all is settled."""
    zone, latitude, longitude = place
    rules, moment = Rules(day="sun", place=(latitude, longitude)), datetime(2028, 1, 1, 0, 7, tzinfo=ZoneInfo(zone))
    end, around, turns = moment + timedelta(days=366), timedelta(minutes=2), 0
    while moment < end:
        turn = rules.next_turn(moment)
        assert timedelta(0) < turn.astimezone(UTC) - moment.astimezone(UTC) <= timedelta(hours=26)
        before, after = (rules.tone(turn + d, None, "dark") for d in (-around, around))
        if before != after:
            turns += 1
            heights = [height_deg(latitude, longitude, (turn + d).astimezone(UTC)) for d in (-around, around)]
            low, high = sorted(heights)
            assert low - 0.02 <= -0.833 <= high + 0.02, (turn, heights)
        middle = moment.astimezone(UTC) + (turn.astimezone(UTC) - moment.astimezone(UTC)) / 2
        height = height_deg(latitude, longitude, middle)
        if abs(height + 0.833) > 0.3:
            assert rules.tone(middle, None, "dark") == ("light" if height > -0.833 else "dark"), middle
        moment = turn + timedelta(seconds=1)
    assert turns >= (400 if abs(latitude) > 66 else 720) - (300 if abs(latitude) > 75 else 0)


@given(st.floats(-66, 66), st.floats(-180, 180), st.datetimes(datetime(2020, 1, 1), datetime(2060, 12, 31)))
def test_below_the_polar_circles_the_sun_turns_within_a_day_and_stays_so(latitude, longitude, moment):
    now = moment.replace(tzinfo=UTC)
    turn = next_change(latitude, longitude, now)
    if turn is not None:
        assert now < turn and sun_is_up(latitude, longitude, turn) != sun_is_up(latitude, longitude, now)


@pytest.mark.parametrize("place", [(91, 0), (0, 181), (-91, 0), (0, -200)])
def test_no_place_on_earth(place):
    with pytest.raises(ValueError):
        checked_place(*place)


def test_a_day_has_its_date():
    rules = Rules(turn=("a", "b"))
    assert rules.look_of(date(2026, 1, 1)) != rules.look_of(date(2026, 1, 2))
