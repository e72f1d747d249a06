"""Everything that a shot's plan is computed from."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, fields, replace
from datetime import datetime
from functools import cached_property
from typing import Any
from zoneinfo import ZoneInfo

from ..exposure.moving_things import MotionWish
from ..framing.footing import LEVEL_GROUND, Ground, StandingArea
from ..framing.solids import Shape
from ..light.meter import MeterReading
from ..light.skyline import LEVEL, Skyline
from ..optics.working_lens import WorkingLens
from ..units.spelling import LocalTime
from ..weather.forecast import Forecast, ForecastHour
from .accessory import Accessory, AccessoryKind, of_kind, rigged
from .calibrations import Taught
from .choices import GROUPS, DepthChoices, ExposureChoices, FrameChoices, LightChoices, SequenceChoices
from .declaring import Value, facts_of
from .filters import Filter
from .frame_groups import FrameGroup
from .kit import Body, Lens, Support
from .place import Access, Approach, Element, Hazard, Location, Opening, OtherPlace, Scouting, SeasonNote
from .spots import SpotReading
from .wishes import WishChoices

# What one would stand upon is taken to be a hand's width away [m].
_NEAREST_M = 0.05


@dataclass(frozen=True)
class ShotFacts:
    """Place, kit and choices of a shot. Values not given are None, and the application chooses."""

    location: Location | None = None
    viewpoint_name: str | None = None
    elements: tuple[Element, ...] = ()
    ground: Ground = LEVEL_GROUND
    standing: StandingArea | None = None
    support: Support | None = None
    readings: tuple[MeterReading, ...] = ()
    hazards: tuple[Hazard, ...] = ()
    season_notes: tuple[SeasonNote, ...] = ()
    approach: Approach | None = None
    access: Access | None = None
    openings: tuple[Opening, ...] = ()
    scoutings: tuple[Scouting, ...] = ()
    # What is forecast around the shot's date, as it was known when the facts were read.
    forecast: Forecast | None = None
    plan_b: OtherPlace | None = None
    body: Body | None = None
    lens: Lens | None = None
    light: LightChoices = field(default_factory=LightChoices)
    frame: FrameChoices = field(default_factory=FrameChoices)
    depth: DepthChoices = field(default_factory=DepthChoices)
    exposure: ExposureChoices = field(default_factory=ExposureChoices)
    sequence: SequenceChoices = field(default_factory=SequenceChoices)
    # What the solver weighs; no plan depends on it.
    wishes: WishChoices = field(default_factory=WishChoices)
    sharp_element_ids: frozenset[int] = frozenset()
    filters: tuple[Filter, ...] = ()
    spots: tuple[SpotReading, ...] = ()
    # The place where meter, range and spots were read, if that is not the shot's.
    read_elsewhere: str = ""
    # Wishes for secondary moving subjects, by the element's id; None stands for the clouds.
    motion_wishes: tuple[tuple[int | None, MotionWish], ...] = ()
    # What the picture is made of, as the photographer lists it; empty: as depth and exposure ask for it.
    frame_groups: tuple[FrameGroup, ...] = ()
    # From which focal length, as on 36 × 24 mm, the photographer takes a polariser; None: from any.
    polariser_from_mm: float | None = None
    # What the shot uses of the bag's accessories.
    accessories: tuple[Accessory, ...] = ()
    card: str | None = None
    # What the log taught and the photographer has switched on.
    taught: Taught = field(default_factory=Taught)

    def choosing(self, **choices: Value) -> ShotFacts:
        """Return the same facts with other choices, named as they are declared.

        Raises TypeError for a name that is none.
        """
        left = dict(choices)
        changed = {}
        for group, kind in GROUPS.items():
            mine = {name: left.pop(name) for name in facts_of(kind) if name in left}
            if mine:
                changed[group] = replace(getattr(self, group), **mine)
        if left:
            raise TypeError(f"A shot has no choice named {', '.join(left)}.")
        return replace(self, **changed)

    @property
    def close_up(self) -> bool:
        return self.depth.magnification is not None

    @property
    def zone(self) -> ZoneInfo:
        return ZoneInfo(self.location.zone if self.location else "UTC")

    def at(self, moment: datetime) -> LocalTime:
        """Return an instant as local time, beside the shot's day."""
        return LocalTime(moment.astimezone(self.zone), self.light.date_local)

    def clock(self, moment: datetime) -> str:
        """Return the local clock time of an instant, with its day where that is not the shot's."""
        return str(self.at(moment))

    @property
    def subject(self) -> Element | None:
        """The element the light is wanted on: the stated subject, else close up the nearest, else the largest that
        must be sharp, else the largest.
        """
        said = self.element(self.depth.subject_element_id)
        if said:
            return said
        if self.close_up:
            return min(self.elements, key=lambda item: item.distance_m, default=None)
        solid = [item for item in self.elements if item.shape != Shape.WATER]
        sharp = [item for item in solid if item.id in self.sharp_element_ids]
        return max(sharp or solid, key=lambda item: item.height_m / item.distance_m, default=None)

    @property
    def subject_skyline(self) -> Skyline:
        """The land around the subject where it was computed, else around the viewpoint."""
        subject = self.subject
        if subject and subject.skyline is not None:
            return subject.skyline
        return self.location.skyline if self.location else LEVEL

    @property
    def water_wanted_m(self) -> tuple[float | None, float | None]:
        """The heights of the tide wanted: depths at an element are counted from the ground it stands on."""
        element = self.element(self.light.water_element_id)
        bed = element.bed_m if element and element.bed_m is not None else 0.0
        low, high = self.light.water_low_m, self.light.water_high_m
        return None if low is None else low + bed, None if high is None else high + bed

    @property
    def scouted(self) -> Scouting | None:
        """The newest visit to the viewpoint in daylight."""
        return max(self.scoutings, key=lambda visit: visit.visited_on, default=None)

    @property
    def wants_water(self) -> bool:
        """Whether a depth or height of the tide is wanted."""
        return self.light.water_low_m is not None or self.light.water_high_m is not None

    @cached_property
    def seen_from_camera(self) -> ShotFacts:
        """The same facts with bearings and distances of the elements as from the camera, which may stand beside the
        viewpoint's mark.
        """
        if self.frame.camera_east_m == 0 and self.frame.camera_north_m == 0:
            return self
        return replace(self, elements=tuple(self._from_camera(item) for item in self.elements))

    def _from_camera(self, item: Element) -> Element:
        bearing, distance = self._bearing_and_distance(item.bearing_deg, item.distance_m)
        course = tuple(self._bearing_and_distance(*leg) for leg in item.course)
        return replace(item, bearing_deg=bearing, distance_m=max(_NEAREST_M, distance), course=course)

    def _bearing_and_distance(self, bearing_deg: float, distance_m: float) -> tuple[float, float]:
        """Return bearing and distance from the camera of what has these from the mark."""
        bearing = math.radians(bearing_deg)
        east = distance_m * math.sin(bearing) - self.frame.camera_east_m
        north = distance_m * math.cos(bearing) - self.frame.camera_north_m
        return math.degrees(math.atan2(east, north)) % 360, math.hypot(east, north)

    @property
    def filters_on_lens(self) -> tuple[Filter, ...]:
        """The filters on the lens."""
        return tuple(item for item in self.filters if item.on_lens)

    @property
    def dark_stops(self) -> float:
        """What the neutral density on the lens takes [stops]."""
        return sum(item.stops for item in self.filters_on_lens if item.kind.lengthens_exposure)

    @property
    def hour(self) -> ForecastHour | None:
        """What is forecast for the hour of the shot; None where that is not known."""
        return (
            self.forecast.at(self.light.time_utc)
            if self.forecast is not None and self.light.time_utc is not None
            else None
        )

    def wish_of(self, element_id: int | None) -> MotionWish | None:
        """What is wished of something that moves beside the main one; None stands for the clouds."""
        return next((wish for wished, wish in self.motion_wishes if wished == element_id), None)

    def rig(self, kind: AccessoryKind) -> list[Accessory]:
        """The accessories of a kind that the shot uses."""
        return of_kind(self.accessories, kind)

    def lens_at(self, focal_mm: float) -> WorkingLens:
        """The lens in use at a focal length, with its rig. There must be a lens."""
        assert self.lens is not None
        return rigged(self.lens, focal_mm, self.accessories)

    def element(self, element_id: int | None) -> Element | None:
        return next((item for item in self.elements if item.id == element_id), None)


def changed(facts: ShotFacts, **values: Any) -> ShotFacts:
    """Return facts with other values, from one flat list of names: those of ShotFacts itself and of all its groups."""
    own = {item.name for item in fields(ShotFacts)}
    choices = {name: value for name, value in values.items() if name not in own}
    beside = {name: value for name, value in values.items() if name in own}
    return replace(facts, **beside).choosing(**choices)


def facts_from(**values: Any) -> ShotFacts:
    """Return facts from one flat list of names, as changed takes them."""
    return changed(ShotFacts(), **values)
