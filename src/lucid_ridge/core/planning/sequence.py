"""Step 6: the frames to take, in order, with their times."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from ..facts.choices import IN_HAND
from ..facts.kit import Body, FilterKind
from ..facts.shot import ShotFacts
from ..framing.panorama import Aim
from ..light.day import clear_sky_ev100
from ..spans.instants import unix_seconds
from ..units.lengths import format_duration
from ..units.markings import spoken_shutter
from .depth import DepthStep
from .exposure import ExposureStep
from .falling_light import falling_light
from .focus import FocusPosition
from .light import LightStep, day_of_light
from .marks import FAILS, HOLDS, TIGHT, UNSAID, Reason, Verdict, worst_mark
from .stack_health import stack_health
from .tonal_range import Exposure

# Frames shorter than this get no dark frame of the same length from the camera (common practice).
DARK_FRAME_FROM_S = 1.0
# Putting a filter on or taking it off between two frames [s]: common practice.
FILTER_CHANGE_S = 20.0
_TIGHT_SHARE = 0.75
LONGEST_SEQUENCE_S = 7 * 86400.0


@dataclass(frozen=True)
class Overheads:
    """What passes besides the exposures [s]: settling after a change of focus, self-timer, writing, dark frames, a flash getting ready again.

    burst_per_s: frames a second of a series taken while leaning in, where nothing else passes. bracket_in_burst: the body takes a bracket by
    itself, one after the other: self-timer and mirror wait come once for it.
    """

    settle_s: float = 5.0
    timer_s: float = 2.0
    mirror_s: float = 0.0
    write_s: float = 0.5
    dark_frame: bool = False
    recycle_s: float = 0.0
    burst_per_s: float | None = None
    bracket_in_burst: bool = False


@dataclass(frozen=True)
class Frame:
    """One frame: which focus and exposure, its settings, when its shutter opens [s after the start] and for how long.

    aim: where the camera looks in a panorama; None in a shot of one aim.
    """

    number: int
    focus_index: int
    exposure_index: int
    object_distance_m: float
    focus_distance_m: float
    rail_mm: float | None
    f_number: float
    shutter_s: float
    iso: float
    filters: tuple[str, ...]
    offset_ev: float
    start_s: float
    end_s: float
    aim: Aim | None = None


@dataclass(frozen=True)
class SequenceStep:
    verdict: Verdict
    reasons: tuple[Reason, ...]
    frames: tuple[Frame, ...] = ()
    total_s: float | None = None
    available_s: float | None = None
    end_utc: datetime | None = None


def build_sequence(
    positions: Sequence[FocusPosition],
    exposures: Sequence[Exposure],
    f_number: float,
    iso: float,
    filters: tuple[str, ...],
    overheads: Overheads,
    aims: Sequence[Aim] = (),
    as_light_goes: Callable[[float, float], float] | None = None,
    dark: frozenset[str] = frozenset(),
) -> tuple[Frame, ...]:
    """Return focus positions times exposures, the exposures nested inside each focus position, darkest first; of a panorama each focus is
    one whole pass over all aims, so that the focus stays locked while the camera turns.

    start_s and end_s include what comes before and after each exposure: settling at a new focus, the self-timer, the wait after the mirror has gone up, writing,
    and a dark frame as long as the exposure where the body takes one. as_light_goes: of a frame's start [s] and its shutter time the time that
    the light needs by then. dark: the filters that an exposure without neutral density is taken without; putting them on or taking them off takes its time.
    """
    frames: list[Frame] = []
    clock = 0.0
    bare: bool | None = None
    for focus_index, position, aim in [(*item, aim) for item in enumerate(positions) for aim in aims or (None,)]:
        clock += overheads.settle_s
        for exposure_index, exposure in enumerate(exposures):
            waits = exposure_index == 0 or not overheads.bracket_in_burst
            start = clock + (overheads.timer_s + overheads.mirror_s if waits else 0.0)
            if bare is not None and bare != exposure.bare:
                start += FILTER_CHANGE_S
            bare = exposure.bare
            if frames:
                start = max(start, frames[-1].end_s + overheads.recycle_s)
            shutter = as_light_goes(start, exposure.shutter_s) if as_light_goes else exposure.shutter_s
            end = start + shutter
            frames.append(
                Frame(
                    len(frames) + 1, focus_index, exposure_index, position.object_distance_m, position.focus_distance_m,
                    position.rail_mm, f_number, shutter, exposure.iso or iso, tuple(name for name in filters if not exposure.bare or name not in dark),
                    exposure.offset_ev, start, end, aim,
                )
            )  # fmt: skip
            dark_s = shutter if overheads.dark_frame and shutter >= DARK_FRAME_FROM_S else 0.0
            clock = end + dark_s + overheads.write_s
            if overheads.burst_per_s:
                clock = max(end, start + 1 / overheads.burst_per_s)
    return tuple(frames)


def total_time_s(frames: Sequence[Frame], overheads: Overheads) -> float:
    """Return the time [s] from setting the first focus until the last frame is written; 0 for no frames."""
    if not frames:
        return 0.0
    last = frames[-1]
    dark = last.shutter_s if overheads.dark_frame and last.shutter_s >= DARK_FRAME_FROM_S else 0.0
    return last.end_s + dark + overheads.write_s


def plan_sequence(facts: ShotFacts, light: LightStep, depth: DepthStep, exposure: ExposureStep, aims: Sequence[Aim] = ()) -> SequenceStep:
    """Return the frames in order and whether they fit into the light that is left. aims: of a panorama, in order."""
    if not depth.positions or not exposure.exposures or exposure.f_number is None or exposure.iso is None:
        lacking, dial = ("focus plan", "sharp_element_ids") if not depth.positions else ("exposure", "metered_shutter_s")
        reason = Reason("sequence", UNSAID, f"The frames follow once the {lacking} is known.", dial)
        return SequenceStep(Verdict("sequence", UNSAID, f"no {lacking} yet"), (reason,))
    body = facts.body
    assert body is not None
    overheads = _overheads(facts, body, exposure)
    on_lens = tuple(item.name for item in facts.filters if item.on_lens)
    frames = build_sequence(
        depth.positions, exposure.exposures, exposure.f_number, exposure.iso, on_lens, overheads, aims if len(aims) > 1 else (),
        _as_light_goes(facts, exposure), frozenset(item.name for item in facts.filters if item.kind == FilterKind.NEUTRAL_DENSITY),
    )  # fmt: skip
    total = total_time_s(frames, overheads)
    if total > LONGEST_SEQUENCE_S:
        reason = Reason(
            "sequence", FAILS, "The frames would take longer than a week: open the aperture, raise the ISO or take filters off.", "filters"
        )
        return SequenceStep(Verdict("sequence", FAILS, "longer than a week"), (reason,))
    count = f"{len(frames)} frame{'s' if len(frames) != 1 else ''}"
    if facts.light.time_utc is None or light.band is None:
        reason = Reason("sequence", UNSAID, "Choose the time of the shot: the sequence is held against the light that is left.", "time_utc")
        untimed = [reason, *_patience_reasons(facts, total), *stack_health(facts, depth, total)]
        return SequenceStep(Verdict("sequence", worst_mark(untimed), f"{count}, {format_duration(total)}"), tuple(untimed), frames, total)
    available = (light.window_end_utc - facts.light.time_utc).total_seconds() if light.window_end_utc else None
    end = facts.light.time_utc + timedelta(seconds=total)
    reasons = [_fit_reason(facts, light, total, available)]
    reasons += _too_dark_reasons(facts, exposure, frames) + _drift_reasons(facts, frames, exposure.fading_stops != 0)
    reasons += _patience_reasons(facts, total) + stack_health(facts, depth, total)
    if body.dark_frame and any(frame.shutter_s >= DARK_FRAME_FROM_S for frame in frames):
        reasons.append(Reason("sequence", HOLDS, "The body's dark frames take as long again as every exposure of 1 s and more."))
    text = f"{count}, {format_duration(total)}" + (f" of {format_duration(available)}" if available is not None else "")
    return SequenceStep(Verdict("sequence", worst_mark(reasons), text), tuple(reasons), frames, total, available, end)


def _as_light_goes(facts: ShotFacts, exposure: ExposureStep) -> Callable[[float, float], float] | None:
    """Return what each frame's shutter time becomes while the light is followed; None where it is not, or nothing is known of it."""
    light = falling_light(facts) if exposure.fading_stops else None
    if light is None:
        return None
    followed = light

    def needed(start_s: float, shutter_s: float) -> float:
        found = followed.needed_s(shutter_s * 2.0**-exposure.fading_stops, start_s)
        # Where the light goes first the frame stays as it was planned; that is told as a failure.
        return found if math.isfinite(found) else shutter_s

    return needed


def _too_dark_reasons(facts: ShotFacts, exposure: ExposureStep, frames: tuple[Frame, ...]) -> list[Reason]:
    """Return which frames open too late to gather their light at all, where the light is followed."""
    light = falling_light(facts) if exposure.fading_stops else None
    if light is None:
        return []
    steady = [item.shutter_s * 2.0**-exposure.fading_stops for item in exposure.exposures]
    late = [frame.number for frame in frames if math.isinf(light.needed_s(steady[frame.exposure_index], frame.start_s))]
    if not late:
        return []
    which = f"frame {late[0]}" if len(late) == 1 else f"frames {late[0]} to {late[-1]}"
    text = f"The light goes before {which} can gather it: start earlier, open the aperture, raise the ISO or take a filter off."
    return [Reason("sequence", FAILS, text, "time_utc")]


def _overheads(facts: ShotFacts, body: Body, exposure: ExposureStep) -> Overheads:
    said, recycle = facts.sequence, exposure.flash.recycle_s if exposure.flash else 0.0
    if facts.frame.hold in IN_HAND:
        # In the hand nothing settles and no timer runs.
        return Overheads(0.0, 0.0, 0.0, body.write_s, body.dark_frame, recycle, facts.depth.frames_per_s)
    in_burst = exposure.bracket_automatic is True
    return Overheads(said.settle_s, said.timer_s, said.mirror_s, body.write_s, body.dark_frame, recycle, bracket_in_burst=in_burst)


def _patience_reasons(facts: ShotFacts, total: float) -> list[Reason]:
    """Return whether the subject sits still for the sequence."""
    patience = facts.depth.patience_s
    if patience is None:
        return []
    if total > patience:
        text = f"The sequence takes {format_duration(total)}, and the subject sits still for {format_duration(patience)}: take fewer frames, or come in the cool of the morning."
        return [Reason("sequence", FAILS, text, "patience_s")]
    return [Reason("sequence", HOLDS, f"The subject's {format_duration(patience)} are enough for the sequence.", "patience_s")]


def _fit_reason(facts: ShotFacts, light: LightStep, total: float, available: float | None) -> Reason:
    if available is None or light.window_end_utc is None:
        return Reason(
            "sequence", HOLDS, f"The sequence takes {format_duration(total)}; {light.ends_name} does not end that day.", "time_utc"
        )
    ends = f"{light.ends_name} ends at {facts.clock(light.window_end_utc)}"
    if total > available:
        over = format_duration(total - available)
        return Reason(
            "sequence",
            FAILS,
            f"The sequence takes {format_duration(total)} and runs {over} past the light: {ends}. Start earlier or take fewer frames.",
            "time_utc",
        )
    spare = format_duration(available - total)
    if total > _TIGHT_SHARE * available:
        return Reason("sequence", TIGHT, f"The sequence takes {format_duration(total)}, only {spare} before {ends}.", "time_utc")
    return Reason("sequence", HOLDS, f"The sequence takes {format_duration(total)} and leaves {spare} before {ends}.", "time_utc")


def _drift_reasons(facts: ShotFacts, frames: tuple[Frame, ...], followed: bool) -> list[Reason]:
    if len(frames) < 2 or facts.location is None or facts.light.date_local is None or facts.light.time_utc is None:
        return []
    track = day_of_light(facts.location, facts.light.date_local).track
    start = float(unix_seconds(facts.light.time_utc))
    ends = np.array([start + frames[0].start_s, start + frames[-1].start_s]).clip(track.start_s, track.end_s)
    first, last = clear_sky_ev100(track.altitude_deg(ends))
    change = float(last - first)
    if abs(change) < 0.05:
        return []
    way = "falls" if change < 0 else "rises"
    text = f"The light {way} by {abs(change):.1f} stop from the first frame to the last"
    if followed:
        lengths = f"{spoken_shutter(frames[0].shutter_s)} to {spoken_shutter(frames[-1].shutter_s)}"
        return [Reason("sequence", HOLDS, f"{text}: each is open as long as its own light needs, {lengths}.", "follow_fading")]
    if abs(change) > 0.5:
        return [Reason("sequence", TIGHT, f"{text}: follow the fading light, so that each is open as long as it needs.", "follow_fading")]
    return [Reason("sequence", HOLDS, f"{text}.", "settle_s")]
