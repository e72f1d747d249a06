"""Whether filters, holder or hood vignette."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ...facts.filters import Filter
from ...facts.kit import Body, Lens
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...framing.vignetting import HOLDER_FIRST_MM, Vignetting, deepest_pupil_mm, rings_of, vignetting
from ..reasons import Reason
from ..verdicts import FAILS, TIGHT
from . import wording as say

# A usual filter thread, where the kit has none [mm].
_USUAL_THREAD_MM = 77.0


def shot_vignetting(facts: ShotFacts, settings: Settings, body: Body) -> Vignetting | None:
    """Return the ring that cuts first; None without filters or hood, or while the lens's thread is not known."""
    lens = facts.lens
    if lens is None or lens.filter_thread_mm is None:
        return None
    used = [item for item in facts.filters if item.on_lens]
    screwed = [(item.name, item.thickness_mm) for item in used if item.mount == "screw"]
    plates = sum(item.mount == "plate" for item in used)
    hood = lens.hood_mm if facts.frame.hood_on else None
    rings = rings_of(lens.filter_thread_mm, screwed, plates, hood, lens.hood_clear_mm)
    half = _half_diagonal_mm(body)
    return vignetting(
        rings, _pupil_depth_mm(lens, lens.filter_thread_mm, half), settings.focal_mm, settings.f_number, half
    )


def plate_distance_mm(lens: Lens, body: Body, screwed: Sequence[Filter]) -> float:
    """Return how far the first plate of a holder lies before the lens's entrance pupil [mm]; where the kit does not
    say, as far as it may be.
    """
    before = sum(item.thickness_mm for item in screwed) + HOLDER_FIRST_MM
    return before + _pupil_depth_mm(lens, lens.filter_thread_mm or _USUAL_THREAD_MM, _half_diagonal_mm(body))


def _pupil_depth_mm(lens: Lens, thread_mm: float, half_mm: float) -> float:
    known = lens.pupil_depth_mm
    return deepest_pupil_mm(thread_mm, lens.focal_min_mm, half_mm) if known is None else known


def _half_diagonal_mm(body: Body) -> float:
    return math.hypot(body.sensor_width_mm, body.sensor_height_mm) / 2


def vignetting_reasons(facts: ShotFacts, found: Vignetting | None) -> list[Reason]:
    """Return the reason about the ring that cuts first."""
    if found is None:
        if (
            facts.lens is not None
            and facts.lens.filter_thread_mm is None
            and any(item.on_lens for item in facts.filters)
        ):
            return [say.no_thread(lens=facts.lens.name).holds("lens_id")]
        return []
    if found.clear:
        return [say.clear(ring=found.ring.name).holds("filters")]
    known = facts.lens is not None and facts.lens.pupil_depth_mm is not None
    if found.dark_from_mm < found.corner_mm:
        words = say.cuts(ring=found.ring.name, from_share=found.dark_from_mm / found.corner_mm, pupil_known=known)
        return [words.reason(FAILS if known else TIGHT, "focal_mm")]
    words = say.darkens(ring=found.ring.name, from_share=found.darkens_from_mm / found.corner_mm, pupil_known=known)
    return [words.tight("focal_mm")]
