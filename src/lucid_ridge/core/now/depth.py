"""Where to focus, and in how many frames, for a range that must be sharp: by the depth plan of a shot."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import InputError
from ..facts.kit import Body
from ..facts.shot import facts_from
from ..optics.depth import hyperfocal_distance_mm
from ..planning.focus.plan import plan_depth
from ..planning.verdicts import FAILS
from ..planning.wording import plural
from ..units.lengths import format_distance, format_distances_apart
from .answer import Answer
from .formats import lens_of

# So many focus positions are read at a glance.
_FEW = 2


@dataclass(frozen=True)
class DepthNow:
    """near_m, far_m, hyperfocal_m (the handbook's, f²/(N c) + f): from the lens [m]. focus_m: as engraved on the ring,
    from the sensor [m], nearest first, one a frame.

    sharp_m: from where to where all frames together are sharp. blur_um: the worst over the range, diffraction included;
    limit_um: the circle of confusion. sharp: whether all of the range is within it.
    """

    focal_mm: float
    f_number: float
    near_m: float
    far_m: float
    hyperfocal_m: float
    focus_m: tuple[float, ...]
    sharp_m: tuple[float, float]
    blur_um: float
    limit_um: float
    sharp: bool

    @property
    def answer(self) -> Answer:
        """Where to focus, in how many frames, and what is sharp then."""
        count, places = len(self.focus_m), format_distances_apart(list(self.focus_m))
        few = count <= _FEW
        frames = "one frame" if count == 1 else plural(count, "frame")
        near, far = format_distance(self.sharp_m[0]), format_distance(self.sharp_m[1])
        notes = [
            f"{'Sharp' if self.sharp else 'Not sharp all through'}: {near} to {far}.",
            f"Hyperfocal distance {format_distance(self.hyperfocal_m)}, by the handbook.",
            f"Blur at most {self.blur_um:.0f} of {self.limit_um:.0f} µm, diffraction included.",
        ]
        if not few:
            notes.insert(0, f"Focus at {', '.join(places)}.")
        choices = {
            "focal_mm": self.focal_mm,
            "f_number": self.f_number,
            "near_m": self.near_m,
            "far_m": None if math.isinf(self.far_m) else self.far_m,
            "far_infinite": math.isinf(self.far_m),
        }
        return Answer(
            ", ".join(places) if few else frames,
            f"focus here, {frames}" if few else "by refocusing",
            tuple(notes),
            choices,
        )


def depth_now(focal_mm: float, f_number: float, near_m: float, far_m: float, body: Body) -> DepthNow:
    """Return where to focus for a range. far_m: infinite for infinity.

    Raises InputError for a range that no lens of this focal length can hold: nearer than it images, or far before near.
    """
    facts = facts_from(
        body=body,
        lens=lens_of(focal_mm),
        focal_mm=focal_mm,
        f_number=f_number,
        near_m=near_m,
        far_m=None if math.isinf(far_m) else far_m,
        far_infinite=math.isinf(far_m),
    )
    step = plan_depth(facts)
    if not step.positions:
        raise InputError("far_m" if far_m < near_m else "near_m", step.reasons[0].text)
    coc = step.coc_mm or math.nan
    return DepthNow(
        focal_mm=focal_mm,
        f_number=f_number,
        near_m=near_m,
        far_m=far_m,
        hyperfocal_m=float(hyperfocal_distance_mm(focal_mm, f_number, coc)) / 1000,
        focus_m=tuple(item.focus_distance_m for item in step.positions),
        sharp_m=(
            min(item.near_limit_m for item in step.positions),
            max(item.far_limit_m for item in step.positions),
        ),
        blur_um=1000 * (step.worst_blur_mm or math.nan),
        limit_um=1000 * coc,
        sharp=step.verdict.mark != FAILS,
    )
