"""Schemas that several subjects share."""

from __future__ import annotations

from collections.abc import Sequence

from ...operations.platform.usage import Use
from .fields import In, Name, Out


class ShotRefOut(Out):
    """A shot that uses a row."""

    id: int
    name: str


class FileQuery(In):
    """The name of the uploaded file; its extension gives the type."""

    file_name: Name


class MarkingOut(Out):
    value: float
    label: str


def present_uses(uses: Sequence[Use]) -> list[ShotRefOut]:
    return [ShotRefOut.model_validate(use) for use in uses]
