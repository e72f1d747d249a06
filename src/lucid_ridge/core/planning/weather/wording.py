"""Sentences about the forecast: on the way, and in the picture; and about plan B."""

from __future__ import annotations

from ...units.lengths import format_duration
from ...units.spelling import LocalTime, percent
from ...weather.measures import Measure, format_measure
from ..verdicts import StepName
from ..wording import Catalogue, joined

on_the_way = Catalogue("weather", StepName.PLACE)
in_the_picture = Catalogue("weather", StepName.LIGHT)


def _degrees(celsius: float) -> str:
    return f"{celsius:.0f} °C".replace("-", "−")


@on_the_way
def gale(*, gust_mps: float) -> str:
    return f"Gusts of {gust_mps:.0f} m/s, a gale: walking is hard, and no tripod stands by itself."


@on_the_way
def frostbite(*, felt_c: float) -> str:
    return f"It feels like {_degrees(felt_c)} on the way: bare skin can freeze within half an hour."


@on_the_way
def cold(*, felt_c: float) -> str:
    return f"It feels like {_degrees(felt_c)} on the way: keep batteries warm, take gloves you can work in."


@in_the_picture
def tripod_shakes(*, gust_mps: float) -> str:
    return (
        f"Gusts of {gust_mps:.0f} m/s shake the tripod: keep the legs short and wide, hang a weight under it, "
        "stand to windward, "
        "use a shorter shutter."
    )


@in_the_picture
def ripples(*, wind_mps: float) -> str:
    return f"Wind of {wind_mps:.0f} m/s: ripples instead of reflections."


@in_the_picture
def plants_move(*, gust_mps: float, close_up: bool) -> str:
    what = "a close-up subject" if close_up else "leaves"
    return f"Gusts of {gust_mps:.0f} m/s keep {what} moving: wait for lulls, or shorten the shutter."


@in_the_picture
def rain(*, rain_mm_per_h: float, stops_at: LocalTime | None) -> str:
    end = f"; it stops about {stops_at}" if stops_at else ""
    return (
        f"Rain of up to {rain_mm_per_h:.1f} mm an hour is forecast{end}: take a cover and a cloth, and "
        "check the front element before each frame."
    )


@in_the_picture
def rain_stops(*, stops_at: LocalTime) -> str:
    return f"The rain is forecast to stop about {stops_at}: wet ground, clean air."


@in_the_picture
def fog(*, chance: float) -> str:
    return f"Fog is {percent(chance)} likely: distant parts of the picture may disappear in it."


@in_the_picture
def clearing(*, cover_before: float, cover_after: float, clear_at: LocalTime) -> str:
    change = f"from {percent(cover_before)} covered to {percent(cover_after)}"
    return f"The sky is forecast to clear, {change} about {clear_at}."


def _plan_b(name: str, drive_min: float | None, walk_min: float | None) -> str:
    legs = [
        f"{format_duration(60 * round(minutes))} {word}"
        for minutes, word in ((drive_min, "drive"), (walk_min, "on foot"))
        if minutes
    ]
    return f"Plan B is {name}{', ' + joined(legs) if legs else ''}"


@in_the_picture
def plan_b_rule_missing(*, name: str, drive_min: float | None, walk_min: float | None) -> str:
    return f"{_plan_b(name, drive_min, walk_min)}: enter what decides it, and when."


@in_the_picture
def plan_b(
    *,
    name: str,
    drive_min: float | None,
    walk_min: float | None,
    measure: Measure,
    limit: float,
    decided_at: LocalTime,
    forecast: float | None,
    go: bool,
) -> str:
    rule = (
        f"{_plan_b(name, drive_min, walk_min)}, if {measure.label} is over "
        f"{format_measure(measure, limit)} at {decided_at}"
    )
    if forecast is None:
        return f"{rule}; no forecast reaches that hour yet."
    found = f"{rule}; the forecast is {format_measure(measure, forecast)}"
    return f"{found}: by this forecast, go there." if go else f"{found}."
