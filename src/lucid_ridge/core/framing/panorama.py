"""Panoramas: the frames for a wanted field, the slip from a pivot beside the entrance pupil, and the size of what is
stitched.

Columns = ⌈(span - field) / (field · (1 - overlap))⌉ + 1, a full circle ⌈360 / (field · (1 - overlap))⌉; overlap a third
to a half (common practice). Projections: central and cylindrical, any text on maps.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import InputError

MOST_FRAMES = 200
# Beyond this a flat projection stretches its sides past use.
WIDEST_FLAT_DEG = 120.0


@dataclass(frozen=True)
class Aim:
    """One frame's aim: row 0 is the highest, column 0 the leftmost."""

    row: int
    column: int
    bearing_deg: float
    pitch_deg: float


@dataclass(frozen=True)
class Panorama:
    """rows, columns, the overlap they really have (across, upwards; shares of the frame), the aims in the order to
    take them, sizes [pixels].

    flat_px is None where the field is too wide for a flat projection.
    """

    rows: int
    columns: int
    overlap: tuple[float, float]
    aims: tuple[Aim, ...]
    across_deg: float
    upwards_deg: float
    cylindrical_px: tuple[int, int]
    flat_px: tuple[int, int] | None


def frames_for(span_deg: float, field_deg: float, overlap: float) -> int:
    """Return how many frames cover a span [degrees] with fields of field_deg that overlap by a share; 1 where one
    holds it.
    """
    if not 0 <= overlap < 0.9:
        raise InputError("pano_overlap", f"The overlap must lie from 0 to below 0.9, not {overlap:g}.")
    if not (0 < field_deg < 180 and 0 < span_deg <= 360):
        raise InputError("pano_across_deg", f"A panorama spans up to 360 degrees, not {span_deg:g}.")
    if span_deg <= field_deg:
        return 1
    # A span that fits exactly must not ask for one more by a rounding.
    return math.ceil((span_deg - field_deg) / (field_deg * (1 - overlap)) - 1e-9) + 1


def full_circle_count(field_deg: float, overlap: float) -> int:
    """Return how many frames close a full circle with fields of field_deg that overlap by a share, the last one onto
    the first.
    """
    if not 0 <= overlap < 0.9:
        raise InputError("pano_overlap", f"The overlap must lie from 0 to below 0.9, not {overlap:g}.")
    if not 0 < field_deg < 180:
        raise InputError("field_deg", f"A frame's field lies above 0 and below 180 degrees, not {field_deg:g}.")
    return math.ceil(360 / (field_deg * (1 - overlap)) - 1e-9)


def plan_panorama(
    across_deg: float,
    upwards_deg: float,
    fields_deg: tuple[float, float],
    overlap: float,
    bearing_deg: float,
    pitch_deg: float,
    focal_px: float,
) -> Panorama:
    """Return the frames of a panorama centred on a bearing and pitch, taken on a levelled head row by row from the top
    left.

    fields_deg: of one frame, across and upwards. focal_px: focal length in pixels. Raises InputError for impossible
    spans, an overlap of 0.9 and more, rows beyond straight up or down, or more than MOST_FRAMES frames.
    """
    round_about = across_deg == 360
    columns = (
        full_circle_count(fields_deg[0], overlap) if round_about else frames_for(across_deg, fields_deg[0], overlap)
    )
    rows = frames_for(upwards_deg, fields_deg[1], overlap)
    if columns * rows > MOST_FRAMES:
        raise InputError(
            "pano_across_deg", f"That would be {columns * rows} frames; at most {MOST_FRAMES}: take a shorter lens."
        )
    steps = tuple(
        0.0 if count == 1 else (span - field) / (count - 1)
        for count, span, field in zip((columns, rows), (across_deg, upwards_deg), fields_deg, strict=True)
    )
    if round_about:
        # The seam is a step like the others.
        steps = (360 / columns, steps[1])
    highest = pitch_deg + steps[1] * (rows - 1) / 2
    if not (highest <= 90 and highest - steps[1] * (rows - 1) >= -90):
        raise InputError("pano_upwards_deg", "The rows would tilt past straight up or down: aim nearer to level.")
    aims = tuple(
        Aim(row, column, (bearing_deg + (column - (columns - 1) / 2) * steps[0]) % 360, highest - row * steps[1])
        for row in range(rows)
        for column in range(columns)
    )
    spans = (max(across_deg, fields_deg[0]), max(upwards_deg, fields_deg[1]))
    high = math.tan(math.radians(min(89.0, spans[1] / 2)))
    flat = None
    if spans[0] <= WIDEST_FLAT_DEG and spans[1] <= WIDEST_FLAT_DEG:
        flat = (round(2 * focal_px * math.tan(math.radians(spans[0] / 2))), round(2 * focal_px * high))
    overlaps = (1 - steps[0] / fields_deg[0] if steps[0] else 1.0, 1 - steps[1] / fields_deg[1] if steps[1] else 1.0)
    return Panorama(
        rows, columns, overlaps, aims, *spans,
        (round(math.radians(spans[0]) * focal_px), round(2 * focal_px * high)), flat,
    )  # fmt: skip


def parallax_slip_rad(offset_m: float, turn_deg: float, near_m: float, far_m: float) -> float:
    """Return by how much near slips against far between two frames [radians], pivoting offset_m from the entrance
    pupil.

    The pupil moves by the chord 2·offset·sin(turn/2); slip = chord · (1/near - 1/far). far_m may be infinite. Raises
    InputError for distances that are not positive.
    """
    if near_m <= 0 or far_m <= 0:
        raise InputError("near_m", "Distances must lie above zero.")
    chord = 2 * abs(offset_m) * math.sin(math.radians(abs(turn_deg)) / 2)
    return chord * abs(1 / near_m - 1 / far_m)
