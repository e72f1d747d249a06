"""Tidying the OpenAPI document: every nested model once, under its own name."""

from __future__ import annotations

import json
from typing import Any

PREFIX = "#/components/schemas/"


def flatten_schemas(spec: dict[str, Any]) -> dict[str, Any]:
    """Return the document with Parent.Child schemas renamed to Child, which all parents share."""
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
