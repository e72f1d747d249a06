"""A shot that stands: a stone before a shore at dusk, metered, on a tripod."""

import dataclasses
from datetime import UTC, date, datetime

from lucid_ridge.core.facts.filters import Filter
from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element, Location
from lucid_ridge.core.facts.shot import facts_from

PLACE = Location("Estuary", 54.53, -3.21, 4, "Europe/London")
STONE = Element(1, "Stone", "boulder", 233, 0.30, 0.2, 0.15)
SHORE = Element(2, "Shore", "ridge", 233, 2400, 2600, 140)
WATER = Element(3, "Channel", "water", 233, 4.0, 20, 30, speed_mps=1.0)
BODY = Body(
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
)
LENS = Lens(
    id=1,
    name="Zoom",
    focal_min_mm=24,
    focal_max_mm=70,
    f_number_min=2.8,
    f_number_max=2**4.5,
    closest_focus_mm=280,
    sharpest_f_number=8,
)
TEN = Filter(1, "Ten", "neutral_density", 10, on_lens=True)
POLARISER = Filter(2, "Polariser", "polariser", 1.5, on_lens=True)
DUSK = datetime(2026, 11, 25, 15, 25, tzinfo=UTC)

FULL = facts_from(
    location=PLACE,
    viewpoint_name="Bank",
    elements=(STONE, SHORE, WATER),
    date_local=date(2026, 11, 25),
    time_utc=DUSK,
    body=BODY,
    lens=LENS,
    focal_mm=24,
    bearing_deg=233,
    pitch_deg=-30,
    camera_height_m=0.3,
    sharp_element_ids=frozenset({1, 2}),
    near_m=0.30,
    far_infinite=True,
    f_number=16,
    metered_f_number=16,
    metered_shutter_s=0.125,
    metered_iso=100,
    filters=(TEN, dataclasses.replace(POLARISER, on_lens=False)),
)
