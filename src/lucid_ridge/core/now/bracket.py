"""How many frames hold a range that was read."""

from __future__ import annotations

from dataclasses import dataclass

from ..exposure.bracketing import plan_bracket


@dataclass(frozen=True)
class BracketNow:
    """span_stops: from the darkest reading to the brightest; held_stops: by one frame; spare_stops: left in the
    shadows.
    """

    span_stops: float
    held_stops: float
    step_ev: float
    frames: int
    spare_stops: float

    @property
    def lines(self) -> tuple[str, ...]:
        """The answer in sentences, the figure first."""
        one = self.frames == 1
        first = "One frame holds it." if one else f"{self.frames} frames, {self.step_ev:g} EV apart."
        return (
            first,
            f"{self.span_stops:.3g} stops, of which one frame holds {self.held_stops:g}: 1 + "
            f"({self.span_stops:.3g} − {self.held_stops:g}) ÷ {self.step_ev:g}, rounded up.",
            f"{self.spare_stops:.1f} stops to spare in the shadows.",
        )


def bracket_now(darkest_ev: float, brightest_ev: float, held_stops: float = 11.0, step_ev: float = 2.0) -> BracketNow:
    """Return the frames that hold a range between two readings [EV at ISO 100]. Raises InputError as plan_bracket."""
    found = plan_bracket(darkest_ev, brightest_ev, held_stops, step_ev)
    return BracketNow(brightest_ev - darkest_ev, held_stops, step_ev, found.count, found.spare_stops)
