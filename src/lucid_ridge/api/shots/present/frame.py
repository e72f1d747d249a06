"""Step 3 as a response body: data to draw the scene from any nearby camera, and its readings."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from ....core.facts.settings import camera_of, settings_of, standing_on
from ....core.facts.shot import ShotFacts
from ....core.framing.composition import GUIDES
from ....core.framing.crop import PRINT_PPI, Crop
from ....core.framing.panorama import Aim
from ....core.framing.projection import Camera, corner_points
from ....core.planning.frame.finder import Disc, Drawn, DrawnElement
from ....core.planning.frame.panorama import PanoramaPlan
from ....core.planning.frame.plan import FrameStep
from ....core.planning.plan.shot_plan import ShotPlan
from ....core.units.lengths import compass_point, format_distance, format_duration
from ...platform.fields import finite_or_none
from ..schemas import plan as out
from .close_up import present_close_up


def present_frame(facts: ShotFacts, plan: ShotPlan) -> out.FrameOut:
    """Return the finder, farthest element first, so that near ones are drawn over it."""
    step = plan.frame
    return out.FrameOut(
        focal_mm=step.focal_mm,
        bearing_deg=step.bearing_deg,
        compass=compass_point(step.bearing_deg) if step.bearing_deg is not None else None,
        camera_height_m=step.camera_height_m,
        width_mm=step.width_mm,
        height_mm=step.height_mm,
        horizontal_fov_deg=step.horizontal_fov_deg,
        vertical_fov_deg=step.vertical_fov_deg,
        horizon=polygons([step.horizon])[0] if step.horizon is not None else [],
        elements=_elements(facts, plan),
        sun=_disc(step.drawn.sun) if step.drawn and step.drawn.sun else None,
        moon=_disc(step.drawn.moon) if step.drawn and step.drawn.moon else None,
        view=_view(facts, step.drawn) if step.drawn else None,
        readings=[out.FrameReadingOut.model_validate(item) for item in step.readings],
        guide_lines=list(GUIDES[facts.frame.guide]),
        crop=_crop(step.crop, min(1.0, step.focal_mm / step.crop.as_focal_mm)) if step.crop and step.focal_mm else None,
        panorama=_panorama(facts, step, step.panorama, plan.sequence.total_s)
        if step.panorama and step.panorama.plan
        else None,
        close_up=present_close_up(step.close_up) if step.close_up else None,
        vignetting=_vignetting(step) if step.vignetting else None,
    )


def polygons(shapes: Any) -> list[list[list[float]]]:
    """Return polygons rounded to the precision of a drawing; distant corners are clamped so that they stay drawable."""
    return [np.round(np.clip(shape, -50, 50), 5).tolist() for shape in shapes]


def aim_label(aim: Aim) -> str:
    """Return a panorama frame's aim as "212°, +4°"."""
    return f"{aim.bearing_deg:.0f}°, {aim.pitch_deg:+.0f}°"


def _elements(facts: ShotFacts, plan: ShotPlan) -> list[out.SeenElementOut]:
    step = plan.frame
    drawn = {item.id: item for item in step.drawn.elements} if step.drawn else {}
    # A streak is given as a share of the frame's short side.
    short = min(step.width_mm or 1.0, step.height_mm or 1.0) / (step.width_mm or 1.0)
    found = []
    for item in sorted(step.elements, key=lambda seen: -seen.distance_m):
        seen = item.outline
        box: dict[str, Any] = {name: finite_or_none(getattr(seen, name)) for name in ("left", "right", "top", "bottom")}
        blurred = (
            item.blur_mm / step.width_mm
            if item.blur_mm is not None and math.isfinite(item.blur_mm) and step.width_mm
            else None
        )
        moves = plan.exposure.streak_share if plan.exposure.moving_element_id == item.id else None
        found.append(
            out.SeenElementOut(
                id=item.id,
                name=item.name,
                shape=item.shape,
                distance_m=item.distance_m,
                distance_label=format_distance(item.distance_m),
                polygons=polygons(seen.polygons),
                share=seen.share,
                blur_share=blurred,
                must_be_sharp=item.id in facts.sharp_element_ids,
                cover=item.cover,
                streak_share=moves * short if moves is not None else None,
                **box,
                **_drawn(drawn[item.id]),
            )
        )
    return found


def _drawn(item: DrawnElement) -> dict[str, Any]:
    return {
        "meshes": [
            out.MeshOut(
                points=_points(part.mesh.points),
                faces=[list(face) for face in part.mesh.faces],
                tones=list(part.tones),
                closed=part.mesh.closed,
            )
            for part in item.meshes
        ],
        "shadow": None if item.shadow is None else _points(item.shadow),
        "mirror": None if item.mirror is None else item.mirror.tolist(),
    }


def _points(points: Any) -> list[list[float]]:
    """Return points to a tenth of a millimetre."""
    return list(np.round(points, 4).tolist())


def _view(facts: ShotFacts, drawn: Drawn) -> out.ViewOut:
    return out.ViewOut(
        matrix=drawn.matrix.tolist(),
        eye=drawn.eye.tolist(),
        right=drawn.right.tolist(),
        skyline=None if drawn.skyline is None else _points(drawn.skyline),
        ground_m=float(facts.ground.height_m(facts.frame.camera_east_m, facts.frame.camera_north_m)),
        ground_line=_points(drawn.ground_line),
        sunlit=drawn.sunlit,
        galaxy=out.GalaxyOut(
            pieces=[_points(piece) for piece in drawn.galaxy.pieces],
            width_share=drawn.galaxy.width_share,
            centre=list(drawn.galaxy.centre) if drawn.galaxy.centre else None,
        )
        if drawn.galaxy
        else None,
    )


def _disc(disc: Disc) -> out.DiscOut:
    return out.DiscOut(
        x=disc.x,
        y=disc.y,
        diameter_share=disc.diameter_share,
        point=list(disc.point),
        fraction=disc.fraction,
        lit_angle_deg=disc.lit_angle_deg,
    )


def _crop(crop: Crop, lens_share: float) -> out.CropOut:
    sizes = ((ppi, *crop.print_cm(ppi)) for ppi in PRINT_PPI)
    return out.CropOut(
        share=lens_share,
        left=crop.left,
        top=crop.top,
        width_share=crop.width_share,
        height_share=crop.height_share,
        pixels_wide=crop.pixels_wide,
        pixels_high=crop.pixels_high,
        megapixels=crop.pixels_wide * crop.pixels_high / 1e6,
        as_focal_mm=crop.as_focal_mm,
        cropped=crop.pixel_share < 0.999,
        prints=[out.PrintOut(ppi=ppi, width_cm=wide, height_cm=high) for ppi, wide, high in sizes],
    )


def _panorama(facts: ShotFacts, step: FrameStep, panorama: PanoramaPlan, total_s: float | None) -> out.PanoramaOut:
    plan = panorama.plan
    assert plan is not None
    return out.PanoramaOut(
        rows=plan.rows,
        columns=plan.columns,
        overlap_across=plan.overlap[0],
        across_deg=plan.across_deg,
        cylindrical_px=list(plan.cylindrical_px),
        flat_px=list(plan.flat_px) if plan.flat_px else None,
        slip_px=panorama.slip_px,
        nearest_name=panorama.nearest_name,
        brightest=panorama.brightest,
        total_label=format_duration(total_s) if total_s is not None else None,
        aims=[
            out.AimOut(row=aim.row, column=aim.column, label=aim_label(aim), corners=_aim_corners(facts, step, aim))
            for aim in plan.aims
        ],
    )


def _aim_corners(facts: ShotFacts, step: FrameStep, aim: Aim) -> list[list[float]]:
    settings = settings_of(facts)
    assert settings is not None and facts.body is not None and step.drawn is not None
    here = standing_on(camera_of(facts, settings, facts.body), facts.ground)
    aimed = Camera(
        bearing_deg=aim.bearing_deg,
        focal_mm=here.focal_mm,
        sensor_width_mm=here.sensor_width_mm,
        sensor_height_mm=here.sensor_height_mm,
        pitch_deg=aim.pitch_deg,
        orientation=here.orientation,
        east_m=here.east_m,
        north_m=here.north_m,
        height_m=here.height_m,
    )
    return _points(corner_points(aimed))


def _vignetting(step: FrameStep) -> out.VignettingOut:
    found = step.vignetting
    assert found is not None
    corner = found.corner_mm
    return out.VignettingOut(
        ring=found.ring.name,
        darkens_from=min(9.0, found.darkens_from_mm / corner),
        dark_from=min(9.0, found.dark_from_mm / corner),
        clear=found.clear,
    )
