"""The composition bench through the API: scene, standing area, tuner, framings, backdrop, measuring, files."""

import io
import json
import math
from itertools import pairwise

import numpy as np
import pytest
from PIL import ExifTags, Image


@pytest.fixture
def boulder(api):
    return api.get(f"/shots/{api.shot_id('Split boulder under the fell')}")


def _element(shot, name):
    return next(item for item in shot["plan"]["frame"]["elements"] if item["name"] == name)


def _id(shot, name):
    return next(item["id"] for item in shot["place"]["viewpoint"]["elements"] if item["name"] == name)


def _reload(api, shot):
    return api.get(f"/shots/{shot['id']}")


def test_what_is_sent_is_enough_to_draw_the_frame(boulder):
    # The matrix and the solids' points give the same box as the core's outline.
    matrix = np.array(boulder["plan"]["frame"]["view"]["matrix"])
    for name in ("Split boulder", "Lone larch", "Corran Fell"):
        seen = _element(boulder, name)
        points = np.array([point for mesh in seen["meshes"] for point in mesh["points"]])
        placed = np.column_stack((points, np.ones(len(points)))) @ matrix.T
        x, y = placed[:, 0] / placed[:, 2], placed[:, 1] / placed[:, 2]
        assert (x.min(), x.max(), y.min(), y.max()) == pytest.approx(
            (seen["left"], seen["right"], seen["top"], seen["bottom"]), abs=2e-4
        )
        for mesh in seen["meshes"]:
            assert len(mesh["faces"]) == len(mesh["tones"])
            assert max(max(face) for face in mesh["faces"]) < len(mesh["points"])
    # Still water mirrors, the larch stands in it.
    water = _element(boulder, "Blackwater")
    assert np.array(water["mirror"]).shape == (4, 4)


def test_lines_and_ground_are_part_of_a_viewpoint(api, boulder):
    point = boulder["place"]["viewpoint"]["id"]
    stream = api.post(
        f"/viewpoints/{point}/elements",
        {
            "name": "Beck",
            "shape": "stream",
            "bearing_deg": 120,
            "distance_m": "2 m",
            "width_m": "40 cm",
            "height_m": 1,
            "course": [[-240, 8], [130, "20 m"]],
        },
    )
    assert stream["course"] == [[120, 8], [130, 20]]
    changed = _reload(api, boulder)
    assert any(reading["key"] == f"lead:{stream['id']}" for reading in changed["plan"]["frame"]["readings"])
    written = api.patch(f"/elements/{stream['id']}", {"course": "118° 7 m, 130 21,5 m"})
    assert (written["course"], written["course_text"]) == ([[118, 7], [130, 21.5]], "118° 7.00 m, 130° 21.5 m")
    error = api.refusal("PATCH", f"/elements/{stream['id']}", {"course": "somewhere"}, "course")
    assert "103 6 m" in error["fields"][0]["message"]
    assert api.patch(f"/elements/{stream['id']}", {"course": ""})["course"] == []
    assert api.patch(f"/elements/{stream['id']}", {"course": None})["course"] == []
    api.refusal("PATCH", f"/elements/{stream['id']}", {"course": [[0, 0]]}, "course.0.1")
    api.refusal("PATCH", f"/elements/{stream['id']}", {"course": [[0, 1]] * 41}, "course")
    # Steeper ground puts the boulder downhill lower.
    before = _element(changed, "Split boulder")["top"]
    api.patch(f"/viewpoints/{point}", {"ground_slope_deg": 12})
    assert _element(_reload(api, boulder), "Split boulder")["top"] > before + 0.02
    api.refusal("PATCH", f"/viewpoints/{point}", {"ground_slope_deg": 60}, "ground_slope_deg")


def test_a_standing_area_holds_camera_and_tuner(api, boulder):
    point = boulder["place"]["viewpoint"]["id"]
    area = {"corners": [[-0.4, -0.4], [0.4, -0.4], [0.4, 0.4], [-0.4, 0.4]], "drops": [1]}
    assert api.patch(f"/viewpoints/{point}", {"standing": area})["standing"] == area
    outside = api.patch(f"/shots/{boulder['id']}", {"camera_east_m": 0.9})
    assert any(
        reason["code"] == "standing.outside_area" and reason["severity"] == "fails"
        for reason in outside["plan"]["because"]
    )
    api.patch(f"/shots/{boulder['id']}", {"camera_east_m": 0})
    stone, larch = _id(boulder, "Split boulder"), _id(boulder, "Lone larch")
    wish = {
        "targets": [
            {"kind": "place", "element_id": stone, "x": 0.7},
            {"kind": "place", "element_id": larch, "x": 0.35},
        ],
        "step_m": 3,
        "height_low_m": 0.5,
        "height_high_m": 1.2,
    }
    held = api.post(f"/shots/{boulder['id']}/tune", wish, 200)
    for solution in held["solutions"]:
        assert abs(solution["changes"]["camera_east_m"]) < 0.46 and abs(solution["changes"]["camera_north_m"]) < 0.46
    assert not held["solutions"][0]["all_met"]
    assert any("outside the standing area: the edge forbids it" in remark for remark in held["remarks"])
    free = api.post(f"/shots/{boulder['id']}/tune", {**wish, "within_area": False}, 200)
    assert free["solutions"][0]["all_met"]
    for wrong in (
        {"corners": [[0, 0], [1, 1], [1, 0], [0, 1]]},
        {"corners": [[0, 0], [1, 1]]},
        {"corners": [[0, 0], [1, 0], [0, 1]], "drops": [7]},
    ):
        api.refusal("PATCH", f"/viewpoints/{point}", {"standing": wrong})
    assert api.patch(f"/viewpoints/{point}", {"standing": None})["standing"] is None


def test_beside_a_recorded_edge_the_tuner_asks_for_the_standing_area_first(api):
    shot = api.get(f"/shots/{api.shot_id('Layered riggs')}")
    point = shot["place"]["viewpoint"]
    api.patch(f"/viewpoints/{point['id']}", {"standing": None})
    wish = {"targets": [{"kind": "place", "element_id": point["elements"][0]["id"], "x": 0.6}], "step_m": 2}
    assert (
        "draw the area where one can stand"
        in api.refusal("POST", f"/shots/{shot['id']}/tune", wish, "step_m")["message"]
    )
    # Where it need not step aside, it may look.
    assert api.post(f"/shots/{shot['id']}/tune", {**wish, "step_m": 0}, 200)["solutions"]


def test_what_the_tuner_found_is_what_the_plan_then_reads(api, boulder):
    larch = _id(boulder, "Lone larch")
    wish = {
        "targets": [{"kind": "place", "element_id": larch, "x": 1 / 3}, {"kind": "horizon", "y": 0.3}],
        "step_m": 0.4,
    }
    found = api.post(f"/shots/{boulder['id']}/tune", wish, 200)["solutions"][0]
    assert found["all_met"]
    tuned = api.patch(f"/shots/{boulder['id']}", found["changes"])
    seen = _element(tuned, "Lone larch")
    assert (seen["left"] + seen["right"]) / 2 == pytest.approx(1 / 3, abs=0.008)


def test_the_tuner_may_crop_beyond_the_lens(api, boulder):
    larch = _id(boulder, "Lone larch")
    # The larch is to fill three fifths of the height: 9 m at 34 m need 0.6 · 24/(9/34) = 54 mm, and the zoom ends
    # at 35.
    wish = {
        "targets": [
            {"kind": "whole", "element_id": larch, "clearance": 0.02},
            {"kind": "place", "element_id": larch, "x": 0.5, "y": 0.5},
        ],
        "focal": True,
        "crop": True,
        "step_m": 0.3,
    }
    found = api.post(f"/shots/{boulder['id']}/tune", wish, 200)["solutions"]
    for solution in found:
        assert solution["changes"]["focal_mm"] <= 35
        assert solution["changes"]["crop_focal_mm"] is None or 35 < solution["changes"]["crop_focal_mm"] <= 70


def test_nothing_is_cut_where_that_is_wished(api, boulder):
    api.patch(f"/shots/{boulder['id']}", {"bearing_deg": 165, "pitch_deg": -25})
    wish = {
        "targets": [{"kind": "uncut", "clearance": 0.01}],
        "step_m": 0.3,
        "height_low_m": 0.5,
        "height_high_m": 0.9,
        "focal": True,
    }
    found = api.post(f"/shots/{boulder['id']}/tune", wish, 200)["solutions"][0]
    # The boulder and the larch: land, water and the path may run out.
    assert [miss["words"] for miss in found["misses"]] == [
        "Split boulder whole in the frame",
        "Lone larch whole in the frame",
    ]
    assert found["all_met"]
    tuned = api.patch(f"/shots/{boulder['id']}", found["changes"])
    for name in ("Split boulder", "Lone larch"):
        assert _element(tuned, name)["share"] == pytest.approx(1, abs=0.005)


def test_a_crop_is_dragged_by_its_share_and_its_place(api, boulder):
    half = api.patch(f"/shots/{boulder['id']}", {"crop_share": 0.5, "crop_x": 0.3})
    # Half the field of 20 mm is that of 40 mm.
    assert half["facts"]["frame"]["crop_focal_mm"] == 40
    crop = half["plan"]["frame"]["crop"]
    assert (crop["left"], crop["width_share"], crop["share"]) == (
        pytest.approx(0.05),
        pytest.approx(0.5),
        pytest.approx(0.5),
    )
    assert api.patch(f"/shots/{boulder['id']}", {"crop_share": 1})["facts"]["frame"]["crop_focal_mm"] is None
    free = api.patch(f"/shots/{boulder['id']}", {"crop_aspect": "free"})
    assert free["facts"]["frame"]["crop_ratio"] == 1.5
    wide = api.patch(f"/shots/{boulder['id']}", {"crop_ratio": 3})["plan"]["frame"]["crop"]
    assert wide["pixels_wide"] / wide["pixels_high"] == pytest.approx(3, abs=0.01)


@pytest.fixture
def towers(api):
    """A shot without framings of its own yet."""
    return api.get(f"/shots/{api.shot_id('Towers from the steppe')}")


def test_framings_are_kept_compared_and_chosen(api, towers):
    path = f"/shots/{towers['id']}"
    kept = api.post(f"{path}/framings", {"name": "wide and near"})["kept"]
    assert [(item["label"], item["now"]) for item in kept] == [("wide and near", True)]
    api.patch(path, {"orientation": "portrait", "focal_mm": 30})
    api.post(f"{path}/framings", {"name": "tall"})
    both = api.get(f"{path}/framings")
    assert [(item["label"], item["now"]) for item in both["kept"]] == [("wide and near", False), ("tall", True)]
    assert both["kept"][0]["miniature"]["aspect"] == pytest.approx(1.5)
    assert both["kept"][1]["miniature"]["aspect"] == pytest.approx(2 / 3)
    api.refusal("POST", f"{path}/framings", {"name": "tall"}, "name")
    back = api.post(f"/framings/{both['kept'][0]['id']}/take", None, 200)
    assert (back["facts"]["frame"]["orientation"], back["facts"]["frame"]["focal_mm"]) == ("landscape", 24)
    # Choosing is an edit like any other, and letting go can be undone.
    api.post("/undo", {"scopes": [f"shot:{towers['id']}"]}, 200)
    assert _reload(api, towers)["facts"]["frame"]["orientation"] == "portrait"
    api.delete(f"/framings/{both['kept'][0]['id']}")
    assert len(api.get(f"{path}/framings")["kept"]) == 1
    api.post("/undo", {"scopes": [f"shot:{towers['id']}"]}, 200)
    assert len(api.get(f"{path}/framings")["kept"]) == 2
    api.call("POST", "/framings/999999/take", None, 404)


def test_a_framing_outlives_its_lens(api, towers):
    path = f"/shots/{towers['id']}"
    long = next(lens["id"] for lens in api.get("/kit")["lenses"] if lens["focal_min_mm"] == 70)
    api.patch(path, {"lens_id": long, "focal_mm": None})
    api.patch(path, {"focal_mm": 100})
    kept = api.post(f"{path}/framings", {"name": "long"})["kept"][0]
    api.patch(path, {"focal_mm": None})
    wide = towers["facts"]["lens_id"]
    api.patch(path, {"lens_id": wide, "focal_mm": None})
    api.delete(f"/lenses/{long}")
    assert api.get(f"{path}/framings")["kept"][0]["label"] == "long"
    # Without its lens the kept focal length is more than the lens in hand can do: that is said, and nothing changes.
    error = api.refusal("POST", f"/framings/{kept['id']}/take", None, "frame.focal_mm")
    assert "not 100 mm" in error["message"]
    assert _reload(api, towers)["facts"]["lens_id"] == wide


def test_the_demo_has_framings_to_compare(api, boulder):
    kept = api.get(f"/shots/{boulder['id']}/framings")["kept"]
    assert len(kept) == 3
    assert {item["miniature"]["aspect"] > 1 for item in kept} == {True, False}
    assert all(item["words"] and item["verdict"]["step"] == "frame" for item in kept)


def test_the_walk_through_tells_where_the_camera_stood(api, boulder):
    path = f"/shots/{boulder['id']}"
    assert api.get(f"{path}/framings")["walk"] == []
    api.patch(path, {"bearing_deg": 120})
    api.patch(path, {"iso": 200})
    api.patch(path, {"camera_height_m": 0.5})
    walk = api.get(f"{path}/framings")["walk"]
    assert [step["label"] for step in walk] == ["camera height", "bearing"]
    assert [step["now"] for step in walk] == [True, False]
    back = api.post(f"{path}/framing", walk[1]["choices"], 200)
    assert (back["facts"]["frame"]["bearing_deg"], back["facts"]["frame"]["camera_height_m"]) == (
        120,
        boulder["facts"]["frame"]["camera_height_m"],
    )
    api.refusal("POST", f"{path}/framing", {"iso": 100}, "iso")


def _photograph(size=(600, 400), **exif):
    tags = Image.Exif()
    for name, value in exif.items():
        tags.get_ifd(ExifTags.IFD.Exif)[getattr(ExifTags.Base, name)] = value
    out = io.BytesIO()
    Image.new("RGB", size, (120, 120, 120)).save(out, "JPEG", exif=tags)
    return out.getvalue()


def _send(api, path, content, name, expect):
    answer = api.client.post(f"/api{path}?file_name={name}", data=content, content_type="application/octet-stream")
    assert answer.status_code == expect, answer.get_data(as_text=True)
    return answer.get_json()


def test_a_photograph_stands_behind_at_its_true_field(api, boulder):
    path = f"/shots/{boulder['id']}/backdrop"
    shot = _send(api, path, _photograph(FocalLength=20.0, FocalLengthIn35mmFilm=20), "scout.jpg", 201)
    behind = shot["backdrop"]
    assert behind["sensor_width_mm"] == pytest.approx(36, abs=0.01)
    assert (behind["bearing_deg"], behind["pitch_deg"]) == (
        shot["plan"]["frame"]["bearing_deg"],
        shot["facts"]["frame"]["pitch_deg"],
    )
    # Taken with the shot's own focal length it fills the finder but for the little that focusing close narrows it.
    matrix = np.array(shot["plan"]["frame"]["view"]["matrix"])
    placed = np.column_stack((behind["corners"], np.ones(4))) @ matrix.T
    x, y = placed[:, 0] / placed[:, 2], placed[:, 1] / placed[:, 2]
    grown = 0.5 * (1 + shot["plan"]["depth"]["magnification"])
    assert x == pytest.approx([0.5 - grown, 0.5 + grown, 0.5 + grown, 0.5 - grown], abs=1e-3)
    assert y == pytest.approx([0.5 - grown, 0.5 - grown, 0.5 + grown, 0.5 + grown], abs=1e-3)
    picture = api.client.get(behind["url"])
    assert picture.mimetype == "image/jpeg"
    assert Image.open(io.BytesIO(picture.data)).size == (600, 400)
    wider = api.patch(path, {"focal_mm": 10, "opacity": 0.3})["backdrop"]
    assert (wider["focal_source"], wider["opacity"]) == ("typed", 0.3)
    api.refusal("PATCH", path, {"opacity": 0}, "opacity")
    api.delete(path)
    assert _reload(api, boulder)["backdrop"] is None
    api.call("DELETE", path, None, 404)


def test_photographs_without_exif_and_files_that_are_none(api, boulder):
    path = f"/shots/{boulder['id']}/backdrop"
    plain = _send(api, path, _photograph((400, 600)), "plain.jpg", 201)["backdrop"]
    assert "no EXIF" in plain["focal_source"]
    assert (plain["focal_mm"], plain["sensor_height_mm"]) == (20, 36)
    error = _send(api, path, b"not a picture", "x.jpg", 422)["error"]
    assert error["fields"][0]["field"] == "file"
    assert _reload(api, boulder)["backdrop"]["name"] == "plain.jpg"


def test_measuring_with_a_thumb_and_a_test_frame(api, boulder):
    path = f"/shots/{boulder['id']}/measure"
    api.patch("/photographer", {"thumb_mm": 20, "arm_mm": 600})
    # 20 mm at 600 mm: at 30 m that is 1 m.
    miniature = api.post(path, {"thumbs": 1, "distance_m": "30 m"}, 200)
    assert miniature["size_m"] == pytest.approx(1.0)
    assert "1.00 m" in miniature["words"]
    # 100 mm lens, 36/8256 mm a pixel: 500 pixels are 2.18 mm; 1.8 m so small stand 82.6 m away.
    frame = api.post(path, {"pixels": 500, "focal_mm": 100, "size_m": 1.8}, 200)
    assert frame["distance_m"] == pytest.approx(1.8 * 100 / (500 * 36 / 8256), rel=1e-3)
    for body, field in (
        ({"thumbs": 1}, "distance_m"),
        ({"distance_m": 3}, "thumbs"),
        ({"thumbs": 1, "pixels": 3, "distance_m": 3}, "thumbs"),
        ({"thumbs": 1, "distance_m": 3, "size_m": 3}, "distance_m"),
        ({"pixels": 9000, "distance_m": 3}, "pixels"),
        ({"thumbs": 0, "distance_m": 3}, "thumbs"),
    ):
        api.refusal("POST", path, body, field)


def test_the_scene_as_files(api, boulder):
    answer = api.client.get(f"/api/shots/{boulder['id']}/scene.json")
    assert answer.headers["Content-Disposition"] == 'attachment; filename="split-boulder-under-the-fell.json"'
    scene = json.loads(answer.data)
    assert scene["camera"]["focal_mm"] == 20
    assert {item["name"] for item in scene["elements"]} == {
        item["name"] for item in boulder["place"]["viewpoint"]["elements"]
    }
    ground = json.loads(api.client.get(f"/api/shots/{boulder['id']}/ground.geojson").data)
    features = {item["properties"]["name"]: item for item in ground["features"]}
    # The larch stands 34 m away at 148°: 111.2 km a degree of latitude, 64.5 km a degree of longitude at 54.56°
    # (any almanac).
    larch = np.mean(features["Lone larch"]["geometry"]["coordinates"][0][:-1], axis=0)
    mark = features[boulder["place"]["viewpoint"]["name"]]["geometry"]["coordinates"]
    east, north = (larch[0] - mark[0]) * 64_570, (larch[1] - mark[1]) * 111_320
    assert (east, north) == (
        pytest.approx(34 * math.sin(math.radians(148)), abs=0.4),
        pytest.approx(34 * math.cos(math.radians(148)), abs=0.4),
    )
    assert features["Shore path"]["geometry"]["type"] == "LineString"
    for feature in ground["features"]:
        if feature["geometry"]["type"] == "Polygon":
            ring = feature["geometry"]["coordinates"][0]
            # RFC 7946: closed, and counter-clockwise.
            assert ring[0] == ring[-1]
            assert sum(a[0] * b[1] - b[0] * a[1] for a, b in pairwise(ring)) > 0
    empty = api.client.get(f"/api/shots/{api.shot_id('Hollow lane, not scouted yet')}/ground.geojson")
    assert json.loads(empty.data)["features"] == []


def test_a_panorama_goes_into_the_sequence_and_onto_the_card(api, boulder):
    shot = api.patch(f"/shots/{boulder['id']}", {"pano_across_deg": 150, "pano_overlap": 0.4, "bracket": "none"})
    pano = shot["plan"]["frame"]["panorama"]
    frames = shot["plan"]["sequence"]["frames"]
    aims = [aim["label"] for aim in pano["aims"]]
    # Each plane of focus is one whole pass over all aims.
    planes = len({frame["focus_index"] for frame in frames})
    assert planes >= 2
    assert [(frame["focus_index"], frame["aim_label"]) for frame in frames] == [
        (plane, aim) for plane in range(planes) for aim in aims
    ]
    card = api.post(f"/shots/{boulder['id']}/cards", None)
    assert [frame["aim"] for frame in card["content"]["frames"]] == planes * aims
    api.refusal("PATCH", f"/shots/{boulder['id']}", {"pano_across_deg": 400}, "pano_across_deg")


def test_tripods_are_kit(api, boulder):
    legs = api.post("/supports", {"name": "Travel legs", "height_min_m": 0.35, "height_max_m": 1.3})
    held = api.patch(f"/shots/{boulder['id']}", {"support_id": legs["id"], "camera_height_m": 1.5})
    assert any("Travel legs reaches 1.30 m" in reason["text"] for reason in held["plan"]["because"])
    api.refusal("PATCH", f"/supports/{legs['id']}", {"height_max_m": 0.2}, "height_max_m")
    api.refusal("PATCH", f"/supports/{legs['id']}", {"inverted_min_m": 0.6}, "inverted_min_m")
    api.delete(f"/supports/{legs['id']}")
    assert _reload(api, boulder)["facts"]["support_id"] is None
    api.post("/undo", {"scopes": ["kit"]}, 200)
    assert _reload(api, boulder)["facts"]["support_id"] == legs["id"]
