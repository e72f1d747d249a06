"""Workings of depth: hyperfocal distance, diffraction, blur, effective aperture, depth per frame."""

from __future__ import annotations

import math

from ..facts.settings import Settings
from ..facts.shot import ShotFacts
from ..optics.depth import GREEN_WAVELENGTH_MM
from ..planning.focus.optics import Optics, optics_at
from ..planning.focus.plan import DepthStep, nearest_imaging
from ..units.lengths import format_distance
from . import inputs
from .working import Given, Working

_NM = 1e6 * GREEN_WAVELENGTH_MM
_RAY = "S. F. Ray, Applied Photographic Optics, 3rd ed. (from memory)."


def depth_workings(facts: ShotFacts, settings: Settings, step: DepthStep) -> list[Working]:
    """Return the workings of a depth plan; none while it has no focus positions."""
    imaging = nearest_imaging(facts, settings, step.near_m or 1.0)
    if not step.positions or imaging is None or step.worst_blur_mm is None:
        return []
    optics = optics_at(settings, imaging)
    found = [
        _effective(facts, settings, optics, step),
        _airy(facts, settings, optics),
        _blur(facts, settings, optics, step),
    ]
    if not facts.close_up:
        found.insert(0, _hyperfocal(facts, settings, optics))
    return found


def _hyperfocal(facts: ShotFacts, settings: Settings, optics: Optics) -> Working:
    allowed = min(optics.coc_mm, optics.defocus_mm)
    counted = allowed < optics.coc_mm * 0.999
    given = [
        inputs.focal(facts, optics.focal_mm),
        Given("N", f"{optics.f_number:.4g}", f"marked {settings.f_number:.4g}, {inputs.by(facts.depth.f_number)}"),
        Given(
            "c",
            f"{1000 * allowed:.1f} µm",
            f"of {1000 * optics.coc_mm:.1f} µm allowed, what diffraction leaves" if counted else "all that is allowed",
        ),
    ]
    return Working(
        figure="hyperfocal",
        name="Hyperfocal distance",
        result=format_distance(optics.hyperfocal_mm / 1000),
        formula="f² ÷ (N c) + f",
        with_numbers=f"{optics.focal_mm:.4g}² ÷ ({optics.f_number:.4g} × {allowed:.5f}) + {optics.focal_mm:.4g} mm",
        given=tuple(given),
        assumption="From the lens; a thin lens in green light, diffraction and defocus added in quadrature.",
        source=_RAY,
    )


def _effective(facts: ShotFacts, settings: Settings, optics: Optics, step: DepthStep) -> Working:
    assert step.imaging is not None
    return Working(
        figure="effective_aperture",
        name="Effective aperture",
        result=f"f/{optics.effective:.3g}",
        formula="N (1 + m ÷ p), for a lens that is extended",
        with_numbers=f"{settings.f_number:.4g} × {optics.effective / settings.f_number:.4g}",
        given=(
            inputs.aperture(facts, settings),
            Given("m", f"{step.magnification:.3g}", "by the nearest focus"),
            Given("p", f"{optics.pupil_ratio:g}", inputs.KIT),
        ),
        assumption="With close-up lenses, converters and bellows as rigged.",
        source=_RAY,
    )


def _airy(facts: ShotFacts, settings: Settings, optics: Optics) -> Working:
    return Working(
        figure="diffraction",
        name="Airy disc",
        result=f"{1000 * optics.airy_mm:.1f} µm",
        formula="2.44 λ N_e",
        with_numbers=f"2.44 × {_NM:.0f} nm × {optics.effective:.4g}",
        given=(
            Given("λ", f"{_NM:.0f} nm", "green light"),
            Given("N_e", f"{optics.effective:.4g}", "effective aperture"),
        ),
        assumption="The first dark ring of a perfect lens.",
        source="G. B. Airy, Trans. Camb. Phil. Soc. 5 (1835) 283.",
    )


def _blur(facts: ShotFacts, settings: Settings, optics: Optics, step: DepthStep) -> Working:
    worst_mm = step.worst_blur_mm or 0.0
    defocus_mm = math.sqrt(max(0.0, worst_mm**2 - optics.airy_mm**2))
    return Working(
        figure="worst_blur",
        name="Worst blur",
        result=f"{1000 * worst_mm:.1f} µm",
        formula="√(defocus² + diffraction²)",
        with_numbers=f"√({1000 * defocus_mm:.1f}² + {1000 * optics.airy_mm:.1f}²) µm",
        given=(
            Given("defocus", f"{1000 * defocus_mm:.1f} µm", "at the worst place between near and far"),
            Given("diffraction", f"{1000 * optics.airy_mm:.1f} µm", "Airy disc"),
            inputs.circle(facts, settings),
        ),
        assumption="Sharp where it is no more than the circle of confusion.",
        source="Addition in quadrature is a usual approximation; wave optics confirms it to 3 %.",
    )
