"""Step 6, the frames of groups along the clock, with all that passes between them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ...facts.calibrations import times_as_long
from ...facts.choices import IN_HAND
from ...facts.frame_groups import GroupExposure
from ...facts.kit import Body
from ...facts.shot import ShotFacts
from ...framing.panorama import Aim
from ..focus.optics import FocusPosition
from .groups import GroupSet, PlannedGroup


@dataclass(frozen=True, kw_only=True)
class Overheads:
    """What passes besides the exposures [s]: settling after a change of focus, aim or filters, self-timer, writing,
    dark frames, a flash getting ready again.

    burst_per_s: frames a second of a series taken while leaning in, where nothing else passes. bracket_in_burst: the
    body takes a bracket by itself, one after the other: self-timer and mirror wait come once for it. filter_change_s:
    for each filter put on or taken off; turn_s: for each turn of the head. buffer_frames: of a burst, before it waits
    for each frame to be written; None: not known, taken to hold all.
    """

    settle_s: float = 5.0
    timer_s: float = 2.0
    mirror_s: float = 0.0
    write_s: float = 0.5
    dark_frame: bool = False
    dark_frame_from_s: float = 1.0
    buffer_frames: int | None = None
    recycle_s: float = 0.0
    burst_per_s: float | None = None
    bracket_in_burst: bool = False
    filter_change_s: float = 0.0
    turn_s: float = 0.0

    def dark_s(self, shutter_s: float) -> float:
        """Return how long the body's dark frame takes after an exposure [s]."""
        return shutter_s if self.dark_frame and shutter_s >= self.dark_frame_from_s else 0.0

    def after_burst_frame_s(
        self, burst_per_s: float, start_s: float, shutter_s: float, first_end_s: float, taken: int
    ) -> float:
        """Return when the next frame of a burst can begin [s]: as fast as the burst goes, and once the buffer has room.

        taken: how many frames the burst has; first_end_s: when the first one ended.
        """
        ready = max(start_s + shutter_s + self.dark_s(shutter_s), start_s + 1 / burst_per_s)
        if self.buffer_frames is None or taken < self.buffer_frames:
            return ready
        return max(ready, first_end_s + (taken + 1 - self.buffer_frames) * self.write_s)

    def burst_s(self, frames: Any, open_s: Any) -> Any:
        """Return how long a burst takes until its last frame is written [s]. open_s: of all its frames. Broadcasts."""
        assert self.burst_per_s is not None
        each = open_s / frames
        last = np.maximum(open_s - each, (frames - 1) / self.burst_per_s)
        if self.buffer_frames is not None:
            over = frames - self.buffer_frames
            last = np.where(over > 0, np.maximum(last, each + over * self.write_s), last)
        return last + each + self.write_s

    def block_s(self, places: Any, sets: Any, repeats: int, open_s: Any, dark_s: Any, burst: Any = False) -> Any:
        """Return how long a group takes from its first focus on [s]: open_s, dark_s of all its frames together.

        sets: exposures at each place. Broadcasts.
        """
        frames = places * sets * repeats
        waits = np.where(burst, places, places * repeats if self.bracket_in_burst else frames)
        between = (places - 1) * self.settle_s + np.maximum(0, frames - 1) * self.recycle_s
        return dark_s + open_s + frames * self.write_s + waits * (self.timer_s + self.mirror_s) + between


def filter_change_s(facts: ShotFacts) -> float:
    """Return how long each filter takes that is put on or taken off [s], as the shot says and as the log corrects
    it.
    """
    return facts.sequence.filter_change_s * times_as_long(facts.taught.filter_change)


def overheads_of(facts: ShotFacts, body: Body, recycle_s: float, bracket_in_burst: bool) -> Overheads:
    """Return the times of a shot besides its exposures. recycle_s: of its flash."""
    said = facts.sequence
    if facts.frame.hold in IN_HAND:
        # In the hand nothing settles and no timer runs.
        return Overheads(
            settle_s=0.0,
            timer_s=0.0,
            mirror_s=0.0,
            write_s=body.write_s,
            dark_frame=body.dark_frame,
            dark_frame_from_s=body.dark_frame_from_s,
            buffer_frames=body.buffer_frames,
            recycle_s=recycle_s,
            burst_per_s=facts.depth.frames_per_s,
            bracket_in_burst=False,
            filter_change_s=filter_change_s(facts),
        )
    return Overheads(
        settle_s=said.settle_s,
        timer_s=said.timer_s,
        mirror_s=said.mirror_s,
        write_s=body.write_s,
        dark_frame=body.dark_frame,
        dark_frame_from_s=body.dark_frame_from_s,
        buffer_frames=body.buffer_frames,
        recycle_s=recycle_s,
        burst_per_s=None,
        bracket_in_burst=bracket_in_burst,
        filter_change_s=filter_change_s(facts),
        turn_s=said.turn_s,
    )


@dataclass(frozen=True)
class Around:
    """What passes around one exposure [s]: before it filters change, the head turns, the camera settles, a flash gets
    ready and the timer with the mirror's wait runs; after it a dark frame.
    """

    change_s: float = 0.0
    settle_s: float = 0.0
    recycle_s: float = 0.0
    timer_s: float = 0.0
    dark_s: float = 0.0
    # The first frame of a group that waits for its moment: when that comes [s after the start].
    waits_until_s: float | None = None


@dataclass(frozen=True)
class Frame:
    """One frame: which focus and exposure, its settings, when its shutter opens [s after the start] and for how long.

    focus_index, exposure_index: of the depth plan and of the planned exposures; a focus of its own has none, -1. aim:
    where the camera looks in a panorama; None in a shot of one aim. group: where its group stands in the list.
    metered_s: its metered time in the light of the start. brightest_ev, darkest_ev: between which it holds detail.
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
    group: int = 0
    metered_s: float = 0.0
    look: str | None = None
    brightest_ev: float = 0.0
    darkest_ev: float = 0.0
    filter_ids: frozenset[int] = frozenset()
    # Its position in its group, and its number among equal exposures there.
    place: int = 0
    turn: int = 0
    around: Around = Around()


Place = tuple[int | None, FocusPosition, Aim | None]


def build_sequence(
    groups: Sequence[PlannedGroup],
    f_number: float,
    iso: float,
    overheads: Overheads,
    as_light_goes: Callable[[float, float], float] | None = None,
) -> tuple[Frame, ...]:
    """Return the frames of groups, one after the other: in each its exposures nested inside each focus position,
    darkest first; of a panorama each focus is one whole pass over all aims, so that the focus stays locked while
    the camera turns.

    start_s and end_s include what comes before and after each exposure: filters, settling at a new focus or aim, the
    self-timer, the wait after the mirror has gone up, writing, and a dark frame as long as the exposure where the body
    takes one; an interval timer's gap takes the place of timer and writing. A group that waits for a moment opens its
    first frame then. as_light_goes: of a frame's start [s] and its metered time the time that the light needs by then;
    None if that is not followed.
    """
    frames: list[Frame] = []
    clock, before, on_lens, first_end_s = 0.0, None, None, 0.0
    for group in groups:
        waits = group.waits_s
        burst, gap = group.group.burst_per_s or overheads.burst_per_s, group.group.gap_s
        in_burst = 0
        own_time = group.group.exposure == GroupExposure.OWN
        for number, place in enumerate(_places(group)):
            settle = 0.0
            if place != before:
                turned = before is not None and place[2] != before[2]
                settle = overheads.settle_s + (overheads.turn_s if turned else 0.0)
                clock += settle
            before = place
            for turn, index, one in _turns(group):
                alone = (index == 0 or not overheads.bracket_in_burst) and (
                    turn == 0 or (group.group.burst_per_s is None and gap is None)
                )
                timer = overheads.timer_s + overheads.mirror_s if alone else 0.0
                changed = len(on_lens ^ one.filter_ids) if on_lens is not None else 0
                change = changed * overheads.filter_change_s
                if changed and not settle:
                    settle = overheads.settle_s
                    clock += settle
                on_lens, start = one.filter_ids, clock + timer + change
                ready = frames[-1].end_s + overheads.recycle_s if frames else 0.0
                recycle, start = max(0.0, ready - start), max(start, ready)
                until = waits
                if waits is not None:
                    start, waits = max(start, waits), None
                follows = as_light_goes is not None and not own_time
                # A group that waits is metered for the light of its moment.
                metered = one.exposure.metered_s * 2.0**-one.light_stops
                shutter = as_light_goes(start, metered) if follows and as_light_goes else one.exposure.shutter_s
                around = Around(change, settle, recycle, timer, overheads.dark_s(shutter), until)
                made = _frame(
                    number=len(frames) + 1,
                    group=group,
                    place=place,
                    one=one,
                    f_number=f_number,
                    iso=iso,
                    start_s=start,
                    shutter_s=shutter,
                )
                frames.append(replace(made, place=number, turn=turn, around=around))
                settle = 0.0
                clock = start + shutter + overheads.dark_s(shutter) + overheads.write_s
                if burst:
                    # Leaning in goes on through all positions; other bursts begin again at each.
                    in_burst = in_burst + 1 if turn or overheads.burst_per_s else 1
                    first_end_s = start + shutter if in_burst == 1 else first_end_s
                    clock = overheads.after_burst_frame_s(burst, start, shutter, first_end_s, in_burst)
                elif gap is not None:
                    clock = start + shutter + max(gap, overheads.dark_s(shutter))
    return tuple(frames)


def _places(group: PlannedGroup) -> list[Place]:
    return [(number, position, aim) for number, position in group.positions for aim in group.aims or (None,)]


def _turns(group: PlannedGroup) -> list[tuple[int, int, GroupSet]]:
    """Return the exposures at one place: the whole set again and again, or each often enough where a filter changes
    between them.
    """
    count, sets = range(group.group.count), list(enumerate(group.sets))
    if len({one.filter_ids for one in group.sets}) > 1:
        return [(turn, index, one) for index, one in sets for turn in count]
    return [(turn, index, one) for turn in count for index, one in sets]


def _frame(
    number: int,
    group: PlannedGroup,
    place: Place,
    one: GroupSet,
    f_number: float,
    iso: float,
    start_s: float,
    shutter_s: float,
) -> Frame:
    at, position, aim = place
    said = one.exposure
    return Frame(
        number=number,
        focus_index=-1 if at is None else at,
        exposure_index=one.base,
        object_distance_m=position.object_distance_m,
        focus_distance_m=position.focus_distance_m,
        rail_mm=position.rail_mm,
        f_number=f_number,
        shutter_s=shutter_s,
        iso=said.iso or iso,
        filters=one.filters,
        offset_ev=said.offset_ev,
        start_s=start_s,
        end_s=start_s + shutter_s,
        aim=aim,
        group=group.at,
        metered_s=said.metered_s * 2.0**-one.light_stops,
        look=one.look,
        brightest_ev=said.brightest_ev,
        darkest_ev=said.darkest_ev,
        filter_ids=one.filter_ids,
    )


def total_time_s(frames: Sequence[Frame], overheads: Overheads) -> float:
    """Return the time [s] from setting the first focus until the last frame is written; 0 for no frames."""
    if not frames:
        return 0.0
    last = frames[-1]
    return last.end_s + overheads.dark_s(last.shutter_s) + overheads.write_s
