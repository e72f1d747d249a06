"""Step 6 as the front end draws it: groups, frames, and what they take."""

from __future__ import annotations

from ....core.facts.frame_groups import FrameGroup, Moment, Role
from ....core.planning.verdicts import Mark
from ...platform.fact_fields import gives
from ...platform.fields import Out


@gives(FrameGroup)
class FrameGroupOut(Out):
    """A group of frames as it is said."""

    filter_ids: list[int]
    shutter_label: str | None
    focus_label: str | None
    start_clock_label: str | None


class PlannedGroupOut(Out):
    """A group with what it comes to.

    at: where it stands in the list; taken: as which it is taken, from 1, None where it is muted or has no frames.

    mark, remarks: how it is judged by itself.
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
    """What the frames take of battery and card. open_label: of all exposures and dark frames."""

    open_label: str
    battery_share: float | None
    cold: float
    files_mb: float | None
    card_share: float | None


class MomentOut(Out):
    """A moment of the shot's day. clock: null where it does not come."""

    name: Moment
    clock: str | None


class FramePictureOut(Out):
    """What frames of one aim show that hold so much light the most. picture: a URL that holds it."""

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
    """last: how what the groups became is put together; null of one group alone."""

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
    """groups: as listed.

    own_groups: whether the photographer listed them. ways: other lists to begin with. rows: of a panorama.

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
