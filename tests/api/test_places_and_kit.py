"""Locations, viewpoints, elements, their light, and the kit."""

import pytest

PLACE = {"name": "Kelda Head", "latitude_deg": 58.1, "longitude_deg": "-6.3", "elevation_m": "40"}
LENS = {
    "name": "Prime",
    "focal_min_mm": 50,
    "focal_max_mm": 50,
    "f_number_min": "f/1.8",
    "f_number_max": "f/16",
    "closest_focus_mm": 450,
}


def _point(api, name):
    return _location(api, name)["viewpoints"][0]["id"]


def _location(api, name):
    return next(place for place in api.get("/locations")["locations"] if place["name"] == name)


def test_a_location_gets_its_zone_and_a_first_viewpoint(api):
    made = api.post("/locations", PLACE)
    assert made["zone"] == "Europe/London"
    assert made["longitude_deg"] == -6.3
    assert len(made["viewpoints"]) == 1


@pytest.mark.parametrize(
    ("latitude", "longitude", "zone"),
    [(68.2, 13.7, "Europe/Oslo"), (-45.1, -72.2, "America/Coyhaique"), (35.0, -40.0, "Etc/GMT+3")],
)
def test_zones_are_proposed(api, latitude, longitude, zone):
    # IANA zones by their boundaries; the Aysén region keeps its own since 2025; at sea the nautical zone.
    assert api.get(f"/zone?latitude_deg={latitude}&longitude_deg={longitude}")["zone"] == zone


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        ({"latitude_deg": 91}, "latitude_deg", "at most 90"),
        ({"latitude_deg": "north"}, "latitude_deg", "not a number"),
        ({"longitude_deg": -181}, "longitude_deg", "at least -180"),
        ({"elevation_m": 12000}, "elevation_m", "at most 9000"),
        ({"zone": "Mars/Olympus"}, "zone", "Europe/London"),
        ({"name": ""}, "name", "needed"),
        ({"altitude_m": 3}, "altitude_m", "no such field"),
    ],
)
def test_impossible_locations_are_refused_at_their_field(api, change, field, words):
    error = api.refusal("POST", "/locations", PLACE | change, field)
    assert words in error["fields"][0]["message"]
    api.refusal("PATCH", f"/locations/{_location(api, 'Isfold')['id']}", change, field)


@pytest.mark.parametrize(
    ("day", "absence", "words"),
    [("2026-06-21", "always_above", "no sunset"), ("2026-12-21", "always_below", "no sunrise")],
)
def test_days_without_sunset_or_sunrise_are_ordinary(api, day, absence, words):
    light = api.get(f"/viewpoints/{_point(api, 'Isfold')}/light?date_local={day}")
    assert light["absence"] == absence
    assert words in light["absence_words"]
    assert not {"sunrise", "sunset"} & {event["kind"] for event in light["events"]}
    assert len(light["curve_ev100"]) == 481


def test_the_sun_is_in_the_north_at_45_south(api):
    light = api.get(f"/viewpoints/{_point(api, 'Mirador Quelén')}/light?date_local=2026-11-29")
    assert light["noon_compass"] == "N"


@pytest.mark.parametrize(("day", "hours"), [("2026-03-29", 23), ("2026-10-25", 25)])
def test_days_of_clock_changes_show_their_own_hours(api, day, hours):
    light = api.get(f"/viewpoints/{_point(api, 'Tern Weir')}/light?date_local={day}")
    assert light["length_s"] == hours * 3600
    assert len(light["hours"]) == hours + 1
    labels = [tick["label"] for tick in light["hours"]]
    assert (labels.count("01"), labels.count("00")) == ((0, 2) if hours == 23 else (2, 2))


def test_light_needs_a_date(api):
    api.refusal("GET", f"/viewpoints/{_point(api, 'Isfold')}/light", None, "date_local")
    api.refusal("GET", f"/viewpoints/{_point(api, 'Isfold')}/light?date_local=soon", None, "date_local")


def test_elements_come_and_go_and_come_back(api):
    place = _location(api, "Sallow Estuary")
    viewpoint = place["viewpoints"][0]["id"]
    made = api.post(
        f"/viewpoints/{viewpoint}/elements",
        {
            "name": "Buoy",
            "shape": "boulder",
            "bearing_deg": "-120",
            "distance_m": "120 m",
            "width_m": "80 cm",
            "height_m": "6 ft",
        },
    )
    assert (made["bearing_deg"], made["distance_m"], made["height_m"]) == (240, 120, pytest.approx(1.8288))
    api.patch(f"/elements/{made['id']}", {"speed_mps": 0.2})
    shot = api.shot_id("Posts at the ebb")
    api.patch(
        f"/shots/{shot}",
        {"sharp_element_ids": [made["id"]], "moving_element_id": made["id"], "near_m": None, "far_infinite": False},
    )
    api.delete(f"/elements/{made['id']}")
    facts = api.get(f"/shots/{shot}")["facts"]
    assert facts["depth"]["sharp_element_ids"] == []
    assert facts["exposure"]["moving_element_id"] is None
    api.post("/undo", {"scopes": [f"location:{place['id']}"]}, 200)
    facts = api.get(f"/shots/{shot}")["facts"]
    assert facts["depth"]["sharp_element_ids"] == [made["id"]]
    assert facts["exposure"]["moving_element_id"] == made["id"]


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"distance_m": 0}, "distance_m"),
        ({"distance_m": "∞"}, "distance_m"),
        ({"shape": "cloud"}, "shape"),
        ({"speed_mps": -1}, "speed_mps"),
        ({"bearing_deg": 4000}, "bearing_deg"),
    ],
)
def test_impossible_elements_are_refused(api, change, field):
    viewpoint = _location(api, "Sallow Estuary")["viewpoints"][0]["id"]
    body = {"name": "Thing", "bearing_deg": 1, "distance_m": 2, "width_m": 1, "height_m": 1} | change
    api.refusal("POST", f"/viewpoints/{viewpoint}/elements", body, field)


def test_deleting_a_location_leaves_its_shots_and_undo_restores_all(api):
    before, place = api.get("/notebook")["shots"], _location(api, "Isfold")
    api.delete(f"/locations/{place['id']}")
    assert len(api.get("/notebook")["shots"]) == len(before)
    lost = api.get(f"/shots/{api.shot_id('Blue noon')}")
    assert lost["place"] is None
    api.refusal("GET", f"/locations/{place['id']}", None, status=404)
    api.post("/undo", {"scopes": ["locations"]}, 200)
    assert _location(api, "Isfold") == place
    assert api.get("/notebook")["shots"] == before


def test_viewpoints(api):
    place = _location(api, "Tern Weir")
    made = api.post(f"/locations/{place['id']}/viewpoints", {"name": "From the bridge"})
    assert api.patch(f"/viewpoints/{made['id']}", {"name": "Under the bridge"})["name"] == "Under the bridge"
    api.delete(f"/viewpoints/{made['id']}")
    assert [point["name"] for point in _location(api, "Tern Weir")["viewpoints"]] == ["Gravel spit below the sill"]


def test_kit_pieces(api):
    lens = api.post("/lenses", LENS)
    assert lens["f_number_min"] == pytest.approx(2 ** (5 / 3 / 2 * 1), rel=0.02)
    assert lens["widest_view_deg"] == pytest.approx(39.6, abs=0.05)  # handbook: 50 mm on 36 mm
    assert api.patch(f"/lenses/{lens['id']}", {"sharpest_f_number": "f/5.6"})["sharpest_label"] == "f/5.6"
    strong = api.post("/filters", {"name": "Two stop", "stops": "2"})
    assert (strong["factor"], round(strong["density"], 2)) == (4, 0.6)
    body = api.post(
        "/bodies",
        {
            "name": "Old body",
            "sensor_width_mm": 23.6,
            "sensor_height_mm": 15.7,
            "pixels_wide": 4000,
            "pixels_high": 2600,
            "slowest_shutter_s": "30 s",
        },
    )
    assert body["slowest_shutter_label"] == "30 s"
    for path in (f"/lenses/{lens['id']}", f"/filters/{strong['id']}", f"/bodies/{body['id']}"):
        api.delete(path)
        api.refusal("PATCH", path, {"name": "gone"}, status=404)


def test_a_lens_in_use_can_be_deleted_and_undone(api):
    shot = api.shot_id("Posts at the ebb")
    lens = api.get(f"/shots/{shot}")["facts"]["lens_id"]
    api.delete(f"/lenses/{lens}")
    assert api.get(f"/shots/{shot}")["plan"]["verdicts"][3]["mark"] == "unsaid"
    api.post("/undo", {"scopes": ["kit"]}, 200)
    assert api.get(f"/shots/{shot}")["facts"]["lens_id"] == lens


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"focal_max_mm": 20}, "focal_max_mm"),
        ({"f_number_max": "f/1.4"}, "f_number_max"),
        ({"sharpest_f_number": 32}, "sharpest_f_number"),
        ({"closest_focus_mm": 100}, "closest_focus_mm"),
        ({"focal_min_mm": "fifty"}, "focal_min_mm"),
        ({"f_number_min": 5.9, "f_number_max": 5}, "f_number_max"),
    ],
)
def test_impossible_lenses_are_refused(api, change, field):
    api.refusal("POST", "/lenses", LENS | change, field)


def test_f_numbers_between_whole_numbers_are_numbers(api):
    # A trap: 5.9 read as 5 would pass a limit of f/5.6.
    lens = api.post("/lenses", LENS | {"f_number_min": 5.9, "f_number_max": 22, "sharpest_f_number": 8})
    assert lens["f_number_min"] == 5.9
