"""Recipes from one's own pictures: the look of the water, when its light returns, and the shutter time for the same
streak on another shot's water.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from sqlalchemy.orm import Session

from ...core.facts.place import Location
from ...core.facts.shot import ShotFacts
from ...core.learning.digests import StreakTaken
from ...core.learning.lessons import speeds_found, streak_drawn
from ...core.learning.recipe import LightAgain, SunThen, light_again, look_of_share, same_streak_s, sun_then
from ...core.planning.plan.shot_plan import plan_shot
from ...store import places
from ...store.log import LogEntry, LogFrame
from ...store.recorded_plans import plan_of_entry
from ..platform.rows import owned
from ..shots.facts import core_location, shot_facts
from ..shots.shots import get_shot
from .digests import taught_by_log
from .entries import frame_of, get_entry


@dataclass(frozen=True)
class Recipe:
    """A recipe.

    share: streak of the water over the frame's short side, measured or estimated. again: when the sun has the same
    position at place. same_s: shutter time for the same streak on the shot's water; None if it or the frame has none.
    """

    share: float | None
    measured: bool
    look: str
    sun: SunThen
    place: Location
    again: tuple[LightAgain, ...]
    shot: ShotFacts | None
    shot_name: str
    water: str
    same_s: float | None


def frame_recipe(
    session: Session,
    owner_id: int,
    frame_id: int,
    today: date,
    location_id: int | None = None,
    shot_id: int | None = None,
) -> Recipe | None:
    """Return the recipe of a frame of the log.

    location_id: where the light is wanted again; None for the frame's own place. shot_id: whose water is compared.
    None for a frame without a place. Raises NotFound.
    """
    row = frame_of(session, owner_id, frame_id)
    entry = get_entry(session, owner_id, row.entry_id) if row.entry_id is not None else None
    if entry is None or entry.location_id is None:
        return None
    taken_at = core_location(owned(session, owner_id, places.Location, entry.location_id))
    sun = sun_then(taken_at, row.taken_at_utc)
    place = (
        core_location(owned(session, owner_id, places.Location, location_id)) if location_id is not None else taken_at
    )
    shot = get_shot(session, owner_id, shot_id) if shot_id is not None else None
    facts = shot_facts(session, shot) if shot is not None else None
    moving = next((item for item in plan_shot(facts).exposure.movers if item.main), None) if facts is not None else None
    share = _drawn(session, owner_id, row, entry)
    same = same_streak_s(share, moving.streak_share(1.0)) if share and moving is not None else None
    return Recipe(
        share=share,
        measured=row.seen_share is not None,
        look=look_of_share(share) if share else "",
        sun=sun,
        place=place,
        again=light_again(place, sun, today),
        shot=facts,
        shot_name=shot.name if shot is not None else "",
        water=moving.name if moving is not None else "",
        same_s=same,
    )


def _drawn(session: Session, owner_id: int, row: LogFrame, entry: LogEntry) -> float | None:
    """Return the streak of water in a frame, as figures and lessons count it; None where nothing moved."""
    if not row.streak_share:
        return None
    plan = plan_of_entry(entry)
    streak = StreakTaken(row.id, row.streak_share, row.seen_share, plan.moving_id, plan.speed_stops, "", None)
    return streak_drawn(streak, speeds_found(taught_by_log(session, owner_id).digests))
