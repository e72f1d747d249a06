"""Points and tracks through the formats of others: round trips by independent readers, and files that must be
refused.
"""

import csv
import io
import json
from datetime import UTC, datetime

import gpxpy
import pytest
from fastkml import kml as fastkml
from fastkml.features import Placemark

from lucid_ridge.formats.errors import FormatError
from lucid_ridge.formats.geodata import GeoData, GeoPoint, GeoTrack, TrackPoint
from lucid_ridge.formats.places import read_places, write_places

DATA = GeoData(
    (
        GeoPoint("Shingle bank", 54.531, -3.214, 4.0, "Firm to the third post; <soft> & wet beyond"),
        GeoPoint("Café Ünter, “gate”", -45.1, -72.2),
    ),
    (
        GeoTrack(
            "From the car",
            (
                TrackPoint(54.53, -3.21, 12.0, datetime(2026, 3, 1, 8, 0, tzinfo=UTC)),
                TrackPoint(54.5305, -3.212, 8.5, datetime(2026, 3, 1, 8, 4, tzinfo=UTC)),
                TrackPoint(54.531, -3.214, 4.0, datetime(2026, 3, 1, 8, 9, tzinfo=UTC)),
            ),
        ),
    ),
)


@pytest.mark.parametrize("ending", ["gpx", "kml", "geojson"])
def test_what_is_written_reads_back_the_same(ending):
    back = read_places(f"places.{ending}", write_places(ending, DATA))
    assert [(point.name, point.elevation_m, point.notes) for point in back.points] == [
        (point.name, point.elevation_m, point.notes) for point in DATA.points
    ]
    for ours, theirs in zip(DATA.tracks[0].points, back.tracks[0].points, strict=True):
        assert (theirs.latitude_deg, theirs.longitude_deg) == (
            pytest.approx(ours.latitude_deg, abs=1e-7),
            pytest.approx(ours.longitude_deg, abs=1e-7),
        )
        assert theirs.elevation_m == pytest.approx(ours.elevation_m)
    assert back.tracks[0].name == "From the car"


def test_points_survive_a_table():
    back = read_places("places.csv", write_places("csv", DATA))
    assert back.points == DATA.points
    assert back.tracks == ()


def test_gpx_is_read_by_its_own_library():
    read = gpxpy.parse(write_places("gpx", DATA).decode())
    assert [(point.name, point.latitude, point.longitude, point.elevation) for point in read.waypoints] == [
        ("Shingle bank", 54.531, -3.214, 4.0),
        ("Café Ünter, “gate”", -45.1, -72.2, None),
    ]
    assert read.tracks[0].segments[0].points[1].time == datetime(2026, 3, 1, 8, 4, tzinfo=UTC)
    assert read.length_2d() == pytest.approx(280, rel=0.02)  # its own great circles


def test_kml_is_read_by_another_library():
    document = fastkml.KML.from_string(write_places("kml", DATA).decode().split("?>", 1)[1])
    marks = [item for item in next(iter(document.features)).features if isinstance(item, Placemark)]
    assert [mark.name for mark in marks] == ["Shingle bank", "Café Ünter, “gate”", "From the car"]
    assert marks[0].geometry.coords[0] == pytest.approx((-3.214, 54.531, 4.0))
    assert len(marks[2].geometry.coords) == 3


def test_geojson_and_csv_are_read_by_the_standard_library():
    root = json.loads(write_places("geojson", DATA))
    assert root["features"][0]["geometry"] == {
        "type": "Point",
        "coordinates": [-3.214, 54.531, 4.0],
    }  # RFC 7946: longitude first
    rows = list(csv.DictReader(io.StringIO(write_places("csv", DATA).decode())))
    assert float(rows[1]["latitude"]) == -45.1
    assert rows[1]["elevation"] == ""


@pytest.mark.parametrize("ending", ["gpx", "kml", "geojson", "csv"])
def test_names_that_xml_cannot_carry_still_make_a_file(ending):
    odd = GeoData((GeoPoint("bell\x07 and\x0b tab", 1.0, 2.0, notes="line\x00one"), GeoPoint("\x1b", 3.0, 4.0)))
    back = read_places(f"a.{ending}", write_places(ending, odd))
    assert [point.name for point in back.points] == ["bell and tab", "Point"]
    assert back.points[0].notes == "lineone"


def test_routes_and_segments_are_tracks():
    content = b"""<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><rte><name>Way</name><rtept lat="1" lon="2"/><rtept lat="1.1" lon="2"/></rte>
    <trk><trkseg><trkpt lat="3" lon="4"><ele>5</ele></trkpt></trkseg><trkseg><trkpt lat="3.1" lon="4"/></trkseg></trk></gpx>"""
    read = read_places("a.GPX", content)
    assert sorted(track.name for track in read.tracks) == ["Track 1", "Way"]
    assert all(len(track.points) == 2 for track in read.tracks)


def test_a_table_may_use_semicolons_tabs_and_other_headings():
    assert read_places("a.csv", b"Name;Lat;Lon\nCairn;54.5;-3.1\n").points == (GeoPoint("Cairn", 54.5, -3.1),)
    assert read_places("a.csv", b"lng\tlat\n-3.1\t54.5\n\t\n").points == (GeoPoint("Point 1", 54.5, -3.1),)


def test_decimal_commas_longitudes_to_360_and_spaces_around_commas():
    assert read_places("a.csv", b"name;lat;lon;ele\nCairn;54,5;-3,1;120,5\n").points == (
        GeoPoint("Cairn", 54.5, -3.1, 120.5),
    )
    assert read_places("a.csv", b"name,lat,lon\nCairn,54.5,356.9\n").points[0].longitude_deg == pytest.approx(-3.1)
    kml = b"<kml><Placemark><name>Way</name><LineString><coordinates>-3.1 , 54.5 , 10\n-3.2, 54.6, 12</coordinates></LineString></Placemark></kml>"
    (track,) = read_places("a.kml", kml).tracks
    assert [(step.longitude_deg, step.latitude_deg, step.elevation_m) for step in track.points] == [
        (-3.1, 54.5, 10),
        (-3.2, 54.6, 12),
    ]


def test_segments_of_a_track_keep_their_beginnings():
    part = '<trkseg><trkpt lat="{0}" lon="-3"/><trkpt lat="{1}" lon="-3"/></trkseg>'
    gpx = f'<gpx version="1.1"><trk><name>Way</name>{part.format(54.0, 54.01)}{part.format(55.0, 55.01)}</trk></gpx>'.encode()
    (track,) = read_places("a.gpx", gpx).tracks
    assert [step.begins for step in track.points] == [True, False, True, False]


def test_a_line_goes_out_in_one_dimension():
    """RFC 7946 and KML 2.2 let a position leave its height out, but other programs refuse a line that mixes both."""
    steps = (TrackPoint(54.0, -3.0, 10.0), TrackPoint(54.1, -3.0), TrackPoint(54.2, -3.0, 12.0))
    data = GeoData((), (GeoTrack("Way", steps),))
    (feature,) = json.loads(write_places("geojson", data))["features"]
    assert {len(position) for position in feature["geometry"]["coordinates"]} == {2}
    assert b"-3.0000000,54.1000000 -3.0000000,54.2000000" in write_places("kml", data)


BOMB = b'<?xml version="1.0"?><!DOCTYPE lolz [<!ENTITY lol "lol"><!ENTITY l2 "&lol;&lol;&lol;&lol;">]><gpx version="1.1"><wpt lat="1" lon="2"><name>&l2;</name></wpt></gpx>'
OUTSIDE = b'<?xml version="1.0"?><!DOCTYPE gpx [<!ENTITY x SYSTEM "file:///etc/hostname">]><gpx version="1.1"><wpt lat="1" lon="2"><name>&x;</name></wpt></gpx>'


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("a.gpx", b"", "empty"),
        ("a.kml", b"  \n", "empty"),
        ("a.geojson", b"", "empty"),
        ("a.csv", b"", "empty"),
        ("a.gpx", BOMB, "document type"),
        ("a.kml", BOMB.replace(b"gpx", b"kml"), "document type"),
        ("a.gpx", OUTSIDE, "document type"),
        ("a.gpx", b"<gpx><wpt", "well-formed"),
        ("a.gpx", b"<html></html>", "not a GPX"),
        ("a.gpx", b'<gpx version="1.1"><wpt lat="north" lon="2"/></gpx>', "cannot be read"),
        ("a.gpx", b'<gpx version="1.1"><wpt lat="nan" lon="2"/></gpx>', "no place"),
        ("a.gpx", b'<gpx version="1.1"><wpt lat="95" lon="2"/></gpx>', "no place"),
        ("a.gpx", b'<gpx version="1.1"></gpx>', "neither points nor tracks"),
        ("a.gpx", b'<?xml version="1.0" encoding="klingon"?><gpx version="1.1"/>', "encoding"),
        ("a.gpx", "<gpx><name>é</name></gpx>".encode("latin-1"), "well-formed"),
        (
            "a.kml",
            b"<kml><Placemark><Point><coordinates>1</coordinates></Point></Placemark></kml>",
            "longitude,latitude",
        ),
        ("a.kml", b"<kml><Placemark><Point><coordinates>1,two</coordinates></Point></Placemark></kml>", "latitude"),
        ("a.geojson", b"{", "not JSON"),
        ("a.geojson", b"[]", "not a GeoJSON"),
        ("a.geojson", b'{"type":"Point","coordinates":[NaN,1]}', "no number"),
        ("a.geojson", b'{"type":"Point","coordinates":[true,1]}', "not a position"),
        ("a.geojson", b'{"type":"FeatureCollection","features":{}}', "lacks a list"),
        ("a.geojson", b"[" * 100_000, "nested too deeply"),
        ("a.csv", b"name,lat,lon\n", "no rows"),
        ("a.csv", b"name,where\nx,y\n", "latitude"),
        ("a.csv", b"name,lat,lon\nCairn,54.5\n", "Line 2"),
        ("a.csv", b"name,lat,lon\nCairn,54.5,west\n", "Line 2"),
        ("a.csv", b"name,lat,lon\na,1,2,3\n", "columns"),
        ("a.csv", "name,lat,lon\né,1,2\n".encode("latin-1"), "UTF-8"),
        ("a.csv", b"name,lat,lon\n\0,1,2\n", "NUL"),
        ("a.txt", b"x", "does not end"),
        ("a.gpx", b"x" * 20_000_001, "at most"),
        ("a.csv", b"lat,lon\n" + b"1,2\n" * 2_001, "at most 2000"),
    ],
    ids=lambda value: value if isinstance(value, str) else "",
)
def test_files_that_cannot_be_taken_are_refused_with_the_reason(name, content, words):
    with pytest.raises(FormatError) as caught:
        read_places(name, content)
    assert words in caught.value.message
    assert caught.value.field == "file"


def test_a_track_with_too_many_points_is_refused():
    line = ",".join(["[1,2]"] * 100_001)
    with pytest.raises(FormatError, match="at most 100000"):
        read_places("a.geojson", f'{{"type":"LineString","coordinates":[{line}]}}'.encode())
