"""All workings of a plan by figure."""

from __future__ import annotations

from ..facts.settings import settings_of
from ..facts.shot import ShotFacts
from ..planning.plan.shot_plan import ShotPlan
from .of_depth import depth_workings
from .of_exposure import exposure_workings
from .of_light import light_workings
from .working import Working


def workings(facts: ShotFacts, plan: ShotPlan) -> tuple[Working, ...]:
    """Return the workings of all figures that a plan has. plan: of these facts."""
    settings = settings_of(facts)
    found = light_workings(facts, plan.light)
    if settings is not None:
        found += depth_workings(facts, settings, plan.depth) + exposure_workings(facts, settings, plan.exposure)
    return tuple(found)
