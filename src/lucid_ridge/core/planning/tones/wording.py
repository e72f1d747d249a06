"""Sentences about the picture in tones. It is an estimate, so the sentences say so."""

from __future__ import annotations

from ...units.spelling import percent
from ..verdicts import StepName
from ..wording import Catalogue, joined, plural, stops

sentence = Catalogue("tones", StepName.EXPOSURE)


@sentence
def all_held(*, frames: int) -> str:
    return (
        f"By the estimate {'the frames together hold' if frames > 1 else 'one frame holds'} the whole "
        "picture from shadow to highlight."
    )


@sentence
def clips(*, share: float, part: str | None, less_stops: float, filter: str | None, filter_stops: float | None) -> str:
    where = "in every frame" if part is None else f"most of it {part}"
    ways = [f"expose {stops(less_stops)} less" if less_stops > 0.05 else "bracket"]
    if filter_stops is not None:
        ways.append(f"put {filter} on" if filter else f"a graduated filter of {filter_stops:.0f} stops")
    return f"By the estimate {percent(share)} of the picture clips, {where}: {', or '.join(ways)}."


@sentence
def blocks(*, share: float) -> str:
    return f"By the estimate {percent(share)} of the picture is lost in shadow: expose more, or bracket."


@sentence
def spots_disagree(*, element: str, apart_stops: float) -> str:
    return f"The spot readings of {element} differ by {stops(apart_stops)}: take them again, each of one patch."


def _differs(by: float) -> str:
    if abs(by) < 0.05:
        return "as estimated"
    return f"{stops(abs(by))} {'brighter' if by > 0 else 'darker'} than estimated"


@sentence
def spots(*, readings: int, sky_stops: float, land_stops: float) -> str:
    taken = plural(readings, "spot reading")
    return f"By {taken} the sky is {_differs(sky_stops)} and the land {_differs(land_stops)}; the picture follows them."


@sentence
def range(
    *,
    shadow_ev: float,
    middle_ev: float,
    highlight_ev: float,
    body: str,
    held_stops: float,
    room_stops: float | None,
) -> str:
    text = (
        f"Estimated: EV {shadow_ev:.1f} in the shadows, {middle_ev:.1f} in the middle, {highlight_ev:.1f} in "
        "the highlights, "
        f"{stops(highlight_ev - shadow_ev)}; {body} holds {held_stops:.3g}."
    )
    return text if room_stops is None else f"{text} Exposed to the right it could have {stops(room_stops)} more."


@sentence
def graduated(*, needed_stops: float, filters: tuple[str, ...], strength_stops: float) -> str:
    name = joined(list(filters))
    return (
        f"The sky asks for a graduated filter of {stops(needed_stops)} (sky less land less one); {name} "
        f"takes {strength_stops:g}."
    )


@sentence
def graduated_edge(*, filters: tuple[str, ...], smear_deg: float, field_deg: float) -> str:
    acts = ": even a hard edge acts as a soft one" if smear_deg > field_deg / 2 else ""
    return (
        f"The lens sees the edge of {joined(list(filters))} smeared over {smear_deg:.1f}°, the frame is "
        f"{field_deg:.0f}° high{acts}."
    )


@sentence
def darkened_by_edge(*, element: str, filters: tuple[str, ...], lost_stops: float) -> str:
    return (
        f"{element} reaches through the edge of {joined(list(filters))} and loses up to {stops(lost_stops)} "
        "at its top: tilt or lower it "
        "less, or blend two frames."
    )


def _span(low: float, high: float) -> str:
    return f"{max(0.0, low):.1f} to {max(0.0, high):.1f} stops"


@sentence
def polariser(*, low_stops: float, high_stops: float, across_deg: float, uneven: bool) -> str:
    text = f"The polariser darkens the sky by {_span(low_stops, high_stops)} beyond its cost over {across_deg:.0f}°"
    return (
        f"{text}: a dark patch shows. Zoom in, turn it half way, or leave it off on wide lenses."
        if uneven
        else f"{text}: evenly enough."
    )


@sentence
def polariser_panorama(*, low_stops: float, high_stops: float, across_deg: float, uneven: bool) -> str:
    text = f"Over {across_deg:.0f}° of panorama the polariser darkens the sky by {_span(low_stops, high_stops)}"
    return f"{text}: the frames will not join. Leave it off." if uneven else f"{text}: evenly enough."


@sentence
def separation(*, subject: str, difference_stops: float, behind: str, apart: bool, against_sky: bool) -> str:
    way = "brighter" if difference_stops > 0 else "darker"
    text = f"{subject} is {stops(abs(difference_stops))} {way} than {behind} around it"
    if apart:
        return f"{text}: it stands out."
    move = "Wait for light from the side" if against_sky else "Lower the camera to set it against the sky"
    return f"{text}: in monochrome the two merge. {move}, or light it."
