"""Below which values parts of a picture lie."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray


def quantiles(values: Any, shares: tuple[float, ...]) -> NDArray[np.float64]:
    """Return the values below which such shares (0 to 1) of others lie, straight between two of them; values: one or
    more, of any shape.

    What numpy's `quantile` gives, of which a plan asks a dozen: for so few values its bookkeeping takes longer than a
    sort.
    """
    row = np.sort(values, axis=None)
    return np.asarray(np.interp(np.array(shares) * (len(row) - 1), np.arange(len(row)), row))
