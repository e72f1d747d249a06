"""Step 5, what is to be minded of filters and film: polarisers, filters that are turned, what slides and negatives forgive.

Sources: a polariser costs 1 to 3 stops as it is turned, a variable filter near its strongest shows a dark cross over a wide view, a slide forgives a third of a
stop and a negative would rather have too much: all common practice.
"""

from __future__ import annotations

from ...facts.kit import FilmKind, FilterKind
from ...facts.materials import material_of
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...light.materials import Material
from ...optics.circle_of_confusion import crop_factor
from ..verdicts import CAUTION, TIGHT, Reason

_POLARISER_COST_STOPS = (1.0, 3.0)
# From so near its strongest, and over so wide a view, a variable filter crosses.
_CROSS_WITHIN_STOPS, _CROSS_UNDER_MM = 1.0, 35.0
_FOLIAGE = (Material.LEAVES, Material.GRASS, Material.CONIFERS, Material.PEAT)


def _equivalent_focal_mm(facts: ShotFacts, settings: Settings) -> float:
    """Return the focal length that shows as much on 36 × 24 mm [mm]."""
    assert facts.body is not None
    return settings.focal_mm * crop_factor(facts.body.sensor_width_mm, facts.body.sensor_height_mm)


def filter_reasons(facts: ShotFacts, settings: Settings, predicted: bool) -> list[Reason]:
    """Return what is to be minded of the filters on the lens and of the film."""
    return [*_polarisers(facts, settings, predicted), *_turned(facts, settings), *_film(facts, predicted)]


def _polarisers(facts: ShotFacts, settings: Settings, predicted: bool) -> list[Reason]:
    found = []
    wide = _equivalent_focal_mm(facts, settings)
    for item in facts.filters_on(FilterKind.POLARISER):
        least = facts.polariser_from_mm
        if least is not None and wide < least * (1 - 1e-6):
            text = f"You keep polarisers off lenses under {least:g} mm, and this one shows as much as {wide:.0f} mm: so wide a sky darkens unevenly (your preference)."
            found.append(Reason("exposure", TIGHT, text, "filters"))
        if predicted or not item.on_when_metered:
            low, high = _POLARISER_COST_STOPS
            text = f"{item.name} is counted at {item.stops:g} stops; as it is turned it costs {low:g} to {high:g}: meter through it once it is turned."
            found.append(Reason("exposure", CAUTION, text, "filters"))
        green = next((one for one in facts.elements if material_of(one) in _FOLIAGE and one.distance_m < 200), None)
        if green is not None:
            text = (
                f"{item.name} takes the glare off {green.name}, most when wet: turn it for the leaves, and see what that makes of the sky."
            )
            found.append(Reason("exposure", CAUTION, text, "filters"))
    return found


def _turned(facts: ShotFacts, settings: Settings) -> list[Reason]:
    return [
        Reason(
            "exposure", TIGHT,
            f"{item.name} at {item.stops:g} of {item.stops_max:g} stops crosses dark over so wide a view: turn it back, or take a fixed filter.", "filters",
        )
        for item in facts.filters_on(FilterKind.NEUTRAL_DENSITY)
        if item.stops_max is not None and item.stops > item.stops_max - _CROSS_WITHIN_STOPS and _equivalent_focal_mm(facts, settings) < _CROSS_UNDER_MM
    ]  # fmt: skip


def _film(facts: ShotFacts, predicted: bool) -> list[Reason]:
    film = facts.body.film if facts.body is not None else None
    if film == FilmKind.SLIDE and predicted:
        return [
            Reason(
                "exposure",
                CAUTION,
                "A slide forgives a third of a stop either way: no prediction is as near as that, meter.",
                "metered_shutter_s",
            )
        ]
    if film == FilmKind.NEGATIVE and facts.exposure.compensation_ev < 0:
        return [
            Reason(
                "exposure",
                CAUTION,
                "A negative would rather have more than less: expose for the shadows, half a stop over does no harm.",
                "compensation_ev",
            )
        ]
    return []
