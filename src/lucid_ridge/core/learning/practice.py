"""Short exercises: each states its aim and what counts as progress, asks from a seed so that the same question can be checked, and scores the answer.

Scores run from 0 to 100. Within the tolerance named by the trade (a third of a stop, a tenth of a distance) an answer is wholly right; beyond that the score falls off, our own choice.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from ..errors import InputError
from ..exposure.filters import shutter_with_filters_s
from ..exposure.motion import LookName, times_of_look_s
from ..optics.circle_of_confusion import coc_handbook_mm
from ..optics.depth import hyperfocal_distance_mm
from ..units.lengths import format_distance, parse_distance_m
from ..units.markings import format_aperture, format_shutter, nearest_third_f_number, nearest_third_shutter_s, parse_shutter
from ..units.ratios import parse_ev
from .recipe import streak_share_of


class Exercise(StrEnum):
    STOPS = "counting stops"
    FILTERS = "time behind a filter"
    LOOK = "the shutter for a look"
    HYPERFOCAL = "hyperfocal distance"
    HISTOGRAM = "reading a histogram"
    LADDER = "shutter ladder on moving water"
    LEANING = "leaning in by a beat"


@dataclass(frozen=True)
class About:
    """aim: what it trains. progress: which result means progress. outside: it is done with a camera, and scored by what one counts."""

    aim: str
    progress: str
    outside: bool = False


ABOUT: dict[Exercise, About] = {
    Exercise.STOPS: About("Say without counting on your fingers how many stops lie between two settings.", "Nine of ten within a third of a stop."),
    Exercise.FILTERS: About("Know the shutter time behind a filter before you look it up.", "Nine of ten within a third of a stop."),
    Exercise.LOOK: About("Choose the shutter that gives moving water the look you want.", "Eight of ten inside the band."),
    Exercise.HYPERFOCAL: About("Set the hyperfocal distance from memory.", "Eight of ten within a quarter of the distance."),
    Exercise.HISTOGRAM: About("Read from a histogram by how many stops a frame is over or under.", "Eight of ten right."),
    Exercise.LADDER: About(
        "Take one piece of moving water at seven shutter times, a stop apart, and rate each frame.", "You can say beforehand which you will like; the stars teach your own bands.", True
    ),
    Exercise.LEANING: About(
        "Lean in towards a coin on the kitchen table at the speed of the beat, camera at the eye, and count the frames of a burst in which it is sharp.",
        "Three of ten frames sharp at 1:1; half of them with practice.", True,
    ),
}  # fmt: skip


@dataclass(frozen=True)
class Question:
    """text: what is asked. unit: of the answer, as words. bars: a histogram to be read, from dark to bright, empty otherwise; beat_per_min: of a metronome, None without one."""

    text: str
    unit: str
    bars: tuple[float, ...] = ()
    beat_per_min: float | None = None


@dataclass(frozen=True)
class Marked:
    """score: 0 to 100. right: what would have been right, as a sentence."""

    score: float
    right: str


def question(exercise: Exercise, seed: int) -> Question:
    """Return the question that a seed stands for."""
    return _Asked(exercise, seed).question


def mark(exercise: Exercise, seed: int, answer: str) -> Marked:
    """Score an answer as it was typed. Raises InputError for what cannot be read."""
    return _Asked(exercise, seed).mark(answer)


def ladder_s(middle_s: float = 0.25, count: int = 7) -> tuple[float, ...]:
    """Return shutter times [s] a stop apart around a middle one."""
    return tuple(float(nearest_third_shutter_s(middle_s * 2.0**step)) for step in range(-(count // 2), count - count // 2))


def beat_of_leaning_per_min(step_mm: float, frames_per_s: float, each_mm: float = 2.0) -> float:
    """Return the beats per minute at which one leans in each_mm further, so that a burst of so many frames a second steps by step_mm."""
    return 60 * step_mm * frames_per_s / each_mm


@dataclass(frozen=True)
class _Ask:
    """A question with its answer: from low to high it is wholly right. read: an answer from its text."""

    question: Question
    low: float
    high: float
    read: Callable[[str], float]
    right: str


class _Asked:
    def __init__(self, exercise: Exercise, seed: int) -> None:
        self.exercise = exercise
        self.rng = np.random.default_rng((list(Exercise).index(exercise), seed))
        self.ask = self._ask()
        self.question = self.ask.question

    def mark(self, answer: str) -> Marked:
        asked = self.ask
        value = asked.read(answer)
        if asked.low <= value <= asked.high:
            return Marked(100.0, asked.right)
        edge = asked.low if value < asked.low else asked.high
        off = (
            abs(value - edge)
            if self.exercise in (Exercise.STOPS, Exercise.HISTOGRAM)
            else abs(math.log2(value / edge))
            if value > 0
            else math.inf
        )
        return Marked(round(max(0.0, 100.0 * (1 - off)), 1), asked.right)

    def _pick(self, values: Sequence[float]) -> float:
        return float(values[int(self.rng.integers(len(values)))])

    def _ask(self) -> _Ask:
        return {
            Exercise.STOPS: self._stops, Exercise.FILTERS: self._filters, Exercise.LOOK: self._look, Exercise.HYPERFOCAL: self._hyperfocal,
            Exercise.HISTOGRAM: self._histogram, Exercise.LADDER: self._ladder, Exercise.LEANING: self._leaning,
        }[self.exercise]()  # fmt: skip

    def _stops(self) -> _Ask:
        thirds = int(self.rng.integers(-18, 19)) or 3
        if self.rng.random() < 0.5:
            one = float(nearest_third_f_number(self._pick((4.0, 5.6, 8.0))))
            other = one * 2.0 ** (thirds / 3 / 2)
            text, stops = f"From {format_aperture(one)} to {format_aperture(other)}: how many stops less light?", thirds / 3
        else:
            one = float(nearest_third_shutter_s(self._pick((1 / 125, 1 / 30, 1 / 8))))
            other = one * 2.0 ** (thirds / 3)
            text, stops = f"From {format_shutter(one)} to {format_shutter(other)}: how many stops more light?", thirds / 3
        return _Ask(Question(text, "stops, fewer as a minus"), stops - 0.34, stops + 0.34, parse_ev, f"{_thirds(thirds)} stops.")

    def _filters(self) -> _Ask:
        bare = float(nearest_third_shutter_s(2.0 ** (-int(self.rng.integers(2, 25)) / 3)))
        stops = self._pick((3.0, 6.0, 10.0))
        wanted = float(shutter_with_filters_s(bare, stops))
        text = f"Metered {format_shutter(bare)} without a filter. Which time with {stops:.0f} stops of ND?"
        third = 2 ** (1 / 3) * 1.02
        return _Ask(Question(text, "a shutter time"), wanted / third, wanted * third, parse_shutter, f"{format_shutter(wanted)}.")

    def _look(self) -> _Ask:
        focal, distance, speed = self._pick((24.0, 35.0, 70.0)), self._pick((2.0, 4.0, 8.0, 20.0)), self._pick((0.5, 1.0, 2.0))
        look = (LookName.TEXTURED, LookName.SILKY, LookName.VEILED)[int(self.rng.integers(3))]
        a_second = streak_share_of(focal, distance, speed, 1.0) * 24
        low, high = times_of_look_s(look, a_second, 24.0, coc_handbook_mm(36.0, 24.0))
        text = f"Water at {speed:g} m/s, {distance:g} m away, {focal:g} mm on a full frame, {look}: which shutter time?"
        return _Ask(Question(text, "a shutter time"), low, high, parse_shutter, f"{format_shutter(low)} to {format_shutter(high)}.")

    def _hyperfocal(self) -> _Ask:
        focal, f_number = self._pick((16.0, 20.0, 24.0, 35.0, 50.0)), float(nearest_third_f_number(self._pick((8.0, 11.0, 16.0))))
        wanted = float(hyperfocal_distance_mm(focal, f_number, coc_handbook_mm(36.0, 24.0))) / 1000
        text = f"Hyperfocal distance of {focal:g} mm at {format_aperture(f_number)} on a full frame?"
        return _Ask(Question(text, "a distance"), wanted / 1.25, wanted * 1.25, _positive_distance, f"{format_distance(wanted)}.")

    def _histogram(self) -> _Ask:
        off = int(self.rng.integers(-3, 4))
        middles = np.linspace(-9.5, 0.5, 40)
        # A scene of two humps, land and sky, as it would lie about the middle of what is held.
        land, sky, share = self.rng.uniform(-4.6, -3.8), self.rng.uniform(-2.4, -1.8), self.rng.uniform(0.4, 0.7)
        light = share * np.exp(-np.square(middles - land - off) / 1.6) + (1 - share) * np.exp(-np.square(middles - sky - off) / 0.5)
        # What goes over the right edge is heaped up there.
        bars = np.where(middles > 0, 0.0, light)
        bars[np.flatnonzero(middles <= 0)[-1]] += float(light[middles > 0].sum())
        text = "This scene lies well when its brightest hump ends about a stop and a half from the right edge. By how many stops is this frame off?"
        bars_told = tuple(float(item) for item in bars / bars.max())
        return _Ask(Question(text, "stops, under as a minus", bars_told), off - 0.5, off + 0.5, parse_ev, f"{_thirds(3 * off)} stops.")

    def _ladder(self) -> _Ask:
        times = ", ".join(format_shutter(time) for time in ladder_s())
        return _Ask(
            Question(f"Take the same water at {times}. How many of the seven looked as you had expected?", "of 7"),
            7.0,
            7.0,
            _of(7),
            "All seven, some day.",
        )

    def _leaning(self) -> _Ask:
        beat = beat_of_leaning_per_min(0.15, 8.0)
        text = "Lean in two millimetres a beat over a burst of ten frames at 8 a second. In how many is the coin's edge sharp?"
        return _Ask(Question(text, "of 10", beat_per_min=beat), 5.0, 10.0, _of(10), "Half of them is good.")


def _of(most: int) -> Callable[[str], float]:
    def read(text: str) -> float:
        try:
            value = int(text.strip())
        except ValueError:
            raise InputError("answer", f"Write a number from 0 to {most}.") from None
        if not 0 <= value <= most:
            raise InputError("answer", f"Write a number from 0 to {most}.")
        return max(0.01, float(value))

    return read


def _positive_distance(text: str) -> float:
    value = parse_distance_m(text)
    if not (value > 0 and math.isfinite(value)):
        raise InputError("answer", "Write a distance, such as 1.8 m.")
    return value


def _thirds(thirds: int) -> str:
    whole, rest = divmod(abs(thirds), 3)
    sign = "−" if thirds < 0 else ""
    words = {0: str(whole), 1: f"{whole} ⅓" if whole else "⅓", 2: f"{whole} ⅔" if whole else "⅔"}[rest]
    return f"{sign}{words}"
