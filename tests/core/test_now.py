"""Quick answers without a shot, by hand and against the plan of a shot; and on the command line."""

import json
import math
import random
import sys
from datetime import UTC, datetime, timedelta
from itertools import product
from pathlib import Path

import numpy as np
import pytest
from sample_shot import FULL

from lucid_ridge.cli import main
from lucid_ridge.core.errors import InputError
from lucid_ridge.core.facts.place import Location
from lucid_ridge.core.facts.shot import ShotFacts, changed, facts_from
from lucid_ridge.core.now.bracket import bracket_now, is_absolute, range_ends
from lucid_ridge.core.now.close_up import close_up_now, parse_scale
from lucid_ridge.core.now.depth import depth_now
from lucid_ridge.core.now.formats import FORMATS, body_of
from lucid_ridge.core.now.light import light_now
from lucid_ridge.core.now.neutral_density import behind_filters
from lucid_ridge.core.now.stars import stars_now
from lucid_ridge.core.now.water import WaterSeen, water_now
from lucid_ridge.core.planning.light.changing_light import ChangingLight
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.units.stops import parse_filters_stops

sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "tools"))
import now_tables

BODY = body_of("full")


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
    found = depth_now(24, 2**3.5, 0.8, math.inf, BODY)
    assert found.hyperfocal_m == pytest.approx(1.721, abs=0.001)
    assert found.limit_um == pytest.approx(30)
    assert found.sharp and found.blur_um <= 30
    # From half the hyperfocal distance on, one frame is the handbook's own case; diffraction narrows it a little.
    assert len(depth_now(24, 8.0, 3.0, math.inf, BODY).focus_m) == 1
    assert len(depth_now(24, 2.8, 0.5, math.inf, BODY).focus_m) > 3


@pytest.mark.parametrize(("near_m", "far_m"), [(0.8, math.inf), (1.0, 30.0), (0.4, 2.0)])
def test_depth_is_the_plan_of_a_shot(near_m, far_m):
    found = depth_now(24, 11.0, near_m, far_m, BODY)
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
    found = stars_now(24, 2.8, BODY).times
    # 0.030 mm / (24 mm · 7.292e-5) = 17.1 s; 500/24 = 20.8 s; (35 · 2.8 + 30 · 6) / 24 = 11.6 s.
    assert (found.by_trail_s, found.by_500_s, found.by_pixel_s) == pytest.approx((17.14, 20.83, 11.58), abs=0.01)
    # The rule of 500 counts the focal length as on 36 × 24 mm.
    crop = math.hypot(36, 24) / math.hypot(23.5, 15.7)
    assert stars_now(24, 2.8, body_of("aps-c")).times.by_500_s == pytest.approx(500 / (24 * crop))


def test_formats():
    assert all(body_of(name).sensor_width_mm == sides[0] for name, sides in FORMATS.items())
    with pytest.raises(InputError, match="four-thirds"):
        body_of("mars")


def test_a_close_up_by_hand():
    # A ruler of 24 mm over 36 mm of sensor is 1.5:1; N_e = N (1 + m) = 5.66 · 2.5; the extension costs 2 log2(2.5).
    found = close_up_now(field_mm=24.0, depth_mm=4.0, f_number=2**2.5, body=BODY)
    assert found.magnification == pytest.approx(1.5)
    assert found.effective_f_number == pytest.approx(2**2.5 * 2.5)
    assert found.cost_stops == pytest.approx(2 * math.log2(2.5))
    # From a thin lens to the subject, f (1 + 1/m).
    assert found.working_mm == pytest.approx(100 * (1 + 1 / 1.5))
    assert found.field_mm == pytest.approx((24, 16))
    # Diffraction leaves sqrt(c² − (2.44 λ N_e)²) for defocus; a slice is 2 N_e of it over m²(depth of field, any text).
    airy_mm = 2.44 * 550e-6 * found.effective_f_number
    slice_mm = 2 * found.effective_f_number * math.sqrt(0.030**2 - airy_mm**2) / 1.5**2
    assert found.slice_mm == pytest.approx(slice_mm, rel=0.02)
    assert found.frames == pytest.approx(1 + 4 / found.step_mm, abs=1)
    assert found.sharp and not found.diffraction_alone
    assert close_up_now(magnification=5.0, depth_mm=2.0, f_number=16.0, body=BODY).diffraction_alone
    assert close_up_now(magnification=0.5, depth_mm=1.0, f_number=8.0, body=BODY).frames == 1


def test_the_scale_of_a_close_up_is_read():
    assert parse_scale("1.5:1") == (1.5, None)
    assert parse_scale("24 mm") == (None, 24.0)
    with pytest.raises(InputError):
        close_up_now(depth_mm=1.0, f_number=8.0, body=BODY)
    with pytest.raises(InputError):
        parse_scale("wide")


def test_readings_of_a_range():
    # 1/2 to 1/1000 s, exactly 1/2 to 1/1024: nine stops, whatever the aperture.
    darkest, brightest = range_ends("1/2", "1/1000")
    assert brightest - darkest == pytest.approx(9)
    assert not is_absolute("1/2", "1/1000")
    # 1/2 s at f/8 is log2(64 · 2) = EV 7.
    assert range_ends("1/2 at f/8", "EV 12") == (pytest.approx(7), 12)
    assert bracket_now(3, 16, absolute=False).answer.choices.get("shadow_ev") is None
    with pytest.raises(InputError, match="shutter time") as refused:
        range_ends("1/2", "12")
    assert refused.value.field == "brightest"


def test_water_by_hand():
    # The example of the looks: 4 m away, 24 mm, 1 m/s draws 6 mm a second; 0.05 and 0.40 of 24 mm are 0.2 and 1.6 s.
    found = {band.name: band for band in water_now(WaterSeen.BRISK_STREAM, 4.0, 24.0, BODY).bands}
    assert (found["textured"].from_s, found["textured"].to_s) == pytest.approx((0.2, 1.6), rel=0.02)
    assert found["frozen"].to_s == pytest.approx(0.030 / 6, rel=0.02)
    # Twice the speed takes half the time.
    fast = {band.name: band for band in water_now(WaterSeen.BRISK_STREAM, 4.0, 24.0, BODY, 2.0).bands}
    assert fast["textured"].to_s == pytest.approx(found["textured"].to_s / 2)


class Falling:
    """Light that loses a stop a minute."""

    @staticmethod
    def lux(seconds, _oktas):
        return 100 * 2.0 ** (-np.asarray(seconds) / 60)


def test_a_filter_while_the_light_goes():
    # The integral of 2^(-t/60) from 0 is (60/ln 2)(1 − 2^(-T/60)) = 40 s, so T = −60 log2(1 − 40 ln 2/60) = 53.7 s.
    light = ChangingLight(Falling(), 0.0)
    expected = -60 * math.log2(1 - 40 * math.log(2) / 60)
    assert behind_filters(40.0, 0.0, light=light).open_s == pytest.approx(expected, rel=0.01)
    # No more than 60/ln 2 = 86.6 s of the first light ever comes in.
    gone = behind_filters(100.0, 0.0, light=light)
    assert math.isinf(gone.open_s) and gone.answer.figure == "no time"


def test_light_here_by_the_almanac():
    # Greenwich, 2 December: sunset 15:54, civil dusk 16:33 (almanac, from memory, within two minutes).
    place = Location("", 51.4779, 0.0, 0.0, "Europe/London")
    found = light_now(ShotFacts(location=place), datetime(2026, 12, 2, 15, 30, tzinfo=UTC))
    assert found.next_sun.kind == "sunset"
    assert abs((found.next_sun.at_utc - datetime(2026, 12, 2, 15, 54, tzinfo=UTC)).total_seconds()) < 150
    assert found.answer.figure in ("23 min", "24 min", "25 min")
    assert not found.rises and found.stop_in_s < 30 * 60
    times = [item.at_utc for item in found.coming]
    assert times == sorted(times) and times[-1] <= found.now_utc + timedelta(hours=24)
    # In the polar day nothing rises and nothing sets: an answer like any other.
    north = Location("", 78.2, 15.6, 0.0, "Arctic/Longyearbyen")
    summer = light_now(ShotFacts(location=north), datetime(2026, 6, 21, 12, tzinfo=UTC))
    assert summer.next_sun is None and summer.answer.figure == "no sunset"


@pytest.mark.parametrize("minutes", [0, 7, 90, 600])
def test_light_here_is_the_light_of_a_shot(minutes):
    moment = datetime(2026, 3, 3, 8, tzinfo=UTC) + timedelta(minutes=minutes)
    place = Location("", 54.5, -3.0, 0.0, "Europe/London")
    shot = facts_from(location=place, date_local=moment.date(), time_utc=moment)
    assert light_now(ShotFacts(location=place), moment).step.ev100 == plan_shot(shot).light.ev100


def test_filters_one_behind_another():
    assert parse_filters_stops("10 + pol") == pytest.approx(11.5)
    assert parse_filters_stops("ND64+ND8") == pytest.approx(9)
    assert parse_filters_stops("6") == 6
    with pytest.raises(InputError):
        parse_filters_stops("10 + fog")


def test_the_tables_are_the_core_s():
    stored = json.loads(now_tables.TABLES.read_text())
    assert set(stored) == {"density", "depth", "bracket", "stars"}
    chance = random.Random(37)
    for key, kept in stored.items():
        assert [name for name, _ in kept["fields"]] == [name for name, _ in now_tables.FIELDS[key]]
        combinations = list(product(*(known for _, known in kept["fields"])))
        assert len(combinations) == len(kept["answers"])
        for at in chance.sample(range(len(combinations)), 25):
            try:
                found = now_tables.answer_to(key, *combinations[at])
            except InputError as error:
                assert kept["answers"][at] == ["none", error.message]
            else:
                assert kept["answers"][at][:2] == [found.figure, found.words]


@pytest.mark.parametrize(
    ("typed", "first"),
    [
        (["nd", "1/15", "10"], "1 min 04 s behind 10 stops."),
        (["nd", "2 s", "ND64"], "2 min 08 s behind 6 stops."),
        (["depth", "24", "f/11", "0.8", "inf"], "1.09 m, 3.20 m focus here, 2 frames."),
        (["closeup", "0.5", "1 mm", "f/8"], "1 frame holds it."),
        (["bracket", "3", "16"], "2 frames 2 EV apart."),
        (["water", "brisk_stream", "4 m", "24"], "1/5 to 1.6 s textured."),
        (["stars", "24 mm"], "11.6 s before stars trail."),
    ],
)
def test_on_the_command_line(capsys, typed, first):
    assert main(["now", *typed]) == 0
    assert capsys.readouterr().out.splitlines()[0] == first


def test_light_on_the_command_line(capsys):
    assert main(["now", "light", "51.4779, 0.0"]) == 0
    assert "EV" in capsys.readouterr().out
    assert main(["now", "light", "nowhere"]) == 1
    assert capsys.readouterr().err


def test_what_cannot_be_read_is_said(capsys):
    assert main(["now", "water", "soup", "4", "24"]) == 1
    assert "trickle" in capsys.readouterr().err
    assert main(["now", "nd", "1/15", "0.9"]) == 1
    assert "two ways" in capsys.readouterr().err
    assert main(["now", "stars", "24", "--format", "mars"]) == 1
    assert "no format" in capsys.readouterr().err
