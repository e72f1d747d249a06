"""Sentences about exposure: light and shutter, filters and film, what moves, and the range of tones."""

from __future__ import annotations

from ...units.lengths import format_distance
from ...units.markings import format_aperture, format_shutter, spoken_shutter
from ...units.spelling import LocalTime, percent
from ..verdicts import StepName
from ..wording import Catalogue, joined, plural, stops

sentence = Catalogue("exposure", StepName.EXPOSURE)
motion = Catalogue("motion", StepName.EXPOSURE)
tonal = Catalogue("range", StepName.EXPOSURE)
filters = Catalogue("filters", StepName.EXPOSURE)


@sentence
def no_body_or_lens(*, lacking: str) -> str:
    return f"Choose a {lacking}: the exposure needs it."


@sentence
def no_light() -> str:
    return "Meter the scene, or choose a time so that the light can be estimated."


@sentence
def reading_carried(*, at: LocalTime, carried_stops: float, off_stops: float, of_range: bool) -> str:
    change = (
        "as it was"
        if abs(carried_stops) < 0.05
        else (f"and carried by {stops(abs(carried_stops))} to {'brighter' if carried_stops > 0 else 'darker'} light")
    )
    off = f" It may be off by {stops(off_stops)} by now." if off_stops >= 0.1 else ""
    what, are = ("Highlight, shadow and spots", "are") if of_range else ("The reading", "is")
    return f"{what} of {at} {are} used {change}.{off}"


@sentence
def reading_is_history(*, at: LocalTime, elsewhere: str, of_range: bool) -> str:
    light = f"taken at {elsewhere}" if elsewhere else "of another light"
    if of_range:
        return f"Highlight, shadow and spots of {at} were {light} and are not used: read them again."
    return f"The reading of {at} was {light} and is not used: read again, or rely on the estimate."


@sentence
def reading_contradicts(*, apart_stops: float, through_lens: bool) -> str:
    way = "brighter" if apart_stops > 0 else "darker"
    why = " A bright or dark subject may be why." if through_lens else ""
    return f"The reading is {stops(abs(apart_stops))} {way} than the light that was predicted for its time.{why}"


@sentence
def stars(
    *,
    shutter_s: float,
    trail_mm: float,
    arc_deg: float,
    by_trail_s: float,
    by_500_s: float,
    by_pixel_s: float,
    declinations_deg: tuple[float, float],
) -> str:
    low, high = (f"{item:+.0f}°" for item in declinations_deg)
    longest = f"{by_trail_s:.1f} s" if by_trail_s < 1e4 else "any time"
    arc = f" and an arc of {arc_deg:.1f}°" if arc_deg >= 0.5 else ""
    return (
        f"Stars of declination {low} to {high} stay points for {longest} by the circle of confusion, {by_500_s:.0f} s "
        f"by the rule of 500, {by_pixel_s:.1f} s by aperture and pixel; {format_shutter(shutter_s)} draws "
        f"{trail_mm:.2f} mm{arc}."
    )


@sentence
def light_too_fast() -> str:
    return (
        "The light fades faster than the shutter can gather it: open the aperture, raise the ISO or take a filter off."
    )


@sentence
def light_changes(*, fading_stops: float, steady_s: float, needed_s: float) -> str:
    way = "falls" if fading_stops > 0 else "rises"
    return (
        f"The light {way} while the shutter is open: {spoken_shutter(needed_s)} gathers what "
        f"{spoken_shutter(steady_s)} would in steady light. "
        "Switch on “follow the changing light”."
    )


@sentence
def estimated(*, source: str, ev100_low: float | None, ev100_high: float | None) -> str:
    spread = f" (EV {ev100_low:.1f} to {ev100_high:.1f})" if ev100_low is not None and ev100_high is not None else ""
    return (
        f"The exposure is estimated from where sun and moon stand, {source}{spread}; take a reading before you "
        "trust it."
    )


@sentence
def for_the_sky(*, land_under_stops: float) -> str:
    return (
        f"The exposure is for the night sky, two stops under the middle; unlit land lies "
        f"{stops(land_under_stops)} under it. "
        "Look at the first frame's histogram, and take the land by itself if it is to show."
    )


@sentence
def extended_iso(*, iso: float, body: str, lost_stops: float, low: bool) -> str:
    if low:
        return (
            f"ISO {iso:g} is extended: the {body} exposes as at base ISO and darkens the file, so that highlights clip "
            f"{stops(lost_stops)} earlier."
        )
    return f"ISO {iso:g} is extended: the {body} only brightens the file, as one can do later."


@sentence
def looks_need_speed() -> str:
    return "The look of water needs an element that moves: enter its speed."


@sentence
def within_look(*, shutter_s: float, wanted: str) -> str:
    return f"{spoken_shutter(shutter_s)} is within {wanted}."


@sentence
def near_wanted_time(*, shutter_s: float, wanted: str, error_stops: float) -> str:
    way = "longer" if error_stops >= 0 else "shorter"
    return f"{spoken_shutter(shutter_s)} is {stops(abs(error_stops), 2)} {way} than the {wanted} you want."


@sentence
def off_wanted_time(
    *,
    shutter_s: float,
    wanted: str,
    is_look: bool,
    error_stops: float,
    filters: tuple[str, ...] | None,
    f_number: float,
    iso: float,
    changes: tuple[str, ...],
) -> str:
    way = "longer" if error_stops >= 0 else "shorter"
    target = wanted if is_look else f"the {wanted} you want"
    if filters is None:
        advice = "no filters in the bag come within a stop of it"
    else:
        kept = f", which changes the {' and the '.join(changes)} you set" if changes else ""
        advice = f"take {' + '.join(filters) or 'no filter'} at {format_aperture(f_number)}, ISO {iso:g}{kept}"
    return f"{spoken_shutter(shutter_s)} is {stops(abs(error_stops))} {way} than {target}: {advice}."


@sentence
def wait_for_it(*, minutes: int, at: LocalTime) -> str:
    return f"In {minutes} min, at {at}, the light has fallen so far that this needs no neutral density."


@sentence
def too_fast_for_body(*, shutter_s: float, body: str, fastest_s: float) -> str:
    return f"{format_shutter(shutter_s)} is faster than the {body} allows ({format_shutter(fastest_s)})."


@sentence
def needs_bulb(*, shutter_s: float, slowest_s: float) -> str:
    return f"{spoken_shutter(shutter_s)} is longer than {spoken_shutter(slowest_s)}: use bulb and a timer."


@sentence
def no_bulb(*, shutter_s: float, body: str, slowest_s: float) -> str:
    return (
        f"{spoken_shutter(shutter_s)} is longer than the {body} allows, which has no bulb "
        f"({format_shutter(slowest_s)})."
    )


@motion
def drawn(*, element: str, speed_mps: float, frame_share: float, streak_mm: float, shutter_s: float, look: str) -> str:
    moved = (
        f"moves {frame_share:.0f} frame heights" if frame_share >= 2
        else f"moves {percent(frame_share)} of the frame height" if frame_share >= 0.005
        else f"moves {streak_mm * 1000:.0f} µm on the sensor"
    )  # fmt: skip
    return f"{element} at {speed_mps:.2g} m/s {moved} in {spoken_shutter(shutter_s)}: {look}."


@motion
def speed_by_the_log(*, element: str, times_entered: float, streaks: int) -> str:
    return (
        f"{element} is counted as {times_entered:.1f} times the speed entered (from "
        f"{plural(streaks, 'streak')} measured in the log)."
    )


@motion
def own_looks(*, shift_stops: float, frames: int) -> str:
    way = "longer" if shift_stops > 0 else "shorter"
    return (
        f"The looks are your own: you like streaks {stops(abs(shift_stops))} {way} than usual (from "
        f"{plural(frames, 'rated frame')})."
    )


@motion
def looks_differ(*, element: str, looks: tuple[tuple[str, float], ...], carrying_s: float) -> str:
    each = ", ".join(f"{look} in {spoken_shutter(shutter_s)}" for look, shutter_s in looks)
    return (
        f"{element} looks different in each frame ({each}): take it from the frame of "
        f"{spoken_shutter(carrying_s)} alone."
    )


@motion
def not_judged_with_flash(*, elements: tuple[str, ...]) -> str:
    return f"The flash alone lights the picture: the look of {joined(list(elements))} in its burst is not judged."


@motion
def smears(*, element: str, speed_mps: float, times_limit: float, shutter_s: float, freezes_s: float) -> str:
    return (
        f"{element} must be sharp and at {speed_mps:.3g} m/s smears over "
        f"{max(1.1, times_limit):.{0 if times_limit >= 9.95 else 1}f}× the limit "
        f"in {spoken_shutter(shutter_s)}: {format_shutter(freezes_s)} freezes it, or two frames, one frozen "
        "and one long."
    )


@motion
def look_as_wanted(*, element: str, shutter_s: float, wanted: str) -> str:
    return f"{element}: {spoken_shutter(shutter_s)} gives {wanted}."


@motion
def look_missed(
    *, element: str, wind: bool, shutter_s: float, wanted: str, error_stops: float, second_frame: str
) -> str:
    way = "longer" if error_stops > 0 else "shorter"
    model = " (our own model of the wind)" if wind else ""
    text = f"{element}{model}: {spoken_shutter(shutter_s)} is {stops(abs(error_stops))} {way} than {wanted}"
    return f"{text}, and no single time gives everything you want: take {second_frame}." if second_frame else f"{text}."


@motion
def does_not_pass(*, element: str) -> str:
    return f"{element} does not pass through the frame: only people, birds, boats and insects can vanish."


@motion
def no_rate(*, element: str) -> str:
    return f"Enter how many of {element} pass a minute: how long makes them vanish follows from it."


def _alone(empty_chance: float | None, frames: int) -> str:
    if empty_chance is None:
        return ""
    return f"; a short frame is empty {percent(empty_chance)} of the time, one of {frames} nine times in ten"


@motion
def never_vanish(*, element: str, empty_chance: float | None, frames: int) -> str:
    return (
        f"So many of {element} pass that no time makes them vanish: wait, or take many frames and blend "
        f"their medians{_alone(empty_chance, frames)}."
    )


@motion
def vanish(*, element: str, shutter_s: float, covered_share: float, unseen_share: float) -> str:
    return (
        f"{element}: in {spoken_shutter(shutter_s)} a point is covered for {percent(covered_share)} of the time "
        f"(invisible under {percent(unseen_share)}, "
        "our own model); anyone who stands still stays."
    )


@motion
def ghosts(*, element: str, shutter_s: float, from_s: float, empty_chance: float | None, frames: int) -> str:
    return (
        f"{element}: {spoken_shutter(shutter_s)} leaves ghosts; they vanish from {spoken_shutter(from_s)} on "
        "(our own model)"
        f"{_alone(empty_chance, frames)}."
    )


@motion
def passing(*, element: str, chance: float, frames: int, every_s: float) -> str:
    return (
        f"{element}: one is in {percent(chance)} of the frames; for nine times in ten take {frames}. One comes "
        f"about every {spoken_shutter(every_s)}."
    )


@motion
def clouds_drawn(*, away_m: float, frame_share: float, shutter_s: float, look: str) -> str:
    return (
        f"Clouds some {format_distance(away_m)} away move about {percent(frame_share)} of the frame height in "
        f"{spoken_shutter(shutter_s)} "
        f"(our own model of the wind up there): {look}."
    )


@motion
def gusts_smear(
    *, element: str, gust_mps: float, speed_mps: float, times_limit: float, shutter_s: float, freezes_s: float
) -> str:
    return (
        f"Gusts of {gust_mps:.0f} m/s may move {element} at {speed_mps:.1f} m/s (our own model): "
        f"{times_limit:.0f}× the limit in "
        f"{spoken_shutter(shutter_s)}, {format_shutter(freezes_s)} freezes it. Enter the speed you see, or "
        "wait for a lull."
    )


@motion
def clouds_not_judged() -> str:
    return (
        "How clouds are drawn out is not known: it needs a forecast with some cloud and wind, a tripod, "
        "and sky in the frame."
    )


@motion
def not_judged(*, element: str) -> str:
    return (
        f"The look of {element} is not known: enter its speed, or what kind of thing moves; plants need a "
        "forecast with wind."
    )


@motion
def nothing_to_freeze() -> str:
    return (
        "Choose what must be frozen: an element that must be sharp and has a speed, or one you want "
        "frozen. Until then there is one frame."
    )


@motion
def cannot_freeze(*, elements: tuple[str, ...], freezes_s: float, max_iso: float, film: bool) -> str:
    verb = "is" if len(elements) == 1 else "are"
    lacking = f"this film of ISO {max_iso:g} does not give here" if film else f"no ISO up to {max_iso:g} gives here"
    return (
        f"{joined(list(elements))} {verb} frozen only in {format_shutter(freezes_s)}, which {lacking}: "
        "open the aperture."
    )


@motion
def frozen_frame(*, elements: tuple[str, ...], shutter_s: float, iso: float, without_nd: bool, long_s: float) -> str:
    whose = "its" if len(elements) == 1 else "their"
    bare = " without the neutral density" if without_nd else ""
    return (
        f"{joined(list(elements))} in a frame of {whose} own: {spoken_shutter(shutter_s)} at ISO "
        f"{iso:g}{bare}, blended with the one of "
        f"{spoken_shutter(long_s)}."
    )


@tonal
def bad_bracket(*, message: str) -> str:
    return message


@tonal
def no_readings(*, bracket: str) -> str:
    return {
        "range": "Read the brightest and the darkest part that must keep detail: the bracket spans them.",
        "land_and_sky": "Read the brightest part of the sky that must keep detail: the second frame is for it.",
        "highlights": "Read the brightest part that must keep detail: the frame is exposed for it.",
    }[bracket]


def _from_to(fastest_s: float, slowest_s: float) -> str:
    return f"{format_shutter(fastest_s)} to {format_shutter(slowest_s)}"


def _set_by(by_hand: str | None, frames: int) -> str:
    if by_hand is None:
        return "automatic on this body"
    if by_hand == "even":
        return f"set by hand, or by the body's automatic bracket of {frames + 1}"
    return f"set by hand: {_BY_HAND[by_hand]}"


_BY_HAND = {
    "pair": "the two are no bracket around a middle",
    "step": "the body's automatic bracket has no such step",
    "count": "the body's automatic bracket has fewer frames",
    "time": "the longest is on bulb",
}


@tonal
def bracket(*, frames: int, step_ev: float, fastest_s: float, slowest_s: float, by_hand: str | None) -> str:
    return f"{frames} frames at {step_ev:g} EV, {_from_to(fastest_s, slowest_s)}, {_set_by(by_hand, frames)}."


@tonal
def too_wide(*, range_stops: float, held_stops: float, frames: int, step_ev: float) -> str:
    return (
        f"The scene spans {range_stops:g} stops, this body holds {held_stops:.3g}: bracket {frames} frames at "
        f"{step_ev:g} EV, "
        f"or give up {stops(range_stops - held_stops)}."
    )


@tonal
def negative_highlights(*, over_stops: float) -> str:
    return (
        f"The highlights are {stops(over_stops)} beyond the range: a negative still holds them, in flatter "
        "tones (common practice)."
    )


@tonal
def highlights_clip(*, over_stops: float, alone: bool) -> str:
    return (
        f"The highlights are clipped by {stops(over_stops)}: "
        f"{'compensate darker' if alone else 'move the bracket darker'}."
    )


@tonal
def slide_highlights(*, spare_stops: float) -> str:
    return (
        f"Only {stops(spare_stops)} are left over the highlights: on a slide keep a third of one, it "
        "forgives no more (common practice)."
    )


@tonal
def shadows_block(*, under_stops: float, alone: bool) -> str:
    return (
        f"The shadows block up by {stops(under_stops)}: "
        f"{'compensate brighter' if alone else 'take one frame more, or larger steps'}."
    )


@tonal
def one_frame_holds(*, range_stops: float, spare_stops: float, bracket_asked: bool) -> str:
    more = ": no bracket is needed" if bracket_asked else ""
    return f"One frame holds the {range_stops:g} stops, with {stops(spare_stops)} over the highlights{more}."


@tonal
def bracket_holds(
    *,
    range_stops: float,
    held_stops: float,
    frames: int,
    step_ev: float | None,
    fastest_s: float,
    slowest_s: float,
    by_hand: str | None,
    spare_stops: float,
) -> str:
    steps = f" at {step_ev:g} EV" if step_ev is not None else ""
    return (
        f"The scene spans {range_stops:g} stops, one frame holds {held_stops:.3g}: {frames} frames{steps}, "
        f"{_from_to(fastest_s, slowest_s)}, "
        f"{_set_by(by_hand, frames)}; {stops(spare_stops)} to spare in the shadows."
    )


@filters
def wide_polariser(*, as_focal_mm: float, from_focal_mm: float) -> str:
    return (
        f"You keep polarisers off lenses under {from_focal_mm:g} mm, and this one covers as much as "
        f"{as_focal_mm:.0f} mm: so wide a sky darkens "
        "unevenly (your preference)."
    )


@filters
def polariser_cost(*, filter: str, stops: float, low_stops: float, high_stops: float) -> str:
    return (
        f"{filter} is counted at {stops:g} stops; depending on how it is turned it costs {low_stops:g} to "
        f"{high_stops:g}: meter through it once it is turned."
    )


@filters
def polariser_on_leaves(*, filter: str, element: str) -> str:
    return f"{filter} takes the glare off {element}, most when wet: turn it for the leaves, then check the sky."


@filters
def tints(*, filter: str) -> str:
    return f"{filter} colours the whole picture: keep it for black and white."


@filters
def variable_crosses(*, filter: str, stops: float, strongest_stops: float) -> str:
    return (
        f"{filter} at {stops:g} of {strongest_stops:g} stops shows a dark cross over so wide a view: turn "
        "it back, or take a fixed filter."
    )


@filters
def slide_estimated() -> str:
    return "A slide forgives a third of a stop either way; no estimate is that accurate: meter."


@filters
def negative_underexposed() -> str:
    return "A negative takes more light better than less: expose for the shadows, half a stop over does no harm."
