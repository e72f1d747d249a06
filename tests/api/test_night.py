"""Night through the API: galactic core in day, season and finder, star trails as groups; simulated weather by choice."""

from datetime import date, timedelta

import pytest


@pytest.fixture
def core_night(api):
    """A shot made of nothing for a galactic core night at the southern viewpoint."""
    places = api.get("/locations")["locations"]
    south = next(item for item in places if item["latitude_deg"] < 0)
    kit = api.get("/kit")
    made = api.call("POST", "/shots", {"name": "Core night"}, 201)["id"]
    api.call(
        "PATCH",
        f"/shots/{made}",
        {
            "viewpoint_id": south["viewpoints"][0]["id"],
            "body_id": kit["bodies"][0]["id"],
            "lens_id": kit["lenses"][0]["id"],
            "support_id": kit["supports"][0]["id"],
            # 4 June 2027 is a new moon (any almanac).
            "light": {"date_local": "2027-06-05", "wanted_light": "galactic_core"},
            "frame": {"focal_mm": 24, "bearing_deg": 117, "pitch_deg": 40},
            "depth": {"f_number": 4, "far_infinite": True, "near_m": 8},
            "exposure": {"iso": 6400},
        },
    )
    return made


def test_a_core_night_from_an_empty_shot_to_a_card(api, core_night):
    day = api.get(f"/shots/{core_night}/day")
    window = day["windows"][0]
    assert (window["kind"], window["wanted"]) == ("galactic_core", True)
    assert any(reason.startswith("The galactic centre stands") for reason in window["reasons"])
    assert max(day["galactic"]["altitude_deg"]) > 60
    plan = api.call(
        "PATCH",
        f"/shots/{core_night}",
        {"light": {"time_utc": window["take_start_utc"], "window_end_utc": window["take_end_utc"]}},
    )["plan"]
    codes = {reason["code"] for reason in plan["because"]}
    assert {"exposure.for_the_sky", "exposure.stars", "frame.galactic_centre"} <= codes
    galaxy = plan["frame"]["view"]["galaxy"]
    assert galaxy["pieces"] and galaxy["centre"] is not None
    assert api.get(f"/shots/{core_night}/day")["galactic"]["band"]
    trails = next(way for way in plan["sequence"]["ways"] if way["name"] == "Star trails")
    groups = [{name: value for name, value in item.items() if not name.endswith("_label")} for item in trails["groups"]]
    taken = api.call("PATCH", f"/shots/{core_night}", {"sequence": {"frame_groups": groups}})
    kept = api.get(f"/shots/{core_night}")["facts"]["sequence"]["frame_groups"][0]
    assert (kept["role"], kept["gap_s"], kept["together"]) == ("star_trails", 1.0, "lighten")
    assert any(reason["code"] == "sequence.trails" for reason in taken["plan"]["because"])
    card = api.call("POST", f"/shots/{core_night}/cards", None, 201)
    assert card["id"]


def test_core_nights_of_a_year_lie_around_new_moons(api, core_night):
    found = api.get(f"/shots/{core_night}/season?from_date=2027-01-01")
    days = [date.fromisoformat(item["date_local"]) for item in found["days"]]
    assert days
    # The sun passes the galactic centre about 18 December; by full moon all night (18 June 2027) there is none either.
    assert not [day for day in days if (day.month, day.day) > (12, 10) or (day.month, day.day) < (1, 5)]
    assert date(2027, 6, 5) in days
    full = date(2027, 6, 18)
    assert not {full - timedelta(days=1), full} & set(days)


def test_a_notebook_without_the_demo_has_no_simulated_weather(api, app, service, posts_location):
    app.extensions["forecast_simulated"] = True
    before = api.get(f"/shots/{api.shot_id('Posts at the ebb')}")["plan"]["light"]
    assert before["tide_m"] is not None
    assert api.get(f"/locations/{posts_location}/forecast")["simulated"] is True
    api.call("PATCH", "/photographer", {"simulated_weather": False})
    state = api.get(f"/locations/{posts_location}/forecast")
    assert state["known"] is False
    assert "practise with simulated weather" in state["problem"]
    assert service.asked == 1
    assert api.get("/locations")["tide_places"] == []
    after = api.get(f"/shots/{api.shot_id('Posts at the ebb')}")["plan"]["light"]
    assert after["tide_m"] is None
    # Chosen again it is back, with the tide that the place was given.
    api.call("PATCH", "/photographer", {"simulated_weather": True})
    assert api.get(f"/locations/{posts_location}/forecast")["known"] is True
    again = api.get(f"/shots/{api.shot_id('Posts at the ebb')}")["plan"]["light"]
    assert again["tide_m"] == before["tide_m"]


def test_a_real_service_is_asked_whatever_is_practised(api, service, posts_location):
    api.call("PATCH", "/photographer", {"simulated_weather": False})
    api.get(f"/locations/{posts_location}/forecast")
    assert service.asked == 1


@pytest.fixture
def posts_location(api):
    return api.get(f"/shots/{api.shot_id('Posts at the ebb')}")["place"]["location_id"]


def test_windows_by_a_simulated_tide_and_forecast_say_so(api, service, posts_location):
    api.get(f"/locations/{posts_location}/forecast")
    day = api.get(f"/shots/{api.shot_id('Posts at the ebb')}/day")
    water = [reason for window in day["windows"] for reason in window["reasons"] if reason.startswith("Water")]
    assert water and all("(simulated)" in reason for reason in water)
    promised = [window["promise"] for window in day["windows"] if window["promise"]]
    assert promised and all(item["lead_words"].startswith("simulated") for item in promised)
    cautions = [item for window in day["windows"] for item in window["cautions"] if item["code"].startswith("weather.")]
    assert all(item["text"].startswith("Simulated weather: ") for item in cautions)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"extended_iso_min": 100}, "begins under the base ISO"),
        ({"extended_iso_max": 25600}, "ends over the highest ISO"),
        ({"stabiliser_stops": 13}, "12"),
        ({"buffer_frames": 0}, "1"),
    ],
)
def test_facts_of_a_body_are_checked(api, change, words):
    body = next(item for item in api.get("/kit")["bodies"] if item["base_iso"] == 100)
    error = api.refusal("PATCH", f"/bodies/{body['id']}", change)
    assert words in str(error)
    assert api.call("PATCH", f"/bodies/{body['id']}", {"flash_sync_s": "1/200"})["flash_sync_label"] == "1/200"


def test_readings_keep_their_time_and_place(api):
    shot = api.shot_id("Posts at the ebb")
    first = api.patch(f"/shots/{shot}", {"highlight_ev": 13, "shadow_ev": 6})
    read_at = first["facts"]["light"]["time_utc"]
    later = api.patch(f"/shots/{shot}", {"clock_local": "15:45"})
    # A new reading of the meter leaves highlight and shadow at their time.
    api.patch(f"/shots/{shot}", {"metered_f_number": 8, "metered_shutter_s": "1/30", "metered_iso": 100})
    exposure = api.get(f"/shots/{shot}")["facts"]["exposure"]
    assert exposure["metered_at_utc"] == later["facts"]["light"]["time_utc"]
    assert exposure["range_read_at_utc"] == read_at
    # At another place all of it is history, until it is said that it was read there.
    weir = next(item for item in api.get("/locations")["locations"] if item["name"] == "Tern Weir")
    moved = api.patch(f"/shots/{shot}", {"viewpoint_id": weir["viewpoints"][0]["id"]})
    (history, *_) = [item for item in moved["plan"]["because"] if item["code"] == "exposure.reading_is_history"]
    assert "taken at Sallow Estuary" in history["text"]
    here = api.patch(f"/shots/{shot}", {"metered_at_utc": moved["facts"]["light"]["time_utc"]})
    assert not [item for item in here["plan"]["because"] if item["code"] == "exposure.reading_is_history"]
