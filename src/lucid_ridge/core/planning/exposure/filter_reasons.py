"""Exposure: cautions about filters and film (uneven polarisation, filter orientation, film latitude).

Sources: a polariser costs 1 to 3 stops as it is turned, a variable filter near its strongest shows a dark cross over a
wide view, a slide forgives a third of a stop and a negative would rather have too much: all common practice.
"""

from __future__ import annotations

from ...facts.kit import FilmKind
from ...facts.materials import material_of
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...light.materials import Material
from ...optics.circle_of_confusion import crop_factor
from ..reasons import Reason
from . import wording as say

_POLARISER_COST_STOPS = (1.0, 3.0)
# A variable filter shows a cross this near to its strongest setting, over views wider than this.
_CROSS_WITHIN_STOPS, _CROSS_UNDER_MM = 1.0, 35.0
_FOLIAGE = (Material.LEAVES, Material.GRASS, Material.CONIFERS, Material.PEAT)


def _equivalent_focal_mm(facts: ShotFacts, settings: Settings) -> float:
    """Return the focal length with the same view on 36 × 24 mm [mm]."""
    assert facts.body is not None
    return settings.focal_mm * crop_factor(facts.body.sensor_width_mm, facts.body.sensor_height_mm)


def filter_reasons(facts: ShotFacts, settings: Settings, predicted: bool) -> list[Reason]:
    """Return cautions about the filters on the lens and about the film."""
    return [
        *_polarisers(facts, settings, predicted),
        *_turned(facts, settings),
        *_colours(facts),
        *_film(facts, predicted),
    ]


def _polarisers(facts: ShotFacts, settings: Settings, predicted: bool) -> list[Reason]:
    found = []
    wide = _equivalent_focal_mm(facts, settings)
    for item in (item for item in facts.filters_on_lens if item.kind.polarises):
        least = facts.polariser_from_mm
        if least is not None and wide < least * (1 - 1e-6):
            found.append(say.wide_polariser(as_focal_mm=wide, from_focal_mm=least).tight("filters"))
        if predicted or not item.on_when_metered:
            low, high = _POLARISER_COST_STOPS
            found.append(
                say.polariser_cost(filter=item.name, stops=item.stops, low_stops=low, high_stops=high).caution(
                    "filters"
                )
            )
        green = next((one for one in facts.elements if material_of(one) in _FOLIAGE and one.distance_m < 200), None)
        if green is not None:
            found.append(say.polariser_on_leaves(filter=item.name, element=green.name).caution("filters"))
    return found


def _turned(facts: ShotFacts, settings: Settings) -> list[Reason]:
    return [
        say.variable_crosses(filter=item.name, stops=item.stops, strongest_stops=item.stops_max).tight("filters")
        for item in facts.filters_on_lens
        if item.kind.lengthens_exposure
        and item.stops_max is not None
        and item.stops > item.stops_max - _CROSS_WITHIN_STOPS
        and _equivalent_focal_mm(facts, settings) < _CROSS_UNDER_MM
    ]


def _colours(facts: ShotFacts) -> list[Reason]:
    return [say.tints(filter=item.name).caution("filters") for item in facts.filters_on_lens if item.kind.tints]


def _film(facts: ShotFacts, predicted: bool) -> list[Reason]:
    film = facts.body.film if facts.body is not None else None
    if film == FilmKind.SLIDE and predicted:
        return [say.slide_estimated().caution("metered_shutter_s")]
    if film == FilmKind.NEGATIVE and facts.exposure.compensation_ev < 0:
        return [say.negative_underexposed().caution("compensation_ev")]
    return []
