"""Close up: ways to a magnification, the room they leave, the background they take in, the shadows they cast.

Thin lens throughout. Sources: [1] Gauss's lens equation; [2] powers of thin lenses in contact add, P = 1/f, any optics
text; twice the focal length gives nearly twice the room at the same magnification (common practice).
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..units.quantities import positive
from .conjugates import object_distance_for_magnification_mm
from .depth import blur_diameter_mm, pupil_offset_mm, total_blur_mm
from .working_lens import BARE, Rig, WorkingLens

# Sets of tubes, close-up lenses and converters as they are usually sold (common practice).
TUBES_MM = (12.0, 20.0, 36.0, 68.0)
CLOSE_UP_DIOPTRES = (2.0, 5.0, 10.0)
CONVERTERS = (1.4, 2.0)
# A background melts when its blur is at least this share of the frame's width (common practice).
MELTS_SHARE = 0.05
# Half an arm's length behind the lens one kneels, half a metre wide.
PHOTOGRAPHER_BEHIND_M, PHOTOGRAPHER_HALF_M = 0.35, 0.25


@dataclass(frozen=True, kw_only=True)
class CloseUpSetup:
    """One way to a magnification.

    object_mm: from the lens to the subject; working_mm: from the lens's front, where its length is known.

    focal_mm: as it now images. cost_stops: light lost against the bare lens at infinity. reached: it gets there.
    smallest, largest: the magnifications that this way gives, with the lens at infinity and at its closest.
    """

    name: str
    focal_mm: float
    smallest: float
    largest: float
    reached: bool
    object_mm: float
    working_mm: float | None
    cost_stops: float
    background_deg: float


def field_width_mm(sensor_width_mm: float, magnification: float) -> float:
    """Return the width of the field [mm] that fills a sensor's width at a magnification."""
    return float(positive("sensor_width_mm", sensor_width_mm)) / float(positive("magnification", magnification))


def magnification_from_field(sensor_width_mm: float, field_mm: float) -> float:
    """Return the magnification at which a ruler's field_mm fill the sensor's width: 17.3 mm over 21 mm is 0.82 (common
    practice).
    """
    return float(positive("sensor_width_mm", sensor_width_mm)) / float(positive("field_mm", field_mm))


def close_up_setups(
    lens: WorkingLens, magnification: float, sensor_width_mm: float, front_mm: float | None = None
) -> tuple[CloseUpSetup, ...]:
    """Return the usual set-ups for a lens at a magnification: bare, with tubes, close-up lenses, converters, and a
    lens twice as long.

    front_mm: from the lens's front principal plane to its front rim (None: unknown). Raises InputError for a
    magnification that is not positive.
    """
    bare = replace(lens, rig=BARE)
    ways = {"the lens alone": bare}
    ways |= {f"{tube:g} mm of tube": replace(bare, rig=Rig(extension_mm=(tube, tube))) for tube in TUBES_MM}
    ways |= {
        f"a close-up lens of {dioptres:g} dioptres": replace(bare, rig=Rig(dioptres=dioptres))
        for dioptres in CLOSE_UP_DIOPTRES
    }
    ways |= {f"a {factor:g}× converter": replace(bare, rig=Rig(converter=factor)) for factor in CONVERTERS}
    ways["a lens twice as long"] = WorkingLens(2 * lens.focal_mm, lens.largest, None, lens.pupil_ratio)
    return tuple(setup_of(name, way, magnification, sensor_width_mm, front_mm) for name, way in ways.items())


def setup_of(
    name: str, lens: WorkingLens, magnification: float, sensor_width_mm: float, front_mm: float | None
) -> CloseUpSetup:
    """Return the set-up of a lens with its accessories at a magnification."""
    imaging = lens.at_magnification(magnification)
    working = None if front_mm is None else lens.front_to_subject_mm(imaging, front_mm)
    background = math.degrees(2 * math.atan(sensor_width_mm / 2 / imaging.image_mm))
    smallest, largest = lens.reach
    return CloseUpSetup(
        name=name,
        focal_mm=imaging.focal_mm,
        smallest=smallest,
        largest=largest,
        reached=lens.reaches(magnification),
        object_mm=imaging.object_mm,
        working_mm=working,
        cost_stops=imaging.cost_stops,
        background_deg=background,
    )


@dataclass(frozen=True)
class Background:
    """What lies behind a subject: how many times as far as the subject it is, the width of it in the frame [mm], its
    blur disc on the sensor [mm] and as share of the frame's width.

    melts: that share is at least MELTS_SHARE. by_rule: it lies at least twice as far behind the subject as the camera
    stands before it, which common practice asks for and which alone melts nothing at a small aperture.
    """

    times: float
    width_mm: float
    blur_mm: float
    blur_share: float
    melts: bool
    by_rule: bool


def melts_from_mm(
    focal_mm: float,
    f_number: float,
    magnification: float,
    sensor_width_mm: float,
    share: float = MELTS_SHARE,
    pupil_ratio: float = 1.0,
) -> float:
    """Return how far behind the subject [mm] a background's defocus reaches a share of the frame's width; infinity
    where it never does.
    """
    most = focal_mm / f_number * magnification / sensor_width_mm
    object_mm = float(object_distance_for_magnification_mm(focal_mm, magnification)) - float(
        pupil_offset_mm(focal_mm, pupil_ratio)
    )
    return object_mm * share / (most - share) if most > share else math.inf


def background_behind(
    focal_mm: float,
    f_number: float,
    magnification: float,
    sensor_width_mm: float,
    behind_mm: float,
    pupil_ratio: float = 1.0,
    diffraction_mm: float = 0.0,
) -> Background:
    """Return the look of a background behind_mm behind the subject [mm, inf allowed]: the blur disc of defocus, with
    diffraction.

    Source: [1].
    """
    if not behind_mm > 0:
        raise InputError("behind_mm", "The background lies behind the subject.")
    object_mm = float(object_distance_for_magnification_mm(focal_mm, magnification))
    defocus = blur_diameter_mm(focal_mm, f_number, object_mm, object_mm + behind_mm, pupil_ratio)
    blur = float(total_blur_mm(defocus, diffraction_mm))
    width = sensor_width_mm / magnification * (1 + behind_mm / object_mm)
    by_rule = behind_mm >= 2 * object_mm * 0.999
    return Background(
        behind_mm / object_mm, width, blur, blur / sensor_width_mm, blur >= MELTS_SHARE * sensor_width_mm, by_rule
    )


@dataclass(frozen=True)
class CastShadow:
    """Whether the lens or the photographer keeps the sun off the subject.

    angle_deg: between the sun and the way back along the view.
    """

    angle_deg: float
    lens: bool
    photographer: bool


def shadow_on_subject(
    view_bearing_deg: float,
    view_pitch_deg: float,
    sun_azimuth_deg: float,
    sun_altitude_deg: float,
    object_m: float,
    working_m: float,
    lens_radius_m: float,
) -> CastShadow:
    """Return which of lens and photographer shades the subject: geometry.

    The photographer is taken as 0.5 m wide and 1.7 m tall, half an arm's length behind the lens; a sun below the
    horizon casts nothing.
    """
    view, sun = _unit(view_bearing_deg, view_pitch_deg), _unit(sun_azimuth_deg, sun_altitude_deg)
    angle = math.degrees(math.acos(float(np.clip(np.dot(-view, sun), -1, 1))))
    if sun_altitude_deg <= 0:
        return CastShadow(angle, False, False)
    lens = angle < math.degrees(math.atan2(lens_radius_m, max(1e-3, working_m)))
    stands = object_m + PHOTOGRAPHER_BEHIND_M
    aside = abs((sun_azimuth_deg - view_bearing_deg) % 360 - 180)
    person = aside < math.degrees(math.atan2(PHOTOGRAPHER_HALF_M, stands)) and sun_altitude_deg < math.degrees(
        math.atan2(1.7, stands)
    )
    return CastShadow(angle, lens, person)


def _unit(bearing_deg: float, altitude_deg: float) -> NDArray[np.float64]:
    bearing, altitude = math.radians(bearing_deg), math.radians(altitude_deg)
    return np.array(
        [math.cos(altitude) * math.sin(bearing), math.cos(altitude) * math.cos(bearing), math.sin(altitude)]
    )
