"""Practice: answers scored and kept, and how they go on."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.errors import InputError
from ..core.learning.practice import Exercise, Marked, mark
from ..store.log import PracticeScore
from .errors import Refused


def answer(session: Session, owner_id: int, exercise: Exercise, seed: int, text: str, now_utc: datetime) -> Marked:
    """Score an answer and keep the score. Raises Refused for what cannot be read."""
    try:
        marked = mark(exercise, seed, text)
    except InputError as error:
        raise Refused("answer", error.message) from error
    session.add(
        PracticeScore(
            owner_id=owner_id, exercise=str(exercise), at_utc=now_utc, score=marked.score, said={"seed": seed, "answer": text[:200]}
        )
    )
    session.flush()
    return marked


def scores(session: Session, owner_id: int, newest: int = 20) -> dict[str, Sequence[float]]:
    """Return the newest scores of each exercise, the oldest of these first."""
    query = (
        select(PracticeScore.exercise, PracticeScore.score)
        .where(PracticeScore.owner_id == owner_id)
        .order_by(PracticeScore.at_utc, PracticeScore.id)
    )
    found: dict[str, list[float]] = {str(item): [] for item in Exercise}
    for exercise, score in session.execute(query):
        found.setdefault(exercise, []).append(score)
    return {exercise: values[-newest:] for exercise, values in found.items()}
