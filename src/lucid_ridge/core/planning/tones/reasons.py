"""Reasons from the picture in tones: range, clipping, graduated filters, polariser, separation of the subject."""

from __future__ import annotations

import math

import numpy as np

from ...exposure.graduated import needed_stops
from ...exposure.polariser import CLEAR_SKY_MAXIMUM, polarisation_degree
from ...facts.filters import Filter
from ...facts.shot import ShotFacts
from ...framing.projection import field_of_view_deg
from ...tones.picture import SKY
from ...tones.quantiles import quantiles
from ..reasons import Reason
from ..verdicts import HOLDS, TIGHT
from . import wording as say
from .plan import TonesStep, part_name

# A share of the picture that may clip or block without a reason.
_LITTLE = 0.005
# A difference across the sky from which a polariser looks uneven (common practice) [stops].
_UNEVEN_STOPS = 0.8
_APART_STOPS = 0.7
# How much a graduated filter may darken an upright element before it shows [stops].
_LOST_STOPS = 0.5
_DIAL = "highlight_ev"


def tone_reasons(facts: ShotFacts, step: TonesStep) -> tuple[Reason, ...]:
    """Return the reasons from the picture in tones. It is an estimate, so nothing fails: problems are tight."""
    return (
        *_clipping(facts, step),
        *_range(facts, step),
        *_readings(facts, step),
        *_graduated(facts, step),
        *_polariser(facts, step),
        *_separation(facts, step),
    )


def needed_graduated_stops(step: TonesStep) -> float | None:
    """Return the strength of graduated filter that the picture needs [stops]; None without both sky and land."""
    bare = step.bare_ev
    sky, land = step.picture.marks == SKY, step.picture.marks != SKY
    if not sky.any() or not land.any():
        return None
    # The brighter part of the sky clips first, so it stands for the sky; the median stands for the land.
    return float(needed_stops(float(quantiles(bare[sky], (0.75,))[0]), float(np.median(bare[land]))))


def to_the_right_stops(facts: ShotFacts, step: TonesStep) -> float | None:
    """Return how much more exposure the highlights allow, with their margin [stops]; negative: less is needed."""
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
    # In a bracket the darkest frame holds the highlights and the brightest the shadows.
    clipped, blocked = min(item.clipped for item in step.frames), min(item.blocked for item in step.frames)
    several = len(step.frames) > 1
    if clipped <= _LITTLE and blocked <= _LITTLE:
        return [say.all_held(frames=len(step.frames)).holds(_DIAL)]
    found = []
    if clipped > _LITTLE:
        part = None if several else _clipping_part(facts, step, min(item.brightest_ev for item in step.frames))
        needed = needed_graduated_stops(step)
        help_ = step.graduated is None and needed is not None and needed >= 1
        best = nearest_graduated(facts, needed) if help_ and needed is not None else None
        words = say.clips(
            share=clipped,
            part=part,
            less_stops=-(to_the_right_stops(facts, step) or 0.0),
            filter=best.name if best else None,
            filter_stops=needed if help_ else None,
        )
        found.append(words.tight("compensation_ev"))
    if blocked > _LITTLE:
        found.append(say.blocks(share=blocked).tight("bracket"))
    return found


def _clipping_part(facts: ShotFacts, step: TonesStep, brightest_ev: float) -> str:
    """Return the name of the part of the picture with most of what clips."""
    marks, counts = np.unique(step.picture.marks[step.seen_ev > brightest_ev], return_counts=True)
    return part_name(facts, int(marks[counts.argmax()]))


def nearest_graduated(facts: ShotFacts, needed: float) -> Filter | None:
    """Return the graduated filter of the bag whose strength is nearest to the needed one [stops]; None without one."""
    bag = [item for item in facts.filters if item.kind.graduates]
    return min(bag, key=lambda item: abs(item.stops - needed), default=None)


def _readings(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    found = [say.spots_disagree(element=name, apart_stops=apart).tight("spots") for name, apart in step.corrections.odd]
    sky, land = step.corrections.sky, step.corrections.land
    if facts.spots and max(abs(sky), abs(land)) >= 0.05:
        found.append(say.spots(readings=len(facts.spots), sky_stops=sky, land_stops=land).holds("spots"))
    return found


def _range(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    span, room = step.highlight_ev - step.shadow_ev, to_the_right_stops(facts, step)
    body = facts.body
    assert body is not None
    words = say.range(
        shadow_ev=step.shadow_ev,
        middle_ev=step.middle_ev,
        highlight_ev=step.highlight_ev,
        body=body.name,
        held_stops=step.held_stops,
        room_stops=room if room is not None and room > 0.15 else None,
    )
    return [words.reason(HOLDS if span <= step.held_stops else TIGHT, _DIAL)]


def _graduated(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    edge, needed = step.graduated, needed_graduated_stops(step)
    if edge is None:
        return []
    field = float(field_of_view_deg(step.camera.frame_mm[1], step.camera.focal_mm))
    found = []
    if needed is not None:
        fits = abs(edge.strength_stops - needed) <= 1
        words = say.graduated(needed_stops=needed, filters=edge.names, strength_stops=edge.strength_stops)
        found.append(words.reason(HOLDS if fits else TIGHT, "filters"))
    found.append(say.graduated_edge(filters=edge.names, smear_deg=edge.smear_deg, field_deg=field).holds("f_number"))
    taken = edge.stops_over(*step.seen_ev.shape)
    for at, item in enumerate(facts.elements):
        mask = step.picture.marks == at
        if not mask.any():
            continue
        lost = float(quantiles(taken[mask], (0.9,))[0])
        if lost > _LOST_STOPS and item.shape not in ("ridge", "skyline"):
            words = say.darkened_by_edge(element=item.name, filters=edge.names, lost_stops=lost)
            found.append(words.tight("graduated_at"))
    return found


def _polariser(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    across = facts.frame.pano_across_deg
    if step.polariser_on and across is not None:
        return _over_a_panorama(step, across)
    low, high = step.polariser_low_stops, step.polariser_high_stops
    if not step.polariser_on or low is None or high is None:
        return []
    wide = float(field_of_view_deg(step.camera.frame_mm[0], step.camera.focal_mm))
    uneven = high - low > _UNEVEN_STOPS
    words = say.polariser(low_stops=low, high_stops=high, across_deg=wide, uneven=uneven)
    return [words.reason(TIGHT if uneven else HOLDS, "filters")]


def _over_a_panorama(step: TonesStep, across_deg: float) -> list[Reason]:
    """Return how unevenly a polariser darkens the sky over a panorama, at 15° altitude."""
    light = step.scene.light
    bearings = step.camera.bearing_deg + np.linspace(-across_deg / 2, across_deg / 2, 37)
    most, body = CLEAR_SKY_MAXIMUM * light.polarised_share, light.sky[0]
    degree = np.asarray(polarisation_degree(body.altitude_deg or 0.0, body.azimuth_deg, 15.0, bearings, most))
    taken = -np.log2(1 - degree)
    low, high = float(taken.min()), float(taken.max())
    uneven = high - low > _UNEVEN_STOPS
    words = say.polariser_panorama(low_stops=low, high_stops=high, across_deg=across_deg, uneven=uneven)
    return [words.reason(TIGHT if uneven else HOLDS, "filters")]


def _separation(facts: ShotFacts, step: TonesStep) -> list[Reason]:
    found, subject = step.separation, facts.subject
    if found is None or subject is None:
        return []
    apart = abs(found.stops) >= _APART_STOPS
    words = say.separation(
        subject=subject.name,
        difference_stops=found.stops,
        behind=found.behind,
        apart=apart,
        against_sky=found.against_sky,
    )
    return [words.holds("time_utc") if apart else words.tight("camera_height_m")]
