"""Step 5, what is said of everything that moves: whether each looks as it should, and what would do it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ...exposure.moving_things import MotionWish
from ...exposure.passing import UNSEEN_SHARE, covered_share, empty_chance, frames_needed
from ...facts.choices import BracketMode
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...units.markings import format_shutter, spoken_shutter
from ..verdicts import FAILS, HOLDS, TIGHT, UNSAID, Reason
from .movers import Mover, Told, must_be_frozen
from .water import WantedTime

# Of a time without an upper end, so many times the least is enough to plan with.
_ENOUGH = 4.0
_DRAWN_FROM_S = 1.0


@dataclass(frozen=True)
class Aim:
    """The times that give all that is wished, as far as one time can. missed: whose wish it leaves out."""

    wanted: WantedTime | None
    missed: tuple[Mover, ...] = ()


def aim_of(facts: ShotFacts, wanted: WantedTime | None, moving: Sequence[Mover]) -> Aim:
    """Return the shutter times to aim at: those of the main wish, narrowed by each other wish that leaves some."""
    low, high = (wanted.from_s, wanted.to_s) if wanted is not None else (0.0, math.inf)
    missed, narrowed = [], False
    for item in moving:
        times = None if item.main and wanted is not None else item.wanted
        if times is None or (item.wish == MotionWish.FROZEN and facts.exposure.bracket == BracketMode.FROZEN_AND_LONG):
            continue
        if max(low, times.from_s) <= min(high, times.to_s):
            low, high, narrowed = max(low, times.from_s), min(high, times.to_s), True
        else:
            missed.append(item)
    if not narrowed:
        return Aim(wanted, tuple(missed))
    return Aim(WantedTime(low, high if math.isfinite(high) else low * _ENOUGH, wanted.look if wanted is not None else None), tuple(missed))


def mover_reasons(
    facts: ShotFacts,
    settings: Settings,
    moving: tuple[Mover, ...],
    aim: Aim,
    shutter_s: float,
    frozen: tuple[frozenset[int | None], float] | None,
    by_flash: bool = False,
) -> list[Reason]:
    """Return what each wish beside the main one comes to in shutter_s, what must be sharp and smears, and what the wind moves unasked.

    frozen: whom a frame of their own freezes, and its time [s]. by_flash: a flash alone lights the picture, and its burst is the time.
    """
    if by_flash:
        wished = [item.name for item in moving if item.wish is not None and not item.sets_shutter]
        text = f"The flash alone lights the picture: what {' and '.join(wished)} will look like in its burst is not judged."
        return [*([Reason("exposure", UNSAID, text, "motion_wishes")] if wished else []), *_unjudged(facts, moving)]
    still, short_s = frozen if frozen is not None else (frozenset[int | None](), shutter_s)
    found = []
    for item, longest in must_be_frozen(facts, moving):
        if item.wish is None and shutter_s > longest and item.id not in still:
            found.append(_smears(item, shutter_s / longest, longest, shutter_s))
    for item in moving:
        if item.wish is None:
            found += _unasked(facts, settings, item, shutter_s)
        elif item.wish == MotionWish.GONE:
            found.append(_gone(item, shutter_s))
        elif not item.sets_shutter:
            found.append(_look(item, short_s if item.id in still else shutter_s, aim))
        found += _passing(item, shutter_s)
    return found + _unjudged(facts, moving)


def _smears(item: Mover, times: float, freezes_s: float, shutter_s: float) -> Reason:
    text = (
        f"{item.name} must be sharp and at {item.speed_mps:.3g} m/s smears over {max(1.1, times):.{0 if times >= 9.95 else 1}f}× the limit in {spoken_shutter(shutter_s)}: "
        f"{format_shutter(freezes_s)} freezes it, or two frames, one frozen and one long."
    )
    return Reason("exposure", FAILS, text, "bracket")


def _look(item: Mover, shutter_s: float, aim: Aim) -> Reason:
    """Return whether something has the look that is wished for it; what the forecast moves is never certain to miss it."""
    wanted, given = item.wanted, spoken_shutter(shutter_s)
    assert wanted is not None
    mark, error = wanted.mark_of(shutter_s), wanted.error_stops(shutter_s)
    if mark == HOLDS:
        return Reason("exposure", HOLDS, f"{item.name}: {given} gives {wanted.words}.", "motion_wishes")
    blown = item.told == Told.WIND
    text = f"{item.name}{' (our own model of the wind)' if blown else ''}: {given} is {abs(error):.1f} stops {'longer' if error > 0 else 'shorter'} than {wanted.words}"
    mark = TIGHT if blown else mark
    if item not in aim.missed:
        return Reason("exposure", mark, f"{text}.", "motion_wishes")
    way = "two frames, one frozen and one long, blended" if item.wish == MotionWish.FROZEN else "a second frame for it, blended"
    return Reason("exposure", mark, f"{text}, and no one time does all that is wished: take {way}.", "bracket")


def _gone(item: Mover, shutter_s: float) -> Reason:
    """Return whether a long time makes what passes vanish."""
    if item.covering_s is None or item.crossing_s is None:
        return Reason(
            "exposure",
            UNSAID,
            f"{item.name} does not pass through the frame: only people, birds, boats and insects can be gone.",
            "motion_wishes",
        )
    rate = item.passing_per_s
    if rate is None:
        return Reason(
            "exposure", UNSAID, f"Say how many of {item.name} pass a minute: how long makes them vanish follows from it.", "elements"
        )
    wanted, alone = item.wanted, _alone(item, rate)
    if wanted is None:
        text = f"So many of {item.name} pass that no time makes them vanish: wait, or take many frames and blend their medians{alone}."
        return Reason("exposure", FAILS, text, "elements")
    mark = wanted.mark_of(shutter_s)
    if mark == HOLDS:
        share = covered_share(rate, item.covering_s, shutter_s)
        text = f"{item.name}: in {spoken_shutter(shutter_s)} one stands before a point for {share:.0%} of the time (gone under {UNSEEN_SHARE:.0%}, our own model); who stands still stays."
    else:
        text = (
            f"{item.name}: {spoken_shutter(shutter_s)} leaves ghosts, gone from {spoken_shutter(wanted.from_s)} on (our own model){alone}."
        )
    return Reason("exposure", mark, text, "motion_wishes")


def _alone(item: Mover, rate: float) -> str:
    """Return, as the end of a sentence, how long to wait for a frame with none of them in it."""
    assert item.crossing_s is not None
    chance = empty_chance(rate, item.crossing_s, 0.0)
    if chance >= 0.995 or chance <= 1e-6:
        return ""
    return f"; a short frame is empty {chance:.0%} of the time, one of {frames_needed(chance):.0f} nine times in ten"


def _passing(item: Mover, shutter_s: float) -> list[Reason]:
    """Return how likely one of what is wanted in the picture is in it."""
    rate = item.passing_per_s
    if not rate or item.crossing_s is None or item.wish == MotionWish.GONE:
        return []
    chance = 1 - empty_chance(rate, item.crossing_s, shutter_s)
    # Where nobody comes for a day there is nothing to count on.
    wait = 1 / rate
    if chance >= 0.95 or wait > 86_400:
        return []
    text = f"{item.name}: one is in {chance:.0%} of the frames, for nine times in ten take {frames_needed(chance):.0f}; one comes every {spoken_shutter(wait)} or so."
    return [Reason("exposure", HOLDS, text, "elements")]


def _unasked(facts: ShotFacts, settings: Settings, item: Mover, shutter_s: float) -> list[Reason]:
    """Return what the wind moves though nobody said so: plants that must be sharp, and clouds in long times."""
    if item.told != Told.WIND or facts.body is None:
        return []
    if item.element is None:
        if shutter_s < _DRAWN_FROM_S or item.away_m is None:
            return []
        short = min(facts.body.sensor_width_mm, facts.body.sensor_height_mm)
        streak = item.streak_mm_per_s * shutter_s
        look = item.look_in(shutter_s)
        text = f"Clouds at some {item.away_m:,.0f} m draw about {streak / short:.0%} of the frame's short side in {spoken_shutter(shutter_s)} (our own model of the wind up there): {look}."
        return [Reason("exposure", HOLDS, text, "wanted_shutter_s")]
    streak = item.streak_mm_per_s
    if item.id not in facts.sharp_element_ids or streak * shutter_s <= settings.coc_mm or facts.hour is None:
        return []
    text = (
        f"Gusts of {facts.hour.gust_mps:.0f} m/s may move {item.name} at {item.speed_mps:.1f} m/s (our own model): {streak * shutter_s / settings.coc_mm:.0f}× the limit in "
        f"{spoken_shutter(shutter_s)}, {format_shutter(settings.coc_mm / streak)} freezes it. Give it the speed you see, or wait for a lull."
    )
    return [Reason("exposure", TIGHT, text, "elements")]


def _unjudged(facts: ShotFacts, moving: tuple[Mover, ...]) -> list[Reason]:
    """Return the wishes that nobody can judge: of what is not seen to move."""
    known = {item.id for item in moving}
    found = []
    for element_id, _ in facts.motion_wishes:
        if element_id in known:
            continue
        item = facts.element(element_id)
        if element_id is None:
            text = "How clouds are drawn out cannot be told: it needs a forecast with some cloud and wind, a tripod, and sky in the frame."
        elif item is None:
            continue
        else:
            text = f"What {item.name} will look like cannot be told: give it a speed, or say what kind of thing moves; plants need a forecast with wind."
        found.append(Reason("exposure", UNSAID, text, "elements" if item else "motion_wishes"))
    return found
