"""What is to be said of an outing as it is planned: each stop by the judges of light and way, what is left out and why, and its limits."""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from dataclasses import replace
from datetime import datetime, timedelta

from ..facts.outing import Outing, StopKind
from ..planning.verdicts import CAUTION, FAILS, HOLDS, TIGHT, UNSAID, Reason, Severity, worst_mark
from ..planning.way.closures import closure_words, closures
from ..spans.instants import zone_info
from ..spans.intervals import Interval
from ..units.lengths import format_duration
from ..units.spelling import format_moment
from .as_listed import Break, Cause, why_left
from .at_visit import light_reasons, stays_of, way_reasons
from .day_clock import Part
from .made_stops import AROUND
from .ordering import Order
from .stop_facts import StopFacts
from .stops import Limits, Stop
from .visits import Visit

# With less than this between being ready and the end of its window a stop is tight [s].
_NEAR_S = 600.0
_LATE_SLACK_S = 1.0
# A lamp, food or a rest for who is out longer than this without one [s] (common practice).
_REST_AFTER_S = 5 * 3600.0
# What closes a stop is told where it lies so near its light, and not more of it than this.
_BESIDE, _MOST_CLOSURES = timedelta(hours=2), 2
_BACK = "back_clock"


class OutingReasons:
    """What is to be said of a planned outing. marks: of each stop that is taken, by the same reasons."""

    def __init__(self, outing: Outing, stops: Sequence[StopFacts], planned: Order, start: datetime, zone: str) -> None:
        self.outing, self.stops, self.planned, self.start, self.zone = outing, stops, planned, start, zone
        self.marks: dict[int, Severity] = {}

    def clock(self, after_s: float) -> str:
        return format_moment((self.start + timedelta(seconds=after_s)).astimezone(zone_info(self.zone)), self.outing.date_local)

    def reasons(self, left: Sequence[Stop], limits: Limits, parts: Sequence[Part], kept: Collection[int]) -> list[Reason]:
        """Return all reasons. left: the stops that are left out; kept: visits that stay as they are, by their stops' places in the list."""
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
            of_stops[at] += [self._of(at, reason) for reason in way_reasons(facts.choosing(date_local=self.outing.date_local), stay)]
        for at, reasons in of_stops.items():
            self.marks[at] = worst_mark(reasons)
            found += reasons
        rest = replace(planned, visits=tuple(visit for visit in planned.visits if visit.stop.at not in kept))
        found += [self._left(rest, stop, limits) for stop in left]
        found += self._limits(limits, parts) + _rest_reasons(parts)
        if not self.outing.contact:
            found.append(Reason("outing", CAUTION, "Tell someone where you are going and by when you will be back.", "contact"))
        if planned.visits and not any(item.severity in (FAILS, TIGHT, UNSAID) for item in found):
            count = len(planned.visits)
            all_fit = "The stop fits" if count == 1 else f"All {count} stops fit"
            found.append(Reason("outing", HOLDS, f"{all_fit}; back at {self.clock(planned.back_s)}.", _BACK))
        return found

    def _of(self, at: int, reason: Reason) -> Reason:
        return Reason("outing", reason.severity, f"{self.stops[at].name}: {reason.text}", "stops")

    def _light_of(self, visit: Visit) -> list[Reason]:
        """Reasons that the shot's own plan gives against its time; scouting and rests want no light."""
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
        dial = {Cause.WALK: "most_walk_m", Cause.BACK: _BACK, Cause.NIGHT: "nights"}.get(broken.cause, "stops")
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
        """Closures of a stop's place around its light."""
        if item.facts is None:
            return ""
        facts = item.facts.choosing(date_local=self.outing.date_local)
        spans = [window.span for window in item.windows or ()] or [
            Interval(self.start, self.start + timedelta(days=self.outing.days), False, False)
        ]
        found = [
            closure
            for closure in closures(facts, spans[0].start_utc - AROUND, max(span.end_utc for span in spans) + AROUND)
            if any(closure.span.start_utc <= span.end_utc + _BESIDE and closure.span.end_utc >= span.start_utc - _BESIDE for span in spans)
        ]
        return " ".join(dict.fromkeys(closure_words(facts, closure) for closure in found[:_MOST_CLOSURES]))

    def _limits(self, limits: Limits, parts: Sequence[Part]) -> list[Reason]:
        planned, found = self.planned, []
        if planned.back_s > limits.back_s + _LATE_SLACK_S:
            over = format_duration(planned.back_s - limits.back_s)
            found.append(Reason("outing", FAILS, f"Back at {self.clock(planned.back_s)}, {over} after you want to be.", _BACK))
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


def says_that_all_fit(reason: Reason) -> bool:
    """Whether a reason is the one that an outing has where nothing speaks against it."""
    return reason.severity == HOLDS and reason.dial == _BACK


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
