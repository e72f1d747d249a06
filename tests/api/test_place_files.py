"""Files of places, elevation grids and skylines through the API: what is taken, what is refused and changes nothing."""

import io
import time

import gpxpy
import numpy as np
import pytest
from sqlalchemy import func, select

from lucid_ridge.store.places import Location, Viewpoint, WalkTrack

GPX = b"""<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">
<wpt lat="54.5302" lon="-3.2101"><ele>6</ele><name>Slipway</name></wpt>
<trk><name>Along the bank</name><trkseg>
<trkpt lat="54.5302" lon="-3.2101"><ele>6</ele></trkpt><trkpt lat="54.5392" lon="-3.2101"><ele>36</ele></trkpt>
</trkseg></trk></gpx>"""


def _send(api, path, content, name, expect):
    answer = api.client.post(f"/api{path}?file_name={name}", data=content, content_type="application/octet-stream")
    assert answer.status_code == expect, answer.get_data(as_text=True)
    return answer.get_json()


def _counts(app):
    with app.extensions["test_sessions"]() as session:
        return [session.scalar(select(func.count()).select_from(kind)) for kind in (Location, Viewpoint, WalkTrack)]


def _id(api, name):
    return next(item["id"] for item in api.get("/locations")["locations"] if item["name"] == name)


def test_a_gpx_file_brings_viewpoints_and_walks(api):
    location = api.post("/locations", {"name": "New shore", "coordinates": "54°31'48\"N 3°12'36\"W"})
    assert (location["latitude_deg"], location["longitude_deg"]) == (pytest.approx(54.53), pytest.approx(-3.21))
    answer = _send(api, f"/locations/{location['id']}/import", GPX, "bank.gpx", 200)
    assert answer["words"] == "1 viewpoint and 1 track came into New shore."
    after = answer["location"]
    assert [point["name"] for point in after["viewpoints"]] == ["First viewpoint", "Slipway"]
    (track,) = after["tracks"]
    # A kilometre north (0.009° of latitude) with 30 m of climb: 12 min and 3 min by Naismith.
    assert track["length_m"] == pytest.approx(1000, rel=0.002)
    assert track["naismith_words"] == "15 min"
    assert after["walk_m"] == pytest.approx(1000, rel=0.002)
    # One undo takes the whole import back.
    api.post("/undo", {"scopes": [f"location:{location['id']}"]}, 200)
    back = api.get(f"/locations/{location['id']}")
    assert (len(back["viewpoints"]), back["tracks"], back["walk_m"]) == (1, [], None)


def test_a_file_makes_a_location_of_its_own(api):
    made = _send(api, "/locations/import", GPX, "north_shore.gpx", 201)["location"]
    assert (made["name"], made["zone"]) == ("north shore", "Europe/London")
    assert made["viewpoints"][0]["position_own"]


@pytest.mark.parametrize("ending", ["gpx", "kml", "geojson", "csv"])
def test_what_is_saved_can_be_read_again(api, ending):
    estuary = _id(api, "Sallow Estuary")
    answer = api.client.get(f"/api/locations/{estuary}/export/{ending}")
    assert answer.status_code == 200
    assert f"sallow-estuary.{ending}" in answer.headers["Content-Disposition"]
    made = _send(api, "/locations/import", answer.get_data(), f"copy.{ending}", 201)["location"]
    assert made["viewpoints"][0]["name"] == "Shingle bank, west of the posts"
    assert made["name"] == "Sallow Estuary"
    assert len(made["tracks"]) == (0 if ending == "csv" else 1)
    assert api.client.get(f"/api/export/{ending}").status_code == 200


def test_all_locations_as_gpx_by_another_reader(api):
    read = gpxpy.parse(api.client.get("/api/export/gpx").get_data(as_text=True))
    assert len(read.waypoints) == sum(len(item["viewpoints"]) for item in api.get("/locations")["locations"])
    api.get("/export/exe", 404)


@pytest.mark.parametrize(
    ("content", "name"),
    [
        (b"", "a.gpx"),
        (b"<gpx", "a.gpx"),
        (b"x", "a.exe"),
        (b"<!DOCTYPE gpx [<!ENTITY a 'b'>]><gpx/>", "a.gpx"),
        (b"\xff\xfe", "a.csv"),
        (b"{}", "a.geojson"),
    ],
    ids=["empty", "broken", "unknown", "entities", "encoding", "other"],
)
def test_bad_files_change_nothing(api, app, content, name):
    before = _counts(app)
    for path in ("/locations/import", f"/locations/{_id(api, 'Isfold')}/import"):
        error = _send(api, path, content, name, 422)["error"]
        assert error["fields"][0]["field"] == "file"
        assert len(error["message"]) > 15
    assert _counts(app) == before


def test_files_go_only_where_files_are_taken(api):
    answer = api.client.post("/api/locations", data=b"x", content_type="application/octet-stream")
    assert answer.status_code == 415
    answer = api.client.post(
        f"/api/locations/{_id(api, 'Isfold')}/import?file_name=a.gpx", data=GPX, content_type="text/plain"
    )
    assert answer.status_code == 415
    answer = api.client.post(
        f"/api/locations/{_id(api, 'Isfold')}/import?file_name=a.gpx",
        data=io.BytesIO(b"x" * 20_500_000),
        content_type="application/octet-stream",
    )
    assert answer.status_code == 413
    assert answer.get_json()["error"]["kind"] == "too_large"


def _grid(north_height):
    heights = np.where(np.arange(101)[:, None] < 30, north_height, 10) * np.ones((1, 101), dtype=int)
    head = "ncols 101\nnrows 101\nxllcorner 13.6495\nyllcorner 68.1495\ncellsize 0.001\nNODATA_value -9999\n"
    return (head + "\n".join(" ".join(map(str, row)) for row in heights)).encode()


def _ended(api, job):
    """Wait for long work to end; return it."""
    for _ in range(1000):
        found = api.get(f"/jobs/{job['id']}")
        if found["state"] not in ("waiting", "running"):
            return found
        time.sleep(0.02)
    raise AssertionError(f"{job} does not end")


def test_a_skyline_from_a_grid(own_api):
    isfold = _id(own_api, "Isfold")
    point = own_api.get(f"/locations/{isfold}")["viewpoints"][0]["id"]
    own_api.refusal("POST", f"/viewpoints/{point}/skyline/compute", None, "grid")
    grid = _send(own_api, f"/locations/{isfold}/grid", _grid(400), "isfold.asc", 201)
    assert (grid["rows"], grid["name"]) == (101, "isfold.asc")
    job = own_api.call("POST", f"/viewpoints/{point}/skyline/compute", None, 202)
    assert job["viewpoint_id"] == point
    found = _ended(own_api, job)
    assert (found["state"], found["progress"]) == ("done", 1.0), found
    assert own_api.get("/jobs")["jobs"] == []
    skyline = dict(own_api.get(f"/locations/{isfold}")["viewpoints"][0]["skyline"])
    # The plateau's edge lies 0.0205° (2.28 km) north and 390 m higher: atan(390/2280), less the eye's height.
    assert max(skyline.values()) == pytest.approx(9.6, abs=0.4)
    assert "isfold.asc" in own_api.get(f"/locations/{isfold}")["viewpoints"][0]["skyline_source"]
    sketch = own_api.get(f"/locations/{isfold}/sketch")
    assert sketch["contours"] or sketch["contour_step_m"]
    own_api.delete(f"/locations/{isfold}/grid")
    assert own_api.get(f"/locations/{isfold}")["grid"] is None


def test_a_place_outside_the_grid_is_said_so(own_api):
    weir = _id(own_api, "Tern Weir")
    _send(own_api, f"/locations/{weir}/grid", _grid(50), "far.asc", 201)
    point = own_api.get(f"/locations/{weir}")["viewpoints"][0]["id"]
    job = own_api.call("POST", f"/viewpoints/{point}/skyline/compute", None, 202)
    found = _ended(own_api, job)
    assert found["state"] == "failed"
    assert "outside the grid" in found["message"]
    error = _send(own_api, f"/locations/{weir}/grid", b"rubbish", "a.asc", 422)["error"]
    assert error["fields"][0]["field"] == "file"
    assert own_api.get(f"/locations/{weir}")["grid"]["name"] == "far.asc"


def test_typed_and_measured_skylines(api):
    point = api.get(f"/locations/{_id(api, 'Mirador Quelén')}")["viewpoints"][0]["id"]
    kept = api.call("PUT", f"/viewpoints/{point}/skyline", {"text": "0 5\n90 12.5\n180 3"})
    assert kept["skyline"] == [[0, 5], [90, 12.5], [180, 3]]
    assert kept["skyline_source"] == "typed"
    measured = api.call("PUT", f"/viewpoints/{point}/skyline", {"points": [[15, 4], [375, 9]]}, 422)
    assert measured["error"]["fields"][0]["field"] == "skyline"
    assert "twice" in measured["error"]["message"]
    assert "clinometer" in api.call("PUT", f"/viewpoints/{point}/skyline", {"points": [[15, 4]]})["skyline_source"]
    api.refusal("PUT", f"/viewpoints/{point}/skyline", {"text": "0 five"}, "skyline")
    assert api.call("PUT", f"/viewpoints/{point}/skyline", {"points": None, "text": None})["skyline"] is None
