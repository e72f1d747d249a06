"""How the notebook is listed."""

from __future__ import annotations

from ..labels import NamedEnum


class NotebookOrder(NamedEnum):
    """How the notebook is put in order and grouped."""

    NEXT = "next"
    PLACE = "place"
    OUTING = "outing"
    STATE = "state"
