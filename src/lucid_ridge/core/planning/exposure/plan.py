"""Step 5: shutter time, filters and bracket, from the light."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...exposure.ledger import ExposureReading, Ledger
from ...exposure.proposals import Proposal
from ...facts.settings import Settings, settings_of
from ...facts.shot import ShotFacts
from ...units.markings import spoken_shutter
from ..focus.holding import hold_reasons
from ..focus.plan import DepthStep
from ..light.flash import Flash, flash_words, led_reasons
from ..light.plan import LightStep
from ..reasons import Reason, worst_mark
from ..verdicts import HOLDS, UNSAID, Verdict
from ..wording import Sentence
from . import wording as say
from .exposures import SKY_PLACED_STOPS, reading_of, take
from .filter_reasons import filter_reasons
from .mover_reasons import aim_of, mover_reasons
from .movers import Mover
from .settings_for_time import settings_for
from .star_reasons import star_reasons
from .tonal_range import Exposure, is_automatic
from .waiting import waiting_reasons
from .water import LookBand, WantedTime, moving_element, wanted_time


@dataclass(frozen=True, kw_only=True)
class ExposureStep:
    verdict: Verdict
    reasons: tuple[Reason, ...]
    predicted: bool = False
    scene_ev100: float | None = None
    f_number: float | None = None
    iso: float | None = None
    ledger: Ledger | None = None
    shutter_s: float | None = None
    wanted_s: float | None = None
    proposals: tuple[Proposal, ...] = ()
    looks: tuple[LookBand, ...] = ()
    look: str | None = None
    streak_share: float | None = None
    moving_element_id: int | None = None
    # What must keep detail, at the sensor and at the shot's time; None where it was not read.
    shadow_ev: float | None = None
    highlight_ev: float | None = None
    range_stops: float | None = None
    dynamic_range_stops: float | None = None
    exposures: tuple[Exposure, ...] = ()
    bracket_automatic: bool | None = None
    flash: Flash | None = None
    # Whether each frame is open as long as the light of its own time needs.
    follows_light: bool = False
    # Which of the exposures carries the picture.
    carrying: int = 0
    # Whether the reading in force was taken through the lens.
    read_through_lens: bool = False
    # All that moves, the main one among them.
    movers: tuple[Mover, ...] = ()


def plan_exposure(
    facts: ShotFacts, light: LightStep, depth: DepthStep, of_reading: Sequence[Reason] = ()
) -> ExposureStep:
    """Return the ledger, the exposures and their verdict; not judged without a reading or a time.

    facts: with the reading that is in force. of_reading: reasons about it.
    """
    settings = settings_of(facts)
    if settings is None or facts.body is None or facts.lens is None:
        lacking = "body" if facts.body is None else "lens"
        return _missing(f"no {lacking} yet", say.no_body_or_lens(lacking=lacking), f"{lacking}_id")
    reading = reading_of(facts, settings, light)
    if reading is None:
        return _missing("no light yet", say.no_light(), "metered_shutter_s", settings)
    taken = take(facts, settings, facts.body, depth, reading)
    shutter, flash = taken.shutter_s, taken.flash
    main = next((item for item in taken.movers if item.main), None)
    exposures = tuple(_with_look(item, main) for item in taken.exposures)
    carried = exposures[taken.carrying]
    bands = main.bands if main is not None else ()
    wanted = wanted_time(facts, bands)
    aim = aim_of(facts, wanted, taken.movers)
    proposals = settings_for(facts, settings, taken.scene_ev100, aim.wanted, taken.counted_stops)
    reasons = [
        *of_reading,
        *([] if taken.followed else _fading_reasons(taken.fading_stops, taken.steady_s)),
        *_light_reasons(light, reading),
        *_wish_reasons(facts, wanted, shutter, proposals),
        *waiting_reasons(facts, wanted, taken.exposures[taken.carrying].metered_s),
        *taken.range_reasons,
        *_shutter_reasons(facts, exposures),
        *taken.flash_reasons,
        *led_reasons(facts, taken.scene_ev100),
        *star_reasons(facts, settings, light, shutter),
        *filter_reasons(facts, settings, reading.predicted),
        *hold_reasons(facts, settings, depth.imaging, exposures[-1].shutter_s, flash),
        *mover_reasons(facts, settings, taken.movers, aim, shutter, taken.frozen_by, flash is not None and flash.alone),
        *(_look_reasons(facts, main, exposures, taken.carrying) if main is not None else ()),
    ]
    spoken = flash_words(flash) if flash is not None else spoken_shutter(shutter)
    text = (
        spoken
        + (f", {carried.look}" if carried.look else "")
        + (f", bracket of {len(exposures)}" if len(exposures) > 1 else "")
    )
    moving = moving_element(facts)
    return ExposureStep(
        verdict=Verdict("exposure", worst_mark(reasons), text + (", estimated" if reading.predicted else "")),
        reasons=tuple(reasons),
        predicted=reading.predicted,
        scene_ev100=taken.scene_ev100,
        f_number=settings.f_number,
        iso=settings.iso,
        ledger=taken.ledger,
        shutter_s=shutter,
        wanted_s=wanted.middle_s if wanted else None,
        proposals=proposals,
        looks=bands,
        look=carried.look,
        streak_share=carried.streak_share,
        moving_element_id=moving.id if moving else None,
        shadow_ev=taken.span.shadow_ev,
        highlight_ev=taken.span.highlight_ev,
        range_stops=taken.span.stops,
        dynamic_range_stops=facts.body.held_stops(settings.iso),
        exposures=exposures,
        bracket_automatic=is_automatic(facts, exposures),
        flash=flash,
        follows_light=taken.followed,
        carrying=taken.carrying,
        read_through_lens=reading.through_lens and not reading.predicted,
        movers=tuple(_looking(item, shutter, taken.frozen_by) for item in taken.movers),
    )


def _fading_reasons(fading: float, shutter: float) -> list[Reason]:
    """Return the reason about light that changes by fading [stops] while the shutter is open for shutter [s]."""
    if math.isinf(fading):
        return [say.light_too_fast().fails("f_number")]
    if not abs(fading) >= 0.1:
        return []
    words = say.light_changes(fading_stops=fading, steady_s=shutter, needed_s=shutter * 2.0**fading)
    return [words.tight("follow_fading")]


def _look_reasons(facts: ShotFacts, main: Mover, exposures: tuple[Exposure, ...], carrying: int) -> list[Reason]:
    """Return the look of the main mover in the exposure that carries the picture, and whether it differs between
    frames.
    """
    carried = exposures[carrying]
    words = say.drawn(
        element=main.name,
        speed_mps=main.speed_mps,
        frame_share=carried.streak_share or 0.0,
        streak_mm=main.streak_mm_per_s * carried.shutter_s,
        shutter_s=carried.shutter_s,
        look=carried.look or "",
    )
    return [words.holds("wanted_look"), *_taught(facts, main), *_looks_differ(main, exposures, carrying)]


def _taught(facts: ShotFacts, main: Mover) -> list[Reason]:
    """Return the reasons for a speed taken from the log and for the photographer's own looks."""
    found = []
    speed = main.element.taught_speed if main.element is not None else None
    if speed is not None:
        words = say.speed_by_the_log(element=main.name, times_entered=2.0**speed.value, streaks=speed.frames)
        found.append(words.holds("wanted_look"))
    taught = facts.taught.look_shift
    if taught is not None:
        found.append(say.own_looks(shift_stops=taught.value, frames=taught.frames).holds("wanted_look"))
    return found


def _with_look(item: Exposure, main: Mover | None) -> Exposure:
    """Return an exposure with the look of the main mover."""
    if main is None:
        return item
    return replace(item, look=main.look_in(item.shutter_s), streak_share=main.streak_share(item.shutter_s))


def _looking(item: Mover, shutter_s: float, frozen: tuple[frozenset[int | None], float] | None) -> Mover:
    """Return a mover with its look; in its own frame where it has one."""
    return replace(item, look=item.look_in(frozen[1] if frozen is not None and item.id in frozen[0] else shutter_s))


def _looks_differ(moving: Mover, exposures: tuple[Exposure, ...], carrying: int) -> list[Reason]:
    """Return the reason that a mover looks different in the frames of a set."""
    if len({item.look for item in exposures}) < 2:
        return []
    looks = tuple((item.look or "", item.shutter_s) for item in exposures)
    words = say.looks_differ(element=moving.name, looks=looks, carrying_s=exposures[carrying].shutter_s)
    return [words.holds("bracket")]


def _light_reasons(light: LightStep, reading: ExposureReading) -> list[Reason]:
    if not reading.predicted:
        return []
    low, high = light.ev100_low, light.ev100_high
    wide = low is not None and high is not None and high - low >= 0.05
    words = say.estimated(source=light.ev_source, ev100_low=low if wide else None, ev100_high=high if wide else None)
    sky = say.for_the_sky(land_under_stops=SKY_PLACED_STOPS).holds("wanted_light") if reading.for_the_sky else None
    return [words.tight("metered_shutter_s"), *([sky] if sky else [])]


def _wish_reasons(
    facts: ShotFacts, wanted: WantedTime | None, shutter: float, proposals: tuple[Proposal, ...]
) -> list[Reason]:
    if wanted is None:
        if facts.exposure.wanted_look:
            return [say.looks_need_speed().unsaid("elements")]
        return []
    mark, error = wanted.mark_of(shutter), wanted.error_stops(shutter)
    dial = "wanted_look" if wanted.look else "wanted_shutter_s"
    if mark == HOLDS and wanted.look:
        return [say.within_look(shutter_s=shutter, wanted=wanted.words).holds(dial)]
    if mark == HOLDS:
        return [say.near_wanted_time(shutter_s=shutter, wanted=wanted.words, error_stops=error).holds(dial)]
    best = proposals[0] if proposals else None
    words = say.off_wanted_time(
        shutter_s=shutter,
        wanted=wanted.words,
        is_look=wanted.look is not None,
        error_stops=error,
        filters=best.filter_names if best else None,
        f_number=best.f_number if best else 0.0,
        iso=best.iso if best else 0.0,
        changes=best.changes if best else (),
    )
    return [words.reason(mark, dial)]


def _shutter_reasons(facts: ShotFacts, exposures: tuple[Exposure, ...]) -> list[Reason]:
    body = facts.body
    assert body is not None
    found = []
    fastest, slowest = exposures[0].shutter_s, exposures[-1].shutter_s
    if fastest < body.shortest_s:
        words = say.too_fast_for_body(shutter_s=fastest, body=body.name, fastest_s=body.fastest_shutter_s)
        found.append(words.fails("f_number"))
    settings = settings_of(facts)
    if settings is not None and body.film_exponent is None and body.extends_iso(settings.iso):
        words = say.extended_iso(
            iso=settings.iso,
            body=body.name,
            lost_stops=abs(math.log2(settings.iso / body.base_iso)),
            low=settings.iso < body.base_iso,
        )
        found.append(words.caution("iso"))
    if body.needs_bulb(slowest) and body.has_bulb:
        found.append(say.needs_bulb(shutter_s=slowest, slowest_s=body.slowest_shutter_s).holds("filters"))
    elif body.needs_bulb(slowest):
        words = say.no_bulb(shutter_s=slowest, body=body.name, slowest_s=body.slowest_shutter_s)
        found.append(words.fails("filters"))
    return found


def _missing(text: str, words: Sentence, dial: str, settings: Settings | None = None) -> ExposureStep:
    reasons = (words.unsaid(dial),)
    verdict = Verdict("exposure", UNSAID, text)
    return (
        ExposureStep(verdict=verdict, reasons=reasons, f_number=settings.f_number, iso=settings.iso)
        if settings
        else ExposureStep(verdict=verdict, reasons=reasons)
    )
