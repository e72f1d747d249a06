"""What moves over the wire: kinds, wishes, filters that are turned, who keeps polarisers off wide lenses."""

import pytest

SILL, POSTS = "Brown water over the sill", "Posts at the ebb"


@pytest.fixture
def walkers(api):
    """The sill's shot and an element of people who pass."""
    shot = api.shot_id(SILL)
    place = api.get(f"/shots/{shot}")["place"]["viewpoint"]["id"]
    said = {
        "name": "Walkers",
        "shape": "block",
        "bearing_deg": 19,
        "distance_m": 12,
        "width_m": 3,
        "height_m": 1.8,
        "moving": "people",
    }
    made = api.post(f"/viewpoints/{place}/elements", said)
    assert (made["moves_mps"], made["passes"], made["passing_per_min"]) == (1.4, True, None)
    return shot, made["id"]


def _because(answer, words):
    return [reason["severity"] for reason in answer["plan"]["because"] if words in reason["text"]]


def test_a_wish_is_kept_undone_and_judged(api, walkers):
    shot, people = walkers
    gone = [{"element_id": people, "wish": "gone"}]
    answer = api.patch(f"/shots/{shot}", {"motion_wishes": gone})
    assert answer["facts"]["exposure"]["motion_wishes"] == gone
    # Nobody said how many pass: it is not judged.
    assert _because(answer, "pass a minute") == ["unsaid"]
    api.patch(f"/elements/{people}", {"passing_per_min": 3})
    judged = api.get(f"/shots/{shot}")
    assert _because(judged, "Walkers: ") == ["fails"]
    mover = next(item for item in judged["plan"]["exposure"]["movers"] if item["element_id"] == people)
    assert (mover["wish"], mover["told"], mover["main"]) == ("gone", "usual", False)
    choice = next(item for item in mover["wishes"] if item["wish"] == "gone")
    assert choice["label"].endswith("and longer")
    assert choice["trade"] == "three minutes"
    api.post("/undo", {"scopes": [f"shot:{shot}"]}, 200)
    assert api.get(f"/shots/{shot}")["facts"]["exposure"]["motion_wishes"] == []
    api.post("/redo", {"scopes": [f"shot:{shot}"]}, 200)
    assert api.get(f"/shots/{shot}")["facts"]["exposure"]["motion_wishes"] == gone


def test_wishes_that_make_no_sense_are_refused(api, walkers):
    shot, people = walkers
    water = api.get(f"/shots/{shot}")["plan"]["exposure"]["moving_element_id"]
    stranger = api.get(f"/shots/{api.shot_id(POSTS)}")["place"]["viewpoint"]["elements"][0]["id"]
    for wishes in (
        [{"element_id": water, "wish": "gone"}],
        [{"element_id": None, "wish": "gone"}],
        [{"element_id": stranger, "wish": "silky"}],
        [{"element_id": people, "wish": "gone"}, {"element_id": people, "wish": "frozen"}],
    ):
        api.refusal("PATCH", f"/shots/{shot}", {"motion_wishes": wishes}, "motion_wishes")
    assert api.get(f"/shots/{shot}")["facts"]["exposure"]["motion_wishes"] == []


def test_wishes_follow_their_element(api, walkers):
    shot, people = walkers
    api.patch(
        f"/shots/{shot}",
        {"motion_wishes": [{"element_id": people, "wish": "frozen"}, {"element_id": None, "wish": "silky"}]},
    )
    own = api.post(f"/shots/{shot}/own", {"what": "viewpoint"}, 200)
    copied = next(item["id"] for item in own["place"]["viewpoint"]["elements"] if item["name"] == "Walkers")
    assert {item["element_id"] for item in own["facts"]["exposure"]["motion_wishes"]} == {copied, None}
    api.delete(f"/elements/{copied}")
    assert [item["element_id"] for item in api.get(f"/shots/{shot}")["facts"]["exposure"]["motion_wishes"]] == [None]


def test_a_filter_that_is_turned(api):
    made = api.post("/filters", {"name": "Variable", "kind": "neutral_density", "stops": 2, "stops_max": 8})
    shot = api.shot_id(SILL)
    before = api.patch(f"/shots/{shot}", {"filters": []})["plan"]["exposure"]["shutter"]["value"]
    use = {"filter_id": made["id"], "on_lens": True, "on_when_metered": False}
    weak = api.patch(f"/shots/{shot}", {"filters": [use]})["plan"]["exposure"]["shutter"]["value"]
    strong = api.patch(f"/shots/{shot}", {"filters": [{**use, "set_stops": 6}]})
    assert weak == pytest.approx(4 * before)
    assert strong["plan"]["exposure"]["shutter"]["value"] == pytest.approx(64 * before)
    assert strong["facts"]["exposure"]["filters"][0]["set_stops"] == 6
    api.refusal("PATCH", f"/shots/{shot}", {"filters": [{**use, "set_stops": 9}]}, "filters")
    api.refusal("PATCH", f"/filters/{made['id']}", {"stops_max": 1}, "stops_max")
    fixed = api.post("/filters", {"name": "Fixed", "kind": "neutral_density", "stops": 3})["id"]
    api.refusal("PATCH", f"/shots/{shot}", {"filters": [{**use, "filter_id": fixed, "set_stops": 5}]}, "filters")
    api.refusal("POST", "/filters", {"name": "Pol", "kind": "polariser", "stops": 1.5, "stops_max": 3}, "stops_max")


def test_a_proposal_turns_it(api):
    api.post("/filters", {"name": "Variable", "kind": "neutral_density", "stops": 1.3, "stops_max": 9.3})
    shot = api.shot_id(SILL)
    plan = api.patch(f"/shots/{shot}", {"filters": [], "wanted_shutter_s": "20 s"})["plan"]["exposure"]
    turned = [item for item in plan["proposals"] if any(stops is not None for stops in item["set_stops"])]
    assert turned
    first = turned[0]
    uses = [
        {"filter_id": one, "on_lens": True, "on_when_metered": False, "set_stops": stops}
        for one, stops in zip(first["filter_ids"], first["set_stops"], strict=True)
    ]
    taken = api.patch(f"/shots/{shot}", {"filters": uses, "f_number": first["f_number"], "iso": first["iso"]})
    # What was offered is the result.
    assert taken["plan"]["exposure"]["shutter"]["value"] == pytest.approx(first["shutter_s"], rel=1e-6)


def test_who_keeps_polarisers_off_wide_lenses(api):
    shot = api.shot_id(SILL)
    assert _because(api.get(f"/shots/{shot}"), "your preference") == []
    assert api.patch("/photographer", {"polariser_from_mm": 50})["polariser_from_mm"] == 50
    assert _because(api.get(f"/shots/{shot}"), "your preference") == ["tight"]
    # The notebook's marks follow, as the plan's do.
    marks = {
        item["name"]: {verdict["step"]: verdict["mark"] for verdict in item["verdicts"]}
        for item in api.get("/notebook")["shots"]
    }
    assert marks[SILL]["exposure"] == "tight"
    assert api.patch("/photographer", {"polariser_from_mm": None})["polariser_from_mm"] is None
    assert _because(api.get(f"/shots/{shot}"), "your preference") == []
    api.refusal("PATCH", "/photographer", {"polariser_from_mm": 2}, "polariser_from_mm")


def test_kinds_of_film(api):
    body = api.get("/kit")["bodies"][0]["id"]
    assert api.patch(f"/bodies/{body}", {"film": "slide"})["film"] == "slide"
    assert api.patch(f"/bodies/{body}", {"film": None})["film"] is None
    api.refusal("PATCH", f"/bodies/{body}", {"film": "instant"}, "film")


def test_the_notebook_shows_the_picture(api):
    entries = {item["name"]: item["miniature"] for item in api.get("/notebook")["shots"]}
    assert entries[SILL]["picture"].startswith("data:image/png;base64,")
    assert len(entries[SILL]["picture"]) < 20_000
    bare = api.post("/shots", {"name": "Bare"})
    assert (
        next(item["miniature"] for item in api.get("/notebook")["shots"] if item["id"] == bare["id"])["picture"] is None
    )
