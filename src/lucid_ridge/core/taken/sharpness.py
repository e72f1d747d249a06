"""From which blur on a photographer calls a file soft: a circle of confusion in the points of the file."""

from __future__ import annotations

import math

# What sharp files show by themselves, from the lens at its best, the filter before the sensor and the guessing of
# colours between its points [px, a Gaussian's sigma; from memory].
FILE_SIGMA_PX = 1.2
# A fifteen-hundredth of the diagonal, as a share of the long side of 3:2 (common practice where nothing else was said).
USUAL_CIRCLE_SHARE = math.hypot(36, 24) / 1500 / 36


def limit_sigma_px(circle_share: float, long_px: float) -> float:
    """Return up to which blur [px, a Gaussian's sigma] a picture long_px long counts as sharp.

    circle_share: of the circle of confusion in the frame's long side, over 0.

    A disc c across has a variance of (c/4)² along each axis, which adds to what the file shows by itself.
    """
    return math.hypot(FILE_SIGMA_PX, circle_share * long_px / 4)


def disc_px(sigma_px: float) -> float:
    """Return how far across the disc is that, besides what files show by themselves, blurs as much as a Gaussian [px];
    the inverse of limit_sigma_px.
    """
    return 4 * math.sqrt(max(0.0, sigma_px**2 - FILE_SIGMA_PX**2))
