"""Converts a location's tide to the core's: from its own table or constants, else from a reference place."""

from __future__ import annotations

from datetime import datetime
from functools import lru_cache

from sqlalchemy.orm import object_session

from ...core.spans.instants import unix_seconds
from ...core.tides.harmonics import HarmonicConstants, HarmonicTide
from ...core.tides.heights import Tide
from ...core.tides.table import TideTable
from ...core.units.days import parse_day
from ...core.units.spelling import format_day
from ...standins.tide import tide_at
from ...store.photographer import Photographer
from ...store.places import Location
from ...store.versioned import OwnTide


def tide_of(row: Location) -> Tide | None:
    """Return the tide of a location; None if it has none. That of a reference place is simulated, and used only in a
    notebook that practises with simulated weather.
    """
    if row.own_tide is not None:
        return own_tide(row.name, row.own_tide)
    if row.tide_place is None:
        return None
    session = object_session(row)
    owner = session.get(Photographer, row.owner_id) if session is not None else None
    return tide_at(row.tide_place) if owner is None or owner.simulated_weather else None


def own_tide(name: str, kept: OwnTide) -> Tide:
    """Return the tide of a location's own table or constants. Raises InputError."""
    told = told_of(kept)
    if kept["waters"]:
        return _table(name, tuple((text, height) for text, height in kept["waters"]), told)
    return HarmonicTide(
        name, HarmonicConstants(kept["mean_m"], tuple((wave, height, lag) for wave, height, lag in kept["waves"])), told
    )


def told_of(kept: OwnTide) -> str:
    """Return the source of an own tide, in words that fit into brackets."""
    source = kept["source"] or ("from a table" if kept["waters"] else "from constants")
    return f"{source}, noted {format_day(parse_day(kept['noted_on']))}" if kept["noted_on"] else source


@lru_cache(maxsize=64)
def _table(name: str, waters: tuple[tuple[str, float], ...], told: str) -> TideTable:
    return TideTable(
        name, tuple((float(unix_seconds(datetime.fromisoformat(text))), height) for text, height in waters), told
    )
