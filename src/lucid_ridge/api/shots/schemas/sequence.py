"""Step 6 for the front end: groups, frames, and the battery and card they use."""

from __future__ import annotations

from ....core.facts.frame_groups import FrameGroup, Moment, Role
from ....core.planning.verdicts import Mark
from ...platform.fact_fields import gives
from ...platform.fields import Out


@gives(FrameGroup)
class FrameGroupOut(Out):
    """A group of frames as entered."""

    filter_ids: list[int]
    shutter_label: str | None
    focus_label: str | None
    start_clock_label: str | None


class PlannedGroupOut(Out):
    """A planned group.

    at: its index in the list; taken: its position in the order, from 1, None if it is muted or has no frames. mark,
    remarks: its own verdict.
    """

    at: int
    said: FrameGroupOut
    called: str
    taken: int | None
    frames: int
    first: int | None
    last: int | None
    starts_label: str | None
    starts_clock: str | None
    lasts_label: str | None
    focus_words: str
    exposure_words: str
    filters: list[str]
    look: str | None
    mark: Mark | None
    remarks: list[str]


class GroupWayOut(Out):
    """A list of groups to begin with."""

    name: str
    why: str
    groups: list[FrameGroupOut]


class StoresOut(Out):
    """Battery and card used by the frames. open_label: time of all exposures and dark frames."""

    open_label: str
    battery_share: float | None
    cold: float
    files_mb: float | None
    card_share: float | None


class MomentOut(Out):
    """A moment of the shot's day. clock: null if it does not come."""

    name: Moment
    clock: str | None


class FramePictureOut(Out):
    """The picture of a frame: one for each aim and brightness. picture: a data URL."""

    brightest_ev: float
    aim_label: str | None
    picture: str


class FramePicturesOut(Out):
    pictures: list[FramePictureOut]


class BlendRowOut(Out):
    """A group of the blend sheet. steps: in the order in which they are done."""

    called: str
    role: Role
    frames_words: str
    count: int
    steps: list[str]


class BlendSheetOut(Out):
    """last: how the results of the groups are put together; null for a single group."""

    rows: list[BlendRowOut]
    last: str | None


class SequenceFrameOut(Out):
    number: int
    focus_index: int
    exposure_index: int
    focus_label: str
    f_number_label: str
    shutter_s: float
    shutter_label: str
    iso: float
    filters: list[str]
    offset_ev: float
    start_s: float
    end_s: float
    start_label: str
    aim_label: str | None
    group: int
    look: str | None
    brightest_ev: float


class SequenceOut(Out):
    """groups: in listed order.

    own_groups: whether the photographer listed them. ways: preset lists. rows: of a panorama.
    """

    frames: list[SequenceFrameOut]
    groups: list[PlannedGroupOut]
    own_groups: bool
    ways: list[GroupWayOut]
    moments: list[MomentOut]
    stores: StoresOut | None
    rows: int
    total_s: float | None
    total_label: str | None
    available_s: float | None
    available_label: str | None
    start_clock: str | None
    end_clock: str | None
    window_end_clock: str | None
