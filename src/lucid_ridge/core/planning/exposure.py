"""Step 5: from the light to the shutter, the filters and the bracket."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..exposure.ev import ev100, shutter_for_ev_s
from ..exposure.exposure_sets import carrying_index
from ..exposure.film import corrected_time_s, metered_time_s
from ..exposure.ledger import ExposureReading, Ledger, LedgerFilter, build_ledger, carried_by, on_film
from ..exposure.motion import look_of_streak
from ..exposure.proposals import BagFilter, Proposal, propose_settings
from ..facts.choices import BracketMode
from ..facts.kit import Filter, FilterKind
from ..facts.place import Element
from ..facts.settings import Settings, settings_of
from ..facts.shot import ShotFacts
from ..units.markings import APERTURE_MARKINGS, ISO_MARKINGS, format_aperture, format_shutter, spoken_shutter
from .depth import DepthStep
from .falling_light import falling_light
from .filter_reasons import filter_reasons
from .frozen_frame import frozen_frame
from .holding import hold_reasons
from .light import LightStep
from .lighting import Flash, flash_words, led_reasons, lit_by, plan_flash
from .marks import FAILS, HOLDS, TIGHT, UNSAID, Reason, Verdict, worst_mark
from .mover_reasons import aim_of, mover_reasons
from .movers import Mover, movers
from .tonal_range import Exposure, is_automatic, plan_exposures, scene_range
from .waiting import waiting_reasons
from .water import LookBand, WantedTime, moving_element, streak_of, wanted_time

_TIGHT_STOPS, _FAIL_STOPS = 1 / 3, 1.0


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
    reading = _reading(facts, settings, light)
    if reading is None:
        return _missing(
            "no light yet", "Meter the scene, or choose a time so that the light can be predicted.", "metered_shutter_s", settings
        )
    extension = depth.extension_stops
    # A meter behind the lens sees the extension, in this reading and in those of highlight and shadow alike.
    counted = 0.0 if reading.through_lens and not reading.predicted else extension
    # What was on when metered counts only where something was metered.
    filters = tuple(_ledger_filter(item, metered=not reading.predicted) for item in facts.filters)
    base = (reading, settings.f_number, settings.iso, filters, extension, facts.exposure.compensation_ev)
    ledger = build_ledger(*base)
    fading = _fading_stops(facts, ledger.shutter_s)
    followed = facts.exposure.follow_fading and fading != 0 and math.isfinite(fading)
    reasons = [] if followed else _fading_reasons(fading, ledger.shutter_s)
    if followed:
        ledger = build_ledger(*base, fading_stops=fading)
    flash, flash_reasons = plan_flash(facts, settings, extension, len(depth.positions), ledger.shutter_s)
    lit = flash is not None and flash.power is not None
    if flash is not None and lit:
        ledger = lit_by(ledger, flash)
    through = sum(item.stops for item in filters if item.on_when_metered)
    scene = float(ev100(reading.f_number, reading.shutter_s, reading.iso)) + through
    span = scene_range(facts, through, metered=not reading.predicted)
    # A flash is as bright in every frame: a bracket of shutter times would change the light of the place alone.
    exposures, range_reasons = plan_exposures(
        facts.choosing(bracket=BracketMode.NONE) if lit else facts, settings.iso, scene, ledger.shutter_s, span
    )
    carrying = carrying_index(tuple(item.shutter_s for item in exposures), ledger.shutter_s)
    ledger = carried_by(ledger, exposures[carrying].shutter_s, len(exposures))
    film = facts.body.film_exponent
    if film is not None:
        ledger = on_film(ledger, film)
        exposures = tuple(replace(item, shutter_s=float(corrected_time_s(item.shutter_s, film))) for item in exposures)
    shutter = exposures[carrying].shutter_s
    frozen = None
    moves = movers(facts, settings, depth)
    if facts.exposure.bracket == BracketMode.FROZEN_AND_LONG and not lit:
        frozen = frozen_frame(facts, settings, moves, exposures[carrying])
        range_reasons += frozen.reasons
        if frozen.exposure is not None:
            # Its tone is that of the long one: what it takes to get there is its own.
            exposures, carrying = (frozen.exposure, exposures[carrying]), 1
    moving = moving_element(facts)
    main = next((item for item in moves if item.main), None)
    bands = main.bands if main is not None else ()
    wanted = wanted_time(facts, bands)
    aim = aim_of(facts, wanted, moves)
    short_side = min(facts.body.sensor_width_mm, facts.body.sensor_height_mm)
    exposures = tuple(_with_look(item, facts, settings, depth, moving) for item in exposures)
    streak = streak_of(settings, depth, moving, shutter)
    look = exposures[carrying].look
    proposals = _proposals(facts, settings, scene, aim.wanted, counted, fading if facts.exposure.follow_fading else 0.0)
    reasons += _light_reasons(light, reading) + _wish_reasons(facts, wanted, shutter, proposals) + waiting_reasons(facts, wanted, shutter)
    reasons += range_reasons + _shutter_reasons(facts, exposures) + flash_reasons + led_reasons(facts, scene)
    reasons += filter_reasons(facts, settings, reading.predicted)
    reasons += hold_reasons(facts, settings, depth.imaging, exposures[-1].shutter_s, flash)
    frozen_by = (frozen.ids, frozen.exposure.shutter_s) if frozen is not None and frozen.exposure is not None else None
    if flash is None or not flash.alone:
        reasons += mover_reasons(facts, settings, moves, aim, shutter, frozen_by)
    if look and moving and streak is not None:
        reasons.append(_look_reason(moving, streak / short_side, streak, shutter, look))
        reasons += _looks_differ(moving, exposures, carrying)
    spoken = flash_words(flash) if flash is not None else spoken_shutter(shutter)
    text = spoken + (f", {look}" if look else "") + (f", bracket of {len(exposures)}" if len(exposures) > 1 else "")
    if reading.predicted:
        text += ", predicted"
    return ExposureStep(
        Verdict("exposure", worst_mark(reasons), text), tuple(reasons), reading.predicted, scene, settings.f_number, settings.iso,
        ledger, shutter, wanted.middle_s if wanted else None, proposals, bands, look, streak / short_side if streak is not None else None,
        moving.id if moving else None, span.stops,
        facts.body.held_stops(settings.iso), exposures, is_automatic(facts, exposures), flash, fading if followed and not lit else 0.0,
        carrying, reading.through_lens and not reading.predicted, tuple(_looking(item, settings, short_side, shutter, frozen_by) for item in moves),
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


def _look_reason(moving: Element, share: float, streak: float, shutter: float, look: str) -> Reason:
    """Return what a moving element looks like. share: its streak over the frame's short side; streak: on the sensor [mm]."""
    drawn = (
        f"{share:.0f}× the frame's short side" if share >= 2 else f"{share:.0%} of the frame's short side" if share >= 0.005
        else f"{streak * 1000:.0f} µm on the sensor"
    )  # fmt: skip
    return Reason("exposure", HOLDS, f"{moving.name} at {moving.moves_mps:g} m/s draws {drawn} in {spoken_shutter(shutter)}: {look}.", "wanted_look")  # fmt: skip


def _with_look(item: Exposure, facts: ShotFacts, settings: Settings, depth: DepthStep, moving: Element | None) -> Exposure:
    """Return an exposure with what it makes of what moves."""
    streak = streak_of(settings, depth, moving, item.shutter_s)
    if streak is None or facts.body is None:
        return item
    short_side = min(facts.body.sensor_width_mm, facts.body.sensor_height_mm)
    return replace(item, look=look_of_streak(streak, short_side, settings.coc_mm), streak_share=streak / short_side)


def _looking(
    item: Mover, settings: Settings, short_side_mm: float, shutter_s: float, frozen: tuple[frozenset[int | None], float] | None
) -> Mover:
    """Return something that moves with what it comes to: in the frame of its own where it has one."""
    time = frozen[1] if frozen is not None and item.id in frozen[0] else shutter_s
    return replace(item, look=look_of_streak(item.streak_mm_per_s * time, short_side_mm, settings.coc_mm))


def _looks_differ(moving: Element, exposures: tuple[Exposure, ...], carrying: int) -> list[Reason]:
    """Return that the frames of a set show what moves differently: put together it is taken from one of them."""
    if len({item.look for item in exposures}) < 2:
        return []
    each = ", ".join(f"{item.look} in {spoken_shutter(item.shutter_s)}" for item in exposures)
    text = f"{moving.name} looks different in each frame ({each}): take it from the frame of {spoken_shutter(exposures[carrying].shutter_s)} alone."
    return [Reason("exposure", HOLDS, text, "bracket")]


def _ledger_filter(item: Filter, metered: bool = True) -> LedgerFilter:
    """Return the filter as it counts for the shutter: a graduated one darkens the sky, not the whole frame."""
    stops = 0.0 if item.kind == FilterKind.GRADUATED else item.stops
    return LedgerFilter(item.name, stops, item.on_lens, item.on_when_metered and metered)


def _reading(facts: ShotFacts, settings: Settings, light: LightStep) -> ExposureReading | None:
    if facts.exposure.metered_f_number and facts.exposure.metered_shutter_s and facts.exposure.metered_iso:
        return ExposureReading(
            facts.exposure.metered_f_number,
            facts.exposure.metered_shutter_s,
            facts.exposure.metered_iso,
            False,
            facts.exposure.metered_through_lens,
        )
    if light.ev100 is None:
        return None
    shutter = float(shutter_for_ev_s(light.ev100, settings.f_number, settings.iso))
    return ExposureReading(settings.f_number, shutter, settings.iso, predicted=True)


def _fading_stops(facts: ShotFacts, shutter_s: float) -> float:
    """Return log2 of the time really needed over shutter_s, from the predicted fall of light; 0 where it cannot matter."""
    light = falling_light(facts)
    if light is None:
        return 0.0
    needed = light.needed_s(shutter_s)
    return math.log2(needed / shutter_s) if math.isfinite(needed) else math.inf


def _proposals(
    facts: ShotFacts, settings: Settings, scene: float, wanted: WantedTime | None, extension: float, fading: float
) -> tuple[Proposal, ...]:
    """Return settings that give what is wanted; an aperture or ISO that was set is kept unless nothing comes near with it."""
    body, lens = facts.body, facts.lens
    if wanted is None or body is None or lens is None or not math.isfinite(fading):
        return ()
    # A polariser is on for its effect and stays; a graduated filter holds the sky, not the shutter.
    bag = [_in_bag(item) for item in facts.filters if item.on_lens or item.kind == FilterKind.NEUTRAL_DENSITY]
    apertures = [mark.value for mark in APERTURE_MARKINGS if lens.takes_aperture(mark.value, settings.focal_mm)] or [settings.f_number]
    isos = [mark.value for mark in ISO_MARKINGS if body.base_iso <= mark.value <= body.max_iso] or [settings.iso]
    pinned = [("aperture", facts.depth.f_number), ("ISO", facts.exposure.iso)]
    kept = ([settings.f_number] if facts.depth.f_number else apertures, [settings.iso] if facts.exposure.iso else isos)
    rest = (settings.f_number, settings.iso, extension + facts.exposure.compensation_ev + fading)
    times = (wanted.from_s, wanted.to_s)
    film = body.film_exponent
    if film is not None:
        # Settings are found for the times that the meter gives; the film then needs those that are wanted.
        times = (float(metered_time_s(times[0], film)) if times[0] > 0 else 0.0, float(metered_time_s(times[1], film)))

    def propose(f_numbers: Sequence[float], speeds: Sequence[float]) -> tuple[Proposal, ...]:
        made = propose_settings(scene, times, bag, f_numbers, speeds, *rest)
        return tuple(replace(item, shutter_s=float(corrected_time_s(item.shutter_s, film))) for item in made) if film is not None else made

    found = propose(*kept)
    if found or not any(value for _, value in pinned):
        return found
    changed = propose(apertures, isos)
    now = {"aperture": lambda item: item.f_number, "ISO": lambda item: item.iso}
    return tuple(
        replace(item, changes=tuple(name for name, value in pinned if value and not math.isclose(now[name](item), value, rel_tol=0.01)))
        for item in changed
    )


def _in_bag(item: Filter) -> BagFilter:
    kept = item.on_lens and item.kind != FilterKind.NEUTRAL_DENSITY
    if item.stops_max is None or item.stops_min is None:
        return BagFilter(item.id, item.name, _ledger_filter(item).stops, kept)
    return BagFilter(item.id, item.name, item.stops_min, kept, item.stops_max)


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
    error, given, dial = wanted.error_stops(shutter), spoken_shutter(shutter), "wanted_look" if wanted.look else "wanted_shutter_s"
    way = "longer" if error > 0 else "shorter"
    asked = _asked(wanted)
    if wanted.look is None and abs(error) <= _TIGHT_STOPS:
        way = "longer" if error >= 0 else "shorter"
        return [Reason("exposure", HOLDS, f"{given} is {abs(error):.2f} stop {way} than the {asked} asked for.", dial)]
    if error == 0:
        return [Reason("exposure", HOLDS, f"{given} lies within {asked}.", dial)]
    most = _TIGHT_STOPS if wanted.look else _FAIL_STOPS
    text = f"{given} is {abs(error):.1f} stops {way} than {'' if wanted.look else 'the '}{asked}{'' if wanted.look else ' asked for'}: {_help(proposals)}."
    return [Reason("exposure", FAILS if abs(error) > most else TIGHT, text, dial)]


def _asked(wanted: WantedTime) -> str:
    if wanted.look is None:
        return spoken_shutter(wanted.to_s)
    if wanted.from_s <= 0:
        return f"{wanted.look}, {spoken_shutter(wanted.to_s)} at most"
    return f"{wanted.look}, {spoken_shutter(wanted.from_s)} to {spoken_shutter(wanted.to_s)}"


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
