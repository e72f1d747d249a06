"""Practice and recipes: short exercises with their scores, and what a picture tells of how it was made."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint

from ..core.learning.practice import ABOUT, Exercise, question
from ..core.learning.recipe import speeds_of_look
from ..core.spans.instants import zone_info
from ..core.units.lengths import compass_point
from ..core.units.markings import spoken_shutter
from ..core.units.spelling import format_day, format_moment
from ..operations import practice as operations
from ..operations.recipes import Recipe, frame_recipe
from .context import changes_nothing, context
from .schemas import log as schemas

practice = APIBlueprint("practice", __name__, url_prefix="/api")


@practice.get("/practice")
@practice.output(schemas.PracticeOut)
def exercises() -> Any:
    """The exercises, with their aims and one's newest scores."""
    here = context()
    scores = operations.scores(here.session, here.owner_id)
    return schemas.PracticeOut(
        exercises=[
            schemas.ExerciseOut(
                name=item, aim=ABOUT[item].aim, progress=ABOUT[item].progress, outside=ABOUT[item].outside, scores=list(scores[str(item)])
            )
            for item in Exercise
        ]
    )


@practice.get("/practice/question")
@practice.input(schemas.QuestionQueryIn, location="query")
@practice.output(schemas.QuestionOut)
def ask(query_data: schemas.QuestionQueryIn) -> Any:
    """The question that a number stands for."""
    return schemas.QuestionOut.model_validate(question(query_data.exercise, query_data.seed))


@practice.post("/practice/answers")
@practice.input(schemas.AnswerIn, location="json")
@practice.output(schemas.MarkedOut, status_code=201)
def answer(json_data: schemas.AnswerIn) -> Any:
    """Score an answer and keep the score."""
    here = context()
    return operations.answer(here.session, here.owner_id, json_data.exercise, json_data.seed, json_data.answer, datetime.now(UTC))


@practice.get("/log/frames/<int:frame_id>/recipe")
@practice.input(schemas.RecipeQueryIn, location="query")
@practice.output(schemas.RecipeOut)
def recipe(frame_id: int, query_data: schemas.RecipeQueryIn) -> Any:
    """What made a frame, when its light comes again, and the shutter that does the same on another shot's water."""
    here = context()
    today = datetime.now(UTC).date()
    return _presented(frame_recipe(here.session, here.owner_id, frame_id, today, query_data.location_id, query_data.shot_id))


@practice.post("/recipe")
@changes_nothing
@practice.input(schemas.TypedRecipeIn, location="json")
@practice.output(schemas.TypedRecipeOut)
def typed_recipe(json_data: schemas.TypedRecipeIn) -> Any:
    """What somebody's picture tells of its water."""
    low, high = speeds_of_look(json_data.look, json_data.focal_mm, json_data.distance_m, json_data.shutter_s)
    text = f"Water that looks {json_data.look} there in {spoken_shutter(json_data.shutter_s)} runs at {low:.2g} to {high:.2g} m/s across the view."
    return schemas.TypedRecipeOut(lines=[text])


def _presented(found: Recipe) -> schemas.RecipeOut:
    zone = zone_info(found.place.zone)
    side = compass_point(found.sun.azimuth_deg)
    lines = [
        f"The sun stood {abs(found.sun.altitude_deg):.0f}° {'above' if found.sun.altitude_deg >= 0 else 'below'} the horizon in the {side}."
    ]
    if found.share is not None:
        lines.append(f"The water drew {found.share:.0%} of the frame's short side: {found.look}.")
    if found.same_s is not None:
        lines.append(f"On {found.water} of {found.shot_name} {spoken_shutter(found.same_s)} draws the same.")
    elif found.shot is not None:
        lines.append(f"Nothing moves in {found.shot_name}, or not in this frame: there is no shutter that draws the same.")
    again = []
    for span in found.again:
        days = format_day(span.first) if span.first == span.last else f"{format_day(span.first)} to {format_day(span.last)}"
        local = span.time_utc.astimezone(zone)
        again.append(schemas.LightAgainOut(days=days, clock=format_moment(local, local.date())))
    if not again:
        lines.append(f"In the year to come the sun does not stand so at {found.place.name}.")
    return schemas.RecipeOut(lines=lines, place=found.place.name, again=again)
