"""Step 6, lists of groups to begin with: what the trade does with a scene like this one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...exposure.moving_things import passes
from ...facts.frame_groups import (
    FrameGroup,
    GroupExposure,
    GroupFilters,
    GroupFocus,
    GroupStart,
    Moment,
    Role,
    Together,
)
from ...facts.kit import Body
from ...facts.shot import ShotFacts
from ...framing.panorama import Aim
from ..exposure.plan import ExposureStep
from ..focus.plan import DepthStep
from ..light.plan import LightStep
from .groups import default_groups

_BREAKING_S, _DRAINING_S = 2 ** (-25 / 3), 0.5
_BURST_PER_S, _BREAKING_FRAMES = 5.0, 20
_EMPTY_FRAMES = 8


# An hour of trails, in frames that a sensor keeps clean and that a passing light spoils only one of.
_TRAILS_S, _TRAIL_FRAME_S, _TRAIL_GAP_S, _DARK_FRAMES = 3600.0, 32.0, 1.0, 3


@dataclass(frozen=True)
class GroupWay:
    """A list of groups with its name and why one takes it."""

    name: str
    why: str
    groups: tuple[FrameGroup, ...]


def group_ways(
    facts: ShotFacts, light: LightStep, depth: DepthStep, exposure: ExposureStep, aims: Sequence[Aim]
) -> tuple[GroupWay, ...]:
    """Return lists of groups that fit the shot, what depth and exposure ask for first; nothing before both are
    planned.
    """
    if not depth.positions or not exposure.exposures:
        return ()
    found = [
        GroupWay(
            "As planned",
            "all focus positions and exposures that depth and exposure ask for",
            default_groups(facts, depth, exposure, aims),
        )
    ]
    several = len(depth.positions) > 1 and not facts.close_up
    if several:
        focus = [(Role.NEAR, GroupFocus.NEAREST), (Role.FAR, GroupFocus.FARTHEST)]
        if len(depth.positions) > 2:
            focus.insert(1, (Role.MIDDLE, GroupFocus.MIDDLE))
        groups = [FrameGroup(role, focus=which, together=Together.STACK) for role, which in focus]
        sky = FrameGroup(
            Role.SKY,
            focus=GroupFocus.FARTHEST,
            exposure=GroupExposure.DARKEST,
            offset_ev=-1.0 if len(exposure.exposures) < 2 else 0.0,
            together=Together.BLEND,
        )
        found.append(
            GroupWay("Near, far and the sky", "each focus by itself, and one frame darker for the sky", (*groups, sky))
        )
    moving = [item for item in exposure.movers if item.element is not None]
    if any(not passes(item.element.moving if item.element else None) for item in moving):
        wave = FrameGroup(
            Role.FROZEN,
            "breaking",
            GroupFocus.FARTHEST if several else GroupFocus.ALL,
            exposure=GroupExposure.OWN,
            shutter_s=_BREAKING_S,
            filters=GroupFilters.NO_DENSITY,
            count=_BREAKING_FRAMES,
            burst_per_s=_BURST_PER_S,
            together=Together.BEST,
        )
        drain = FrameGroup(
            Role.LONG,
            "draining",
            wave.focus,
            exposure=GroupExposure.OWN,
            shutter_s=_DRAINING_S,
            together=Together.BLEND,
        )
        found.append(
            GroupWay(
                "Breaking, then draining",
                "a burst as the water breaks, one of half a second as it drains",
                (wave, drain),
            )
        )
    if any(passes(item.element.moving if item.element else None) for item in moving):
        empty = FrameGroup(Role.EMPTY, exposure=GroupExposure.CARRYING, count=_EMPTY_FRAMES, together=Together.AVERAGE)
        found.append(
            GroupWay(
                "Empty of people", "the same frame again and again: what stood still in most of them stays", (empty,)
            )
        )
    if facts.dark_stops and len(exposure.exposures) == 1:
        bare = FrameGroup(Role.FROZEN, "without the filter", filters=GroupFilters.NO_DENSITY, together=Together.BLEND)
        found.append(
            GroupWay(
                "Long, then without the filter",
                "the same picture sharp in what moves, to choose from or to blend",
                (FrameGroup(Role.LONG, together=Together.BLEND), bare),
            )
        )
    if light.stars_show and len(aims) < 2 and not facts.close_up and facts.body is not None:
        found.append(_trails(facts.body, several))
    if facts.location is not None and len(aims) < 2 and not facts.close_up and not light.stars_show:
        land = FrameGroup(Role.LAND, together=Together.STACK if several else Together.BLEND)
        sky = FrameGroup(
            Role.SKY,
            focus=GroupFocus.FARTHEST if several else GroupFocus.ALL,
            exposure=GroupExposure.DARKEST,
            start=GroupStart.MOMENT,
            start_moment=Moment.SUN_ON_RIM,
            together=Together.BLEND,
        )
        found.append(
            GroupWay(
                "Land now, sky at the rim",
                "the land in soft light, the sky when the sun comes over the rim, blended",
                (land, sky),
            )
        )
    return tuple(found)


def _trails(body: Body, several: bool) -> GroupWay:
    each = min(_TRAIL_FRAME_S, body.slowest_shutter_s)
    focus = GroupFocus.FARTHEST if several else GroupFocus.ALL
    trails = FrameGroup(
        Role.TRAILS,
        focus=focus,
        exposure=GroupExposure.OWN,
        shutter_s=each,
        count=round(_TRAILS_S / (each + _TRAIL_GAP_S)),
        gap_s=_TRAIL_GAP_S,
        together=Together.LIGHTEN,
    )
    dark = FrameGroup(
        Role.DARK,
        focus=focus,
        exposure=GroupExposure.OWN,
        shutter_s=each,
        count=_DARK_FRAMES,
        gap_s=_TRAIL_GAP_S,
        together=Together.AVERAGE,
    )
    return GroupWay(
        "Star trails",
        "an hour of frames by an interval timer, the brightest of each point kept; three with the cap on at the end",
        (trails, dark),
    )
