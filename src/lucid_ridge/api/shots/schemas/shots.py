"""Shots: requests and responses."""

from __future__ import annotations

from datetime import date
from enum import StrEnum
from typing import Annotated

from pydantic import Field

from ....core.exposure.moving_things import MotionWish
from ....core.facts.choices import DepthChoices, ExposureChoices, FrameChoices, LightChoices, SequenceChoices, ShotHead
from ....core.facts.frame_groups import MOST_GROUPS, FrameGroup
from ....core.facts.notebook import NotebookOrder
from ....core.facts.spots import MOST_SPOTS, SpotPart
from ....core.facts.wishes import WishChoices
from ...places.schemas import ViewpointOut
from ...platform.fact_fields import changes, gives, takes, unsaid
from ...platform.fields import Clock, Day, Ev, FilterCost, Id, In, LengthMm, MeterReading, Out, Share
from ...platform.shared_schemas import MarkingOut
from ...platform.undo import UndoOut
from .framings import BackdropOut, MiniatureOut
from .plan import PlanOut, VerdictOut
from .sequence import FrameGroupOut


class FilterUse(In):
    """How a shot uses a filter; neither on the lens nor in the bag removes it."""

    filter_id: Id
    on_lens: bool
    on_when_metered: bool
    set_stops: Annotated[FilterCost | None, Field(ge=0, le=25)] = None


class MotionWishIn(In):
    """The look wanted of something that moves. element_id: null for the clouds."""

    element_id: Id | None
    wish: MotionWish


class SpotIn(In):
    """A spot reading as entered: "1/20 at f/11, ISO 100" or "EV 12".

    element_id: if part is element. through_stops: of the filters it was taken through.
    """

    part: SpotPart
    element_id: Id | None = None
    said: MeterReading
    through_stops: Annotated[Ev, Field(ge=0, le=30)] = 0.0


@takes(ShotHead, but=["support_id", "favourite", "archived"])
class ShotIn(In):
    date_local: Day | None = None


@changes(LightChoices)
class LightPatch(In):
    """clock_local: the time of day at the place."""

    clock_local: Clock = unsaid()


@changes(FrameChoices)
class FramePatch(In):
    """keep_subject_size: with a new focal_mm the camera moves so that the subject keeps its size.

    crop_share: the crop's field as a share of the lens's, stored as the equivalent focal length.
    """

    keep_subject_size: bool = False
    crop_share: Annotated[Share, Field(ge=0.02, le=1)] = unsaid()
    accessory_ids: Annotated[list[Id], Field(max_length=100)] = unsaid()


@changes(DepthChoices)
class DepthPatch(In):
    """field_mm: length of a ruler that fills the frame's width; the magnification follows."""

    field_mm: Annotated[LengthMm, Field(ge=0.5, le=5000)] = unsaid()
    sharp_element_ids: Annotated[list[Id], Field(max_length=500)] = unsaid()


@changes(ExposureChoices)
class ExposurePatch(In):
    filters: Annotated[list[FilterUse], Field(max_length=100)] = unsaid()
    spots: Annotated[list[SpotIn], Field(max_length=MOST_SPOTS)] = unsaid()
    motion_wishes: Annotated[list[MotionWishIn], Field(max_length=100)] = unsaid()


@takes(FrameGroup)
class FrameGroupIn(In):
    """A group of frames. filter_ids: of the filters on the lens, if filters is chosen."""

    filter_ids: Annotated[list[Id], Field(max_length=20)] = Field(default_factory=list)


@changes(SequenceChoices)
class SequencePatch(In):
    """frame_groups: the groups of the picture; an empty list leaves them to depth and exposure."""

    frame_groups: Annotated[list[FrameGroupIn], Field(max_length=MOST_GROUPS)] = unsaid()


@changes(WishChoices)
class WishesPatch(In):
    pass


@changes(ShotHead)
class ShotPatch(In):
    """Only given values change; null clears a value, so that the application chooses it."""

    light: LightPatch = Field(default_factory=LightPatch)
    frame: FramePatch = Field(default_factory=FramePatch)
    depth: DepthPatch = Field(default_factory=DepthPatch)
    exposure: ExposurePatch = Field(default_factory=ExposurePatch)
    sequence: SequencePatch = Field(default_factory=SequencePatch)
    wishes: WishesPatch = Field(default_factory=WishesPatch)


class FilterUseOut(Out):
    filter_id: int
    on_lens: bool
    on_when_metered: bool
    set_stops: float | None


class MotionWishOut(Out):
    element_id: int | None
    wish: MotionWish


class SpotOut(Out):
    part: SpotPart
    element_id: int | None
    said: str
    ev100: float
    through_stops: float


@gives(LightChoices)
class LightFactsOut(Out):
    """The clock times are those of the place."""

    clock_local: str | None
    window_end_clock: str | None


@gives(FrameChoices)
class FrameFactsOut(Out):
    accessory_ids: list[int]


@gives(DepthChoices)
class DepthFactsOut(Out):
    sharp_element_ids: list[int]


@gives(ExposureChoices)
class ExposureFactsOut(Out):
    filters: list[FilterUseOut]
    spots: list[SpotOut]
    motion_wishes: list[MotionWishOut]


@gives(SequenceChoices)
class SequenceFactsOut(Out):
    """frame_groups: empty if depth and exposure make them; the plan has the effective ones."""

    frame_groups: list[FrameGroupOut]


@gives(WishChoices)
class WishesFactsOut(Out):
    pass


@gives(ShotHead)
class ShotFactsOut(Out):
    """The photographer's choices; null if not given. labels: by name."""

    light: LightFactsOut
    frame: FrameFactsOut
    depth: DepthFactsOut
    exposure: ExposureFactsOut
    sequence: SequenceFactsOut
    wishes: WishesFactsOut
    labels: dict[str, str]


class PlaceOut(Out):
    """The place of a shot."""

    location_id: int
    location_name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    zone: str
    tide_name: str | None
    viewpoint: ViewpointOut


class DetentsOut(Out):
    """The marks of a dial; at_start and at_end say why it ends there."""

    marks: list[MarkingOut]
    at_start: str
    at_end: str


class DialsOut(Out):
    """The settings that body and lens allow."""

    apertures: DetentsOut
    isos: DetentsOut
    focals: DetentsOut
    shutters: DetentsOut


class RemarkOut(Out):
    """A remark on a value that is allowed."""

    field: str
    text: str


class OwnCopy(StrEnum):
    VIEWPOINT = "viewpoint"
    LOCATION = "location"
    BODY = "body"
    LENS = "lens"
    SUPPORT = "support"


class OwnIn(In):
    """What the shot gets its own copy of."""

    what: OwnCopy


class ShotOut(Out):
    id: int
    facts: ShotFactsOut
    dials: DialsOut
    remarks: list[RemarkOut]
    place: PlaceOut | None
    plan: PlanOut
    card_id: int | None
    undo: UndoOut
    backdrop: BackdropOut | None


class ShotSummaryOut(Out):
    id: int
    name: str
    intent: str
    location_name: str | None
    date_local: date | None
    clock_local: str | None
    favourite: bool
    archived: bool
    group: str
    verdicts: list[VerdictOut]
    miniature: MiniatureOut | None
    fresh: bool


class NotebookQuery(In):
    """words: searched in name, intent, the location's name and notes, names of elements, notes of visits, and outings.

    A page of limit entries after offset others. by: grouping. archived: archived shots instead of the others.
    favourites: only these.
    """

    by: NotebookOrder = NotebookOrder.NEXT
    archived: bool = False
    favourites: bool = False

    words: Annotated[str, Field(max_length=200)] = ""
    offset: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    limit: Annotated[int, Field(ge=1, le=200)] = 60


class NotebookOut(Out):
    """total: of all pages. pending: some entries are being planned; ask again."""

    shots: list[ShotSummaryOut]
    total: int
    pending: bool
    undo: UndoOut
