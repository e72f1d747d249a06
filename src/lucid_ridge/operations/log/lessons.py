"""Lessons: calibrations found in the log and proposed. Only the photographer switches them on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.facts.calibrations import CalibrationKind, CalibrationState, Side
from ...core.learning.digests import Digest
from ...core.learning.lessons import Lesson, lessons
from ...core.learning.times import FieldSession, lessons_of_times
from ...store.kit import Filter
from ...store.log import Calibration
from ...store.places import Element, Location, Viewpoint
from ..kit.calibrations import (
    BOAT,
    HAND,
    WATER,
    battery_subject,
    filter_subject,
    forget_switched,
    place_subject,
    water_subject,
)
from ..platform.errors import Conflict
from ..platform.garbage_collection import collector_held
from ..platform.journal import journaled
from ..platform.rows import owned
from .digests import taught_by_log
from .field_sessions import field_sessions

SCOPE = "calibrations"
_OWN = {
    WATER: "Looks of water",
    HAND: "Held by hand",
    BOAT: "Held on a boat",
    battery_subject(Side.COLD): "Batteries in the cold",
    battery_subject(Side.MILD): "Batteries out of the cold",
    **{
        str(kind): name
        for kind, name in (
            (CalibrationKind.SET_UP, "Setting up"),
            (CalibrationKind.WALKING, "Walking in"),
            (CalibrationKind.FILTER_CHANGE, "Changing a filter"),
            (CalibrationKind.SERIES, "Series by hand"),
        )
    },
}
# A refused calibration is proposed again only if it differs by this many half widths of its interval.
_ANOTHER = 1.0


def all_lessons(
    session: Session, owner_id: int, taught: Sequence[Digest], outs: Sequence[FieldSession] | None = None
) -> tuple[Lesson, ...]:
    """Return everything the log measures, worth proposing or not. outs: its field sessions, if already read."""
    told = {row.id: row.stops for row in session.scalars(select(Filter).where(Filter.owner_id == owner_id))}
    found = lessons(taught, told)
    return (*found, *lessons_of_times(outs if outs is not None else field_sessions(session, owner_id)))


@dataclass(frozen=True)
class Learnt:
    """Result of learning. behind: entries not yet counted; nothing is proposed until none are left."""

    calibrations: Sequence[Calibration]
    behind: int = 0


def learn(session: Session, owner_id: int) -> Learnt:
    """Search the log for lessons and propose them.

    Calibrations in use follow their evidence; none is switched on automatically.
    """
    with collector_held():
        taught = taught_by_log(session, owner_id)
        measured = all_lessons(session, owner_id, taught.digests) if not taught.behind else ()
    if not taught.behind:
        _propose(session, owner_id, measured)
    return Learnt(_all(session, owner_id), taught.behind)


def _propose(session: Session, owner_id: int, measured: Sequence[Lesson]) -> None:
    have = {(row.kind, row.subject): row for row in _all(session, owner_id)}
    names = names_of_subjects(session, owner_id)
    found = [(item, subject) for item in measured if (subject := subject_of(item)) in names]
    with journaled(session, owner_id, SCOPE, "look through the log"):
        for item, subject in found:
            row = have.pop((item.kind, subject), None)
            if row is None:
                if item.worth:
                    row = Calibration(owner_id=owner_id, kind=item.kind, subject=subject, name=names[subject])
                    _fill(row, item)
                    session.add(row)
            elif row.state in (CalibrationState.PROPOSED, CalibrationState.OFF) and not item.worth:
                session.delete(row)
            elif row.state != CalibrationState.REFUSED:
                _fill(row, item)
            elif item.worth and abs(item.found.value - row.value) > _ANOTHER * (item.found.high - item.found.low) / 2:
                row.state = CalibrationState.PROPOSED
                _fill(row, item)
        for row in have.values():
            if row.state == CalibrationState.PROPOSED:
                session.delete(row)
        session.flush()
    forget_switched(session)


def switch(session: Session, owner_id: int, calibration_id: int, state: CalibrationState) -> Calibration:
    """Switch a calibration on or off, or refuse it. Raises NotFound; Conflict for proposing by hand."""
    row = owned(session, owner_id, Calibration, calibration_id)
    if state == CalibrationState.PROPOSED:
        raise Conflict("Proposals come from the log: switch it on, off, or refuse it.")
    with journaled(
        session, owner_id, SCOPE, f"{'use' if state == CalibrationState.ON else 'no longer use'} {row.name}"
    ):
        row.state = state
        session.flush()
    forget_switched(session)
    return row


def calibrations(session: Session, owner_id: int) -> Sequence[Calibration]:
    """Return the calibrations with their states."""
    return _all(session, owner_id)


def _all(session: Session, owner_id: int) -> Sequence[Calibration]:
    return session.scalars(
        select(Calibration).where(Calibration.owner_id == owner_id).order_by(Calibration.kind, Calibration.name)
    ).all()


def _fill(row: Calibration, item: Lesson) -> None:
    found = item.found
    row.told, row.value, row.low, row.high, row.frames = (
        item.told,
        round(found.value, 3),
        found.low,
        found.high,
        found.count,
    )
    row.evidence, row.found_at_utc = list(item.evidence), datetime.now(UTC)


def subject_of(item: Lesson) -> str:
    """Return the subject of a lesson, as calibrations name it."""
    number = item.subject or 0
    return {
        CalibrationKind.FILTER_COST: filter_subject(number, item.side),
        CalibrationKind.LIGHT_OFFSET: place_subject(number, item.side),
        CalibrationKind.WATER_SPEED: water_subject(number),
        CalibrationKind.LOOK_BAND: WATER,
        CalibrationKind.HAND_HELD: BOAT if item.side == Side.BOAT else HAND,
        CalibrationKind.BATTERY: battery_subject(item.side),
    }.get(item.kind, str(item.kind))


def names_of_subjects(session: Session, owner_id: int) -> dict[str, str]:
    """Return the display names of lesson subjects. Deleted subjects are omitted."""
    filters = {
        filter_subject(row_id, side): f"{name}{words}"
        for row_id, name in session.execute(select(Filter.id, Filter.name).where(Filter.owner_id == owner_id))
        for side, words in (
            (Side.WHOLE, ""),
            (Side.ACROSS, ", at right angles to the sun"),
            (Side.ALONG, ", towards or away from the sun"),
        )
    }
    places = {
        place_subject(row_id, side): f"Light at {name}{words}"
        for row_id, name in session.execute(select(Location.id, Location.name).where(Location.owner_id == owner_id))
        for side, words in ((Side.WHOLE, ""), (Side.CLEAR, ", clear sky"), (Side.CLOUDED, ", clouded"))
    }
    waters = {
        water_subject(element_id): f"{name} at {place}"
        for element_id, name, place in session.execute(
            select(Element.id, Element.name, Location.name)
            .join(Element.viewpoint)
            .join(Viewpoint.location)
            .where(Location.owner_id == owner_id)
        )
    }
    return {**filters, **places, **waters, **_OWN}
