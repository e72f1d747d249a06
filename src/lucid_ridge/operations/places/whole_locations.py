"""A location with everything that belongs to it, as plain JSON and back, without loss."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from datetime import UTC, datetime
from typing import Any

from ...core.errors import InputError
from ...core.facts import place as core
from ...core.framing.footing import StandingArea
from ...core.ground.geodesy import offset
from ...core.ground.walk import walk_along
from ...core.light.skyline import skyline_of
from ...core.spans.instants import zone_info
from ...formats.errors import FormatError
from ...formats.facts import facts_from_json, facts_to_json
from ...formats.geodata import GeoPoint, GeoTrack, TrackPoint
from ...formats.json_values import JsonObject, JsonValue
from ...standins.tide import tide_places
from ...store.places import Element, Hazard, Location, MeterReading, Opening, Scouting, SeasonNote, Viewpoint, WalkTrack
from .known_tides import own_tide
from .skylines import position_of

_MOST = 2_000
# Figures of the whole track; its points may have been thinned.
_FIGURES = ("length_m", "ascent_m", "descent_m", "naismith_h", "tobler_h")


def whole_location(row: Location) -> JsonObject:
    """Return a location with viewpoints, elements, hazards, opening hours, seasons, walks, readings and own tide."""
    return {
        **facts_to_json(core.PlaceSaid, row),
        "own_tide": row.own_tide,
        "hazards": [facts_to_json(core.Hazard, item) for item in row.hazards],
        "openings": [facts_to_json(core.Opening, item) for item in row.openings],
        "seasons": [facts_to_json(core.SeasonNote, item) for item in row.season_notes],
        "walks": [
            {"name": item.name, "points": item.points, **{name: getattr(item, name) for name in _FIGURES}}
            for item in row.tracks
        ],
        "readings": [
            {"time": item.time_utc.astimezone(UTC).isoformat(), "ev100": item.ev100, "note": item.note}
            for item in row.readings
        ],
        "viewpoints": [_viewpoint(item) for item in row.viewpoints],
    }


def seen_elements(row: Viewpoint) -> list[GeoPoint | GeoTrack]:
    """Return the position of a viewpoint's elements on the Earth: a point each, a line for those with a course."""
    latitude, longitude = position_of(row)
    found: list[GeoPoint | GeoTrack] = []
    for item in row.elements:
        legs = [(item.bearing_deg, item.distance_m), *((leg[0], leg[1]) for leg in item.course or ())]
        places = [offset(latitude, longitude, bearing, distance) for bearing, distance in legs]
        if len(places) > 1:
            found.append(GeoTrack(item.name, tuple(TrackPoint(*place) for place in places), row.location.name))
        else:
            found.append(
                GeoPoint(item.name, *places[0], notes=f"{item.shape} seen from {row.name}", group=row.location.name)
            )
    return found


def location_from(owner_id: int, said: object) -> Location:
    """Return a new location, not yet in the database, from the result of whole_location. Raises FormatError."""
    if not isinstance(said, Mapping):
        raise FormatError("A location of the file is not an object.")
    parts = {
        name: said.get(name) or [] for name in ("hazards", "openings", "seasons", "walks", "readings", "viewpoints")
    }
    for name, items in parts.items():
        if not isinstance(items, list) or len(items) > _MOST:
            raise FormatError(f"“{name}” must be a list of at most {_MOST}.")
    own = {name: value for name, value in said.items() if name not in parts and name != "own_tide"}
    facts = facts_from_json(core.PlaceSaid, own, "The location")
    where = str(facts["name"])
    _reading(where, lambda: zone_info(facts["zone"]))
    if facts.get("tide_place") not in (None, *tide_places()):
        raise FormatError(f"{where}: the tide of “{facts['tide_place']}” is not known.")
    row = Location(owner_id=owner_id, **facts)
    if said.get("own_tide") is not None:
        row.own_tide = _tide(where, said["own_tide"])
    row.hazards = [
        Hazard(**facts_from_json(core.Hazard, item, f"{where}, hazard {at}"))
        for at, item in enumerate(parts["hazards"], 1)
    ]
    row.openings = [
        Opening(**facts_from_json(core.Opening, item, f"{where}, opening {at}"))
        for at, item in enumerate(parts["openings"], 1)
    ]
    row.season_notes = [
        SeasonNote(**facts_from_json(core.SeasonNote, item, f"{where}, season {at}"))
        for at, item in enumerate(parts["seasons"], 1)
    ]
    row.tracks = [_walk(item, f"{where}, walk {at}") for at, item in enumerate(parts["walks"], 1)]
    row.readings = [_meter(item, f"{where}, reading {at}") for at, item in enumerate(parts["readings"], 1)]
    row.viewpoints = [
        _read_viewpoint(item, f"{where}, viewpoint {at}") for at, item in enumerate(parts["viewpoints"], 1)
    ]
    return row


def _viewpoint(row: Viewpoint) -> JsonObject:
    return {
        **facts_to_json(core.ViewpointSaid, row),
        "skyline": row.skyline,
        "skyline_source": row.skyline_source,
        "standing": row.standing,
        "scoutings": [{**facts_to_json(core.Scouting, item), "angles": item.angles or []} for item in row.scoutings],
        "elements": [
            {
                **facts_to_json(core.Element, item),
                "skyline": item.skyline,
                "course": [list(leg) for leg in item.course or ()],
            }
            for item in row.elements
        ],
    }


def _read_viewpoint(said: object, where: str) -> Viewpoint:
    beside, own = _apart(said, ("skyline", "skyline_source", "standing", "scoutings", "elements"), where)
    row = Viewpoint(**facts_from_json(core.ViewpointSaid, own, where))
    if (row.latitude_deg is None) != (row.longitude_deg is None):
        raise FormatError(f"{where} has only half of its coordinates.")
    row.skyline, row.skyline_source = (
        _skyline(beside.get("skyline"), where),
        str(beside.get("skyline_source") or "")[:200],
    )
    if beside.get("standing") is not None:
        row.standing = _standing(beside["standing"], where)
    visits, elements = (_listed(beside, name, where) for name in ("scoutings", "elements"))
    row.scoutings = [_scouting(item, f"{where}, visit {at}") for at, item in enumerate(visits, 1)]
    row.elements = [_element(item, f"{where}, element {at}") for at, item in enumerate(elements, 1)]
    return row


def _listed(beside: JsonObject, name: str, where: str) -> list[JsonValue]:
    items = beside.get(name) or []
    if not isinstance(items, list) or len(items) > _MOST:
        raise FormatError(f"{where}: “{name}” must be a list of at most {_MOST}.")
    return items


def _element(said: object, where: str) -> Element:
    beside, own = _apart(said, ("skyline", "course"), where)
    row = Element(**facts_from_json(core.Element, own, where))
    row.skyline, row.course = (
        _skyline(beside.get("skyline"), where),
        [list(leg) for leg in _pairs(beside.get("course") or [], where)],
    )
    for bearing, distance in row.course:
        if not (0 <= bearing <= 360 and 0 < distance <= 500_000):
            raise FormatError(f"{where}: a leg of its course lies outside 0 to 360° or 500 km.")
    return row


def _scouting(said: object, where: str) -> Scouting:
    beside, own = _apart(said, ("angles",), where)
    angles = beside.get("angles") or []
    if not isinstance(angles, list) or not all(
        isinstance(item, list) and len(item) == 3 and all(map(_is_number, item[1:])) for item in angles
    ):
        raise FormatError(f"{where}: angles must be names with bearing and altitude.")
    return Scouting(
        **facts_from_json(core.Scouting, own, where), angles=[[str(item[0])[:100], *item[1:]] for item in angles]
    )


def _walk(said: object, where: str) -> WalkTrack:
    beside, _ = _apart(said, ("name", "points", *_FIGURES), where)
    points = beside.get("points")
    if not isinstance(points, list) or not 2 <= len(points) <= _MOST:
        raise FormatError(f"{where} needs from 2 to {_MOST} points.")
    steps = []
    for point in points:
        if (
            not isinstance(point, list)
            or len(point) != 3
            or not all(item is None or _is_number(item) for item in point)
            or None in point[:2]
        ):
            raise FormatError(f"{where}: a point must be latitude, longitude and height or null.")
        if not (-90 <= point[0] <= 90 and -180 <= point[1] <= 180):
            raise FormatError(f"{where}: {point[0]:g}, {point[1]:g} is no place.")
        steps.append((float(point[0]), float(point[1]), None if point[2] is None else float(point[2])))
    walk = walk_along(steps)
    figures = {name: beside.get(name, getattr(walk, name)) for name in _FIGURES}
    if any(value is not None and not (_is_number(value) and 0 <= value <= 1e6) for value in figures.values()):
        raise FormatError(f"{where}: its length, ascent or time is not a number from 0 to a million.")
    if any(figures[name] is None for name in _FIGURES[:-1]):
        raise FormatError(f"{where} lacks its length, ascent or time.")
    return WalkTrack(name=str(beside.get("name") or "Walk")[:200], points=[list(step) for step in steps], **figures)


def _meter(said: object, where: str) -> MeterReading:
    beside, _ = _apart(said, ("time", "ev100", "note"), where)
    ev = beside.get("ev100")
    if not isinstance(ev, (int, float)) or not _is_number(ev) or not -15 <= ev <= 25:
        raise FormatError(f"{where}: ev100 must lie from -15 to 25.")
    try:
        moment = datetime.fromisoformat(str(beside.get("time")))
    except ValueError:
        raise FormatError(f"{where}: “{str(beside.get('time'))[:40]}” is not a time.") from None
    if moment.tzinfo is None:
        raise FormatError(f"{where}: its time does not say its offset from UTC.")
    return MeterReading(time_utc=moment.astimezone(UTC), ev100=float(ev), note=str(beside.get("note") or "")[:2000])


def _tide(where: str, said: object) -> Any:
    beside, unknown = _apart(said, ("source", "noted_on", "waters", "mean_m", "waves"), f"{where}, tide")
    if (
        unknown
        or not isinstance(beside.get("waters"), list)
        or not isinstance(beside.get("waves"), list)
        or not _is_number(beside.get("mean_m"))
    ):
        raise FormatError(f"{where}: its tide is not one of waters or waves.")
    kept = {**beside, "source": str(beside.get("source") or "")[:200], "noted_on": str(beside.get("noted_on") or "")}
    try:
        own_tide(where, kept)  # type: ignore[arg-type]
    except (InputError, ValueError, TypeError, KeyError) as error:
        raise FormatError(f"{where}: its tide cannot be read: {str(error)[:120]}.") from error
    return kept


def _standing(said: object, where: str) -> Any:
    beside, _ = _apart(said, ("corners", "drops"), f"{where}, standing area")
    corners, drops = _pairs(beside.get("corners"), where), beside.get("drops") or []
    if not isinstance(drops, list) or not all(isinstance(item, int) for item in drops):
        raise FormatError(f"{where}: the drops of its standing area are not numbers of sides.")
    _reading(where, lambda: StandingArea(tuple((corner[0], corner[1]) for corner in corners), frozenset(drops)))
    return {"corners": corners, "drops": drops}


def _skyline(said: object, where: str) -> list[list[float]] | None:
    if said is None:
        return None
    pairs = _pairs(said, where)
    found = _reading(where, lambda: skyline_of(pairs))
    return [list(pair) for pair in zip(found.bearings_deg, found.altitudes_deg, strict=True)]


def _pairs(said: object, where: str) -> list[tuple[float, float]]:
    if not isinstance(said, list) or not all(
        isinstance(pair, list) and len(pair) == 2 and all(map(_is_number, pair)) for pair in said
    ):
        raise FormatError(f"{where}: pairs of numbers are needed for skylines, courses and corners.")
    return [(float(pair[0]), float(pair[1])) for pair in said]


def _is_number(value: object) -> bool:
    return isinstance(value, (int, float)) and not isinstance(value, bool) and math.isfinite(value)


def _apart(said: object, names: tuple[str, ...], where: str) -> tuple[JsonObject, JsonObject]:
    if not isinstance(said, Mapping):
        raise FormatError(f"{where} is not an object.")
    return {name: said[name] for name in names if name in said}, {
        name: value for name, value in said.items() if name not in names
    }


def _reading(where: str, read: Callable[[], Any]) -> Any:
    try:
        return read()
    except InputError as error:
        raise FormatError(f"{where}: {error.message}") from error
