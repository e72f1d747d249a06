"""The photograph behind a shot's finder.

Too large for the journal, so removing it is final and needs a confirmation.
"""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from sqlalchemy.orm import Session

from ...core.facts.settings import settings_of
from ...formats.photo import read_photo
from ...store.shots import Backdrop, Shot
from ..platform.errors import NotFound, Refused
from ..platform.rows import assign, owned
from .facts import shot_facts


def backdrop_of(session: Session, owner_id: int, shot_id: int) -> Backdrop | None:
    """Return a shot's backdrop without its picture; None if it has none."""
    return session.get(Backdrop, owned(session, owner_id, Shot, shot_id).id)


def keep_backdrop(
    session: Session, owner_id: int, shot_id: int, file_name: str, content: bytes, now_utc: datetime
) -> Backdrop:
    """Store a photograph as a shot's backdrop, with the shot's current aim.

    Raises FormatError, Refused without a body.
    """
    shot = owned(session, owner_id, Shot, shot_id)
    facts = shot_facts(session, shot)
    settings = settings_of(facts)
    if settings is None or facts.body is None:
        raise Refused("body_id", "A backdrop needs a body and a lens first.")
    photo = read_photo(content)
    focal, source = photo.focal_mm, photo.source
    if focal is None:
        focal, source = settings.focal_mm, "no EXIF: taken as the shot's own focal length; type the true one"
    width, height = photo.sensor_width_mm, photo.sensor_height_mm
    if width is None or height is None:
        long = max(facts.body.sensor_width_mm, facts.body.sensor_height_mm)
        width, height = (
            (long, long * photo.pixels_high / photo.pixels_wide)
            if photo.pixels_wide >= photo.pixels_high
            else (long * photo.pixels_wide / photo.pixels_high, long)
        )
    row = session.get(Backdrop, shot.id) or Backdrop(shot_id=shot.id, opacity=0.6)
    assign(
        row,
        {
            "name": file_name.strip() or "photograph",
            "pixels_wide": photo.pixels_wide,
            "pixels_high": photo.pixels_high,
            "focal_mm": focal,
            "focal_source": source,
            "sensor_width_mm": width,
            "sensor_height_mm": height,
            "bearing_deg": settings.bearing_deg % 360,
            "pitch_deg": facts.frame.pitch_deg,
            "kept_at_utc": now_utc,
            "content": photo.content,
        },
    )
    session.add(row)
    session.flush()
    return row


def edit_backdrop(session: Session, owner_id: int, shot_id: int, changes: Mapping[str, object]) -> Backdrop:
    """Edit the aim, focal length or opacity of the photograph."""
    row = _kept(session, owner_id, shot_id)
    if "focal_mm" in changes:
        changes = {**changes, "focal_source": "typed"}
    assign(row, changes)
    session.flush()
    return row


def drop_backdrop(session: Session, owner_id: int, shot_id: int) -> None:
    """Remove a shot's backdrop."""
    session.delete(_kept(session, owner_id, shot_id))
    session.flush()


def _kept(session: Session, owner_id: int, shot_id: int) -> Backdrop:
    row = backdrop_of(session, owner_id, shot_id)
    if row is None:
        raise NotFound("backdrop")
    return row
