"""Practice and recipes: short exercises with scores, and how a picture was made."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint

from ...core.learning.practice import ABOUT, Exercise
from ...core.learning.recipe import speeds_of_look
from ...core.units.markings import spoken_shutter
from ...core.units.spelling import format_day
from ...operations.log import practice as operations
from ...operations.log.recipes import frame_recipe
from ..platform.context import changes_nothing, context
from .present.recipes import present_recipe
from .schemas import practice as schemas

practice = APIBlueprint("practice", __name__, url_prefix="/api")


@practice.get("/practice")
@practice.output(schemas.PracticeOut)
def exercises() -> Any:
    """The exercises, with their aims and recent scores."""
    here = context()
    days = operations.days(here.session, here.owner_id)
    return schemas.PracticeOut(
        exercises=[
            schemas.ExerciseOut(
                name=item,
                label=item.label,
                aim=ABOUT[item].aim,
                goal=ABOUT[item].goal,
                outside=ABOUT[item].outside,
                days=[
                    schemas.PracticeDayOut(day=format_day(day.day, year=False), right=day.right, count=day.count)
                    for day in days[str(item)]
                ],
            )
            for item in Exercise
        ]
    )


@practice.get("/practice/question")
@practice.input(schemas.QuestionQueryIn, location="query")
@practice.output(schemas.QuestionOut)
def ask(query_data: schemas.QuestionQueryIn) -> Any:
    """The question to answer: one answered wrongly that is due again, else the one with this number."""
    here = context()
    found = operations.ask(here.session, here.owner_id, query_data.exercise, query_data.seed, datetime.now(UTC))
    again = (
        f"You got this one wrong on {format_day(found.wrong_utc.date(), year=False)}."
        if found.wrong_utc is not None
        else ""
    )
    return schemas.QuestionOut(
        seed=found.seed,
        again=again,
        text=found.question.text,
        unit=found.question.unit,
        bars=list(found.question.bars),
        beat_per_min=found.question.beat_per_min,
    )


@practice.post("/practice/answers")
@practice.input(schemas.AnswerIn, location="json")
@practice.output(schemas.MarkedOut, status_code=201)
def answer(json_data: schemas.AnswerIn) -> Any:
    """Score an answer and store the score."""
    here = context()
    return operations.answer(
        here.session, here.owner_id, json_data.exercise, json_data.seed, json_data.answer, datetime.now(UTC)
    )


@practice.get("/log/frames/<int:frame_id>/recipe")
@practice.input(schemas.RecipeQueryIn, location="query")
@practice.output(schemas.RecipeOut)
def recipe(frame_id: int, query_data: schemas.RecipeQueryIn) -> Any:
    """How a frame was made, when its light returns, and the shutter time for the same look on another shot's water."""
    here = context()
    today = datetime.now(UTC).date()
    return present_recipe(
        frame_recipe(here.session, here.owner_id, frame_id, today, query_data.location_id, query_data.shot_id)
    )


@practice.post("/recipe")
@changes_nothing
@practice.input(schemas.TypedRecipeIn, location="json")
@practice.output(schemas.TypedRecipeOut)
def typed_recipe(json_data: schemas.TypedRecipeIn) -> Any:
    """What a published picture says about its water."""
    low, high = speeds_of_look(json_data.look, json_data.focal_mm, json_data.distance_m, json_data.shutter_s)
    text = (
        f"Water that looks {json_data.look} there in {spoken_shutter(json_data.shutter_s)} runs at "
        f"{low:.2g} to {high:.2g} m/s across the view."
    )
    return schemas.TypedRecipeOut(lines=[text])
