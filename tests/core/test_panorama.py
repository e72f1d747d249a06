"""Panoramas against worked examples."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.framing.panorama import frames_for, full_circle_count, parallax_slip_rad, plan_panorama
from lucid_ridge.core.framing.projection import Camera, field_of_view_deg, project

# 50 mm upright on 24 x 36 mm: 27.0° by 39.6° (handbook tables); 45 MP, 8256 pixels over 36 mm.
FIELDS = (float(field_of_view_deg(24, 50)), float(field_of_view_deg(36, 50)))
FOCAL_PX = 50 / (36 / 8256)


@pytest.mark.parametrize(
    ("span", "field", "overlap", "count"),
    [
        # (120 - 27)/(27 · 2/3) = 5.17: 6 steps and the first.
        (120, 27, 1 / 3, 7),
        # (90 - 30)/(30 · 0.5) = 4 exactly.
        (90, 30, 0.5, 5),
        (360, 40, 0.3, 13),
        (27, 27, 0.5, 1),
        (10, 27, 0.5, 1),
        (27.1, 27, 0.0, 2),
    ],
)
def test_frames_for_a_span(span, field, overlap, count):
    # Common practice: columns = ⌈(span - field)/(field · (1 - overlap))⌉ + 1.
    assert frames_for(span, field, overlap) == count


def test_a_row_of_upright_frames():
    plan = plan_panorama(120, FIELDS[1], FIELDS, 1 / 3, 212, -2, FOCAL_PX)
    assert (plan.rows, plan.columns) == (1, 7)
    bearings = [aim.bearing_deg for aim in plan.aims]
    assert np.diff(bearings) == pytest.approx([(120 - FIELDS[0]) / 6] * 6)
    assert np.mean(bearings) == pytest.approx(212)
    # The outer frames' outer edges are the span's.
    assert bearings[0] - FIELDS[0] / 2 == pytest.approx(212 - 60)
    # Seven frames overlap a little more than asked for: 1 - 15.5/27 = 42.6 %.
    assert plan.overlap[0] == pytest.approx(1 - (120 - FIELDS[0]) / 6 / FIELDS[0])
    assert plan.overlap[0] >= 1 / 3
    # On a cylinder: 120° · 11467 pixels a radian; flat: 2 · 11467 · tan 60°.
    assert plan.cylindrical_px[0] == pytest.approx(math.radians(120) * FOCAL_PX, abs=1)
    assert plan.flat_px == (pytest.approx(2 * FOCAL_PX * math.tan(math.radians(60)), abs=1), plan.cylindrical_px[1])
    assert plan.cylindrical_px[1] == pytest.approx(8256, abs=1)


def test_every_direction_of_the_field_lies_in_a_frame():
    plan = plan_panorama(150, 70, FIELDS, 0.3, 10, 5, FOCAL_PX)
    assert plan.flat_px is None
    for bearing in np.linspace(10 - 74, 10 + 74, 25):
        for pitch in np.linspace(5 - 30, 5 + 30, 9):
            turn, tilt = math.radians(bearing), math.radians(pitch)
            point = 1e4 * np.array([math.cos(tilt) * math.sin(turn), math.cos(tilt) * math.cos(turn), math.sin(tilt)])
            hits = [project(Camera(aim.bearing_deg, 50, 36, 24, aim.pitch_deg, "portrait"), point) for aim in plan.aims]
            assert any(0 <= hit.x <= 1 and 0 <= hit.y <= 1 for hit in hits), (bearing, pitch)


def test_rows_go_from_the_top_left():
    plan = plan_panorama(60, 80, FIELDS, 0.3, 350, 0, FOCAL_PX)
    assert plan.rows == 3
    first, last = plan.aims[0], plan.aims[-1]
    assert (first.row, first.column, last.row) == (0, 0, 2)
    assert first.pitch_deg == pytest.approx((80 - FIELDS[1]) / 2)
    assert last.pitch_deg == pytest.approx(-first.pitch_deg)
    assert all(0 <= aim.bearing_deg < 360 for aim in plan.aims)


def test_slip_of_a_pivot_beside_the_pupil():
    # Common practice: slip = offset · (1/near - 1/far). Turned by 60° the pupil moves by the offset itself (a chord of
    # 60°): 80 mm, near 2 m, far away: 0.04 rad.
    assert parallax_slip_rad(0.08, 60, 2, math.inf) == pytest.approx(0.04)
    assert parallax_slip_rad(0.08, 60, 2, 2) == 0
    assert parallax_slip_rad(0, 60, 2, math.inf) == 0
    # Against projection: two cameras a chord apart see near and far move against each other by just that.
    here, there = Camera(0, 50, 36, 24), Camera(0, 50, 36, 24, east_m=0.08)
    slips = [
        float(project(there, (0, distance, 0)).x - project(here, (0, distance, 0)).x) * 36 / 50 for distance in (2, 1e9)
    ]
    assert abs(slips[0] - slips[1]) == pytest.approx(0.04, abs=1e-6)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"across": 361}, "pano_across_deg"),
        ({"overlap": 0.95}, "pano_overlap"),
        ({"fields": (0.8, 0.6)}, "pano_across_deg"),
        ({"upwards": 120, "pitch": 70}, "pano_upwards_deg"),
    ],
)
def test_what_cannot_be_taken_is_refused(change, field):
    asked = {"across": 120, "upwards": 60, "fields": FIELDS, "overlap": 0.3, "pitch": 0} | change
    with pytest.raises(InputError) as caught:
        plan_panorama(asked["across"], asked["upwards"], asked["fields"], asked["overlap"], 0, asked["pitch"], FOCAL_PX)
    assert caught.value.field == field


def test_distances_must_lie_ahead():
    with pytest.raises(InputError):
        parallax_slip_rad(0.1, 30, 0, 5)


def test_a_full_circle_closes():
    """24 mm upright, 53.13° across, overlapping by 0.4: 360/(53.13·0.6) = 11.29, so twelve (by hand); the seam
    overlaps like the rest.
    """
    field = 2 * math.degrees(math.atan(12 / 24))
    assert full_circle_count(field, 0.4) == 12
    assert full_circle_count(90, 0.0) == 4
    assert full_circle_count(60, 0.5) == 12
    plan = plan_panorama(360, 60, (field, 73.7), 0.4, 10.0, 0.0, 6000)
    bearings = sorted(aim.bearing_deg for aim in plan.aims)
    gaps = [(after - before) % 360 for before, after in zip(bearings, bearings[1:] + bearings[:1], strict=True)]
    assert gaps == pytest.approx([30.0] * 12)
    assert plan.overlap[0] == pytest.approx(1 - 30 / field)
    assert plan.cylindrical_px[0] == round(math.radians(360) * 6000)
    with pytest.raises(InputError):
        full_circle_count(0, 0.4)


@given(st.floats(5, 170), st.floats(0, 0.85))
def test_no_seam_of_a_full_circle_overlaps_less_than_wanted(field, overlap):
    count = full_circle_count(field, overlap)
    assert 1 - 360 / count / field >= overlap - 1e-6
    assert count == 1 or 1 - 360 / (count - 1) / field < overlap
