"""For how many days a tide is known: worked by hand against a table of two waters to five."""

from datetime import UTC, date, datetime, timedelta

import pytest

from lucid_ridge.core.facts.choices import LightChoices
from lucid_ridge.core.facts.place import Hazard, HazardKind, Location
from lucid_ridge.core.facts.shot import ShotFacts
from lucid_ridge.core.light.skyline import LEVEL
from lucid_ridge.core.planning.way.tide_known import days_of_known_tide
from lucid_ridge.core.tides.table import TideTable

START = datetime(2026, 12, 8, 18, tzinfo=UTC)
# Waters every six hours from 18:00 on the 8th to 06:00 on the 11th: the 9th and the 10th are known from midnight to
# midnight.
TABLE = TideTable(
    "Bar", tuple(((START + timedelta(hours=6 * turn)).timestamp(), 4.0 if turn % 2 else 1.0) for turn in range(11))
)
BAR = Hazard(HazardKind.TIDE, cut_off_m=2.5)
WINTER = Hazard(HazardKind.TIDE, cut_off_m=2.5, from_month=11, to_month=3)


def _facts(tide, *hazards, **light):
    return ShotFacts(
        location=Location("Bar", 54.5, -3.2, 0.0, "UTC", LEVEL, tide), hazards=hazards, light=LightChoices(**light)
    )


def _dates(first, count):
    return [first + timedelta(days=turn) for turn in range(count)]


@pytest.mark.parametrize(
    ("facts", "known"),
    [
        (_facts(TABLE, BAR), 2),
        (_facts(None, BAR), 0),
        # Nothing asks for a tide.
        (_facts(TABLE), None),
        (_facts(TABLE, Hazard(HazardKind.BOG)), None),
        # The picture asks for it, although nothing cuts the place off.
        (_facts(TABLE, water_high_m=2.0), 2),
        (_facts(None, water_high_m=2.0), 0),
        (ShotFacts(), None),
    ],
)
def test_four_days_around_a_table(facts, known):
    assert days_of_known_tide(facts, _dates(date(2026, 12, 8), 4)) == known


def test_a_hazard_asks_in_its_months_only():
    # From 30 March to 2 April: on the two days in April nothing asks for the tide.
    assert days_of_known_tide(_facts(None, WINTER), _dates(date(2027, 3, 30), 4)) == 2
    assert days_of_known_tide(_facts(None, WINTER), _dates(date(2027, 7, 1), 7)) is None
