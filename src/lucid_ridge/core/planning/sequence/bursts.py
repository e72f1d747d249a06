"""Sequence: whether bursts fit the body: its rate, and its buffer."""

from __future__ import annotations

from collections.abc import Sequence

from ...facts.kit import Body
from ...facts.shot import ShotFacts
from ..reasons import Reason
from . import wording as say
from .groups import PlannedGroup
from .timeline import Frame, Overheads

_SLACK = 1.02


def burst_reasons(
    facts: ShotFacts, groups: Sequence[PlannedGroup], frames: Sequence[Frame], overheads: Overheads
) -> list[Reason]:
    """Return the reasons about groups taken in a burst: a rate that the body does not reach, more frames than its
    buffer holds; empty without bursts, or where the body's figures are not known.
    """
    body = facts.body
    assert body is not None
    found = []
    for group in groups:
        rate = group.group.burst_per_s or overheads.burst_per_s
        taken = [frame for frame in frames if frame.group == group.at]
        if rate is None or len(taken) < 2:
            continue
        dial = "frame_groups" if group.group.burst_per_s else "frames_per_s"
        if body.burst_per_s is not None and rate > body.burst_per_s * _SLACK:
            words = say.faster_than_body(body=body.name, frames_per_s=rate, most_per_s=body.burst_per_s)
            found.append(words.fails(dial))
        found += _buffer_reasons(body, group, taken, rate, dial, leaning=overheads.burst_per_s is not None)
    return found


def _buffer_reasons(
    body: Body, group: PlannedGroup, taken: Sequence[Frame], rate: float, dial: str, leaning: bool
) -> list[Reason]:
    in_one = len(taken) if leaning else group.group.count
    if body.buffer_frames is None or in_one <= body.buffer_frames or body.write_s * rate <= 1:
        return []
    first = taken[:in_one]
    lasts = first[-1].end_s - first[0].start_s
    words = say.buffer_full(
        group=group.group.called,
        frames=in_one,
        buffer_frames=body.buffer_frames,
        frames_per_s=rate,
        then_per_s=1 / body.write_s,
        lasts_s=lasts,
        as_planned_s=(in_one - 1) / rate,
    )
    return [words.tight(dial)]
