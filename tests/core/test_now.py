"""Quick answers without a shot, by hand and against the plan of a shot; and on the command line."""

import math

import pytest
from sample_shot import FULL

from lucid_ridge.cli import main
from lucid_ridge.core.errors import InputError
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.now.bracket import bracket_now
from lucid_ridge.core.now.depth import depth_now
from lucid_ridge.core.now.formats import FORMATS, body_of
from lucid_ridge.core.now.neutral_density import behind_filters
from lucid_ridge.core.now.stars import stars_now
from lucid_ridge.core.planning.plan.shot_plan import plan_shot


def test_a_filter_by_hand():
    # 1/16 s · 2^10 = 64 s; on a film of exponent 1.31, 64^1.31 = 232 s.
    assert behind_filters(1 / 16, 10).open_s == pytest.approx(64)
    assert behind_filters(1 / 16, 10, 1.31).open_s == pytest.approx(64**1.31)
    # Under a second a film loses nothing, and no filter costs nothing.
    assert behind_filters(1 / 16, 0, 1.31).open_s == pytest.approx(1 / 16)
    with pytest.raises(InputError):
        behind_filters(1 / 16, -1)


def test_depth_by_hand():
    # f²/(N c) + f = 576 mm² / (2^3.5 · 0.030 mm) + 24 mm = 1721 mm.
    found = depth_now(24, 2**3.5, 0.8, math.inf)
    assert found.hyperfocal_m == pytest.approx(1.721, abs=0.001)
    assert found.limit_um == pytest.approx(30)
    assert found.sharp and found.blur_um <= 30
    # From half the hyperfocal distance on, one frame is the handbook's own case; diffraction narrows it a little.
    assert len(depth_now(24, 8.0, 3.0, math.inf).focus_m) == 1
    assert len(depth_now(24, 2.8, 0.5, math.inf).focus_m) > 3


@pytest.mark.parametrize(("near_m", "far_m"), [(0.8, math.inf), (1.0, 30.0), (0.4, 2.0)])
def test_depth_is_the_plan_of_a_shot(near_m, far_m):
    found = depth_now(24, 11.0, near_m, far_m)
    infinite = math.isinf(far_m)
    shot = changed(
        FULL, elements=(), sharp_element_ids=frozenset(), near_m=near_m, far_m=None if infinite else far_m,
        far_infinite=infinite, f_number=11.0, focal_mm=24.0, filters=(),
    )  # fmt: skip
    step = plan_shot(shot).depth
    assert found.focus_m == pytest.approx([item.focus_distance_m for item in step.positions])
    assert found.blur_um == pytest.approx(1000 * step.worst_blur_mm)


def test_a_bracket_by_hand():
    # 13 stops, 11 held, 2 apart: 1 + 1 = 2 frames, nothing to spare.
    found = bracket_now(3, 16)
    assert (found.frames, found.spare_stops) == (2, pytest.approx(0))
    assert bracket_now(3, 14).frames == 1
    with pytest.raises(InputError):
        bracket_now(16, 3)


def test_stars_by_hand():
    found = stars_now(24, 2.8).times
    # 0.030 mm / (24 mm · 7.292e-5) = 17.1 s; 500/24 = 20.8 s; (35 · 2.8 + 30 · 6) / 24 = 11.6 s.
    assert (found.by_trail_s, found.by_500_s, found.by_pixel_s) == pytest.approx((17.14, 20.83, 11.58), abs=0.01)
    # The rule of 500 counts the focal length as on 36 × 24 mm.
    crop = math.hypot(36, 24) / math.hypot(23.5, 15.7)
    assert stars_now(24, 2.8, "aps-c").times.by_500_s == pytest.approx(500 / (24 * crop))


def test_formats():
    assert all(body_of(name).sensor_width_mm == sides[0] for name, sides in FORMATS.items())
    with pytest.raises(InputError, match="four-thirds"):
        body_of("mars")


@pytest.mark.parametrize(
    ("typed", "first"),
    [
        (["nd", "1/15", "10"], "1'04\" behind 10 stops."),
        (["nd", "2 s", "ND64"], "2'08\" behind 6 stops."),
        (
            ["depth", "24", "f/11", "0.8", "inf"],
            "Focus at 1.09 m, 3.20 m: 2 frames at f/11, sharp from 0.80 m to infinity.",
        ),
        (["bracket", "3", "16"], "2 frames, 2 EV apart."),
        (["stars", "24 mm"], "11.6 s by aperture and pixel, (35 N + 30 p) ÷ f."),
    ],
)
def test_on_the_command_line(capsys, typed, first):
    assert main(["now", *typed]) == 0
    assert capsys.readouterr().out.splitlines()[0] == first


def test_what_cannot_be_read_is_said(capsys):
    assert main(["now", "nd", "1/15", "0.9"]) == 1
    assert "two ways" in capsys.readouterr().err
    assert main(["now", "stars", "24", "--format", "mars"]) == 1
    assert "no format" in capsys.readouterr().err
