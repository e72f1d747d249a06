"""Facts are declared once: names, bounds, choices, labels, and changes that know what is declared."""

import dataclasses
import math
import typing

import pytest

from lucid_ridge.core.facts.changes import Changes
from lucid_ridge.core.facts.choices import (
    FRAMED,
    GROUPS,
    BracketMode,
    DepthChoices,
    FrameChoices,
    ShotHead,
    group_of,
    label_of,
    path_of,
    shot_facts_declared,
)
from lucid_ridge.core.facts.declaring import Fact, Kind, facts_of
from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.labels import label_in
from lucid_ridge.core.facts.shot import ShotFacts, changed, facts_from
from lucid_ridge.core.facts.words import choice_words
from lucid_ridge.core.framing.composition import Guide
from lucid_ridge.core.framing.solids import Shape

BODY = Body(
    id=1,
    name="Body",
    sensor_width_mm=36,
    sensor_height_mm=24,
    pixels_wide=6000,
    pixels_high=4000,
    base_iso=100,
    max_iso=25600,
    fastest_shutter_s=1 / 8192,
    slowest_shutter_s=32,
    has_bulb=False,
)
ZOOM = Lens(1, "Zoom", 24, 70, 2.8, 22.6, 380)


def test_every_choice_of_every_group_is_declared_and_no_name_stands_twice():
    names = [item.name for kind in (ShotHead, *GROUPS.values()) for item in dataclasses.fields(kind)]
    assert len(names) == len(set(names)) > 60
    assert set(shot_facts_declared()) == set(names)


@pytest.mark.parametrize("name", sorted(shot_facts_declared()))
def test_a_fact_has_a_label_and_a_default_within_its_bounds(name):
    item = shot_facts_declared()[name]
    assert item.label and "_" not in item.label
    if item.fact.low is not None:
        assert item.fact.low < item.fact.high < math.inf
        if item.default is not None:
            assert item.fact.low <= item.default <= item.fact.high
    if item.choices and item.default is not None:
        assert item.default in item.choices
    assert item.optional == (item.default is None and not item.required)


def test_numbers_carry_their_unit_in_the_name():
    units = {
        Kind.LENGTH_M: "_m",
        Kind.LENGTH_MM: "_mm",
        Kind.DISTANCE: "_m",
        Kind.ANGLE: "_deg",
        Kind.BEARING: "_deg",
        Kind.SHUTTER: "_s",
        Kind.SECONDS: "_s",
        Kind.EV: "_ev",
    }
    checked = [item.name.endswith(units[item.kind]) for item in shot_facts_declared().values() if item.kind in units]
    assert len(checked) > 25 and all(checked)


def test_a_number_without_bounds_is_no_declaration():
    @dataclasses.dataclass(frozen=True)
    class Loose:
        width_mm: typing.Annotated[float, Fact(Kind.LENGTH_MM)] = 1.0

    with pytest.raises(TypeError, match="width_mm"):
        facts_of(Loose)


def test_paths_and_labels():
    assert (group_of("f_number"), path_of("f_number"), label_of("f_number")) == ("depth", "depth.f_number", "aperture")
    assert (path_of("name"), path_of("filters"), path_of("clock_local")) == (
        "name",
        "exposure.filters",
        "light.clock_local",
    )
    assert label_of("left_over_mm") == "left over"
    assert {"body_id", "lens_id", "focal_mm", "crop_x"} <= set(FRAMED)
    assert "f_number" not in FRAMED and "guide" not in FRAMED


@pytest.mark.parametrize(
    ("thing", "name", "words"),
    [
        ("shot", "f_number", "aperture"),
        ("shot", "body_id", "body"),
        ("lens", "closest_focus_mm", "closest focus"),
        ("element", "width_m", "width"),
        ("body", "name", "name"),
        ("location", "elevation_m", "elevation"),
        ("location", "drive_min", "drive"),
        ("viewpoint", "ground_slope_deg", "ground slope"),
    ],
)
def test_what_values_are_called(thing, name, words):
    assert label_in(thing, name) == words


@pytest.mark.parametrize(
    ("item", "words"),
    [
        (BracketMode.NONE, "one frame"),
        (Guide.NONE, "none"),
        (Guide.GRID, "squares"),
        (Shape.POST, "post"),
        (Shape.POSTS, "row of posts"),
    ],
)
def test_what_choices_are_called(item, words):
    """Two enumerations may have members of the same text, which Python takes for equal."""
    assert choice_words(item) == words


def test_changes_know_what_is_declared():
    changes = Changes(DepthChoices, {"f_number": 8.0, "near_m": None})
    before = DepthChoices(near_m=2.0, far_m=9.0)
    assert changes.applied_to(before) == DepthChoices(near_m=None, far_m=9.0, f_number=8.0)
    assert before.near_m == 2.0
    assert (changes.number("f_number"), changes.number("near_m"), changes.number("far_m")) == (8.0, None, None)
    assert "near_m" in changes and "far_m" not in changes
    assert Changes(FrameChoices).applied_to(FrameChoices(pitch_deg=3)) == FrameChoices(pitch_deg=3)
    for wrong in (
        lambda: Changes(DepthChoices, {"focal_mm": 24.0}),
        lambda: changes.number("focal_mm"),
        lambda: changes.also(iso=100),
    ):
        with pytest.raises(TypeError):
            wrong()


def test_facts_from_one_flat_list():
    facts = facts_from(body=BODY, focal_mm=35.0, iso=200.0, sharp_element_ids=frozenset({3}))
    assert (facts.frame.focal_mm, facts.exposure.iso, facts.body) == (35.0, 200.0, BODY)
    assert changed(facts, iso=400.0).exposure.iso == 400 and facts.exposure.iso == 200
    assert facts_from() == ShotFacts()
    with pytest.raises(TypeError, match="shininess"):
        facts_from(shininess=3)


@pytest.mark.parametrize(
    ("shutter_s", "can"),
    [
        (1 / 8192, True),
        (1 / 8000, True),
        (1 / 16000, False),
        (32.0, True),
        (30.0, True),
        (64.0, False),
        (math.inf, False),
    ],
)
def test_what_a_body_can_time(shutter_s, can):
    # Markings are rounded: 1/8000 is engraved for 1/8192, 30 for 32 (common practice).
    assert BODY.can_time(shutter_s) is can


def test_bulb_takes_a_day_and_no_more():
    bulb = dataclasses.replace(BODY, has_bulb=True)
    assert bulb.can_time(64.0) and bulb.can_time(86_400.0) and not bulb.can_time(90_000.0)
    assert bulb.needs_bulb(64.0) and not bulb.needs_bulb(32.0)


def test_what_a_lens_can_be_set_to():
    assert [ZOOM.takes_focal(focal) for focal in (23.9, 24, 70, 70.1)] == [False, True, True, False]
    assert [ZOOM.takes_aperture(number, 24) for number in (2.0, 2.8, 22, 32)] == [False, True, True, False]
    # Without being told it reaches what a thin lens does at its closest focus.
    assert not ZOOM.working(70).reaches(5.0)
    assert dataclasses.replace(ZOOM, max_magnification=0.5).working(70).reaches(0.5)
    assert not dataclasses.replace(ZOOM, max_magnification=0.5).working(70).reaches(0.6)
