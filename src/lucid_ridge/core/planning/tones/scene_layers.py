"""Every luminance of a scene as fine meshes in EV at ISO 100, from the sky forwards."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from ...framing.fine_mesh import FineMesh, Grid, sheet, step_for
from ...framing.fine_meshes import fine_meshes_of, land_between
from ...framing.footing import Ground
from ...framing.projection import Camera, camera_axes, field_of_view_deg
from ...framing.shading import shadow_of
from ...framing.skin import rough
from ...framing.solids import BROAD, FLAT, Shape, Solid, meshes_of
from ...light.daylight import Daylight
from ...light.materials import REFLECTANCES, Material
from ...light.skyline import Skyline
from ...tones.lit import (
    MIRRORED_SHARE,
    Air,
    StillWater,
    Veil,
    ev_of,
    luminance_of,
    moving_water,
    sky_polariser_stops,
    veil_before,
)
from ...tones.picture import rays
from .scene_light import LitScene, Thing

Floats = NDArray[np.float64]
Place: TypeAlias = tuple[float, float, float, float, float, float]
Stand: TypeAlias = tuple[float, float, float]
# The land on the skyline is drawn as if it lay so far away [m]: how far it does is not known.
_LAND_M = 4_000.0
_LAND_REFLECTANCE = REFLECTANCES[Material.GRASS].typical
# White water by its speed [m/s]: from a first to a last, our own model. How large the bumps of a skin are, as a share
# of the lesser of height and width, and how much they differ [stops].
_SKIN = (0.12, 0.5)
_SKINS: dict[str, tuple[float, float]] = {
    Shape.RIDGE: (0.06, 0.3),
    Shape.SKYLINE: (0.06, 0.3),
    Shape.FLOWER: (0.2, 0.12),
    Shape.INSECT: (0.1, 0.2),
    Shape.TREE: (0.05, 0.45),
    Shape.MUSHROOM: (0.1, 0.15),
    Shape.PATH: (0.12, 0.4),
    Shape.SHORELINE: (0.12, 0.4),
}
_STEEP_DEG = 30.0
# By what part of half of what is seen the sheets around the eye turn at once; by what part of the eye's height they
# walk, and in how many steps they rise to twice the height.
_TURNS, _STRIDES, _RISES = 6, 16, 8
# Columns of a sheet around the eye over the visible part, and to either side of it.
_GROUND_COLUMNS, _SKY_COLUMNS, _LAND_COLUMNS = (49, 8), (41, 8), (121, 16)
_LAND_ROWS = 16
# How many spurs of the land on the skyline stand over a degree.
_SPURS_TO_A_DEGREE = 221 / 44 / 240
_FOAM_FROM, _FOAM_TO, _FOAM_MOST = 0.4, 3.0, 0.6


@dataclass(frozen=True, kw_only=True)
class ToneLayer:
    """Part of the scene to be drawn, in order from the sky forwards.

    kind: "sky", "land" (the skyline's), "ground", "water", "flat" (paths and the like on the ground), "thing". points
    (n, 3) [m]; triangles (m, 3); ev: of every point, at the eye. shade_ev: of the ground where the sun does not reach
    it. mirror_ev: as still water shows it. polariser_stops: what a polariser changes it by beyond its own cost, and
    mirror_polariser_stops its mirror. grain_m, grain_stops: how large the bumps of its skin are, finer than its points,
    and how much they differ about the mean: for the eye alone, nothing is counted from them. grid: the rows and columns
    of its points, where they have any. closed: nobody sees it from within.
    """

    kind: str
    points: Floats
    triangles: NDArray[np.int32]
    ev: Floats
    element_id: int | None = None
    shade_ev: Floats | None = None
    mirror_ev: Floats | None = None
    polariser_stops: Floats | None = None
    mirror_polariser_stops: Floats | None = None
    grain_m: float = 1.0
    grain_stops: float = 0.0
    grid: Grid | None = None
    closed: bool = False


@dataclass(frozen=True)
class SceneTones:
    """All that is drawn.

    water: the still one that mirrors it; None: none does. mirrors: ids of what shares its level. shadows: on the
    ground, (n, 3) each.

    light: of the moment. eye: the camera's place [m]. axis: of a polariser on the lens.
    """

    layers: tuple[ToneLayer, ...]
    shadows: tuple[Floats, ...]
    light: Daylight
    eye: Floats
    axis: Floats
    water: StillWater | None = None
    mirrors: frozenset[int] = field(default_factory=frozenset)


# Turning the exposure leaves the scene as it is.
@lru_cache(maxsize=8)
def scene_tones(scene: LitScene) -> SceneTones:
    """Return all luminances of a scene."""
    return _Scene(scene).drawn()


class _Scene:
    """One scene while it is put together."""

    def __init__(self, scene: LitScene) -> None:
        self.scene, self.light = scene, scene.light
        self.stands = _eye(scene.camera)
        self.place = _place_of(scene.camera, scene.ground)
        self.eye = np.array(self.stands)
        self.axis = _filter_axis(scene.camera, scene.light)
        self.upright = float(self.axis[2] ** 2)
        still = [item for item in scene.things if item.still]
        self.water = StillWater(_level_m(still[0].solid), still[0].reflectance, self.upright) if still else None
        self.mirrors = frozenset(
            item.id
            for item in still
            if self.water is not None and abs(_level_m(item.solid) - self.water.level_m) < 0.02
        )

    def drawn(self) -> SceneTones:
        layers = [self._sky()]
        if self.scene.skyline is not None:
            land = self._solid("land", _land_mesh(self.scene.skyline, self.place), _LAND_REFLECTANCE, None)
            layers.append(replace(land, grain_m=0.03 * _LAND_M, grain_stops=0.15))
        layers.append(self._ground())
        flat = [item for item in self.scene.things if item.solid.shape in FLAT]
        upright = [item for item in self.scene.things if item.solid.shape not in FLAT]
        for item in (*flat, *upright):
            layers += self._thing(item)
        return SceneTones(
            tuple(layers), self._shadows(upright), self.light, self.eye, self.axis, self.water, self.mirrors
        )

    def _sky(self) -> ToneLayer:
        mesh = _dome_mesh(self.place[3:])
        luminance = _sky_lit(mesh, self.light)
        polarised = sky_polariser_stops(mesh.points, self.light, self.axis)
        layer = ToneLayer(
            kind="sky",
            points=self.eye + 1e6 * mesh.points,
            triangles=mesh.triangles,
            ev=ev_of(luminance),
            polariser_stops=polarised,
        )
        return self._mirrored(layer, mesh, luminance)

    def _ground(self) -> ToneLayer:
        mesh = _ground_mesh(self.scene.ground, self.place)
        lit, shade = (
            _solid_ev(mesh, self.light, self.scene.ground_reflectance, self.stands, self.scene.air, in_shade)
            for in_shade in (False, True)
        )
        return ToneLayer(
            kind="ground",
            points=mesh.points,
            triangles=mesh.triangles,
            ev=lit,
            shade_ev=shade,
            grain_m=0.35 * _height_m(self.scene.ground, *self.place[:3]),
            grain_stops=0.55,
        )

    def _thing(self, item: Thing) -> list[ToneLayer]:
        shape = item.solid.shape
        kind = "thing" if shape not in FLAT else "water" if shape == Shape.WATER else "flat"
        layers = []
        for mesh in fine_meshes_of(item.solid, self.scene.ground, self._step(item)):
            if not item.wet or kind == "thing":
                made = self._solid(kind, mesh, item.reflectance, item.id)
                size, stops = _SKINS.get(shape, _SKIN)
                layers.append(
                    replace(made, grain_m=size * min(item.solid.height_m, item.solid.width_m), grain_stops=stops)
                )
                continue
            layers.append(
                ToneLayer(
                    kind=kind,
                    points=mesh.points,
                    triangles=mesh.triangles,
                    ev=self._water_ev(item, mesh),
                    element_id=item.id,
                    polariser_stops=self._on_water(mesh),
                )
            )
        return layers

    def _step(self, item: Thing) -> int:
        """Return how finely something is divided: as it is large in the frame."""
        width, height = self.scene.camera.frame_mm
        size = self.scene.camera.focal_mm / max(item.distance_m, 1e-3)
        return step_for(max(item.solid.width_m * size / width, item.solid.height_m * size / height))

    def _water_ev(self, item: Thing, mesh: FineMesh) -> Floats:
        """Return the water's own light beside its reflections [EV]."""
        speed, calm = item.speed_mps, self.scene.calm
        wind, foam = 0.0, 0.0
        if not item.still:
            wind, foam = (
                2.0 + 4.0 * speed,
                _FOAM_MOST * min(1.0, max(0.0, (speed - _FOAM_FROM) / (_FOAM_TO - _FOAM_FROM))),
            )
        return _water_ev_at_eye(
            mesh=mesh,
            light=self.light,
            reflectance=item.reflectance,
            stands=self.stands,
            air=self.scene.air,
            wind_mps=wind,
            foam=foam,
            calm=calm,
        )

    def _on_water(self, mesh: FineMesh) -> Floats:
        return StillWater(float(mesh.points[0, 2]), 0.0, self.upright).polariser_stops(mesh.points, self.eye)

    def _solid(self, kind: str, mesh: FineMesh, reflectance: float, element_id: int | None) -> ToneLayer:
        lit = mesh, self.light, reflectance, self.stands, self.scene.air
        layer = ToneLayer(
            kind=kind,
            points=mesh.points,
            triangles=mesh.triangles,
            ev=_solid_ev(*lit),
            element_id=element_id,
            grid=mesh.grid,
            closed=mesh.closed,
        )
        return self._mirrored(layer, mesh, _solid_at_eye(*lit))

    def _mirrored(self, layer: ToneLayer, mesh: FineMesh, luminance: Floats) -> ToneLayer:
        """Return a layer with what still water shows of it, where there is some."""
        if self.water is None:
            return layer
        # The sky lies all around the eye, wherever that stands.
        shares = (
            self.water.shares_of(layer.points, self.eye)
            if layer.kind == "sky"
            else _mirror_shares(mesh, self.water.level_m, self.stands)
        )
        shown, stops = self.water.mirrors(luminance, shares, self.eye, self.light)
        if layer.polariser_stops is not None:
            stops = stops + MIRRORED_SHARE * layer.polariser_stops
        return replace(layer, mirror_ev=ev_of(shown), mirror_polariser_stops=stops)

    def _shadows(self, upright: list[Thing]) -> tuple[Floats, ...]:
        if self.light.beam_lux <= 0:
            return ()
        found = [
            _shadow_on_ground(item.solid, self.scene.ground, self.light)
            for item in upright
            if item.solid.shape not in BROAD or item.solid.shape == Shape.WALL
        ]
        return tuple(ring for ring in found if ring is not None)


@lru_cache(maxsize=128)
def _shadow_on_ground(solid: Solid, ground: Ground, light: Daylight) -> Floats | None:
    meshes = meshes_of(solid, ground)
    return shadow_of(meshes, light.beam_from, min(float(mesh.points[:, 2].min()) for mesh in meshes))


# From wherever one looks, the same light falls on the same things …
@lru_cache(maxsize=128)
def _solid_lit(mesh: FineMesh, light: Daylight, reflectance: float, in_shade: bool) -> Floats:
    return luminance_of(mesh, light, reflectance, in_shade)


# … and a camera that only turns sees it through the same air.
@lru_cache(maxsize=128)
def _solid_at_eye(
    mesh: FineMesh, light: Daylight, reflectance: float, stands: Stand, air: Air, in_shade: bool = False
) -> Floats:
    return _veil(mesh, light, stands, air).over(_solid_lit(mesh, light, reflectance, in_shade))


@lru_cache(maxsize=128)
def _solid_ev(
    mesh: FineMesh, light: Daylight, reflectance: float, stands: Stand, air: Air, in_shade: bool = False
) -> Floats:
    return ev_of(_solid_at_eye(mesh, light, reflectance, stands, air, in_shade))


@lru_cache(maxsize=8)
def _sky_lit(mesh: FineMesh, light: Daylight) -> Floats:
    return light.sky_cd_m2(mesh.points)


@lru_cache(maxsize=64)
def _mirror_shares(mesh: FineMesh, level_m: float, stands: Stand) -> tuple[Floats, Floats]:
    return StillWater(level_m, 0.0).shares_of(mesh.points, np.array(stands))


# The ground is seen through the same air in sun and in shade, water whatever its ripples do.
@lru_cache(maxsize=32)
def _veil(mesh: FineMesh, light: Daylight, stands: Stand, air: Air) -> Veil:
    return veil_before(mesh.points, np.array(stands), light, air)


@lru_cache(maxsize=32)
def _water_ev_at_eye(
    mesh: FineMesh,
    light: Daylight,
    reflectance: float,
    stands: Stand,
    air: Air,
    wind_mps: float,
    foam: float,
    calm: float,
) -> Floats:
    points, eye = mesh.points, np.array(stands)
    return ev_of(
        _veil(mesh, light, stands, air).over(moving_water(points, eye, light, reflectance, wind_mps, foam, calm))
    )


def _filter_axis(camera: Camera, light: Daylight) -> Floats:
    """Return the axis of a polariser turned to darken the sky over the middle of the frame most; level across it if no
    axis does.
    """
    right, _, forward = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)
    ahead = forward * np.array([1.0, 1.0, 0.0])
    length = float(np.linalg.norm(ahead))
    if length < 1e-6:
        return np.asarray(right)
    middle = ahead / length * math.cos(math.radians(15)) + np.array([0.0, 0.0, math.sin(math.radians(15))])
    swings = np.cross(middle, light.polarised_about)
    if float(np.linalg.norm(swings)) < 0.05:
        return np.array([0.0, 0.0, 1.0])
    across = np.cross(middle, swings / np.linalg.norm(swings))
    return np.asarray(across / np.linalg.norm(across))


@lru_cache(maxsize=8)
def _place_of(camera: Camera, ground: Ground) -> Place:
    """Return about where one stands and looks; the sheets around it are kept while the camera turns and walks a
    little, and for the next light.
    """
    # A view steeply up or down includes parts behind the camera.
    steep = abs(camera.pitch_deg) > _STEEP_DEG
    around = 180.0 if steep else 120.0
    across, upright = (float(field_of_view_deg(side, camera.focal_mm)) / 2 for side in camera.frame_mm)
    # The corners of a pitched frame reach farther round than its middle.
    seen = math.hypot(across, upright if camera.roll_deg else 0.0) / max(
        0.2, math.cos(math.radians(abs(camera.pitch_deg) + upright))
    )
    half = around if steep else min(around, 1.1 * seen)
    # A sheet reaches a little farther than is seen, so that a small turn leaves it as it is.
    turn = half / _TURNS
    height = 2 ** (round(math.log2(_height_m(ground, *_eye(camera))) * _RISES) / _RISES)
    east, north = (round(at * _STRIDES / height) * height / _STRIDES for at in (camera.east_m, camera.north_m))
    up = float(ground.height_m(east, north)) + height
    return east, north, up, round(camera.bearing_deg / turn) * turn, around, min(around, half + turn / 2)


def _turns_deg(around: float, seen: float, columns: tuple[int, int]) -> Floats:
    """Return the angles of a sheet's columns from the middle [°]: fine over the visible part, coarse beside it."""
    inside, beside = columns
    if seen >= around * 0.98:
        return np.linspace(-around, around, inside + 2 * beside)
    wing = np.linspace(seen, around, beside + 1)[1:]
    return np.concatenate((-wing[::-1], np.linspace(-seen, seen, inside), wing))


@lru_cache(maxsize=8)
def _dome_mesh(looks: tuple[float, ...]) -> FineMesh:
    """Return directions over the sky, finer towards the horizon.

    looks: the bearing, how far to either side of it, and how much of that is seen.
    """
    bearing, around, seen = looks
    turns = np.radians(bearing + _turns_deg(around, seen, _SKY_COLUMNS))
    rise = np.radians([-3, 0, 0.4, 1, 2, 3, 4.5, 6, 8, 10, 12.5, 15, 18, 21, 25, 29, 34, 40, 47, 56, 66, 78, 90])
    level, up = np.cos(rise)[:, None], np.broadcast_to(np.sin(rise)[:, None], (len(rise), len(turns)))
    return sheet(np.stack((level * np.sin(turns), level * np.cos(turns), up), axis=-1))


@lru_cache(maxsize=8)
def _land_mesh(skyline: Skyline, place: Place) -> FineMesh:
    """Return the land on a skyline as a wall of spurs and gullies around the eye."""
    east, north, height, bearing, around, seen = place
    bearings = bearing + _turns_deg(around, seen, _LAND_COLUMNS)
    turns, top = np.radians(bearings), np.maximum(skyline.altitude_deg(bearings), -1.0)
    ring = np.stack((_LAND_M * np.sin(turns), _LAND_M * np.cos(turns)), axis=-1) + np.array([east, north])
    head = np.column_stack((ring, height + _LAND_M * np.tan(np.radians(top))))
    foot = np.column_stack((ring, np.full(len(ring), height - 0.02 * _LAND_M)))
    return land_between(
        head,
        foot,
        np.column_stack((-np.sin(turns), -np.cos(turns), np.zeros_like(turns))),
        31,
        bearings * _SPURS_TO_A_DEGREE,
        _LAND_ROWS,
    )


def _eye(camera: Camera) -> Stand:
    return camera.east_m, camera.north_m, camera.height_m


def _height_m(ground: Ground, east: float, north: float, up: float) -> float:
    """Return how high the eye is over the ground under it [m]; a hand's width where it would be in it."""
    return max(0.02, up - float(ground.height_m(east, north)))


@lru_cache(maxsize=8)
def _ground_rows_m(height_m: float) -> Floats:
    """Return how far from the eye's foot the rows of the ground's mesh lie [m]: finer near it.

    They are shared: nobody writes into them.
    """
    return np.concatenate(
        ([0.0], np.geomspace(0.12 * height_m, 60 * height_m, 56), np.geomspace(75 * height_m, 2e5, 20))
    )


@dataclass(frozen=True)
class GroundSeen:
    """Which points of a picture (high, wide) the ground takes, between which points of its mesh (n, 4) each lies, and
    how near to each (n, 4).
    """

    here: NDArray[np.bool_]
    corners: NDArray[np.intp]
    shares: Floats

    def shown(self, values: Floats, which: NDArray[np.bool_]) -> Floats:
        """Return values of the mesh's points (n,) at some of the picture's that it takes."""
        return np.asarray(np.einsum("nc,nc->n", values.take(self.corners[which]), self.shares[which]))


# Another light falls on the same ground.
@lru_cache(maxsize=8)
def ground_seen(camera: Camera, ground: Ground, wide: int, high: int) -> GroundSeen:
    """Return where a camera's picture shows the ground that is drawn around it."""
    towards = rays(camera, wide, high)
    *middle, bearing, around, seen = _place_of(camera, ground)
    here = towards[..., 2] < -1e-5
    towards = towards[here]
    east, north, up = _eye(camera)
    drop = -towards[..., 2]
    run = (up - float(ground.height_m(east, north))) / drop
    # A slope is met where the ray comes down to the height that it has there.
    for _ in range(4 if ground.slope_deg else 0):
        run = np.maximum(
            0.0, (up - np.asarray(ground.height_m(east + run * towards[..., 0], north + run * towards[..., 1]))) / drop
        )
    # The sheet's middle lies beside the eye's foot.
    x, y = east - middle[0] + run * towards[..., 0], north - middle[1] + run * towards[..., 1]
    away = _ground_rows_m(_height_m(ground, *middle))
    row = np.interp(np.hypot(x, y), away, np.arange(len(away)))
    turns = _turns_deg(around, seen, _GROUND_COLUMNS)
    column = np.interp((np.degrees(np.arctan2(x, y)) - bearing + 180) % 360 - 180, turns, np.arange(len(turns)))
    above, before = np.minimum(row.astype(np.intp), len(away) - 2), np.minimum(column.astype(np.intp), len(turns) - 2)
    down, over = row - above, column - before
    first = above * len(turns) + before
    corners = np.stack((first, first + 1, first + len(turns), first + len(turns) + 1), axis=-1)
    shares = np.stack(((1 - down) * (1 - over), (1 - down) * over, down * (1 - over), down * over), axis=-1)
    return GroundSeen(here, corners, shares)


@lru_cache(maxsize=8)
def _ground_mesh(ground: Ground, place: Place) -> FineMesh:
    """Return the ground around the eye, finer near it."""
    east, north, _, bearing, around, seen = place
    height = _height_m(ground, *place[:3])
    turns, away = np.radians(bearing + _turns_deg(around, seen, _GROUND_COLUMNS)), _ground_rows_m(height)
    x, y = east + away[:, None] * np.sin(turns), north + away[:, None] * np.cos(turns)
    mesh = sheet(np.stack((x, y, np.asarray(ground.height_m(x, y))), axis=-1))
    return replace(
        mesh,
        normals=_ground_normal(ground)[None, :],
        albedo=_ground_albedo(mesh.points[:, :2], np.array([east, north]), height),
    )


def _level_m(solid: Solid) -> float:
    return float(meshes_of(solid)[0].points[0, 2])


def _ground_normal(ground: Ground) -> Floats:
    slope, down = math.radians(ground.slope_deg), math.radians(ground.down_bearing_deg)
    return np.array([math.sin(slope) * math.sin(down), math.sin(slope) * math.cos(down), math.cos(slope)])


def _ground_albedo(places: Floats, eye: Floats, height: float) -> Floats:
    """Return how uneven the ground's tone is: tufts and patches as large as one sees them from so high."""
    flat = np.column_stack((places, np.zeros(len(places))))
    away = np.hypot(*(places - eye).T)
    near = np.exp(-away / (14 * height))
    patches = rough(flat / height, 0.5, 41) + 0.5 * rough(flat / height, 0.12, 42)
    return np.asarray(
        np.clip(1 + (0.20 + 0.12 * near) * patches + 0.22 * near * rough(flat / height, 2.2, 43), 0.4, 1.8)
    )
