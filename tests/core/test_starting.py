"""Kinds of picture: their scene by hand, their time by the almanac, and a plan that no usual kit makes fail."""

import math
from datetime import UTC, date, datetime, timedelta

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.facts.declaring import facts_of
from lucid_ridge.core.facts.filters import Filter
from lucid_ridge.core.facts.kit import Body, Lens, Support
from lucid_ridge.core.facts.place import Element, Location
from lucid_ridge.core.facts.shot import facts_from
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.starting.catalogue import KINDS, kind_of
from lucid_ridge.core.starting.day_words import day_meant
from lucid_ridge.core.starting.scene import start_scene
from lucid_ridge.core.starting.settings import choices_of, found_settings
from lucid_ridge.core.starting.when import next_times
from lucid_ridge.operations.kit.presets import PRESETS

NOW = datetime(2026, 12, 2, 17, 30, tzinfo=UTC)
LAKES = Location("Lakes", 54.5, -3.0, 0.0, "Europe/London")
SOUTH = Location("South", -43.5, 170.0, 0.0, "Pacific/Auckland")
ARCTIC = Location("North", 78.2, 15.6, 0.0, "Arctic/Longyearbyen")
_VALUES = {preset.key: preset.values for preset in PRESETS}


def _piece(kind, key, number=1):
    known = facts_of(kind)
    return kind(
        id=number, **{name: value for name, value in _VALUES[key].items() if name in known and value is not None}
    )


BAG = tuple(
    _piece(Filter, key, number)
    for number, key in enumerate(("filter-nd3", "filter-nd6", "filter-nd10", "filter-pol", "filter-soft"), 1)
)
KITS = [
    ("body-full-24", "lens-16-35", "tripod-low"),
    ("body-full-45", "lens-24-70", "tripod-full"),
    ("body-aps-24", "lens-18-55", "tripod-travel"),
    ("body-43-20", "lens-35", "tripod-travel"),
]


def _planned(kind, place, kit, filters=BAG):
    body, lens, support = _piece(Body, kit[0]), _piece(Lens, kit[1]), _piece(Support, kit[2])
    scene, times = start_scene(kind, body, lens, support), next_times(kind, place, NOW)
    at = times[0] if times else None
    elements = tuple(
        Element(
            id=number, name=part.name, shape=part.shape, distance_m=part.distance_m, width_m=part.width_m,
            height_m=part.height_m, base_m=part.base_m, speed_mps=part.speed_mps, moving=part.moving,
            material=part.material, bearing_deg=((at.bearing_deg if at else 0.0) + part.aside_deg) % 360,
        )
        for number, part in enumerate(scene.parts, 1)
    )  # fmt: skip
    sharp = frozenset(item.id for item, part in zip(elements, scene.parts, strict=True) if part.sharp)
    facts = facts_from(
        location=place, viewpoint_name="here", body=body, lens=lens, support=support, filters=filters,
        elements=elements, sharp_element_ids=sharp,
    ).choosing(**choices_of(kind, scene, at, body, lens))  # fmt: skip
    found = found_settings(facts)
    return plan_shot(facts if found is None else found.facts)


@pytest.mark.parametrize("kit", KITS, ids=lambda kit: kit[1])
@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.key)
def test_no_step_fails_with_usual_kit(kind, kit):
    plan = _planned(kind, LAKES, kit)
    assert not [reason.text for reason in plan.because if reason.severity == "fails"]


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.key)
def test_nor_in_the_south_nor_without_filters(kind):
    assert not [reason.text for reason in _planned(kind, SOUTH, KITS[0]).because if reason.severity == "fails"]
    bare = _planned(kind, LAKES, KITS[0], filters=())
    assert not [reason.text for reason in bare.because if reason.severity == "fails"]


def test_a_sky_too_bright_is_held():
    # Towards the glow the sky is some four stops brighter than the land (common practice: a 2 to 3-stop graduated
    # filter); without one in the bag it takes several frames.
    held = _planned(kind_of("seascape_sunset"), LAKES, KITS[0])
    assert any("graduated" in reason.text for reason in held.because) or len(held.exposure.exposures) == 3
    bare = _planned(kind_of("seascape_sunset"), LAKES, KITS[0], filters=())
    assert len(bare.exposure.exposures) == 3


def test_the_foreground_by_hand():
    # 24 mm on 24 mm of height: half a frame is 0.5. The horizon half-way up: down by atan(0.25) = 14.0°; 0.8 of the
    # lower half reaches atan(0.4) = 21.8° farther. At 0.625 m, the near side of the stone, that is 0.45 m high.
    scene = start_scene(
        kind_of("seascape_sunset"),
        _piece(Body, "body-full-24"),
        _piece(Lens, "lens-24-70"),
        _piece(Support, "tripod-low"),
    )
    down = math.atan(0.25) + math.atan(0.4)
    assert scene.focal_mm == 24
    assert scene.pitch_deg == pytest.approx(-math.degrees(math.atan(0.25)), abs=0.06)
    assert scene.camera_height_m == pytest.approx((0.8 - 0.175) * math.tan(down), abs=0.006)
    # A tripod that stays higher puts the stone farther away.
    high = Support(id=1, name="High", height_min_m=1.0, height_max_m=1.6)
    far = start_scene(kind_of("seascape_sunset"), _piece(Body, "body-full-24"), _piece(Lens, "lens-24-70"), high)
    assert far.camera_height_m == 1.0
    assert far.parts[0].distance_m == pytest.approx(1.0 / math.tan(down) + 0.175, abs=0.006)


def test_a_lens_that_cannot_magnify_so_far_takes_what_it_can():
    lens = _piece(Lens, "lens-24-70")
    scene = start_scene(kind_of("flower_on_a_rail"), _piece(Body, "body-full-24"), lens, None)
    assert 0 < scene.magnification <= lens.largest_magnification(70.0)


def test_times_by_the_almanac():
    # Near Kendal on 3 December 2026 the sun sets at 15:49 and rises at 08:13 (almanac, from memory); the glow of the
    # evening begins with the one, that of the morning ends with the other.
    evening = next_times(kind_of("seascape_sunset"), LAKES, NOW)
    assert [item.date_local for item in evening] == [date(2026, 12, 3), date(2026, 12, 4), date(2026, 12, 5)]
    assert abs(evening[0].start_utc - datetime(2026, 12, 3, 15, 49, tzinfo=UTC)) < timedelta(minutes=3)
    morning = next_times(kind_of("seascape_sunrise"), LAKES, NOW)
    assert abs(morning[0].end_utc - datetime(2026, 12, 3, 8, 13, tzinfo=UTC)) < timedelta(minutes=3)
    # The sun sets in the south-west and rises in the south-east; the camera looks inward of it.
    assert 195 < evening[0].bearing_deg < 230 and 130 < morning[0].bearing_deg < 165
    later = next_times(kind_of("seascape_sunset"), LAKES, NOW, date(2026, 12, 10))
    assert later[0].date_local == date(2026, 12, 10)


def test_light_that_does_not_come_is_no_error():
    # At 78° north the sun stays down until the middle of February.
    assert next_times(kind_of("near_and_far"), ARCTIC, NOW) == ()
    plan = _planned(kind_of("near_and_far"), ARCTIC, KITS[0])
    assert plan.light.verdict.mark == "unsaid"


@pytest.mark.parametrize(
    ("text", "day"),
    [
        ("today", date(2026, 12, 2)),
        ("Tomorrow", date(2026, 12, 3)),
        ("sat", date(2026, 12, 5)),
        ("wednesday", date(2026, 12, 2)),
        ("next wed", date(2026, 12, 9)),
        ("in 2 weeks", date(2026, 12, 16)),
        # New moon on 9 December 2026 at 00:52, full on the 24th at 01:28 (almanac, from memory).
        ("next new moon", date(2026, 12, 9)),
        ("full moon", date(2026, 12, 24)),
        ("31 Jan 2027", date(2027, 1, 31)),
    ],
)
def test_days_as_people_say_them(text, day):
    # 2 December 2026 is a Wednesday.
    assert day_meant(text, date(2026, 12, 2)) == day


@pytest.mark.parametrize("text", ["", "soon", "s", "in many days", "next blue moon"])
def test_other_words_are_refused(text):
    with pytest.raises(InputError, match="tomorrow"):
        day_meant(text, date(2026, 12, 2))
    with pytest.raises(InputError):
        kind_of(text)
