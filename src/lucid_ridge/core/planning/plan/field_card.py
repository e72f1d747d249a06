"""Step 7: the card that goes into the field."""

from __future__ import annotations

from dataclasses import dataclass

from ...facts.shot import ShotFacts
from ..sequence.plan import SequenceStep
from ..verdicts import HOLDS, TIGHT, UNSAID, Reason, Verdict, worst_mark

CARD_CURRENT, CARD_STALE = "current", "stale"


@dataclass(frozen=True)
class FieldStep:
    verdict: Verdict
    reasons: tuple[Reason, ...]


def plan_field(facts: ShotFacts, sequence: SequenceStep) -> FieldStep:
    """Return whether a field card exists and still says what the plan says."""
    if not sequence.frames:
        reason = Reason("field", UNSAID, "A field card follows once there are frames to take.")
        return FieldStep(Verdict("field", UNSAID, "no frames yet"), (reason,))
    if facts.card == CARD_CURRENT:
        reasons = [Reason("field", HOLDS, f"The field card holds all {len(sequence.frames)} frames of this plan.")]
        text = "card is current"
    elif facts.card == CARD_STALE:
        reasons = [Reason("field", TIGHT, "The plan has changed since the field card was made: make it again.", "card")]
        text = "card is out of date"
    else:
        reasons = [Reason("field", UNSAID, "Make a field card to take along: it stays as it is when the plan changes.", "card")]
        text = "no card yet"
    return FieldStep(Verdict("field", worst_mark(reasons), text), tuple(reasons))
