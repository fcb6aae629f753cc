"""Sunrise and sunset against an ephemeris: ten places, four dates, polar day and night among them."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.follow.sun import day_at

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
    found = day_at(latitude, longitude, date.fromisoformat(day))
    if rise in ("up", "down"):
        assert found.polar == rise
        assert found.is_light(found.rise + timedelta(hours=12)) == (rise == "up")
        return
    assert not found.polar
    for ours, theirs in ((found.rise, rise), (found.set, set_)):
        assert abs(ours - datetime.fromisoformat(theirs).replace(tzinfo=UTC)) <= timedelta(minutes=2)


@given(st.floats(-66, 66), st.floats(-180, 180), st.dates(date(2020, 1, 1), date(2060, 12, 31)))
def test_below_the_polar_circles_every_day_has_a_rise_and_a_set_in_order(latitude, longitude, day):
    found = day_at(latitude, longitude, day)
    if not found.polar:
        assert timedelta(0) < found.set - found.rise < timedelta(hours=24)
        middle = found.rise + (found.set - found.rise) / 2
        assert found.is_light(middle) and not found.is_light(found.set)


@pytest.mark.parametrize("place", [(91, 0), (0, 181), (-91, 0), (0, -200)])
def test_no_place_on_earth(place):
    with pytest.raises(ValueError):
        day_at(*place, date(2026, 6, 21))
