"""Exposure: camera settings before the first frame, and the reason for each."""

from __future__ import annotations

from dataclasses import dataclass

from ...facts.choices import IN_HAND
from ...facts.settings import settings_of
from ...facts.shot import ShotFacts
from ...units.markings import format_aperture, format_shutter
from ..focus.plan import DepthStep
from .plan import ExposureStep


@dataclass(frozen=True)
class CameraSetting:
    """One thing to set: its name, its value, and the reason. No maker's words are used."""

    name: str
    value: str
    why: str


def camera_settings(
    facts: ShotFacts, depth: DepthStep, exposure: ExposureStep, aims: int = 1
) -> tuple[CameraSetting, ...]:
    """Return the camera's settings from the plan; empty while there is no exposure."""
    settings, body = settings_of(facts), facts.body
    if settings is None or body is None or not exposure.exposures or exposure.shutter_s is None:
        return ()
    frames, several = exposure.exposures, len(exposure.exposures) > 1 or len(depth.positions) > 1 or aims > 1
    longest = max(item.shutter_s for item in frames)
    bulb, by_hand = body.needs_bulb(longest), facts.frame.hold in IN_HAND
    made = [
        CameraSetting(
            "Mode",
            "manual",
            "every frame keeps what was worked out" if several or not exposure.predicted else "the plan says both",
        ),
        CameraSetting("Aperture", format_aperture(settings.f_number), "from the depth of field"),
        CameraSetting(
            "Shutter",
            f"bulb, {format_shutter(longest)} by a timer" if bulb else format_shutter(exposure.shutter_s),
            _why_shutter(exposure),
        ),
        CameraSetting(
            "ISO", f"{settings.iso:g}", "base ISO holds most" if settings.iso == body.base_iso else "as chosen"
        ),
        CameraSetting("Drive", *_drive(facts, exposure)),
        CameraSetting(
            "Focus",
            "manual, set once" if len(depth.positions) < 2 else f"manual, {len(depth.positions)} positions",
            "the focus plan holds only where nothing hunts",
        ),
        CameraSetting(
            "Stabiliser", *(("on", "held by hand") if by_hand else ("off", "on something that stands it drifts"))
        ),
        CameraSetting(
            "White balance",
            "one fixed value, daylight",
            "frames that are put together must not differ" if several else "a warm sky is not to be neutralised",
        ),
        CameraSetting(
            "File",
            "raw" if body.film_exponent is None else "film",
            "highlights and shadows are lifted later" if body.film_exponent is None else "exposed as the ledger says",
        ),
    ]
    if longest >= body.dark_frame_from_s and body.dark_frame:
        made.append(
            CameraSetting(
                "Long-exposure dark frame",
                "on, or off and taken once at the end",
                "it takes as long again as every exposure",
            )
        )
    return tuple(made)


def _why_shutter(exposure: ExposureStep) -> str:
    if len(exposure.exposures) > 1:
        return "the frame that carries the picture"
    return f"{exposure.look} water" if exposure.look else "what the ledger leaves"


def _drive(facts: ShotFacts, exposure: ExposureStep) -> tuple[str, str]:
    count = len(exposure.exposures)
    if facts.frame.hold in IN_HAND:
        return (
            ("continuous, high speed", "the best of several")
            if facts.depth.frames_per_s
            else ("single frames", "held by hand")
        )
    timer = f"{facts.sequence.timer_s:g} s self-timer" if facts.sequence.timer_s else "a release"
    if exposure.bracket_automatic:
        return (
            f"automatic bracket of {count} at {facts.exposure.bracket_step_ev:g} EV, {timer}",
            "one press for the whole set",
        )
    return f"single frames, {timer}", "what the hand shakes has died down"
