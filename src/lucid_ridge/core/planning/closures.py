"""What closes the way to a shot: tide, gates, hours and permits; and which starts of a window are left.

One may wait out a tide where one stands, but not walk through it; behind a gate one may not be at all.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..facts.place import Hazard, HazardKind, Opening, OpeningKind
from ..facts.shot import ShotFacts
from ..light.season import in_season
from ..spans.intervals import Interval
from ..tides.heights import water_spans
from ..units.lengths import format_height
from .openings import closed_spans
from .way import DRIVE, WALKS, Way, is_dark, plan_way

# So far around a span closures are looked for, so that none is told with an end that is only the search's.
LOOKED_FOR = timedelta(hours=18)


@dataclass(frozen=True)
class Closure:
    """A span in which a hazard cuts the place off, or an opening entry shuts it."""

    span: Interval
    cause: Hazard | Opening

    @property
    def walks_only(self) -> bool:
        """Whether only the walks must not meet it, not the stay."""
        return isinstance(self.cause, Hazard)


@dataclass(frozen=True)
class Leg:
    """A part of the way and stay by its name, as Way.legs has it. dark: walked in the dark. closed: something closes it."""

    name: str
    span: Interval
    dark: bool
    closed: bool


@dataclass(frozen=True)
class Usable:
    """The part of a window in which a shot may begin; broken: why there is none; cut: why it is not the whole window."""

    span: Interval | None
    broken: str = ""
    cut: str = ""


def cut_off_spans(facts: ShotFacts, hazard: Hazard, start_utc: datetime, end_utc: datetime) -> list[Interval]:
    """Return the spans from start_utc to end_utc in which the tide cuts the place off."""
    tide = facts.location.tide if facts.location else None
    if tide is None or hazard.kind is not HazardKind.TIDE or hazard.cut_off_m is None:
        return []
    spans = water_spans(tide, start_utc, end_utc, hazard.cut_off_m, None)
    return [span for span in spans if in_its_months(facts, hazard, span.start_utc)]


def closures(facts: ShotFacts, start_utc: datetime, end_utc: datetime) -> list[Closure]:
    """Return all that closes the place from start_utc to end_utc, in order of time."""
    tides = [Closure(span, hazard) for hazard in facts.hazards for span in cut_off_spans(facts, hazard, start_utc, end_utc)]
    shut = [Closure(span, item) for span, item in closed_spans(facts.openings, facts.zone, start_utc, end_utc)]
    return sorted(tides + shut, key=lambda item: item.span.start_utc)


def in_its_months(facts: ShotFacts, hazard: Hazard, moment: datetime) -> bool:
    """Whether a hazard is to be reckoned with at an instant."""
    if hazard.from_month is None or hazard.to_month is None:
        return True
    return in_season(moment.astimezone(facts.zone), hazard.from_month, 1, hazard.to_month, 31)


def caught_legs(way: Way, closure: Closure) -> list[tuple[str, Interval]]:
    """Return the legs of the way that meet a closure, each with its name."""
    legs = [("way in", way.walk_in), ("way out", way.walk_out)]
    if not closure.walks_only:
        legs.insert(1, ("stay", way.stay))
    return [(name, leg) for name, leg in legs if _meet(closure, leg)]


def legs_of(facts: ShotFacts, way: Way, closed: Sequence[Closure] = ()) -> tuple[Leg, ...]:
    """Return the legs of a way one after the other, with what darkness and closures do to each; a drive is neither."""
    return tuple(
        Leg(
            name,
            span,
            name in WALKS and is_dark(facts, span),
            name != DRIVE and any(_meet(item, span) for item in closed if name in WALKS or not item.walks_only),
        )
        for name, span in way.legs
    )


def closures_near(spans: Sequence[Interval], closed: Sequence[Closure]) -> list[list[Closure]]:
    """Return for each span the closures that may meet its way; both in order of time."""
    result: list[list[Closure]] = []
    still: list[Closure] = []
    waiting = iter(closed)
    coming = next(waiting, None)
    for span in spans:
        first, last = span.start_utc - LOOKED_FOR, span.end_utc + LOOKED_FOR
        while coming is not None and coming.span.start_utc <= last:
            still.append(coming)
            coming = next(waiting, None)
        still = [item for item in still if item.span.end_utc >= first]
        result.append(list(still))
    return result


def _meet(closure: Closure, leg: Interval) -> bool:
    return closure.span.start_utc <= leg.end_utc and leg.start_utc <= closure.span.end_utc


def usable_part(facts: ShotFacts, window: Interval, sequence_s: float, known: Sequence[Closure] | None = None) -> Usable:
    """Return when in a window a shot of so many seconds may begin, so that nothing closes its way in and out.

    The longest part counts. known: the closures around the window, where they have been computed for many windows at once.
    """
    way = plan_way(facts, sequence_s, window.start_utc)
    if way is None:
        return Usable(window)
    found = known if known is not None else closures(facts, window.start_utc - LOOKED_FOR, window.end_utc + LOOKED_FOR)
    parts, blocking = [(window.start_utc, window.end_utc)], []
    for closure in found:
        for first, last in _blocked_starts(way, closure):
            left = [piece for start, end in parts for piece in ((start, min(end, first)), (max(start, last), end)) if piece[0] < piece[1]]
            if left != parts:
                parts = left
                blocking.append(closure)
    if not blocking:
        return Usable(window)
    words = " ".join(dict.fromkeys(closure_words(facts, closure) for closure in blocking))
    if not parts:
        return Usable(None, broken=f"{words} No start in this window leaves the way in and out open.")
    start, end = max(parts, key=lambda part: part[1] - part[0])
    part = Interval(start, end, window.starts_before and start == window.start_utc, window.ends_after and end == window.end_utc)
    return Usable(part, cut=f"{words} A start from {facts.clock(start)} to {facts.clock(end)} leaves the way open.")


def closure_words(facts: ShotFacts, closure: Closure) -> str:
    """Return what closes the place, from when to when."""
    start, end, cause = facts.clock(closure.span.start_utc), facts.clock(closure.span.end_utc), closure.cause
    if isinstance(cause, Hazard):
        assert facts.location is not None and facts.location.tide is not None and cause.cut_off_m is not None
        return (
            f"The place is cut off from {start} to {end} on this tide ({facts.location.tide.told}, above {format_height(cause.cut_off_m)})."
        )
    what = "No permit is recorded" if cause.kind is OpeningKind.PERMIT else "The place is shut"
    return f"{what} from {start} to {end}."


def _blocked_starts(way: Way, closure: Closure) -> list[tuple[datetime, datetime]]:
    """Return the times at which a shot with a way of this length must not begin."""
    moment, first, last = way.moment_utc, closure.span.start_utc, closure.span.end_utc
    legs = [way.walk_in, way.walk_out] if closure.walks_only else [Interval(way.walk_in.start_utc, way.walk_out.end_utc, False, False)]
    return [(first + (moment - leg.end_utc), last + (moment - leg.start_utc)) for leg in legs]
