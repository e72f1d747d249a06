"""Field types shared by schemas: numbers and the trade's texts, both accepted; bounds stand at the field."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import UTC, datetime, time
from typing import Annotated, Any

from pydantic import AfterValidator, AwareDatetime, BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints, WithJsonSchema

from ...core.units.lengths import parse_distance_m
from ...core.units.markings import parse_aperture, parse_shutter
from ...formats.coordinates import parse_coordinates


class In(BaseModel):
    """A request body: unknown fields are refused."""

    model_config = ConfigDict(extra="forbid")


class Out(BaseModel):
    """A response body; may be filled from objects."""

    model_config = ConfigDict(from_attributes=True)


class Labelled(Out):
    """A value and how the trade writes it; value is null for infinity."""

    value: float | None
    label: str


def _from_text(parse: Callable[[str], float]) -> Callable[[Any], Any]:
    def read(value: Any) -> Any:
        if isinstance(value, bool):
            raise ValueError("A number is needed here.")
        return parse(value) if isinstance(value, str) else value

    return read


def _number(text: str) -> float:
    cleaned = text.strip().replace(",", ".").replace("−", "-")
    try:
        value = float(cleaned)
    except ValueError:
        raise ValueError(f"“{text}” is not a number.") from None
    if not math.isfinite(value):
        raise ValueError(f"“{text}” is not a finite number.")
    return value


def _finite_distance(text: str) -> float:
    value = parse_distance_m(text)
    if math.isinf(value):
        raise ValueError("Infinity is said with its own switch here; write a distance.")
    return value


_TEXT_OR_NUMBER = WithJsonSchema({"anyOf": [{"type": "number"}, {"type": "string"}]})

Number = Annotated[float, Field(allow_inf_nan=False), BeforeValidator(_from_text(_number)), _TEXT_OR_NUMBER]
Shutter = Annotated[float, Field(gt=0, le=86400, allow_inf_nan=False), BeforeValidator(_from_text(parse_shutter)), _TEXT_OR_NUMBER]
Aperture = Annotated[float, Field(ge=0.5, le=128, allow_inf_nan=False), BeforeValidator(_from_text(parse_aperture)), _TEXT_OR_NUMBER]
Distance = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False), BeforeValidator(_from_text(_finite_distance)), _TEXT_OR_NUMBER]


def bounded(low: float, high: float, *, above: bool = False) -> Any:
    """Return a Number type from low to high, low itself excluded with above."""
    limits = Field(gt=low, le=high) if above else Field(ge=low, le=high)
    return Annotated[Number, limits]


def _no_nul(text: str) -> str:
    if "\0" in text:
        raise ValueError("The text holds a NUL character.")
    return text


Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200), AfterValidator(_no_nul)]
Note = Annotated[str, StringConstraints(max_length=20000), AfterValidator(_no_nul)]
Id = Annotated[int, Field(ge=1, le=2**31 - 1, strict=True)]
Bearing = bounded(-360.0, 720.0)


def _clock(value: Any) -> Any:
    if isinstance(value, str):
        try:
            return time.fromisoformat(value.strip().zfill(5))
        except ValueError:
            raise ValueError(f"“{value}” is not a clock time. Write 16:04.") from None
    return value


def _coordinates(value: Any) -> Any:
    if isinstance(value, str):
        found = parse_coordinates(value)
        return found.latitude_deg, found.longitude_deg
    return value


# One text for a whole position: decimal degrees, degrees-minutes-seconds, UTM or MGRS.
Position = Annotated[
    tuple[float, float], BeforeValidator(_coordinates), WithJsonSchema({"type": "string", "examples": ["54°31′52″N 3°12′50″W"]})
]

Clock = Annotated[time, BeforeValidator(_clock), WithJsonSchema({"type": "string", "examples": ["16:04"]})]
Instant = Annotated[AwareDatetime, AfterValidator(lambda moment: moment.astimezone(UTC))]


def wrap_bearing(value: float | None) -> float | None:
    """Return a bearing in 0..360."""
    return None if value is None else value % 360


def finite_or_none(value: float | None) -> float | None:
    """Return None for infinity and NaN, which JSON cannot say."""
    return None if value is None or not math.isfinite(value) else float(value)


def iso_utc(moment: datetime | None) -> datetime | None:
    return None if moment is None else moment.astimezone(UTC)
