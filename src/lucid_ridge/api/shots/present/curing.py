"""Cures of a shot's reasons as a response body."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from ....core.curing.cures import Cure
from ....core.facts.choices import group_of
from ....core.facts.shot import ShotFacts
from ....operations.shots.curing import CuredShot
from ..schemas.curing import CureOut, CuresOut


def present_cures(found: CuredShot) -> CuresOut:
    """Return the cures, each with the patch that does it."""
    return CuresOut(
        cures=[
            CureOut(
                step=cure.reason.step,
                code=cure.reason.code,
                text=cure.reason.text,
                words=cure.move.words,
                choices=_patch(cure, found.facts),
            )
            for cure in found.cures
        ]
    )


def _patch(cure: Cure, facts: ShotFacts) -> dict[str, Any]:
    patch: dict[str, Any] = {}
    for name, value in cure.move.choices.items():
        said = value.isoformat() if isinstance(value, datetime) else value
        patch.setdefault(group_of(name), {})[name] = said
    on = cure.move.filter_ids
    if on is not None:
        patch.setdefault("exposure", {})["filters"] = [
            {
                "filter_id": item.id,
                "on_lens": item.id in on,
                "on_when_metered": item.on_when_metered,
                "set_stops": item.stops if item.stops_max is not None and item.id in on else None,
            }
            for item in facts.filters
            if item.id in on or item.on_when_metered
        ]
    return patch
