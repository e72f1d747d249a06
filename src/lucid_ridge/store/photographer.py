"""The owner of everything."""

from __future__ import annotations

from enum import StrEnum

from sqlalchemy import BigInteger, Text, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from ..core.units.spelling import DayOrder, DialSteps, Hours, Lengths, Spelling
from .base import Base
from .checks import between, not_blank, one_of
from .declared import Choice


class Theme(StrEnum):
    GRAPHITE = "graphite"
    PAPER = "paper"
    EMBER = "ember"


class Photographer(Base):
    """A photographer. set_up_min before the light, reserve_min for the drive. promise_weights: only those changed from
    the model's.

    thumb_mm, arm_mm: width of the thumb and its distance from the eye at arm's length. polariser_from_mm: no polariser
    on lenses wider than this, as on 36 × 24 mm. simulated_weather: whether simulated forecasts and tides are used, to
    practise with. revision counts the writes to the notebook; context_token: new with each write except of one shot's
    choices.
    """

    __tablename__ = "photographer"
    __table_args__ = (
        not_blank(),
        one_of("theme", tuple(Theme)),
        between("set_up_min", 0.0, 600.0),
        between("reserve_min", 0.0, 600.0),
        between("thumb_mm", 1.0, 100.0),
        between("arm_mm", 100.0, 1200.0),
        between("polariser_from_mm", 8.0, 200.0),
        one_of("lengths", tuple(Lengths)),
        one_of("hours", tuple(Hours)),
        one_of("day_order", tuple(DayOrder)),
        one_of("dial_steps", tuple(DialSteps)),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(Text)
    theme: Mapped[Theme] = mapped_column(Choice(Theme), default=Theme.GRAPHITE)
    set_up_min: Mapped[float] = mapped_column(default=20.0, server_default="20")
    reserve_min: Mapped[float] = mapped_column(default=15.0, server_default="15")
    thumb_mm: Mapped[float] = mapped_column(default=22.0, server_default="22")
    arm_mm: Mapped[float] = mapped_column(default=630.0, server_default="630")
    lengths: Mapped[Lengths] = mapped_column(Choice(Lengths), default=Lengths.METRES, server_default=Lengths.METRES)
    hours: Mapped[Hours] = mapped_column(Choice(Hours), default=Hours.TWENTY_FOUR, server_default=Hours.TWENTY_FOUR)
    day_order: Mapped[DayOrder] = mapped_column(
        Choice(DayOrder), default=DayOrder.DAY_FIRST, server_default=DayOrder.DAY_FIRST
    )
    dial_steps: Mapped[DialSteps] = mapped_column(
        Choice(DialSteps), default=DialSteps.THIRDS, server_default=DialSteps.THIRDS
    )
    polariser_from_mm: Mapped[float | None]
    simulated_weather: Mapped[bool] = mapped_column(default=False, server_default="false")
    promise_weights: Mapped[dict[str, float]] = mapped_column(JSONB, default=dict, server_default="{}")
    revision: Mapped[int] = mapped_column(BigInteger, default=0, server_default="0")
    context_token: Mapped[str] = mapped_column(Text, server_default=text("gen_random_uuid()::text"))

    @property
    def spelling(self) -> Spelling:
        """The photographer's spelling of figures."""
        return Spelling(self.lengths, self.hours, self.day_order, self.dial_steps)
