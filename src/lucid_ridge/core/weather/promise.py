"""How promising a window of light is under a forecast, and why.

A model of our own, not a measurement: each factor moves the rating from an even 50 by its weight, which the
photographer can change. The spread grows with the lead time; a forecast ten days out says little.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..light.kinds import NIGHT_KINDS, LightKind
from ..units.spelling import percent
from .cloud import WIDEST, spread_share
from .forecast import Forecast, ForecastHour

SUN_KINDS = (
    LightKind.LOW_SIDE_LIGHT,
    LightKind.LOW_BACK_LIGHT,
    LightKind.LOW_FRONT_LIGHT,
    LightKind.SOLAR_ECLIPSE,
)
GLOW_KINDS = (LightKind.GLOW, LightKind.BLUE_HOUR)
DEFAULT_WEIGHTS: Mapping[str, float] = {
    "sun through the cloud": 45.0,
    "low cloud at the horizon": 35.0,
    "high cloud over a clear horizon": 20.0,
    "cloud before the stars": 40.0,
    "rain": 25.0,
    "rain clearing": 15.0,
    "wind on still water": 15.0,
    "wind in the leaves": 15.0,
    "fog in the way": 30.0,
    "mist in the valley": 45.0,
    "soft light for detail": 10.0,
}
HEAVIEST = 100.0
# Points from which a window is called promising, and fair.
PROMISING_FROM, FAIR_FROM = 65, 45
# Reflections break up from Beaufort 2 on, leaves are in constant motion from 3 on.
RIPPLES_MPS, LEAVES_MOVE_MPS = 1.6, 3.4
# Thin high cloud lets so much of the sun through where it is closed.
_CIRRUS_LETS = 0.4
# Rain dries up to this rate [mm/h] before it counts as clearing.
_DRIZZLE_MM = 0.3
# Mist: the spread to the dew point [K] and the wind [m/s] from which there is none, and what of it is left outside a
# valley (our own model).
_DRY_SPREAD_K, _MIXING_MPS, _IN_THE_OPEN = 3.0, 3.0, 0.6
# What an hour that the forecast lacks adds to half the spread [points].
_MISSING_HOUR = 5.0


@dataclass(frozen=True)
class Look:
    """What in the scene the weather bears on."""

    still_water: bool = False
    leaves: bool = False
    close_up: bool = False
    valley: bool = False


@dataclass(frozen=True)
class Factor:
    """A reason with the points it moved the rating by, and the weight they come from."""

    name: str
    points: float
    weight: float
    text: str


@dataclass(frozen=True)
class Promise:
    """rating 0..100 between low and high; factors by how much they moved it. hours_missing: of the window."""

    rating: float
    low: float
    high: float
    word: str
    factors: tuple[Factor, ...]
    lead_h: float
    hours_missing: int
    simulated: bool = False


def rate_window(
    kind: str,
    start_utc: datetime,
    end_utc: datetime,
    forecast: Forecast,
    now_utc: datetime,
    look: Look,
    weights: Mapping[str, float],
) -> Promise | None:
    """Return how promising a window is; None where the forecast holds no hour of it.

    weights: points at full effect, 0..100.
    """
    hours = forecast.between(start_utc, end_utc)
    if not hours:
        return None
    wanted = math.ceil((end_utc - start_utc) / timedelta(hours=1))
    before = forecast.between(start_utc - timedelta(hours=3), start_utc)
    factors = []
    for name, share in _FACTORS.items():
        effect, text = share(kind, hours, before, look)
        weight = weights.get(name, DEFAULT_WEIGHTS[name])
        if abs(effect * weight) >= 0.5:
            factors.append(Factor(name, effect * weight, weight, text))
    rating = min(100.0, max(0.0, 50 + sum(factor.points for factor in factors)))
    lead_h = max(
        0.0, (start_utc - forecast.issued_utc).total_seconds() / 3600, (start_utc - now_utc).total_seconds() / 3600
    )
    missing = max(0, wanted - len(hours))
    spread = min(100 * WIDEST, 100 * spread_share(lead_h) + _MISSING_HOUR * missing)
    ordered = tuple(sorted(factors, key=lambda factor: -abs(factor.points)))
    return Promise(
        rating=rating,
        low=max(0.0, rating - spread),
        high=min(100.0, rating + spread),
        word=_word(rating),
        factors=ordered,
        lead_h=lead_h,
        hours_missing=missing,
        simulated=forecast.simulated,
    )


def _word(rating: float) -> str:
    return (
        "promising"
        if rating >= PROMISING_FROM
        else "fair"
        if rating >= FAIR_FROM
        else "unlikely"
        if rating >= 25
        else "poor"
    )


def _mean(values: list[float]) -> float:
    return sum(values) / len(values)


Hours = tuple[ForecastHour, ...]
Share = Callable[[str, Hours, Hours, Look], tuple[float, str]]


def _sun(kind: str, hours: Hours, _before: Hours, _look: Look) -> tuple[float, str]:
    """Direct light needs a gap on the sun's line at every height of cloud; more cloud never helps it."""
    if kind not in SUN_KINDS:
        return 0.0, ""
    through = _mean(
        [(1 - hour.low_cloud) * (1 - hour.middle_cloud) * (1 - (1 - _CIRRUS_LETS) * hour.high_cloud) for hour in hours]
    )
    return 2 * through - 1, f"The sun has a gap through the cloud {percent(through)} of the time."


def _low_cloud(kind: str, hours: Hours, _before: Hours, _look: Look) -> tuple[float, str]:
    if kind not in GLOW_KINDS:
        return 0.0, ""
    share = _mean([hour.low_cloud for hour in hours])
    if share <= 0.4:
        return (0.4 - share) * 0.75, f"Only {percent(share)} low cloud: the light gets under."
    return -(share - 0.4) / 0.6, f"{percent(share)} low cloud is likely to block the light at the horizon."


def _high_cloud(kind: str, hours: Hours, _before: Hours, _look: Look) -> tuple[float, str]:
    """Colour needs high or middle cloud that is lit from below over a clear horizon."""
    if kind not in GLOW_KINDS:
        return 0.0, ""
    clear = 1 - _mean([hour.low_cloud for hour in hours])
    above = _mean([max(hour.high_cloud, 0.7 * hour.middle_cloud) for hour in hours])
    # Best with half to three quarters of the upper sky covered: a canvas, but not a lid.
    canvas = max(0.0, 1 - abs(above - 0.6) / 0.6)
    text = (
        f"{percent(above)} high cloud over a horizon that is {percent(clear)} clear here may colour; whether it is "
        "clear 50 to 200 km away is not known."
    )
    return clear * canvas, text


def _stars(kind: str, hours: Hours, _before: Hours, _look: Look) -> tuple[float, str]:
    if kind not in NIGHT_KINDS:
        return 0.0, ""
    cover = _mean([hour.cover for hour in hours])
    return 1 - 2 * cover, f"{percent(cover)} of the sky is covered."


def _rain(_kind: str, hours: Hours, _before: Hours, _look: Look) -> tuple[float, str]:
    rain = max(hour.rain_mm for hour in hours)
    return -min(1.0, rain / 1.5), f"Up to {rain:.1f} mm of rain an hour: drops on the front element."


def _clearing(kind: str, hours: Hours, before: Hours, _look: Look) -> tuple[float, str]:
    wet = max((hour.rain_mm for hour in before), default=0.0)
    dry = max(0.0, 1 - max(hour.rain_mm for hour in hours) / _DRIZZLE_MM)
    if kind not in (*SUN_KINDS, *GLOW_KINDS) or wet < 0.2:
        return 0.0, ""
    return min(1.0, (wet - 0.2) / 0.8) * dry, "Rain that clears just before leaves clean air and lit cloud."


def _water(_kind: str, hours: Hours, _before: Hours, look: Look) -> tuple[float, str]:
    if not look.still_water:
        return 0.0, ""
    wind = _mean([hour.wind_mps for hour in hours])
    return (
        max(-1.0, (RIPPLES_MPS - wind) / 3.0),
        f"Wind {wind:.0f} m/s on the water: "
        f"{'reflections may hold' if wind < RIPPLES_MPS else 'ripples instead of reflections'}.",
    )


def _leaves(_kind: str, hours: Hours, _before: Hours, look: Look) -> tuple[float, str]:
    if not (look.leaves or look.close_up):
        return 0.0, ""
    gust = max(hour.gust_mps for hour in hours)
    return (
        max(-1.0, min(0.5, (LEAVES_MOVE_MPS - gust) / 5.0)),
        f"Gusts of {gust:.0f} m/s: "
        f"{'leaves may hang still' if gust < LEAVES_MOVE_MPS else 'leaves and stems will move'}.",
    )


def _fog(kind: str, hours: Hours, _before: Hours, _look: Look) -> tuple[float, str]:
    """Fog hides sun, stars and distance; only who wants mist is glad of it."""
    fog = max(hour.fog for hour in hours)
    if kind == LightKind.MIST:
        return 0.0, ""
    return -fog, f"Fog is {percent(fog)} likely: it hides sun, stars and distance."


def _mist(kind: str, hours: Hours, before: Hours, look: Look) -> tuple[float, str]:
    """Mist forms in a calm, clear night near the dew point, and lies in valleys and over water."""
    if kind != LightKind.MIST:
        return 0.0, ""
    fog = max(hour.fog for hour in hours)
    spreads = [hour.temperature_c - hour.dew_point_c for hour in hours if hour.dew_point_c is not None]
    calm = max(0.0, 1 - min(hour.wind_mps for hour in hours) / _MIXING_MPS)
    clear = 1 - _mean([hour.cover for hour in (before or hours)])
    damp = max(0.0, 1 - min(spreads) / _DRY_SPREAD_K) if spreads else 0.0
    likely = max(fog, damp * calm * clear) * (1.0 if look.valley or look.still_water else _IN_THE_OPEN)
    said = f", {min(spreads):.0f} K over the dew point" if spreads else ""
    wind_mps = min(hour.wind_mps for hour in hours)
    words = f"Mist is {percent(likely)} likely: fog {percent(fog)}, wind {wind_mps:.0f} m/s{said}."
    return 2 * min(1.0, likely) - 1, words


def _soft(kind: str, hours: Hours, _before: Hours, look: Look) -> tuple[float, str]:
    if not look.close_up or kind in SUN_KINDS:
        return 0.0, ""
    cover = _mean([hour.cover for hour in hours])
    return (
        2 * cover - 1,
        f"{percent(cover)} cloud: "
        f"{'soft light on small things' if cover > 0.5 else 'hard light and deep shadows on small things'}.",
    )


_FACTORS: Mapping[str, Share] = {
    "sun through the cloud": _sun,
    "low cloud at the horizon": _low_cloud,
    "high cloud over a clear horizon": _high_cloud,
    "cloud before the stars": _stars,
    "rain": _rain,
    "rain clearing": _clearing,
    "wind on still water": _water,
    "wind in the leaves": _leaves,
    "fog in the way": _fog,
    "mist in the valley": _mist,
    "soft light for detail": _soft,
}
