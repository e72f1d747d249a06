"""The plan of an outing: its day clock, what is left out and why, and what has to be minded."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, time, timedelta

from ..facts.outing import Nights, Outing, OutingStop, StopKind, StopOrder
from ..facts.place import Location
from ..facts.shot import ShotFacts
from ..planning.arrival import walk_minutes
from ..planning.closures import Closure, closure_words, closures
from ..planning.marks import CAUTION, FAILS, HOLDS, TIGHT, UNSAID, Reason, Severity, worst_mark
from ..planning.way import PACK_UP_MIN, is_dark
from ..spans.instants import local_day, zone_info
from ..spans.intervals import Interval
from ..units.lengths import format_duration
from ..units.spelling import format_moment
from .as_listed import Break, Cause, as_listed, why_left
from .at_visit import light_reasons, stays_of, way_reasons
from .ordering import Order, best_order
from .stops import Beds, Limits, Place, Stop, Window, way_between
from .visits import Visit, merged

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
# A way that is not known to be open is worth this share of one that is.
_DOUBTFUL = 0.5
# An hour of a long wait on the spot takes as much off what an outing is worth: nobody sits there half a day for a light that is not wanted.
_WAIT_COST = 0.05
# What closes a place is looked for so long before and after the outing.
_AROUND = timedelta(days=1)
# What closes a stop is told where it lies so near its light, and not more of it than this.
_BESIDE, _MOST_CLOSURES = timedelta(hours=2), 2


@dataclass(frozen=True)
class StopWindow:
    """When a stop may begin, with what it promises from 0 to 1. mark: how good it is for the stop; what is not wanted counts less."""

    span: Interval
    promise: float
    name: str
    mark: Severity = HOLDS


@dataclass(frozen=True)
class StopFacts:
    """A stop with what is known of it. facts: of its shot, or of its place; windows: when it may begin, None: at any time. why_none: why it has no window.

    lasts_s: the frames of a shot. location_id, viewpoint_id: where it is; 0 of a rest.
    """

    said: OutingStop
    name: str
    facts: ShotFacts | None = None
    windows: tuple[StopWindow, ...] | None = None
    lasts_s: float = 0.0
    location_id: int = 0
    viewpoint_id: int = 0
    shot_id: int | None = None
    why_none: str = ""


@dataclass(frozen=True)
class Part:
    """A part of the day clock. kind: drive, walk, wait, night, set up, frames, scouting, rest, pack up. stop: by its place in the list; None of the way home.

    estimated, dark: of ways. where: of waits and nights, in a few words.
    """

    kind: str
    span: Interval
    stop: int | None
    estimated: bool = False
    dark: bool = False
    where: str = ""


@dataclass(frozen=True)
class OutingPlan:
    """order: of the stops by their place in the list; left: those that are left out. verdict: its worst mark. leave_utc, back_utc: of home; None without a stop. out_s: when the last
    place is left [s after the start].

    marks: of the stops that are taken, by their place in the list.
    """

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
    out_s: float
    marks: dict[int, Severity] = field(default_factory=dict)

    def at(self, seconds: float) -> datetime:
        """Return the instant so many seconds after the outing's start."""
        return self.start_utc + timedelta(seconds=seconds)

    def begins_utc(self, at: int) -> datetime | None:
        """Return when a stop begins, by its place in the list; None where it is left out."""
        return next((self.at(visit.begin_s) for visit in self.visits if visit.stop.at == at), None)


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
        planned, limits = _anew(outing, made, limits, onwards)
    taken = [visit.stop.at for visit in planned.visits]
    left = [stop for stop in made if stop.at not in taken]
    parts = _parts(planned, stops, start, outing)
    said = _Said(outing, stops, planned, start, zone)
    reasons = said.reasons(left, limits, parts, onwards)
    leave = parts[0].span.start_utc if parts else None
    back = parts[-1].span.end_utc if parts else None
    return OutingPlan(
        start, zone, tuple(parts), planned.visits, tuple(taken), tuple(stop.at for stop in left), worst_mark(list(reasons)), tuple(reasons), leave, back,
        planned.walk_m, planned.value, planned.out_s, said.marks,
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
    leave = first.out_s if first is not None else limits.leave_s
    return Onwards((), None, max(limits.leave_s, leave) + late)


def _anew(outing: Outing, made: Sequence[Stop], limits: Limits, onwards: Onwards) -> tuple[Order, Limits]:
    """Return what is kept and the rest in order anew, and the limits of the rest."""
    kept, walked = onwards.kept, sum(visit.leg.walk_m for visit in onwards.kept)
    rest = [stop for stop in made if stop.at not in {visit.stop.at for visit in kept}]
    limits = replace(limits, leave_s=onwards.from_s, at=onwards.here, most_walk_m=limits.most_walk_m - walked)
    again = _ordered(outing, rest, limits)
    home = way_between(onwards.here, None)
    out, back, walk = again.out_s, again.back_s, again.walk_m
    if not again.visits:
        out, back, walk = onwards.from_s, onwards.from_s + home.walk_out_s + home.drive_s, home.walk_m
    value = sum(visit.stop.windows[visit.window].value for visit in (*kept, *again.visits))
    return Order((*kept, *again.visits), out, back, value, walked + walk), limits


def limits_of(outing: Outing, start: datetime, zone: str) -> Limits:
    """Return the hard limits of an outing. start: local midnight of its first day."""
    leave = _after(outing.leave_clock, outing, 0, start, zone) if outing.leave_clock else 0.0
    back = _after(outing.back_clock, outing, outing.days - 1, start, zone) if outing.back_clock else outing.days * 86_400.0 + 6 * 3600
    most_walk_m = outing.most_walk_m if outing.most_walk_m is not None else math.inf
    return Limits(leave, back, most_walk_m, None, _WAIT_COST, _beds(outing, start, zone))


def _beds(outing: Outing, start: datetime, zone: str) -> Beds | None:
    if outing.days < 2 or outing.nights == Nights.OUT:
        return None
    noons = tuple(_after(time(12), outing, day, start, zone) for day in range(1, outing.days))
    if outing.nights == Nights.HOME:
        return Beds(outing.night_h * 3600, noons)
    return Beds(outing.night_h * 3600, noons, outing.base_evening_min * 60, outing.base_morning_min * 60)


def _after(clock: time, outing: Outing, day: int, start: datetime, zone: str) -> float:
    local = datetime.combine(outing.date_local + timedelta(days=day), clock, zone_info(zone))
    return (local - start).total_seconds()


def _stop(at: int, item: StopFacts, outing: Outing, start: datetime, zone: str) -> Stop:
    said, facts = item.said, item.facts
    usual = {StopKind.SCOUTING: SCOUTING_MIN, StopKind.REST: _REST_MIN}.get(said.kind, 0.0)
    lasts = said.minutes * 60 if said.minutes is not None else item.lasts_s or usual * 60
    shot = said.kind == StopKind.SHOT
    set_up = facts.approach.setting_up_min * 60 if shot and facts is not None and facts.approach is not None else 0.0
    place = _place(item, outing, start)
    if item.windows is not None:
        windows = [
            Window((found.span.start_utc - start).total_seconds(), (found.span.end_utc - start).total_seconds(), said.worth * found.promise, found.name, found.mark)
            for found in item.windows
        ]  # fmt: skip
    else:
        # What needs no light may begin at any time, and is worth little beside what does.
        windows = [Window(first, last, 0.25 * said.worth) for first, last in _clock_spans(said, outing, start, zone)]
    if place is not None and place.walks_unknown:
        windows += [replace(window, value=_DOUBTFUL * window.value, doubtful=True) for window in windows]
    stay = lasts + (PACK_UP_MIN * 60 if shot else 0.0)
    return Stop(at, item.name, tuple(windows), set_up, stay, place, None if said.leg_min is None else said.leg_min * 60)


def _clock_spans(said: OutingStop, outing: Outing, start: datetime, zone: str) -> list[tuple[float, float]]:
    """Return when a stop without a light of its own may begin: between its clock times, on each of the days."""
    if said.after_clock is None and said.before_clock is None:
        return [(0.0, outing.days * 86_400.0)]
    found = []
    for day in range(outing.days):
        first = _after(said.after_clock or time(), outing, day, start, zone)
        last = _after(said.before_clock, outing, day, start, zone) if said.before_clock else _after(time(), outing, day + 1, start, zone)
        # Past midnight: "from 22:00 to 01:00".
        found.append((first, last if last >= first else last + 86_400.0))
    return found


def _place(item: StopFacts, outing: Outing, start: datetime) -> Place | None:
    facts = item.facts
    if facts is None or facts.location is None:
        return None
    here: Location = facts.location
    approach = facts.approach
    walk = (walk_minutes(approach) or 0.0) * 60 if approach is not None else 0.0
    drive = approach.drive_min * 60 if approach is not None and approach.drive_min is not None else None
    walked = approach.walk_m or 0.0 if approach is not None else 0.0
    closed = closures(facts, start - _AROUND, start + timedelta(days=outing.days) + _AROUND)

    def spans(found: Iterable[Closure]) -> tuple[tuple[float, float], ...]:
        return merged(((item.span.start_utc - start).total_seconds(), (item.span.end_utc - start).total_seconds()) for item in found)

    return Place(
        item.location_id, here.latitude_deg, here.longitude_deg, walk, walked, drive, item.viewpoint_id,
        approach.reserve_min * 60 if approach is not None else 0.0,
        walks_closed=spans(found for found in closed if found.known),
        stay_closed=spans(found for found in closed if found.known and not found.walks_only),
        walks_unknown=spans(found for found in closed if not found.known),
    )  # fmt: skip


def _parts(planned: Order, stops: Sequence[StopFacts], start: datetime, outing: Outing) -> list[Part]:
    """Return the day clock: every way, wait and stay, one after the other."""
    found: list[Part] = []
    clock = planned.visits[0].out_s if planned.visits else 0.0
    here: StopFacts | None = None

    def add(kind: str, until_s: float, stop: int | None, facts: ShotFacts | None = None, estimated: bool = False, where: str = "") -> None:
        nonlocal clock
        if until_s - clock <= _SHORTEST_S:
            return
        span = Interval(start + timedelta(seconds=clock), start + timedelta(seconds=until_s), False, False)
        dark = kind == "walk" and facts is not None and facts.location is not None and is_dark(facts, span)
        found.append(Part(kind, span, stop, estimated, dark, where))
        clock = until_s

    for visit in planned.visits:
        item, leg, at = stops[visit.stop.at], visit.leg, visit.stop.at
        add("wait", visit.out_s, at)
        if not visit.inside:
            add("walk", clock + leg.walk_out_s, at, here.facts if here else None)
        if visit.bed is not None:
            add("drive", visit.bed.from_s, at, None, leg.estimated)
            add("night", visit.bed.to_s, at, where=_bed_words(outing))
            add("drive", visit.bed.to_s + visit.bed.drive_on_s, at, None, leg.estimated)
        else:
            add("drive", clock + leg.drive_s, at, None, leg.estimated)
        add("wait", visit.enter_s, at, where="at the car")
        add("walk", visit.arrive_s, at, item.facts, leg.estimated and leg.drive_s == 0)
        add("wait", visit.begin_s - visit.stop.set_up_s, at)
        add("set up", visit.begin_s, at)
        packing = PACK_UP_MIN * 60 if item.said.kind == StopKind.SHOT else 0.0
        kind = {StopKind.SHOT: "frames", StopKind.SCOUTING: "scouting", StopKind.REST: "rest"}[item.said.kind]
        add(kind, visit.leave_s - packing, at)
        add("pack up", visit.leave_s, at)
        if item.facts is not None and item.facts.location is not None:
            here = item
    if here is not None:
        way = way_between(place_after(planned.visits), None)
        add("wait", planned.out_s, None)
        add("walk", planned.back_s - way.drive_s, None, here.facts)
        add("drive", planned.back_s, None, None, way.estimated)
    return found


# Shorter than this nothing is drawn [s].
_SHORTEST_S = 1.5


def _bed_words(outing: Outing) -> str:
    return "at home" if outing.nights == Nights.HOME else f"at {outing.base_name or 'the base'}"


def place_after(visits: Sequence[Visit]) -> Place | None:
    """Return where one is after the last visit that was anywhere."""
    return next((visit.stop.place for visit in reversed(visits) if visit.stop.place is not None), None)


class _Said:
    """What is to be said of a planned outing. marks: of each stop that is taken, by the same reasons."""

    def __init__(self, outing: Outing, stops: Sequence[StopFacts], planned: Order, start: datetime, zone: str) -> None:
        self.outing, self.stops, self.planned, self.start, self.zone = outing, stops, planned, start, zone
        self.marks: dict[int, Severity] = {}

    def clock(self, after_s: float) -> str:
        return format_moment((self.start + timedelta(seconds=after_s)).astimezone(zone_info(self.zone)), self.outing.date_local)

    def reasons(self, left: Sequence[Stop], limits: Limits, parts: Sequence[Part], onwards: Onwards | None) -> list[Reason]:
        if not self.stops:
            return [Reason("outing", UNSAID, "Add the shots and places that the outing goes to.", "stops")]
        planned = self.planned
        found: list[Reason] = []
        of_stops = {visit.stop.at: self._light_of(visit) or self._time_of(visit) for visit in planned.visits}
        walks = [visit.stop.place.walk_s if visit.stop.place is not None else 0.0 for visit in planned.visits]
        for stay in stays_of(planned.visits, self.start, planned.out_s, walks):
            at = planned.visits[stay.visits[0]].stop.at
            facts = self.stops[at].facts
            assert facts is not None
            of_stops[at] += [self._of(at, reason) for reason in way_reasons(_on_day(facts, self.outing.date_local), stay)]
        for at, reasons in of_stops.items():
            self.marks[at] = worst_mark(reasons)
            found += reasons
        kept = {visit.stop.at for visit in onwards.kept} if onwards is not None else set()
        rest = replace(planned, visits=tuple(visit for visit in planned.visits if visit.stop.at not in kept))
        found += [self._left(rest, stop, limits) for stop in left]
        found += self._limits(limits, parts) + _rest_reasons(parts)
        if not self.outing.contact:
            found.append(Reason("outing", CAUTION, "Tell someone where you are going and by when you will be back.", "contact"))
        if planned.visits and not any(item.severity in (FAILS, TIGHT, UNSAID) for item in found):
            count = len(planned.visits)
            all_fit = "The stop fits" if count == 1 else f"All {count} stops fit"
            found.append(Reason("outing", HOLDS, f"{all_fit}; back at {self.clock(planned.back_s)}.", "stops"))
        return found

    def _of(self, at: int, reason: Reason) -> Reason:
        return Reason("outing", reason.severity, f"{self.stops[at].name}: {reason.text}", "stops")

    def _light_of(self, visit: Visit) -> list[Reason]:
        """Return what the shot's own plan has against its time; scouting and rests want no light."""
        item = self.stops[visit.stop.at]
        if item.said.kind != StopKind.SHOT or item.facts is None or item.facts.light.date_local is None:
            return []
        begins = self.start + timedelta(seconds=visit.begin_s)
        against = light_reasons(item.facts, begins, item.lasts_s)
        return [self._of(visit.stop.at, reason) for reason in against]

    def _time_of(self, visit: Visit) -> list[Reason]:
        item = self.stops[visit.stop.at]
        if item.windows is None:
            return []
        window = visit.stop.windows[visit.window]
        spare = window.end_s - visit.begin_s
        begins = self.clock(visit.begin_s)
        if spare < -_LATE_SLACK_S:
            text = f"{item.name} begins at {begins}, {format_duration(-spare)} after {window.name} has ended for it."
            return [Reason("outing", FAILS, text, "stops")]
        ready_s = visit.arrive_s + visit.stop.set_up_s
        if window.end_s - ready_s < _NEAR_S and window.end_s - window.start_s > _NEAR_S:
            text = f"{item.name}: ready at {self.clock(ready_s)}, only {format_duration(max(0.0, window.end_s - ready_s))} before it is too late to begin."
            return [Reason("outing", TIGHT, text, "stops")]
        return [Reason("outing", HOLDS, f"{item.name} begins at {begins} in {window.name}.", "stops")]

    def _left(self, order: Order, stop: Stop, limits: Limits) -> Reason:
        """Return why a stop is left out: the first thing that breaks with it."""
        item, broken = self.stops[stop.at], why_left(order, stop, limits)
        head = f"{item.name} is left out"
        dial = {Cause.WALK: "most_walk_m", Cause.BACK: "back_clock", Cause.NIGHT: "nights"}.get(broken.cause, "stops")
        return Reason("outing", FAILS, f"{head}: {self._break_words(item, stop, broken)}", dial)

    def _break_words(self, item: StopFacts, stop: Stop, broken: Break) -> str:
        by = format_duration(broken.by) if math.isfinite(broken.by) else ""
        other = broken.stop.name if broken.stop is not None and broken.stop.at != stop.at else None
        if broken.cause == Cause.NO_WINDOW:
            return item.why_none or "on these days there is no light that it wants."
        if broken.cause == Cause.CLOSED:
            closed = self.stops[broken.stop.at] if broken.stop is not None else item
            words = self._closed_words(closed)
            return f"with it, {other} would be closed. {words}" if other else f"there is no open way in and out in its light. {words}"
        if broken.cause == Cause.LATE:
            return f"with it {other} would begin {by} too late." if other else f"between the others it would begin {by} too late at best."
        if broken.cause == Cause.BACK:
            return f"with it you would be back {by} too late."
        if broken.cause == Cause.WALK:
            return f"with it the walk gets {broken.by / 1000:.1f} km longer than you want to go."
        if broken.cause == Cause.NIGHT:
            return f"with it the night would be shorter than {self.outing.night_h:g} h."
        return "it adds nothing to the day by its worth and its promise."

    def _closed_words(self, item: StopFacts) -> str:
        """Return what closes a stop's place around its light."""
        if item.facts is None:
            return ""
        facts = _on_day(item.facts, self.outing.date_local)
        spans = [window.span for window in item.windows or ()] or [
            Interval(self.start, self.start + timedelta(days=self.outing.days), False, False)
        ]
        found = [
            closure
            for closure in closures(facts, spans[0].start_utc - _AROUND, max(span.end_utc for span in spans) + _AROUND)
            if any(closure.span.start_utc <= span.end_utc + _BESIDE and closure.span.end_utc >= span.start_utc - _BESIDE for span in spans)
        ]
        return " ".join(dict.fromkeys(closure_words(facts, closure) for closure in found[:_MOST_CLOSURES]))

    def _limits(self, limits: Limits, parts: Sequence[Part]) -> list[Reason]:
        planned, found = self.planned, []
        if planned.back_s > limits.back_s + _LATE_SLACK_S:
            over = format_duration(planned.back_s - limits.back_s)
            found.append(Reason("outing", FAILS, f"Back at {self.clock(planned.back_s)}, {over} after you want to be.", "back_clock"))
        most_walk_m = self.outing.most_walk_m
        if most_walk_m is not None and planned.walk_m > most_walk_m + 1:
            text = f"{planned.walk_m / 1000:.1f} km on foot are more than the {most_walk_m / 1000:.1f} km that you want to walk."
            found.append(Reason("outing", FAILS, text, "most_walk_m"))
        unknown = _first_unknown(planned)
        if unknown is not None:
            assert unknown.place is not None
            guess = format_duration(unknown.place.drive_s or 0.0)
            text = f"The drive from home to {unknown.name} is not known: {guess} are assumed. Enter it here, or at the place."
            found.append(Reason("outing", UNSAID, text, "leg_min"))
        if any(part.estimated and part.kind == "drive" for part in parts):
            text = "A drive between two places is estimated from the straight line: enter how long it takes."
            found.append(Reason("outing", CAUTION, text, "leg_min"))
        if any(part.dark for part in parts):
            dark = [self.clock((part.span.start_utc - self.start).total_seconds()) for part in parts if part.dark]
            found.append(Reason("outing", CAUTION, f"On foot in the dark at {' and '.join(dark)}: a head torch for each.", "stops"))
        return found


def _on_day(facts: ShotFacts, day: date) -> ShotFacts:
    """Return facts whose clock times are told as of a day."""
    return replace(facts, light=replace(facts.light, date_local=day))


def _first_unknown(planned: Order) -> Stop | None:
    """Return the stop that one drives to from home, where nobody has said how long that takes."""
    first = next((visit for visit in planned.visits if visit.stop.place is not None), None)
    if first is None or first.stop.place is None or not first.stop.place.drive_guessed or first.stop.leg_s is not None:
        return None
    return first.stop


def _rest_reasons(parts: Sequence[Part]) -> list[Reason]:
    """Return whether someone is out for long without food or rest."""
    since = parts[0].span.start_utc if parts else None
    for part in parts:
        assert since is not None
        if part.kind in ("rest", "night") or (part.kind == "wait" and (part.span.end_utc - part.span.start_utc) >= timedelta(minutes=20)):
            since = part.span.end_utc
        elif (part.span.end_utc - since).total_seconds() > _REST_AFTER_S:
            return [Reason("outing", CAUTION, "More than five hours without food or a rest: add one.", "stops")]
    return []
