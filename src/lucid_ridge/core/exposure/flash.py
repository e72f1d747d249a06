"""Flash and small lights: power, recycling, and the ratio to ambient light.

Sources: [1] ISO 1230, guide number = f-number · distance at ISO 100; [2] ISO 2720:1974, incident light E = 2.5 · 2^EV
at ISO 100.
"""

from __future__ import annotations

import math

from ..units.quantities import not_negative, positive
from .ev import ev100_from_illuminance

# Lowest power of a flash as a share of full power (common practice: 1/128, some 1/256).
LEAST_POWER = 1 / 128


def power_fraction(guide_number_m: float, distance_m: float, effective_f_number: float, iso: float = 100) -> float:
    """Return the share of full power that exposes a mid tone: (N_e d / GN)² · 100 / S.

    Over 1 it is not enough. Source: [1].

    guide_number_m: at ISO 100 and full power [m]. distance_m: flash to subject. effective_f_number: with extension and
    filters counted.
    """
    guide, distance = float(positive("guide_number_m", guide_number_m)), float(positive("distance_m", distance_m))
    marked, speed = float(positive("effective_f_number", effective_f_number)), float(positive("iso", iso))
    return (marked * distance / guide) ** 2 * 100 / speed


def recycle_s(full_s: float, power: float) -> float:
    """Return the recycling time of a flash [s], in proportion to the power of the last burst. Source: [1]."""
    return float(not_negative("full_s", full_s)) * float(not_negative("power", power))


def power_setting(power: float) -> tuple[int, float]:
    """Return the next higher power setting 1/2^k as k (0 is full power, 7 is 1/128), and the stops it has to spare."""
    wanted = float(positive("power", power))
    steps = max(0, min(round(-math.log2(LEAST_POWER)), math.floor(-math.log2(wanted) + 1e-9)))
    return steps, -steps - math.log2(wanted)


def led_ev100(lux_at_1m: float, distance_m: float, loss_stops: float = 0.0) -> float:
    """Return the light of a lamp on the subject [EV at ISO 100], by the inverse-square law. Source: [2]."""
    lux = float(positive("lux_at_1m", lux_at_1m)) / float(positive("distance_m", distance_m)) ** 2
    return float(ev100_from_illuminance(lux / 2 ** float(not_negative("loss_stops", loss_stops))))
