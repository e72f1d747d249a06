"""The exposure time behind a filter, from a reading without it."""

from __future__ import annotations

from dataclasses import dataclass

from ..exposure.film import corrected_time_s
from ..exposure.filters import shutter_with_filters_s
from ..units.markings import format_shutter
from ..units.quantities import not_negative


@dataclass(frozen=True)
class BehindFilters:
    """metered_s: exposure time of the reading; stops: density of the filters; needed_s: exposure time behind them;
    open_s: the same with the film's reciprocity failure.
    """

    metered_s: float
    stops: float
    needed_s: float
    open_s: float

    @property
    def lines(self) -> tuple[str, ...]:
        """The answer in sentences, the figure first."""
        found = [
            f"{format_shutter(self.open_s)} behind {self.stops:.4g} stops.",
            f"{self.metered_s:.4g} s × 2^{self.stops:.4g} = {self.needed_s:.4g} s.",
        ]
        if self.open_s > self.needed_s * 1.001:
            found.append(f"Reciprocity failure lengthens {self.needed_s:.4g} s to {self.open_s:.4g} s.")
        return tuple(found)


def behind_filters(metered_s: float, stops: float, film_exponent: float | None = None) -> BehindFilters:
    """Return the exposure time behind filters. stops: of all of them; film_exponent: of the film's reciprocity failure;
    None: a sensor.

    Raises InputError unless the time is positive and the stops are not negative.
    """
    needed = float(shutter_with_filters_s(metered_s, float(not_negative("stops", stops))))
    return BehindFilters(metered_s, stops, needed, float(corrected_time_s(needed, film_exponent)))
