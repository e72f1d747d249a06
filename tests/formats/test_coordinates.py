"""Coordinates in the notations people write; the same place must come out of each."""

import mgrs
import pytest
import utm

from lucid_ridge.core.errors import InputError
from lucid_ridge.formats.coordinates import parse_coordinates


@pytest.mark.parametrize(
    ("text", "latitude", "longitude", "notation"),
    [
        ("54.531, -3.214", 54.531, -3.214, "decimal degrees"),
        ("54.531 -3.214", 54.531, -3.214, "decimal degrees"),
        ("54,531; -3,214", 54.531, -3.214, "decimal degrees"),
        ("54.531N 3.214W", 54.531, -3.214, "decimal degrees"),
        ("N 54.531 W 3.214", 54.531, -3.214, "decimal degrees"),
        ("54.5310° N, 3.2140° W", 54.531, -3.214, "decimal degrees"),
        ("3.214°W, 54.531°N", 54.531, -3.214, "decimal degrees"),
        ("−45.1, −72.2", -45.1, -72.2, "decimal degrees"),
        ("45°06'S 72°12'W", -45.1, -72.2, "degrees and minutes"),
        ("54°31'51.6\"N 3°12'50.4\"W", 54.531, -3.214, "degrees, minutes, seconds"),
        ("54°31′51.6″N, 3°12′50.4″W", 54.531, -3.214, "degrees, minutes, seconds"),
        ("54 31 51.6 N 3 12 50.4 W", 54.531, -3.214, "degrees, minutes, seconds"),
        ("0, 0", 0, 0, "decimal degrees"),
        ("90, 180", 90, 180, "decimal degrees"),
    ],
)
def test_degrees(text, latitude, longitude, notation):
    found = parse_coordinates(text)
    assert (found.latitude_deg, found.longitude_deg) == (
        pytest.approx(latitude, abs=1e-9),
        pytest.approx(longitude, abs=1e-9),
    )
    assert found.notation == notation


def test_a_tower_known_in_three_notations():
    # DMA Technical Manual 8358.2 (from memory): the grids are defined by the same transverse Mercator; the
    # libraries judge each other.
    for latitude, longitude in ((54.531, -3.214), (-45.1, -72.2), (68.2, 13.7), (0.5, 179.5)):
        east, north, zone, band = utm.from_latlon(latitude, longitude)
        by_utm = parse_coordinates(f"{zone}{band} {east:.1f} {north:.1f}")
        by_mgrs = parse_coordinates(mgrs.MGRS().toMGRS(latitude, longitude, MGRSPrecision=5))
        # 0.1 m and 1 m of the grid are about 1e-6 and 1e-5 degrees.
        assert by_utm.latitude_deg == pytest.approx(latitude, abs=2e-6)
        assert by_utm.longitude_deg == pytest.approx(longitude, abs=3e-6)
        assert by_mgrs.latitude_deg == pytest.approx(latitude, abs=2e-5)
        assert by_mgrs.longitude_deg == pytest.approx(longitude, abs=4e-5)
        assert (by_utm.notation, by_mgrs.notation) == ("UTM", "MGRS")


def test_a_coarse_square_stands_for_its_middle():
    # A square of 1 km: its middle lies 500 m from its edges, so two neighbours lie 1 km apart.
    one, next_east = parse_coordinates("30U VF 86 42"), parse_coordinates("30U VF 87 42")
    assert one.longitude_deg < next_east.longitude_deg
    corner = mgrs.MGRS().toLatLon("30UVF8600042000")
    assert utm.from_latlon(one.latitude_deg, one.longitude_deg)[0] - utm.from_latlon(*corner)[0] == pytest.approx(
        500, abs=2
    )


@pytest.mark.parametrize(
    "text",
    [
        "",
        "   ",
        "somewhere",
        "54.5",
        "91, 0",
        "0, 181",
        "54°61'N 3°W",
        "-54 S 3 W",
        "54N 55N",
        "30U 86150",
        "99Z 1 2",
        "30U VF 8615 423",
        "54.5.5, 3",
        "1e400, 2",
    ],
)
def test_what_is_no_place_is_refused_with_an_example(text):
    with pytest.raises(InputError) as caught:
        parse_coordinates(text)
    assert caught.value.field == "coordinates"
    assert len(caught.value.message) > 20
