"""Light the photographer brings: the power of a flash and its share against ambient light, and LEDs."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...exposure.flash import led_ev100, power_fraction, power_setting, recycle_s
from ...exposure.ledger import Ledger, LedgerLine
from ...facts.accessory import Accessory, AccessoryKind
from ...facts.choices import Hold
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...units.markings import spoken_shutter
from ..reasons import Reason
from ..verdicts import HOLDS, TIGHT
from . import wording as say

# With ambient light this many stops below, no motion shows in it (common practice).
ALONE_FROM_STOPS = 3.0
# Most bodies synchronise at 1/160 to 1/250 s (common practice); markings are rounded.
_USUAL_SYNC_S, _MARKED = 1 / 270, 0.93
_HAND_MOST, _STACK_MOST = 1 / 16, 1 / 4


@dataclass(frozen=True)
class Flash:
    """A flash in use.

    power: share of full power, None while its distance is not known. setting: as it is set, in words. recycle_s: pause
    after each frame [s]. ambient_below_stops: ambient light below the flash's exposure at shutter_s [stops].
    """

    name: str
    shutter_s: float
    power: float | None = None
    setting: str = ""
    recycle_s: float = 0.0
    ambient_below_stops: float = 0.0

    @property
    def alone(self) -> bool:
        """Whether the flash alone lights the picture: its short burst then freezes motion."""
        return self.power is not None and self.power <= 1 and self.ambient_below_stops >= ALONE_FROM_STOPS


def plan_flash(
    facts: ShotFacts, settings: Settings, extension_stops: float, frames: int, ambient_s: float
) -> tuple[Flash | None, list[Reason]]:
    """Return the flash of the rig and its reasons; None without one.

    frames: how many it lights; ambient_s: the shutter time that ambient light alone asks for [s].
    """
    flashes = facts.rig(AccessoryKind.FLASH)
    if not flashes:
        return None, []
    flash, shutter, distance = flashes[0], facts.exposure.flash_shutter_s, facts.exposure.flash_distance_m
    if distance is None:
        return Flash(flash.name, shutter), [say.no_flash_distance(flash=flash.name).unsaid("flash_distance_m")]
    synchronised = _synchronised(facts, shutter)
    if synchronised is not None:
        return Flash(flash.name, shutter), [synchronised]
    below = math.log2(ambient_s / shutter)
    if below < -0.1:
        words = say.ambient_too_bright(over_stops=-below, shutter_s=shutter)
        return Flash(flash.name, shutter, ambient_below_stops=below), [words.fails("flash_shutter_s")]
    light = 2 ** (extension_stops / 2 + _loss_stops(facts) / 2 + facts.exposure.compensation_ev / 2)
    whole = power_fraction(_guide(flash), distance, settings.f_number * light, settings.iso)
    power = whole * max(1e-3, 1 - 2.0 ** -max(0.0, below))
    steps, spare = power_setting(power)
    setting = "full power" if steps == 0 else f"1/{2**steps}"
    made = Flash(flash.name, shutter, power, setting, recycle_s(flash.recycle_s or 0.0, min(1.0, 2.0**-steps)), below)
    return made, _reasons(facts, frames, made, spare, distance)


def _synchronised(facts: ShotFacts, shutter_s: float) -> Reason | None:
    """Return why the flash cannot reach the whole frame at a shutter time; None where it does."""
    body = facts.body
    assert body is not None
    limit = body.flash_sync_s
    if limit is None:
        words = say.flash_sync_not_known(body=body.name, shutter_s=shutter_s)
        return words.unsaid("body_id") if shutter_s < _USUAL_SYNC_S else None
    if shutter_s >= limit * _MARKED:
        return None
    return say.faster_than_sync(body=body.name, shutter_s=shutter_s, sync_s=limit).fails("flash_shutter_s")


def _guide(flash: Accessory) -> float:
    assert flash.guide_number_m is not None
    return flash.guide_number_m


def _loss_stops(facts: ShotFacts) -> float:
    """Return how much of a flash's light diffusers and filters take [stops]."""
    diffused = sum(item.loss_stops or 0.0 for item in facts.rig(AccessoryKind.DIFFUSER))
    return diffused + sum(item.stops for item in facts.filters if item.on_lens and item.kind != "graduated")


def _reasons(facts: ShotFacts, frames: int, flash: Flash, spare: float, distance: float) -> list[Reason]:
    assert flash.power is not None
    if flash.power > 1.001:
        words = say.too_weak(flash=flash.name, distance_m=distance, times_full_power=flash.power)
        return [words.fails("flash_distance_m")]
    by_hand = facts.frame.hold == Hold.HAND
    most = _HAND_MOST if by_hand else _STACK_MOST
    slow, strong = frames > 1 and 2.0 ** -power_setting(flash.power)[0] > most, spare > 1.05
    words = say.power(
        flash=flash.name,
        distance_m=distance,
        setting=flash.setting,
        spare_stops=spare,
        recycle_s=flash.recycle_s,
        stack_limit=most if slow else None,
        by_hand=by_hand,
        too_strong=strong,
    )
    share = say.ambient(below_stops=flash.ambient_below_stops, shutter_s=flash.shutter_s, alone=flash.alone)
    return [words.reason(TIGHT if slow or strong else HOLDS, "flash_distance_m"), share.holds("flash_shutter_s")]


def led_reasons(facts: ShotFacts, scene_ev100: float) -> list[Reason]:
    """Return the reasons about the LEDs' share of the ambient light."""
    found = []
    for lamp in facts.rig(AccessoryKind.LED):
        distance = facts.exposure.flash_distance_m
        if distance is None:
            found.append(say.no_flash_distance(flash=lamp.name).unsaid("flash_distance_m"))
            continue
        gives = led_ev100(lamp.lux_at_1m or 1.0, distance)
        over = gives - scene_ev100
        words = say.led(
            lamp=lamp.name,
            distance_m=distance,
            ev100=gives,
            over_ambient_stops=over,
            adds_stops=math.log2(1 + 2.0**over),
        )
        found.append(words.holds("flash_distance_m"))
    return found


def lit_by(ledger: Ledger, flash: Flash) -> Ledger:
    """Return a ledger that ends with the shutter time set for the flash."""
    stops = -flash.ambient_below_stops
    detail = f"at {flash.setting}; other light falls behind"
    return Ledger((*ledger.lines, LedgerLine(flash.name, detail, stops, flash.shutter_s, "flash")))


def flash_words(flash: Flash) -> str:
    """Return the flash's setting for a verdict."""
    return (
        f"{spoken_shutter(flash.shutter_s)} with flash at {flash.setting}"
        if flash.power is not None
        else spoken_shutter(flash.shutter_s)
    )
