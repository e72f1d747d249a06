"""The frames of a shot: their pictures, and the blend sheet."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from ...core.planning.plan.shot_plan import plan_shot
from ...core.planning.sequence.blend_sheet import BlendSheet, blend_sheet
from ...core.planning.sequence.timeline import Frame
from ...core.planning.tones.frame_pictures import FramePicture, frame_pictures
from .facts import shot_facts
from .shots import get_shot


@dataclass(frozen=True)
class SheetOfShot:
    name: str
    sheet: BlendSheet
    frames: tuple[Frame, ...]


def sheet_for(session: Session, owner_id: int, shot_id: int) -> SheetOfShot:
    """Return a shot's current blend sheet. Raises NotFound."""
    row = get_shot(session, owner_id, shot_id)
    step = plan_shot(shot_facts(session, row)).sequence
    return SheetOfShot(row.name, blend_sheet(step), step.frames)


def pictures_for(session: Session, owner_id: int, shot_id: int) -> tuple[FramePicture, ...]:
    """Return the pictures of a shot's frames. Raises NotFound."""
    facts = shot_facts(session, get_shot(session, owner_id, shot_id))
    return frame_pictures(facts, plan_shot(facts))
