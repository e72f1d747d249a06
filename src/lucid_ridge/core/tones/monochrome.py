"""Black and white through a coloured filter: what becomes lighter and darker.

Source: [1] common practice of black-and-white photography, as stops against an unfiltered frame of the same grey card
(the filter's own factor counted out); to be replaced by what one's own frames show.
"""

from __future__ import annotations

from enum import StrEnum

from ..light.materials import Material


class MonochromeFilter(StrEnum):
    YELLOW = "yellow"
    ORANGE = "orange"
    RED = "red"
    GREEN = "green"


_ORDER = (MonochromeFilter.YELLOW, MonochromeFilter.ORANGE, MonochromeFilter.RED, MonochromeFilter.GREEN)
# Of a clear blue sky; cloud is grey. Source: [1].
_BLUE_SKY = (-0.5, -1.0, -1.7, -0.4)
_BY_MATERIAL: dict[Material, tuple[float, float, float, float]] = {
    Material.GRASS: (0.1, -0.2, -0.7, 0.5),
    Material.LEAVES: (0.1, -0.2, -0.8, 0.6),
    Material.CONIFERS: (0.0, -0.3, -0.8, 0.4),
    Material.PEAT: (0.1, 0.2, 0.3, -0.1),
    Material.DRY_SAND: (0.2, 0.3, 0.4, -0.1),
    Material.WET_SAND: (0.2, 0.3, 0.4, -0.1),
    Material.WOOD: (0.1, 0.2, 0.3, -0.1),
    Material.LICHEN: (0.1, 0.0, -0.1, 0.1),
    Material.PEAT_WATER: (0.1, 0.3, 0.5, -0.3),
    Material.DARK_PETALS: (0.2, 0.6, 1.2, -0.7),
}


def sky_stops(filter_: MonochromeFilter, oktas: float) -> float:
    """Return how much lighter a sky under so much cloud [0 to 8] becomes through a filter [stops]; negative: darker.

    Source: [1].
    """
    return _BLUE_SKY[_ORDER.index(filter_)] * (1 - oktas / 8)


def material_stops(filter_: MonochromeFilter, material: Material) -> float:
    """Return how much lighter a filter renders a material [stops]; grey is unchanged. Source: [1]."""
    return _BY_MATERIAL.get(material, (0.0, 0.0, 0.0, 0.0))[_ORDER.index(filter_)]
