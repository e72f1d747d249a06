"""How the notebook is listed."""

from __future__ import annotations

from enum import StrEnum


class NotebookOrder(StrEnum):
    """How the notebook is put in order and grouped."""

    NEXT = "what comes next"
    PLACE = "place"
    OUTING = "outing"
    STATE = "state"
