"""Serialises responses by their schemas in one pass; importing this module switches that on for every view."""

from __future__ import annotations

from typing import Any

from apiflask.schema_adapters.pydantic import PydanticAdapter
from apiflask.schema_adapters.registry import registry
from flask import Response
from flask.json.provider import DefaultJSONProvider
from pydantic import BaseModel
from werkzeug.sansio.response import Response as AnyResponse


class _Whole(PydanticAdapter):
    """Passes a schema's object through, for the provider to serialise."""

    def serialize_output(self, data: Any, many: bool = False) -> Any:
        return data if isinstance(data, BaseModel) and not many else super().serialize_output(data, many)


class AnswerProvider(DefaultJSONProvider):
    sort_keys = False

    def response(self, *args: Any, **kwargs: Any) -> AnyResponse:
        """Return a response: a schema's object serialised by itself, everything else by the library."""
        if len(args) == 1 and isinstance(args[0], BaseModel):
            return Response(args[0].model_dump_json(by_alias=True), mimetype=self.mimetype)
        return super().response(*args, **kwargs)


registry.register("pydantic", _Whole)
