"""Shutter times for the looks of water: by the plan of a shot with that water in it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from ..errors import InputError
from ..exposure.motion import LookName
from ..exposure.moving_things import MovingKind
from ..facts.kit import Body
from ..facts.place import Element
from ..facts.shot import facts_from
from ..framing.solids import Shape
from ..labels import NamedEnum
from ..planning.exposure.plan import plan_exposure
from ..planning.exposure.water import LookBand
from ..planning.focus.plan import plan_depth
from ..planning.light.plan import plan_light
from ..units.lengths import format_distance
from ..units.markings import spoken_shutter
from .answer import Answer
from .formats import lens_of

_SLIM_M = 0.001


class WaterSeen(NamedEnum):
    """Moving water by a look at it."""

    RIPPLES = "ripples"
    TRICKLE = "trickle"
    SLOW_STREAM = "slow_stream"
    BRISK_STREAM = "brisk_stream"
    RAPIDS = "rapids"
    FALL = "fall"
    FLOOD = "flood"
    SURF = "surf"


# Kind and speed [m/s] (from memory: streams 0.3 to 3 m/s in handbooks of hydrology; a fall of half a metre 3 m/s).
SPEEDS: Mapping[WaterSeen, tuple[MovingKind, float]] = MappingProxyType(
    {
        WaterSeen.RIPPLES: (MovingKind.RIPPLES, 0.3),
        WaterSeen.TRICKLE: (MovingKind.STREAM, 0.25),
        WaterSeen.SLOW_STREAM: (MovingKind.STREAM, 0.5),
        WaterSeen.BRISK_STREAM: (MovingKind.STREAM, 1.0),
        WaterSeen.RAPIDS: (MovingKind.STREAM, 2.0),
        WaterSeen.FALL: (MovingKind.FALLS, 3.0),
        WaterSeen.FLOOD: (MovingKind.FALLS, 4.0),
        WaterSeen.SURF: (MovingKind.SURF, 1.5),
    }
)


@dataclass(frozen=True)
class WaterNow:
    """speed_mps: of the water, taken to go across the view. bands: shutter times by look, the shortest first."""

    focal_mm: float
    distance_m: float
    kind: MovingKind
    speed_mps: float
    bands: tuple[LookBand, ...]

    def answer(self, look: LookName = LookName.TEXTURED) -> Answer:
        """The times that give a look, and those of the others."""
        chosen = next((band for band in self.bands if band.name == look), self.bands[0])
        notes = (
            f"{self.speed_mps:g} m/s across the view, {format_distance(self.distance_m)} away.",
            " · ".join(f"{band.name} {_times(band)}" for band in self.bands if band is not chosen) + ".",
        )
        choices = {"focal_mm": self.focal_mm, "wanted_look": look}
        return Answer(_times(chosen), f"{chosen.name}", notes, choices)


def _times(band: LookBand) -> str:
    longest = spoken_shutter(band.to_s)
    return f"up to {longest}" if band.from_s == 0 else f"{spoken_shutter(band.from_s)} to {longest}"


def parse_water(text: str) -> WaterSeen:
    """Return the water meant by a text: "brisk stream". Raises InputError for one that is not known."""
    name = text.strip().lower().replace(" ", "_")
    if name not in set(WaterSeen):
        raise InputError("seen", f"“{text}” is no water known here: {', '.join(item.label for item in WaterSeen)}.")
    return WaterSeen(name)


def water_now(
    seen: WaterSeen, distance_m: float, focal_mm: float, body: Body, speed_mps: float | None = None
) -> WaterNow:
    """Return the shutter times of each look. speed_mps: None for the usual one of what is seen.

    Raises InputError for values that are not positive.
    """
    kind, usual_mps = SPEEDS[seen]
    speed = usual_mps if speed_mps is None else speed_mps
    water = Element(
        id=1,
        name=str(seen),
        shape=Shape.POST,
        bearing_deg=0.0,
        distance_m=distance_m,
        width_m=_SLIM_M,
        height_m=_SLIM_M,
        speed_mps=speed,
        moving=kind,
    )
    facts = facts_from(
        body=body,
        lens=lens_of(focal_mm),
        focal_mm=focal_mm,
        elements=(water,),
        near_m=distance_m,
        far_m=distance_m,
        camera_height_m=_SLIM_M,
        # Any reading will do: the looks do not depend on it.
        metered_shutter_s=1.0,
        metered_f_number=8.0,
        metered_iso=100.0,
    )
    return WaterNow(focal_mm, distance_m, kind, speed, plan_exposure(facts, plan_light(facts), plan_depth(facts)).looks)
