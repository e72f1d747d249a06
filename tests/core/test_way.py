"""The way in and out, by hand: when each leg is, which of them is dark, which the tide closes."""

from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, timedelta

import ephem
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lucid_ridge.core.facts.choices import LightChoices
from lucid_ridge.core.facts.place import Approach, Hazard, HazardKind, Location
from lucid_ridge.core.facts.shot import ShotFacts
from lucid_ridge.core.light.skyline import LEVEL
from lucid_ridge.core.planning.way.closure_reasons import closure_reasons
from lucid_ridge.core.planning.way.hazards import hazard_reasons
from lucid_ridge.core.planning.way.plan import darkness_reasons, plan_way
from lucid_ridge.core.tides.harmonics import HarmonicConstants, tide_height_m, tide_rate_m_per_h

# 4 km without ascent: 48 min by Naismith's rule (5 km an hour) on a path.
WALK = Approach(walk_m=4000.0, ascent_m=0.0, set_up_min=20.0)


def _facts(moment, latitude=54.5, longitude=-3.2, zone="Europe/London", approach=WALK, tide=None, hazards=()):
    here = Location(
        name="Here",
        latitude_deg=latitude,
        longitude_deg=longitude,
        elevation_m=0.0,
        zone=zone,
        skyline=LEVEL,
        tide=tide,
        tide_margin_m=0.0,
        tide_margin_min=0.0,
    )
    return ShotFacts(
        location=here, approach=approach, hazards=hazards, light=LightChoices(date_local=moment.date(), time_utc=moment)
    )


def test_the_legs_follow_each_other():
    moment = datetime(2026, 11, 24, 15, 0, tzinfo=UTC)
    way = plan_way(_facts(moment), 25 * 60.0)
    assert (way.walk_in.start_utc, way.walk_in.end_utc) == (
        moment - timedelta(minutes=68),
        moment - timedelta(minutes=20),
    )
    # 25 min of frames and ten to pack, then 48 min back.
    assert (way.walk_out.start_utc, way.walk_out.end_utc) == (
        moment + timedelta(minutes=35),
        moment + timedelta(minutes=83),
    )
    assert (way.stay.start_utc, way.stay.end_utc) == (way.walk_in.end_utc, way.walk_out.start_utc)


@pytest.mark.parametrize(
    ("moment", "latitude", "longitude", "zone", "dark"),
    [
        # 3 in the morning in November: both walks.
        (datetime(2026, 11, 24, 3, 0, tzinfo=UTC), 54.5, -3.2, "Europe/London", ("in", "out")),
        # Sunrise there is at 07:57, civil dawn at 07:18 (any almanac): one leaves at 06:50 for 07:58.
        (datetime(2026, 11, 24, 7, 58, tzinfo=UTC), 54.5, -3.2, "Europe/London", ("in",)),
        # Sunset 15:56, civil dusk 16:35: for 16:00 one comes back from 16:10 to 16:58.
        (datetime(2026, 11, 24, 16, 0, tzinfo=UTC), 54.5, -3.2, "Europe/London", ("out",)),
        # Noon; and midsummer at 64.5° N, where the sun at midnight stands 2° down: no lamp is needed.
        (datetime(2026, 11, 24, 12, 0, tzinfo=UTC), 54.5, -3.2, "Europe/London", ()),
        (datetime(2026, 6, 21, 0, 30, tzinfo=UTC), 64.5, -20.0, "Atlantic/Reykjavik", ()),
        # Polar night at 78.2° N: at noon in December the sun is 12° down.
        (datetime(2026, 12, 21, 11, 0, tzinfo=UTC), 78.2, 15.6, "Arctic/Longyearbyen", ("in", "out")),
        # The southern summer, across the date line.
        (datetime(2026, 12, 21, 2, 0, tzinfo=UTC), -45.0, 170.0, "Pacific/Auckland", ()),
    ],
)  # fmt: skip
def test_which_walk_is_dark(moment, latitude, longitude, zone, dark):
    facts = _facts(moment, latitude, longitude, zone)
    found = " ".join(reason.text for reason in darkness_reasons(facts, plan_way(facts, 0.0)))
    assert tuple(name for name in ("in", "out") if f"the walk {name}" in found) == dark


@settings(max_examples=60)
@given(st.integers(0, 365 * 24 - 1), st.floats(-65, 78))
def test_darkness_against_another_library(hour, latitude):
    """The sun's airless altitude by ephem through both walks, minute by minute."""
    moment = datetime(2026, 1, 1, tzinfo=UTC) + timedelta(hours=hour)
    facts = _facts(moment, latitude)
    way = plan_way(facts, 0.0)
    text = " ".join(reason.text for reason in darkness_reasons(facts, way))
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.pressure = str(latitude), "-3.2", 0
    for name, leg in (("in", way.walk_in), ("out", way.walk_out)):
        lowest = 90.0
        for minute in range(49):
            observer.date = ephem.Date((leg.start_utc + timedelta(minutes=minute)).replace(tzinfo=None))
            lowest = min(lowest, ephem.Sun(observer).alt * 180 / 3.141592653589793)
        if abs(lowest + 6) > 0.05:
            assert (f"the walk {name}" in text) == (lowest < -6)


# A tide of one constituent with a period of 12 h (30° an hour), high half a minute after midnight and noon UTC: 2 +
# 2·cos(2πt/12 h) metres.
CONSTANTS = HarmonicConstants(2.0, (("S2", 2.0, 0.25),))


@dataclass(frozen=True)
class Bar:
    name: str = "Bar"
    told: str = "of one wave"

    def covers(self, start_utc, end_utc):
        return True

    def height_m(self, seconds):
        return tide_height_m(CONSTANTS, seconds)

    def rate_m_per_h(self, seconds):
        return tide_rate_m_per_h(CONSTANTS, seconds)


TIDE = Bar()
BAR = Hazard(HazardKind.TIDE, cut_off_m=3.0)


def _tide_at(hours):
    """Above 3 m while cos > 1/2: from two hours before high water to two hours after it, 10:00 to 14:00."""
    moment = datetime(2026, 3, 1, tzinfo=UTC) + timedelta(hours=hours)
    facts = _facts(moment, zone="UTC", tide=TIDE, approach=WALK, hazards=(BAR,))
    return facts, plan_way(facts, 30 * 60.0)


@pytest.mark.parametrize(
    ("hours", "severity", "words"),
    [
        # Walk in 07:52 to 08:40, out 09:40 to 10:28: the way out is closed.
        (9.0, "fails", "closes the way out, 09:40 to 10:28"),
        # In 12:22 to 13:10: the way in is closed; at that hour itself too.
        (13.5, "fails", "closes the way in"),
        (12.0, "fails", "closes the way in, 10:52 to 11:40 and the way out, 12:40 to 13:28"),
        # Out from 07:40 to 08:28: before it, with the last way back 48 min before ten.
        (7.0, "caution", "Start back by 09:12"),
        # In from 14:52: it is open again.
        (16.0, "caution", "open again when you walk in at 14:52"),
    ],
)
def test_a_tide_that_closes_the_way(hours, severity, words):
    facts, way = _tide_at(hours)
    found = [reason for reason in closure_reasons(facts, way) if "10:00 to 14:00" in reason.text]
    assert [reason.severity for reason in found] == [severity]
    assert words in found[0].text


def test_a_stay_that_outlasts_the_cut_off_is_said():
    facts, _ = _tide_at(9.0)
    way = plan_way(replace(facts, approach=Approach(walk_m=400.0, ascent_m=0.0)), 6 * 3600.0)
    found = next(reason for reason in closure_reasons(facts, way) if "10:00 to 14:00" in reason.text)
    assert (found.severity, "no way back" in found.text) == ("tight", True)


def test_without_a_time_or_a_tide_it_is_only_said():
    facts = ShotFacts(
        location=Location(
            name="Here",
            latitude_deg=54.0,
            longitude_deg=-3.0,
            elevation_m=0.0,
            zone="UTC",
            skyline=LEVEL,
            tide=TIDE,
            tide_margin_m=0.0,
            tide_margin_min=0.0,
        ),
        hazards=(BAR,),
    )
    assert plan_way(facts, 0.0) is None
    assert "cuts this place off above 3.0 m" in hazard_reasons(facts, None, None)[0].text
    dry = replace(facts, location=replace(facts.location, tide=None))
    assert "read a tide table" in hazard_reasons(dry, None, None)[0].text


def test_the_day_of_the_shot_does_not_matter_to_the_way():
    """Half past midnight on the night the clocks go forward: the walk in is still 48 min of real time."""
    moment = datetime(2026, 3, 29, 0, 30, tzinfo=UTC)
    way = plan_way(_facts(moment), 3600.0)
    assert way.walk_out.end_utc - way.walk_out.start_utc == timedelta(minutes=48)
    assert date(2026, 3, 28) == way.walk_in.start_utc.date()
