"""Field types shared by schemas: numbers and engraved texts are both accepted; bounds stand at the field."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import UTC, date, datetime, time
from typing import Annotated, Any
from unicodedata import category

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    StringConstraints,
    WithJsonSchema,
)

from ...core.facts.spots import parse_reading
from ...core.units.angles import parse_angle_deg, parse_bearing_deg
from ...core.units.clock import parse_clock
from ...core.units.days import parse_day
from ...core.units.durations import parse_minutes, parse_seconds, parse_speed_mps
from ...core.units.lengths import parse_distance_m, parse_length_m, parse_length_mm
from ...core.units.markings import parse_aperture, parse_shutter
from ...core.units.numbers import parse_number
from ...core.units.ratios import parse_ev, parse_iso, parse_magnification, parse_share
from ...core.units.stops import parse_filter_stops
from ...formats.coordinates import parse_coordinates


class In(BaseModel):
    """A request body: unknown fields are refused."""

    model_config = ConfigDict(extra="forbid")


class Out(BaseModel):
    """A response body; can be filled from objects."""

    model_config = ConfigDict(from_attributes=True)


class Labelled(Out):
    """A value with its label; value is null for infinity."""

    value: float | None
    label: str


def _from_text(parse: Callable[[str], float]) -> Callable[[Any], Any]:
    def read(value: Any) -> Any:
        if isinstance(value, bool):
            raise ValueError("A number is needed here.")
        return parse(value) if isinstance(value, str) else value

    return read


def _finite_distance(text: str) -> float:
    value = parse_distance_m(text)
    if math.isinf(value):
        raise ValueError("Infinity is said with its own switch here; write a distance.")
    return value


_TEXT_OR_NUMBER = WithJsonSchema({"anyOf": [{"type": "number"}, {"type": "string"}]})


def _written(parse: Callable[[str], float]) -> BeforeValidator:
    """Return the parser of a kind's texts.

    Every text the application writes into a field can be read by any field of its kind.
    """
    return BeforeValidator(_from_text(parse))


def _meter_reading(text: str) -> str:
    """Return a meter reading as entered, if it can be parsed."""
    parse_reading(text)
    return text.strip()


_Finite = Field(allow_inf_nan=False)
Number = Annotated[float, _Finite, _written(parse_number), _TEXT_OR_NUMBER]
LengthM = Annotated[float, _Finite, _written(parse_length_m), _TEXT_OR_NUMBER]
LengthMm = Annotated[float, _Finite, _written(parse_length_mm), _TEXT_OR_NUMBER]
Angle = Annotated[float, _Finite, _written(parse_angle_deg), _TEXT_OR_NUMBER]
Share = Annotated[float, _Finite, _written(parse_share), _TEXT_OR_NUMBER]
Magnification = Annotated[float, _Finite, _written(parse_magnification), _TEXT_OR_NUMBER]
Minutes = Annotated[float, _Finite, _written(parse_minutes), _TEXT_OR_NUMBER]
Seconds = Annotated[float, _Finite, _written(parse_seconds), _TEXT_OR_NUMBER]
Speed = Annotated[float, _Finite, _written(parse_speed_mps), _TEXT_OR_NUMBER]
Ev = Annotated[float, _Finite, _written(parse_ev), _TEXT_OR_NUMBER]
MeterReading = Annotated[str, AfterValidator(_meter_reading), Field(max_length=60)]
FilterCost = Annotated[float, _Finite, _written(parse_filter_stops), _TEXT_OR_NUMBER]
Iso = Annotated[float, _Finite, _written(parse_iso), _TEXT_OR_NUMBER]
Shutter = Annotated[float, _Finite, Field(gt=0, le=86400), _written(parse_shutter), _TEXT_OR_NUMBER]
Aperture = Annotated[float, _Finite, Field(ge=0.5, le=128), _written(parse_aperture), _TEXT_OR_NUMBER]
Distance = Annotated[float, _Finite, Field(gt=0, le=1e6), _written(_finite_distance), _TEXT_OR_NUMBER]


def _seen(text: str) -> str:
    """Return a text if all its characters can be stored, drawn and written to files."""
    for character in text:
        kind = category(character)
        if (kind == "Cc" and character not in "\n\t\r") or kind == "Cs" or ord(character) & 0xFFFE == 0xFFFE:
            raise ValueError(f"The text holds a character that cannot be kept (U+{ord(character):04X}).")
    return text


def _name(text: str) -> str:
    """Return a one-line name with visible characters. Raises ValueError otherwise."""
    for character in _seen(text):
        if character in "\n\t\r\u2028\u2029" or character in _TURNING:
            raise ValueError(f"A name is one line of plain text, without U+{ord(character):04X}.")
    if all(category(character) in ("Cf", "Zs", "Mn") or character in _BLANK for character in text):
        raise ValueError("A name needs something that can be seen.")
    return text


# Characters that change the writing direction beyond their own text, and invisible ones.
_TURNING = "\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069"
_BLANK = "\u3164\u115f\u1160\uffa0\u2800\u034f"

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200), AfterValidator(_name)]
Note = Annotated[str, StringConstraints(max_length=20000), AfterValidator(_seen)]
Id = Annotated[int, Field(ge=1, le=2**31 - 1, strict=True)]
# In a query string every number is text.
QueryId = Annotated[int, Field(ge=1, le=2**31 - 1)]


def _clock(value: Any) -> Any:
    if not isinstance(value, str):
        raise ValueError("A clock time is a text, such as 16:04.")
    return parse_clock(value)


def _day(value: Any) -> Any:
    """Return a date from its text; numbers are refused."""
    if not isinstance(value, str):
        raise ValueError("A date is a text, such as 2026-01-31.")
    return parse_day(value)


def _instant(value: Any) -> Any:
    if isinstance(value, str):
        return value
    raise ValueError("A time is a text with its zone, such as 2026-01-31T16:04:00Z.")


def _in_utc(moment: datetime) -> datetime:
    try:
        return moment.astimezone(UTC)
    except OverflowError:
        raise ValueError("That time lies outside the years 1 to 9999.") from None


def _coordinates(value: Any) -> Any:
    if isinstance(value, str):
        found = parse_coordinates(value)
        return found.latitude_deg, found.longitude_deg
    return value


# One text for a position: decimal degrees, degrees-minutes-seconds, UTM or MGRS.
Position = Annotated[
    tuple[float, float],
    BeforeValidator(_coordinates),
    WithJsonSchema({"type": "string", "examples": ["54°31′52″N 3°12′50″W"]}),
]

Clock = Annotated[time, BeforeValidator(_clock), WithJsonSchema({"type": "string", "examples": ["16:04"]})]
Day = Annotated[date, BeforeValidator(_day)]
Instant = Annotated[AwareDatetime, BeforeValidator(_instant), AfterValidator(_in_utc)]


# Any angle is accepted and normalised to 0..360.
Bearing = Annotated[
    float,
    _Finite,
    Field(ge=-360, le=720),
    _written(parse_bearing_deg),
    AfterValidator(lambda value: value % 360),
    _TEXT_OR_NUMBER,
]


def finite_or_none(value: float | None) -> float | None:
    """Return None for infinity and NaN, which JSON cannot represent."""
    return None if value is None or not math.isfinite(value) else float(value)
