"""Exposure: looks of moving water as shutter times for this scene, and the streak of a shutter time."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ...exposure.motion import LookName, middle_time_s, streak_mm
from ...exposure.moving_things import passes
from ...facts.place import Element
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...framing.solids import WET
from ...optics.working_lens import NEAREST
from ...units.markings import spoken_shutter
from ..focus.plan import DepthStep
from ..verdicts import FAILS, HOLDS, TIGHT, Severity

Floats = NDArray[np.float64]
# By how much a time may miss a band, or one that was typed, and still be tight; and one that was typed at most [stops].
_NEAR_STOPS, _FAR_STOPS = 1 / 3, 1.0
# Water is never so even that nothing of it goes across.
_LEAST_DRAWN = 0.05


@dataclass(frozen=True)
class LookBand:
    """Shutter times [s] that give a look to the moving element of this shot. from_s is 0 for frozen."""

    name: LookName
    from_s: float
    to_s: float


def moving_element(facts: ShotFacts) -> Element | None:
    """Return the element whose motion counts: the one chosen, else the first that moves by itself and stays, else the
    first that moves.
    """
    chosen = facts.element(facts.exposure.moving_element_id)
    if chosen is not None and chosen.moves_mps:
        return chosen
    moving = [item for item in facts.elements if item.moves_mps]
    return next((item for item in moving if not passes(item.moving)), next(iter(moving), None))


def in_a_second_mm(settings: Settings, depth: DepthStep, item: Element, speed_mps: float) -> float | None:
    """Return the streak of an element in one second [mm on the sensor] at a given speed; None if it is not in view."""
    seen = _seen_mm(settings, depth, item)
    if seen is None:
        return None
    across = speed_mps * drawn_share(item, settings.camera_height_m - item.base_m, seen[1] / 1000)
    return float(streak_mm(*seen, across, 1.0))


def drawn_share(item: Element, height_m: float, along_m: float) -> float:
    """Return the part of an element's speed that draws a streak, 0 to 1: all of it across the view; towards the lens
    only as far as one looks down upon it.

    height_m: of the camera over the water; along_m: how far away it is. Level water with a direction of flow only; 1
    for everything else.
    """
    if item.flow_bearing_deg is None or item.shape not in WET:
        return 1.0
    turn = math.radians(item.flow_bearing_deg - item.bearing_deg)
    down = height_m / math.hypot(height_m, along_m) if height_m or along_m else 0.0
    return max(_LEAST_DRAWN, math.hypot(math.sin(turn), math.cos(turn) * down))


def _seen_mm(settings: Settings, depth: DepthStep, moving: Element | None) -> tuple[float, float] | None:
    """Return the distance along the optical axis of the nearest visible part of a mover, where its streak is longest,
    and the focal length of the thin lens with the same magnification, as focused and with accessories.
    """
    span = depth.along.spans.get(moving.id) if moving and depth.along else None
    if span is None:
        return None
    distance_mm = span.near_m * 1000
    if distance_mm <= (depth.imaging.focal_mm if depth.imaging else settings.focal_mm) * NEAREST:
        return None
    scale = (depth.imaging.image_mm if depth.imaging else settings.focal_mm) / distance_mm
    return distance_mm * scale / (1 + scale), distance_mm


@dataclass(frozen=True)
class WantedTime:
    """Shutter times [s] that fulfil a wish: one typed time, or a look's whole band.

    from_s is 0 if only the longest matters, to_s infinite if only the shortest does.
    """

    from_s: float
    to_s: float
    look: LookName | None = None

    @property
    def middle_s(self) -> float:
        """The time to show: in the middle of a band, the longest of a limit."""
        return middle_time_s((self.from_s, self.to_s))

    def error_stops(self, shutter_s: float) -> float:
        """Return how far a time lies outside [stops], longer positive; 0 inside."""
        return float(self.errors_stops(shutter_s))

    def errors_stops(self, shutter_s: Any) -> Floats:
        """Return the same of many times. Broadcasts."""
        times = np.asarray(shutter_s, dtype=np.float64)
        longer = np.maximum(0.0, np.log2(times / self.to_s)) if math.isfinite(self.to_s) else np.zeros(times.shape)
        return np.asarray(longer + np.minimum(0.0, np.log2(times / self.from_s)) if self.from_s > 0 else longer)

    def mark_of(self, shutter_s: float) -> Severity:
        """Return how a time is judged: within a band or not, and one that was typed by how near it comes."""
        error = abs(self.error_stops(shutter_s))
        if self.from_s == self.to_s:
            return HOLDS if error <= _NEAR_STOPS else TIGHT if error <= _FAR_STOPS else FAILS
        return HOLDS if error == 0 else TIGHT if error <= _NEAR_STOPS else FAILS

    def over_stops(self, shutter_s: Any) -> Floats:
        """Return by how many stops times miss the wish, 0 if they fulfil it. Broadcasts."""
        error = np.abs(self.errors_stops(shutter_s))
        return np.asarray(np.where(error > (_FAR_STOPS if self.from_s == self.to_s else _NEAR_STOPS), error, 0.0))

    @property
    def words(self) -> str:
        """What is asked for, as a sentence says it."""
        if self.from_s == self.to_s:
            return spoken_shutter(self.to_s)
        look = f"{self.look}, " if self.look else ""
        if self.from_s <= 0:
            return f"{look}{spoken_shutter(self.to_s)} at most"
        return f"{look}{spoken_shutter(self.from_s)} to {spoken_shutter(self.to_s)}"


def wanted_time(facts: ShotFacts, bands: tuple[LookBand, ...]) -> WantedTime | None:
    """Return the shutter times asked for, typed or as a look's band; None without a wish."""
    typed = facts.exposure.wanted_shutter_s
    if typed is not None:
        return WantedTime(typed, typed)
    band = next((band for band in bands if band.name == facts.exposure.wanted_look), None)
    return WantedTime(band.from_s, band.to_s, band.name) if band else None
