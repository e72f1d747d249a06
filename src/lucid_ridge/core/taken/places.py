"""Where a plan looks for sharpness and light in a picture."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Place:
    """Where in the frame something stands, as shares of its width and height.

    distance_m: from the viewpoint. role: near, subject, far, or empty. moves: by itself.
    """

    name: str
    x: float
    y: float
    distance_m: float
    role: str
    moves: bool = False
