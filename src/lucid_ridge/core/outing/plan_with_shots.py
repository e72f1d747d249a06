"""An outing together with the plan of each of its shots at the time of its visit."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from ..facts.outing import Outing, StopKind
from ..facts.shot import ShotFacts
from ..planning.plan.shot_plan import ShotPlan, plan_shot
from ..planning.reasons import Reason, worst_mark
from ..planning.verdicts import FAILS
from ..spans.instants import zone_info
from ..units.spelling import LocalTime
from .at_visit import facts_at
from .plan import OutingPlan, plan_outing
from .reasons import of_stop, says_that_all_fit
from .stop_facts import StopFacts
from .stop_windows import held_for

# Frames that take this much longer than assumed change the outing's times [s].
_LONGER_S = 30.0


@dataclass(frozen=True)
class AtVisit:
    """A shot at the time of its visit: its facts and its plan then."""

    begins_utc: datetime
    facts: ShotFacts
    plan: ShotPlan


def plan_with_shots(
    outing: Outing, stops: tuple[StopFacts, ...]
) -> tuple[OutingPlan, tuple[StopFacts, ...], dict[int, AtVisit]]:
    """Return an outing's plan, and the plan of each of its shots at the time of its visit.

    Frames take as long as the light of that time needs. If that is longer than assumed, the outing is planned once more
    with it. If exposure or sequence fail at that time, a reason says so, and no more time is planned for them.
    """
    plan = plan_outing(outing, stops)
    at_visits = _at_visits(plan, stops)
    longer = {
        at: total
        for at, item in at_visits.items()
        if not _failures(item) and (total := item.plan.sequence.total_s or 0.0) > stops[at].lasts_s + _LONGER_S
    }
    if longer:
        stops = tuple(
            replace(item, lasts_s=longer[at], windows=held_for(item, longer[at])) if at in longer else item
            for at, item in enumerate(stops)
        )
        plan = plan_outing(outing, stops)
        at_visits = _at_visits(plan, stops)
    return _with_failures(plan, stops, {at: _failures(item) for at, item in at_visits.items()}), stops, at_visits


def _failures(visit: AtVisit) -> list[Reason]:
    """Return the first failure of a shot's exposure or sequence at its time; frames that outlast the light count as a
    reason of the light.
    """
    return [
        reason
        for reason in visit.plan.because
        if reason.severity == FAILS and reason.step in ("exposure", "sequence") and reason.code != "sequence.fit"
    ][:1]


def _at_visits(plan: OutingPlan, stops: Sequence[StopFacts]) -> dict[int, AtVisit]:
    found = {}
    for visit in plan.visits:
        item = stops[visit.stop.at]
        if item.said.kind == StopKind.SHOT and item.facts is not None:
            begins = plan.at(visit.begin_s)
            then = facts_at(item.facts, begins)
            found[visit.stop.at] = AtVisit(begins, then, plan_shot(then))
    return found


def _with_failures(
    plan: OutingPlan, stops: Sequence[StopFacts], failures: Mapping[int, Sequence[Reason]]
) -> OutingPlan:
    """Return a plan with the failures of its shots at their times, by the index of their stop."""
    more = [
        of_stop(stops[at].name, reason, _begins(plan, stops[at], at))
        for at, reasons in failures.items()
        for reason in reasons
    ]
    if not more:
        return plan
    kept = [reason for reason in plan.reasons if not says_that_all_fit(reason)]
    marks = {**plan.marks, **{at: FAILS for at, reasons in failures.items() if reasons}}
    return replace(plan, reasons=(*more, *kept), mark=worst_mark([*more, *kept]), marks=marks)


def _begins(plan: OutingPlan, item: StopFacts, at: int) -> LocalTime:
    begins = plan.begins_utc(at)
    assert begins is not None and item.facts is not None
    return LocalTime(begins.astimezone(item.facts.zone), plan.start_utc.astimezone(zone_info(plan.zone)).date())
