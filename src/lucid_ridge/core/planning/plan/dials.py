"""What body and lens in hand can be set to: the detents of the dials, and why each goes no further."""

from __future__ import annotations

from dataclasses import dataclass

from ...facts.shot import ShotFacts
from ...units.markings import Marking, format_aperture, format_shutter, markings_by
from ...units.spelling import spelling

# Focal lengths engraved on lenses (common practice); a zoom stops at those inside its range and at its ends.
FOCAL_MARKINGS_MM = (
    8,
    10,
    12,
    14,
    16,
    18,
    20,
    24,
    28,
    35,
    40,
    50,
    60,
    70,
    85,
    100,
    105,
    135,
    150,
    180,
    200,
    240,
    300,
    400,
    500,
    600,
    800,
)
# Beyond the camera's own markings a timer counts, by doubling.
_TIMED_S = (64.0, 128.0, 256.0, 512.0, 1024.0)


@dataclass(frozen=True)
class Detents:
    """The marks of one dial in the order of its scale. at_start, at_end: a sentence on what ends the scale there."""

    marks: tuple[Marking, ...]
    at_start: str
    at_end: str


@dataclass(frozen=True)
class Dials:
    apertures: Detents
    isos: Detents
    focals: Detents
    shutters: Detents


def dials_of(facts: ShotFacts) -> Dials:
    """Return the detents of a shot's dials, as fine as is preferred; without a body or lens all that the trade
    engraves.
    """
    apertures, shutters, isos = markings_by(spelling().dial_steps)
    return Dials(_apertures(facts, apertures), _isos(facts, isos), _focals(facts), _shutters(facts, shutters))


def _apertures(facts: ShotFacts, engraved: tuple[Marking, ...]) -> Detents:
    lens = facts.lens
    if lens is None:
        return _ends(engraved, "the widest aperture engraved", "the smallest aperture engraved")
    focal = facts.frame.focal_mm or lens.focal_min_mm
    marks = tuple(mark for mark in engraved if lens.takes_aperture(mark.value, focal))
    at = f" at {focal:g} mm" if lens.f_number_min_long is not None else ""
    return Detents(
        marks,
        f"{format_aperture(lens.widest_f_number(focal))} is as wide as the {lens.name} opens{at}.",
        f"{format_aperture(lens.f_number_max)} is as far as the {lens.name} closes.",
    )


def _isos(facts: ShotFacts, engraved: tuple[Marking, ...]) -> Detents:
    body = facts.body
    if body is None:
        return _ends(engraved, "the lowest speed engraved", "the highest speed engraved")
    marks = tuple(mark for mark in engraved if body.takes_iso(mark.value))
    return Detents(
        marks,
        f"ISO {body.iso_range[0]:g} is the lowest of the {body.name}.",
        f"ISO {body.iso_range[1]:g} is the highest of the {body.name}.",
    )


def _focals(facts: ShotFacts) -> Detents:
    lens = facts.lens
    if lens is None:
        return _ends(
            tuple(Marking(float(focal), f"{focal}") for focal in FOCAL_MARKINGS_MM),
            "the shortest engraved",
            "the longest engraved",
        )
    low, high = lens.focal_min_mm, lens.focal_max_mm
    focals = sorted({low, high, *(float(focal) for focal in FOCAL_MARKINGS_MM if low < focal < high)})
    return Detents(
        tuple(Marking(focal, f"{focal:g}") for focal in focals),
        f"{low:g} mm is the shortest of the {lens.name}.",
        f"{high:g} mm is the longest of the {lens.name}.",
    )


def _shutters(facts: ShotFacts, engraved: tuple[Marking, ...]) -> Detents:
    timed = tuple(Marking(seconds, format_shutter(seconds)) for seconds in _TIMED_S)
    body = facts.body
    if body is None:
        return _ends(engraved + timed, "the shortest time engraved", "as long as the dial goes: type a longer time")
    marks = tuple(mark for mark in engraved + timed if body.can_time(mark.value))
    end = (
        "The dial ends here: type a longer time."
        if body.has_bulb
        else f"{format_shutter(body.slowest_shutter_s)} is the longest of the {body.name}."
    )
    return Detents(marks, f"{format_shutter(body.fastest_shutter_s)} is the shortest of the {body.name}.", end)


def _ends(marks: tuple[Marking, ...], start: str, end: str) -> Detents:
    return Detents(marks, f"This is {start}.", f"This is {end}.")
