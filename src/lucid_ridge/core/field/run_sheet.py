"""What the photographer does frame by frame: figures to read at arm's length, and the hand's actions before each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..facts.frame_groups import FrameGroup
from ..facts.shot import ShotFacts
from ..labels import NamedEnum
from ..planning.focus.holding import rail_moves
from ..planning.plan.shot_plan import ShotPlan
from ..planning.sequence.timeline import Frame
from ..units.lengths import compass_point, format_distances_apart, format_duration
from ..units.markings import format_aperture, format_shutter


class PhaseKind(NamedEnum):
    """What is waited for around an exposure."""

    EVENT = "event"
    FILTERS = "filters"
    SETTLE = "settle"
    FLASH = "flash"
    TIMER = "timer"
    EXPOSURE = "exposure"
    DARK = "dark_frame"


_PHASE_WORDS = {
    PhaseKind.EVENT: "wait for the moment",
    PhaseKind.FILTERS: "change filters",
    PhaseKind.SETTLE: "let it settle",
    PhaseKind.FLASH: "flash recycles",
    PhaseKind.TIMER: "self-timer",
    PhaseKind.EXPOSURE: "exposing",
    PhaseKind.DARK: "dark frame",
}


@dataclass(frozen=True)
class Phase:
    """seconds: how long it lasts; of an event at_s says when it comes instead [s after the start of the sequence]."""

    kind: PhaseKind
    words: str
    seconds: float
    at_s: float | None = None


@dataclass(frozen=True, kw_only=True)
class RunFrame:
    """A frame to take.

    key: identifies the frame in every later plan of the shot. actions: instructions before it, filters first;
    settings: the settings that change.

    focus_at: the subject of its focus distance: the focus, or the part that is moved for it. on_lens: the filters on
    the lens. start_s: when its shutter opens in the plan [s after the start].
    """

    key: str
    number: int
    group: int
    aim: str
    focus_at: str
    focus: str
    aperture: str
    shutter: str
    shutter_s: float
    iso: str
    on_lens: tuple[str, ...]
    actions: tuple[str, ...]
    settings: tuple[str, ...]
    phases: tuple[Phase, ...]
    start_s: float
    bulb: bool


def frame_key(frame: Frame) -> str:
    """Return the key that identifies a frame in every plan of its shot: group, position, exposure, and its number
    among equal exposures.
    """
    return f"{frame.group}.{frame.place}.{frame.exposure_index}.{frame.turn}"


def run_frames(facts: ShotFacts, plan: ShotPlan) -> tuple[RunFrame, ...]:
    """Return the frames of a plan as they are taken one after the other; empty while there are none."""
    frames = plan.sequence.frames
    marks = format_distances_apart([frame.focus_distance_m for frame in frames])
    focuses = [
        ("focus", mark) if frame.rail_mm is None else (rail_moves(facts), f"{frame.rail_mm:.2f} mm")
        for frame, mark in zip(frames, marks, strict=True)
    ]
    aims = [aim_words(frame) for frame in frames]
    made = []
    for at, frame in enumerate(frames):
        before = frames[at - 1] if at else None
        actions = _actions(before, frame, aims[at] if not at or aims[at] != aims[at - 1] else "")
        actions = (*actions, *_interval_timer(plan.sequence.groups[frame.group].group, frame))
        settings = _settings(before, frame, focuses[at] if not at or focuses[at] != focuses[at - 1] else None)
        focus_at, focus = focuses[at]
        made.append(
            RunFrame(
                key=frame_key(frame),
                number=frame.number,
                group=frame.group,
                aim=aims[at],
                focus_at=focus_at,
                focus=focus,
                aperture=format_aperture(frame.f_number),
                shutter=format_shutter(frame.shutter_s),
                shutter_s=frame.shutter_s,
                iso=f"{frame.iso:g}",
                on_lens=frame.filters,
                actions=actions,
                settings=settings,
                phases=phases_of(frame),
                start_s=frame.start_s,
                bulb=facts.body is not None and facts.body.needs_bulb(frame.shutter_s),
            )
        )
    return tuple(made)


def _interval_timer(group: FrameGroup, frame: Frame) -> tuple[str, ...]:
    """Return how the interval timer is set before the first frame of a series by it; empty elsewhere."""
    if group.gap_s is None or group.count < 2 or frame.turn:
        return ()
    time = format_shutter(frame.shutter_s)
    return (f"Set the interval timer: {group.count} frames of {time}, {group.gap_s:g} s from end to start",)


def aim_words(frame: Frame) -> str:
    """Return where the camera looks for a frame of a panorama; empty of a shot of one aim."""
    if frame.aim is None:
        return ""
    return f"{frame.aim.bearing_deg:.0f}° {compass_point(frame.aim.bearing_deg)}, {frame.aim.pitch_deg:+.0f}°"


def phases_of(frame: Frame) -> tuple[Phase, ...]:
    """Return the waiting phases around a frame, in order, without those of zero length."""
    around = frame.around
    spans = (
        (PhaseKind.FILTERS, around.change_s),
        (PhaseKind.SETTLE, around.settle_s),
        (PhaseKind.FLASH, around.recycle_s),
        (PhaseKind.TIMER, around.timer_s),
        (PhaseKind.EXPOSURE, frame.shutter_s),
        (PhaseKind.DARK, around.dark_s),
    )
    found = [Phase(kind, _PHASE_WORDS[kind], seconds) for kind, seconds in spans if seconds > 0]
    if around.waits_until_s is not None:
        found.insert(0, Phase(PhaseKind.EVENT, _PHASE_WORDS[PhaseKind.EVENT], 0.0, around.waits_until_s))
    return tuple(found)


def filter_actions(before: Sequence[str], after: Sequence[str]) -> tuple[str, ...]:
    """Return which filters come off and which go on, those that come off first."""
    off = [f"Take off {name}" for name in before if name not in after]
    return (*off, *(f"Put on {name}" for name in after if name not in before))


def _actions(before: Frame | None, frame: Frame, aim: str) -> tuple[str, ...]:
    found = list(filter_actions(before.filters if before is not None else (), frame.filters))
    if before is None and not frame.filters:
        found.append("No filter on the lens")
    if aim:
        found.append(f"Turn to {aim}")
    if frame.around.waits_until_s is not None:
        found.append(f"Wait until {format_duration(frame.around.waits_until_s)} after the start")
    return tuple(found)


_FOCUS_WORDS = {"focus": "Focus at", "rail": "Set the rail", "subject": "Set the subject", "lean in": "Lean in"}


def _settings(before: Frame | None, frame: Frame, focus: tuple[str, str] | None) -> tuple[str, ...]:
    found = []
    if focus is not None:
        found.append(f"{_FOCUS_WORDS[focus[0]]} {focus[1]}")
    if before is None or before.f_number != frame.f_number:
        found.append(f"Set {format_aperture(frame.f_number)}")
    if before is None or before.iso != frame.iso:
        found.append(f"Set ISO {frame.iso:g}")
    if before is None or format_shutter(before.shutter_s) != format_shutter(frame.shutter_s):
        found.append(f"Set {format_shutter(frame.shutter_s)}")
    return tuple(found)


def last_actions(frames: Sequence[RunFrame]) -> tuple[str, ...]:
    """Return the filters to take off after the last frame: a forgotten filter spoils the next shot."""
    return filter_actions(frames[-1].on_lens, ()) if frames else ()
