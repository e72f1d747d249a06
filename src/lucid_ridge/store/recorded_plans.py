"""Plans stored with entries and cards, read back as the core wrote them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from pydantic import TypeAdapter

from ..core.field.recorded import RecordedPlan
from .log import LogEntry
from .shots import FieldCard

_PLAN = TypeAdapter(RecordedPlan)


def stored_plan(kept: Mapping[str, object] | None) -> RecordedPlan:
    """Return a plan from its JSON, without frames if there is none. Figures it does not hold have their defaults."""
    return _PLAN.validate_python(kept or {})


def plan_of_entry(row: LogEntry) -> RecordedPlan:
    """Return the plan of an entry, without frames if it was not planned."""
    return stored_plan(row.planned)


def plan_of_card(card: FieldCard | None) -> RecordedPlan | None:
    """Return the plan of a field card; None without a run sheet."""
    kept = card.run.get("record") if card is not None and card.run else None
    return replace(stored_plan(kept), card_id=card.id) if card is not None and kept else None
