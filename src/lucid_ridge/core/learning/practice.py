"""Short exercises with the photographer's own kit and waters. Each states its aim and goal, asks a question from a
seed so that the answer can be checked, scores it and shows the working.

Scores run from 0 to 100. Within the tolerance named by the trade (a third of a stop, a tenth of a distance) an answer
is fully right; beyond that the score falls off, our own choice.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import NamedTuple, TypeVar

import numpy as np

from ..errors import InputError
from ..exposure.filters import shutter_with_filters_s
from ..exposure.motion import LookName, times_of_look_s
from ..labels import NamedEnum
from ..optics.circle_of_confusion import coc_handbook_mm
from ..optics.depth import hyperfocal_distance_mm
from ..units.lengths import format_distance, parse_distance_m
from ..units.markings import (
    format_aperture,
    format_shutter,
    nearest_third_f_number,
    nearest_third_shutter_s,
    parse_shutter,
)
from ..units.ratios import parse_ev
from ..units.spelling import percent
from .recipe import streak_share_of

T = TypeVar("T")


class Exercise(NamedEnum):
    STOPS = "counting_stops"
    FILTERS = "time_behind_filter"
    LOOK = "shutter_for_look"
    HYPERFOCAL = "hyperfocal_distance"
    HISTOGRAM = "histogram"
    LADDER = "shutter_ladder"
    LEANING = "leaning_in"


@dataclass(frozen=True)
class About:
    """Description of an exercise. aim: the skill it trains.

    goal: a good result. outside: it needs a camera and is scored by counting.
    """

    aim: str
    goal: str
    outside: bool = False


ABOUT: dict[Exercise, About] = {
    Exercise.STOPS: About(
        "Say without counting on your fingers how many stops lie between two settings.",
        "Nine of ten within a third of a stop.",
    ),
    Exercise.FILTERS: About(
        "Know the shutter time behind a filter before you look it up.", "Nine of ten within a third of a stop."
    ),
    Exercise.LOOK: About(
        "Choose the shutter that gives moving water the look you want.", "Eight of ten inside the band."
    ),
    Exercise.HYPERFOCAL: About(
        "Set the hyperfocal distance from memory.", "Eight of ten within a quarter of the distance."
    ),
    Exercise.HISTOGRAM: About(
        "Read from a histogram by how many stops a frame is over or under.", "Eight of ten right."
    ),
    Exercise.LADDER: About(
        "Take one piece of moving water at seven shutter times, a stop apart, and rate each frame.",
        "You can say beforehand which you will like; the stars teach your own bands.",
        True,
    ),
    Exercise.LEANING: About(
        "Lean in towards a coin on the kitchen table at the speed of the beat, camera at the eye, and count "
        "the frames of a burst in which it is sharp.",
        "Three of ten frames sharp at 1:1; half of them with practice.",
        True,
    ),
}


@dataclass(frozen=True)
class Question:
    """A question. text: the wording.

    unit: of the answer, as words. bars: a histogram to be read, from dark to bright, empty otherwise; beat_per_min: of
    a metronome, None without one.
    """

    text: str
    unit: str
    bars: tuple[float, ...] = ()
    beat_per_min: float | None = None


@dataclass(frozen=True)
class Marked:
    """A marked answer. score: 0 to 100.

    right: the right answer, as a sentence. working: the computation, line by line.
    """

    score: float
    right: str
    working: tuple[str, ...] = ()


class Water(NamedTuple):
    """Moving water of a place: how fast it is [m/s], as the log corrects it, and how far away [m]."""

    name: str
    speed_mps: float
    distance_m: float


@dataclass(frozen=True)
class PracticeKit:
    """What exercises ask about.

    filters: name and stops; lenses: name, focal length [mm] and widest aperture; waters: of one's own places. body:
    its name; width_mm, height_mm: of its sensor.
    """

    filters: tuple[tuple[str, float], ...] = (("3-stop ND", 3.0), ("6-stop ND", 6.0), ("10-stop ND", 10.0))
    lenses: tuple[tuple[str, float, float], ...] = tuple(("", focal, 2.8) for focal in (16.0, 20.0, 24.0, 35.0, 50.0))
    waters: tuple[Water, ...] = tuple(
        Water("Water", speed, distance) for speed in (0.5, 1.0, 2.0) for distance in (2.0, 4.0, 8.0, 20.0)
    )
    body: str = "a full frame"
    width_mm: float = 36.0
    height_mm: float = 24.0

    @property
    def circle_mm(self) -> float:
        return float(coc_handbook_mm(self.width_mm, self.height_mm))


# What is asked about while a notebook holds nothing of its own.
USUAL_KIT = PracticeKit()


def question(exercise: Exercise, seed: int, kit: PracticeKit = USUAL_KIT) -> Question:
    """Return the question that a seed stands for."""
    return _Asked(exercise, seed, kit).question


def mark(exercise: Exercise, seed: int, answer: str, kit: PracticeKit = USUAL_KIT) -> Marked:
    """Score an answer as it was typed. Raises InputError for what cannot be read."""
    return _Asked(exercise, seed, kit).mark(answer)


def ladder_s(middle_s: float = 0.25, count: int = 7) -> tuple[float, ...]:
    """Return shutter times [s] a stop apart around a middle one."""
    return tuple(
        float(nearest_third_shutter_s(middle_s * 2.0**step)) for step in range(-(count // 2), count - count // 2)
    )


def beat_of_leaning_per_min(step_mm: float, frames_per_s: float, each_mm: float = 2.0) -> float:
    """Return the metronome beat per minute for leaning in by each_mm a beat, so that a burst at frames_per_s steps by
    step_mm.
    """
    return 60 * step_mm * frames_per_s / each_mm


@dataclass(frozen=True)
class _Ask:
    """A question with its answer: from low to high it is wholly right. read: an answer from its text."""

    question: Question
    low: float
    high: float
    read: Callable[[str], float]
    right: str
    working: tuple[str, ...] = ()


class _Asked:
    def __init__(self, exercise: Exercise, seed: int, kit: PracticeKit) -> None:
        self.exercise, self.kit = exercise, kit
        self.rng = np.random.default_rng((list(Exercise).index(exercise), seed))
        self.ask = self._ask()
        self.question = self.ask.question

    def mark(self, answer: str) -> Marked:
        asked = self.ask
        value = asked.read(answer)
        if asked.low <= value <= asked.high:
            return Marked(100.0, asked.right, asked.working)
        edge = asked.low if value < asked.low else asked.high
        off = (
            abs(value - edge)
            if self.exercise in (Exercise.STOPS, Exercise.HISTOGRAM)
            else abs(math.log2(value / edge))
            if value > 0
            else math.inf
        )
        return Marked(round(max(0.0, 100.0 * (1 - off)), 1), asked.right, asked.working)

    def _pick(self, values: Sequence[T]) -> T:
        return values[int(self.rng.integers(len(values)))]

    def _ask(self) -> _Ask:
        return {
            Exercise.STOPS: self._stops,
            Exercise.FILTERS: self._filters,
            Exercise.LOOK: self._look,
            Exercise.HYPERFOCAL: self._hyperfocal,
            Exercise.HISTOGRAM: self._histogram,
            Exercise.LADDER: self._ladder,
            Exercise.LEANING: self._leaning,
        }[self.exercise]()

    def _stops(self) -> _Ask:
        thirds = int(self.rng.integers(-18, 19)) or 3
        stops = thirds / 3
        if self.rng.random() < 0.5:
            one = float(nearest_third_f_number(self._pick((4.0, 5.6, 8.0))))
            other = one * 2.0 ** (stops / 2)
            labels = format_aperture(one), format_aperture(other)
            text = f"From {labels[0]} to {labels[1]}: how many stops less light?"
            working = (
                f"Each stop multiplies the f-number by √2. {labels[1]} over {labels[0]} is "
                f"{other / one:.2f}, which is √2 to the power of {stops:.1f}."
            )
        else:
            one = float(nearest_third_shutter_s(self._pick((1 / 125, 1 / 30, 1 / 8))))
            other = one * 2.0**stops
            labels = format_shutter(one), format_shutter(other)
            text = f"From {labels[0]} to {labels[1]}: how many stops more light?"
            working = (
                f"Each stop doubles the time. {labels[1]} over {labels[0]} is {other / one:.3g}, which "
                f"is 2 to the power of {stops:.1f}."
            )
        return _Ask(
            Question(text, "stops, fewer as a minus"),
            stops - 0.34,
            stops + 0.34,
            parse_ev,
            f"{_thirds(thirds)} stops.",
            (working,),
        )

    def _filters(self) -> _Ask:
        bare = float(nearest_third_shutter_s(2.0 ** (-int(self.rng.integers(2, 25)) / 3)))
        name, stops = self._pick(self.kit.filters)
        wanted = float(shutter_with_filters_s(bare, stops))
        text = (
            f"Metered {format_shutter(bare)} without a filter. Which time with "
            f"{name}{'' if f'{stops:g}' in name else f' ({stops:g} stops)'}?"
        )
        third = 2 ** (1 / 3) * 1.02
        working = (
            f"{stops:g} stops are 2^{stops:g} = {2.0**stops:,.0f} times as long.",
            f"{format_shutter(bare)} × {2.0**stops:,.0f} = {wanted:.3g} s.",
        )
        return _Ask(
            Question(text, "a shutter time"),
            wanted / third,
            wanted * third,
            parse_shutter,
            f"{format_shutter(wanted)}.",
            working,
        )

    def _look(self) -> _Ask:
        kit, water = self.kit, self._pick(self.kit.waters)
        _, focal, _ = self._pick(kit.lenses)
        look = self._pick((LookName.TEXTURED, LookName.SILKY, LookName.VEILED))
        short = min(kit.width_mm, kit.height_mm)
        a_second = streak_share_of(focal, water.distance_m, water.speed_mps, 1.0, short) * short
        low, high = times_of_look_s(look, a_second, short, kit.circle_mm)
        text = (
            f"{water.name} at {water.speed_mps:.2g} m/s, {format_distance(water.distance_m)} away, "
            f"{focal:g} mm on {kit.body}, {look}: which shutter time?"
        )
        working = (
            f"In a second it draws {focal:g} mm × {water.speed_mps:.2g} m ÷ {water.distance_m:.3g} m = "
            f"{a_second:.2g} mm, {percent(a_second / short)} of the short side.",
            f"{str(look).capitalize()} water draws {_share(low * a_second / short)} to "
            f"{_share(high * a_second / short)} of it: {format_shutter(low)} to {format_shutter(high)}.",
        )
        return _Ask(
            Question(text, "a shutter time"),
            low,
            high,
            parse_shutter,
            f"{format_shutter(low)} to {format_shutter(high)}.",
            working,
        )

    def _hyperfocal(self) -> _Ask:
        kit = self.kit
        name, focal, widest = self._pick(kit.lenses)
        f_number = float(
            nearest_third_f_number(self._pick([item for item in (8.0, 11.0, 16.0) if item >= widest] or [widest]))
        )
        wanted = float(hyperfocal_distance_mm(focal, f_number, kit.circle_mm)) / 1000
        text = (
            f"Hyperfocal distance of {focal:g} mm{f' ({name})' if name else ''} at "
            f"{format_aperture(f_number)} on {kit.body}?"
        )
        working = (
            f"f² ÷ (N × c) + f: {focal:g}² ÷ ({f_number:.3g} × {kit.circle_mm:.3f}) + {focal:g} = "
            f"{1000 * wanted:,.0f} mm.",
        )
        return _Ask(
            Question(text, "a distance"),
            wanted / 1.25,
            wanted * 1.25,
            _positive_distance,
            f"{format_distance(wanted)}.",
            working,
        )

    def _histogram(self) -> _Ask:
        off = int(self.rng.integers(-3, 4))
        middles = np.linspace(-9.5, 0.5, 40)
        # A scene of two humps, land and sky, as it would lie about the middle of what is held.
        land, sky, share = self.rng.uniform(-4.6, -3.8), self.rng.uniform(-2.4, -1.8), self.rng.uniform(0.4, 0.7)
        light = share * np.exp(-np.square(middles - land - off) / 1.6) + (1 - share) * np.exp(
            -np.square(middles - sky - off) / 0.5
        )
        # What goes over the right edge is heaped up there.
        bars = np.where(middles > 0, 0.0, light)
        bars[np.flatnonzero(middles <= 0)[-1]] += float(light[middles > 0].sum())
        text = (
            "This scene lies well when its brightest hump ends about a stop and a half from the right "
            "edge. By how many stops is this frame off?"
        )
        bars_told = tuple(float(item) for item in bars / bars.max())
        return _Ask(
            Question(text, "stops, under as a minus", bars_told),
            off - 0.5,
            off + 0.5,
            parse_ev,
            f"{_thirds(3 * off)} stops.",
            (_histogram_working(off),),
        )

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
        beat = beat_of_leaning_per_min(_LEAN_STEP_MM, _LEAN_FRAMES_PER_S)
        depth = depth_of_field_mm(1.0, _LEAN_F_NUMBER, self.kit.circle_mm)
        most = min(10, int(depth / _LEAN_STEP_MM) + 1)
        good = min(5, most)
        text = (
            "Lean in two millimetres a beat over a burst of ten frames at 8 a second, at 1:1 and "
            f"{format_aperture(_LEAN_F_NUMBER)}. In how many is the coin's edge sharp?"
        )
        working = (
            f"At 1:1 and {format_aperture(_LEAN_F_NUMBER)} the sharp zone is 2 × N × c × (1 + m) ÷ m² = "
            f"{depth:.2f} mm deep; each frame moves by {_LEAN_STEP_MM} mm.",
            f"So at most {most} of ten can be sharp; more would mean that you stood still.",
        )
        refusal = f"At most {most} of ten can be sharp while you lean in at this beat. Write a number from 0 to {most}."
        return _Ask(
            Question(text, "of 10", beat_per_min=beat),
            float(good),
            float(most),
            _of(most, refusal),
            f"{good} of ten is good; {most} at most.",
            working,
        )


# Leaning in: how far each frame lies from the one before it [mm], at how many frames a second, and how far it is
# stopped down.
_LEAN_STEP_MM, _LEAN_FRAMES_PER_S, _LEAN_F_NUMBER = 0.15, 8.0, 8.0


def depth_of_field_mm(magnification: float, f_number: float, circle_mm: float) -> float:
    """Return how deep the sharp zone is close up [mm]: 2 N c (1 + m) / m² for a lens whose pupils are alike (any text
    on close-up photography).
    """
    return 2 * f_number * circle_mm * (1 + magnification) / magnification**2


def _share(share: float) -> str:
    return percent(share, 0 if share >= 0.1 else 1)


def _histogram_working(off: int) -> str:
    lies = 1.5 - off
    where = f"{lies:.1f} stops from the right edge" if lies > 0 else "at the right edge or beyond it"
    verdict = "right" if not off else f"{abs(off)} stops over" if off > 0 else f"{abs(off)} stops under"
    return f"The brightest hump ends {where}; a stop and a half is wanted, so the frame is {verdict}."


def _of(most: int, refusal: str = "") -> Callable[[str], float]:
    refusal = refusal or f"Write a number from 0 to {most}."

    def read(text: str) -> float:
        try:
            value = int(text.strip())
        except ValueError:
            raise InputError("answer", refusal) from None
        if not 0 <= value <= most:
            raise InputError("answer", refusal)
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
