"""Step 5, ways to hold sky and land: a graduated filter, a bracket, two frames, or one for the highlights, side by side with what each costs."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..exposure.ev import shutter_for_ev_s
from ..facts.choices import BracketMode
from ..facts.kit import FilterKind
from ..facts.shot import ShotFacts
from ..tones.picture import SKY
from .exposure import ExposureStep
from .sequence import FILTER_CHANGE_S
from .tone_reasons import needed_graduated_stops
from .tones import TonesStep

_STEP_EV = 2.0
# Shadows lifted by more than this show their noise (common practice).
_LIFT_STOPS = 3.0


@dataclass(frozen=True)
class SkyWay:
    """A way to hold sky and land. frames and total_s: what it takes; holds: whether all tones are within what is held; risk: what may go wrong.

    filter_id: of the graduated filter to put on, where one belongs to it. chosen: it is what the shot does now.
    """

    name: str
    bracket: BracketMode
    filter_id: int | None
    frames: int
    total_s: float
    holds: bool
    risk: str
    chosen: bool


def sky_ways(facts: ShotFacts, exposure: ExposureStep, step: TonesStep) -> tuple[SkyWay, ...]:
    """Return the ways, by the tones as they are predicted or read; empty without a sky in the frame or an exposure."""
    body = facts.body
    marks = step.picture.marks
    if body is None or exposure.shutter_s is None or not (marks == SKY).any() or (marks == SKY).all():
        return ()
    ids = tuple(id_ for id_, _ in step.corrections.elements)
    bare = step.picture.ev + step.shift_stops + step.corrections.over(marks, ids)
    low, high = (float(item) for item in np.quantile(bare, (0.01, 0.99)))
    held, shutter = step.held_stops, exposure.shutter_s
    over = max(0.0, high - low - held)
    moves = any(item.speed_mps for item in facts.elements)
    on_lens = [item for item in facts.filters if item.kind == FilterKind.GRADUATED and item.on_lens]
    mode, gap = facts.exposure.bracket, body.write_s
    ways = []
    needed = needed_graduated_stops(step) or 0.0
    bag = [item for item in facts.filters if item.kind == FilterKind.GRADUATED]
    best = min(bag, key=lambda item: abs(item.stops - needed), default=None)
    if best is not None:
        darkened = bare - np.where(marks == SKY, best.stops, 0.0)
        span = float(np.quantile(darkened, 0.99) - np.quantile(darkened, 0.01))
        through = [
            item.name
            for at, item in enumerate(facts.elements)
            if item.shape in ("tree", "tower", "post", "posts") and _meets_the_sky(step, at)
        ]
        risk = f"darkens {' and '.join(through)} at the top" if through else "its edge must lie on the skyline"
        ways.append(
            SkyWay(
                best.name,
                BracketMode.NONE,
                best.id,
                1,
                shutter + FILTER_CHANGE_S,
                span <= held,
                risk,
                bool(on_lens) and mode == BracketMode.NONE,
            )
        )
    count = 1 + math.ceil(over / _STEP_EV - 1e-9)
    times = [shutter * 2.0 ** (_STEP_EV * (index - (count - 1) / 2)) for index in range(count)]
    risk = "what moves is in each frame elsewhere" if moves else "frames must fit each other: tripod"
    ways.append(
        SkyWay("bracket over the range", BracketMode.RANGE, None, count, sum(times) + gap * count, True, risk, mode == BracketMode.RANGE)
    )
    sky = min(shutter, float(shutter_for_ev_s(high, 1.0, 100)) / float(shutter_for_ev_s(step.middle_ev, 1.0, 100)) * shutter)
    ways.append(
        SkyWay("land and sky, blended", BracketMode.LAND_AND_SKY, None, 2, shutter + sky + 2 * gap, over <= held, "a mask along the skyline, by hand", mode == BracketMode.LAND_AND_SKY)
    )  # fmt: skip
    lifted = max(0.0, high - step.middle_ev - 2.98)
    risk = f"land lifted by {lifted:.1f} stops afterwards" + (": noise" if lifted > _LIFT_STOPS else "")
    ways.append(
        SkyWay(
            "one, for the highlights",
            BracketMode.HIGHLIGHTS,
            None,
            1,
            shutter * 2.0**-lifted,
            over <= 0 and lifted <= _LIFT_STOPS,
            risk,
            mode == BracketMode.HIGHLIGHTS,
        )
    )
    return tuple(ways)


def _meets_the_sky(step: TonesStep, at: int) -> bool:
    """Whether an element stands against the sky in the picture."""
    mask = step.picture.marks == at
    if not mask.any():
        return False
    above = np.zeros_like(mask)
    above[:-1] = mask[1:]
    return bool((above & (step.picture.marks == SKY)).any())
