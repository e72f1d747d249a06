"""Step 3: whether what is screwed or slotted before the lens stands in the corners."""

from __future__ import annotations

import math

from ..facts.kit import Body
from ..facts.settings import Settings
from ..facts.shot import ShotFacts
from ..framing.vignetting import Vignetting, deepest_pupil_mm, rings_of, vignetting
from .marks import FAILS, HOLDS, TIGHT, Reason


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
    half = math.hypot(body.sensor_width_mm, body.sensor_height_mm) / 2
    known = lens.pupil_depth_mm
    depth = deepest_pupil_mm(lens.filter_thread_mm, lens.focal_min_mm, half) if known is None else known
    return vignetting(rings, depth, settings.focal_mm, settings.f_number, half)


def vignetting_reasons(facts: ShotFacts, found: Vignetting | None) -> list[Reason]:
    """Return what the ring that cuts first says."""
    if found is None:
        if facts.lens is not None and facts.lens.filter_thread_mm is None and any(item.on_lens for item in facts.filters):
            return [Reason("frame", HOLDS, f"Whether filters clear the corners is not known: {facts.lens.name} has no filter thread in the kit.", "lens_id")]  # fmt: skip
        return []
    if found.clear:
        return [Reason("frame", HOLDS, f"{found.ring.name} clears the corners at this focal length.", "filters")]
    known = facts.lens is not None and facts.lens.pupil_depth_mm is not None
    worst = "" if known else " at worst (the kit does not know how deep its entrance pupil lies)"
    if found.dark_from_mm < found.corner_mm:
        text = f"{found.ring.name} cuts the corners: dark from {found.dark_from_mm / found.corner_mm:.0%} of the half diagonal outwards{worst}. Zoom in, crop, or take one off."
        return [Reason("frame", FAILS if known else TIGHT, text, "focal_mm")]
    text = f"{found.ring.name} darkens the corners: from {found.darkens_from_mm / found.corner_mm:.0%} of the half diagonal outwards{worst}, less when stopped down."
    return [Reason("frame", TIGHT, text, "focal_mm")]
