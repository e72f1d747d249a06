"""A day of light as its response body."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np

from ....core.facts.place import Location
from ....core.light.day import LightDay, clear_sky_ev100
from ....core.light.ephemeris import apparent_altitude_deg
from ....core.light.events import SunEvent
from ....core.light.meter import MeterReading
from ....core.light.moon import moon_phase, phase_words
from ....core.light.season import intersect
from ....core.light.skyline import LEVEL, shows
from ....core.planning.light.plan import day_of_light, day_shift_stops
from ....core.spans.instants import unix_seconds
from ....core.spans.intervals import Interval
from ....core.tides.heights import slack_spans, tide_events
from ....core.tides.table import TideTable
from ....core.units.lengths import compass_point
from ....core.units.spelling import WEEKDAYS, format_clock, format_hour, format_moment
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
    "moonrise": "moonrise",
    "moonset": "moonset",
    "moon_transit": "moon highest",
}
_ABSENCE_WORDS = {
    "always_above": "The sun stays up all day: no sunset.",
    "always_below": "The sun stays down all day: no sunrise.",
}
_MOON_ABSENCE_WORDS = {"always_above": "The moon stays up all day.", "always_below": "The moon stays down all day."}
# A drawing a thousand pixels wide shows no more than every third minute.
_STEP_S = 180.0
_LEAST_SHADOW_S = 120.0


class LocalDay:
    """Converts instants of a local day to its clock times and seconds."""

    def __init__(self, light: LightDay) -> None:
        self.zone = ZoneInfo(light.zone)
        middle = light.start_utc + (light.end_utc - light.start_utc) / 2
        self.day = middle.astimezone(self.zone).date()
        self.start_s, self.end_utc = float(unix_seconds(light.start_utc)), light.end_utc

    def clock(self, moment: datetime) -> str:
        """Return the local time, with its day if it is another one; midnight at the day's end belongs to the day."""
        local = moment.astimezone(self.zone)
        return format_clock(local) if moment == self.end_utc else format_moment(local, self.day)

    def short(self, moment: datetime) -> str:
        """Return the local time, with its weekday if it is another day."""
        local = moment.astimezone(self.zone)
        return (
            format_clock(local)
            if local.date() == self.day or moment == self.end_utc
            else f"{format_clock(local)} {WEEKDAYS[local.weekday()]}"
        )

    def seconds(self, moment: datetime) -> float:
        return float(unix_seconds(moment)) - self.start_s

    def span(self, span: Interval) -> out.SpanOut:
        return out.SpanOut(
            from_s=self.seconds(span.start_utc),
            to_s=self.seconds(span.end_utc),
            start_clock=self.clock(span.start_utc),
            end_clock=self.clock(span.end_utc),
        )

    def event(self, event: SunEvent) -> out.SunEventOut:
        return out.SunEventOut(
            kind=event.kind, words=_WORDS[event.kind], time_utc=event.time_utc, clock=self.clock(event.time_utc),
            seconds=self.seconds(event.time_utc), altitude_deg=event.altitude_deg, azimuth_deg=event.azimuth_deg,
            compass=compass_point(event.azimuth_deg),
        )  # fmt: skip


def present_light_day(location: Location, day: date, readings: tuple[MeterReading, ...] = ()) -> out.LightDayOut:
    """Return events, bands and curves of a local day, in the place's local time."""
    light = day_of_light(location, day)
    local = LocalDay(light)
    length = (light.end_utc - light.start_utc).total_seconds()
    seconds = local.start_s + np.linspace(0.0, length, round(length / _STEP_S) + 1)
    altitude, azimuth, _ = light.track.horizontal(seconds)
    shift = day_shift_stops(light, readings)
    noon = next((event for event in light.events if event.kind == "transit"), None)
    azimuth_at_noon = noon.azimuth_deg if noon else float(azimuth[int(np.argmax(altitude))])
    absence = light.absences["sun"]
    return out.LightDayOut(
        date_local=day,
        zone=location.zone,
        start_utc=light.start_utc,
        length_s=length,
        hours=_hours(light, local.zone),
        events=[local.event(event) for event in light.events],
        absence=absence,
        absence_words=_ABSENCE_WORDS[absence] if absence else None,
        missing_words=_missing_words(light),
        bands=[
            out.LightBandOut(
                kind=band.kind,
                **local.span(band.span).model_dump(),
                before=band.span.starts_before,
                after=band.span.ends_after,
            )
            for band in light.bands
        ],
        curve_step_s=float(seconds[1] - seconds[0]),
        curve_ev100=_rounded(clear_sky_ev100(altitude)),
        curve_here_ev100=_rounded(np.asarray(light.light.ev100(seconds)) + (shift or 0.0)),
        curve_shade_ev100=_rounded(light.light.shade_ev100(seconds)),
        curve_overcast_ev100=_rounded(light.light.ev100(seconds, 8.0)),
        curve_altitude_deg=_rounded(apparent_altitude_deg(altitude)),
        curve_azimuth_deg=_rounded(azimuth, 2),
        noon_compass=compass_point(azimuth_at_noon),
        has_skyline=bool(location.skyline.bearings_deg),
        skyline=[
            [float(bearing), float(location.skyline.altitude_deg(float(bearing)))] for bearing in range(0, 361, 2)
        ],
        sun_shows=[local.span(span) for span in light.sun_shows],
        shadow=[local.span(span) for span in _behind_land(light)],
        land_words=_land_words(light, local),
        moon=_moon(light, local, seconds),
        tide=_tide(location, light, local, seconds),
        shift_stops=shift,
        shift_words=_shift_words(shift),
        readings=_readings(light, local, readings),
    )


def _rounded(values: Any, digits: int = 3) -> list[float]:
    result: list[float] = np.round(np.asarray(values), digits).tolist()
    return result


def _missing_words(light: LightDay) -> list[str]:
    """Return a sentence for every missing event of the day, with its cause: always above, always below, or not on this
    day.
    """
    kinds = {event.kind for event in (*light.events, *light.moon_events)}
    words = []
    for level, down in (("civil", 6), ("nautical", 12), ("astronomical", 18)):
        if light.absences[level] == "always_above":
            words.append(f"The sun never stands {down}° down: no {level} dusk or dawn.")
        elif light.absences[level] == "always_below":
            words.append(f"The sun stays more than {down}° down all day: no {level} dawn or dusk.")
    for rise, fall, cause in (
        ("sunrise", "sunset", light.absences["sun"]),
        ("moonrise", "moonset", light.absences["moon"]),
    ):
        if cause is None:
            words += [f"No {kind} falls into this day." for kind in (rise, fall) if kind not in kinds]
    return words


def _behind_land(light: LightDay) -> list[Interval]:
    """Return when the sun is up by the almanac but behind the land."""
    if not light.skyline.bearings_deg:
        return []
    gaps, last = [], light.start_utc
    for span in light.sun_shows:
        gaps.append(Interval(last, span.start_utc, False, False))
        last = span.end_utc
    gaps.append(Interval(last, light.end_utc, False, False))
    hidden = intersect([gap for gap in gaps if gap.end_utc > gap.start_utc], shows(light.track, LEVEL))
    return [span for span in hidden if (span.end_utc - span.start_utc).total_seconds() >= _LEAST_SHADOW_S]


def _land_words(light: LightDay, local: LocalDay) -> list[str]:
    """Return the effect of the skyline on the day, such as: the sun leaves this place at 14:12, 41 min before
    sunset.
    """
    if not light.skyline.bearings_deg:
        return []
    level = shows(light.track, LEVEL)
    if not level:
        return []
    if not light.sun_shows:
        return ["The land keeps the sun off this viewpoint all day."]
    words = []
    first, last = light.sun_shows[0], light.sun_shows[-1]
    late = (first.start_utc - level[0].start_utc).total_seconds() / 60
    early = (level[-1].end_utc - last.end_utc).total_seconds() / 60
    if late >= 1.5 and not first.starts_before:
        words.append(f"The sun reaches this place at {local.clock(first.start_utc)}, {late:.0f} min after sunrise.")
    for before, after in zip(light.sun_shows, light.sun_shows[1:], strict=False):
        words.append(f"It is behind the land from {local.clock(before.end_utc)} to {local.clock(after.start_utc)}.")
    if early >= 1.5 and not last.ends_after:
        words.append(f"The sun leaves this place at {local.clock(last.end_utc)}, {early:.0f} min before sunset.")
    return words or ["The land stands too low to matter on this day."]


def _moon(light: LightDay, local: LocalDay, seconds: Any) -> out.MoonOut:
    altitude, azimuth, _ = light.moon_track.horizontal(seconds)
    middle = light.start_utc + (light.end_utc - light.start_utc) / 2
    phase = moon_phase(middle)
    absence = light.absences["moon"]
    return out.MoonOut(
        words=phase_words(float(phase.elongation_deg)),
        fraction=float(phase.fraction),
        waxing=float(phase.elongation_deg) < 180,
        events=[local.event(event) for event in light.moon_events],
        absence_words=_MOON_ABSENCE_WORDS[absence] if absence else None,
        curve_altitude_deg=_rounded(apparent_altitude_deg(altitude)),
        curve_azimuth_deg=_rounded(azimuth, 2),
    )


def _tide(location: Location, light: LightDay, local: LocalDay, seconds: Any) -> out.TideOut | None:
    tide = location.tide
    if tide is None:
        return None
    heights = np.asarray(tide.height_m(seconds))
    known = heights[np.isfinite(heights)]
    if not known.size:
        return None
    return out.TideOut(
        name=tide.name,
        told=tide.told,
        simulated=location.tide_simulated,
        curve_m=_known(heights),
        twelfths_m=_known(np.asarray(tide.twelfths_height_m(seconds))) if isinstance(tide, TideTable) else [],
        low_m=float(known.min()),
        high_m=float(known.max()),
        events=[
            out.TideEventOut(
                kind=event.kind,
                clock=local.clock(event.time_utc),
                seconds=local.seconds(event.time_utc),
                height_m=event.height_m,
            )
            for event in tide_events(tide, light.start_utc, light.end_utc)
        ],
        slack=[local.span(span) for span in slack_spans(tide, light.start_utc, light.end_utc)],
    )


def _known(heights: Any) -> list[float | None]:
    return [float(height) if np.isfinite(height) else None for height in np.round(heights, 3)]


def _shift_words(shift: float | None) -> str | None:
    if shift is None:
        return None
    if abs(shift) < 0.05:
        return "as a clear sky by the meter"
    return f"Metered {abs(shift):.1f} stops {'darker' if shift < 0 else 'brighter'} than a clear sky"


def _readings(light: LightDay, local: LocalDay, readings: Sequence[MeterReading]) -> list[out.ReadingOnDayOut]:
    result = []
    for number, reading in enumerate(readings):
        if light.start_utc <= reading.time_utc < light.end_utc:
            result.append(
                out.ReadingOnDayOut(
                    id=number,
                    seconds=local.seconds(reading.time_utc),
                    clock=local.clock(reading.time_utc),
                    ev100=reading.ev100,
                )
            )
    return result


def _hours(light: LightDay, zone: ZoneInfo) -> list[out.TickOut]:
    """Return a tick for every full hour of local time, so that clock changes are drawn correctly."""
    ticks = []
    moment = light.start_utc
    while moment <= light.end_utc:
        local = moment.astimezone(zone)
        if local.minute == 0:
            ticks.append(
                out.TickOut(
                    seconds=(moment - light.start_utc).total_seconds(), hour=local.hour, label=format_hour(local.hour)
                )
            )
        moment += timedelta(minutes=15)
    return ticks
