"""Workings of light: how bright the place is."""

from __future__ import annotations

from typing import Any

from ..facts.shot import ShotFacts
from ..planning.light.plan import LightStep
from .working import Given, Working


def light_workings(facts: ShotFacts, step: LightStep) -> list[Working]:
    """Return the working of the light at the shot's time; none without a place or a time."""
    if step.ev100 is None or step.sun_altitude_deg is None or step.illumination is None:
        return []
    light = step.illumination
    lux = light.level_lux
    given = [
        Given("sun", f"{step.sun_altitude_deg:+.1f}° high".replace("-", "−"), "by the ephemeris, without the air"),
        Given("sun and its sky", _lux(light.sun_beam_lux + light.sun_sky_lux), _hidden(step)),
        Given("moon and its sky", _lux(light.moon_beam_lux + light.moon_sky_lux), step.moon_words or "moon"),
    ]
    if step.cloud_oktas is not None:
        given.append(Given("cloud", f"{step.cloud_oktas:.1f} of 8", "by the forecast"))
    if step.shift_stops is not None:
        given.append(Given("that day's readings", f"{step.shift_stops:+.1f} stops".replace("-", "−"), "metered"))
    return [
        Working(
            figure="light",
            name="Light here",
            result=f"EV {step.ev100:.1f}",
            formula="log2(E ÷ 2.5), at ISO 100",
            with_numbers=f"log2({_lux(lux)} ÷ 2.5)" + ("" if step.shift_stops is None else " and the readings"),
            given=tuple(given),
            assumption=f"On level ground, {step.ev_source}.",
            source="ISO 2720; clear-sky light as in docs/light.md.",
        )
    ]


def _lux(amount: Any) -> str:
    value = float(amount)
    return f"{value:.0f} lux" if value >= 100 else f"{value:.3g} lux"


def _hidden(step: LightStep) -> str:
    return "the land hides the sun" if step.sun_hidden else "clear-sky light after its altitude"
