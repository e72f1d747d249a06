"""Groups of frames through the API: said, refused, undone, put together, and on the card."""

import csv
import io
import zipfile

import pytest

POSTS = "Posts at the ebb"
NEAR = {"role": "near", "focus": "nearest", "together": "stack"}
WAVE = {
    "role": "frozen",
    "name": "wave",
    "focus": "farthest",
    "exposure": "own",
    "shutter_s": "1/500",
    "count": 20,
    "burst_per_s": 5,
    "filters": "no_density",
    "together": "best",
}


@pytest.fixture
def posts(api):
    return api.shot_id(POSTS)


def _said(api, shot_id, *groups, **more):
    return api.patch(f"/shots/{shot_id}", {"frame_groups": list(groups), **more})


def test_without_a_list_the_plan_makes_the_groups(api, posts):
    shot = api.get(f"/shots/{posts}")
    assert shot["facts"]["sequence"]["frame_groups"] == []
    sequence = shot["plan"]["sequence"]
    assert not sequence["own_groups"]
    (group,) = sequence["groups"]
    assert (group["said"]["role"], group["frames"]) == ("stack", len(sequence["frames"]))
    assert [way["name"] for way in sequence["ways"]][:2] == ["As planned", "Near, far and the sky"]


def test_groups_are_read_as_the_trade_writes_them(api, posts):
    shot = _said(
        api,
        posts,
        NEAR,
        WAVE,
        {"role": "sky", "start": "clock", "start_clock": "15:24"},
        frame_order="pinned",
    )
    said = shot["facts"]["sequence"]["frame_groups"]
    assert [item["role"] for item in said] == ["near", "frozen", "sky"]
    assert said[1]["shutter_s"] == pytest.approx(1 / 512)
    assert said[1]["shutter_label"] == "1/500"
    assert said[2]["start_clock"].startswith("15:24")
    groups = shot["plan"]["sequence"]["groups"]
    assert [item["taken"] for item in groups] == [1, 2, 3]
    assert groups[1]["frames"] == 20
    assert groups[2]["starts_clock"] == "15:24"
    assert shot["plan"]["sequence"]["own_groups"]
    # Every way comes in the form in which groups are said.
    for way in shot["plan"]["sequence"]["ways"]:
        plain = [{name: value for name, value in item.items() if not name.endswith("_label")} for item in way["groups"]]
        _said(api, posts, *plain)


def test_an_edit_of_groups_is_undone_by_its_name(api, posts):
    shot = _said(api, posts, NEAR)
    assert shot["undo"]["undo_label"] == "change groups of frames"
    api.post("/undo", {"scopes": [f"shot:{posts}"], "entry_id": shot["undo"]["undo_id"]}, expect=200)
    assert api.get(f"/shots/{posts}")["facts"]["sequence"]["frame_groups"] == []


@pytest.mark.parametrize(
    ("group", "words"),
    [
        ({"role": "nothing"}, ""),
        ({"count": 0}, ""),
        ({"count": 501}, ""),
        ({"shutter_s": "fast"}, ""),
        ({"focus_element_id": 999_999}, "not one of the viewpoint's"),
        ({"filter_ids": [999_999]}, "not in the bag"),
        ({"colour": "red"}, ""),
    ],
)
def test_what_no_group_can_be_is_refused_and_nothing_is_lost(api, posts, group, words):
    _said(api, posts, NEAR)
    error = api.refusal("PATCH", f"/shots/{posts}", {"frame_groups": [NEAR, group]})
    (field,) = error["fields"]
    assert field["field"].startswith("sequence.frame_groups")
    assert words in field["message"]
    assert [item["role"] for item in api.get(f"/shots/{posts}")["facts"]["sequence"]["frame_groups"]] == ["near"]


def test_more_groups_than_a_list_holds_are_refused(api, posts):
    api.refusal("PATCH", f"/shots/{posts}", {"frame_groups": [NEAR] * 41}, "frame_groups")


def test_a_copy_of_the_place_for_this_shot_alone_keeps_its_groups_elements(api, posts):
    element = api.get(f"/shots/{posts}")["plan"]["frame"]["elements"][0]["id"]
    _said(api, posts, {"focus": "element", "focus_element_id": element})
    shot = api.post(f"/shots/{posts}/own", {"what": "viewpoint"}, expect=200)
    (group,) = shot["facts"]["sequence"]["frame_groups"]
    assert group["focus_element_id"] not in (None, element)
    assert group["focus_element_id"] in [item["id"] for item in shot["plan"]["frame"]["elements"]]


def test_at_another_viewpoint_a_group_forgets_its_element_and_says_so(api, posts):
    element = api.get(f"/shots/{posts}")["plan"]["frame"]["elements"][0]["id"]
    other = api.get(f"/shots/{api.shot_id('Split boulder under the fell')}")["place"]["viewpoint"]["id"]
    _said(api, posts, {"focus": "element", "focus_element_id": element})
    shot = api.patch(f"/shots/{posts}", {"viewpoint_id": other})
    assert [item["focus_element_id"] for item in shot["facts"]["sequence"]["frame_groups"]] == [None]


def test_the_blend_sheet_on_the_screen_and_as_files(api, posts):
    _said(api, posts, {"role": "stack"}, WAVE, frame_order="pinned")
    sheet = api.get(f"/shots/{posts}/blend-sheet")
    assert [row["called"] for row in sheet["rows"]] == ["whole stack", "wave"]
    assert sheet["rows"][1]["steps"] == ["choose the best: 4 to 23"]
    assert sheet["last"] == "blend: whole stack, wave"
    answer = api.client.get(f"/api/shots/{posts}/blend-sheet/csv")
    assert answer.mimetype == "text/csv"
    rows = list(csv.DictReader(io.StringIO(answer.get_data(as_text=True))))
    assert [row["group"] for row in rows] == ["whole stack"] * 3 + ["wave"] * 20
    with zipfile.ZipFile(io.BytesIO(api.client.get(f"/api/shots/{posts}/blend-sheet/zip").get_data())) as archive:
        assert len(archive.namelist()) == 23
    assert api.client.get(f"/api/shots/{posts}/blend-sheet/json").get_json()["shot"] == POSTS
    api.get(f"/shots/{posts}/blend-sheet/doc", expect=404)


def test_every_frame_has_a_picture_in_its_tones(api, posts):
    shot = _said(api, posts, {}, {"offset_ev": -3})
    pictures = api.get(f"/shots/{posts}/frames/pictures")["pictures"]
    assert all(item["picture"].startswith("data:image/png;base64,") for item in pictures)
    shown = [item["brightest_ev"] for item in pictures]
    for frame in shot["plan"]["sequence"]["frames"]:
        assert any(abs(frame["brightest_ev"] - ev) < 0.01 for ev in shown)
    assert len({item["picture"] for item in pictures}) == 2
    bare = api.post("/shots", {"name": "Bare"})["id"]
    assert api.get(f"/shots/{bare}/frames/pictures")["pictures"] == []
    assert api.get(f"/shots/{bare}/blend-sheet") == {"rows": [], "last": None}


def test_a_card_lists_groups_and_folds_a_rail(api):
    sundew = api.shot_id("Sundew after rain")
    card = api.post(f"/shots/{sundew}/cards", {})
    content = card["content"]
    (line,) = content["lines"]
    assert (line["first"], line["last"]) == (1, len(content["frames"]))
    assert "every" in line["focus"]
    posts = api.shot_id(POSTS)
    _said(
        api,
        posts,
        {"role": "stack"},
        {"role": "sky", "start": "clock", "start_clock": "15:24", "focus": "farthest"},
    )
    groups = api.post(f"/shots/{posts}/cards", {})["content"]["groups"]
    assert [(item["name"], item["waits"]) for item in groups] == [("whole stack", False), ("sky", True)]
    assert groups[1]["starts"] == "15:24"


def test_a_filter_of_a_group_alone_makes_the_card_old(api, posts):
    kit = api.get("/kit")
    six = next(item for item in kit["filters"] if item["name"] == "6-stop ND")
    _said(api, posts, {"filters": "chosen", "filter_ids": [six["id"]]})
    api.post(f"/shots/{posts}/cards", {})
    api.patch(f"/filters/{six['id']}", {"stops": 6.5})
    assert api.get(f"/shots/{posts}")["plan"]["verdicts"][6]["mark"] == "tight"


def test_what_a_body_holds_is_kit(api, posts):
    body = api.get("/kit")["bodies"][0]
    assert body["battery_frames"] == 420
    api.patch(f"/bodies/{body['id']}", {"battery_frames": 10, "batteries": 1, "card_gb": 0.1})
    reasons = [item["text"] for item in api.get(f"/shots/{posts}")["plan"]["because"]]
    assert any("of the battery" in text and "take another one along" in text for text in reasons)
    assert any("of the card" in text for text in reasons)
    api.refusal("PATCH", f"/bodies/{body['id']}", {"batteries": 0}, "batteries")
