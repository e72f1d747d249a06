"""A simulated season of forty field sessions with planted errors, through ticks, files, sorting and log: what it
teaches is what was planted, and without planted errors it is silent.
"""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
import pytest
from sqlalchemy import delete, select

from lucid_ridge.core.exposure.motion import LookName
from lucid_ridge.core.facts.calibrations import CalibrationKind, CalibrationState
from lucid_ridge.demo.season import Planted, TimeOut, live
from lucid_ridge.operations.accounts.photographers import local_photographer
from lucid_ridge.operations.log import lessons as lesson_operations
from lucid_ridge.operations.log.figures import log_figures
from lucid_ridge.store.kit import Filter
from lucid_ridge.store.log import Calibration, FieldEventRow, LogEntry, LogFrame
from lucid_ridge.store.shots import Shot

TODAY = datetime(2026, 11, 20, 12, tzinfo=UTC)
THIRTEEN_HOURS = 13 * 3600 - 37.0


def season(session):
    """Return forty field sessions: long exposures, polarised water at many shutter times, bursts by hand, and light
    that was predicted only.
    """
    shots = {shot.name: shot for shot in session.scalars(select(Shot))}
    outs = []
    for number in range(10):
        days = 200 - 4 * number
        outs += [
            TimeOut(shots["Posts at the ebb"], days, "sunset", -25.0 + number),
            TimeOut(
                shots["Brown water over the sill"],
                days,
                "sunrise",
                60.0 + 5 * number,
                shutters_s=[2.0 ** ((number % 3) / 3 + step) for step in (-6, -5, -4, -3, -2, -1, 0)],
                wanted_look=LookName.TEXTURED,
            ),
            TimeOut(
                shots["Layered riggs"],
                days,
                "sunset",
                -14.0 - number,
                by_hand=[2.0 ** -(step / 2 + (number % 4) / 4) for step in range(8, 17)],
            ),
            TimeOut(shots["Towers from the steppe"], days, "sunrise", 12.0 + 2 * number, metered=False),
        ]
    return outs


@pytest.fixture
def lived(app):
    """Return a function that lives through the season with what is planted, on the demo."""
    session = app.extensions["sessions"]()
    # The demo has a season of its own, with other errors planted.
    for kind in (LogFrame, LogEntry, Calibration, FieldEventRow):
        session.execute(delete(kind))

    def run(planted, outs=None, seed=7):
        owner = local_photographer(session).id
        return (
            session,
            owner,
            live(session, owner, season(session) if outs is None else outs, planted, TODAY, seed, points=256),
        )

    yield run
    session.close()


def filter_id(session, name):
    return session.scalar(select(Filter.id).where(Filter.name == name))


def location_id(session, name):
    return session.scalars(select(Shot).where(Shot.name == name)).one().viewpoint.location_id


def test_what_was_planted_is_found(lived, app):
    session = app.extensions["sessions"]()
    ten, polariser = filter_id(session, "10-stop ND"), filter_id(session, "Polariser")
    steppe = location_id(session, "Towers from the steppe")
    session.close()
    planted = Planted(
        {ten: 10.3, polariser: 1.9},
        {steppe: -0.7},
        taste_stops=0.6,
        hold_stops=1 / 1.2 + 1.4,
        clock_s=THIRTEEN_HOURS,
        water_factor=1.3,
        walk_factor=1.2,
        set_up_factor=1.4,
        change_factor=1.5,
    )
    session, owner, times_out = lived(planted)

    # Matching: at least 98 of 100 right, none silently wrong, the clock thirteen hours ahead found.
    truth = {name: key for out in times_out for name, key in out.files.items()}
    entry_of = {name: out.entry_id for out in times_out for name in out.files}
    rows = {row.file_name: row for row in session.scalars(select(LogFrame).where(LogFrame.sha256.is_not(None)))}
    assert set(truth) == set(rows)
    right = sum(
        rows[name].planned_key == key and (key is None or rows[name].entry_id == entry_of[name])
        for name, key in truth.items()
    )
    silent = [
        name
        for name, key in truth.items()
        if rows[name].planned_key not in (None, key) and rows[name].matched == "sure"
    ]
    assert right / len(truth) >= 0.98
    assert silent == []

    # Lessons: what was planted, within what was asked.
    found = {(item.kind, item.subject): item for item in lesson_operations.learn(session, owner).calibrations}
    cost = {row.subject: row for row in found.values() if row.kind == CalibrationKind.FILTER_COST}
    assert cost[f"filter:{ten}"].value == pytest.approx(10.3, abs=0.1)
    assert cost[f"filter:{polariser}"].value == pytest.approx(1.9, abs=0.2)
    assert set(cost) == {f"filter:{ten}", f"filter:{polariser}"}
    light = found[CalibrationKind.LIGHT_OFFSET, f"place:{steppe}"]
    assert light.value == pytest.approx(-0.7, abs=0.25)
    looks = found[CalibrationKind.LOOK_BAND, "water"]
    assert 2 ** abs(looks.value - 0.6) <= 1.15
    water = next(row for row in found.values() if row.kind == CalibrationKind.WATER_SPEED)
    assert 2**water.value == pytest.approx(1.3, rel=0.1)
    for kind, factor in (
        (CalibrationKind.WALKING, 1.2),
        (CalibrationKind.SET_UP, 1.4),
        (CalibrationKind.FILTER_CHANGE, 1.5),
    ):
        row = found[kind, str(kind)]
        assert row.value == pytest.approx(factor, rel=0.15)
        assert row.low <= factor <= row.high
    hand = found[CalibrationKind.HAND_HELD, "hand"]
    assert hand.low <= 1.4 <= hand.high

    # Hit rates: what the hand really does lies inside the interval of each class that has tries enough.
    figures = log_figures(session, owner)
    inside = tried = 0
    for item in figures.held:
        if item.tries >= 8:
            real = 1 / (1 + np.exp(1.2 * (item.over_stops - planted.hold_stops)))
            tried += 1
            inside += item.interval.low <= real <= item.interval.high
    assert tried >= 2
    assert inside >= tried - 1

    # Nothing is used before it is switched on; then the predictions come near.
    assert all(row.state == CalibrationState.PROPOSED for row in found.values())
    for row in found.values():
        lesson_operations.switch(session, owner, row.id, CalibrationState.ON)
    before = figures.errors[-1].middle
    shots = {shot.name: shot for shot in session.scalars(select(Shot))}
    later = [
        TimeOut(shots["Towers from the steppe"], 90 - 3 * number, "sunrise", 10.0 + 2 * number, metered=False)
        for number in range(10)
    ]
    later += [TimeOut(shots["Posts at the ebb"], 45 - number, "sunset", -25.0) for number in range(5)]
    lived(planted, later, seed=8)
    after = log_figures(session, owner).errors[-1].middle
    assert after <= 1 / 3
    assert after <= before + 0.05


def test_without_planted_errors_nothing_is_proposed(lived):
    session, owner, _ = lived(Planted())
    found = lesson_operations.learn(session, owner).calibrations
    assert [(row.kind, row.name, row.value) for row in found] == []
    # The entries and their frames are all there.
    assert len(session.scalars(select(LogEntry.id).where(LogEntry.planned.is_not(None))).all()) >= 40
