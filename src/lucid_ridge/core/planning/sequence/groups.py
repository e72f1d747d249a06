"""Step 6, what the groups of frames come to: focus, exposures and filters of each, as the plan of depth and exposure
has them.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ...exposure.exposure_sets import marked_time_s
from ...exposure.film import corrected_time_s, metered_time_s
from ...facts.choices import BracketMode
from ...facts.filters import Filter
from ...facts.frame_groups import FrameGroup, GroupExposure, GroupFilters, GroupFocus, GroupStart, Role, Together
from ...facts.kit import Body
from ...facts.settings import settings_of
from ...facts.shot import ShotFacts
from ...framing.panorama import Aim
from ...units.markings import ISO_MARKINGS
from ..exposure.exposures import ledger_filter
from ..exposure.movers import Mover
from ..exposure.plan import ExposureStep
from ..exposure.tonal_range import Exposure
from ..focus.optics import FocusPosition, optics_at, positions_at
from ..focus.plan import DepthStep
from ..focus.reasons import cannot_focus
from ..light.changing_light import changing_light
from ..light.moments import starts_at
from ..light.plan import LightStep
from ..reasons import Reason
from ..verdicts import FAILS, TIGHT
from . import wording as say

# By less than this a frame counts as bright as another [stops]: half the step of the dials.
AS_BRIGHT_STOPS = 1 / 6 + 1e-6
_MUCH_STOPS = 1.0

_DIAL = "frame_groups"


@dataclass(frozen=True)
class GroupSet:
    """One exposure of a group.

    base: the planned one that it comes from; light_stops: by which the light of its moment is weaker.

    filters: names and ids of what is on the lens.
    """

    exposure: Exposure
    base: int
    filters: tuple[str, ...]
    filter_ids: frozenset[int]
    look: str | None
    light_stops: float = 0.0


@dataclass(frozen=True)
class PlannedGroup:
    """A group with what it is taken of.

    at: where it stands in the list. positions: with their number in the depth plan, None of its own. waits_s: how long
    after the shot's time it begins at the earliest; None: as soon as it can. reasons: about this group alone.
    """

    at: int
    group: FrameGroup
    positions: tuple[tuple[int | None, FocusPosition], ...]
    sets: tuple[GroupSet, ...]
    aims: tuple[Aim, ...]
    waits_s: float | None
    reasons: tuple[Reason, ...]

    @property
    def frames(self) -> int:
        return len(self.positions) * len(self.sets) * max(1, len(self.aims)) * self.group.count


def default_groups(
    facts: ShotFacts, depth: DepthStep, exposure: ExposureStep, aims: Sequence[Aim]
) -> tuple[FrameGroup, ...]:
    """Return the groups that depth and exposure ask for: one of all focus positions and exposures, or two where a
    filter or the sky asks for it.
    """
    several, mode = len(depth.positions) > 1, facts.exposure.bracket
    stack = Together.STITCH if len(aims) > 1 else Together.STACK if several else Together.BRACKET
    if mode == BracketMode.FROZEN_AND_LONG and len(exposure.exposures) > 1:
        pair = ((Role.FROZEN, GroupExposure.SHORTEST), (Role.LONG, GroupExposure.CARRYING))
        return tuple(FrameGroup(role, exposure=which, together=Together.BLEND) for role, which in pair)
    if mode == BracketMode.LAND_AND_SKY and len(exposure.exposures) > 1 and several and len(aims) < 2:
        # The sky lies behind everything: one focus is enough for it.
        return (
            FrameGroup(Role.LAND, exposure=GroupExposure.BRIGHTEST, together=Together.STACK),
            FrameGroup(Role.SKY, focus=GroupFocus.FARTHEST, exposure=GroupExposure.DARKEST, together=Together.BLEND),
        )
    role = Role.STACK if several else Role.WHOLE
    alone = not several and len(exposure.exposures) < 2 and len(aims) < 2
    return (FrameGroup(role, together=Together.ALONE if alone else stack),)


def planned_groups(
    facts: ShotFacts, light: LightStep, depth: DepthStep, exposure: ExposureStep, aims: Sequence[Aim]
) -> tuple[PlannedGroup, ...]:
    """Return the plan of each group, muted ones included, in listed order.

    Depth and exposure must be planned.
    """
    groups = facts.frame_groups or default_groups(facts, depth, exposure, aims)
    return tuple(_planned(facts, light, depth, exposure, aims, at, group) for at, group in enumerate(groups))


def _planned(
    facts: ShotFacts,
    light: LightStep,
    depth: DepthStep,
    exposure: ExposureStep,
    aims: Sequence[Aim],
    at: int,
    group: FrameGroup,
) -> PlannedGroup:
    reasons: list[Reason] = []
    positions = _positions(facts, depth, group, reasons)
    starts = starts_at(facts, light, group)
    if group.start != GroupStart.AT_ONCE and starts is None:
        reasons.append(_no_start(facts, group))
    waits = (
        (starts - facts.light.time_utc).total_seconds()
        if starts is not None and facts.light.time_utc is not None
        else None
    )
    # A flash is as bright at any hour.
    lost = 0.0 if _lit(exposure) else _light_lost_stops(facts, waits)
    sets = _sets(facts, exposure, group, lost, reasons)
    taken = tuple(aim for aim in aims if group.aim_row is None or aim.row == group.aim_row - 1) if len(aims) > 1 else ()
    if len(aims) > 1 and not taken:
        reasons.append(say.no_such_row(group=group.called, row=group.aim_row).fails(_DIAL))
        positions = ()
    return PlannedGroup(at, group, positions, sets, taken, waits, tuple(reasons))


def _no_start(facts: ShotFacts, group: FrameGroup) -> Reason:
    if facts.light.time_utc is None:
        words = say.no_shot_time(group=group.called)
    elif group.start == GroupStart.MOMENT and group.start_moment is not None:
        words = say.moment_does_not_come(group=group.called, moment=group.start_moment)
    else:
        words = say.no_start(group=group.called)
    return words.unsaid(_DIAL)


def _lit(exposure: ExposureStep) -> bool:
    return exposure.flash is not None and exposure.flash.power is not None


def _light_lost_stops(facts: ShotFacts, waits_s: float | None) -> float:
    """Return by how much the light is weaker after a wait than at the shot's time [stops]."""
    light = changing_light(facts) if waits_s is not None and waits_s > 0 else None
    return light.lost_stops(waits_s) if light is not None and waits_s is not None else 0.0


def _positions(
    facts: ShotFacts, depth: DepthStep, group: FrameGroup, reasons: list[Reason]
) -> tuple[tuple[int | None, FocusPosition], ...]:
    """Return the focus positions of a group, with their numbers in the depth plan where they are of it."""
    planned = tuple(enumerate(depth.positions))
    nearest_first = tuple(sorted(planned, key=lambda item: item[1].object_distance_m + (item[1].rail_mm or 0.0) / 1000))
    if group.focus == GroupFocus.ALL:
        return planned
    chosen = {
        GroupFocus.NEAREST: 0, GroupFocus.MIDDLE: len(planned) // 2, GroupFocus.FARTHEST: len(planned) - 1,
        GroupFocus.POSITION: (group.focus_number or 1) - 1,
    }.get(group.focus)  # fmt: skip
    if chosen is not None:
        if chosen >= len(planned):
            words = say.no_such_position(group=group.called, positions=len(planned), number=group.focus_number)
            reasons.append(words.fails(_DIAL))
            return ()
        return (nearest_first[chosen],)
    return _own_focus(facts, depth, group, reasons)


def _own_focus(
    facts: ShotFacts, depth: DepthStep, group: FrameGroup, reasons: list[Reason]
) -> tuple[tuple[int | None, FocusPosition], ...]:
    """Return the position of a group that is focused by itself: on an element or at a distance along the optical
    axis.
    """
    settings, along = settings_of(facts), depth.along
    if group.focus == GroupFocus.ELEMENT:
        span = along.spans.get(group.focus_element_id or 0) if along else None
        away = (
            math.sqrt(span.near_m * span.far_m)
            if span is not None and math.isfinite(span.far_m)
            else span.near_m
            if span
            else None
        )
    else:
        away = group.focus_m
    if away is None or settings is None or depth.imaging is None or facts.lens is None:
        lacking = say.no_focus_element if group.focus == GroupFocus.ELEMENT else say.no_focus_distance
        reasons.append(lacking(group=group.called).unsaid(_DIAL))
        return ()
    optics = optics_at(settings, depth.imaging)
    if not optics.images(away):
        reasons.append(say.within_focal_length(group=group.called, distance_m=away).fails(_DIAL))
        return ()
    position = positions_at(optics, np.array([away]))[0]
    if cannot_focus(facts, settings, position):
        words = say.cannot_focus(
            group=group.called, lens=facts.lens.name, object_m=away, focus_m=position.focus_distance_m
        )
        reasons.append(words.fails(_DIAL))
    return ((None, position),)


def _sets(
    facts: ShotFacts, exposure: ExposureStep, group: FrameGroup, lost: float, reasons: list[Reason]
) -> tuple[GroupSet, ...]:
    made = []
    for base in _bases(exposure, group):
        one, said = _set(facts, exposure, group, base, lost)
        made.append(one)
        reasons += said
    # What is said of one exposure of a group need not be said of all.
    reasons[:] = list(dict.fromkeys(reasons))
    return tuple(made)


def _bases(exposure: ExposureStep, group: FrameGroup) -> list[int]:
    """Return which of the planned exposures a group takes, in their order."""
    planned = exposure.exposures
    every = range(len(planned))
    if group.exposure == GroupExposure.ALL:
        return list(every)
    if group.exposure == GroupExposure.DARKEST:
        return [max(every, key=lambda index: planned[index].brightest_ev)]
    if group.exposure == GroupExposure.BRIGHTEST:
        return [min(every, key=lambda index: planned[index].brightest_ev)]
    if group.exposure == GroupExposure.SHORTEST:
        return [min(every, key=lambda index: planned[index].shutter_s)]
    return [exposure.carrying]


def filters_of(facts: ShotFacts, group: FrameGroup, bare: bool) -> tuple[Filter, ...]:
    """Return the filters on the lens for a group. bare: its exposure is planned without neutral density."""
    if group.filters == GroupFilters.CHOSEN:
        return tuple(item for item in facts.filters if item.id in group.filter_ids)
    if group.filters == GroupFilters.BARE:
        return ()
    dark = bare or group.filters == GroupFilters.NO_DENSITY
    return tuple(item for item in facts.filters if item.on_lens and not (dark and item.kind.lengthens_exposure))


def _stops(filters: Sequence[Filter]) -> float:
    return sum(ledger_filter(item).stops for item in filters)


def _set(
    facts: ShotFacts, exposure: ExposureStep, group: FrameGroup, base: int, lost: float
) -> tuple[GroupSet, list[Reason]]:
    """Return one exposure of a group: the planned one through other filters, in the light of its moment, or in a time
    of its own.
    """
    body, planned = facts.body, exposure.exposures[base]
    assert body is not None and exposure.iso is not None
    filters = filters_of(facts, group, planned.bare)
    darker = _stops(filters) - _stops(filters_of(facts, FrameGroup(), planned.bare)) + lost
    iso_then = planned.iso or exposure.iso
    metered = planned.metered_s
    # What time × ISO has to come to.
    product = metered * iso_then * 2.0 ** (darker + group.offset_ev)
    said: list[Reason] = []
    if group.exposure == GroupExposure.OWN:
        if group.shutter_s is None:
            said.append(say.no_time_of_its_own(group=group.called).unsaid(_DIAL))
            time, iso = metered, iso_then
        else:
            time = float(metered_time_s(group.shutter_s, body.film_exponent))
            iso = group.iso or _iso_for(body, product / time)
    elif darker == 0 and group.offset_ev == 0 and group.iso in (None, iso_then):
        time, iso = metered, iso_then
    else:
        iso = group.iso or iso_then
        time = marked_time_s(product / iso, body.slowest_shutter_s)
    over = math.log2(time * iso / product)
    shutter = planned.shutter_s if time == metered else float(corrected_time_s(time, body.film_exponent))
    otherwise = (
        darker != 0 or group.offset_ev != 0 or group.exposure == GroupExposure.OWN or group.iso not in (None, iso_then)
    )
    if _lit(exposure) and otherwise:
        # Time, filter and ISO affect the burst and ambient light differently, so their sum is not judged.
        said.append(say.not_judged_with_flash(group=group.called).unsaid(_DIAL))
        said += _settable_reasons(body, group, shutter, iso)
    else:
        said += _brightness_reasons(facts, exposure, group, over, shutter, iso) + _settable_reasons(
            body, group, shutter, iso
        )
    lift = over + group.offset_ev
    if lift == 0 and iso == iso_then:
        made = replace(planned, shutter_s=shutter)
    else:
        top = planned.brightest_ev - lift
        made = Exposure(shutter, planned.offset_ev + lift, top - body.held_stops(iso), top)
    made = replace(made, metered_s=time, iso=iso if iso != exposure.iso else None, bare=planned.bare)
    names, ids = tuple(item.name for item in filters), frozenset(item.id for item in filters)
    return GroupSet(made, base, names, ids, _look(exposure, shutter), lost), said


def _iso_for(body: Body, wanted: float) -> float:
    """Return the ISO of the body nearest to the wanted one; a film has one."""
    if body.film_exponent is not None:
        return body.base_iso
    marks = [mark.value for mark in ISO_MARKINGS if body.reads_iso(mark.value)] or [body.base_iso]
    return min(marks, key=lambda mark: abs(math.log2(mark / wanted)))


def _brightness_reasons(
    facts: ShotFacts, exposure: ExposureStep, group: FrameGroup, over: float, shutter_s: float, iso: float
) -> list[Reason]:
    """Return the reasons about a group that is brighter or darker than requested."""
    if abs(over) <= AS_BRIGHT_STOPS or group.role == Role.DARK:
        return []
    closed = None
    if over > 0 and exposure.f_number is not None and facts.lens is not None:
        smaller = exposure.f_number * 2 ** (over / 2)
        closed = smaller if smaller <= facts.lens.f_number_max else None
    words = say.off_brightness(
        group=group.called, shutter_s=shutter_s, iso=iso, over_stops=over, close_to_f_number=closed
    )
    return [words.reason(FAILS if abs(over) > _MUCH_STOPS else TIGHT, _DIAL)]


def _settable_reasons(body: Body, group: FrameGroup, shutter_s: float, iso: float) -> list[Reason]:
    found = []
    if not body.can_time(shutter_s):
        found.append(say.no_such_time(group=group.called, shutter_s=shutter_s, body=body.name).fails(_DIAL))
    if body.film_exponent is None and not body.takes_iso(iso):
        lowest, highest = body.iso_range
        words = say.no_such_iso(group=group.called, iso=iso, body=body.name, lowest=lowest, highest=highest)
        found.append(words.fails(_DIAL))
    return found


def _look(exposure: ExposureStep, shutter_s: float) -> str | None:
    """Return the look of the main mover in an exposure; None without movers."""
    main: Mover | None = next((item for item in exposure.movers if item.main), None)
    return main.look_in(shutter_s) if main is not None else None
