"""Holes of one point between those that a thing takes in a small picture."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

# The points around one, the nearest first.
_AROUND = ((0, 1), (0, -1), (1, 0), (-1, 0), (1, 1), (1, -1), (-1, 1), (-1, -1))


def closed(places: NDArray[np.intp], shape: tuple[int, int, int]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Return places in pictures (n, high, wide) with the holes between them closed, and which of the places given each
    shows.
    """
    filled, shown = np.zeros(shape, dtype=bool), np.zeros(shape, dtype=np.intp)
    filled.ravel()[places] = True
    shown.ravel()[places] = np.arange(len(places))
    whole = _closing(filled)
    layer, rows, columns = _places_of(np.flatnonzero(whole & ~filled), shape[1], shape[2])
    for down, over in _AROUND:
        if not len(layer):
            break
        beside = filled[layer, np.clip(rows - down, 0, shape[1] - 1), np.clip(columns - over, 0, shape[2] - 1)]
        beside &= (rows >= down) & (rows - down < shape[1]) & (columns >= over) & (columns - over < shape[2])
        here = layer[beside], rows[beside], columns[beside]
        shown[here] = shown[here[0], here[1] - down, here[2] - over]
        filled[here] = True
        layer, rows, columns = layer[~beside], rows[~beside], columns[~beside]
    found = np.flatnonzero(whole)
    return found, shown.ravel()[found]


def _places_of(
    places: NDArray[np.intp], high: int, wide: int
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]:
    """Return which picture, row and column places in pictures one under another are: numpy's `unravel_index`, in half
    of its time.
    """
    lines, columns = np.divmod(places, wide)
    layer, rows = np.divmod(lines, high)
    return layer, rows, columns


def _closing(filled: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return a mask with one-point holes closed; values at the edge continue beyond it."""
    count, high, across = filled.shape
    # What numpy's `pad` does with its mode "edge", in a sixth of the time.
    wide = np.empty((count, high + 4, across + 4), dtype=bool)
    wide[:, 2:-2, 2:-2] = filled
    wide[:, 2:-2, :2], wide[:, 2:-2, -2:] = filled[:, :, :1], filled[:, :, -1:]
    wide[:, :2], wide[:, -2:] = wide[:, 2:3], wide[:, -3:-2]
    grown = _any_beside(wide)
    return np.asarray(~_any_beside(~grown)[:, 2:-2, 2:-2] | filled)


def _any_beside(here: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return where something is filled at a point or at one of the eight around it."""
    across = here.copy()
    across[:, :, 1:] |= here[:, :, :-1]
    across[:, :, :-1] |= here[:, :, 1:]
    found = across.copy()
    found[:, 1:] |= across[:, :-1]
    found[:, :-1] |= across[:, 1:]
    return found
