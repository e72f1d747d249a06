"""Step 6: the frames to take, in order, with their times."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cache

from ...facts.frame_groups import MOST_FRAMES
from ...facts.shot import ShotFacts
from ...framing.panorama import Aim
from ...units.lengths import format_duration
from ..exposure.plan import ExposureStep
from ..focus.plan import DepthStep
from ..focus.stack_health import stack_health
from ..light.changing_light import changing_light
from ..light.plan import LightStep
from ..reasons import Reason, worst_mark
from ..verdicts import FAILS, HOLDS, TIGHT, UNSAID, Verdict
from ..wording import plural
from . import wording as say
from .bursts import burst_reasons
from .groups import PlannedGroup, planned_groups
from .order import order_of
from .reasons import group_reasons, in_time
from .star_trails import dew_reasons, trail_reasons
from .supplies import Supplies, supplies_of, supply_reasons
from .timeline import Frame, build_sequence, filter_change_s, overheads_of, total_time_s

_TIGHT_SHARE = 0.75
LONGEST_SEQUENCE_S = 7 * 86400.0
# Of a metered time and a start [s], how long the shutter stands open.
_Needed = Callable[[float, float], float]


@dataclass(frozen=True, kw_only=True)
class SequenceStep:
    """The frames to take. groups: as listed; order: indices of those that are taken, in order."""

    verdict: Verdict
    reasons: tuple[Reason, ...]
    frames: tuple[Frame, ...] = ()
    total_s: float | None = None
    available_s: float | None = None
    end_utc: datetime | None = None
    groups: tuple[PlannedGroup, ...] = ()
    order: tuple[int, ...] = ()
    supplies: Supplies | None = None


def plan_sequence(
    facts: ShotFacts, light: LightStep, depth: DepthStep, exposure: ExposureStep, aims: Sequence[Aim] = ()
) -> SequenceStep:
    """Return the frames in order, and whether they fit into the light that is left. aims: of a panorama, in order."""
    if not depth.positions or not exposure.exposures or exposure.f_number is None or exposure.iso is None:
        lacking, dial = (
            ("focus plan", "sharp_element_ids") if not depth.positions else ("exposure", "metered_shutter_s")
        )
        reason = say.step_missing(lacking=lacking).unsaid(dial)
        return SequenceStep(verdict=Verdict("sequence", UNSAID, f"no {lacking} yet"), reasons=(reason,))
    body = facts.body
    assert body is not None
    overheads = overheads_of(
        facts, body, exposure.flash.recycle_s if exposure.flash else 0.0, exposure.bracket_automatic is True
    )
    groups = planned_groups(facts, light, depth, exposure, aims)
    of_groups = [item for group in groups if not group.group.muted for item in group.reasons]
    order = order_of(facts, groups, overheads, light.drift_stops_per_min or 0.0)
    if sum(groups[at].frames for at in order) > MOST_FRAMES:
        return _none(
            groups, f"more than {MOST_FRAMES} frames", say.too_many_frames(most=MOST_FRAMES).fails("frame_groups")
        )
    if not any(groups[at].frames for at in order):
        said = of_groups or [say.every_group_muted().unsaid("frame_groups")]
        return SequenceStep(
            verdict=Verdict("sequence", worst_mark(said), "no frames"), reasons=tuple(said), groups=groups, order=order
        )
    followed = changing_light(facts) if exposure.follows_light else None
    # Asked for each frame twice: for its time, and whether the light lasts that long.
    needed_s = cache(followed.needed_s) if followed is not None else None
    frames = build_sequence(
        [groups[at] for at in order], exposure.f_number, exposure.iso, overheads, _as_light_goes(needed_s)
    )
    total = total_time_s(frames, overheads)
    if total > LONGEST_SEQUENCE_S:
        return _none(groups, "longer than a week", say.longer_than_a_week().fails("filters"))
    supplies = supplies_of(facts, frames, overheads)
    groups = in_time(facts, groups, frames)
    of_groups = [item for at in order for item in groups[at].reasons]
    of_groups += group_reasons(facts, depth, exposure, groups, aims) + supply_reasons(facts, supplies)
    of_groups += burst_reasons(facts, groups, frames, overheads) + trail_reasons(facts, groups, frames)
    of_groups += dew_reasons(facts, light, total)
    count = plural(len(frames), "frame")
    if facts.light.time_utc is None or light.band is None:
        reason = say.no_time().unsaid("time_utc")
        untimed = [reason, *of_groups, *_patience_reasons(facts, total), *stack_health(facts, depth, total)]
        verdict = Verdict("sequence", worst_mark(untimed), f"{count}, {format_duration(total)}")
        return SequenceStep(
            verdict=verdict,
            reasons=tuple(untimed),
            frames=frames,
            total_s=total,
            groups=groups,
            order=order,
            supplies=supplies,
        )
    available = (light.window_end_utc - facts.light.time_utc).total_seconds() if light.window_end_utc else None
    end = facts.light.time_utc + timedelta(seconds=total)
    reasons = [fit_reason(facts, light, total, available), *of_groups]
    reasons += _too_dark_reasons(needed_s, frames) + _drift_reasons(facts, frames, exposure.follows_light)
    reasons += _patience_reasons(facts, total) + stack_health(facts, depth, total)
    dark_s = sum(frame.around.dark_s for frame in frames)
    if dark_s > 0:
        reasons.append(say.dark_frames(added_s=dark_s, from_s=body.dark_frame_from_s).holds())
    taught = facts.taught.filter_change
    if taught is not None and any(frame.around.change_s > 0 for frame in frames):
        entered = facts.sequence.filter_change_s
        reasons.append(
            say.own_filter_change(own_s=filter_change_s(facts), entered_s=entered, changes=taught.frames).holds()
        )
    text = f"{count}, {format_duration(total)}" + (f" of {format_duration(available)}" if available is not None else "")
    verdict = Verdict("sequence", worst_mark(reasons), text)
    return SequenceStep(
        verdict=verdict,
        reasons=tuple(reasons),
        frames=frames,
        total_s=total,
        available_s=available,
        end_utc=end,
        groups=groups,
        order=order,
        supplies=supplies,
    )


def _none(groups: tuple[PlannedGroup, ...], words: str, reason: Reason) -> SequenceStep:
    """Return a step without frames, and why there are none."""
    return SequenceStep(verdict=Verdict("sequence", reason.severity, words), reasons=(reason,), groups=groups)


def _as_light_goes(needed_s: _Needed | None) -> Callable[[float, float], float] | None:
    """Return a function of start and metered time [s] that gives the time a frame needs as the light changes; None if
    that is not followed.
    """
    if needed_s is None:
        return None

    def open_s(start_s: float, metered_s: float) -> float:
        found = needed_s(metered_s, start_s)
        # If the light is gone before, the frame keeps the time of the start; a reason reports that failure.
        return found if math.isfinite(found) else needed_s(metered_s, 0.0)

    return open_s


def _too_dark_reasons(needed_s: _Needed | None, frames: tuple[Frame, ...]) -> list[Reason]:
    """Return the reason that some frames begin too late to gather their light."""
    if needed_s is None:
        return []
    late = [frame.number for frame in frames if math.isinf(needed_s(frame.metered_s, frame.start_s))]
    if not late:
        return []
    return [say.too_dark(first=late[0], last=late[-1]).fails("time_utc")]


def _patience_reasons(facts: ShotFacts, total: float) -> list[Reason]:
    """Return whether the subject stays still for the sequence."""
    patience = facts.depth.patience_s
    if patience is None:
        return []
    if total > patience:
        return [say.subject_moves_on(total_s=total, still_s=patience).fails("patience_s")]
    return [say.subject_stays(still_s=patience).holds("patience_s")]


def fit_reason(facts: ShotFacts, light: LightStep, total: float, available: float | None) -> Reason:
    """Return how a sequence compares with the light that is left [s].

    available: None if the light does not end that day.
    """
    if available is None or light.window_end_utc is None:
        return say.light_does_not_end(total_s=total, light=light.ends_name).holds("time_utc")
    close = total > _TIGHT_SHARE * available
    words = say.fit(
        total_s=total, available_s=available, light=light.ends_name, ends_at=facts.at(light.window_end_utc), close=close
    )
    return words.reason(FAILS if total > available else TIGHT if close else HOLDS, "time_utc")


def _drift_reasons(facts: ShotFacts, frames: tuple[Frame, ...], followed: bool) -> list[Reason]:
    light = changing_light(facts)
    if len(frames) < 2 or light is None:
        return []
    change = light.lost_stops(frames[0].start_s) - light.lost_stops(frames[-1].start_s)
    if abs(change) < 0.05:
        return []
    advise = not followed and abs(change) > 0.5
    words = say.light_changes(
        change_stops=change, followed=followed, first_s=frames[0].shutter_s, last_s=frames[-1].shutter_s, advise=advise
    )
    if followed:
        return [words.holds("follow_fading")]
    return [words.tight("follow_fading") if advise else words.holds("settle_s")]
