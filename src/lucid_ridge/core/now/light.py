"""The light here and now: what comes next, how much there is, and how fast it changes."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from ..facts.shot import ShotFacts, changed
from ..light.day import LightDay
from ..light.moon import moon_phase, phase_words
from ..planning.light.changing_light import changing_light
from ..planning.light.plan import LightStep, day_of_light, plan_light
from ..spans.instants import unix_seconds
from ..tides.heights import tide_events
from ..units.lengths import format_duration
from ..units.spelling import format_moment
from .answer import Answer

AHEAD = timedelta(hours=24)
_CHANGE_STEP_S, _CHANGE_WITHIN_S = 60.0, 6 * 3600.0
CURVE_STEP_S = 600.0

# Words of what comes next, by its kind.
WORDS = {
    "sunrise": "sunrise",
    "sunset": "sunset",
    "sun_on": "the sun comes over the land",
    "sun_off": "the sun goes behind the land",
    "golden_hour": "golden hour",
    "blue_hour": "blue hour",
    "night": "dark",
    "daylight": "golden hour ends",
    "moonrise": "moonrise",
    "moonset": "moonset",
    "high_water": "high water",
    "low_water": "low water",
}


@dataclass(frozen=True)
class Coming:
    """What comes next. kind: a key of WORDS. height_m: of a tide."""

    kind: str
    at_utc: datetime
    height_m: float | None = None


@dataclass(frozen=True, kw_only=True)
class LightNow:
    """now_utc, zone; step: the light as a shot taken now would have it.

    coming: within 24 hours, the soonest first. stop_in_s: until the light has changed by one stop; None: not within six
    hours. rises: whether it then is stronger. moon_words, moon_fraction: its phase. curve_ev100: the open sky's light
    in the local day, every CURVE_STEP_S.
    """

    now_utc: datetime
    zone: str
    step: LightStep
    coming: tuple[Coming, ...]
    stop_in_s: float | None
    rises: bool
    moon_words: str
    moon_fraction: float
    day_start_utc: datetime
    curve_ev100: tuple[float, ...]

    @property
    def next_sun(self) -> Coming | None:
        """The next sunrise or sunset; None within a polar day or night."""
        return next((item for item in self.coming if item.kind in ("sunrise", "sunset")), None)

    def clock(self, moment: datetime) -> str:
        """Return the local clock time, with its day where that is another one."""
        return format_moment(self.local(moment), self.local(self.now_utc).date())

    def local(self, moment: datetime) -> datetime:
        """Return an instant in the place's local time."""
        return moment.astimezone(ZoneInfo(self.zone))

    @property
    def changes_words(self) -> str:
        """How fast the light changes, in words."""
        if self.stop_in_s is None:
            return "steady"
        return f"{'rises' if self.rises else 'falls'} 1 stop in {format_duration(60 * round(self.stop_in_s / 60))}"

    @property
    def answer(self) -> Answer:
        """How long until the sun rises or sets."""
        ahead = self.next_sun
        if ahead is None:
            return Answer("no sunset", "or sunrise in the next 24 hours", self.notes)
        minutes = 60 * round((ahead.at_utc - self.now_utc).total_seconds() / 60)
        return Answer(format_duration(minutes), f"to {WORDS[ahead.kind]}, {self.clock(ahead.at_utc)}", self.notes)

    @property
    def notes(self) -> tuple[str, ...]:
        """How much light there is, how fast it changes, and what comes next."""
        found = []
        if self.step.ev100 is not None:
            found.append(f"EV {self.step.ev100:.1f} at ISO 100, {self.changes_words}, {self.step.ev_source}.")
        found += [f"{self.clock(item.at_utc)} {WORDS[item.kind]}." for item in self.coming if item is not self.next_sun]
        return tuple(found)


def light_now(facts: ShotFacts, now_utc: datetime) -> LightNow:
    """Return the light at a place. facts: with its location, and meter readings and forecast where there are any.

    Raises InputError for a date outside the ephemeris.
    """
    location = facts.location
    assert location is not None
    today = now_utc.astimezone(facts.zone).date()
    day = day_of_light(location, today)
    facts = changed(facts, date_local=today, time_utc=now_utc, window_end_utc=None)
    step = plan_light(facts)
    coming = _of_sky(day, day_of_light(location, today + timedelta(days=1)))
    if location.tide is not None:
        coming += [
            Coming(item.kind.replace(" ", "_"), item.time_utc, item.height_m)
            for item in tide_events(location.tide, now_utc, now_utc + AHEAD)
        ]
    stop_in_s, rises = _one_stop(facts)
    phase = moon_phase(now_utc)
    start = float(unix_seconds(day.start_utc))
    seconds = np.arange(start, float(unix_seconds(day.end_utc)) + 1, CURVE_STEP_S)
    return LightNow(
        now_utc=now_utc,
        zone=location.zone,
        step=step,
        coming=tuple(
            sorted((item for item in coming if now_utc < item.at_utc <= now_utc + AHEAD), key=lambda item: item.at_utc)
        ),
        stop_in_s=stop_in_s,
        rises=rises,
        moon_words=phase_words(float(phase.elongation_deg)),
        moon_fraction=float(phase.fraction),
        day_start_utc=day.start_utc,
        curve_ev100=tuple(np.round(np.asarray(day.light.ev100(seconds)) + (step.shift_stops or 0.0), 2).tolist()),
    )


def _of_sky(*days: LightDay) -> list[Coming]:
    """Return the events of sun, moon and land in consecutive days."""
    found = []
    for day in days:
        found += [Coming(item.kind, item.time_utc) for item in day.events if item.kind in ("sunrise", "sunset")]
        found += [Coming(item.kind, item.time_utc) for item in day.moon_events if item.kind in ("moonrise", "moonset")]
        found += [
            Coming(band.kind, band.span.start_utc)
            for band in day.bands
            if not band.span.starts_before and band.kind in WORDS
        ]
        if day.skyline.bearings_deg:
            found += [Coming("sun_on", span.start_utc) for span in day.sun_shows if not span.starts_before]
            found += [Coming("sun_off", span.end_utc) for span in day.sun_shows if not span.ends_after]
    return found


def _one_stop(facts: ShotFacts) -> tuple[float | None, bool]:
    """Return after how many seconds the light has changed by a stop, and whether it then is stronger."""
    light = changing_light(facts)
    if light is None:
        return None, False
    after = np.arange(0.0, _CHANGE_WITHIN_S + 1, _CHANGE_STEP_S)
    stops = np.log2(light.lux(after) / light.lux(np.zeros(1)))
    far = np.flatnonzero(np.abs(stops) >= 1)
    if not far.size:
        return None, False
    last = int(far[0])
    # Between two samples the change is taken to be even.
    share = (1 - abs(stops[last - 1])) / (abs(stops[last]) - abs(stops[last - 1]))
    return float(after[last - 1] + share * _CHANGE_STEP_S), bool(stops[last] > 0)
