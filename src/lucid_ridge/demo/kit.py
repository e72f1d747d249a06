"""The demo's kit, without brands."""

from __future__ import annotations

from ..core.exposure.filters import stops_from_factor
from ..store.kit import Accessory, Body, Filter, Lens, Support

_F = {2.8: 2**1.5, 4: 4.0, 5.6: 2**2.5, 8: 8.0, 11: 2**3.5, 16: 16.0, 22: 2**4.5, 32: 32.0}


def demo_kit(
    owner_id: int,
) -> tuple[dict[str, Body], dict[str, Lens], dict[str, Filter], dict[str, Support], dict[str, Accessory]]:
    """Return new bodies, lenses, filters, supports and accessories by short keys."""
    bodies = {
        "full": Body(
            owner_id=owner_id,
            name="Full-frame body, 45 MP",
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
            write_s=0.5,
            dark_frame=False,
            battery_frames=420,
            batteries=2,
            file_mb=48,
            card_gb=128,
            extended_iso_min=50,
            flash_sync_s=2 ** (-23 / 3),
            burst_per_s=10,
            buffer_frames=40,
        ),
        "small": Body(
            owner_id=owner_id,
            name="Small-sensor body, 20 MP",
            sensor_width_mm=17.3,
            sensor_height_mm=13,
            pixels_wide=5184,
            pixels_high=3888,
            base_iso=200,
            max_iso=12800,
            fastest_shutter_s=1 / 8192,
            slowest_shutter_s=32,
            has_bulb=True,
            dynamic_range_stops=9.5,
            bracket_frames=5,
            bracket_step_ev=2,
            write_s=0.3,
            dark_frame=True,
            battery_frames=360,
            batteries=1,
            file_mb=18,
            card_gb=64,
            extended_iso_min=100,
            stabiliser_stops=6.5,
            flash_sync_s=2 ** (-23 / 3),
            burst_per_s=10,
            buffer_frames=60,
        ),
    }
    lenses = {
        "wide": Lens(
            owner_id=owner_id,
            name="16–35 mm wide zoom",
            focal_min_mm=16,
            focal_max_mm=35,
            f_number_min=_F[4],
            f_number_max=_F[22],
            closest_focus_mm=280,
            sharpest_f_number=_F[8],
            filter_thread_mm=77,
            pupil_depth_mm=26,
            front_mm=62,
            hood_mm=22,
            hood_clear_mm=96,
        ),
        "normal": Lens(
            owner_id=owner_id,
            name="24–70 mm zoom",
            focal_min_mm=24,
            focal_max_mm=70,
            f_number_min=_F[2.8],
            f_number_max=_F[22],
            closest_focus_mm=380,
            sharpest_f_number=_F[8],
            filter_thread_mm=82,
            pupil_depth_mm=36,
            front_mm=75,
            hood_mm=34,
            hood_clear_mm=104,
        ),
        "long": Lens(
            owner_id=owner_id,
            name="70–200 mm long zoom",
            focal_min_mm=70,
            focal_max_mm=200,
            f_number_min=_F[4],
            f_number_max=_F[32],
            closest_focus_mm=1000,
            sharpest_f_number=_F[8],
            filter_thread_mm=67,
            pupil_depth_mm=60,
            front_mm=110,
            hood_mm=60,
            hood_clear_mm=88,
        ),
        "macro": Lens(
            owner_id=owner_id,
            name="90 mm close-up, to 2:1",
            focal_min_mm=90,
            focal_max_mm=90,
            f_number_min=_F[2.8],
            f_number_max=_F[32],
            closest_focus_mm=300,
            sharpest_f_number=_F[5.6],
            max_magnification=2.0,
            filter_thread_mm=62,
            pupil_depth_mm=55,
            front_mm=88,
        ),
    }
    filters = {
        "nd3": Filter(
            owner_id=owner_id, name="3-stop ND", kind="neutral_density", stops=3, mount="plate", thickness_mm=2
        ),
        "nd6": Filter(
            owner_id=owner_id, name="6-stop ND", kind="neutral_density", stops=6, mount="plate", thickness_mm=2
        ),
        "nd10": Filter(
            owner_id=owner_id, name="10-stop ND", kind="neutral_density", stops=10, mount="plate", thickness_mm=2
        ),
        "nd1000": Filter(
            owner_id=owner_id,
            name="1000× ND, screw-in",
            kind="neutral_density",
            stops=round(float(stops_from_factor(1000)), 2),
        ),
        "pol": Filter(owner_id=owner_id, name="Polariser", kind="polariser", stops=1.5, thickness_mm=6),
        "grad": Filter(
            owner_id=owner_id, name="3-stop soft graduated", kind="graduated", stops=3, mount="plate", thickness_mm=2
        ),
    }
    supports = {
        "legs": Support(
            owner_id=owner_id, name="Tripod, three sections", height_min_m=0.38, height_max_m=1.65, inverted_min_m=0.08
        ),
        "low": Support(owner_id=owner_id, name="Ground pod", height_min_m=0.05, height_max_m=0.3),
    }
    accessories = {
        "tube": Accessory(owner_id=owner_id, name="20 mm tube", kind="extension_tube", length_mm=20),
        "close-up": Accessory(owner_id=owner_id, name="Close-up lens, 5 dioptres", kind="close_up_lens", dioptres=5),
        "converter": Accessory(owner_id=owner_id, name="1.4× converter", kind="converter", factor=1.4),
        "rail": Accessory(owner_id=owner_id, name="Geared rail", kind="rail", travel_mm=100, finest_mm=0.05),
        "flash": Accessory(owner_id=owner_id, name="Small flash", kind="flash", guide_number_m=24, recycle_s=3),
        "diffuser": Accessory(owner_id=owner_id, name="Paper diffuser", kind="diffuser", loss_stops=1.5),
        "card": Accessory(
            owner_id=owner_id, name="Grey-green card", kind="background_card", width_mm=297, reflectance=0.18
        ),
    }
    return bodies, lenses, filters, supports, accessories
