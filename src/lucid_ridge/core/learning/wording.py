"""What a lesson says, in the words and figures of a photographer."""

from __future__ import annotations

import math
from typing import Protocol

from ..facts.calibrations import CalibrationKind
from ..units.spelling import percent

_STOPS = (CalibrationKind.LIGHT_OFFSET, CalibrationKind.LOOK_BAND, CalibrationKind.HAND_HELD)
_TIMES = (CalibrationKind.SET_UP, CalibrationKind.WALKING, CalibrationKind.FILTER_CHANGE)
# What a lesson counts: one of them, several.
_COUNTED = {
    CalibrationKind.LIGHT_OFFSET: ("field session", "field sessions"),
    CalibrationKind.WATER_SPEED: ("streak measured", "streaks measured"),
    CalibrationKind.SET_UP: ("field session", "field sessions"),
    CalibrationKind.WALKING: ("walk", "walks"),
    CalibrationKind.FILTER_CHANGE: ("change", "changes"),
    CalibrationKind.SERIES: ("series", "series"),
    CalibrationKind.BATTERY: ("field session", "field sessions"),
}


class Figured(Protocol):
    """What can be put into words; low and high at 95 %, infinite where they are not known."""

    @property
    def kind(self) -> CalibrationKind: ...
    @property
    def told(self) -> float: ...
    @property
    def value(self) -> float: ...
    @property
    def low(self) -> float: ...
    @property
    def high(self) -> float: ...
    @property
    def frames(self) -> int: ...


def figure_words(kind: CalibrationKind, value: float) -> str:
    """Return a figure of a lesson as it is read: stops, times as much, or a share."""
    if kind == CalibrationKind.FILTER_COST:
        return f"{value:.2f}"
    if kind in _STOPS:
        return f"{'−' if value < 0 else '+'}{abs(value):.2f}"
    if kind == CalibrationKind.WATER_SPEED:
        return f"×{2.0**value:.2f}"
    return f"×{value:.2f}" if kind in _TIMES else percent(value)


def lesson_words(found: Figured) -> str:
    """Return a lesson and its evidence as a sentence."""
    kind = found.kind
    ends = between_words(kind, found.low, found.high)
    one, several = _COUNTED.get(kind, ("frame", "frames"))
    by = f"by {found.frames} {one if found.frames == 1 else several} (95 %: {ends})"
    size, more = f"{abs(found.value):.1f}", found.value > 0
    match kind:
        case CalibrationKind.FILTER_COST:
            return f"It takes {found.value:.1f} stops {by}, not {found.told:.3g}."
        case CalibrationKind.LIGHT_OFFSET:
            return f"The light was {size} stops {'brighter' if more else 'darker'} than predicted, {by}."
        case CalibrationKind.LOOK_BAND:
            return f"Streaks {size} stops {'longer' if more else 'shorter'} than usual please you, {by}."
        case CalibrationKind.HAND_HELD:
            return f"You hold still {size} stops {'longer' if more else 'less long'} than the rule expects, {by}."
        case CalibrationKind.WATER_SPEED:
            return f"It runs {2.0**found.value:.2f} times as fast as is written of it, {by}."
        case CalibrationKind.SET_UP:
            return f"Setting up takes {found.value:.2f} times as long as you say, {by}."
        case CalibrationKind.WALKING:
            return f"You walk {found.value:.2f} times as long as Naismith's rule says, {by}."
        case CalibrationKind.FILTER_CHANGE:
            return f"Changing a filter takes {found.value:.2f} times as long as planned, {by}."
        case CalibrationKind.SERIES:
            return f"{percent(found.value)} of your series by hand come out whole, {by}."
        case CalibrationKind.BATTERY:
            return f"A battery gives {percent(found.value)} of its count, {by}; practice expects {percent(found.told)}."


def between_words(kind: CalibrationKind, low: float, high: float) -> str:
    """Return an interval of a lesson's figure as it is read."""
    if not (math.isfinite(low) and math.isfinite(high)):
        return "not known"
    if kind == CalibrationKind.WATER_SPEED:
        return f"{2.0**low:.2f} to {2.0**high:.2f}"
    if kind in (CalibrationKind.SERIES, CalibrationKind.BATTERY):
        return f"{percent(low)} to {percent(high)}"
    return f"{low:.2f} to {high:.2f}".replace("-", "−")
