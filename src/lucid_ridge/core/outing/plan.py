"""The plan of an outing: its day clock, what falls out and why, and what has to be minded."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, time, timedelta

from ..facts.outing import Outing, OutingStop, StopKind, StopOrder
from ..facts.place import Location
from ..facts.shot import ShotFacts
from ..planning.arrival import walk_minutes
from ..planning.marks import CAUTION, FAILS, HOLDS, TIGHT, UNSAID, Reason, Severity, worst_mark
from ..planning.way import PACK_UP_MIN, is_dark
from ..spans.instants import local_day, zone_info
from ..spans.intervals import Interval
from ..units.lengths import format_duration
from ..units.spelling import format_moment
from .ordering import Order, Visit, as_listed, best_order, shortest_delay
from .stops import Limits, Place, Stop, Window, way_between

Clock = Callable[[float], str]
# With less than this between being ready and the end of its window a stop is tight [s].
_NEAR_S = 600.0
# How long one scouts and rests where nothing is said.
SCOUTING_MIN, _REST_MIN = 45.0, 30.0
# A lamp, food or a rest for who is out longer than this without one [s] (common practice).
_REST_AFTER_S = 5 * 3600.0
# A drive that nobody has said, where no other is known either [s].
_UNKNOWN_DRIVE_S = 1800.0
_LATE_SLACK_S = 1.0


@dataclass(frozen=True)
class StopFacts:
    """A stop with what is known of it. facts: of its shot, or of its place; windows: when it may begin, with what they promise from 0 to 1, None: at any time.

    lasts_s: the frames of a shot. location_id, viewpoint_id: where it is; 0 of a rest.
    """

    said: OutingStop
    name: str
    facts: ShotFacts | None = None
    windows: tuple[tuple[Interval, float, str], ...] | None = None
    lasts_s: float = 0.0
    location_id: int = 0
    viewpoint_id: int = 0
    shot_id: int | None = None


@dataclass(frozen=True)
class Part:
    """A part of the day clock. kind: drive, walk, wait, set up, frames, scouting, rest, pack up. stop: by its place in the list; None of the way home. estimated, dark: of ways."""

    kind: str
    span: Interval
    stop: int | None
    estimated: bool = False
    dark: bool = False


@dataclass(frozen=True)
class OutingPlan:
    """order: of the stops by their place in the list; left: those that fall out. verdict: its worst mark. leave_utc, back_utc: of home; None without a stop."""

    start_utc: datetime
    zone: str
    parts: tuple[Part, ...]
    visits: tuple[Visit, ...]
    order: tuple[int, ...]
    left: tuple[int, ...]
    mark: Severity
    reasons: tuple[Reason, ...]
    leave_utc: datetime | None
    back_utc: datetime | None
    walk_m: float
    value: float


@dataclass(frozen=True)
class Onwards:
    """From where the rest of an outing is put in order. kept: visits that stay as they are; here: where one is then, None at home; from_s: when [s after the start]."""

    kept: tuple[Visit, ...]
    here: Place | None
    from_s: float


def plan_outing(outing: Outing, stops: Sequence[StopFacts], onwards: Onwards | None = None) -> OutingPlan:
    """Return an outing's order and times. Running late moves what is not done yet: it is put in order anew from where one is by then, or as onwards says."""
    zone = next((item.facts.location.zone for item in stops if item.facts and item.facts.location), "UTC")
    start, _ = local_day(outing.date_local, zone)
    made = _with_drives([_stop(at, item, outing, start, zone) for at, item in enumerate(stops)])
    limits = limits_of(outing, start, zone)
    if onwards is None:
        planned = _ordered(outing, made, limits)
        onwards = _after_delay(outing, planned, stops, limits)
    if onwards is not None:
        planned = _anew(outing, made, limits, onwards)
    taken = [visit.stop.at for visit in planned.visits]
    left = [stop for stop in made if stop.at not in taken]
    parts = _parts(planned, stops, start, zone, outing)
    reasons = _reasons(outing, stops, planned, left, limits, start, zone, parts)
    leave = parts[0].span.start_utc if parts else None
    back = parts[-1].span.end_utc if parts else None
    return OutingPlan(
        start, zone, tuple(parts), planned.visits, tuple(taken), tuple(stop.at for stop in left), worst_mark(list(reasons)), tuple(reasons), leave, back,
        planned.walk_m, planned.value,
    )  # fmt: skip


def _with_drives(stops: Sequence[Stop]) -> list[Stop]:
    """Return the stops with the longest known drive from home in the place of those that nobody has said, so that an unknown way is not the shortest."""
    known = [stop.place.drive_s for stop in stops if stop.place is not None and stop.place.drive_s is not None]
    guess = max(known, default=_UNKNOWN_DRIVE_S)
    return [
        replace(stop, place=replace(stop.place, drive_s=guess, drive_guessed=True))
        if stop.place is not None and stop.place.drive_s is None
        else stop
        for stop in stops
    ]


def _ordered(outing: Outing, stops: Sequence[Stop], limits: Limits) -> Order:
    if outing.stop_order == StopOrder.PINNED:
        return as_listed(stops, limits)[0]
    return best_order(stops, limits)


def _after_delay(outing: Outing, planned: Order, stops: Sequence[StopFacts], limits: Limits) -> Onwards | None:
    """Return from where it goes on so late: after what is done, which stays as it was planned. None: nothing is late, and nothing done."""
    late, done = 60 * outing.late_min, tuple(visit for visit in planned.visits if stops[visit.stop.at].said.done)
    if done:
        return Onwards(done, place_after(done), done[-1].leave_s + late)
    if late <= 0:
        return None
    first = planned.visits[0] if planned.visits else None
    leave = first.arrive_s - first.leg.total_s if first is not None else limits.leave_s
    return Onwards((), None, max(limits.leave_s, leave) + late)


def _anew(outing: Outing, made: Sequence[Stop], limits: Limits, onwards: Onwards) -> Order:
    """Return what is kept, and the rest in order anew."""
    kept, walked = onwards.kept, sum(visit.leg.walk_m for visit in onwards.kept)
    rest = [stop for stop in made if stop.at not in {visit.stop.at for visit in kept}]
    again = _ordered(outing, rest, replace(limits, leave_s=onwards.from_s, at=onwards.here, most_walk_m=limits.most_walk_m - walked))
    home = way_between(onwards.here, None)
    back, walk = (again.back_s, again.walk_m) if again.visits else (onwards.from_s + home.total_s, home.walk_m)
    value = sum(visit.stop.windows[visit.window].value for visit in (*kept, *again.visits))
    return Order((*kept, *again.visits), back, value, walked + walk)


def limits_of(outing: Outing, start: datetime, zone: str) -> Limits:
    """Return the hard limits of an outing. start: local midnight of its first day."""
    leave = _after(outing.leave_clock, outing, 0, start, zone) if outing.leave_clock else 0.0
    back = _after(outing.back_clock, outing, outing.days - 1, start, zone) if outing.back_clock else outing.days * 86_400.0 + 6 * 3600
    return Limits(leave, back, outing.most_walk_m if outing.most_walk_m is not None else math.inf)


def _after(clock: time, outing: Outing, day: int, start: datetime, zone: str) -> float:
    local = datetime.combine(outing.date_local + timedelta(days=day), clock, zone_info(zone))
    return (local - start).total_seconds()


def _stop(at: int, item: StopFacts, outing: Outing, start: datetime, zone: str) -> Stop:
    said, facts = item.said, item.facts
    usual = {StopKind.SCOUTING: SCOUTING_MIN, StopKind.REST: _REST_MIN}.get(said.kind, 0.0)
    lasts = said.minutes * 60 if said.minutes is not None else item.lasts_s or usual * 60
    shot = said.kind == StopKind.SHOT
    set_up = facts.approach.setting_up_min * 60 if shot and facts is not None and facts.approach is not None else 0.0
    if item.windows is not None:
        windows = tuple(
            Window((span.start_utc - start).total_seconds(), (span.end_utc - start).total_seconds(), said.worth * promise, name)
            for span, promise, name in item.windows
        )
    else:
        earliest = _after(said.after_clock, outing, 0, start, zone) if said.after_clock else 0.0
        # What needs no light may begin at any time, and is worth little beside what does.
        windows = (Window(earliest, outing.days * 86_400.0, 0.25 * said.worth),)
    stay = lasts + (PACK_UP_MIN * 60 if shot else 0.0)
    return Stop(at, item.name, windows, set_up, stay, _place(item), None if said.leg_min is None else said.leg_min * 60)


def _place(item: StopFacts) -> Place | None:
    facts = item.facts
    if facts is None or facts.location is None:
        return None
    here: Location = facts.location
    approach = facts.approach
    walk = (walk_minutes(approach) or 0.0) * 60 if approach is not None else 0.0
    drive = approach.drive_min * 60 if approach is not None and approach.drive_min is not None else None
    walked = approach.walk_m or 0.0 if approach is not None else 0.0
    return Place(
        item.location_id,
        here.latitude_deg,
        here.longitude_deg,
        walk,
        walked,
        drive,
        item.viewpoint_id,
        approach.reserve_min * 60 if approach is not None else 0.0,
    )


def _parts(planned: Order, stops: Sequence[StopFacts], start: datetime, zone: str, outing: Outing) -> list[Part]:
    """Return the day clock: every way, wait and stay, one after the other."""
    found: list[Part] = []
    clock = planned.visits[0].arrive_s - planned.visits[0].leg.total_s if planned.visits else 0.0
    here: StopFacts | None = None

    def add(kind: str, length_s: float, stop: int | None, facts: ShotFacts | None = None, estimated: bool = False) -> None:
        nonlocal clock
        if length_s <= 0:
            return
        span = Interval(start + timedelta(seconds=clock), start + timedelta(seconds=clock + length_s), False, False)
        dark = kind == "walk" and facts is not None and facts.location is not None and is_dark(facts, span)
        found.append(Part(kind, span, stop, estimated, dark))
        clock += length_s

    for visit in planned.visits:
        item, leg = stops[visit.stop.at], visit.leg
        gap = visit.arrive_s - leg.total_s - clock
        add("wait", gap, visit.stop.at)
        add("walk", leg.walk_out_s, visit.stop.at, here.facts if here else None)
        add("drive", leg.drive_s, visit.stop.at, None, leg.estimated)
        add("walk", leg.walk_in_s, visit.stop.at, item.facts, leg.estimated and leg.drive_s == 0)
        add("wait", visit.begin_s - visit.stop.set_up_s - visit.arrive_s, visit.stop.at)
        add("set up", visit.stop.set_up_s, visit.stop.at)
        packing = PACK_UP_MIN * 60 if item.said.kind == StopKind.SHOT else 0.0
        kind = {StopKind.SHOT: "frames", StopKind.SCOUTING: "scouting", StopKind.REST: "rest"}[item.said.kind]
        add(kind, visit.stop.stay_s - packing, visit.stop.at)
        add("pack up", packing, visit.stop.at)
        if item.facts is not None and item.facts.location is not None:
            here = item
    if here is not None:
        way = way_between(place_after(planned.visits), None)
        add("wait", planned.back_s - way.total_s - clock, None)
        add("walk", way.walk_out_s, None, here.facts)
        add("drive", way.drive_s, None, None, way.estimated)
    return found


def _reasons(
    outing: Outing, stops: Sequence[StopFacts], planned: Order, left: Sequence[Stop], limits: Limits, start: datetime, zone: str, parts: Sequence[Part]
) -> list[Reason]:  # fmt: skip
    if not stops:
        return [Reason("outing", UNSAID, "Add the shots and places that the outing goes to.", "stops")]

    def clock(after_s: float) -> str:
        return format_moment((start + timedelta(seconds=after_s)).astimezone(zone_info(zone)), outing.date_local)

    found: list[Reason] = []
    for visit in planned.visits:
        found += _visit_reasons(visit, stops[visit.stop.at], clock)
    found += [_left_reason(planned, stop, stops, limits, clock) for stop in left]
    if planned.back_s > limits.back_s + _LATE_SLACK_S:
        over = format_duration(planned.back_s - limits.back_s)
        found.append(Reason("outing", FAILS, f"Back at {clock(planned.back_s)}, {over} after you want to be.", "back_clock"))
    if planned.walk_m > limits.most_walk_m + 1:
        found.append(
            Reason("outing", FAILS, f"{planned.walk_m / 1000:.1f} km on foot are more than the {limits.most_walk_m / 1000:.1f} km that you will walk.", "most_walk_m")
        )  # fmt: skip
    unknown = _first_unknown(planned)
    if unknown is not None:
        assert unknown.place is not None
        guess = format_duration(unknown.place.drive_s or 0.0)
        text = f"How long the drive from home to {unknown.name} takes is not known: {guess} are taken for it. Say it here, or at the place."
        found.append(Reason("outing", UNSAID, text, "leg_min"))
    if any(part.estimated and part.kind == "drive" for part in parts):
        text = "A drive between two places is estimated from the straight line: say how long it takes."
        found.append(Reason("outing", CAUTION, text, "leg_min"))
    if any(part.dark for part in parts):
        dark = [f"{clock((part.span.start_utc - start).total_seconds())}" for part in parts if part.dark]
        found.append(Reason("outing", CAUTION, f"On foot in the dark at {' and '.join(dark)}: a head torch for each.", "stops"))
    found += _rest_reasons(parts)
    if not outing.contact:
        found.append(Reason("outing", CAUTION, "Leave word with someone: where, and by when you are back.", "contact"))
    if planned.visits and not any(item.severity in (FAILS, TIGHT, UNSAID) for item in found):
        found.append(Reason("outing", HOLDS, f"All {len(planned.visits)} stops are had in time; back at {clock(planned.back_s)}.", "stops"))
    return found


def place_after(visits: Sequence[Visit]) -> Place | None:
    """Return where one is after the last visit that was anywhere."""
    return next((visit.stop.place for visit in reversed(visits) if visit.stop.place is not None), None)


def _first_unknown(planned: Order) -> Stop | None:
    """Return the stop that one drives to from home, where nobody has said how long that takes."""
    first = next((visit for visit in planned.visits if visit.stop.place is not None), None)
    if first is None or first.stop.place is None or not first.stop.place.drive_guessed or first.stop.leg_s is not None:
        return None
    return first.stop


def _visit_reasons(visit: Visit, item: StopFacts, clock: Clock) -> list[Reason]:
    if item.windows is None:
        return []
    window = visit.stop.windows[visit.window]
    spare = window.end_s - visit.begin_s
    if spare < -_LATE_SLACK_S:
        text = f"{item.name} begins at {clock(visit.begin_s)}, {format_duration(-spare)} after {window.name} has ended for it."
        return [Reason("outing", FAILS, text, "stops")]
    ready = window.end_s - (visit.arrive_s + visit.stop.set_up_s)
    if ready < _NEAR_S:
        text = f"{item.name}: ready at {clock(visit.arrive_s + visit.stop.set_up_s)}, only {format_duration(max(0.0, ready))} before it is too late to begin."
        return [Reason("outing", TIGHT, text, "stops")]
    if (
        item.said.kind == StopKind.SHOT
        and visit.begin_s - window.start_s > _NEAR_S
        and window.end_s - window.start_s > 4 * _NEAR_S
        and spare < _NEAR_S
    ):
        return [Reason("outing", TIGHT, f"{item.name} begins at {clock(visit.begin_s)}, late in {window.name}.", "stops")]
    return [Reason("outing", HOLDS, f"{item.name} begins at {clock(visit.begin_s)} in {window.name}.", "stops")]


def _left_reason(planned: Order, stop: Stop, stops: Sequence[StopFacts], limits: Limits, clock: Clock) -> Reason:
    missed, which = shortest_delay(planned, stop, limits)
    name = stops[stop.at].name
    if not stop.windows:
        text = f"{name} falls out: on these days there is no light that it wants, or no way in and out."
        return Reason("outing", FAILS, text, "stops")
    if missed <= _LATE_SLACK_S:
        return Reason("outing", FAILS, f"{name} falls out: with it the walk gets longer than you will go.", "most_walk_m")
    if which is None:
        text = f"{name} falls out: with it one would be back {format_duration(missed)} too late."
    elif which.at == stop.at:
        text = f"{name} falls out: between the others it would begin {format_duration(missed)} too late at best."
    else:
        text = f"{name} falls out: with it {which.name} would begin {format_duration(missed)} too late."
    return Reason("outing", FAILS, text, "stops")


def _rest_reasons(parts: Sequence[Part]) -> list[Reason]:
    """Return whether someone is out for long without food or rest."""
    since = parts[0].span.start_utc if parts else None
    for part in parts:
        assert since is not None
        if part.kind == "rest" or (part.kind == "wait" and (part.span.end_utc - part.span.start_utc) >= timedelta(minutes=20)):
            since = part.span.end_utc
        elif (part.span.end_utc - since).total_seconds() > _REST_AFTER_S:
            return [Reason("outing", CAUTION, "More than five hours without food or a rest: add one.", "stops")]
    return []
