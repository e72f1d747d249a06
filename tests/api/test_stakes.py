"""What one can stake a night on: own tide, opening hours, hours by hand, plan B, which place."""

import time
from datetime import UTC, date, datetime, timedelta

import pytest
from sqlalchemy import select

from lucid_ridge.core.planning.day.outlook import Travel
from lucid_ridge.operations.notebook import kept_outlooks, outlooks
from lucid_ridge.store.places import KeptForecast


@pytest.fixture
def estuary(api):
    return next(item for item in api.get("/locations")["locations"] if item["name"] == "Sallow Estuary")


@pytest.fixture
def ungated(api, estuary):
    """The estuary without the demo's gate."""
    for opening in estuary["openings"]:
        api.delete(f"/openings/{opening['id']}")
    return estuary


@pytest.fixture
def posts(api):
    return api.get(f"/shots/{api.shot_id('Posts at the ebb')}")


def _table(day, first="05:30"):
    """Low water at half past five in the morning and evening, high at half past eleven: spans over 2.9 m from about
    ten to one.
    """
    hour, minute = (int(part) for part in first.split(":"))
    start = datetime(day.year, day.month, day.day, hour, minute) - timedelta(hours=24)
    waters = [(start + timedelta(hours=6 * number), 0.5 if number % 2 == 0 else 4.5) for number in range(12)]
    return "\n".join(f"{moment:%Y-%m-%d %H:%M} {height} m" for moment, height in waters)


def test_a_typed_tide_moves_the_windows(api, estuary, posts):
    day = date.fromisoformat(posts["facts"]["light"]["date_local"])
    before = api.get(f"/shots/{posts['id']}/day")
    answer = api.put(
        f"/locations/{estuary['id']}/tide", {"table": _table(day), "source": "harbour table", "noted_on": "2026-11-01"}
    )
    assert answer["own_tide"]["words"].startswith("12 waters from")
    light = api.get(f"/viewpoints/{posts['place']['viewpoint']['id']}/light?date_local={day}")
    assert (light["tide"]["told"], light["tide"]["simulated"]) == ("harbour table, noted 1 Nov 2026", False)
    lows = [event["clock"] for event in light["tide"]["events"] if event["kind"] == "low water"]
    assert lows == ["05:30", "17:30"]
    after = api.get(f"/shots/{posts['id']}/day")
    assert [span["start_clock"] for span in after["closed"]] != [span["start_clock"] for span in before["closed"]]
    assert any("harbour table" in span["words"] for span in after["closed"])
    assert after["windows"][0]["take_start_utc"] != before["windows"][0]["take_start_utc"]
    # Undo brings the invented tide back.
    api.post("/undo", {"scopes": [f"location:{estuary['id']}"]}, 200)
    assert api.get(f"/shots/{posts['id']}/day")["closed"] == before["closed"]


def test_beyond_the_table_nothing_is_promised(api, estuary, posts):
    """A table for another month: whether the tide cuts the place off, and whether the water stands as wanted, is not
    known.
    """
    api.put(f"/locations/{estuary['id']}/tide", {"table": _table(date(2026, 3, 10))})
    plan = api.get(f"/shots/{posts['id']}")["plan"]
    marks = {item["step"]: item["mark"] for item in plan["verdicts"]}
    assert (marks["place"], marks["light"]) == ("unsaid", "unsaid")
    said = " ".join(reason["text"] for reason in plan["because"])
    assert "whether the way is open is not known" in said
    assert "the place needs a tide that covers it" in said


def test_constants_of_ones_own(api, estuary):
    answer = api.put(
        f"/locations/{estuary['id']}/tide", {"constants": "M2 1.4 327\ns2 0,4 12°", "mean_m": "2.4", "source": "survey"}
    )
    assert answer["own_tide"]["constants"] == "M2 1.4 327\nS2 0.4 12"
    assert api.delete(f"/locations/{estuary['id']}/tide", 200)["own_tide"] is None


@pytest.mark.parametrize(
    ("body", "field", "words"),
    [
        ({"table": "24 Nov 2026 04:12 high"}, "table", "Line 1"),
        ({"table": "24 Nov 2026 04:12 1\n05:00 4"}, "table", "less than two hours"),
        ({"constants": "M9 1 2"}, "constants", "Line 1"),
        ({"constants": "M2 x 2"}, "constants", "two numbers"),
        ({}, "table", "either"),
        ({"table": "24 Nov 2026 04:12 1\n10:00 4", "constants": "M2 1 2"}, "table", "either"),
        ({"table": "24 Nov 2026 04:12 1\n10:00 4", "wave": 1}, "wave", ""),
    ],
)
def test_what_is_no_tide_is_refused_at_its_field(api, estuary, body, field, words):
    assert words in api.refusal("PUT", f"/locations/{estuary['id']}/tide", body, field)["message"]
    assert api.get("/locations")["locations"] is not None


def test_an_invented_tide_is_not_taken_to_another_continent(api):
    quelen = next(item for item in api.get("/locations")["locations"] if item["name"] == "Mirador Quelén")
    error = api.refusal("PATCH", f"/locations/{quelen['id']}", {"tide_place": "Sallow Bar"}, "tide_place")
    assert "km away" in error["message"]


def test_opening_hours_rule_a_window_down_everywhere(api, ungated, posts):
    # The gate is open from nine to three: the way to a quarter past three's light does not fit, nor the glow's.
    made = api.post(
        f"/locations/{ungated['id']}/openings",
        {"kind": "open", "from_clock": "9:00", "to_clock": "3 pm", "note": "The barrier."},
    )
    assert made["words"] == "open 09:00 to 15:00, every day"
    plan = api.get(f"/shots/{posts['id']}")["plan"]
    assert plan["verdicts"][0]["mark"] == "fails"
    failed = next(reason for reason in plan["because"] if "The place is shut" in reason["text"])
    assert (failed["severity"], "The barrier." in failed["text"]) == ("fails", True)
    day = api.get(f"/shots/{posts['id']}/day")
    glow = next(item for item in day["windows"] if item["kind"] == "glow")
    assert "shut" in glow["broken"]
    assert day["windows"][0]["broken"] == "" or all(item["broken"] for item in day["windows"])
    entry = api.client.post(
        f"/api/shots/{posts['id']}/calendar",
        json={"windows": [{name: glow[name] for name in ("start_utc", "end_utc", "kind")}]},
    )
    # Lines of a calendar are folded at 75 octets.
    assert "No way there" in entry.get_data(as_text=True).replace("\r\n ", "")
    card = api.post(f"/shots/{posts['id']}/cards", None)
    assert any("The place is shut" in text for text in card["content"]["warnings"])
    assert [leg["name"] for leg in card["content"]["way"]] == [
        "drive",
        "walk in",
        "set up",
        "frames",
        "pack up",
        "walk out",
    ]
    changed = api.patch(
        f"/openings/{made['id']}",
        {"to_clock": "20:00", "first_date": "2020-04-01", "last_date": "2020-09-30", "every_year": True},
    )
    assert changed["words"] == "open 09:00 to 20:00, 1 Apr to 30 Sep every year"
    assert api.get(f"/shots/{posts['id']}")["plan"]["verdicts"][0]["mark"] == "holds"
    api.delete(f"/openings/{made['id']}")
    api.refusal("POST", f"/locations/{ungated['id']}/openings", {"kind": "open", "from_clock": "dawn"}, "from_clock")


def test_the_season_leaves_out_days_without_a_way(api, ungated, posts):
    path = f"/shots/{posts['id']}/season?from_date=2026-11-24"
    free = api.get(path)
    # On some days the light is shorter than the frames; the gate is no matter there.
    short = [day["date_local"] for day in free["closed"]]
    api.post(
        f"/locations/{ungated['id']}/openings",
        {"kind": "closed", "first_date": "2026-12-01", "last_date": "2026-12-31"},
    )
    shut = api.get(path)
    december = [day for day in free["days"] if day["date_local"].startswith("2026-12")]
    assert december
    assert not any(day["date_local"].startswith("2026-12") for day in shut["days"])
    assert sorted({day["date_local"] for day in shut["closed"]} - set(short)) == [day["date_local"] for day in december]
    assert "close the way" in shut["words"]


def test_hours_changed_by_hand_stand(api, app, posts, service):
    location = posts["place"]["location_id"]
    api.get(f"/locations/{location}/forecast")
    day = posts["facts"]["light"]["date_local"]
    hours = api.get(f"/locations/{location}/forecast/hours?date_local={day}")["hours"]
    assert len(hours) == 24
    state = api.patch(
        f"/locations/{location}/forecast/hours",
        {"time_utc": hours[15]["time_utc"], "low_cloud": "100 %", "gust_mps": 19},
    )
    assert state["hours_by_hand"] == 1
    again = api.get(f"/locations/{location}/forecast/hours?date_local={day}")["hours"]
    assert (again[15]["low_cloud"], again[15]["gust_mps"], again[15]["by_hand"]) == (1.0, 19.0, True)
    said = " ".join(reason["text"] for reason in api.get(f"/shots/{posts['id']}")["plan"]["because"])
    assert "a gale" in said
    assert "is overcast (8/8)" in said
    # A newer forecast leaves them standing.
    with app.extensions["test_sessions"]() as session:
        kept = session.scalars(select(KeptForecast).where(KeptForecast.location_id == location)).one()
        kept.tried_at_utc = kept.fetched_at_utc = datetime.now(UTC) - timedelta(hours=5)
        session.commit()
    assert api.get(f"/locations/{location}/forecast")["age_words"] == "just now"
    assert api.get(f"/locations/{location}/forecast/hours?date_local={day}")["hours"][15]["by_hand"]
    api.refusal(
        "PATCH", f"/locations/{location}/forecast/hours", {"time_utc": "1999-01-01T00:00:00Z", "fog": 0.1}, "time_utc"
    )
    api.refusal("PATCH", f"/locations/{location}/forecast/hours", {"time_utc": hours[0]["time_utc"], "fog": 2}, "fog")
    assert api.delete(f"/locations/{location}/forecast/hours", 200)["hours_by_hand"] == 0


def test_a_card_does_not_grow_old_with_the_weather(api, posts, service):
    card = api.post(f"/shots/{posts['id']}/cards", None)
    location = posts["place"]["location_id"]
    api.get(f"/locations/{location}/forecast")
    assert not api.get(f"/cards/{card['id']}")["stale"]


def test_plan_b_goes_onto_the_card(api, posts):
    bog = next(item for item in api.get("/locations")["locations"] if item["name"] == "Hollin Bog")
    facts = {"plan_b_location_id": bog["id"], "plan_b_measure": "low_cloud", "plan_b_over": 60, "plan_b_clock": "13:00"}
    plan = api.patch(f"/shots/{posts['id']}", facts)["plan"]
    text = next(reason["text"] for reason in plan["because"] if "Plan B" in reason["text"])
    assert text.startswith("Plan B is Hollin Bog, 20 min drive and")
    assert "if low cloud is over 60\u202f% at 13:00" in text
    card = api.post(f"/shots/{posts['id']}/cards", None)
    assert card["content"]["plan_b"] == text
    api.refusal("PATCH", f"/shots/{posts['id']}", {"plan_b_shot_id": posts["id"]}, "plan_b_shot_id")
    api.refusal("PATCH", f"/shots/{posts['id']}", {"plan_b_location_id": 987654}, "plan_b_location_id")
    api.delete(f"/locations/{bog['id']}")
    assert api.get(f"/shots/{posts['id']}")["facts"]["light"]["plan_b_location_id"] is None


def test_which_place(api, service):
    day = date.fromisoformat(api.get(f"/shots/{api.shot_id('Posts at the ebb')}")["facts"]["light"]["date_local"])
    for location in api.get("/locations")["locations"]:
        api.get(f"/locations/{location['id']}/forecast")
    found = api.get(f"/outlook?from_date={day}&days=2")
    names = [item["name"] for item in (*found["best"], *found["fallen"])]
    assert sorted(names) == sorted(
        shot["name"] for shot in api.get("/notebook")["shots"] if shot["name"] != "Hollow lane, not scouted yet"
    )
    ratings = [
        item["promise"]["rating"] - 0.1 * (item["promise"]["high"] - item["promise"]["low"])
        for item in found["best"]
        if item["promise"]
    ]
    tight = [
        10 * sum(caution["severity"] == "tight" for caution in item["cautions"])
        for item in found["best"]
        if item["promise"]
    ]
    # Those nearer home come first, and within a group what promises most.
    groups = [tuple(Travel).index(item["travel"]) for item in found["best"] if item["promise"]]
    ranked = [(group, less - rating) for rating, less, group in zip(ratings, tight, groups, strict=True)]
    assert ranked == sorted(ranked)
    assert all(item["reason"] for item in found["fallen"])
    best = next(item for item in found["best"] if item["shot_id"])
    assert [leg["name"] for leg in best["lane"]][-1] == "light"
    taken = api.patch(f"/shots/{best['shot_id']}", {"time_utc": best["start_utc"], "window_end_utc": best["end_utc"]})
    assert taken["plan"]["verdicts"][0]["mark"] != "fails"
    assert taken["plan"]["verdicts"][1]["mark"] == "holds"
    api.refusal("GET", f"/outlook?from_date={day}&days=9", None, "days")


def test_which_place_with_no_forecast_asks_nobody(api, service):
    found = api.get("/outlook?from_date=2027-03-01")
    assert service.asked == 0
    assert all(item["promise"] is None for item in found["best"])
    assert "Sallow Estuary" in [item["name"] for item in found["without_forecast"]]


def test_a_location_without_shots_is_looked_at_too(api):
    api.post("/locations", {"name": "Bare head", "coordinates": "54.6, -3.0"})
    found = api.get("/outlook?from_date=2026-12-09")
    bare = next(item for item in found["best"] if item["name"] == "Bare head")
    assert (bare["shot_id"], bare["kind"], bare["place"]) == (None, "glow", "no shot planned here")


def test_which_place_of_a_large_notebook_is_a_job_with_progress(own_api, monkeypatch):
    path = "/outlook?from_date=2026-12-09&days=2"
    at_once = own_api.get(path)
    assert at_once["pending"] is None
    monkeypatch.setattr(kept_outlooks, "MOST_AT_ONCE", 3)
    first = own_api.get(path)
    assert first["pending"] is not None
    assert (first["best"], first["days"]) == ([], at_once["days"])
    until = time.monotonic() + 60
    found = first
    while found["pending"] is not None and time.monotonic() < until:
        time.sleep(0.2)
        found = own_api.get(path)
    assert [(item["name"], item["kind"], item["start_utc"]) for item in found["best"]] == [
        (item["name"], item["kind"], item["start_utc"]) for item in at_once["best"]
    ]
    # What is written makes it old; the last answer is shown meanwhile.
    own_api.patch(f"/shots/{own_api.shot_id('Posts at the ebb')}", {"intent": "changed"})
    again = own_api.get(path)
    assert again["pending"] is not None and again["best"]
    # Another question ends the job of the first.
    other = own_api.get("/outlook?from_date=2026-12-10&days=1")
    assert other["pending"]["job_id"] != again["pending"]["job_id"] and other["best"] == []


def test_a_broken_shot_does_not_take_which_place_down(api, monkeypatch, caplog):
    def fails(*_args, **_more):
        raise ZeroDivisionError("no such light")

    monkeypatch.setattr(outlooks, "best_outlook", fails)
    found = api.get("/outlook?from_date=2026-12-09")
    assert found["best"] == []
    assert all("cannot be looked at" in item["reason"] for item in found["fallen"])
    assert "no such light" in caplog.text


def test_a_table_that_ends_is_said_by_season_and_which_place(api, ungated, posts):
    """Three waters of one day: the season knows the tide of no whole day, and the place is called open on none that
    the table does not reach.
    """
    day = date.fromisoformat(posts["facts"]["light"]["date_local"])
    api.put(f"/locations/{ungated['id']}/tide", {"table": f"{day} 03:10 4.0 m\n09:20 0.7 m\n15:30 4.2 m"})
    season = api.get(f"/shots/{posts['id']}/season?from_date={day}")
    assert "known for 0 of the next 365 days" in season["words"]
    assert len(season["days"]) <= 1 and len(season["unknown"]) > 200
    found = api.get(f"/outlook?from_date={day + timedelta(days=1)}&days=3")
    assert [
        (item["name"], item["known_words"]) for item in found["without_tide"] if item["name"] == "Sallow Estuary"
    ] == [("Sallow Estuary", "none of these days")]
    assert not [item for item in found["best"] if item["place"] == "Sallow Estuary" and item["mark"] == "holds"]


def test_a_long_climb_is_taken_as_a_track(api):
    """Ten thousand points that climb and fall by more than a walk may: the track is there, and the location's own walk
    stays unsaid.
    """
    place = api.post("/locations", {"name": "High moor", "coordinates": "54.6, -3.0"})
    steps = "".join(
        f'<trkpt lat="{54.6 + at * 1e-4:.6f}" lon="-3.0"><ele>{(at % 200) * 6}</ele></trkpt>' for at in range(10_000)
    )
    gpx = f'<gpx version="1.1"><trk><name>Ups and downs</name><trkseg>{steps}</trkseg></trk></gpx>'
    answer = api.client.post(
        f"/api/locations/{place['id']}/import?file_name=long.gpx",
        data=gpx.encode(),
        content_type="application/octet-stream",
    )
    assert answer.status_code == 200, answer.get_data(as_text=True)
    seen = next(item for item in api.get("/locations")["locations"] if item["id"] == place["id"])
    assert seen["tracks"][0]["ascent_m"] > 9000
    assert seen["walk_m"] is None
