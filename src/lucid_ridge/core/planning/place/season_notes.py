"""Season notes of a place that apply on a date."""

from __future__ import annotations

from datetime import datetime

from ...facts.shot import ShotFacts
from ...light.season import in_season
from ..wording import after_colon


def notes_in_season(facts: ShotFacts, moment: datetime) -> tuple[str, ...]:
    """Return the notes that apply on the local date of an instant, each with its kind: "leaf colour: larches gold"."""
    local = moment.astimezone(facts.zone)
    return tuple(
        f"{item.kind.label}{after_colon(item.note)}"
        for item in facts.season_notes
        if in_season(local, item.from_month, item.from_day, item.to_month, item.to_day)
    )
