"""Step 5: from the light to the shutter, the filters and the bracket."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ...exposure.ledger import ExposureReading, Ledger
from ...exposure.proposals import Proposal
from ...facts.settings import Settings, settings_of
from ...facts.shot import ShotFacts
from ...units.markings import format_aperture, format_shutter, spoken_shutter
from ..focus.holding import hold_reasons
from ..focus.plan import DepthStep
from ..light.flash import Flash, flash_words, led_reasons
from ..light.plan import LightStep
from ..verdicts import FAILS, HOLDS, TIGHT, UNSAID, Reason, Verdict, worst_mark
from .exposures import reading_of, take
from .filter_reasons import filter_reasons
from .mover_reasons import aim_of, mover_reasons
from .movers import Mover
from .settings_for_time import settings_for
from .tonal_range import Exposure, is_automatic
from .waiting import waiting_reasons
from .water import LookBand, WantedTime, moving_element, wanted_time


@dataclass(frozen=True)
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
    range_stops: float | None = None
    dynamic_range_stops: float | None = None
    exposures: tuple[Exposure, ...] = ()
    bracket_automatic: bool | None = None
    flash: Flash | None = None
    # What the light's fall adds to every shutter time, where it is followed.
    fading_stops: float = 0.0
    # Which of the exposures carries the picture.
    carrying: int = 0
    # Whether the reading in force was taken through the lens.
    read_through_lens: bool = False
    # All that moves, the main one among them.
    movers: tuple[Mover, ...] = ()


def plan_exposure(facts: ShotFacts, light: LightStep, depth: DepthStep) -> ExposureStep:
    """Return the ledger, the exposures and their judgement; unsaid while there is neither a reading nor a time."""
    settings = settings_of(facts)
    if settings is None or facts.body is None or facts.lens is None:
        lacking = "body" if facts.body is None else "lens"
        return _missing(f"no {lacking} yet", f"Choose a {lacking}: the exposure needs it.", f"{lacking}_id")
    reading = reading_of(facts, settings, light)
    if reading is None:
        return _missing(
            "no light yet", "Meter the scene, or choose a time so that the light can be predicted.", "metered_shutter_s", settings
        )
    taken = take(facts, settings, facts.body, depth, reading)
    shutter, flash = taken.shutter_s, taken.flash
    main = next((item for item in taken.movers if item.main), None)
    exposures = tuple(_with_look(item, main) for item in taken.exposures)
    carried = exposures[taken.carrying]
    bands = main.bands if main is not None else ()
    wanted = wanted_time(facts, bands)
    aim = aim_of(facts, wanted, taken.movers)
    fading = taken.fading_stops if facts.exposure.follow_fading else 0.0
    proposals = settings_for(facts, settings, taken.scene_ev100, aim.wanted, taken.counted_stops, fading)
    reasons = [
        *([] if taken.followed else _fading_reasons(taken.fading_stops, taken.steady_s)),
        *_light_reasons(light, reading), *_wish_reasons(facts, wanted, shutter, proposals), *waiting_reasons(facts, wanted, shutter),
        *taken.range_reasons, *_shutter_reasons(facts, exposures), *taken.flash_reasons, *led_reasons(facts, taken.scene_ev100),
        *filter_reasons(facts, settings, reading.predicted), *hold_reasons(facts, settings, depth.imaging, exposures[-1].shutter_s, flash),
        *mover_reasons(facts, settings, taken.movers, aim, shutter, taken.frozen_by, flash is not None and flash.alone),
        *(_look_reasons(facts, main, exposures, taken.carrying) if main is not None else ()),
    ]  # fmt: skip
    spoken = flash_words(flash) if flash is not None else spoken_shutter(shutter)
    text = spoken + (f", {carried.look}" if carried.look else "") + (f", bracket of {len(exposures)}" if len(exposures) > 1 else "")
    moving = moving_element(facts)
    return ExposureStep(
        Verdict("exposure", worst_mark(reasons), text + (", predicted" if reading.predicted else "")), tuple(reasons), reading.predicted,
        taken.scene_ev100, settings.f_number, settings.iso, taken.ledger, shutter, wanted.middle_s if wanted else None, proposals, bands,
        carried.look, carried.streak_share, moving.id if moving else None, taken.span.stops, facts.body.held_stops(settings.iso), exposures,
        is_automatic(facts, exposures), flash, taken.fading_stops if taken.followed and not taken.lit else 0.0, taken.carrying,
        reading.through_lens and not reading.predicted,
        tuple(_looking(item, shutter, taken.frozen_by) for item in taken.movers),
    )  # fmt: skip


def _fading_reasons(fading: float, shutter: float) -> list[Reason]:
    """Return what is to be said of light that changes by so many stops [EV] while a shutter of so many seconds is open."""
    if math.isinf(fading):
        text = "The light goes faster than the shutter can gather it: open the aperture, raise the ISO or take a filter off."
        return [Reason("exposure", FAILS, text, "f_number")]
    if not abs(fading) >= 0.1:
        return []
    way, needed = "falls" if fading > 0 else "rises", shutter * 2.0**fading
    text = (
        f"The light {way} while the shutter is open: {spoken_shutter(needed)} gathers what {spoken_shutter(shutter)} would in steady light. "
        "Follow the fading light."
    )
    return [Reason("exposure", TIGHT, text, "follow_fading")]


def _look_reasons(facts: ShotFacts, main: Mover, exposures: tuple[Exposure, ...], carrying: int) -> list[Reason]:
    """Return what the main mover looks like in the exposure that carries the picture, and whether it differs from frame to frame."""
    carried = exposures[carrying]
    share, streak = carried.streak_share or 0.0, main.streak_mm_per_s * carried.shutter_s
    drawn = (
        f"{share:.0f}× the frame's short side" if share >= 2 else f"{share:.0%} of the frame's short side" if share >= 0.005
        else f"{streak * 1000:.0f} µm on the sensor"
    )  # fmt: skip
    text = f"{main.name} at {main.speed_mps:.2g} m/s draws {drawn} in {spoken_shutter(carried.shutter_s)}: {carried.look}."
    return [Reason("exposure", HOLDS, text, "wanted_look"), *_taught(facts, main), *_looks_differ(main, exposures, carrying)]


def _taught(facts: ShotFacts, main: Mover) -> list[Reason]:
    """Return that the looks are the photographer's own, and that the speed is by the log."""
    found = []
    speed = main.element.taught_speed if main.element is not None else None
    if speed is not None:
        text = (
            f"{main.name} is reckoned {2.0**speed.value:.1f} times as fast as written of it, by {speed.frames} streaks measured in the log."
        )
        found.append(Reason("exposure", HOLDS, text, "wanted_look"))
    taught = facts.taught.look_shift
    if taught is not None:
        way = "longer" if taught.value > 0 else "shorter"
        text = f"The looks are your own: streaks {abs(taught.value):.1f} stop {way} than usual please you, by {taught.frames} rated frames."
        found.append(Reason("exposure", HOLDS, text, "wanted_look"))
    return found


def _with_look(item: Exposure, main: Mover | None) -> Exposure:
    """Return an exposure with what it makes of the main mover."""
    if main is None:
        return item
    return replace(item, look=main.look_in(item.shutter_s), streak_share=main.streak_share(item.shutter_s))


def _looking(item: Mover, shutter_s: float, frozen: tuple[frozenset[int | None], float] | None) -> Mover:
    """Return something that moves with what it comes to: in the frame of its own where it has one."""
    return replace(item, look=item.look_in(frozen[1] if frozen is not None and item.id in frozen[0] else shutter_s))


def _looks_differ(moving: Mover, exposures: tuple[Exposure, ...], carrying: int) -> list[Reason]:
    """Return that the frames of a set show what moves differently: put together it is taken from one of them."""
    if len({item.look for item in exposures}) < 2:
        return []
    each = ", ".join(f"{item.look} in {spoken_shutter(item.shutter_s)}" for item in exposures)
    text = f"{moving.name} looks different in each frame ({each}): take it from the frame of {spoken_shutter(exposures[carrying].shutter_s)} alone."
    return [Reason("exposure", HOLDS, text, "bracket")]


def _light_reasons(light: LightStep, reading: ExposureReading) -> list[Reason]:
    if not reading.predicted:
        return []
    spread = ""
    if light.ev100_low is not None and light.ev100_high is not None and light.ev100_high - light.ev100_low >= 0.05:
        spread = f" (EV {light.ev100_low:.1f} to {light.ev100_high:.1f})"
    text = f"The exposure is predicted from the sun's altitude {light.ev_source}{spread}, not metered: meter before you trust it."
    return [Reason("exposure", TIGHT, text, "metered_shutter_s")]


def _wish_reasons(facts: ShotFacts, wanted: WantedTime | None, shutter: float, proposals: tuple[Proposal, ...]) -> list[Reason]:
    if wanted is None:
        if facts.exposure.wanted_look:
            return [Reason("exposure", UNSAID, "The look of water needs an element that moves: give one a speed.", "elements")]
        return []
    mark, error, given = wanted.mark_of(shutter), wanted.error_stops(shutter), spoken_shutter(shutter)
    way, dial = "longer" if error >= 0 else "shorter", "wanted_look" if wanted.look else "wanted_shutter_s"
    if mark == HOLDS:
        text = (
            f"{given} lies within {wanted.words}."
            if wanted.look
            else f"{given} is {abs(error):.2f} stop {way} than the {wanted.words} asked for."
        )
        return [Reason("exposure", HOLDS, text, dial)]
    asked = wanted.words if wanted.look else f"the {wanted.words} asked for"
    return [Reason("exposure", mark, f"{given} is {abs(error):.1f} stops {way} than {asked}: {_help(proposals)}.", dial)]


def _help(proposals: tuple[Proposal, ...]) -> str:
    if not proposals:
        return "nothing in the bag comes within a stop of it"
    first = proposals[0]
    glass = " + ".join(first.filter_names) or "no filter"
    kept = f", which changes the {' and the '.join(first.changes)} you set" if first.changes else ""
    return f"take {glass} at {format_aperture(first.f_number)}, ISO {first.iso:g}{kept}"


def _shutter_reasons(facts: ShotFacts, exposures: tuple[Exposure, ...]) -> list[Reason]:
    body = facts.body
    assert body is not None
    found = []
    fastest, slowest = exposures[0].shutter_s, exposures[-1].shutter_s
    if fastest < body.shortest_s:
        found.append(
            Reason(
                "exposure",
                FAILS,
                f"{format_shutter(fastest)} is faster than the {body.name} can ({format_shutter(body.fastest_shutter_s)}).",
                "f_number",
            )
        )
    if body.needs_bulb(slowest):
        if body.has_bulb:
            found.append(
                Reason(
                    "exposure",
                    HOLDS,
                    f"{spoken_shutter(slowest)} is longer than the shutter times itself: use bulb and a timer.",
                    "filters",
                )
            )
        else:
            found.append(
                Reason(
                    "exposure",
                    FAILS,
                    f"{spoken_shutter(slowest)} is longer than the {body.name} can ({format_shutter(body.slowest_shutter_s)}), and it has no bulb setting.",
                    "filters",
                )
            )
    return found


def _missing(text: str, sentence: str, dial: str, settings: Settings | None = None) -> ExposureStep:
    reasons = (Reason("exposure", UNSAID, sentence, dial),)
    verdict = Verdict("exposure", UNSAID, text)
    return ExposureStep(verdict, reasons, f_number=settings.f_number, iso=settings.iso) if settings else ExposureStep(verdict, reasons)
