"""A day of light at a place."""

from __future__ import annotations

from datetime import date, datetime

from .fields import In, Out


class LightQuery(In):
    date_local: date


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
    """from_s, to_s: seconds since the local day's start. before, after: it goes on beyond the day there."""

    kind: str
    from_s: float
    to_s: float
    start_clock: str
    end_clock: str
    before: bool
    after: bool


class TickOut(Out):
    seconds: float
    label: str


class LightDayOut(Out):
    """curve_*: sampled every curve_step_s from the day's start. absence: always_above, always_below or null."""

    date_local: date
    zone: str
    start_utc: datetime
    length_s: float
    hours: list[TickOut]
    events: list[SunEventOut]
    absence: str | None
    absence_words: str | None
    bands: list[LightBandOut]
    curve_step_s: float
    curve_ev100: list[float]
    curve_altitude_deg: list[float]
    curve_azimuth_deg: list[float]
    noon_compass: str
