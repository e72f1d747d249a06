"""Where to focus, and in how many frames, for a range that must be sharp: by the depth plan of a shot."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..facts.shot import facts_from
from ..optics.depth import hyperfocal_distance_mm
from ..planning.plan.shot_plan import plan_shot
from ..planning.verdicts import FAILS
from ..units.lengths import format_distance, format_distances_apart
from ..units.markings import format_aperture
from .formats import body_of, lens_of


@dataclass(frozen=True)
class DepthNow:
    """near_m, far_m, hyperfocal_m (the handbook's, f²/(N c) + f): from the lens [m]. focus_m: as engraved on the ring,
    from the sensor [m], nearest first, one a frame.

    blur_um: the worst over the range, diffraction included; limit_um: the circle of confusion. sharp: whether all of
    the range is within it.
    """

    f_number: float
    near_m: float
    far_m: float
    hyperfocal_m: float
    focus_m: tuple[float, ...]
    blur_um: float
    limit_um: float
    sharp: bool

    @property
    def lines(self) -> tuple[str, ...]:
        """The answer in sentences, the figure first."""
        far = "infinity" if math.isinf(self.far_m) else format_distance(self.far_m)
        where = ", ".join(format_distances_apart(list(self.focus_m)))
        frames = "one frame" if len(self.focus_m) == 1 else f"{len(self.focus_m)} frames"
        holds = "sharp" if self.sharp else "not sharp all through"
        return (
            f"Focus at {where}: {frames} at {format_aperture(self.f_number)}, {holds} from "
            f"{format_distance(self.near_m)} to {far}.",
            f"Blur at most {self.blur_um:.0f} of {self.limit_um:.0f} µm, diffraction included.",
            f"Hyperfocal distance {format_distance(self.hyperfocal_m)} (handbook).",
        )


def depth_now(focal_mm: float, f_number: float, near_m: float, far_m: float, sensor: str = "full") -> DepthNow:
    """Return where to focus for a range. far_m: infinite for infinity. Raises InputError for an unknown format."""
    body = body_of(sensor)
    facts = facts_from(
        body=body,
        lens=lens_of(focal_mm),
        focal_mm=focal_mm,
        f_number=f_number,
        near_m=near_m,
        far_m=None if math.isinf(far_m) else far_m,
        far_infinite=math.isinf(far_m),
    )
    step = plan_shot(facts).depth
    coc = step.coc_mm or math.nan
    return DepthNow(
        f_number=f_number,
        near_m=near_m,
        far_m=far_m,
        hyperfocal_m=float(hyperfocal_distance_mm(focal_mm, f_number, coc)) / 1000,
        focus_m=tuple(item.focus_distance_m for item in step.positions),
        blur_um=1000 * (step.worst_blur_mm or math.nan),
        limit_um=1000 * coc,
        sharp=bool(step.positions) and step.verdict.mark != FAILS,
    )
