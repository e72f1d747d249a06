"""Sentences about a close-up: its field, working distance, background, veils and shadows."""

from __future__ import annotations

import math

from ...units.lengths import format_distance
from ...units.markings import format_aperture
from ...units.spelling import percent
from ..verdicts import StepName
from ..wording import Catalogue, stops

sentence = Catalogue("close_up", StepName.FRAME)


@sentence
def field(*, magnification: float, width_mm: float, height_mm: float) -> str:
    return f"At {magnification:g}:1 the frame covers {width_mm:.1f} × {height_mm:.1f} mm."


@sentence
def card_too_narrow(*, card: str) -> str:
    return f"{card} is narrower than the field and nowhere fills it."


@sentence
def card(*, card: str, reach_m: float, over_mid_stops: float) -> str:
    side = "over" if over_mid_stops > 0 else "under"
    tone = "a mid tone" if abs(over_mid_stops) < 0.2 else f"{stops(abs(over_mid_stops))} {side} a mid tone"
    return f"{card} fills the frame up to {format_distance(reach_m)} behind the subject, as {tone} in the same light."


def _before(element: str, near_m: float, blur_share: float) -> str:
    return f"{element}, {format_distance(near_m)} from the lens, is blurred over {percent(blur_share)} of the width"


@sentence
def veil(*, element: str, near_m: float, blur_share: float) -> str:
    return f"{_before(element, near_m, blur_share)}: a veil before the subject."


@sentence
def half_sharp(
    *, element: str, near_m: float, blur_share: float, veils_from_m: float, veils_at_f_number: float | None
) -> str:
    ways = [f"{format_distance(veils_from_m)} from the lens"]
    if veils_at_f_number is not None:
        ways.insert(0, f"at {format_aperture(veils_at_f_number)}")
    return (
        f"{_before(element, near_m, blur_share)}: neither sharp nor a veil. It veils {' or '.join(ways)}; "
        "or keep it out of the frame."
    )


@sentence
def move_camera(*, magnification: float, subject: str, object_mm: float, nearer_mm: float) -> str:
    way = "nearer to" if nearer_mm > 0 else "further from"
    return (
        f"In focus at {magnification:g}:1 the lens is {object_mm:.0f} mm from {subject}: "
        f"{format_distance(abs(nearer_mm) / 1000)} {way} it "
        "than the camera was placed."
    )


@sentence
def inside_lens() -> str:
    return "The subject would have to lie inside the lens: take a longer lens or a smaller magnification."


@sentence
def working_distance(*, working_mm: float, lens_length_known: bool, insect_flies: bool) -> str:
    origin = "from the front of the lens" if lens_length_known else "from the lens (its length is not known)"
    text = f"The subject is {working_mm:.0f} mm {origin}"
    return (
        f"{text}: an insect will fly off. Twice the focal length gives nearly twice the distance."
        if insect_flies
        else f"{text}."
    )


@sentence
def nothing_behind(*, melts_from_m: float, melts_share: float) -> str:
    if math.isinf(melts_from_m):
        return (
            "Nothing is entered behind the subject; at this aperture no background blurs over "
            f"{percent(melts_share)} of the width: open up for one that does."
        )
    return f"Nothing is entered behind the subject: from {format_distance(melts_from_m)} behind it, a background melts."


@sentence
def background(
    *,
    element: str,
    times_subject_distance: float,
    blur_share: float,
    melts: bool,
    melts_share: float,
    melts_from_m: float | None,
) -> str:
    share = percent(blur_share, 0 if blur_share >= 0.01 else 1)
    lies = f"{element} is {times_subject_distance:.1f} times as far behind the subject as the camera is before it"
    if melts:
        return f"{lies} and melts: its blur is {share} of the frame's width."
    more = "open up" if melts_from_m is None else f"it melts from {format_distance(melts_from_m)}, or open up"
    return (
        f"{lies} and does not melt: its blur is {share} of the frame's width, {percent(melts_share)} is needed: {more}."
    )


@sentence
def level(*, subject: str, above_mm: float, is_level: bool) -> str:
    if is_level:
        return f"The camera is level with {subject} ({abs(above_mm):.0f} mm off its middle)."
    return (
        f"The camera looks from {abs(above_mm):.0f} mm {'above' if above_mm > 0 else 'below'} the middle of {subject}."
    )


@sentence
def lens_shades(*, sun_off_deg: float) -> str:
    return (
        f"The lens is in the sun's way ({sun_off_deg:.0f}° off it) and shades the subject: move round it, "
        "or back with a longer lens."
    )


@sentence
def own_shadow() -> str:
    return "The sun comes over your shoulder, low: your own shadow falls on the subject."


@sentence
def leave_no_trace() -> str:
    return "Watch where your shadow and your knees go; tidy, bend or uproot nothing for the picture."
