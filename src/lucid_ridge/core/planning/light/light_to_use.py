"""Which light a shot has at its time, whether it is the light wanted, and when it ends."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from ...facts.settings import settings_of
from ...facts.shot import ShotFacts
from ...light.bands import BANDS_DEG
from ...light.day import LightDay
from ...light.events import sun_intervals
from ...light.kinds import kind_named, water_condition
from ...light.sought import Scene
from ...light.windows import DAY_SAMPLE_S, DateHours, kinds_through, spans_of
from ...spans.intervals import Interval
from ..verdicts import FAILS, HOLDS, UNSAID, Reason

# The start of a window is found to seconds; a time taken from there is inside it.
_NEAR = timedelta(seconds=30)
# With less than this left a light is over.
_OVER = timedelta(seconds=1)


@dataclass(frozen=True)
class LightToUse:
    """kind: its name; the span of it that can be used, without an end where it goes on beyond the next day; name: of what ends it.

    band: the span of the sun's band. missing: a few words where the wanted light is not there.
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
    bearing = settings.bearing_deg if settings and (facts.frame.bearing_deg is not None or facts.elements) else facts.frame.bearing_deg
    return Scene(
        here.latitude_deg, here.longitude_deg, here.elevation_m, start_utc, end_utc, bearing, here.skyline, facts.subject_skyline,
        here.tide, low, high,
    )  # fmt: skip


def light_to_use(facts: ShotFacts, day: LightDay, band: str) -> LightToUse:
    """Return the light at the shot's time, which lies in a band of the day, and judge whether it is the light wanted.

    It ends with the window chosen, with the light wanted, with the water wanted, or, where neither is said, with the band.
    """
    moment = facts.light.time_utc
    assert facts.location is not None and moment is not None
    around = _around(facts, day)
    band_span = _holding(_band_spans(facts, around, band), moment) or Interval(moment, moment, True, True)
    wanted, reasons, missing = _wanted_now(facts, around)
    span, kind = (wanted, str(facts.light.wanted_light)) if wanted else (band_span, band)
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
    if span.starts_before and span.ends_after:
        return f"{kind} lasts all day and does not end"
    if span.ends_after:
        return f"{kind} lasts from {facts.clock(span.start_utc)} and does not end that day"
    if span.starts_before:
        return f"{kind} lasts until {facts.clock(span.end_utc)}"
    return f"{kind} lasts from {facts.clock(span.start_utc)} to {facts.clock(span.end_utc)}"


def _around(facts: ShotFacts, day: LightDay) -> Scene:
    scene = shot_scene(facts, *DateHours(day.noon_utc).around())
    assert scene is not None
    return scene


def _band_spans(facts: ShotFacts, around: Scene, band: str) -> list[Interval]:
    low, high = BANDS_DEG[band]
    return sun_intervals(around.latitude_deg, around.longitude_deg, around.elevation_m, around.start_utc, around.end_utc, low, high)


def _wanted_now(facts: ShotFacts, around: Scene) -> tuple[Interval | None, list[Reason], str]:
    """Return the span of the wanted light at the shot's time, what is to be said of it, and a few words where it is not there."""
    wanted, moment = facts.light.wanted_light, facts.light.time_utc
    assert moment is not None
    if wanted is None:
        return None, [], ""
    kind = kind_named(wanted)
    if kind.needs_bearing and around.bearing_deg is None:
        text = f"{str(wanted).capitalize()} is wanted, which has a side: say where the camera looks."
        return None, [Reason("light", UNSAID, text, "bearing_deg")], ""
    spans = spans_of(around, kind.conditions, DAY_SAMPLE_S)
    now = _holding(spans, moment)
    if now is not None:
        return now, [Reason("light", HOLDS, f"It is the light wanted: {span_words(facts, wanted, now)}.", "wanted_light")], ""
    later = next((span for span in spans if span.start_utc > moment), None)
    earlier = next((span for span in reversed(spans) if span.end_utc < moment), None)
    near = min((span for span in (later, earlier) if span), key=lambda span: _apart(span, moment), default=None)
    when = f"the nearest {span_words(facts, wanted, near)[len(wanted) + 1 :]}" if near else "it does not come within a day"
    text = f"{str(wanted).capitalize()} is wanted, and is not there at {facts.clock(moment)}: {when}."
    return None, [Reason("light", FAILS, text, "time_utc")], f"not the {wanted} wanted"


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
    return held or (band if span.ends_after or end <= span.end_utc else f"{band} until {facts.clock(span.end_utc)}")


def _holding(spans: Sequence[Interval], moment: datetime) -> Interval | None:
    return next((span for span in spans if span.start_utc - _NEAR <= moment < span.end_utc - _OVER), None)


def _apart(span: Interval, moment: datetime) -> timedelta:
    return max(span.start_utc - moment, moment - span.end_utc)
