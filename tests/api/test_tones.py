"""The picture in tones over the wire: scene and counts, spot readings, materials, exposure sets, film."""

import base64
import io
import math

import numpy as np
import pytest
from PIL import Image

SPLIT, MIDNIGHT, POSTS = "Split boulder under the fell", "Midnight sun over the sound", "Posts at the ebb"


def _array(text, kind="<f4"):
    return np.frombuffer(base64.b64decode(text), dtype=kind)


def test_the_scene_and_its_counts(api):
    shot = api.shot_id(SPLIT)
    tones, scene = api.get(f"/shots/{shot}/tones"), api.get(f"/shots/{shot}/scene")
    assert tones["ready"]
    assert tones["scene_key"] == scene["scene_key"]
    kinds = [layer["kind"] for layer in scene["layers"]]
    assert kinds[0] == "sky"
    assert kinds.index("ground") < kinds.index("thing")
    for layer in scene["layers"]:
        points, triangles = _array(layer["points"]).reshape(-1, 3), _array(layer["triangles"], "<u4").reshape(-1, 3)
        assert triangles.max() < len(points)
        for name in ("ev", "shade_ev", "mirror_ev", "polariser_stops"):
            if layer[name] is not None:
                assert len(_array(layer[name])) == len(points)
                assert np.isfinite(_array(layer[name])).all()
    # The tarn is still: everything upright has its mirror.
    assert scene["mirrors"]
    assert all(layer["mirror_ev"] for layer in scene["layers"] if layer["kind"] == "thing")
    plan = api.get(f"/shots/{shot}")["plan"]["exposure"]
    assert [frame["brightest_ev"] for frame in tones["frames"]] == [
        frame["brightest_ev"] for frame in plan["exposures"]
    ]
    assert tones["carrying"] == plan["carrying"]
    assert {part["name"] for part in tones["parts"]} >= {"Sky", "Ground and land", "Split boulder"}


def test_the_same_scene_while_the_exposure_turns(api):
    shot = api.shot_id(SPLIT)
    # A set over the range would follow the range.
    api.patch(f"/shots/{shot}", {"bracket": "none"})
    before = api.get(f"/shots/{shot}/tones")
    api.patch(f"/shots/{shot}", {"compensation_ev": 1.0})
    turned = api.get(f"/shots/{shot}/tones")
    assert turned["scene_key"] == before["scene_key"]
    assert turned["frames"][0]["brightest_ev"] == pytest.approx(before["frames"][0]["brightest_ev"] - 1)
    api.patch(f"/shots/{shot}", {"ground_material": "fresh_snow"})
    assert api.get(f"/shots/{shot}/tones")["scene_key"] != before["scene_key"]


def test_without_a_time_there_is_no_picture(api):
    shot = api.post("/shots", {"name": "Bare"})["id"]
    assert api.get(f"/shots/{shot}/tones")["ready"] is False
    api.refusal("GET", f"/shots/{shot}/scene", None, "time_utc")
    api.get("/shots/999999/tones", 404)


def test_spot_readings_make_the_range_and_move_the_picture(api):
    shot = api.shot_id(MIDNIGHT)
    before = api.get(f"/shots/{shot}/tones")
    sky = {"part": "sky", "element_id": None, "said": "1/500 at f/11", "through_stops": 0}
    facts = api.patch(f"/shots/{shot}", {"spots": [sky]})["facts"]["exposure"]
    # f/11 is 2^3.5, 1/500 stands for 1/512: EV 7 + 9 = 16.
    assert facts["spots"][0]["ev100"] == pytest.approx(16)
    assert facts["spots"][0]["said"] == "1/500 at f/11"
    tones = api.get(f"/shots/{shot}/tones")
    middle = {part["name"]: part["middle_ev"] for part in tones["parts"]}
    assert middle["Sky"] == pytest.approx(16, abs=1e-3)
    # Half of what the one reading says elsewhere.
    land_before = next(part["middle_ev"] for part in before["parts"] if part["name"] == "Ground and land")
    assert middle["Ground and land"] - land_before == pytest.approx(tones["sky_stops"] / 2, abs=1e-3)
    land = {"part": "land", "element_id": None, "said": "EV 2", "through_stops": 1}
    changed = api.patch(f"/shots/{shot}", {"spots": [sky, land], "bracket": "range", "bracket_step_ev": 2})["plan"][
        "exposure"
    ]
    # 16 to 3 (one stop of filter counted back): 13 stops, 11 held: two frames or three.
    assert changed["range_stops"] == pytest.approx(13)
    assert len(changed["exposures"]) in (2, 3)
    assert api.post("/undo", {"scopes": [f"shot:{shot}"]}, 200)["done"]
    assert [spot["said"] for spot in api.get(f"/shots/{shot}")["facts"]["exposure"]["spots"]] == ["1/500 at f/11"]


def test_readings_of_one_patch_that_contradict_each_other(api):
    shot = api.shot_id(MIDNIGHT)
    two = [{"part": "sky", "element_id": None, "said": said, "through_stops": 0} for said in ("EV 12", "EV 15")]
    api.patch(f"/shots/{shot}", {"spots": two})
    assert any("the sky differ by 3.0 stops" in reason["text"] for reason in api.get(f"/shots/{shot}/tones")["reasons"])


def test_readings_of_an_element_follow_it(api):
    shot = api.shot_id(SPLIT)
    stone = next(
        item["id"]
        for item in api.get(f"/shots/{shot}")["place"]["viewpoint"]["elements"]
        if item["name"] == "Split boulder"
    )
    spots = [
        {"part": "element", "element_id": stone, "said": "EV 6", "through_stops": 0},
        {"part": "sky", "element_id": None, "said": "EV 11", "through_stops": 0},
    ]
    api.patch(f"/shots/{shot}", {"spots": spots})
    # Into a copy of the viewpoint for this shot alone.
    own = api.post(f"/shots/{shot}/own", {"what": "viewpoint"}, 200)
    copied = next(item["id"] for item in own["place"]["viewpoint"]["elements"] if item["name"] == "Split boulder")
    assert [(item["part"], item["element_id"]) for item in own["facts"]["exposure"]["spots"]] == [
        ("element", copied),
        ("sky", None),
    ]
    middle = {part["name"]: part["middle_ev"] for part in api.get(f"/shots/{shot}/tones")["parts"]}
    assert (middle["Split boulder"], middle["Sky"]) == (pytest.approx(6, abs=1e-3), pytest.approx(11, abs=1e-3))
    # Nothing is said from another viewpoint of what stands at this one; undo has it back.
    other = api.get(f"/shots/{api.shot_id(POSTS)}")["place"]["viewpoint"]["id"]
    assert _parts(api.patch(f"/shots/{shot}", {"viewpoint_id": other})) == ["sky"]
    api.post("/undo", {"scopes": [f"shot:{shot}"]}, 200)
    assert _parts(api.get(f"/shots/{shot}")) == ["element", "sky"]
    # What is read of an element goes with it, and does not stand in the way of the next reading.
    api.delete(f"/elements/{copied}")
    left = api.get(f"/shots/{shot}")["facts"]["exposure"]["spots"]
    land = {"part": "land", "element_id": None, "said": "EV 5", "through_stops": 0}
    kept = [{name: item[name] for name in land} for item in left]
    assert _parts(api.patch(f"/shots/{shot}", {"spots": [*kept, land]})) == ["sky", "land"]


def _parts(shot):
    return [item["part"] for item in shot["facts"]["exposure"]["spots"]]


@pytest.mark.parametrize(
    ("spot", "field"),
    [
        ({"part": "sky", "said": "rubbish"}, "spots.0.said"),
        ({"part": "sky", "said": "f/11"}, "spots.0.said"),
        ({"part": "sky", "said": "EV 40"}, "spots.0.said"),
        ({"part": "moon", "said": "EV 4"}, "spots.0.part"),
        ({"part": "element", "said": "EV 4"}, "spots"),
        ({"part": "sky", "element_id": 1, "said": "EV 4"}, "spots"),
        ({"part": "element", "element_id": 999999, "said": "EV 4"}, "spots"),
        ({"part": "sky", "said": "EV 4", "through_stops": -1}, "spots.0.through_stops"),
    ],
)
def test_readings_that_say_nothing_are_refused(api, spot, field):
    shot = api.shot_id(MIDNIGHT)
    api.refusal("PATCH", f"/shots/{shot}", {"spots": [spot]}, field)
    assert api.get(f"/shots/{shot}")["facts"]["exposure"]["spots"] == []


def test_what_things_are_made_of(api):
    shot = api.shot_id(SPLIT)
    element = next(
        item for item in api.get(f"/shots/{shot}")["place"]["viewpoint"]["elements"] if item["name"] == "Split boulder"
    )
    assert (element["material"], element["reflectance_typical"]) == (None, 0.18)
    dark = next(
        part["middle_ev"] for part in api.get(f"/shots/{shot}/tones")["parts"] if part["name"] == "Split boulder"
    )
    changed = api.patch(f"/elements/{element['id']}", {"material": "fresh_snow"})
    assert "Split boulder" in str(changed)
    # 0.88 for 0.18 is 2.3 stops.
    light = next(
        part["middle_ev"] for part in api.get(f"/shots/{shot}/tones")["parts"] if part["name"] == "Split boulder"
    )
    assert light - dark > 1.2
    api.refusal("PATCH", f"/elements/{element['id']}", {"material": "cheese"}, "material")
    api.refusal("PATCH", f"/elements/{element['id']}", {"reflectance": 1.2}, "reflectance")


def test_film_has_a_line_of_its_own(api):
    shot = api.shot_id(POSTS)
    body = api.get(f"/shots/{shot}")["facts"]["body_id"]
    steady = api.get(f"/shots/{shot}")["plan"]["exposure"]["shutter"]["value"]
    api.patch(f"/bodies/{body}", {"film_exponent": 1.31})
    exposure = api.get(f"/shots/{shot}")["plan"]["exposure"]
    film = exposure["ledger"][-1]
    assert film["kind"] == "film"
    # Schwarzschild: t^1.31, 0.31 · log2 t stops.
    assert exposure["shutter"]["value"] == pytest.approx(steady**1.31, rel=0.05)
    assert film["stops"] == pytest.approx(0.31 * math.log2(steady), rel=0.05)
    api.refusal("PATCH", f"/bodies/{body}", {"film_exponent": 0.5}, "film_exponent")


def test_frozen_grass_and_long_water_are_two_frames(api):
    shot = api.shot_id("Brown water over the sill")
    place = api.get(f"/shots/{shot}")["place"]["viewpoint"]["id"]
    grass = api.post(
        f"/viewpoints/{place}/elements",
        {
            "name": "Rushes",
            "shape": "block",
            "bearing_deg": 12,
            "distance_m": 4.6,
            "width_m": 1,
            "height_m": 0.4,
            "speed_mps": 0.05,
        },
    )["id"]
    facts = api.get(f"/shots/{shot}")["facts"]
    moving = api.get(f"/shots/{shot}")["plan"]["exposure"]["moving_element_id"]
    sharp = [*facts["depth"]["sharp_element_ids"], grass]
    one = api.patch(
        f"/shots/{shot}", {"sharp_element_ids": sharp, "wanted_look": "textured", "moving_element_id": moving}
    )
    assert any(
        "Rushes must be sharp" in reason["text"] and "two frames" in reason["text"] for reason in one["plan"]["because"]
    )
    two = api.patch(f"/shots/{shot}", {"bracket": "frozen_and_long"})["plan"]
    frames = two["exposure"]["exposures"]
    assert len(frames) == 2
    assert frames[0]["shutter_s"] < frames[1]["shutter_s"] / 4
    assert frames[0]["iso"] > 100
    assert two["exposure"]["carrying"] == 1
    assert not any("Rushes must be sharp" in reason["text"] for reason in two["because"])
    assert {frame["iso"] for frame in two["sequence"]["frames"]} == {frames[0]["iso"], two["exposure"]["iso"]}


def test_what_is_set_on_the_camera(api):
    shot = api.shot_id(SPLIT)
    said = {item["name"]: item["value"] for item in api.get(f"/shots/{shot}")["plan"]["exposure"]["settings"]}
    assert said["Mode"] == "manual"
    assert said["Aperture"] == "f/11"
    assert "automatic bracket of 3 at 2 EV" in said["Drive"]
    assert said["Stabiliser"] == "off"
    held = {
        item["name"]: item["value"]
        for item in api.patch(f"/shots/{shot}", {"hold": "hand"})["plan"]["exposure"]["settings"]
    }
    assert held["Stabiliser"] == "on"


def test_the_card_has_the_picture_and_the_settings(api):
    shot = api.shot_id(SPLIT)
    content = api.post(f"/shots/{shot}/cards", None)["content"]
    kind, packed = content["picture"].split(",", 1)
    assert kind == "data:image/png;base64"
    with Image.open(io.BytesIO(base64.b64decode(packed))) as picture:
        assert (picture.size, picture.mode) == ((240, 160), "L")
        grey = np.asarray(picture)
    # The sky is lighter than the shore before the feet.
    assert grey[:20].mean() > grey[-40:].mean()
    assert {"name": "Mode", "value": "manual"} in content["settings"]
    assert {frame["note"] for frame in content["frames"]} == {""}


def test_a_card_says_what_changes_between_two_frames(api):
    shot = api.shot_id(POSTS)
    posts = next(
        item["id"]
        for item in api.get(f"/shots/{shot}")["place"]["viewpoint"]["elements"]
        if item["name"] == "Mooring posts"
    )
    api.patch(f"/elements/{posts}", {"speed_mps": 0.05})
    plan = api.patch(f"/shots/{shot}", {"bracket": "frozen_and_long", "depth_method": "single"})["plan"]
    assert [frame["bare"] for frame in plan["exposure"]["exposures"]] == [True, False]
    frames = api.post(f"/shots/{shot}/cards", None)["content"]["frames"]
    assert frames[0]["note"] == ""
    assert "10-stop ND on" in frames[1]["note"]
    assert frames[1]["offset"] == "0 EV"
