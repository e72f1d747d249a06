"""What the bench draws: the scene's solids with light and shadow, mirrors of still water, the land on the skyline, sun
and moon.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ...facts.settings import camera_of, settings_of
from ...facts.shot import ShotFacts
from ...framing.meshes import Mesh
from ...framing.projection import Camera, camera_axes, project, view_matrix
from ...framing.shading import mirror_matrix, shadow_of, tones_of
from ...framing.solids import BROAD, WET, Solid, meshes_of
from ...ground.geodesy import curvature_drop_m
from ...light.direction import direction
from ...light.ephemeris import apparent_altitude_deg
from ..light.plan import LightStep
from .night_sky import GalacticBand, galactic_band

Floats = NDArray[np.float64]
SUN_DIAMETER_DEG, MOON_DIAMETER_DEG = 0.53, 0.52
# Slower water mirrors the objects behind it.
STILL_BELOW_MPS = 0.1
_FAR_M = 20_000.0
# Airless altitude of the centre below which nothing of a disc is seen: refraction at the horizon and half the disc.
_LAST_SEEN_DEG = -0.9


@dataclass(frozen=True)
class DrawnMesh:
    """A mesh with a tone for each face."""

    mesh: Mesh
    tones: tuple[int, ...]


@dataclass(frozen=True)
class DrawnElement:
    """An element's meshes, the outline of its shadow on the ground (None: it casts none), and the mirror of its water
    (None: no still water).
    """

    id: int
    meshes: tuple[DrawnMesh, ...]
    shadow: Floats | None
    mirror: Floats | None


@dataclass(frozen=True)
class Disc:
    """Sun or moon in the finder: centre in 0..1, diameter as share of the frame's width.

    fraction: of the disc lit; lit_angle_deg: where its lit side points in the picture, counter-clockwise from the
    right. point: far away in its direction [m; east, north, up].
    """

    x: float
    y: float
    diameter_share: float
    point: tuple[float, float, float]
    fraction: float = 1.0
    lit_angle_deg: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Drawn:
    """matrix: (3, 4), from (east, north, up, 1) to (x·w, y·w, w) in the frame.

    eye, right: the camera's place and its axis across [m].

    skyline: the land around as a strip (n, 3), top edge first, where the scene has no ridge of its own. ground_line:
    the ground along the view, from behind the camera outwards (n, 3).
    """

    matrix: Floats
    eye: Floats
    right: Floats
    elements: tuple[DrawnElement, ...]
    skyline: Floats | None
    ground_line: Floats
    sun: Disc | None
    moon: Disc | None
    sunlit: bool
    galaxy: GalacticBand | None


def draw_scene(facts: ShotFacts, camera: Camera, solids: Sequence[Solid], light: LightStep) -> Drawn:
    """Return the drawing of the scene. camera: its height from the mark's ground, its focal length as it images now."""
    sun = _beam(light)
    elements = []
    for item, solid in zip(facts.elements, solids, strict=True):
        meshes = meshes_of(solid, facts.ground)
        foot = min(float(mesh.points[:, 2].min()) for mesh in meshes)
        casts = solid.shape not in BROAD or solid.shape == "wall"
        still = solid.shape == "water" and (item.moves_mps or 0.0) < STILL_BELOW_MPS
        level = float(meshes[0].points[0, 2])
        elements.append(
            DrawnElement(
                item.id,
                tuple(
                    DrawnMesh(mesh, (0,) * len(mesh.faces) if solid.shape in WET else tones_of(mesh, sun))
                    for mesh in meshes
                ),
                shadow_of(meshes, sun, foot) if casts and sun is not None else None,
                mirror_matrix(level) if still else None,
            )
        )
    eye = np.array([camera.east_m, camera.north_m, camera.height_m])
    own_land = any(solid.shape in ("ridge", "skyline") for solid in solids)
    return Drawn(
        matrix=view_matrix(camera),
        eye=eye,
        right=camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)[0],
        elements=tuple(elements),
        skyline=None if own_land or facts.location is None or facts.close_up else _skyline(facts, camera),
        ground_line=_ground_line(facts, camera),
        sun=sun_in_frame(camera, light),
        moon=moon_in_frame(camera, light),
        sunlit=sun is not None,
        galaxy=galactic_band(facts, camera, light),
    )


def sun_in_frame(camera: Camera, light: LightStep) -> Disc | None:
    """Return the sun's disc in the finder, where it is seen; None below the horizon, unknown or behind the camera."""
    if light.sun_altitude_deg is None or light.sun_azimuth_deg is None or light.sun_altitude_deg < _LAST_SEEN_DEG:
        return None
    return _disc(
        camera, direction(apparent_altitude_deg(light.sun_altitude_deg), light.sun_azimuth_deg), SUN_DIAMETER_DEG
    )


def moon_in_frame(camera: Camera, light: LightStep) -> Disc | None:
    """Return the moon's disc in the finder with its phase, where it is seen; None below the horizon, unknown or behind
    the camera.
    """
    if light.moon_altitude_deg is None or light.moon_azimuth_deg is None or light.moon_altitude_deg < _LAST_SEEN_DEG:
        return None
    moon = direction(apparent_altitude_deg(light.moon_altitude_deg), light.moon_azimuth_deg)
    disc = _disc(camera, moon, MOON_DIAMETER_DEG)
    if disc is None or light.sun_altitude_deg is None or light.sun_azimuth_deg is None:
        return disc
    # The lit side points along the great circle to the sun.
    sun = direction(light.sun_altitude_deg, light.sun_azimuth_deg)
    towards = sun - moon * float(np.dot(sun, moon))
    beside = _disc(camera, moon + 0.01 * towards / max(1e-9, float(np.linalg.norm(towards))), MOON_DIAMETER_DEG)
    width, height = camera.frame_mm
    angle = (
        0.0 if beside is None else math.degrees(math.atan2(-(beside.y - disc.y) * height, (beside.x - disc.x) * width))
    )
    return replace(disc, fraction=light.moon_fraction if light.moon_fraction is not None else 1.0, lit_angle_deg=angle)


def place_in_frame(facts: ShotFacts, azimuth_deg: float, apparent_altitude_deg: float) -> tuple[float, float] | None:
    """Return where a direction stands in the shot's frame, (x, y) in 0..1 from its upper left, beyond 0..1 outside it.

    None without body, lens or bearing, or behind the camera.
    """
    settings = settings_of(facts)
    if settings is None or facts.body is None:
        return None
    disc = _disc(
        camera_of(facts, settings, facts.body), direction(apparent_altitude_deg, azimuth_deg), SUN_DIAMETER_DEG
    )
    return (disc.x, disc.y) if disc else None


def _disc(camera: Camera, direction: Floats, diameter_deg: float) -> Disc | None:
    point = np.array([camera.east_m, camera.north_m, camera.height_m]) + 1e7 * direction
    seen = project(camera, point)
    if not bool(seen.in_front):
        return None
    share = math.radians(diameter_deg) * camera.focal_mm / camera.frame_mm[0]
    return Disc(float(seen.x), float(seen.y), share, (float(point[0]), float(point[1]), float(point[2])))


def _beam(light: LightStep) -> Floats | None:
    """Return the direction of the sun or moon that casts shadows; None where none does."""
    found = light.beam_from
    return direction(max(0.3, found[0]), found[1]) if found is not None else None


def _ground_line(facts: ShotFacts, camera: Camera) -> Floats:
    ahead = np.concatenate((-np.geomspace(100, 0.01, 25), [0.0], np.geomspace(0.01, 1200, 41)))
    turn = math.radians(camera.bearing_deg)
    east, north = camera.east_m + ahead * math.sin(turn), camera.north_m + ahead * math.cos(turn)
    return np.stack((east, north, np.asarray(facts.ground.height_m(east, north))), axis=1)


def _skyline(facts: ShotFacts, camera: Camera) -> Floats | None:
    location = facts.location
    if location is None or not location.skyline.bearings_deg:
        return None
    bearings = camera.bearing_deg + np.linspace(-80, 80, 161)
    turns = np.radians(bearings)
    top = camera.height_m + _FAR_M * np.tan(np.radians(np.maximum(location.skyline.altitude_deg(bearings), -1.0)))
    ring = np.stack((_FAR_M * np.sin(turns), _FAR_M * np.cos(turns), top), axis=1)
    foot = ring[::-1].copy()
    foot[:, 2] = camera.height_m - curvature_drop_m(_FAR_M)
    return np.concatenate((ring, foot))
