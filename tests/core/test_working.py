"""Workings: their numbers give the figure that the plan has, over random shots; and by hand."""

import math
import random
import re

import pytest
from sample_shot import FULL

from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.planning.exposure.reading_in_force import reading_in_force
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.units.lengths import format_distance
from lucid_ridge.core.units.markings import spoken_shutter
from lucid_ridge.core.working.catalogue import workings


def _of(facts):
    plan = plan_shot(facts)
    return {item.figure: item for item in workings(reading_in_force(facts), plan)}, plan


def _numbers(text):
    return [float(item) for item in re.findall(r"\d+(?:\.\d+)?", text.replace("2.44", "").replace("²", ""))]


def test_the_numbers_give_the_figures_of_the_plan():
    chance = random.Random(3)
    for _ in range(30):
        facts = FULL.choosing(
            f_number=chance.choice([2.8, 4.0, 5.6, 8.0, 11.0]),
            focal_mm=chance.choice([24.0, 35.0, 50.0, 70.0]),
            iso=chance.choice([100.0, 400.0]),
            metered_shutter_s=chance.choice([1 / 60, 0.5, None]),
        )
        found, plan = _of(facts)
        depth = plan.depth
        focal, marked, allowed, again = _numbers(found["hyperfocal"].with_numbers)
        assert (focal * focal / (marked * allowed) + again) / 1000 == pytest.approx(depth.hyperfocal_m, rel=2e-3)
        assert found["hyperfocal"].result == format_distance(depth.hyperfocal_m)
        nanometres, effective = _numbers(found["diffraction"].with_numbers)
        assert 2.44 * nanometres * 1e-6 * effective == pytest.approx(depth.airy_mm, rel=2e-3)
        one, other = _numbers(found["worst_blur"].with_numbers)
        assert math.hypot(one, other) == pytest.approx(1000 * depth.worst_blur_mm, abs=0.1)
        a, b = _numbers(found["effective_aperture"].with_numbers)
        assert a * b == pytest.approx(depth.effective_f_number, rel=1e-3)
        assert found["shutter"].result == spoken_shutter(plan.exposure.shutter_s)
        stops = sum(line.stops for line in plan.exposure.ledger.lines)
        first = plan.exposure.ledger.lines[0].shutter_s
        assert first * 2**stops == pytest.approx(plan.exposure.ledger.shutter_s, rel=1e-2)


def test_light_by_hand():
    found, plan = _of(changed(FULL, readings=(), forecast=None))
    lux = float(re.search(r"([\d.]+) lux", found["light"].with_numbers)[1])
    # ISO 2720: EV at ISO 100 is log2(E / 2.5).
    assert math.log2(lux / 2.5) == pytest.approx(plan.light.ev100, abs=0.06)


def test_where_numbers_came_from():
    found, _ = _of(FULL.choosing(f_number=None))
    sources = {item.name: item.source for item in found["worst_blur"].given}
    assert sources["c"].startswith("sharpness by")
    aperture = next(item for item in found["effective_aperture"].given if item.name == "N")
    assert aperture.source == "chosen by the application"
    metered, _ = _of(FULL)
    assert metered["shutter"].given[0].source.startswith("metered")
    predicted, _ = _of(FULL.choosing(metered_shutter_s=None))
    assert predicted["shutter"].given[0].source == "estimated from sun and forecast"


def test_a_working_is_sentences_too():
    found, _ = _of(FULL)
    for item in found.values():
        assert item.lines[0].startswith(f"{item.name}: {item.result} = ")
        assert all(line.endswith((".", "!", "?")) for line in item.lines)


def test_without_body_place_or_light_there_is_none():
    assert _of(changed(FULL, body=None, lens=None, location=None))[0] == {}
