"""Results of every focusing method at every aperture, as the focus plan computes them."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..facts.settings import settings_of
from ..facts.shot import ShotFacts
from ..planning.focus.plan import focused_at, nearest_imaging
from ..planning.plan.shot_plan import ShotPlan
from .space import Space

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class FocusTable:
    """Results of every method at every aperture, (method, aperture): frames, blur over the limit, infinite if that
    cannot be focused, and extension [stops].
    """

    frames: Floats
    blur_times: Floats
    extension_stops: Floats


def focus_table(facts: ShotFacts, plan: ShotPlan, space: Space) -> FocusTable:
    """Return the focus plan's results for each method and aperture; one sharp frame if nothing must be sharp."""
    settings, depth, along = settings_of(facts), plan.depth, plan.depth.along
    assert settings is not None
    shape = (len(space.methods), len(space.apertures))
    count, blur, extension = np.ones(shape), np.ones(shape), np.zeros(shape)
    if along is None or depth.near_m is None or depth.far_m is None:
        return FocusTable(count, blur, extension)
    imaging = nearest_imaging(facts, settings, depth.near_m)
    if imaging is None or not imaging.images(depth.near_m * 1000):
        return FocusTable(count, np.full(shape, np.inf), extension)
    for row, method in enumerate(space.methods):
        focused = facts.choosing(depth_method=method)
        for column, f_number in enumerate(space.apertures):
            found = focused_at(focused, replace(settings, f_number=f_number), imaging, along, depth.near_m, depth.far_m)
            if found is None:
                blur[row, column] = np.inf
            else:
                count[row, column], blur[row, column], extension[row, column] = (
                    found.frames,
                    found.times_limit,
                    found.extension_stops,
                )
    # Smaller extensions are not shown in the ledger either.
    return FocusTable(count, blur, np.where(extension > 0.005, extension, 0.0))
