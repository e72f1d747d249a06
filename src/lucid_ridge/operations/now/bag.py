"""What answers begin with: the bag's body, lenses and filters."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from ...core.facts.kit import Body as KnownBody
from ...core.facts.kit import Lens as KnownLens
from ...core.facts.settings import settings_of
from ...core.now.formats import body_of
from ...store.kit import Body, Filter, Lens
from ..kit.from_rows import known_body, known_lens
from ..kit.pieces import all_of
from ..platform.errors import Refused, refused_at
from ..platform.rows import owned
from ..shots.facts import shot_facts
from ..shots.shots import get_shot

# From this magnification on a lens is taken to be meant for close-ups.
_CLOSE_UP_FROM = 0.5
# ND1000 is sold as ten stops.
_SAME_STOPS = 0.1


@dataclass(frozen=True)
class Bag:
    """Bodies, lenses, and the filters that lengthen an exposure, in the order of their rows."""

    bodies: Sequence[Body]
    lenses: Sequence[Lens]
    filters: Sequence[Filter]

    @property
    def close_up_lens(self) -> Lens | None:
        """The lens that magnifies most, if any is meant for close-ups."""
        able = [lens for lens in self.lenses if (lens.max_magnification or 0.0) >= _CLOSE_UP_FROM]
        return max(able, key=lambda lens: lens.max_magnification or 0.0, default=None)

    @property
    def widest_lens(self) -> Lens | None:
        """The lens with the shortest focal length."""
        return min(self.lenses, key=lambda lens: lens.focal_min_mm, default=None)


def lens_fitting(bag: Bag, focal_mm: float | None, f_number: float | None, magnification: float | None) -> int | None:
    """Return the id of the bag's lens that can be set so, a prime before a zoom; None if there is none."""
    if magnification is not None:
        return bag.close_up_lens.id if bag.close_up_lens is not None else None
    known = [known_lens(lens) for lens in bag.lenses]
    fits = [
        lens
        for lens in known
        if (focal_mm is None or lens.takes_focal(focal_mm))
        and (f_number is None or lens.takes_aperture(f_number, focal_mm or lens.focal_min_mm))
    ]
    return min(fits, key=lambda lens: (lens.focal_max_mm - lens.focal_min_mm, lens.id)).id if fits else None


def filters_meant(bag: Bag, stops: Sequence[float]) -> list[Filter]:
    """Return the bag's filters that cost as many stops as were typed, one for each; all of them or none."""
    left, found = list(bag.filters), []
    for wanted in stops:
        item = min(left, key=lambda piece: abs(piece.stops - wanted), default=None)
        if item is None or abs(item.stops - wanted) > _SAME_STOPS:
            return []
        left.remove(item)
        found.append(item)
    return found


def bag_of(session: Session, owner_id: int) -> Bag:
    """Return the owner's kit as far as answers use it."""
    filters = [item for item in all_of(session, owner_id, Filter) if not item.kind.graduates]
    return Bag(all_of(session, owner_id, Body), all_of(session, owner_id, Lens), filters)


def body_for(session: Session, owner_id: int, body_id: int | None, sensor: str) -> KnownBody:
    """Return a body of the bag, or one of a format where body_id is None. Raises Refused and InputError."""
    if body_id is None:
        return body_of(sensor)
    with refused_at("body_id"):
        return known_body(owned(session, owner_id, Body, body_id))


def set_to(session: Session, owner_id: int, shot_id: int) -> tuple[float, float]:
    """Return the aperture and the ISO that a shot is set to. Raises Refused for one that is not there, or has no body
    or lens.
    """
    with refused_at("shot_id"):
        settings = settings_of(shot_facts(session, get_shot(session, owner_id, shot_id)))
    if settings is None:
        raise Refused("shot_id", "Choose a body and a lens in that shot first.")
    return settings.f_number, settings.iso


def lens_for(session: Session, owner_id: int, lens_id: int | None) -> KnownLens | None:
    """Return a lens of the bag; None without an id. Raises Refused."""
    if lens_id is None:
        return None
    with refused_at("lens_id"):
        return known_lens(owned(session, owner_id, Lens, lens_id))
