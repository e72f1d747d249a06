"""Whatever is said of a shot, planning it gives seven verdicts and never an exception: a shot with odd facts is still
a shot.
"""

import dataclasses
import math
from datetime import UTC, date, datetime, timedelta

import numpy as np
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sample_shot import FULL

from lucid_ridge.core.exposure.motion import LookName
from lucid_ridge.core.facts import place
from lucid_ridge.core.facts.choices import BracketMode, DepthMethod, FocusSchool
from lucid_ridge.core.facts.filters import Filter, FilterKind, Mount
from lucid_ridge.core.facts.kit import Body, Lens, Support
from lucid_ridge.core.facts.shot import facts_from
from lucid_ridge.core.framing.composition import GUIDES
from lucid_ridge.core.framing.crop import Aspect
from lucid_ridge.core.framing.footing import Ground, standing_area
from lucid_ridge.core.framing.solids import Shape
from lucid_ridge.core.ground.walk import Terrain
from lucid_ridge.core.light.kinds import LightKind
from lucid_ridge.core.light.skyline import LEVEL, skyline_of
from lucid_ridge.core.optics.circle_of_confusion import CocCriterion
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.reasons import worst_mark
from lucid_ridge.core.planning.tones.plan import picture_tones, plan_tones
from lucid_ridge.core.planning.verdicts import STEPS
from lucid_ridge.core.tides.harmonics import HarmonicConstants, HarmonicTide
from lucid_ridge.core.weather.forecast import Forecast, ForecastHour
from lucid_ridge.core.weather.measures import Measure


def _maybe(strategy):
    return st.none() | strategy


locations = st.builds(
    place.Location,
    name=st.just("Place"),
    latitude_deg=st.floats(-90, 90),
    longitude_deg=st.floats(-180, 180),
    elevation_m=st.floats(-400, 8000),
    skyline=st.sampled_from([LEVEL, skyline_of([(10, 4.0), (200, 12.0)])]),
    tide=_maybe(st.just(HarmonicTide("Bar", HarmonicConstants(2.0, (("M2", 2.0, 30.0), ("S2", 0.7, 90.0)))))),
    zone=st.sampled_from(["Europe/London", "Europe/Oslo", "America/Santiago", "Pacific/Kiritimati", "Asia/Kathmandu"]),
)
elements = st.builds(
    place.Element,
    id=st.integers(1, 4),
    name=st.just("Thing"),
    shape=st.sampled_from(Shape),
    bearing_deg=st.floats(0, 360),
    distance_m=st.floats(0.01, 500_000),
    width_m=st.floats(0.0001, 200_000),
    height_m=st.floats(0.0001, 9000),
    base_m=st.floats(-5000, 9000),
    speed_mps=_maybe(st.floats(0.001, 400)),
    course=st.lists(st.tuples(st.floats(0, 360), st.floats(0.01, 500_000)), max_size=3).map(tuple),
)
bodies = st.builds(
    Body,
    id=st.just(1),
    name=st.just("Body"),
    sensor_width_mm=st.floats(1, 400),
    sensor_height_mm=st.floats(1, 400),
    pixels_wide=st.integers(100, 100_000),
    pixels_high=st.integers(100, 100_000),
    base_iso=st.floats(1, 400),
    max_iso=st.floats(400, 1e6),
    fastest_shutter_s=st.floats(1e-5, 1e-3),
    slowest_shutter_s=st.floats(1, 3600),
    has_bulb=st.booleans(),
    dynamic_range_stops=st.floats(1, 25),
    bracket_frames=st.integers(1, 31),
    bracket_step_ev=st.floats(0.1, 5),
    write_s=st.floats(0, 60),
    dark_frame=st.booleans(),
    dark_frame_from_s=st.floats(0, 3600),
    extended_iso_min=_maybe(st.floats(1, 400)),
    extended_iso_max=_maybe(st.floats(400, 1e7)),
    stabiliser_stops=_maybe(st.floats(0, 12)),
    flash_sync_s=_maybe(st.floats(1e-5, 60)),
    burst_per_s=_maybe(st.floats(0.2, 240)),
    buffer_frames=_maybe(st.integers(1, 1000)),
)
lenses = st.builds(
    Lens,
    id=st.just(1),
    name=st.just("Lens"),
    focal_min_mm=st.floats(1, 600),
    focal_max_mm=st.floats(600, 3000),
    f_number_min=st.floats(0.5, 8),
    f_number_max=st.floats(8, 128),
    closest_focus_mm=st.floats(10, 1e6),
    sharpest_f_number=st.floats(0.5, 128),
    max_magnification=_maybe(st.floats(0.01, 20)),
    pupil_ratio=st.floats(0.1, 10),
    filter_thread_mm=_maybe(st.floats(10, 200)),
    pupil_depth_mm=_maybe(st.floats(0, 500)),
    front_mm=_maybe(st.floats(0, 500)),
    hood_mm=_maybe(st.floats(1, 300)),
    hood_clear_mm=_maybe(st.floats(10, 500)),
)
filters = st.lists(
    st.builds(
        Filter,
        id=st.integers(1, 5),
        name=st.just("Glass"),
        kind=st.sampled_from(FilterKind),
        stops=st.floats(0, 25),
        on_lens=st.booleans(),
        on_when_metered=st.booleans(),
        mount=st.sampled_from(Mount),
        thickness_mm=st.floats(0.5, 40),
    ),
    max_size=5,
).map(tuple)

clocks = st.times().map(lambda time: time.replace(microsecond=0))
hazards = st.builds(
    place.Hazard,
    kind=st.sampled_from(place.HazardKind),
    note=st.sampled_from(["", "by the gate", "Mind the step."]),
    cut_off_m=_maybe(st.floats(-2, 8)),
    from_month=_maybe(st.integers(1, 12)),
    to_month=_maybe(st.integers(1, 12)),
)
openings = st.builds(
    place.Opening,
    kind=st.sampled_from(place.OpeningKind),
    note=st.sampled_from(["", "ask the warden", "Ask the warden."]),
    from_clock=_maybe(clocks),
    to_clock=_maybe(clocks),
    days=st.sampled_from(place.OpeningDays),
    every_year=st.booleans(),
)
season_notes = st.builds(
    place.SeasonNote,
    kind=st.sampled_from(place.SeasonKind),
    note=st.sampled_from(["", "larches gold", "Larches gold."]),
    from_month=st.integers(1, 12),
    from_day=st.integers(1, 31),
    to_month=st.integers(1, 12),
    to_day=st.integers(1, 31),
)
approaches = st.builds(
    place.Approach,
    drive_min=_maybe(st.floats(0, 600)),
    walk_m=_maybe(st.floats(0, 20_000)),
    ascent_m=_maybe(st.floats(0, 2000)),
    terrain=st.sampled_from(Terrain),
    set_up_min=st.floats(0, 120),
    reserve_min=st.floats(0, 120),
)
weathers = st.fixed_dictionaries(
    {name: st.floats(0, 1) for name in ("low_cloud", "middle_cloud", "high_cloud", "fog")}
    | {
        "wind_mps": st.floats(0, 40),
        "gust_mps": st.floats(0, 60),
        "rain_mm": st.floats(0, 30),
        "temperature_c": st.floats(-40, 40),
    }
)


def _forecast(day, one, other):
    """Three days around a date, in which the weather changes every fourth hour."""
    start = datetime(day.year, day.month, day.day, tzinfo=UTC) - timedelta(days=1)
    hours = [
        ForecastHour(start + timedelta(hours=number), **(other if number // 4 % 2 else one)) for number in range(72)
    ]
    return Forecast(start, tuple(hours))


shots = st.fixed_dictionaries(
    {
        "location": _maybe(locations),
        "viewpoint_name": st.just("Point"),
        "elements": st.lists(elements, max_size=4, unique_by=lambda item: item.id).map(tuple),
        "hazards": st.lists(hazards, max_size=2).map(tuple),
        "openings": st.lists(openings, max_size=2).map(tuple),
        "season_notes": st.lists(season_notes, max_size=2).map(tuple),
        "approach": _maybe(approaches),
        "access": _maybe(
            st.builds(
                place.Access,
                st.sampled_from(["", "gate by the lane", "Gate by the lane."]),
                _maybe(st.dates(date(2020, 1, 1), date(2026, 1, 1))),
            )
        ),
        "scoutings": st.lists(
            st.builds(place.Scouting, st.dates(date(2020, 1, 1), date(2026, 1, 1)), st.sampled_from(["", "gate"])),
            max_size=1,
        ).map(tuple),
        "plan_b": _maybe(
            st.builds(place.OtherPlace, st.just("Bog"), _maybe(st.floats(0, 600)), _maybe(st.floats(0, 600)))
        ),
        "plan_b_measure": _maybe(st.sampled_from(Measure)),
        "plan_b_over": _maybe(st.floats(0, 100)),
        "plan_b_clock": _maybe(clocks),
        "water_low_m": _maybe(st.floats(-1, 5)),
        "water_high_m": _maybe(st.floats(-1, 5)),
        "wanted_light": _maybe(st.sampled_from(LightKind)),
        "date_local": _maybe(st.dates(date(1901, 1, 2), date(2052, 12, 29))),
        "body": _maybe(bodies),
        "lens": _maybe(lenses),
        "focal_mm": _maybe(st.floats(1, 3000)),
        "orientation": st.sampled_from(["landscape", "portrait"]),
        "bearing_deg": _maybe(st.floats(0, 360)),
        "pitch_deg": st.floats(-90, 90),
        "roll_deg": st.floats(-45, 45),
        "ground": st.builds(
            Ground, slope_deg=st.floats(0, 45), down_bearing_deg=st.floats(0, 360), reach_m=st.floats(1, 1000)
        ),
        "standing": _maybe(st.just(standing_area([(-1, -1), (2, -1), (0, 2)], [1]))),
        "support": _maybe(st.just(Support(1, "Legs", 0.4, 1.6, 0.1))),
        "camera_east_m": st.floats(-1000, 1000),
        "camera_north_m": st.floats(-1000, 1000),
        "crop_aspect": _maybe(st.sampled_from([name for name in Aspect if name != "free"])),
        "crop_focal_mm": _maybe(st.floats(1, 6000)),
        "crop_x": st.floats(0, 1),
        "crop_y": st.floats(0, 1),
        "guide": st.sampled_from(tuple(GUIDES)),
        "pano_across_deg": _maybe(st.floats(1, 360)),
        "pano_upwards_deg": _maybe(st.floats(1, 170)),
        "pano_overlap": st.floats(0, 0.89),
        "pano_pivot_mm": st.floats(0, 1000),
        "hood_on": st.booleans(),
        "camera_height_m": _maybe(st.floats(0, 100)),
        "sharp_element_ids": st.frozensets(st.integers(1, 4)),
        "near_m": _maybe(st.floats(0.001, 1e6)),
        "far_m": _maybe(st.floats(0.001, 1e6)),
        "far_infinite": st.booleans(),
        "magnification": _maybe(st.floats(0.001, 20)),
        "subject_depth_mm": _maybe(st.floats(0.001, 10_000)),
        "coc_criterion": st.sampled_from(CocCriterion),
        "coc_custom_mm": _maybe(st.floats(0.001, 1)),
        "f_number": _maybe(st.floats(0.5, 128)),
        "focus_school": st.sampled_from(FocusSchool),
        "subject_element_id": _maybe(st.integers(1, 4)),
        "depth_method": st.sampled_from(DepthMethod),
        "overlap": st.floats(0, 0.89),
        "metered_f_number": _maybe(st.floats(0.5, 128)),
        "metered_shutter_s": _maybe(st.floats(1e-5, 86400)),
        "metered_iso": _maybe(st.floats(1, 1e6)),
        "metered_through_lens": st.booleans(),
        "shadow_ev": _maybe(st.floats(-15, 25)),
        "highlight_ev": _maybe(st.floats(-15, 25)),
        "highlight_margin_ev": st.floats(0, 3),
        "compensation_ev": st.floats(-10, 10),
        "iso": _maybe(st.floats(1, 1e6)),
        "filters": filters,
        "follow_fading": st.booleans(),
        "wanted_shutter_s": _maybe(st.floats(1e-5, 86400)),
        "wanted_look": _maybe(st.sampled_from(LookName)),
        "moving_element_id": _maybe(st.integers(1, 4)),
        "bracket": st.sampled_from(BracketMode),
        "bracket_step_ev": st.floats(0.01, 10),
        "timer_s": st.floats(0, 600),
        "settle_s": st.floats(0, 600),
    }
)


@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large])
@given(shots, st.floats(0, 23.99), _maybe(st.tuples(weathers, weathers)))
def test_any_shot_has_a_plan(values, hour, weather):
    day = values["date_local"]
    facts = facts_from(
        **values,
        time_utc=datetime(day.year, day.month, day.day, tzinfo=UTC) + timedelta(hours=hour) if day else None,
        forecast=_forecast(day, *weather) if day and weather else None,
    )
    plan = plan_shot(facts)
    assert [verdict.step for verdict in plan.verdicts] == list(STEPS)
    assert all(verdict.text and verdict.mark in ("holds", "tight", "fails", "unsaid") for verdict in plan.verdicts)
    assert all(reason.text.endswith(".") and not reason.text.endswith("..") for reason in plan.because)
    # A summit is judged by every reason that names its step, wherever the reason was found.
    for verdict in plan.verdicts[:2]:
        assert verdict.mark == worst_mark([reason for reason in plan.because if reason.step == verdict.step])
    # What is planned can be carried out: times are finite and run forward, blurs are numbers.
    clock = 0.0
    for frame in plan.sequence.frames:
        assert math.isfinite(frame.shutter_s)
        assert frame.shutter_s > 0
        assert clock <= frame.start_s <= frame.end_s
        clock = frame.end_s
    assert (plan.depth.curve_blur_mm >= 0).all()
    # The same facts give the same plan.
    assert plan_shot(dataclasses.replace(facts)).verdicts == plan.verdicts


_OPTIONAL = {
    "elements": (),
    "sharp_element_ids": frozenset(),
    "body": None,
    "lens": None,
    "location": None,
    "date_local": None,
    "time_utc": None,
    "focal_mm": None,
    "bearing_deg": None,
    "camera_height_m": None,
    "near_m": None,
    "far_infinite": False,
    "f_number": None,
    "metered_shutter_s": None,
    "filters": (),
}


@settings(max_examples=60, deadline=None)
@given(st.frozensets(st.sampled_from(sorted(_OPTIONAL))), st.sampled_from([-90.0, -30.0, 0.0, 90.0]))
def test_a_shot_with_any_facts_missing_is_planned_and_drawn(missing, pitch_deg):
    """Without any element the small picture has no forms at all to set into it."""
    shot = dataclasses.replace(FULL, **{name: _OPTIONAL[name] for name in missing if name in _HEADS})
    shot = shot.choosing(**{name: _OPTIONAL[name] for name in missing if name not in _HEADS}, pitch_deg=pitch_deg)
    plan = plan_shot(shot)
    assert [verdict.step for verdict in plan.verdicts] == list(STEPS)
    step = plan_tones(shot, plan, 40)
    can_be_drawn = not missing & {"location", "body", "lens", "date_local", "time_utc"}
    assert (step is not None) == can_be_drawn
    if step is not None:
        assert np.isfinite(np.asarray(picture_tones(step))).all()


_HEADS = ("elements", "sharp_element_ids", "body", "lens", "location", "filters")
