"""Step 5, graduated filters: where their edge lies in the frame and what the lens sees of it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...exposure.graduated import edge_smear_deg, plate_seen_mm, seen_stops
from ...facts.kit import Body
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...framing.projection import Camera, field_of_view_deg
from ..frame.filter_vignetting import plate_distance_mm

Floats = NDArray[np.float64]
# What is tabulated of the plate each side of its edge [mm], and in what steps.
_REACH_MM, _STEP_MM = 120.0, 1.0


@dataclass(frozen=True, kw_only=True)
class GraduatedEdge:
    """Graduated filters on the lens, taken together.

    at: the middle of their transition, as a share of the frame's height from its top in the middle of its width;
    tilt_deg clockwise.

    plate_mm: how wide and how high the plate is that the frame looks through. stops: seen over table_mm from that
    middle, upwards. smear_deg: how widely the lens sees an edge.
    """

    names: tuple[str, ...]
    strength_stops: float
    at: float
    tilt_deg: float
    on_skyline: bool
    plate_mm: tuple[float, float]
    smear_deg: float
    table_mm: Floats
    stops: Floats

    def stops_over(self, high: int, wide: int) -> Floats:
        """Return the filters' density over a picture (high, wide) [stops]."""
        x = ((np.arange(wide) + 0.5) / wide - 0.5) * self.plate_mm[0]
        y = (self.at - (np.arange(high) + 0.5) / high) * self.plate_mm[1]
        tilt = math.radians(self.tilt_deg)
        return np.asarray(
            np.interp(x[None, :] * math.sin(tilt) + y[:, None] * math.cos(tilt), self.table_mm, self.stops)
        )


def graduated_edge(
    facts: ShotFacts, settings: Settings, body: Body, camera: Camera, skyline_share: float
) -> GraduatedEdge | None:
    """Return the graduated filters on the lens as the frame sees them; None without one.

    skyline_share: where their edge is put unless it was said.
    """
    used = [item for item in facts.filters_on_lens if item.kind.graduates]
    if not used or facts.lens is None:
        return None
    screwed = [item for item in facts.filters_on_lens if item.mount == "screw" and not item.kind.graduates]
    distance = plate_distance_mm(facts.lens, body, screwed)
    pupil = settings.focal_mm / settings.f_number
    table = np.arange(-_REACH_MM, _REACH_MM + _STEP_MM / 2, _STEP_MM)
    stops = sum(
        (np.asarray(seen_stops(item.gradation, item.stops, table, pupil)) for item in used), np.zeros(len(table))
    )
    seen = tuple(float(plate_seen_mm(field_of_view_deg(side, camera.focal_mm), distance)) for side in camera.frame_mm)
    said = facts.exposure.graduated_at
    return GraduatedEdge(
        names=tuple(item.name for item in used),
        strength_stops=sum(item.stops for item in used),
        at=skyline_share if said is None else said,
        tilt_deg=facts.exposure.graduated_tilt_deg,
        on_skyline=said is None,
        plate_mm=(seen[0], seen[1]),
        smear_deg=float(edge_smear_deg(settings.focal_mm, settings.f_number, distance)),
        table_mm=table,
        stops=stops,
    )
