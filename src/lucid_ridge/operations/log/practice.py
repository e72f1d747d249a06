"""Practice: questions about one's own kit and waters, scored answers, and progress by day."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.errors import InputError
from ...core.facts.filters import Filter as KnownFilter
from ...core.framing.solids import WET
from ...core.learning.practice import USUAL_KIT, Exercise, Marked, PracticeKit, Question, Water, mark, question
from ...core.learning.spacing import RIGHT_FROM, Answered, Next, next_question
from ...store.kit import Body, Filter, Lens
from ...store.log import PracticeScore
from ...store.places import Location, Viewpoint
from ..kit.calibrations import as_measured, switched_on
from ..kit.from_rows import known_lens
from ..platform.errors import Refused
from ..shots.facts import elements_of

# At most this many waters are asked about, nearest first: distant ones hardly move in the picture.
_MOST_WATERS = 30
# A zoom is asked about at its ends and at marked focal lengths between them [mm].
_MARKED_MM = (16.0, 20.0, 24.0, 28.0, 35.0, 50.0, 70.0, 85.0, 100.0, 135.0, 200.0, 300.0, 400.0)


@dataclass(frozen=True)
class Asked:
    """A question. wrong_utc: when it was last answered wrongly; None if it is new."""

    seed: int
    question: Question
    wrong_utc: datetime | None


@dataclass(frozen=True)
class PracticeDay:
    """Results of an exercise on a day."""

    day: date
    right: int
    count: int


def practice_kit(session: Session, owner_id: int) -> PracticeKit:
    """Return the kit that exercises ask about: filters with measured costs, lenses, the first body, and waters with
    calibrated speeds.
    """
    taught = switched_on(session, owner_id)
    rows = session.scalars(select(Filter).where(Filter.owner_id == owner_id).order_by(Filter.id))
    bag = [
        as_measured(KnownFilter(row.id, row.name, row.kind, row.stops, stops_max=row.stops_max), taught) for row in rows
    ]
    filters = tuple(
        (item.name, round(item.stops, 1)) for item in bag if item.kind.lengthens_exposure and item.stops > 0
    )
    lenses = [
        known_lens(row) for row in session.scalars(select(Lens).where(Lens.owner_id == owner_id).order_by(Lens.id))
    ]
    focals = tuple(
        (lens.name, focal, lens.f_number_min)
        for lens in lenses
        for focal in sorted(
            {
                lens.focal_min_mm,
                lens.focal_max_mm,
                *(mm for mm in _MARKED_MM if lens.focal_min_mm < mm < lens.focal_max_mm),
            }
        )
    )
    points = session.scalars(
        select(Viewpoint).join(Location).where(Location.owner_id == owner_id).order_by(Viewpoint.id)
    )
    waters = [
        Water(f"{item.name} at {point.location.name}", item.moves_mps, item.distance_m)
        for point in points
        for item in elements_of(point, taught)
        if item.moves_mps is not None and item.shape in WET
    ]
    found = replace(
        USUAL_KIT, filters=filters or USUAL_KIT.filters, lenses=focals or USUAL_KIT.lenses,
        waters=tuple(sorted(waters, key=lambda item: item.distance_m)[:_MOST_WATERS]) or USUAL_KIT.waters,
    )  # fmt: skip
    body = session.scalars(select(Body).where(Body.owner_id == owner_id).order_by(Body.id)).first()
    return (
        found
        if body is None
        else replace(found, body=f"the {body.name}", width_mm=body.sensor_width_mm, height_mm=body.sensor_height_mm)
    )


def ask(session: Session, owner_id: int, exercise: Exercise, new_seed: int, now_utc: datetime) -> Asked:
    """Return the question to ask: one answered wrongly that is due, else a new one."""
    found: Next = next_question(_history(session, owner_id, exercise), now_utc, new_seed)
    return Asked(found.seed, question(exercise, found.seed, practice_kit(session, owner_id)), found.wrong_utc)


def answer(session: Session, owner_id: int, exercise: Exercise, seed: int, text: str, now_utc: datetime) -> Marked:
    """Score an answer and keep the score. Raises Refused for what cannot be read."""
    try:
        marked = mark(exercise, seed, text, practice_kit(session, owner_id))
    except InputError as error:
        raise Refused("answer", error.message) from error
    session.add(
        PracticeScore(
            owner_id=owner_id,
            exercise=str(exercise),
            at_utc=now_utc,
            score=marked.score,
            said={"seed": seed, "answer": text[:200]},
        )
    )
    session.flush()
    return marked


def days(session: Session, owner_id: int, newest: int = 30) -> dict[str, Sequence[PracticeDay]]:
    """Return the results of each exercise on its newest days of practice, oldest first."""
    query = select(PracticeScore.exercise, PracticeScore.at_utc, PracticeScore.score).where(
        PracticeScore.owner_id == owner_id
    )
    found: dict[str, dict[date, list[float]]] = {str(item): defaultdict(list) for item in Exercise}
    for exercise, at_utc, score in session.execute(query.order_by(PracticeScore.at_utc, PracticeScore.id)):
        if exercise in found:
            found[exercise][at_utc.date()].append(score)
    return {
        exercise: [
            PracticeDay(day, sum(score >= RIGHT_FROM for score in scores), len(scores))
            for day, scores in by_day.items()
        ][-newest:]
        for exercise, by_day in found.items()
    }


def _history(session: Session, owner_id: int, exercise: Exercise) -> list[Answered]:
    query = select(PracticeScore).where(PracticeScore.owner_id == owner_id, PracticeScore.exercise == str(exercise))
    rows = session.scalars(query.order_by(PracticeScore.at_utc, PracticeScore.id))
    return [Answered(int(row.said["seed"]), row.score, row.at_utc) for row in rows if "seed" in row.said]
