"""An outing as its response body."""

from __future__ import annotations

import math
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np
from sqlalchemy.orm import Session

from ...core.facts.declaring import facts_of
from ...core.facts.outing import Outing, OutingStop, StopKind
from ...core.facts.shot import ShotFacts
from ...core.ground.geodesy import east_north_m
from ...core.outing.day_clock import Part
from ...core.outing.plan import OutingPlan
from ...core.outing.plan_b import PlanB
from ...core.outing.stop_facts import StopFacts
from ...core.outing.visits import Visit
from ...core.planning.verdicts import FAILS, Mark
from ...core.spans.instants import unix_seconds, zone_info
from ...core.units.lengths import format_distance, format_duration
from ...core.units.spelling import format_day, format_moment, format_time_of_day
from ...operations.outings.outings import LIST_SCOPE, OutingView, outing_scope
from ...store import outings as store
from ..platform.undo import present_undo
from . import schemas as out

_TIDE_STEP_H = 0.25
# The day clock shows this much before leaving home and after returning [h].
_MARGIN_H = 0.75


def present_outings(session: Session, owner_id: int, rows: Any) -> out.OutingsOut:
    """Return the outings with the names of their stops."""
    return out.OutingsOut(
        outings=[
            out.OutingLineOut(
                id=row.id,
                name=row.name,
                date_local=row.date_local.isoformat(),
                days=row.days,
                stops=[_name(stop) for stop in row.stops],
            )
            for row in rows
        ],
        undo=present_undo(session, owner_id, [LIST_SCOPE]),
    )


def present_outing(session: Session, owner_id: int, seen: OutingView) -> out.OutingOut:
    """Return an outing with its day clock, packing list and reasons."""
    row, plan, stops = seen.row, seen.plan, seen.stops
    clock = _Clock(plan, seen.facts)
    reasons = sorted(plan.reasons, key=lambda item: _RANK[item.severity])
    first, last = _shown(plan)
    outside = [stops[at] for at in (plan.order or range(len(stops))) if stops[at].facts is not None]
    return out.OutingOut(
        id=row.id,
        facts=out.OutingFactsOut(**_said(row, Outing)),
        labels={
            name: format_time_of_day(getattr(row, name)) for name in ("leave_clock", "back_clock") if getattr(row, name)
        },
        stops=[
            _stop(at, kept, item, plan, clock) for at, (kept, item) in enumerate(zip(row.stops, stops, strict=True))
        ],
        parts=[_part(part, clock) for part in plan.parts],
        windows=[
            out.StopWindowOut(
                stop=at,
                from_h=clock.hours(found.span.start_utc),
                to_h=clock.hours(found.span.end_utc),
                value=found.promise * item.said.worth,
                name=found.name,
                mark=Mark(found.mark),
            )
            for at, item in enumerate(stops)
            for found in item.windows or ()
        ],
        order=list(plan.order),
        mark=Mark(plan.mark),
        verdict=_verdict(plan, len(stops)),
        because=[out.OutingReasonOut.model_validate(item) for item in reasons],
        leave_clock=clock.at(plan.leave_utc) if plan.leave_utc else None,
        back_clock=clock.at(plan.back_utc) if plan.back_utc else None,
        walk_label=format_distance(plan.walk_m) if plan.walk_m else "",
        from_h=first,
        to_h=last,
        bands=[
            out.SkyBandOut(kind=band.kind, from_h=clock.hours(band.span.start_utc), to_h=clock.hours(band.span.end_utc))
            for band in seen.bands
        ],
        tide=_tide(outside, first, last, plan),
        weather=_weather(outside, plan, first, last),
        spots=_spots(stops),
        packing=[
            out.ItemOut(key=item.key, group=item.group, name=item.name, why=item.why, packed=item.key in row.packed)
            for item in seen.packing
        ],
        own_items=row.own_items,
        plans_b=[
            out.PlanBOut(
                stop=item.at,
                name=stops[item.at].name,
                text=item.trigger.text,
                mark=Mark(item.mark),
                decided_h=clock.hours(item.decided_utc) if item.decided_utc is not None else None,
                times=_times(item, clock),
                minded=[out.OutingReasonOut.model_validate(reason) for reason in item.minded],
                parts=[_part(part, clock) for part in _from_decision(item)],
            )
            for item in seen.plans_b
        ],
        cautions=_cautions(stops, plan),
        undo=present_undo(session, owner_id, [outing_scope(row.id)]),
    )


def _part(part: Part, clock: _Clock) -> out.PartOut:
    begins, words = (
        clock.at(part.span.start_utc),
        f"{part.kind}{f' {part.where}' if part.where else ''}, {_lasting(part)}",
    )
    return out.PartOut(
        kind=part.kind,
        from_h=clock.hours(part.span.start_utc),
        to_h=clock.hours(part.span.end_utc),
        clock=begins,
        words=words,
        label=f"{begins} {words}",
        stop=part.stop,
        estimated=part.estimated,
        dark=part.dark,
    )


def times_to_take_along(outing: out.OutingOut, first: date) -> list[str]:
    """Return the day clock in lines for a small screen: a heading for each day, the stop at its departure, time and
    words.
    """
    day, stop = "", None
    found: list[str] = []
    for part in outing.parts:
        clock, _, date_words = part.clock.partition(" on ")
        date_words = date_words or format_day(first, weekday=True, year=False)
        if date_words != day:
            found.append(date_words)
        day = date_words
        name = f" to {outing.stops[part.stop].name}" if part.stop is not None and part.stop != stop else ""
        stop = part.stop
        found.append(f"{clock} {part.words}{name}{' (dark)' if part.dark else ''}")
    return found


def _from_decision(item: PlanB) -> list[Part]:
    """Return the parts of the day clock that plan B changes: from the way to it."""
    parts = list(item.plan.parts) if item.plan is not None else []
    first = next((index for index, part in enumerate(parts) if part.stop == item.at), None)
    return parts[first:] if first is not None else []


def _times(item: PlanB, clock: _Clock) -> list[str]:
    """Return the times of plan B: its decision, the way there, its duration, and the return."""
    parts = [part for part in _from_decision(item) if part.stop == item.at and part.kind != "wait"]
    if item.plan is None or not parts or item.plan.back_utc is None:
        return []
    decided = [f"{clock.at(item.decided_utc)} decide"] if item.decided_utc is not None else []
    # A place without a shot is visited to photograph, not only to scout.
    labels = [_part(part, clock).label.replace(" scouting,", " there,") for part in parts]
    return [*decided, *labels, f"{clock.at(item.plan.back_utc)} back"]


def _lasting(part: Part) -> str:
    """Return how long a part takes: to the second for frames, else to the minute."""
    seconds = (part.span.end_utc - part.span.start_utc).total_seconds()
    return format_duration(seconds if part.kind == "frames" else 60 * max(1, round(seconds / 60)))


_RANK = {"fails": 0, "tight": 1, "unsaid": 2, "caution": 3, "holds": 4}


class _Clock:
    """Times as hours after local midnight of the first day, and as text."""

    def __init__(self, plan: OutingPlan, outing: Outing) -> None:
        self.start, self.zone, self.date = plan.start_utc, zone_info(plan.zone), outing.date_local

    def hours(self, moment: datetime) -> float:
        return (moment - self.start).total_seconds() / 3600

    def at(self, moment: datetime) -> str:
        return format_moment(moment.astimezone(self.zone), self.date)

    def after(self, seconds: float) -> str:
        return self.at(self.start + timedelta(seconds=seconds))


def _shown(plan: OutingPlan) -> tuple[float, float]:
    """Return the span of the day clock [h]: the outing with a margin, a whole day without one."""
    if plan.leave_utc is None or plan.back_utc is None:
        return 0.0, 24.0
    first, last = ((item - plan.start_utc).total_seconds() / 3600 for item in (plan.leave_utc, plan.back_utc))
    return math.floor(2 * (first - _MARGIN_H)) / 2, math.ceil(2 * (last + _MARGIN_H)) / 2


def _verdict(plan: OutingPlan, count: int) -> str:
    if not count:
        return "no stops yet"
    if plan.left:
        return f"{len(plan.order)} of {count} stops"
    worst = next((item.text for item in plan.reasons if item.severity == FAILS), "")
    return worst or f"all {count} stops"


def _name(stop: store.OutingStop) -> str:
    if stop.shot is not None:
        return stop.shot.name
    return f"Scouting {stop.location.name}" if stop.location is not None else stop.note or "Rest"


def _said(row: Any, kind: type) -> dict[str, Any]:
    return {name: getattr(row, name) for name in facts_of(kind)}


def _stop(at: int, row: store.OutingStop, item: StopFacts, plan: OutingPlan, clock: _Clock) -> out.StopOut:
    visit = next((visit for visit in plan.visits if visit.stop.at == at), None)
    here = item.facts.location if item.facts is not None else None
    window = visit.stop.windows[visit.window] if visit is not None and item.windows is not None else None
    return out.StopOut(
        **_said(row, OutingStop),
        id=row.id, shot_id=row.shot_id, location_id=row.location_id, name=item.name, place=here.name if here else "",
        latitude_deg=here.latitude_deg if here else None, longitude_deg=here.longitude_deg if here else None,
        taken=plan.order.index(at) + 1 if at in plan.order else None,
        mark=Mark(plan.marks[at]) if at in plan.marks else None,
        before_clock_label=format_time_of_day(row.before_clock) if row.before_clock is not None else None,
        after_clock_label=format_time_of_day(row.after_clock) if row.after_clock is not None else None,
        arrive_clock=clock.after(visit.arrive_s) if visit else None,
        begin_clock=clock.after(visit.begin_s) if visit else None,
        leave_clock=clock.after(visit.leave_s) if visit else None,
        window=window.name if window else "",
        window_clock=f"{clock.after(window.start_s)} to {clock.after(window.end_s)}" if window else "",
        lasts_label=format_duration(_lasts_s(row, item, visit)),
        promise=None if window is None or not item.said.worth else min(1.0, window.value / item.said.worth),
    )  # fmt: skip


def _lasts_s(row: store.OutingStop, item: StopFacts, visit: Visit | None) -> float:
    if row.minutes is not None:
        return row.minutes * 60
    return item.lasts_s if item.said.kind == StopKind.SHOT or visit is None else visit.stop.stay_s


def _tide(outside: list[StopFacts], first: float, last: float, plan: OutingPlan) -> out.WaterOut | None:
    """Return the tide of the first place that has one."""
    for item in outside:
        here = item.facts.location if item.facts is not None else None
        if here is None or here.tide is None:
            continue
        hours = np.arange(first, last + 1e-9, _TIDE_STEP_H)
        heights = np.asarray(here.tide.height_m(float(unix_seconds(plan.start_utc)) + hours * 3600))
        points = [
            out.WaterPointOut(at_h=float(hour), height_m=float(height))
            for hour, height in zip(hours, heights, strict=True)
            if math.isfinite(height)
        ]
        return out.WaterOut(name=here.tide.name, points=points) if points else None
    return None


def _weather(outside: list[StopFacts], plan: OutingPlan, first: float, last: float) -> list[out.OutingHourOut]:
    """Return the forecast's hours at the first place that has one."""
    facts: ShotFacts | None = next(
        (item.facts for item in outside if item.facts is not None and item.facts.forecast is not None), None
    )
    if facts is None or facts.forecast is None:
        return []
    found = []
    for hour in range(math.floor(first), math.ceil(last)):
        known = facts.forecast.at(plan.start_utc + timedelta(hours=hour, minutes=30))
        if known is not None:
            found.append(
                out.OutingHourOut(
                    from_h=hour,
                    cover=known.cover,
                    rain_mm=known.rain_mm,
                    temperature_c=known.temperature_c,
                    gust_mps=known.gust_mps,
                )
            )
    return found


def _spots(stops: tuple[StopFacts, ...]) -> list[out.StopSpotOut]:
    """Return the positions of the stops, from above, around their middle."""
    places = [
        (at, item.name, item.facts.location)
        for at, item in enumerate(stops)
        if item.facts is not None and item.facts.location is not None
    ]
    if not places:
        return []
    middle = [
        sum(getattr(here, name) for _, _, here in places) / len(places) for name in ("latitude_deg", "longitude_deg")
    ]
    found = []
    for at, name, here in places:
        east, north = east_north_m(here.latitude_deg, here.longitude_deg, *middle)
        found.append(out.StopSpotOut(stop=at, name=name, east_m=float(east), north_m=float(north)))
    return found


def _cautions(stops: tuple[StopFacts, ...], plan: OutingPlan) -> list[str]:
    """Return the cautions at the places, each once."""
    found: dict[str, None] = {}
    for at in plan.order:
        facts = stops[at].facts
        for hazard in facts.hazards if facts is not None else ():
            found[f"{stops[at].name}: {hazard.kind.label}{f', {hazard.note}' if hazard.note else ''}"] = None
        for opening in facts.openings if facts is not None else ():
            if opening.note:
                found[f"{stops[at].name}: {opening.note}"] = None
    return list(found)
