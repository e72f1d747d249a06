"""Shots over HTTP: the main job from what is typed to the frames to take."""

import pytest
from wire import field_on_the_wire

WEED_STONE = "Posts at the ebb"


@pytest.fixture
def shot(api):
    return api.get(f"/shots/{api.shot_id(WEED_STONE)}")


def _patch(api, shot, **body):
    return api.patch(f"/shots/{shot['id']}", body)


def _mark(shot, step):
    return next(verdict["mark"] for verdict in shot["plan"]["verdicts"] if verdict["step"] == step)


def _filter_id(api, name):
    return next(item["id"] for item in api.get("/kit")["filters"] if item["name"] == name)


def test_the_demo_notebook_holds_its_shots(api):
    shots = api.get("/notebook")["shots"]
    assert len(shots) == 11
    dates = [shot["date_local"] for shot in shots]
    assert dates == [*sorted(date for date in dates if date), None]
    assert all(len(shot["verdicts"]) == 7 for shot in shots)


def test_three_focus_positions_from_the_database_to_the_answer(shot):
    depth = shot["plan"]["depth"]
    # The ground at the frame's edge lies at 0.351 m. By hand: f/17.2 there leaves 19.2 µm for defocus; ln(351/327) =
    # 0.0708 over slices of 2 artanh(0.0192/1.5) = 0.0256 are 2.77; with 10 % of overlap 1 + 1.77/0.9 = 2.96.
    assert len(depth["positions"]) == 3
    assert depth["coc_um"] == pytest.approx(30)
    assert depth["far"] == {"value": None, "label": "∞"}
    for nearer, farther in zip(depth["positions"], depth["positions"][1:], strict=False):
        assert nearer["far_limit"]["value"] >= farther["near_limit"]["value"]
    assert depth["curve_inverse_m"][-1] == 0


def test_ten_stops_give_128_s_and_a_polariser_362(api, shot):
    assert shot["plan"]["exposure"]["shutter"] == {"value": 128.0, "label": "2'08\""}
    polariser, ten = _filter_id(api, "Polariser"), _filter_id(api, "10-stop ND")
    on = [{"filter_id": number, "on_lens": True, "on_when_metered": False} for number in (ten, polariser)]
    both = _patch(api, shot, filters=on)["plan"]["exposure"]
    assert both["shutter"]["value"] == pytest.approx(362.04, abs=0.005)
    assert [line["label"] for line in both["ledger"] if line["kind"] == "filter"] == ["10-stop ND", "Polariser"]
    on[1]["on_when_metered"] = True
    assert _patch(api, shot, filters=on)["plan"]["exposure"]["shutter"]["value"] == 128


def test_two_minutes_are_proposed_from_the_bag(api, shot):
    plan = _patch(api, shot, filters=[], wanted_shutter_s="2 min", iso=100)["plan"]
    assert plan["exposure"]["wanted"] == {"value": 120.0, "label": "2'"}
    found = {tuple(item["filter_names"]): item for item in plan["exposure"]["proposals"]}
    assert found[("10-stop ND",)]["shutter_s"] == pytest.approx(128)
    # A thousandfold filter costs 9.97 stops: 125 s is nearer still.
    best = plan["exposure"]["proposals"][0]
    assert best["filter_names"] == ["1000× ND, screw-in"]
    assert best["shutter_s"] == pytest.approx(125.3, abs=0.1)
    assert {item["iso"] for item in found.values()} == {100}


def test_bracket_nested_in_focus(api):
    plan = api.get(f"/shots/{api.shot_id('Split boulder under the fell')}")["plan"]
    assert plan["exposure"]["range_stops"] == 14
    assert plan["exposure"]["dynamic_range_stops"] == 11
    frames = plan["sequence"]["frames"]
    assert [frame["exposure_index"] for frame in frames] == [0, 1, 2, 0, 1, 2]
    assert [frame["shutter_label"] for frame in frames[:3]] == ["1/60", "1/15", "1/4"]


def test_texts_of_the_trade_are_read_by_the_server(api, shot):
    facts = _patch(api, shot, metered_shutter_s="1/60", f_number="f/11", near_m="40 cm", clock_local="15:31")["facts"]
    assert facts["exposure"]["metered_shutter_s"] == 1 / 64
    assert facts["depth"]["f_number"] == pytest.approx(2**3.5)
    assert facts["depth"]["near_m"] == pytest.approx(0.4)
    assert (facts["light"]["clock_local"], facts["light"]["time_utc"]) == (
        "15:31",
        f"{shot['facts']['light']['date_local']}T15:31:00Z",
    )


def test_letting_go_gives_the_choice_back(api, shot):
    plan = _patch(api, shot, f_number=None, metered_f_number=None, iso=None)["plan"]
    assert plan["depth"]["f_number_label"] == "f/8"


def test_a_new_date_keeps_the_clock_time_and_a_new_place_its_zone(api, shot):
    moved = _patch(api, shot, date_local="2026-07-01")
    assert moved["facts"]["light"]["clock_local"] == shot["facts"]["light"]["clock_local"]
    assert moved["facts"]["light"]["time_utc"].startswith("2026-07-01T14:")  # one hour earlier in UTC: summer time
    quelen = next(place for place in api.get("/locations")["locations"] if place["name"] == "Mirador Quelén")
    south = _patch(api, shot, viewpoint_id=quelen["viewpoints"][0]["id"])
    assert south["facts"]["light"]["clock_local"] == shot["facts"]["light"]["clock_local"]
    assert south["place"]["zone"] == "America/Santiago"


def test_a_shot_needs_nothing_but_a_name(api):
    shot = api.post("/shots", {"name": "Somewhere new"})
    assert {verdict["step"]: verdict["mark"] for verdict in shot["plan"]["verdicts"]} == {
        "place": "unsaid",
        "light": "unsaid",
        "frame": "holds",
        "depth": "unsaid",
        "exposure": "unsaid",
        "sequence": "unsaid",
        "field": "unsaid",
    }
    assert all(
        reason["dial"] or reason["step"] == "field"
        for reason in shot["plan"]["because"]
        if reason["severity"] == "unsaid"
    )


@pytest.mark.parametrize(
    ("body", "field", "words"),
    [
        ({"f_number": "f/2"}, "f_number", "f/2.8"),
        ({"f_number": "wide"}, "f_number", "not an aperture"),
        ({"f_number": -4}, "f_number", "at least"),
        ({"focal_mm": 200}, "focal_mm", "24 to 70"),
        ({"iso": 40}, "iso", "50"),
        ({"wanted_shutter_s": "1/16000"}, "wanted_shutter_s", "1/8000"),
        ({"wanted_shutter_s": "soon"}, "wanted_shutter_s", "1/60"),
        ({"metered_shutter_s": 0}, "metered_shutter_s", "greater"),
        ({"near_m": 3, "far_m": 2, "far_infinite": False}, "far_m", "closer"),
        ({"near_m": "1 cm"}, "near_m", "focal length"),
        ({"near_m": "far away"}, "near_m", "not a distance"),
        ({"shadow_ev": 9, "highlight_ev": 4}, "highlight_ev", "under"),
        ({"compensation_ev": "many"}, "compensation_ev", "not a number"),
        ({"overlap": 2}, "overlap", "at most"),
        ({"pitch_deg": 95}, "pitch_deg", "90"),
        ({"clock_local": "25:99"}, "clock_local", "23"),
        ({"date_local": "tomorrow"}, "date_local", "2026-01-31"),
        ({"date_local": "2300-01-01"}, "date_local", "2052"),
        ({"time_utc": "2026-11-25T15:00:00"}, "time_utc", "zone"),
        ({"orientation": "tilted"}, "orientation", "landscape"),
        ({"sharp_element_ids": [999999]}, "sharp_element_ids", "viewpoint"),
        ({"subject_element_id": 999999}, "subject_element_id", "viewpoint"),
        ({"viewpoint_id": 999999}, "viewpoint_id", "does not exist"),
        ({"body_id": 2**40}, "body_id", "at most"),
        ({"filters": [{"filter_id": 999999, "on_lens": True, "on_when_metered": False}]}, "filters", "does not exist"),
        ({"filters": [{"filter_id": 1, "on_lens": "perhaps", "on_when_metered": False}]}, "filters.0.on_lens", ""),
        ({"name": "  "}, "name", "needed"),
        ({"name": "nul\0"}, "name", "cannot be kept"),
        ({"shininess": 3}, "shininess", "no such field"),
        ({"bracket_step_ev": None}, "bracket_step_ev", "needed"),
        ({"clock_local": None}, "clock_local", "clock time"),
        ({"sharp_element_ids": None}, "sharp_element_ids", "list"),
        ({"filters": None}, "filters", "list"),
        ({"crop_share": None}, "crop_share", "needed"),
    ],
)
def test_bad_input_is_refused_at_its_field_and_changes_nothing(api, shot, body, field, words):
    error = api.refusal("PATCH", f"/shots/{shot['id']}", body, field)
    message = next(item["message"] for item in error["fields"] if item["field"] == field_on_the_wire("/shots/1", field))
    assert words in message
    assert api.get(f"/shots/{shot['id']}")["facts"] == shot["facts"]


@pytest.mark.parametrize(
    "text", ['{"exposure": {"iso": NaN}}', '{"exposure": {"iso": Infinity}}', '{"depth": {"near_m": -Infinity}}']
)
def test_numbers_that_are_not_finite_are_refused(api, shot, text):
    answer = api.client.patch(f"/api/shots/{shot['id']}", data=text, content_type="application/json")
    assert answer.status_code in (400, 422)
    assert answer.get_json()["error"]["message"]


def test_a_deleted_shot_says_so_and_undo_brings_it_back(api, shot):
    api.delete(f"/shots/{shot['id']}")
    error = api.refusal("PATCH", f"/shots/{shot['id']}", {"iso": 200}, status=404)
    assert "deleted" in error["message"]
    api.post("/undo", {"scopes": ["shots"]}, 200)
    again = api.get(f"/shots/{shot['id']}")
    assert again["facts"] == shot["facts"]
    assert again["card_id"] == shot["card_id"]
    assert again["plan"] == shot["plan"]


def test_every_edit_can_be_undone_and_redone(api, shot):
    scopes = {"scopes": [f"shot:{shot['id']}"]}
    edits = [
        {"f_number": 8},
        {"orientation": "landscape"},
        {"sharp_element_ids": []},
        {"filters": []},
        {"date_local": "2026-12-24"},
        {"near_m": None, "far_infinite": False},
    ]
    states = [shot["facts"]]
    for edit in edits:
        states.append(_patch(api, shot, **edit)["facts"])
    assert len({str(state) for state in states}) == len(states)
    for state in reversed(states[:-1]):
        api.post("/undo", scopes, 200)
        assert api.get(f"/shots/{shot['id']}")["facts"] == state
    for state in states[1:]:
        api.post("/redo", scopes, 200)
        assert api.get(f"/shots/{shot['id']}")["facts"] == state
    api.call("POST", "/redo", scopes, 409)


def test_a_new_edit_ends_redoing(api, shot):
    scopes = {"scopes": [f"shot:{shot['id']}"]}
    _patch(api, shot, f_number=8)
    undone = api.post("/undo", scopes, 200)
    assert undone["label"] == "change aperture" and undone["done"]
    assert (undone["undo"]["undo_label"], undone["undo"]["redo_label"]) == (None, "change aperture")
    assert _patch(api, shot, iso=200)["undo"]["redo_label"] is None
    api.call("POST", "/redo", scopes, 409)


def test_turning_a_dial_is_one_edit(api, shot):
    for f_number in (14.25, 12.7, 11.31, 8):
        _patch(api, shot, f_number=f_number)
    api.post("/undo", {"scopes": [f"shot:{shot['id']}"]}, 200)
    assert api.get(f"/shots/{shot['id']}")["facts"]["depth"]["f_number"] == 16


def test_a_field_card_stays_as_it_was_made(api, shot):
    card = api.get(f"/cards/{shot['card_id']}")
    assert (card["stale"], len(card["content"]["frames"])) == (False, 3)
    assert card["content"]["frames"][0]["shutter"] == "2'08\""
    changed = _patch(api, shot, f_number=8)
    assert _mark(changed, "field") == "tight"
    kept = api.get(f"/cards/{shot['card_id']}")
    assert kept["stale"] is True
    assert kept["content"] == card["content"]
    made = api.post(f"/shots/{shot['id']}/cards", None)
    assert made["id"] != card["id"]
    assert made["content"]["frames"] != card["content"]["frames"]
    assert _mark(api.get(f"/shots/{shot['id']}"), "field") == "holds"


def test_the_same_plan_makes_no_second_card(api, shot):
    assert api.post(f"/shots/{shot['id']}/cards", None)["id"] == shot["card_id"]


def test_no_card_without_frames(api):
    empty = api.shot_id("Hollow lane, not scouted yet")
    api.call("POST", f"/shots/{empty}/cards", None, 409)
