"""The log: the photographer's notes on a field session and its frames.

The annotations are evaluated when the module is read: the store derives its checks from them.
"""

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Annotated

from ..labels import NamedEnum
from .declaring import Fact, Kind

MOST_STARS = 5


class Rated(StrEnum):
    """What is rated by itself, one to five."""

    WATER = "water"
    SHARPNESS = "sharpness"
    LIGHT = "light"
    COMPOSITION = "composition"
    JOY = "joy"


class Outcome(StrEnum):
    OPEN = "open"
    KEEP = "keep"
    MAYBE = "maybe"
    DROP = "drop"


class WentWrong(NamedEnum):
    """The short list of what goes wrong (common practice)."""

    LATE = "late"
    CLOUD = "cloud"
    WIND = "wind"
    SHAKE = "shake"
    FOCUS = "focus"
    CLIPPED = "clipped"
    DARK = "dark"
    WATER = "water"
    TIDE = "tide"
    FORGOTTEN = "forgotten"
    PEOPLE = "people"
    FILTER = "filter"


@dataclass(frozen=True)
class LogWords:
    """Notes on a field session.

    ratings: stars, None where not rated. wind_mps, cloud_share, temperature_c, water_m: conditions found.
    """

    name: Annotated[str, Fact(Kind.NAME, label="name")]
    taken_at_utc: Annotated[datetime, Fact(label="when it was taken")]
    words: Annotated[str, Fact(Kind.NOTE, label="words")] = ""
    outcome: Annotated[Outcome, Fact(label="keeper")] = Outcome.OPEN
    water_stars: Annotated[int | None, Fact(Kind.COUNT, 1, MOST_STARS, label="rating of the water")] = None
    sharpness_stars: Annotated[int | None, Fact(Kind.COUNT, 1, MOST_STARS, label="rating of sharpness")] = None
    light_stars: Annotated[int | None, Fact(Kind.COUNT, 1, MOST_STARS, label="rating of the light")] = None
    composition_stars: Annotated[int | None, Fact(Kind.COUNT, 1, MOST_STARS, label="rating of the composition")] = None
    joy_stars: Annotated[int | None, Fact(Kind.COUNT, 1, MOST_STARS, label="joy")] = None
    wind_mps: Annotated[float | None, Fact(Kind.SPEED, 0.0, 90.0, label="wind")] = None
    cloud_share: Annotated[float | None, Fact(Kind.SHARE, 0.0, 1.0, label="cloud")] = None
    temperature_c: Annotated[float | None, Fact(Kind.NUMBER, -70.0, 60.0, label="temperature")] = None
    water_m: Annotated[float | None, Fact(Kind.LENGTH_M, -100.0, 100.0, label="water level")] = None
    archived: Annotated[bool, Fact(label="archive")] = False


ASPECT_FIELDS = {aspect: f"{aspect}_stars" for aspect in Rated}
