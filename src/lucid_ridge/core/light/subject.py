"""From which side the sun lights what the camera looks at.

Back light under 45 degrees between the view and the sun, side light from 45 to 135, front light above (common
practice).
"""

from __future__ import annotations

BACK_BELOW_DEG, FRONT_ABOVE_DEG = 45.0, 135.0


def angle_from_view_deg(view_bearing_deg: float, sun_azimuth_deg: float) -> float:
    """Return the angle between view and sun on the horizon [0..180 degrees]: 0 looks into the sun, 180 has it
    behind.
    """
    difference = abs(sun_azimuth_deg - view_bearing_deg) % 360
    return min(difference, 360 - difference)


def light_direction(view_bearing_deg: float, sun_azimuth_deg: float) -> str:
    """Return "back", "side" or "front" light for a view bearing and the sun's azimuth [degrees]."""
    angle = angle_from_view_deg(view_bearing_deg, sun_azimuth_deg)
    return "back" if angle < BACK_BELOW_DEG else "front" if angle > FRONT_ABOVE_DEG else "side"
