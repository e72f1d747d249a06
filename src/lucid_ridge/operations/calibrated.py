"""What the log taught and the photographer has switched on, as plans use it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.facts import kit
from ..core.facts.calibrations import Calibrated, CalibrationKind, CalibrationState
from ..store.log import Calibration

WATER, HAND = "water", "hand"
Taught = Mapping[tuple[CalibrationKind, str], Calibrated]
_KEY = "taught"


def filter_subject(filter_id: int) -> str:
    return f"filter:{filter_id}"


def place_subject(location_id: int) -> str:
    return f"place:{location_id}"


def switched_on(session: Session, owner_id: int) -> Taught:
    """Return the owner's calibrations that are switched on, by kind and subject; read once in a session, until something is switched."""
    kept: dict[int, Taught] = session.info.setdefault(_KEY, {})
    if owner_id not in kept:
        rows = session.scalars(select(Calibration).where(Calibration.owner_id == owner_id, Calibration.state == CalibrationState.ON))
        kept[owner_id] = {
            (row.kind, row.subject): Calibrated(row.kind, row.subject, row.told, row.value, row.low, row.high, row.frames) for row in rows
        }
    return kept[owner_id]


def forget_switched(session: Session) -> None:
    """Read again what is switched on when it is next asked for."""
    session.info.pop(_KEY, None)


def as_measured(item: kit.Filter, taught: Taught) -> kit.Filter:
    """Return a filter with the cost that was measured of it; one that is turned by degrees keeps what it is turned to."""
    found = taught.get((CalibrationKind.FILTER_COST, filter_subject(item.id)))
    if found is None or item.stops_max is not None:
        return item
    return replace(item, stops=found.value, told_stops=item.stops, measured_frames=found.frames)
