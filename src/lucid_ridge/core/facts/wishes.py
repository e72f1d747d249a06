"""What a photographer will have of a plan, and what may give way: the wishes that the solver weighs.

The annotations are evaluated as the module is read: the store derives its columns from them.
"""

from dataclasses import dataclass
from typing import Annotated

from ..labels import NamedEnum
from .declaring import Fact, Kind


class Stake(NamedEnum):
    """must: a limit; the others count by their weight, and free not at all."""

    MUST = "must"
    STRONG = "strong"
    WISH = "wish"
    FREE = "free"


STAKE_WEIGHTS: dict[Stake, float] = {Stake.STRONG: 4.0, Stake.WISH: 1.5, Stake.FREE: 0.0}


class Leaning(NamedEnum):
    """A school: which costs of a plan weigh how much."""

    EVEN = "even"
    FEW = "few_frames"
    SHARP = "sharp"
    CLEAN = "clean"
    QUICK = "quick"


@dataclass(frozen=True)
class WishChoices:
    """most_iso, most_frames, most_min: None where nothing is said, and nothing judged.

    keep_*: whether what the shot says now is kept; within_min: by how many minutes the start may move where it need
    not be kept.
    """

    leaning: Annotated[Leaning, Fact(label="preference")] = Leaning.EVEN
    sharp_stake: Annotated[Stake, Fact(label="sharpness")] = Stake.MUST
    motion_stake: Annotated[Stake, Fact(label="how things move")] = Stake.MUST
    range_stake: Annotated[Stake, Fact(label="highlights and shadows")] = Stake.MUST
    most_iso: Annotated[float | None, Fact(Kind.ISO, 1.0, 1e7, label="highest ISO")] = None
    noise_stake: Annotated[Stake, Fact(label="noise")] = Stake.MUST
    most_frames: Annotated[int | None, Fact(Kind.COUNT, 1, 2000, label="most frames")] = None
    frames_stake: Annotated[Stake, Fact(label="number of frames")] = Stake.MUST
    most_min: Annotated[float | None, Fact(Kind.MINUTES, 0.0, 1440.0, above=True, label="most minutes")] = None
    minutes_stake: Annotated[Stake, Fact(label="time taken")] = Stake.MUST
    light_stake: Annotated[Stake, Fact(label="done in the light")] = Stake.MUST
    keep_aperture: Annotated[Stake, Fact(label="keeping the aperture")] = Stake.FREE
    keep_iso: Annotated[Stake, Fact(label="keeping the ISO")] = Stake.FREE
    keep_filters: Annotated[Stake, Fact(label="keeping the filters")] = Stake.FREE
    keep_hold: Annotated[Stake, Fact(label="keeping how it is held")] = Stake.MUST
    keep_start: Annotated[Stake, Fact(label="keeping the start")] = Stake.MUST
    within_min: Annotated[float, Fact(Kind.MINUTES, 1.0, 180.0, label="by how much the start may move")] = 30.0
