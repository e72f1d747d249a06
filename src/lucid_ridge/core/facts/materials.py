"""What an element of a scene is made of, said or taken from its shape, and how much light it gives back."""

from __future__ import annotations

from ..framing.solids import Shape
from ..light.materials import REFLECTANCES, Material, Reflectance
from .place import Element

_BY_SHAPE = {
    Shape.BLOCK: Material.LIGHT_ROCK,
    Shape.BOULDER: Material.LICHEN,
    Shape.POST: Material.WOOD,
    Shape.POSTS: Material.WOOD,
    Shape.TREE: Material.CONIFERS,
    Shape.TOWER: Material.LIGHT_ROCK,
    Shape.RIDGE: Material.GRASS,
    Shape.SKYLINE: Material.GRASS,
    Shape.WATER: Material.WATER,
    Shape.SHORELINE: Material.WET_SAND,
    Shape.WALL: Material.LICHEN,
    Shape.PATH: Material.DRY_SAND,
    Shape.STREAM: Material.PEAT_WATER,
    Shape.FLOWER: Material.PETALS,
    Shape.INSECT: Material.INSECT,
    Shape.MUSHROOM: Material.PETALS,
}


def material_of(element: Element) -> Material:
    """Return the material of an element: the one entered, else the usual one of its shape."""
    return material_for(element.shape, element.material)


def material_for(shape: Shape, material: Material | None) -> Material:
    """Return a material that was said, else the usual one of a shape."""
    return material or _BY_SHAPE[Shape(shape)]


def reflectance_of(element: Element) -> Reflectance:
    """Return the share of light that an element gives back: its own where it was said, else its material's."""
    if element.reflectance is not None:
        return Reflectance(element.reflectance, element.reflectance, element.reflectance, "measured")
    return REFLECTANCES[material_of(element)]
