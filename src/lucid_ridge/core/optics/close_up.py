"""Close up: ways to a magnification, the room they leave, the background they take in, the shadows they cast.

Thin lens throughout. Sources: [1] Gauss's lens equation; [2] powers of thin lenses in contact add, P = 1/f, any optics text;
twice the focal length gives nearly twice the room at the same magnification (common practice).
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..units.quantities import not_negative, positive
from .conjugates import object_distance_for_magnification_mm

# Sets of tubes, close-up lenses and converters as they are usually sold (common practice).
TUBES_MM = (12.0, 20.0, 36.0, 68.0)
CLOSE_UP_DIOPTRES = (2.0, 5.0, 10.0)
CONVERTERS = (1.4, 2.0)
# A background melts when its blur is at least this share of the frame's width (common practice).
MELTS_SHARE = 0.05


@dataclass(frozen=True)
class CloseUpSetup:
    """One way to a magnification. object_mm: from the lens to the subject; working_mm: from the lens's front, where its length is known.

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
    """Return the magnification at which a ruler's field_mm fill the sensor's width: 17.3 mm over 21 mm is 0.82 (common practice)."""
    return float(positive("sensor_width_mm", sensor_width_mm)) / float(positive("field_mm", field_mm))


def largest_with_tube(focal_mm: float, own_largest: float, tube_mm: float) -> float:
    """Return the largest magnification with an extension tube: m grows by extension / f. Source: [1]."""
    return float(not_negative("own_largest", own_largest)) + float(not_negative("tube_mm", tube_mm)) / float(positive("focal_mm", focal_mm))


def smallest_with_tube(focal_mm: float, tube_mm: float) -> float:
    """Return the smallest magnification with an extension tube, the lens at infinity: extension / f. Source: [1]."""
    return float(not_negative("tube_mm", tube_mm)) / float(positive("focal_mm", focal_mm))


def smallest_with_close_up_lens(focal_mm: float, dioptres: float) -> float:
    """Return the magnification with a close-up lens and the lens behind it at infinity: f · P. Source: [2]."""
    return float(positive("focal_mm", focal_mm)) * float(not_negative("dioptres", dioptres)) / 1000


def with_close_up_lens_mm(focal_mm: float, dioptres: float) -> float:
    """Return the focal length [mm] of a lens with a close-up lens in front of it. Source: [2]."""
    return 1 / (1 / float(positive("focal_mm", focal_mm)) + float(not_negative("dioptres", dioptres)) / 1000)


def largest_with_close_up_lens(focal_mm: float, own_largest: float, dioptres: float) -> float:
    """Return the largest magnification with a close-up lens: the lens's own extension v over the shorter focal length. Source: [1], [2]."""
    image_mm = focal_mm * (1 + own_largest)
    return image_mm / with_close_up_lens_mm(focal_mm, dioptres) - 1


def close_up_setups(
    focal_mm: float,
    own_largest: float,
    magnification: float,
    sensor_width_mm: float,
    front_mm: float | None = None,
    pupil_ratio: float = 1.0,
) -> tuple[CloseUpSetup, ...]:
    """Return what the usual accessories make of a lens at a magnification: bare, with tubes, close-up lenses, converters, and a lens twice as long.

    front_mm: from the lens's front principal plane to its front rim (None: unknown). Raises InputError for a magnification that is not positive.
    """
    scale = float(positive("magnification", magnification))
    rest = (scale, sensor_width_mm, front_mm, pupil_ratio)
    ways = [_setup("the lens alone", focal_mm, (0.0, own_largest), *rest)]
    for tube in TUBES_MM:
        reach = (smallest_with_tube(focal_mm, tube), largest_with_tube(focal_mm, own_largest, tube))
        ways.append(_setup(f"{tube:g} mm of tube", focal_mm, reach, *rest))
    for dioptres in CLOSE_UP_DIOPTRES:
        shorter = with_close_up_lens_mm(focal_mm, dioptres)
        reach = (smallest_with_close_up_lens(focal_mm, dioptres), largest_with_close_up_lens(focal_mm, own_largest, dioptres))
        ways.append(_setup(f"a close-up lens of {dioptres:g} dioptres", shorter, reach, *rest, behind_focal_mm=focal_mm))
    for factor in CONVERTERS:
        # The lens itself works at m / x; the converter enlarges what it makes and costs its own light.
        made = _setup(
            f"a {factor:g}× converter", focal_mm, (0.0, own_largest), scale / factor, sensor_width_mm / factor, front_mm, pupil_ratio
        )
        ways.append(
            replace(made, focal_mm=focal_mm * factor, largest=own_largest * factor, cost_stops=made.cost_stops + 2 * math.log2(factor))
        )
    ways.append(_setup("a lens twice as long", 2 * focal_mm, (0.0, own_largest), *rest))
    return tuple(ways)


def _setup(
    name: str, focal_mm: float, reach: tuple[float, float], scale: float, sensor_width_mm: float, front_mm: float | None,
    pupil_ratio: float, behind_focal_mm: float | None = None,
) -> CloseUpSetup:  # fmt: skip
    """behind_focal_mm: of the lens behind a close-up lens. Only what that lens itself is drawn out by costs light."""
    object_mm = float(object_distance_for_magnification_mm(focal_mm, scale))
    working = None if front_mm is None else object_mm - front_mm
    drawn_out = max(0.0, focal_mm * (1 + scale) / (behind_focal_mm or focal_mm) - 1)
    smallest, largest = reach
    return CloseUpSetup(
        name, focal_mm, smallest, largest, smallest * 0.999 <= scale <= largest * 1.001, object_mm, working,
        2 * math.log2(1 + drawn_out / pupil_ratio), math.degrees(2 * math.atan(sensor_width_mm / 2 / (focal_mm * (1 + scale)))),
    )  # fmt: skip


@dataclass(frozen=True)
class Background:
    """What lies behind a subject: how many times as far as the subject it is, the width of it in the frame [mm], its blur disc on the sensor
    [mm] and as share of the frame's width. melts: that share is at least MELTS_SHARE. by_rule: it lies at least twice as far behind the
    subject as the camera stands before it, which common practice asks for and which alone melts nothing at a small aperture."""

    times: float
    width_mm: float
    blur_mm: float
    blur_share: float
    melts: bool
    by_rule: bool


def melts_from_mm(focal_mm: float, f_number: float, magnification: float, sensor_width_mm: float, share: float = MELTS_SHARE) -> float:
    """Return how far behind the subject [mm] a background's blur reaches a share of the frame's width; infinity where it never does."""
    most = focal_mm / f_number * magnification / sensor_width_mm
    object_mm = float(object_distance_for_magnification_mm(focal_mm, magnification))
    return object_mm * share / (most - share) if most > share else math.inf


def background_behind(focal_mm: float, f_number: float, magnification: float, sensor_width_mm: float, behind_mm: float) -> Background:
    """Return what a background so far behind the subject [mm, inf allowed] looks like. Blur disc A·m·|d - u|/d. Source: [1]."""
    if not behind_mm > 0:
        raise InputError("behind_mm", "The background lies behind the subject.")
    object_mm = float(object_distance_for_magnification_mm(focal_mm, magnification))
    share = 1.0 if math.isinf(behind_mm) else behind_mm / (object_mm + behind_mm)
    blur = focal_mm / f_number * magnification * share
    width = sensor_width_mm / magnification * (1 + behind_mm / object_mm)
    by_rule = behind_mm >= 2 * object_mm * 0.999
    return Background(behind_mm / object_mm, width, blur, blur / sensor_width_mm, blur >= MELTS_SHARE * sensor_width_mm, by_rule)


@dataclass(frozen=True)
class CastShadow:
    """Whether the lens or the photographer keeps the sun off the subject. angle_deg: between the sun and the way back along the view."""

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
    """Return which of lens and photographer shades the subject: geometry. The photographer is taken as 0.5 m wide and 1.7 m tall, half
    an arm's length behind the lens; a sun below the horizon casts nothing."""
    view, sun = _unit(view_bearing_deg, view_pitch_deg), _unit(sun_azimuth_deg, sun_altitude_deg)
    angle = math.degrees(math.acos(float(np.clip(np.dot(-view, sun), -1, 1))))
    if sun_altitude_deg <= 0:
        return CastShadow(angle, False, False)
    lens = angle < math.degrees(math.atan2(lens_radius_m, max(1e-3, working_m)))
    stands = object_m + 0.35
    aside = abs((sun_azimuth_deg - view_bearing_deg) % 360 - 180)
    person = aside < math.degrees(math.atan2(0.25, stands)) and sun_altitude_deg < math.degrees(math.atan2(1.7, stands))
    return CastShadow(angle, lens, person)


def _unit(bearing_deg: float, altitude_deg: float) -> NDArray[np.float64]:
    bearing, altitude = math.radians(bearing_deg), math.radians(altitude_deg)
    return np.array([math.cos(altitude) * math.sin(bearing), math.cos(altitude) * math.cos(bearing), math.sin(altitude)])
