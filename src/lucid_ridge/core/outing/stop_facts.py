"""What is known of a stop: the shot or place, when it may begin, and how long it takes."""

from __future__ import annotations

from dataclasses import dataclass

from ..facts.outing import OutingStop
from ..facts.shot import ShotFacts
from ..planning.verdicts import HOLDS, Severity
from ..spans.intervals import Interval

# How long one scouts where nothing is said.
SCOUTING_MIN = 45.0


@dataclass(frozen=True)
class StopWindow:
    """When a stop may begin, with its promise from 0 to 1.

    mark: verdict for the stop; an unwanted light counts less.
    """

    span: Interval
    promise: float
    name: str
    mark: Severity = HOLDS


@dataclass(frozen=True, kw_only=True)
class StopFacts:
    """A stop with the data known about it.

    facts: of its shot, or of its place; windows: when it may begin, None: at any time. why_none: why it has no window.

    lasts_s: duration of a shot's frames. location_id, viewpoint_id: where it is; 0 of a rest.
    """

    said: OutingStop
    name: str
    facts: ShotFacts | None = None
    windows: tuple[StopWindow, ...] | None = None
    lasts_s: float = 0.0
    location_id: int = 0
    viewpoint_id: int = 0
    shot_id: int | None = None
    why_none: str = ""
