"""The day clock of an outing: every way, wait, night and stay, one after the other."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..facts.outing import Nights, Outing, StopKind
from ..facts.shot import ShotFacts
from ..planning.way.plan import PACK_UP_MIN, is_dark
from ..spans.intervals import Interval
from .ordering import Order
from .stop_facts import StopFacts
from .stops import Place, way_between
from .visits import Visit

# Shorter than this nothing is drawn [s].
_SHORTEST_S = 1.5


@dataclass(frozen=True)
class Part:
    """A part of the day clock.

    kind: drive, walk, wait, night, set up, frames, scouting, rest, pack up. stop: by its place in the list; None of
    the way home.

    estimated, dark: of ways. where: of waits and nights, in a few words.
    """

    kind: str
    span: Interval
    stop: int | None
    estimated: bool = False
    dark: bool = False
    where: str = ""


def day_clock(planned: Order, stops: Sequence[StopFacts], start: datetime, outing: Outing) -> list[Part]:
    """Return the day clock: every way, wait and stay, one after the other."""
    found: list[Part] = []
    clock = planned.visits[0].out_s if planned.visits else 0.0
    here: StopFacts | None = None

    def add(
        kind: str,
        until_s: float,
        stop: int | None,
        facts: ShotFacts | None = None,
        estimated: bool = False,
        where: str = "",
    ) -> None:
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


def _bed_words(outing: Outing) -> str:
    return "at home" if outing.nights == Nights.HOME else f"at {outing.base_name or 'the base'}"


def place_after(visits: Sequence[Visit]) -> Place | None:
    """Return the place after the last visit that had one."""
    return next((visit.stop.place for visit in reversed(visits) if visit.stop.place is not None), None)
