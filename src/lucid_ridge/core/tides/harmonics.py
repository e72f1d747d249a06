"""Heights of the tide as a sum of cosines: the 37 constituents of the usual tables of constants.

Sources: [1] P. Schureman, Manual of Harmonic Analysis and Prediction of Tides, US Coast and Geodetic Survey Special
Publication 98, 1940: speeds (table 2) and equilibrium arguments; [2] J. Meeus, Astronomical Algorithms, 2nd ed.,
chapters 25 and 47: mean longitudes; [3] A. T. Doodson and H. D. Warburg, Admiralty Manual of Tides, 1941: nodal factors
and angles (from memory; held against UTide in the tests).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..units.quantities import in_callers_shape

_J2000_S = 946_728_000.0
_CENTURY_S = 36525 * 86400.0
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Constituent:
    """speed in degrees an hour; argument: multiples of T, s, h, p, p1 (hour angle of the mean sun; mean longitudes of
    moon, sun, lunar and solar perigee) and a constant [degrees].

    nodal: of which constituents, how often, its nodal factor is the product. Source: [1].
    """

    speed_deg_per_h: float
    argument: tuple[int, int, int, int, int]
    constant_deg: float = 0.0
    nodal: tuple[tuple[str, float], ...] = ()


_M2, _O1 = (("M2", 1.0),), (("O1", 1.0),)
# T counts from the mean sun's lower passage, midnight UTC.
CONSTITUENTS: Mapping[str, Constituent] = {
    "M2": Constituent(28.9841042, (2, -2, 2, 0, 0), 0.0, _M2),
    "S2": Constituent(30.0, (2, 0, 0, 0, 0)),
    "N2": Constituent(28.4397295, (2, -3, 2, 1, 0), 0.0, _M2),
    "K1": Constituent(15.0410686, (1, 0, 1, 0, 0), 90.0, (("K1", 1.0),)),
    "M4": Constituent(57.9682084, (4, -4, 4, 0, 0), 0.0, (("M2", 2.0),)),
    "O1": Constituent(13.9430356, (1, -2, 1, 0, 0), -90.0, _O1),
    "M6": Constituent(86.9523127, (6, -6, 6, 0, 0), 0.0, (("M2", 3.0),)),
    "MK3": Constituent(44.0251729, (3, -2, 3, 0, 0), 90.0, (("M2", 1.0), ("K1", 1.0))),
    "S4": Constituent(60.0, (4, 0, 0, 0, 0)),
    "MN4": Constituent(57.4238337, (4, -5, 4, 1, 0), 0.0, (("M2", 2.0),)),
    "NU2": Constituent(28.5125831, (2, -3, 4, -1, 0), 0.0, _M2),
    "S6": Constituent(90.0, (6, 0, 0, 0, 0)),
    "MU2": Constituent(27.9682084, (2, -4, 4, 0, 0), 0.0, _M2),
    "2N2": Constituent(27.8953548, (2, -4, 2, 2, 0), 0.0, _M2),
    "OO1": Constituent(16.1391017, (1, 2, 1, 0, 0), 90.0, (("OO1", 1.0),)),
    "LAM2": Constituent(29.4556253, (2, -1, 0, 1, 0), 180.0, _M2),
    "S1": Constituent(15.0, (1, 0, 0, 0, 0), 180.0),
    "M1": Constituent(14.4966939, (1, -1, 1, 1, 0), 90.0),
    "J1": Constituent(15.5854433, (1, 1, 1, -1, 0), 90.0, (("J1", 1.0),)),
    "MM": Constituent(0.5443747, (0, 1, 0, -1, 0), 0.0, (("MM", 1.0),)),
    "SSA": Constituent(0.0821373, (0, 0, 2, 0, 0)),
    "SA": Constituent(0.0410686, (0, 0, 1, 0, 0)),
    "MSF": Constituent(1.0158958, (0, 2, -2, 0, 0), 0.0, (("M2", -1.0),)),
    "MF": Constituent(1.0980331, (0, 2, 0, 0, 0), 0.0, (("MF", 1.0),)),
    "RHO": Constituent(13.4715145, (1, -3, 3, -1, 0), -90.0, _O1),
    "Q1": Constituent(13.3986609, (1, -3, 1, 1, 0), -90.0, _O1),
    "T2": Constituent(29.9589333, (2, 0, -1, 0, 1)),
    "R2": Constituent(30.0410667, (2, 0, 1, 0, -1), 180.0),
    "2Q1": Constituent(12.8542862, (1, -4, 1, 2, 0), -90.0, _O1),
    "P1": Constituent(14.9589314, (1, 0, -1, 0, 0), -90.0),
    "2SM2": Constituent(31.0158958, (2, 2, -2, 0, 0), 0.0, (("M2", -1.0),)),
    "M3": Constituent(43.4761563, (3, -3, 3, 0, 0), 180.0, (("M2", 1.5),)),
    "L2": Constituent(29.5284789, (2, -1, 2, -1, 0), 180.0, (("L2", 1.0),)),
    "2MK3": Constituent(42.9271398, (3, -4, 3, 0, 0), -90.0, (("M2", 2.0), ("K1", -1.0))),
    "K2": Constituent(30.0821373, (2, 0, 2, 0, 0), 0.0, (("K2", 1.0),)),
    "M8": Constituent(115.9364166, (8, -8, 8, 0, 0), 0.0, (("M2", 4.0),)),
    "MS4": Constituent(58.9841042, (4, -2, 2, 0, 0), 0.0, _M2),
}
# Other names of the same, as tables write them.
ALIASES: Mapping[str, str] = {
    "LAMBDA2": "LAM2",
    "LDA2": "LAM2",
    "RHO1": "RHO",
    "NO1": "M1",
    "MSQM": "MSF",
    "NIU2": "NU2",
    "MIU2": "MU2",
}


@dataclass(frozen=True)
class HarmonicConstants:
    """A reference place: mean_m above its zero, and per constituent (amplitude [m], lag behind the equilibrium tide at
    Greenwich [degrees]).

    nodal: whether the moon's node, which turns in 18.6 years, changes amplitudes and phases, as published constants
    ask for.
    """

    mean_m: float
    waves: tuple[tuple[str, float, float], ...]
    nodal: bool = True

    def __post_init__(self) -> None:
        for name, amplitude, _ in self.waves:
            if name not in CONSTITUENTS:
                raise InputError("waves", f"“{name}” is not one of {', '.join(CONSTITUENTS)}.")
            if not amplitude >= 0:
                raise InputError("waves", f"The amplitude of {name} must not be negative.")


def equilibrium_argument_deg(name: str, seconds: Any) -> Floats:
    """Return a constituent's equilibrium argument at Greenwich [degrees, not wrapped] at unix seconds.

    Sources: [1], [2].
    """
    time = np.asarray(seconds, dtype=np.float64)
    century = _centuries(time)
    hour_angle = 360.0 * (time / 86400.0)
    moon, sun = 218.3164477 + 481267.88123421 * century, 280.46646 + 36000.76983 * century
    perigee, solar_perigee = 83.3532465 + 4069.0137287 * century, 282.937 + 1.7195 * century
    wave = CONSTITUENTS[name]
    turning = (hour_angle, moon, sun, perigee, solar_perigee)
    return np.asarray(
        sum(count * angle for count, angle in zip(wave.argument, turning, strict=True)) + wave.constant_deg
    )


def nodal_correction(name: str, seconds: Any) -> tuple[Floats, Floats]:
    """Return the nodal factor of a constituent's amplitude and the angle added to its argument [degrees] at unix
    seconds.

    Source: [3].
    """
    time = np.asarray(seconds, dtype=np.float64)
    factor, angle = np.ones_like(time), np.zeros_like(time)
    for basis, power in CONSTITUENTS[name].nodal:
        one, turned = _nodal_l2(time) if basis == "L2" else _basic_nodal(basis, time)
        factor, angle = factor * one ** abs(power), angle + power * turned
    return factor, angle


def _centuries(time: Floats) -> Floats:
    return np.asarray((time - _J2000_S) / _CENTURY_S)


def _node_rad(time: Floats) -> Floats:
    """Return the mean longitude of the moon's ascending node [rad]. Source: [2]."""
    return np.radians(125.04452 - 1934.136261 * _centuries(time))


# Of each basis: the factor as a sum of cosines of multiples of the node's longitude, the angle [degrees] as one of
# sines.
_NODAL: Mapping[str, tuple[tuple[float, ...], tuple[float, ...]]] = {
    "M2": ((1.0004, -0.0373, 0.0002), (-2.14,)),
    "K1": ((1.0060, 0.1150, -0.0088, 0.0006), (-8.86, 0.68, -0.07)),
    "O1": ((1.0089, 0.1871, -0.0147, 0.0014), (10.80, -1.34, 0.19)),
    "K2": ((1.0241, 0.2863, 0.0083, -0.0015), (-17.74, 0.68, -0.04)),
    "J1": ((1.0129, 0.1676, -0.0170, 0.0016), (-12.94, 1.34, -0.19)),
    "OO1": ((1.1027, 0.6504, 0.0317, -0.0014), (-36.68, 4.02, -0.57)),
    "MM": ((1.0000, -0.1300, 0.0013), (0.0,)),
    "MF": ((1.0429, 0.4135, -0.0040), (-23.74, 2.68, -0.38)),
}


def _basic_nodal(basis: str, time: Floats) -> tuple[Floats, Floats]:
    node = _node_rad(time)
    cosines, sines = _NODAL[basis]
    factor = sum(value * np.cos(turn * node) for turn, value in enumerate(cosines))
    return np.asarray(factor), np.asarray(sum(value * np.sin(turn * node) for turn, value in enumerate(sines, start=1)))


def _nodal_l2(time: Floats) -> tuple[Floats, Floats]:
    node, perigee = _node_rad(time), np.radians(83.3532465 + 4069.0137287 * _centuries(time))
    parts = ((-0.2505, 2 * perigee), (-0.1102, 2 * perigee - node), (-0.0156, 2 * perigee - 2 * node), (-0.0370, node))
    across, along = (
        sum(value * np.sin(turn) for value, turn in parts),
        1.0 + sum(value * np.cos(turn) for value, turn in parts),
    )
    return np.hypot(along, across), np.degrees(np.arctan2(across, along))


def tide_height_m(constants: HarmonicConstants, seconds: Any) -> Any:
    """Return the tide's height [m above the place's zero] at unix seconds, in their shape."""
    total = np.full(np.shape(seconds), constants.mean_m)
    for name, amplitude, lag in constants.waves:
        factor, phase = _phase_deg(constants, name, lag, seconds)
        total = total + amplitude * factor * np.cos(np.radians(phase))
    return in_callers_shape(total)


def tide_rate_m_per_h(constants: HarmonicConstants, seconds: Any) -> Any:
    """Return how fast the tide rises [m an hour, negative on the ebb] at unix seconds, in their shape."""
    total = np.zeros(np.shape(seconds))
    for name, amplitude, lag in constants.waves:
        factor, phase = _phase_deg(constants, name, lag, seconds)
        speed = np.radians(CONSTITUENTS[name].speed_deg_per_h)
        total = total - amplitude * factor * speed * np.sin(np.radians(phase))
    return in_callers_shape(total)


def _phase_deg(constants: HarmonicConstants, name: str, lag_deg: float, seconds: Any) -> tuple[Floats, Floats]:
    factor, angle = nodal_correction(name, seconds) if constants.nodal else (np.float64(1.0), np.float64(0.0))
    return np.asarray(factor), np.asarray(equilibrium_argument_deg(name, seconds) + angle - lag_deg)


@dataclass(frozen=True)
class HarmonicTide:
    """A tide computed from harmonic constants. told: their source."""

    name: str
    constants: HarmonicConstants
    told: str = "from constants"

    def covers(self, start_utc: datetime, end_utc: datetime) -> bool:
        return True

    def height_m(self, seconds: Any) -> Any:
        return tide_height_m(self.constants, seconds)

    def rate_m_per_h(self, seconds: Any) -> Any:
        return tide_rate_m_per_h(self.constants, seconds)
