"""Step 5, light that one brings: a flash's power and its share against the light of the place, an LED."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...exposure.flash import led_ev100, power_fraction, power_setting, recycle_s
from ...exposure.ledger import Ledger, LedgerLine
from ...facts.accessory import Accessory, AccessoryKind
from ...facts.choices import Hold
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...units.lengths import format_distance
from ...units.markings import format_shutter, spoken_shutter
from ..verdicts import FAILS, HOLDS, TIGHT, UNSAID, Reason

# With the light of the place so many stops below, nothing of its motion shows (common practice).
ALONE_FROM_STOPS = 3.0
_HAND_MOST, _STACK_MOST = 1 / 16, 1 / 4


@dataclass(frozen=True)
class Flash:
    """A flash in use. power: share of full power; recycle_s: after each frame; ambient_below_stops: the light of the place under the flash's
    exposure at shutter_s; setting: as it is set, in words. All None where its distance is not said."""

    name: str
    shutter_s: float
    power: float | None = None
    setting: str = ""
    recycle_s: float = 0.0
    ambient_below_stops: float = 0.0

    @property
    def alone(self) -> bool:
        """Whether the flash is all that is seen: its short burst then stops what moves."""
        return self.power is not None and self.power <= 1 and self.ambient_below_stops >= ALONE_FROM_STOPS


def plan_flash(
    facts: ShotFacts, settings: Settings, extension_stops: float, frames: int, ambient_s: float
) -> tuple[Flash | None, list[Reason]]:
    """Return the flash of the rig and what is to be said of it; None without one. frames: that it lights; ambient_s: the shutter
    that the light of the place asks for."""
    flashes = facts.rig(AccessoryKind.FLASH)
    if not flashes:
        return None, []
    flash, shutter, distance = flashes[0], facts.exposure.flash_shutter_s, facts.exposure.flash_distance_m
    if distance is None:
        return Flash(flash.name, shutter), [Reason("exposure", UNSAID, f"Say how far {flash.name} stands from the subject: its power follows.", "flash_distance_m")]  # fmt: skip
    below = math.log2(ambient_s / shutter)
    if below < -0.1:
        text = f"The light of the place alone is {-below:.1f} stops too bright at {format_shutter(shutter)}: stop down, lower the ISO or shorten the shutter."
        return Flash(flash.name, shutter, ambient_below_stops=below), [Reason("exposure", FAILS, text, "flash_shutter_s")]
    light = 2 ** (extension_stops / 2 + _loss_stops(facts) / 2 + facts.exposure.compensation_ev / 2)
    whole = power_fraction(_guide(flash), distance, settings.f_number * light, settings.iso)
    power = whole * max(1e-3, 1 - 2.0 ** -max(0.0, below))
    steps, spare = power_setting(power)
    setting = "full power" if steps == 0 else f"1/{2**steps}"
    made = Flash(flash.name, shutter, power, setting, recycle_s(flash.recycle_s or 0.0, min(1.0, 2.0**-steps)), below)
    return made, _reasons(facts, frames, made, spare, distance)


def _guide(flash: Accessory) -> float:
    assert flash.guide_number_m is not None
    return flash.guide_number_m


def _loss_stops(facts: ShotFacts) -> float:
    """Return what diffusers and filters take of a flash's light."""
    diffused = sum(item.loss_stops or 0.0 for item in facts.rig(AccessoryKind.DIFFUSER))
    return diffused + sum(item.stops for item in facts.filters if item.on_lens and item.kind != "graduated")


def _reasons(facts: ShotFacts, frames: int, flash: Flash, spare: float, distance: float) -> list[Reason]:
    assert flash.power is not None
    if flash.power > 1.001:
        text = f"{flash.name} at {format_distance(distance)} would need {flash.power:.1f} times its full power: bring it nearer, open up or raise the ISO."
        return [Reason("exposure", FAILS, text, "flash_distance_m")]
    rests = f", {spare:.1f} stops to spare" if spare >= 0.05 else ""
    ready = f"after {flash.recycle_s:.1f} s" if flash.recycle_s >= 0.05 else "at once"
    text = f"{flash.name} at {format_distance(distance)}: {flash.setting}{rests}, ready again {ready}."
    most = _HAND_MOST if facts.frame.hold == Hold.HAND else _STACK_MOST
    weight = HOLDS
    if frames > 1 and 2.0 ** -power_setting(flash.power)[0] > most:
        weight = TIGHT
        text += f" For a stack {'by hand ' if facts.frame.hold == Hold.HAND else ''}1/{round(1 / most)} and less lets it keep up."
    if spare > 1.05:
        weight = TIGHT
        text += " It cannot give so little: take it further away, diffuse it or stop down."
    found = [Reason("exposure", weight, text, "flash_distance_m")]
    if flash.alone:
        said = f"The light of the place lies {flash.ambient_below_stops:.1f} stops below the flash at {format_shutter(flash.shutter_s)}: the flash alone draws the picture, and stops what moves."
    elif flash.ambient_below_stops >= 0.3:
        said = f"The light of the place lies {flash.ambient_below_stops:.1f} stops below the flash at {format_shutter(flash.shutter_s)}: both show, and what moves is doubled."
    else:
        said = f"At {format_shutter(flash.shutter_s)} the light of the place is enough by itself; the flash only fills."
    found.append(Reason("exposure", HOLDS, said, "flash_shutter_s"))
    return found


def led_reasons(facts: ShotFacts, scene_ev100: float) -> list[Reason]:
    """Return what LEDs of the rig add to the light of the place."""
    found = []
    for lamp in facts.rig(AccessoryKind.LED):
        distance = facts.exposure.flash_distance_m
        if distance is None:
            found.append(
                Reason("exposure", UNSAID, f"Say how far {lamp.name} stands from the subject: its light follows.", "flash_distance_m")
            )
            continue
        gives = led_ev100(lamp.lux_at_1m or 1.0, distance)
        over = gives - scene_ev100
        adds = math.log2(1 + 2.0**over)
        way = "over" if over > 0 else "under"
        text = f"{lamp.name} at {format_distance(distance)} gives EV {gives:.1f}, {abs(over):.1f} stops {way} the light of the place: together {adds:.1f} stops more; meter with it on."
        found.append(Reason("exposure", HOLDS, text, "flash_distance_m"))
    return found


def lit_by(ledger: Ledger, flash: Flash) -> Ledger:
    """Return a ledger that ends with the shutter that is open while the flash burns."""
    stops = -flash.ambient_below_stops
    detail = f"at {flash.setting}; other light falls behind"
    return Ledger((*ledger.lines, LedgerLine(flash.name, detail, stops, flash.shutter_s, "flash")))


def flash_words(flash: Flash) -> str:
    """Return the flash's setting for a verdict."""
    return (
        f"{spoken_shutter(flash.shutter_s)} with flash at {flash.setting}" if flash.power is not None else spoken_shutter(flash.shutter_s)
    )
