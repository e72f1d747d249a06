"""Step 2: when, from which side, and how much light."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import lru_cache

from ..light.day import LightDay, clear_sky_ev100, continuous_band, drift_stops_per_minute, light_day
from ..light.instants import unix_seconds
from ..light.subject import angle_from_view_deg, light_direction
from ..units.lengths import compass_point
from .facts import Location, ShotFacts, settings_of
from .marks import CAUTION, HOLDS, UNSAID, Reason, Verdict, worst_mark


@dataclass(frozen=True)
class LightStep:
    """The chosen instant: its band of light, the sun, and clear-sky EV with its drift. None where not yet known."""

    verdict: Verdict
    reasons: tuple[Reason, ...]
    band: str | None = None
    window_start_utc: datetime | None = None
    window_end_utc: datetime | None = None
    sun_altitude_deg: float | None = None
    sun_azimuth_deg: float | None = None
    direction: str | None = None
    ev100: float | None = None
    drift_stops_per_min: float | None = None


_NO_SUN = {
    "always_above": "The sun stays above the horizon all day: there is no sunset.",
    "always_below": "The sun stays below the horizon all day: there is no sunrise.",
}


@lru_cache(maxsize=64)
def day_of_light(location: Location, date_local: date) -> LightDay:
    """Return a location's local day of light; kept, since every edit of a shot asks for it again."""
    return light_day(
        location.latitude_deg,
        location.longitude_deg,
        location.elevation_m,
        date_local,
        location.zone,
    )


def plan_light(facts: ShotFacts) -> LightStep:
    """Return the light at the chosen time, or what is missing to say it."""
    if facts.location is None:
        return _missing("no place yet", "Light needs a place.", "viewpoint_id")
    if facts.date_local is None:
        return _missing("no date yet", "Choose a date to see the light of that day.", "date_local")
    day = day_of_light(facts.location, facts.date_local)
    reasons = [Reason("light", HOLDS, _NO_SUN[cause]) for cause in (day.absences["sun"],) if cause]
    if facts.time_utc is None:
        reasons.append(Reason("light", UNSAID, "Choose the time of the shot on the fall of light.", "time_utc"))
        return LightStep(Verdict("light", UNSAID, "no time yet"), tuple(reasons))
    band = day.band_at(facts.time_utc)
    if band is None:
        reasons.append(Reason("light", UNSAID, "The time of the shot lies outside its date: choose it again.", "time_utc"))
        return LightStep(Verdict("light", UNSAID, "time outside the date"), tuple(reasons))
    before, after = (day_of_light(facts.location, facts.date_local + timedelta(days=days)) for days in (-1, 1))
    start, end = continuous_band(band, before, after)
    seconds = float(unix_seconds(facts.time_utc))
    altitude, azimuth = float(day.track.altitude_deg(seconds)), float(day.track.azimuth_deg(seconds))
    ev, drift = float(clear_sky_ev100(altitude)), drift_stops_per_minute(day.track, facts.time_utc)
    settings = settings_of(facts)
    direction = light_direction(settings.bearing_deg, azimuth) if settings and altitude > -6 else None
    reasons.append(_light_reason(facts, band.kind, start, end, altitude, azimuth, direction))
    if abs(drift) >= 0.02:
        way = "falls" if drift < 0 else "rises"
        reasons.append(Reason("light", HOLDS, f"The light {way} by {abs(drift):.2f} stop a minute, a stop in {1 / abs(drift):.0f} min."))
    if altitude < 0 and azimuth > 180:
        reasons.append(
            Reason(
                "light",
                CAUTION,
                "The sun is down at that time: carry a head torch for the way back, and do not rely on paths you have not walked in daylight.",
            )
        )
    side = f", low {direction} light" if direction and 0 < altitude < 15 else f", {direction} light" if direction and altitude > 0 else ""
    text = f"{facts.clock(start)} to {facts.clock(end)}, {band.kind}{side}"
    return LightStep(
        Verdict("light", worst_mark(reasons), text), tuple(reasons), band.kind, start, end, altitude, azimuth, direction, ev, drift
    )  # fmt: skip


def _light_reason(
    facts: ShotFacts, band: str, start: datetime, end: datetime, altitude: float, azimuth: float, direction: str | None
) -> Reason:
    assert facts.time_utc is not None
    settings = settings_of(facts)
    from_view = (
        f", {direction} light at {angle_from_view_deg(settings.bearing_deg, azimuth):.0f}° from the view" if direction and settings else ""
    )
    where = f"{abs(altitude):.1f}° {'above' if altitude >= 0 else 'below'} the horizon in the {compass_point(azimuth)}"
    return Reason(
        "light",
        HOLDS,
        f"At {facts.clock(facts.time_utc)} the sun is {where}{from_view}; {band} lasts from {facts.clock(start)} to {facts.clock(end)}.",
        "time_utc",
    )


def _missing(text: str, sentence: str, dial: str) -> LightStep:
    return LightStep(Verdict("light", UNSAID, text), (Reason("light", UNSAID, sentence, dial),))
