"""Roughness that is always the same: sums of waves in random directions, for skins that nobody has measured.

Source: [1] spectral synthesis, e.g. Peitgen and Saupe (eds.), The Science of Fractal Images, 1988, ch. 2.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import numpy as np

from .meshes import Floats

_WAVES = 12


@lru_cache(maxsize=64)
def _waves(seed: int) -> tuple[Floats, Floats, Floats]:
    chance = np.random.default_rng(seed)
    directions = chance.normal(size=(_WAVES, 3))
    directions /= np.linalg.norm(directions, axis=1, keepdims=True)
    octave = 2.0 ** chance.uniform(-0.5, 1.5, _WAVES)
    return directions * octave[:, None], chance.uniform(0, 2 * np.pi, _WAVES), 1 / octave


def rough(points: Any, frequency: float, seed: int) -> Floats:
    """Return a smooth unevenness at points (…, 3), about -1 to 1 around 0.

    frequency: bumps to a unit of length. Source: [1].
    """
    vectors, phases, weights = _waves(seed)
    # Single precision is fine enough for a skin, and twice as fast.
    waves = np.cos((np.asarray(points, dtype=np.float64) @ (vectors.T * frequency) + phases).astype(np.float32))
    return np.asarray(np.clip(waves @ (weights / (2.2 * np.sqrt((weights**2).sum() / 2))), -1.0, 1.0), dtype=np.float64)


@lru_cache(maxsize=64)
def ragged(count: int, seed: int) -> Floats:
    """Return lengths of twigs around a stem, 0.45 to 1: every other one short."""
    chance = np.random.default_rng(1000 + seed)
    return np.asarray(
        chance.uniform(0.72, 1.0, count) * np.where(np.arange(count) % 2, 1.0, chance.uniform(0.55, 0.8, count))
    )
