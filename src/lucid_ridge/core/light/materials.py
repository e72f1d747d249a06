"""What things are made of, and how much light they give back.

Sources: [1] T. R. Oke, Boundary Layer Climates, 2nd ed., 1987, table of albedos (from memory); [2] C. H. Whitlock, D.
S. Bartlett and E. A. Gurganus, Sea foam reflectance, Geophysical Research Letters 9 (1982) 719 (from memory: 0.5 and
more while fresh); [3] common practice of those who meter by tones.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..labels import NamedEnum


class Material(NamedEnum):
    FRESH_SNOW = "fresh_snow"
    OLD_SNOW = "old_snow"
    DRY_SAND = "dry_sand"
    WET_SAND = "wet_sand"
    LIGHT_ROCK = "light_rock"
    DARK_ROCK = "dark_rock"
    LICHEN = "lichen"
    PEAT = "peat"
    GRASS = "grass"
    LEAVES = "leaves"
    CONIFERS = "conifers"
    WOOD = "wood"
    LIMEWASH = "limewash"
    PETALS = "petals"
    DARK_PETALS = "dark_petals"
    INSECT = "insect"
    FOAM = "foam"
    WATER = "water"
    PEAT_WATER = "peat_water"


@dataclass(frozen=True)
class Reflectance:
    """The share of light given back, 0 to 1: typical, and between which values it is found.

    source: as numbered above.
    """

    low: float
    typical: float
    high: float
    source: str


REFLECTANCES: dict[Material, Reflectance] = {
    Material.FRESH_SNOW: Reflectance(0.80, 0.88, 0.95, "[1]"),
    Material.OLD_SNOW: Reflectance(0.40, 0.55, 0.70, "[1]"),
    Material.DRY_SAND: Reflectance(0.35, 0.40, 0.45, "[1]"),
    Material.WET_SAND: Reflectance(0.20, 0.25, 0.30, "[1]"),
    Material.LIGHT_ROCK: Reflectance(0.20, 0.25, 0.30, "[1]"),
    Material.DARK_ROCK: Reflectance(0.05, 0.08, 0.10, "[1]"),
    Material.LICHEN: Reflectance(0.12, 0.18, 0.25, "[3]"),
    Material.PEAT: Reflectance(0.05, 0.08, 0.10, "[1]"),
    Material.GRASS: Reflectance(0.16, 0.21, 0.26, "[1]"),
    Material.LEAVES: Reflectance(0.15, 0.18, 0.20, "[1]"),
    Material.CONIFERS: Reflectance(0.05, 0.10, 0.15, "[1]"),
    Material.WOOD: Reflectance(0.15, 0.22, 0.30, "[3]"),
    Material.LIMEWASH: Reflectance(0.60, 0.75, 0.85, "[3]"),
    Material.PETALS: Reflectance(0.40, 0.55, 0.70, "[3]"),
    Material.DARK_PETALS: Reflectance(0.04, 0.08, 0.12, "[3]"),
    Material.INSECT: Reflectance(0.05, 0.12, 0.25, "[3]"),
    Material.FOAM: Reflectance(0.50, 0.65, 0.80, "[2]"),
    # What comes back from within, beside what the surface mirrors.
    Material.WATER: Reflectance(0.02, 0.03, 0.06, "[1]"),
    Material.PEAT_WATER: Reflectance(0.005, 0.01, 0.02, "[3]"),
}
