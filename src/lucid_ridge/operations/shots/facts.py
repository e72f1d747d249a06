"""Converts rows to the core's facts."""

from __future__ import annotations

import dataclasses
import hashlib
import json
from collections.abc import Collection, Iterable, Sequence
from datetime import UTC, date, datetime, time
from enum import StrEnum
from typing import Any, cast

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.exposure.moving_things import MotionWish
from ...core.facts import place
from ...core.facts.calibrations import Calibrated, CalibrationKind
from ...core.facts.choices import GROUPS
from ...core.facts.declaring import facts_of
from ...core.facts.filters import Filter as KnownFilter
from ...core.facts.frame_groups import FrameGroup
from ...core.facts.shot import ShotFacts
from ...core.facts.spots import SpotPart, SpotReading
from ...core.facts.wishes import WishChoices
from ...core.framing.footing import Ground, StandingArea
from ...core.light.meter import MeterReading
from ...core.light.skyline import LEVEL, Skyline, lowered_horizon
from ...core.planning.light.sun_side import axis_from_sun_deg, side_of
from ...core.planning.plan.field_card import CARD_CURRENT, CARD_STALE
from ...core.planning.way.arrival import walk_minutes
from ...core.weather.forecast import Forecast
from ...store.kit import Filter
from ...store.photographer import Photographer
from ...store.places import Element, Hazard, Location, Opening, Scouting, SeasonNote, Viewpoint
from ...store.rows import Row
from ...store.shots import FieldCard, Shot
from ...store.versioned import Group, Spot, Standing, Wished
from ..kit.calibrations import SwitchedOn, as_measured, own, switched_on, taught_of, water_subject
from ..kit.from_rows import known_accessory, known_body, known_lens, known_support
from ..places.forecasts import forecast_of, hours_around
from ..places.known_tides import tide_of
from ..platform.shot_context import cached_context
from .edits import FilterUse

PLAN_VERSION = 10
_AS_THEY_ARE = (float, str, bool)


@dataclasses.dataclass(frozen=True)
class NewestCard:
    id: int
    inputs_hash: str


@dataclasses.dataclass(frozen=True)
class ShotContext:
    """Everything known around a shot.

    facts: all except the shot's own choices and its card. uses: its use of filters in the bag. taught: calibrations in
    force. forecast: the whole forecast of the place.
    """

    facts: ShotFacts
    location_id: int | None
    uses: tuple[FilterUse, ...]
    taught: SwitchedOn
    forecast: Forecast | None


def core_location(row: Location, point: Viewpoint | None = None) -> place.Location:
    """Return a row as the core's location, with a viewpoint's own position and skyline."""
    latitude, longitude, elevation = row.latitude_deg, row.longitude_deg, row.elevation_m
    if point is not None and point.latitude_deg is not None and point.longitude_deg is not None:
        latitude, longitude = point.latitude_deg, point.longitude_deg
        elevation = elevation if point.elevation_m is None else point.elevation_m
    skyline = core_skyline(point.skyline) if point is not None else None
    return place.Location(
        name=row.name,
        latitude_deg=latitude,
        longitude_deg=longitude,
        elevation_m=elevation,
        zone=row.zone,
        skyline=skyline or _bare_horizon(row, elevation),
        tide=tide_of(row),
        tide_margin_m=row.tide_margin_m,
        tide_margin_min=row.tide_margin_min,
    )


def _bare_horizon(row: Location, elevation_m: float) -> Skyline:
    """Return the horizon of a viewpoint without a skyline: at eye level, or lower over the sea or lower land."""
    if row.horizon == place.Horizon.SEA:
        return lowered_horizon(elevation_m)
    return lowered_horizon(row.horizon_drop_m or 0.0) if row.horizon == place.Horizon.LAND else LEVEL


def readings_of(row: Location) -> tuple[MeterReading, ...]:
    """Return a location's meter readings as the core's."""
    return tuple(MeterReading(item.time_utc, item.ev100) for item in row.readings)


def core_skyline(points: list[list[float]] | None) -> Skyline | None:
    """Return a stored skyline as the core's; None without one."""
    if not points:
        return None
    return Skyline(tuple(point[0] for point in points), tuple(point[1] for point in points))


def shot_facts(session: Session, shot: Shot) -> ShotFacts:
    """Return all facts of a shot. Its newest field card is compared by the hash of the same facts."""
    return facts_and_card(session, shot, shot_context_of(session, shot))[0]


def _read_elsewhere(session: Session, shot: Shot) -> str:
    """Return the name of the location where the light was read, where that is not the shot's."""
    here, read_at = shot.viewpoint, shot.read_at_viewpoint_id
    if here is None or read_at is None or read_at == here.id:
        return ""
    point = session.get(Viewpoint, read_at)
    return point.location.name if point is not None and point.location_id != here.location_id else ""


def light_facts(session: Session, shot: Shot, day: date, around: dict[int, ShotFacts]) -> ShotFacts:
    """Return the facts that light, way and weather on another date depend on: without filters, card and time.

    around: facts by viewpoint, reused for the next shot.
    """
    light = dataclasses.replace(shot.light, date_local=day, time_utc=None, window_end_utc=None)
    point: Viewpoint | None = shot.viewpoint
    if point is not None and point.id not in around:
        around[point.id] = viewpoint_facts(session, point, shot.owner_id)
    known = around[point.id] if point is not None else None
    return dataclasses.replace(_scene_facts(session, shot, known), light=light, frame=shot.frame, depth=shot.depth)


def facts_and_card(session: Session, shot: Shot, around: ShotContext) -> tuple[ShotFacts, int | None]:
    """Return all facts of a shot, and the id of its newest field card. around: from shot_context_of."""
    known = {item.id for item in around.facts.elements}
    facts = dataclasses.replace(
        around.facts,
        **{group: getattr(shot, group) for group in GROUPS},
        spots=_spots(shot, known),
        read_elsewhere=_read_elsewhere(session, shot),
        frame_groups=tuple(core_group(item) for item in groups_of(shot, known)),
        motion_wishes=tuple((item["element_id"], MotionWish(item["wish"])) for item in wishes_of(shot, known)),
        plan_b=_plan_b(session, shot) if around.facts.location else None,
        forecast=hours_around(around.forecast, shot.light.date_local),
    )
    if any(kind == CalibrationKind.FILTER_COST for kind, _ in around.taught):
        side = side_of(axis_from_sun_deg(facts))
        facts = dataclasses.replace(
            facts, filters=tuple(as_measured(item, around.taught, side) for item in facts.filters)
        )
    card = cached_context(session, shot.id, "card", lambda: newest_card(session, shot))
    if card is None:
        return facts, None
    state = CARD_CURRENT if card.inputs_hash == inputs_hash(facts) else CARD_STALE
    return dataclasses.replace(facts, card=state), card.id


def shot_context_of(session: Session, shot: Shot) -> ShotContext:
    """Return the context of a shot, without its own choices."""

    def read() -> ShotContext:
        point: Viewpoint | None = shot.viewpoint
        bag = session.scalars(select(Filter).where(Filter.owner_id == shot.owner_id).order_by(Filter.id)).all()
        facts = dataclasses.replace(
            _scene_facts(session, shot),
            support=known_support(shot.support) if shot.support else None,
            filters=_filters(shot, bag),
            polariser_from_mm=session.get_one(Photographer, shot.owner_id).polariser_from_mm,
        )
        uses = tuple(
            FilterUse(item.filter_id, item.on_lens, item.on_when_metered, item.set_stops) for item in shot.filters
        )
        taught = switched_on(session, shot.owner_id)
        if point is None:
            return ShotContext(facts, None, uses, taught, None)
        return ShotContext(facts, point.location_id, uses, taught, forecast_of(point.location.forecast))

    return cached_context(session, shot.id, "facts", read)


def location_facts(session: Session, location: Location, owner_id: int) -> ShotFacts:
    """Return the facts of a location's first viewpoint, without a shot."""
    return viewpoint_facts(session, location.viewpoints[0], owner_id)


def _scene_facts(session: Session, shot: Shot, known: ShotFacts | None = None) -> ShotFacts:
    """Return a shot's place and the kit its picture is seen with, without its choices.

    known: facts of its viewpoint, if already read.
    """
    point: Viewpoint | None = shot.viewpoint
    return dataclasses.replace(
        known or viewpoint_facts(session, point, shot.owner_id)
        if point
        else ShotFacts(taught=taught_of(switched_on(session, shot.owner_id))),
        body=known_body(shot.body) if shot.body else None,
        lens=known_lens(shot.lens) if shot.lens else None,
        accessories=tuple(known_accessory(use.accessory) for use in shot.rig),
        sharp_element_ids=_sharp_ids(shot, point.elements if point else ()),
    )


def viewpoint_facts(session: Session, viewpoint: Viewpoint, owner_id: int) -> ShotFacts:
    """Return the facts of a viewpoint, without a shot."""
    location = viewpoint.location
    owner, taught = session.get_one(Photographer, owner_id), switched_on(session, owner_id)
    return ShotFacts(
        location=core_location(location, viewpoint),
        viewpoint_name=viewpoint.name,
        elements=elements_of(viewpoint, taught),
        ground=ground_of(viewpoint),
        standing=core_standing(viewpoint.standing),
        readings=readings_of(location),
        taught=taught_of(taught, location.id),
        hazards=tuple(_hazard(item) for item in location.hazards),
        scoutings=tuple(_scouting(item) for item in viewpoint.scoutings),
        openings=tuple(_opening(item) for item in location.openings),
        season_notes=tuple(_season_note(item) for item in location.season_notes),
        approach=approach_of(location, owner, taught),
        access=place.Access(location.access_notes, location.access_checked_on, location.access_source),
    )


def _plan_b(session: Session, shot: Shot) -> place.OtherPlace | None:
    light = shot.light
    other = session.get(Shot, light.plan_b_shot_id) if light.plan_b_shot_id is not None else None
    location = other.viewpoint.location if other is not None and other.viewpoint else None
    if other is None and light.plan_b_location_id is not None:
        location = session.get(Location, light.plan_b_location_id)
    if other is None and location is None:
        return None
    name = " at ".join(item.name for item in (other, location) if item is not None)
    if location is None:
        return place.OtherPlace(name)
    approach = approach_of(location, session.get_one(Photographer, shot.owner_id), switched_on(session, shot.owner_id))
    return place.OtherPlace(name, location.drive_min, walk_minutes(approach))


def approach_of(location: Location, owner: Photographer, taught: SwitchedOn) -> place.Approach:
    """Return the approach of a location, with the photographer's own pace from the log."""
    return place.Approach(
        drive_min=location.drive_min,
        walk_m=location.walk_m,
        ascent_m=location.walk_ascent_m,
        terrain=location.walk_terrain,
        set_up_min=owner.set_up_min,
        reserve_min=owner.reserve_min,
        taught_set_up=own(taught, CalibrationKind.SET_UP),
        taught_walk=own(taught, CalibrationKind.WALKING),
    )


def elements_of(viewpoint: Viewpoint, taught: SwitchedOn | None = None) -> tuple[place.Element, ...]:
    """Return a viewpoint's elements as the core's. taught: calibrations of their speed, for plans."""
    speeds = taught or {}
    return tuple(
        _element(item, speeds.get((CalibrationKind.WATER_SPEED, water_subject(item.id)))) for item in viewpoint.elements
    )


def ground_of(viewpoint: Viewpoint) -> Ground:
    """Return the ground around a viewpoint as the core's."""
    return Ground(viewpoint.ground_slope_deg, viewpoint.ground_down_bearing_deg, viewpoint.ground_reach_m)


def _element(row: Element, speed: Calibrated | None = None) -> place.Element:
    computed = ("skyline", "course", "taught_speed")
    plain = {
        field.name: getattr(row, field.name)
        for field in dataclasses.fields(place.Element)
        if field.name not in computed
    }
    return place.Element(
        **plain,
        skyline=core_skyline(row.skyline),
        course=tuple((leg[0], leg[1]) for leg in row.course or ()),
        taught_speed=speed,
    )


def core_standing(kept: Standing | None) -> StandingArea | None:
    """Return a stored standing area as the core's; None without one."""
    if not kept:
        return None
    return StandingArea(tuple((corner[0], corner[1]) for corner in kept["corners"]), frozenset(kept["drops"]))


def newest_card(session: Session, shot: Shot) -> NewestCard | None:
    """Return the newest field card for the shot's own time, without its content."""
    mine = (FieldCard.shot_id == shot.id, FieldCard.outing_id.is_(None), FieldCard.begins_utc.is_(None))
    query = select(FieldCard.id, FieldCard.inputs_hash).where(*mine).order_by(FieldCard.id.desc()).limit(1)
    found = session.execute(query).first()
    return NewestCard(found.id, found.inputs_hash) if found else None


def inputs_hash(facts: ShotFacts) -> str:
    """Return a hash of everything a plan is computed from, except the card and the forecast, which changes hourly."""
    # Skylines have hundreds of points, so their digests are hashed.
    land = [facts.location.skyline, *(item.skyline for item in facts.elements)] if facts.location else []
    bare = dataclasses.replace(
        facts,
        card=None,
        forecast=None,
        wishes=WishChoices(),
        location=dataclasses.replace(facts.location, skyline=LEVEL) if facts.location else None,
        elements=tuple(dataclasses.replace(item, skyline=None) for item in facts.elements),
    )
    plain = _plain(bare)
    plain["land"] = [skyline.digest if skyline else None for skyline in land]
    # A filter that stays in the bag changes proposals, not the plan.
    grouped = {filter_id for group in facts.frame_groups for filter_id in group.filter_ids}
    plain["filters"] = [
        item for item in plain["filters"] if item["on_lens"] or item["on_when_metered"] or item["id"] in grouped
    ]
    text = json.dumps([float(PLAN_VERSION), plain], sort_keys=True)
    return hashlib.sha256(text.encode()).hexdigest()


_NAMES: dict[type, tuple[str, ...] | None] = {}


def _names(kind: type) -> tuple[str, ...] | None:
    """Return the names of a dataclass's fields; None for another type."""
    if kind not in _NAMES:
        _NAMES[kind] = tuple(item.name for item in dataclasses.fields(kind)) if dataclasses.is_dataclass(kind) else None
    return _NAMES[kind]


def _plain(value: Any) -> Any:
    """Return a value in a form where equal facts give equal text: numbers as floats, instants in UTC, sets sorted."""
    kind = type(value)
    if value is None or kind in _AS_THEY_ARE:
        return value
    names = _names(kind)
    if names is not None:
        return {name: _plain(getattr(value, name)) for name in names}
    if isinstance(value, dict):
        return {name: _plain(item) for name, item in value.items()}
    if isinstance(value, (list, tuple)):
        return [_plain(item) for item in value]
    if isinstance(value, frozenset):
        return sorted(value)
    if isinstance(value, datetime):
        return value.astimezone(UTC).isoformat()
    if isinstance(value, (date, time)):
        return value.isoformat()
    return float(value) if isinstance(value, int) and not isinstance(value, bool) else value


def _hazard(row: Hazard) -> place.Hazard:
    return place.Hazard(**{name: getattr(row, name) for name in facts_of(place.Hazard)})


def _opening(row: Opening) -> place.Opening:
    return place.Opening(**{name: getattr(row, name) for name in facts_of(place.Opening)})


def _scouting(row: Scouting) -> place.Scouting:
    angles = tuple((str(item[0]), float(item[1]), float(item[2])) for item in row.angles or ())
    return place.Scouting(row.visited_on, row.note, row.bring, angles)


def _season_note(row: SeasonNote) -> place.SeasonNote:
    return place.SeasonNote(**{name: getattr(row, name) for name in facts_of(place.SeasonNote)})


def _sharp_ids(shot: Shot, elements: Iterable[Element]) -> frozenset[int]:
    return frozenset(item.element_id for item in shot.sharp) & frozenset(item.id for item in elements)


def spots_of(shot: Shot, known: Collection[int]) -> list[Spot]:
    """Return the spot readings of a shot, without those of deleted elements. known: ids of the viewpoint's elements."""
    return [item for item in shot.spots if _is_there(item["element_id"], known)]


def wishes_of(shot: Shot, known: Collection[int]) -> list[Wished]:
    """Return the motion wishes of a shot, without those of deleted elements."""
    return [item for item in shot.motion_wishes if _is_there(item["element_id"], known)]


def groups_of(shot: Shot, known: Collection[int]) -> list[Group]:
    """Return the groups of frames of a shot, without references to deleted elements."""
    return [
        item if _is_there(item["focus_element_id"], known) else {**item, "focus_element_id": None}
        for item in shot.frame_groups
    ]


def _is_there(element_id: int | None, known: Collection[int]) -> bool:
    """Return whether an element id is still valid; None is."""
    return element_id is None or element_id in known


def core_group(kept: Group) -> FrameGroup:
    """Return a stored group of frames as the core's."""
    values: Row = dict(kept)
    for name, item in facts_of(FrameGroup).items():
        if values.get(name) is not None and (item.choices or item.type is time):
            values[name] = time.fromisoformat(values[name]) if item.type is time else item.type(values[name])
    return FrameGroup(**{**values, "filter_ids": tuple(values["filter_ids"])})


def kept_group(group: FrameGroup) -> Group:
    """Return a group of frames as it is stored."""
    values = dataclasses.asdict(group)
    clock = group.start_clock.isoformat() if group.start_clock is not None else None
    plain = {name: str(value) if isinstance(value, StrEnum) else value for name, value in values.items()}
    return cast(Group, {**plain, "start_clock": clock, "filter_ids": list(group.filter_ids)})


def _spots(shot: Shot, known: Collection[int]) -> tuple[SpotReading, ...]:
    return tuple(
        SpotReading(SpotPart(item["part"]), item["ev100"], item["element_id"], item["through_stops"])
        for item in spots_of(shot, known)
    )


def _filters(shot: Shot, bag: Sequence[Filter]) -> tuple[KnownFilter, ...]:
    uses = {use.filter_id: use for use in shot.filters}
    return tuple(
        KnownFilter(
            item.id,
            item.name,
            item.kind,
            (uses[item.id].set_stops if item.id in uses else None) or item.stops,
            mount=item.mount,
            thickness_mm=item.thickness_mm,
            gradation=item.gradation,
            stops_max=item.stops_max,
            stops_min=None if item.stops_max is None else item.stops,
            on_lens=item.id in uses and uses[item.id].on_lens,
            on_when_metered=item.id in uses and uses[item.id].on_when_metered,
        )
        for item in bag
    )
