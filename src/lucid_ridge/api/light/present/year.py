"""A year of light as response bodies: alignments, carpet, season."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from ....core.labels import label_of
from ....core.light.bands import BANDS_DEG
from ....core.units.spelling import MONTHS, format_day, format_moment, percent
from ....operations.light.carpets import DAYS, Carpet
from ....operations.light.days import HitView
from ....operations.light.seasons import Season, SeasonDay
from ..schemas import light as out


def present_hits(hits: Sequence[HitView], first: date, zone: str, body: str) -> out.AlignmentsOut:
    """Return hits with local dates and times, and a sentence with their number."""
    info = ZoneInfo(zone)
    listed = [_hit(item, first, info) for item in hits]
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


def present_season(found: Season, first: date, zone: str) -> out.SeasonOut:
    """Return the days on which a shot works, those with its light but a closed way, and those that could not be
    judged.
    """
    info = ZoneInfo(zone)
    return out.SeasonOut(
        days=[_season_day(day, first, info) for day in found.days],
        closed=[_season_day(day, first, info) for day in found.closed],
        unknown=[_season_day(day, first, info) for day in found.unknown],
        months=_months(first),
        words=_season_words(found),
    )


def _season_words(found: Season) -> str:
    days = len(found.days)
    if found.tide_days is not None and found.tide_days < DAYS:
        known = f"The tide is known for {found.tide_days} of the next {DAYS} days"
        words = f"{known}: it works on {days} of them." if days else f"{known}; it works on none of them."
    else:
        words = (
            f"It works on {days} of the next {DAYS} days."
            if days
            else f"It does not work on any of the next {DAYS} days: ask for less."
        )
    if found.closed:
        words += (
            f" On {len(found.closed)} more the light comes, but tide, gates or hours close the way, or "
            "it is shorter than the frames."
        )
    if found.unknown:
        words += f" On {len(found.unknown)} the light comes, but the tide is not known."
    return words


def _season_day(day: SeasonDay, first: date, info: ZoneInfo) -> out.SeasonDayOut:
    return out.SeasonDayOut(
        date_local=day.date_local,
        date_words=_date_words(day.date_local),
        day_index=(day.date_local - first).days,
        spans=[
            out.SeasonSpanOut(
                start_utc=span.start_utc, end_utc=span.end_utc, start_clock=_clock(span.start_utc, info),
                end_clock=_clock(span.end_utc, info, day.date_local), from_h=_hours(span.start_utc, info),
                to_h=_hours(span.start_utc, info) + (span.end_utc - span.start_utc).total_seconds() / 3600,
            )
            for span in day.spans
        ],
        notes=list(day.notes),
    )  # fmt: skip


def _hit(item: HitView, first: date, info: ZoneInfo) -> out.HitOut:
    hit = item.hit
    local = hit.best_utc.astimezone(info)
    light = next(kind for kind, (low, high) in BANDS_DEG.items() if low <= hit.sun_altitude_deg <= high)
    return out.HitOut(
        start_utc=hit.start_utc,
        end_utc=hit.end_utc,
        best_utc=hit.best_utc,
        date_local=local.date(),
        date_words=_date_words(local.date()),
        start_clock=_clock(hit.start_utc, info),
        end_clock=_clock(hit.end_utc, info),
        best_clock=_clock(hit.best_utc, info),
        day_index=(local.date() - first).days,
        clock_h=_hours(hit.best_utc, info),
        azimuth_deg=hit.azimuth_deg,
        altitude_deg=hit.apparent_altitude_deg,
        sun_altitude_deg=hit.sun_altitude_deg,
        fraction=hit.fraction,
        light=label_of(light),
        frame_words=_in_frame(item.in_frame),
    )


def _in_frame(place: tuple[float, float] | None) -> str:
    """Return the body's position in the frame, from the left and from below; empty if not known."""
    if place is None:
        return ""
    x, y = place
    if not (0 <= x <= 1 and 0 <= y <= 1):
        sides = [word for word, out_ in (("left", x < 0), ("right", x > 1), ("above", y < 0), ("below", y > 1)) if out_]
        return f"outside the frame, {' and '.join(sides)}"
    return f"in the frame {percent(x)} across, {percent(1 - y)} up"


def _months(first: date) -> list[out.MonthTickOut]:
    days = (first + timedelta(days=number) for number in range(DAYS))
    return [
        out.MonthTickOut(day_index=number, label=MONTHS[day.month - 1])
        for number, day in enumerate(days)
        if day.day == 1
    ]


def _date_words(day: date) -> str:
    return format_day(day, weekday=True)


def _clock(moment: datetime, info: ZoneInfo, day: date | None = None) -> str:
    return format_moment(moment.astimezone(info), day)


def _hours(moment: datetime, info: ZoneInfo) -> float:
    local = moment.astimezone(info)
    return local.hour + local.minute / 60 + local.second / 3600
