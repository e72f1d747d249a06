"""The solver's plans, side by side."""

from __future__ import annotations

from datetime import datetime

from ....core.facts.choices import BracketMode, DepthMethod, Hold
from ....core.facts.wishes import Stake
from ....core.planning.verdicts import Mark
from ....core.solving.goals import Goal
from ....core.solving.solver import PlanKind
from ...platform.fields import Out
from .shots import FilterUseOut


class TakesOut(Out):
    """The values that a plan sets, by the names of the shot's facts. time_utc: null if the start stays."""

    f_number: float
    iso: float
    depth_method: DepthMethod
    bracket: BracketMode
    hold: Hold
    filters: list[FilterUseOut]
    time_utc: datetime | None


class MissedOut(Out):
    goal: Goal
    words: str
    must: bool


class SolvedOut(Out):
    """A plan with its cost. missed: wishes it does not meet; lets_go: whether it discards a list of own groups."""

    kind: PlanKind | None
    takes: TakesOut
    f_number_label: str
    iso: float
    shutter_label: str
    look: str | None
    filters: str
    focus_words: str
    exposure_words: str
    frames: int
    total_label: str
    start_clock: str | None
    hold: Hold
    blur_times: float | None
    mark: Mark
    missed: list[MissedOut]
    changes: list[str]
    lets_go: bool


class WishOut(Out):
    goal: Goal
    name: str
    stake: Stake


class ConcessionOut(Out):
    words: str
    plan: SolvedOut


class SolutionOut(Out):
    """lacking: what is missing to solve, null if nothing is.

    now: the shot as it is. judged: number of candidates. if_darker, if_brighter: the plan if the light is one stop
    less or more than estimated; null if it was metered or nothing changes.
    """

    lacking: str | None
    judged: int
    wishes: list[WishOut]
    now: SolvedOut | None
    plans: list[SolvedOut]
    concessions: list[ConcessionOut]
    if_darker: str | None
    if_brighter: str | None
