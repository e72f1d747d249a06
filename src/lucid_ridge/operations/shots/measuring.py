"""Measures angles, sizes and distances of a scene, with thumbs at arm's length or pixels of a test frame."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from ...core.facts.settings import settings_of
from ...core.framing.measuring import angle_in_frame_deg, distance_m, size_m, thumb_angle_deg
from ...store.photographer import Photographer
from ...store.shots import Shot
from ..platform.errors import Refused
from ..platform.rows import owned
from .facts import shot_facts


@dataclass(frozen=True)
class MeasureWish:
    """An angle from thumbs at arm's length or from pixels of a test frame, with a distance or a size."""

    thumbs: float | None = None
    pixels: float | None = None
    focal_mm: float | None = None
    distance_m: float | None = None
    size_m: float | None = None


@dataclass(frozen=True)
class Measured:
    """Result of a measurement.

    how: what the angle was read from. size_given: the size was known, so the distance follows.
    """

    angle_deg: float
    distance_m: float
    size_m: float
    how: str
    size_given: bool


def measure(session: Session, owner_id: int, shot_id: int, wish: MeasureWish) -> Measured:
    """Return angle, distance and size from a measured angle and one of the two others.

    Raises Refused at the field that is missing or superfluous.
    """
    shot = owned(session, owner_id, Shot, shot_id)
    thumbs, pixels, distance, size = wish.thumbs, wish.pixels, wish.distance_m, wish.size_m
    if (thumbs is None) == (pixels is None):
        raise Refused("thumbs", "Measure either with thumbs at arm's length or in pixels of a test frame.")
    if (distance is None) == (size is None):
        raise Refused("distance_m", "Give either its distance or its size: the other one follows.")
    if thumbs is not None:
        owner = session.get_one(Photographer, owner_id)
        # Miniatures side by side cover a sum of widths, not of angles.
        angle = thumb_angle_deg(owner.thumb_mm * thumbs, owner.arm_mm)
        how = f"{thumbs:g} thumb{'s' if thumbs != 1 else ''} of {owner.thumb_mm:g} mm at {owner.arm_mm:g} mm"
    else:
        facts = shot_facts(session, shot)
        settings = settings_of(facts)
        if settings is None or facts.body is None:
            raise Refused("pixels", "Pixels need the shot's body and lens.")
        focal = wish.focal_mm or settings.focal_mm
        assert pixels is not None
        if pixels > max(facts.body.pixels_wide, facts.body.pixels_high):
            raise Refused("pixels", f"A frame of {facts.body.name} is {facts.body.pixels_wide} pixels wide.")
        angle = angle_in_frame_deg(pixels, facts.body.sensor_width_mm / facts.body.pixels_wide, focal)
        how = f"{pixels:g} pixels of {facts.body.name} at {focal:g} mm"
    if size is None:
        assert distance is not None
        return Measured(angle, distance, size_m(angle, distance), how, size_given=False)
    return Measured(angle, distance_m(angle, size), size, how, size_given=True)
