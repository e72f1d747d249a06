"""Light of a clear sky from the sun's altitude.

Sources: [1] P. M. Janiczek and J. A. DeYoung, Computer Programs for Sun and Moon Illuminance, US Naval Observatory
Circular 171, 1987 (from memory; about 3.4 lux at -6 degrees, 0.008 at -12); [2] F. Kasten and G. Czeplak, Solar and
terrestrial radiation dependent on the amount and type of cloud, Solar Energy 24 (1980) 177.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..errors import InputError
from ..units.quantities import Quantity, as_floats, in_callers_shape

# Lower edge of each segment [degrees] and l0..l3 of log10 lux = l0 + l1 x + l2 x² + l3 x³ with x = altitude / 90.
# Source: [1].
_SEGMENTS_JANICZEK1987 = (
    (-18.0, 13.84, 262.72, 1447.42, 2797.93),
    (-12.0, 2.70, 12.17, -431.69, -1899.83),
    (-5.0, 2.88, 21.81, -258.11, -858.36),
    (-0.8, 2.88, 22.26, -207.64, 1034.30),
    (5.0, 3.05, 13.28, -45.98, 64.33),
    (20.0, 3.74, 3.97, -4.07, 1.47),
)
LOWEST_DEG = -18.0


def sun_illuminance_lux(altitude_deg: Quantity) -> Any:
    """Return the horizontal illuminance [lux] of a clear sky at the sun's airless altitude.

    Broadcasts. Source: [1].

    Below -18 degrees the formula is undefined: the value at -18 (about 0.0007 lux, a clear moonless night) stands as a
    floor. The segments meet with jumps of up to 1 %. NaN gives NaN. Raises InputError outside -90..90 (for what is not
    NaN).
    """
    altitude = as_floats("altitude_deg", altitude_deg)
    if (np.abs(altitude) > 90).any():
        raise InputError("altitude_deg", "altitude_deg must lie from -90 to 90.")
    clipped = np.maximum(altitude, LOWEST_DEG)
    x = clipped / 90
    edges = np.array([segment[0] for segment in _SEGMENTS_JANICZEK1987])
    which = np.clip(np.searchsorted(edges, clipped, side="right") - 1, 0, len(edges) - 1)
    l0, l1, l2, l3 = np.array([segment[1:] for segment in _SEGMENTS_JANICZEK1987])[which].transpose(
        (-1, *range(np.ndim(which)))
    )
    return in_callers_shape(10 ** (l0 + x * (l1 + x * (l2 + x * l3))))


def cloud_factor_kasten1980(cloud_oktas: Quantity) -> Any:
    """Return the share of clear-sky light left under n oktas of cloud, 1 - 0.75 (n/8)^3.4, n 0..8. Source: [2]."""
    oktas = as_floats("cloud_oktas", cloud_oktas)
    if not ((oktas >= 0) & (oktas <= 8)).all():
        raise InputError("cloud_oktas", "Cloud cover must lie from 0 to 8 oktas.")
    return in_callers_shape(1 - 0.75 * (oktas / 8) ** 3.4)
