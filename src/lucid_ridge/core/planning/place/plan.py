"""Step 1: where the tripod stands, what stands before it, how one gets there and what is dangerous."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from ...facts.place import OpeningKind
from ...facts.shot import ShotFacts
from ...light.track import sun_track
from ...spans.instants import unix_seconds
from ...units.lengths import compass_point, format_distance
from ...units.spelling import format_day
from ..verdicts import CAUTION, HOLDS, UNSAID, Reason, Verdict, worst_mark
from ..way.arrival import Arrival
from ..way.closure_reasons import closure_reasons
from ..way.hazards import hazard_reasons
from ..way.plan import darkness_reasons, plan_way, way_reasons
from ..weather.reasons import way_weather_reasons
from ..wording import after_colon, ended
from .season_notes import notes_in_season

# Longer ago than this, gates and fees may have changed.
_CHECKED_FOR_MONTHS = 12


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
    reasons += _access_reasons(facts) + _opening_reasons(facts) + _scouting_reasons(facts) + _season_reasons(facts)
    if way:
        reasons += closure_reasons(facts, way) + way_weather_reasons(facts, way)
        reasons += (way_reasons(facts, way) if facts.approach else []) + darkness_reasons(facts, way)
    count = len(facts.elements)
    text = f"{facts.location.name}, {count} element{'s' if count != 1 else ''}"
    mark = worst_mark(reasons)
    cut_off = next((reason for reason in reasons if reason.severity == "fails"), None)
    return PlaceStep(
        Verdict("place", mark, f"{facts.location.name}, no way there" if cut_off else text),
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
        text = ended(f"Access was not checked{after_colon(access.notes)}")
        return [Reason("place", CAUTION, f"{text} Ask before you go.")] if access.notes else []
    source = f", {access.source}" if access.source else ""
    months = _months_between(access.checked_on, facts.light.date_local)
    if months > _CHECKED_FOR_MONTHS:
        text = f"Access was last checked {months} months before that day, {format_day(access.checked_on)}{source}: {access.notes or 'open'}"
        return [Reason("place", CAUTION, f"{ended(text)} Ask again before you go.")]
    return [Reason("place", HOLDS, ended(f"Access, checked {format_day(access.checked_on)}{source}: {access.notes or 'open'}"))]


def _months_between(checked: date, day: date | None) -> int:
    """Return the whole months from one day to another; 0 where there is none, or where it comes first."""
    if day is None:
        return 0
    return max(0, (day.year - checked.year) * 12 + day.month - checked.month - (day.day < checked.day))


def _opening_reasons(facts: ShotFacts) -> list[Reason]:
    """Return what permits without dates ask for; what has hours or dates is judged with the way."""
    return [
        Reason("place", CAUTION, ended(f"A permit is needed here{after_colon(item.note)}"))
        for item in facts.openings
        if item.kind is OpeningKind.PERMIT and item.first_date is item.last_date is None
    ]


def _scouting_reasons(facts: ShotFacts) -> list[Reason]:
    visit = facts.scouted
    if visit is None:
        return []
    bring = f" {ended(f'Bring {visit.bring}')}" if visit.bring else ""
    return [Reason("place", HOLDS, f"{ended(f'Scouted by day on {format_day(visit.visited_on)}{after_colon(visit.note)}')}{bring}")]


def _season_reasons(facts: ShotFacts) -> list[Reason]:
    if facts.light.time_utc is None:
        return []
    notes = notes_in_season(facts, facts.light.time_utc)
    return [Reason("place", HOLDS, ended(f"At that time of the year, {words}")) for words in notes]
