"""Motion in the image: the streak on the sensor and the look it gives.

The bands, as shares of the frame's short side, are our own model, to be calibrated by rated frames. They reconcile the
schools: a drain over rocks 4 m away (24 mm, 1 m/s, 1/4 to 2 s) and surf from a cliff (100 m, 70 mm, 1.5 m/s, 5 to 7 s)
give about the same share. The trade's usual times are in moving_things.py.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from ..errors import InputError
from ..optics.circle_of_confusion import crop_factor
from ..optics.conjugates import magnification
from ..units.quantities import Quantity, in_callers_shape, not_negative, positive


class LookName(StrEnum):
    FROZEN = "frozen"
    TEXTURED = "textured"
    SILKY = "silky"
    VEILED = "veiled"
    FLATTENED = "flattened"


@dataclass(frozen=True)
class Look:
    """A look of moving water, as a range of streaks in shares of the frame's short side."""

    name: LookName
    low_share: float
    high_share: float


LOOKS = (
    Look(LookName.TEXTURED, 0.05, 0.40),
    Look(LookName.SILKY, 0.40, 1.50),
    Look(LookName.VEILED, 1.50, 6.00),
    Look(LookName.FLATTENED, 6.00, 60.00),
)


def streak_mm(focal_mm: Quantity, object_distance_mm: Quantity, speed_mps: Quantity, shutter_s: Quantity) -> Any:
    """Return the streak on the sensor [mm]: speed across the view times magnification times shutter time.

    Broadcasts.
    """
    speed, shutter = not_negative("speed_mps", speed_mps), positive("shutter_s", shutter_s)
    return in_callers_shape(speed * 1000 * magnification(focal_mm, object_distance_mm) * shutter)


def times_of_look_s(name: str, streak_mm_per_s: float, short_side_mm: float, coc_mm: float) -> tuple[float, float]:
    """Return the shortest and longest shutter time [s] for a named look, given the streak per second on the sensor.

    "frozen" starts at 0. Raises InputError for an unknown name.
    """
    a_second = float(positive("streak_mm_per_s", streak_mm_per_s))
    if name == LookName.FROZEN:
        return 0.0, float(positive("coc_mm", coc_mm)) / a_second
    for look in LOOKS:
        if look.name == name:
            return look.low_share * short_side_mm / a_second, look.high_share * short_side_mm / a_second
    raise InputError("look", f"“{name}” is not a look. Choose one of {', '.join(LookName)}.")


def look_of_streak(streak_mm: float, short_side_mm: float, coc_mm: float) -> str:
    """Return the look that a streak [mm] gives: frozen up to one circle of confusion, then by share of the short side.

    Between one circle of confusion and the lowest band it is "slightly blurred".
    """
    length = float(not_negative("streak_mm", streak_mm))
    if length <= float(positive("coc_mm", coc_mm)):
        return LookName.FROZEN
    share = length / float(positive("short_side_mm", short_side_mm))
    if share < LOOKS[0].low_share:
        return "slightly blurred"
    return next((look.name for look in LOOKS if share <= look.high_share), LOOKS[-1].name)


def middle_time_s(times_s: tuple[float, float]) -> float:
    """Return the time [s] to aim for inside a band: its geometric middle, or the upper end if the band starts at 0."""
    low, high = times_s
    return math.sqrt(low * high) if low > 0 else high


def hand_limit_s(focal_mm: float, sensor_width_mm: float, sensor_height_mm: float) -> float:
    """Return the longest hand-held exposure [s], 1/(focal length × crop factor) (common practice).

    focal_mm: as the lens images now, longer close up. The crop factor compares the diagonal with that of 36 × 24 mm.
    """
    return 1 / crop_factor(sensor_width_mm, sensor_height_mm) / float(positive("focal_mm", focal_mm))
