"""What shots share says so; a copy leaves the others alone; usual pieces of kit; what is said without being refused."""

import re
from datetime import date, datetime, timedelta
from pathlib import Path

import pytest

WEB = Path(__file__).parents[2] / "web" / "src"


def _row(api, kind, identity):
    return next(row for row in api.get("/kit")[kind] if row["id"] == identity)


def _shots_with(api, name, value):
    found = []
    for shot in api.get("/notebook")["shots"]:
        if api.get(f"/shots/{shot['id']}")["facts"][name] == value:
            found.append(shot["name"])
    return sorted(found)


@pytest.mark.parametrize(("kind", "name"), [("bodies", "body_id"), ("lenses", "lens_id"), ("supports", "support_id")])
def test_kit_says_which_shots_use_it(api, kind, name):
    for row in api.get("/kit")[kind]:
        assert sorted(use["name"] for use in row["used_by"]) == _shots_with(api, name, row["id"])


def test_viewpoints_say_which_shots_use_them(api):
    for location in api.get("/locations")["locations"]:
        for point in location["viewpoints"]:
            assert sorted(use["name"] for use in point["used_by"]) == _shots_with(api, "viewpoint_id", point["id"])


@pytest.mark.parametrize(("what", "kind", "name"), [("body", "bodies", "body_id"), ("lens", "lenses", "lens_id")])
def test_a_copy_of_kit_for_one_shot(api, what, kind, name):
    one, other = api.shot_id("Posts at the ebb"), api.shot_id("Split boulder under the fell")
    before = {shot: api.get(f"/shots/{shot}")["facts"][name] for shot in (one, other)}
    shared = _row(api, kind, before[one])
    answer = api.post(f"/shots/{one}/own", {"what": what}, 200)
    copied = answer["facts"][name]
    assert copied != before[one]
    alike = {key: value for key, value in shared.items() if key not in ("id", "name", "used_by")}
    own = _row(api, kind, copied)
    assert {key: own[key] for key in alike} == alike
    assert "Posts at the ebb" in own["name"]
    assert api.get(f"/shots/{other}")["facts"][name] == before[other]
    assert api.post("/undo", {"scopes": [f"shot:{one}"]}, 200)["done"]
    assert api.get(f"/shots/{one}")["facts"][name] == before[one]
    assert copied not in [row["id"] for row in api.get("/kit")[kind]]


@pytest.mark.parametrize("what", ["viewpoint", "location"])
def test_a_copy_of_a_place_keeps_the_plan_as_it_is(api, what):
    for shot in api.get("/notebook")["shots"]:
        before = api.get(f"/shots/{shot['id']}")
        if before["place"] is None:
            continue
        after = api.post(f"/shots/{shot['id']}/own", {"what": what}, 200)
        assert after["place"]["viewpoint"]["id"] != before["place"]["viewpoint"]["id"]
        marks = [(verdict["step"], verdict["mark"]) for verdict in before["plan"]["verdicts"]]
        found = [(verdict["step"], verdict["mark"]) for verdict in after["plan"]["verdicts"]]
        # The card was made for the place by its old name.
        assert found[:-1] == marks[:-1], shot["name"]
        assert len(after["facts"]["depth"]["sharp_element_ids"]) == len(before["facts"]["depth"]["sharp_element_ids"])


def test_a_copy_of_nothing_is_refused(api):
    made = api.post("/shots", {"name": "Bare"})["id"]
    for what in ("viewpoint", "location", "body", "lens", "support"):
        if api.get(f"/shots/{made}")["facts"].get(f"{what}_id") is None:
            api.refusal("POST", f"/shots/{made}/own", {"what": what}, "what")


def test_usual_pieces_are_planned_with_at_once(api):
    presets = api.get("/kit/presets")["presets"]
    assert {row["kind"] for row in presets} == {"bodies", "lenses", "filters", "supports", "accessories"}
    assert len({row["key"] for row in presets}) == len(presets)
    made = {row["key"]: api.post(f"/kit/presets/{row['key']}", None) for row in presets}
    shot = api.post("/shots", {"name": "With usual things"})["id"]
    kit = api.get("/kit")
    for kind, name in (("bodies", "body_id"), ("lenses", "lens_id"), ("supports", "support_id")):
        for row in presets:
            if row["kind"] == kind:
                identity = next(item["id"] for item in kit[kind] if item["name"] == row["name"])
                assert api.patch(f"/shots/{shot}", {name: identity})["facts"][name] == identity
    assert len(made) == len(presets)
    assert api.post("/undo", {"scopes": ["kit"]}, 200)["done"]


def test_an_unknown_usual_piece(api):
    api.refusal("POST", "/kit/presets/nothing", None, status=404)


def test_what_is_odd_is_said_and_not_refused(api):
    shot = api.post("/shots", {"name": "Posts at the ebb"})
    assert [(item["field"], "called" in item["text"]) for item in shot["remarks"]] == [("name", True)]
    past = api.patch(f"/shots/{shot['id']}", {"date_local": "2001-01-01"})["remarks"]
    assert [item["field"] for item in past] == ["date_local", "name"]
    coming = str(date.today() + timedelta(days=400))
    assert [
        item["field"]
        for item in api.patch(f"/shots/{shot['id']}", {"date_local": coming, "name": "Another"})["remarks"]
    ] == []


def test_metering_leaves_aperture_and_iso_alone(api):
    shot = api.shot_id("Posts at the ebb")
    before = api.get(f"/shots/{shot}")["facts"]
    after = api.patch(f"/shots/{shot}", {"metered_f_number": "f/4", "metered_shutter_s": "1/125", "metered_iso": 800})[
        "facts"
    ]
    for group, name in (("depth", "f_number"), ("exposure", "iso")):
        assert after[group][name] == before[group][name]


def test_an_aperture_that_the_lens_lacks_is_refused_where_it_was_typed(api):
    shot = api.shot_id("Posts at the ebb")
    for field in ("f_number", "metered_f_number"):
        for text in ("f/0.95", "f/64"):
            assert "f/2.8" in api.refusal("PATCH", f"/shots/{shot}", {field: text}, field)["message"]


def test_a_window_keeps_its_name_in_the_shot(api):
    for name in ("Posts at the ebb", "Sundew after rain", "Layered riggs"):
        shot = api.shot_id(name)
        for window in api.get(f"/shots/{shot}/day")["windows"]:
            plan = api.patch(f"/shots/{shot}", {"time_utc": window["start_utc"], "window_end_utc": window["end_utc"]})[
                "plan"
            ]
            verdict = next(item for item in plan["verdicts"] if item["step"] == "light")
            assert window["kind"].replace("_", " ") in verdict["text"], (name, window["kind"], verdict["text"])


def test_an_element_is_as_far_in_one_list_as_in_the_other(api):
    for shot in api.get("/notebook")["shots"]:
        answer = api.get(f"/shots/{shot['id']}")
        seen = {item["id"]: item["distance_label"] for item in answer["plan"]["place"]["seen"]}
        drawn = {
            item["element_id"]: item["distance_label"]
            for item in answer["plan"]["depth"].get("elements", [])
            if "element_id" in item
        }
        assert {key: seen[key] for key in drawn if key in seen} == {key: drawn[key] for key in drawn if key in seen}


def test_names_keep_their_case_in_every_sentence(api):
    kit = api.get("/kit")
    body, lens = kit["bodies"][0], kit["lenses"][0]
    api.patch(f"/bodies/{body['id']}", {"name": "nEX bODY"})
    api.patch(f"/lenses/{lens['id']}", {"name": "aF lENS"})
    for row in kit["filters"]:
        api.patch(f"/filters/{row['id']}", {"name": f"nD {row['id']}x"})
    for shot in api.get("/notebook")["shots"]:
        said = str(api.get(f"/shots/{shot['id']}")["plan"])
        for name in ("nEX bODY", "aF lENS", *(f"nD {row['id']}x" for row in kit["filters"])):
            for other in {name.capitalize(), name[0].upper() + name[1:], name.lower(), name.upper()} - {name}:
                assert other not in said, (shot["name"], other)


def test_every_reason_leads_to_a_field_that_is_there():
    # The sentence's "change it" goes to the element that bears the name.
    planning = Path(__file__).parents[2] / "src" / "lucid_ridge" / "core" / "planning"
    dials = set()
    for path in planning.rglob("*.py"):
        for call in re.findall(r"\.(?:holds|tight|fails|unsaid|caution)\((\"[^()]*)\)", path.read_text()):
            dials.update(re.findall(r'"([a-z_]+)"', call))
    assert {"f_number", "time_utc", "camera_height_m", "wanted_shutter_s"} <= dials
    homes = (WEB / "shots" / "homes.ts").read_text()
    known = set(re.findall(r"^  ([a-z_]+): \[at", homes, re.MULTILINE))
    assert dials - known == set()
    screens = "\n".join(path.read_text() for path in (WEB / "steps").rglob("*.tsx"))
    shown = set(re.findall(r'"([a-z_]+)"', screens)) | set(re.findall(r":([a-z_]+)`}", screens))
    assert known - shown == set()


def test_a_span_is_not_called_by_a_light_that_ends_within_it(api):
    shot = api.shot_id("Posts at the ebb")
    for window in api.get(f"/shots/{shot}/day")["windows"]:
        if window["kind"] not in ("golden_hour", "blue_hour", "glow") or window["after"]:
            continue
        beyond = datetime.fromisoformat(window["end_utc"]) + timedelta(hours=1)
        facts = {"time_utc": window["start_utc"], "window_end_utc": beyond.isoformat()}
        plan = api.patch(f"/shots/{shot}", facts)["plan"]
        verdict = next(item["text"] for item in plan["verdicts"] if item["step"] == "light")
        # It may be named with its own end.
        assert window["kind"] not in verdict.replace(f"{window['kind']} until {window['end_clock']}", ""), verdict
