"""Sentences about depth of field, stacks, and how the camera is held."""

from __future__ import annotations

import math

from ...units.lengths import format_distance, format_duration
from ...units.markings import format_aperture, format_shutter
from ...units.spelling import LocalTime, percent
from ..verdicts import StepName
from ..wording import Catalogue, joined, plural, stops

sentence = Catalogue("focus", StepName.DEPTH)
holding = Catalogue("holding", StepName.EXPOSURE)
stack = Catalogue("stack", StepName.SEQUENCE)


def times(times_limit: float) -> str:
    """Return a blur beyond the limit as its multiple; at least 1.1, so that it never reads as sharp."""
    return f"{max(1.1, times_limit):.1f}×" if times_limit < 9.95 else f"{times_limit:.0f}×"


def _span(near_m: float, far_m: float) -> str:
    return (
        format_distance(near_m)
        if math.isclose(near_m, far_m)
        else f"{format_distance(near_m)} to {format_distance(far_m)}"
    )


def _degrees(celsius: float) -> str:
    return f"{celsius:.0f} °C".replace("-", "−")


@sentence
def no_body_or_lens(*, lacking: str) -> str:
    return f"Choose a {lacking}: depth of field starts from it."


@sentence
def no_subject_depth() -> str:
    return "Enter how deep the subject is, in mm from its nearest to its farthest sharp point."


@sentence
def nothing_sharp() -> str:
    return "Choose which elements must be sharp, or type a near and a far limit."


@sentence
def sharp_behind_camera(*, elements: tuple[str, ...]) -> str:
    return (
        f"{joined(list(elements))} must be sharp but cannot be judged behind the camera: turn it, or type "
        "a near and a far limit."
    )


@sentence
def far_before_near(*, near_m: float, far_m: float) -> str:
    return f"The far limit ({format_distance(far_m)}) is closer than the near limit ({format_distance(near_m)})."


@sentence
def within_focal_length(*, near_m: float) -> str:
    return f"{format_distance(near_m)} lies within the focal length: no lens images that."


@sentence
def too_many_frames(*, message: str) -> str:
    return message


@sentence
def no_rail_to_infinity() -> str:
    return "A rail cannot reach to infinity: planned with the focus ring."


@sentence
def shorter_when_close(*, focal_mm: float) -> str:
    return (
        f"Focused this close, the lens works at {focal_mm:.0f} mm: known from its closest focus and largest "
        "magnification, and in proportion "
        "between there and infinity."
    )


@sentence
def diffraction_too_soft(
    *, f_number: float, airy_mm: float, coc_mm: float, better_f_number: float | None, better_frames: int
) -> str:
    relation = "as much as" if airy_mm <= coc_mm else "more than"
    text = (
        f"Too soft from diffraction, whatever the stack: {format_aperture(f_number)} draws points "
        f"{airy_mm * 1000:.0f} µm wide, {relation} "
        f"the {coc_mm * 1000:.0f} µm allowed."
    )
    return (
        text
        if better_f_number is None
        else f"{text} {format_aperture(better_f_number)} works in {plural(better_frames, 'frame')}."
    )


@sentence
def range_soft(*, focused_m: float, times_limit: float) -> str:
    return (
        f"One frame focused at {format_distance(focused_m)} is too soft at the ends ({times(times_limit)} "
        "the limit): stop down or take a stack."
    )


@sentence
def range_sharp(*, focused_m: float, near_m: float, far_m: float, blur_mm: float, coc_mm: float) -> str:
    span = _span(near_m, far_m)
    return (
        f"One frame focused at {format_distance(focused_m)} is sharp over {span} ({blur_mm * 1000:.0f} of "
        f"{coc_mm * 1000:.0f} µm, with diffraction)."
    )


@sentence
def soft_element(*, element: str, sharpness: str, outside: bool, close_up: bool) -> str:
    where = "" if not outside else ", outside the depth entered" if close_up else ", outside the limits entered"
    return f"{element} is {sharpness}{where}: widen the range."


@sentence
def element_behind_camera(*, element: str) -> str:
    return f"{element} must be sharp but is behind the camera: turn it to judge that."


@sentence
def no_ground_in_frame() -> str:
    return "No ground is in the frame, so none can be sharp at its edge."


@sentence
def third_of_infinity() -> str:
    return "A third of the way to infinity is no distance: focused so that near and far are equally blurred instead."


@sentence
def no_subject_to_focus(*, behind_camera: bool) -> str:
    what = "The subject is behind the camera" if behind_camera else "Choose the subject to focus on"
    return f"{what}; until then near and far are equally blurred."


@sentence
def no_such_aperture(*, f_number: float, lens: str, widest_f_number: float, smallest_f_number: float) -> str:
    return (
        f"{format_aperture(f_number)} is outside the range of the {lens} "
        f"({format_aperture(widest_f_number)} to {format_aperture(smallest_f_number)})."
    )


@sentence
def no_such_magnification(*, lens: str, wanted: float, smallest: float, largest: float) -> str:
    limit = f"reaches {largest:.2g}:1" if wanted > largest else f"gives at least {smallest:.2g}:1"
    return f"{lens} {limit}, not {wanted:g}:1."


@sentence
def too_close(*, focus_m: float, lens: str, closest_m: float) -> str:
    return (
        f"The nearest focus position, {format_distance(focus_m)} from the sensor, is closer than the "
        f"{lens} focuses ({format_distance(closest_m)})."
    )


@sentence
def out_of_reach(*, lens: str, near_m: float, far_m: float, wanted_m: float) -> str:
    return (
        f"{lens} with its accessories focuses from {format_distance(near_m)} to {format_distance(far_m)} "
        "before the lens, "
        f"not on {format_distance(wanted_m)}."
    )


@sentence
def ring_stack(
    *, frames: int, first_m: float, last_m: float, blur_mm: float | None, coc_mm: float, framing_change: float
) -> str:
    sharp = (
        ""
        if blur_mm is None
        else f", sharp throughout ({blur_mm * 1000:.0f} of {coc_mm * 1000:.0f} µm, with diffraction)"
    )
    return (
        f"{frames} focus positions from {format_distance(first_m)} to {format_distance(last_m)}{sharp}; "
        f"refocusing changes the framing by {percent(framing_change, 1)}: leave that margin."
    )


@sentence
def rail_stack(
    *,
    frames: int,
    step_mm: float,
    travel_mm: float,
    moves_subject: bool,
    rail: str | None,
    rail_travel_mm: float,
    rail_finest_mm: float,
) -> str:
    what = "subject" if moves_subject else "camera"
    text = f"{frames} frames on the rail, {step_mm:.2f} mm apart, travel {travel_mm:.1f} mm; the {what} is moved."
    if rail is None:
        return text
    if travel_mm > rail_travel_mm * 1.001:
        return f"{text} {rail} travels only {rail_travel_mm:g} mm."
    if step_mm < rail_finest_mm * 0.999:
        return f"{text} The finest step of {rail} is {rail_finest_mm:g} mm: stop down or ask for less sharpness."
    return f"{text} {rail} can do that: {rail_travel_mm:g} mm in steps from {rail_finest_mm:g} mm."


@sentence
def no_rail() -> str:
    return "No rail is chosen: choose one to check its travel and its finest step against the stack."


@sentence
def hand_stack_rate_missing(*, frames: int, step_mm: float) -> str:
    return (
        f"By hand, {frames} frames {step_mm:.2f} mm apart: enter how many frames a second the body takes, "
        "and how fast to lean in follows."
    )


@sentence
def hand_stack(*, frames: int, step_mm: float, frames_per_s: float) -> str:
    return (
        f"By hand: lock the focus at this magnification and lean in at {step_mm * frames_per_s:.1f} mm/s "
        f"while taking {frames_per_s:g} frames "
        f"a second; {frames} frames, {step_mm:.2f} mm apart, take {frames / frames_per_s:.1f} s."
    )


@sentence
def hand_stack_hits_missing() -> str:
    return (
        "Enter how many of your series by hand succeed, and how many to take follows; practise on what "
        "keeps still, a shell or a seed head."
    )


@sentence
def hand_stack_tries(*, hit_rate: float, log_series: int | None, tries: int) -> str:
    by = f" (from {plural(log_series, 'series', 'series')} of the log)" if log_series is not None else ""
    return (
        f"With {percent(hit_rate)} of your series good{by}, expect {plural(tries, 'try', 'tries')} for one good stack."
    )


@sentence
def hands() -> str:
    return (
        "Left hand under the lens and on what the subject stands on, where that harms nothing; right hand on "
        "the body, elbows on the knees or "
        "the ground."
    )


_HELD = {"hand": "By hand", "boat": "From a moving boat"}


@holding
def flash_stops_motion(*, hold: str, shutter_s: float) -> str:
    return (
        f"{_HELD[hold]} the flash's short burst is the exposure; {format_shutter(shutter_s)} need not stop any motion."
    )


@holding
def too_slow(*, hold: str, shutter_s: float, limit_s: float, over_stops: float, brace: bool) -> str:
    more = " Braced, lying or with your elbows down, 1/200 may work." if brace else ""
    return (
        f"{_HELD[hold]} {format_shutter(shutter_s)} is {stops(over_stops)} longer than the "
        f"{format_shutter(limit_s)} you can hold still.{more}"
    )


@holding
def fast_enough(*, hold: str, shutter_s: float, limit_s: float) -> str:
    return f"{_HELD[hold]} {format_shutter(shutter_s)} is within the {format_shutter(limit_s)} you can hold still."


@holding
def bean_bag_too_high(*, camera_height_m: float) -> str:
    return (
        f"A bean bag lies on the ground or on a wall: at {format_distance(camera_height_m)} it needs "
        "something to lie on."
    )


@holding
def timer(*, wait_s: float, timer_s: float) -> str:
    return f"Stabiliser off, and a self-timer of {wait_s:.0f} s or a release; the timer is set to {timer_s:g} s."


def _still(still: tuple[LocalTime, LocalTime, float, float] | None, known: bool) -> str:
    if still is None:
        return " No hour of that day is forecast still." if known else ""
    start, end, cold, warm = still
    degrees = _degrees(cold) if round(cold) == round(warm) else f"{cold:.0f} to {_degrees(warm)}".replace("-", "−")
    return f" Still air is forecast from {start} to {end}, {degrees}."


@stack
def bump(*, total_s: float) -> str:
    return f"A bump between two frames means starting the whole series again: {format_duration(total_s)}."


@stack
def wind(*, wind_mps: float, still: tuple[LocalTime, LocalTime, float, float] | None) -> str:
    return (
        f"Wind of {wind_mps:.0f} m/s keeps leaves and stems in constant motion: the frames will not "
        f"match.{_still(still, True)}"
    )


@stack
def light_wind(*, wind_mps: float, still: tuple[LocalTime, LocalTime, float, float] | None) -> str:
    return f"Wind of {wind_mps:.0f} m/s stirs leaves: take each frame in a lull.{_still(still, True)}"


@stack
def still_air(*, wind_mps: float) -> str:
    return f"The air is forecast still, {wind_mps:.1f} m/s: plants do not move."


@stack
def insects_awake(*, temperature_c: float) -> str:
    return f"At {_degrees(temperature_c)} insects are awake: come in the cool of the morning."
