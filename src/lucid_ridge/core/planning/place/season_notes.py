"""What the season brings on a date, by the notes kept of a place."""

from __future__ import annotations

from datetime import datetime

from ...facts.shot import ShotFacts
from ...light.season import in_season
from ..wording import after_colon


def notes_in_season(facts: ShotFacts, moment: datetime) -> tuple[str, ...]:
    """Return what is noted for the local date of an instant, a kind with its note each: "leaf colour: larches gold"."""
    local = moment.astimezone(facts.zone)
    return tuple(
        f"{item.kind}{after_colon(item.note)}"
        for item in facts.season_notes
        if in_season(local, item.from_month, item.from_day, item.to_month, item.to_day)
    )
