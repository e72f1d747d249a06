"""The scene as a sensor records it: light through a lens that is focused somewhere, for a time, on pixels that fill up
and make noise.

Sources: [1] ISO 12232: a mid-grey metered at ISO S lies log2(1/0.127) stops under saturation; [2] photon noise is
Poisson, its variance the number of electrons, and reading adds its own (EMVA 1288). The texture of surfaces is our own:
band-limited noise, so that there is something to be sharp.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from ..exposure.bracketing import MID_GREY_OF_SATURATION

Floats = NDArray[np.float64]
# A full pixel of a middling sensor at base ISO, and what reading it adds [electrons].
FULL_WELL_E, READ_NOISE_E = 50_000.0, 4.0
# Blurs that differ by less are one [px].
_LAYER_PX = 0.35


@dataclass(frozen=True)
class SceneRaster:
    """The scene point by point, (high, wide).

    ev: at the lens, EV at ISO 100. distance_m: infinite for sky and far land. moves_px_per_s: of water and leaves,
    across the picture.

    tint: (high, wide, 3), each channel's share against the mean of the three.
    """

    ev: Floats
    distance_m: Floats
    moves_px_per_s: Floats
    tint: Floats


@dataclass(frozen=True)
class Exposing:
    """How the scene is exposed.

    stops_on_lens: what filters really take. blur_px_per_dioptre: diameter of the blur disc [px] for a difference of
    1/m in distance.

    shake_px, shake_deg: by how much and where to the camera moved meanwhile.
    """

    f_number: float
    shutter_s: float
    iso: float
    stops_on_lens: float
    focus_m: float
    blur_px_per_dioptre: float
    base_iso: float = 100.0
    shake_px: float = 0.0
    shake_deg: float = 0.0


def textured(ev: Floats, seed: int, stops: float = 0.7) -> Floats:
    """Return a picture in EV with a texture whose detail reaches down to single points."""
    rng = np.random.default_rng(seed)
    fine = rng.normal(size=ev.shape)
    rough = sum(ndimage.gaussian_filter(rng.normal(size=ev.shape), width) * width for width in (1.0, 3.0, 9.0))
    mixed = fine * 0.55 + np.asarray(rough)
    return np.asarray(ev + stops * mixed / mixed.std())


def expose(scene: SceneRaster, how: Exposing, seed: int) -> Floats:
    """Return the recorded pixels, linear (high, wide, 3), 1 at saturation, with noise. Source: [1], [2]."""
    settings_ev = math.log2(how.f_number**2 / how.shutter_s * 100 / how.iso) + how.stops_on_lens
    light = np.exp2(scene.ev - settings_ev) * MID_GREY_OF_SATURATION
    seen = _moved(_defocused(light, scene.distance_m, how), scene.moves_px_per_s, how.shutter_s)
    if how.shake_px > 0.3:
        seen = ndimage.convolve(seen, motion_kernel(how.shake_px, how.shake_deg), mode="nearest")
    full = FULL_WELL_E * how.base_iso / how.iso
    rng = np.random.default_rng(seed)
    electrons = np.minimum(seen[..., None] * scene.tint, 1.5) * full
    noisy = electrons + rng.normal(size=electrons.shape) * np.sqrt(electrons + READ_NOISE_E**2)
    return np.asarray(np.clip(noisy / full, 0.0, 1.0))


def motion_kernel(length_px: float, direction_deg: float) -> Floats:
    """Return the streak of a point that moves so far, its weights adding up to 1; direction from the right
    counter-clockwise.
    """
    half = max(1, math.ceil(length_px / 2))
    kernel = np.zeros((2 * half + 1, 2 * half + 1))
    for along in np.linspace(-length_px / 2, length_px / 2, max(2, int(4 * length_px))):
        x = half + along * math.cos(math.radians(direction_deg))
        y = half - along * math.sin(math.radians(direction_deg))
        left, top = int(x), int(y)
        for row, column, share in (
            (top, left, (1 - x + left) * (1 - y + top)), (top, left + 1, (x - left) * (1 - y + top)),
            (top + 1, left, (1 - x + left) * (y - top)), (top + 1, left + 1, (x - left) * (y - top)),
        ):  # fmt: skip
            if 0 <= row < kernel.shape[0] and 0 <= column < kernel.shape[1]:
                kernel[row, column] += share
    return np.asarray(kernel / kernel.sum())


def disc_kernel(diameter_px: float) -> Floats:
    """Return a blur disc, its weights adding up to 1."""
    half = math.ceil(diameter_px / 2)
    y, x = np.mgrid[-half : half + 1, -half : half + 1]
    share = np.clip(diameter_px / 2 + 0.5 - np.hypot(x, y), 0.0, 1.0)
    return np.asarray(share / share.sum())


def _different(counts: NDArray[np.int_]) -> NDArray[np.int_]:
    """Return which small whole numbers there are, in order."""
    return np.flatnonzero(np.bincount(counts.ravel()))


def _defocused(light: Floats, distance_m: Floats, how: Exposing) -> Floats:
    with np.errstate(divide="ignore"):
        apart = np.abs(1 / np.maximum(distance_m, 1e-3) - 1 / how.focus_m) * how.blur_px_per_dioptre
    steps = np.round(np.minimum(apart, 60.0) / _LAYER_PX).astype(int)
    seen = light.copy()
    for step in _different(steps):
        diameter = float(step) * _LAYER_PX
        if diameter < 1.0:
            continue
        seen = np.where(steps == step, ndimage.convolve(light, disc_kernel(diameter), mode="nearest"), seen)
    return np.asarray(seen)


def _moved(light: Floats, moves_px_per_s: Floats, shutter_s: float) -> Floats:
    streaks = np.round(np.minimum(moves_px_per_s * shutter_s, light.shape[1] / 2)).astype(int)
    seen = light
    for length in _different(streaks):
        if length >= 2:
            seen = np.where(
                streaks == length, ndimage.uniform_filter1d(light, int(length), axis=1, mode="nearest"), seen
            )
    return np.asarray(seen)
