"""A location's own tide: a table of high and low waters, or harmonic constants."""

from __future__ import annotations

from datetime import date

from sqlalchemy.orm import Session

from ...core.errors import InputError
from ...formats.harmonic_constants import read_constants
from ...formats.tide_tables import TableClock, read_tide_table
from ...store.places import Location
from ...store.versioned import OwnTide
from ..platform.errors import Refused
from ..platform.journal import journaled
from ..platform.rows import owned
from .known_tides import own_tide
from .locations import location_scope


def set_own_tide(
    session: Session,
    owner_id: int,
    location_id: int,
    *,
    table: str,
    constants: str,
    mean_m: float,
    source: str,
    noted_on: date | None,
    table_clock: TableClock = TableClock.LOCAL,
) -> Location:
    """Set a location's own tide, from a table's text or from constants ("M2 1.42 327", one per line).

    table_clock: the time the table is printed in. Raises Refused at the field.
    """
    row = owned(session, owner_id, Location, location_id)
    if bool(table.strip()) == bool(constants.strip()):
        raise Refused("table", "Give either a table of high and low waters or harmonic constants.")
    kept: OwnTide = {
        "source": source.strip(),
        "noted_on": noted_on.isoformat() if noted_on else "",
        "waters": [],
        "mean_m": mean_m,
        "waves": [],
    }
    field = "table" if table.strip() else "constants"
    try:
        if field == "table":
            kept["waters"] = [
                (moment.isoformat(), height) for moment, height in read_tide_table(table, row.zone, table_clock)
            ]
        else:
            kept["waves"] = read_constants(constants)
        own_tide(row.name, kept)
    except InputError as error:
        raise Refused(field, error.message) from error
    with journaled(session, owner_id, location_scope(row.id), f"edit the tide of {row.name}"):
        row.own_tide = kept
    return row


def drop_own_tide(session: Session, owner_id: int, location_id: int) -> Location:
    """Remove a location's own tide; a reference place chosen before applies again."""
    row = owned(session, owner_id, Location, location_id)
    with journaled(session, owner_id, location_scope(row.id), f"drop the tide of {row.name}"):
        row.own_tide = None
    return row
