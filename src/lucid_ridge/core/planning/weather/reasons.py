"""What the forecast says to a shot: on the way, on the tripod, in the picture.

Wind by the Beaufort scale (World Meteorological Organization): ripples from force 2 (1.6 m/s), leaves in constant motion from 3
(3.4 m/s), whole trees and walking from 7 and 8 (13.9, 17.2 m/s). A tripod on the ground shakes from about force 6, 10.8 m/s (common
practice). Frostbite becomes likely from a wind chill of -28 °C (Environment Canada).
"""

from __future__ import annotations

from datetime import timedelta

import numpy as np

from ...facts.shot import ShotFacts
from ...light.skyline import Skyline
from ...weather.forecast import HOUR, Forecast, ForecastHour, wind_chill_c
from ...weather.promise import LEAVES_MOVE_MPS, RIPPLES_MPS, Look
from ..verdicts import CAUTION, HOLDS, TIGHT, Reason
from ..way.plan import Way, darkness_reasons

SHAKES_MPS, GALE_MPS = 10.8, 17.2
COLD_C, FROSTBITE_C = -10.0, -28.0
_VALLEY_DEG = 3.0
_WET_MM, _CLEARS_BY, _AHEAD = 0.1, 0.4, timedelta(hours=3)

Hours = tuple[ForecastHour, ...]


def way_cautions(facts: ShotFacts, way: Way) -> tuple[Reason, ...]:
    """Return what darkness and weather say against a way and stay that need not be those of the time chosen."""
    return tuple(item for item in (*darkness_reasons(facts, way), *weather_reasons(facts, way)) if item.severity != HOLDS)


def look_of(facts: ShotFacts) -> Look:
    """Return what in a shot's scene the weather bears on."""
    return Look(
        still_water=any(item.shape == "water" and (item.moves_mps or 0) < 0.1 for item in facts.elements),
        leaves=any(item.shape in ("tree", "flower") for item in facts.elements),
        close_up=facts.close_up,
        valley=facts.location is not None and _is_valley(facts.location.skyline),
    )


def _is_valley(skyline: Skyline) -> bool:
    """Return whether land stands around a place: cold air gathers where it is on average so high (our own model)."""
    return bool(skyline.bearings_deg) and float(np.mean(skyline.altitude_deg(np.arange(0.0, 360.0, 10.0)))) >= _VALLEY_DEG


def weather_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return what the forecast says to the way and the stay of a shot; nothing for hours that it does not reach."""
    return [*way_weather_reasons(facts, way), *picture_weather_reasons(facts, way)]


def way_weather_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return what of it judges the step of the place: what one meets on the way."""
    hours = _hours(facts, way)
    return [*_gale(hours[0]), *_cold(hours[0])] if hours else []


def picture_weather_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return what of it judges the step of the light: what the weather does to tripod and picture."""
    hours = _hours(facts, way)
    if hours is None or facts.forecast is None:
        return []
    whole, stay = hours
    return [
        *_wind(whole, stay, look_of(facts)),
        *_rain(facts, facts.forecast, way, stay),
        *_sky(facts, facts.forecast, way, stay),
    ]


def _hours(facts: ShotFacts, way: Way) -> tuple[Hours, Hours] | None:
    """Return the forecast's hours of the whole way, and of the stay; None where it does not reach them."""
    if facts.forecast is None:
        return None
    whole = facts.forecast.between(way.walk_in.start_utc, way.walk_out.end_utc)
    stay = facts.forecast.between(way.moment_utc, way.stay.end_utc)
    return (whole, stay) if whole and stay else None


def _gale(whole: Hours) -> list[Reason]:
    worst = max(hour.gust_mps for hour in whole)
    if worst < GALE_MPS:
        return []
    return [Reason("place", TIGHT, f"Gusts of {worst:.0f} m/s, a gale: walking is hard, and no tripod stands by itself.", "time_utc")]


def _wind(whole: Hours, stay: Hours, look: Look) -> list[Reason]:
    reasons = []
    here = max(max(hour.gust_mps, hour.wind_mps) for hour in stay)
    if here >= SHAKES_MPS and not _gale(whole):
        text = f"Gusts of {here:.0f} m/s shake the tripod: legs short and wide, a weight under it, yourself to windward, a shorter shutter."
        reasons.append(Reason("light", CAUTION, text, "time_utc"))
    wind = sum(hour.wind_mps for hour in stay) / len(stay)
    if look.still_water and wind >= RIPPLES_MPS:
        reasons.append(Reason("light", CAUTION, f"Wind of {wind:.0f} m/s: ripples instead of reflections.", "time_utc"))
    if (look.leaves or look.close_up) and here >= LEAVES_MOVE_MPS:
        what = "what is close" if look.close_up else "leaves"
        reasons.append(
            Reason("light", CAUTION, f"Gusts of {here:.0f} m/s keep {what} moving: wait for lulls, or shorten the shutter.", "time_utc")
        )
    return reasons


def _cold(whole: Hours) -> list[Reason]:
    felt = [chill for hour in whole if (chill := wind_chill_c(hour.temperature_c, hour.wind_mps)) is not None]
    coldest = min([*felt, *(hour.temperature_c for hour in whole)])
    if coldest <= FROSTBITE_C:
        return [
            Reason("place", TIGHT, f"It feels like {_degrees(coldest)} on the way: bare skin can freeze within half an hour.", "time_utc")
        ]
    if coldest <= COLD_C:
        return [
            Reason("place", CAUTION, f"It feels like {_degrees(coldest)} on the way: batteries warm, gloves one can work in.", "time_utc")
        ]
    return []


def _degrees(celsius: float) -> str:
    return f"{celsius:.0f} °C".replace("-", "−")


def _rain(facts: ShotFacts, forecast: Forecast, way: Way, stay: Hours) -> list[Reason]:
    wettest = max(hour.rain_mm for hour in stay)
    before = forecast.between(way.moment_utc - _AHEAD, way.moment_utc)
    if wettest >= _WET_MM:
        after = forecast.between(way.stay.end_utc, way.stay.end_utc + 2 * _AHEAD)
        dry = next((hour for hour in after if hour.rain_mm < _WET_MM), None)
        end = f"; it stops about {facts.clock(dry.time_utc)}" if dry else ""
        text = (
            f"Rain of up to {wettest:.1f} mm an hour is forecast{end}: a cover, a cloth, and look at the front element before each frame."
        )
        return [Reason("light", CAUTION, text, "time_utc")]
    if before and before[-1].rain_mm >= _WET_MM:
        stops = facts.clock(before[-1].time_utc + HOUR)
        return [Reason("light", HOLDS, f"The rain is forecast to stop about {stops}: wet ground, clean air.", "time_utc")]
    return []


def _sky(facts: ShotFacts, forecast: Forecast, way: Way, stay: Hours) -> list[Reason]:
    reasons = []
    fog = max(hour.fog for hour in stay)
    if fog >= 0.5:
        reasons.append(Reason("light", CAUTION, f"Fog is {fog:.0%} likely: the far things of the picture may not be there.", "time_utc"))
    later = forecast.between(way.moment_utc, way.moment_utc + _AHEAD)
    clearer = next((hour for hour in later if later[0].cover - hour.cover >= _CLEARS_BY), None)
    if clearer is not None:
        text = (
            f"The sky is forecast to clear, from {later[0].cover:.0%} covered to {clearer.cover:.0%} about {facts.clock(clearer.time_utc)}."
        )
        reasons.append(Reason("light", HOLDS, text, "time_utc"))
    return reasons
