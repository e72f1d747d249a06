"""Step 5, the picture in tones in sentences: range, clipping, graduated filters, polariser, and how the subject stands out."""

from __future__ import annotations

import math

import numpy as np

from ...exposure.graduated import needed_stops
from ...exposure.polariser import CLEAR_SKY_MAXIMUM, polarisation_degree
from ...facts.kit import Filter, FilterKind
from ...facts.shot import ShotFacts
from ...framing.projection import field_of_view_deg
from ...tones.picture import SKY
from ...tones.quantiles import quantiles
from ..verdicts import HOLDS, TIGHT, Reason
from .plan import TonesStep, part_name

# A share of the picture that may clip or block without being spoken of.
_LITTLE = 0.005
# Over so many stops between one side of the sky and the other a polariser is seen to be uneven (common practice).
_UNEVEN_STOPS = 0.8
_APART_STOPS = 0.7
# What a graduated filter may take from something upright before it shows.
_LOST_STOPS = 0.5
_DIAL = "highlight_ev"


def tone_reasons(facts: ShotFacts, step: TonesStep) -> tuple[Reason, ...]:
    """Return what is to be said of the picture in tones. It is predicted, so that nothing of it fails: what is wrong is tight."""
    return (
        *_clipping(facts, step),
        *_range(facts, step),
        *_readings(facts, step),
        *_graduated(facts, step),
        *_polariser(facts, step),
        *_separation(facts, step),
    )


def needed_graduated_stops(step: TonesStep) -> float | None:
    """Return the strength of graduated filter that the picture asks for [stops]; None without both sky and land."""
    bare = step.bare_ev
    sky, land = step.picture.marks == SKY, step.picture.marks != SKY
    if not sky.any() or not land.any():
        return None
    # Sky as its brighter part, which is what clips; land as its middle.
    return float(needed_stops(float(quantiles(bare[sky], (0.75,))[0]), float(np.median(bare[land]))))


def to_the_right_stops(facts: ShotFacts, step: TonesStep) -> float | None:
    """Return how much more the exposure could be until the highlights, with their margin, are just held [stops]; negative: less."""
    if not step.frames:
        return None
    return step.frames[0].brightest_ev - facts.exposure.highlight_margin_ev - step.highlight_ev


def compensation_to_the_right(facts: ShotFacts, step: TonesStep) -> float | None:
    """Return the compensation [EV, whole thirds] that exposes to the right; None without an exposure."""
    room = to_the_right_stops(facts, step)
    return None if room is None else math.floor(3 * (facts.exposure.compensation_ev + room) + 1e-6) / 3


def _clipping(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    if not step.frames:
        return []
    # Of a bracket the darkest frame keeps the highlights and the brightest the shadows.
    clipped, blocked = min(item.clipped for item in step.frames), min(item.blocked for item in step.frames)
    several = len(step.frames) > 1
    if clipped <= _LITTLE and blocked <= _LITTLE:
        text = f"As predicted {'the frames together hold' if several else 'one frame holds'} the whole picture from shadow to highlight."
        return [Reason("exposure", HOLDS, text, _DIAL)]
    found = []
    if clipped > _LITTLE:
        where = "in every frame" if several else _where(facts, step, min(item.brightest_ev for item in step.frames))
        text = f"As predicted {clipped:.0%} of the picture clips, {where}: {_cure(facts, step)}."
        found.append(Reason("exposure", TIGHT, text, "compensation_ev"))
    if blocked > _LITTLE:
        found.append(
            Reason("exposure", TIGHT, f"As predicted {blocked:.0%} of the picture is lost in shadow: expose more, or bracket.", "bracket")
        )
    return found


def _where(facts: ShotFacts, step: TonesStep, brightest_ev: float) -> str:
    marks, counts = np.unique(step.picture.marks[step.seen_ev > brightest_ev], return_counts=True)
    return f"most of it {part_name(facts, int(marks[counts.argmax()]))}"


def _cure(facts: ShotFacts, step: TonesStep) -> str:
    less = -(to_the_right_stops(facts, step) or 0.0)
    ways = [f"expose {less:.1f} stop{'s' if less >= 1.05 else ''} less" if less > 0.05 else "bracket"]
    needed = needed_graduated_stops(step)
    if step.graduated is None and needed is not None and needed >= 1:
        best = nearest_graduated(facts, needed)
        ways.append(f"put {best.name} on" if best else f"a graduated filter of {needed:.0f} stops")
    return ", or ".join(ways)


def nearest_graduated(facts: ShotFacts, needed: float) -> Filter | None:
    """Return the graduated filter of the bag whose strength comes nearest to what is needed [stops]; None without one."""
    bag = [item for item in facts.filters if item.kind == FilterKind.GRADUATED]
    return min(bag, key=lambda item: abs(item.stops - needed), default=None)


def _readings(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    found = [
        Reason("exposure", TIGHT, f"The spot readings of {name} lie {apart:.1f} stops apart: take them again, of one patch each.", "spots")
        for name, apart in step.corrections.odd
    ]
    moved = [item for item in (step.corrections.sky, step.corrections.land) if abs(item) >= 0.05]
    if facts.spots and moved:
        text = (
            f"By {len(facts.spots)} spot reading{'s' if len(facts.spots) > 1 else ''} the sky is {_differs(step.corrections.sky)} and the land "
            f"{_differs(step.corrections.land)} than predicted; the picture follows them."
        )
        found.append(Reason("exposure", HOLDS, text, "spots"))
    return found


def _differs(stops: float) -> str:
    if abs(stops) < 0.05:
        return "no different"
    return f"{abs(stops):.1f} stop{'s' if abs(stops) >= 1.05 else ''} {'brighter' if stops > 0 else 'darker'}"


def _range(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    span, room = step.highlight_ev - step.shadow_ev, to_the_right_stops(facts, step)
    body = facts.body
    assert body is not None
    text = f"Predicted: EV {step.shadow_ev:.1f} in the shadows, {step.middle_ev:.1f} in the middle, {step.highlight_ev:.1f} in the highlights, {span:.1f} stops; {body.name} holds {step.held_stops:.3g}."
    if room is not None and room > 0.15:
        text += f" Exposed to the right it could have {room:.1f} stop{'s' if room >= 1.05 else ''} more."
    return [Reason("exposure", HOLDS if span <= step.held_stops else TIGHT, text, _DIAL)]


def _graduated(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    edge, needed = step.graduated, needed_graduated_stops(step)
    if edge is None:
        return []
    field = float(field_of_view_deg(step.camera.frame_mm[1], step.camera.focal_mm))
    name = " and ".join(edge.names)
    found = []
    if needed is not None:
        fits = abs(edge.strength_stops - needed) <= 1
        text = f"The sky asks for a graduated filter of {needed:.1f} stops (sky less land less one); {name} takes {edge.strength_stops:g}."
        found.append(Reason("exposure", HOLDS if fits else TIGHT, text, "filters"))
    smear = f"The lens sees the edge of {name} smeared over {edge.smear_deg:.1f}°, the frame is {field:.0f}° high"
    acts = ": even a hard edge acts as a soft one" if edge.smear_deg > field / 2 else ""
    found.append(Reason("exposure", HOLDS, f"{smear}{acts}.", "f_number"))
    taken = edge.stops_over(*step.seen_ev.shape)
    for at, item in enumerate(facts.elements):
        mask = step.picture.marks == at
        if not mask.any():
            continue
        lost = float(quantiles(taken[mask], (0.9,))[0])
        if lost > _LOST_STOPS and item.shape not in ("ridge", "skyline"):
            text = f"{item.name} stands through the edge of {name} and loses up to {lost:.1f} stops at its top: tilt or lower it less, or blend two frames."
            found.append(Reason("exposure", TIGHT, text, "graduated_at"))
    return found


def _polariser(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    across = facts.frame.pano_across_deg
    if step.polariser_on and across is not None:
        return _over_a_panorama(step, across)
    low, high = step.polariser_low_stops, step.polariser_high_stops
    if not step.polariser_on or low is None or high is None:
        return []
    wide = float(field_of_view_deg(step.camera.frame_mm[0], step.camera.focal_mm))
    said = f"The polariser darkens the sky by {max(0.0, low):.1f} to {max(0.0, high):.1f} stops beyond its cost over {wide:.0f}°"
    if high - low > _UNEVEN_STOPS:
        text = f"{said}: a dark patch shows. Zoom in, turn it half way, or leave it off on wide lenses."
        return [Reason("exposure", TIGHT, text, "filters")]
    return [Reason("exposure", HOLDS, f"{said}: even enough.", "filters")]


def _over_a_panorama(step: TonesStep, across_deg: float) -> list[Reason]:
    """Return how unevenly a polariser darkens the sky over a panorama, a hand's width over the horizon."""
    light = step.scene.light
    bearings = step.camera.bearing_deg + np.linspace(-across_deg / 2, across_deg / 2, 37)
    most = CLEAR_SKY_MAXIMUM * (1 - light.oktas / 8)
    degree = np.asarray(polarisation_degree(light.sun_altitude_deg, light.sun_azimuth_deg, 15.0, bearings, most))
    taken = -np.log2(1 - degree)
    low, high = float(taken.min()), float(taken.max())
    said = f"Over {across_deg:.0f}° of panorama the polariser darkens the sky by {low:.1f} to {high:.1f} stops"
    if high - low > _UNEVEN_STOPS:
        return [Reason("exposure", TIGHT, f"{said}: the frames will not join. Leave it off.", "filters")]
    return [Reason("exposure", HOLDS, f"{said}: even enough.", "filters")]


def _separation(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    found, subject = step.separation, facts.subject
    if found is None or subject is None:
        return []
    way = "brighter" if found.stops > 0 else "darker"
    text = f"{subject.name} is {abs(found.stops):.1f} stop{'s' if abs(found.stops) >= 1.05 else ''} {way} than {found.behind} around it"
    if abs(found.stops) >= _APART_STOPS:
        return [Reason("exposure", HOLDS, f"{text}: it stands out.", "time_utc")]
    move = "Lower the camera to set it against the sky" if not found.against_sky else "Wait for light from the side"
    return [Reason("exposure", TIGHT, f"{text}: in monochrome the two run together. {move}, or light it.", "camera_height_m")]
