"""The date of a shot, and the forecast's state, as response bodies."""

from __future__ import annotations

import math
from datetime import date, datetime, timedelta

import numpy as np

from ....core.facts.settings import settings_of
from ....core.facts.shot import ShotFacts
from ....core.framing.projection import Orientation, field_of_view_deg
from ....core.light.ephemeris import refraction_deg
from ....core.light.seen_bodies import SeenBody
from ....core.light.skyline import shows
from ....core.light.windows import LightWindow
from ....core.planning.day.galactic_core import galactic_day
from ....core.planning.day.windows import RankedWindow
from ....core.planning.light.wording import SOLAR_FILTER
from ....core.planning.verdicts import Mark
from ....core.planning.way.closures import closure_words
from ....core.planning.way.plan import way_words
from ....core.spans.instants import local_day, unix_seconds, zone_info
from ....core.units.lengths import compass_point, format_distance, format_height
from ....core.units.spelling import format_clock, format_day, percent
from ....core.weather.forecast import Forecast, ForecastHour, wind_chill_c
from ....core.weather.promise import Promise
from ....operations.light.days import DayForShot
from ....operations.places.forecasts import ForecastState
from ..schemas import light as out
from .light import LocalDay

_LONGEST_SHADOW_M = 5000.0


def present_shot_day(found: DayForShot | None) -> out.ShotDayOut:
    """Return windows, weather, shadows, and the positions on the ribbon; empty without place or date."""
    if found is None:
        return out.ShotDayOut(
            windows=[],
            ruled_out=[],
            closed=[],
            way=[],
            subject_name=None,
            subject_lit=[],
            shadows=[],
            shadow_ratio=None,
            weather=[],
            elements=[],
            frame=None,
            galactic=None,
        )
    facts, local = found.facts, LocalDay(found.day)
    subject = facts.subject
    length = (found.day.end_utc - found.day.start_utc).total_seconds()
    ratio = _shadow_ratio(found)
    return out.ShotDayOut(
        windows=[_window(facts, local, item) for item in found.found.windows],
        ruled_out=[out.RuledOutOut(kind=item.kind, reason=item.reason) for item in found.found.ruled_out],
        closed=[
            out.ClosedOut(
                **local.span(item.span).model_dump(),
                by_tide=item.walks_only,
                known=item.known,
                words=closure_words(facts, item),
            )
            for item in found.found.closed
            if local.seconds(item.span.end_utc) >= 0 and local.seconds(item.span.start_utc) <= length
        ],
        way=[
            out.LegOut(
                **local.span(leg.span).model_dump(),
                name=leg.name,
                dark=leg.dark,
                closed=leg.closed,
                unknown=leg.unknown,
            )
            for leg in found.found.legs
        ],
        subject_name=subject.name if subject else None,
        subject_lit=[local.span(span) for span in shows(found.day.track, facts.subject_skyline)],
        shadows=_shadows(found, ratio),
        shadow_ratio=ratio,
        weather=_weather(found.forecast, local, found.day.start_utc, found.day.end_utc),
        elements=_blocks(facts),
        frame=_frame(facts),
        galactic=_galactic(found),
    )


def _galactic(found: DayForShot) -> out.GalacticOut | None:
    assert found.facts.location is not None
    sky = galactic_day(found.facts.location, found.day, found.facts.light.time_utc)
    if sky is None:
        return None
    return out.GalacticOut(
        time_s=sky.time_s.tolist(),
        bearing_deg=np.round(sky.azimuth_deg, 1).tolist(),
        altitude_deg=np.round(sky.altitude_deg, 1).tolist(),
        band=[np.round(piece, 1).tolist() for piece in sky.band],
    )


_NONE_SET_UP = (
    "No forecast service is set up here: import a forecast from a file, or practise with simulated weather, in "
    "Preferences."
)


def present_forecast(state: ForecastState, now_utc: datetime, none_set_up: bool = False) -> out.ForecastOut:
    """Return the age of the forecast, and why there is no newer one. none_set_up: no real service can be asked."""
    forecast = state.forecast
    last = forecast.hours[-1].time_utc if forecast else None
    return out.ForecastOut(
        known=forecast is not None,
        source=state.source,
        simulated=state.simulated,
        issued_utc=forecast.issued_utc if forecast else None,
        fetched_at_utc=state.fetched_at_utc,
        age_words=_age(now_utc - state.fetched_at_utc) if state.fetched_at_utc else "never",
        problem=state.problem or (_NONE_SET_UP if none_set_up and forecast is None else ""),
        hours=len(forecast.hours) if forecast else 0,
        hours_by_hand=len(state.by_hand),
        until_words=format_day(last, year=False) if last else "",
    )


def present_hours(state: ForecastState, day: date, zone: str) -> out.HoursOut:
    """Return the hours of a local date."""
    start, end = local_day(day, zone)
    info = zone_info(zone)
    hours = state.forecast.between(start, end) if state.forecast else ()
    return out.HoursOut(
        hours=[
            out.HourOut(
                **_figures(hour), time_utc=hour.time_utc, clock=format_clock(hour.time_utc.astimezone(info)),
                by_hand=hour.time_utc in state.by_hand,
            )
            for hour in hours
        ]
    )  # fmt: skip


def _age(age: timedelta) -> str:
    minutes = max(0, round(age.total_seconds() / 60))
    if minutes < 1:
        return "just now"
    if minutes < 60:
        return f"{minutes} min ago"
    return f"{minutes // 60} h ago" if minutes < 48 * 60 else f"{minutes // 1440} days ago"


def _window(facts: ShotFacts, local: LocalDay, item: RankedWindow) -> out.WindowOut:
    window, take = item.window, item.take
    span = window.span
    whole = take == span
    return out.WindowOut(
        kind=window.kind,
        mark=Mark(item.mark),
        start_utc=span.start_utc,
        end_utc=span.end_utc,
        **local.span(span).model_dump(),
        span_words=(
            f"{'…' if span.starts_before else local.short(span.start_utc)}–"
            f"{'…' if span.ends_after else local.short(span.end_utc)}"
        ),
        before=span.starts_before,
        after=span.ends_after,
        minutes=(span.end_utc - span.start_utc).total_seconds() / 60,
        wanted=window.wanted,
        reasons=_reasons(facts, local, window),
        leave_home=local.clock(item.way.arrival.leave_home_utc)
        if item.way and item.way.arrival.leave_home_utc
        else None,
        broken=item.usable.broken or item.usable.short,
        too_short=bool(item.usable.short),
        unknown=item.usable.unknown,
        cut=item.usable.cut,
        take_start_utc=take.start_utc,
        take_end_utc=take.end_utc,
        take_words="Take this window"
        if whole
        else f"Take {local.clock(take.start_utc)} to {local.clock(take.end_utc)}",
        way_words=way_words(facts, item.way) if item.way and facts.approach else "",
        cautions=[
            out.CautionOut(code=reason.code, severity=reason.severity, text=reason.text) for reason in item.reasons
        ],
        promise=present_promise(item.promise) if item.promise else None,
    )


def _reasons(facts: ShotFacts, local: LocalDay, window: LightWindow) -> list[str]:
    low, high = window.sun_altitude_deg
    if high < -6.5:
        sun = f"The sun is at least {-high:.0f}° down"
    else:
        sun = f"The sun goes from {_height(low)} to {_height(high)}"
    if window.angle_from_view_deg is not None and high > -1:
        first, last = window.angle_from_view_deg
        sun += f", {first:.0f} to {last:.0f}° from the view"
    reasons = [sun + "."]
    if window.body is not None:
        reasons.append(_body_words(local, window.body))
    if window.water_m is not None:
        element = facts.element(facts.light.water_element_id)
        bed = element.bed_m if element and element.bed_m is not None else 0.0
        where = f" at {element.name}" if element else ""
        if facts.location is not None and facts.location.tide_simulated:
            where += " (simulated)"
        reasons.append(
            f"Water{where} {format_height(window.water_m[0] - bed)} to {format_height(window.water_m[1] - bed)}."
        )
    if window.wet_span is not None:
        wet = local.span(window.wet_span)
        more = f", the longest of {len(window.wet_spans)} times" if len(window.wet_spans) > 1 else ""
        reasons.append(f"The depth wanted lasts from {wet.start_clock} to {wet.end_clock}{more}.")
    return reasons


def _body_words(local: LocalDay, body: SeenBody) -> str:
    low, high = body.altitude_deg
    first, last = body.azimuth_deg
    text = f"The {body.name} stands {low:.0f} to {high:.0f}° high, from {compass_point(first)} to {compass_point(last)}"
    text += f" (bearing {first:.0f} to {last:.0f}°)."
    if body.deepest is None or body.deepest_utc is None:
        return text
    at = local.clock(body.deepest_utc)
    if body.name == "sun":
        return f"{text} {percent(body.deepest)} of it is covered at {at}. {SOLAR_FILTER}"
    deep = "all of it is" if body.deepest >= 1 else f"{percent(body.deepest)} of its diameter is"
    return f"{text} At {at}, deepest, {deep} in the Earth's shadow."


def _height(degrees: float) -> str:
    return f"{abs(degrees):.0f}° {'up' if degrees >= -0.5 else 'down'}"


def present_promise(promise: Promise) -> out.PromiseOut:
    days = promise.lead_h / 24
    lead = f"{promise.lead_h:.0f} h ahead" if days < 2 else f"{days:.0f} days ahead"
    if promise.simulated:
        lead = f"simulated, {lead}"
    return out.PromiseOut(
        rating=promise.rating,
        low=promise.low,
        high=promise.high,
        word=promise.word,
        lead_words=lead,
        hours_missing=promise.hours_missing,
        factors=[
            out.FactorOut(name=item.name, points=item.points, weight=item.weight, text=item.text)
            for item in promise.factors
        ],
    )


def _shadow_ratio(found: DayForShot) -> float | None:
    moment = found.facts.light.time_utc
    if moment is None:
        return None
    altitude = float(found.day.track.altitude_deg(float(unix_seconds(moment))))
    apparent = altitude + float(refraction_deg(altitude))
    return 1 / math.tan(math.radians(apparent)) if apparent > 0.1 else None


def _shadows(found: DayForShot, ratio: float | None) -> list[out.ShadowOut]:
    moment = found.facts.light.time_utc
    if ratio is None or moment is None:
        return []
    bearing = (float(found.day.track.azimuth_deg(float(unix_seconds(moment)))) + 180) % 360
    return [
        out.ShadowOut(
            element_id=item.id,
            bearing_deg=bearing,
            length_m=min(_LONGEST_SHADOW_M, item.height_m * ratio),
            label=format_distance(item.height_m * ratio),
        )
        for item in found.facts.elements
        if item.shape not in ("water", "ridge")
    ]


def _weather(forecast: Forecast | None, local: LocalDay, start: datetime, end: datetime) -> list[out.WeatherHourOut]:
    if forecast is None:
        return []
    return [_hour(local, hour) for hour in forecast.between(start, end)]


def _hour(local: LocalDay, hour: ForecastHour) -> out.WeatherHourOut:
    chill = wind_chill_c(hour.temperature_c, hour.wind_mps)
    felt = f", feels like {chill:.0f} °C" if chill is not None and chill < hour.temperature_c - 2 else ""
    parts = [
        f"cloud {percent(hour.low_cloud)} low, {percent(hour.middle_cloud)} middle, {percent(hour.high_cloud)} high",
        f"wind {hour.wind_mps:.0f} m/s, gusts {hour.gust_mps:.0f}",
        f"{hour.rain_mm:.1f} mm of rain" if hour.rain_mm else "dry",
        f"{hour.temperature_c:.0f} °C{felt}",
    ]
    if hour.fog >= 0.2:
        parts.append(f"fog {percent(hour.fog)} likely")
    words = f"{local.clock(hour.time_utc)}: {'; '.join(parts)}"
    return out.WeatherHourOut(**_figures(hour), from_s=local.seconds(hour.time_utc), words=words)


def _figures(hour: ForecastHour) -> dict[str, float]:
    return {name: getattr(hour, name) for name in out.FiguresOut.model_fields}


def _blocks(facts: ShotFacts) -> list[out.BlockOut]:
    settings = settings_of(facts)
    eye = settings.camera_height_m if settings else 1.5
    blocks = []
    for item in facts.elements:
        if item.shape == "water":
            continue
        half = math.degrees(math.atan2(item.width_m / 2, item.distance_m))
        foot, top = (
            math.degrees(math.atan2(height - eye, item.distance_m))
            for height in (item.base_m, item.base_m + item.height_m)
        )
        blocks.append(
            out.BlockOut(
                name=item.name,
                from_deg=item.bearing_deg - half,
                to_deg=item.bearing_deg + half,
                foot_deg=foot,
                top_deg=top,
            )
        )
    return blocks


def _frame(facts: ShotFacts) -> out.BlockOut | None:
    settings, body = settings_of(facts), facts.body
    if settings is None or body is None:
        return None
    sides = (body.sensor_width_mm, body.sensor_height_mm)
    wide, high = sides if facts.frame.orientation == Orientation.LANDSCAPE else sides[::-1]
    across, up = (float(field_of_view_deg(side, settings.focal_mm)) for side in (wide, high))
    return out.BlockOut(
        name="frame", from_deg=settings.bearing_deg - across / 2, to_deg=settings.bearing_deg + across / 2,
        foot_deg=facts.frame.pitch_deg - up / 2, top_deg=facts.frame.pitch_deg + up / 2,
    )  # fmt: skip
