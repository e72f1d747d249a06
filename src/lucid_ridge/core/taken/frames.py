"""A taken frame, from its file or a tick, and a planned frame."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class Shown:
    """What a file says of itself.

    clock: as the camera's clock stood, without a zone, when the shutter opened. None: the file does not say.
    """

    name: str
    clock: datetime
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None
    focal_mm: float | None = None


@dataclass(frozen=True)
class Expected:
    """A frame that was to be taken.

    at_utc: when its shutter opened or was to open; within_s: about how far off that may be (a standard deviation).
    ticked: whether someone said that it was taken.
    """

    key: str
    at_utc: datetime
    within_s: float
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None
    focal_mm: float | None = None
    ticked: bool = False
