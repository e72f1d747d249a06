"""What is to be said of a time out once its files are read: light against the plan, sharpness place by place over a stack, what is missing."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ..field.recorded import Place
from ..planning.marks import FAILS, HOLDS, TIGHT, UNSAID, Severity
from ..units.lengths import format_distance
from .cells import Cells

# A place is sharp that is blurred by no more [px, as a Gaussian's sigma].
SHARP_PX = 1.3
_LIGHT_TIGHT, _LIGHT_FAILS = 1 / 3, 1.0
_CLIPPED_TIGHT, _CLIPPED_FAILS = 0.002, 0.02
# Darker than this light drowns in noise; what should come out brighter than that clips [share of saturation].
_DARKEST, _BRIGHTEST = 0.002, 0.9


@dataclass(frozen=True)
class JudgedFrame:
    """A frame of the log as it is judged. number: of the planned frame. focus_m: where it was to be focused. sharp: whether it is as a whole."""

    number: int
    group: int
    focus_m: float
    cells: Cells
    clipped_share: float
    clipped_channel: str
    error_ev: float | None
    moved: bool
    sharp: bool | None


@dataclass(frozen=True)
class Finding:
    severity: Severity
    text: str


def findings(spots: Sequence[Place], frames: Sequence[JudgedFrame], missing: Sequence[int]) -> tuple[Finding, ...]:
    """Return what is to be said, worst first. missing: numbers of planned frames of which there is no file."""
    found = [*_missing(missing), *_light(frames), *_clipping(frames), *_moved(frames), *_sharpness(spots, frames)]
    rank = {FAILS: 0, TIGHT: 1, UNSAID: 2, HOLDS: 3}
    return tuple(sorted(found, key=lambda item: rank[item.severity]))


def moved_at(cells: Cells, spots: Sequence[Place]) -> bool:
    """Whether most of what stands where the plan looks has moved, all of it in one direction: then it was the camera."""
    directions = [
        cells.moved_deg[at] for spot in spots if not spot.moves for at in cells.around(spot.x, spot.y) if math.isfinite(cells.sigma_px[at])
    ]
    moved = [item for item in directions if math.isfinite(item)]
    if len(moved) < max(2, 0.5 * len(directions)):
        return False
    across = sum(math.cos(math.radians(2 * item)) for item in moved) / len(moved)
    down = sum(math.sin(math.radians(2 * item)) for item in moved) / len(moved)
    return math.hypot(across, down) > 0.6


def means_at(cells: Cells, spots: Sequence[Place]) -> tuple[float | None, ...]:
    """Return the light place by place, None where it clips or is too dark to be measured."""
    found = (cells.mean_at(spot.x, spot.y) for spot in spots)
    return tuple(value if value is not None and value >= _DARKEST else None for value in found)


def error_ev(
    measured: Sequence[float | None],
    expected: Sequence[float],
    planned: tuple[float, float, float],
    taken: tuple[float | None, float | None, float | None],
) -> float | None:
    """Return by how much a frame is brighter than foretold [EV], the mean over its places, counted back to the settings really used; None where that cannot be told.

    planned, taken: f-number, shutter time [s], ISO.
    """
    told = [
        math.log2(value / wanted)
        for value, wanted in zip(measured, expected, strict=False)
        if value is not None and 0 < wanted <= _BRIGHTEST
    ]
    if not told:
        return None
    f_number, shutter_s, iso = (said if said else plan for said, plan in zip(taken, planned, strict=True))
    change = math.log2(shutter_s / planned[1] * (iso / planned[2]) * (planned[0] / f_number) ** 2)
    return sum(told) / len(told) - change


def _missing(missing: Sequence[int]) -> list[Finding]:
    if not missing:
        return []
    which = f"Frame {missing[0]} is" if len(missing) == 1 else f"Frames {', '.join(map(str, missing))} are"
    return [Finding(FAILS, f"{which} missing among the files: take {'it' if len(missing) == 1 else 'them'} while you still can.")]


def _light(frames: Sequence[JudgedFrame]) -> list[Finding]:
    errors = sorted(frame.error_ev for frame in frames if frame.error_ev is not None)
    if not errors:
        return []
    middle = errors[len(errors) // 2]
    way = "brighter" if middle > 0 else "darker"
    if abs(middle) < 0.1:
        return [Finding(HOLDS, "The light came out as planned, within a tenth of a stop.")]
    mark = HOLDS if abs(middle) <= _LIGHT_TIGHT else TIGHT if abs(middle) <= _LIGHT_FAILS else FAILS
    return [Finding(mark, f"The frames came out {abs(middle):.1f} stop {way} than planned.")]


def _clipping(frames: Sequence[JudgedFrame]) -> list[Finding]:
    if not frames:
        return []
    # Of a bracket the darkest frame is the one that must hold the highlights.
    held = min(frames, key=lambda frame: frame.clipped_share)
    if held.clipped_share <= _CLIPPED_TIGHT:
        return []
    mark = FAILS if held.clipped_share > _CLIPPED_FAILS else TIGHT
    return [
        Finding(
            mark,
            f"{held.clipped_channel.capitalize() or 'White'} clips in {held.clipped_share:.1%} of the picture even in the frame that holds most (frame {held.number}).",
        )
    ]


def _moved(frames: Sequence[JudgedFrame]) -> list[Finding]:
    moved = [frame.number for frame in frames if frame.moved]
    if not moved:
        return []
    which = f"Frame {moved[0]}" if len(moved) == 1 else f"Frames {', '.join(map(str, moved))}"
    return [Finding(FAILS, f"{which} moved as a whole: the camera shook or was bumped.")]


def _sharpness(spots: Sequence[Place], frames: Sequence[JudgedFrame]) -> list[Finding]:
    """Return for each place whether one of the frames is sharp there; where none is, which comes nearest, and where that was focused."""
    still = [frame for frame in frames if not frame.moved]
    found = []
    for spot in (spot for spot in spots if not spot.moves):
        told = [(frame, frame.cells.sigma_px[frame.cells.at(spot.x, spot.y)]) for frame in still]
        told = [(frame, sigma) for frame, sigma in told if math.isfinite(sigma)]
        if not told:
            found.append(Finding(UNSAID, f"{spot.name}: too little detail to tell whether it is sharp."))
            continue
        best, sigma = min(told, key=lambda item: item[1])
        if sigma <= SHARP_PX:
            which = f" in frame {best.number}" if len(frames) > 1 else ""
            found.append(Finding(HOLDS, f"{spot.name}: sharp{which}."))
        else:
            focused = f", focused at {format_distance(best.focus_m)}," if math.isfinite(best.focus_m) else ""
            found.append(Finding(FAILS, f"{spot.name}: soft. Even frame {best.number}{focused} blurs it over {2 * sigma:.1f} points."))
    return found
