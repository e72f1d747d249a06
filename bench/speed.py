"""How fast the core and the interface are, each beside a plain reference in the same run. Run it with tools/bench.

Prints medians in milliseconds; machines are noisy, so nothing here fails.
"""

from __future__ import annotations

import dataclasses
import itertools
import math
import statistics
import time
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np

from lucid_ridge.core.exposure.ev import ev100_from_illuminance
from lucid_ridge.core.exposure.fading import fading_exposure_s
from lucid_ridge.core.facts.filters import Filter
from lucid_ridge.core.facts.frame_groups import FrameGroup
from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element, Location
from lucid_ridge.core.facts.shot import changed, facts_from
from lucid_ridge.core.framing.projection import Camera
from lucid_ridge.core.framing.solids import Solid
from lucid_ridge.core.framing.tuner import Target, misses_of, tune
from lucid_ridge.core.ground.walk import walk_along
from lucid_ridge.core.light.alignment import Wanted, find_alignments
from lucid_ridge.core.light.day import light_curve, light_day
from lucid_ridge.core.light.daylight import daylight
from lucid_ridge.core.light.ephemeris import moon_position, sun_position
from lucid_ridge.core.light.geocentric import _blocks
from lucid_ridge.core.light.illuminance import sun_illuminance_lux
from lucid_ridge.core.light.light_at_place import illumination
from lucid_ridge.core.light.skyline import skyline_of
from lucid_ridge.core.light.sought import Scene
from lucid_ridge.core.light.terrain import BEARING_STEP_DEG, REACH_M, ElevationGrid, curvature_drop_m, skyline_from_grid
from lucid_ridge.core.light.track import _track
from lucid_ridge.core.light.windows import DateHours, find_windows
from lucid_ridge.core.optics.depth import blur_diameter_mm
from lucid_ridge.core.optics.stacking import plan_ring_stack
from lucid_ridge.core.outing.ordering import best_order
from lucid_ridge.core.outing.stops import Limits, Place, Stop, Window, way_between
from lucid_ridge.core.planning.exposure.tonal_range import Exposure
from lucid_ridge.core.planning.focus.lens_comparison import compare_lenses
from lucid_ridge.core.planning.focus.optics import FocusPosition
from lucid_ridge.core.planning.focus.plan import plan_depth
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.sequence.groups import GroupSet, PlannedGroup
from lucid_ridge.core.planning.sequence.timeline import Overheads, build_sequence
from lucid_ridge.core.planning.tones.plan import plan_tones
from lucid_ridge.core.planning.tones.scene_layers import scene_tones
from lucid_ridge.core.planning.tones.scene_picture import scene_picture
from lucid_ridge.core.solving.solver import solve

PLACE = (54.55, -3.10, 10.0)
START = datetime(2026, 11, 24, tzinfo=UTC)
END = START + timedelta(days=1)
FELLS = skyline_of([(0, 3), (90, 8), (180, 2), (225, 4), (270, 12)])
LIGHT_HERE = light_day(*PLACE, START.date(), "UTC", FELLS).light
DUSK_S = START.timestamp() + 16 * 3600
_TURNS = itertools.count()


def median_ms(work: Callable[[], object], runs: int = 15) -> float:
    """Return the median time of a call [ms]; the first, which may load things, does not count."""
    work()
    times = []
    for _ in range(runs):
        began = time.perf_counter()
        work()
        times.append((time.perf_counter() - began) * 1000)
    return statistics.median(times)


def depth_curve() -> object:
    return blur_diameter_mm(24, 16, np.array([[358.0], [589.0], [1751.0]]), np.geomspace(250, 1e6, 1000)[None, :]).min(
        axis=0
    )


def _bag() -> tuple[object, list[Lens]]:
    lenses = [
        Lens(number, f"{focal} mm", focal, focal, 2.8, 32, 4 * focal, max_magnification=1.0, front_mm=20)
        for number, focal in enumerate((24, 35, 50, 60, 85, 100, 105, 135, 150, 200), start=10)
    ]
    facts = facts_from(
        body=Body(1, "Body", 36, 24, 8256, 5504),
        lens=lenses[5],
        elements=(
            Element(
                id=1,
                name="Rosette",
                shape="flower",
                bearing_deg=0,
                distance_m=0.2,
                width_m=0.012,
                height_m=0.012,
                base_m=0.05,
            ),
        ),
        camera_height_m=0.056,
        f_number=8.0,
        magnification=1.0,
        subject_depth_mm=3.0,
        depth_method="rail",
    )
    return facts, lenses


def lenses_compared() -> object:
    facts, lenses = _bag()
    return compare_lenses(facts, lenses)


def lenses_compared_reference() -> object:
    """What a spreadsheet does for one figure of each: the thin lens equation."""
    return [100 * (1 + 1 / 1.0) * focal for focal in range(10)]


def depth_plan() -> object:
    return plan_depth(changed(FACTS, f_number=8 + next(_TURNS) % 8))


def depth_plan_reference() -> object:
    """Near and far limit of each element in plain floats, as a table of depth of field would give them."""
    found = []
    for item in FACTS.elements:
        distance = item.distance_m * 1000
        hyperfocal = 24 * 24 / (16 * 0.03) + 24
        found.append(
            (hyperfocal * distance / (hyperfocal + distance), hyperfocal * distance / max(1.0, hyperfocal - distance))
        )
    return found


def ring_stack_of_sixty() -> object:
    return plan_ring_stack(100, 4, 0.02, 860, 2400, 0.2)


def ring_stack_of_sixty_reference() -> object:
    """The same by stepping: each position's far limit is the next one's near limit."""
    found, near = [], 860.0
    while near < 2400 and len(found) < 200:
        image = 100 * near / (near - 100) * (1 - 0.02 / 25)
        focus = 100 * image / (image - 100)
        found.append(focus)
        far_image = 25 * image / (25 + 0.02)
        near = near + (100 * far_image / (far_image - 100) - near) * 0.8
    return found


def depth_curve_reference() -> object:
    """The same point by point in plain Python."""
    result = []
    for distance in np.geomspace(250, 1e6, 1000).tolist():
        other = 24 * distance / (distance - 24)
        result.append(min(1.5 * abs(24 * focus / (focus - 24) - other) / other for focus in (358.0, 589.0, 1751.0)))
    return result


def day_of_light() -> object:
    _track.cache_clear()
    return light_curve(*PLACE, START, END)


def day_at_a_place() -> object:
    """Sun, moon, land and cloud, minute by minute."""
    return LIGHT_HERE.lux(np.arange(LIGHT_HERE.sun.start_s, LIGHT_HERE.sun.end_s, 60.0), 3.0)


def day_at_a_place_reference() -> object:
    """The open sky by the sun alone, as it was asked before."""
    seconds = np.arange(LIGHT_HERE.sun.start_s, LIGHT_HERE.sun.end_s, 60.0)
    return sun_illuminance_lux(LIGHT_HERE.sun.altitude_deg(seconds))


def fading() -> object:
    return fading_exposure_s(130.0, lambda seconds: LIGHT_HERE.lux(DUSK_S + seconds))


def fading_reference() -> object:
    """By the sun alone."""
    sun = LIGHT_HERE.sun
    return fading_exposure_s(130.0, lambda seconds: sun_illuminance_lux(sun.altitude_deg(DUSK_S + seconds)))


def day_of_light_reference() -> object:
    """ephem asked once a minute."""
    observer, sun = ephem.Observer(), ephem.Sun()
    observer.lat, observer.lon, observer.pressure = str(PLACE[0]), str(PLACE[1]), 0
    result = []
    for minute in range(1440):
        observer.date = (START + timedelta(minutes=minute)).replace(tzinfo=None)
        sun.compute(observer)
        result.append(ev100_from_illuminance(sun_illuminance_lux(math.degrees(sun.alt))))
    return result


POSITIONS = [FocusPosition(0.3 + n, 0.35 + n, 0.2 + n, 0.5 + n) for n in range(20)]
EXPOSURES = [Exposure(0.25 * 4**n, 2.0 * n, 0.0, 11.0) for n in range(3)]


GROUP = PlannedGroup(
    0,
    FrameGroup(),
    tuple(enumerate(POSITIONS)),
    tuple(GroupSet(item, at, ("ten",), frozenset({1}), None) for at, item in enumerate(EXPOSURES)),
    (),
    None,
    (),
)


def sequence() -> object:
    return build_sequence([GROUP], 16, 100, Overheads())


def sequence_reference() -> object:
    """The same as bare tuples."""
    clock, frames = 0.0, []
    for position in POSITIONS:
        clock += 5
        for exposure in EXPOSURES:
            frames.append((position.object_distance_m, exposure.shutter_s, clock + 2))
            clock += 2 + exposure.shutter_s + 0.5
    return frames


FACTS = facts_from(
    location=Location("Estuary", 54.53, -3.21, 4, "Europe/London"),
    viewpoint_name="Bank",
    elements=(Element(1, "Stone", "boulder", 233, 0.3, 0.2, 0.15), Element(2, "Shore", "ridge", 233, 2400, 2600, 140)),
    date_local=date(2026, 11, 25),
    time_utc=datetime(2026, 11, 25, 15, 25, tzinfo=UTC),
    body=Body(
        id=1,
        name="Body",
        sensor_width_mm=36,
        sensor_height_mm=24,
        pixels_wide=8256,
        pixels_high=5504,
        base_iso=100,
        max_iso=25600,
        fastest_shutter_s=1 / 8192,
        slowest_shutter_s=32,
        has_bulb=True,
        dynamic_range_stops=11,
        bracket_frames=9,
        bracket_step_ev=3,
    ),
    lens=Lens(
        id=1,
        name="Zoom",
        focal_min_mm=24,
        focal_max_mm=70,
        f_number_min=2.8,
        f_number_max=22.6,
        closest_focus_mm=280,
        sharpest_f_number=8,
    ),
    focal_mm=24,
    sharp_element_ids=frozenset({1, 2}),
    f_number=16,
    metered_f_number=16,
    metered_shutter_s=0.125,
    metered_iso=100,
    wanted_shutter_s=120,
    filters=tuple(Filter(n, f"{n} stops", "neutral_density", n) for n in (3, 6, 10)),
)


def plan() -> object:
    return plan_shot(changed(FACTS, iso=200))


def tones() -> object:
    scene_tones.cache_clear()
    scene_picture.cache_clear()
    return plan_tones(FACTS, PLANNED)


def tones_of_another_exposure() -> object:
    return plan_tones(FACTS, PLANNED)


def tones_reference() -> object:
    """The luminance of the sky alone, over as many points as the small picture has."""
    sky = daylight(illumination(7.5), (7.5, 180), (-90, 0))
    towards = np.stack(
        np.broadcast_arrays(np.linspace(-0.5, 0.5, 96), np.ones(96), np.linspace(0, 0.4, 64)[:, None]), axis=-1
    )
    return sky.sky_cd_m2(towards / np.linalg.norm(towards, axis=-1, keepdims=True))


def solved() -> object:
    return solve(WISHED)


def solved_reference() -> object:
    """The exposure alone of as many candidates, as a spreadsheet would have it: aperture, ISO and filters to a shutter
    time.
    """
    size = 49_400
    turns = np.arange(size)
    return 0.125 * (2.0 ** (turns % 19 / 3)) * 2.0 ** (turns % 13) / (1 + turns % 25)


def outing_of_twelve() -> object:
    return best_order(STOPS, Limits(back_s=20 * 3600.0))


def outing_between_tides() -> object:
    return best_order(TIDAL, Limits(back_s=20 * 3600.0))


def walk_of_a_day() -> object:
    return walk_along(TRACK)


def outing_of_twelve_reference() -> object:
    """Each next the one whose window closes first."""
    clock, taken = 0.0, []
    for stop in sorted(STOPS, key=lambda item: item.windows[0].end_s):
        leg = way_between(None, stop.place)
        clock += leg.drive_s + leg.walk_in_s
        if clock <= stop.windows[0].end_s:
            taken.append(stop)
            clock = max(clock, stop.windows[0].start_s) + stop.stay_s
    return taken


def groups_of_six_hundred_frames() -> object:
    return plan_shot(GROUPED)


def one_group_reference() -> object:
    return plan_shot(replace(GROUPED, frame_groups=()))


PLANNED = plan_shot(FACTS)
BAG = (*FACTS.filters, Filter(21, "1000×", "neutral_density", 9.97), Filter(22, "graduated", "graduated", 3))
WISHED = changed(
    FACTS, filters=BAG, wanted_look="silky", metered_f_number=16.0, metered_shutter_s=0.125, metered_iso=100.0
)  # fmt: skip
GROUPED = replace(
    changed(FACTS, metered_f_number=16.0, metered_shutter_s=0.125, metered_iso=100.0),
    frame_groups=(FrameGroup(), FrameGroup(count=75, burst_per_s=5.0), FrameGroup(count=75)),
)
STOPS = [
    Stop(
        at,
        f"stop {at}",
        (
            Window((6 + at) * 3600.0, (7.5 + at) * 3600.0, 0.5),
            Window((15 + 0.2 * at) * 3600.0, (16.5 + 0.3 * at) * 3600.0, 0.4),
        ),
        600.0,
        1800.0,
        Place(at % 5, 54.0 + 0.04 * (at % 5), -3.0, 600.0, 800.0, 1800.0, at),
    )
    for at in range(12)
]
# The same with a tide over the way in and out of every place, and a gate at every other.
TIDAL = [
    replace(
        stop,
        place=replace(
            stop.place,
            walks_closed=((8.2 * 3600, 11.4 * 3600), (20.5 * 3600, 30 * 3600)),
            stay_closed=((20.5 * 3600, 30 * 3600),) if stop.at % 2 else (),
        ),
    )
    for stop in STOPS
    if stop.place is not None
]
# 100,000 points of a receiver that wanders.
TRACK = [(54.0 + index * 2e-7, -3.0, 100 + 4 * math.sin(index / 700)) for index in range(100_000)]
SCENE = (Solid("boulder", 355, 2.5, 1.2, 0.8), Solid("block", 4, 60, 5, 14), Solid("tree", 350, 22, 4, 7))
TARGETS = (
    Target("place", 0, x=0.36, y=0.8),
    Target("place", 1, x=0.64),
    Target("horizon", y=0.35),
    Target("clearance", 0, 1, clearance=0.02),
    Target("whole", 2),
)
HERE = Camera(0, 35, 36, 24, height_m=1.2)
LIMITS = {
    "east_m": (-1.5, 1.5),
    "north_m": (-1.0, 1.0),
    "height_m": (0.4, 1.8),
    "focal_mm": (24.0, 50.0),
    "bearing_deg": (330.0, 390.0),
    "pitch_deg": (-20.0, 10.0),
}


def tuner() -> object:
    return tune(SCENE, TARGETS, HERE, LIMITS)


def tuner_reference() -> float:
    """Random cameras, as many as take the time: the least sum of squares that 2,000 of them reach."""
    chance = np.random.default_rng(1)
    low, high = (np.array([limit[side] for limit in LIMITS.values()]) for side in (0, 1))
    best = math.inf
    for row in low + (high - low) * chance.random((2000, len(low))):
        values: dict[str, float] = dict(zip(LIMITS, row.tolist(), strict=True))
        misses = misses_of(SCENE, TARGETS, dataclasses.replace(HERE, **values))
        best = min(best, sum(miss * miss for miss in misses))
    return best


def windows() -> object:
    """All kinds of light of a November day and its night, from 84 hours."""
    hours = DateHours(START + timedelta(hours=12))
    start, end = hours.around()
    return find_windows(Scene(*PLACE, start, end, bearing_deg=250.0), None, hours)


def windows_reference() -> object:
    """The sun alone, minute by minute through the same hours, by Skyfield."""
    start, end = DateHours(START + timedelta(hours=12)).around()
    return sun_position(*PLACE, start.timestamp() + np.arange(0.0, (end - start).total_seconds(), 60.0))


def alignment(body: str) -> object:
    """A year of one body at a bearing, from nothing: no splines kept."""
    _track.cache_clear()
    _blocks.cache_clear()
    wanted = Wanted(body, 134, 2.0, low_deg=0, high_deg=12, above_skyline=False)
    return find_alignments(*PLACE, START, START + timedelta(days=365), wanted)


def alignment_reference(body: str) -> int:
    """Skyfield asked for every minute of the year; returns in how many minutes the body stands there."""
    position = sun_position if body == "sun" else moon_position
    hits = 0
    for day in range(365):
        place = position(*PLACE, START.timestamp() + 86400.0 * day + 60.0 * np.arange(1440))
        near = np.abs((place.azimuth_deg - 134 + 180) % 360 - 180) <= 2.0
        hits += int(np.count_nonzero(near & (place.apparent_altitude_deg >= 0) & (place.apparent_altitude_deg <= 12)))
    return hits


def same_answer(body: str) -> str:
    """Say how many minutes our hits hold, beside the brute force's."""
    minutes = START.timestamp() + 60.0 * np.arange(365 * 1440)
    inside = np.zeros(minutes.shape, dtype=bool)
    for hit in alignment(body):  # type: ignore[attr-defined]
        inside |= (minutes >= hit.start_utc.timestamp()) & (minutes <= hit.end_utc.timestamp())
    return f"{np.count_nonzero(inside)} minutes found, {alignment_reference(body)} by brute force"


GRID_POINTS = 3601


def _terrain() -> ElevationGrid:
    rows, columns = np.mgrid[0:GRID_POINTS, 0:GRID_POINTS].astype(np.float32)
    heights = 400 + 300 * np.sin(rows / 90) * np.cos(columns / 130) + 60 * np.sin(rows / 11 + columns / 17)
    return ElevationGrid(heights.astype(np.float32), 55.0, -4.0, 1 / 3600, 1 / 3600)


def skyline_reference(grid: ElevationGrid, rays: int) -> float:
    """The same marching step by step in plain Python for some rays, scaled up to the whole circle [s]."""
    began = time.perf_counter()
    eye = float(grid.height_m(54.5, -3.5)) + 1.6
    for ray in range(rays):
        turn = math.radians(360 * ray / rays)
        best, distance = -90.0, 15.0
        while distance < REACH_M:
            row = (grid.north_deg - (54.5 + distance * math.cos(turn) / 111_306)) / grid.step_lat_deg
            column = (-3.5 + distance * math.sin(turn) / 64_752 - grid.west_deg) / grid.step_lon_deg
            if 0 <= row < GRID_POINTS - 1 and 0 <= column < GRID_POINTS - 1:
                r, c = int(row), int(column)
                dr, dc = row - r, column - c
                h = grid.heights_m
                land = (h[r, c] * (1 - dc) + h[r, c + 1] * dc) * (1 - dr) + (
                    h[r + 1, c] * (1 - dc) + h[r + 1, c + 1] * dc
                ) * dr
                best = max(
                    best, math.degrees(math.atan((land - distance * distance * 0.87 / 12_742_018 - eye) / distance))
                )
            distance += max(15.0, min(30.0, distance * math.radians(BEARING_STEP_DEG)))
    assert curvature_drop_m(1000.0) > 0
    return (time.perf_counter() - began) * 360 / BEARING_STEP_DEG / rays


def long_work() -> None:
    """Print the long computations in seconds, each beside its reference in this run."""
    print(f"\n{'long work':44}{'here':>10}{'reference':>12}{'goal':>8}   [s]")
    for body, goal in (("sun", 1), ("moon", 2)):
        here = median_ms(lambda body=body: alignment(body), 3) / 1000  # type: ignore[misc]
        began = time.perf_counter()
        words = same_answer(body)
        reference = time.perf_counter() - began
        print(f"{'alignments of the ' + body + ' in a year':44}{here:10.2f}{reference:12.1f}{goal:8}   {words}")
    grid = _terrain()
    here = median_ms(lambda: skyline_from_grid(grid, 54.5, -3.5), 3) / 1000
    print(
        f"{'skyline from 3601 × 3601 points, 60 km':44}{here:10.2f}{skyline_reference(grid, 6):12.1f}{10:8}   "
        "plain Python, from 6 rays"
    )


def main() -> None:
    rows = (
        ("blur over 1,000 distances, 3 positions", depth_curve, depth_curve_reference, 50),
        ("depth plan, a dial turned (goal 10)", depth_plan, depth_plan_reference, 40),
        ("ring stack of 60 (goal 1)", ring_stack_of_sixty, ring_stack_of_sixty_reference, 50),
        ("ten lenses side by side (goal 50)", lenses_compared, lenses_compared_reference, 15),
        ("light over 1,440 min with the sun", day_of_light, day_of_light_reference, 50),
        ("light at a place over 1,440 min (goal 3)", day_at_a_place, day_at_a_place_reference, 3),
        ("exposure of 130 s as light fades (goal 1)", fading, fading_reference, 1),
        ("sequence of 60 frames", sequence, sequence_reference, 50),
        ("plan of a shot whose light is known", plan, None, 30),
        ("solver, 49,400 candidates (goal 100)", solved, solved_reference, 100),
        ("order of twelve stops (goal 2000)", outing_of_twelve, outing_of_twelve_reference, 2000),
        ("the same with tides and gates (goal 2000)", outing_between_tides, outing_of_twelve_reference, 2000),
        ("walk of 100,000 points (goal 3000)", walk_of_a_day, None, 3000),
        ("plan with 600 frames in groups", groups_of_six_hundred_frames, one_group_reference, 60),
        ("scene in tones, in a new light (goal 15)", tones, tones_reference, 15),
        ("scene in tones, exposure turned (goal 15)", tones_of_another_exposure, tones_reference, 15),
        ("windows of a date, cut nowhere", windows, windows_reference, 20),
        ("fine-tuner, 5 targets and 6 freedoms", tuner, tuner_reference, 300),
    )
    print(f"{'core':44}{'here':>10}{'reference':>12}{'goal':>8}   [ms, median]")
    for name, work, reference, goal in rows:
        shown = f"{median_ms(reference, 5):12.2f}" if reference else f"{'–':>12}"
        print(f"{name:44}{median_ms(work):10.2f}{shown}{goal:8}")
    long_work()


if __name__ == "__main__":
    main()
