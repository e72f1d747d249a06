"""Reasons of an outing: light and way of each stop, stops left out, and the outing's limits."""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from dataclasses import replace
from datetime import datetime, timedelta

from ..facts.outing import Outing, StopKind
from ..planning.reasons import Reason, worst_mark
from ..planning.verdicts import FAILS, TIGHT, UNSAID, Severity
from ..planning.way.closures import closure_words, closures
from ..planning.wording import Sentence
from ..spans.instants import zone_info
from ..spans.intervals import Interval
from ..units.spelling import LocalTime
from . import wording as say
from .as_listed import Break, Cause, why_left
from .at_visit import light_reasons, stays_of, way_reasons
from .day_clock import Part
from .made_stops import AROUND
from .ordering import Order
from .stop_facts import StopFacts
from .stops import Limits, Stop
from .visits import Visit

# A stop is tight with less than this between being ready and the end of its window [s].
_NEAR_S = 600.0
_LATE_SLACK_S = 1.0
# Without food or a rest for longer than this, the outing says so [s] (common practice).
_REST_AFTER_S = 5 * 3600.0
# Closures this near to a stop's light are named, and at most this many.
_BESIDE, _MOST_CLOSURES = timedelta(hours=2), 2
_BACK = "back_clock"


class OutingReasons:
    """The reasons of a planned outing. marks: of each stop that is taken, from the same reasons."""

    def __init__(self, outing: Outing, stops: Sequence[StopFacts], planned: Order, start: datetime, zone: str) -> None:
        self.outing, self.stops, self.planned, self.start, self.zone = outing, stops, planned, start, zone
        self.marks: dict[int, Severity] = {}

    def at(self, after_s: float) -> LocalTime:
        """Return the local time the given number of seconds after the start."""
        return LocalTime(
            (self.start + timedelta(seconds=after_s)).astimezone(zone_info(self.zone)), self.outing.date_local
        )

    def reasons(
        self, left: Sequence[Stop], limits: Limits, parts: Sequence[Part], kept: Collection[int]
    ) -> list[Reason]:
        """Return all reasons.

        left: stops that are left out. kept: visits that stay unchanged, by the index of their stop.
        """
        if not self.stops:
            return [say.no_stops().unsaid("stops")]
        planned = self.planned
        found: list[Reason] = []
        of_stops = {visit.stop.at: self._light_of(visit) or self._time_of(visit) for visit in planned.visits}
        walks = [visit.stop.place.walk_s if visit.stop.place is not None else 0.0 for visit in planned.visits]
        for stay in stays_of(planned.visits, self.start, planned.out_s, walks):
            at = planned.visits[stay.visits[0]].stop.at
            facts = self.stops[at].facts
            assert facts is not None
            of_stops[at] += [
                self._of(at, reason) for reason in way_reasons(facts.choosing(date_local=self.outing.date_local), stay)
            ]
        for at, reasons in of_stops.items():
            self.marks[at] = worst_mark(reasons)
            found += reasons
        rest = replace(planned, visits=tuple(visit for visit in planned.visits if visit.stop.at not in kept))
        found += [self._left(rest, stop, limits) for stop in left]
        found += self._limits(limits, parts) + _rest_reasons(parts)
        if not self.outing.contact:
            found.append(say.tell_someone().caution("contact"))
        if planned.visits and not any(item.severity in (FAILS, TIGHT, UNSAID) for item in found):
            found.append(say.all_fit(stops=len(planned.visits), back_at=self.at(planned.back_s)).holds(_BACK))
        return found

    def _of(self, at: int, reason: Reason) -> Reason:
        return of_stop(self.stops[at].name, reason)

    def _light_of(self, visit: Visit) -> list[Reason]:
        """Return reasons of the shot's own plan against its time; empty for scouting and rests."""
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
        begins = self.at(visit.begin_s)
        if spare < -_LATE_SLACK_S:
            return [say.begins_late(stop=item.name, begins_at=begins, late_s=-spare, window=window.name).fails("stops")]
        ready_s = visit.arrive_s + visit.stop.set_up_s
        if window.end_s - ready_s < _NEAR_S and window.end_s - window.start_s > _NEAR_S:
            words = say.begins_close(
                stop=item.name, ready_at=self.at(ready_s), spare_s=max(0.0, window.end_s - ready_s)
            )
            return [words.tight("stops")]
        return [say.begins(stop=item.name, begins_at=begins, window=window.name).holds("stops")]

    def _left(self, order: Order, stop: Stop, limits: Limits) -> Reason:
        """Return the reason why a stop is left out: the first limit that it breaks."""
        item, broken = self.stops[stop.at], why_left(order, stop, limits)
        dial = {Cause.WALK: "most_walk_m", Cause.BACK: _BACK, Cause.NIGHT: "nights"}.get(broken.cause, "stops")
        return self._why(item, stop, broken).fails(dial)

    def _why(self, item: StopFacts, stop: Stop, broken: Break) -> Sentence:
        name, other = item.name, broken.stop.name if broken.stop is not None and broken.stop.at != stop.at else None
        if broken.cause == Cause.NO_WINDOW:
            return say.no_light(stop=name, why=item.why_none or "")
        if broken.cause == Cause.CLOSED:
            closed = self.stops[broken.stop.at] if broken.stop is not None else item
            return say.closed(stop=name, other=other, closures=self._closed_words(closed))
        if broken.cause == Cause.LATE:
            return say.too_late(stop=name, other=other, late_s=broken.by if math.isfinite(broken.by) else None)
        if broken.cause == Cause.BACK:
            return say.back_too_late_with(stop=name, late_s=broken.by)
        if broken.cause == Cause.WALK:
            return say.walk_too_long_with(stop=name, over_m=broken.by)
        if broken.cause == Cause.NIGHT:
            return say.night_too_short_with(stop=name, night_h=self.outing.night_h)
        return say.adds_nothing(stop=name)

    def _closed_words(self, item: StopFacts) -> str:
        """Return the closures of a stop's place around its light, in words."""
        if item.facts is None:
            return ""
        facts = item.facts.choosing(date_local=self.outing.date_local)
        spans = [window.span for window in item.windows or ()] or [
            Interval(self.start, self.start + timedelta(days=self.outing.days), False, False)
        ]
        found = [
            closure
            for closure in closures(facts, spans[0].start_utc - AROUND, max(span.end_utc for span in spans) + AROUND)
            if any(
                closure.span.start_utc <= span.end_utc + _BESIDE and closure.span.end_utc >= span.start_utc - _BESIDE
                for span in spans
            )
        ]
        return " ".join(dict.fromkeys(closure_words(facts, closure) for closure in found[:_MOST_CLOSURES]))

    def _limits(self, limits: Limits, parts: Sequence[Part]) -> list[Reason]:
        planned, found = self.planned, []
        if planned.back_s > limits.back_s + _LATE_SLACK_S:
            words = say.back_too_late(back_at=self.at(planned.back_s), late_s=planned.back_s - limits.back_s)
            found.append(words.fails(_BACK))
        most_walk_m = self.outing.most_walk_m
        if most_walk_m is not None and planned.walk_m > most_walk_m + 1:
            found.append(say.walk_too_long(walk_m=planned.walk_m, most_walk_m=most_walk_m).fails("most_walk_m"))
        unknown = _first_unknown(planned)
        if unknown is not None:
            assert unknown.place is not None
            found.append(
                say.drive_not_known(stop=unknown.name, assumed_s=unknown.place.drive_s or 0.0).unsaid("leg_min")
            )
        if any(part.estimated and part.kind == "drive" for part in parts):
            found.append(say.drive_estimated().caution("leg_min"))
        dark = tuple(self.at((part.span.start_utc - self.start).total_seconds()) for part in parts if part.dark)
        if dark:
            found.append(say.walks_in_the_dark(at=dark).caution("stops"))
        return found


def of_stop(name: str, reason: Reason, at: LocalTime | None = None) -> Reason:
    """Return a reason of a shot's own plan as a reason of the outing's stop. at: when the shot is taken."""
    where = f"{name} at {at}" if at is not None else name
    return replace(
        reason, step="outing", text=f"{where}: {reason.text}", figures={**reason.figures, "stop": name}, dial="stops"
    )


def says_that_all_fit(reason: Reason) -> bool:
    """Return whether a reason says that all stops fit."""
    return reason.code == "outing.all_fit"


def _first_unknown(planned: Order) -> Stop | None:
    """Return the first stop if the drive to it from home is not known."""
    first = next((visit for visit in planned.visits if visit.stop.place is not None), None)
    if first is None or first.stop.place is None or not first.stop.place.drive_guessed or first.stop.leg_s is not None:
        return None
    return first.stop


def _rest_reasons(parts: Sequence[Part]) -> list[Reason]:
    """Return a reason if someone is out for long without food or rest."""
    since = parts[0].span.start_utc if parts else None
    for part in parts:
        assert since is not None
        if part.kind in ("rest", "night") or (
            part.kind == "wait" and (part.span.end_utc - part.span.start_utc) >= timedelta(minutes=20)
        ):
            since = part.span.end_utc
        elif (part.span.end_utc - since).total_seconds() > _REST_AFTER_S:
            return [say.no_rest().caution("stops")]
    return []
