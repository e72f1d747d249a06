"""What the solver finds, as the front end shows it side by side."""

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
    """What taking a plan sets, by the names of the shot's facts. time_utc: null where the start stays."""

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
    """A plan with what it costs. missed: of the wishes; lets_go: whether a list of groups of one's own goes with it."""

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
    """lacking: why nothing can be solved, null where it can.

    now: the shot as it stands. judged: how many candidates were.

    if_darker, if_brighter: what would be taken where the light is a stop less or more than it is predicted; null where
    it was metered or nothing changes.
    """

    lacking: str | None
    judged: int
    wishes: list[WishOut]
    now: SolvedOut | None
    plans: list[SolvedOut]
    concessions: list[ConcessionOut]
    if_darker: str | None
    if_brighter: str | None
