"""How long stars stay points, by three rules."""

from __future__ import annotations

from dataclasses import dataclass

from ..exposure.star_trails import untrailed_by_500_s, untrailed_by_pixel_s, untrailed_by_trail_s
from ..optics.circle_of_confusion import coc_handbook_mm, crop_factor
from .formats import body_of


@dataclass(frozen=True)
class StarsNow:
    """Longest times [s] for stars at the celestial equator, the fastest ones."""

    by_trail_s: float
    by_500_s: float
    by_pixel_s: float

    @property
    def lines(self) -> tuple[str, ...]:
        """The answer in sentences, the shortest first."""
        named = (
            (self.by_pixel_s, "by aperture and pixel, (35 N + 30 p) ÷ f"),
            (self.by_trail_s, "until a star at the celestial equator crosses the circle of confusion"),
            (self.by_500_s, "by the rule of 500"),
        )
        return tuple(f"{time:.3g} s {words}." for time, words in sorted(named))


def stars_now(focal_mm: float, f_number: float = 2.8, sensor: str = "full") -> StarsNow:
    """Return the longest times for points. Raises InputError for an unknown format, or values that are not positive."""
    body = body_of(sensor)
    coc = float(coc_handbook_mm(body.sensor_width_mm, body.sensor_height_mm))
    pixel_um = 1000 * body.sensor_width_mm / body.pixels_wide
    return StarsNow(
        by_trail_s=float(untrailed_by_trail_s(focal_mm, coc)),
        by_500_s=float(untrailed_by_500_s(focal_mm, crop_factor(body.sensor_width_mm, body.sensor_height_mm))),
        by_pixel_s=float(untrailed_by_pixel_s(focal_mm, f_number, pixel_um)),
    )
