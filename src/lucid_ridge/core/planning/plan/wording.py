"""Sentences about the field card."""

from __future__ import annotations

from ..verdicts import StepName
from ..wording import Catalogue, plural

sentence = Catalogue("field", StepName.FIELD)


@sentence
def no_frames() -> str:
    return "A field card can be made once there are frames to take."


@sentence
def current(*, frames: int) -> str:
    return f"The field card has the {plural(frames, 'frame')} of this plan."


@sentence
def out_of_date() -> str:
    return "The plan has changed since the field card was made: make a new one."


@sentence
def no_card() -> str:
    return "Make a field card to take along: it does not change when the plan does."
