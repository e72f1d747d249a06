"""A year of light as response bodies: alignments, carpet, season."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from ...core.light.alignment import Hit
from ...core.light.day import BANDS_DEG
from ...core.units.spelling import MONTHS, format_clock, format_day
from ...operations.carpets import DAYS, Carpet
from ...operations.light import SeasonDay
from ..schemas import light as out


def present_hits(hits: Sequence[Hit], first: date, zone: str, body: str) -> out.AlignmentsOut:
    """Return hits with local dates and clocks, and a sentence on how many."""
    info = ZoneInfo(zone)
    listed = [_hit(hit, first, info) for hit in hits]
    days = len({item.date_local for item in listed})
    words = (
        f"The {body} stands there on {days} day{'' if days == 1 else 's'}."
        if listed
        else f"The {body} never stands there in that time. Widen the tolerance or the altitudes."
    )
    return out.AlignmentsOut(hits=listed, words=words)


def present_carpet(carpet: Carpet) -> out.CarpetOut:
    """Return the year's raster with its months."""
    return out.CarpetOut(first=carpet.first, ev100=carpet.ev100, hidden=carpet.hidden, months=_months(carpet.first))


def present_season(days: Sequence[SeasonDay], first: date, zone: str) -> out.SeasonOut:
    """Return the days on which a shot works."""
    info = ZoneInfo(zone)
    words = f"It works on {len(days)} of the next {DAYS} days." if days else "It does not work on any of the next 365 days: ask for less."
    return out.SeasonOut(
        days=[
            out.SeasonDayOut(
                date_local=day.date_local,
                date_words=_date_words(day.date_local),
                day_index=(day.date_local - first).days,
                spans=[
                    out.SeasonSpanOut(
                        start_utc=span.start_utc, end_utc=span.end_utc, start_clock=_clock(span.start_utc, info),
                        end_clock=_clock(span.end_utc, info), from_h=_hours(span.start_utc, info),
                        to_h=_hours(span.start_utc, info) + (span.end_utc - span.start_utc).total_seconds() / 3600,
                    )
                    for span in day.spans
                ],
                notes=list(day.notes),
            )
            for day in days
        ],
        months=_months(first),
        words=words,
    )  # fmt: skip


def _hit(hit: Hit, first: date, info: ZoneInfo) -> out.HitOut:
    local = hit.best_utc.astimezone(info)
    light = next(kind for kind, (low, high) in BANDS_DEG.items() if low <= hit.sun_altitude_deg <= high)
    return out.HitOut(
        start_utc=hit.start_utc, end_utc=hit.end_utc, best_utc=hit.best_utc, date_local=local.date(), date_words=_date_words(local.date()),
        start_clock=_clock(hit.start_utc, info), end_clock=_clock(hit.end_utc, info), best_clock=_clock(hit.best_utc, info),
        day_index=(local.date() - first).days, clock_h=_hours(hit.best_utc, info), azimuth_deg=hit.azimuth_deg,
        altitude_deg=hit.apparent_altitude_deg, sun_altitude_deg=hit.sun_altitude_deg, fraction=hit.fraction,
        light=light,
    )  # fmt: skip


def _months(first: date) -> list[out.MonthTickOut]:
    days = (first + timedelta(days=number) for number in range(DAYS))
    return [out.MonthTickOut(day_index=number, label=MONTHS[day.month - 1]) for number, day in enumerate(days) if day.day == 1]


def _date_words(day: date) -> str:
    return format_day(day, weekday=True)


def _clock(moment: datetime, info: ZoneInfo) -> str:
    return format_clock(moment.astimezone(info))


def _hours(moment: datetime, info: ZoneInfo) -> float:
    local = moment.astimezone(info)
    return local.hour + local.minute / 60 + local.second / 3600
