"""Groups of frames: what a picture is made of, as the photographer says it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import time
from enum import StrEnum
from typing import Annotated

from ..labels import NamedEnum
from .declaring import Fact, Kind

MOST_GROUPS, MOST_FRAMES = 40, 2000


class Role(NamedEnum):
    """What a group is in the picture."""

    WHOLE = "whole"
    NEAR = "near"
    MIDDLE = "middle"
    FAR = "far"
    STACK = "stack"
    LAND = "land"
    SKY = "sky"
    FROZEN = "frozen"
    LONG = "long"
    EMPTY = "empty"
    ROW = "panorama_row"
    DARK = "dark_frame"
    TEST = "test"
    TRAILS = "star_trails"


# Taken beside the picture: nothing in it is made of them.
BESIDE_THE_PICTURE = (Role.DARK, Role.TEST)


class GroupFocus(NamedEnum):
    """Which focus positions of the depth plan a group takes, or where else it is focused."""

    ALL = "all"
    NEAREST = "nearest"
    MIDDLE = "middle"
    FARTHEST = "farthest"
    POSITION = "position"
    ELEMENT = "element"
    DISTANCE = "distance"


class GroupExposure(NamedEnum):
    """Which of the planned exposures a group takes, or a time of its own."""

    ALL = "all"
    CARRYING = "main"
    DARKEST = "darkest"
    BRIGHTEST = "brightest"
    SHORTEST = "shortest"
    OWN = "own"


class GroupFilters(NamedEnum):
    PLANNED = "planned"
    NO_DENSITY = "no_density"
    BARE = "none"
    CHOSEN = "chosen"


class GroupStart(NamedEnum):
    """When a group begins: as soon as the one before it is done, or not before a time or a moment of the day."""

    AT_ONCE = "at_once"
    CLOCK = "clock"
    MOMENT = "moment"


class Moment(NamedEnum):
    """A moment of the day that frames may wait for."""

    LIGHT_BEGINS = "light_begins"
    LIGHT_ENDS = "light_ends"
    CIVIL_DAWN = "civil_dawn"
    SUNRISE = "sunrise"
    SUN_ON_RIM = "sun_on_rim"
    SUN_BEHIND_LAND = "sun_behind_land"
    SUNSET = "sunset"
    CIVIL_DUSK = "civil_dusk"
    NAUTICAL_DUSK = "nautical_dusk"
    MOONRISE = "moonrise"
    MOONSET = "moonset"


class Together(NamedEnum):
    """How the frames of a group become one picture later."""

    ALONE = "alone"
    STACK = "stack"
    BRACKET = "merge"
    STITCH = "stitch"
    BLEND = "blend"
    AVERAGE = "average"
    BEST = "best"
    LIGHTEN = "lighten"


class FrameOrder(StrEnum):
    """chosen: so that filters and focus change least and the fading light is used first; pinned: as listed."""

    CHOSEN = "chosen"
    PINNED = "pinned"


@dataclass(frozen=True)
class FrameGroup:
    """A group of frames.

    Times and moments are those of the place and the shot's date.

    focus_number: of the position, from 1 at the nearest. shutter_s: the time of its own; the ISO follows from it where
    none is said. offset_ev: brighter positive. count: how often each of its frames is taken. aim_row: of a panorama,
    from 1 at the top; None: all rows. gap_s: from the end of one frame to the start of the next, by an interval timer;
    None: the waits of the sequence. start_min: minutes after the moment, before it negative. filter_ids: of the
    chosen ones.
    """

    role: Annotated[Role, Fact(label="role")] = Role.WHOLE
    name: Annotated[str, Fact(Kind.NOTE, label="name")] = ""
    focus: Annotated[GroupFocus, Fact(label="focus")] = GroupFocus.ALL
    focus_number: Annotated[int | None, Fact(Kind.COUNT, 1, 1000, label="focus position")] = None
    focus_element_id: Annotated[int | None, Fact(label="element in focus", refers="element")] = None
    focus_m: Annotated[float | None, Fact(Kind.DISTANCE, 0.0, 1e6, above=True, label="focus distance")] = None
    exposure: Annotated[GroupExposure, Fact(label="exposure")] = GroupExposure.ALL
    shutter_s: Annotated[float | None, Fact(Kind.SHUTTER, 0.0, 86_400.0, above=True, label="shutter time")] = None
    iso: Annotated[float | None, Fact(Kind.ISO, 1.0, 1e7, label="ISO")] = None
    offset_ev: Annotated[float, Fact(Kind.EV, -10.0, 10.0, label="brighter or darker")] = 0.0
    filters: Annotated[GroupFilters, Fact(label="filters")] = GroupFilters.PLANNED
    filter_ids: tuple[int, ...] = ()
    count: Annotated[int, Fact(Kind.COUNT, 1, 500, label="how often")] = 1
    burst_per_s: Annotated[float | None, Fact(Kind.NUMBER, 0.2, 120.0, label="frames a second")] = None
    gap_s: Annotated[float | None, Fact(Kind.SECONDS, 0.0, 3600.0, label="gap between frames")] = None
    aim_row: Annotated[int | None, Fact(Kind.COUNT, 1, 100, label="row")] = None
    start: Annotated[GroupStart, Fact(label="start")] = GroupStart.AT_ONCE
    start_clock: Annotated[time | None, Fact(label="clock time")] = None
    start_moment: Annotated[Moment | None, Fact(label="moment")] = None
    start_min: Annotated[float, Fact(Kind.MINUTES, -600.0, 600.0, label="minutes after the moment")] = 0.0
    together: Annotated[Together, Fact(label="put together")] = Together.ALONE
    muted: Annotated[bool, Fact(label="muted")] = False

    @property
    def called(self) -> str:
        """Its name, or what it is in the picture."""
        return self.name or self.role.label

    @property
    def in_the_picture(self) -> bool:
        return not self.muted and self.role not in BESIDE_THE_PICTURE
