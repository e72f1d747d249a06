"""Step 3 close up: field, working distance and ways to it, background, level with the subject, shadows."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ...facts.accessory import LIGHTS, AccessoryKind
from ...facts.place import Element
from ...facts.settings import Settings, camera_of
from ...facts.shot import ShotFacts
from ...framing.projection import Camera
from ...optics.close_up import (
    MELTS_SHARE,
    PHOTOGRAPHER_BEHIND_M,
    PHOTOGRAPHER_HALF_M,
    Background,
    CloseUpSetup,
    background_behind,
    close_up_setups,
    field_width_mm,
    melts_from_mm,
    shadow_on_subject,
)
from ...optics.depth import near_limit_mm
from ...optics.working_lens import Imaging
from ...units.markings import format_aperture
from ..light.plan import LightStep
from ..reasons import Reason
from . import close_up_wording as say
from .camera import AlongAxis, scene_solids, shot_lens, to_come_nearer_m
from .optics import Optics, optics_at
from .plan import DepthStep

_LENS_RADIUS_M = 0.035
_FLIES_OFF_M = 0.10
# Less than a fifth farther away than the subject a thing is what it lies upon.
LIES_ON = 1.2
# A camera put this near to where it is in focus was put there.
_MOVES_FROM_MM = 5.0


@dataclass(frozen=True, kw_only=True)
class LightSketch:
    """From above, around the subject: the view's bearing, the lens's principal plane and front rim behind it, the
    photographer behind the lens, half the width of both, and how far a lamp stands [mm; None: none].

    The sun where it shines: what lens and photographer keep off the subject.
    """

    bearing_deg: float
    object_mm: float
    working_mm: float
    behind_mm: float
    lens_half_mm: float
    person_half_mm: float
    lamp_mm: float | None
    sun_azimuth_deg: float | None = None
    sun_altitude_deg: float | None = None
    sun_off_deg: float = 0.0
    lens_shades: bool = False
    person_shades: bool = False


@dataclass(frozen=True)
class DrawnWay:
    """One way to count what bellows cost: in words, as a factor and in stops."""

    words: str
    factor: float
    stops: float


@dataclass(frozen=True, kw_only=True)
class CloseUpStep:
    """field_mm: width and height that fill the frame.

    working_mm: from the lens's front (from its principal plane where its length is not known).

    background_name None: nothing is known behind the subject, and background counts as at infinity. drawn_mm: from the
    lens to sensor or film where bellows are used, and drawn the ways to count what that costs.
    """

    field_mm: tuple[float, float]
    object_mm: float
    working_mm: float
    working_known: bool
    setups: tuple[CloseUpSetup, ...]
    background: Background
    background_name: str | None
    reasons: tuple[Reason, ...]
    sketch: LightSketch
    drawn_mm: float | None = None
    drawn: tuple[DrawnWay, ...] = ()


def plan_close_up(
    facts: ShotFacts, settings: Settings, camera: Camera, depth: DepthStep, light: LightStep
) -> CloseUpStep | None:
    """Return the bench of a close-up; None for a shot that is none.

    camera: in focus, its height above the ground where it stands.
    """
    lens, imaging, along = facts.lens, depth.imaging, depth.along
    if facts.depth.magnification is None or lens is None or imaging is None or along is None:
        return None
    scale, frame_mm = facts.depth.magnification, camera.frame_mm
    optics = optics_at(settings, imaging)
    setups = close_up_setups(shot_lens(facts, settings), scale, frame_mm[0], lens.front_mm)
    working = (
        imaging.object_mm
        if lens.front_mm is None
        else shot_lens(facts, settings).front_to_subject_mm(imaging, lens.front_mm)
    )
    behind = behind_subject(facts, along, imaging.object_mm)
    gap_mm = behind[1] * 1000 - imaging.object_mm if behind else math.inf
    seen = (optics.focal_mm, optics.f_number, scale, frame_mm[0])
    background = background_behind(*seen, gap_mm, optics.pupil_ratio, optics.airy_mm)
    field = (field_width_mm(frame_mm[0], scale), field_width_mm(frame_mm[1], scale))
    reasons = [say.field(magnification=scale, width_mm=field[0], height_mm=field[1]).holds("magnification")]
    reasons += _room(facts, working, lens.front_mm is not None) + _come_nearer(facts, settings, imaging)
    reasons.append(
        _melting(background, behind[0] if behind else None, melts_from_mm(*seen, pupil_ratio=optics.pupil_ratio))
    )
    reasons += _card(facts, imaging, frame_mm[0]) + _veils(facts, along, depth, optics, imaging, frame_mm[0])
    reasons += _level(camera, facts.subject)
    sketch = _sketch(facts, settings, light, imaging.object_mm, working)
    reasons += _shadows(sketch)
    drawn_mm, drawn = _drawn(facts, settings, imaging)
    return CloseUpStep(
        field_mm=field,
        object_mm=imaging.object_mm,
        working_mm=working,
        working_known=lens.front_mm is not None,
        setups=setups,
        background=background,
        background_name=behind[0].name if behind else None,
        reasons=tuple(reasons),
        sketch=sketch,
        drawn_mm=drawn_mm,
        drawn=drawn,
    )


def _drawn(facts: ShotFacts, settings: Settings, imaging: Imaging) -> tuple[float | None, tuple[DrawnWay, ...]]:
    """Return how far bellows are drawn and what that costs, counted three ways: by the two lengths, by reading both as
    f-numbers, and by a target in the scene measured on the glass (common practice; source of the factor: Gauss).
    """
    if not (facts.rig(AccessoryKind.VIEW_CAMERA) or facts.rig(AccessoryKind.BELLOWS)):
        return None, ()
    focal, image = settings.focal_mm, settings.focal_mm * (1 + imaging.own_magnification) + imaging.extension_mm
    by_draw = (image / focal) ** 2
    # In centimetres both lengths fall on the aperture ring's whole stops or near them.
    marks = [2.0 ** (round(2 * math.log2(length / 10)) / 2) for length in (focal, image)]
    by_marks = (marks[1] / marks[0]) ** 2
    by_target = (1 + imaging.magnification) ** 2
    ways = (
        (f"{image:.0f} mm of draw over {focal:g} mm, squared", by_draw),
        (f"read as f-numbers, {format_aperture(marks[0])} to {format_aperture(marks[1])}", by_marks),
        (
            f"a target of 50 mm is {50 * imaging.magnification:.0f} mm on the glass: 1 and "
            f"{imaging.magnification:.2g}, squared",
            by_target,
        ),
    )
    return image, tuple(DrawnWay(words, factor, math.log2(factor)) for words, factor in ways)


def _card(facts: ShotFacts, imaging: Imaging, sensor_width_mm: float) -> list[Reason]:
    """Return how far behind the subject a card still fills the frame's width: its field grows with the distance from
    the lens.
    """
    found = []
    for card in facts.rig(AccessoryKind.CARD):
        gap = imaging.object_mm * ((card.width_mm or 0.0) * imaging.magnification / sensor_width_mm - 1)
        if gap <= 0:
            found.append(say.card_too_narrow(card=card.name).fails("accessory_ids"))
            continue
        over = math.log2((card.reflectance or 0.18) / 0.18)
        found.append(say.card(card=card.name, reach_m=gap / 1000, over_mid_stops=over).holds("accessory_ids"))
    return found


def _veils(
    facts: ShotFacts, along: AlongAxis, depth: DepthStep, optics: Optics, imaging: Imaging, width_mm: float
) -> list[Reason]:
    """Return the foreground elements of a close-up that need not be sharp: strongly blurred they veil, half sharp they
    disturb.
    """
    blurs = {item.id: item.blur_mm for item in depth.elements}
    found = []
    for item in facts.elements:
        span = along.spans[item.id]
        if (
            item is facts.subject
            or item.id in facts.sharp_element_ids
            or span is None
            or not span.in_frame
            or span.far_m * 1000 > imaging.object_mm / LIES_ON
        ):
            continue
        share = min(9.99, blurs.get(item.id, 0.0) / width_mm)
        if not math.isfinite(share):
            continue
        if share >= MELTS_SHARE:
            found.append(say.veil(element=item.name, near_m=span.near_m, blur_share=share).holds("elements"))
        else:
            near_m, f_number = _veils_from(facts, optics, imaging, share, width_mm)
            words = say.half_sharp(
                element=item.name, near_m=span.near_m, blur_share=share, veils_from_m=near_m, veils_at_f_number=f_number
            )
            found.append(words.tight("elements"))
    return found


def _veils_from(
    facts: ShotFacts, optics: Optics, imaging: Imaging, share: float, width_mm: float
) -> tuple[float, float | None]:
    """Return the distance from the lens [m] and the aperture that would make a veil of something before the subject.

    Blur grows with the pupil's width and towards the lens. No aperture where the lens does not open that far.
    """
    assert facts.lens is not None
    # Where its blur is the share that melts: the near limit of that blur.
    near = near_limit_mm(
        optics.focal_mm, optics.f_number, MELTS_SHARE * width_mm, imaging.object_mm, optics.pupil_ratio
    )
    wide = optics.marked * share / MELTS_SHARE
    opened = 2.0 ** (math.floor(6 * math.log2(wide) + 1e-9) / 6) if wide >= facts.lens.f_number_min else None
    return near / 1000, opened


def behind_subject(facts: ShotFacts, along: AlongAxis, object_mm: float) -> tuple[Element, float] | None:
    """Return the nearest thing behind the subject and where it begins along the axis [m]; what the subject lies upon
    is none.
    """
    found = [
        (item, span.near_m)
        for item in facts.elements
        if item is not facts.subject
        and (span := along.spans[item.id]) is not None
        and span.near_m * 1000 > object_mm * LIES_ON
    ]
    return min(found, key=lambda pair: pair[1], default=None)


def _come_nearer(facts: ShotFacts, settings: Settings, imaging: Imaging) -> list[Reason]:
    """Return how far from where it was put the camera stands when the subject is in focus."""
    subject = facts.subject
    if subject is None or facts.body is None:
        return []
    put = camera_of(facts, settings, facts.body, imaging.image_mm)
    away = (
        to_come_nearer_m(facts, put, scene_solids(facts)[facts.elements.index(subject)], imaging.object_mm / 1000)
        * 1000
    )
    if abs(away) < _MOVES_FROM_MM:
        return []
    words = say.move_camera(
        magnification=imaging.magnification, subject=subject.name, object_mm=imaging.object_mm, nearer_mm=away
    )
    return [words.holds("magnification")]


def _room(facts: ShotFacts, working_mm: float, known: bool) -> list[Reason]:
    if working_mm <= 0:
        return [say.inside_lens().fails("magnification")]
    flies = working_mm < _FLIES_OFF_M * 1000 and any(item.shape == "insect" for item in facts.elements)
    words = say.working_distance(working_mm=working_mm, lens_length_known=known, insect_flies=flies)
    return [words.tight("lens_id") if flies else words.holds("magnification")]


def _melting(background: Background, behind: Element | None, melts_from_mm: float) -> Reason:
    if behind is None:
        return say.nothing_behind(melts_from_m=melts_from_mm / 1000, melts_share=MELTS_SHARE).holds("elements")
    words = say.background(
        element=behind.name,
        times_subject_distance=background.times,
        blur_share=background.blur_share,
        melts=background.melts,
        melts_share=MELTS_SHARE,
        melts_from_m=None if math.isinf(melts_from_mm) or background.by_rule else melts_from_mm / 1000,
    )
    return words.holds("elements") if background.melts else words.tight("f_number")


def _level(camera: Camera, subject: Element | None) -> list[Reason]:
    if subject is None:
        return []
    middle = subject.base_m + subject.height_m / 2
    off_mm = (camera.height_m - middle) * 1000
    is_level = abs(off_mm) <= max(3.0, subject.height_m * 500)
    return [say.level(subject=subject.name, above_mm=off_mm, is_level=is_level).holds("camera_height_m")]


def _shadows(sketch: LightSketch) -> list[Reason]:
    if sketch.sun_azimuth_deg is None:
        return []
    if sketch.lens_shades:
        return [say.lens_shades(sun_off_deg=sketch.sun_off_deg).tight("bearing_deg")]
    if sketch.person_shades:
        return [say.own_shadow().tight("bearing_deg")]
    return [say.leave_no_trace().caution()]


def _sketch(facts: ShotFacts, settings: Settings, light: LightStep, object_mm: float, working_mm: float) -> LightSketch:
    """Return the sketch of the set-up around the subject: camera, lights and their directions."""
    brings = any(item.kind in LIGHTS for item in facts.accessories)
    lamp_m = facts.exposure.flash_distance_m if brings else None
    still = LightSketch(
        bearing_deg=settings.bearing_deg % 360,
        object_mm=object_mm,
        working_mm=working_mm,
        behind_mm=PHOTOGRAPHER_BEHIND_M * 1000,
        lens_half_mm=_LENS_RADIUS_M * 1000,
        person_half_mm=PHOTOGRAPHER_HALF_M * 1000,
        lamp_mm=None if lamp_m is None else lamp_m * 1000,
    )
    if (
        light.sun_altitude_deg is None
        or light.sun_azimuth_deg is None
        or light.sun_hidden
        or light.sun_altitude_deg <= 0
        or working_mm <= 0
    ):
        return still
    view, sun = (settings.bearing_deg, facts.frame.pitch_deg), (light.sun_azimuth_deg, light.sun_altitude_deg)
    cast = shadow_on_subject(*view, *sun, object_mm / 1000, working_mm / 1000, _LENS_RADIUS_M)
    return replace(
        still,
        sun_azimuth_deg=sun[0],
        sun_altitude_deg=sun[1],
        sun_off_deg=cast.angle_deg,
        lens_shades=cast.lens,
        person_shades=cast.photographer,
    )
