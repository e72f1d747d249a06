"""Step 5, the range: what each frame holds of the scene, and the bracket that holds all of it."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import InputError
from ..exposure.bracketing import HIGHLIGHT_ROOM_STOPS, plan_bracket
from ..exposure.ev import shutter_for_ev_s
from ..facts.choices import BracketMode
from ..facts.kit import Body, FilterKind
from ..facts.settings import Settings
from ..facts.shot import ShotFacts
from ..units.markings import format_shutter
from .marks import FAILS, HOLDS, UNSAID, Reason


@dataclass(frozen=True)
class Exposure:
    """One exposure to take: its shutter time [s] and what it holds of the scene [EV at ISO 100]."""

    shutter_s: float
    offset_ev: float
    darkest_ev: float
    brightest_ev: float


@dataclass(frozen=True)
class SceneRange:
    """The darkest and the brightest part that must keep detail, as the sensor gets them [EV at ISO 100]; None where they were not read."""

    shadow_ev: float | None
    highlight_ev: float | None

    @property
    def stops(self) -> float | None:
        return None if self.shadow_ev is None or self.highlight_ev is None else self.highlight_ev - self.shadow_ev


def scene_range(facts: ShotFacts, through_stops: float, metered: bool) -> SceneRange:
    """Return the range that the sensor gets: readings taken through filters with these counted back, and the highlights, taken to lie in the sky, as
    dark as a graduated filter on the lens makes them; never darker than the shadows.

    through_stops: of filters that were on when metered. metered: whether anything was.
    """
    shadow, highlight = facts.exposure.shadow_ev, facts.exposure.highlight_ev
    if shadow is None or highlight is None:
        return SceneRange(shadow, highlight)
    graduated = [item for item in facts.filters if item.kind == FilterKind.GRADUATED]
    on_lens = sum(item.stops for item in graduated if item.on_lens)
    read_through = sum(item.stops for item in graduated if item.on_when_metered and metered)
    dark, bright = shadow + through_stops, highlight + through_stops + read_through
    if bright < dark:
        return SceneRange(dark, bright)
    return SceneRange(dark, max(dark, bright - on_lens))


def plan_exposures(
    facts: ShotFacts, settings: Settings, scene: float, shutter: float, other_stops: float, span: SceneRange
) -> tuple[tuple[Exposure, ...], list[Reason]]:
    """Return the exposures to take and what is to be said of the range.

    scene: EV at ISO 100 of the reading; shutter: what the ledger left [s]; other_stops: all that lengthens the shutter beside
    aperture and ISO (filters, extension, compensation, fading light); span: what must be held.
    """
    body = facts.body
    assert body is not None
    # The frame's mid-grey moves with compensation, never with what the filters take from all tones alike.
    middle = scene - facts.exposure.compensation_ev
    top = middle + HIGHLIGHT_ROOM_STOPS
    single = (Exposure(shutter, 0.0, top - body.dynamic_range_stops, top),)
    shadow, highlight = span.shadow_ev, span.highlight_ev
    if shadow is None or highlight is None:
        if facts.exposure.bracket == BracketMode.RANGE:
            return single, [
                Reason(
                    "exposure",
                    UNSAID,
                    "Read the brightest and the darkest part that must keep detail: the bracket spans them.",
                    "highlight_ev",
                )
            ]
        return single, []
    try:
        bracket = plan_bracket(
            shadow, highlight, body.dynamic_range_stops, facts.exposure.bracket_step_ev, facts.exposure.highlight_margin_ev
        )
    except InputError as error:
        return single, [Reason("exposure", FAILS, error.message, error.field if error.field != "step_ev" else "bracket_step_ev")]
    if facts.exposure.bracket == BracketMode.RANGE:
        cost = other_stops - facts.exposure.compensation_ev
        frames = tuple(
            Exposure(
                float(shutter_for_ev_s(frame.ev100, settings.f_number, settings.iso)) * 2.0**cost,
                frame.offset_ev, frame.darkest_ev, frame.brightest_ev,
            )
            for frame in bracket.frames
        )  # fmt: skip
        return frames, [_bracket_reason(facts, bracket.range_stops, bracket.spare_stops, frames)]
    return single, [_one_frame_reason(facts, body, bracket.range_stops, bracket.count, top, shadow, highlight)]


def _one_frame_reason(facts: ShotFacts, body: Body, span: float, count: int, top: float, shadow: float, highlight: float) -> Reason:
    """Return what one frame makes of the range. span: of the scene [stops]; count: frames that would hold it; top: the brightest held [EV]."""
    held, margin = body.dynamic_range_stops, facts.exposure.highlight_margin_ev
    if span > held:
        text = (
            f"The scene spans {span:g} stops, this body holds {held:g}: bracket {count} frames at {facts.exposure.bracket_step_ev:g} EV, "
            f"or give up {span - held:.1f} stops."
        )
        return Reason("exposure", FAILS, text, "bracket")
    if highlight + margin > top + 0.05:
        text = f"The highlights are clipped by {highlight + margin - top:.1f} stops: compensate darker."
        return Reason("exposure", FAILS, text, "compensation_ev")
    if shadow < top - held - 0.05:
        return Reason(
            "exposure", FAILS, f"The shadows block up by {top - held - shadow:.1f} stops: compensate brighter.", "compensation_ev"
        )
    text = f"One frame holds the {span:g} stops, with {top - highlight - margin:.1f} stops over the highlights."
    return Reason("exposure", HOLDS, text, "compensation_ev")


def _bracket_reason(facts: ShotFacts, span: float, spare: float, frames: tuple[Exposure, ...]) -> Reason:
    body = facts.body
    assert body is not None
    times = f"{format_shutter(frames[0].shutter_s)} to {format_shutter(frames[-1].shutter_s)}"
    way = "automatic on this body" if is_automatic(facts, frames) else "set by hand: the body's automatic bracket does not reach"
    if len(frames) == 1:
        return Reason(
            "exposure",
            HOLDS,
            f"The scene spans {span:g} stops and one frame holds {body.dynamic_range_stops:g}: no bracket is needed.",
            "bracket",
        )
    return Reason(
        "exposure", HOLDS,
        f"The scene spans {span:g} stops, one frame holds {body.dynamic_range_stops:g}: {len(frames)} frames at {facts.exposure.bracket_step_ev:g} EV, {times}, {way}; {spare:.1f} stops to spare in the shadows.",
        "bracket_step_ev",
    )  # fmt: skip


def is_automatic(facts: ShotFacts, exposures: tuple[Exposure, ...]) -> bool | None:
    """Return whether the body can take this bracket by itself; None where there is none."""
    body = facts.body
    if len(exposures) < 2 or body is None:
        return None
    return (
        # Bodies bracket around a middle: in odd numbers.
        len(exposures) % 2 == 1
        and len(exposures) <= body.bracket_frames
        and facts.exposure.bracket_step_ev <= body.bracket_step_ev
        and not body.needs_bulb(exposures[-1].shutter_s)
    )
