"""Star trails as groups of frames, bursts against a body's rate and buffer, and dark frames."""

from dataclasses import replace
from datetime import UTC, date, datetime
from itertools import pairwise

import pytest
from sample_shot import BODY, FULL

from lucid_ridge.core.facts.frame_groups import FrameGroup, GroupExposure, Role, Together
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.field.run_sheet import run_frames
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.sequence.blend_sheet import blend_sheet
from lucid_ridge.core.planning.sequence.group_presets import group_ways
from lucid_ridge.core.planning.sequence.timeline import Overheads
from lucid_ridge.core.weather.forecast import Forecast, ForecastHour

NIGHT = datetime(2026, 12, 9, 20, 0, tzinfo=UTC)
TRAILS = FrameGroup(
    Role.TRAILS, exposure=GroupExposure.OWN, shutter_s=32.0, count=100, gap_s=1.0, together=Together.LIGHTEN
)


def _night(*groups, **more):
    return changed(
        FULL,
        **{
            "date_local": date(2026, 12, 9),
            "time_utc": NIGHT,
            "wanted_light": "dark_sky",
            "metered_shutter_s": None,
            "near_m": 8.0,
            "f_number": 2.8,
            "iso": 1600.0,
            "filters": (),
            "camera_height_m": 1.5,
            "sharp_element_ids": frozenset(),
            "bearing_deg": 180.0,
            "pitch_deg": 20.0,
            "frame_groups": groups,
            **more,
        },
    )


def _reasons(facts, code):
    return [reason for reason in plan_shot(facts).sequence.reasons if reason.code == code]


def test_an_hour_of_trails_by_hand():
    plan = plan_shot(_night(TRAILS))
    frames = plan.sequence.frames
    # 100 frames of 32 s with 99 gaps of 1 s between them.
    assert frames[-1].end_s - frames[0].start_s == pytest.approx(100 * 32 + 99)
    assert {round(after.start_s - before.end_s, 6) for before, after in pairwise(frames)} == {1.0}
    (words,) = _reasons(_night(TRAILS), "sequence.trails")
    # 3299 s · 15.041° / 3600 s = 13.78°.
    assert words.figures["arc_deg"] == pytest.approx(13.78, abs=0.01)
    # 24 mm · 3299 s · 7.292e-5 = 5.77 mm, 16 % of 36 mm, for a star at the celestial equator.
    assert words.figures["frame_share"] == pytest.approx(5.774 / 36, abs=0.002)
    (joined,) = _reasons(_night(TRAILS), "sequence.trails_joined")
    # 24 mm · 7.292e-5 a second over pixels of 36 / 8256 mm: 0.40 pixels.
    assert joined.figures["gap_pixels"] == pytest.approx(0.40, abs=0.005)
    assert [step.words for row in blend_sheet(plan.sequence).rows for step in row.steps] == [
        "keep the brightest: 1 to 100"
    ]


def test_in_the_field_the_timer_is_set_once():
    facts = _night(TRAILS)
    sheet = run_frames(facts, plan_shot(facts))
    said = [item.number for item in sheet if any("interval timer: 100 frames of 30 s" in text for text in item.actions)]
    assert said == [1]


def test_dark_frames_dash_the_trails():
    body = replace(BODY, dark_frame=True)
    plan = plan_shot(_night(TRAILS, body=body))
    frames = plan.sequence.frames
    # The body closes its shutter for as long again: 32 s open, 32 s dark.
    assert frames[1].start_s - frames[0].end_s == pytest.approx(32.0)
    (dashed,) = _reasons(_night(TRAILS, body=body), "sequence.trails_dashed")
    assert dashed.severity == "tight"
    (dark,) = _reasons(_night(TRAILS, body=body), "sequence.dark_frames")
    assert dark.figures["added_s"] == pytest.approx(3200)
    # A body that takes none under a minute takes none here.
    late = replace(body, dark_frame_from_s=60.0)
    assert _reasons(_night(TRAILS, body=late), "sequence.trails_joined")
    assert not _reasons(_night(TRAILS, body=late), "sequence.dark_frames")


def test_without_a_timer_the_waits_of_the_sequence_dash_the_trails():
    (dashed,) = _reasons(_night(replace(TRAILS, gap_s=None)), "sequence.trails_dashed")
    # 2 s of self-timer and half a second of writing.
    assert dashed.figures["gap_s"] == pytest.approx(2.5)


def test_trails_are_offered_at_night():
    plan = plan_shot(_night())
    names = [way.name for way in group_ways(_night(), plan.light, plan.depth, plan.exposure, ())]
    assert "Star trails" in names
    by_day = plan_shot(FULL)
    assert "Star trails" not in [way.name for way in group_ways(FULL, by_day.light, by_day.depth, by_day.exposure, ())]


def _hour(dew_point_c, wind_mps=1.0):
    return ForecastHour(
        time_utc=NIGHT,
        low_cloud=0.0,
        middle_cloud=0.0,
        high_cloud=0.0,
        wind_mps=wind_mps,
        gust_mps=wind_mps,
        rain_mm=0.0,
        temperature_c=2.0,
        fog=0.0,
        dew_point_c=dew_point_c,
    )


@pytest.mark.parametrize(("dew_point_c", "wind_mps", "said"), [(1.0, 1.0, True), (-4.0, 1.0, False), (1.0, 8.0, False)])
def test_dew_settles_in_calm_air_near_the_dew_point(dew_point_c, wind_mps, said):
    forecast = Forecast(NIGHT, (_hour(dew_point_c, wind_mps),))
    found = _reasons(replace(_night(TRAILS), forecast=forecast), "sequence.dew")
    assert bool(found) == said
    assert all(item.severity == "caution" for item in found)


BURST = FrameGroup(Role.FROZEN, exposure=GroupExposure.OWN, shutter_s=1 / 250, count=40, burst_per_s=8.0)


def test_a_burst_outruns_the_buffer():
    body = replace(BODY, burst_per_s=10.0, buffer_frames=20, write_s=0.5)
    facts = changed(FULL, body=body, frame_groups=(BURST,))
    frames = plan_shot(facts).sequence.frames
    # 20 frames in 19/8 s; from then on one every half second, counted from the end of the first one.
    assert frames[19].start_s - frames[0].start_s == pytest.approx(19 / 8, abs=0.01)
    assert frames[39].start_s - frames[0].end_s == pytest.approx(20 * 0.5, abs=0.01)
    (full,) = _reasons(facts, "sequence.buffer_full")
    assert (full.severity, full.figures["buffer_frames"]) == ("tight", 20)
    # A buffer that holds all, or is not known, changes nothing.
    for enough in (40, None):
        free = changed(facts, body=replace(body, buffer_frames=enough))
        assert not _reasons(free, "sequence.buffer_full")
        taken = plan_shot(free).sequence.frames
        assert taken[39].start_s - taken[0].start_s == pytest.approx(39 / 8, abs=0.01)


def test_a_burst_faster_than_the_body_fails():
    slow = changed(FULL, body=replace(BODY, burst_per_s=5.0), frame_groups=(BURST,))
    (words,) = _reasons(slow, "sequence.faster_than_body")
    assert words.severity == "fails"
    assert not _reasons(changed(FULL, body=replace(BODY, burst_per_s=8.0), frame_groups=(BURST,)), words.code)


@pytest.mark.parametrize("frames", [1, 2, 12, 13, 40])
@pytest.mark.parametrize("buffer_frames", [None, 12])
def test_the_closed_form_of_a_burst_is_the_timeline(frames, buffer_frames):
    overheads = Overheads(burst_per_s=6.0, buffer_frames=buffer_frames, write_s=0.4)
    clock, first_end, each = 0.0, 0.0, 0.01
    for taken in range(1, frames + 1):
        start = clock
        first_end = start + each if taken == 1 else first_end
        clock = overheads.after_burst_frame_s(6.0, start, each, first_end, taken)
    assert float(overheads.burst_s(frames, frames * each)) == pytest.approx(start + each + 0.4)
