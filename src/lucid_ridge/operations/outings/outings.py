"""Outings: creating and editing them, and their current plan."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import TypeVar

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from ...core.facts import outing as core
from ...core.facts.declaring import facts_of
from ...core.facts.outing import MOST_STOPS, StopKind
from ...core.light.day import LightBand
from ...core.outing.packing import Item, packing_list
from ...core.outing.plan import OutingPlan
from ...core.outing.plan_b import PlanB, plan_b
from ...core.outing.plan_with_shots import AtVisit, plan_with_shots
from ...core.outing.stop_facts import SCOUTING_MIN, StopFacts
from ...core.outing.stop_windows import Days
from ...core.planning.light.plan import day_of_light
from ...store.outings import Outing, OutingStop
from ...store.photographer import Photographer
from ...store.places import Location
from ...store.shots import Shot
from ..accounts.promise_weights import weights_of
from ..platform.errors import NotFound, Refused
from ..platform.journal import delete_with_references, journaled
from ..platform.rows import LARGEST_ID, assign, owned
from .stops import place_stop, shot_stop, stop_facts

LIST_SCOPE = "outings"


def outing_scope(outing_id: int) -> str:
    return f"outing:{outing_id}"


@dataclass(frozen=True)
class OutingView:
    """An outing with its plan, packing list, plan B, and the facts of its stops in listed order.

    bands: the light of its days at the first place. at_visits: facts and plan of each shot at its visit, by the index
    of its stop.
    """

    row: Outing
    facts: core.Outing
    stops: tuple[StopFacts, ...]
    plan: OutingPlan
    packing: tuple[Item, ...]
    plans_b: tuple[PlanB, ...]
    bands: tuple[LightBand, ...]
    at_visits: Mapping[int, AtVisit]


def all_outings(session: Session, owner_id: int) -> Sequence[Outing]:
    """Return the owner's outings, next first."""
    return session.scalars(
        select(Outing).where(Outing.owner_id == owner_id).order_by(Outing.date_local.desc(), Outing.id)
    ).all()


def add_outing(session: Session, owner_id: int, values: Mapping[str, object]) -> Outing:
    """Create an outing."""
    with journaled(session, owner_id, LIST_SCOPE, f"new outing {values['name']}"):
        row = Outing(owner_id=owner_id, **values)
        session.add(row)
        session.flush()
    return row


def edit_outing(session: Session, owner_id: int, outing_id: int, changes: Mapping[str, object]) -> Outing:
    """Edit an outing: declared facts, what is packed, and own items."""
    row = owned(session, owner_id, Outing, outing_id)
    labels = {name: item.label for name, item in facts_of(core.Outing).items()} | {
        "packed": "packing list",
        "own_items": "packing list",
    }
    with journaled(
        session,
        owner_id,
        outing_scope(row.id),
        f"change {', '.join(dict.fromkeys(labels[name] for name in changes)) or 'nothing'}",
    ):
        assign(row, changes)
    return row


def delete_outing(session: Session, owner_id: int, outing_id: int) -> None:
    """Delete an outing; its shots and places stay."""
    row = owned(session, owner_id, Outing, outing_id)
    with journaled(session, owner_id, LIST_SCOPE, f"delete {row.name}"):
        delete_with_references(session, row)


def add_stop(session: Session, owner_id: int, outing_id: int, values: Mapping[str, object]) -> OutingStop:
    """Add a stop at the end. Raises Refused for a shot without a place, or for too many stops."""
    row = owned(session, owner_id, Outing, outing_id)
    kind = values.get("kind", StopKind.SHOT)
    shot_id, location_id = values.get("shot_id"), values.get("location_id")
    if kind == StopKind.SHOT and shot_id is None:
        raise Refused("shot_id", "Choose the shot that is taken there.")
    if kind == StopKind.SCOUTING and location_id is None:
        raise Refused("location_id", "Choose the place that is scouted.")
    if len(row.stops) >= MOST_STOPS:
        raise Refused("kind", f"An outing has {MOST_STOPS} stops at most.")
    shot = _found("shot_id", session, owner_id, Shot, shot_id) if kind == StopKind.SHOT else None
    location = _found("location_id", session, owner_id, Location, location_id) if kind == StopKind.SCOUTING else None
    if shot is not None and shot.viewpoint is None:
        raise Refused("shot_id", f"{shot.name} has no place yet: choose one first.")
    name = shot.name if shot is not None else location.name if location is not None else "a rest"
    with journaled(session, owner_id, outing_scope(row.id), f"add {name}"):
        plain = {key: value for key, value in values.items() if key not in ("shot_id", "location_id")}
        last = session.scalar(select(func.max(OutingStop.position)).where(OutingStop.outing_id == row.id))
        made = OutingStop(**plain, position=(last or 0) + 1, shot=shot, location=location)
        row.stops.append(made)
        session.flush()
    return made


Kind = TypeVar("Kind", Shot, Location)


def _found(name: str, session: Session, owner_id: int, kind: type[Kind], row_id: object) -> Kind:
    assert isinstance(row_id, int)
    try:
        return owned(session, owner_id, kind, row_id)
    except NotFound as error:
        raise Refused(name, error.message) from error


def stop_of(session: Session, owner_id: int, stop_id: int) -> OutingStop:
    """Return a stop of one of the owner's outings. Raises NotFound."""
    query = select(OutingStop).join(Outing).where(OutingStop.id == stop_id, Outing.owner_id == owner_id)
    row = session.scalars(query).first() if stop_id <= LARGEST_ID else None
    if row is None:
        raise NotFound("stop")
    return row


def edit_stop(session: Session, owner_id: int, stop_id: int, changes: Mapping[str, object], move: int = 0) -> Outing:
    """Edit a stop, or move it by a number of positions; the list is then kept in order."""
    row = stop_of(session, owner_id, stop_id)
    outing = owned(session, owner_id, Outing, row.outing_id)
    labels = {name: item.label for name, item in facts_of(core.OutingStop).items()}
    words = ", ".join(labels[name] for name in changes) or "order of the stops"
    with journaled(session, owner_id, outing_scope(outing.id), f"change {words}"):
        assign(row, changes)
        if move:
            order = list(outing.stops)
            at = order.index(row)
            order.insert(min(len(order) - 1, max(0, at + move)), order.pop(at))
            for position, stop in enumerate(order, start=1):
                stop.position = position
            outing.stop_order = core.StopOrder.PINNED
        session.flush()
    session.expire(outing, ["stops"])
    return outing


def delete_stop(session: Session, owner_id: int, stop_id: int) -> Outing:
    """Remove a stop from its outing."""
    row = stop_of(session, owner_id, stop_id)
    outing = owned(session, owner_id, Outing, row.outing_id)
    with journaled(session, owner_id, outing_scope(outing.id), "take a stop out"):
        outing.stops.remove(row)
        session.delete(row)
        session.flush()
    return outing


def see_outing(session: Session, owner_id: int, outing_id: int, now_utc: datetime) -> OutingView:
    """Return an outing as planned now. Raises NotFound."""
    row = owned(session, owner_id, Outing, outing_id)
    facts = outing_facts(row)
    dates = [row.date_local + timedelta(days=turn) for turn in range(row.days)]
    days = Days(dates, now_utc, weights_of(session.get_one(Photographer, owner_id)))
    stops = tuple(stop_facts(session, owner_id, stop, days) for stop in row.stops)
    plan, stops, at_visits = plan_with_shots(facts, stops)
    plans_b = tuple(
        plan_b(facts, stops, plan, at, _other_stop(session, owner_id, stop, item, days))
        for at, (stop, item) in enumerate(zip(row.stops, stops, strict=True))
        if item.facts is not None and item.facts.plan_b is not None
    )
    plans = [at_visits[at].plan if at in at_visits else None for at in range(len(stops))]
    packing = packing_list(facts, plan, stops, plans, row.own_items)
    return OutingView(
        row=row,
        facts=facts,
        stops=stops,
        plan=plan,
        packing=packing,
        plans_b=plans_b,
        bands=_bands(plan, stops, dates),
        at_visits=at_visits,
    )


def _bands(plan: OutingPlan, stops: Sequence[StopFacts], dates: Sequence[date]) -> tuple[LightBand, ...]:
    """Return the light for each day of the outing, including the following night, at its first stop."""
    listed = [stops[at].facts for at in plan.order or range(len(stops))]
    here = next((facts.location for facts in listed if facts is not None), None)
    if here is None:
        return ()
    return tuple(band for day in (*dates, dates[-1] + timedelta(days=1)) for band in day_of_light(here, day).bands)


def _other_stop(session: Session, owner_id: int, stop: OutingStop, item: StopFacts, days: Days) -> StopFacts | None:
    """Return the stop of plan B in a stop's place; None without one.

    A place without shots is visited by daylight, for as long as the shot would take.
    """
    if stop.shot is None:
        return None
    light = stop.shot.light
    other = session.get(Shot, light.plan_b_shot_id) if light.plan_b_shot_id is not None else None
    if other is not None and other.viewpoint is not None:
        return shot_stop(session, core.OutingStop(worth=item.said.worth), other, days)
    location = session.get(Location, light.plan_b_location_id) if light.plan_b_location_id is not None else None
    if location is None:
        return None
    said = core.OutingStop(StopKind.SCOUTING, worth=item.said.worth, minutes=max(SCOUTING_MIN, item.lasts_s / 60))
    return place_stop(session, owner_id, said, location, location.name, days)


def outing_facts(row: Outing) -> core.Outing:
    """Return a row as the core's outing."""
    return core.Outing(**{name: getattr(row, name) for name in facts_of(core.Outing)})
