"""Step 1: the tripod position, the elements before it, the way there and its dangers."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from ...facts.place import OpeningKind
from ...facts.shot import ShotFacts
from ...light.track import sun_track
from ...spans.instants import unix_seconds
from ..reasons import Reason, worst_mark
from ..verdicts import UNSAID, Verdict
from ..way.arrival import Arrival
from ..way.closure_reasons import closure_reasons
from ..way.hazards import hazard_reasons
from ..way.plan import darkness_reasons, plan_way, way_reasons
from ..weather.reasons import way_weather_reasons
from . import wording as say
from .season_notes import notes_in_season

# Longer ago than this, gates and fees may have changed.
_CHECKED_FOR_MONTHS = 12


@dataclass(frozen=True, kw_only=True)
class PlaceStep:
    """arrival: the latest times, None while no time is chosen."""

    verdict: Verdict
    reasons: tuple[Reason, ...]
    arrival: Arrival | None = None


def plan_place(facts: ShotFacts, sequence_s: float = 0.0) -> PlaceStep:
    """Return the step of the place. sequence_s: how long the frames take [s]."""
    if facts.location is None:
        return PlaceStep(
            verdict=Verdict("place", UNSAID, "no viewpoint yet"), reasons=(say.no_viewpoint().unsaid("viewpoint_id"),)
        )
    if not facts.elements:
        reason = say.no_elements(viewpoint=facts.viewpoint_name or "").unsaid("elements")
        return PlaceStep(verdict=Verdict("place", UNSAID, f"{facts.location.name}, no elements"), reasons=(reason,))
    nearest = min(facts.seen_from_camera.elements, key=lambda item: item.distance_m)
    words = say.nearest(
        location=facts.location.name,
        viewpoint=facts.viewpoint_name or "",
        element=nearest.name,
        distance_m=nearest.distance_m,
        bearing_deg=nearest.bearing_deg,
    )
    reasons = [words.holds()]
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
        verdict=Verdict("place", mark, f"{facts.location.name}, no way there" if cut_off else text),
        reasons=tuple(reasons),
        arrival=way.arrival if way and facts.approach else None,
    )


def _sun_altitude_deg(facts: ShotFacts) -> float | None:
    here, moment = facts.location, facts.light.time_utc
    if here is None or moment is None:
        return None
    return float(
        sun_track(here.latitude_deg, here.longitude_deg, here.elevation_m, moment, moment).altitude_deg(
            unix_seconds(moment)
        )
    )


def _access_reasons(facts: ShotFacts) -> list[Reason]:
    access = facts.access
    if access is None:
        return []
    if access.checked_on is None:
        return [say.access_not_checked(notes=access.notes).caution()] if access.notes else []
    months = _months_between(access.checked_on, facts.light.date_local)
    if months > _CHECKED_FOR_MONTHS:
        words = say.access_checked_long_ago(
            months=months, checked_on=access.checked_on, source=access.source, notes=access.notes
        )
        return [words.caution()]
    return [say.access_checked(checked_on=access.checked_on, source=access.source, notes=access.notes).holds()]


def _months_between(checked: date, day: date | None) -> int:
    """Return the whole months from one day to another; 0 without a day, or if it comes first."""
    if day is None:
        return 0
    return max(0, (day.year - checked.year) * 12 + day.month - checked.month - (day.day < checked.day))


def _opening_reasons(facts: ShotFacts) -> list[Reason]:
    """Return a reason for each permit without dates; what has hours or dates is judged with the way."""
    return [
        say.permit_needed(note=item.note).caution()
        for item in facts.openings
        if item.kind is OpeningKind.PERMIT and item.first_date is item.last_date is None
    ]


def _scouting_reasons(facts: ShotFacts) -> list[Reason]:
    visit = facts.scouted
    return [say.scouted(visited_on=visit.visited_on, note=visit.note, bring=visit.bring).holds()] if visit else []


def _season_reasons(facts: ShotFacts) -> list[Reason]:
    if facts.light.time_utc is None:
        return []
    return [say.season(note=note).holds() for note in notes_in_season(facts, facts.light.time_utc)]
