"""Below which values parts of a picture lie."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray


def quantiles(values: Any, shares: tuple[float, ...]) -> NDArray[np.float64]:
    """Return the quantiles of values at shares (0 to 1), interpolated linearly; values: one or more, of any shape.

    Equals numpy's `quantile`, of which a plan needs a dozen: for so few values its overhead exceeds a sort.
    """
    row = np.sort(values, axis=None)
    return np.asarray(np.interp(np.array(shares) * (len(row) - 1), np.arange(len(row)), row))
