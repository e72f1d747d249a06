"""Answers at the tripod over HTTP: as typed, by the bag, and kept as shots whose plan says the same."""

import pytest

QUESTIONS = {
    "density": "shutter=1/15&filters=10",
    "depth": "focal_mm=24 mm&f_number=f/11&near_m=0.8 m&far=inf",
    "close-up": "scale=1:1&depth_mm=4 mm&f_number=f/8",
    "bracket": "darkest=EV 3&brightest=EV 16",
    "water": "seen=brisk_stream&distance_m=4 m&focal_mm=24",
    "stars": "focal_mm=20&f_number=f/2.8",
}


def test_what_answers_begin_with(api):
    begin = api.get("/now")
    assert any(item["stops"] == 10 for item in begin["filters"])
    assert begin["wide"]["focal_mm"] == min(lens["focal_min_mm"] for lens in api.get("/kit")["lenses"])
    assert len(begin["places"]) == sum(len(item["viewpoints"]) for item in api.get("/locations")["locations"])


@pytest.mark.parametrize("key", QUESTIONS)
def test_what_is_kept_is_a_shot(api, key):
    answer = api.get(f"/now/{key}?{QUESTIONS[key]}")
    assert answer["figure"] and answer["words"] and answer["notes"]
    shot = api.post("/shots", {"name": key})
    assert api.patch(f"/shots/{shot['id']}", answer["choices"] | answer["kit"])["id"] == shot["id"]


def test_depth_kept_focuses_where_it_was_said(api):
    kit = api.get("/kit")
    body = next(item for item in kit["bodies"] if item["sensor_width_mm"] == 36)
    lens = next(item for item in kit["lenses"] if item["focal_min_mm"] <= 20 <= item["focal_max_mm"])
    answer = api.get(f"/now/depth?focal_mm=20&f_number=f/11&near_m=0.9&body_id={body['id']}")
    assert answer["kit"]["lens_id"] == lens["id"]
    shot = api.post("/shots", {"name": "x"})
    plan = api.patch(f"/shots/{shot['id']}", answer["choices"] | answer["kit"])["plan"]["depth"]
    # A lens of the bag may lengthen when focused near; the ideal one does not.
    assert [item["focus_distance"]["value"] for item in plan["positions"]] == pytest.approx(answer["focus_m"], rel=0.02)


def test_a_filter_of_the_bag_is_put_on(api):
    kit = api.get("/kit")["filters"]
    ten = next(item["id"] for item in kit if item["stops"] == 10)
    chosen = api.get("/now/density?shutter=1/15&filters=10")["choices"]["exposure"]["filters"]
    assert chosen == [{"filter_id": ten, "on_lens": True, "on_when_metered": False}]
    assert api.get("/now/density?shutter=1/15&filters=5.2")["choices"]["exposure"]["filters"] == []


def test_light_here_is_of_the_place_one_stands_at(api):
    place = api.get("/locations")["locations"][0]
    point = place["viewpoints"][0]
    by_id = api.get(f"/now/light?viewpoint_id={point['id']}")
    assert by_id["place"].startswith(place["name"])
    beside = f"{by_id['latitude_deg'] + 0.001}, {by_id['longitude_deg']}"
    assert api.get(f"/now/light?coordinates={beside}")["place"] == by_id["place"]
    afar = api.get(f"/now/light?coordinates={by_id['latitude_deg'] + 1}, {by_id['longitude_deg']}")
    assert afar["place"] == ""
    assert api.get("/now/light?viewpoint_id=2147483647", 422)["error"]["fields"][0]["field"] == "viewpoint_id"


@pytest.mark.parametrize(
    ("question", "field"),
    [
        ("density?shutter=soon&filters=10", "shutter"),
        ("density?shutter=1/15&filters=fog", "filters"),
        ("density?shutter=1/15&filters=ND3", "filters"),
        ("depth?focal_mm=24&f_number=f/11&near_m=2&far=1 m", "far_m"),
        ("depth?focal_mm=24&f_number=f/11&near_m=1 mm", "near_m"),
        ("depth?focal_mm=24&f_number=f/11&near_m=1&far=mars", "far"),
        ("close-up?scale=huge&depth_mm=4&f_number=8", "scale"),
        ("bracket?darkest=1/1000&brightest=1/2", "brightest"),
        ("bracket?darkest=1/2&brightest=12", "brightest"),
        ("water?seen=soup&distance_m=4&focal_mm=24", "seen"),
        ("stars?focal_mm=0", "focal_mm"),
        ("stars?focal_mm=20&colour=red", "colour"),
        ("light", "coordinates"),
        ("light?coordinates=over there", "coordinates"),
    ],
)
def test_what_cannot_be_read_is_refused_at_its_field(api, question, field):
    refused = api.get(f"/now/{question}", 422)["error"]
    assert [item["field"] for item in refused["fields"]] == [field]


def test_a_reading_for_a_shot_was_taken_as_it_is_set(api):
    shot = api.shot_id("Posts at the ebb")
    before = api.get(f"/shots/{shot}")["facts"]
    choices = api.get(f"/now/density?shutter=1/15&filters=10&shot_id={shot}")["choices"]
    assert "depth" not in choices and "iso" not in choices["exposure"]
    assert choices["exposure"]["metered_f_number"] == pytest.approx(before["depth"]["f_number"])
    refused = api.get("/now/density?shutter=1/15&filters=10&shot_id=2147483647", 422)["error"]
    assert refused["fields"][0]["field"] == "shot_id"


def test_a_simulated_tide_is_called_so(api):
    place = next(item for item in api.get("/locations")["locations"] if item["name"] == "Sallow Estuary")
    coming = api.get(f"/now/light?viewpoint_id={place['viewpoints'][0]['id']}")["coming"]
    waters = [item["figure"] for item in coming if item["kind"].endswith("_water")]
    assert waters and all(figure.endswith(", simulated") for figure in waters)
