"""Nights, whole: windows, light left, when to leave and which walk is dark, against another library minute by minute
and by hand.
"""

import itertools
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import ephem
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lucid_ridge.core.facts.choices import FrameChoices, LightChoices
from lucid_ridge.core.facts.place import Approach, Element, Location
from lucid_ridge.core.facts.shot import ShotFacts
from lucid_ridge.core.framing.solids import Shape
from lucid_ridge.core.light.kinds import LightKind
from lucid_ridge.core.planning.day.outlook import best_outlook
from lucid_ridge.core.planning.day.windows import windows_of_date
from lucid_ridge.core.planning.light.plan import day_of_light, plan_light
from lucid_ridge.core.planning.way.plan import darkness_reasons
from lucid_ridge.core.weather.promise import DEFAULT_WEIGHTS

# 35 min of driving and 15 in reserve, 48 min on foot (4 km at 5 km an hour), 20 min to set up: 118 min before the
# light.
WAY = Approach(drive_min=35.0, walk_m=4000.0, ascent_m=0.0, set_up_min=20.0, reserve_min=15.0)
BEFORE = timedelta(minutes=118)
FRAMES = timedelta(minutes=25)
NOW = datetime(2026, 1, 1, tzinfo=UTC)


@dataclass(frozen=True)
class Night:
    name: str
    latitude: float
    longitude: float
    zone: str
    day: date


NIGHTS = (
    Night("54.5° N in November, full moon", 54.5, -3.2, "Europe/London", date(2026, 11, 24)),
    Night("68.2° N in June", 68.2, 13.7, "Europe/Oslo", date(2026, 6, 21)),
    Night("68.2° N in December", 68.2, 13.7, "Europe/Oslo", date(2026, 12, 21)),
    Night("78.2° N in December", 78.2, 15.6, "Arctic/Longyearbyen", date(2026, 12, 24)),
    Night("45° S, across the date line", -45.0, 170.0, "Pacific/Auckland", date(2026, 4, 17)),
    Night("45° S, in Patagonia", -45.1, -72.2, "America/Santiago", date(2026, 6, 14)),
    Night("the clocks go forward", 54.5, -3.2, "Europe/London", date(2026, 3, 28)),
    Night("the clocks go back", 54.5, -3.2, "Europe/London", date(2026, 10, 24)),
)


def _facts(night, moment=None, wanted=None):
    here = Location("Here", night.latitude, night.longitude, 0.0, night.zone)
    post = Element(1, "Post", Shape.POSTS, 0.0, 8.0, 0.3, 1.4)
    light = LightChoices(date_local=night.day, time_utc=moment, wanted_light=wanted)
    return ShotFacts(location=here, elements=(post,), approach=WAY, light=light)


def _windows(night):
    facts = _facts(night)
    return windows_of_date(
        facts, day_of_light(facts.location, night.day), FRAMES.total_seconds(), None, NOW, DEFAULT_WEIGHTS
    ).windows


def _noon(night):
    """When the sun passes the meridian that day, by ephem."""
    observer = _observer(night)
    observer.date = ephem.Date(
        datetime.combine(night.day, datetime.min.time(), tzinfo=ZoneInfo(night.zone))
        .astimezone(UTC)
        .replace(tzinfo=None)
    )
    return observer.next_transit(ephem.Sun()).datetime().replace(tzinfo=UTC)


def _observer(night):
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.pressure = str(night.latitude), str(night.longitude), 0
    return observer


def _sky(night, start, minutes):
    """The sun's airless altitude, the moon's apparent upper limb and its fraction lit, minute by minute, by ephem."""
    observer = _observer(night)
    rows = []
    for minute in range(minutes):
        observer.date = ephem.Date((start + timedelta(minutes=minute)).replace(tzinfo=None))
        sun, moon = ephem.Sun(observer), ephem.Moon(observer)
        limb = np.degrees(float(moon.alt)) + np.degrees(float(moon.radius)) + 34 / 60
        rows.append((np.degrees(float(sun.alt)), limb, moon.phase / 100))
    return np.array(rows).T


@pytest.mark.parametrize("night", NIGHTS, ids=lambda night: night.name)
def test_a_night_is_whole_from_noon_to_noon(night):
    noon = _noon(night)
    sun, limb, fraction = _sky(night, noon, 1440)
    theirs = {
        "moonlight": np.minimum(np.minimum(-9 - sun, 10 * limb), 100 * (fraction - 1 / 3)),
        "dark_sky": np.minimum(-18 - sun, np.maximum(-10 * limb, 100 * (0.1 - fraction))),
    }
    windows = _windows(night)
    for kind, margin in theirs.items():
        ours = np.zeros(1440, dtype=bool)
        spans = [item.window.span for item in windows if item.window.kind == kind]
        for span in spans:
            minutes = np.array([(noon + timedelta(minutes=minute)).timestamp() for minute in range(1440)])
            ours |= (minutes >= span.start_utc.timestamp()) & (minutes <= span.end_utc.timestamp())
        clear = np.abs(margin) > 0.5
        # The windows of a date are those that begin in its night: one that had begun before noon and ends
        # before midnight is the night before's.
        begun = np.argmax(margin < 0) if margin[0] >= 0 and margin[:720].min() < 0 else 0
        assert (ours[clear] == (margin[clear] >= 0))[int(np.count_nonzero(clear[:begun])) :].all(), kind
        # No two windows touch: none is cut at midnight.
        ordered = sorted(spans, key=lambda span: span.start_utc)
        assert all(
            after.start_utc - before.end_utc > timedelta(minutes=1) for before, after in itertools.pairwise(ordered)
        )


@pytest.mark.parametrize("night", NIGHTS, ids=lambda night: night.name)
def test_when_to_leave_light_left_and_dark_walks(night):
    for item in _windows(night):
        span = item.window.span
        # The last start leaves the frames their 25 min, or the window is shorter than they are.
        short = span.end_utc - span.start_utc <= FRAMES
        assert bool(item.usable.short) == (short and not span.ends_after)
        assert item.usable.span.start_utc == span.start_utc
        assert item.usable.span.end_utc == (span.end_utc if short or span.ends_after else span.end_utc - FRAMES)
        assert item.take == span
        if not span.starts_before:
            assert item.way.arrival.leave_home_utc == span.start_utc - BEFORE
        walks = ((item.way.walk_in.start_utc, "in"), (item.way.walk_out.start_utc, "out"))
        text = " ".join(reason.text for reason in darkness_reasons(_facts(night), item.way))
        for start, name in walks:
            lowest = _sky(night, start, 49)[0].min()
            if abs(lowest + 6) > 0.05:
                assert (f"the walk {name}" in text) == (lowest < -6)
        # What is left of the light wanted ends with it, and not with the band of the clock.
        moment = span.start_utc if not span.starts_before else span.start_utc + (span.end_utc - span.start_utc) / 2
        facts = _facts(replace(night, day=moment.astimezone(ZoneInfo(night.zone)).date()), moment, item.window.kind)
        light = plan_light(facts)
        assert light.verdict.mark == "holds", light.reasons
        if light.window_end_utc is None:
            assert span.ends_after
        else:
            assert abs((light.window_end_utc - span.end_utc).total_seconds()) < 2


def test_the_light_of_a_whole_bright_night_is_one_window():
    # 66.2° N, 21 June, looking north: the sun stands low, and sinks to −0.4° only, which refraction lifts over
    # the horizon.
    night = Night("bright", 66.2, 15.0, "Europe/Stockholm", date(2026, 6, 21))
    facts = replace(_facts(night), frame=FrameChoices(bearing_deg=0.0))
    found = windows_of_date(
        facts, day_of_light(facts.location, night.day), FRAMES.total_seconds(), None, NOW, DEFAULT_WEIGHTS
    ).windows
    low = [item.window.span for item in found if item.window.kind == LightKind.LOW_BACK_LIGHT]
    assert len(low) == 1
    # The sun is lowest at 01:02 by the clocks there (13 h minus 15° east, and two minutes), on the following day;
    # half the span lies on either side.
    middle = low[0].start_utc + (low[0].end_utc - low[0].start_utc) / 2
    assert abs(middle - datetime(2026, 6, 21, 23, 2, tzinfo=UTC)) < timedelta(minutes=4)
    assert timedelta(hours=5) < low[0].end_utc - low[0].start_utc < timedelta(hours=8)


def test_what_does_not_end_that_day_is_an_ordinary_answer():
    # 78.2° N at midsummer: the sun stands 12 to 35° high, so that it is day for months.
    night = Night("polar day", 78.2, 15.6, "Arctic/Longyearbyen", date(2026, 6, 21))
    light = plan_light(_facts(night, datetime(2026, 6, 21, 10, tzinfo=UTC)))
    assert (light.verdict.mark, light.window_end_utc, light.band) == ("holds", None, "daylight")
    assert "does not end" in light.verdict.text
    # In the polar night the sun stays more than 11° down at Christmas: the dark lasts, the kind of light wanted
    # is not there at noon.
    dark = plan_light(
        _facts(replace(night, day=date(2026, 12, 24)), datetime(2026, 12, 24, 11, tzinfo=UTC), LightKind.BLUE_HOUR)
    )
    assert dark.verdict.mark == "fails"
    assert "nor within a day of it" in " ".join(reason.text for reason in dark.reasons)


def test_low_light_all_night_long():
    # Common practice: at 65 to 66° N in June one low light lasts seven hours. It runs through midnight.
    night = Night("65.6° N in June", 65.6, -18.0, "Atlantic/Reykjavik", date(2026, 6, 21))
    light = plan_light(_facts(night, datetime(2026, 6, 21, 23, 50, tzinfo=UTC)))
    assert light.band == "golden_hour"
    assert light.window_start_utc.date() < light.window_end_utc.date()
    assert timedelta(hours=6) < light.window_end_utc - light.window_start_utc < timedelta(hours=9)


def test_a_time_of_another_day_names_it():
    facts = _facts(NIGHTS[0])
    assert facts.clock(datetime(2026, 11, 25, 6, 55, tzinfo=UTC)) == "06:55 on Wed 25 Nov"
    assert facts.clock(datetime(2026, 11, 24, 17, 3, tzinfo=UTC)) == "17:03"


def test_a_light_that_is_wanted_is_judged():
    night = NIGHTS[0]
    # At noon a blue hour that is wanted is not there; by ephem the sun passes −4° and −6° in the minutes that are
    # named.
    sun = _sky(night, datetime(2026, 11, 24, 16, tzinfo=UTC), 60)[0]
    passes = [f"16:{int(np.argmax(sun < level)) - 1}" for level in (-4, -6)]
    noon = plan_light(_facts(night, datetime(2026, 11, 24, 12, tzinfo=UTC), LightKind.BLUE_HOUR))
    assert (noon.verdict.mark, noon.verdict.text) == ("fails", "09:03 to 14:55, daylight, not the blue hour wanted")
    assert " to ".join(passes) in " ".join(reason.text for reason in noon.reasons)
    there = plan_light(_facts(night, datetime(2026, 11, 24, 16, 30, tzinfo=UTC), LightKind.BLUE_HOUR))
    assert (there.verdict.mark, there.ends_name) == ("holds", "blue_hour")
    # A light with a side, and no bearing said and nothing to look at: it cannot be judged.
    bare = replace(_facts(night, datetime(2026, 11, 24, 15, tzinfo=UTC), LightKind.LOW_BACK_LIGHT), elements=())
    assert plan_light(bare).verdict.mark == "unsaid"


@settings(max_examples=120, deadline=None)
@given(
    st.sampled_from(NIGHTS), st.integers(0, 1439), st.sampled_from(tuple(LightKind)), st.floats(0, 359),
)  # fmt: skip
def test_verdict_and_list_of_windows_agree_on_the_light_wanted(night, minute, kind, bearing):
    """The light holds exactly while the shot's time lies in a window of the kind that is wanted."""
    midnight = datetime.combine(night.day, datetime.min.time(), tzinfo=ZoneInfo(night.zone)).astimezone(UTC)
    moment = midnight + timedelta(minutes=minute, seconds=31)
    if moment.astimezone(ZoneInfo(night.zone)).date() != night.day:
        return
    facts = replace(_facts(night, moment, kind), frame=FrameChoices(bearing_deg=bearing))
    light = plan_light(facts)
    found = windows_of_date(facts, day_of_light(facts.location, night.day), 0.0, None, NOW, DEFAULT_WEIGHTS).windows
    mine = [item.window.span for item in found if item.window.kind == kind]
    edges = [edge for span in mine for edge in (span.start_utc, span.end_utc)]
    if any(abs((edge - moment).total_seconds()) < 32 for edge in edges):
        return
    there = [span for span in mine if span.start_utc <= moment <= span.end_utc]
    assert (light.verdict.mark == "holds") == bool(there)
    if there and light.window_end_utc is not None:
        assert abs((light.window_end_utc - there[0].end_utc).total_seconds()) < 2


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(NIGHTS), st.sampled_from(tuple(LightKind)), st.floats(0, 359))
def test_the_outlook_takes_a_window_of_the_list(night, kind, bearing):
    facts = replace(_facts(night, None, kind), frame=FrameChoices(bearing_deg=bearing))
    day = day_of_light(facts.location, night.day)
    chance = best_outlook(facts, [day], 600.0, [], None, NOW, DEFAULT_WEIGHTS)
    windows = [
        item
        for item in windows_of_date(facts, day, 600.0, None, NOW, DEFAULT_WEIGHTS).windows
        if item.window.kind == kind
    ]
    lasting = [item for item in windows if item.take.end_utc - item.take.start_utc > timedelta(minutes=4)]
    if isinstance(chance, str):
        assert not lasting
    else:
        nearest = min(windows, key=lambda item: abs(item.take.start_utc - chance.span.start_utc))
        assert (nearest.usable.span, nearest.take) == (chance.span, chance.take)
