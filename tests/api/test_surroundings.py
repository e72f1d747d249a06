"""Positions, access, hazards, seasons, readings of locations, and what they do to the plan."""

import pytest
import utm


def _location(api, name):
    return next(item for item in api.get("/locations")["locations"] if item["name"] == name)


def _texts(api, shot_id, step=None):
    return [
        reason["text"] for reason in api.get(f"/shots/{shot_id}")["plan"]["because"] if step in (None, reason["step"])
    ]


@pytest.fixture
def posts(api):
    return api.shot_id("Posts at the ebb")


def test_positions_in_any_notation(api):
    east, north, zone, band = utm.from_latlon(54.531, -3.214)
    for text in ("54.531, -3.214", "54°31'51.6\"N 3°12'50.4\"W", f"{zone}{band} {east:.0f} {north:.0f}"):
        made = api.post("/locations", {"name": "Somewhere", "coordinates": text})
        assert made["latitude_deg"] == pytest.approx(54.531, abs=0.001)
    found = api.get("/coordinates?text=30UVF8615042296")
    assert found["notation"] == "MGRS"
    error = api.refusal("POST", "/locations", {"name": "x", "coordinates": "north of here"}, "coordinates")
    assert "54.531" in error["message"]
    api.refusal("POST", "/locations", {"name": "x"}, "coordinates")
    api.refusal("PATCH", f"/locations/{made['id']}", {"coordinates": "95, 0"}, "coordinates")


def test_a_viewpoint_by_bearing_and_distance(api):
    estuary = _location(api, "Sallow Estuary")
    origin = estuary["viewpoints"][0]
    made = api.post(
        f"/locations/{estuary['id']}/viewpoints",
        {"name": "North of it", "from_viewpoint_id": origin["id"], "from_bearing_deg": 0, "from_distance_m": "1.2 km"},
    )
    # 1.2 km north are 0.0108° of latitude (111.2 km a degree).
    assert made["latitude_deg"] == pytest.approx(54.531 + 0.01079, abs=2e-4)
    assert made["longitude_deg"] == pytest.approx(-3.214)
    api.refusal(
        "POST", f"/locations/{estuary['id']}/viewpoints", {"name": "x", "from_bearing_deg": 3}, "from_viewpoint_id"
    )
    api.refusal(
        "POST",
        f"/locations/{estuary['id']}/viewpoints",
        {"name": "x", "from_viewpoint_id": 99999, "from_bearing_deg": 3, "from_distance_m": 3},
        "from_viewpoint_id",
    )
    back = api.patch(f"/viewpoints/{made['id']}", {"coordinates": None})
    assert not back["position_own"]


def test_the_tide_cuts_the_place_off(api, posts):
    place = [text for text in _texts(api, posts, "place") if "cut off" in text]
    assert place
    assert "simulated" in place[0]
    estuary = _location(api, "Sallow Estuary")
    hazard = next(item for item in estuary["hazards"] if item["kind"] == "tide")
    # A bank that floods at 1 m is under water at the time of the shot: the plan fails in words.
    api.patch(f"/hazards/{hazard['id']}", {"cut_off_m": 1.0})
    plan = api.get(f"/shots/{posts}")["plan"]
    assert plan["verdicts"][0]["mark"] == "fails"
    assert any("It closes the way" in reason["text"] for reason in plan["because"] if reason["severity"] == "fails")
    api.post("/undo", {"scopes": [f"location:{estuary['id']}"]}, 200)
    assert api.get(f"/shots/{posts}")["plan"]["verdicts"][0]["mark"] == "holds"


def test_wanted_water_is_held_against_the_tide(api, posts):
    shot = api.get(f"/shots/{posts}")
    assert 0.3 <= shot["plan"]["light"]["tide_m"] - 1.5 <= 0.8
    api.refusal("PATCH", f"/shots/{posts}", {"water_low_m": 3}, "water_low_m")
    wet = api.patch(f"/shots/{posts}", {"water_low_m": 2.5, "water_high_m": 3.5})["plan"]
    assert wet["verdicts"][1]["mark"] == "fails"
    api.refusal("PATCH", f"/shots/{posts}", {"water_element_id": 99999}, "water_element_id")


def test_hazards_and_seasons_speak_at_their_time_of_the_year(api):
    shot = api.shot_id("Split boulder under the fell")
    location = _location(api, "Blackwater Tarn")
    assert any("carry batteries warm" in text for text in _texts(api, shot))
    made = api.post(
        f"/locations/{location['id']}/seasons",
        {"kind": "snow", "note": "first on the fell", "from_month": 11, "from_day": 20, "to_month": 2, "to_day": 3},
    )
    assert made["words"] == "20 Nov to 3 Feb"
    assert any("first on the fell" in text for text in _texts(api, shot))
    api.patch(f"/shots/{shot}", {"date_local": "2027-07-01"})
    assert not any("first on the fell" in text or "carry batteries warm" in text for text in _texts(api, shot))
    api.delete(f"/seasons/{made['id']}")
    api.delete(f"/seasons/{made['id']}", 404)
    api.refusal("POST", f"/locations/{location['id']}/hazards", {"kind": "dragons"}, "kind")
    api.refusal(
        "POST", f"/locations/{location['id']}/seasons", {"kind": "snow", "from_month": 13, "to_month": 1}, "from_month"
    )


def test_access_says_whether_it_was_checked(api, posts):
    assert any("Access, checked" in text for text in _texts(api, posts))
    estuary = _location(api, "Sallow Estuary")
    api.patch(f"/locations/{estuary['id']}", {"access_checked_on": None})
    assert any("Access was not checked" in text for text in _texts(api, posts))


def test_leaving_home_follows_the_way_and_the_preparation(api, posts):
    before = api.get(f"/shots/{posts}")["plan"]["place"]
    assert before["leave_home"] < before["leave_car"] < before["set_up"]
    owner = api.patch("/photographer", {"set_up_min": 50})
    assert owner["set_up_min"] == 50
    assert api.get(f"/shots/{posts}")["plan"]["place"]["leave_home"] < before["leave_home"]
    api.patch(
        f"/locations/{_location(api, 'Sallow Estuary')['id']}",
        {"drive_min": None, "walk_m": "400 m", "walk_ascent_m": 0, "walk_terrain": "path"},
    )
    after = api.get(f"/shots/{posts}")["plan"]["place"]
    assert after["leave_home"] is None
    assert after["walk_min"] == pytest.approx(4.8)
    api.refusal(
        "PATCH", f"/locations/{_location(api, 'Sallow Estuary')['id']}", {"tide_place": "Atlantis"}, "tide_place"
    )


def test_meter_readings_shift_the_day(api, posts):
    shot = api.get(f"/shots/{posts}")
    location, day = shot["place"]["location_id"], shot["facts"]["light"]["date_local"]
    ev = shot["plan"]["light"]["ev100"]
    made = api.post(
        f"/locations/{location}/readings",
        {"date_local": day, "clock_local": shot["facts"]["light"]["clock_local"], "ev100": ev - 0.7},
    )
    after = api.get(f"/shots/{posts}")
    assert after["plan"]["light"]["ev100"] == pytest.approx(ev - 0.7, abs=1e-6)
    light = api.get(f"/viewpoints/{shot['place']['viewpoint']['id']}/light?date_local={day}")
    assert light["shift_words"] == "Metered 0.7 stops darker than a clear sky"
    assert len(light["readings"]) == 1
    # f/16 at 1/8 s and ISO 100 is EV 11 (ISO 2720: log2(256 · 8)); it stands for itself.
    by_settings = api.post(
        f"/locations/{location}/readings",
        {"date_local": day, "clock_local": "12:00", "f_number": "f/16", "shutter_s": "1/8", "iso": 100},
    )
    assert by_settings["ev100"] == pytest.approx(11.0)
    api.refusal("POST", f"/locations/{location}/readings", {"date_local": day, "clock_local": "12:00"}, "ev100")
    api.refusal(
        "POST",
        f"/locations/{location}/readings",
        {"date_local": day, "clock_local": "12:00", "f_number": 8},
        "shutter_s",
    )
    api.delete(f"/readings/{made['id']}")


def test_deleting_a_location_and_taking_it_back(api, posts):
    estuary = _location(api, "Sallow Estuary")
    api.delete(f"/locations/{estuary['id']}")
    assert api.get(f"/shots/{posts}")["place"] is None
    api.post("/undo", {"scopes": ["locations"]}, 200)
    back = api.get(f"/locations/{estuary['id']}")
    assert {name: back[name] for name in ("hazards", "tracks", "season_notes", "viewpoints", "tide_place")} == {
        name: estuary[name] for name in ("hazards", "tracks", "season_notes", "viewpoints", "tide_place")
    }
    assert api.get(f"/shots/{posts}")["facts"]["light"]["water_element_id"] is not None
