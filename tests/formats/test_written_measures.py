"""Angles of a visit and constants of a tide, a line each, as people write them."""

import pytest

from lucid_ridge.formats.errors import FormatError
from lucid_ridge.formats.harmonic_constants import read_constants, write_constants
from lucid_ridge.formats.measured_angles import MOST_ANGLES, read_angles, write_angles


def test_angles_as_people_write_them():
    assert read_angles("cairn 212 4.5\n\nthe far ridge 360° −1,5°\n12 3".replace("−", "-")) == [
        ("cairn", 212, 4.5),
        ("the far ridge", 0, -1.5),
        ("", 12, 3),
    ]


def test_angles_and_back():
    angles = [("cairn", 212.25, 4.5), ("the far ridge", 0.0, -1.5), ("", 12.0, 90.0)]
    assert read_angles(write_angles(angles)) == angles


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("cairn 1 2\ncairn 212", "Line 2: write a name"),
        ("212", "Line 1: write a name"),
        ("cairn 361 0", "Line 1: bearings lie from 0 to 360°"),
        ("cairn nan 0", "Line 1: bearings lie from 0 to 360°"),
        ("cairn 10 91", "altitudes from −90 to 90°"),
        ("a 1 2\n" * (MOST_ANGLES + 1), f"At most {MOST_ANGLES}"),
    ],
)
def test_angles_that_do_not_fit(text, says):
    with pytest.raises(FormatError) as refused:
        read_angles(text)
    assert says in str(refused.value)


def test_constants_and_back():
    assert read_constants("m2 1,42 327°\nS2;0.5;-10\n\nM2 1.5 300") == [("M2", 1.5, 300), ("S2", 0.5, 350)]
    waves = [("M2", 1.42, 327.5), ("K1", 0.0, 0.0)]
    assert read_constants(write_constants(waves)) == waves


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("M2 1.4", "Line 1: write a constituent"),
        ("M2 1 2\nX9 1 2", "Line 2: “X9” is none of the constituents"),
        ("M2 high 2", "Line 1: “M2 high 2” needs two numbers"),
        ("M2 21 0", "amplitudes lie from 0 to 20 m"),
        ("M2 nan 0", "amplitudes lie from 0 to 20 m"),
        ("M2 1 800", "lags from −360 to 720°"),
    ],
)
def test_constants_that_do_not_fit(text, says):
    with pytest.raises(FormatError) as refused:
        read_constants(text)
    assert says in str(refused.value)
