"""Step 5, ways to hold sky and land: a graduated filter, a bracket, two frames, or one for the highlights, side by
side with what each costs.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from ...errors import InputError
from ...exposure.bracketing import HIGHLIGHT_ROOM_STOPS, plan_bracket
from ...exposure.exposure_sets import times_around_s
from ...facts.choices import BracketMode
from ...facts.filters import Filter
from ...facts.kit import Body
from ...facts.shot import ShotFacts
from ...framing.solids import BROAD, FLAT
from ...tones.picture import SKY
from ..exposure.plan import ExposureStep
from ..exposure.tonal_range import SceneRange, scene_range
from ..sequence.timeline import filter_change_s
from .plan import TonesStep, tone_range_ev
from .reasons import nearest_graduated, needed_graduated_stops

# Shadows lifted by more than this show their noise (common practice).
_LIFT_STOPS = 3.0
_READ_FIRST = "read the highlights first; "


@dataclass(frozen=True, kw_only=True)
class SkyWay:
    """A way to hold sky and land.

    bracket, bracket_count and filters: the shot's values once it is taken; chosen: they are set now.

    frames and total_s: its cost; holds: whether all tones are within the range; risk: what may go wrong.
    """

    name: str
    bracket: BracketMode
    filters: tuple[Filter, ...]
    frames: int
    total_s: float
    holds: bool
    risk: str
    chosen: bool
    bracket_count: int | None = None


def sky_ways(facts: ShotFacts, exposure: ExposureStep, step: TonesStep) -> tuple[SkyWay, ...]:
    """Return the ways, by the tones as they are predicted or read; empty without a sky in the frame or an exposure."""
    body, shutter = facts.body, exposure.shutter_s
    sky = step.picture.marks == SKY
    if body is None or shutter is None or not sky.any() or sky.all():
        return ()
    low, high = tone_range_ev(step.bare_ev)
    fits = high - low <= step.held_stops
    # What cancels in the range, filters on all of it, is left out.
    span = scene_range(replace(facts, filters=_with_graduated(facts, None)), 0.0, metered=not exposure.predicted)
    first = "" if span.highlight_ev is not None else _READ_FIRST
    lifted = max(0.0, high - step.middle_ev - HIGHLIGHT_ROOM_STOPS)
    noisy = ": noise" if lifted > _LIFT_STOPS else ""
    return (
        *_graduated(facts, step, shutter),
        *_bracket(facts, body, step, shutter, span),
        _way(
            facts,
            "land and sky, blended",
            BracketMode.LAND_AND_SKY,
            2,
            shutter * (1 + 2.0**-lifted) + 2 * body.write_s,
            fits,
            f"{first}a mask along the skyline, by hand",
        ),
        _way(
            facts,
            "one, for the highlights",
            BracketMode.HIGHLIGHTS,
            1,
            shutter * 2.0**-lifted,
            fits and not noisy,
            f"{first}land lifted by {lifted:.1f} stops afterwards{noisy}",
        ),
    )


def _way(
    facts: ShotFacts, name: str, bracket: BracketMode, frames: int, total_s: float, holds: bool, risk: str
) -> SkyWay:
    bare = _with_graduated(facts, None)
    return SkyWay(
        name=name,
        bracket=bracket,
        filters=bare,
        frames=frames,
        total_s=total_s,
        holds=holds,
        risk=risk,
        chosen=facts.exposure.bracket == bracket and bare == facts.filters,
    )


def _graduated(facts: ShotFacts, step: TonesStep, shutter_s: float) -> tuple[SkyWay, ...]:
    """Return the way by the filter of the bag that comes nearest to what the sky asks for; empty without one."""
    best = nearest_graduated(facts, needed_graduated_stops(step) or 0.0)
    if best is None:
        return ()
    low, high = tone_range_ev(step.bare_ev - np.where(step.picture.marks == SKY, best.stops, 0.0))
    through = [
        item.name
        for at, item in enumerate(facts.elements)
        if item.shape not in (*BROAD, *FLAT) and _meets_the_sky(step, at)
    ]
    risk = f"darkens {' and '.join(through)} at the top" if through else "its edge must lie on the skyline"
    on = _with_graduated(facts, best.id)
    chosen = facts.exposure.bracket == BracketMode.NONE and on == facts.filters
    return (
        SkyWay(
            name=best.name,
            bracket=BracketMode.NONE,
            filters=on,
            frames=1,
            total_s=shutter_s + filter_change_s(facts),
            holds=high - low <= step.held_stops,
            risk=risk,
            chosen=chosen,
        ),
    )


def _bracket(facts: ShotFacts, body: Body, step: TonesStep, shutter_s: float, span: SceneRange) -> tuple[SkyWay, ...]:
    """Return the way by a bracket: over the range where that was read, else around the reading in as many frames;
    empty where one frame holds it all.
    """
    said = facts.exposure
    ranged = span.stops is not None
    ends = (
        (span.shadow_ev, span.highlight_ev)
        if span.shadow_ev is not None and span.highlight_ev is not None
        else tone_range_ev(step.bare_ev)
    )
    try:
        count = plan_bracket(*ends, step.held_stops, said.bracket_step_ev, said.highlight_margin_ev).count
    except InputError:
        return ()
    if count < 2:
        return ()
    times = times_around_s(shutter_s, count, said.bracket_step_ev, body.slowest_shutter_s)
    risk = (
        "what moves is in each frame elsewhere"
        if any(item.moves_mps for item in facts.elements)
        else "frames must fit each other: tripod"
    )
    mode = BracketMode.RANGE if ranged else BracketMode.AROUND
    made = _way(
        facts,
        f"bracket {'over the range' if ranged else 'around the reading'}",
        mode,
        count,
        math.fsum(times) + body.write_s * count,
        True,
        risk,
    )
    if ranged:
        return (made,)
    return (replace(made, bracket_count=count, chosen=made.chosen and said.bracket_count == count),)


def _with_graduated(facts: ShotFacts, filter_id: int | None) -> tuple[Filter, ...]:
    """Return the bag with one graduated filter on the lens, or none."""
    return tuple(replace(item, on_lens=item.id == filter_id) if item.kind.graduates else item for item in facts.filters)


def _meets_the_sky(step: TonesStep, at: int) -> bool:
    """Whether an element stands against the sky in the picture."""
    mask = step.picture.marks == at
    above = np.zeros_like(mask)
    above[:-1] = mask[1:]
    return bool((above & (step.picture.marks == SKY)).any())
