"""What becomes of an outing when one of its shots is given up for its plan B."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..facts.outing import Outing
from ..planning.reasons import Reason, worst_mark
from ..planning.verdicts import FAILS, TIGHT, UNSAID, Severity
from ..planning.weather.plan_b import plan_b_reasons, trigger_of
from .at_visit import facts_at
from .day_clock import place_after
from .made_stops import limits_of
from .plan import Onwards, OutingPlan, plan_outing
from .stop_facts import StopFacts
from .visits import Visit


@dataclass(frozen=True)
class PlanB:
    """A plan B. at: index of the stop that is given up.

    trigger: the other place and the condition. decided_utc: None while no time is set.

    plan: the outing with the other stop in its place, None if that has no plan or the stop is not in the plan; stops
    that have begun by then stay. mark: verdict on going there, ○ while no time is set or nothing is planned. minded:
    stops left out, late or tight because of it.
    """

    at: int
    trigger: Reason
    decided_utc: datetime | None
    name: str
    plan: OutingPlan | None
    mark: Severity
    minded: tuple[Reason, ...]


def plan_b(outing: Outing, stops: Sequence[StopFacts], plan: OutingPlan, at: int, other: StopFacts | None) -> PlanB:
    """Return the outing under a stop's plan B.

    plan: the outing as it stands; other: what replaces the stop, None if its place is unknown.

    Raises ValueError for a stop without a plan B.
    """
    facts = stops[at].facts
    if facts is None or facts.plan_b is None:
        raise ValueError(f"{stops[at].name} has no plan B")
    visit = next((visit for visit in plan.visits if visit.stop.at == at), None)
    begins = plan.start_utc + timedelta(seconds=visit.begin_s) if visit is not None else None
    # It is decided on the day on which the outing comes there, whatever day the shot was planned for.
    untimed = facts.choosing(date_local=outing.date_local, time_utc=None, window_end_utc=None)
    on_day = facts_at(facts, begins) if begins is not None else untimed
    (said,) = plan_b_reasons(on_day)
    trigger = trigger_of(on_day)
    decided = trigger.moment_utc if trigger is not None else None
    if other is None or visit is None:
        return PlanB(at, said, decided, facts.plan_b.name, None, UNSAID, ())
    changed = [other if index == at else stop for index, stop in enumerate(stops)]
    then = plan_outing(outing, changed, _onwards(outing, stops, plan, visit, decided))
    minded = tuple(
        reason for reason in then.reasons if reason.severity in (FAILS, TIGHT, UNSAID) and reason not in plan.reasons
    )
    mark = worst_mark(list(minded)) if decided is not None or minded else UNSAID
    return PlanB(at, said, decided, facts.plan_b.name, then, mark, minded)


def _onwards(
    outing: Outing, stops: Sequence[StopFacts], plan: OutingPlan, given_up: Visit, decided_utc: datetime | None
) -> Onwards:
    """Return from where one goes to plan B: from the stop one is at when it is decided, after that is done; from home
    before any has begun.

    Without a moment it is decided before the way to the stop. Who is on the way somewhere counts as still where the
    way began.
    """
    before = plan.visits[: plan.visits.index(given_up)]
    decided = (decided_utc - plan.start_utc).total_seconds() if decided_utc is not None else None
    begun = tuple(
        visit for visit in before if decided is None or visit.arrive_s <= decided or stops[visit.stop.at].said.done
    )
    leave = begun[-1].leave_s if begun else limits_of(outing, plan.start_utc, plan.zone).leave_s + 60 * outing.late_min
    here = given_up.stop.place if decided is not None and given_up.arrive_s <= decided else place_after(begun)
    return Onwards(begun, here, leave if decided is None else max(leave, decided))
