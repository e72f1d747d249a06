"""What a photographer is asked to give way on, as a sentence says it."""

from __future__ import annotations

from ..facts.choices import IN_HAND
from ..facts.shot import ShotFacts
from ..facts.words import choice_words
from ..labels import label_of
from ..units.lengths import format_duration
from ..units.markings import format_aperture, spoken_shutter
from ..units.spelling import percent
from .goals import Goal, Wish
from .solver import Concession, Solved


def concession_words(concession: Concession, before: ShotFacts) -> str:
    """Return a requirement to relax, and by how much."""
    said = [missed_words(wish, concession.solved, before) for wish in concession.released]
    return " and ".join(dict.fromkeys(said))


def missed_words(wish: Wish, solved: Solved, before: ShotFacts) -> str:
    """Return by how much a plan misses a wish, as something to do. before: the shot as it stands."""
    plan, missed = solved.plan, solved.missed[wish]
    exposure, sequence, said = plan.exposure, plan.sequence, before.wishes
    match wish.goal:
        case Goal.SHARP:
            return _soft(solved)
        case Goal.MOTION:
            taken = exposure.exposures[exposure.carrying].shutter_s
            wanted = wish.times.words if wish.times is not None else ""
            return f"accept {spoken_shutter(taken)} for {wish.name} instead of {wanted}"
        case Goal.RANGE:
            return f"give up {missed:.1f} stops of the scene's range"
        case Goal.NOISE:
            return f"accept ISO {max(frame.iso for frame in sequence.frames):g} instead of {said.most_iso:g}"
        case Goal.FRAMES:
            return f"take {len(sequence.frames)} frames instead of {said.most_frames}"
        case Goal.MINUTES:
            return f"take {format_duration(sequence.total_s or 0.0)} for it instead of {said.most_min:g} min"
        case Goal.LIGHT:
            return f"go on for {format_duration(60 * missed)} after {label_of(plan.light.ends_name)} has ended"
        case Goal.CORNERS:
            return f"accept corners that are dark in the outer {percent(missed)} of the half diagonal"
        case Goal.STEADY:
            return (
                f"hold {spoken_shutter(max(item.shutter_s for item in exposure.exposures))} still, "
                f"{missed:.1f} stops longer than the hand does"
            )
        case Goal.TIMES:
            return "take a time that the body does not have"
        case _:
            return _changed_words(wish.goal, solved, before)


def _changed_words(goal: Goal, solved: Solved, before: ShotFacts) -> str:
    """Return the change of a setting that the photographer chose."""
    facts = solved.facts
    match goal:
        case Goal.APERTURE:
            return (
                f"let go of {format_aperture(before.depth.f_number or solved.candidate.f_number)} and take "
                f"{format_aperture(solved.candidate.f_number)}"
            )
        case Goal.ISO:
            return f"let go of ISO {before.exposure.iso or 0:g} and take ISO {solved.candidate.iso:g}"
        case Goal.FILTERS:
            return f"change the filters to {glass_words(solved)}"
        case Goal.HOLD:
            return "hold it by hand" if facts.frame.hold in IN_HAND else f"put it on {choice_words(facts.frame.hold)}"
        case Goal.START:
            here, there = facts.light.time_utc, before.light.time_utc
            if here is None or there is None:
                return "begin at another time"
            return f"{'wait until' if here > there else 'begin earlier, at'} {facts.clock(here)}"
        case _:
            raise ValueError(f"{goal} is no choice of settings")


def _soft(solved: Solved) -> str:
    """Return the subjects that must be sharp and are soft, the worst first, and how soft."""
    soft = sorted(
        (item for item in solved.plan.depth.elements if item.must_be_sharp and item.times_limit > 1),
        key=lambda item: -item.times_limit,
    )
    if soft:
        return f"let {soft[0].name} be soft by {soft[0].times_limit:.1f}×"
    times = solved.blur_times
    return "let it be soft" if times is None else f"let the range be soft by {times:.1f}×"


def glass_words(solved: Solved) -> str:
    """Return the filters on the lens."""
    return (
        " + ".join(
            f"{item.name} at {item.stops:g} stops" if item.stops_max is not None else item.name
            for item in solved.candidate.glass.filters
        )
        or "no filter"
    )
