"""A composed scene as JSON, and its ground plan as GeoJSON in geographic coordinates (RFC 7946)."""

from __future__ import annotations

import json
import math
from typing import Any

import numpy as np

from ..core.facts.materials import material_of, reflectance_of
from ..core.facts.settings import camera_of, settings_of, standing_on
from ..core.facts.shot import ShotFacts
from ..core.framing.meshes import hull_2d
from ..core.framing.outlines import outline
from ..core.framing.solids import LINES, course_points, meshes_of
from ..core.ground.geodesy import offset
from ..core.planning.focus.camera import scene_solids

_WEDGE_M = 100.0
SCENE_VERSION = 1
# A footprint thinner than this is a line: coordinates are written to a millimetre.
_FLAT_M = 0.02


def write_scene_json(name: str, facts: ShotFacts) -> bytes:
    """Return camera, ground and elements of a shot, with lengths and angles in the named units."""
    settings = settings_of(facts)
    camera = standing_on(camera_of(facts, settings, facts.body), facts.ground) if settings and facts.body else None
    solids = scene_solids(facts)
    elements = []
    for item, solid in zip(facts.elements, solids, strict=True):
        seen = outline(camera, solid, facts.ground) if camera else None
        elements.append(
            {
                "name": item.name,
                "shape": item.shape,
                "bearing_deg": item.bearing_deg,
                "distance_m": item.distance_m,
                "width_m": item.width_m,
                "height_m": item.height_m,
                "base_m": item.base_m,
                "speed_mps": item.moves_mps,
                "material": material_of(item),
                "reflectance": reflectance_of(item).typical,
                "course": [list(leg) for leg in item.course],
                "in_frame": [_rounded(polygon.tolist()) for polygon in seen.polygons] if seen else None,
            }
        )
    body, lens = facts.body, facts.lens
    scene = {
        "lucid_ridge_scene": SCENE_VERSION,
        "name": name,
        "place": {
            "name": facts.location.name,
            "latitude_deg": facts.location.latitude_deg,
            "longitude_deg": facts.location.longitude_deg,
            "viewpoint": facts.viewpoint_name,
        }
        if facts.location
        else None,
        "camera": {
            "east_m": facts.frame.camera_east_m,
            "north_m": facts.frame.camera_north_m,
            "height_above_ground_m": settings.camera_height_m,
            "bearing_deg": settings.bearing_deg,
            "pitch_deg": facts.frame.pitch_deg,
            "roll_deg": facts.frame.roll_deg,
            "orientation": facts.frame.orientation,
            "focal_mm": settings.focal_mm,
            "f_number": settings.f_number,
            "body": body.name if body else None,
            "lens": lens.name if lens else None,
            "sensor_width_mm": body.sensor_width_mm if body else None,
            "sensor_height_mm": body.sensor_height_mm if body else None,
        }
        if settings
        else None,
        "ground": {
            "slope_deg": facts.ground.slope_deg,
            "down_bearing_deg": facts.ground.down_bearing_deg,
            "reach_m": facts.ground.reach_m,
        },
        "standing_area": {
            "corners": [list(corner) for corner in facts.standing.corners],
            "drops": sorted(facts.standing.drops),
        }
        if facts.standing
        else None,
        "elements": elements,
    }
    return json.dumps(scene, ensure_ascii=False, indent=1).encode()


def write_ground_geojson(name: str, facts: ShotFacts) -> bytes:
    """Return the ground plan as features: camera, view, standing area, footprints and lines; also for an empty
    scene.
    """
    features: list[dict[str, Any]] = []
    here = facts.location
    if here is not None:

        def position(east: float, north: float) -> list[float]:
            latitude, longitude = offset(
                here.latitude_deg, here.longitude_deg, math.degrees(math.atan2(east, north)), math.hypot(east, north)
            )
            return [round(longitude, 8), round(latitude, 8)]

        def feature(kind: str, coordinates: Any, **facts_of: Any) -> None:
            features.append(
                {"type": "Feature", "geometry": {"type": kind, "coordinates": coordinates}, "properties": facts_of}
            )

        feature("Point", position(0, 0), name=facts.viewpoint_name or here.name, what="viewpoint")
        camera = (facts.frame.camera_east_m, facts.frame.camera_north_m)
        settings = settings_of(facts)
        if settings is not None and facts.body is not None:
            made = camera_of(facts, settings, facts.body)
            feature(
                "Point",
                position(*camera),
                name=name,
                what="camera",
                bearing_deg=round(settings.bearing_deg, 2),
                height_m=settings.camera_height_m,
            )
            half = math.atan(made.frame_mm[0] / 2 / made.focal_mm)
            sides = [math.radians(settings.bearing_deg) + turn for turn in (-half, half)]
            ends = [
                position(camera[0] + _WEDGE_M * math.sin(side), camera[1] + _WEDGE_M * math.cos(side)) for side in sides
            ]
            feature("Polygon", _ring([position(*camera), *ends]), name="view", what="view")
        if facts.standing is not None:
            feature(
                "Polygon",
                _ring([position(*corner) for corner in facts.standing.corners]),
                name="standing area",
                what="standing area",
            )
        for item, solid in zip(facts.elements, scene_solids(facts), strict=True):
            about = {"name": item.name, "what": item.shape, "height_m": item.height_m, "distance_m": item.distance_m}
            if item.shape in LINES:
                feature(
                    "LineString",
                    [position(*point[:2]) for point in course_points(solid, facts.ground).tolist()],
                    **about,
                )
                continue
            footprint = _footprint([mesh.points[:, :2] for mesh in meshes_of(solid, facts.ground)])
            if len(footprint) > 2:
                feature("Polygon", _ring([position(*corner) for corner in footprint]), **about)
            else:
                feature("LineString", [position(*corner) for corner in footprint], **about)
    return json.dumps({"type": "FeatureCollection", "features": features}, ensure_ascii=False).encode()


def _footprint(parts: list[Any]) -> list[list[float]]:
    """Return the corners seen from above; two ends for something flat, such as a ridge."""
    ring = hull_2d(np.round(np.concatenate(parts), 6))
    following = np.roll(ring, -1, axis=0)
    area = abs(float(np.sum(ring[:, 0] * following[:, 1] - following[:, 0] * ring[:, 1]))) / 2
    apart = np.linalg.norm(ring[:, None] - ring[None], axis=2)
    if len(ring) > 2 and area > _FLAT_M * float(apart.max()):
        return list(ring.tolist())
    one, other = np.unravel_index(int(apart.argmax()), apart.shape)
    return [ring[one].tolist(), ring[other].tolist()]


def _ring(corners: list[list[float]]) -> list[list[list[float]]]:
    """Return a polygon's outer ring, closed and counter-clockwise as RFC 7946 requires."""
    area = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(corners, corners[1:] + corners[:1], strict=True))
    ordered = corners if area > 0 else corners[::-1]
    return [[*ordered, ordered[0]]]


def _rounded(points: list[list[float]]) -> list[list[float]]:
    return [[round(value, 6) for value in point] for point in points]
