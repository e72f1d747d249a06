"""Reasons from the forecast: on the way, on the tripod, in the picture.

Wind by the Beaufort scale (World Meteorological Organization): ripples from force 2 (1.6 m/s), leaves in constant
motion from 3 (3.4 m/s), whole trees and walking from 7 and 8 (13.9, 17.2 m/s). A tripod on the ground shakes from about
force 6, 10.8 m/s (common practice). Frostbite becomes likely from a wind chill of -28 °C (Environment Canada).
"""

from __future__ import annotations

from datetime import timedelta

import numpy as np

from ...facts.shot import ShotFacts
from ...light.skyline import Skyline
from ...weather.forecast import HOUR, Forecast, ForecastHour, wind_chill_c
from ...weather.promise import LEAVES_MOVE_MPS, RIPPLES_MPS, Look
from ..reasons import Reason
from ..verdicts import HOLDS
from ..way.plan import Way, darkness_reasons
from . import wording as say
from .simulated import by_forecast

SHAKES_MPS, GALE_MPS = 10.8, 17.2
COLD_C, FROSTBITE_C = -10.0, -28.0
_VALLEY_DEG = 3.0
_WET_MM, _CLEARS_BY, _AHEAD = 0.1, 0.4, timedelta(hours=3)

Hours = tuple[ForecastHour, ...]


def way_cautions(facts: ShotFacts, way: Way) -> tuple[Reason, ...]:
    """Return cautions about darkness and weather for a way and stay, which need not be those of the shot's time."""
    return tuple(
        item for item in (*darkness_reasons(facts, way), *weather_reasons(facts, way)) if item.severity != HOLDS
    )


def look_of(facts: ShotFacts) -> Look:
    """Return the aspects of a shot's scene that depend on the weather."""
    return Look(
        still_water=any(item.shape == "water" and (item.moves_mps or 0) < 0.1 for item in facts.elements),
        leaves=any(item.shape in ("tree", "flower") for item in facts.elements),
        close_up=facts.close_up,
        valley=facts.location is not None and _is_valley(facts.location.skyline),
    )


def _is_valley(skyline: Skyline) -> bool:
    """Return whether land surrounds a place, so that cold air collects there: judged by the skyline's mean altitude
    (our own model).
    """
    return (
        bool(skyline.bearings_deg) and float(np.mean(skyline.altitude_deg(np.arange(0.0, 360.0, 10.0)))) >= _VALLEY_DEG
    )


def weather_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return reasons from the forecast for way and stay; empty for hours it does not reach."""
    return [*way_weather_reasons(facts, way), *picture_weather_reasons(facts, way)]


def way_weather_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return the reasons that count for the step of the place: the weather on the way."""
    hours = _hours(facts, way)
    return by_forecast(facts, [*_gale(hours[0]), *_cold(hours[0])]) if hours else []


def picture_weather_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return the reasons that count for the step of the light: the weather at the tripod and in the picture."""
    hours = _hours(facts, way)
    if hours is None or facts.forecast is None:
        return []
    whole, stay = hours
    found = [
        *_wind(whole, stay, look_of(facts)),
        *_rain(facts, facts.forecast, way, stay),
        *_sky(facts, facts.forecast, way, stay),
    ]
    return by_forecast(facts, found)


def _hours(facts: ShotFacts, way: Way) -> tuple[Hours, Hours] | None:
    """Return the forecast's hours of the whole way, and of the stay; None where it does not reach them."""
    if facts.forecast is None:
        return None
    whole = facts.forecast.between(way.walk_in.start_utc, way.walk_out.end_utc)
    stay = facts.forecast.between(way.moment_utc, way.stay.end_utc)
    return (whole, stay) if whole and stay else None


def _gale(whole: Hours) -> list[Reason]:
    worst = max(hour.gust_mps for hour in whole)
    return [say.gale(gust_mps=worst).tight("time_utc")] if worst >= GALE_MPS else []


def _wind(whole: Hours, stay: Hours, look: Look) -> list[Reason]:
    reasons = []
    here = max(max(hour.gust_mps, hour.wind_mps) for hour in stay)
    if here >= SHAKES_MPS and not _gale(whole):
        reasons.append(say.tripod_shakes(gust_mps=here).caution("time_utc"))
    wind = sum(hour.wind_mps for hour in stay) / len(stay)
    if look.still_water and wind >= RIPPLES_MPS:
        reasons.append(say.ripples(wind_mps=wind).caution("time_utc"))
    if (look.leaves or look.close_up) and here >= LEAVES_MOVE_MPS:
        reasons.append(say.plants_move(gust_mps=here, close_up=look.close_up).caution("time_utc"))
    return reasons


def _cold(whole: Hours) -> list[Reason]:
    felt = [chill for hour in whole if (chill := wind_chill_c(hour.temperature_c, hour.wind_mps)) is not None]
    coldest = min([*felt, *(hour.temperature_c for hour in whole)])
    if coldest <= FROSTBITE_C:
        return [say.frostbite(felt_c=coldest).tight("time_utc")]
    return [say.cold(felt_c=coldest).caution("time_utc")] if coldest <= COLD_C else []


def _rain(facts: ShotFacts, forecast: Forecast, way: Way, stay: Hours) -> list[Reason]:
    wettest = max(hour.rain_mm for hour in stay)
    before = forecast.between(way.moment_utc - _AHEAD, way.moment_utc)
    if wettest >= _WET_MM:
        after = forecast.between(way.stay.end_utc, way.stay.end_utc + 2 * _AHEAD)
        dry = next((hour for hour in after if hour.rain_mm < _WET_MM), None)
        return [say.rain(rain_mm_per_h=wettest, stops_at=facts.at(dry.time_utc) if dry else None).caution("time_utc")]
    if before and before[-1].rain_mm >= _WET_MM:
        return [say.rain_stops(stops_at=facts.at(before[-1].time_utc + HOUR)).holds("time_utc")]
    return []


def _sky(facts: ShotFacts, forecast: Forecast, way: Way, stay: Hours) -> list[Reason]:
    reasons = []
    fog = max(hour.fog for hour in stay)
    if fog >= 0.5:
        reasons.append(say.fog(chance=fog).caution("time_utc"))
    later = forecast.between(way.moment_utc, way.moment_utc + _AHEAD)
    clearer = next((hour for hour in later if later[0].cover - hour.cover >= _CLEARS_BY), None)
    if clearer is not None:
        words = say.clearing(
            cover_before=later[0].cover, cover_after=clearer.cover, clear_at=facts.at(clearer.time_utc)
        )
        reasons.append(words.holds("time_utc"))
    return reasons
