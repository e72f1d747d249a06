"""Bodies, lenses, filters and supports as a plan knows them, and what they can be set to."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from ..exposure.film import LONGEST_EXPONENT
from ..optics.conjugates import magnification, object_distance_mm
from ..optics.working_lens import BARE, Rig, WorkingLens
from .declaring import Fact, Kind


class FilmKind(StrEnum):
    SLIDE = "slide"
    NEGATIVE = "negative"


# Markings are rounded: a set value may differ this much from the engraved one.
_APERTURE_SLACK, _SHUTTER_SLACK, _SLOW_SLACK = 0.02, 0.07, 0.10
_LONGEST_BULB_S = 86_400.0


@dataclass(frozen=True)
class Support:
    """A tripod: the camera's lowest and highest place upright, and the lowest with the column inverted (None: it
    cannot be).
    """

    id: int
    name: Annotated[str, Fact(Kind.NAME)]
    height_min_m: Annotated[float, Fact(Kind.LENGTH_M, 0.0, 20.0, label="lowest place")]
    height_max_m: Annotated[float, Fact(Kind.LENGTH_M, 0.01, 20.0, label="highest place")]
    inverted_min_m: Annotated[float | None, Fact(Kind.LENGTH_M, 0.0, 20.0, label="lowest with the column inverted")] = (
        None
    )


@dataclass(frozen=True)
class Body:
    """A camera body.

    dynamic_range_stops: scene range of one frame at base ISO. film_exponent: of a film's reciprocity failure; film:
    its kind; None: a sensor. battery_frames: the maker's count (CIPA DC-002) for one battery; batteries: how many
    there are. slowest_shutter_s: the longest time that the body counts by itself. dark_frame: after exposures from
    dark_frame_from_s on it takes one as long without light. extended_iso_min, extended_iso_max: ends of the extended
    range, beyond base and highest. stabiliser_stops: by CIPA DC-011. flash_sync_s: the shortest time at which a flash
    reaches the whole frame. burst_per_s, buffer_frames: how fast, and how many, before the buffer is full.
    """

    id: int
    name: Annotated[str, Fact(Kind.NAME)]
    sensor_width_mm: Annotated[float, Fact(Kind.LENGTH_MM, 1.0, 400.0, label="sensor width")]
    sensor_height_mm: Annotated[float, Fact(Kind.LENGTH_MM, 1.0, 400.0, label="sensor height")]
    pixels_wide: Annotated[int, Fact(Kind.COUNT, 100, 100_000, label="pixels across")]
    pixels_high: Annotated[int, Fact(Kind.COUNT, 100, 100_000, label="pixels down")]
    base_iso: Annotated[float, Fact(Kind.ISO, 1.0, 1e6, label="base ISO")] = 100.0
    max_iso: Annotated[float, Fact(Kind.ISO, 1.0, 1e6, label="highest ISO")] = 25_600.0
    fastest_shutter_s: Annotated[float, Fact(Kind.SHUTTER, 0.0, 60.0, above=True, label="fastest shutter")] = 1 / 8192
    slowest_shutter_s: Annotated[float, Fact(Kind.SHUTTER, 0.0, 3600.0, above=True, label="slowest shutter")] = 32.0
    has_bulb: Annotated[bool, Fact(label="bulb")] = True
    dynamic_range_stops: Annotated[float, Fact(Kind.EV, 1.0, 25.0, label="dynamic range")] = 11.0
    bracket_frames: Annotated[int, Fact(Kind.COUNT, 1, 31, label="frames of a bracket")] = 3
    bracket_step_ev: Annotated[float, Fact(Kind.EV, 0.0, 5.0, above=True, label="step of a bracket")] = 2.0
    write_s: Annotated[float, Fact(Kind.SECONDS, 0.0, 60.0, label="writing time")] = 0.5
    dark_frame: Annotated[bool, Fact(label="dark frame")] = False
    dark_frame_from_s: Annotated[float, Fact(Kind.SECONDS, 0.0, 3600.0, label="dark frames from")] = 1.0
    film_exponent: Annotated[float | None, Fact(Kind.NUMBER, 1.0, LONGEST_EXPONENT, label="film's exponent")] = None
    film: Annotated[FilmKind | None, Fact(label="film")] = None
    battery_frames: Annotated[int | None, Fact(Kind.COUNT, 10, 100_000, label="frames of a battery")] = None
    batteries: Annotated[int, Fact(Kind.COUNT, 1, 50, label="batteries")] = 1
    file_mb: Annotated[float | None, Fact(Kind.NUMBER, 0.1, 5000.0, label="size of a file")] = None
    card_gb: Annotated[float | None, Fact(Kind.NUMBER, 0.1, 100_000.0, label="size of the card")] = None
    extended_iso_min: Annotated[float | None, Fact(Kind.ISO, 1.0, 1e7, label="lowest extended ISO")] = None
    extended_iso_max: Annotated[float | None, Fact(Kind.ISO, 1.0, 1e7, label="highest extended ISO")] = None
    stabiliser_stops: Annotated[float | None, Fact(Kind.EV, 0.0, 12.0, label="stabiliser")] = None
    flash_sync_s: Annotated[float | None, Fact(Kind.SHUTTER, 0.0, 60.0, above=True, label="flash synchronisation")] = (
        None
    )
    burst_per_s: Annotated[float | None, Fact(Kind.NUMBER, 0.2, 240.0, label="frames a second")] = None
    buffer_frames: Annotated[int | None, Fact(Kind.COUNT, 1, 100_000, label="frames in the buffer")] = None

    @property
    def longest_s(self) -> float:
        """The longest time [s] that can be taken, on bulb where there is one."""
        return _LONGEST_BULB_S if self.has_bulb else self.slowest_shutter_s * (1 + _SLOW_SLACK)

    @property
    def shortest_s(self) -> float:
        """The shortest time [s] that can be taken; markings are rounded."""
        return self.fastest_shutter_s * (1 - _SHUTTER_SLACK)

    def can_time(self, shutter_s: float) -> bool:
        """Whether a shutter time [s] can be taken with this body."""
        return self.shortest_s <= shutter_s <= self.longest_s

    def needs_bulb(self, shutter_s: float) -> bool:
        """Whether a time [s] is beyond the slowest that the body marks."""
        return shutter_s > self.slowest_shutter_s * (1 + _SLOW_SLACK)

    @property
    def iso_range(self) -> tuple[float, float]:
        """The lowest and highest ISO that can be set, the extended range included."""
        lowest, highest = self.extended_iso_min or self.base_iso, self.extended_iso_max or self.max_iso
        return min(lowest, self.base_iso), max(highest, self.max_iso)

    def takes_iso(self, iso: float) -> bool:
        lowest, highest = self.iso_range
        return lowest <= iso <= highest

    def reads_iso(self, iso: float) -> bool:
        """Whether the sensor is read at an ISO itself, from base to highest."""
        return self.base_iso <= iso <= self.max_iso

    def extends_iso(self, iso: float) -> bool:
        """Whether an ISO lies in the extended range: the sensor is read as at its base or highest ISO."""
        return self.takes_iso(iso) and not self.reads_iso(iso)

    def held_stops(self, iso: float) -> float:
        """Return the range of a scene [stops] that one frame holds at an ISO: a stop less for each doubling over base
        ISO, and for each halving under it (common practice), 1 at least.

        An extended low ISO is base ISO with more light: the highlights clip as much earlier. A film holds what it
        holds.
        """
        lost = 0.0 if self.film_exponent is not None else abs(math.log2(iso / self.base_iso))
        return max(1.0, self.dynamic_range_stops - lost)


@dataclass(frozen=True)
class Lens:
    """closest_focus_mm is engraved: from the sensor plane.

    pupil_ratio is exit over entrance pupil.

    f_number_min is the widest aperture at the shortest focal length, f_number_min_long at the longest where it differs.
    front_mm: from the front principal plane to the front rim with the lens at infinity; pupil_depth_mm: from the rim to
    the entrance pupil at the shortest focal length. hood_mm: how far the hood stands out; hood_clear_mm its opening.
    """

    id: int
    name: Annotated[str, Fact(Kind.NAME)]
    focal_min_mm: Annotated[float, Fact(Kind.LENGTH_MM, 1.0, 3000.0, label="shortest focal length")]
    focal_max_mm: Annotated[float, Fact(Kind.LENGTH_MM, 1.0, 3000.0, label="longest focal length")]
    f_number_min: Annotated[float, Fact(Kind.APERTURE, 0.5, 128.0, label="widest aperture")]
    f_number_max: Annotated[float, Fact(Kind.APERTURE, 0.5, 128.0, label="smallest aperture")]
    closest_focus_mm: Annotated[float, Fact(Kind.LENGTH_MM, 10.0, 1e6, label="closest focus")]
    sharpest_f_number: Annotated[float, Fact(Kind.APERTURE, 0.5, 128.0, label="sharpest aperture")] = 8.0
    max_magnification: Annotated[
        float | None, Fact(Kind.MAGNIFICATION, 0.0, 20.0, above=True, label="largest magnification")
    ] = None
    pupil_ratio: Annotated[float, Fact(Kind.NUMBER, 0.1, 10.0, label="pupil ratio")] = 1.0
    filter_thread_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 10.0, 200.0, label="filter thread")] = None
    pupil_depth_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 0.0, 500.0, label="depth of the entrance pupil")] = (
        None
    )
    front_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 0.0, 500.0, label="principal plane to front rim")] = None
    hood_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 1.0, 300.0, label="length of the hood")] = None
    hood_clear_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 10.0, 500.0, label="opening of the hood")] = None
    f_number_min_long: Annotated[
        float | None, Fact(Kind.APERTURE, 0.5, 128.0, label="widest aperture at the long end")
    ] = None

    @property
    def is_zoom(self) -> bool:
        return self.focal_max_mm > self.focal_min_mm

    def takes_focal(self, focal_mm: float) -> bool:
        return self.focal_min_mm <= focal_mm <= self.focal_max_mm

    def widest_f_number(self, focal_mm: float) -> float:
        """Return the widest aperture at a focal length [mm]; between the ends of a zoom it is taken to follow the
        stops of both.
        """
        if self.f_number_min_long is None or not self.is_zoom:
            return self.f_number_min
        along = math.log(focal_mm / self.focal_min_mm) / math.log(self.focal_max_mm / self.focal_min_mm)
        return float(self.f_number_min * (self.f_number_min_long / self.f_number_min) ** min(1.0, max(0.0, along)))

    def takes_aperture(self, f_number: float, focal_mm: float) -> bool:
        """Whether an f-number can be set at a focal length [mm]; markings are rounded, so a fiftieth either way
        counts.
        """
        return (
            self.widest_f_number(focal_mm) * (1 - _APERTURE_SLACK)
            <= f_number
            <= self.f_number_max * (1 + _APERTURE_SLACK)
        )

    def largest_magnification(self, focal_mm: float) -> float:
        """Return the largest magnification at a focal length [mm]: the one entered where it applies, else that of a
        thin lens at the closest focus.
        """
        if self._told_at(focal_mm) and self.max_magnification:
            return self.max_magnification
        if self.closest_focus_mm < 4 * focal_mm:
            return self.max_magnification or 1.0
        return float(magnification(focal_mm, object_distance_mm(focal_mm, self.closest_focus_mm)))

    def working(self, focal_mm: float, rig: Rig = BARE) -> WorkingLens:
        """Return the lens as it images at a focal length [mm].

        A zoom's closest focus and largest magnification apply to its long end: only there, and for a prime, do they
        show how much the lens shortens when focused.
        """
        closest = self.closest_focus_mm if self._told_at(focal_mm) else None
        return WorkingLens(focal_mm, self.largest_magnification(focal_mm), closest, self.pupil_ratio, rig)

    def _told_at(self, focal_mm: float) -> bool:
        return self.max_magnification is not None and focal_mm >= self.focal_max_mm * (1 - _APERTURE_SLACK)
