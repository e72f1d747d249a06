"""The choices of a new shot: those of its kind, and the settings that the solver finds for them."""

from __future__ import annotations

from collections.abc import Mapping

from ..exposure.star_trails import untrailed_times
from ..facts.declaring import Value
from ..facts.kit import Body, Lens
from ..facts.shot import ShotFacts
from ..optics.circle_of_confusion import coc_handbook_mm
from ..solving.solver import solve
from ..solving.space import Candidate
from ..units.markings import nearest_third_shutter_s
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


def solved(facts: ShotFacts) -> Candidate | None:
    """Return the settings that fulfil a shot's wishes, or come nearest to them; None where nothing can be solved."""
    solution = solve(facts)
    if solution is None:
        return None
    if solution.best is not None:
        return solution.best.candidate
    return solution.concessions[0].solved.candidate if solution.concessions else None


def chosen_by(candidate: Candidate) -> Mapping[str, Value]:
    """Return a candidate's choices by name, its filters apart."""
    return {
        "f_number": candidate.f_number,
        "iso": candidate.iso,
        "depth_method": candidate.method,
        "bracket": candidate.bracket,
        "hold": candidate.hold,
        **({} if candidate.start is None else {"time_utc": candidate.start}),
    }
