"""How long stars stay points, by three rules."""

from __future__ import annotations

from dataclasses import dataclass

from ..exposure.star_trails import UntrailedTimes, untrailed_times
from ..facts.kit import Body
from ..optics.circle_of_confusion import coc_handbook_mm
from .answer import Answer


@dataclass(frozen=True)
class StarsNow:
    """times: for stars at the celestial equator, the fastest ones."""

    focal_mm: float
    f_number: float
    times: UntrailedTimes

    @property
    def answer(self) -> Answer:
        """The shortest of the three times, and the others."""
        named = (
            (self.times.by_pixel_s, "(35 N + 30 p) ÷ f, pixel p in µm"),
            (self.times.by_trail_s, "until a star at the equator has moved by the circle of confusion"),
            (self.times.by_500_s, "by the rule of 500"),
        )
        (shortest, first), *others = sorted(named)
        notes = (f"The strictest rule: {first}.", *(f"{time:.3g} s {words}." for time, words in others))
        choices = {"focal_mm": self.focal_mm, "f_number": self.f_number, "wanted_shutter_s": shortest}
        return Answer(f"{shortest:.3g} s", "before stars trail", notes, choices)


def stars_now(focal_mm: float, f_number: float, body: Body) -> StarsNow:
    """Return the longest times for points. Raises InputError for values that are not positive."""
    coc_mm = float(coc_handbook_mm(body.sensor_width_mm, body.sensor_height_mm))
    return StarsNow(focal_mm, f_number, untrailed_times(focal_mm, f_number, body, coc_mm))
