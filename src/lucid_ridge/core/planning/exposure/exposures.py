"""Exposure: from the reading through filters, extension, fading light and flash to the exposures and their times."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ...exposure.ev import ev100, shutter_for_ev_s
from ...exposure.exposure_sets import carrying_index
from ...exposure.film import corrected_time_s
from ...exposure.ledger import (
    ExposureReading,
    Ledger,
    LedgerFilter,
    build_ledger,
    carried_by,
    in_changing_light,
    on_film,
)
from ...facts.choices import BracketMode
from ...facts.filters import Filter
from ...facts.kit import Body
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...light.kinds import LightKind
from ..focus.plan import DepthStep
from ..light.changing_light import changing_light
from ..light.flash import Flash, lit_by, plan_flash
from ..light.plan import LightStep
from ..reasons import Reason
from .frozen_frame import FrozenFrame, frozen_frame
from .movers import Mover, movers
from .tonal_range import Exposure, SceneRange, plan_exposures, scene_range

# Kinds of light whose picture is the night sky.
STAR_KINDS = (LightKind.DARK_SKY, LightKind.GALACTIC_CORE)
# The even night sky is brighter than a mid-grey land by 1 / 0.18; it is placed two stops under the middle.
SKY_PLACED_STOPS = -math.log2(0.18) + 2.0


@dataclass(frozen=True, kw_only=True)
class Taken:
    """The exposures, darkest first, and what led to them.

    scene_ev100: of the reading, without filters. carrying: which of the exposures carries the picture. fading_stops:
    what the light's change adds to the time of that exposure, infinite where the light fades first; followed: whether
    the times have it in them. counted_stops: of the extension, as far as the reading lacks it. steady_s: the time that
    steady light would ask for, without a flash.
    """

    reading: ExposureReading
    scene_ev100: float
    span: SceneRange
    ledger: Ledger
    exposures: tuple[Exposure, ...]
    carrying: int
    movers: tuple[Mover, ...]
    frozen: FrozenFrame | None
    flash: Flash | None
    fading_stops: float
    followed: bool
    counted_stops: float
    steady_s: float
    range_reasons: tuple[Reason, ...]
    flash_reasons: tuple[Reason, ...]

    @property
    def shutter_s(self) -> float:
        """The time of the exposure that carries the picture [s]."""
        return self.exposures[self.carrying].shutter_s

    @property
    def lit(self) -> bool:
        """Whether a flash lights the picture."""
        return self.flash is not None and self.flash.power is not None

    @property
    def frozen_by(self) -> tuple[frozenset[int | None], float] | None:
        """Whom a frame of their own freezes, and its time [s]."""
        return (
            (self.frozen.ids, self.frozen.exposure.shutter_s)
            if self.frozen is not None and self.frozen.exposure is not None
            else None
        )


def take(facts: ShotFacts, settings: Settings, body: Body, depth: DepthStep, reading: ExposureReading) -> Taken:
    """Return the exposures that a reading leads to."""
    extension = depth.extension_stops
    # What was on when metered counts only where something was metered.
    filters = tuple(ledger_filter(item, metered=not reading.predicted) for item in facts.filters)
    base = (reading, settings.f_number, settings.iso, filters, extension, facts.exposure.compensation_ev)
    ledger = build_ledger(*base)
    flash, flash_reasons = plan_flash(facts, settings, extension, len(depth.positions), ledger.shutter_s)
    lit = flash is not None and flash.power is not None
    if flash is not None and lit:
        ledger = lit_by(ledger, flash)
    through = through_stops(facts, metered=not reading.predicted)
    scene = scene_ev100(facts, reading)
    span = scene_range(facts, through, metered=not reading.predicted)
    # A flash is as bright in every frame: a bracket of shutter times would change the light of the place alone.
    alone = facts.choosing(bracket=BracketMode.NONE) if lit else facts
    exposures, range_reasons = plan_exposures(alone, settings.iso, scene, ledger.shutter_s, span)
    carrying = carrying_index(tuple(item.shutter_s for item in exposures), ledger.shutter_s)
    ledger = carried_by(ledger, exposures[carrying].shutter_s, len(exposures))
    if body.film_exponent is not None:
        ledger = on_film(ledger, body.film_exponent)
    exposures = tuple(
        replace(item, shutter_s=float(corrected_time_s(item.metered_s, body.film_exponent))) for item in exposures
    )
    steady = exposures[carrying].shutter_s
    # A flash is as bright at any hour.
    changing = None if lit else changing_light(facts)
    needed = changing.needed_s(exposures[carrying].metered_s) if changing is not None else steady
    fading = math.log2(needed / steady) if math.isfinite(needed) else math.inf
    followed = False
    if facts.exposure.follow_fading and changing is not None and math.isfinite(fading):
        times = [changing.needed_s(item.metered_s) for item in exposures]
        followed = math.isfinite(max(times))
        fading = fading if followed else math.inf
        if followed:
            exposures = tuple(replace(item, shutter_s=time) for item, time in zip(exposures, times, strict=True))
            ledger = in_changing_light(ledger, exposures[carrying].shutter_s)
    moving, frozen = movers(facts, settings, depth), None
    if alone.exposure.bracket == BracketMode.FROZEN_AND_LONG:
        frozen = frozen_frame(facts, settings, moving, exposures[carrying])
        range_reasons += frozen.reasons
        if frozen.exposure is not None:
            # Its tone is that of the long one: what it takes to get there is its own.
            exposures, carrying = (frozen.exposure, exposures[carrying]), 1
    # A meter behind the lens sees the extension, in this reading and in those of highlight and shadow alike.
    counted = 0.0 if reading.through_lens and not reading.predicted else extension
    return Taken(
        reading=reading,
        scene_ev100=scene,
        span=span,
        ledger=ledger,
        exposures=exposures,
        carrying=carrying,
        movers=moving,
        frozen=frozen,
        flash=flash,
        fading_stops=fading,
        followed=followed,
        counted_stops=counted,
        steady_s=steady,
        range_reasons=tuple(range_reasons),
        flash_reasons=tuple(flash_reasons),
    )


def through_stops(facts: ShotFacts, metered: bool) -> float:
    """Return the density of the filters that were on for the reading [stops]. metered: whether there is a reading."""
    return sum(item.stops for item in (ledger_filter(item, metered) for item in facts.filters) if item.on_when_metered)


def scene_ev100(facts: ShotFacts, reading: ExposureReading) -> float:
    """Return the scene's EV at ISO 100 from a reading, without filters."""
    return float(ev100(reading.f_number, reading.shutter_s, reading.iso)) + through_stops(
        facts, metered=not reading.predicted
    )


def metered_reading(facts: ShotFacts) -> ExposureReading | None:
    """Return the reading that was metered; None without one."""
    said = facts.exposure
    if not (said.metered_f_number and said.metered_shutter_s and said.metered_iso):
        return None
    return ExposureReading(
        said.metered_f_number, said.metered_shutter_s, said.metered_iso, False, said.metered_through_lens
    )


def reading_of(facts: ShotFacts, settings: Settings, light: LightStep) -> ExposureReading | None:
    """Return the reading in force: the one that was metered, else the one predicted for the moment; None while there
    is no light yet.

    A shot that wants stars is exposed for the night sky, two stops under the middle; the land is then as dark as it
    comes (common practice).
    """
    metered = metered_reading(facts)
    if metered is not None:
        return metered
    if light.ev100 is None:
        return None
    for_the_sky = light.stars_show and facts.light.wanted_light in STAR_KINDS
    aimed = light.ev100 + (SKY_PLACED_STOPS if for_the_sky else 0.0)
    shutter = float(shutter_for_ev_s(aimed, settings.f_number, settings.iso))
    return ExposureReading(settings.f_number, shutter, settings.iso, predicted=True, for_the_sky=for_the_sky)


def ledger_filter(item: Filter, metered: bool = True) -> LedgerFilter:
    """Return the filter as it counts for the shutter: a graduated one darkens the sky, not the whole frame."""
    measured = (
        f"{item.stops:.1f} by {item.measured_frames} frames, not {item.marked_stops:g}" if item.measured_frames else ""
    )
    return LedgerFilter(item.name, item.even_stops, item.on_lens, item.on_when_metered and metered, measured)
