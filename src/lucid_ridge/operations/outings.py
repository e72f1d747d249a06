"""Outings: making, changing, and their plan as it stands."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import TypeVar

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from ..core.facts import outing as core
from ..core.facts.declaring import facts_of
from ..core.facts.outing import MOST_STOPS, StopKind
from ..core.facts.shot import ShotFacts
from ..core.outing.packing import Item, packing_list
from ..core.outing.plan import OutingPlan, StopFacts, plan_outing
from ..core.planning.light import day_of_light, plan_light
from ..core.planning.plan import ShotPlan, plan_shot
from ..core.planning.windows import windows_of_date
from ..core.spans.intervals import Interval
from ..core.weather.forecast import Forecast
from ..store.outings import Outing, OutingStop
from ..store.photographer import Photographer
from ..store.places import KeptForecast, Location
from ..store.shots import Shot
from .errors import NotFound, Refused
from .facts import location_facts, shot_facts
from .forecasts import forecast_around, state_of
from .journal import delete_with_references, journaled
from .light import weights_of
from .rows import LARGEST_ID, assign, owned

LIST_SCOPE = "outings"
# Of a light that no forecast reaches nothing is promised, neither much nor little.
_UNTOLD, _BEFORE, _SCOUTED = 0.5, 0.8, 0.25
# One scouts by daylight.
_SCOUTING_BANDS = ("golden hour", "daylight")


def outing_scope(outing_id: int) -> str:
    return f"outing:{outing_id}"


@dataclass(frozen=True)
class SeenOuting:
    """An outing with its plan, what it needs in the bag, and the facts of its stops in the order in which they are listed."""

    row: Outing
    facts: core.Outing
    stops: tuple[StopFacts, ...]
    plan: OutingPlan
    packing: tuple[Item, ...]


def all_outings(session: Session, owner_id: int) -> Sequence[Outing]:
    """Return the owner's outings, the next first."""
    return session.scalars(select(Outing).where(Outing.owner_id == owner_id).order_by(Outing.date_local.desc(), Outing.id)).all()


def add_outing(session: Session, owner_id: int, values: Mapping[str, object]) -> Outing:
    """Make an outing."""
    with journaled(session, owner_id, LIST_SCOPE, f"new outing {values['name']}"):
        row = Outing(owner_id=owner_id, **values)
        session.add(row)
        session.flush()
    return row


def edit_outing(session: Session, owner_id: int, outing_id: int, changes: Mapping[str, object]) -> Outing:
    """Change what is said of an outing: declared facts, what is packed, and one's own items."""
    row = owned(session, owner_id, Outing, outing_id)
    labels = {name: item.label for name, item in facts_of(core.Outing).items()} | {"packed": "packing list", "own_items": "packing list"}
    with journaled(
        session, owner_id, outing_scope(row.id), f"change {', '.join(dict.fromkeys(labels[name] for name in changes)) or 'nothing'}"
    ):
        assign(row, changes)
    return row


def delete_outing(session: Session, owner_id: int, outing_id: int) -> None:
    """Delete an outing; its shots and places stay."""
    row = owned(session, owner_id, Outing, outing_id)
    with journaled(session, owner_id, LIST_SCOPE, f"delete {row.name}"):
        delete_with_references(session, row)


def add_stop(session: Session, owner_id: int, outing_id: int, values: Mapping[str, object]) -> OutingStop:
    """Add a stop at the end. Raises Refused for a shot without a place, or more stops than a day has room for."""
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
    """Change a stop, or move it by so many places in the list, which is then taken as listed."""
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
    """Take a stop out of its outing."""
    row = stop_of(session, owner_id, stop_id)
    outing = owned(session, owner_id, Outing, row.outing_id)
    with journaled(session, owner_id, outing_scope(outing.id), "take a stop out"):
        outing.stops.remove(row)
        session.delete(row)
        session.flush()
    return outing


def see_outing(session: Session, owner_id: int, outing_id: int, now_utc: datetime) -> SeenOuting:
    """Return an outing as it is planned now. Raises NotFound."""
    row = owned(session, owner_id, Outing, outing_id)
    facts = outing_facts(row)
    days = [row.date_local + timedelta(days=turn) for turn in range(row.days)]
    weights = weights_of(session.get_one(Photographer, owner_id))
    found = [_stop_facts(session, owner_id, stop, days, now_utc, weights) for stop in row.stops]
    stops, plans = tuple(item for item, _ in found), [plan for _, plan in found]
    plan = plan_outing(facts, stops)
    return SeenOuting(row, facts, stops, plan, packing_list(facts, plan, stops, plans, row.own_items))


def outing_facts(row: Outing) -> core.Outing:
    """Return an outing as the core knows it."""
    return core.Outing(**{name: getattr(row, name) for name in facts_of(core.Outing)})


def _stop_facts(
    session: Session, owner_id: int, stop: OutingStop, days: Sequence[date], now_utc: datetime, weights: Mapping[str, float]
) -> tuple[StopFacts, ShotPlan | None]:
    said = core.OutingStop(**{name: getattr(stop, name) for name in facts_of(core.OutingStop)})
    if stop.shot is not None and stop.shot.viewpoint is not None:
        point = stop.shot.viewpoint
        facts = replace(shot_facts(session, stop.shot), forecast=forecast_around(point.location.forecast, days[0]))
        plan = plan_shot(facts)
        lasts = plan.sequence.total_s or 0.0
        forecast = state_of(session.get(KeptForecast, point.location_id)).forecast
        windows = [found for day in days for found in _windows(facts, day, lasts, forecast, now_utc, weights)]
        return StopFacts(said, stop.shot.name, facts, tuple(windows), lasts, point.location_id, point.id, stop.shot.id), plan
    if stop.location is not None:
        facts = location_facts(session, stop.location, owner_id)
        point_id = stop.location.viewpoints[0].id if stop.location.viewpoints else 0
        by_day = _daylight(facts, said, days)
        return StopFacts(said, f"Scouting {stop.location.name}", facts, by_day, 0.0, stop.location.id, point_id), None
    return StopFacts(said, said.note or "Rest"), None


def _daylight(facts: ShotFacts, said: core.OutingStop, days: Sequence[date]) -> tuple[tuple[Interval, float, str], ...]:
    """Return when a place can be scouted: by daylight, and no earlier than was said."""
    here = facts.location
    assert here is not None
    found = []
    for day in days:
        bands = [band.span for band in day_of_light(here, day).bands if band.kind in _SCOUTING_BANDS]
        if not bands:
            continue
        start, end = min(span.start_utc for span in bands), max(span.end_utc for span in bands)
        if said.after_clock is not None:
            start = max(start, datetime.combine(day, said.after_clock, facts.zone))
        if start < end:
            found.append((Interval(start, end, False, False), _SCOUTED, "daylight"))
    return tuple(found)


def _windows(
    facts: ShotFacts, day: date, lasts_s: float, forecast: Forecast | None, now_utc: datetime, weights: Mapping[str, float]
) -> list[tuple[Interval, float, str]]:
    """Return when a shot may begin on a day, with what each window promises. On the day that it is planned for its own time counts: the light that holds it."""
    here = facts.location
    if here is None:
        return []
    own = facts.light.time_utc if facts.light.date_local == day else None
    on_day = replace(
        facts, light=replace(facts.light, date_local=day, time_utc=own, window_end_utc=facts.light.window_end_utc if own else None)
    )
    found = windows_of_date(on_day, day_of_light(here, day), lasts_s, forecast, now_utc, weights).windows
    usable = [
        (item.usable.span, item.promise.rating / 100 if item.promise else _UNTOLD, item.window.kind)
        for item in found
        if item.usable.span is not None
    ]
    spans = [(span, value, str(kind)) for span, value, kind in usable if span is not None]
    if own is None:
        return spans
    holding = [item for item in spans if item[0].start_utc <= own <= item[0].end_utc]
    if holding:
        span, value, name = max(holding, key=lambda item: item[1])
        # What was planned for a moment is worth a little less before it.
        before = [(Interval(span.start_utc, own, False, False), _BEFORE * value, name)] if own > span.start_utc else []
        return [(Interval(own, span.end_utc, False, False), value, name), *before]
    light = plan_light(on_day)
    last = light.window_end_utc - timedelta(seconds=lasts_s) if light.window_end_utc is not None else own
    return [(Interval(own, max(own, last), False, False), _UNTOLD, light.band or "its time")]
