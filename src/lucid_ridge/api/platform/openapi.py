"""Tidies the OpenAPI document: every nested model once, every error response, files as files."""

from __future__ import annotations

import json
import re
from typing import Any

from flask import current_app

from ...core.facts.words import choice_words
from ...core.labels import NamedEnum
from .files import MEDIA_TYPE as FILE_TYPE

_PLACEHOLDER = re.compile(r"<(?:\w+:)?(\w+)>")
PREFIX = "#/components/schemas/"
METHODS = ("get", "post", "patch", "put", "delete")
_BINARY = {"type": "string", "format": "binary"}
_JSON = {"type": "object"}
_REFUSALS = {
    400: "The request could not be read, or was sent to another address than this machine's own.",
    401: "Nobody is signed in, or the key of this notebook was not shown.",
    403: "The request came from another site's page.",
    404: "There is nothing at this address, or nothing of that number.",
    409: "Changed elsewhere since it was read (kind changed), another notebook is served by now (kind other_notebook), "
    "or the request does not fit with the state of things (kind conflict).",
    413: "The body is too large.",
    415: "The body has another type than is taken here.",
    422: "A value cannot be accepted; fields says which, and what is allowed.",
    429: "Too many tries to sign in went wrong.",
    503: "The database, or a service asked on the way, does not answer.",
    507: "The disk is full.",
}
_ERROR = {
    "type": "object",
    "description": "The one shape of every refusal.",
    "required": ["error"],
    "additionalProperties": False,
    "properties": {
        "error": {
            "type": "object",
            "required": ["kind", "message", "fields"],
            "additionalProperties": False,
            "properties": {
                "kind": {"type": "string", "description": "What kind of refusal this is, for a program."},
                "message": {"type": "string", "description": "One sentence for the photographer."},
                "fields": {
                    "type": "array",
                    "items": {
                        "type": "object",
                        "required": ["field", "message"],
                        "additionalProperties": False,
                        "properties": {"field": {"type": "string"}, "message": {"type": "string"}},
                    },
                },
            },
        }
    },
}


def tidy_spec(spec: dict[str, Any]) -> dict[str, Any]:
    """Return the document as it is published."""
    return _declare_refusals(_declare_files(_declare_labels(flatten_schemas(spec))))


def _declare_labels(spec: dict[str, Any]) -> dict[str, Any]:
    """Add labels to every enum (x-labels)."""
    kinds = {kind.__name__: kind for kind in NamedEnum.__subclasses__()}
    for name, schema in spec["components"]["schemas"].items():
        if "enum" in schema and name in kinds:
            schema["x-labels"] = {str(item): choice_words(item) for item in kinds[name]}
    return spec


def flatten_schemas(spec: dict[str, Any]) -> dict[str, Any]:
    """Return the document with Parent.Child schemas renamed to Child and shared."""
    schemas: dict[str, Any] = spec.get("components", {}).get("schemas", {})
    names = {name: name.rsplit(".", 1)[-1] for name in schemas}
    text = json.dumps(spec)
    for name in sorted(names, key=len, reverse=True):
        text = text.replace(f'"{PREFIX}{name}"', f'"{PREFIX}{names[name]}"')
    tidy: dict[str, Any] = json.loads(text)
    merged: dict[str, Any] = {}
    for name, schema in tidy["components"]["schemas"].items():
        schema.pop("$defs", None)
        short = names[name]
        if short in merged and merged[short] != schema:
            raise ValueError(f"Two different schemas are both called {short}.")
        merged[short] = schema
    tidy["components"]["schemas"] = dict(sorted(merged.items()))
    return tidy


def _declare_files(spec: dict[str, Any]) -> dict[str, Any]:
    """Declare which addresses take a file as their body, and which return one."""
    for path, operations in spec["paths"].items():
        for method in set(METHODS) & set(operations):
            view, operation = _view(path, method), operations[method]
            if getattr(view, "largest_file_bytes", None):
                operation["requestBody"] = {"required": True, "content": {FILE_TYPE: {"schema": _BINARY}}}
            if kinds := getattr(view, "answers_with", None):
                operation["responses"]["200"] = {
                    "description": "The file",
                    "content": {kind: {"schema": _JSON if "json" in kind else _BINARY} for kind in kinds},
                }
    return spec


def _view(path: str, method: str) -> Any:
    for rule in current_app.url_map.iter_rules():
        if _PLACEHOLDER.sub(r"{\1}", rule.rule) == path and method.upper() in (rule.methods or ()):
            return current_app.view_functions[rule.endpoint]
    raise ValueError(f"No view answers {method} {path}.")


def _declare_refusals(spec: dict[str, Any]) -> dict[str, Any]:
    """Declare the error responses of every operation."""
    schemas = spec["components"]["schemas"]
    schemas.pop("ValidationError", None)
    schemas["RefusedOut"] = _ERROR
    content = {"application/json": {"schema": {"$ref": f"{PREFIX}RefusedOut"}}}
    spec["components"]["responses"] = {
        f"Refused{status}": {"description": words, "content": content} for status, words in _REFUSALS.items()
    }
    for path, operations in spec["paths"].items():
        for method in set(METHODS) & set(operations):
            responses = operations[method]["responses"]
            for parameter in operations[method].get("parameters", []):
                if parameter["in"] == "path" and parameter["schema"].get("type") == "integer":
                    parameter["schema"]["minimum"] = 1
            for status in _statuses(
                path, method, "requestBody" in operations[method] or bool(operations[method].get("parameters"))
            ):
                responses[str(status)] = {"$ref": f"#/components/responses/Refused{status}"}
    return spec


def _statuses(path: str, method: str, with_values: bool) -> list[int]:
    found = {400, 401, 409, 503, 507}
    if method != "get":
        found |= {403, 413, 415}
    if path in ("/api/session", "/api/account/password") and method == "post":
        found |= {429}
    if "{" in path:
        found |= {404, 422}
    if with_values:
        found |= {422}
    return sorted(found)
