"""All kinds of picture, in the order in which they are offered."""

from __future__ import annotations

from ..errors import InputError
from .kinds import (
    flower_on_a_rail,
    from_above,
    insect_by_hand,
    lichen,
    long_ridges,
    near_and_far,
    night_sky,
    seascape_sunrise,
    seascape_sunset,
    water_in_a_wood,
)
from .picture_kind import PictureKind

KINDS: tuple[PictureKind, ...] = (
    seascape_sunset.KIND,
    seascape_sunrise.KIND,
    water_in_a_wood.KIND,
    near_and_far.KIND,
    long_ridges.KIND,
    flower_on_a_rail.KIND,
    insect_by_hand.KIND,
    lichen.KIND,
    night_sky.KIND,
    from_above.KIND,
)


def kind_of(key: str) -> PictureKind:
    """Return the kind of picture of that key. Raises InputError for another."""
    found = next((kind for kind in KINDS if kind.key == key), None)
    if found is None:
        raise InputError("kind", f"“{key}” is no kind of picture: {', '.join(kind.key for kind in KINDS)}.")
    return found
