"""Facts of bodies that exposure needs: extended ISO, stabiliser, flash synchronisation."""

from dataclasses import replace

import pytest
from sample_shot import BODY, FULL

from lucid_ridge.core.facts.accessory import Accessory, AccessoryKind
from lucid_ridge.core.facts.kit import FilmKind
from lucid_ridge.core.facts.settings import settings_of
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.planning.focus.holding import slowest_by_hand_s
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.solving.space import space_of

EXTENDED = replace(BODY, extended_iso_min=50.0, extended_iso_max=102_400.0)


def _exposure(facts, code):
    return [reason for reason in plan_shot(facts).exposure.reasons if reason.code == code]


def test_the_extended_range_can_be_set_and_costs_highlights():
    assert (EXTENDED.iso_range, BODY.iso_range) == ((50, 102_400), (100, 25_600))
    assert EXTENDED.takes_iso(50) and not BODY.takes_iso(50)
    assert EXTENDED.extends_iso(50) and EXTENDED.extends_iso(51_200) and not EXTENDED.extends_iso(100)
    # Base ISO with a stop more light: the highlights clip a stop earlier (common practice).
    assert EXTENDED.held_stops(50) == pytest.approx(BODY.dynamic_range_stops - 1)
    low = changed(FULL, body=EXTENDED, iso=50.0)
    (words,) = _exposure(low, "exposure.extended_iso")
    assert (words.severity, words.figures["lost_stops"]) == ("caution", pytest.approx(1))
    assert not _exposure(changed(low, iso=100.0), "exposure.extended_iso")


def test_the_solver_leaves_the_extended_range_alone():
    facts = changed(FULL, body=EXTENDED)
    isos = space_of(facts, plan_shot(facts)).isos
    assert min(isos) >= EXTENDED.base_iso and max(isos) <= EXTENDED.max_iso
    own = changed(facts, iso=50.0)
    assert 50.0 in space_of(own, plan_shot(own)).isos


def _limit(**more):
    facts = changed(FULL, **{"hold": "hand", **more})
    settings = settings_of(facts)
    assert settings is not None
    return slowest_by_hand_s(facts, settings, None)


def test_a_stabiliser_lengthens_the_hand_held_limit():
    plain = _limit()
    # Two stops are four times as long (CIPA DC-011 counts in stops).
    assert _limit(body=replace(BODY, stabiliser_stops=2.0)) == pytest.approx(4 * plain)
    # Never beyond a second, however many stops.
    assert _limit(body=replace(BODY, stabiliser_stops=12.0)) == pytest.approx(1.0)
    # It does not hold a boat still, nor a subject close up.
    steady = replace(BODY, stabiliser_stops=5.0)
    assert _limit(body=steady, hold="boat") == pytest.approx(_limit(hold="boat"))
    assert _limit(body=steady, magnification=1.0) == pytest.approx(_limit(magnification=1.0))


FLASH = Accessory(1, "Flash", AccessoryKind.FLASH, guide_number_m=24.0, recycle_s=3.0)


def _flash(body, shutter_s):
    lit = changed(
        FULL,
        body=body,
        accessories=(FLASH,),
        flash_distance_m=1.0,
        flash_shutter_s=shutter_s,
        filters=(),
        time_utc=FULL.light.time_utc,
    )
    return {reason.code: reason for reason in plan_shot(lit).exposure.reasons if reason.code.startswith("flash.")}


def test_a_flash_synchronises_up_to_the_bodys_limit():
    body = replace(BODY, flash_sync_s=2 ** (-23 / 3))
    assert _flash(body, 1 / 500)["flash.faster_than_sync"].severity == "fails"
    # 1/200 as marked, and everything longer, reaches the whole frame.
    for slow in (2 ** (-23 / 3), 1 / 160, 1 / 60):
        assert "flash.faster_than_sync" not in _flash(body, slow)
    # A leaf shutter synchronises at all its times.
    assert "flash.faster_than_sync" not in _flash(replace(BODY, flash_sync_s=1 / 8192), 1 / 500)


def test_an_unknown_limit_is_judged_only_where_most_bodies_reach_it():
    assert _flash(BODY, 1 / 500)["flash.flash_sync_not_known"].severity == "unsaid"
    assert "flash.flash_sync_not_known" not in _flash(BODY, 2 ** (-23 / 3))


def test_a_film_has_no_extended_range_to_speak_of():
    film = replace(EXTENDED, film_exponent=1.3, film=FilmKind.NEGATIVE)
    assert not _exposure(changed(FULL, body=film, iso=50.0), "exposure.extended_iso")
