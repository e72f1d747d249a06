"""A day of light at a place."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any

from pydantic import Field, create_model

from ....core.light.alignment import SkyBody, Touch
from ....core.planning.verdicts import Mark, Severity
from ....formats.forecasts import FIGURES
from ...platform.fact_fields import unsaid
from ...platform.fields import Angle, Bearing, Day, In, Instant, Name, Number, Out, QueryId, Share


class LightQuery(In):
    date_local: Day


class SunEventOut(Out):
    kind: str
    words: str
    time_utc: datetime
    clock: str
    seconds: float
    altitude_deg: float
    azimuth_deg: float
    compass: str


class LightBandOut(Out):
    """A band of light.

    from_s, to_s: seconds since the local day's start. before, after: it continues beyond the day.
    """

    kind: str
    from_s: float
    to_s: float
    start_clock: str
    end_clock: str
    before: bool
    after: bool


class TickOut(Out):
    """A full hour of local time, 0 to 23."""

    seconds: float
    hour: int
    label: str


class SpanOut(Out):
    """A span. from_s, to_s: seconds since the local day's start."""

    from_s: float
    to_s: float
    start_clock: str
    end_clock: str


class TideEventOut(Out):
    kind: str
    clock: str
    seconds: float
    height_m: float


class TideOut(Out):
    """The tide.

    curve_m: height above the place's zero, sampled as the light's curves; null where not known. twelfths_m: the same
    by the rule of twelfths, for a table only. told: its source.
    """

    name: str
    told: str
    simulated: bool
    curve_m: list[float | None]
    twelfths_m: list[float | None]
    low_m: float
    high_m: float
    events: list[TideEventOut]
    slack: list[SpanOut]


class MoonOut(Out):
    words: str
    fraction: float
    waxing: bool
    events: list[SunEventOut]
    absence_words: str | None
    curve_altitude_deg: list[float]
    curve_azimuth_deg: list[float]


class ReadingOnDayOut(Out):
    id: int
    seconds: float
    clock: str
    ev100: float


class LightDayOut(Out):
    """A day of light. curve_*: sampled every curve_step_s from the day's start. absence: always_above, always_below or
    null.

    curve_here_ev100: at the viewpoint, in shade while the land hides the sun, shifted by the day's readings; open,
    shade and overcast as they would be there. sun_shows: when it clears the land; shadow: when it is up but behind it.
    skyline: [bearing, altitude], closed.
    """

    date_local: date
    zone: str
    start_utc: datetime
    length_s: float
    hours: list[TickOut]
    events: list[SunEventOut]
    absence: str | None
    absence_words: str | None
    missing_words: list[str]
    bands: list[LightBandOut]
    curve_step_s: float
    curve_ev100: list[float]
    curve_here_ev100: list[float]
    curve_shade_ev100: list[float]
    curve_overcast_ev100: list[float]
    curve_altitude_deg: list[float]
    curve_azimuth_deg: list[float]
    noon_compass: str
    has_skyline: bool
    skyline: list[list[float]]
    sun_shows: list[SpanOut]
    shadow: list[SpanOut]
    land_words: list[str]
    moon: MoonOut
    tide: TideOut | None
    shift_stops: float | None
    shift_words: str | None
    readings: list[ReadingOnDayOut]


class FactorOut(Out):
    name: str
    points: float
    weight: float
    text: str


class PromiseOut(Out):
    """A promise, 0..100: the rating, and its spread from the lead time."""

    rating: float
    low: float
    high: float
    word: str
    factors: list[FactorOut]
    lead_words: str
    hours_missing: int


class CautionOut(Out):
    code: str
    severity: Severity
    text: str


class WindowOut(Out):
    """A window. mark: of its water, its way and the length of the frames.

    take_*: the part to use, from the first start with an open way to the end of the last frames; broken: why there is
    none, or why not all frames fit (too_short). unknown: why it is not known whether the way is open. cautions:
    darkness and weather for a shot that begins as early as possible.
    """

    kind: str
    mark: Mark
    start_utc: datetime
    end_utc: datetime
    from_s: float
    to_s: float
    start_clock: str
    end_clock: str
    span_words: str
    before: bool
    after: bool
    minutes: float
    wanted: bool
    reasons: list[str]
    leave_home: str | None
    broken: str
    too_short: bool
    unknown: str
    cut: str
    take_start_utc: datetime
    take_end_utc: datetime
    take_words: str
    way_words: str
    cautions: list[CautionOut]
    promise: PromiseOut | None


class RuledOutOut(Out):
    kind: str
    reason: str


class ShadowOut(Out):
    """An element's shadow at the shot's time: from its base, length_m towards bearing_deg."""

    element_id: int
    bearing_deg: float
    length_m: float
    label: str


class FiguresOut(Out):
    """The figures of an hour, as in the core."""

    low_cloud: float
    middle_cloud: float
    high_cloud: float
    wind_mps: float
    gust_mps: float
    rain_mm: float
    temperature_c: float
    fog: float


class WeatherHourOut(FiguresOut):
    from_s: float
    words: str


class BlockOut(Out):
    """An element or the frame on the ribbon, in degrees: from left to right bearing, from base to top altitude."""

    name: str
    from_deg: float
    to_deg: float
    foot_deg: float
    top_deg: float


class ClosedOut(SpanOut):
    """A span in which the place is cut off by the tide, or closed. known False: the tide is not known."""

    by_tide: bool
    known: bool
    words: str


class LegOut(SpanOut):
    """A leg of the way to the shot: drive, walk in, set up, frames, pack up, walk out.

    closed: something closes it; unknown: the tide is not known.
    """

    name: str
    dark: bool
    closed: bool
    unknown: bool


class GalacticOut(Out):
    """The galactic centre by time while stars show: seconds of the day, bearing and altitude [degrees]. band: the
    band's middle line at the shot's time, in pieces of bearing and altitude over the land; empty while it is light.
    """

    time_s: list[float]
    bearing_deg: list[float]
    altitude_deg: list[float]
    band: list[list[list[float]]]


class ShotDayOut(Out):
    """The date of a shot. subject_lit: when the sun reaches the subject. way: the legs at the shot's time."""

    windows: list[WindowOut]
    ruled_out: list[RuledOutOut]
    closed: list[ClosedOut]
    way: list[LegOut]
    subject_name: str | None
    subject_lit: list[SpanOut]
    shadows: list[ShadowOut]
    shadow_ratio: float | None
    weather: list[WeatherHourOut]
    elements: list[BlockOut]
    frame: BlockOut | None
    galactic: GalacticOut | None


class ForecastOut(Out):
    """The state of a forecast: age_words for its age, problem for why there is nothing newer."""

    known: bool
    source: str
    simulated: bool
    issued_utc: datetime | None
    fetched_at_utc: datetime | None
    age_words: str
    problem: str
    hours: int
    hours_by_hand: int
    until_words: str


class HoursQuery(In):
    date_local: Day


class _HourPatch(In):
    """Edits of an hour: shares of the sky 0..1 (or "60 %"), wind in m/s, rain in mm an hour, temperature in °C.

    Only given values change.
    """

    time_utc: Instant


def _figure(name: str) -> Any:
    low, high, _ = FIGURES[name]
    return (Annotated[Share if high == 1 else Number, Field(ge=low, le=high)], unsaid())


HourPatch = create_model(
    "HourPatch", __base__=_HourPatch, __doc__=_HourPatch.__doc__, **{name: _figure(name) for name in FIGURES}
)


class HourOut(FiguresOut):
    time_utc: datetime
    clock: str
    by_hand: bool


class HoursOut(Out):
    hours: list[HourOut]


class SearchQuery(In):
    """A search: around bearing_deg ± tolerance_deg, or behind, upon or beside (by gap_deg) element_id.

    Altitudes are apparent, of the centre.
    """

    body: SkyBody = SkyBody.SUN
    bearing_deg: Bearing | None = None
    tolerance_deg: Annotated[Angle, Field(gt=0, le=180)] | None = None
    element_id: QueryId | None = None
    touch: Touch | None = None
    gap_deg: Annotated[Angle, Field(ge=0, le=30)] | None = None
    low_deg: Annotated[Angle, Field(ge=-90, le=90)] | None = None
    high_deg: Annotated[Angle, Field(ge=-90, le=90)] | None = None
    sun_low_deg: Annotated[Angle, Field(ge=-90, le=90)] | None = None
    sun_high_deg: Annotated[Angle, Field(ge=-90, le=90)] | None = None
    fraction_low: Annotated[Share, Field(ge=0, le=1)] | None = None
    fraction_high: Annotated[Share, Field(ge=0, le=1)] | None = None


class AlignmentQuery(SearchQuery):
    """A search. shot_id: whose camera sees the element."""

    shot_id: QueryId | None = None
    from_date: Day
    days: Annotated[int, Field(ge=1, le=1096)] = 365


class HitOut(Out):
    start_utc: datetime
    end_utc: datetime
    best_utc: datetime
    date_local: date
    date_words: str
    start_clock: str
    end_clock: str
    best_clock: str
    day_index: int
    clock_h: float
    azimuth_deg: float
    altitude_deg: float
    sun_altitude_deg: float
    fraction: float | None
    light: str
    frame_words: str


class AlignmentsOut(Out):
    hits: list[HitOut]
    words: str


class CarpetQuery(In):
    from_date: Day


class MonthTickOut(Out):
    day_index: int
    label: str


class CarpetOut(Out):
    """A year of light. ev100[day][slot]: a slot every step_min of local time; hidden: the sun is up behind the land."""

    first: date
    ev100: list[list[int]]
    hidden: list[list[bool]]
    months: list[MonthTickOut]


class SeasonQuery(SearchQuery):
    """A season search. with_alignment: the alignment must hit too."""

    from_date: Day
    with_alignment: bool = False


class SeasonSpanOut(Out):
    start_utc: datetime
    end_utc: datetime
    start_clock: str
    end_clock: str
    from_h: float
    to_h: float


class SeasonDayOut(Out):
    date_local: date
    date_words: str
    day_index: int
    spans: list[SeasonSpanOut]
    notes: list[str]


class SeasonOut(Out):
    """A season.

    closed: days with the light, but no open way in and out; unknown: days on which the tide is not known.
    """

    days: list[SeasonDayOut]
    closed: list[SeasonDayOut]
    unknown: list[SeasonDayOut]
    months: list[MonthTickOut]
    words: str


class CalendarSpanIn(In):
    start_utc: Instant
    end_utc: Instant
    kind: Name


class CalendarIn(In):
    windows: Annotated[list[CalendarSpanIn], Field(min_length=1, max_length=400)]
