"""Motion in the image: the streak on the sensor and the look it gives.

The bands, as shares of the frame's short side, are our own model, to be calibrated by rated frames. They reconcile the
schools: a drain over rocks 4 m away (24 mm, 1 m/s, 1/4 to 2 s) and surf from a cliff (100 m, 70 mm, 1.5 m/s, 5 to 7 s)
give about the same share. The trade's usual times are in moving_things.py.

Water far away draws short streaks and still becomes smooth, because wave after wave passes each point. So two scales
decide, and the faster one counts: the streak in the frame, and how many waves or eddies pass while the shutter is open.
Half a wave is silky, three are a veil, twelve lie flat: surf of ten seconds in 5 s, half a minute, two minutes (common
practice: 5 to 7 s from a cliff, 30 s for a veil, minutes to flatten).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

import numpy as np

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


# So many waves passing a point look like such a streak, in shares of the short side (our own model).
_WAVES = np.array([0.1, 0.5, 3.0, 12.0, 120.0])
_SHARES_OF_WAVES = np.array([0.05, 0.40, 1.50, 6.00, 60.00])


def share_of_waves(waves: Quantity) -> Any:
    """Return the streak that looks as smooth as so many waves passing [share of the short side]. Broadcasts."""
    count = not_negative("waves", waves)
    inside = np.interp(np.log(np.maximum(count, 1e-9)), np.log(_WAVES), np.log(_SHARES_OF_WAVES))
    return in_callers_shape(np.exp(inside) * np.where(count < _WAVES[0], count / _WAVES[0], 1.0))


def waves_of_share(share: Quantity) -> Any:
    """Return the number of waves that look as smooth as a streak: the inverse of share_of_waves. Broadcasts."""
    wanted = positive("share", share)
    inside = np.exp(np.interp(np.log(wanted), np.log(_SHARES_OF_WAVES), np.log(_WAVES)))
    return in_callers_shape(inside * np.where(wanted < _SHARES_OF_WAVES[0], wanted / _SHARES_OF_WAVES[0], 1.0))


def streak_mm(focal_mm: Quantity, object_distance_mm: Quantity, speed_mps: Quantity, shutter_s: Quantity) -> Any:
    """Return the streak on the sensor [mm]: speed across the view times magnification times shutter time.

    Broadcasts.
    """
    speed, shutter = not_negative("speed_mps", speed_mps), positive("shutter_s", shutter_s)
    return in_callers_shape(speed * 1000 * magnification(focal_mm, object_distance_mm) * shutter)


def times_of_look_s(
    name: str, streak_mm_per_s: float, short_side_mm: float, coc_mm: float, period_s: float | None = None
) -> tuple[float, float]:
    """Return the shortest and longest shutter time [s] for a named look, given the streak per second on the sensor.

    period_s: of its waves or eddies; None of what has none. "frozen" starts at 0. Raises InputError for an unknown
    name.
    """
    a_second = float(positive("streak_mm_per_s", streak_mm_per_s))
    if name == LookName.FROZEN:
        return 0.0, float(positive("coc_mm", coc_mm)) / a_second
    for look in LOOKS:
        if look.name == name:
            low, high = (share * short_side_mm / a_second for share in (look.low_share, look.high_share))
            if period_s is None:
                return low, high
            by_waves = np.asarray(waves_of_share(np.array([look.low_share, look.high_share]))) * period_s
            return min(low, float(by_waves[0])), min(high, float(by_waves[1]))
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
