"""Step 6, each frame's small picture in its own tones."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...facts.shot import ShotFacts
from ...framing.panorama import Aim
from ...tones.response import screen_tone
from ..plan.shot_plan import ShotPlan
from .plan import plan_tones

# Along the longer side of a frame's picture.
_POINTS = 138
# More pictures of different aims or exposures than this are not made.
MOST_PICTURES = 48


@dataclass(frozen=True)
class FramePicture:
    """What frames show that hold so much light the most, at one aim.

    tones: (high, wide), 0 to 1, as a screen shows them.
    """

    brightest_ev: float
    aim: Aim | None
    tones: NDArray[np.float64]


def frame_pictures(facts: ShotFacts, plan: ShotPlan) -> tuple[FramePicture, ...]:
    """Return the pictures of a plan's frames, one for each aim and brightness; none while body, lens or the time are
    not chosen.

    Of a panorama each aim is seen by the camera turned to it. In the light of the shot's time: a frame of a later
    moment is exposed for that moment.
    """
    kinds = list(dict.fromkeys((frame.aim, round(frame.brightest_ev, 3)) for frame in plan.sequence.frames))[
        :MOST_PICTURES
    ]
    seen: dict[Aim | None, NDArray[np.float64] | None] = {}
    found = []
    for aim, brightest in kinds:
        if aim not in seen:
            turned = (
                facts
                if aim is None
                else facts.choosing(bearing_deg=aim.bearing_deg, pitch_deg=aim.pitch_deg, pano_across_deg=None)
            )
            step = plan_tones(turned, plan, _POINTS)
            seen[aim] = None if step is None else step.seen_ev
        ev = seen[aim]
        if ev is not None:
            found.append(FramePicture(brightest, aim, screen_tone(brightest - ev)))
    return tuple(found)
