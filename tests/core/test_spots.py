"""Readings as a meter says them, film, what a wait brings, and two frames where one cannot show it."""

import dataclasses
import math
from datetime import UTC, date, datetime

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.exposure.film import metered_time_s
from lucid_ridge.core.facts.filters import Filter
from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element, Location
from lucid_ridge.core.facts.shot import facts_from
from lucid_ridge.core.facts.spots import SpotPart, SpotReading, parse_reading
from lucid_ridge.core.planning.plan.shot_plan import plan_shot

BODY = Body(
    id=1,
    name="Body",
    sensor_width_mm=36,
    sensor_height_mm=24,
    pixels_wide=8256,
    pixels_high=5504,
    base_iso=100,
    max_iso=25600,
    fastest_shutter_s=1 / 8192,
    slowest_shutter_s=32,
    has_bulb=True,
    dynamic_range_stops=11,
    bracket_frames=9,
    bracket_step_ev=3,
)
LENS = Lens(
    id=1,
    name="Zoom",
    focal_min_mm=24,
    focal_max_mm=70,
    f_number_min=2.8,
    f_number_max=2**4.5,
    closest_focus_mm=280,
    sharpest_f_number=8,
)
SIX = Filter(1, "Six", "neutral_density", 6, on_lens=True)
WATER = Element(1, "Fall", "water", 0, 4.0, 6, 3, speed_mps=1.0)
FERN = Element(2, "Fern", "block", 2, 3.5, 0.8, 0.5, speed_mps=0.05)


def _plan(**said):
    start = {
        "body": BODY,
        "lens": LENS,
        "f_number": 8.0,
        "metered_f_number": 8.0,
        "metered_shutter_s": 1 / 8,
        "metered_iso": 100.0,
        "elements": (WATER, FERN),
        "bearing_deg": 0.0,
        "camera_height_m": 0.8,
        "sharp_element_ids": frozenset({2}),
    }
    return plan_shot(facts_from(**{**start, **said}))


def _said(plan, *weights):
    return " ".join(
        f"{reason.code}: {reason.text}" for reason in plan.exposure.reasons if not weights or reason.severity in weights
    )


@pytest.mark.parametrize(
    ("text", "ev"),
    # EV = log2(N²/t) - log2(S/100) (APEX): f/11 is 2^3.5 and 1/20 stands for 2^-4.33; f/8 is 2^3, 1/60 is 2^-6.
    [
        ("1/20 at f/11, ISO 100", 7 + 13 / 3),
        ("f/8 1/60", 12),
        ("f8, 1/60, iso 400", 10),
        ("1/60 @ f/8", 12),
        ("EV 12.3", 12.3),
        ("-2", -2),
        ("2 s at f/4 ISO 100", 3),
    ],
)
def test_readings_as_meters_say_them(text, ev):
    assert parse_reading(text) == pytest.approx(ev, abs=1e-6)


@pytest.mark.parametrize("text", ["", "bright", "f/11", "f/11 at noon", "EV 40", "ISO 100"])
def test_what_is_no_reading(text):
    with pytest.raises(InputError):
        parse_reading(text)


def test_what_a_reading_was_taken_through_is_counted_back():
    assert SpotReading(SpotPart.SKY, 12.0, through_stops=1.5).bare_ev100 == 13.5


def test_two_spot_readings_make_the_range_and_one_the_highlights():
    two = (SpotReading(SpotPart.SKY, 14.0), SpotReading(SpotPart.LAND, 6.0, through_stops=1.0))
    assert _plan(spots=two).exposure.range_stops == pytest.approx(7)
    # Typed readings stand before them.
    assert _plan(spots=two, highlight_ev=15.0).exposure.range_stops == pytest.approx(8)
    only = _plan(spots=two[:1], bracket="highlights").exposure.exposures[0]
    assert 14 <= only.brightest_ev <= 14 + 1 / 3 + 1e-6


def test_film_needs_longer_and_says_so():
    # 64 s by the meter and q = 1.25: 64^1.25 = 2^7.5 = 181 s, 1.5 stops.
    film = dataclasses.replace(BODY, film_exponent=1.25)
    plan = _plan(body=film, metered_shutter_s=64.0)
    assert plan.exposure.shutter_s == pytest.approx(2**7.5)
    assert plan.exposure.ledger.lines[-1].stops == pytest.approx(1.5)
    assert _plan(body=film, metered_shutter_s=0.5).exposure.ledger.lines[-1].kind != "film"
    assert metered_time_s(2**7.5, 1.25) == pytest.approx(64)
    # A wanted time is reached with the film's failure counted: 181 s wanted, metered 1 s without filters: six
    # stops are right.
    wanted = _plan(
        body=film,
        metered_shutter_s=1.0,
        wanted_shutter_s=2**7.5,
        filters=(dataclasses.replace(SIX, on_lens=False),),
        iso=100.0,
        f_number=8.0,
    )
    assert wanted.exposure.proposals[0].filter_names == ("Six",)
    assert wanted.exposure.proposals[0].shutter_s == pytest.approx(2**7.5)


def test_one_frame_cannot_freeze_the_fern_and_let_the_water_flow():
    # The fern at 0.05 m/s, 24 mm, 3.5 m away: 0.05 · 24/3476 mm a second is 0.345 mm; 0.030 allows 1/11.5 s
    # (hand-worked, to the nearest visible part).
    one = _plan(wanted_look="silky", filters=(SIX,), metered_shutter_s=1 / 32)
    assert one.exposure.shutter_s == pytest.approx(2)
    assert "two frames, one frozen and one long" in _said(one, "fails")
    two = _plan(wanted_look="silky", filters=(SIX,), metered_shutter_s=1 / 32, bracket="frozen_and_long")
    frozen, long = two.exposure.exposures
    # Without the six stops it is 1/32 s at ISO 100, which freezes.
    assert (frozen.shutter_s, frozen.iso, frozen.bare) == (pytest.approx(1 / 32), 100, True)
    assert long.shutter_s == pytest.approx(2)
    assert "smears" not in _said(two)
    frames = two.sequence.frames
    assert [frame.filters for frame in frames[:2]] == [(), ("Six",)]
    # Screwing the filter on takes its time.
    assert frames[1].start_s - frames[0].end_s >= 20


def test_a_frozen_frame_raises_the_iso_where_it_must():
    two = _plan(wanted_look="silky", metered_shutter_s=2.0, bracket="frozen_and_long")
    frozen, long = two.exposure.exposures
    assert frozen.iso > 100
    # As bright as the long one, to a third of a stop of markings.
    assert math.log2(long.shutter_s / frozen.shutter_s) - math.log2(frozen.iso / 100) == pytest.approx(0, abs=0.34)
    assert frozen.shutter_s <= 1 / 11
    slow = dataclasses.replace(BODY, max_iso=200)
    assert "open the aperture" in _said(
        _plan(body=slow, wanted_look="silky", metered_shutter_s=2.0, bracket="frozen_and_long"), "fails"
    )
    still = _plan(elements=(WATER,), sharp_element_ids=frozenset(), bracket="frozen_and_long")
    assert len(still.exposure.exposures) == 1
    assert "motion.nothing_to_freeze" in _said(still, "unsaid")


def test_how_long_to_wait_until_no_filter_is_needed():
    # After sunset the light falls by about a stop in five minutes (practice): six stops are gone within the hour.
    dusk = {
        "location": Location("Estuary", 54.53, -3.21, 4, "Europe/London"),
        "date_local": date(2026, 11, 25),
        "time_utc": datetime(2026, 11, 25, 16, 5, tzinfo=UTC),
    }
    plan = _plan(**dusk, filters=(SIX,), wanted_shutter_s=8.0, metered_shutter_s=1 / 8)
    text = _said(plan, "holds")
    assert "needs no neutral density" in text
    minutes = int(text.split("In ")[1].split(" min")[0])
    assert 10 <= minutes <= 60
    assert "needs no neutral density" not in _said(_plan(**dusk, wanted_shutter_s=8.0))
