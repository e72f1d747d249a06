"""Answers written as JSON by the schemas themselves, in one go; importing this module makes every view answer so."""

from __future__ import annotations

from typing import Any

from apiflask.schema_adapters.pydantic import PydanticAdapter
from apiflask.schema_adapters.registry import registry
from flask import Response
from flask.json.provider import DefaultJSONProvider
from pydantic import BaseModel
from werkzeug.sansio.response import Response as AnyResponse


class _Whole(PydanticAdapter):
    """Leaves an answer that is a schema's as it is, for the provider to write."""

    def serialize_output(self, data: Any, many: bool = False) -> Any:
        return data if isinstance(data, BaseModel) and not many else super().serialize_output(data, many)


class AnswerProvider(DefaultJSONProvider):
    sort_keys = False

    def response(self, *args: Any, **kwargs: Any) -> AnyResponse:
        """Return an answer: a schema's written by itself, all else by the library."""
        if len(args) == 1 and isinstance(args[0], BaseModel):
            return Response(args[0].model_dump_json(by_alias=True), mimetype=self.mimetype)
        return super().response(*args, **kwargs)


registry.register("pydantic", _Whole)
