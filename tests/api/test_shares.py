"""Field cards read by others: by a link, until a date, with as much of the place as is said, and never more."""

import json
from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import text, update

from lucid_ridge.operations.shares import told
from lucid_ridge.store.shares import Share, Where

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
    """Every text that the photographer wrote of the place is marked: no mark comes through, whatever the sentence it stands in."""
    with app.extensions["test_sessions"]() as session, session.begin():
        for table, columns in (
            ("location", ("name", "notes", "access_notes", "plan_b")), ("viewpoint", ("name", "notes")), ("element", ("name",)),
            ("hazard", ("note",)), ("scouting", ("note", "bring")), ("season_note", ("note",)), ("opening", ("note",)), ("shot", ("intent",)),
        ):  # fmt: skip
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
        "name": "Dawn", "way": [{"name": "drive", "start": "04:10", "end": "05:00"}, {"name": "walk in", "start": "05:00", "end": "05:20"}],
        "cautions": ["The road is shut: the drive, 04:10 to 05:00, falls into it.", "Ice."], "warnings": ["Leave at 04:10.", "Dark until 05:00."],
    }  # fmt: skip
    found = told(content, Where.EXACT, set())
    assert found["way"] == [] and found["cautions"] == ["Ice."] and found["warnings"] == ["Dark until 05:00."]
    # Who walks from the door of the hut leaves no home; what is said of the walk stays.
    walked = told({**content, "way": content["way"][1:]}, Where.EXACT, set())
    assert walked["warnings"] == content["warnings"]


def test_names_are_masked_wherever_they_stand():
    content = {"name": "Dawn at Mossy Tarn", "checks": [{"what": "mossy tarn's far shore"}], "range": "Tarn to ∞", "location": "Mossy Tarn", "picture": "data:Tarn", "way": [{"name": "walk in", "start": "05:00"}]}  # fmt: skip
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
    assert "does not hold" in _read(api, one, 422)["error"]["message"]
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
    assert "is gone" in _read(api, two, 422)["error"]["message"]
    api.delete(f"/outings/{outing['id']}")
    api.call("GET", f"/outings/{outing['id']}/shares", expect=404)
    api.call("POST", f"/outings/{outing['id']}/shares", {}, 404)
    empty = api.call("POST", "/outings", {"name": "Nothing yet", "date_local": "2027-05-01"}, 201)
    api.call("POST", f"/outings/{empty['id']}/shares", {}, 409)
