"""Nested values in JSON columns, each with a schema that is checked on writing, and the version of that schema."""

from __future__ import annotations

from typing import Any, NotRequired

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import TypeDecorator
from sqlalchemy.dialects.postgresql import JSONB
from typing_extensions import TypedDict

# A skyline as [[bearing, altitude], …] and a course as [[bearing, distance], …], in degrees and metres.
Pairs = list[tuple[float, float]]
# A walk as [[latitude, longitude, height or null], …].
TrackPoints = list[tuple[float, float, float | None]]


# A line on a picture, from x and y to x and y, as shares of its width and height.
Line = tuple[float, float, float, float]


# Angles measured on a visit as [[name, bearing, altitude], …], in degrees.
Angles = list[tuple[str, float, float]]


class Standing(TypedDict):
    """A standing area: corners (east, north) [m], and the sides with a drop, by their first corner."""

    corners: list[tuple[float, float]]
    drops: list[int]


class Spot(TypedDict):
    """A spot reading: its part, its element if it has one, as entered, its EV at ISO 100, and the filters it was taken
    through [stops].
    """

    part: str
    element_id: int | None
    said: str
    ev100: float
    through_stops: float


class Wished(TypedDict):
    """The look wanted of something that moves; element_id None stands for the clouds."""

    element_id: int | None
    wish: str


class Group(TypedDict):
    """A group of frames, as declared in core/facts/frame_groups.py; a clock time as ISO text."""

    role: str
    name: str
    focus: str
    focus_number: int | None
    focus_element_id: int | None
    focus_m: float | None
    exposure: str
    shutter_s: float | None
    iso: float | None
    offset_ev: float
    filters: str
    filter_ids: list[int]
    count: int
    burst_per_s: float | None
    # Not in what was stored before it was known.
    gap_s: NotRequired[float | None]
    aim_row: int | None
    start: str
    start_clock: str | None
    start_moment: str | None
    start_min: float
    together: str
    muted: bool


class OwnTide(TypedDict):
    """A tide table as [[UTC as ISO text, height in metres], …], or harmonic constants: mean and [[constituent,
    amplitude, lag], …]. noted_on: ISO date of the source, empty if not given.
    """

    source: str
    noted_on: str
    waters: list[tuple[str, float]]
    mean_m: float
    waves: list[tuple[str, float, float]]


class Versioned(TypeDecorator[Any]):
    """Stored as {"version": 1, "value": …}; in Python only the value.

    A migration that changes the schema raises the version.
    """

    impl = JSONB(none_as_null=True)
    cache_ok = True

    def __init__(self, schema: Any, version: int = 1) -> None:
        super().__init__()
        self.schema, self.version = schema, version
        self._adapter: TypeAdapter[Any] = TypeAdapter(schema)

    @property
    def _static_cache_key(self) -> tuple[Any, ...]:
        return (Versioned, str(self.schema), self.version)

    def process_bind_param(self, value: Any, dialect: object) -> dict[str, Any] | None:
        if value is None:
            return None
        try:
            return {
                "version": self.version,
                "value": self._adapter.dump_python(self._adapter.validate_python(value), mode="json"),
            }
        except ValidationError as error:
            raise TypeError(f"This does not have the schema of its column: {error.errors()[0]['msg']}") from error

    def process_result_value(self, value: dict[str, Any] | None, dialect: object) -> Any:
        if value is None:
            return None
        if value["version"] != self.version:
            raise RuntimeError(
                f"A column holds version {value['version']} of its schema; this application reads {self.version}."
            )
        return value["value"]
