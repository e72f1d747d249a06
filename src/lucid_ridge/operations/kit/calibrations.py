"""Calibrations from the log that are switched on, as plans use them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.facts.calibrations import Calibrated, CalibrationKind, CalibrationState, Side, Taught
from ...core.facts.filters import Filter as KnownFilter
from ...store.log import Calibration

WATER, HAND, BOAT = "water", "hand", "boat"
SwitchedOn = Mapping[tuple[CalibrationKind, str], Calibrated]
_KEY = "taught"


def filter_subject(filter_id: int, side: Side = Side.WHOLE) -> str:
    return f"filter:{filter_id}:{side}" if side else f"filter:{filter_id}"


def place_subject(location_id: int, side: Side = Side.WHOLE) -> str:
    return f"place:{location_id}:{side}" if side else f"place:{location_id}"


def water_subject(element_id: int) -> str:
    return f"element:{element_id}"


def battery_subject(side: Side) -> str:
    return f"battery:{side}"


def switched_on(session: Session, owner_id: int) -> SwitchedOn:
    """Return the owner's calibrations that are switched on, by kind and subject.

    Cached in the session until one is switched.
    """
    kept: dict[int, SwitchedOn] = session.info.setdefault(_KEY, {})
    if owner_id not in kept:
        rows = session.scalars(
            select(Calibration).where(Calibration.owner_id == owner_id, Calibration.state == CalibrationState.ON)
        )
        kept[owner_id] = {
            (row.kind, row.subject): Calibrated(
                row.kind, row.subject, row.told, row.value, row.low, row.high, row.frames
            )
            for row in rows
        }
    return kept[owner_id]


def forget_switched(session: Session) -> None:
    """Clear the session's cache of calibrations."""
    session.info.pop(_KEY, None)


def taught_of(taught: SwitchedOn, location_id: int | None = None) -> Taught:
    """Return the calibrations in force as facts carry them. location_id: of the place whose light offset applies."""

    def light(side: Side) -> Calibrated | None:
        return (
            None
            if location_id is None
            else taught.get((CalibrationKind.LIGHT_OFFSET, place_subject(location_id, side)))
        )

    return Taught(
        light_offset=light(Side.WHOLE),
        light_clear=light(Side.CLEAR),
        light_clouded=light(Side.CLOUDED),
        look_shift=taught.get((CalibrationKind.LOOK_BAND, WATER)),
        hand_shift=taught.get((CalibrationKind.HAND_HELD, HAND)),
        boat_shift=taught.get((CalibrationKind.HAND_HELD, BOAT)),
        filter_change=own(taught, CalibrationKind.FILTER_CHANGE),
        series=own(taught, CalibrationKind.SERIES),
        cold_battery=taught.get((CalibrationKind.BATTERY, battery_subject(Side.COLD))),
        mild_battery=taught.get((CalibrationKind.BATTERY, battery_subject(Side.MILD))),
    )


def own(taught: SwitchedOn, kind: CalibrationKind) -> Calibrated | None:
    """Return the photographer's own calibration of a kind, of which there is at most one."""
    return taught.get((kind, str(kind)))


def as_measured(item: KnownFilter, taught: SwitchedOn, side: Side = Side.WHOLE) -> KnownFilter:
    """Return a filter with its measured cost, for its side of the sun where that was measured separately.

    A variable filter keeps the cost it is set to.
    """
    found = taught.get((CalibrationKind.FILTER_COST, filter_subject(item.id, side))) or taught.get(
        (CalibrationKind.FILTER_COST, filter_subject(item.id))
    )
    if found is None or item.stops_max is not None:
        return item
    return replace(item, stops=found.value, marked_stops=item.stops, measured_frames=found.frames)
