"""Visits by day: recorded, offered to every shot from there, with a photograph, undone."""

import io

import pytest
from PIL import Image


@pytest.fixture
def point(api):
    return api.get(f"/shots/{api.shot_id('Posts at the ebb')}")["place"]["viewpoint"]["id"]


def _picture(colour="gray"):
    out = io.BytesIO()
    Image.new("RGB", (320, 200), colour).save(out, "JPEG")
    return out.getvalue()


def _send(api, path, content, expect=201):
    answer = api.client.post(f"/api{path}?file_name=visit.jpg", data=content, content_type="application/octet-stream")
    assert answer.status_code == expect
    return answer.get_json()


def _plan(api, shot="Posts at the ebb"):
    return " ".join(reason["text"] for reason in api.get(f"/shots/{api.shot_id(shot)}")["plan"]["because"])


def test_a_visit_is_offered_when_the_shot_is_planned(api, point):
    made = api.post(
        f"/viewpoints/{point}/scoutings",
        {
            "visited_on": "20 Nov 2026",
            "bring": "waders",
            "note": "Dry to the second post.",
            "angles": "lone cairn 212 4,5\n236° 2.8°",
        },
    )
    assert [(item["name"], item["bearing_deg"], item["altitude_deg"]) for item in made["angles"]] == [
        ("lone cairn", 212.0, 4.5),
        ("", 236.0, 2.8),
    ]
    assert "Scouted by day on 20 Nov 2026: Dry to the second post. Bring waders." in _plan(api)
    card = api.post(f"/shots/{api.shot_id('Posts at the ebb')}/cards", None)
    assert card["content"]["bring"] == "waders"
    # A later visit takes its place; an older one does not.
    api.post(f"/viewpoints/{point}/scoutings", {"visited_on": "2026-10-01", "bring": "ladder"})
    assert "Bring waders" in _plan(api)
    changed = api.patch(f"/scoutings/{made['id']}", {"bring": "waders, strap", "angles": "notch 200 3"})
    assert changed["angles_text"] == "notch 200 3"
    api.delete(f"/scoutings/{made['id']}")
    assert "Bring waders, a mat" in _plan(api)
    location = api.get(f"/shots/{api.shot_id('Posts at the ebb')}")["place"]["location_id"]
    api.post("/undo", {"scopes": [f"location:{location}"]}, 200)
    assert "Bring waders, strap" in _plan(api)


def test_a_dark_walk_is_another_thing_after_a_visit(api):
    shot = api.get(f"/shots/{api.shot_id('Split boulder under the fell')}")
    assert "paths you have not walked in daylight" in _plan(api, "Split boulder under the fell")
    api.post(f"/viewpoints/{shot['place']['viewpoint']['id']}/scoutings", {"visited_on": "2026-11-01"})
    assert "you were there by day on 1 Nov 2026" in _plan(api, "Split boulder under the fell")


def test_its_photograph(api, point):
    made = api.post(f"/viewpoints/{point}/scoutings", {"visited_on": "2026-11-03"})
    assert made["photo"] is None
    kept = _send(api, f"/scoutings/{made['id']}/photo", _picture())
    answer = api.client.get(kept["photo"])
    assert (answer.status_code, answer.mimetype) == (200, "image/jpeg")
    assert Image.open(io.BytesIO(answer.get_data())).size == (320, 200)
    assert "not a picture" in _send(api, f"/scoutings/{made['id']}/photo", b"hello", 422)["error"]["message"]
    assert api.client.get(kept["photo"]).status_code == 200
    api.delete(f"/scoutings/{made['id']}/photo")
    assert api.client.get(kept["photo"]).status_code == 404


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({}, "visited_on"),
        ({"visited_on": "2026-11-03", "angles": "cairn"}, "angles"),
        ({"visited_on": "2026-11-03", "angles": "cairn 400 2"}, "angles"),
        ({"visited_on": "3/4/2026"}, "visited_on"),
        ({"visited_on": "2026-11-03", "weather": "fine"}, "weather"),
    ],
)
def test_what_cannot_be_a_visit(api, point, body, field):
    api.refusal("POST", f"/viewpoints/{point}/scoutings", body, field)


def test_a_visit_goes_through_a_file(api, point):
    api.post(
        f"/viewpoints/{point}/scoutings", {"visited_on": "2026-11-20", "bring": "waders", "angles": "cairn 212 4.5"}
    )
    here = next(item for item in api.get("/locations")["locations"] if item["name"] == "Sallow Estuary")
    file = api.client.get(f"/api/locations/{here['id']}/export/geojson").get_data()
    api.client.post("/api/locations/import?file_name=x.geojson", data=file, content_type="application/octet-stream")
    visits = [
        point["scoutings"]
        for item in api.get("/locations")["locations"]
        if item["name"] == "Sallow Estuary"
        for point in item["viewpoints"][:1]
    ]
    assert len(visits) == 2
    assert [(visit[0]["visited_on"], visit[0]["bring"], visit[0]["angles_text"]) for visit in visits] == 2 * [
        ("2026-11-20", "waders", "cairn 212 4.5")
    ]
