"""A lens as it really images up close, with what stands before and behind it: tubes, bellows, close-up lenses,
converters.

A lens that shortens when focused close is taken to do so in proportion to its own magnification, from its engraved
focal length at infinity to D m / (1 + m)^2 at its closest focus D and largest magnification m; it is not taken to
lengthen. Thin lens throughout. Sources: [1] Gauss's lens equation; [2] powers of thin lenses in contact add, P = 1/f,
any optics text.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from scipy.optimize import brentq

from ..errors import InputError
from ..units.quantities import not_negative, positive
from .conjugates import close_focal_length_mm, effective_f_number

# What is imaged lies beyond the focal length by so much at least.
NEAREST = 1.001
_LARGEST = 1e4
_TOLERANCE = 1e-13


@dataclass(frozen=True)
class Rig:
    """What stands before and behind a lens.

    extension_mm: least and most that tubes and bellows hold it away from the camera.

    dioptres: of close-up lenses in front together. converter: what a converter behind multiplies by.
    """

    extension_mm: tuple[float, float] = (0.0, 0.0)
    dioptres: float = 0.0
    converter: float = 1.0

    def __post_init__(self) -> None:
        least, most = (float(not_negative("extension_mm", value)) for value in self.extension_mm)
        if most < least:
            raise InputError(
                "extension_mm", f"The longest extension ({most:g} mm) must not be under the shortest ({least:g} mm)."
            )
        not_negative("dioptres", self.dioptres)
        if not float(positive("converter", self.converter)) >= 1:
            raise InputError("converter", f"A converter multiplies by 1 or more, not {self.converter:g}.")


BARE = Rig()


@dataclass(frozen=True)
class Imaging:
    """How a lens images at one magnification.

    focal_mm and f_number_scale: the thin lens that images alike, and what its f-number is of the marked one.
    object_mm, image_mm: from that thin lens. light_scale: the effective over the marked f-number. extension_mm: how
    far tubes and bellows are drawn out. own_magnification: what the lens's own ring is set to, as if nothing else were
    there. pupil_ratio: as the lens is turned.
    """

    magnification: float
    focal_mm: float
    f_number_scale: float
    object_mm: float
    image_mm: float
    light_scale: float
    extension_mm: float
    own_magnification: float
    pupil_ratio: float

    @property
    def focus_distance_mm(self) -> float:
        """From the sensor plane, as a ring would engrave it."""
        return self.object_mm + self.image_mm

    def images(self, object_mm: float) -> bool:
        """Whether anything object_mm before the lens is imaged at all, focused as it is."""
        return object_mm > self.focal_mm * NEAREST

    @property
    def cost_stops(self) -> float:
        """Light lost against the bare lens at infinity."""
        return 2 * math.log2(self.light_scale)


@dataclass(frozen=True)
class WorkingLens:
    """A lens at one focal length with its rig.

    largest: the magnification that its own ring reaches; closest_mm: its closest focus from the sensor plane where that
    counts for this focal length (None: taken to keep its focal length).
    """

    focal_mm: float
    largest: float
    closest_mm: float | None = None
    pupil_ratio: float = 1.0
    rig: Rig = BARE

    @property
    def shortest_mm(self) -> float:
        """The real focal length at the closest focus."""
        if self.closest_mm is None or self.largest <= 0:
            return self.focal_mm
        return min(self.focal_mm, close_focal_length_mm(self.closest_mm, self.largest))

    @property
    def far_focal_mm(self) -> float:
        """The focal length that a lens would need to show as much, the ring at infinity: of a close-up lens and a
        converter with it.
        """
        return self.rig.converter * self.focal_mm / (1 + self.focal_mm * self.rig.dioptres / 1000)

    def real_focal_mm(self, own_magnification: float) -> float:
        """Return the focal length with the ring at a magnification; beyond the largest it stays as it is there."""
        if self.largest <= 0:
            return self.focal_mm
        return self.focal_mm + (self.shortest_mm - self.focal_mm) * min(1.0, own_magnification / self.largest)

    @property
    def reach(self) -> tuple[float, float]:
        """The smallest and the largest magnification on the sensor."""
        least, most = self.rig.extension_mm
        return self._made(0.0, least), max(self._made(0.0, most), self._made(self.largest, most))

    def reaches(self, magnification: float) -> bool:
        """Whether a magnification lies between the smallest and the largest."""
        smallest, largest = self.reach
        return smallest * 0.999 <= magnification <= largest * 1.001

    def at_magnification(self, magnification: float) -> Imaging:
        """Return how the lens images at a magnification on the sensor > 0; of tubes and bellows as little as possible
        is drawn out.

        Beyond its reach the lens is taken to be drawn out further. Source: [1], [2].
        """
        wanted = float(positive("magnification", magnification))
        least, most = self.rig.extension_mm
        if wanted <= self._made(self.largest, least):
            return self._imaging(wanted, least)
        if wanted >= self._made(self.largest, most):
            return self._imaging(wanted, most)
        drawn = brentq(lambda extension: self._made(self.largest, extension) - wanted, least, most, xtol=_TOLERANCE)
        return self._imaging(wanted, float(drawn))

    def at_distance(self, object_mm: float) -> Imaging | None:
        """Return how the lens images an object object_mm before it (infinity allowed); None if it cannot focus that
        close.
        """
        nearest = 1e-9
        if math.isinf(object_mm) or self._distance(nearest) <= object_mm:
            return self._imaging(1e-12, self.rig.extension_mm[0])
        if self.rig == BARE:
            # u = f(m)(1 + 1/m) with f(m) = f + k m: a square in m.
            slope = (self.shortest_mm - self.focal_mm) / self.largest if self.largest > 0 else 0.0
            beyond = object_mm - self.focal_mm - slope
            root = (
                2 * self.focal_mm / (beyond + math.sqrt(beyond * beyond - 4 * slope * self.focal_mm))
                if slope or beyond > 0
                else math.inf
            )
            if root <= self.largest or not slope:
                return self._imaging(root, 0.0) if root < _LARGEST else None
            # Beyond its own reach it keeps the focal length that it has there.
            return (
                self._imaging(self.shortest_mm / (object_mm - self.shortest_mm), 0.0)
                if object_mm > self.shortest_mm * 1.0001
                else None
            )
        if self._distance(_LARGEST) >= object_mm:
            return None
        found = brentq(
            lambda power: self._distance(math.exp(power)) - object_mm,
            math.log(nearest),
            math.log(_LARGEST),
            xtol=_TOLERANCE,
        )
        return self.at_magnification(math.exp(float(found)))

    def images(self, object_mm: float) -> bool:
        """Whether anything object_mm before the lens, as it is rigged, is imaged at all."""
        imaging = self.at_distance(object_mm)
        return imaging is not None and imaging.images(object_mm)

    def front_to_subject_mm(self, imaging: Imaging, front_mm: float) -> float:
        """Return the room between the lens's front rim and the subject [mm].

        front_mm: from the front principal plane to the rim at infinity.

        A lens that shortens moves glass inside a barrel that stays as long as it is; others move as a whole.
        """
        if self.shortest_mm >= self.focal_mm:
            return imaging.object_mm - front_mm
        own_image = self.real_focal_mm(imaging.own_magnification) * (1 + imaging.own_magnification)
        return imaging.object_mm - (self.focal_mm + front_mm - own_image)

    def _distance(self, magnification: float) -> float:
        return self.at_magnification(magnification).object_mm

    def _made(self, own: float, extension_mm: float) -> float:
        """Return the magnification on the sensor with the ring at own and so much extension."""
        focal = self.real_focal_mm(own)
        image = focal * (1 + own) + extension_mm
        return max(0.0, self.rig.converter * (image * (1 / focal + self.rig.dioptres / 1000) - 1))

    def _imaging(self, wanted: float, extension_mm: float) -> Imaging:
        own = wanted / self.rig.converter
        if extension_mm or self.rig.dioptres:
            high = max(self.largest, own)
            low = 0.0
            own = (
                0.0
                if self._made(low, extension_mm) >= wanted
                else float(brentq(lambda ring: self._made(ring, extension_mm) - wanted, low, 2 * high, xtol=_TOLERANCE))
            )
        focal = self.real_focal_mm(own)
        before = wanted / self.rig.converter
        # With a close-up lens in front the two image together as one shorter lens.
        together = focal / (1 + focal * self.rig.dioptres / 1000)
        object_mm = together * (1 + 1 / before)
        alike = object_mm * wanted / (1 + wanted)
        # The lens is drawn out by its own image distance alone; a converter takes its own share of the light.
        drawn_out = together * (1 + before) / focal - 1
        light = self.rig.converter * float(effective_f_number(1.0, max(0.0, drawn_out), self.pupil_ratio))
        return Imaging(
            magnification=wanted,
            focal_mm=alike,
            f_number_scale=alike / focal,
            object_mm=object_mm,
            image_mm=alike * (1 + wanted),
            light_scale=light,
            extension_mm=extension_mm,
            own_magnification=own,
            pupil_ratio=self.pupil_ratio,
        )
