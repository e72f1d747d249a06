"""What a sensor makes of light: clipped, held or lost in noise, and how light it looks.

Sources: [1] ISO 12232: mid-grey lies log2(1/0.127) under saturation; [2] IEC 61966-2-1 (sRGB) for how a screen shows
it. Between the two stands a soft shoulder, 1 - (1 - v)^1.46, which shows mid-grey as 18 % and saturation as white: our
own choice.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..exposure.bracketing import MID_GREY_OF_SATURATION

Floats = NDArray[np.float64]
_SHOULDER = math.log(1 - 0.18) / math.log(1 - MID_GREY_OF_SATURATION)


def screen_tone(stops_below: Any) -> Floats:
    """Return the brightness on a screen of light a number of stops under saturation, 0 (black) to 1 (white).

    Broadcasts. Source: [1], [2].
    """
    share = np.clip(np.exp2(-np.asarray(stops_below, dtype=np.float64)), 0.0, 1.0)
    return srgb_from_linear(1 - (1 - share) ** _SHOULDER)


def srgb_from_linear(linear: Any) -> Floats:
    """Return the sRGB value of linear light, 0 to 1. Source: [2]: 0.2140 is 0.5."""
    light = np.asarray(linear, dtype=np.float64)
    return np.asarray(
        np.where(light <= 0.0031308, 12.92 * light, 1.055 * np.maximum(light, 0.0031308) ** (1 / 2.4) - 0.055)
    )


def linear_from_srgb(value: Any) -> Floats:
    """Return linear light of sRGB values, both 0 to 1. Broadcasts. Source: [2]."""
    encoded = np.asarray(value, dtype=np.float64)
    return np.asarray(
        np.where(encoded <= 0.04045, encoded / 12.92, ((np.maximum(encoded, 0.04045) + 0.055) / 1.055) ** 2.4)
    )


def response_table(held_stops: float, count: int = 96) -> tuple[Floats, Floats]:
    """Return stops under saturation from 0 to a stop under the darkest that is held, and the tone of each."""
    below = np.linspace(0.0, held_stops + 1.0, count)
    return below, screen_tone(below)
