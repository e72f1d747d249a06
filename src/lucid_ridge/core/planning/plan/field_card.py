"""Step 7: the field card."""

from __future__ import annotations

from dataclasses import dataclass

from ...facts.shot import ShotFacts
from ..reasons import Reason, worst_mark
from ..sequence.plan import SequenceStep
from ..verdicts import UNSAID, Verdict
from . import wording as say

CARD_CURRENT, CARD_STALE = "current", "stale"


@dataclass(frozen=True, kw_only=True)
class FieldStep:
    verdict: Verdict
    reasons: tuple[Reason, ...]


def plan_field(facts: ShotFacts, sequence: SequenceStep) -> FieldStep:
    """Return whether a field card exists and still matches the plan."""
    if not sequence.frames:
        reason = say.no_frames().unsaid()
        return FieldStep(verdict=Verdict("field", UNSAID, "no frames yet"), reasons=(reason,))
    if facts.card == CARD_CURRENT:
        reasons = [say.current(frames=len(sequence.frames)).holds()]
        text = "card is current"
    elif facts.card == CARD_STALE:
        reasons = [say.out_of_date().tight("card")]
        text = "card is out of date"
    else:
        reasons = [say.no_card().unsaid("card")]
        text = "no card yet"
    return FieldStep(verdict=Verdict("field", worst_mark(reasons), text), reasons=tuple(reasons))
