"""The solver."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from ...operations.shots.curing import cures_for
from ...operations.shots.solutions import solution_for
from ...operations.shots.working import workings_for
from ..platform.context import context
from .present.curing import present_cures
from .present.solution import present_solution
from .schemas.curing import CuresOut
from .schemas.solution import SolutionOut
from .schemas.working import WorkingOut, WorkingsOut

solutions = APIBlueprint("solutions", __name__, url_prefix="/api")


@solutions.get("/shots/<int:shot_id>/cures")
@solutions.output(CuresOut)
def cures(shot_id: int) -> Any:
    """For each of the worst reasons of a shot the nearest change with which it goes. Changes nothing."""
    here = context()
    return present_cures(cures_for(here.session, here.owner_id, shot_id))


@solutions.get("/shots/<int:shot_id>/workings")
@solutions.output(WorkingsOut)
def workings(shot_id: int) -> Any:
    """How the figures of a shot's plan come about: formula, numbers, where they came from, assumption, source."""
    here = context()
    found = workings_for(here.session, here.owner_id, shot_id)
    return WorkingsOut(workings=[WorkingOut.model_validate(item) for item in found])


@solutions.get("/shots/<int:shot_id>/solution")
@solutions.output(SolutionOut)
def solution(shot_id: int) -> Any:
    """Plans that meet the wishes of a shot, side by side; if none does, what has to give way and by how much.

    Changes nothing.
    """
    here = context()
    return present_solution(solution_for(here.session, here.owner_id, shot_id))
