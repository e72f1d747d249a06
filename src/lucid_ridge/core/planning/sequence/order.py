"""Step 6, the order of groups: filters and focus change as little as possible, and what the fading light makes longer
comes first.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import permutations

from ...facts.frame_groups import FrameOrder
from ...facts.shot import ShotFacts
from .groups import PlannedGroup
from .timeline import Overheads

# Up to this many groups all orders are tried; further ones are inserted one by one where they cost least.
_MOST_IN_EVERY_ORDER = 6
_HARDLY_S = 5.0


@dataclass(frozen=True)
class _Block:
    """A group as one block of time.

    fixed_s: of all that passes in it beside its exposures; open_s: of these, in the light of the start.
    """

    at: int
    fixed_s: float
    open_s: float
    waits_s: float | None
    first: tuple[object, frozenset[int]]
    last: tuple[object, frozenset[int]]


def order_of(
    facts: ShotFacts, groups: Sequence[PlannedGroup], overheads: Overheads, drift_stops_per_min: float
) -> tuple[int, ...]:
    """Return which groups are taken, by where they stand in the list, one after the other; muted ones and those
    without frames are left out.

    Where the order is not pinned it is the one that is done earliest without a group coming late for what it waits for;
    as listed where that takes hardly longer. drift_stops_per_min: of the light, negative while it fades.
    """
    taken = [group for group in groups if not group.group.muted and group.frames]
    if facts.sequence.frame_order == FrameOrder.PINNED or len(taken) < 2:
        return tuple(group.at for group in taken)
    blocks = [_block(group, overheads) for group in taken]
    rate = max(0.0, -drift_stops_per_min) / 60

    def cost(order: Sequence[_Block]) -> tuple[float, float, tuple[int, ...]]:
        late, end = _late_and_end_s(order, overheads, rate)
        return round(late, 6), round(end, 6), tuple(block.at for block in order)

    listed = cost(blocks)
    if len(blocks) <= _MOST_IN_EVERY_ORDER:
        best: Sequence[_Block] = min(permutations(blocks), key=cost)
    else:
        best = []
        for block in blocks:
            best = min(([*best[:at], block, *best[at:]] for at in range(len(best) + 1)), key=cost)
    # For a few seconds nothing is taken in another order than the photographer's.
    least = cost(best)
    return listed[2] if listed[0] <= least[0] and listed[1] - least[1] <= _HARDLY_S else least[2]


def _block(group: PlannedGroup, overheads: Overheads) -> _Block:
    places = [(position, aim) for _, position in group.positions for aim in group.aims or (None,)]
    each = len(places) * group.group.count
    open_s = each * sum(one.exposure.shutter_s for one in group.sets)
    dark = each * sum(overheads.dark_s(one.exposure.shutter_s) for one in group.sets)
    burst, gap = group.group.burst_per_s is not None, group.group.gap_s
    fixed = float(overheads.block_s(len(places), len(group.sets), group.group.count, 0.0, dark, burst))
    if gap is not None:
        fixed = float(overheads.block_s(len(places), len(group.sets), 1, 0.0, dark, burst))
        fixed += len(places) * len(group.sets) * (group.group.count - 1) * gap
    return _Block(
        group.at,
        fixed,
        open_s,
        group.waits_s,
        (places[0], group.sets[0].filter_ids),
        (places[-1], group.sets[-1].filter_ids),
    )


def _late_and_end_s(order: Sequence[_Block], overheads: Overheads, rate: float) -> tuple[float, float]:
    """Return how late groups come for what they wait for, all together, and when the last is done [s]."""
    clock, late = 0.0, 0.0
    before: tuple[object, frozenset[int]] | None = None
    for block in order:
        if before is None or before != block.first:
            clock += overheads.settle_s
        if before is not None:
            clock += len(before[1] ^ block.first[1]) * overheads.filter_change_s
        if block.waits_s is not None:
            late += max(0.0, clock - block.waits_s)
            clock = max(clock, block.waits_s)
        # In fading light what is taken later is open longer; what waits for a moment has the time of that moment.
        longer = 2.0 ** min(20.0, rate * clock) if block.waits_s is None else 1.0
        clock += block.fixed_s + block.open_s * longer
        before = block.last
    return late, clock
