"""The demo's locations, viewpoints and elements."""

from __future__ import annotations

from ..store.places import Element, Location, Viewpoint

LONDON, OSLO, SANTIAGO = "Europe/London", "Europe/Oslo", "America/Santiago"


def _element(
    name: str, shape: str, bearing: float, distance: float, width: float, height: float, base: float = 0.0, speed: float | None = None
) -> Element:
    return Element(
        name=name, shape=shape, bearing_deg=bearing, distance_m=distance, width_m=width, height_m=height, base_m=base, speed_mps=speed
    )


def _location(
    owner_id: int,
    name: str,
    latitude: float,
    longitude: float,
    elevation: float,
    zone: str,
    notes: str,
    viewpoint: str,
    elements: list[Element],
) -> Location:
    return Location(
        owner_id=owner_id, name=name, latitude_deg=latitude, longitude_deg=longitude, elevation_m=elevation, zone=zone, notes=notes,
        viewpoints=[Viewpoint(name=viewpoint, elements=elements)],
    )  # fmt: skip


def demo_locations(owner_id: int) -> dict[str, Location]:
    """Return new locations by a short key."""
    return {
        "estuary": _location(
            owner_id, "Sallow Estuary", 54.531, -3.214, 4, LONDON,
            "A row of old mooring posts on the ebb. Soft mud west of the posts: keep to the shingle bank.",
            "Shingle bank, west of the posts",
            [
                _element("Weed stone", "boulder", 233, 0.30, 0.22, 0.14),
                _element("Ebb channel", "water", 233, 2.2, 26, 60, -0.3, 0.35),
                _element("Mooring posts", "posts", 235, 7.0, 4.6, 1.7, -0.3),
                _element("Far shore", "ridge", 226, 2400, 2600, 140),
            ],
        ),
        "weir": _location(
            owner_id, "Tern Weir", 54.548, -3.118, 92, LONDON, "Peat-brown water over a low sill. The left bank is undercut.",
            "Gravel spit below the sill",
            [
                _element("Falling water", "water", 20, 4.0, 7, 3, -0.1, 1.2),
                _element("Sill stones", "boulder", 8, 5.2, 2.6, 0.7),
                _element("Leaning alder", "tree", 33, 11, 5, 7),
                _element("Wooded bank", "ridge", 18, 60, 120, 14),
            ],
        ),
        "tarn": _location(
            owner_id, "Blackwater Tarn", 54.562, -3.072, 338, LONDON, "The split boulder lies on the north shore; Corran Fell stands across the water.",
            "North shore by the split boulder",
            [
                _element("Split boulder", "boulder", 125, 0.9, 0.66, 0.5),
                _element("Blackwater", "water", 135, 3.5, 90, 240, -0.4, 0.02),
                _element("Lone larch", "tree", 148, 34, 5, 9),
                _element("Corran Fell", "ridge", 134, 2600, 3100, 430),
            ],
        ),
        "bog": _location(
            owner_id, "Hollin Bog", 54.541, -3.141, 205, LONDON, "Sundews on the wet lawn after rain. Kneel on a mat; no step off the boards.",
            "Boardwalk, third bay",
            [_element("Sundew rosette", "flower", 300, 0.16, 0.009, 0.007, 0.1115)],
        ),
        "fold": _location(
            owner_id, "High Sheepfold", 54.556, -3.098, 297, LONDON, "Crustose lichen on the north wall.",
            "North wall, at knee height",
            [_element("Lichen map", "block", 182, 0.14, 0.016, 0.011, 0.445)],
        ),
        "larch": _location(
            owner_id, "Larch Edge", 54.571, -3.052, 512, LONDON, "Ridges one behind another to the west. The edge is loose: tripod well back.",
            "Cairn above the edge",
            [
                _element("Larch spur", "ridge", 284, 1400, 420, 90, -120),
                _element("Middle rigg", "ridge", 290, 3800, 1200, 260, -140),
                _element("Long rigg", "ridge", 281, 7600, 2600, 470, -150),
                _element("Outer fells", "ridge", 287, 14500, 5200, 760, -120),
            ],
        ),
        "isfold": _location(
            owner_id, "Isfold", 68.2, 13.7, 12, OSLO, "Summer nights without sunset, winter days without sunrise.",
            "Boathouse jetty",
            [
                _element("Jetty boulders", "boulder", 352, 4.5, 2.2, 0.7, -0.3),
                _element("Sound", "water", 350, 6, 160, 900, -1.5, 0.15),
                _element("Isfold stacks", "ridge", 348, 5200, 4200, 780),
            ],
        ),
        "quelen": _location(
            owner_id, "Mirador Quelén", -45.1, -72.2, 640, SANTIAGO, "The sun stands in the north here.",
            "Steppe above the lake",
            [
                _element("Coirón tuft", "boulder", 262, 0.9, 0.5, 0.35),
                _element("Glacier lake", "water", 258, 400, 1800, 900, -60),
                _element("Quelén towers", "ridge", 256, 8200, 4600, 1750),
            ],
        ),
    }  # fmt: skip
