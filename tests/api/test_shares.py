"""Field cards read by others: by a link, until a date, with as much of the place as is said, and never more."""

import json
from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import text, update

from lucid_ridge.operations.sharing.shares import told
from lucid_ridge.store.sharing import Share, Where

MARK = "⁂"


@pytest.fixture
def card(api):
    shot = api.shot_id("Split boulder under the fell")
    return api.call("POST", f"/shots/{shot}/cards", expect=201)


def _share(api, card, **said):
    return api.post(f"/cards/{card['id']}/shares", said)


def _read(api, shared, expect=200):
    return api.call("POST", "/shared", {"token": shared["path"].partition("#")[2]}, expect)


def test_a_card_is_read_as_it_is_without_the_way_from_home(api, card):
    assert card["content"]["way"]
    told_ = _read(api, _share(api, card, where="exact", days=3))
    assert told_["title"] == card["content"]["name"]
    (only,) = told_["cards"]
    assert only["content"] == card["content"] | {"way": []}
    assert only["position_words"].endswith((" W", " E"))


@pytest.mark.parametrize("where", ["rough", "hidden"])
def test_nothing_written_of_the_place_is_told(app, api, where):
    """Every text that the photographer wrote of the place is marked: no mark comes through, whatever the sentence it
    stands in.
    """
    with app.extensions["test_sessions"]() as session, session.begin():
        for table, columns in (
            ("location", ("name", "notes", "access_notes", "plan_b")),
            ("viewpoint", ("name", "notes")),
            ("element", ("name",)),
            ("hazard", ("note",)),
            ("scouting", ("note", "bring")),
            ("season_note", ("note",)),
            ("opening", ("note",)),
            ("shot", ("intent",)),
        ):
            for column in columns:
                session.execute(text(f"update {table} set {column} = '{MARK} ' || {column} || ' {MARK}'"))
    for name in ("Split boulder under the fell", "Posts at the ebb", "Lichen map"):
        made = api.call("POST", f"/shots/{api.shot_id(name)}/cards", expect=201)
        assert MARK in json.dumps(made["content"], ensure_ascii=False)
        found = _read(api, _share(api, made, where=where))
        assert MARK not in json.dumps(found, ensure_ascii=False), name
        (only,) = found["cards"]
        assert only["content"]["frames"] == made["content"]["frames"] and only["content"]["location"] is None
        if where == "hidden":
            assert only["position_words"] == ""


def test_roughly_where_is_a_cell_and_not_the_place(api, card):
    found = _read(api, _share(api, card, where="rough"))
    shot = api.get(f"/shots/{card['shot_id']}")["place"]
    assert "Within 8 km of" in found["cards"][0]["position_words"]
    assert f"{shot['latitude_deg']:.4f}" not in json.dumps(found)


def test_when_one_leaves_home_stands_in_no_sentence():
    content = {
        "name": "Dawn",
        "way": [
            {"name": "drive", "start": "04:10", "end": "05:00"},
            {"name": "walk in", "start": "05:00", "end": "05:20"},
        ],
        "cautions": ["The road is shut: the drive, 04:10 to 05:00, falls into it.", "Ice."],
        "warnings": ["Leave at 04:10.", "Dark until 05:00."],
    }
    found = told(content, Where.EXACT, set())
    assert found["way"] == [] and found["cautions"] == ["Ice."] and found["warnings"] == ["Dark until 05:00."]
    # Who walks from the door of the hut leaves no home; what is said of the walk stays.
    walked = told({**content, "way": content["way"][1:]}, Where.EXACT, set())
    assert walked["warnings"] == content["warnings"]


def test_names_are_masked_wherever_they_stand():
    content = {
        "name": "Dawn at Mossy Tarn",
        "checks": [{"what": "mossy tarn's far shore"}],
        "range": "Tarn to ∞",
        "location": "Mossy Tarn",
        "picture": "data:Tarn",
        "way": [{"name": "walk in", "start": "05:00"}],
    }
    found = told(content, Where.HIDDEN, {"Tarn", "Mossy Tarn", " "})
    assert found["name"] == "Dawn at …"
    assert found["checks"] == [{"what": "…'s far shore"}]
    assert found["range"] == "… to ∞"
    assert found["picture"] == "data:Tarn"
    assert found["location"] is None and found["way"] == []
    # A name of signs that mean something to a search is a name like any other.
    assert told({"a": "x (y) z.*"}, Where.ROUGH, {"(y", ".*"})["a"] == "x …) z…"
    assert told({"a": "x"}, Where.ROUGH, set())["a"] == "x"


def test_links_are_listed_ended_and_run_out(app, api, card):
    one, two = _share(api, card, where="hidden", days=1), _share(api, card, where="exact", days=366)
    assert [item["where"] for item in api.get(f"/cards/{card['id']}/shares")["shares"]] == ["hidden", "exact"]
    assert one["path"] != two["path"]
    api.delete(f"/shares/{one['id']}")
    assert "has expired" in _read(api, one, 422)["error"]["message"]
    _read(api, two)
    with app.extensions["test_sessions"]() as session, session.begin():
        session.execute(update(Share).values(until_utc=datetime.now(UTC) - timedelta(seconds=1)))
    _read(api, two, 422)
    assert api.get(f"/cards/{card['id']}/shares")["shares"] == []
    api.call("POST", "/shared", {"token": ""}, 422)
    api.delete(f"/shares/{two['id']}", 404)
    for days in (0, 367, "x"):
        api.refusal("POST", f"/cards/{card['id']}/shares", {"days": days}, "days")
    api.refusal("POST", f"/cards/{card['id']}/shares", {"where": "nearly"}, "where")
    api.call("POST", "/cards/999999/shares", {}, 404)


def test_with_its_shot_a_card_and_its_links_are_gone(api, card):
    shared = _share(api, card)
    api.delete(f"/shots/{card['shot_id']}")
    _read(api, shared, 422)


@pytest.fixture
def outing(api):
    """An outing of the demo with several shots."""
    found = [api.get(f"/outings/{row['id']}") for row in api.get("/outings")["outings"]]
    return max(found, key=lambda item: len({stop["shot_id"] for stop in item["stops"]} - {None}))


def test_an_outing_is_shared_with_the_cards_of_all_its_shots(api, outing):
    shots = {stop["shot_id"] for stop in outing["stops"]} - {None}
    assert len(shots) > 1
    made = api.call("POST", f"/outings/{outing['id']}/shares", {"where": "exact", "days": 2}, 201)
    found = _read(api, made)
    assert found["title"] == outing["facts"]["name"]
    names = [item["content"]["name"] for item in found["cards"]]
    assert sorted(names) == sorted(api.get(f"/shots/{shot}")["facts"]["name"] for shot in shots)
    # In the order of the day, as the outing says it.
    order = [outing["stops"][at]["name"] for at in outing["order"]] if "order" in outing else names
    assert [name for name in order if name in names] == names
    assert all(item["content"]["way"] == [] for item in found["cards"])
    assert [item["id"] for item in api.get(f"/outings/{outing['id']}/shares")["shares"]] == [made["id"]]
    # It is no link of any single card, and what was shared stays as it was.
    shot = next(iter(shots))
    card = api.call("POST", f"/shots/{shot}/cards", expect=201)
    assert api.get(f"/cards/{card['id']}/shares")["shares"] == []
    api.patch(f"/shots/{shot}", {"pitch_deg": 4.5})
    assert _read(api, made)["cards"] == found["cards"]


@pytest.mark.parametrize("where", ["rough", "hidden"])
def test_an_outings_name_is_told_with_the_place_alone(app, api, outing, where):
    api.call("PATCH", f"/outings/{outing['id']}", {"name": f"{MARK} to the bog"})
    with app.extensions["test_sessions"]() as session, session.begin():
        session.execute(text(f"update location set name = '{MARK} ' || name"))
    found = _read(api, api.call("POST", f"/outings/{outing['id']}/shares", {"where": where}, 201))
    assert MARK not in json.dumps(found, ensure_ascii=False)
    assert found["title"] == f"An outing of {len(found['cards'])} shots"


def test_an_outings_links_end_with_it_and_with_its_shots(api, outing):
    one, two = (api.call("POST", f"/outings/{outing['id']}/shares", {}, 201) for _ in range(2))
    api.delete(f"/shares/{one['id']}")
    _read(api, one, 422)
    shots = {stop["shot_id"] for stop in outing["stops"]} - {None}
    gone = shots.pop()
    api.delete(f"/shots/{gone}")
    assert len(_read(api, two)["cards"]) == len(shots)
    for shot in shots:
        api.delete(f"/shots/{shot}")
    assert "was deleted" in _read(api, two, 422)["error"]["message"]
    api.delete(f"/outings/{outing['id']}")
    api.call("GET", f"/outings/{outing['id']}/shares", expect=404)
    api.call("POST", f"/outings/{outing['id']}/shares", {}, 404)
    empty = api.call("POST", "/outings", {"name": "Nothing yet", "date_local": "2027-05-01"}, 201)
    api.call("POST", f"/outings/{empty['id']}/shares", {}, 409)


@pytest.fixture
def place(api):
    """A location of the demo with hazards, hours and several elements."""
    return next(row for row in api.get("/locations")["locations"] if row["name"] == "Blackwater Tarn")


def _share_place(api, place, expect=201, **said):
    return api.call("POST", f"/locations/{place['id']}/shares", said, expect)


def test_a_location_is_read_as_it_was_without_the_way_from_home(app, api, place):
    api.patch(
        f"/locations/{place['id']}",
        {"access_notes": "Gate by the barn\nAsk at the farm", "plan_b": "Stay low", "drive_min": 4321},
    )
    made = _share_place(api, place, where="exact")
    found = _read(api, made)
    assert (found["title"], found["cards"], found["copied"]) == ("Blackwater Tarn", [], True)
    told_ = found["location"]
    assert f"{abs(place['latitude_deg']):.4f}" in told_["position_words"]
    parts = {item["title"]: item["lines"] for item in told_["parts"]}
    assert parts["The way there"][-2:] == ["Gate by the barn", "Ask at the farm"]
    assert parts["If it fails"] == ["Stay low"]
    assert len(parts.get("Dangers", [])) == len(place["hazards"])
    assert [item["name"] for item in told_["viewpoints"]] == [item["name"] for item in place["viewpoints"]]
    sketch = api.get(f"/locations/{place['id']}/sketch")
    assert told_["sketch"] == sketch | {
        name: [item | {"id": told_["sketch"][name][at]["id"]} for at, item in enumerate(sketch[name])]
        for name in ("viewpoints", "tracks")
    }
    assert len(sketch["contours"]) > 3
    seen = {item["name"] for point in place["viewpoints"] for item in point["elements"]}
    assert {item["name"] for point in told_["viewpoints"] for item in point["seen"]} == seen
    with app.extensions["test_sessions"]() as session:
        given = session.scalar(text("select given from share"))
    assert "4321" not in json.dumps(given)
    assert not {"scouting", "meter_reading", "kept_forecast", "location_grid"} & set(given)
    # What is changed afterwards is not told.
    api.patch(f"/locations/{place['id']}", {"name": "Elsewhere", "access_notes": "A secret path"})
    assert _read(api, made) == found
    assert [item["id"] for item in api.get(f"/locations/{place['id']}/shares")["shares"]] == [made["id"]]
    api.delete(f"/locations/{place['id']}")
    _read(api, made, 422)


def test_roughly_where_tells_neither_name_nor_note_of_a_location(app, api, place):
    with app.extensions["test_sessions"]() as session, session.begin():
        for table, columns in (
            ("location", ("name", "notes", "access_notes", "access_source", "plan_b")),
            ("viewpoint", ("name", "notes")),
            ("element", ("name",)),
            ("hazard", ("note",)),
            ("season_note", ("note",)),
            ("opening", ("note",)),
            ("walk_track", ("name",)),
        ):
            for column in columns:
                session.execute(text(f"update {table} set {column} = '{MARK} ' || {column}"))
    rows = api.get("/locations")["locations"]
    assert MARK in json.dumps(rows, ensure_ascii=False)
    for row in rows:
        found = _read(api, _share_place(api, row, where="rough"))
        told_ = json.dumps(found, ensure_ascii=False)
        assert MARK not in told_
        assert f"{abs(row['latitude_deg']):.3f}" not in told_
        assert (found["title"], found["copied"], found["location"]["sketch"]) == ("A place", False, None)
        assert found["location"]["position_words"].startswith("Within 8 km of")
        # Nor do bearings and distances, by which one would find it.
        assert "°" not in json.dumps(found["location"]["viewpoints"], ensure_ascii=False)


def test_a_location_of_which_nothing_is_told_is_not_shared(api, place):
    api.refusal("POST", f"/locations/{place['id']}/shares", {"where": "hidden"}, "where")
    assert [item["where"] for item in api.get(f"/locations/{place['id']}/shares")["ways"]] == ["rough", "exact"]
    api.call("POST", "/locations/999999/shares", {"where": "exact"}, 404)
    api.call("GET", "/locations/999999/shares", expect=404)


def _copy(api, made, expect=201):
    return api.call("POST", "/shared/copy", {"token": made["path"].partition("#")[2]}, expect)


def _other_owner(session):
    """Let the rows that are here be another photographer's, and begin the notebook of this one again."""
    columns = ", ".join(
        name
        for name in session.scalars(
            text("select column_name from information_schema.columns where table_name = 'photographer'")
        )
        if name != "id"
    )
    session.execute(text(f"insert into photographer ({columns}) select {columns} from photographer"))
    for table in (
        "location",
        "shot",
        "body",
        "lens",
        "filter",
        "support",
        "accessory",
        "outing",
        "log_entry",
        "log_frame",
        "calibration",
        "share",
        "field_event",
    ):
        session.execute(text(f"update {table} set owner_id = (select max(id) from photographer)"))  # fmt: skip


def _shown(api, shot_id):
    """What is planned of a shot, without ids."""

    def bare(value):
        if isinstance(value, dict):
            return {
                name: bare(item)
                for name, item in value.items()
                if not name.endswith(("id", "ids")) and name not in ("key", "path")
            }
        return [bare(item) for item in value] if isinstance(value, list) else value

    plan = api.get(f"/shots/{shot_id}")["plan"]
    # When one leaves home is one's own.
    del plan["place"]["leave_home"]
    own = ("field", "place", "light")
    steps = [step for step in plan["because"] if step["step"] not in own]
    return bare(
        {**plan, "because": steps, "verdicts": [item for item in plan["verdicts"] if item["step"] not in own]}
        | {"light": None}
    )


def _elements(api, shot_id):
    """What is seen from a shot's viewpoint, by name."""
    wanted = api.get(f"/shots/{shot_id}")["facts"]["viewpoint_id"]
    points = (point for row in api.get("/locations")["locations"] for point in row["viewpoints"])
    return [item["name"] for point in points if point["id"] == wanted for item in point["elements"]]


def test_a_shot_is_copied_into_another_notebook_with_all_that_it_needs(app, api):
    # Not one with what the log taught: that stays with its owner.
    shot = api.shot_id("Sundew after rain")
    card = api.call("POST", f"/shots/{shot}/cards", expect=201)
    made, shown = _share(api, card, where="exact"), _shown(api, shot)
    seen = _elements(api, shot)
    # Without its owner's learning, kit or anything else of the other notebook.
    with app.extensions["test_sessions"]() as session, session.begin():
        _other_owner(session)
    assert api.get("/notebook")["shots"] == []
    told_ = _copy(api, made)
    number = int(told_["path"].split("/")[2])
    assert number != shot
    assert _shown(api, number) == shown
    assert _elements(api, number) == seen
    assert len(api.get("/kit")["bodies"]) == 1
    # Again it is the one that is there.
    again = _copy(api, made)
    assert again["path"] == told_["path"]
    assert "already" in again["words"]
    assert len(api.get("/notebook")["shots"]) == 1


def test_an_outing_is_copied_without_when_one_leaves_home(app, api, outing):
    api.call("PATCH", f"/outings/{outing['id']}", {"contact": "Somebody, 123"})
    made = api.call("POST", f"/outings/{outing['id']}/shares", {"where": "exact"}, 201)
    with app.extensions["test_sessions"]() as session, session.begin():
        assert "Somebody" not in json.dumps(session.scalar(text("select given from share")))
        _other_owner(session)
    path = _copy(api, made)["path"]
    found = api.get(path)
    assert found["id"] != outing["id"]
    assert [stop["name"] for stop in found["stops"]] == [stop["name"] for stop in outing["stops"]]
    assert (found["facts"]["name"], found["facts"]["contact"]) == (outing["facts"]["name"], "")
    assert found["facts"]["leave_clock"] in (None, "")


def test_a_location_is_copied_and_what_is_changed_there_stays(app, api, place):
    made = _share_place(api, place, where="exact")
    with app.extensions["test_sessions"]() as session, session.begin():
        _other_owner(session)
    number = int(_copy(api, made)["path"].split("/")[2])
    api.patch(f"/locations/{number}", {"name": "My tarn"})
    assert _copy(api, made)["path"] == f"/locations/{number}"
    (mine,) = api.get("/locations")["locations"]
    assert mine["name"] == "My tarn"
    assert mine["drive_min"] is None
    assert [len(point["elements"]) for point in mine["viewpoints"]] == [
        len(point["elements"]) for point in place["viewpoints"]
    ]
    # One's own link leads to one's own.
    own = _share_place(api, mine, where="exact")
    assert _copy(api, own)["path"] == f"/locations/{number}"


@pytest.mark.parametrize("where", ["rough", "hidden"])
def test_what_does_not_tell_the_place_is_not_copied(api, card, where):
    shared = _share(api, card, where=where)
    assert not _read(api, shared)["copied"]
    assert "only to read" in _copy(api, shared, 422)["error"]["message"]
    api.delete(f"/shares/{shared['id']}")
    assert "has expired" in _copy(api, shared, 422)["error"]["message"]
