"""Plans of a day that files may belong to when nothing was ticked: field cards, and shots planned without one."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from sqlalchemy import DateTime, cast, select
from sqlalchemy.orm import Session

from ...core.field.recorded import RecordedPlan, recorded_plan
from ...core.planning.light.promise import promise_of_light
from ...core.planning.plan.shot_plan import plan_shot
from ...store.log import LogEntry
from ...store.photographer import Photographer
from ...store.recorded_plans import plan_of_card
from ...store.shots import FieldCard, Shot
from ..accounts.promise_weights import weights_of
from ..shots.cards import plan_picture
from ..shots.facts import shot_facts

# Planning takes time, so at most this many shots of a day are planned.
_MOST_SHOTS = 60


@dataclass(frozen=True)
class PlanOfDay:
    """A shot and the record of its plan, which has a time."""

    shot: Shot
    record: RecordedPlan

    @property
    def starts_utc(self) -> datetime:
        starts = self.record.starts_utc
        assert starts is not None
        return starts


def plans_between(session: Session, owner_id: int, first: datetime, last: datetime) -> list[PlanOfDay]:
    """Return plans that begin within a span and are in no log entry: the newest card of a shot and time, else the shot
    as planned now.
    """
    query = select(LogEntry.shot_id, LogEntry.planned["start_utc"].as_string()).where(
        LogEntry.owner_id == owner_id,
        LogEntry.taken_at_utc.between(first - timedelta(days=1), last + timedelta(days=1)),
    )
    logged = {(shot_id, starts) for shot_id, starts in session.execute(query)}
    found = [*_of_cards(session, owner_id, first, last), *_of_shots(session, owner_id, first, last)]
    newest: dict[tuple[int, str | None], PlanOfDay] = {}
    for plan in found:
        at = (plan.shot.id, plan.record.start_utc)
        if at not in logged:
            newest.setdefault(at, plan)
    return list(newest.values())


def plan_of(session: Session, owner_id: int, shot: Shot, near: datetime) -> PlanOfDay | None:
    """Return the plan of a shot nearest to a time: from its cards, or as planned now; None without frames."""
    cards = [
        PlanOfDay(shot, plan)
        for card in reversed(shot.cards)
        if (plan := plan_of_card(card)) is not None and plan.start_utc
    ]
    if cards:
        return min(cards, key=lambda plan: abs(plan.starts_utc - near))
    return _as_planned(session, owner_id, shot)


def _of_cards(session: Session, owner_id: int, first: datetime, last: datetime) -> list[PlanOfDay]:
    starts = FieldCard.run["record"]["start_utc"].as_string()
    query = (
        select(FieldCard)
        .join(Shot)
        .where(Shot.owner_id == owner_id, cast(starts, DateTime(timezone=True)).between(first, last))
        .order_by(FieldCard.id.desc())
    )
    return [
        PlanOfDay(session.get_one(Shot, card.shot_id), plan)
        for card in session.scalars(query)
        if (plan := plan_of_card(card)) is not None
    ]


def _of_shots(session: Session, owner_id: int, first: datetime, last: datetime) -> list[PlanOfDay]:
    begins = Shot.__table__.c.time_utc
    query = (
        select(Shot)
        .where(Shot.owner_id == owner_id, Shot.archived.is_(False), begins.between(first, last))
        .order_by(Shot.id)
        .limit(_MOST_SHOTS)
    )
    found = (_as_planned(session, owner_id, shot) for shot in session.scalars(query))
    return [plan for plan in found if plan is not None]


def _as_planned(session: Session, owner_id: int, shot: Shot) -> PlanOfDay | None:
    facts = shot_facts(session, shot)
    plan = plan_shot(facts)
    if not plan.sequence.frames or facts.light.time_utc is None:
        return None
    promise = promise_of_light(facts, plan.light, weights_of(session.get_one(Photographer, owner_id)))
    return PlanOfDay(shot, replace(recorded_plan(facts, plan, promise), picture=plan_picture(facts, plan)))
