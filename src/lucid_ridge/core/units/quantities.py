"""Floats and arrays alike: checking arguments and handing results back in the caller's shape."""

from __future__ import annotations

import math
from typing import Any, TypeAlias

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError

Quantity: TypeAlias = float | NDArray[np.float64]


def positive(name: str, value: Any, *, allow_infinite: bool = False) -> NDArray[np.float64]:
    """Return value as a float array after checking that every entry is greater than zero.

    allow_infinite: whether +infinity may stand (a distance can be infinite, a focal length cannot). Raises InputError
    naming the argument. NaN is never allowed.
    """
    # A plan checks hundreds of numbers and short arrays; the general way, which finds the words, costs several
    # times as much for each.
    if isinstance(value, float) and 0.0 < value < math.inf:
        return np.array(value, dtype=np.float64)
    array = as_floats(name, value)
    if (
        array.size
        and np.minimum.reduce(array, axis=None) > 0
        and (allow_infinite or np.maximum.reduce(array, axis=None) < math.inf)
    ):
        return array
    if np.isnan(array).any() or (array <= 0).any():
        raise InputError(name, f"{name} must be greater than zero, not {_shown(value)}.")
    if not allow_infinite and np.isinf(array).any():
        raise InputError(name, f"{name} must be finite.")
    return array


def not_negative(name: str, value: Any) -> NDArray[np.float64]:
    """Return value as a float array after checking that it is finite and at least zero."""
    array = finite(name, value)
    if array.size and np.minimum.reduce(array, axis=None) < 0:
        raise InputError(name, f"{name} must be zero or more, not {_shown(value)}.")
    return array


def finite(name: str, value: Any) -> NDArray[np.float64]:
    """Return value as a float array after checking that every entry is finite."""
    if isinstance(value, float) and math.isfinite(value):
        return np.array(value, dtype=np.float64)
    array = as_floats(name, value)
    if not np.isfinite(array).all():
        raise InputError(name, f"{name} must be a finite number, not {_shown(value)}.")
    return array


def in_range(name: str, value: float, low: float, high: float) -> float:
    """Return a number after checking that it lies from low to high. Raises InputError naming the argument."""
    number = float(finite(name, value))
    if not low <= number <= high:
        raise InputError(name, f"{name} must lie from {low:g} to {high:g}, not {_shown(value)}.")
    return number


def as_floats(name: str, value: Any) -> NDArray[np.float64]:
    """Return value as a new float array, or raise InputError where it is not a number."""
    try:
        return np.array(value, dtype=np.float64)
    except (TypeError, ValueError) as error:
        raise InputError(name, f"{name} must be a number, not {_shown(value)}.") from error


def in_callers_shape(result: Any) -> Any:
    """Return a plain float for a 0-d result and the array itself otherwise."""
    if isinstance(result, float):
        return float(result)
    array = np.asarray(result, dtype=np.float64)
    return float(array) if array.ndim == 0 else array


def _shown(value: Any) -> str:
    text = repr(value.tolist() if isinstance(value, np.ndarray) else value)
    return text if len(text) <= 60 else text[:57] + "..."
