"""Shots: the photographer's choices for one composition. NULL means not said; the core then chooses or says what is missing."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from sqlalchemy import DateTime, ForeignKey, LargeBinary, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..core.exposure.motion import LOOK_NAMES
from ..core.framing.crop import ASPECT_NAMES
from ..core.framing.projection import LENGTHWISE, UPRIGHT
from ..core.framing.reading import GUIDES
from ..core.light.kinds import KIND_NAMES
from ..core.planning.facts import BRACKET_MODES, COC_CRITERIA, DEPTH_METHODS, FOCUS_SCHOOLS
from .base import Base, Journaled
from .checks import above, between, not_blank, one_of
from .kit import Body, Lens, Support
from .places import Viewpoint


class Shot(Base, Journaled):
    __tablename__ = "shot"
    __table_args__ = (
        not_blank(),
        between("focal_mm", 1.0, 3000.0),
        one_of("orientation", (LENGTHWISE, UPRIGHT)),
        between("bearing_deg", 0.0, 360.0),
        between("pitch_deg", -90.0, 90.0),
        between("camera_height_m", 0.0, 100.0),
        between("camera_east_m", -1000.0, 1000.0),
        between("camera_north_m", -1000.0, 1000.0),
        one_of("guide", tuple(GUIDES)),
        between("roll_deg", -45.0, 45.0),
        one_of("crop_aspect", ASPECT_NAMES),
        between("crop_focal_mm", 1.0, 6000.0),
        between("crop_ratio", 0.1, 10.0),
        between("crop_x", 0.0, 1.0),
        between("crop_y", 0.0, 1.0),
        between("pano_across_deg", 1.0, 360.0),
        between("pano_upwards_deg", 1.0, 170.0),
        between("pano_overlap", 0.0, 0.89),
        between("pano_pivot_mm", 0.0, 1000.0),
        above("near_m", 0.0, 1e6),
        above("far_m", 0.0, 1e6),
        above("magnification", 0.0, 20.0),
        above("subject_depth_mm", 0.0, 10000.0),
        one_of("coc_criterion", COC_CRITERIA),
        between("coc_custom_mm", 0.001, 1.0),
        between("print_width_mm", 10.0, 20000.0),
        between("viewing_distance_mm", 10.0, 100000.0),
        between("f_number", 0.5, 128.0),
        one_of("focus_school", FOCUS_SCHOOLS),
        one_of("depth_method", DEPTH_METHODS),
        between("overlap", 0.0, 0.89),
        between("metered_f_number", 0.5, 128.0),
        above("metered_shutter_s", 0.0, 86400.0),
        between("metered_iso", 1.0, 1e7),
        between("shadow_ev", -15.0, 25.0),
        between("highlight_ev", -15.0, 25.0),
        between("highlight_margin_ev", 0.0, 3.0),
        between("compensation_ev", -10.0, 10.0),
        between("iso", 1.0, 1e7),
        above("wanted_shutter_s", 0.0, 86400.0),
        one_of("wanted_look", LOOK_NAMES),
        one_of("bracket", BRACKET_MODES),
        one_of("wanted_light", KIND_NAMES),
        between("water_low_m", -100.0, 100.0),
        between("water_high_m", -100.0, 100.0),
        above("bracket_step_ev", 0.0, 10.0),
        between("timer_s", 0.0, 600.0),
        between("settle_s", 0.0, 600.0),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    intent: Mapped[str] = mapped_column(Text, default="")
    viewpoint_id: Mapped[int | None] = mapped_column(ForeignKey("viewpoint.id", ondelete="SET NULL"), index=True)
    body_id: Mapped[int | None] = mapped_column(ForeignKey("body.id", ondelete="SET NULL"), index=True)
    lens_id: Mapped[int | None] = mapped_column(ForeignKey("lens.id", ondelete="SET NULL"), index=True)
    date_local: Mapped[date | None]
    time_utc: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    window_end_utc: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    wanted_light: Mapped[str | None] = mapped_column(Text)
    water_low_m: Mapped[float | None]
    water_high_m: Mapped[float | None]
    water_element_id: Mapped[int | None] = mapped_column(ForeignKey("element.id", ondelete="SET NULL"))
    support_id: Mapped[int | None] = mapped_column(ForeignKey("support.id", ondelete="SET NULL"), index=True)
    focal_mm: Mapped[float | None]
    orientation: Mapped[str] = mapped_column(Text, default=LENGTHWISE)
    bearing_deg: Mapped[float | None]
    pitch_deg: Mapped[float] = mapped_column(default=0.0)
    roll_deg: Mapped[float] = mapped_column(default=0.0, server_default="0")
    camera_height_m: Mapped[float | None]
    camera_east_m: Mapped[float] = mapped_column(default=0.0, server_default="0")
    camera_north_m: Mapped[float] = mapped_column(default=0.0, server_default="0")
    crop_aspect: Mapped[str | None] = mapped_column(Text)
    crop_focal_mm: Mapped[float | None]
    crop_ratio: Mapped[float | None]
    crop_x: Mapped[float] = mapped_column(default=0.5, server_default="0.5")
    crop_y: Mapped[float] = mapped_column(default=0.5, server_default="0.5")
    pano_across_deg: Mapped[float | None]
    pano_upwards_deg: Mapped[float | None]
    pano_overlap: Mapped[float] = mapped_column(default=1 / 3, server_default="0.3333333333333333")
    pano_pivot_mm: Mapped[float] = mapped_column(default=0.0, server_default="0")
    hood_on: Mapped[bool] = mapped_column(default=False, server_default="false")
    guide: Mapped[str] = mapped_column(Text, default="thirds", server_default="thirds")
    muted_readings: Mapped[list[str]] = mapped_column(JSONB, default=list, server_default="[]")
    near_m: Mapped[float | None]
    far_m: Mapped[float | None]
    far_infinite: Mapped[bool] = mapped_column(default=False)
    magnification: Mapped[float | None]
    subject_depth_mm: Mapped[float | None]
    coc_criterion: Mapped[str] = mapped_column(Text, default="handbook")
    coc_custom_mm: Mapped[float | None]
    print_width_mm: Mapped[float] = mapped_column(default=600.0)
    viewing_distance_mm: Mapped[float] = mapped_column(default=600.0)
    f_number: Mapped[float | None]
    focus_school: Mapped[str] = mapped_column(Text, default="balanced")
    subject_element_id: Mapped[int | None] = mapped_column(ForeignKey("element.id", ondelete="SET NULL"))
    depth_method: Mapped[str] = mapped_column(Text, default="auto")
    overlap: Mapped[float] = mapped_column(default=0.2)
    metered_f_number: Mapped[float | None]
    metered_shutter_s: Mapped[float | None]
    metered_iso: Mapped[float | None]
    metered_through_lens: Mapped[bool] = mapped_column(default=True)
    shadow_ev: Mapped[float | None]
    highlight_ev: Mapped[float | None]
    highlight_margin_ev: Mapped[float] = mapped_column(default=0.0)
    compensation_ev: Mapped[float] = mapped_column(default=0.0)
    iso: Mapped[float | None]
    follow_fading: Mapped[bool] = mapped_column(default=False)
    wanted_shutter_s: Mapped[float | None]
    wanted_look: Mapped[str | None] = mapped_column(Text)
    moving_element_id: Mapped[int | None] = mapped_column(ForeignKey("element.id", ondelete="SET NULL"))
    bracket: Mapped[str] = mapped_column(Text, default="none")
    bracket_step_ev: Mapped[float] = mapped_column(default=2.0)
    timer_s: Mapped[float] = mapped_column(default=2.0)
    settle_s: Mapped[float] = mapped_column(default=5.0)

    # Fetched in the same query: every plan needs them.
    viewpoint: Mapped[Viewpoint | None] = relationship(lazy="joined")
    body: Mapped[Body | None] = relationship(lazy="joined")
    lens: Mapped[Lens | None] = relationship(lazy="joined")
    support: Mapped[Support | None] = relationship(lazy="joined")
    sharp: Mapped[list[ShotSharpElement]] = relationship(cascade="all, delete-orphan", order_by="ShotSharpElement.element_id")
    filters: Mapped[list[ShotFilter]] = relationship(cascade="all, delete-orphan", order_by="ShotFilter.filter_id")
    framings: Mapped[list[Framing]] = relationship(cascade="all, delete-orphan", order_by="Framing.id")
    cards: Mapped[list[FieldCard]] = relationship(cascade="all, delete-orphan", order_by="FieldCard.id")


class ShotSharpElement(Base, Journaled):
    """An element that must be sharp in a shot."""

    __tablename__ = "shot_sharp_element"

    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), primary_key=True)
    element_id: Mapped[int] = mapped_column(ForeignKey("element.id", ondelete="CASCADE"), primary_key=True, index=True)


class ShotFilter(Base, Journaled):
    """What a shot does with a filter of the bag; a row stands for on the lens now, on when metered, or both."""

    __tablename__ = "shot_filter"

    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), primary_key=True)
    filter_id: Mapped[int] = mapped_column(ForeignKey("filter.id", ondelete="CASCADE"), primary_key=True, index=True)
    on_lens: Mapped[bool] = mapped_column(default=True)
    on_when_metered: Mapped[bool] = mapped_column(default=False)


class Framing(Base, Journaled):
    """A framing of a shot that is kept beside others. choices: the shot's own values by name, as they were."""

    __tablename__ = "framing"
    __table_args__ = (not_blank(),)

    id: Mapped[int] = mapped_column(primary_key=True)
    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    made_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    choices: Mapped[dict[str, Any]] = mapped_column(JSONB)


class Backdrop(Base):
    """A photograph behind a shot's finder, at most one; too large to be journaled. content: a JPEG as it is shown.

    focal_mm, sensor_*: of the camera that took it, as its EXIF or the photographer says; bearing, pitch: where that camera aimed.
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
    content: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)


class FieldCard(Base, Journaled):
    """A plan as it was when its card was made; it never changes. inputs_hash tells whether the plan has moved on since."""

    __tablename__ = "field_card"

    id: Mapped[int] = mapped_column(primary_key=True)
    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), index=True)
    made_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    version: Mapped[int] = mapped_column(default=1)
    inputs_hash: Mapped[str] = mapped_column(Text)
    content: Mapped[dict[str, Any]] = mapped_column(JSONB)
