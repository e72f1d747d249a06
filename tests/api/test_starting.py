"""A new shot from a kind of picture: planned at once, with no step that fails, whatever usual kit is at hand."""

from datetime import UTC, datetime

import pytest

HERE = "54.46, -3.21"
KEYS = [
    "seascape_sunset", "seascape_sunrise", "water_in_a_wood", "near_and_far", "long_ridges", "flower_on_a_rail",
    "insect_by_hand", "lichen", "night_sky", "from_above",
]  # fmt: skip


def _begin(api, key, **more):
    return api.post(
        "/starting/shots",
        {"kind": key, "coordinates": HERE, "body_preset": "body-full-24", "support_preset": "tripod-low"} | more,
    )


def _marks(shot):
    return {verdict["step"]: verdict["mark"] for verdict in shot["plan"]["verdicts"]}


def test_the_kinds_that_are_offered(api):
    assert [kind["key"] for kind in api.get("/starting/kinds")["kinds"]] == KEYS


@pytest.mark.parametrize("key", KEYS)
def test_no_step_of_a_new_shot_fails(api, key):
    close = key in ("flower_on_a_rail", "insect_by_hand", "lichen")
    lens = "lens-100-macro" if close else "lens-70-200" if key == "long_ridges" else "lens-16-35"
    shot = _begin(api, key, lens_preset=lens)
    marks = _marks(shot)
    assert "fails" not in marks.values(), marks
    assert [step for step, mark in marks.items() if mark == "unsaid"] == ["field"]
    card = api.post(f"/shots/{shot['id']}/cards", {})
    assert card["content"]["frames"]


def test_the_foreground_stands_in_the_frame(api):
    shot = _begin(api, "seascape_sunset", lens_preset="lens-24-70")
    texts = [reason["text"] for reason in shot["plan"]["because"] if reason["severity"] in ("fails", "tight")]
    assert not any("Near stone" in text for text in texts), texts
    assert shot["facts"]["light"]["wanted_light"] == "glow"
    assert shot["facts"]["exposure"]["wanted_look"] == "silky"


def test_the_time_is_one_of_those_offered(api):
    offered = api.get(f"/starting/light?kind=seascape_sunset&coordinates={HERE}")["times"]
    assert len(offered) == 3 and offered == sorted(offered, key=lambda item: item["start_utc"])
    shot = _begin(api, "seascape_sunset", lens_preset="lens-16-35", start_utc=offered[1]["start_utc"])
    assert shot["facts"]["light"]["date_local"] == offered[1]["date_local"]
    api.refusal(
        "POST",
        "/starting/shots",
        {"kind": "seascape_sunset", "coordinates": HERE, "start_utc": "2020-01-01T00:00:00Z"},
        "start_utc",
    )


def test_days_in_words(api):
    first = api.get(f"/starting/light?kind=near_and_far&coordinates={HERE}&day=in 3 days")["times"][0]
    ahead = datetime.fromisoformat(first["date_local"]).date() - datetime.now(UTC).date()
    assert 2 <= ahead.days <= 5
    refused = api.get(f"/starting/light?kind=near_and_far&coordinates={HERE}&day=someday", 422)["error"]
    assert refused["fields"][0]["field"] == "day" and "tomorrow" in refused["fields"][0]["message"]


def test_an_own_place_keeps_its_elements(api):
    place = next(item for item in api.get("/locations")["locations"] if item["viewpoints"][0]["elements"])
    point = place["viewpoints"][0]
    shot = api.post("/starting/shots", {"kind": "near_and_far", "viewpoint_id": point["id"]})
    after = next(item for item in api.get("/locations")["locations"] if item["id"] == place["id"])
    assert [item["id"] for item in after["viewpoints"][0]["elements"]] == [item["id"] for item in point["elements"]]
    assert set(shot["facts"]["depth"]["sharp_element_ids"]) == {item["id"] for item in point["elements"]}


def test_without_a_kind_and_without_a_place(api):
    bare = api.post("/starting/shots", {"name": "Bare"})
    assert bare["facts"]["name"] == "Bare" and bare["facts"]["viewpoint_id"] is None
    later = api.post("/starting/shots", {"kind": "long_ridges", "lens_preset": "lens-70-200"})
    assert _marks(later)["place"] == "unsaid" and later["facts"]["frame"]["focal_mm"] == 200


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"kind": "portrait"}, "kind"),
        ({"kind": "lichen", "coordinates": "somewhere"}, "coordinates"),
        ({"kind": "lichen", "viewpoint_id": 2147483647}, "viewpoint_id"),
        ({"kind": "lichen", "body_id": 2147483647}, "body_id"),
        ({"kind": "lichen", "lens_preset": "lens-of-glass"}, "lens_preset"),
        ({"kind": "lichen", "coordinates": HERE, "day": "someday"}, "day"),
        ({"kind": "lichen", "colour": "red"}, "colour"),
    ],
)
def test_refusals_name_their_field(api, body, field):
    api.refusal("POST", "/starting/shots", body, field)
