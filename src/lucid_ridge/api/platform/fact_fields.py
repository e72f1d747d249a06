"""Request and response fields made from the core's declared facts, written and read by their kind."""

from __future__ import annotations

from collections.abc import Callable, Collection
from datetime import time
from typing import Annotated, Any, TypeVar

from pydantic import BaseModel, Field, PlainSerializer, WithJsonSchema, create_model

from ...core.facts.declaring import Declared, Kind, Value, facts_of
from . import fields

Model = TypeVar("Model", bound=BaseModel)

_WRITTEN: dict[Kind, Any] = {
    Kind.NUMBER: fields.Number,
    Kind.APERTURE: fields.Aperture,
    Kind.SHUTTER: fields.Shutter,
    Kind.DISTANCE: fields.Distance,
    Kind.LENGTH_M: fields.LengthM,
    Kind.LENGTH_MM: fields.LengthMm,
    Kind.ANGLE: fields.Angle,
    Kind.BEARING: fields.Bearing,
    Kind.SHARE: fields.Share,
    Kind.MAGNIFICATION: fields.Magnification,
    Kind.MINUTES: fields.Minutes,
    Kind.SECONDS: fields.Seconds,
    Kind.SPEED: fields.Speed,
    Kind.EV: fields.Ev,
    Kind.FILTER_COST: fields.FilterCost,
    Kind.ISO: fields.Iso,
    Kind.COUNT: int,
    Kind.DATE: fields.Day,
    Kind.CLOCK: fields.Clock,
    Kind.INSTANT: fields.Instant,
    Kind.NAME: fields.Name,
    Kind.NOTE: fields.Note,
    Kind.REFERENCE: fields.Id,
}
_MOST_KEYS = 200
# A local clock time has no offset, which JSON Schema's "time" requires.
_ClockOut = Annotated[
    time, PlainSerializer(lambda value: f"{value:%H:%M}", return_type=str), WithJsonSchema({"type": "string"})
]


def takes(group: type, *, but: Collection[str] = ()) -> Callable[[type[Model]], type[Model]]:
    """Add a group's facts to a request model; those without a default are required."""
    return _with(group, lambda item: (_request(item), ... if item.required else item.default), but)


def changes(group: type, *, but: Collection[str] = ()) -> Callable[[type[Model]], type[Model]]:
    """Add some of a group's facts to a request model; only given values change."""
    return _with(group, lambda item: (_request(item), unsaid()), but)


def unsaid() -> Any:
    """Return the default of a field that may be omitted, but not be null."""
    return Field(default_factory=lambda: None)


def gives(group: type, *, but: Collection[str] = ()) -> Callable[[type[Model]], type[Model]]:
    """Add a group's facts to a response model."""
    return _with(group, lambda item: (_response(item), ...), but)


def said(model: BaseModel, *, but: Collection[str] = ()) -> dict[str, Value]:
    """Return the given values of a request, as the core's types."""
    # In the order of declaration, which the undo list uses.
    plain = {
        name: getattr(model, name)
        for name in type(model).model_fields
        if name in model.model_fields_set and name not in but
    }
    return {name: frozenset(value) if isinstance(value, list) else value for name, value in plain.items()}


def _with(
    group: type, field_of: Callable[[Declared], Any], but: Collection[str]
) -> Callable[[type[Model]], type[Model]]:
    def derived(model: type[Model]) -> type[Model]:
        more = {name: field_of(item) for name, item in facts_of(group).items() if name not in but}
        return create_model(model.__name__, __base__=model, __module__=model.__module__, __doc__=model.__doc__, **more)

    return derived


def _request(item: Declared) -> Any:
    plain: Any = _WRITTEN.get(item.kind, item.type)
    if item.kind == Kind.KEYS:
        plain = Annotated[list[fields.Name], Field(max_length=_MOST_KEYS)]
    elif item.fact.low is not None and item.kind != Kind.BEARING:
        limits = (
            Field(gt=item.fact.low, le=item.fact.high)
            if item.fact.above
            else Field(ge=item.fact.low, le=item.fact.high)
        )
        plain = Annotated[plain, limits]
    return plain | None if item.optional else plain


def _response(item: Declared) -> Any:
    plain: Any = list[str] if item.kind == Kind.KEYS else _ClockOut if item.kind == Kind.CLOCK else item.type
    return plain | None if item.optional else plain
