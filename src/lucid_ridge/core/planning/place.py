"""Step 1: where the tripod stands, what stands before it, how one gets there and what is dangerous."""

from __future__ import annotations

from dataclasses import dataclass

from ..facts.shot import ShotFacts
from ..light.season import in_season
from ..light.track import sun_track
from ..spans.instants import unix_seconds
from ..units.lengths import compass_point, format_distance
from ..units.spelling import format_day
from .arrival import Arrival
from .hazards import hazard_reasons
from .marks import CAUTION, HOLDS, UNSAID, Reason, Verdict, worst_mark
from .way import Way, darkness_reasons, plan_way


@dataclass(frozen=True)
class PlaceStep:
    """arrival: the latest times, None while no time is chosen."""

    verdict: Verdict
    reasons: tuple[Reason, ...]
    arrival: Arrival | None = None


def plan_place(facts: ShotFacts, sequence_s: float = 0.0) -> PlaceStep:
    """Return what is known of the place, and what is missing before the next steps can compute. sequence_s: how long the frames take."""
    reasons = []
    if facts.location is None:
        reasons.append(Reason("place", UNSAID, "Choose a viewpoint: light and depth start from it.", "viewpoint_id"))
        return PlaceStep(Verdict("place", UNSAID, "no viewpoint yet"), tuple(reasons))
    if not facts.elements:
        reasons.append(Reason("place", UNSAID, f"{facts.viewpoint_name} has no elements: add what stands in the scene.", "elements"))
        return PlaceStep(Verdict("place", UNSAID, f"{facts.location.name}, no elements"), tuple(reasons))
    nearest = min(facts.seen_from_camera.elements, key=lambda item: item.distance_m)
    reasons.append(
        Reason(
            "place",
            HOLDS,
            f"{facts.location.name}, {facts.viewpoint_name}: nearest is {nearest.name} at "
            f"{format_distance(nearest.distance_m)}, {compass_point(nearest.bearing_deg)}.",
        )
    )
    way = plan_way(facts, sequence_s)
    reasons += hazard_reasons(facts, _sun_altitude_deg(facts), way)
    reasons += _access_reasons(facts) + _season_reasons(facts)
    if way:
        reasons += ([_arrival_reason(facts, way)] if facts.approach else []) + darkness_reasons(facts, way)
    count = len(facts.elements)
    text = f"{facts.location.name}, {count} element{'s' if count != 1 else ''}"
    mark = worst_mark(reasons)
    cut_off = next((reason for reason in reasons if reason.severity == "fails"), None)
    return PlaceStep(
        Verdict("place", mark, f"{facts.location.name}, cut off" if cut_off else text),
        tuple(reasons),
        way.arrival if way and facts.approach else None,
    )


def _sun_altitude_deg(facts: ShotFacts) -> float | None:
    here, moment = facts.location, facts.light.time_utc
    if here is None or moment is None:
        return None
    return float(sun_track(here.latitude_deg, here.longitude_deg, here.elevation_m, moment, moment).altitude_deg(unix_seconds(moment)))


def _access_reasons(facts: ShotFacts) -> list[Reason]:
    access = facts.access
    if access is None:
        return []
    if access.checked_on is None:
        text = f"Access was not checked{': ' + access.notes.rstrip('.') if access.notes else ''}."
        return [Reason("place", CAUTION, f"{text} Ask before you go.")] if access.notes else []
    source = f", {access.source}" if access.source else ""
    return [Reason("place", HOLDS, f"Access, checked {format_day(access.checked_on)}{source}: {access.notes or 'open'}")]


def _season_reasons(facts: ShotFacts) -> list[Reason]:
    if facts.light.time_utc is None:
        return []
    local = facts.light.time_utc.astimezone(facts.zone)
    return [
        Reason("place", HOLDS, f"{item.kind.capitalize()} at that time of the year: {item.note}")
        for item in facts.season_notes
        if in_season(local, item.from_month, item.from_day, item.to_month, item.to_day)
    ]


def _arrival_reason(facts: ShotFacts, way: Way) -> Reason:
    arrival = way.arrival
    back = f" Back at the car about {facts.clock(way.walk_out.end_utc)}." if arrival.walk_min else ""
    walk = f", {arrival.walk_min:.0f} min on foot" if arrival.walk_min else ""
    if arrival.leave_home_utc is None:
        return Reason(
            "place",
            HOLDS,
            f"Set up by {facts.clock(arrival.set_up_utc)}{walk}: start walking at {facts.clock(arrival.leave_car_utc)}.{back}",
        )
    return Reason(
        "place", HOLDS,
        f"Leave home by {facts.clock(arrival.leave_home_utc)}, the car by {facts.clock(arrival.leave_car_utc)}{walk}; "
        f"set up from {facts.clock(arrival.set_up_utc)}.{back}",
    )  # fmt: skip
