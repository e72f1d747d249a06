"""Moving subjects: typical speed and size by kind, and the shutter times usually given to them.

Sources: speeds from memory (a walker 1.4 m/s, as in handbooks of traffic engineering); times common practice. A speed
entered by the photographer replaces the usual one.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from ..labels import NamedEnum
from .motion import LookName


class MovingKind(NamedEnum):
    FALLS = "falls"
    SURF = "surf"
    STREAM = "stream"
    RIPPLES = "ripples"
    PLANTS = "plants"
    PEOPLE = "people"
    BIRDS = "birds"
    BOAT = "boat"
    INSECT = "insect"


class MotionWish(StrEnum):
    """What something that moves should look like: a look, or not in the picture at all."""

    FROZEN = "frozen"
    TEXTURED = "textured"
    SILKY = "silky"
    VEILED = "veiled"
    FLATTENED = "flattened"
    GONE = "gone"

    @property
    def look(self) -> LookName | None:
        """The look that is wanted; None for a subject that should vanish."""
        return None if self == MotionWish.GONE else LookName(self.value)


@dataclass(frozen=True)
class MovingThing:
    """speed_mps: usual speed, None where the wind makes it.

    body_m: how long what passes through the frame is, None of what stays. period_s: between waves or eddies that pass a
    point (our own figures: surf ten seconds, ripples and running water some), None of what has none.

    trade_times: by what it should look like.
    """

    speed_mps: float | None
    body_m: float | None = None
    trade_times: Mapping[str, str] = field(default_factory=dict)
    period_s: float | None = None


_WATER: Mapping[str, str] = {
    MotionWish.FROZEN: "1/1000 s or faster",
    MotionWish.VEILED: "30 s and more",
    MotionWish.FLATTENED: "minutes",
}
_EDDY_S = 4.0
THINGS: Mapping[MovingKind, MovingThing] = {
    MovingKind.FALLS: MovingThing(3.0, None, {**_WATER, MotionWish.TEXTURED: "0.3 to 5 s, big ones shorter"}, _EDDY_S),
    MovingKind.SURF: MovingThing(
        1.5, None, {**_WATER, MotionWish.TEXTURED: "0.25 to 2 s", MotionWish.SILKY: "5 to 7 s"}, 10.0
    ),
    MovingKind.STREAM: MovingThing(1.0, None, {**_WATER, MotionWish.TEXTURED: "0.25 to 2 s"}, _EDDY_S),
    MovingKind.RIPPLES: MovingThing(
        0.3, None, {MotionWish.VEILED: "30 s and more", MotionWish.FLATTENED: "minutes"}, 5.0
    ),
    MovingKind.PLANTS: MovingThing(None, None, {MotionWish.FROZEN: "1/125 to 1/250 s in a breeze"}),
    MovingKind.PEOPLE: MovingThing(
        1.4, 0.5, {MotionWish.FROZEN: "1/125 s walking, 1/500 s running", MotionWish.GONE: "three minutes"}
    ),
    MovingKind.BIRDS: MovingThing(10.0, 0.5, {MotionWish.FROZEN: "1/1000 to 1/2000 s"}),
    MovingKind.BOAT: MovingThing(3.0, 6.0, {MotionWish.FROZEN: "1/250 s and faster"}),
    MovingKind.INSECT: MovingThing(0.5, 0.01, {MotionWish.FROZEN: "1/320 s and faster"}),
}
CLOUDS = MovingThing(None, None, {MotionWish.SILKY: "1 to 4 minutes"})


def speed_of(said_mps: float | None, kind: MovingKind | None) -> float | None:
    """Return a subject's speed [m/s]: the speed entered, else the usual one of its kind; None for one that stands
    still or moves with the wind.
    """
    return said_mps or (THINGS[kind].speed_mps if kind is not None else None)


def passes(kind: MovingKind | None) -> bool:
    """Return whether things of a kind pass through the frame, so that there may be some in it or none."""
    return kind is not None and THINGS[kind].body_m is not None
