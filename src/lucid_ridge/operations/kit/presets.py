"""Usual pieces of kit, without makers' names, with figures such pieces commonly have (common practice)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from sqlalchemy.orm import Session

from ...store.kit import Accessory, Body, Filter, Lens, Support
from ..platform.errors import NotFound
from . import pieces as kit

_F = {
    1.8: 2 ** (5 / 3),
    2.8: 2**1.5,
    3.5: 2 ** (11 / 6),
    4: 4.0,
    5.6: 2**2.5,
    6.3: 2 ** (16 / 6),
    8: 8.0,
    16: 16.0,
    22: 2**4.5,
    32: 32.0,
}


@dataclass(frozen=True)
class Preset:
    """A usual piece. kind: bodies, lenses, filters, supports or accessories, as in the API's paths."""

    key: str
    kind: str
    values: Mapping[str, object]

    @property
    def name(self) -> str:
        return str(self.values["name"])


def _body(
    name: str, sides: tuple[float, float], pixels: tuple[int, int], base_iso: float, held: float
) -> dict[str, object]:
    return {
        "name": name,
        "sensor_width_mm": sides[0],
        "sensor_height_mm": sides[1],
        "pixels_wide": pixels[0],
        "pixels_high": pixels[1],
        "base_iso": base_iso,
        "max_iso": 25600.0,
        "fastest_shutter_s": 1 / 8192,
        "slowest_shutter_s": 32.0,
        "dynamic_range_stops": held,
        "bracket_frames": 5,
        "bracket_step_ev": 2.0,
        "flash_sync_s": 2 ** (-23 / 3),
        "burst_per_s": 8.0,
        "buffer_frames": 40,
    }


def _extended(body: dict[str, object], low: float, stabiliser_stops: float | None = None) -> dict[str, object]:
    """Return a body with an extended low ISO, and a stabiliser where it has one."""
    return {**body, "extended_iso_min": low, "stabiliser_stops": stabiliser_stops}


def _lens(
    name: str, focal: tuple[float, float], widest: float, smallest: float, closest: float, thread: float, **more: float
) -> dict[str, object]:
    return {
        "name": name,
        "focal_min_mm": focal[0],
        "focal_max_mm": focal[1],
        "f_number_min": widest,
        "f_number_max": smallest,
        "closest_focus_mm": closest,
        "sharpest_f_number": 8.0,
        "filter_thread_mm": thread,
        **more,
    }


PRESETS: tuple[Preset, ...] = (
    Preset(
        "body-full-24",
        "bodies",
        _extended(_body("Full-frame body, 24 MP", (36.0, 24.0), (6000, 4000), 100, 11), 50, 5.0),
    ),
    Preset(
        "body-full-45",
        "bodies",
        _extended(_body("Full-frame body, 45 MP", (36.0, 24.0), (8256, 5504), 64, 11), 32, 5.0),
    ),
    Preset("body-aps-24", "bodies", _extended(_body("APS-C body, 24 MP", (23.5, 15.7), (6000, 4000), 100, 10), 50)),
    Preset(
        "body-43-20",
        "bodies",
        _extended(_body("Four-thirds body, 20 MP", (17.3, 13.0), (5184, 3888), 200, 9.5), 100, 6.5),
    ),
    Preset(
        "body-44-50", "bodies", _extended(_body("Medium-format body, 50 MP", (43.8, 32.9), (8256, 6192), 100, 12), 50)
    ),
    Preset(
        "body-4x5",
        "bodies",
        {
            **_body("View camera, 4×5 inch film", (120.0, 95.0), (12000, 9500), 100, 7),
            "fastest_shutter_s": 1 / 512,
            "slowest_shutter_s": 1.0,
            "bracket_frames": 1,
            "write_s": 30.0,
            # A leaf shutter synchronises at all times.
            "flash_sync_s": 1 / 512,
            "burst_per_s": None,
            "buffer_frames": None,
        },
    ),
    Preset("lens-16-35", "lenses", _lens("16–35 mm wide zoom, f/4", (16, 35), _F[4], _F[22], 280, 77)),
    Preset("lens-24-70", "lenses", _lens("24–70 mm zoom, f/2.8", (24, 70), _F[2.8], _F[22], 380, 82)),
    Preset(
        "lens-18-55",
        "lenses",
        _lens("18–55 mm zoom, f/3.5-5.6", (18, 55), _F[3.5], _F[22], 280, 52, f_number_min_long=_F[5.6]),
    ),
    Preset("lens-70-200", "lenses", _lens("70–200 mm long zoom, f/4", (70, 200), _F[4], _F[32], 1000, 67)),
    Preset(
        "lens-100-400",
        "lenses",
        _lens("100–400 mm long zoom, f/5.6-6.3", (100, 400), _F[5.6], _F[32], 1100, 77, f_number_min_long=_F[6.3]),
    ),
    Preset("lens-35", "lenses", _lens("35 mm, f/1.8", (35, 35), _F[1.8], _F[16], 300, 58, sharpest_f_number=_F[5.6])),
    Preset("lens-50", "lenses", _lens("50 mm, f/1.8", (50, 50), _F[1.8], _F[16], 450, 49, sharpest_f_number=_F[5.6])),
    Preset(
        "lens-100-macro",
        "lenses",
        _lens(
            "100 mm close-up lens to 1:1, f/2.8",
            (100, 100),
            _F[2.8],
            _F[32],
            300,
            67,
            sharpest_f_number=_F[5.6],
            max_magnification=1.0,
        ),
    ),
    Preset(
        "lens-150-view",
        "lenses",
        _lens("150 mm for the view camera, f/5.6", (150, 150), _F[5.6], 2**6.0, 1200, 58, sharpest_f_number=_F[22]),
    ),
    Preset("filter-nd3", "filters", {"name": "3-stop ND", "kind": "neutral_density", "stops": 3.0}),
    Preset("filter-nd6", "filters", {"name": "6-stop ND", "kind": "neutral_density", "stops": 6.0}),
    Preset("filter-nd10", "filters", {"name": "10-stop ND", "kind": "neutral_density", "stops": 10.0}),
    Preset("filter-pol", "filters", {"name": "Polariser", "kind": "polariser", "stops": 1.5, "thickness_mm": 6.0}),
    Preset(
        "filter-soft",
        "filters",
        {"name": "3-stop soft graduated", "kind": "graduated", "stops": 3.0, "mount": "plate", "thickness_mm": 2.0},
    ),
    Preset("tripod-full", "supports", {"name": "Tripod, three sections", "height_min_m": 0.4, "height_max_m": 1.65}),
    Preset("tripod-travel", "supports", {"name": "Travel tripod", "height_min_m": 0.3, "height_max_m": 1.4}),
    Preset(
        "tripod-low",
        "supports",
        {"name": "Low tripod, column inverts", "height_min_m": 0.2, "height_max_m": 1.5, "inverted_min_m": 0.05},
    ),
    Preset("tubes-12", "accessories", {"name": "12 mm tube", "kind": "extension_tube", "length_mm": 12.0}),
    Preset("tubes-20", "accessories", {"name": "20 mm tube", "kind": "extension_tube", "length_mm": 20.0}),
    Preset("tubes-36", "accessories", {"name": "36 mm tube", "kind": "extension_tube", "length_mm": 36.0}),
    Preset(
        "close-up-2", "accessories", {"name": "Close-up lens, 2 dioptres", "kind": "close_up_lens", "dioptres": 2.0}
    ),
    Preset(
        "close-up-5", "accessories", {"name": "Close-up lens, 5 dioptres", "kind": "close_up_lens", "dioptres": 5.0}
    ),
    Preset("converter-14", "accessories", {"name": "1.4× converter", "kind": "converter", "factor": 1.4}),
    Preset("converter-2", "accessories", {"name": "2× converter", "kind": "converter", "factor": 2.0}),
    Preset("reversing", "accessories", {"name": "Reversing ring", "kind": "reversing_ring", "length_mm": 50.0}),
    Preset("bellows", "accessories", {"name": "Bellows", "kind": "bellows", "shortest_mm": 40.0, "longest_mm": 150.0}),
    Preset(
        "view-camera",
        "accessories",
        {"name": "View camera, 4×5 inch", "kind": "view_camera_bellows", "shortest_mm": 70.0, "longest_mm": 320.0},
    ),
    Preset("rail", "accessories", {"name": "Geared rail", "kind": "rail", "travel_mm": 100.0, "finest_mm": 0.05}),
    Preset("rail-motor", "accessories", {"name": "Motor rail", "kind": "rail", "travel_mm": 80.0, "finest_mm": 0.001}),
    Preset(
        "flash-small", "accessories", {"name": "Small flash", "kind": "flash", "guide_number_m": 24.0, "recycle_s": 3.0}
    ),
    Preset(
        "flash-big", "accessories", {"name": "Big flash", "kind": "flash", "guide_number_m": 45.0, "recycle_s": 3.0}
    ),
    Preset("led", "accessories", {"name": "LED panel", "kind": "led_light", "lux_at_1m": 300.0}),
    Preset("diffuser", "accessories", {"name": "Flash diffuser", "kind": "diffuser", "loss_stops": 1.5}),
    Preset(
        "card",
        "accessories",
        {"name": "Grey-green card, A4", "kind": "background_card", "width_mm": 297.0, "reflectance": 0.18},
    ),
)
_KINDS: dict[str, type[Body] | type[Lens] | type[Filter] | type[Support] | type[Accessory]] = {
    "bodies": Body,
    "lenses": Lens,
    "filters": Filter,
    "supports": Support,
    "accessories": Accessory,
}


def add_preset(session: Session, owner_id: int, key: str) -> Body | Lens | Filter | Support | Accessory:
    """Add a preset to the kit. Raises NotFound for an unknown key."""
    preset = next((item for item in PRESETS if item.key == key), None)
    if preset is None:
        raise NotFound("piece of kit")
    return kit.add(session, owner_id, _KINDS[preset.kind], preset.values)
