"""Step 6, what the frames take of the battery and the card.

Sources: [1] CIPA DC-002, the standard of the maker's count: a frame every 30 s with the monitor on, so that a minute of a camera that is on counts about as two
frames; [2] common practice: near freezing a battery gives a third less.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...facts.calibrations import Calibrated, Side
from ...facts.shot import ShotFacts
from ..verdicts import FAILS, HOLDS, TIGHT, Reason
from .timeline import Frame, Overheads

FRAMES_TO_A_MINUTE = 2.0
_WARM_C, _FREEZING_C, _LEAST, _TIGHT_SHARE = 20.0, 0.0, 0.5, 0.75
# Under this a battery counts as cold.
COLD_BELOW_C = 5.0


@dataclass(frozen=True)
class Stores:
    """open_s: of all exposures and dark frames; on_s: of the camera on, waits for a moment left out. battery_share: of all batteries; files_mb, card_share: None where
    the body does not say. cold: what is left of a battery in the cold, 1 where it is warm or nobody knows.
    """

    frames: int
    open_s: float
    on_s: float
    cold: float
    battery_share: float | None
    files_mb: float | None
    card_share: float | None


def cold_factor(temperature_c: float) -> float:
    """Return what is left of a battery's count at a temperature: all at 20 °C, two thirds at 0 °C, no less than half. Source: [2]."""
    left = 1 - (_WARM_C - temperature_c) / (_WARM_C - _FREEZING_C) / 3
    return min(1.0, max(_LEAST, left))


def stores_of(facts: ShotFacts, frames: Sequence[Frame], overheads: Overheads) -> Stores:
    """Return what frames take. Source: [1]."""
    body = facts.body
    assert body is not None
    open_s = sum(frame.shutter_s + overheads.dark_s(frame.shutter_s) for frame in frames)
    on_s = (
        open_s + len(frames) * (overheads.timer_s + overheads.write_s) + overheads.settle_s * len({frame.focus_index for frame in frames})
    )
    cold = _left(facts)
    counted = len(frames) + FRAMES_TO_A_MINUTE * on_s / 60
    battery = counted / (body.battery_frames * body.batteries * cold) if body.battery_frames else None
    files = len(frames) * body.file_mb if body.file_mb else None
    card = files / (body.card_gb * 1000) if files is not None and body.card_gb else None
    return Stores(len(frames), open_s, on_s, cold, battery, files, card)


def battery_side(temperature_c: float) -> Side:
    """Return whether a battery is in the cold, as the log tells them apart."""
    return Side.COLD if temperature_c < COLD_BELOW_C else Side.MILD


def _taught(facts: ShotFacts) -> Calibrated | None:
    if facts.hour is None:
        return None
    return facts.taught.cold_battery if battery_side(facts.hour.temperature_c) == Side.COLD else facts.taught.mild_battery


def _left(facts: ShotFacts) -> float:
    """Return what is left of a battery's count: by the log, else by practice; all of it where the temperature is not known."""
    taught = _taught(facts)
    if taught is not None:
        return taught.value
    return cold_factor(facts.hour.temperature_c) if facts.hour is not None else 1.0


def stores_reasons(facts: ShotFacts, stores: Stores) -> list[Reason]:
    """Return whether battery and card last; nothing where the body does not say."""
    body = facts.body
    assert body is not None
    found = []
    if stores.battery_share is not None:
        share, taught = stores.battery_share, _taught(facts)
        cold = f", in the cold {stores.cold:.0%} of what they give" if stores.cold < 0.95 else ""
        if taught is not None:
            cold = f", which give {stores.cold:.0%} of their count by {taught.frames} readings of the log"
        has = "battery" if body.batteries == 1 else f"{body.batteries} batteries"
        if share > _TIGHT_SHARE:
            mark = FAILS if share > 1 else TIGHT
            found.append(Reason("sequence", mark, f"The frames take {share:.0%} of the {has}{cold}: take another along.", "body_id"))
        elif share > 0.1:
            found.append(Reason("sequence", HOLDS, f"The frames take {share:.0%} of the {has}{cold}.", "body_id"))
    if stores.card_share is not None and stores.card_share > _TIGHT_SHARE:
        mark = FAILS if stores.card_share > 1 else TIGHT
        found.append(Reason("sequence", mark, f"The frames fill {stores.card_share:.0%} of the card: take another along.", "body_id"))
    return found
