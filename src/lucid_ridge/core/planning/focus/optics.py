"""Where a lens is focused, in one frame or several, and how blurred that leaves what lies at other distances.

One blur decides: defocus and diffraction in quadrature, the usual approximation, in green light. What it leaves for
defocus is what slices of a stack are cut to. Where diffraction alone takes all that is allowed, no stack holds it;
slices are then as deep as a microscopist's, which no thinner ones would better. Source: [1] S. Inoué and K. R. Spring,
Video Microscopy, 2nd ed., 1997 (from memory).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ...facts.choices import FocusSchool
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...optics import conjugates, depth
from ...optics.working_lens import NEAREST, Imaging
from .camera import AlongAxis

Floats = NDArray[np.float64]
_WITHIN = 1 + 1e-6


@dataclass(frozen=True)
class FocusPosition:
    """One setting of ring or rail. Distances [m]: from the lens, and as engraved (from the sensor plane)."""

    object_distance_m: float
    focus_distance_m: float
    near_limit_m: float
    far_limit_m: float
    rail_mm: float | None = None


@dataclass(frozen=True)
class Optics:
    """The thin lens that images as the shot's lens does at the nearest that is sharp, at one marked f-number.

    coc_mm: blur allowed. airy_mm: what diffraction draws of it. defocus_mm: what is left for defocus, and what slices
    are cut to.
    """

    focal_mm: float
    f_number: float
    marked: float
    effective: float
    pupil_ratio: float
    coc_mm: float

    @cached_property
    def airy_mm(self) -> float:
        return float(depth.airy_diameter_mm(self.effective))

    @cached_property
    def diffraction_alone(self) -> bool:
        """Whether diffraction alone takes all the blur that is allowed."""
        return math.isnan(depth.defocus_allowed_mm(self.coc_mm, self.airy_mm))

    @cached_property
    def defocus_mm(self) -> float:
        """Return the blur that slices are cut to. Source: [1]: λ/NA² + e/(M NA) is a slice cut to e + λ N_e · 2."""
        left = float(depth.defocus_allowed_mm(self.coc_mm, self.airy_mm))
        return self.coc_mm + 2 * depth.GREEN_WAVELENGTH_MM * self.effective if math.isnan(left) else left

    @cached_property
    def pupil_offset_mm(self) -> float:
        return float(depth.pupil_offset_mm(self.focal_mm, self.pupil_ratio))

    @property
    def hyperfocal_mm(self) -> float:
        """Return the distance that leaves infinity just within the blur allowed, diffraction counted where it leaves
        room.
        """
        return float(depth.hyperfocal_distance_mm(self.focal_mm, self.f_number, min(self.coc_mm, self.defocus_mm)))

    def total_mm(self, defocus_mm: float) -> float:
        """Return defocus and diffraction together [mm on the sensor]."""
        return float(depth.total_blur_mm(defocus_mm, self.airy_mm))

    def times_limit(self, defocus_mm: float) -> float:
        """Return the blur as a multiple of the limit. Rounding errors just above one count as one."""
        times = self.total_mm(defocus_mm) / self.coc_mm
        return 1.0 if 1 < times <= _WITHIN else times

    def images(self, object_m: float) -> bool:
        """Whether anything so near [m] is imaged at all."""
        return object_m * 1000 > self.focal_mm * NEAREST


def optics_at(settings: Settings, imaging: Imaging, marked: float | None = None) -> Optics:
    """Return the optics of a shot at its aperture, or at another marked f-number."""
    marked = settings.f_number if marked is None else marked
    return Optics(
        imaging.focal_mm,
        marked * imaging.f_number_scale,
        marked,
        marked * imaging.light_scale,
        imaging.pupil_ratio,
        settings.coc_mm,
    )


def single_focus_m(facts: ShotFacts, optics: Optics, along: AlongAxis | None, near: float, far: float) -> float:
    """Return the object distance [m] of a single frame by the school chosen.

    balanced: near and far equally blurred. hyperfocal: H, or nearer when far is nearer. third: a third of the way in, a
    rule of thumb. subject: on the named element. Schools that need a finite far limit fall back to balanced without
    one.
    """
    if facts.depth.focus_school == FocusSchool.HYPERFOCAL:
        return min(max(optics.hyperfocal_mm / 1000, near), far)
    if facts.depth.focus_school == FocusSchool.THIRD and math.isfinite(far):
        return near + (far - near) / 3
    subject = along.spans.get(facts.depth.subject_element_id or 0) if along else None
    if facts.depth.focus_school == FocusSchool.SUBJECT and subject is not None and optics.images(subject.near_m):
        near, far = subject.near_m, subject.far_m
    return float(depth.blur_balanced_focus_mm(near * 1000, far * 1000, optics.pupil_offset_mm)) / 1000


def positions_at(optics: Optics, objects_m: Floats, rail_mm: Floats | None = None) -> list[FocusPosition]:
    """Return focus positions at distances from the lens [m] with what each holds; rail_mm: how far the camera has
    moved at each.
    """
    mm = np.asarray(objects_m, dtype=np.float64) * 1000
    moved = np.zeros(len(mm)) if rail_mm is None else rail_mm / 1000
    limits = (optics.focal_mm, optics.f_number, optics.defocus_mm, mm, optics.pupil_ratio)
    columns = (
        objects_m,
        np.asarray(conjugates.focus_distance_mm(optics.focal_mm, mm)) / 1000,
        np.asarray(depth.near_limit_mm(*limits)) / 1000 + moved,
        np.asarray(depth.far_limit_mm(*limits)) / 1000 + moved,
    )
    rails: list[float | None] = [None] * len(mm) if rail_mm is None else rail_mm.tolist()
    return [
        FocusPosition(float(at), float(mark), float(near), float(far), rail)
        for at, mark, near, far, rail in zip(*columns, rails, strict=True)
    ]


@dataclass(frozen=True)
class Focused:
    """All focus positions of a shot as columns: object distances from the lens and how far the camera has moved on its
    rail [mm].
    """

    optics: Optics
    object_mm: Floats
    rail_mm: Floats

    @classmethod
    def at(cls, optics: Optics, objects_m: Floats | list[float], rail_mm: Floats | None = None) -> Focused:
        objects = np.asarray(objects_m, dtype=np.float64) * 1000
        return cls(optics, objects, np.zeros(len(objects)) if rail_mm is None else rail_mm)

    @classmethod
    def of(cls, optics: Optics, positions: Sequence[FocusPosition]) -> Focused:
        return cls(
            optics,
            np.array([position.object_distance_m for position in positions]) * 1000,
            np.array([position.rail_mm or 0.0 for position in positions]),
        )

    def least_defocus_mm(self, distances_m: Floats) -> Floats:
        """Return the defocus [mm] of points at distances from the lens as it first stood, in the frame that shows each
        best.
        """
        optics = self.optics
        # What the camera on its rail has passed, or stands too near to, this frame does not image.
        away = distances_m[None, :] * 1000 - self.rail_mm[:, None]
        nearest = optics.focal_mm * NEAREST
        imaged = away > nearest
        blur = depth.blur_diameter_mm(
            optics.focal_mm,
            optics.f_number,
            self.object_mm[:, None],
            np.where(imaged, away, nearest),
            optics.pupil_ratio,
        )
        return np.asarray(np.where(imaged, blur, np.inf).min(axis=0))

    def worst_defocus_mm(self, near_m: float, far_m: float) -> float:
        """Return the worst defocus [mm] between two distances: at its ends, or where two positions meet on the way."""
        ends = np.array([near_m, far_m])
        meet = self._meeting_m()
        points = np.concatenate((ends, meet[(meet > near_m) & (meet < far_m)]))
        return float(self.least_defocus_mm(points).max())

    def _meeting_m(self) -> Floats:
        """Return where consecutive positions blur alike.

        By the ring m(d - u) is the same for both; on the rail x/(k + x) is, with x behind the nearer plane and k from
        the entrance pupil to it, as (t - x)/(k - t + x) is, t the step.
        """
        if len(self.object_mm) < 2:
            return np.empty(0)
        if self.rail_mm.any():
            step, from_pupil = np.diff(self.rail_mm), self.object_mm[:-1] - self.optics.pupil_offset_mm
            behind = (step - from_pupil + np.hypot(from_pupil, step)) / 2
            return np.asarray((self.object_mm[:-1] + self.rail_mm[:-1] + behind) / 1000)
        images = np.asarray(conjugates.image_distance_mm(self.optics.focal_mm, self.object_mm))
        scales = images / self.optics.focal_mm - 1
        return np.asarray((images[1:] + images[:-1]) / np.maximum(scales[1:] + scales[:-1], 1e-300) / 1000)
