"""Interface of a camera to the application: it takes a frame with given settings, or says why it cannot.

A driver of a real camera would implement it.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Protocol

from ..labels import NamedEnum


@dataclass(frozen=True)
class FrameOrder:
    """A frame to take.

    focus_m: from the lens. filter_ids: on the lens. held: by hand or in a boat. key: of the planned frame; None of an
    extra one.
    """

    f_number: float
    shutter_s: float
    iso: float
    focal_mm: float
    focus_m: float
    filter_ids: frozenset[int] = frozenset()
    held: bool = False
    key: str | None = None


@dataclass(frozen=True)
class TakenFile:
    """content: as the camera wrote it. clock: of the camera, without a zone."""

    name: str
    content: bytes
    clock: datetime


class FailureKind(NamedEnum):
    CARD_FULL = "card_full"
    BATTERY = "battery_empty"
    CANNOT = "cannot_be_set"
    BUSY = "busy"


class CameraFailure(Exception):
    """Why a frame was not taken. message: for the photographer."""

    def __init__(self, kind: FailureKind, message: str) -> None:
        super().__init__(message)
        self.kind, self.message = kind, message


class Camera(Protocol):
    """Takes a frame that opens at an instant and returns its files. Raises CameraFailure."""

    def take(self, order: FrameOrder, at_utc: datetime) -> list[TakenFile]: ...
