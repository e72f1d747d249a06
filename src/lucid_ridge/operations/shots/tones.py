"""The picture of a shot in tones."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from ...core.facts.shot import ShotFacts
from ...core.planning.plan.shot_plan import plan_shot
from ...core.planning.reasons import Reason
from ...core.planning.tones.plan import TonesStep, plan_tones
from ...core.planning.tones.reasons import (
    compensation_to_the_right,
    needed_graduated_stops,
    to_the_right_stops,
    tone_reasons,
)
from ...core.planning.tones.sky_ways import SkyWay, sky_ways
from ..platform.errors import Refused
from .facts import shot_facts
from .shots import get_shot


@dataclass(frozen=True)
class TonesView:
    """A shot's picture in tones with its reasons; step None: body, lens or time are not chosen yet."""

    facts: ShotFacts
    step: TonesStep | None
    reasons: tuple[Reason, ...] = ()
    needed_graduated_stops: float | None = None
    to_the_right_stops: float | None = None
    compensation_to_the_right: float | None = None
    ways: tuple[SkyWay, ...] = ()


def scene_for(session: Session, owner_id: int, shot_id: int) -> TonesStep:
    """Return a shot's picture in tones for its scene. Raises NotFound, and Refused while it cannot be drawn."""
    step = tones_for(session, owner_id, shot_id).step
    if step is None:
        raise Refused("time_utc", "The scene in tones needs a body, a lens and a time: choose them first.")
    return step


def tones_for(session: Session, owner_id: int, shot_id: int) -> TonesView:
    """Return a shot's current picture in tones. Raises NotFound."""
    facts = shot_facts(session, get_shot(session, owner_id, shot_id))
    plan = plan_shot(facts)
    step = plan_tones(facts, plan)
    if step is None:
        return TonesView(facts, None)
    return TonesView(
        facts,
        step,
        tone_reasons(facts, step),
        needed_graduated_stops(step),
        to_the_right_stops(facts, step),
        compensation_to_the_right(facts, step),
        sky_ways(facts, plan, step),
    )
