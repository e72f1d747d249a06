"""How long stars stay points, by three rules."""

from __future__ import annotations

from dataclasses import dataclass

from ..exposure.star_trails import UntrailedTimes, untrailed_times
from ..optics.circle_of_confusion import coc_handbook_mm
from .formats import body_of


@dataclass(frozen=True)
class StarsNow:
    """times: for stars at the celestial equator, the fastest ones."""

    times: UntrailedTimes

    @property
    def lines(self) -> tuple[str, ...]:
        """The answer in sentences, the shortest first."""
        named = (
            (self.times.by_pixel_s, "by aperture and pixel, (35 N + 30 p) ÷ f"),
            (self.times.by_trail_s, "until a star at the celestial equator crosses the circle of confusion"),
            (self.times.by_500_s, "by the rule of 500"),
        )
        return tuple(f"{time:.3g} s {words}." for time, words in sorted(named))


def stars_now(focal_mm: float, f_number: float = 2.8, sensor: str = "full") -> StarsNow:
    """Return the longest times for points. Raises InputError for an unknown format, or values that are not positive."""
    body = body_of(sensor)
    coc_mm = float(coc_handbook_mm(body.sensor_width_mm, body.sensor_height_mm))
    return StarsNow(untrailed_times(focal_mm, f_number, body, coc_mm))
