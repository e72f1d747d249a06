"""The solver through the API: wishes are facts like others, what is found can be taken as it comes, and a question
changes nothing.
"""

POSTS = "Posts at the ebb"


def test_plans_can_be_taken_as_they_come_and_undone(api):
    shot = api.shot_id(POSTS)
    before = api.get(f"/shots/{shot}")["facts"]
    found = api.get(f"/shots/{shot}/solution")
    assert found["lacking"] is None
    assert found["judged"] > 10_000
    assert found["plans"][0]["kind"] == "best"
    assert found["now"]["kind"] == "now"
    # The posts are planned as the solver would: its best is the shot as it stands, the others are not.
    assert found["plans"][0]["changes"] == []
    others = [plan for plan in found["plans"] if plan["changes"]]
    assert others
    for plan in others:
        takes = {name: value for name, value in plan["takes"].items() if value is not None}
        taken = api.patch(f"/shots/{shot}", takes)
        assert taken["facts"]["depth"]["f_number"] == takes["f_number"]
        assert len(taken["plan"]["sequence"]["frames"]) == plan["frames"]
        assert taken["plan"]["exposure"]["shutter"]["label"] == plan["shutter_label"]
        api.post("/undo", {"scopes": [f"shot:{shot}"], "entry_id": taken["undo"]["undo_id"]}, expect=200)
    assert api.get(f"/shots/{shot}")["facts"] == before


def test_wishes_change_what_is_found_and_not_the_plan(api):
    shot = api.shot_id(POSTS)
    card = api.post(f"/shots/{shot}/cards", {})["id"]
    plan = api.get(f"/shots/{shot}")["plan"]
    answer = api.patch(f"/shots/{shot}", {"most_frames": 1, "frames_stake": "must", "leaning": "clean"})
    assert answer["plan"]["verdicts"] == plan["verdicts"]
    assert not api.get(f"/cards/{card}")["stale"]
    found = api.get(f"/shots/{shot}/solution")
    assert found["plans"] == []
    words = [item["words"] for item in found["concessions"]]
    assert any("instead of 1" in text for text in words)
    assert any("be soft by" in text for text in words)
    assert answer["undo"]["undo_label"] == "change preference, most frames, number of frames"
    api.patch(f"/shots/{shot}", {"frames_stake": "free"})
    assert api.get(f"/shots/{shot}/solution")["plans"]


def test_what_no_wish_can_be_is_refused_at_its_field(api):
    shot = api.shot_id(POSTS)
    api.refusal("PATCH", f"/shots/{shot}", {"most_frames": 0}, "most_frames")
    api.refusal("PATCH", f"/shots/{shot}", {"sharp_stake": "perhaps"}, "sharp_stake")
    api.refusal("PATCH", f"/shots/{shot}", {"within_min": 500}, "within_min")


def test_a_bare_shot_says_what_the_solver_needs(api):
    bare = api.post("/shots", {"name": "Bare"})["id"]
    found = api.get(f"/shots/{bare}/solution")
    assert "body, a lens and light" in found["lacking"]
    assert (found["plans"], found["concessions"], found["now"]) == ([], [], None)


def test_groups_of_ones_own_go_with_a_plan_that_is_taken_and_that_is_said(api):
    shot = api.shot_id(POSTS)
    api.patch(f"/shots/{shot}", {"frame_groups": [{"role": "near", "focus": "nearest"}]})
    assert all(plan["lets_go"] for plan in api.get(f"/shots/{shot}/solution")["plans"])


def test_every_demo_shot_has_an_answer(api):
    for shot in api.get("/notebook")["shots"]:
        found = api.get(f"/shots/{shot['id']}/solution")
        assert found["lacking"] or found["plans"] or found["concessions"], shot["name"]
