"""Stored framings, earlier framings and the backdrop as response bodies."""

from __future__ import annotations

from ....core.facts.settings import camera_of, settings_of, standing_on
from ....core.facts.shot import ShotFacts
from ....core.framing.projection import Camera, Orientation, corner_points
from ....core.planning.verdicts import HOLDS
from ....core.units.lengths import format_distance
from ....operations.shots.framings import FramingView
from ....store.shots import Backdrop
from ..schemas import framings as out
from ..schemas.plan import VerdictOut
from .miniatures import present_miniature


def present_framings(kept: list[FramingView], walk: list[FramingView]) -> out.FramingsOut:
    """Return the saved framings and the steps of the history."""
    return out.FramingsOut(kept=[_framing(item) for item in kept], walk=[_framing(item) for item in walk])


def _framing(item: FramingView) -> out.FramingOut:
    frame = item.frame
    height = f", camera at {format_distance(frame.camera_height_m)}" if frame.camera_height_m is not None else ""
    focal = (
        f"{frame.focal_mm:g} mm {item.facts.frame.orientation}, {frame.bearing_deg:.0f}°{height}"
        if frame.focal_mm is not None and frame.bearing_deg is not None
        else "no lens"
    )
    return out.FramingOut(
        id=item.id,
        label=item.label,
        made_at_utc=item.made_at_utc,
        clock=item.facts.clock(item.made_at_utc),
        words=focal,
        verdict=VerdictOut.model_validate(frame.verdict),
        collisions=sum(reading.mark != HOLDS and not reading.muted for reading in frame.readings),
        miniature=present_miniature(frame),
        choices=out.FramingChoices.model_validate(dict(item.choices)),
        now=item.now,
    )


def present_backdrop(row: Backdrop, facts: ShotFacts) -> out.BackdropOut | None:
    """Return the directions of a photograph's corners; None while the shot has no camera."""
    settings = settings_of(facts)
    if settings is None or facts.body is None:
        return None
    here = standing_on(camera_of(facts, settings, facts.body), facts.ground)
    wide = row.sensor_width_mm >= row.sensor_height_mm
    sides = (row.sensor_width_mm, row.sensor_height_mm) if wide else (row.sensor_height_mm, row.sensor_width_mm)
    taken = Camera(
        bearing_deg=row.bearing_deg,
        focal_mm=row.focal_mm,
        sensor_width_mm=sides[0],
        sensor_height_mm=sides[1],
        pitch_deg=row.pitch_deg,
        orientation=Orientation.LANDSCAPE if wide else Orientation.PORTRAIT,
        east_m=here.east_m,
        north_m=here.north_m,
        height_m=here.height_m,
    )
    plain = {name: getattr(row, name) for name in out.BackdropOut.model_fields if name not in ("url", "corners")}
    url = f"/api/shots/{row.shot_id}/backdrop/picture?kept={row.kept_at_utc.timestamp():.0f}"
    return out.BackdropOut(**plain, url=url, corners=corner_points(taken).round(3).tolist())
