"""The scene as a small picture: EV, parts and the effect of a polariser at each point, with reflections and shadows."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ...tones.lit import ev_of, sky_polariser_stops
from ...tones.picture import GROUND, LAND, SKY, Layer, Marks, Seen, enough_triangles, rays, seen_of
from .scene_layers import GroundSeen, SceneTones, ToneLayer, ground_seen, scene_tones
from .scene_light import LitScene

Floats = NDArray[np.float64]

# Points along the longer side of the picture that frames are judged by.
PICTURE_POINTS = 96


# What stands behind the ground, and what before it, the farthest first.
_ORDERS = (("land",),), (("water", "flat"), ("thing",))


@dataclass(frozen=True)
class ScenePicture:
    """The scene as a small picture (high, wide): EV at the lens, whose each point is (an element's index or a
    constant), and what a polariser changes by beyond its cost [stops].
    """

    ev: Floats
    marks: Marks
    polariser_stops: Floats


@lru_cache(maxsize=8)
def scene_picture(lit: LitScene, ids: tuple[int, ...], points: int = PICTURE_POINTS) -> ScenePicture:
    """Return the scene as the camera sees it, without filters; ids: of the elements in their order; points: along its
    longer side.
    """
    scene, camera = scene_tones(lit), lit.camera
    width, height = camera.frame_mm
    wide, high = (
        (points, max(8, round(points * height / width)))
        if width >= height
        else (max(8, round(points * width / height)), points)
    )
    towards = rays(camera, wide, high).reshape(-1, 3)
    index = {id_: at for at, id_ in enumerate(ids)}
    lands, forwards = ([layer for kinds in order for layer in scene.layers if layer.kind in kinds] for order in _ORDERS)
    few = {
        id(layer): enough_triangles(camera, layer.points, layer.triangles, layer.grid, wide, high)
        for layer in (*lands, *forwards)
    }
    upright = [_layer(layer, few, index) for layer in (*lands, *forwards)]
    layers = [*upright, *_mirrored_layers(scene, few)]
    # At once: most of what this takes is the same for one layer and for all.
    stand = seen_of(camera, layers, wide, high)
    top = np.full(high * wide, SKY)
    for at in range(len(lands)):
        stand.lay(top, at)
    ground = ground_seen(camera, lit.ground, wide, high)
    top[ground.here.ravel()] = GROUND
    for at in range(len(lands), len(upright)):
        stand.lay(top, at)
    # What is hidden is not worked out.
    values, things = (
        np.concatenate([layer.values for layer in layers]) if layers else np.zeros((0, 2)),
        np.flatnonzero(top >= 0),
    )
    marks, ev = top.astype(np.int32), np.zeros((high * wide, 2))
    own = stand.layer_of(top.take(things))
    marks[things] = np.array([layer.mark for layer in upright], dtype=np.int32).take(own)
    mirrors = np.array(
        [layer.element_id in scene.mirrors and layer.kind != "thing" for layer in (*lands, *forwards)], dtype=bool
    )
    seen, mirrored = things[~mirrors.take(own)], things[mirrors.take(own)]
    ev[seen] = stand.shown(top.take(seen), values)
    if len(mirrored):
        ev[mirrored] = _mirror(scene, towards, mirrored, stand, range(len(upright), len(layers)), values)
    sky, here = np.flatnonzero(top == SKY), top == GROUND
    ev[sky, 0] = ev_of(scene.light.sky_cd_m2(towards.take(sky, axis=0)))
    ev[sky, 1] = sky_polariser_stops(towards.take(sky, axis=0), scene.light, scene.axis)
    ev[here, 0] = _ground(scene, ground, here, towards)
    return ScenePicture(ev[:, 0].reshape(high, wide), marks.reshape(high, wide), ev[:, 1].reshape(high, wide))


def _ground(scene: SceneTones, ground: GroundSeen, here: NDArray[np.bool_], towards: Floats) -> Floats:
    """Return the EV of the ground at the points of the picture where it is on top."""
    layer = next(layer for layer in scene.layers if layer.kind == "ground")
    assert layer.shade_ev is not None
    which, shade = here[ground.here.ravel()], _shaded(scene, towards[here])
    return np.where(shade, ground.shown(layer.shade_ev, which), ground.shown(layer.ev, which))


def _layer(layer: ToneLayer, few: dict[int, NDArray[np.int32]], index: dict[int, int]) -> Layer:
    mark = LAND if layer.kind == "land" else index[layer.element_id or 0]
    stops = np.zeros(len(layer.ev)) if layer.polariser_stops is None else layer.polariser_stops
    values = np.stack((layer.ev, stops), axis=1)
    return Layer(layer.points, few[id(layer)], values, mark, closed=layer.closed)


def _mirrored_layers(scene: SceneTones, few: dict[int, NDArray[np.int32]]) -> list[Layer]:
    """Return the layers that still water mirrors, the farthest first; empty without still water."""
    if scene.water is None:
        return []
    return [
        Layer(
            layer.points,
            few[id(layer)],
            np.stack((layer.mirror_ev, stops), axis=1),
            SKY,
            scene.water.level_m,
            layer.closed,
        )
        for layer in scene.layers
        if layer.kind != "sky" and layer.mirror_ev is not None and (stops := layer.mirror_polariser_stops) is not None
    ]


def _mirror(
    scene: SceneTones, towards: Floats, here: NDArray[np.intp], stand: Seen, mirrored: range, values: Floats
) -> Floats:
    """Return the reflection in still water at points of the picture: EV, and the effect of a polariser, (n, 2).

    mirrored: the layers it shows.
    """
    assert scene.water is not None
    top = np.full(len(towards), SKY)
    for layer in mirrored:
        stand.lay(top, layer)
    top = top.take(here)
    shown, things, sky = np.empty((len(here), 2)), np.flatnonzero(top >= 0), np.flatnonzero(top < 0)
    shown[things] = stand.shown(top.take(things), values)
    upwards = towards.take(here.take(sky), axis=0)
    upwards[:, 2] = np.abs(upwards[:, 2])
    luminance, stops = scene.water.mirrors_sky(upwards, scene.light, scene.axis)
    shown[sky, 0], shown[sky, 1] = ev_of(luminance), stops
    return shown


def _shaded(scene: SceneTones, towards: Floats) -> NDArray[np.bool_]:
    """Return in which directions (n, 3) one sees a shadow on the ground; shadows are convex and level."""
    found = np.zeros(len(towards), dtype=bool)
    with np.errstate(divide="ignore"):
        along = np.where(towards[:, 2] < -1e-6, -1 / towards[:, 2], np.nan)
    for ring in scene.shadows:
        drop = scene.eye[2] - ring[0, 2]
        x, y = scene.eye[0] + drop * along * towards[:, 0], scene.eye[1] + drop * along * towards[:, 1]
        (left, foot, _), (right, top, _) = ring.min(axis=0), ring.max(axis=0)
        here = np.flatnonzero((x >= left) & (x <= right) & (y >= foot) & (y <= top))
        for one, other in pairwise((*ring, ring[0])):
            here = here[(other[0] - one[0]) * (y[here] - one[1]) - (other[1] - one[1]) * (x[here] - one[0]) >= 0]
        found[here] = True
    return found
