"""Exposure brackets over a metered range.

Source: [1] ISO 12232, saturation-based speed: a metered mid-grey lies log2(1/0.127) = 2.98 stops under saturation.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import InputError
from ..units.quantities import finite, not_negative, positive

MID_GREY_OF_SATURATION = 0.127
HIGHLIGHT_ROOM_STOPS = math.log2(1 / MID_GREY_OF_SATURATION)
MAX_FRAMES = 31
_WHOLE = 1e-9


@dataclass(frozen=True)
class BracketFrame:
    """One exposure of a bracket.

    ev100: the scene EV (at ISO 100) that this frame renders as mid-grey; offset_ev: brightening against the darkest
    frame; darkest_ev, brightest_ev: the scene EVs this frame holds.
    """

    ev100: float
    offset_ev: float
    darkest_ev: float
    brightest_ev: float


@dataclass(frozen=True)
class Bracket:
    """Frames from the darkest, which holds the highlights, to the brightest, which holds the shadows."""

    frames: tuple[BracketFrame, ...]
    range_stops: float
    held_stops: float
    spare_stops: float

    @property
    def count(self) -> int:
        return len(self.frames)


def plan_bracket(
    shadow_ev: float, highlight_ev: float, held_stops: float, step_ev: float = 2.0, highlight_margin_ev: float = 0.0
) -> Bracket:
    """Return the frames 1 + ceil((range - held) / step) that hold shadow_ev to highlight_ev [EV at ISO 100].

    shadow_ev, highlight_ev: readings of the darkest and brightest parts that must keep detail. held_stops: what one
    frame of this body holds. step_ev: brightening from frame to frame, at most held_stops. highlight_margin_ev: held
    back under saturation for strong reds and yellows (1/3 to 2/3, common practice); it widens the range. The darkest
    frame puts the highlight at saturation less the margin; stops left over lie under the shadows. Raises InputError for
    a highlight darker than the shadow or for more than 31 frames. Source: [1].
    """
    shadow, highlight = float(finite("shadow_ev", shadow_ev)), float(finite("highlight_ev", highlight_ev))
    held, step = float(positive("held_stops", held_stops)), float(positive("step_ev", step_ev))
    margin = float(not_negative("highlight_margin_ev", highlight_margin_ev))
    if highlight < shadow:
        raise InputError(
            "highlight_ev",
            f"The highlight reading (EV {highlight:g}) must not be under the shadow reading (EV {shadow:g}).",
        )
    if step > held:
        raise InputError("step_ev", f"Steps of {step:g} EV would leave gaps: one frame holds {held:g} stops.")
    span = highlight - shadow + margin
    count = 1 + max(0, math.ceil((span - held) / step - _WHOLE))
    if count > MAX_FRAMES:
        raise InputError("step_ev", f"That would take {count} exposures; at most {MAX_FRAMES} are planned.")
    saturation = highlight + margin
    frames = tuple(
        BracketFrame(
            ev100=saturation - HIGHLIGHT_ROOM_STOPS - index * step,
            offset_ev=index * step,
            darkest_ev=saturation - index * step - held,
            brightest_ev=saturation - index * step,
        )
        for index in range(count)
    )
    return Bracket(frames, highlight - shadow, held, spare_stops=held + (count - 1) * step - span)
