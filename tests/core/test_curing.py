"""Cures: after the change the reason is gone, over random shots; and by hand."""

import random

import pytest
from sample_shot import FULL

from lucid_ridge.core.curing.cures import cures, identity
from lucid_ridge.core.curing.moves import moves_for
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.planning.plan.shot_plan import plan_shot

_OUGHT = ("fails", "tight")


def _ought(facts):
    return {identity(reason) for reason in plan_shot(facts).because if reason.severity in _OUGHT}


def test_after_the_change_the_reason_is_gone():
    chance = random.Random(7)
    cured = 0
    for _ in range(25):
        facts = FULL.choosing(
            pitch_deg=chance.uniform(-40, 40),
            roll_deg=chance.choice([0.0, 0.0, 3.0]),
            camera_height_m=chance.choice([0.3, 0.8, 1.5]),
            f_number=chance.choice([2.8, 5.6, 11.0, 16.0]),
            iso=chance.choice([100.0, 800.0, 6400.0]),
        )
        before = plan_shot(facts).because
        failed = {identity(reason) for reason in before if reason.severity == "fails"}
        for cure in cures(facts):
            after = plan_shot(cure.move.applied_to(facts)).because
            assert identity(cure.reason) not in {identity(item) for item in after if item.severity in _OUGHT}
            assert {identity(item) for item in after if item.severity == "fails"} <= failed
            assert cure.move.words
            cured += 1
    assert cured > 15


def test_a_leaning_camera_is_levelled():
    leaning = FULL.choosing(roll_deg=3.0)
    found = {cure.reason.code: cure.move for cure in cures(leaning)}
    assert found["composition.not_level"].choices == {"roll_deg": 0.0}


def test_an_element_below_the_frame_takes_the_least_tilt():
    # Tilted up so far that the foreground is out of the frame; every tilt nearer to where it was is tried first.
    up = FULL.choosing(pitch_deg=30.0)
    cure = next((item for item in cures(up) if item.reason.code == "frame.out_of_frame"), None)
    assert cure is not None
    tried = [move for move in moves_for(up, cure.reason.dial) if "pitch_deg" in move.choices]
    if "pitch_deg" in cure.move.choices:
        nearer = tried[: tried.index(cure.move)]
        assert all(
            identity(cure.reason) in _ought(move.applied_to(up)) for move in nearer if move.choices["pitch_deg"] < 30
        )


@pytest.mark.parametrize("dial", ["near_m", "card", "viewpoint_id", "elements", "subject_depth_mm"])
def test_wishes_and_facts_are_not_changed(dial):
    assert all(dial not in move.choices for move in moves_for(FULL, dial))


def test_nothing_known_has_no_cure():
    assert cures(changed(FULL, body=None, lens=None)) == ()
