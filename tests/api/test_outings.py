"""Outings through the API: five stops planned, run late, exported and read back by other libraries, refused and
undone.
"""

import json
import re
from datetime import UTC, date, datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import gpxpy
import pytest
from icalendar import Calendar

from lucid_ridge.operations.outings import stops as outing_stops

POSTS, SILL = "Posts at the ebb", "Brown water over the sill"


@pytest.fixture
def outing(api):
    """An outing of five stops: three shots of that day, a place to scout, and a rest."""
    posts = api.get(f"/shots/{api.shot_id(POSTS)}")
    made = api.post(
        "/outings",
        {
            "name": "The estuary and the sill",
            "date_local": posts["facts"]["light"]["date_local"],
            "contact": "Neighbour",
        },
    )
    for name in (POSTS, SILL, "Split boulder under the fell"):
        api.post(f"/outings/{made['id']}/stops", {"shot_id": api.shot_id(name)})
    api.post(
        f"/outings/{made['id']}/stops",
        {"kind": "scouting", "location_id": posts["place"]["location_id"], "minutes": 30},
    )
    return api.post(
        f"/outings/{made['id']}/stops", {"kind": "rest", "minutes": 30, "after_clock": "12:00", "note": "Soup"}
    )


def test_five_stops_have_their_order_and_times(api, outing):
    assert len(outing["stops"]) == 5
    taken = [outing["stops"][at] for at in outing["order"]]
    assert POSTS in [stop["name"] for stop in taken]
    clocks = [stop["begin_clock"] for stop in taken]
    assert clocks == sorted(clocks)
    # Nothing overlaps on the day clock, and nothing is left open.
    parts = outing["parts"]
    for one, other in pairwise(parts):
        assert other["from_h"] == pytest.approx(one["to_h"], abs=1e-6)
    assert outing["verdict"]
    assert outing["bands"] and outing["spots"]
    names = [item["name"] for item in outing["packing"]]
    assert any("head torch" in name for name in names) or not any(part["dark"] for part in parts)
    assert any("batteries" in name for name in names)
    assert "Full-frame body, 45 MP" in names


def test_a_shot_alone_is_reached_as_its_own_plan_says(api):
    shot = api.get(f"/shots/{api.shot_id(POSTS)}")
    made = api.post("/outings", {"name": "Alone", "date_local": shot["facts"]["light"]["date_local"]})
    seen = api.post(f"/outings/{made['id']}/stops", {"shot_id": api.shot_id(POSTS)})
    (stop,) = seen["stops"]
    begins = next(part["from_h"] for part in seen["parts"] if part["kind"] == "frames")
    leaves = seen["parts"][0]["from_h"]
    place = shot["plan"]["place"]
    own = _hours(shot["plan"]["sequence"]["start_clock"]) - _hours(place["leave_home"])
    assert begins - leaves == pytest.approx(own, abs=1 / 30)
    assert stop["taken"] == 1


def _hours(clock):
    hours, minutes = clock.split()[-1].split(":")
    return int(hours) + int(minutes) / 60


def test_forty_minutes_late_is_planned_anew_and_says_what_falls_out(api, outing):
    late = api.patch(f"/outings/{outing['id']}", {"late_min": 40})
    assert late["facts"]["late_min"] == 40
    assert late["parts"][0]["from_h"] >= outing["parts"][0]["from_h"] + 40 / 60 - 1e-6
    fallen = set(outing["order"]) - set(late["order"])
    for at in fallen:
        assert any(
            outing["stops"][at]["name"] in reason["text"] for reason in late["because"] if reason["severity"] == "fails"
        )
    # What is done stays as it was.
    first = outing["stops"][outing["order"][0]]
    done = api.patch(f"/stops/{first['id']}", {"done": True})
    assert next(stop for stop in done["stops"] if stop["id"] == first["id"])["begin_clock"] == first["begin_clock"]
    undone = api.post("/undo", {"scopes": [f"outing:{outing['id']}"], "entry_id": done["undo"]["undo_id"]}, expect=200)
    assert undone["done"]
    assert not next(stop for stop in api.get(f"/outings/{outing['id']}")["stops"] if stop["id"] == first["id"])["done"]


def test_a_stop_that_cannot_be_had_is_told_with_its_minutes(api, outing):
    early = api.patch(f"/outings/{outing['id']}", {"back_clock": "10:00"})
    left = [stop for stop in early["stops"] if stop["taken"] is None]
    assert left
    for stop in left:
        assert any(stop["name"] in reason["text"] and "is left out" in reason["text"] for reason in early["because"])
    assert early["mark"] == "fails"


def test_stops_are_moved_pinned_and_taken_out(api, outing):
    last = outing["stops"][-1]
    moved = api.patch(f"/stops/{last['id']}", {"move": -4})
    assert moved["stops"][0]["id"] == last["id"]
    assert moved["facts"]["stop_order"] == "pinned"
    fewer = api.delete(f"/stops/{last['id']}", expect=200)
    assert len(fewer["stops"]) == 4
    api.post("/undo", {"scopes": [f"outing:{outing['id']}"], "entry_id": fewer["undo"]["undo_id"]}, expect=200)
    assert len(api.get(f"/outings/{outing['id']}")["stops"]) == 5


def test_files_are_read_back_by_other_libraries(api, outing):
    path = f"/api/outings/{outing['id']}/export"
    entries = Calendar.from_ical(api.client.get(f"{path}/ics").get_data()).walk("VEVENT")
    # One for each stop, one the evening before to pack and charge, and one for each plan B that can still be decided.
    deciding = [plan for plan in outing["plans_b"] if plan["parts"]]
    assert len(entries) == len(outing["order"]) + 1 + len(deciding)
    packing = next(entry for entry in entries if str(entry["summary"]).startswith("Pack and charge"))
    assert packing["dtstart"].dt.date().isoformat() < outing["facts"]["date_local"]
    assert "Full-frame body, 45 MP" in str(packing["description"])
    # RFC 5545: every entry rings before it begins.
    for entry in entries:
        (alarm,) = entry.walk("VALARM")
        assert alarm["trigger"].dt <= timedelta(0)
    route = gpxpy.parse(api.client.get(f"{path}/gpx").get_data(as_text=True)).routes[0]
    outside = [at for at in outing["order"] if outing["stops"][at]["kind"] != "rest"]
    assert [point.name for point in route.points] == [outing["stops"][at]["name"] for at in outside]
    read = json.loads(api.client.get(f"{path}/json").get_data())
    assert [stop["name"] for stop in read["stops"]] == [outing["stops"][at]["name"] for at in outing["order"]]
    assert datetime.fromisoformat(read["leave_utc"]) < datetime.fromisoformat(read["back_utc"])
    api.get(f"/outings/{outing['id']}/export/doc", expect=404)


def test_what_is_packed_stays_ticked_while_the_rest_changes(api, outing):
    key = outing["packing"][0]["key"]
    packed = api.patch(f"/outings/{outing['id']}", {"packed": [key], "own_items": ["Thermos"]})
    assert [item["key"] for item in packed["packing"] if item["packed"]] == [key]
    assert any(item["name"] == "Thermos" and item["group"] == "my own" for item in packed["packing"])
    api.patch(f"/outings/{outing['id']}", {"late_min": 10})
    assert [item["key"] for item in api.get(f"/outings/{outing['id']}")["packing"] if item["packed"]] == [key]


def test_what_cannot_be_is_refused_at_its_field(api, outing):
    n = outing["id"]
    api.refusal("POST", "/outings", {"name": " ", "date_local": "2026-11-25"}, "name")
    api.refusal("POST", "/outings", {"name": "x"}, "date_local")
    api.refusal("PATCH", f"/outings/{n}", {"days": 9}, "days")
    api.refusal("PATCH", f"/outings/{n}", {"colour": "red"}, "colour")
    api.refusal("POST", f"/outings/{n}/stops", {}, "shot_id")
    api.refusal("POST", f"/outings/{n}/stops", {"shot_id": 999_999}, "shot_id")
    api.refusal("POST", f"/outings/{n}/stops", {"kind": "scouting"}, "location_id")
    bare = api.post("/shots", {"name": "Bare"})["id"]
    api.refusal("POST", f"/outings/{n}/stops", {"shot_id": bare}, "shot_id")
    api.get("/outings/999999", expect=404)
    api.patch("/stops/999999", {"done": True}, expect=404)


def test_a_shot_that_is_deleted_leaves_its_outings_and_comes_back(api, outing):
    shot = api.shot_id(SILL)
    api.delete(f"/shots/{shot}")
    assert SILL not in [stop["name"] for stop in api.get(f"/outings/{outing['id']}")["stops"]]
    undo = api.get("/notebook")["undo"]["undo_id"]
    api.post("/undo", {"scopes": ["shots"], "entry_id": undo}, expect=200)
    assert SILL in [stop["name"] for stop in api.get(f"/outings/{outing['id']}")["stops"]]


def test_an_outing_without_stops_and_one_that_is_deleted(api):
    empty = api.post("/outings", {"name": "Nothing yet", "date_local": "2026-12-01"})
    assert (empty["mark"], empty["verdict"], empty["parts"]) == ("unsaid", "no stops yet", [])
    api.delete(f"/outings/{empty['id']}")
    assert "Nothing yet" not in [item["name"] for item in api.get("/outings")["outings"]]


def test_plan_b_has_its_times_on_the_outing_in_the_calendar_and_in_the_file(api):
    """The posts' plan B is the sheepfold, decided at one o'clock by the low cloud."""
    shot = api.get(f"/shots/{api.shot_id(POSTS)}")
    made = api.post(
        "/outings", {"name": "Ebb", "date_local": shot["facts"]["light"]["date_local"], "contact": "Neighbour"}
    )
    seen = api.post(f"/outings/{made['id']}/stops", {"shot_id": shot["id"]})
    (plan,) = seen["plans_b"]
    assert (plan["name"], plan["decided_h"]) == (POSTS, 13.0)
    assert plan["text"].startswith("Plan B is High Sheepfold")
    # Nobody leaves for it before it is decided; the way is in the times with its minutes.
    assert plan["times"][0] == "13:00 decide"
    assert min(part["from_h"] for part in plan["parts"]) >= 13.0
    assert any("drive" in text for text in plan["times"]) or seen["parts"][0]["from_h"] < 13.0
    path = f"/api/outings/{made['id']}/export"
    entries = Calendar.from_ical(api.client.get(f"{path}/ics").get_data()).walk("VEVENT")
    (decide,) = [entry for entry in entries if str(entry["summary"]).endswith("or plan B?")]
    assert decide["dtstart"].dt.hour == 13
    (read,) = json.loads(api.client.get(f"{path}/json").get_data())["plans_b"]
    assert read["instead_of"] == POSTS
    assert datetime.fromisoformat(read["decided_utc"]) <= datetime.fromisoformat(read["back_utc"])
    # On another day than the shot's it is decided before the stop begins, on that day or the day before.
    later = api.patch(f"/outings/{made['id']}", {"date_local": "2027-01-12"})
    begins = {part["stop"]: part["from_h"] for part in later["parts"] if part["kind"] == "frames"}
    decided = [
        (other["decided_h"], begins[other["stop"]])
        for other in later["plans_b"]
        if other["decided_h"] is not None and other["stop"] in begins
    ]
    assert decided
    assert all(begin - 24 < hour <= begin for hour, begin in decided)


def test_the_forecast_of_several_days_reaches_the_last(api, outing):
    one = api.patch(f"/outings/{outing['id']}", {"days": 1})
    three = api.patch(f"/outings/{outing['id']}", {"days": 3})
    assert len(three["bands"]) > len(one["bands"])


def test_clock_times_are_written_as_the_photographer_reads_them(api, outing):
    rest = outing["stops"][-1]
    assert rest["after_clock_label"] == "12:00"
    api.patch("/photographer", {"hours": "12"})
    seen = api.get(f"/outings/{outing['id']}")
    assert seen["stops"][-1]["after_clock_label"] == "12:00 pm"
    for part in seen["parts"]:
        assert part["clock"].split(" on ")[0].endswith(("am", "pm"))
        assert part["words"].startswith(part["kind"])


def test_the_cards_of_an_outing_are_of_the_outing(api, outing):
    """Three days after the day that its shots are saved for: date, times and tide on card, runner and file are the
    outing's.
    """
    day = date.fromisoformat(outing["facts"]["date_local"]) + timedelta(days=3)
    moved = api.patch(f"/outings/{outing['id']}", {"date_local": day.isoformat()})
    made = api.post(f"/outings/{outing['id']}/cards", None)["made"]
    taken = [stop for at in moved["order"] if (stop := moved["stops"][at])["kind"] == "shot"]
    assert made >= 2
    page = api.client.get(f"/api/outings/{outing['id']}/take-along").get_data(as_text=True)
    along = json.loads(re.search(r'id="taken-along">(.*?)<', page, re.S)[1].replace("\\u003c", "<"))
    # In the wrong light one of them has no frames to take, and so no card.
    assert len(along["cards"]) == made
    taken = [stop for stop in taken if stop["name"] in [card["sheet"]["name"] for card in along["cards"]]]
    assert [card["sheet"]["name"] for card in along["cards"]] == [stop["name"] for stop in taken]
    for card, stop in zip(along["cards"], taken, strict=True):
        sheet = card["sheet"]
        assert (sheet["outing"], sheet["date"], card["stale"]) == (outing["facts"]["name"], day.isoformat(), False)
        begins = next(
            part["from_h"]
            for part in moved["parts"]
            if part["kind"] == "frames" and part["stop"] == moved["stops"].index(stop)
        )
        started = datetime.fromisoformat(sheet["start_utc"])
        midnight = datetime(day.year, day.month, day.day, tzinfo=ZoneInfo("Europe/London"))
        assert (started - midnight) / timedelta(hours=1) == pytest.approx(begins, abs=1 / 120)
        if sheet["tide"] is not None:
            turns = [datetime.fromisoformat(turn["at_utc"]) for turn in sheet["tide"]["turns"]]
            assert all(abs(turn - started) < timedelta(hours=12) for turn in turns)
        # The runner and the card on paper say the same.
        read = api.get(f"/cards/{card['card_id']}")
        assert (read["content"]["outing"], read["content"]["date"]) == (outing["facts"]["name"], day.isoformat())
        assert read["content"]["start"].split()[0] == stop["begin_clock"].split()[0]
        found = api.post(f"/shots/{card['shot_id']}/found", {"card_id": card["card_id"], "later_min": 0}, expect=200)
        assert found["date"] == day.isoformat()
    # A shot's own card is another: its plan still has none of this day.
    shot = api.get(f"/shots/{taken[0]['shot_id']}")
    assert shot["facts"]["light"]["date_local"] != day.isoformat()
    # Made again, nothing is made twice; moved again, they are old.
    ids = [card["card_id"] for card in along["cards"]]
    api.post(f"/outings/{outing['id']}/cards", None)
    again = api.client.get(f"/api/outings/{outing['id']}/take-along").get_data(as_text=True)
    assert [
        card["card_id"] for card in json.loads(re.search(r'id="taken-along">(.*?)<', again, re.S)[1])["cards"]
    ] == ids


@pytest.mark.parametrize("later_days", [0, 1, 2, 4, 6])
def test_outing_calendar_card_and_the_shots_own_page_agree(api, outing, later_days):
    """A stop that the outing marks as good in its light is good on the shot's own page at that minute, and one that is
    not is not.
    """
    day = date.fromisoformat(outing["facts"]["date_local"]) + timedelta(days=later_days)
    seen = api.patch(f"/outings/{outing['id']}", {"date_local": day.isoformat()})
    entries = Calendar.from_ical(api.client.get(f"/api/outings/{outing['id']}/export/ics").get_data()).walk("VEVENT")
    midnight = datetime(day.year, day.month, day.day, tzinfo=ZoneInfo("Europe/London"))
    api.post(f"/outings/{outing['id']}/cards", None)
    page = api.client.get(f"/api/outings/{outing['id']}/take-along").get_data(as_text=True)
    along = json.loads(re.search(r'id="taken-along">(.*?)<', page, re.S)[1].replace("\\u003c", "<"))
    cards = {card["sheet"]["name"]: card["sheet"] for card in along["cards"]}
    frames = {part["stop"]: part for part in seen["parts"] if part["kind"] == "frames"}
    compared = 0
    for at in seen["order"]:
        stop = seen["stops"][at]
        if stop["kind"] != "shot":
            continue
        begins = midnight + timedelta(hours=frames[at]["from_h"])
        assert any(
            stop["name"] in str(entry["summary"]) and abs(entry["dtstart"].dt - begins) < timedelta(seconds=60)
            for entry in entries
        )
        if stop["name"] in cards:
            assert abs(datetime.fromisoformat(cards[stop["name"]]["start_utc"]) - begins) < timedelta(seconds=60)
        own = api.patch(
            f"/shots/{stop['shot_id']}", {"date_local": day.isoformat(), "time_utc": begins.astimezone(UTC).isoformat()}
        )
        marks = {verdict["step"]: verdict["mark"] for verdict in own["plan"]["verdicts"]}
        bad = {"fails", "unsaid"}
        if stop["mark"] not in bad:
            assert marks["light"] not in bad, (stop["name"], own["plan"]["because"])
        if marks["light"] == "fails":
            assert stop["mark"] == "fails", (stop["name"], own["plan"]["because"])
        compared += 1
    assert compared >= 1


def test_two_days_have_a_night_and_a_rest_its_hours(api, outing):
    two = api.patch(
        f"/outings/{outing['id']}",
        {"days": 2, "nights": "base", "base_name": "The hostel", "base_evening_min": 15, "base_morning_min": 25},
    )
    assert two["facts"]["nights"] == "base"
    assert all("hostel" in part["words"] for part in two["parts"] if part["kind"] == "night")
    rest = two["stops"][-1]
    later = api.patch(f"/stops/{rest['id']}", {"after_clock": "12:00", "before_clock": "13:00"})
    assert later["stops"][-1]["before_clock_label"] == "13:00"
    for part in later["parts"]:
        if part["kind"] == "rest":
            assert 12 <= part["from_h"] % 24 <= 13
    api.refusal("PATCH", f"/outings/{outing['id']}", {"nights": "hotel"}, "nights")
    api.refusal("PATCH", f"/outings/{outing['id']}", {"night_h": 20}, "night_h")


def test_the_margin_of_the_tide_is_a_fact_of_the_place(api):
    place = next(item for item in api.get("/locations")["locations"] if item["name"] == "Sallow Estuary")
    assert (place["tide_margin_m"], place["tide_margin_min"]) == (0.3, 30)
    shot = api.shot_id(POSTS)
    before = api.get(f"/shots/{shot}/day")["closed"]
    api.patch(f"/locations/{place['id']}", {"tide_margin_m": 0, "tide_margin_min": 0})
    after = api.get(f"/shots/{shot}/day")["closed"]
    wide, narrow = (
        sum(span["to_s"] - span["from_s"] for span in spans if span["by_tide"]) for spans in (before, after)
    )
    assert wide > narrow + 3600
    api.refusal("PATCH", f"/locations/{place['id']}", {"tide_margin_m": -1}, "tide_margin_m")
    assert api.patch(f"/locations/{place['id']}", {"horizon": "sea"})["horizon"] == "sea"


def test_a_broken_stop_is_left_out_and_the_rest_stands(api, outing, monkeypatch, caplog):
    plan = outing_stops.plan_shot

    def fails_once(facts):
        if facts.location.name == "Tern Weir":
            raise ZeroDivisionError("no such light")
        return plan(facts)

    monkeypatch.setattr(outing_stops, "plan_shot", fails_once)
    seen = api.get(f"/outings/{outing['id']}")
    broken = next(stop for stop in seen["stops"] if stop["name"] == SILL)
    assert broken["taken"] is None
    assert any("cannot be planned" in reason["text"] for reason in seen["because"])
    assert len(seen["order"]) >= 2
    assert "no such light" in caplog.text
