"""The exposure time behind a filter, from a reading without it."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ..exposure.film import corrected_time_s
from ..exposure.filters import shutter_with_filters_s
from ..planning.light.changing_light import ChangingLight
from ..planning.wording import plural
from ..units.lengths import format_duration
from ..units.markings import format_shutter, spoken_shutter
from ..units.quantities import not_negative
from .answer import Answer

# Longer than bodies time by themselves (common practice) [s]; a change that a picture shows [stops].
_TIMED_S, _SEEN_STOPS = 33.0, 0.05
# Where a reading does not say its aperture.
USUAL_F_NUMBER = 8.0


@dataclass(frozen=True)
class BehindFilters:
    """metered_s: exposure time of the reading; needed_s: behind filters of density_stops;
    open_s: the same with the film's reciprocity failure, and with the light that changes meanwhile where changing says
    so; infinity if the light fades first. f_number, iso: of the reading, where a shot is made of it.
    """

    metered_s: float
    density_stops: float
    needed_s: float
    open_s: float
    changing: bool = False
    f_number: float = USUAL_F_NUMBER
    iso: float = 100.0

    @property
    def answer(self) -> Answer:
        """The time to keep the shutter open, and how it comes about."""
        behind = f"behind {plural(round(self.density_stops, 1), 'stop')}"
        choices = self.reading(self.f_number, self.iso) | {"f_number": self.f_number, "iso": self.iso}
        if math.isinf(self.open_s):
            return Answer("no time", behind, ("The light fades before enough of it has come in.",), choices)
        notes = [f"{format_duration(self.needed_s)} = {self._metered} × 2^{self.density_stops:.3g}."]
        if self.changing and abs(math.log2(self.open_s / self.needed_s)) > _SEEN_STOPS:
            notes.append(f"{format_duration(self.needed_s)} in steady light; it changes meanwhile.")
        elif self.open_s > self.needed_s * 1.001:
            notes.append(f"The film's reciprocity failure lengthens {format_duration(self.needed_s)}.")
        around = [f"{sign}1 stop {spoken_shutter(self.open_s * factor)}" for sign, factor in (("+", 2.0), ("−", 0.5))]
        if not self.changing and self.open_s == self.needed_s:
            notes.append(" · ".join(around) + ".")
        if self.open_s > _TIMED_S:
            notes.append("Bulb and a timer.")
        return Answer(spoken_shutter(self.open_s), behind, tuple(notes), choices)

    def reading(self, f_number: float, iso: float) -> dict[str, object]:
        """Return the choices of a shot whose reading was taken at an aperture and an ISO."""
        return {"metered_shutter_s": self.metered_s, "metered_f_number": f_number, "metered_iso": iso}

    @property
    def _metered(self) -> str:
        return format_shutter(self.metered_s)


def behind_filters(
    metered_s: float, density_stops: float, film_exponent: float | None = None, light: ChangingLight | None = None
) -> BehindFilters:
    """Return the exposure time behind filters. film_exponent: of the film's reciprocity failure; None: a sensor.

    light: from the opening on, where it changes; None: it stays.

    Raises InputError unless the time is positive and the stops are not negative.
    """
    needed = float(shutter_with_filters_s(metered_s, float(not_negative("density_stops", density_stops))))
    if light is None:
        return BehindFilters(metered_s, density_stops, needed, float(corrected_time_s(needed, film_exponent)))
    return BehindFilters(
        metered_s, density_stops, needed, replace(light, film_exponent=film_exponent).needed_s(needed), changing=True
    )
