"""Odd, broken and hostile input is refused in the one shape: nothing answers 500, and nothing odd is let in."""

import csv
import io
import json

import numpy as np
import pytest
from PIL import Image
from sqlalchemy import text

from lucid_ridge.formats.elevation import read_elevation
from lucid_ridge.formats.errors import FormatError
from lucid_ridge.formats.photo import read_photo

FILE = "application/octet-stream"
GPX = '<gpx version="1.1" creator="t" xmlns="http://www.topografix.com/GPX/1/1">{}</gpx>'


def _send(api, path, content, name):
    return api.client.post(f"/api{path}?file_name={name}", data=content, content_type=FILE)


def _refused(answer, status=422):
    assert answer.status_code == status, answer.get_data(as_text=True)[:300]
    error = answer.get_json()["error"]
    assert error["message"]
    return error


@pytest.mark.parametrize(
    ("name", "content"),
    [
        ("one.gpx", GPX.format('<trk><trkseg><trkpt lat="54" lon="-3"/></trkseg></trk>').encode()),
        ("deep.gpx", GPX.format("<a>" * 2000 + "</a>" * 2000).encode()),
        ("bom.csv", b"\xef\xbb\xbf"),
        ("nbsp.csv", "\u00a0\u00a0".encode()),
        ("line.csv", "\u2028".encode()),
        ("bom.json", b"\xef\xbb\xbf"),
        ("long.json", b'{"type": "Point", "coordinates": [' + b"1" * 5000 + b", 2]}"),
        ("deep.json", b"[" * 100_000 + b"]" * 100_000),
        ("nested.kml", ("<kml>" + "<Placemark>" * 20_000 + "</Placemark>" * 20_000 + "</kml>").encode()),
        ("many.gpx", GPX.format("<trk><trkseg>" + '<trkpt lat="54" lon="-3"/>' * 100_001 + "</trkseg></trk>").encode()),
    ],
    ids=lambda value: value if isinstance(value, str) else "",
)
def test_odd_files_of_places_are_refused(api, name, content):
    _refused(_send(api, "/locations/import", content, name))


def test_limits_count_before_a_file_is_parsed(monkeypatch):
    from lucid_ridge.formats import gpx, kml

    def parsed(*_arguments):
        raise AssertionError("The file was parsed although it is too large.")

    monkeypatch.setattr(gpx, "parse_xml", parsed)
    monkeypatch.setattr(kml, "parse_xml", parsed)
    with pytest.raises(FormatError, match="100000"):
        gpx.read_gpx(b"<trkpt >" * 850_000)
    with pytest.raises(FormatError, match="2000"):
        kml.read_kml(b"<k:Placemark>" * 20_000)


@pytest.mark.parametrize(
    "content", [b"\xef\xbb\xbf", "\u00a0".encode(), "\u2028".encode(), b"\xef\xbb\xbf\xef\xbb\xbf"]
)
@pytest.mark.parametrize("name", ["f.csv", "f.json"])
def test_empty_looking_forecasts_are_refused(api, name, content):
    _refused(_send(api, "/locations/1/forecast", content, name))


@pytest.mark.parametrize("moment", ["0001-01-01T00:00+14:00", "9999-12-31T23:59:59-14:00"])
def test_times_at_the_ends_of_the_calendar(api, moment):
    hours = [{"time": moment, "low_cloud": 0, "wind_mps": 1, "temperature_c": 5}]
    _refused(_send(api, "/locations/1/forecast", json.dumps({"hours": hours}).encode(), "f.json"))
    api.refusal("PATCH", f"/shots/{api.shot_id('Posts at the ebb')}", {"time_utc": moment}, "time_utc")
    windows = [{"start_utc": moment, "end_utc": moment, "kind": "glow"}]
    api.refusal("POST", f"/shots/{api.shot_id('Posts at the ebb')}/calendar", {"windows": windows})


@pytest.mark.parametrize(
    ("body", "status"),
    [
        ('{"focal_mm": ' + "1" * 5000 + "}", 400),
        ('{"focal_mm": ' + "1" * 4000 + "}", 422),
        ("[" * 100_000 + "]" * 100_000, 400),
        ('{"a":' * 100_000 + "1" + "}" * 100_000, 400),
        ("null", 422),
        ("[]", 422),
        ('"text"', 422),
        ("3", 422),
        ('{"name": "\\ud800"}', 422),
        ('{"focal_mm": NaN}', 422),
    ],
    ids=[
        "5000 digits",
        "4000 digits",
        "deep lists",
        "deep objects",
        "null",
        "list",
        "text",
        "number",
        "surrogate",
        "NaN",
    ],
)
@pytest.mark.parametrize("method", ["PATCH", "POST"])
def test_odd_json(api, method, body, status):
    path = (
        f"/api/shots/{api.shot_id('Posts at the ebb')}"
        if method == "PATCH"
        else f"/api/shots/{api.shot_id('Posts at the ebb')}/tune"
    )
    answer = api.client.open(
        path, method=method, data=body.encode("utf-8", "surrogatepass"), content_type="application/json"
    )
    assert answer.status_code in (status, 422), answer.get_data(as_text=True)[:200]
    assert answer.get_json()["error"]["message"]


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"date_local": 0}, "date_local"),
        ({"date_local": 1_700_000_000}, "date_local"),
        ({"time_utc": 0}, "time_utc"),
        ({"clock_local": 3600}, "clock_local"),
        ({"focal_mm": "2_4"}, "focal_mm"),
        ({"focal_mm": "٢٤"}, "focal_mm"),
        ({"camera_height_m": "1,200"}, "camera_height_m"),
    ],
)
def test_what_only_looks_like_a_value_is_refused(api, body, field):
    api.refusal("PATCH", f"/shots/{api.shot_id('Posts at the ebb')}", body, field)


def test_a_latitude_with_an_underscore_is_none(api):
    api.refusal("POST", "/locations", {"name": "Here", "latitude_deg": "1_0", "longitude_deg": 2}, "latitude_deg")


@pytest.mark.parametrize(
    "name",
    [
        "\u200b",
        "\u2060\ufeff",
        "\u00ad",
        "a\u0000b",
        "a\x1bb",
        "a\nb",
        "a\u202eb",
        "a\ufffeb",
        "\u2800",
        "a\u2028b",
        "\u3164",
    ],
)
def test_names_that_cannot_be_seen_or_kept_are_refused(api, name):
    api.refusal("POST", "/shots", {"name": name}, "name")


@pytest.mark.parametrize("name", ["Møllers ≥ 3", "été — soir", "नमस्ते", "👩‍🔬 frames", "O'Hara & <friends>"])
def test_names_of_any_writing_are_taken(api, name):
    assert api.post("/shots", {"name": name})["facts"]["name"] == name


def test_odd_addresses(api):
    for origin in ("http://[::1", "http://]", "null", "%%"):
        assert api.client.post("/api/shots", json={"name": "x"}, headers={"Origin": origin}).status_code == 403
    assert api.client.get("/api/health", headers={"Host": "[::1"}).status_code == 400
    for path in ("/assets/" + "a" * 5000, "/assets/" + "%00", "/" + "b" * 5000 + ".js", "/..%00.js"):
        assert api.client.get(path).status_code == 404, path[:40]


def test_grids_that_lie_nowhere_are_refused():
    height = np.zeros((1201, 1201), dtype=">i2").tobytes()
    for name in ("N99W999.hgt", "N91E000.hgt", "S10E181.hgt"):
        with pytest.raises(FormatError, match="placed by its name"):
            read_elevation(name, height)
    head = "ncols 2\nnrows 2\nxllcorner -3\nyllcorner 54\ncellsize {}\nNODATA_value -9999\n1 2\n3 4\n"
    for size in ("1e-300", "1e-12", "0.9e2"):
        with pytest.raises(FormatError):
            read_elevation("g.asc", head.format(size).encode())
    far = "ncols 2\nnrows 2\nxllcorner -3\nyllcorner 89.9\ncellsize 0.5\nNODATA_value -9999\n1 2\n3 4\n"
    with pytest.raises(FormatError, match="no place on Earth"):
        read_elevation("g.asc", far.encode())


NAMES = ["=1+1", "+44 steps", "-bank", "@home", "'quoted", "'=odd", "''-twice", "plain", "2 = 2", "\u2212true minus"]


def test_text_cells_are_no_formulas_and_come_back_as_they_were(api):
    place = api.post("/locations", {"name": "Formulas", "latitude_deg": -54.5, "longitude_deg": -3})
    for name in NAMES:
        api.post(f"/locations/{place['id']}/viewpoints", {"name": name, "notes": name})
    answer = api.client.get(f"/api/locations/{place['id']}/export/csv")
    rows = list(csv.DictReader(io.StringIO(answer.get_data(as_text=True))))
    assert not [row for row in rows if row["name"][:1] in "=+-@" or row["notes"][:1] in tuple("=+-@")]
    # Numbers stay numbers.
    assert all(float(row["latitude"]) == -54.5 for row in rows)
    back = _send(api, "/locations/import", answer.get_data(), "back.csv").get_json()["location"]
    names = [point["name"].removeprefix("Formulas: ") for point in back["viewpoints"]]
    assert [name for name in NAMES if name not in names] == []
    assert {point["notes"] for point in back["viewpoints"]} >= set(NAMES)


def test_large_pictures_are_read_small():
    # 177 million pixels, as large as stitched frames are; decoded whole they would take half a gigabyte.
    out = io.BytesIO()
    Image.new("L", (18_810, 9_400), 128).save(out, "JPEG", quality=30)
    import tracemalloc

    tracemalloc.start()
    photo = read_photo(out.getvalue())
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert (photo.pixels_wide, photo.pixels_high) == (18_810, 9_400)
    assert peak < 60e6
    with Image.open(io.BytesIO(photo.content)) as shown:
        assert max(shown.size) == 1600


def test_stitched_panoramas_up_to_the_limit_are_taken():
    out = io.BytesIO()
    Image.new("L", (50_000, 4_900), 90).save(out, "JPEG", quality=20)
    assert read_photo(out.getvalue()).pixels_wide == 50_000
    beyond = io.BytesIO()
    Image.new("1", (50_100, 5_000)).save(beyond, "PNG")
    with pytest.raises(FormatError, match="million pixels"):
        read_photo(beyond.getvalue())


def test_a_portrait_by_its_exif_keeps_its_sides():
    out = io.BytesIO()
    exif = Image.Exif()
    exif[0x0112] = 6
    Image.new("RGB", (4000, 3000)).save(out, "JPEG", exif=exif)
    photo = read_photo(out.getvalue())
    assert (photo.pixels_wide, photo.pixels_high) == (3000, 4000)
    with Image.open(io.BytesIO(photo.content)) as shown:
        assert shown.height > shown.width


def test_what_the_database_refuses_is_no_fault_of_the_servers(api, app):
    with app.extensions["test_sessions"]() as session:
        assert session.scalar(text("select count(*) from notebook")) == 1
    api.refusal("GET", "/shots/999999999", None, status=404)
