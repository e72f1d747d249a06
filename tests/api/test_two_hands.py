"""Two tabs, two devices, two requests at once: nothing is lost, nothing is overwritten unseen, and undo can never
jam.
"""

import random
import threading
import time
from concurrent.futures import ThreadPoolExecutor

import pytest
import urllib3
from sqlalchemy import create_engine, event, text
from sqlalchemy.exc import OperationalError
from wire import grouped

from lucid_ridge.operations.places import forecasts
from lucid_ridge.services import forecast_client
from lucid_ridge.standins.forecast_service import ForecastService


class Hand:
    """One page: it names itself, and the revision that it read last."""

    def __init__(self, api, name):
        self.api, self.name, self.seen = api, name, None

    def call(self, method, path, body=None):
        headers = {"Lucid-Ridge-Hand": self.name}
        if self.seen is not None and method != "GET":
            headers["If-Match"] = f'"{self.seen}"'
        answer = self.api.client.application.test_client().open(
            f"/api{path}", method=method, json=body, headers=headers
        )
        if answer.status_code < 400:
            self.seen = int(answer.headers["ETag"].strip('"'))
        return answer

    def read(self, shot):
        return self.call("GET", f"/shots/{shot}").get_json()

    def patch(self, shot, **values):
        return self.call("PATCH", f"/shots/{shot}", grouped(values))

    def turn(self, word, shot, entry_id=None):
        return self.call("POST", f"/{word}", {"scopes": [f"shot:{shot}"], "entry_id": entry_id})


@pytest.fixture
def hands(api):
    return Hand(api, "one"), Hand(api, "two")


@pytest.fixture
def shot(api):
    return api.shot_id("Posts at the ebb")


def test_the_same_value_in_two_hands_is_asked_about(hands, shot):
    one, two = hands
    one.read(shot), two.read(shot)
    assert one.patch(shot, pitch_deg=5).status_code == 200
    answer = two.patch(shot, pitch_deg=7)
    error = answer.get_json()["error"]
    assert (answer.status_code, error["kind"]) == (409, "changed")
    assert [item["field"] for item in error["fields"]] == ["frame.pitch_deg"]
    assert two.read(shot)["facts"]["frame"]["pitch_deg"] == 5
    # Having seen it, the second hand may set what it wants.
    assert two.patch(shot, pitch_deg=7).get_json()["facts"]["frame"]["pitch_deg"] == 7


def test_different_values_in_two_hands_both_stand(hands, shot):
    one, two = hands
    one.read(shot), two.read(shot)
    assert one.patch(shot, pitch_deg=5).status_code == 200
    facts = two.patch(shot, roll_deg=3).get_json()["facts"]
    assert (facts["frame"]["pitch_deg"], facts["frame"]["roll_deg"]) == (5, 3)


def test_own_edits_are_never_in_ones_own_way(hands, shot):
    one, _ = hands
    one.read(shot)
    seen = one.seen
    for pitch in (1, 2, 3):
        one.seen = seen
        assert one.patch(shot, pitch_deg=pitch).status_code == 200


def test_elements_and_kit_are_guarded_alike(hands, api, shot):
    one, two = hands
    element = one.read(shot)["place"]["viewpoint"]["elements"][0]["id"]
    lens = two.call("GET", "/kit").get_json()["lenses"][0]["id"]
    assert one.call("PATCH", f"/elements/{element}", {"width_m": 1.1}).status_code == 200
    assert two.call("PATCH", f"/elements/{element}", {"width_m": 1.2}).get_json()["error"]["kind"] == "changed"
    assert two.call("PATCH", f"/elements/{element}", {"height_m": 1.2}).status_code == 200
    assert one.call("PATCH", f"/lenses/{lens}", {"name": "One's"}).status_code == 200
    two.seen -= 2
    assert two.call("PATCH", f"/lenses/{lens}", {"name": "Two's"}).get_json()["error"]["kind"] == "changed"


def test_undo_turns_what_its_button_names_or_nothing(hands, shot):
    one, two = hands
    one.patch(shot, pitch_deg=5)
    named = one.read(shot)["undo"]
    two.read(shot)
    two.patch(shot, roll_deg=3)
    answer = one.turn("undo", shot, named["undo_id"])
    assert answer.status_code == 409 and answer.get_json()["error"]["kind"] == "changed"
    assert one.read(shot)["facts"]["frame"]["roll_deg"] == 3
    fresh = one.read(shot)["undo"]
    assert fresh["undo_label"] == "change roll" or "lean" in fresh["undo_label"]
    assert one.turn("undo", shot, fresh["undo_id"]).get_json()["done"]
    facts = one.read(shot)["facts"]
    assert (facts["frame"]["pitch_deg"], facts["frame"]["roll_deg"]) == (5, 0)


def test_quick_edits_of_two_hands_are_two_edits(hands, shot):
    one, two = hands
    before = one.read(shot)["facts"]["frame"]["pitch_deg"]
    two.read(shot)
    one.patch(shot, pitch_deg=5)
    two.read(shot)
    two.patch(shot, pitch_deg=7)
    two.turn("undo", shot)
    assert two.read(shot)["facts"]["frame"]["pitch_deg"] == 5
    one.turn("undo", shot)
    assert one.read(shot)["facts"]["frame"]["pitch_deg"] == before


def test_undo_leaves_what_was_changed_since(api, shot):
    # The deletion of a lens lets the shot's lens go; another is chosen since. Undo brings the lens back and
    # leaves the choice.
    lens = api.get(f"/shots/{shot}")["facts"]["lens_id"]
    other = next(item["id"] for item in api.get("/kit")["lenses"] if item["id"] != lens)
    api.delete(f"/lenses/{lens}")
    api.patch(f"/shots/{shot}", {"lens_id": other})
    turned = api.post("/undo", {"scopes": ["kit"]}, 200)
    assert turned["done"] and "The lens was changed again since and stays." in turned["words"]
    assert lens in [item["id"] for item in api.get("/kit")["lenses"]]
    assert api.get(f"/shots/{shot}")["facts"]["lens_id"] == other


def test_redo_brings_a_shot_back_as_it_had_become(api):
    made = api.post("/shots", {"name": "Weir in spate"})["id"]
    place = api.get("/locations")["locations"][0]["viewpoints"][0]
    filters = [
        {"filter_id": item["id"], "on_lens": True, "on_when_metered": False} for item in api.get("/kit")["filters"][:2]
    ]
    api.patch(
        f"/shots/{made}",
        {
            "viewpoint_id": place["id"],
            "f_number": "f/11",
            "pitch_deg": -8,
            "filters": filters,
            "date_local": "2027-02-01",
        },
    )
    api.patch(f"/shots/{made}", {"sharp_element_ids": [place["elements"][0]["id"]], "intent": "white water"})
    api.post(f"/shots/{made}/framings", {"name": "low"})
    became = api.get(f"/shots/{made}")
    assert api.post("/undo", {"scopes": ["shots"]}, 200)["done"]
    api.refusal("GET", f"/shots/{made}", None, status=404)
    assert api.post("/redo", {"scopes": ["shots"]}, 200)["done"]
    again = api.get(f"/shots/{made}")
    assert again["facts"] == became["facts"]
    assert again["plan"] == became["plan"]
    assert [item["label"] for item in api.get(f"/shots/{made}/framings")["kept"]] == ["low"]
    # And once more around, with an edit of its own in between.
    api.patch(f"/shots/{made}", {"pitch_deg": 4})
    for word in ("undo", "redo"):
        assert api.post(f"/{word}", {"scopes": ["shots"]}, 200)["done"]
    assert api.get(f"/shots/{made}")["facts"]["frame"]["pitch_deg"] == 4


def test_an_edit_that_cannot_be_taken_back_is_passed_over(api, app):
    first, second = (api.post("/shots", {"name": name})["id"] for name in ("First", "Second"))
    api.patch(f"/shots/{second}", {"pitch_deg": 3})
    with app.extensions["test_sessions"]() as session:
        # As an edit of a shot that some other way has taken out of the database.
        session.execute(text("delete from shot where id = :id"), {"id": second})
        session.commit()
    passed = api.post("/undo", {"scopes": [f"shot:{second}"]}, 200)
    assert not passed["done"] and "passed over" in passed["words"]
    assert passed["undo"]["undo_id"] is None
    listed = api.post("/undo", {"scopes": ["shots"]}, 200)
    assert not listed["done"] and "new shot Second" in listed["words"]
    assert api.post("/undo", {"scopes": ["shots"]}, 200)["label"] == "new shot First"
    api.refusal("GET", f"/shots/{first}", None, status=404)
    # What was passed over is not repeated either.
    assert api.post("/redo", {"scopes": ["shots"]}, 200)["label"] == "new shot First"


def test_an_edit_written_before_a_column_was_renamed_can_be_undone(api, app, shot):
    api.patch(f"/shots/{shot}", {"pitch_deg": 3})
    with app.extensions["test_sessions"]() as session:
        session.execute(
            text(
                """update journal_entry set changes = replace(replace(changes::text, '"roll_deg"', '"lean_deg"'),
                '"hood_on"', '"gone"')::jsonb
                """
            )
        )
        session.commit()
    assert api.post("/undo", {"scopes": [f"shot:{shot}"]}, 200)["done"]
    assert api.get(f"/shots/{shot}")["facts"]["frame"]["pitch_deg"] != 3


def test_two_deletions_at_once(own_api):
    made = own_api.post("/shots", {"name": "Twice"})["id"]
    start = threading.Barrier(2)

    def remove(_):
        client = own_api.client.application.test_client()
        start.wait()
        return client.delete(f"/api/shots/{made}").status_code

    with ThreadPoolExecutor(2) as pool:
        assert sorted(pool.map(remove, range(2))) == [204, 404]
    assert own_api.post("/undo", {"scopes": ["shots"]}, 200)["label"] == "delete Twice"
    assert own_api.get(f"/shots/{made}")["facts"]["name"] == "Twice"
    assert own_api.post("/undo", {"scopes": ["shots"]}, 200)["label"] == "new shot Twice"


def test_six_hands_on_one_shot(own_api):
    shot = own_api.shot_id("Posts at the ebb")
    filters = [item["id"] for item in own_api.get("/kit")["filters"]]
    elements = [item["id"] for item in own_api.get(f"/shots/{shot}")["place"]["viewpoint"]["elements"]]
    until = time.monotonic() + 4

    def work(number):
        hand, chance, answers = Hand(own_api, f"hand {number}"), random.Random(number), []
        while time.monotonic() < until:
            hand.read(shot)
            pick = chance.randrange(6)
            if pick == 0:
                uses = [
                    {"filter_id": one, "on_lens": chance.random() < 0.5, "on_when_metered": False} for one in filters
                ]
                answers.append(hand.patch(shot, filters=uses))
            elif pick == 1:
                answers.append(hand.patch(shot, sharp_element_ids=chance.sample(elements, 2)))
            elif pick == 2:
                answers.append(
                    hand.call("PATCH", f"/elements/{chance.choice(elements)}", {"width_m": chance.uniform(0.5, 2)})
                )
            elif pick == 3:
                answers.append(hand.turn(chance.choice(["undo", "redo"]), shot))
            else:
                answers.append(hand.patch(shot, pitch_deg=chance.uniform(-9, 9)))
        return [(answer.status_code, answer.get_json().get("error", {}).get("message")) for answer in answers]

    with ThreadPoolExecutor(6) as pool:
        found = [item for answers in pool.map(work, range(6)) for item in answers]
    assert {status for status, _ in found} <= {200, 409}, [item for item in found if item[0] not in (200, 409)][:5]
    assert sum(status == 200 for status, _ in found) > 5
    # And the way back is open to its start.
    scopes = [f"shot:{shot}", f"location:{own_api.get(f'/shots/{shot}')['place']['location_id']}"]
    for _ in range(len(found) + 1):
        if own_api.client.post("/api/undo", json={"scopes": scopes}).status_code == 409:
            break
    assert own_api.get(f"/shots/{shot}")["undo"]["undo_id"] is None


class _Deadlock(Exception):
    sqlstate = "40P01"


@pytest.mark.parametrize(("times", "status"), [(2, 200), (3, 409)])
def test_a_deadlock_is_tried_again(own_api, times, status):
    engine = own_api.client.application.extensions["sessions"].kw["bind"]
    left = [times]

    def collide(_connection, _cursor, statement, *_rest):
        if statement.startswith("UPDATE shot SET") and left[0]:
            left[0] -= 1
            raise OperationalError(statement, {}, _Deadlock())

    event.listen(engine, "before_cursor_execute", collide)
    answer = own_api.client.patch(
        f"/api/shots/{own_api.shot_id('Posts at the ebb')}", json={"frame": {"pitch_deg": 2.5}}
    )
    event.remove(engine, "before_cursor_execute", collide)
    assert answer.status_code == status
    if status == 409:
        assert "does not answer" not in answer.get_json()["error"]["message"]


def test_a_commit_that_fails_is_said_in_the_one_shape(own_api, server_url):
    engine = own_api.client.application.extensions["sessions"].kw["bind"]
    other = create_engine(server_url, isolation_level="AUTOCOMMIT")

    def fail(connection):
        # The database goes away at the very moment of the commit.
        with other.connect() as executioner:
            executioner.execute(
                text("select pg_terminate_backend(:pid)"),
                {"pid": connection.connection.driver_connection.info.backend_pid},
            )
        time.sleep(0.2)

    shot = own_api.shot_id("Posts at the ebb")
    before = own_api.get(f"/shots/{shot}")["facts"]["frame"]["pitch_deg"]
    event.listen(engine, "commit", fail)
    answer = own_api.client.patch(f"/api/shots/{shot}", json={"frame": {"pitch_deg": 2.5}})
    event.remove(engine, "commit", fail)
    assert answer.status_code == 503
    assert answer.get_json()["error"]["kind"] == "unavailable"
    assert own_api.get(f"/shots/{shot}")["facts"]["frame"]["pitch_deg"] == before
    other.dispose()


def test_a_page_of_another_notebook_can_change_nothing(api, shot):
    mine = api.get("/revision")["notebook"]
    assert api.call("PATCH", f"/shots/{shot}", {"frame": {"pitch_deg": 1}}, 200, {"Lucid-Ridge-Notebook": mine})
    error = api.call("PATCH", f"/shots/{shot}", {"frame": {"pitch_deg": 2}}, 409, {"Lucid-Ridge-Notebook": "another"})[
        "error"
    ]
    assert error["kind"] == "other_notebook"
    assert api.get(f"/shots/{shot}")["facts"]["frame"]["pitch_deg"] == 1
    api.call("GET", f"/shots/{shot}", None, 409, {"Lucid-Ridge-Notebook": "another"})


def test_the_revision_grows_with_every_write_and_with_nothing_else(api, shot):
    first = api.get("/revision")["revision"]
    api.get("/notebook"), api.get(f"/shots/{shot}/day")
    api.post(
        f"/shots/{shot}/measure",
        {"thumbs": 2, "distance_m": 10},
        api.client.post(f"/api/shots/{shot}/measure", json={"thumbs": 2, "distance_m": 10}).status_code,
    )
    assert api.get("/revision")["revision"] == first
    api.patch(f"/shots/{shot}", {"pitch_deg": 1})
    assert api.get("/revision")["revision"] == first + 1
    api.refusal("PATCH", f"/shots/{shot}", {"pitch_deg": 100}, "pitch_deg")
    assert api.get("/revision")["revision"] == first + 1


def test_only_a_write_says_that_it_wrote(api, shot):
    client = api.client
    assert "Lucid-Ridge-Wrote" not in client.get(f"/api/shots/{shot}").headers
    assert (
        "Lucid-Ridge-Wrote"
        not in client.post(f"/api/shots/{shot}/measure", json={"thumbs": 2, "distance_m": 10}).headers
    )
    assert "Lucid-Ridge-Wrote" not in client.patch(f"/api/shots/{shot}", json={"frame": {"pitch_deg": 100}}).headers
    assert client.patch(f"/api/shots/{shot}", json={"frame": {"pitch_deg": 2}}).headers["Lucid-Ridge-Wrote"] == "1"


def test_two_first_questions_for_a_forecast(own_api, monkeypatch):
    # Whether a busy machine is quick enough is not what is asked here.
    patient = urllib3.PoolManager(timeout=60)
    monkeypatch.setattr(forecast_client, "_pool", lambda: patient)
    service = ForecastService()
    own_api.client.application.extensions["forecast_url"] = service.url
    place = own_api.post("/locations", {"name": "New", "latitude_deg": 54, "longitude_deg": -3})["id"]
    start = threading.Barrier(4)

    def ask(_):
        client = own_api.client.application.test_client()
        start.wait()
        answer = client.get(f"/api/locations/{place}/forecast")
        return answer.status_code, answer.get_json()["known"]

    try:
        with ThreadPoolExecutor(4) as pool:
            assert set(pool.map(ask, range(4))) == {(200, True)}
    finally:
        service.stop()


def test_no_transaction_is_open_while_a_service_is_asked(own_api, monkeypatch):
    application = own_api.client.application
    engine = application.extensions["sessions"].kw["bind"]
    application.extensions["forecast_url"] = "http://127.0.0.1:1"
    seen = []

    def ask(*_arguments):
        seen.append(engine.pool.checkedout())
        return forecasts.Answered(None, "no answer")

    monkeypatch.setattr(forecasts, "ask", ask)
    place = own_api.post("/locations", {"name": "New", "latitude_deg": 54, "longitude_deg": -3})["id"]
    assert own_api.get(f"/locations/{place}/forecast")["problem"] == "no answer"
    assert seen == [0]


def test_time_zones_asked_for_by_many_at_once(own_api):
    places = [
        (54.5, -3.1, "Europe/London"),
        (68.2, 13.7, "Europe/Oslo"),
        (-33.4, -70.7, "America/Santiago"),
        (35.7, 139.7, "Asia/Tokyo"),
    ] * 10

    def ask(place):
        client = own_api.client.application.test_client()
        return client.get(f"/api/zone?latitude_deg={place[0]}&longitude_deg={place[1]}").get_json()["zone"]

    with ThreadPoolExecutor(8) as pool:
        # tz database zones, common knowledge.
        assert list(pool.map(ask, places)) == [place[2] for place in places]
