"""Which lens: every lens of the bag for this subject at this size on the sensor, with what its distance brings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...facts.accessory import OPTICAL, Accessory, rigged
from ...facts.kit import Lens
from ...facts.settings import settings_of, sides_mm
from ...facts.shot import ShotFacts
from ...optics.close_up import background_behind
from ...units.lengths import format_distance
from .apertures import aperture_choice
from .camera import shot_lens
from .close_up import behind_subject
from .optics import optics_at
from .plan import plan_depth

# Where nothing is known behind the subject, so far behind it the background is compared [mm].
_BACKGROUND_MM = 1000.0


@dataclass(frozen=True, kw_only=True)
class LensChoice:
    """A lens at a focal length, bare or with a rig, for the subject at the same size.

    reached False: the rest does not come about with it.

    object_mm: from the lens to the subject; working_mm: from its front rim (None: not known). background_mm: width of
    the background that shows; blur_share: its blur over the frame's width. frames: at f_number (None: too many).
    """

    lens_id: int
    name: str
    rig: str
    focal_mm: float
    reached: bool
    smallest: float
    largest: float
    object_mm: float
    working_mm: float | None
    background_mm: float
    blur_share: float
    f_number: float
    frames: int | None
    cost_stops: float
    in_use: bool


@dataclass(frozen=True)
class LensComparison:
    """magnification: the size that is kept.

    behind_mm: how far behind the subject the background is compared. None where there is none yet.
    """

    magnification: float | None
    behind_mm: float
    choices: tuple[LensChoice, ...]
    words: str


def compare_lenses(facts: ShotFacts, lenses: Sequence[Lens]) -> LensComparison:
    """Return all lenses for the shot's subject at its size; a zoom at both its ends, the lens in use as it is set,
    each with the rig as well.
    """
    settings = settings_of(facts)
    if settings is None or facts.body is None or facts.lens is None:
        return LensComparison(
            None, 0.0, (), "Choose a body and a lens first: the subject's size on the sensor is compared."
        )
    depth = plan_depth(facts)
    subject = facts.subject
    span = depth.along.spans.get(subject.id) if depth.along and subject else None
    if facts.close_up and depth.imaging is not None:
        scale: float | None = depth.imaging.magnification
        stands_m = depth.imaging.object_mm / 1000
    else:
        imaging = shot_lens(facts, settings).at_distance(span.near_m * 1000) if span else None
        scale = imaging.magnification if imaging else None
        stands_m = span.near_m if span else 0.0
    if scale is None or scale <= 0:
        return LensComparison(
            None, 0.0, (), "Name a subject, or a magnification close up: lenses are compared at its size on the sensor."
        )
    behind = behind_subject(facts, depth.along, stands_m * 1000) if depth.along else None
    behind_mm = (behind[1] - stands_m) * 1000 if behind else _BACKGROUND_MM
    rig = tuple(item for item in facts.accessories if item.kind in OPTICAL)
    near = depth.near_m if depth.near_m is not None else stands_m
    far = depth.far_m if depth.far_m is not None else near
    ahead, beyond = near - stands_m, far - stands_m
    made = []
    for lens in lenses:
        ends = [lens.focal_min_mm, *([lens.focal_max_mm] if lens.is_zoom else [])]
        focals = [settings.focal_mm] if lens.id == facts.lens.id else ends
        for focal in focals:
            for used in ((), rig) if rig else ((),):
                in_use = lens.id == facts.lens.id and used == rig
                made.append(
                    _choice(
                        facts=facts,
                        lens=lens,
                        focal=focal,
                        rig=used,
                        scale=scale,
                        behind_mm=behind_mm,
                        ahead=ahead,
                        beyond=beyond,
                        in_use=in_use,
                    )
                )
    words = (
        f"At {scale:.2g}:1; the background is compared {format_distance(behind_mm / 1000)} behind the "
        f"subject{'' if behind else ', where nothing is noted'}."
    )
    return LensComparison(
        scale, behind_mm, tuple(sorted(made, key=lambda item: (not item.reached, item.object_mm))), words
    )


def _choice(
    facts: ShotFacts,
    lens: Lens,
    focal: float,
    rig: tuple[Accessory, ...],
    scale: float,
    behind_mm: float,
    ahead: float,
    beyond: float,
    in_use: bool,
) -> LensChoice:
    """ahead, beyond: where what must be sharp begins and ends from the subject's nearest point [m]."""
    body = facts.body
    assert body is not None
    working = rigged(lens, focal, rig)
    other = replace(facts, lens=lens, accessories=rig).choosing(focal_mm=focal)
    settings = settings_of(other)
    assert settings is not None
    marked = min(max(settings.f_number, lens.widest_f_number(focal)), lens.f_number_max)
    imaging = working.at_magnification(scale)
    optics = optics_at(settings, imaging, marked)
    width = sides_mm(body, facts.frame.orientation)[0]
    background = background_behind(
        optics.focal_mm, optics.f_number, scale, width, behind_mm, optics.pupil_ratio, optics.airy_mm
    )
    near, far = imaging.object_mm / 1000 + ahead, imaging.object_mm / 1000 + beyond
    frames = aperture_choice(other, optics, None, near, far).frames if optics.images(near) else None
    names = " + ".join(item.name for item in rig)
    smallest, largest = working.reach
    return LensChoice(
        lens_id=lens.id,
        name=lens.name,
        rig=names,
        focal_mm=focal,
        reached=working.reaches(scale),
        smallest=smallest,
        largest=largest,
        object_mm=imaging.object_mm,
        working_mm=None if lens.front_mm is None else working.front_to_subject_mm(imaging, lens.front_mm),
        background_mm=background.width_mm,
        blur_share=background.blur_share,
        f_number=marked,
        frames=frames,
        cost_stops=imaging.cost_stops,
        in_use=in_use,
    )
