"""Outings and their stops."""

from __future__ import annotations

from datetime import date, time

from sqlalchemy import ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..core.facts import outing as core
from .base import Base, Journaled
from .declared import Choice, checks_of
from .places import Location
from .shots import Shot
from .versioned import Versioned


class Outing(Base, Journaled):
    """An outing. packed: keys ticked on its packing list; own_items: items the photographer added."""

    __tablename__ = "outing"
    __table_args__ = (*checks_of(core.Outing),)

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    date_local: Mapped[date]
    days: Mapped[int] = mapped_column(default=1)
    leave_clock: Mapped[time | None]
    back_clock: Mapped[time | None]
    most_walk_m: Mapped[float | None]
    stop_order: Mapped[core.StopOrder] = mapped_column(Choice(core.StopOrder), default=core.StopOrder.CHOSEN)
    late_min: Mapped[float] = mapped_column(default=0.0)
    nights: Mapped[core.Nights] = mapped_column(Choice(core.Nights), default=core.Nights.HOME, server_default="home")
    night_h: Mapped[float] = mapped_column(default=6.0, server_default="6")
    base_name: Mapped[str] = mapped_column(Text, default="", server_default="")
    base_evening_min: Mapped[float] = mapped_column(default=20.0, server_default="20")
    base_morning_min: Mapped[float] = mapped_column(default=20.0, server_default="20")
    contact: Mapped[str] = mapped_column(Text, default="")
    note: Mapped[str] = mapped_column(Text, default="")
    packed: Mapped[list[str]] = mapped_column(Versioned(list[str]), default=list)
    own_items: Mapped[list[str]] = mapped_column(Versioned(list[str]), default=list)

    stops: Mapped[list[OutingStop]] = relationship(
        cascade="all, delete-orphan", order_by="OutingStop.position, OutingStop.id", lazy="selectin"
    )


class OutingStop(Base, Journaled):
    """A stop of an outing: a shot, a place to scout, or a rest. position: in the list."""

    __tablename__ = "outing_stop"
    __table_args__ = (*checks_of(core.OutingStop),)

    id: Mapped[int] = mapped_column(primary_key=True)
    outing_id: Mapped[int] = mapped_column(ForeignKey("outing.id", ondelete="CASCADE"), index=True)
    position: Mapped[int]
    shot_id: Mapped[int | None] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), index=True)
    location_id: Mapped[int | None] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), index=True)
    kind: Mapped[core.StopKind] = mapped_column(Choice(core.StopKind), default=core.StopKind.SHOT)
    note: Mapped[str] = mapped_column(Text, default="")
    minutes: Mapped[float | None]
    leg_min: Mapped[float | None]
    worth: Mapped[float] = mapped_column(default=1.0)
    after_clock: Mapped[time | None]
    before_clock: Mapped[time | None]
    done: Mapped[bool] = mapped_column(default=False)

    shot: Mapped[Shot | None] = relationship(lazy="joined")
    location: Mapped[Location | None] = relationship(lazy="joined")
