"""Data an edit is validated against: time zone, elements and kit. Cached with the shot's context."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from ...core.facts import kit, place
from ...core.facts.accessory import Accessory
from ...store.shots import Shot
from ..kit.from_rows import known_accessory, known_body, known_lens
from ..platform.shot_context import cached_context
from .facts import elements_of


@dataclass(frozen=True)
class UsedKit:
    """Body, lens and close-up rig of a shot."""

    body: kit.Body | None
    lens: kit.Lens | None
    accessories: tuple[Accessory, ...]


def zone_of(session: Session, shot: Shot) -> str | None:
    """Return the time zone of a shot's place; None without a place."""
    return cached_context(session, shot.id, "zone", lambda: shot.viewpoint.location.zone if shot.viewpoint else None)


def known_elements(session: Session, shot: Shot) -> dict[int, place.Element]:
    """Return the elements of a shot's viewpoint, by id."""

    def read() -> dict[int, place.Element]:
        return {item.id: item for item in elements_of(shot.viewpoint)} if shot.viewpoint else {}

    return cached_context(session, shot.id, "elements", read)


def used_kit(session: Session, shot: Shot) -> UsedKit:
    """Return the kit of a shot."""

    def read() -> UsedKit:
        return UsedKit(
            known_body(shot.body) if shot.body else None,
            known_lens(shot.lens) if shot.lens else None,
            tuple(known_accessory(use.accessory) for use in shot.rig),
        )

    return cached_context(session, shot.id, "kit", read)
