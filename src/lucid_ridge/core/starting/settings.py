"""The choices of a new shot: those of its kind, and the settings that the solver finds for them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ..exposure.star_trails import untrailed_times
from ..facts.choices import BracketMode
from ..facts.declaring import Value
from ..facts.filters import Filter
from ..facts.kit import Body, Lens
from ..facts.shot import ShotFacts
from ..optics.circle_of_confusion import coc_handbook_mm
from ..solving.solver import solve
from ..units.markings import nearest_third_shutter_s
from .highlights import held_highlights
from .picture_kind import PictureKind
from .scene import StartScene
from .when import StartTime


def choices_of(kind: PictureKind, scene: StartScene, at: StartTime | None, body: Body, lens: Lens) -> dict[str, Value]:
    """Return a kind's choices for a shot, by name. scene: with that body and lens. at: None where no place is known."""
    found: dict[str, Value] = {
        "focal_mm": scene.focal_mm,
        "orientation": scene.orientation,
        "pitch_deg": scene.pitch_deg,
        "camera_height_m": scene.camera_height_m,
        "hold": kind.hold,
        "wanted_light": kind.light,
        "wanted_look": kind.look,
        "magnification": scene.magnification,
        "subject_depth_mm": kind.subject_depth_mm,
        **kind.choices,
    }
    if kind.star_points:
        coc_mm = coc_handbook_mm(body.sensor_width_mm, body.sensor_height_mm)
        widest = lens.widest_f_number(scene.focal_mm)
        found["wanted_shutter_s"] = nearest_third_shutter_s(
            untrailed_times(scene.focal_mm, widest, body, coc_mm).by_pixel_s
        )
    if at is not None:
        found |= {
            "date_local": at.date_local,
            "time_utc": at.start_utc,
            "window_end_utc": at.end_utc,
            "bearing_deg": at.bearing_deg,
        }
    return found


@dataclass(frozen=True)
class FoundSettings:
    """choices: by name, its filters apart. filters: on the lens. facts: the shot with all of them."""

    choices: Mapping[str, Value]
    filters: tuple[Filter, ...]
    facts: ShotFacts


def found_settings(facts: ShotFacts) -> FoundSettings | None:
    """Return the settings that fulfil a shot's wishes, or come nearest to them, and keep its highlights; None where
    nothing can be solved.
    """
    solution = solve(facts)
    if solution is None:
        return None
    best = solution.best or (solution.concessions[0].solved if solution.concessions else None)
    if best is None:
        return None
    candidate = best.candidate
    choices: dict[str, Value] = {
        "f_number": candidate.f_number,
        "iso": candidate.iso,
        "depth_method": candidate.method,
        "bracket": candidate.bracket,
        "hold": candidate.hold,
    }
    if candidate.start is not None:
        choices["time_utc"] = candidate.start
    chosen = candidate.applied_to(facts)
    held = held_highlights(chosen)
    choices["compensation_ev"] = held.compensation_ev
    if held.bracketed:
        choices |= {"bracket": BracketMode.AROUND, "bracket_count": 3, "bracket_step_ev": 2.0}
    filters = tuple(replace(item, on_lens=item.on_lens or item.id == held.graduated_id) for item in chosen.filters)
    chosen = replace(chosen, filters=filters).choosing(**choices)
    return FoundSettings(choices, chosen.filters_on_lens, chosen)
