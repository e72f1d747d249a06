"""A day of light as its response body."""

from __future__ import annotations

from datetime import date, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from ...core.light.day import LightDay, light_curve
from ...core.light.instants import unix_seconds
from ...core.planning.facts import Location
from ...core.planning.light import day_of_light
from ...core.units.lengths import compass_point
from ..schemas import light as out

_WORDS = {
    "sunrise": "sunrise",
    "sunset": "sunset",
    "transit": "sun highest",
    "civil_dawn": "civil dawn",
    "civil_dusk": "civil dusk",
    "nautical_dawn": "nautical dawn",
    "nautical_dusk": "nautical dusk",
    "astronomical_dawn": "astronomical dawn",
    "astronomical_dusk": "astronomical dusk",
}
_ABSENCE_WORDS = {
    "always_above": "The sun stays up all day: no sunset.",
    "always_below": "The sun stays down all day: no sunrise.",
}
_EVERY = 3  # a drawing a thousand pixels wide shows no more than every third minute


def present_light_day(location: Location, day: date) -> out.LightDayOut:
    """Return events, bands and curves of a local day; clock times as that place's clocks show them."""
    light = day_of_light(location, day)
    zone = ZoneInfo(location.zone)
    curve = light_curve(location.latitude_deg, location.longitude_deg, location.elevation_m, light.start_utc, light.end_utc)
    start = float(unix_seconds(light.start_utc))
    length = (light.end_utc - light.start_utc).total_seconds()
    noon = next((event for event in light.events if event.kind == "transit"), None)
    highest = int(np.argmax(curve.altitude_deg))
    azimuth_at_noon = noon.azimuth_deg if noon else float(curve.azimuth_deg[highest])
    absence = light.absences["sun"]
    return out.LightDayOut(
        date_local=day,
        zone=location.zone,
        start_utc=light.start_utc,
        length_s=length,
        hours=_hours(light, zone),
        events=[
            out.SunEventOut(
                kind=event.kind, words=_WORDS[event.kind], time_utc=event.time_utc,
                clock=event.time_utc.astimezone(zone).strftime("%H:%M"), seconds=float(unix_seconds(event.time_utc)) - start,
                altitude_deg=event.altitude_deg, azimuth_deg=event.azimuth_deg, compass=compass_point(event.azimuth_deg),
            )
            for event in light.events
        ],
        absence=absence,
        absence_words=_ABSENCE_WORDS[absence] if absence else None,
        bands=[
            out.LightBandOut(
                kind=band.kind, from_s=float(unix_seconds(band.span.start_utc)) - start, to_s=float(unix_seconds(band.span.end_utc)) - start,
                start_clock=band.span.start_utc.astimezone(zone).strftime("%H:%M"), end_clock=band.span.end_utc.astimezone(zone).strftime("%H:%M"),
                before=band.span.starts_before, after=band.span.ends_after,
            )
            for band in light.bands
        ],
        curve_step_s=float(curve.time_s[_EVERY]),
        curve_ev100=np.round(curve.ev100[::_EVERY], 3).tolist(),
        curve_altitude_deg=np.round(curve.altitude_deg[::_EVERY], 3).tolist(),
        curve_azimuth_deg=np.round(curve.azimuth_deg[::_EVERY], 2).tolist(),
        noon_compass=compass_point(azimuth_at_noon),
    )  # fmt: skip


def _hours(light: LightDay, zone: ZoneInfo) -> list[out.TickOut]:
    """Return a tick for every full hour that the local clocks show, so that clock changes are drawn as they are."""
    ticks = []
    moment = light.start_utc
    while moment <= light.end_utc:
        local = moment.astimezone(zone)
        if local.minute == 0:
            ticks.append(out.TickOut(seconds=(moment - light.start_utc).total_seconds(), label=f"{local.hour:02d}"))
        moment += timedelta(minutes=15)
    return ticks
