"""Shots: the photographer's choices for one composition.

NULL: not chosen; the core then chooses or reports what is missing.
"""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import DateTime, ForeignKey, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, composite, mapped_column, relationship

from ..core.facts.choices import GROUPS, DepthChoices, ExposureChoices, FrameChoices, LightChoices, SequenceChoices
from ..core.facts.wishes import WishChoices
from .base import Base, Journaled
from .checks import between, not_blank
from .declared import checks_of, columns_of
from .file_store import KeptFile
from .kit import Accessory, Body, Lens, Support
from .places import Viewpoint
from .versioned import Group, Spot, Versioned, Wished


class Shot(Base, Journaled):
    """A shot.

    Its choices are in groups; a group is changed as a whole: shot.depth = replace(shot.depth, f_number=8.0).
    """

    __tablename__ = "shot"
    __table_args__ = (not_blank(), *(check for group in GROUPS.values() for check in checks_of(group)))

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    intent: Mapped[str] = mapped_column(Text, default="")
    viewpoint_id: Mapped[int | None] = mapped_column(ForeignKey("viewpoint.id", ondelete="SET NULL"), index=True)
    body_id: Mapped[int | None] = mapped_column(ForeignKey("body.id", ondelete="SET NULL"), index=True)
    lens_id: Mapped[int | None] = mapped_column(ForeignKey("lens.id", ondelete="SET NULL"), index=True)
    support_id: Mapped[int | None] = mapped_column(ForeignKey("support.id", ondelete="SET NULL"), index=True)
    # Where the light was read; NULL: not known, taken to be the shot's viewpoint.
    read_at_viewpoint_id: Mapped[int | None] = mapped_column(
        ForeignKey("viewpoint.id", ondelete="SET NULL"), index=True
    )
    light: Mapped[LightChoices] = composite(LightChoices, *columns_of(LightChoices))
    frame: Mapped[FrameChoices] = composite(FrameChoices, *columns_of(FrameChoices))
    depth: Mapped[DepthChoices] = composite(DepthChoices, *columns_of(DepthChoices))
    exposure: Mapped[ExposureChoices] = composite(ExposureChoices, *columns_of(ExposureChoices))
    sequence: Mapped[SequenceChoices] = composite(SequenceChoices, *columns_of(SequenceChoices))
    wishes: Mapped[WishChoices] = composite(WishChoices, *columns_of(WishChoices))
    favourite: Mapped[bool] = mapped_column(default=False, server_default="false")
    archived: Mapped[bool] = mapped_column(default=False, server_default="false")
    motion_wishes: Mapped[list[Wished]] = mapped_column(
        Versioned(list[Wished]), default=list, server_default='{"version": 1, "value": []}'
    )
    frame_groups: Mapped[list[Group]] = mapped_column(
        Versioned(list[Group]), default=list, server_default='{"version": 1, "value": []}'
    )
    spots: Mapped[list[Spot]] = mapped_column(
        Versioned(list[Spot]), default=list, server_default='{"version": 1, "value": []}'
    )

    # Loaded in the same query: every plan needs them.
    viewpoint: Mapped[Viewpoint | None] = relationship(lazy="joined", foreign_keys=[viewpoint_id])
    body: Mapped[Body | None] = relationship(lazy="joined")
    lens: Mapped[Lens | None] = relationship(lazy="joined")
    support: Mapped[Support | None] = relationship(lazy="joined")
    sharp: Mapped[list[ShotSharpElement]] = relationship(
        cascade="all, delete-orphan", order_by="ShotSharpElement.element_id"
    )
    filters: Mapped[list[ShotFilter]] = relationship(cascade="all, delete-orphan", order_by="ShotFilter.filter_id")
    rig: Mapped[list[ShotAccessory]] = relationship(cascade="all, delete-orphan", order_by="ShotAccessory.accessory_id")
    framings: Mapped[list[Framing]] = relationship(cascade="all, delete-orphan", order_by="Framing.id")
    cards: Mapped[list[FieldCard]] = relationship(cascade="all, delete-orphan", order_by="FieldCard.id")

    def __init__(self, **values: Any) -> None:
        for group, kind in GROUPS.items():
            values.setdefault(group, kind())
        super().__init__(**values)


class ShotSharpElement(Base, Journaled):
    """An element that must be sharp in a shot."""

    __tablename__ = "shot_sharp_element"

    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), primary_key=True)
    element_id: Mapped[int] = mapped_column(ForeignKey("element.id", ondelete="CASCADE"), primary_key=True, index=True)


class ShotFilter(Base, Journaled):
    """How a shot uses a filter of the bag: on the lens now, on when metered, or both."""

    __tablename__ = "shot_filter"

    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), primary_key=True)
    filter_id: Mapped[int] = mapped_column(ForeignKey("filter.id", ondelete="CASCADE"), primary_key=True, index=True)
    on_lens: Mapped[bool] = mapped_column(default=True)
    on_when_metered: Mapped[bool] = mapped_column(default=False)
    set_stops: Mapped[float | None]


class ShotAccessory(Base, Journaled):
    """An accessory that a shot uses."""

    __tablename__ = "shot_accessory"

    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), primary_key=True)
    accessory_id: Mapped[int] = mapped_column(
        ForeignKey("accessory.id", ondelete="CASCADE"), primary_key=True, index=True
    )

    accessory: Mapped[Accessory] = relationship(lazy="joined")


class Framing(Base, Journaled):
    """A stored framing of a shot. choices: the shot's values by name at that time."""

    __tablename__ = "framing"
    __table_args__ = (not_blank(),)

    id: Mapped[int] = mapped_column(primary_key=True)
    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    made_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    choices: Mapped[dict[str, Any]] = mapped_column(JSONB)


class Backdrop(Base):
    """A photograph behind a shot's finder, at most one; too large for the journal. content: a JPEG for display.

    focal_mm, sensor_*: of its camera, from EXIF or the photographer; bearing, pitch: where that camera aimed.
    """

    __tablename__ = "backdrop"
    __table_args__ = (
        not_blank(),
        between("focal_mm", 1.0, 3000.0),
        between("sensor_width_mm", 1.0, 400.0),
        between("sensor_height_mm", 1.0, 400.0),
        between("bearing_deg", 0.0, 360.0),
        between("pitch_deg", -90.0, 90.0),
        between("opacity", 0.05, 1.0),
    )

    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), primary_key=True)
    name: Mapped[str] = mapped_column(Text)
    pixels_wide: Mapped[int]
    pixels_high: Mapped[int]
    focal_mm: Mapped[float]
    focal_source: Mapped[str] = mapped_column(Text)
    sensor_width_mm: Mapped[float]
    sensor_height_mm: Mapped[float]
    bearing_deg: Mapped[float]
    pitch_deg: Mapped[float]
    opacity: Mapped[float] = mapped_column(default=0.6)
    kept_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    content: Mapped[bytes] = mapped_column(KeptFile, deferred=True)


class FieldCard(Base, Journaled):
    """A plan as it was when the card was made; it never changes. inputs_hash shows whether the plan has changed since.

    outing_id, begins_utc: of a card for an outing, whose plan sets the start.
    """

    __tablename__ = "field_card"

    id: Mapped[int] = mapped_column(primary_key=True)
    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), index=True)
    made_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    version: Mapped[int] = mapped_column(default=1)
    inputs_hash: Mapped[str] = mapped_column(Text)
    content: Mapped[dict[str, Any]] = mapped_column(JSONB)
    outing_id: Mapped[int | None] = mapped_column(ForeignKey("outing.id", ondelete="SET NULL"), index=True)
    begins_utc: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    # The run sheet; cards of earlier versions have none.
    run: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
