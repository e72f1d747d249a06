"""A year of light at a viewpoint: day of year by time of day, as EV."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta

import numpy as np
from sqlalchemy.orm import Session

from ...core.light.light_at_place import LightAtPlace
from ...core.light.skyline import clearance_deg
from ...core.light.track import moon_track, sun_track
from ...core.spans.instants import local_day, zone_info
from ..platform import rows
from ..shots.facts import core_location

DAYS, STEP_MIN = 365, 15


@dataclass(frozen=True)
class Carpet:
    """The light of a year.

    first: the first local date. ev100[day][slot]: whole EV for each step_min of local time. hidden: sun behind the
    land by day.
    """

    first: date
    step_min: int
    ev100: list[list[int]]
    hidden: list[list[bool]]


def year_carpet(session: Session, owner_id: int, viewpoint_id: int, first: date) -> Carpet:
    """Return the clear-sky light of a year from a local date, in the viewpoint's local time."""
    point = rows.viewpoint(session, owner_id, viewpoint_id)
    here = core_location(point.location, point)
    zone = zone_info(here.zone)
    local_day(first, here.zone), local_day(first + timedelta(days=DAYS), here.zone)
    # Each day uses its clock at noon, so on the two days of clock changes the small hours are one hour off.
    noons = [
        datetime.combine(first + timedelta(days=number), time(12), tzinfo=zone).astimezone(UTC)
        for number in range(DAYS)
    ]
    slots = (np.arange(24 * 60 // STEP_MIN) * STEP_MIN - 720) * 60.0
    seconds = np.array([noon.timestamp() for noon in noons])[:, None] + slots
    span = noons[0] - timedelta(hours=13), noons[-1] + timedelta(hours=13)
    track = sun_track(here.latitude_deg, here.longitude_deg, here.elevation_m, *span)
    moon = moon_track(here.latitude_deg, here.longitude_deg, here.elevation_m, *span)
    shade = np.asarray(clearance_deg(track, here.skyline, seconds)) < 0
    altitude = np.asarray(track.altitude_deg(seconds))
    ev = np.asarray(LightAtPlace(track, moon, here.skyline).ev100(seconds))
    return Carpet(first, STEP_MIN, np.rint(ev).astype(int).tolist(), (shade & (altitude > -5 / 6)).tolist())
