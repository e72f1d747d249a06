"""The demo's locations, viewpoints and elements."""

from __future__ import annotations

import math
from datetime import date, time, timedelta
from typing import Any

from ..core.exposure.moving_things import MovingKind
from ..core.facts.place import HazardKind, SeasonKind
from ..core.ground.geodesy import offset
from ..core.ground.walk import walk_along
from ..core.light.materials import Material
from ..store.places import Element, Hazard, Location, Opening, Scouting, SeasonNote, Viewpoint, WalkTrack

LONDON, OSLO, SANTIAGO = "Europe/London", "Europe/Oslo", "America/Santiago"


def _element(
    name: str,
    shape: str,
    bearing: float,
    distance: float,
    width: float,
    height: float,
    base: float = 0.0,
    speed: float | None = None,
    bed: float | None = None,
    course: tuple[tuple[float, float], ...] = (),
    made_of: Material | None = None,
    moving: MovingKind | None = None,
) -> Element:
    return Element(
        course=[list(leg) for leg in course],
        name=name,
        shape=shape,
        bearing_deg=bearing,
        distance_m=distance,
        width_m=width,
        height_m=height,
        base_m=base,
        speed_mps=speed,
        bed_m=bed,
        material=made_of,
        moving=moving,
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
        owner_id=owner_id,
        name=name,
        latitude_deg=latitude,
        longitude_deg=longitude,
        elevation_m=elevation,
        zone=zone,
        notes=notes,
        viewpoints=[Viewpoint(name=viewpoint, elements=elements)],
    )


def demo_locations(owner_id: int) -> dict[str, Location]:
    """Return new locations by a short key."""
    return {
        "estuary": _location(
            owner_id=owner_id,
            name="Sallow Estuary",
            latitude=54.531,
            longitude=-3.214,
            elevation=4,
            zone=LONDON,
            notes="A row of old mooring posts on the ebb. Soft mud west of the posts: keep to the shingle bank.",
            viewpoint="Shingle bank, west of the posts",
            elements=[
                _element("Weed stone", "boulder", 233, 0.30, 0.22, 0.14, made_of=Material.DARK_ROCK),
                _element(
                    name="Ebb channel",
                    shape="water",
                    bearing=233,
                    distance=2.2,
                    width=26,
                    height=60,
                    base=-0.3,
                    speed=0.35,
                    moving=MovingKind.STREAM,
                ),
                _element("Mooring posts", "posts", 235, 7.0, 4.6, 1.7, -0.3, bed=1.5),
                _element("Far shore", "ridge", 226, 2400, 2600, 140),
                _element("Seamark", "tower", 242, 900, 7, 24, 2.0),
            ],
        ),
        "weir": _location(
            owner_id=owner_id,
            name="Tern Weir",
            latitude=54.548,
            longitude=-3.118,
            elevation=92,
            zone=LONDON,
            notes="Peat-brown water over a low sill. The left bank is undercut.",
            viewpoint="Gravel spit below the sill",
            elements=[
                _element(
                    name="Falling water",
                    shape="water",
                    bearing=20,
                    distance=4.0,
                    width=7,
                    height=3,
                    base=-0.1,
                    speed=1.2,
                    made_of=Material.PEAT_WATER,
                    moving=MovingKind.FALLS,
                ),
                _element("Sill stones", "boulder", 8, 5.2, 2.6, 0.7),
                _element("Leaning alder", "tree", 33, 11, 5, 7, made_of=Material.LEAVES),
                _element("Footpath", "path", 312, 2.4, 0.9, 1, course=((336, 5.5), (4, 8.6), (24, 10.4))),
                _element("Wooded bank", "ridge", 18, 60, 120, 14, made_of=Material.LEAVES),
            ],
        ),
        "tarn": _location(
            owner_id=owner_id,
            name="Blackwater Tarn",
            latitude=54.562,
            longitude=-3.072,
            elevation=338,
            zone=LONDON,
            notes="The split boulder lies on the north shore; Corran Fell stands across the water.",
            viewpoint="North shore by the split boulder",
            elements=[
                _element("Split boulder", "boulder", 125, 0.9, 0.66, 0.5),
                _element(
                    name="Blackwater",
                    shape="water",
                    bearing=135,
                    distance=3.5,
                    width=90,
                    height=240,
                    base=-0.4,
                    speed=0.02,
                    made_of=Material.PEAT_WATER,
                    moving=MovingKind.RIPPLES,
                ),
                _element("Lone larch", "tree", 148, 34, 5, 9),
                _element("Corran Fell", "skyline", 134, 2600, 5200, 430),
                _element("Shore path", "path", 96, 1.3, 0.7, 1, course=((103, 6), (124, 20), (141, 30))),
            ],
        ),
        "bog": _location(
            owner_id=owner_id,
            name="Hollin Bog",
            latitude=54.541,
            longitude=-3.141,
            elevation=205,
            zone=LONDON,
            notes="Sundews on the wet lawn after rain. Kneel on a mat; no step off the boards.",
            viewpoint="Boardwalk, third bay",
            elements=[
                _element("Sundew rosette", "flower", 300, 0.16, 0.009, 0.007, 0.1115),
                _element("Heather tuft", "boulder", 304, 0.62, 0.12, 0.16, made_of=Material.PEAT),
                _element("Cotton-grass", "flower", 293, 0.9, 0.03, 0.22),
            ],
        ),
        "fold": _location(
            owner_id=owner_id,
            name="High Sheepfold",
            latitude=54.556,
            longitude=-3.098,
            elevation=297,
            zone=LONDON,
            notes="Crustose lichen on the north wall.",
            viewpoint="North wall, at knee height",
            elements=[
                _element("Lichen map", "block", 182, 0.14, 0.016, 0.011, 0.445),
                _element("Wall", "wall", 182, 0.16, 2.4, 1.1),
            ],
        ),
        "larch": _location(
            owner_id=owner_id,
            name="Larch Edge",
            latitude=54.571,
            longitude=-3.052,
            elevation=512,
            zone=LONDON,
            notes="Ridges one behind another to the west. The edge is loose: tripod well back.",
            viewpoint="Cairn above the edge",
            elements=[
                _element("Larch spur", "ridge", 284, 1400, 420, 90, -120),
                _element("Middle rigg", "ridge", 290, 3800, 1200, 260, -140),
                _element("Long rigg", "ridge", 281, 7600, 2600, 470, -150),
                _element("Outer fells", "ridge", 287, 14500, 5200, 760, -120),
                _element("Wall end", "wall", 262, 6, 0.7, 1.2, course=((276, 14), (281, 40))),
            ],
        ),
        "isfold": _location(
            owner_id=owner_id,
            name="Isfold",
            latitude=68.2,
            longitude=13.7,
            elevation=12,
            zone=OSLO,
            notes="Summer nights without sunset, winter days without sunrise.",
            viewpoint="Boathouse jetty",
            elements=[
                _element("Jetty boulders", "boulder", 352, 4.5, 2.2, 0.7, -0.3, made_of=Material.DARK_ROCK),
                _element(
                    name="Sound",
                    shape="water",
                    bearing=350,
                    distance=6,
                    width=160,
                    height=900,
                    base=-1.5,
                    speed=0.15,
                    moving=MovingKind.RIPPLES,
                ),
                _element("Isfold stacks", "ridge", 326, 5200, 2500, 780, made_of=Material.DARK_ROCK),
            ],
        ),
        "quelen": _location(
            owner_id=owner_id,
            name="Mirador Quelén",
            latitude=-45.1,
            longitude=-72.2,
            elevation=640,
            zone=SANTIAGO,
            notes="The sun stands in the north here.",
            viewpoint="Steppe above the lake",
            elements=[
                _element("Coirón tuft", "boulder", 262, 0.9, 0.5, 0.35, made_of=Material.GRASS),
                _element("Glacier lake", "water", 258, 400, 1800, 900, -60),
                _element("Quelén towers", "ridge", 256, 8200, 4600, 1750, made_of=Material.LIGHT_ROCK),
                _element("Guanaco trail", "path", 240, 1.2, 0.6, 1, course=((247, 8), (255, 40))),
            ],
        ),
    }


def add_neighbourhood(places: dict[str, Location], day: date) -> None:
    """Add access, dangers and seasons of the demo's places; dates of checks lie before day."""
    estuary, weir, tarn, bog, larch, isfold, quelen = (
        places[key] for key in ("estuary", "weir", "tarn", "bog", "larch", "isfold", "quelen")
    )
    _say(
        estuary,
        access_notes="Right of way along the sea bank; the gate at the lane is locked from dusk.",
        access_checked_on=day - timedelta(days=12),
        access_source="notice at the lane",
        drive_min=35.0,
        walk_terrain="sand",
        tide_place="Sallow Bar",
        plan_b="High Sheepfold: sheltered, and lichen wants no tide.",
    )
    estuary.hazards = [
        Hazard(kind="tide", cut_off_m=3.5, note="The shingle bank is an island then."),
        Hazard(kind="bog", note="Soft mud west of the posts."),
        Hazard(kind="cold", from_month=11, to_month=3),
    ]
    estuary.openings = [Opening(kind="open", note="The gate at the lane.", from_clock=time(6, 30), to_clock=time(20))]
    estuary.viewpoints[0].scoutings = [
        Scouting(
            visited_on=day - timedelta(days=19),
            note="Firm to the third post, soft beyond.",
            bring="waders, a mat for the bag",
            angles=[["Seamark", 242.0, 0.4]],
        )
    ]
    _track(
        estuary,
        "From the lane by the sea bank",
        54.5362,
        -3.2062,
        ((196, 260), (214, 190), (231, 240), (250, 180)),
        (7, 6, 5, 4),
    )
    estuary.viewpoints.append(
        _beside(estuary, "Sea bank, above the posts", 62, 140, 7.0, "Safe at every tide; a longer lens needed.")
    )
    _say(
        weir,
        access_notes="Riverside path, open all year.",
        access_checked_on=day - timedelta(days=430),
        access_source="parish map",
        drive_min=25.0,
        walk_m=650.0,
        walk_ascent_m=10.0,
    )
    weir.hazards = [
        Hazard(kind="river", note="The spit floods after a day of rain."),
        Hazard(kind=HazardKind.SLIPPERY_ROCK, note="Weed on the sill stones."),
    ]
    weir.season_notes = [
        SeasonNote(
            kind=SeasonKind.LEAF_COLOUR,
            note="alders late, birches before them",
            from_month=10,
            from_day=12,
            to_month=11,
            to_day=8,
        ),
        SeasonNote(
            kind=SeasonKind.RIVER_FLOW, note="the sill runs full", from_month=11, from_day=1, to_month=3, to_day=15
        ),
    ]
    tarn.viewpoints[0].standing = {
        "corners": [(-1.1, -0.5), (0.9, -0.6), (1.2, 0.7), (-0.2, 1.3), (-1.3, 0.6)],
        "drops": [],
    }
    (
        tarn.viewpoints[0].ground_slope_deg,
        tarn.viewpoints[0].ground_down_bearing_deg,
        tarn.viewpoints[0].ground_reach_m,
    ) = 4.0, 135.0, 4.0
    larch.viewpoints[0].standing = {"corners": [(-2.2, -2.4), (2.6, -2.0), (2.8, 2.2), (-1.6, 2.6)], "drops": [3]}
    weir.viewpoints[0].standing = {
        "corners": [(-1.6, -1.2), (0.8, -1.4), (1.4, 0.6), (-0.4, 1.2), (-1.8, 0.4)],
        "drops": [2],
    }
    _say(
        tarn,
        access_notes="Open fell.",
        drive_min=40.0,
        walk_terrain="rough",
        plan_b="Tern Weir, in the lee of the fell.",
    )
    tarn.hazards = [
        Hazard(kind="remoteness", note="No signal above the wall."),
        Hazard(kind="cold", note="The tarn holds the frost.", from_month=10, to_month=4),
    ]
    tarn.season_notes = [
        SeasonNote(kind="ice", note="a rim along the north shore", from_month=12, from_day=10, to_month=2, to_day=20),
        SeasonNote(
            kind=SeasonKind.LEAF_COLOUR, note="the lone larch turns", from_month=10, from_day=25, to_month=11, to_day=20
        ),
    ]
    _track(
        tarn,
        "From the fell gate",
        54.5655,
        -3.0905,
        ((128, 380), (99, 460), (118, 420), (102, 210)),
        (268, 291, 322, 345, 339),
    )
    _say(
        bog,
        access_notes="Reserve: stay on the boards, no uprooting.",
        access_checked_on=day - timedelta(days=90),
        access_source="warden",
        drive_min=20.0,
        walk_m=300.0,
        walk_ascent_m=5.0,
        walk_terrain="bog",
    )
    bog.hazards = [Hazard(kind="bog", note="No step off the boards.")]
    bog.viewpoints.append(
        Viewpoint(
            name="Rush bed by the boards", notes="Lacewings sleep on the rushes until the sun reaches them.",
            elements=[
                _element("Lacewing", "insect", 75, 0.24, 0.013, 0.011, 0.355),
                _element("Rush stem", "post", 75, 0.246, 0.003, 0.7),
                _element("Bog beyond", "ridge", 78, 60, 90, 4),
            ],
        )
    )  # fmt: skip
    bog.season_notes = [
        SeasonNote(
            kind="flowering", note="sundews, and in July bog asphodel", from_month=6, from_day=1, to_month=8, to_day=31
        )
    ]
    _say(larch, drive_min=45.0, walk_m=3100.0, walk_ascent_m=290.0, walk_terrain="rough")
    larch.hazards = [Hazard(kind="edge", note="The edge is loose: tripod well back."), Hazard(kind="remoteness")]
    larch.season_notes = [
        SeasonNote(kind=SeasonKind.LEAF_COLOUR, note="larches gold", from_month=10, from_day=20, to_month=11, to_day=15)
    ]
    _say(isfold, tide_place="Isfold Roads", walk_m=120.0, walk_ascent_m=0.0)
    isfold.hazards = [
        Hazard(kind=HazardKind.SLIPPERY_ROCK, note="Ice on the jetty."),
        Hazard(kind="swell"),
        Hazard(kind="cold", from_month=9, to_month=5),
    ]
    quelen.hazards = [Hazard(kind="remoteness"), Hazard(kind="edge", note="The moraine undercuts the viewpoint.")]


def _say(place: Location, **facts: Any) -> None:
    for name, value in facts.items():
        setattr(place, name, value)


def _beside(place: Location, name: str, bearing: float, along_m: float, elevation: float, notes: str) -> Viewpoint:
    latitude, longitude = offset(place.latitude_deg, place.longitude_deg, bearing, along_m)
    return Viewpoint(name=name, latitude_deg=latitude, longitude_deg=longitude, elevation_m=elevation, notes=notes)


def _track(
    place: Location,
    name: str,
    latitude: float,
    longitude: float,
    legs: tuple[tuple[float, float], ...],
    heights: tuple[float, ...],
) -> None:
    """Add a track that starts at a position and follows legs of (bearing, metres) to the place, in steps of 30 m."""
    here, steps = (latitude, longitude), [[latitude, longitude, float(heights[0])]]
    for number, (bearing, along) in enumerate(legs):
        count = max(1, round(along / 30))
        foot, top = heights[number], heights[min(number + 1, len(heights) - 1)]
        for step in range(1, count + 1):
            place_at = offset(*here, bearing + 7 * math.sin(1.7 * step) * (1 - step / count), along * step / count)
            steps.append([*place_at, foot + (top - foot) * step / count])
        here = offset(*here, bearing, along)
    steps.append([place.latitude_deg, place.longitude_deg, place.elevation_m])
    walk = walk_along([(step[0], step[1], step[2]) for step in steps])
    place.tracks = [
        WalkTrack(
            name=name,
            points=[[round(step[0], 6), round(step[1], 6), round(step[2], 1)] for step in steps],
            length_m=walk.length_m,
            ascent_m=walk.ascent_m,
            descent_m=walk.descent_m,
            naismith_h=walk.naismith_h,
            tobler_h=walk.tobler_h,
        )
    ]
    place.walk_m, place.walk_ascent_m = walk.length_m, walk.ascent_m
