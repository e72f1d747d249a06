"""Battery and card used by the frames.

Sources: [1] CIPA DC-002, how makers count frames per battery: one every 30 s with the monitor on, so that a minute of a
camera that is on counts about as two frames; [2] common practice: near freezing a battery gives a third less.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...facts.calibrations import Calibrated, Side
from ...facts.shot import ShotFacts
from ..reasons import Reason
from ..verdicts import FAILS, HOLDS, TIGHT
from ..weather.simulated import by_forecast
from . import wording as say
from .timeline import Frame, Overheads

FRAMES_TO_A_MINUTE = 2.0
_WARM_C, _FREEZING_C, _LEAST, _TIGHT_SHARE = 20.0, 0.0, 0.5, 0.75
# A smaller share of a battery that is left is mentioned.
_COLD_SHARE = 0.95
# Below this a battery counts as cold.
COLD_BELOW_C = 5.0


@dataclass(frozen=True)
class Supplies:
    """Battery and card used by a sequence.

    open_s: all exposures and dark frames [s]. on_s: time the camera is on, without waits for a moment [s].
    battery_share: of all batteries. files_mb, card_share: None where the body's figures are missing. cold: share of its
    capacity that a battery has left.
    """

    frames: int
    open_s: float
    on_s: float
    cold: float
    battery_share: float | None
    files_mb: float | None
    card_share: float | None


def cold_factor(temperature_c: float) -> float:
    """Return the share of a battery's capacity left at a temperature: all at 20 °C, two thirds at 0 °C, at least half.

    Source: [2].
    """
    left = 1 - (_WARM_C - temperature_c) / (_WARM_C - _FREEZING_C) / 3
    return min(1.0, max(_LEAST, left))


def supplies_of(facts: ShotFacts, frames: Sequence[Frame], overheads: Overheads) -> Supplies:
    """Return the battery and card used by frames. Source: [1]."""
    body = facts.body
    assert body is not None
    open_s = sum(frame.shutter_s + overheads.dark_s(frame.shutter_s) for frame in frames)
    on_s = (
        open_s
        + len(frames) * (overheads.timer_s + overheads.write_s)
        + overheads.settle_s * len({frame.focus_index for frame in frames})
    )
    cold = _left(facts)
    counted = len(frames) + FRAMES_TO_A_MINUTE * on_s / 60
    battery = counted / (body.battery_frames * body.batteries * cold) if body.battery_frames else None
    files = len(frames) * body.file_mb if body.file_mb else None
    card = files / (body.card_gb * 1000) if files is not None and body.card_gb else None
    return Supplies(len(frames), open_s, on_s, cold, battery, files, card)


def battery_side(temperature_c: float) -> Side:
    """Return whether a battery counts as cold in the log."""
    return Side.COLD if temperature_c < COLD_BELOW_C else Side.MILD


def _taught(facts: ShotFacts) -> Calibrated | None:
    if facts.hour is None:
        return None
    return (
        facts.taught.cold_battery if battery_side(facts.hour.temperature_c) == Side.COLD else facts.taught.mild_battery
    )


def _left(facts: ShotFacts) -> float:
    """Return the share of a battery's capacity that is left: from the log, else by common practice; 1 if the
    temperature is not known.
    """
    taught = _taught(facts)
    if taught is not None:
        return taught.value
    return cold_factor(facts.hour.temperature_c) if facts.hour is not None else 1.0


def supply_reasons(facts: ShotFacts, supplies: Supplies) -> list[Reason]:
    """Return reasons about battery and card; empty where the body's figures are missing."""
    body = facts.body
    assert body is not None
    found = []
    if supplies.battery_share is not None:
        share, taught = supplies.battery_share, _taught(facts)
        words = say.battery(
            share=share,
            batteries=body.batteries,
            left=supplies.cold,
            log_readings=taught.frames if taught is not None else None,
            low=share > _TIGHT_SHARE,
        )
        mark = FAILS if share > 1 else TIGHT if share > _TIGHT_SHARE else HOLDS
        if share > 0.1:
            reason = words.reason(mark, "body_id")
            # Only a cold battery rests on the forecast.
            found += by_forecast(facts, [reason]) if supplies.cold < _COLD_SHARE else [reason]
    if supplies.card_share is not None and supplies.card_share > _TIGHT_SHARE:
        found.append(say.card(share=supplies.card_share).reason(FAILS if supplies.card_share > 1 else TIGHT, "body_id"))
    return found
