"""The notebook's list: what it keeps of a plan is the plan as it stands, page by page."""

from itertools import pairwise

import pytest
from sqlalchemy import event, text

from lucid_ridge.operations.notebook import pages as notebooks


@pytest.fixture
def sun(api):
    return api.get(f"/shots/{api.shot_id('Towers from the steppe')}")


def _agrees(api):
    """Hold every line of the notebook to the plan that the shot itself gives."""
    for entry in api.get("/notebook?limit=200")["shots"]:
        plan = api.get(f"/shots/{entry['id']}")["plan"]
        assert entry["verdicts"] == plan["verdicts"], entry["name"]
        assert entry["fresh"]


def _first(api, place):
    return next(item for item in api.get("/locations")["locations"] if item["name"] == place)


def test_a_line_is_the_plan_as_it_stands(api, sun):
    _agrees(api)
    location = next(item for item in api.get("/locations")["locations"] if item["id"] == sun["place"]["location_id"])
    element = location["viewpoints"][0]["elements"][0]
    body = api.get("/kit")["bodies"][0]
    lens = next(item for item in api.get("/kit")["lenses"] if item["id"] == sun["facts"]["lens_id"])
    edits = (
        ("PATCH", f"/shots/{sun['id']}", {"frame": {"bearing_deg": 100}}),
        ("PATCH", f"/elements/{element['id']}", {"distance_m": 3, "width_m": 9}),
        ("PATCH", f"/locations/{location['id']}", {"latitude_deg": 40.0, "longitude_deg": 3.0}),
        ("PATCH", f"/bodies/{body['id']}", {"dynamic_range_stops": 6}),
        ("PATCH", f"/lenses/{lens['id']}", {"closest_focus_mm": 900}),
        ("PATCH", "/photographer", {"reserve_min": 200}),
        ("POST", f"/locations/{location['id']}/hazards", {"kind": "edge"}),
        ("DELETE", f"/elements/{element['id']}", None),
        ("DELETE", f"/lenses/{lens['id']}", None),
    )
    seen = []
    for method, path, body in edits:
        api.call(method, path, body, {"POST": 201, "DELETE": 204}.get(method, 200))
        _agrees(api)
        seen.append([entry["verdicts"] for entry in api.get("/notebook")["shots"]])
    assert sum(one != other for one, other in pairwise(seen)) >= 4
    for scopes in (["kit"], [f"location:{location['id']}"], [f"shot:{sun['id']}"]):
        api.post("/undo", {"scopes": scopes}, 200)
        _agrees(api)
        api.post("/redo", {"scopes": scopes}, 200)
        _agrees(api)


def test_a_card_makes_the_field_step_hold_in_the_list(api):
    shot = api.shot_id("Layered riggs")
    before = next(entry for entry in api.get("/notebook")["shots"] if entry["id"] == shot)["verdicts"][-1]
    api.patch(
        f"/shots/{shot}",
        {"near_m": 4, "far_infinite": True, "metered_f_number": 11, "metered_shutter_s": "1/30", "metered_iso": 100},
    )
    api.post(f"/shots/{shot}/cards", None)
    after = next(entry for entry in api.get("/notebook")["shots"] if entry["id"] == shot)["verdicts"][-1]
    assert before["mark"] != "holds" and after["mark"] == "holds"


def test_a_list_that_nothing_touched_plans_nothing(api, monkeypatch):
    before = api.get("/notebook")
    monkeypatch.setattr(notebooks, "plan_shot", lambda _facts: pytest.fail("planned again"))
    assert api.get("/notebook") == before


def test_a_new_version_plans_anew(api, monkeypatch):
    api.get("/notebook")
    planned = []
    plan = notebooks.plan_shot
    monkeypatch.setattr(notebooks, "VERSION", "another")
    monkeypatch.setattr(notebooks, "plan_shot", lambda facts: planned.append(1) or plan(facts))
    assert all(entry["fresh"] for entry in api.get("/notebook")["shots"])
    assert len(planned) == 11


def test_pages_and_words(api):
    whole = api.get("/notebook")
    assert whole["total"] == len(whole["shots"]) == 11
    pages = [api.get(f"/notebook?offset={offset}&limit=4")["shots"] for offset in (0, 4, 8, 12)]
    assert [len(page) for page in pages] == [4, 4, 3, 0]
    assert [entry for page in pages for entry in page] == whole["shots"]
    found = api.get("/notebook?words=larch")
    assert found["total"] == len(found["shots"]) >= 1
    assert {entry["name"] for entry in api.get("/notebook?words=BOULDER")["shots"]} >= {"Split boulder under the fell"}
    # What means something to the database means itself.
    api.post("/shots", {"name": "100% wet_ground\\here"})
    for words in ("100%25 wet", "t_g", "%5Chere"):
        assert [entry["name"] for entry in api.get(f"/notebook?words={words}")["shots"]] == ["100% wet_ground\\here"]
    assert api.get("/notebook?words=q_z")["total"] == 0
    for query in ("limit=0", "limit=201", "offset=-1", "words=" + "a" * 201, "sort=name"):
        api.call("GET", f"/notebook?{query}", None, 422)


def test_many_are_planned_in_the_background(own_api, monkeypatch):
    monkeypatch.setattr(notebooks, "_AT_ONCE", 3)
    # All shots are taken with one of two bodies: what is written of them makes each stale.
    for body in own_api.get("/kit")["bodies"]:
        own_api.patch(f"/bodies/{body['id']}", {"write_s": body["write_s"] + 0.1})
    first = own_api.get("/notebook")
    assert first["pending"]
    assert [entry["fresh"] for entry in first["shots"]].count(True) >= 3
    assert all(entry["fresh"] or entry["verdicts"] == [] for entry in first["shots"])
    for _ in range(600):
        found = own_api.get("/notebook")
        if not found["pending"]:
            break
    assert not found["pending"] and all(entry["fresh"] and len(entry["verdicts"]) == 7 for entry in found["shots"])
    _agrees(own_api)


def test_what_was_written_meanwhile_is_not_kept_over(own_api, monkeypatch):
    """A plan read before an edit and kept after it would show the shot as it was."""
    shot = own_api.shot_id("Posts at the ebb")
    own_api.patch(f"/shots/{shot}", {"pitch_deg": -13})
    plan, edited = notebooks.plan_shot, []

    def slow(facts):
        found = plan(facts)
        if not edited:
            edited.append(
                own_api.client.application.test_client().patch(
                    f"/api/shots/{shot}", json={"frame": {"bearing_deg": 100}}
                )
            )
        return found

    monkeypatch.setattr(notebooks, "plan_shot", slow)
    own_api.get("/notebook")
    assert edited[0].status_code == 200
    _agrees(own_api)


def test_the_list_takes_few_statements(api, app):
    api.get("/notebook")
    counted = []
    engine = app.extensions["test_sessions"].kw["bind"]
    event.listen(engine, "before_cursor_execute", lambda *arguments: counted.append(arguments[2]))
    api.get("/notebook")
    assert 0 < len(counted) <= 10, counted


def test_a_shot_that_redo_brought_back_is_listed_whole(api):
    made = api.post("/shots", {"name": "Once more"})["id"]
    api.get("/notebook")
    api.post("/undo", {"scopes": ["shots"]}, 200)
    assert made not in [entry["id"] for entry in api.get("/notebook")["shots"]]
    api.post("/redo", {"scopes": ["shots"]}, 200)
    _agrees(api)


def test_an_old_summary_does_not_outlive_its_shot(own_api):
    own_api.get("/notebook")
    shot = own_api.shot_id("Lichen map")
    own_api.delete(f"/shots/{shot}")
    with own_api.client.application.extensions["sessions"]() as session:
        assert session.scalar(text(f"select count(*) from shot_summary where shot_id = {shot}")) == 0
