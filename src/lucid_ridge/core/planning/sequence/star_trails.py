"""Sequence: star trails made of many frames: their arc, the gaps between frames, and dew on the lens."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from ...exposure.star_trails import star_trail_mm, trail_arc_deg
from ...facts.frame_groups import Role
from ...facts.settings import settings_of
from ...facts.shot import ShotFacts
from ..exposure.star_reasons import fastest_declination_deg
from ..light.plan import LightStep
from ..reasons import Reason
from ..weather.simulated import by_forecast
from . import wording as say
from .groups import PlannedGroup
from .timeline import Frame

# A gap so long is seen as dashes where trails are looked at closely (common practice: one second or two at most).
_LONGEST_GAP_S = 2.0
# Dew settles on glass that cools below the dew point: likely within so much of it, unlikely in wind (common practice).
_DEW_SPREAD_K, _DEW_WIND_MPS, _LONG_OUT_S = 2.5, 4.0, 600.0


def trail_reasons(facts: ShotFacts, groups: Sequence[PlannedGroup], frames: Sequence[Frame]) -> list[Reason]:
    """Return the reasons about groups of star trails: arc and gaps; empty without such a group."""
    settings, body = settings_of(facts), facts.body
    assert settings is not None and body is not None
    found = []
    for group in groups:
        taken = [frame for frame in frames if frame.group == group.at]
        if group.group.role != Role.TRAILS or group.group.muted or not taken:
            continue
        lasts = taken[-1].end_s - taken[0].start_s
        gap = max((after.start_s - before.end_s for before, after in pairwise(taken)), default=0.0)
        declination = fastest_declination_deg(facts, settings)
        pixel_mm = body.sensor_width_mm / body.pixels_wide
        drawn, broken = (
            float(star_trail_mm(settings.focal_mm, max(time, 1e-6), declination or 0.0)) for time in (lasts, gap)
        )
        arc = float(trail_arc_deg(lasts))
        words = say.trails(
            frames=len(taken),
            shutter_s=taken[0].shutter_s,
            lasts_s=lasts,
            arc_deg=arc,
            frame_share=drawn / body.sensor_width_mm,
        )
        found.append(words.holds("frame_groups"))
        if declination is None:
            found.append(say.no_sky_in_frame().tight("bearing_deg"))
        if gap > _LONGEST_GAP_S:
            dark = taken[0].around.dark_s > 0
            words = say.trails_dashed(gap_s=gap, gap_pixels=broken / pixel_mm, dark_frames=dark)
            found.append(words.tight("frame_groups"))
        elif gap > 0:
            found.append(say.trails_joined(gap_s=gap, gap_pixels=broken / pixel_mm).holds("frame_groups"))
    return found


def dew_reasons(facts: ShotFacts, light: LightStep, total_s: float) -> list[Reason]:
    """Return the caution that dew settles on the front element while frames are taken at night."""
    hour = facts.hour
    if not light.stars_show or hour is None or hour.dew_point_c is None or total_s < _LONG_OUT_S:
        return []
    spread = hour.temperature_c - hour.dew_point_c
    if spread > _DEW_SPREAD_K or hour.wind_mps > _DEW_WIND_MPS:
        return []
    words = say.dew(temperature_c=hour.temperature_c, dew_point_c=hour.dew_point_c, minutes=math.ceil(total_s / 60))
    return by_forecast(facts, [words.caution("time_utc")])
