"""Reasons about everything that moves: whether each looks as wanted, and what would help."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ...exposure.moving_things import MotionWish
from ...exposure.passing import UNSEEN_SHARE, covered_share, empty_chance, frames_needed
from ...facts.choices import BracketMode
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ..reasons import Reason
from ..verdicts import HOLDS, TIGHT
from ..weather.simulated import by_forecast
from . import wording as say
from .movers import Mover, Told, must_be_frozen
from .water import WantedTime

# Where a wish has no longest time, plan with up to this many times the shortest.
_ENOUGH = 4.0
_DRAWN_FROM_S = 1.0


@dataclass(frozen=True)
class Aim:
    """The shutter times that give every wish, as far as one time can. missed: movers whose wish is left out."""

    wanted: WantedTime | None
    missed: tuple[Mover, ...] = ()


def aim_of(facts: ShotFacts, wanted: WantedTime | None, moving: Sequence[Mover]) -> Aim:
    """Return the shutter times to aim at: those of the main wish, narrowed by each further wish that leaves some."""
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
    return Aim(
        WantedTime(low, high if math.isfinite(high) else low * _ENOUGH, wanted.look if wanted is not None else None),
        tuple(missed),
    )


def mover_reasons(
    facts: ShotFacts,
    settings: Settings,
    moving: tuple[Mover, ...],
    aim: Aim,
    shutter_s: float,
    frozen: tuple[frozenset[int | None], float] | None,
    by_flash: bool = False,
) -> list[Reason]:
    """Return the reasons about secondary wishes, smeared subjects that must be sharp, and motion by the wind.

    frozen: ids of the movers with a short frame of their own, and its time [s]. by_flash: a flash alone lights the
    picture, so its burst is the exposure time.
    """
    if by_flash:
        wished = tuple(item.name for item in moving if item.wish is not None and not item.sets_shutter)
        not_judged = [say.not_judged_with_flash(elements=wished).unsaid("motion_wishes")] if wished else []
        return [*not_judged, *_unjudged(facts, moving)]
    still, short_s = frozen if frozen is not None else (frozenset[int | None](), shutter_s)
    found = []
    for item, longest in must_be_frozen(facts, moving):
        if item.wish is None and shutter_s > longest and item.id not in still:
            smears = [_smears(item, shutter_s / longest, longest, shutter_s)]
            found += by_forecast(facts, smears) if item.told == Told.WIND else smears
    for item in moving:
        of_it = []
        if item.wish is None:
            of_it += _unasked(facts, settings, item, shutter_s)
        elif item.wish == MotionWish.GONE:
            of_it.append(_gone(item, shutter_s))
        elif not item.sets_shutter:
            of_it.append(_look(item, short_s if item.id in still else shutter_s, aim))
        of_it += _passing(item, shutter_s)
        found += by_forecast(facts, of_it) if item.told == Told.WIND else of_it
    return found + _unjudged(facts, moving)


def _smears(item: Mover, times_limit: float, freezes_s: float, shutter_s: float) -> Reason:
    words = say.smears(
        element=item.name, speed_mps=item.speed_mps, times_limit=times_limit, shutter_s=shutter_s, freezes_s=freezes_s
    )
    return words.fails("bracket")


def _look(item: Mover, shutter_s: float, aim: Aim) -> Reason:
    """Return whether a mover has the look wanted for it.

    A miss by something the forecast moves is never certain, so it only counts as tight.
    """
    wanted = item.wanted
    assert wanted is not None
    mark, error = wanted.mark_of(shutter_s), wanted.error_stops(shutter_s)
    if mark == HOLDS:
        return say.look_as_wanted(element=item.name, shutter_s=shutter_s, wanted=wanted.words).holds("motion_wishes")
    blown, second = item.told == Told.WIND, ""
    if item in aim.missed:
        frozen = item.wish == MotionWish.FROZEN
        second = "two frames, one frozen and one long, blended" if frozen else "a second frame for it, blended"
    words = say.look_missed(
        element=item.name, wind=blown, shutter_s=shutter_s, wanted=wanted.words, error_stops=error, second_frame=second
    )
    return words.reason(TIGHT if blown else mark, "bracket" if second else "motion_wishes")


def _gone(item: Mover, shutter_s: float) -> Reason:
    """Return whether a long time makes passers-by vanish."""
    if item.covering_s is None or item.crossing_s is None:
        return say.does_not_pass(element=item.name).unsaid("motion_wishes")
    rate, wanted = item.passing_per_s, item.wanted
    if rate is None:
        return say.no_rate(element=item.name).unsaid("elements")
    chance, frames = _alone(item, rate)
    if wanted is None:
        return say.never_vanish(element=item.name, empty_chance=chance, frames=frames).fails("elements")
    mark = wanted.mark_of(shutter_s)
    if mark == HOLDS:
        share = covered_share(rate, item.covering_s, shutter_s)
        words = say.vanish(element=item.name, shutter_s=shutter_s, covered_share=share, unseen_share=UNSEEN_SHARE)
    else:
        words = say.ghosts(
            element=item.name, shutter_s=shutter_s, from_s=wanted.from_s, empty_chance=chance, frames=frames
        )
    return words.reason(mark, "motion_wishes")


def _alone(item: Mover, rate: float) -> tuple[float | None, int]:
    """Return the chance that a short frame is empty, and how many frames give an empty one nine times in ten.

    The chance is None where it is as good as certain or as good as impossible.
    """
    assert item.crossing_s is not None
    chance = empty_chance(rate, item.crossing_s, 0.0)
    return (None, 0) if chance >= 0.995 or chance <= 1e-6 else (chance, math.ceil(frames_needed(chance)))


def _passing(item: Mover, shutter_s: float) -> list[Reason]:
    """Return how likely a passer-by wanted in the picture is in it."""
    rate = item.passing_per_s
    if not rate or item.crossing_s is None or item.wish == MotionWish.GONE:
        return []
    chance = 1 - empty_chance(rate, item.crossing_s, shutter_s)
    # With fewer than one a day there is nothing to plan with.
    wait = 1 / rate
    if chance >= 0.95 or wait > 86_400:
        return []
    words = say.passing(element=item.name, chance=chance, frames=math.ceil(frames_needed(chance)), every_s=wait)
    return [words.holds("elements")]


def _unasked(facts: ShotFacts, settings: Settings, item: Mover, shutter_s: float) -> list[Reason]:
    """Return the reasons about motion by the wind without a wish: plants that must be sharp, and clouds in long
    exposures.
    """
    if item.told != Told.WIND or facts.body is None:
        return []
    if item.element is None:
        if shutter_s < _DRAWN_FROM_S or item.away_m is None:
            return []
        short = min(facts.body.sensor_width_mm, facts.body.sensor_height_mm)
        streak = item.streak_mm_per_s * shutter_s
        words = say.clouds_drawn(
            away_m=item.away_m, frame_share=streak / short, shutter_s=shutter_s, look=item.look_in(shutter_s) or ""
        )
        return [words.holds("wanted_shutter_s")]
    streak = item.streak_mm_per_s
    if item.id not in facts.sharp_element_ids or streak * shutter_s <= settings.coc_mm or facts.hour is None:
        return []
    words = say.gusts_smear(
        element=item.name,
        gust_mps=facts.hour.gust_mps,
        speed_mps=item.speed_mps,
        times_limit=streak * shutter_s / settings.coc_mm,
        shutter_s=shutter_s,
        freezes_s=settings.coc_mm / streak,
    )
    return [words.tight("elements")]


def _unjudged(facts: ShotFacts, moving: tuple[Mover, ...]) -> list[Reason]:
    """Return reasons for wishes that cannot be judged, since the thing is not known to move."""
    known = {item.id for item in moving}
    found = []
    for element_id, _ in facts.motion_wishes:
        if element_id in known:
            continue
        item = facts.element(element_id)
        if element_id is None:
            found.append(say.clouds_not_judged().unsaid("motion_wishes"))
        elif item is not None:
            found.append(say.not_judged(element=item.name).unsaid("elements"))
    return found
