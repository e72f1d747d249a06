"""The settings in force: what the photographer chose, else what the application chooses."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..framing.crop import Crop, crop_frame
from ..framing.footing import Ground
from ..framing.projection import Camera, Orientation
from ..optics.circle_of_confusion import CocCriterion, coc_handbook_mm, coc_pixels_mm, coc_print_mm
from .kit import Body
from .shot import ShotFacts

DEFAULT_CAMERA_HEIGHT_M = 1.5
_NORMAL_FOCAL_MM = 50.0


@dataclass(frozen=True)
class Settings:
    focal_mm: float
    f_number: float
    iso: float
    coc_mm: float
    bearing_deg: float
    camera_height_m: float


def settings_of(facts: ShotFacts) -> Settings | None:
    """Return the settings in force; None while body or lens is missing."""
    body, lens = facts.body, facts.lens
    if body is None or lens is None:
        return None
    frame = facts.frame
    focal_mm = frame.focal_mm or lens.focal_min_mm
    looked_at = [item for item in facts.elements if item.id in facts.sharp_element_ids] or list(facts.elements)
    return Settings(
        focal_mm=focal_mm,
        # The metered settings are not the shooting settings unless that is stated.
        f_number=facts.depth.f_number or max(lens.sharpest_f_number, lens.widest_f_number(focal_mm)),
        iso=facts.exposure.iso or body.base_iso,
        coc_mm=coc_mm(facts, body),
        bearing_deg=frame.bearing_deg
        if frame.bearing_deg is not None
        else (looked_at[0].bearing_deg if looked_at else 0.0),
        camera_height_m=frame.camera_height_m if frame.camera_height_m is not None else DEFAULT_CAMERA_HEIGHT_M,
    )


def sides_mm(body: Body, orientation: Orientation) -> tuple[float, float]:
    """Return the width and the height of the picture on the sensor [mm], as the camera is turned."""
    sides = (body.sensor_width_mm, body.sensor_height_mm)
    return (sides[1], sides[0]) if orientation == Orientation.PORTRAIT else sides


def crop_of(facts: ShotFacts, body: Body, focal_mm: float) -> Crop:
    """Return the crop: the whole frame without one, or if the lens in use is longer than the crop's."""
    frame = facts.frame
    pixels = (body.pixels_wide, body.pixels_high)
    if frame.orientation == Orientation.PORTRAIT:
        pixels = pixels[::-1]
    longer = frame.crop_focal_mm if frame.crop_focal_mm and frame.crop_focal_mm >= focal_mm else None
    return crop_frame(
        sides_mm(body, frame.orientation),
        pixels,
        focal_mm,
        longer,
        frame.crop_aspect,
        frame.crop_ratio,
        (frame.crop_x, frame.crop_y),
    )


def camera_of(facts: ShotFacts, settings: Settings, body: Body, image_mm: float | None = None) -> Camera:
    """Return the camera of a shot where it was put, its height above the ground where it stands; focused close the
    lens images as a longer one, at image_mm.

    Without that it stands at infinity, with its rig.
    """
    frame = facts.frame
    return Camera(
        bearing_deg=settings.bearing_deg,
        focal_mm=image_mm or facts.lens_at(settings.focal_mm).far_focal_mm,
        sensor_width_mm=body.sensor_width_mm,
        sensor_height_mm=body.sensor_height_mm,
        pitch_deg=frame.pitch_deg,
        orientation=frame.orientation,
        east_m=frame.camera_east_m,
        north_m=frame.camera_north_m,
        height_m=settings.camera_height_m,
        roll_deg=frame.roll_deg,
    )


def standing_on(camera: Camera, ground: Ground) -> Camera:
    """Return a camera whose height counts from the mark's ground instead of the ground under it."""
    return replace(camera, height_m=camera.height_m + float(ground.height_m(camera.east_m, camera.north_m)))


def coc_mm(facts: ShotFacts, body: Body) -> float:
    """Return the circle of confusion [mm] by the criterion chosen. A print is made from what the crop leaves."""
    depth, frame = facts.depth, facts.frame
    if depth.coc_criterion == CocCriterion.CUSTOM and depth.coc_custom_mm:
        return depth.coc_custom_mm
    if depth.coc_criterion == CocCriterion.PRINT:
        crop = crop_of(facts, body, frame.focal_mm or (facts.lens.focal_min_mm if facts.lens else _NORMAL_FOCAL_MM))
        # By shares, not by pixels: of a very small crop not one whole pixel may be left.
        return coc_print_mm(
            sides_mm(body, frame.orientation)[0] * crop.width_share, depth.print_width_mm, depth.viewing_distance_mm
        )
    if depth.coc_criterion == CocCriterion.PIXELS:
        return coc_pixels_mm(body.sensor_width_mm, body.pixels_wide)
    return coc_handbook_mm(body.sensor_width_mm, body.sensor_height_mm)
