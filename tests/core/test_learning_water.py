"""How fast water is by streaks measured on pictures, and what that makes of looks; polarisers by their angle to the
sun; light by the sky; hands on a boat.
"""

import dataclasses
import math
from datetime import UTC, datetime, timedelta
from itertools import groupby

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.exposure.motion import LOOKS, LookName
from lucid_ridge.core.exposure.polariser import from_sun_deg
from lucid_ridge.core.facts.calibrations import Side
from lucid_ridge.core.learning.digests import TakenFrame, digest
from lucid_ridge.core.learning.lessons import (
    filter_lessons,
    hand_lessons,
    light_lessons,
    look_lessons,
    speeds_found,
    streak_drawn,
    water_lessons,
)
from lucid_ridge.core.learning.recipe import share_of_line
from lucid_ridge.core.planning.light.calibration import sky_side
from lucid_ridge.core.planning.light.sun_side import side_of

START = datetime(2026, 3, 1, 7, tzinfo=UTC)
TEXTURED = next(look for look in LOOKS if look.name == LookName.TEXTURED)


def digests_of(frames):
    return [digest(list(taken)) for _, taken in groupby(frames, key=lambda taken: taken.entry_id)]


def frame(number, **said):
    return TakenFrame(
        id=number,
        entry_id=said.pop("entry_id", 1),
        location_id=said.pop("location_id", 1),
        taken_at_utc=START + timedelta(minutes=number),
        **said,
    )


def test_water_that_draws_half_as_long_again_is_half_as_fast_again():
    frames = [frame(n, moving_id=3, streak_share=0.1, seen_share=0.15 * (1 + (n % 3 - 1) / 50)) for n in range(6)]
    (found,) = water_lessons(digests_of(frames))
    assert 2**found.found.value == pytest.approx(1.5, rel=0.01)
    assert (found.subject, found.worth) == (3, True)
    # A plan that used some of it already comes to the same.
    taught = [frame(n, moving_id=3, streak_share=0.12, seen_share=0.15, speed_used=math.log2(1.2)) for n in range(6)]
    assert 2 ** water_lessons(digests_of(taught))[0].found.value == pytest.approx(1.5)
    assert (
        water_lessons(digests_of([frame(1, moving_id=3, streak_share=0.1), frame(2, seen_share=0.2, streak_share=0.1)]))
        == []
    )


def test_looks_are_judged_by_what_the_water_really_drew():
    # Twice as fast as planned; what pleases lies in the middle of the trade's own band as really drawn.
    middle = math.sqrt(TEXTURED.low_share * TEXTURED.high_share)
    shares = [middle * 2 ** (step / 7.3) for step in range(-25, 26)]
    frames = []
    for n, share in enumerate(shares * 3):
        pleases = 5 if TEXTURED.low_share <= share <= TEXTURED.high_share else 2
        seen = share if n < 8 else None
        frames.append(
            frame(
                n,
                moving_id=3,
                streak_share=share / 2,
                seen_share=seen,
                wanted_look=str(LookName.TEXTURED),
                stars=pleases,
            )
        )
    taught = digests_of(frames)
    speeds = speeds_found(taught)
    assert [streak_drawn(item, speeds) for entry in taught for item in entry.streaks] == pytest.approx(shares * 3)
    (looks,) = look_lessons(digests_of(frames))
    assert abs(looks.found.value) < 0.15
    assert not looks.worth
    # Without the streaks the taste would seem to lie a stop away.
    (misread,) = look_lessons(digests_of([dataclasses.replace(item, seen_share=None) for item in frames]))
    assert misread.found.value == pytest.approx(-1.0, abs=0.15)


def test_lines_on_a_picture():
    # Half of the width of a 3:2 picture is three quarters of its short side; upright it is half.
    assert share_of_line([0.25, 0.5, 0.75, 0.5], 600, 400) == pytest.approx(0.75)
    assert share_of_line([0.25, 0.5, 0.75, 0.5], 400, 600) == pytest.approx(0.5)
    assert share_of_line([0.0, 0.0, 1.0, 1.0], 300, 400) == pytest.approx(500 / 300)
    assert share_of_line([0.5, 0.5, 0.5, 0.5], 300, 400) == 0
    for line, wide in (([0, 0, 1.1, 1], 300), ([math.nan, 0, 1, 1], 300), ([0, 0, 1, 1], 0), ([0, 0, 1, 1], math.inf)):
        with pytest.raises(InputError):
            share_of_line(line, wide, 400)


def test_angles_from_the_sun():
    assert from_sun_deg(0, 90, 0, 180) == pytest.approx(90)
    assert from_sun_deg(0, 90, 0, 270) == pytest.approx(180)
    assert from_sun_deg(30, 90, 30, 90) == pytest.approx(0, abs=1e-5)
    # Straight up is as far from the sun as that stands from the zenith.
    assert from_sun_deg(20, 77, 90, 200) == pytest.approx(70)
    assert [side_of(angle) for angle in (None, 0, 59, 61, 90, 119, 121, 180)] == [
        Side.WHOLE, Side.ALONG, Side.ALONG, Side.ACROSS, Side.ACROSS, Side.ACROSS, Side.ALONG, Side.ALONG,
    ]  # fmt: skip


def pairs(cost_across, cost_along, places):
    frames = []
    for n in range(12):
        across = n % 2 == 0
        cost = (cost_across if across else cost_along) + (n % 3 - 1) * 0.01
        shared = {
            "entry_id": n,
            "location_id": places[n % len(places)],
            "f_number": 8.0,
            "iso": 100.0,
            "from_sun_deg": 90.0 if across else 20.0,
        }
        frames.append(frame(2 * n, **shared, shutter_s=1 / 60, means=(0.2,), filter_ids=frozenset()))
        frames.append(frame(2 * n + 1, **shared, shutter_s=2**cost / 60, means=(0.2,), filter_ids=frozenset({5})))
    return frames


def test_a_polariser_costs_more_across_the_sun_than_along_it():
    found = {item.side: item for item in filter_lessons(digests_of(pairs(2.2, 1.7, (1, 2, 3))), {5: 1.5})}
    assert found[Side.ACROSS].found.value == pytest.approx(2.2, abs=0.01)
    assert found[Side.ALONG].found.value == pytest.approx(1.7, abs=0.01)
    assert found[Side.WHOLE].found.value == pytest.approx(1.95, abs=0.01)
    assert found[Side.ACROSS].worth
    assert found[Side.ALONG].worth


def test_one_place_alone_or_no_difference_tells_nothing_of_the_angle():
    # Two places, but each seen from one side only: what differs may be what stands there.
    assert {item.side for item in filter_lessons(digests_of(pairs(2.2, 1.6, (1, 2))), {5: 1.5})} == {Side.WHOLE}
    same = {item.side: item.worth for item in filter_lessons(digests_of(pairs(1.9, 1.9, (1, 2, 3))), {5: 1.5})}
    assert same == {Side.WHOLE: True, Side.ACROSS: False, Side.ALONG: False}


def test_a_boat_is_another_hand():
    steady = [frame(n, by_hand=True, over_limit=(n % 7) - 3.0, sharp=(n % 7) - 3.0 < 1.5) for n in range(28)]
    swaying = [
        frame(100 + n, by_hand=True, boat=True, over_limit=(n % 7) - 3.0, sharp=(n % 7) - 3.0 < -1.5) for n in range(28)
    ]
    found = {item.side: item.found.value for item in hand_lessons(digests_of([*steady, *swaying]))}
    assert found[Side.WHOLE] > 0 > found[Side.BOAT]


def test_a_place_may_be_darker_under_cloud_alone():
    frames = []
    for n in range(16):
        clouded = n % 2 == 0
        error = (-0.9 if clouded else 0.0) + (n % 3 - 1) * 0.05
        frames.append(
            frame(
                n,
                entry_id=n,
                location_id=4,
                predicted=True,
                error_ev=error,
                cover=0.9 if clouded else 0.1,
                filter_ids=frozenset(),
            )
        )
    found = {item.side: item for item in light_lessons(digests_of(frames))}
    assert found[Side.CLOUDED].found.value == pytest.approx(-0.9, abs=0.03)
    assert found[Side.CLEAR].found.value == pytest.approx(0.0, abs=0.03)
    assert found[Side.CLOUDED].worth
    # Nobody knows the sky: then there is the whole alone.
    unknown = [dataclasses.replace(item, cover=None) for item in frames]
    assert {item.side for item in light_lessons(digests_of(unknown))} == {Side.WHOLE}
    assert [sky_side(cover) for cover in (None, 0.0, 0.49, 0.5, 1.0)] == [
        Side.WHOLE,
        Side.CLEAR,
        Side.CLEAR,
        Side.CLOUDED,
        Side.CLOUDED,
    ]
