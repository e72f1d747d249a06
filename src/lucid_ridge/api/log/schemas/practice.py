"""Practice and recipes: exercises with scores, and how a picture was made."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ....core.exposure.motion import LookName
from ....core.learning.practice import Exercise
from ...platform.fields import In, LengthM, LengthMm, Out, QueryId, Shutter


class RecipeQueryIn(In):
    """location_id: where the light is wanted again; shot_id: on whose water the same streak is wanted."""

    location_id: QueryId | None = None
    shot_id: QueryId | None = None


class LightAgainOut(Out):
    days: str
    clock: str


class RecipeOut(Out):
    """A recipe. lines: in sentences. again: when the light returns at the place."""

    lines: list[str]
    place: str
    again: list[LightAgainOut]


class TypedRecipeIn(In):
    """A published picture: the look of its water, its lens and shutter time, and the distance of the water."""

    look: LookName
    focal_mm: Annotated[LengthMm, Field(ge=1, le=3000)]
    distance_m: Annotated[LengthM, Field(gt=0, le=100_000)]
    shutter_s: Annotated[Shutter, Field(gt=0, le=86_400)]


class TypedRecipeOut(Out):
    lines: list[str]


class PracticeDayOut(Out):
    """Number of right answers on a day."""

    day: str
    right: int
    count: int


class ExerciseOut(Out):
    """An exercise. goal: a good result. days: of practice, newest last; outside: done with a camera."""

    name: Exercise
    label: str
    aim: str
    goal: str
    outside: bool
    days: list[PracticeDayOut]


class PracticeOut(Out):
    exercises: list[ExerciseOut]


class QuestionQueryIn(In):
    exercise: Exercise
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)]


class QuestionOut(Out):
    """A question. seed: its number. again: why it comes back, empty if it is new."""

    seed: int
    again: str
    text: str
    unit: str
    bars: list[float]
    beat_per_min: float | None


class AnswerIn(In):
    exercise: Exercise
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)]
    answer: Annotated[str, Field(min_length=1, max_length=200)]


class MarkedOut(Out):
    """working: the solution, line by line."""

    score: float
    right: str
    working: list[str]
