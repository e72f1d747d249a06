"""The fine-tuner: planted cameras found again, contradictions said, and perspective by hand."""

import math
from dataclasses import replace

import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.framing.footing import Ground, standing_area
from lucid_ridge.core.framing.many_cameras import Cameras, SceneModel, separation
from lucid_ridge.core.framing.outlines import outline
from lucid_ridge.core.framing.projection import Camera, project
from lucid_ridge.core.framing.solids import Solid
from lucid_ridge.core.framing.tuner import MET_WITHIN, Target, misses_of, tune

BOULDER = Solid("boulder", 355, 2.5, 1.2, 0.8)
TOWER = Solid("block", 4, 60, 5, 14)
TREE = Solid("tree", 350, 22, 4, 7)
SCENE = [BOULDER, TOWER, TREE]
LIMITS = {
    "east_m": (-1.5, 1.5),
    "north_m": (-1.0, 1.0),
    "height_m": (0.4, 1.8),
    "focal_mm": (24, 50),
    "bearing_deg": (330, 390),
    "pitch_deg": (-20, 10),
}


def _cameras(camera):
    one = {
        name: np.array([float(getattr(camera, name))])
        for name in ("east_m", "north_m", "height_m", "focal_mm", "bearing_deg", "pitch_deg")
    }
    return Cameras(**one, frame_mm=camera.frame_mm)


@pytest.mark.parametrize("orientation", ["landscape", "portrait"])
@pytest.mark.parametrize("seed", range(8))
def test_many_cameras_see_what_one_sees(orientation, seed):
    chance = np.random.default_rng(seed)
    camera = Camera(
        bearing_deg=chance.uniform(330, 390),
        focal_mm=chance.uniform(20, 60),
        sensor_width_mm=36,
        sensor_height_mm=24,
        pitch_deg=chance.uniform(-25, 10),
        orientation=orientation,
        east_m=chance.uniform(-0.8, 0.8),
        north_m=chance.uniform(-0.8, 0.8),
        height_m=chance.uniform(0.5, 1.8),
    )
    boxes = SceneModel(SCENE).boxes(_cameras(camera))
    for index, solid in enumerate(SCENE):
        one = outline(camera, solid)
        assert (
            boxes.left[0, index],
            boxes.right[0, index],
            boxes.top[0, index],
            boxes.bottom[0, index],
        ) == pytest.approx((one.left, one.right, one.top, one.bottom), abs=1e-9)
    bearing = math.radians(camera.bearing_deg)
    far = project(
        camera, (camera.east_m + 1e8 * math.sin(bearing), camera.north_m + 1e8 * math.cos(bearing), camera.height_m)
    )
    assert boxes.horizon_y[0] == pytest.approx(float(far.y), abs=1e-6)


def _planted(seed):
    """Five targets that a camera known to us meets exactly."""
    chance = np.random.default_rng(seed)
    while True:
        camera = Camera(
            bearing_deg=chance.uniform(345, 368),
            focal_mm=chance.uniform(26, 40),
            sensor_width_mm=36,
            sensor_height_mm=24,
            pitch_deg=chance.uniform(-12, 0),
            orientation="landscape",
            east_m=chance.uniform(-0.9, 0.9),
            north_m=chance.uniform(-0.9, 0.9),
            height_m=chance.uniform(0.6, 1.6),
        )
        boxes = SceneModel(SCENE).boxes(_cameras(camera))
        middle_x, middle_y = (boxes.left + boxes.right)[0] / 2, (boxes.top + boxes.bottom)[0] / 2
        inside = (
            (middle_x[:2] > 0.1).all()
            and (middle_x[:2] < 0.9).all()
            and (middle_y[:2] > 0.1).all()
            and (middle_y[:2] < 0.95).all()
        )
        if inside:
            break
    air = float(separation(boxes, 0, 1, 1.5)[0])
    return [
        Target("place", 0, x=float(middle_x[0]), y=float(middle_y[0])),
        Target("place", 1, x=float(middle_x[1])),
        Target("horizon", y=float(boxes.horizon_y[0])),
        Target("clearance", 0, 1, clearance=min(air, 0.02)),
        Target("place", 2, x=float(middle_x[2])),
    ]


def test_a_planted_camera_is_found_from_random_starts():
    found = 0
    for seed in range(20):
        tuned = tune(SCENE, _planted(seed), Camera(0, 35, 36, 24, height_m=1.2), LIMITS, seed=seed)
        found += all(tuned.solutions[0].met)
    assert found >= 19


def test_it_is_deterministic_and_stays_within_its_limits():
    targets = _planted(3)
    first, again = (tune(SCENE, targets, Camera(0, 35, 36, 24, height_m=1.2), LIMITS) for _ in range(2))
    assert first == again
    for solution in first.solutions:
        for name, (low, high) in LIMITS.items():
            assert low <= getattr(solution.camera, name) <= high
        assert misses_of(SCENE, targets, solution.camera) == pytest.approx(solution.misses)


def test_what_may_not_change_stays():
    tuned = tune(SCENE, [Target("place", 1, x=1 / 3)], Camera(0, 35, 36, 24, height_m=1.2), {"bearing_deg": (330, 390)})
    camera = tuned.solutions[0].camera
    assert (camera.east_m, camera.north_m, camera.height_m, camera.focal_mm) == (0, 0, 1.2, 35)
    assert tuned.solutions[0].met == (True,)
    # By hand: the tower's middle must stand 36/2 - 36/3 = 6 mm left of the middle: atan(6/35) = 9.73° right of it
    # the camera aims.
    assert camera.bearing_deg % 360 == pytest.approx(4 + math.degrees(math.atan(6 / 35)), abs=0.15)


def test_contradictions_are_said_honestly():
    # The tower cannot stand on both thirds at once; either alone could be met.
    targets = [Target("place", 1, x=1 / 3), Target("place", 1, x=2 / 3), Target("horizon", y=0.4)]
    tuned = tune(SCENE, targets, Camera(0, 35, 36, 24, height_m=1.2), LIMITS)
    assert not all(tuned.solutions[0].met)
    assert tuned.conflicts == (0, 1)
    # The best compromise lies halfway: each is missed by a sixth.
    assert tuned.solutions[0].misses[:2] == pytest.approx((1 / 6, 1 / 6), abs=0.01)


def test_the_limit_that_stands_in_the_way_is_named():
    # Both stand on one line north; only a step to the side slides near against far, and the edge forbids more
    # than 5 cm of it.
    near, far = Solid("post", 0, 4, 0.2, 1.5), Solid("post", 0, 40, 0.8, 6)
    limits = {"east_m": (-0.05, 0.05), "bearing_deg": (350, 370)}
    tuned = tune(
        [near, far],
        [Target("clearance", 0, 1, clearance=0.05), Target("place", 1, x=0.5)],
        Camera(0, 35, 36, 24, height_m=1.2),
        limits,
    )
    assert not all(tuned.solutions[0].met)
    assert tuned.reliefs[0].freedom == "east_m"
    assert tuned.reliefs[0].cost < MET_WITHIN**2
    area = standing_area([(-0.05, -5.0), (0.05, -5.0), (0.05, 5.0), (-0.05, 5.0)], [1])
    wide = tune(
        [near, far],
        [Target("clearance", 0, 1, clearance=0.05)],
        Camera(0, 35, 36, 24, height_m=1.2),
        {"east_m": (-2, 2), "bearing_deg": (350, 370)},
        area,
    )
    assert abs(wide.solutions[0].camera.east_m) < 0.07
    # The area's limits are reported: outside it the gap would open.
    outside = next(relief for relief in wide.reliefs if relief.freedom == "area")
    assert outside.camera is not None and abs(outside.camera.east_m) > 0.05 + outside.step * 0.9
    assert outside.cost < MET_WITHIN**2


def test_dropping_the_camera_opens_a_gap_above_by_hand():
    # A branch 2.0 m up, from 3 to 3.1 m away: its lower edge is lowest in the picture at its back. A fell 20 m high 200
    # m away. Seen from 1.6 m the branch stands at 0.4/3.1, the fell at 18.4/200: a gap of (0.129 - 0.092) · 24 mm. From
    # 0.6 m: (1.4/3.1 - 19.4/200) · 24 mm.
    branch, fell = Solid("block", 0, 3, 0.4, 0.1, 2.0), Solid("block", 0, 200, 60, 20)
    gaps = []
    for height in (1.6, 0.6):
        camera = Camera(0, 24, 36, 24, height_m=height)
        gap = separation(SceneModel([branch, fell]).boxes(_cameras(camera)), 0, 1, 1.5)[0]
        assert gap == pytest.approx(((2.0 - height) / 3.1 - (20 - height) / 200) * 24 / 36, abs=1e-4)
        gaps.append(gap)
    assert gaps[1] > 8 * gaps[0]
    limits = {"height_m": (0.3, 1.8)}
    tuned = tune(
        [branch, fell], [Target("clearance", 0, 1, clearance=0.2)], Camera(0, 24, 36, 24, height_m=1.6), limits
    )
    assert all(tuned.solutions[0].met)
    # (2 - h)/3.1 - (20 - h)/200 = 0.2 · 36/24 gives h = 0.7720 m.
    assert tuned.solutions[0].camera.height_m == pytest.approx(0.7720, abs=0.002)


def test_moving_right_brings_the_tower_onto_the_third_by_hand():
    # Aim and lens fixed north, 24 mm: a tower 60 m ahead is on the left third when the camera stands 60 · 6/24 =
    # 15 m to the right of it.
    tower = Solid("post", 0, 60, 0.4, 14)
    tuned = tune([tower], [Target("place", 0, x=1 / 3)], Camera(0, 24, 36, 24, height_m=1.6), {"east_m": (-30, 30)})
    assert tuned.solutions[0].camera.east_m == pytest.approx(15.0, abs=0.3)


def test_a_longer_lens_from_further_back_keeps_the_near_and_enlarges_the_far_by_hand():
    # A boulder 1.2 m wide at 2.5 m with 24 mm images 11.5 mm wide; twice the lens from twice the distance keeps it, and
    # the tower (5 m wide at 60 m: 2 mm) grows to 48 · 5/62.5 = 3.84 mm.
    near, far = Solid("block", 0, 2.5, 1.2, 0.8), Solid("block", 0, 60, 5, 14)
    for focal, back, tower_mm in ((24, 0.0, 2.0), (48, -2.5, 3.84)):
        boxes = SceneModel([near, far]).boxes(_cameras(Camera(0, focal, 36, 24, north_m=back, height_m=1.0)))
        widths = (boxes.right - boxes.left)[0] * 36
        assert widths == pytest.approx((11.52, tower_mm), abs=0.01)
    targets = [Target("place", 0, x=0.5), Target("clearance", 0, 1, clearance=0.0)]
    assert misses_of([near, far], targets, Camera(0, 24, 36, 24, height_m=1.0))[0] == pytest.approx(0, abs=1e-9)


def test_elements_behind_the_camera_miss_every_target():
    behind = Solid("post", 180, 5, 0.2, 2)
    assert (
        misses_of([behind], [Target("place", 0, x=0.5), Target("whole", 0)], Camera(0, 35, 36, 24, height_m=1.5))[1] > 1
    )


@pytest.mark.parametrize(
    ("targets", "limits", "field"),
    [
        ([], LIMITS, "targets"),
        ([Target("horizon", y=0.4)], {}, "freedoms"),
        ([Target("horizon", y=0.4)], {"roll_deg": (0, 1)}, "freedoms"),
        ([Target("horizon", y=0.4)], {"height_m": (2, 1)}, "height_m"),
        ([Target("place", 9, x=0.5)], LIMITS, "targets"),
    ],
)
def test_what_cannot_be_tuned_is_refused(targets, limits, field):
    with pytest.raises(InputError) as caught:
        tune(SCENE, targets, Camera(0, 35, 36, 24), limits)
    assert caught.value.field == field


@pytest.mark.parametrize(
    "wrong",
    [
        {"kind": "magic"},
        {"kind": "place", "element": 0},
        {"kind": "clearance", "element": 0},
        {"kind": "clearance", "element": 1, "other": 1},
        {"kind": "horizon"},
        {"kind": "horizon", "y": 0.5, "weight": 0},
    ],
)
def test_targets_that_say_too_little_are_refused(wrong):
    with pytest.raises(InputError):
        Target(**wrong)


@pytest.mark.parametrize("seed", range(6))
def test_it_stands_inside_any_area_and_as_high_above_the_slope(seed):
    chance = np.random.default_rng(seed)
    corners = [
        (float(r * math.cos(a)), float(r * math.sin(a)))
        for r, a in zip(chance.uniform(0.5, 1.5, 5), np.arange(5) * 1.2, strict=True)
    ]
    area, ground = standing_area(corners, [0]), Ground(float(chance.uniform(2, 12)), float(chance.uniform(0, 360)), 20)
    targets = [
        Target("place", 1, x=float(chance.uniform(0.2, 0.8))),
        Target("place", 0, x=float(chance.uniform(0.2, 0.8)), y=0.75),
    ]
    tuned = tune(SCENE, targets, Camera(0, 35, 36, 24, height_m=1.2), LIMITS, area, seed, ground)
    for solution in tuned.solutions:
        camera = solution.camera
        assert float(area.outside_m(camera.east_m, camera.north_m)) < 0.02
        assert 0.4 <= camera.height_m <= 1.8
        # What the tuner says of its camera is what one camera sees from that height above the sloping ground.
        standing = replace(camera, height_m=camera.height_m + float(ground.height_m(camera.east_m, camera.north_m)))
        seen = outline(standing, TOWER, ground)
        assert abs((seen.left + seen.right) / 2 - targets[0].x) == pytest.approx(solution.misses[0], abs=1e-9)


def test_targets_are_counted_in_the_crop():
    # Only the bearing may turn, and the crop keeps the right half: its left third lies at 0.5 + 0.5/3 of the
    # whole frame.
    window = (0.5, 0.0, 0.5, 1.0)
    tuned = tune(
        [Solid("post", 0, 60, 0.4, 14)],
        [Target("place", 0, x=1 / 3)],
        Camera(0, 24, 36, 24, height_m=1.6),
        {"bearing_deg": (-40, 40)},
        window=window,
    )
    seen = outline(tuned.solutions[0].camera, Solid("post", 0, 60, 0.4, 14))
    assert (seen.left + seen.right) / 2 == pytest.approx(0.5 + 0.5 / 3, abs=0.004)
    # By hand: a sixth of 36 mm right of the middle is atan(6/24) = 14.04°.
    assert tuned.solutions[0].camera.bearing_deg == pytest.approx(-14.04, abs=0.2)


def test_weights_say_who_gives_way():
    # Two places for one tower: the heavier one is missed by less, three times less where it weighs three times as much.
    targets = [Target("place", 1, x=0.2, weight=3.0), Target("place", 1, x=0.8)]
    tuned = tune(SCENE, targets, Camera(0, 35, 36, 24, height_m=1.2), {"bearing_deg": (330, 390)})
    misses = tuned.solutions[0].misses
    assert misses == (pytest.approx(0.15, abs=0.005), pytest.approx(0.45, abs=0.005))


def test_alternatives_differ_and_are_as_good():
    # A single wish leaves many ways to meet it.
    tuned = tune(SCENE, [Target("place", 1, x=0.5)], Camera(0, 35, 36, 24, height_m=1.2), LIMITS)
    assert 2 <= len(tuned.solutions) <= 3
    assert all(all(solution.met) for solution in tuned.solutions)
    first, second = tuned.solutions[:2]
    assert any(
        abs(getattr(first.camera, name) - getattr(second.camera, name)) > 0.2
        for name in ("east_m", "north_m", "height_m", "focal_mm", "bearing_deg")
    )
