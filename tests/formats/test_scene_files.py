"""A scene as JSON and its ground as GeoJSON, read by shapely and the standard library."""

import dataclasses
import json
import math
from datetime import UTC, date, datetime

import pytest
import shapely

from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element, Location
from lucid_ridge.core.facts.shot import facts_from
from lucid_ridge.core.framing.footing import Ground, standing_area
from lucid_ridge.core.framing.solids import Shape
from lucid_ridge.formats.scene_files import write_ground_geojson, write_scene_json

# A degree of latitude and of longitude at 54.53° N [m]: any almanac, WGS 84.
NORTH_M, EAST_M = 111_316, 64_700
FACTS = facts_from(
    location=Location("Shore", 54.53, -3.21, 4, "Europe/London"),
    viewpoint_name="Bank",
    elements=tuple(
        Element(
            number,
            f"The {shape}",
            shape,
            200.0 + 3 * number,
            5.0 + 4 * number,
            2.0,
            1.5,
            course=((250, 60.0),) if shape == "path" else (),
        )
        for number, shape in enumerate(Shape, start=1)
    ),
    date_local=date(2026, 11, 24),
    time_utc=datetime(2026, 11, 24, 11, 30, tzinfo=UTC),
    body=Body(
        id=1,
        name="Body",
        sensor_width_mm=36,
        sensor_height_mm=24,
        pixels_wide=8256,
        pixels_high=5504,
        base_iso=100,
        max_iso=25600,
        fastest_shutter_s=1 / 8192,
        slowest_shutter_s=32,
        has_bulb=True,
        dynamic_range_stops=11,
        bracket_frames=9,
        bracket_step_ev=3,
    ),
    lens=Lens(
        id=1,
        name="Zoom",
        focal_min_mm=24,
        focal_max_mm=70,
        f_number_min=2.8,
        f_number_max=22.6,
        closest_focus_mm=380,
        sharpest_f_number=8,
    ),
    focal_mm=24,
    bearing_deg=215,
    camera_east_m=3.0,
    camera_north_m=-2.0,
    ground=Ground(3, 90, 20),
    standing=standing_area([(-4, -4), (4, -4), (4, 4)], [1]),
)


def _ground(facts=FACTS):
    return {item["properties"]["name"]: item for item in json.loads(write_ground_geojson("Dusk", facts))["features"]}


def _metres(position):
    return (position[0] + 3.21) * EAST_M, (position[1] - 54.53) * NORTH_M


def test_every_feature_is_valid_geometry():
    features = _ground()
    for feature in features.values():
        shape = shapely.from_geojson(json.dumps(feature["geometry"]))
        assert shape.is_valid
        assert not shape.is_empty
        if shape.geom_type == "Polygon":
            assert shapely.is_ccw(shape.exterior)
    assert {f"The {shape}" for shape in Shape} <= set(features)


def test_things_stand_where_they_are():
    features = _ground()
    for element in FACTS.elements:
        if element.shape not in ("post", "tree", "flower"):
            continue
        shape = shapely.from_geojson(json.dumps(features[element.name]["geometry"]))
        east, north = _metres(shape.centroid.coords[0])
        turn = math.radians(element.bearing_deg)
        assert east == pytest.approx(element.distance_m * math.sin(turn), abs=0.15)
        assert north == pytest.approx(element.distance_m * math.cos(turn), abs=0.15)
    assert _metres(features["Dusk"]["geometry"]["coordinates"]) == (
        pytest.approx(3, abs=0.02),
        pytest.approx(-2, abs=0.02),
    )
    assert features["The path"]["geometry"]["type"] == "LineString"


def test_the_view_is_as_wide_as_the_field():
    view = _ground()["view"]["geometry"]["coordinates"][0]
    apex = min(view, key=lambda corner: math.hypot(_metres(corner)[0] - 3, _metres(corner)[1] + 2))
    sides = [corner for corner in view if corner != apex]
    turns = sorted(
        {round(math.degrees(math.atan2(_metres(corner)[0] - 3, _metres(corner)[1] + 2)) % 360, 1) for corner in sides}
    )
    # 24 mm on 36 mm: 73.7° (handbook tables), around 215°.
    assert turns[-1] - turns[0] == pytest.approx(73.7, abs=0.4)
    assert sum(turns) / 2 == pytest.approx(215, abs=0.4)


def test_the_scene_says_all_that_was_said():
    scene = json.loads(write_scene_json("Dusk", FACTS))
    assert scene["lucid_ridge_scene"] == 1
    assert scene["camera"]["east_m"] == 3.0
    assert scene["camera"]["lens"] == "Zoom"
    assert scene["standing_area"] == {"corners": [[-4, -4], [4, -4], [4, 4]], "drops": [1]}
    assert scene["ground"]["slope_deg"] == 3
    assert len(scene["elements"]) == len(Shape)
    assert any(item["in_frame"] for item in scene["elements"])


def test_a_shot_without_place_or_camera_still_makes_files():
    bare = facts_from()
    assert json.loads(write_ground_geojson("Empty", bare)) == {"type": "FeatureCollection", "features": []}
    scene = json.loads(write_scene_json("Empty", bare))
    assert (scene["camera"], scene["place"], scene["elements"]) == (None, None, [])
    no_lens = dataclasses.replace(FACTS, lens=None)
    assert all(item["in_frame"] is None for item in json.loads(write_scene_json("Dusk", no_lens))["elements"])
    assert "view" not in _ground(no_lens)
