"""The camera as it stands when the picture is in focus, and how far the scene lies from it along its axis."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ...facts.place import Element
from ...facts.settings import Settings, camera_of, standing_on
from ...facts.shot import ShotFacts
from ...framing.along_axis import AxialSpan, axial_span, ground_at_the_edge_m, nearest_along_axis_m
from ...framing.projection import Camera, camera_axes
from ...framing.solids import Solid
from ...optics.working_lens import Imaging, WorkingLens


@dataclass(frozen=True)
class AlongAxis:
    """Where each element begins and ends along the optical axis, by its id (None: behind the camera), and where the
    nearest ground in the frame lies [m]; None where the frame sees none.
    """

    spans: dict[int, AxialSpan | None]
    ground_m: float | None


def scene_solids(facts: ShotFacts) -> list[Solid]:
    """Return the shot's elements as solids, from the viewpoint's mark."""
    profile = facts.location.skyline if facts.location else None
    return [
        Solid(
            shape=item.shape,
            bearing_deg=item.bearing_deg,
            distance_m=item.distance_m,
            width_m=item.width_m,
            height_m=item.height_m,
            base_m=item.base_m,
            course=item.course,
            profile=profile if item.shape == "skyline" else None,
        )
        for item in facts.elements
    ]


def shot_lens(facts: ShotFacts, settings: Settings) -> WorkingLens:
    """Return the shot's lens at its focal length, with its rig."""
    return facts.lens_at(settings.focal_mm)


def focused_camera(facts: ShotFacts, settings: Settings, imaging: Imaging | None = None) -> Camera:
    """Return the camera in focus, its height above the ground where it stands.

    imaging: how the lens images the nearest that is sharp.

    Close up the magnification says how far the lens is from the subject's nearest point: the camera is taken nearer or
    back along its axis until it is there.
    """
    assert facts.body is not None
    camera = camera_of(facts, settings, facts.body, imaging.image_mm if imaging else None)
    subject = facts.subject
    if not facts.close_up or imaging is None or subject is None:
        return camera
    index = facts.elements.index(subject)
    away = to_come_nearer_m(facts, camera, scene_solids(facts)[index], imaging.object_mm / 1000)
    east, north, up = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)[2] * away
    moved = replace(
        standing_on(camera, facts.ground), east_m=camera.east_m + float(east), north_m=camera.north_m + float(north)
    )
    return replace(
        moved, height_m=moved.height_m + float(up) - float(facts.ground.height_m(moved.east_m, moved.north_m))
    )


def to_come_nearer_m(facts: ShotFacts, camera: Camera, subject: Solid, object_m: float) -> float:
    """Return how far along its axis a camera has to go for the subject's nearest point to lie object_m from the lens
    [m]; negative: back.
    """
    return nearest_along_axis_m(standing_on(camera, facts.ground), subject, facts.ground) - object_m


def along_axis(facts: ShotFacts, settings: Settings, imaging: Imaging | None = None) -> AlongAxis:
    """Return where everything lies along the axis of the focused camera; in a panorama each element with the camera
    turned to it.
    """
    camera = standing_on(focused_camera(facts, settings, imaging), facts.ground)
    turned = facts.frame.pano_across_deg is not None
    spans = {
        item.id: axial_span(
            replace(camera, bearing_deg=_bearing_of(camera, item)) if turned else camera, solid, facts.ground
        )
        for item, solid in zip(facts.elements, scene_solids(facts), strict=True)
    }
    return AlongAxis(spans, ground_at_the_edge_m(camera, facts.ground))


def _bearing_of(camera: Camera, item: Element) -> float:
    turn = math.radians(item.bearing_deg)
    east, north = item.distance_m * math.sin(turn) - camera.east_m, item.distance_m * math.cos(turn) - camera.north_m
    return math.degrees(math.atan2(east, north)) % 360
