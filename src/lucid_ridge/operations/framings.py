"""Framings of a shot kept side by side, and the way one walked to the present one."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.planning import facts as core
from ..core.planning.depth import plan_depth
from ..core.planning.facts import ShotFacts
from ..core.planning.frame import FrameStep, plan_frame
from ..core.planning.light import plan_light
from ..store.journal import JournalEntry
from ..store.kit import Body, Lens
from ..store.shots import Framing, Shot
from .errors import NotFound, Refused
from .facts import copy_of, shot_facts
from .journal import delete_with_references, journaled
from .rows import LARGEST_ID, owned
from .shots import edit_shot, shot_scope

MOST_KEPT, MOST_STEPS = 12, 14
# Edits of a shot that are looked through for those of its framing.
_LOOKED_THROUGH = 150
# What makes a framing: the shot's own columns.
FRAMED = (
    "body_id", "lens_id", "focal_mm", "orientation", "bearing_deg", "pitch_deg", "roll_deg", "camera_height_m", "camera_east_m", "camera_north_m",
    "crop_aspect", "crop_focal_mm", "crop_ratio", "crop_x", "crop_y", "pano_across_deg", "pano_upwards_deg",
)  # fmt: skip


@dataclass(frozen=True)
class SeenFraming:
    """A framing as it looks. id None: a step of the walk-through. label: its name, or what was changed to come to it."""

    id: int | None
    label: str
    made_at_utc: datetime
    choices: dict[str, Any]
    facts: ShotFacts
    frame: FrameStep
    now: bool


def choices_of(shot: Shot) -> dict[str, Any]:
    """Return what makes a shot's framing as it stands."""
    return {name: getattr(shot, name) for name in FRAMED}


def kept_framings(session: Session, owner_id: int, shot_id: int) -> list[SeenFraming]:
    """Return the framings kept of a shot, in the order they were kept, each with the plan it makes with the shot's other facts as they are now."""
    shot = owned(session, owner_id, Shot, shot_id)
    see = _Seer(session, owner_id, shot)
    return [see(row.id, row.name, row.made_at_utc, row.choices) for row in shot.framings]


def keep_framing(session: Session, owner_id: int, shot_id: int, name: str) -> Framing:
    """Keep the shot's framing as it stands. Raises Refused when there are too many, or the name is taken."""
    shot = owned(session, owner_id, Shot, shot_id)
    if len(shot.framings) >= MOST_KEPT:
        raise Refused("name", f"{MOST_KEPT} framings are kept already: let one go first.")
    if any(row.name == name for row in shot.framings):
        raise Refused("name", f"A framing named “{name}” is kept already.")
    with journaled(session, owner_id, shot_scope(shot.id), f"keep framing {name}"):
        row = Framing(name=name, made_at_utc=datetime.now(UTC), choices=choices_of(shot))
        shot.framings.append(row)
    return row


def take_framing(session: Session, owner_id: int, framing_id: int) -> Shot:
    """Give a shot the choices of one of its kept framings."""
    row = _framing(session, owner_id, framing_id)
    return take_choices(session, owner_id, row.shot_id, row.choices)


def take_choices(session: Session, owner_id: int, shot_id: int, choices: Mapping[str, Any]) -> Shot:
    """Give a shot the choices of a framing; kit that has since been deleted is left as it is."""
    known = {name: value for name, value in choices.items() if name in FRAMED}
    for name, kind in (("body_id", Body), ("lens_id", Lens)):
        if known.get(name) is not None and not _has(session, owner_id, kind, known[name]):
            del known[name]
    return edit_shot(session, owner_id, shot_id, known)


def drop_framing(session: Session, owner_id: int, framing_id: int) -> None:
    """Let a kept framing go; undo brings it back."""
    row = _framing(session, owner_id, framing_id)
    with journaled(session, owner_id, shot_scope(row.shot_id), f"let go framing {row.name}"):
        delete_with_references(session, row)


def walk_through(session: Session, owner_id: int, shot_id: int) -> list[SeenFraming]:
    """Return the framings that the shot went through, newest first, read from the journal of its edits."""
    shot = owned(session, owner_id, Shot, shot_id)
    see, now = _Seer(session, owner_id, shot), choices_of(shot)
    query = (
        select(JournalEntry)
        .where(JournalEntry.owner_id == owner_id, JournalEntry.scope == shot_scope(shot.id), ~JournalEntry.undone)
        .order_by(JournalEntry.id.desc())
        .limit(_LOOKED_THROUGH)
    )
    steps: list[SeenFraming] = []
    last: dict[str, Any] | None = None
    for entry in session.scalars(query):
        for change in entry.changes[::-1]:
            row = change["after"]
            if change["table"] != Shot.__tablename__ or row is None or change["before"] is None:
                continue
            choices = {name: row.get(name, now[name]) for name in FRAMED}
            before = {name: change["before"].get(name, now[name]) for name in FRAMED}
            if choices in (before, last):
                continue
            last = choices
            steps.append(see(None, entry.label.removeprefix("change "), entry.made_at_utc, choices))
            if len(steps) == MOST_STEPS:
                return steps
    return steps


class _Seer:
    """Sees framings of one shot: its light is the same for all of them."""

    def __init__(self, session: Session, owner_id: int, shot: Shot) -> None:
        self.session, self.owner_id = session, owner_id
        self.facts, self.now = shot_facts(session, shot), choices_of(shot)
        self.light = plan_light(self.facts)

    def __call__(self, row_id: int | None, label: str, made: datetime, choices: Mapping[str, Any]) -> SeenFraming:
        changes = {name: value for name, value in choices.items() if name in FRAMED and name not in ("body_id", "lens_id")}
        body, lens = shot_kit(self.session, self.owner_id, choices)
        framed = replace(self.facts, **changes, body=body or self.facts.body, lens=lens or self.facts.lens)
        frame = plan_frame(framed, plan_depth(framed.seen_from_camera), self.light)
        same = all(choices.get(name) == self.now[name] for name in FRAMED)
        return SeenFraming(row_id, label, made, dict(choices), framed, frame, same)


def shot_kit(session: Session, owner_id: int, choices: Mapping[str, Any]) -> tuple[Any, Any]:
    """Return the core's body and lens that a framing names; None where it names none or they are gone."""
    found: list[Any] = []
    kinds: tuple[tuple[str, Any, Any], ...] = (("body_id", Body, core.Body), ("lens_id", Lens, core.Lens))
    for name, kind, plain in kinds:
        row = session.get(kind, choices[name]) if choices.get(name) else None
        found.append(copy_of(plain, row) if row is not None and row.owner_id == owner_id else None)
    return found[0], found[1]


def _has(session: Session, owner_id: int, kind: Any, row_id: int) -> bool:
    return session.scalars(select(kind.id).where(kind.id == row_id, kind.owner_id == owner_id)).first() is not None


def _framing(session: Session, owner_id: int, framing_id: int) -> Framing:
    query = select(Framing).join(Shot).where(Framing.id == framing_id, Shot.owner_id == owner_id)
    row = session.scalars(query).first() if framing_id <= LARGEST_ID else None
    if row is None:
        raise NotFound("framing")
    return row
