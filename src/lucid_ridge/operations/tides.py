"""A location's own tide: a table of high and low waters, or harmonic constants."""

from __future__ import annotations

from datetime import date

from sqlalchemy.orm import Session

from ..core.errors import InputError
from ..core.tides.harmonics import CONSTITUENTS
from ..formats.errors import FormatError
from ..formats.tide_tables import read_tide_table
from ..store.places import Location
from ..store.versioned import OwnTide
from .errors import Refused
from .journal import journaled
from .known_tides import own_tide
from .places import location_scope
from .rows import owned


def set_own_tide(
    session: Session, owner_id: int, location_id: int, *, table: str, constants: str, mean_m: float, source: str, noted_on: date | None
) -> Location:
    """Give a location its own tide, from a table's text or from constants ("M2 1.42 327", one a line). Raises Refused at the field."""
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
            kept["waters"] = [(moment.isoformat(), height) for moment, height in read_tide_table(table, row.zone)]
        else:
            kept["waves"] = _waves(constants)
        own_tide(row.name, kept)
    except (FormatError, InputError) as error:
        raise Refused(field, error.message if isinstance(error, InputError) else str(error)) from error
    with journaled(session, owner_id, location_scope(row.id), f"edit the tide of {row.name}"):
        row.own_tide = kept
    return row


def drop_own_tide(session: Session, owner_id: int, location_id: int) -> Location:
    """Let a location's own tide go; a reference place that was chosen before counts again."""
    row = owned(session, owner_id, Location, location_id)
    with journaled(session, owner_id, location_scope(row.id), f"drop the tide of {row.name}"):
        row.own_tide = None
    return row


def _waves(text: str) -> list[tuple[str, float, float]]:
    waves: dict[str, tuple[str, float, float]] = {}
    for number, line in enumerate(text.splitlines(), start=1):
        parts = line.replace(",", ".").replace(";", " ").replace("°", " ").split()
        if not parts:
            continue
        name = parts[0].upper()
        if len(parts) != 3 or name not in CONSTITUENTS:
            known = ", ".join(CONSTITUENTS)
            raise Refused(
                "constants", f"Line {number}: write a constituent ({known}), its amplitude in metres and its lag in degrees: M2 1.42 327."
            )
        try:
            height, lag = float(parts[1]), float(parts[2])
        except ValueError:
            raise Refused("constants", f"Line {number}: “{line.strip()[:40]}” needs two numbers after the constituent.") from None
        if not (0 <= height <= 20 and -360 <= lag <= 720):
            raise Refused("constants", f"Line {number}: amplitudes lie from 0 to 20 m, lags from −360 to 720°.")
        waves[name] = (name, height, lag % 360)
    return list(waves.values())
