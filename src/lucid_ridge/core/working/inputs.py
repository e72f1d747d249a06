"""Where the numbers of a plan came from."""

from __future__ import annotations

from ..facts.settings import Settings
from ..facts.shot import ShotFacts
from ..labels import label_of
from ..units.markings import format_aperture
from .working import Given

YOURS, CHOSEN, KIT = "set by you", "chosen by the application", "from the kit"


def by(said: object) -> str:
    """Return whether a value was set by the photographer or chosen."""
    return CHOSEN if said is None else YOURS


def focal(facts: ShotFacts, focal_mm: float) -> Given:
    """Return the focal length as the lens images now."""
    set_mm = facts.frame.focal_mm
    changed = set_mm is not None and abs(focal_mm - set_mm) > 0.05
    return Given("f", f"{focal_mm:.4g} mm", f"{by(set_mm)}{', shorter as focused' if changed else ''}")


def aperture(facts: ShotFacts, settings: Settings) -> Given:
    """Return the marked aperture, with the exact value behind the marking."""
    exact = f"{format_aperture(settings.f_number)}, exactly {settings.f_number:.4g}"
    return Given("N", exact, by(facts.depth.f_number))


def circle(facts: ShotFacts, settings: Settings) -> Given:
    """Return the circle of confusion and its criterion."""
    return Given("c", f"{1000 * settings.coc_mm:.1f} µm", f"sharpness by {label_of(facts.depth.coc_criterion)}")


def iso(facts: ShotFacts, settings: Settings) -> Given:
    """Return the ISO speed."""
    return Given("ISO", f"{settings.iso:g}", by(facts.exposure.iso))
