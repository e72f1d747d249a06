"""Edits of a shot, as typed commands."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import time

from ...core.exposure.moving_things import MotionWish
from ...core.facts.changes import Changes
from ...core.facts.choices import (
    GROUPS,
    DepthChoices,
    ExposureChoices,
    FrameChoices,
    LightChoices,
    SequenceChoices,
    ShotHead,
    group_of,
    label_of,
)
from ...core.facts.declaring import Value, facts_of
from ...core.facts.frame_groups import FrameGroup
from ...core.facts.spots import SpotPart
from ...core.facts.wishes import WishChoices


@dataclass(frozen=True)
class FilterUse:
    """How a shot uses a filter; neither on the lens nor in the bag removes it."""

    filter_id: int
    on_lens: bool
    on_when_metered: bool
    set_stops: float | None = None


@dataclass(frozen=True)
class SpotSaid:
    """A spot reading as entered; element_id if its part is an element."""

    part: SpotPart
    element_id: int | None
    said: str
    through_stops: float


@dataclass(frozen=True)
class MotionWished:
    """The look wanted of something that moves; element_id None stands for the clouds."""

    element_id: int | None
    wish: MotionWish


@dataclass(frozen=True)
class ShotEdit:
    """An edit of a shot. None outside the groups: not given.

    clock_local: the time of day at the place. keep_subject_size: with a new focal length the camera moves so that the
    subject keeps its size. field_mm: length of a ruler that fills the frame's width, from which the magnification
    follows. crop_share: the crop's field as a share of the lens's, stored as the equivalent focal length.
    """

    head: Changes[ShotHead] = field(default_factory=lambda: Changes(ShotHead))
    light: Changes[LightChoices] = field(default_factory=lambda: Changes(LightChoices))
    frame: Changes[FrameChoices] = field(default_factory=lambda: Changes(FrameChoices))
    depth: Changes[DepthChoices] = field(default_factory=lambda: Changes(DepthChoices))
    exposure: Changes[ExposureChoices] = field(default_factory=lambda: Changes(ExposureChoices))
    sequence: Changes[SequenceChoices] = field(default_factory=lambda: Changes(SequenceChoices))
    wishes: Changes[WishChoices] = field(default_factory=lambda: Changes(WishChoices))
    clock_local: time | None = None
    sharp_element_ids: tuple[int, ...] | None = None
    accessory_ids: tuple[int, ...] | None = None
    filters: tuple[FilterUse, ...] | None = None
    spots: tuple[SpotSaid, ...] | None = None
    motion_wishes: tuple[MotionWished, ...] | None = None
    frame_groups: tuple[FrameGroup, ...] | None = None
    keep_subject_size: bool = False
    crop_share: float | None = None
    field_mm: float | None = None

    @property
    def names(self) -> tuple[str, ...]:
        """The names of all given values."""
        declared = (
            name
            for group in (self.head, self.light, self.frame, self.depth, self.exposure, self.sequence, self.wishes)
            for name in group
        )
        beside = (
            name
            for name in (
                "clock_local",
                "sharp_element_ids",
                "accessory_ids",
                "filters",
                "spots",
                "motion_wishes",
                "frame_groups",
                "keep_subject_size",
                "crop_share",
                "field_mm",
            )
            if getattr(self, name) not in (None, False)
        )
        return (*declared, *beside)

    @property
    def keeps_context(self) -> bool:
        """Whether only the shot's own choices are given, which no other shot depends on: no name, and no other place,
        kit, filter or element.
        """
        return all(name in _ITS_OWN for name in self.names)

    @property
    def label(self) -> str:
        """The label of the edit in the undo list."""
        return ", ".join(dict.fromkeys(label_of(name) for name in self.names)) or "nothing"

    def focused(self, **values: Value) -> ShotEdit:
        """Return this edit with changes of the depth group added."""
        return replace(self, depth=self.depth.also(**values))

    def framed(self, **values: Value) -> ShotEdit:
        """Return this edit with changes of the frame group added."""
        return replace(self, frame=self.frame.also(**values))


# Values in the shot's own row that are read only with the shot: the choices in groups, and some beside them.
_ITS_OWN = frozenset(name for kind in GROUPS.values() for name in facts_of(kind)) | {
    "intent",
    "favourite",
    "archived",
    "clock_local",
    "spots",
    "motion_wishes",
    "frame_groups",
    "keep_subject_size",
    "crop_share",
    "field_mm",
}


def edit_of(choices: Mapping[str, Value]) -> ShotEdit:
    """Return the edit that sets declared facts of a shot by name. Raises TypeError for an unknown name."""
    groups: dict[str, dict[str, Value]] = {}
    for name, value in choices.items():
        groups.setdefault(group_of(name) or "head", {})[name] = value
    made: dict[str, Changes[object]] = {name: Changes(_KINDS[name], values) for name, values in groups.items()}
    return ShotEdit(**made)  # type: ignore[arg-type]


_KINDS: dict[str, type] = {"head": ShotHead, **GROUPS}
