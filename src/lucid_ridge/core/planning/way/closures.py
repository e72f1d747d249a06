"""What closes the way to a shot: tide, gates, hours and permits; and which starts of a window are left.

One may wait out a tide where one stands, but not walk through it; behind a gate one may not be at all. What is not
known of a tide is neither open nor closed.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from ...facts.place import Hazard, HazardKind, Opening, OpeningKind
from ...facts.shot import ShotFacts
from ...light.season import in_season
from ...spans.intervals import Interval
from ...tides.heights import unknown_spans, water_spans
from ...units.lengths import format_duration, format_height
from ..verdicts import FAILS, HOLDS, UNSAID, Severity
from .openings import closed_spans
from .plan import DRIVE, WALKS, Way, is_dark, plan_way

# Margin around a span in the search for closures, so that no closure is shown with an end that is only the search's.
LOOKED_FOR = timedelta(hours=18)


@dataclass(frozen=True)
class Closure:
    """A span in which a hazard cuts the place off, or an opening entry shuts it.

    known False: in which nobody knows whether the tide does.
    """

    span: Interval
    cause: Hazard | Opening
    known: bool = True

    @property
    def walks_only(self) -> bool:
        """Whether only the walks must not meet it, not the stay."""
        return isinstance(self.cause, Hazard)


@dataclass(frozen=True)
class Leg:
    """A part of the way and stay by its name, as Way.legs has it.

    dark: walked in the dark. closed: something closes it; unknown: the tide then is not known.
    """

    name: str
    span: Interval
    dark: bool
    closed: bool
    unknown: bool = False


@dataclass(frozen=True)
class Usable:
    """The part of a window in which a shot may begin.

    span: None where every start is closed; broken says why. cut: why it is not the whole window. unknown: why nobody
    knows whether the way is open then. short: the frames take longer than what is left of the light.
    """

    span: Interval | None
    broken: str = ""
    cut: str = ""
    unknown: str = ""
    short: str = ""

    @property
    def mark(self) -> Severity:
        """The window's mark by its way and its length."""
        return FAILS if self.span is None or self.short else UNSAID if self.unknown else HOLDS

    @property
    def words(self) -> tuple[str, ...]:
        """All sentences about it."""
        return tuple(text for text in (self.broken, self.short, self.unknown, self.cut) if text)

    @property
    def length(self) -> timedelta:
        return self.span.end_utc - self.span.start_utc if self.span is not None else timedelta(0)


def tide_closures(facts: ShotFacts, hazard: Hazard, start_utc: datetime, end_utc: datetime) -> list[Closure]:
    """Return the spans from start_utc to end_utc in which the tide, with the place's margin, cuts it off, and those in
    which it is not known.
    """
    here = facts.location
    if here is None or hazard.kind is not HazardKind.TIDE or hazard.cut_off_m is None:
        return []
    if here.tide is None:
        return [Closure(Interval(start_utc, end_utc, True, True), hazard, known=False)]
    margin = timedelta(minutes=here.tide_margin_min)
    wet = water_spans(here.tide, start_utc - margin, end_utc + margin, hazard.cut_off_m - here.tide_margin_m, None)
    found = [Closure(span, hazard) for span in _widened(wet, margin, start_utc, end_utc)]
    found += [Closure(span, hazard, known=False) for span in unknown_spans(here.tide, start_utc, end_utc)]
    return [item for item in found if in_its_months(facts, hazard, item.span.start_utc)]


def _widened(spans: Iterable[Interval], by: timedelta, start_utc: datetime, end_utc: datetime) -> list[Interval]:
    """Return spans made longer at both ends, within start_utc and end_utc; those that then meet are one."""
    found: list[Interval] = []
    for span in spans:
        first, last = max(start_utc, span.start_utc - by), min(end_utc, span.end_utc + by)
        if first >= last:
            continue
        if found and first <= found[-1].end_utc:
            first = found.pop().start_utc
        found.append(Interval(first, last, first == start_utc, last == end_utc))
    return found


def closures(facts: ShotFacts, start_utc: datetime, end_utc: datetime) -> list[Closure]:
    """Return all closures of the place from start_utc to end_utc, and the times at which its tide is unknown, in order
    of time.
    """
    tides = [item for hazard in facts.hazards for item in tide_closures(facts, hazard, start_utc, end_utc)]
    shut = [Closure(span, item) for span, item in closed_spans(facts.openings, facts.zone, start_utc, end_utc)]
    return sorted(tides + shut, key=lambda item: item.span.start_utc)


def closures_of_way(facts: ShotFacts, way: Way) -> list[Closure]:
    """Closures of the place around a walk in, a stay and a walk out."""
    return closures(facts, way.walk_in.start_utc - LOOKED_FOR, way.walk_out.end_utc + LOOKED_FOR)


def in_its_months(facts: ShotFacts, hazard: Hazard, moment: datetime) -> bool:
    """Return whether a hazard applies at a given time."""
    if hazard.from_month is None or hazard.to_month is None:
        return True
    return in_season(moment.astimezone(facts.zone), hazard.from_month, 1, hazard.to_month, 31)


def caught_legs(way: Way, closure: Closure) -> list[tuple[str, Interval]]:
    """Return the legs of the way that meet a closure, each with its name. This decides wherever a way is judged."""
    legs = [("way in", way.walk_in), ("way out", way.walk_out)]
    if not closure.walks_only:
        legs.insert(1, ("stay", way.stay))
    return [(name, leg) for name, leg in legs if _meet(closure, leg)]


def legs_of(facts: ShotFacts, way: Way, closed: Sequence[Closure] = ()) -> tuple[Leg, ...]:
    """Return the legs of a way one after the other, with what darkness and closures do to each; a drive is neither."""
    found = []
    for name, span in way.legs:
        met = [
            item.known
            for item in closed
            if name != DRIVE and (name in WALKS or not item.walks_only) and _meet(item, span)
        ]
        found.append(Leg(name, span, name in WALKS and is_dark(facts, span), any(met), bool(met) and not any(met)))
    return tuple(found)


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


def usable_part(
    facts: ShotFacts,
    window: Interval,
    sequence_s: float,
    known: Sequence[Closure] | None = None,
    held_s: float | None = None,
) -> Usable:
    """Return when in a window a shot that lasts sequence_s may begin, so that nothing closes its way and all frames are
    in the window.

    The longest part counts; a way that is not known to be open comes before frames that outlast the window. known: the
    closures around the window, where they have been computed for many windows at once. held_s: how long the window must
    hold from the start on; None: for all frames.
    """
    way = plan_way(facts, sequence_s, window.start_utc)
    if way is None:
        return Usable(window)
    found = known if known is not None else closures(facts, window.start_utc - LOOKED_FOR, window.end_utc + LOOKED_FOR)
    return usable_for(facts, way, window, sequence_s if held_s is None else held_s, found)


def usable_for(facts: ShotFacts, way: Way, window: Interval, held_s: float, closed: Sequence[Closure]) -> Usable:
    """Return the same for a way as it is at the window's start."""
    whole = (window.start_utc, window.end_utc)
    last = window.end_utc if window.ends_after else window.end_utc - timedelta(seconds=held_s)
    sure = [item for item in closed if item.known]
    tries = [(whole[0], last, closed), (whole[0], last, sure), (*whole, closed), (*whole, sure)]
    for turn, (start, end, counted) in enumerate(tries):
        parts, blocking = _starts_left(way, counted, start, end)
        if not parts:
            continue
        start, end = max(parts, key=lambda part: part[1] - part[0])
        part = Interval(start, end, window.starts_before and start == whole[0], window.ends_after and end == whole[1])
        _, doubtful = _starts_left(way, [item for item in closed if not item.known], start, end)
        cut = (
            f"{_said(facts, blocking)} A start from {facts.clock(start)} to {facts.clock(end)} leaves the way open."
            if blocking
            else ""
        )
        short = turn >= 2 and (whole[1] - whole[0], timedelta(seconds=held_s))
        return Usable(
            part,
            cut=cut,
            unknown=_said(facts, doubtful) if counted is sure else "",
            short=_short_words(*short) if short else "",
        )
    _, blocking = _starts_left(way, sure, *whole)
    return Usable(None, broken=f"{_said(facts, blocking)} No start in this window leaves the way in and out open.")


def _starts_left(
    way: Way, closed: Iterable[Closure], start: datetime, end: datetime
) -> tuple[list[tuple[datetime, datetime]], list[Closure]]:
    """Return the starts from start to end that meet no closure, and which closures take some away."""
    parts, blocking = [(start, end)] if start < end else [], []
    for closure in closed:
        for first, last in _blocked_starts(way, closure):
            left = [
                piece
                for begin, stop in parts
                for piece in ((begin, min(stop, first)), (max(begin, last), stop))
                if piece[0] < piece[1]
            ]
            if left != parts:
                parts = left
                blocking.append(closure)
    return parts, blocking


def _said(facts: ShotFacts, closed: Iterable[Closure]) -> str:
    return " ".join(dict.fromkeys(closure_words(facts, closure) for closure in closed))


def _short_words(window: timedelta, frames: timedelta) -> str:
    return (
        f"The frames take {format_duration(frames.total_seconds())}; this light lasts "
        f"{format_duration(window.total_seconds())}: not all of them are in it."
    )


def closure_words(facts: ShotFacts, closure: Closure) -> str:
    """Return the cause of a closure and its times."""
    cause, when = closure.cause, _when(facts, closure.span)
    if isinstance(cause, Opening):
        return f"{'No permit is recorded' if cause.kind is OpeningKind.PERMIT else 'The place is shut'} {when}."
    assert facts.location is not None and cause.cut_off_m is not None
    tide, height = facts.location.tide, format_height(cause.cut_off_m)
    if tide is None:
        return f"Water above {height} cuts the place off, and it has no tide: whether the way is open is not known."
    if not closure.known:
        return (
            f"The tide is not known {when} ({tide.told}), and water above {height} cuts the place off: "
            "whether the way is open is not known."
        )
    return f"The place is cut off {when} on this tide ({tide.told}, above {height}{_margin_words(facts)})."


def _margin_words(facts: ShotFacts) -> str:
    assert facts.location is not None
    parts = [format_height(facts.location.tide_margin_m)] if facts.location.tide_margin_m else []
    parts += [f"{facts.location.tide_margin_min:.0f} min"] if facts.location.tide_margin_min else []
    return f", margin {', '.join(parts)}" if parts else ""


def _when(facts: ShotFacts, span: Interval) -> str:
    """Return a span in words, without an end that is only the search's."""
    if span.starts_before and span.ends_after:
        return "at that time"
    if span.ends_after:
        return f"from {facts.clock(span.start_utc)} onwards"
    if span.starts_before:
        return f"until {facts.clock(span.end_utc)}"
    return f"from {facts.clock(span.start_utc)} to {facts.clock(span.end_utc)}"


def _blocked_starts(way: Way, closure: Closure) -> list[tuple[datetime, datetime]]:
    """Return the times at which a shot with a way of this length must not begin."""
    moment, first, last = way.moment_utc, closure.span.start_utc, closure.span.end_utc
    legs = (
        [way.walk_in, way.walk_out]
        if closure.walks_only
        else [Interval(way.walk_in.start_utc, way.walk_out.end_utc, False, False)]
    )
    return [(first + (moment - leg.end_utc), last + (moment - leg.start_utc)) for leg in legs]
