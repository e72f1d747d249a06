"""The solver's plans as a response body."""

from __future__ import annotations

from ....core.facts.shot import ShotFacts
from ....core.facts.words import choice_words
from ....core.planning.reasons import worst_mark
from ....core.planning.verdicts import Mark
from ....core.solving.solver import PlanKind, Solved
from ....core.solving.space import Candidate
from ....core.solving.wording import concession_words, glass_words, missed_words
from ....core.units.lengths import format_duration
from ....core.units.markings import format_aperture, format_shutter
from ....operations.shots.solutions import SolvedShot
from ..schemas import solution as out
from ..schemas.shots import FilterUseOut

_LACKING = (
    "The solver starts from a body, a lens and light to expose for: a reading, or a time. A flash has "
    "settings of its own, which it does not weigh."
)


def present_solution(found: SolvedShot) -> out.SolutionOut:
    """Return the plans, or the requirements to relax, or the data that are missing."""
    solution, facts = found.solution, found.facts
    if solution is None:
        return out.SolutionOut(
            lacking=_LACKING, judged=0, wishes=[], now=None, plans=[], concessions=[], if_darker=None, if_brighter=None
        )  # fmt: skip
    shown = [solution.best, *solution.others] if solution.best else []
    return out.SolutionOut(
        lacking=None,
        judged=solution.judged,
        wishes=[out.WishOut(goal=wish.goal, name=wish.name, stake=wish.stake) for wish in solution.wishes],
        now=_solved(facts, solution.now),
        plans=[_solved(facts, item) for item in shown],
        concessions=[
            out.ConcessionOut(words=concession_words(item, facts), plan=_solved(facts, item.solved))
            for item in solution.concessions
        ],
        if_darker=_otherwise(solution.best, solution.if_darker),
        if_brighter=_otherwise(solution.best, solution.if_brighter),
    )


def _solved(facts: ShotFacts, item: Solved) -> out.SolvedOut:
    plan, chosen = item.plan, item.candidate
    exposures, depth = plan.exposure.exposures, plan.depth
    steps = (depth, plan.exposure, plan.sequence)
    return out.SolvedOut(
        kind=item.kind,
        takes=_takes(facts, chosen),
        f_number_label=format_aperture(chosen.f_number),
        iso=chosen.iso,
        shutter_label=format_shutter(exposures[plan.exposure.carrying].shutter_s) if exposures else "",
        look=plan.exposure.look,
        filters=glass_words(item),
        focus_words=f"{len(depth.positions)} focus position{'s' if len(depth.positions) != 1 else ''}",
        exposure_words=choice_words(chosen.bracket)
        if len(exposures) < 2
        else f"{choice_words(chosen.bracket)}, {len(exposures)} exposures",
        frames=len(plan.sequence.frames),
        total_label=format_duration(plan.sequence.total_s) if plan.sequence.total_s is not None else "",
        start_clock=facts.clock(chosen.start) if chosen.start is not None else None,
        hold=chosen.hold,
        blur_times=item.blur_times,
        mark=Mark(worst_mark([reason for step in steps for reason in step.reasons])),
        missed=[
            out.MissedOut(goal=wish.goal, words=missed_words(wish, item, facts), must=wish.must)
            for wish, amount in item.missed.items()
            if amount > 0 and plan.sequence.frames
        ],
        changes=[] if item.kind == PlanKind.NOW else _changes(facts, item),
        lets_go=bool(facts.frame_groups),
    )


def _takes(facts: ShotFacts, chosen: Candidate) -> out.TakesOut:
    on = {item.id: item for item in chosen.glass.filters}
    return out.TakesOut(
        f_number=chosen.f_number, iso=chosen.iso, depth_method=chosen.method, bracket=chosen.bracket, hold=chosen.hold,
        filters=[
            FilterUseOut(
                filter_id=item.id, on_lens=item.id in on, on_when_metered=item.on_when_metered,
                set_stops=on[item.id].set_stops if item.id in on else item.set_stops,
            )
            for item in facts.filters
            if item.id in on or item.on_when_metered
        ],
        time_utc=chosen.start if chosen.start != facts.light.time_utc else None,
    )  # fmt: skip


def _changes(facts: ShotFacts, item: Solved) -> list[str]:
    """Return the changes that a plan makes to the shot, in words."""
    chosen, found = item.candidate, []
    if chosen.f_number != facts.depth.f_number:
        found.append(format_aperture(chosen.f_number))
    if chosen.iso != facts.exposure.iso:
        found.append(f"ISO {chosen.iso:g}")
    if chosen.glass.ids != {one.id for one in facts.filters if one.on_lens}:
        found.append(glass_words(item))
    if chosen.method != facts.depth.depth_method:
        found.append(choice_words(chosen.method))
    if chosen.bracket != facts.exposure.bracket:
        found.append(choice_words(chosen.bracket))
    if chosen.hold != facts.frame.hold:
        found.append(f"held by {choice_words(chosen.hold)}")
    if chosen.start is not None and chosen.start != facts.light.time_utc:
        found.append(f"start at {facts.clock(chosen.start)}")
    return found


def _otherwise(best: Solved | None, other: Candidate | None) -> str | None:
    """Return the differences between another candidate and the best."""
    if best is None or other is None:
        return None
    one, found = best.candidate, []
    if other.f_number != one.f_number:
        found.append(format_aperture(other.f_number))
    if other.iso != one.iso:
        found.append(f"ISO {other.iso:g}")
    if other.glass != one.glass:
        found.append(" + ".join(item.name for item in other.glass.filters) or "no filter")
    if other.bracket != one.bracket:
        found.append(choice_words(other.bracket))
    if other.method != one.method:
        found.append(choice_words(other.method))
    return ", ".join(found) or None
