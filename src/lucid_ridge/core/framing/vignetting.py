"""Whether filters, a holder or a hood stand in the corners of the frame.

A ring of radius r at z before the entrance pupil is passed by all light of a pupil of radius a at a field angle θ while
z·tan θ + a <= r, and stops it all from z·tan θ - a >= r on: geometry of vignetting, any optics text.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

# Rings and plates (common practice): a screw-in filter's clear width is less than its thread; a holder for 100 mm
# plates.
SCREW_MM, RIM_MM, HOLDER_WIDTH_MM, HOLDER_FIRST_MM, HOLDER_SLOT_MM = 5.0, 3.0, 96.0, 9.0, 4.5


@dataclass(frozen=True)
class Ring:
    """Something before the lens with a clear round opening: its front edge lies ahead_mm before the lens's rim."""

    name: str
    ahead_mm: float
    clear_mm: float


@dataclass(frozen=True)
class Vignetting:
    """The ring that cuts first, and where: image heights [mm from the frame's middle] at which it begins to darken and
    stops all light.

    corner_mm: the frame's corner. clear: it stays free.
    """

    ring: Ring
    darkens_from_mm: float
    dark_from_mm: float
    corner_mm: float

    @property
    def clear(self) -> bool:
        return self.darkens_from_mm >= self.corner_mm


def rings_of(
    thread_mm: float,
    screw_filters: Sequence[tuple[str, float]],
    plates: int,
    hood_mm: float | None,
    hood_clear_mm: float | None,
) -> tuple[Ring, ...]:
    """Return the rings before a lens: screw-in filters (name, thickness in mm) first, then the holder with its plates;
    a hood only without one.
    """
    ahead, rings = 0.0, []
    for name, thickness in screw_filters:
        ahead += thickness
        rings.append(Ring(name, ahead, thread_mm - RIM_MM))
    if plates:
        rings.append(
            Ring(
                f"The holder with {plates} plate{'s' if plates > 1 else ''}",
                ahead + HOLDER_FIRST_MM + HOLDER_SLOT_MM * plates,
                HOLDER_WIDTH_MM,
            )
        )
    elif hood_mm:
        rings.append(Ring("The hood", ahead + hood_mm, hood_clear_mm or thread_mm + 2 * hood_mm))
    return tuple(rings)


def deepest_pupil_mm(thread_mm: float, widest_focal_mm: float, half_diagonal_mm: float) -> float:
    """Return the greatest possible depth of a lens's entrance pupil behind its rim [mm]: the depth at which its own
    rim leaves the widest corner half lit.

    The true depth is rarely published; the greatest is the worst case, so a lens that is called clear is clear.
    """
    return (thread_mm / 2) / (half_diagonal_mm / widest_focal_mm)


def vignetting(
    rings: Sequence[Ring], pupil_depth_mm: float, focal_mm: float, f_number: float, half_diagonal_mm: float
) -> Vignetting | None:
    """Return the ring that cuts first at a focal length [mm] and aperture; None without rings."""
    found = None
    aperture = focal_mm / f_number / 2
    for ring in rings:
        reach = pupil_depth_mm + ring.ahead_mm
        darkens, dark = (max(0.0, focal_mm * (ring.clear_mm / 2 + side * aperture) / reach) for side in (-1, 1))
        if found is None or darkens < found.darkens_from_mm:
            found = Vignetting(ring, darkens, dark, half_diagonal_mm)
    return found
