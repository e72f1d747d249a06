"""The types of what JSON can hold."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TypeAlias

JsonValue: TypeAlias = "str | int | float | bool | Sequence[JsonValue] | Mapping[str, JsonValue] | None"
JsonObject: TypeAlias = Mapping[str, JsonValue]
