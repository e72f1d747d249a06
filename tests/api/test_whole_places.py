"""Places through files and back: nothing is lost, names stay, and what cannot be taken says where."""

import json

import pytest

ALL = ("Sallow Estuary", "Blackwater Tarn", "Mirador Quelén", "Larch Edge")
# What a copy cannot have in common with the first, or what follows from where it is used.
_OTHER = {"id", "used_by", "grid"}


def _send(api, path, name, content, expect=201):
    answer = api.client.post(f"/api{path}?file_name={name}", data=content, content_type="application/octet-stream")
    assert answer.status_code == expect, answer.get_data(as_text=True)
    return answer.get_json()


def _location(api, name):
    return next(item for item in api.get("/locations")["locations"] if item["name"] == name)


def _bare(value):
    """A location without what differs between a thing and its copy."""
    if isinstance(value, dict):
        return {name: _bare(item) for name, item in value.items() if name not in _OTHER}
    return [_bare(item) for item in value] if isinstance(value, list) else value


@pytest.fixture
def rich(api):
    """The estuary with everything that can belong to a location."""
    here = _location(api, "Sallow Estuary")
    path = f"/locations/{here['id']}"
    api.post(
        f"{path}/openings",
        {"kind": "open", "from_clock": "6:30", "to_clock": "1:00", "days": "weekend", "note": "Gate"},
    )
    api.post(f"{path}/openings", {"kind": "permit", "first_date": "2026-12-01", "last_date": "2026-12-31"})
    api.post(f"{path}/readings", {"date_local": "2026-12-09", "clock_local": "15:15", "ev100": 9.3, "note": "grey"})
    api.put(
        f"{path}/tide",
        {"table": "9 Dec 2026 05:12 1.3\n11:30 4.6\n17:40 1.5", "source": "harbour", "noted_on": "2026-11-01"},
    )
    point = here["viewpoints"][0]["id"]
    api.put(f"/viewpoints/{point}/skyline", {"text": "90 2\n180 1.5\n270 4"})
    corners = {"corners": [[-1, -1], [2, -1], [2, 2]], "drops": [1]}
    api.patch(f"/viewpoints/{point}", {"standing": corners, "ground_slope_deg": 4, "ground_down_bearing_deg": 200})
    api.post(
        f"/viewpoints/{point}/elements",
        {
            "name": "Old wall",
            "shape": "wall",
            "bearing_deg": 100,
            "distance_m": 30,
            "width_m": 1,
            "height_m": 1.2,
            "course": "110 40 m, 130 60 m",
        },
    )
    return _location(api, "Sallow Estuary")


def test_a_location_comes_back_whole(api, rich):
    file = api.client.get(f"/api/locations/{rich['id']}/export/geojson").get_data()
    api.delete(f"/locations/{rich['id']}")
    back = _send(api, "/locations/import", "anything.geojson", file)
    assert "2 viewpoints" in back["words"]
    assert _bare(_location(api, "Sallow Estuary")) == _bare(rich)


def test_all_locations_come_back_at_once(api):
    before = {item["name"]: _bare(item) for item in api.get("/locations")["locations"]}
    file = api.client.get("/api/export/geojson").get_data()
    for item in api.get("/locations")["locations"]:
        api.delete(f"/locations/{item['id']}")
    words = _send(api, "/locations/import", "all.geojson", file)["words"]
    assert f"{len(before)} locations" in words
    after = {item["name"]: _bare(item) for item in api.get("/locations")["locations"]}
    assert after == before
    api.post("/undo", {"scopes": ["locations"]}, 200)
    assert api.get("/locations")["locations"] == []


@pytest.mark.parametrize("ending", ["gpx", "kml", "csv"])
def test_names_are_unchanged_and_places_kept_apart(api, ending):
    """“First viewpoint” does not return as “Vic: First viewpoint”."""
    before = {
        item["name"]: [point["name"] for point in item["viewpoints"]] for item in api.get("/locations")["locations"]
    }
    file = api.client.get(f"/api/export/{ending}").get_data()
    for item in api.get("/locations")["locations"]:
        api.delete(f"/locations/{item['id']}")
    _send(api, "/locations/import", f"all.{ending}", file)
    assert {
        item["name"]: [point["name"] for point in item["viewpoints"]] for item in api.get("/locations")["locations"]
    } == before


def test_other_programs_see_points_and_lines(api, rich):
    root = json.loads(api.client.get(f"/api/locations/{rich['id']}/export/geojson").get_data())
    named = {feature["properties"]["name"]: feature["geometry"]["type"] for feature in root["features"]}
    assert named["Old wall"] == "LineString"
    assert named["Mooring posts"] == "Point"
    assert named["Sea bank, above the posts"] == "Point"


def test_what_belongs_to_a_whole_location_can_be_added_to_another(api, rich):
    file = api.client.get(f"/api/locations/{rich['id']}/export/geojson").get_data()
    fold = _location(api, "High Sheepfold")
    answer = _send(api, f"/locations/{fold['id']}/import", "estuary.geojson", file, 200)
    assert answer["viewpoints"] == 2
    after = _location(api, "High Sheepfold")
    assert [item["kind"] for item in after["hazards"]] == ["tide", "bog", "cold"]
    assert (after["name"], after["own_tide"]) == ("High Sheepfold", None)


def test_a_location_without_viewpoints_or_walks_is_taken(api, rich):
    root = json.loads(api.client.get(f"/api/locations/{rich['id']}/export/geojson").get_data())
    whole = root["features"][0]["properties"]["lucid_ridge_location"]
    del whole["viewpoints"], whole["walks"]
    fold = _location(api, "High Sheepfold")
    answer = _send(api, f"/locations/{fold['id']}/import", "bare.geojson", json.dumps(root), 200)
    assert (answer["viewpoints"], answer["tracks"]) == (0, 0)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda place: place.update(latitude_deg=91), "latitude_deg must be a number from -90 to 90"),
        (lambda place: place.update(zone="Nowhere/Else"), "not an IANA time zone"),
        (lambda place: place.update(colour="red"), "“colour”, which is not known"),
        (lambda place: place.pop("name"), "lacks “name”"),
        (lambda place: place["hazards"][0].update(kind="dragon"), "hazard 1: kind must be one of"),
        (
            lambda place: place["viewpoints"][0]["elements"][0].update(distance_m=-1),
            "viewpoint 1, element 1: distance_m must be",
        ),
        (lambda place: place["viewpoints"][0].update(skyline=[[1, 2, 3]]), "pairs of numbers"),
        (lambda place: place["walks"][0].update(points=[[1, 2, 3]]), "walk 1 needs from 2"),
        (lambda place: place.update(hazards=7), "must be a list"),
        (lambda place: place["viewpoints"][0].update(scoutings=3), "viewpoint 1: “scoutings” must be a list"),
        (lambda place: place.update(own_tide={"waters": [["x", 1], ["y", 2]], "waves": [], "mean_m": 0}), "its tide"),
        (lambda place: place.update(tide_place="Atlantis"), "not known"),
    ],
)
def test_what_cannot_be_taken_says_where(api, change, words):
    here = _location(api, "Sallow Estuary")
    root = json.loads(api.client.get(f"/api/locations/{here['id']}/export/geojson").get_data())
    change(root["features"][0]["properties"]["lucid_ridge_location"])
    error = _send(api, "/locations/import", "x.geojson", json.dumps(root), 422)["error"]
    assert words in error["message"]
    assert len(api.get("/locations")["locations"]) == 8
