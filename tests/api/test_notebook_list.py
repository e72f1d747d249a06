"""The notebook as a list: copied shots, favourites, what is archived, words anywhere, groups."""

from lucid_ridge.operations.notebook import pages as notebooks

POSTS = "Posts at the ebb"


def _names(api, query=""):
    return [shot["name"] for shot in api.get(f"/notebook?{query}")["shots"]]


def test_a_copy_says_the_same_and_has_a_life_of_its_own(api):
    first = api.shot_id(POSTS)
    api.patch(f"/shots/{first}", {"frame_groups": [{"role": "near", "focus": "nearest"}], "most_frames": 9})
    before = api.get(f"/shots/{first}")
    made = api.post(f"/shots/{first}/copy", None)
    assert made["facts"]["name"] == f"{POSTS} (copy)"
    assert made["id"] != first
    for part in ("light", "frame", "depth", "exposure", "sequence", "wishes"):
        assert made["facts"][part] == before["facts"][part], part
    # All that is planned is planned alike but for the card, which stays with the first.
    assert [item["mark"] for item in made["plan"]["verdicts"][:6]] == [
        item["mark"] for item in before["plan"]["verdicts"][:6]
    ]
    api.patch(f"/shots/{made['id']}", {"f_number": "f/8", "sharp_element_ids": []})
    assert api.get(f"/shots/{first}")["facts"]["depth"] == before["facts"]["depth"]
    api.post("/undo", {"scopes": ["shots"], "entry_id": api.get("/notebook")["undo"]["undo_id"]}, expect=200)
    assert f"{POSTS} (copy)" not in _names(api)
    api.post("/shots/999999/copy", None, expect=404)


def test_a_copy_of_the_longest_name_is_not_too_long(api):
    long = api.post("/shots", {"name": "x" * 200})["id"]
    assert len(api.post(f"/shots/{long}/copy", None)["facts"]["name"]) == 200


def test_what_is_put_away_is_listed_by_itself_and_still_planned(api):
    shot = api.shot_id(POSTS)
    put = api.patch(f"/shots/{shot}", {"archived": True})
    assert put["undo"]["undo_label"] == "change archive"
    assert POSTS not in _names(api)
    assert _names(api, "archived=true") == [POSTS]
    assert api.get(f"/shots/{shot}")["plan"]["sequence"]["frames"]


def test_favourites(api):
    shot = api.shot_id(POSTS)
    assert _names(api, "favourites=true") == []
    verdicts = api.get(f"/shots/{shot}")["plan"]["verdicts"]
    assert api.patch(f"/shots/{shot}", {"favourite": True})["plan"]["verdicts"] == verdicts
    assert _names(api, "favourites=true") == [POSTS]
    api.refusal("PATCH", f"/shots/{shot}", {"favourite": "perhaps"}, "favourite")


def test_words_are_found_in_what_is_seen_noted_and_planned(api):
    assert _names(api, "words=mooring posts") == [POSTS]
    assert POSTS in _names(api, "words=sallow")
    assert set(_names(api, "words=breakfast")) == set()
    assert "Sundew after rain" in _names(api, "words=first light, then")
    # What PostgreSQL takes for a pattern is taken as it is typed.
    assert _names(api, "words=%25") == []


def test_groups_by_place_outing_and_state(api):
    by_place = api.get("/notebook?by=place")["shots"]
    groups = [shot["group"] for shot in by_place]
    assert groups == sorted(groups, key=lambda name: (name == "", name))
    assert next(shot["group"] for shot in by_place if shot["name"] == POSTS) == "Sallow Estuary"
    by_outing = {shot["name"]: shot["group"] for shot in api.get("/notebook?by=outing")["shots"]}
    assert by_outing["Sundew after rain"] == "Bog at first light, then the sill"
    assert by_outing[POSTS] == ""
    marks = {
        shot["name"]: (shot["group"], [item["mark"] for item in shot["verdicts"][:6]])
        for shot in api.get("/notebook?by=state")["shots"]
    }
    for group, six in marks.values():
        worst = "fails" if "fails" in six else "open" if "unsaid" in six else "tight" if "tight" in six else "holds"
        assert worst in group
    api.get("/notebook?by=colour", expect=422)


def test_a_shot_without_elements_opens_and_is_listed(api):
    """A new place, a new shot with the first body and lens, a date and a time, and nothing in the scene."""
    place = api.post(
        "/locations", {"name": "Bare Moor", "latitude_deg": 54.5, "longitude_deg": -3.1, "zone": "Europe/London"}
    )
    point = api.post(f"/locations/{place['id']}/viewpoints", {"name": "Cairn"})["id"]
    kit = api.get("/kit")
    shot = api.post("/shots", {"name": "Bare"})["id"]
    api.patch(
        f"/shots/{shot}", {"viewpoint_id": point, "body_id": kit["bodies"][0]["id"], "lens_id": kit["lenses"][0]["id"]}
    )
    api.patch(f"/shots/{shot}", {"date_local": "2026-12-04", "time_utc": "2026-12-04T15:20:00Z"})
    assert api.get(f"/shots/{shot}/tones")["ready"] is True
    assert "Bare" in _names(api)


def test_a_shot_that_cannot_be_planned_is_listed_as_broken_beside_the_others(api, monkeypatch, caplog):
    broken, before = api.shot_id(POSTS), len(_names(api))

    def fails(facts):
        raise ZeroDivisionError("no such light")

    api.patch(f"/shots/{broken}", {"intent": "touched"})
    monkeypatch.setattr(notebooks, "plan_shot", fails)
    listed = api.get("/notebook")["shots"]
    assert len(listed) == before
    row = next(item for item in listed if item["name"] == POSTS)
    assert {item["text"] for item in row["verdicts"]} == {notebooks.BROKEN}
    assert "no such light" in caplog.text
