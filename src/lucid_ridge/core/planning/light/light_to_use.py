"""Which light a shot has at its time, whether it is the light wanted, and when it ends."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import TypedDict

from ...facts.settings import settings_of
from ...facts.shot import ShotFacts
from ...labels import label_of
from ...light.bands import BANDS_DEG
from ...light.day import LightDay
from ...light.events import sun_intervals
from ...light.kinds import kind_named, water_condition
from ...light.sought import Scene
from ...light.windows import DAY_SAMPLE_S, DateHours, kinds_through, spans_of
from ...spans.intervals import Interval
from ...units.spelling import LocalTime
from ..reasons import Reason
from . import wording as say

# The start of a window is found to seconds; a time taken from there is inside it.
_NEAR = timedelta(seconds=30)
# With less than this left, a light counts as over.
_OVER = timedelta(seconds=1)


class Ends(TypedDict):
    """Start and end of a light; None where it goes on for days."""

    start: LocalTime | None
    end: LocalTime | None


@dataclass(frozen=True)
class LightToUse:
    """The light at the shot's time.

    kind: its name. start_utc, end_utc: the span that can be used; no end where it goes on beyond the next day. name:
    what ends it. band: the span of the sun's band. missing: a few words if the wanted light is not there.
    """

    kind: str
    start_utc: datetime
    end_utc: datetime | None
    name: str
    band: Interval
    reasons: list[Reason]
    missing: str = ""


def shot_scene(facts: ShotFacts, start_utc: datetime, end_utc: datetime) -> Scene | None:
    """Return the shot's viewpoint over a span of time; None while it has no place."""
    here = facts.location
    if here is None:
        return None
    settings = settings_of(facts)
    low, high = facts.water_wanted_m
    # Without a bearing said and without anything to look at, no light is from the side.
    bearing = (
        settings.bearing_deg
        if settings and (facts.frame.bearing_deg is not None or facts.elements)
        else facts.frame.bearing_deg
    )
    return Scene(
        latitude_deg=here.latitude_deg,
        longitude_deg=here.longitude_deg,
        elevation_m=here.elevation_m,
        start_utc=start_utc,
        end_utc=end_utc,
        bearing_deg=bearing,
        skyline=here.skyline,
        subject_skyline=facts.subject_skyline,
        tide=here.tide,
        water_low_m=low,
        water_high_m=high,
    )


def light_to_use(facts: ShotFacts, day: LightDay, band: str) -> LightToUse:
    """Return the light at the shot's time, and judge whether it is the light wanted.

    band: the band of the day it lies in.

    The light ends with the chosen window, the wanted light or the wanted depth of water; without those, with the band.
    """
    moment = facts.light.time_utc
    assert facts.location is not None and moment is not None
    around = _around(facts, day)
    band_span = _holding(_band_spans(facts, around, band), moment) or Interval(moment, moment, True, True)
    wanted, reasons, missing = _wanted_now(facts, around)
    span, kind = (wanted, facts.light.wanted_light or band) if wanted else (band_span, band)
    ends: list[tuple[datetime, str]] = [] if span.ends_after else [(span.end_utc, kind)]
    wet = _water_now(facts, around)
    if wet is not None and not wet.ends_after:
        ends.append((wet.end_utc, "the depth of water wanted"))
    chosen = facts.light.window_end_utc
    if chosen is not None and chosen > moment:
        # A window taken may hold through several bands; of its own kind it does not outlast the light wanted.
        ends = [item for item in ends if wanted or item[1] != band] + [(chosen, "the window chosen")]
        kind = kind if wanted else _kind_of_window(facts, band, band_span, chosen)
    end, name = min(ends, key=lambda item: item[0]) if ends else (None, kind)
    start = moment if chosen is not None and chosen > moment else span.start_utc
    return LightToUse(kind, start, end, name, band_span, reasons, missing)


def span_words(facts: ShotFacts, kind: str, span: Interval) -> str:
    """Return how long a kind of light lasts, open where it goes on for days."""
    return say.span(kind, **ends_of(facts, span))


def ends_of(facts: ShotFacts, span: Interval) -> Ends:
    """Return start and end of a span as local times; None for an end beyond the searched time."""
    return {
        "start": None if span.starts_before else facts.at(span.start_utc),
        "end": None if span.ends_after else facts.at(span.end_utc),
    }


def _around(facts: ShotFacts, day: LightDay) -> Scene:
    scene = shot_scene(facts, *DateHours(day.noon_utc).around())
    assert scene is not None
    return scene


def _band_spans(facts: ShotFacts, around: Scene, band: str) -> list[Interval]:
    low, high = BANDS_DEG[band]
    return sun_intervals(
        around.latitude_deg, around.longitude_deg, around.elevation_m, around.start_utc, around.end_utc, low, high
    )


def _wanted_now(facts: ShotFacts, around: Scene) -> tuple[Interval | None, list[Reason], str]:
    """Return the span of the wanted light at the shot's time, its reasons, and a few words if it is not there."""
    wanted, moment = facts.light.wanted_light, facts.light.time_utc
    assert moment is not None
    if wanted is None:
        return None, [], ""
    kind = kind_named(wanted)
    if kind.needs_bearing and around.bearing_deg is None:
        return None, [say.needs_bearing(wanted=wanted).unsaid("bearing_deg")], ""
    spans = spans_of(around, kind.conditions, DAY_SAMPLE_S)
    now = _holding(spans, moment)
    if now is not None:
        return now, [say.wanted_light(wanted=wanted, **ends_of(facts, now)).holds("wanted_light")], ""
    later = next((span for span in spans if span.start_utc > moment), None)
    earlier = next((span for span in reversed(spans) if span.end_utc < moment), None)
    near = min((span for span in (later, earlier) if span), key=lambda span: _apart(span, moment), default=None)
    ends = ends_of(facts, near) if near else Ends(start=None, end=None)
    words = say.not_in_window(wanted=wanted, at=facts.at(moment), over=near.end_utc < moment if near else None, **ends)
    return None, [words.fails("time_utc")], f"not the {label_of(wanted)} wanted"


def _water_now(facts: ShotFacts, around: Scene) -> Interval | None:
    moment = facts.light.time_utc
    assert moment is not None
    if not around.wants_water:
        return None
    return _holding(spans_of(around, (water_condition(),), DAY_SAMPLE_S), moment)


def _kind_of_window(facts: ShotFacts, band: str, span: Interval, end: datetime) -> str:
    """Return the kind of light that lasts through the window chosen; the band, with its own end, where none does."""
    moment = facts.light.time_utc
    assert moment is not None
    scene = shot_scene(facts, moment, end)
    held = next(iter(kinds_through(scene, moment, end) if scene else ()), None)
    return held or (
        band if span.ends_after or end <= span.end_utc else f"{label_of(band)} until {facts.clock(span.end_utc)}"
    )


def _holding(spans: Sequence[Interval], moment: datetime) -> Interval | None:
    return next((span for span in spans if span.start_utc - _NEAR <= moment < span.end_utc - _OVER), None)


def _apart(span: Interval, moment: datetime) -> timedelta:
    return max(span.start_utc - moment, moment - span.end_utc)
