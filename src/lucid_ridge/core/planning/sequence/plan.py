"""Step 6: the frames to take, in order, with their times."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from ...facts.frame_groups import MOST_FRAMES
from ...facts.shot import ShotFacts
from ...framing.panorama import Aim
from ...light.day import clear_sky_ev100
from ...spans.instants import unix_seconds
from ...units.lengths import format_duration
from ...units.markings import spoken_shutter
from ..exposure.plan import ExposureStep
from ..focus.plan import DepthStep
from ..focus.stack_health import stack_health
from ..light.falling import falling_light
from ..light.plan import LightStep, day_of_light
from ..verdicts import FAILS, HOLDS, TIGHT, UNSAID, Reason, Severity, Verdict, worst_mark
from .groups import PlannedGroup, planned_groups
from .order import order_of
from .reasons import group_reasons, in_time
from .supplies import Stores, stores_of, stores_reasons
from .timeline import DARK_FRAME_FROM_S, Frame, build_sequence, filter_change_s, overheads_of, total_time_s

_TIGHT_SHARE = 0.75
LONGEST_SEQUENCE_S = 7 * 86400.0


@dataclass(frozen=True)
class SequenceStep:
    """groups: as listed; order: which of them are taken, one after the other. battery, card: None where the body does not say enough."""

    verdict: Verdict
    reasons: tuple[Reason, ...]
    frames: tuple[Frame, ...] = ()
    total_s: float | None = None
    available_s: float | None = None
    end_utc: datetime | None = None
    groups: tuple[PlannedGroup, ...] = ()
    order: tuple[int, ...] = ()
    stores: Stores | None = None


def plan_sequence(facts: ShotFacts, light: LightStep, depth: DepthStep, exposure: ExposureStep, aims: Sequence[Aim] = ()) -> SequenceStep:
    """Return the frames in order and whether they fit into the light that is left. aims: of a panorama, in order."""
    if not depth.positions or not exposure.exposures or exposure.f_number is None or exposure.iso is None:
        lacking, dial = ("focus plan", "sharp_element_ids") if not depth.positions else ("exposure", "metered_shutter_s")
        reason = Reason("sequence", UNSAID, f"The frames follow once the {lacking} is known.", dial)
        return SequenceStep(Verdict("sequence", UNSAID, f"no {lacking} yet"), (reason,))
    body = facts.body
    assert body is not None
    overheads = overheads_of(facts, body, exposure.flash.recycle_s if exposure.flash else 0.0, exposure.bracket_automatic is True)
    groups = planned_groups(facts, light, depth, exposure, aims)
    of_groups = [item for group in groups if not group.group.muted for item in group.reasons]
    order = order_of(facts, groups, overheads, light.drift_stops_per_min or 0.0)
    if sum(groups[at].frames for at in order) > MOST_FRAMES:
        return _none(groups, FAILS, f"more than {MOST_FRAMES} frames", f"The groups come to more than {MOST_FRAMES} frames: take fewer.")
    if not any(groups[at].frames for at in order):
        said = of_groups or [Reason("sequence", UNSAID, "Every group is muted: there is nothing to take.", "frame_groups")]
        return SequenceStep(Verdict("sequence", worst_mark(said), "no frames"), tuple(said), groups=groups, order=order)
    frames = build_sequence(
        [groups[at] for at in order], exposure.f_number, exposure.iso, overheads, _as_light_goes(facts, exposure), exposure.fading_stops
    )
    total = total_time_s(frames, overheads)
    if total > LONGEST_SEQUENCE_S:
        return _none(
            groups, FAILS, "longer than a week", "The frames would take longer than a week: open the aperture, raise the ISO or take filters off.", "filters"
        )  # fmt: skip
    stores = stores_of(facts, frames, overheads)
    groups = in_time(facts, groups, frames)
    of_groups = [item for at in order for item in groups[at].reasons]
    of_groups += group_reasons(facts, depth, exposure, groups, aims) + stores_reasons(facts, stores)
    count = f"{len(frames)} frame{'s' if len(frames) != 1 else ''}"
    if facts.light.time_utc is None or light.band is None:
        reason = Reason("sequence", UNSAID, "Choose the time of the shot: the sequence is held against the light that is left.", "time_utc")
        untimed = [reason, *of_groups, *_patience_reasons(facts, total), *stack_health(facts, depth, total)]
        verdict = Verdict("sequence", worst_mark(untimed), f"{count}, {format_duration(total)}")
        return SequenceStep(verdict, tuple(untimed), frames, total, groups=groups, order=order, stores=stores)
    available = (light.window_end_utc - facts.light.time_utc).total_seconds() if light.window_end_utc else None
    end = facts.light.time_utc + timedelta(seconds=total)
    reasons = [fit_reason(facts, light, total, available), *of_groups]
    reasons += _too_dark_reasons(facts, exposure, frames) + _drift_reasons(facts, frames, exposure.fading_stops != 0)
    reasons += _patience_reasons(facts, total) + stack_health(facts, depth, total)
    if body.dark_frame and any(frame.shutter_s >= DARK_FRAME_FROM_S for frame in frames):
        reasons.append(Reason("sequence", HOLDS, "The body's dark frames take as long again as every exposure of 1 s and more."))
    taught = facts.taught.filter_change
    if taught is not None and any(frame.around.change_s > 0 for frame in frames):
        text_of = f"A filter takes {filter_change_s(facts):.0f} s to change by {taught.frames} changes of the log, not {facts.sequence.filter_change_s:g}."
        reasons.append(Reason("sequence", HOLDS, text_of))
    text = f"{count}, {format_duration(total)}" + (f" of {format_duration(available)}" if available is not None else "")
    verdict = Verdict("sequence", worst_mark(reasons), text)
    return SequenceStep(verdict, tuple(reasons), frames, total, available, end, groups, order, stores)


def _none(groups: tuple[PlannedGroup, ...], mark: Severity, words: str, text: str, dial: str = "frame_groups") -> SequenceStep:
    """Return that there are no frames to take, and why."""
    return SequenceStep(Verdict("sequence", mark, words), (Reason("sequence", mark, text, dial),), groups=groups)


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
    late = [frame.number for frame in frames if math.isinf(light.needed_s(frame.steady_s, frame.start_s))]
    if not late:
        return []
    which = f"frame {late[0]}" if len(late) == 1 else f"frames {late[0]} to {late[-1]}"
    text = f"The light goes before {which} can gather it: start earlier, open the aperture, raise the ISO or take a filter off."
    return [Reason("sequence", FAILS, text, "time_utc")]


def _patience_reasons(facts: ShotFacts, total: float) -> list[Reason]:
    """Return whether the subject sits still for the sequence."""
    patience = facts.depth.patience_s
    if patience is None:
        return []
    if total > patience:
        text = f"The sequence takes {format_duration(total)}, and the subject sits still for {format_duration(patience)}: take fewer frames, or come in the cool of the morning."
        return [Reason("sequence", FAILS, text, "patience_s")]
    return [Reason("sequence", HOLDS, f"The subject's {format_duration(patience)} are enough for the sequence.", "patience_s")]


def fit_reason(facts: ShotFacts, light: LightStep, total: float, available: float | None) -> Reason:
    """Return how a sequence of so many seconds stands against what is left of the light [s]; None: it does not end that day."""
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
