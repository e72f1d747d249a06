"""Markings, the photographer, archives."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...core.units.spelling import DayOrder, DialSteps, Hours, Lengths
from ...operations.notebook.find import FoundKind
from ...store.photographer import Theme
from ..platform.fields import In, LengthMm, Minutes, Out
from ..platform.shared_schemas import MarkingOut


class FindQuery(In):
    words: Annotated[str, Field(max_length=200)] = ""


class FoundOut(Out):
    """A row that was found. words: where or what it is."""

    kind: FoundKind
    id: int
    label: str
    words: str


class FindOut(Out):
    found: list[FoundOut]


class HealthOut(Out):
    status: str


class RevisionOut(Out):
    """revision increases with every write to the notebook; notebook is its token."""

    revision: int
    notebook: str


class MarkingsOut(Out):
    """The detents of the dials: exact values with their engraved figures."""

    shutters: list[MarkingOut]
    apertures: list[MarkingOut]
    isos: list[MarkingOut]
    focals: list[MarkingOut]


class WeightOut(Out):
    """A factor of the promise: its weight in force and the model's own."""

    name: str
    weight: float
    model_weight: float


class PhotographerOut(Out):
    id: int
    name: str
    theme: Theme
    lengths: Lengths
    hours: Hours
    day_order: DayOrder
    dial_steps: DialSteps
    set_up_min: float
    reserve_min: float
    thumb_mm: float
    arm_mm: float
    thumb_deg: float
    polariser_from_mm: float | None
    simulated_weather: bool
    weights: list[WeightOut]


class PhotographerPatch(In):
    """set_up_min before the light; reserve_min for the drive; thumb_mm wide at arm_mm from the eye; polariser_from_mm:
    no polariser on wider lenses, as on 36 × 24 mm; simulated_weather: practise with simulated forecasts and tides;
    promise_weights by factor, 0 to 100.
    """

    theme: Theme = Theme.GRAPHITE
    lengths: Lengths = Lengths.METRES
    hours: Hours = Hours.TWENTY_FOUR
    day_order: DayOrder = DayOrder.DAY_FIRST
    dial_steps: DialSteps = DialSteps.THIRDS
    set_up_min: Annotated[Minutes, Field(ge=0, le=600)] = 20.0
    reserve_min: Annotated[Minutes, Field(ge=0, le=600)] = 15.0
    thumb_mm: Annotated[LengthMm, Field(ge=1, le=100)] = 22.0
    arm_mm: Annotated[LengthMm, Field(ge=100, le=1200)] = 630.0
    polariser_from_mm: Annotated[LengthMm | None, Field(ge=8, le=200)] = None
    simulated_weather: bool = False
    promise_weights: dict[str, float] = {}


class ReadArchiveOut(Out):
    """Number of new rows of an archive, of rows that existed, and a sentence."""

    rows: int
    shots: int
    known: int
    words: str
