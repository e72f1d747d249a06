"""Step 2: the light of the chosen time: its kind, direction and amount."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import lru_cache

import numpy as np

from ...facts.calibrations import Taught
from ...facts.choices import DepthChoices, FrameChoices
from ...facts.place import Location
from ...facts.settings import settings_of
from ...facts.shot import ShotFacts
from ...labels import label_of
from ...light.bands import CIVIL_DEG, LOW_BELOW_DEG, SUNRISE_ALTITUDE_DEG
from ...light.day import LightDay, light_day
from ...light.ephemeris import apparent_altitude_deg
from ...light.kinds import LightKind
from ...light.light_at_place import Illumination
from ...light.meter import MeterReading, shift_stops
from ...light.moon import moon_phase, phase_words
from ...light.skyline import clearance_deg
from ...light.stars import STARS_BELOW_DEG, galactic_centre_track
from ...light.subject import angle_from_view_deg, light_direction
from ...spans.instants import unix_seconds
from ...spans.intervals import Interval
from ...units.spelling import Spelling, spelling
from ...weather.cloud import cloud_share
from ..reasons import Reason, worst_mark
from ..verdicts import FAILS, HOLDS, UNSAID, Verdict
from ..way.plan import plan_way
from ..weather.plan_b import plan_b_reasons
from ..weather.reasons import picture_weather_reasons
from ..weather.simulated import by_forecast
from ..wording import Sentence
from . import wording as say
from .calibration import light_taught
from .eclipses import eclipse_reasons
from .light_to_use import LightToUse, ends_of, light_to_use


@dataclass(frozen=True, kw_only=True)
class LightStep:
    """The chosen instant: its band of light, sun and moon, and the clear-sky EV with its drift.

    None where not yet known.

    ev100 is of the viewpoint: in shade while the land hides the sun, shifted by the day's meter readings where there
    are any, else under the cloud that is forecast, with what it may be at least and at most; ev_source says which.
    window_start_utc, window_end_utc: the light to be used, which ends with what ends_name says; without an end while it
    goes on beyond the next day.
    """

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
    sun_hidden: bool = False
    subject_lit: bool | None = None
    moon_altitude_deg: float | None = None
    moon_azimuth_deg: float | None = None
    moon_fraction: float | None = None
    moon_words: str | None = None
    shift_stops: float | None = None
    tide_m: float | None = None
    tide_rate_m_per_h: float | None = None
    ends_name: str = ""
    ev100_low: float | None = None
    ev100_high: float | None = None
    ev_source: str = ""
    # Of the sky covered as the light was expected; None without a forecast.
    cloud_oktas: float | None = None
    # The light by its parts, before meter readings and the log correct it.
    illumination: Illumination | None = None

    # Airless altitude and azimuth; None while no stars show.
    galactic_centre: tuple[float, float] | None = None

    @property
    def stars_show(self) -> bool:
        """Whether it is dark enough for stars."""
        return self.sun_altitude_deg is not None and self.sun_altitude_deg < STARS_BELOW_DEG

    @property
    def beam_from(self) -> tuple[float, float] | None:
        """Airless altitude and azimuth of the body whose beam reaches the place; None where none does."""
        found = self.illumination
        if found is None or max(found.sun_beam_lux, found.moon_beam_lux) <= 0:
            return None
        moonlit = found.moon_beam_lux > found.sun_beam_lux
        altitude, azimuth = (
            (self.moon_altitude_deg, self.moon_azimuth_deg)
            if moonlit
            else (self.sun_altitude_deg, self.sun_azimuth_deg)
        )
        return (altitude, azimuth) if altitude is not None and azimuth is not None else None


# Spans of wanted water are found to seconds, so the height at their start may miss the limit by this.
_WATER_SLACK_M = 0.01


@lru_cache(maxsize=64)
def day_of_light(location: Location, date_local: date) -> LightDay:
    """Return a location's local day of light; kept, since every edit of a shot asks for it again."""
    return light_day(
        location.latitude_deg,
        location.longitude_deg,
        location.elevation_m,
        date_local,
        location.zone,
        location.skyline,
    )


def day_shift_stops(day: LightDay, readings: tuple[MeterReading, ...]) -> float | None:
    """Return the mean difference of a day's meter readings from its computed light [stops]; None without readings."""
    of_day = [reading for reading in readings if day.start_utc <= reading.time_utc < day.end_utc]
    if not of_day:
        return None
    seconds = np.array([float(unix_seconds(reading.time_utc)) for reading in of_day])
    computed = np.atleast_1d(day.light.ev100(seconds))
    return shift_stops(of_day, computed.tolist())


def plan_light(facts: ShotFacts) -> LightStep:
    """Return the light at the chosen time, or what is missing. Recent results are cached."""
    return _planned(_light_facts(facts), spelling())


def in_its_weather(step: LightStep, facts: ShotFacts, sequence_s: float) -> LightStep:
    """Return the step with the forecast while the frames are taken, and with plan B; both count for its verdict."""
    way = plan_way(facts, sequence_s)
    other = plan_b_reasons(facts)
    more = [*(picture_weather_reasons(facts, way) if way else []), *other]
    text = step.verdict.text
    if step.verdict.mark == HOLDS and worst_mark(other) == UNSAID:
        text += ", plan B not decided"
    mark = worst_mark([*step.reasons, *more])
    return replace(step, verdict=replace(step.verdict, mark=mark, text=text), reasons=(*step.reasons, *more))


def _light_facts(facts: ShotFacts) -> ShotFacts:
    """Return only the facts that the light depends on, so that an edit of another step reuses the cached result."""
    depth, frame = facts.depth, facts.frame
    return ShotFacts(
        location=facts.location,
        elements=facts.elements,
        readings=facts.readings,
        body=facts.body,
        lens=facts.lens,
        light=facts.light,
        forecast=facts.forecast,
        taught=Taught(facts.taught.light_offset, facts.taught.light_clear, facts.taught.light_clouded),
        sharp_element_ids=facts.sharp_element_ids,
        frame=FrameChoices(bearing_deg=frame.bearing_deg),
        depth=DepthChoices(magnification=depth.magnification, subject_element_id=depth.subject_element_id),
    )


# A few shots at hand; each holds the skylines of a place.
@lru_cache(maxsize=32)
def _planned(facts: ShotFacts, _spelling: Spelling) -> LightStep:
    if facts.location is None:
        return _missing("no place yet", say.no_place(), "viewpoint_id")
    if facts.light.date_local is None:
        return _missing("no date yet", say.no_date(), "date_local")
    day = day_of_light(facts.location, facts.light.date_local)
    reasons = [say.no_sunrise_or_sunset(cause=cause).holds() for cause in (day.absences["sun"],) if cause]
    if facts.light.time_utc is None:
        reasons.append(say.no_time().unsaid("time_utc"))
        return LightStep(verdict=Verdict("light", UNSAID, "no time yet"), reasons=tuple(reasons))
    band = day.band_at(facts.light.time_utc)
    if band is None:
        reasons.append(say.time_outside_date().unsaid("time_utc"))
        return LightStep(verdict=Verdict("light", UNSAID, "the time is not on this date"), reasons=tuple(reasons))
    here, moment = facts.location, facts.light.time_utc
    seconds = float(unix_seconds(moment))
    altitude, azimuth = float(day.track.altitude_deg(seconds)), float(day.track.azimuth_deg(seconds))
    shift = day_shift_stops(day, facts.readings)
    light = _ev_at(facts, day, seconds, shift)
    drift = day.light.drift_stops_per_minute(seconds, light.oktas or 0.0)
    parts = day.light.illumination(seconds, light.oktas or 0.0)
    hidden = altitude > SUNRISE_ALTITUDE_DEG and float(clearance_deg(day.track, day.skyline, seconds)) < 0
    lit = float(clearance_deg(day.track, facts.subject_skyline, seconds)) >= 0
    settings = settings_of(facts)
    direction = light_direction(settings.bearing_deg, azimuth) if settings and altitude > CIVIL_DEG else None
    ends = light_to_use(facts, day, band.kind)
    reasons.append(
        _light_reason(facts, band.kind, ends.band, float(apparent_altitude_deg(altitude)), azimuth, direction)
    )
    reasons += ends.reasons + _land_reasons(facts, day, hidden, lit, altitude)
    reasons += eclipse_reasons(facts, day, seconds)
    reasons += _change_reasons(shift, drift) + _cloud_reasons(facts, light) + _taught_reasons(facts, shift)
    tide = here.tide if here.tide is not None and here.tide.covers(moment, moment) else None
    height, rate = (float(tide.height_m(seconds)), float(tide.rate_m_per_h(seconds))) if tide else (None, None)
    if height is not None and rate is not None:
        reasons += _water_reasons(facts, height, rate)
    elif facts.wants_water:
        reasons.append(say.tide_not_known().unsaid("water_low_m"))
    text = _span_text(facts, ends, altitude, direction, hidden)
    moon_height, moon_bearing, _ = day.moon_track.horizontal(seconds)
    phase = moon_phase(moment)
    return LightStep(
        verdict=Verdict("light", worst_mark(reasons), text),
        reasons=tuple(reasons),
        band=band.kind,
        window_start_utc=ends.start_utc,
        window_end_utc=ends.end_utc,
        sun_altitude_deg=altitude,
        sun_azimuth_deg=azimuth,
        direction=direction,
        ev100=light.expected,
        drift_stops_per_min=drift,
        sun_hidden=hidden,
        subject_lit=lit,
        moon_altitude_deg=float(moon_height),
        moon_azimuth_deg=float(moon_bearing),
        moon_fraction=float(phase.fraction),
        moon_words=phase_words(float(phase.elongation_deg)),
        shift_stops=shift,
        tide_m=height,
        tide_rate_m_per_h=rate,
        ends_name=ends.name,
        ev100_low=light.low,
        ev100_high=light.high,
        ev_source=light.source,
        cloud_oktas=light.oktas,
        illumination=parts,
        galactic_centre=_galactic_centre(facts, day, seconds) if altitude < STARS_BELOW_DEG else None,
    )


def _galactic_centre(facts: ShotFacts, day: LightDay, seconds: float) -> tuple[float, float]:
    here = facts.location
    assert here is not None
    place = (here.latitude_deg, here.longitude_deg, here.elevation_m)
    track = galactic_centre_track(*place, day.start_utc, day.end_utc)
    altitude, azimuth, _ = track.horizontal(seconds)
    return float(altitude), float(azimuth)


@dataclass(frozen=True)
class _Light:
    """EV at ISO 100: expected, lowest and highest. oktas: cloud it is expected under; None if no forecast was used."""

    expected: float
    low: float
    high: float
    source: str
    oktas: float | None = None


def _ev_at(facts: ShotFacts, day: LightDay, seconds: float, shift: float | None) -> _Light:
    """Return the light at an instant: from the day's meter readings, else under the forecast cloud, else under a clear
    sky.
    """
    by_log = light_taught(facts)
    taught = by_log.value if by_log is not None and shift is None else 0.0
    cloud = _cloud(facts, shift)
    if cloud is None:
        clear = float(day.light.ev100(seconds)) + (shift or 0.0) + taught
        return _Light(clear, clear, clear, "under a clear sky" if shift is None else "and that day's meter readings")
    thin, expected, thick = (float(day.light.ev100(seconds, 8 * share)) + taught for share in cloud)
    simulated = "simulated " if facts.forecast is not None and facts.forecast.simulated else ""
    return _Light(expected, thick, thin, f"under the {simulated}cloud forecast", 8 * cloud[1])


def sky_oktas(facts: ShotFacts, day: LightDay) -> float | None:
    """Return the cloud under which the light of the shot's time is expected [oktas]; None where no forecast is used."""
    cloud = _cloud(facts, day_shift_stops(day, facts.readings))
    return None if cloud is None else 8 * cloud[1]


def _cloud(facts: ShotFacts, shift: float | None) -> tuple[float, float, float] | None:
    """Return the share of the sky covered (least, expected, most); meter readings of the day are better than it."""
    moment = facts.light.time_utc
    return (
        cloud_share(facts.forecast, moment)
        if shift is None and facts.forecast is not None and moment is not None
        else None
    )


def _cloud_reasons(facts: ShotFacts, light: _Light) -> list[Reason]:
    if light.oktas is None or facts.light.time_utc is None:
        return []
    at = facts.at(facts.light.time_utc)
    words = say.cloud(oktas=light.oktas, at=at, ev100=light.expected, ev100_low=light.low, ev100_high=light.high)
    return by_forecast(facts, [words.holds("time_utc")])


def _taught_reasons(facts: ShotFacts, shift: float | None) -> list[Reason]:
    """Return the reason that the log corrects the prediction; none if there is a reading of that day."""
    taught = light_taught(facts)
    if taught is None or shift is not None:
        return []
    return [say.by_the_log(difference_stops=taught.value, sessions=taught.frames).holds()]


def _change_reasons(shift: float | None, drift: float) -> list[Reason]:
    """Return reasons for the difference from a clear sky [stops] and for the rate of change [stops per minute]."""
    reasons = []
    if shift is not None and abs(shift) >= 0.05:
        reasons.append(say.metered(difference_stops=shift).holds())
    if abs(drift) >= 0.02:
        reasons.append(say.changing(stops_per_min=drift).holds())
    return reasons


def _span_text(facts: ShotFacts, ends: LightToUse, altitude: float, direction: str | None, hidden: bool) -> str:
    """Return the span of the light as the verdict's text."""
    side = (
        ", sun behind the land"
        if hidden
        else ""
        if ends.kind in tuple(LightKind)
        else f", low {direction} light"
        if direction and 0 < altitude < LOW_BELOW_DEG
        else f", {direction} light"
        if direction and altitude > 0
        else ""
    )
    missing = f", {ends.missing}" if ends.missing else ""
    if ends.end_utc is None:
        return f"{label_of(ends.kind)}{side}, does not end that day{missing}"
    return f"{facts.clock(ends.start_utc)} to {facts.clock(ends.end_utc)}, {label_of(ends.kind)}{side}{missing}"


def _land_reasons(facts: ShotFacts, day: LightDay, hidden: bool, lit: bool, altitude: float) -> list[Reason]:
    """Return reasons from the skyline: whether it hides the sun now, and when the sun comes and goes."""
    if altitude < -5 / 6 or not day.skyline.bearings_deg:
        return []
    assert facts.light.time_utc is not None
    reasons = []
    if hidden:
        later = next((span for span in day.sun_shows if span.start_utc > facts.light.time_utc), None)
        reasons.append(say.sun_behind_land(shows_at=facts.at(later.start_utc) if later else None).holds("time_utc"))
    else:
        span = next((span for span in day.sun_shows if span.start_utc <= facts.light.time_utc <= span.end_utc), None)
        sunset = next(
            (event for event in day.events if event.kind == "sunset" and event.time_utc > facts.light.time_utc), None
        )
        if span and sunset and not span.ends_after and sunset.time_utc - span.end_utc > timedelta(minutes=2):
            early = (sunset.time_utc - span.end_utc).total_seconds() / 60
            reasons.append(say.sun_leaves(at=facts.at(span.end_utc), before_sunset_min=early).holds("time_utc"))
    subject = facts.subject
    if subject and subject.skyline is not None and lit == hidden:
        reasons.append(say.subject_in_other_light(subject=subject.name, lit=lit).holds("time_utc"))
    return reasons


def _water_reasons(facts: ShotFacts, height: float, rate: float) -> list[Reason]:
    """Return the reason from the tide, judged against the wanted depth if there is one."""
    assert facts.location is not None and facts.location.tide is not None and facts.light.time_utc is not None
    low, high = facts.water_wanted_m
    element = facts.element(facts.light.water_element_id)
    bed = element.bed_m if element and element.bed_m is not None else 0.0
    words = say.tide(
        place=facts.location.tide.name,
        source=facts.location.tide.told,
        at=facts.at(facts.light.time_utc),
        height_m=height - bed,
        element=element.name if element else None,
        rate_m_per_h=rate,
        wanted_low_m=None if low is None else low - bed,
        wanted_high_m=None if high is None else high - bed,
    )
    fits = (low is None or height >= low - _WATER_SLACK_M) and (high is None or height <= high + _WATER_SLACK_M)
    return [words.reason(HOLDS if fits else FAILS, "water_low_m")]


def _light_reason(
    facts: ShotFacts, band: str, span: Interval, altitude: float, azimuth: float, direction: str | None
) -> Reason:
    assert facts.light.time_utc is not None
    settings = settings_of(facts)
    words = say.sun(
        at=facts.at(facts.light.time_utc),
        altitude_deg=altitude,
        azimuth_deg=azimuth,
        direction=direction,
        from_view_deg=angle_from_view_deg(settings.bearing_deg, azimuth) if settings else None,
        kind=band,
        **ends_of(facts, span),
    )
    return words.holds("time_utc")


def _missing(text: str, words: Sentence, dial: str) -> LightStep:
    return LightStep(verdict=Verdict("light", UNSAID, text), reasons=(words.unsaid(dial),))
