"""What an edit of a shot says: a typed command."""

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
    """What a shot does with a filter; neither takes it out of the shot."""

    filter_id: int
    on_lens: bool
    on_when_metered: bool
    set_stops: float | None = None


@dataclass(frozen=True)
class SpotSaid:
    """A spot reading as it was written; element_id where its part is an element."""

    part: SpotPart
    element_id: int | None
    said: str
    through_stops: float


@dataclass(frozen=True)
class MotionWished:
    """What something that moves should look like; element_id None stands for the clouds."""

    element_id: int | None
    wish: MotionWish


@dataclass(frozen=True)
class ShotEdit:
    """None beside the groups: nothing is said of it.

    clock_local: the time of day at the place. keep_subject_size: with a new focal length the camera steps back or
    forward so that the
    subject stays as large as it is. field_mm: what of a ruler fills the frame's width, for the magnification that
    follows. crop_share: the crop's field as a share of the lens's, kept as the focal length that has it.
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
        """The names of all that is said."""
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
        """Whether nothing is said but what is the shot's own and nobody else shows: no name, no other place, kit,
        filter or element than before.

        """
        return all(name in _ITS_OWN for name in self.names)

    @property
    def label(self) -> str:
        """What the edit is called in the list of undo."""
        return ", ".join(dict.fromkeys(label_of(name) for name in self.names)) or "nothing"

    def focused(self, **values: Value) -> ShotEdit:
        """Return this edit with changes of the depth added."""
        return replace(self, depth=self.depth.also(**values))

    def framed(self, **values: Value) -> ShotEdit:
        """Return this edit with changes of the frame added."""
        return replace(self, frame=self.frame.also(**values))


# What is kept in the shot's own row, and read nowhere but with the shot: the choices in groups, and some of what is
# said beside them.
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
    """Return the edit that gives declared facts of a shot, by their names, these values.

    Raises TypeError for a name that is none.

    """
    groups: dict[str, dict[str, Value]] = {}
    for name, value in choices.items():
        groups.setdefault(group_of(name) or "head", {})[name] = value
    made: dict[str, Changes[object]] = {name: Changes(_KINDS[name], values) for name, values in groups.items()}
    return ShotEdit(**made)  # type: ignore[arg-type]


_KINDS: dict[str, type] = {"head": ShotHead, **GROUPS}
