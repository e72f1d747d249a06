"""The type of rows that are handled without their class: by merges, the journal and older schemas."""

from __future__ import annotations

from typing import Any

# A row of some table, by column name. The table's columns check the values.
Row = dict[str, Any]
