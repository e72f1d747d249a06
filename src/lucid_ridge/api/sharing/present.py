"""A shared location, in words."""

from __future__ import annotations

import calendar
from collections.abc import Sequence

from ...core.facts.place import Approach
from ...core.ground.blurring import CELL_REACH_KM
from ...core.ground.walk import Terrain
from ...core.planning.way.arrival import walk_minutes
from ...core.units.lengths import compass_point, format_distance, format_height, format_scale_length
from ...operations.sharing.shared_location import SharedLocation
from ...store.places import Element, Hazard, Viewpoint
from ..places.present import position_words, present_opening, present_season_note, present_sketch, present_track
from . import schemas as out

# Precision of the height of a place whose position is only approximate.
_ROUGH_HEIGHT_M = 50
_OVER = {
    Terrain.PATH: " by a path",
    Terrain.ROUGH: " over rough ground",
    Terrain.BOULDERS: " over boulders",
    Terrain.BOG: " over bog",
    Terrain.SAND: " over sand",
    Terrain.SNOW: " over snow",
}


def rough_words(position: tuple[float, float], rough: bool) -> str:
    """Return a position in words; of an approximate one how far it may be off."""
    words = position_words(*position, 2 if rough else 4)
    return f"Within {format_scale_length(CELL_REACH_KM * 1000)} of {words}" if rough else words


def present_shared_location(place: SharedLocation) -> out.SharedLocationOut:
    """Return the parts of a location that a link shows."""
    row = place.row
    told = (
        ("The way there", [*_way(place), *_lines(row.access_notes)]),
        ("Dangers", [_hazard(item) for item in place.hazards]),
        ("Open", [_with(present_opening(item).words, item.note) for item in place.openings]),
        (
            "Seasons",
            [_with(f"{item.kind.label}, {present_season_note(item).words}", item.note) for item in place.seasons],
        ),
        ("If it fails", _lines(row.plan_b)),
    )
    height_m = row.elevation_m if place.exact else round(row.elevation_m / _ROUGH_HEIGHT_M) * _ROUGH_HEIGHT_M
    return out.SharedLocationOut(
        position_words=f"{rough_words(place.position, not place.exact)}, "
        f"{'' if place.exact else 'about '}{format_height(height_m, 0)} above the sea",
        sketch=present_sketch(place.sketch) if place.sketch else None,
        notes=row.notes,
        parts=[out.SharedPartOut(title=title, lines=lines) for title, lines in told if lines],
        viewpoints=[_viewpoint(point, seen, place.exact) for point, seen in place.viewpoints],
    )


def _way(place: SharedLocation) -> list[str]:
    row = place.row
    minutes = walk_minutes(Approach(None, row.walk_m, row.walk_ascent_m, row.walk_terrain))
    lines = [
        f"{track.name}: {track.length_label}, {track.naismith_words}" for track in map(present_track, place.tracks)
    ]
    if row.walk_m is not None and minutes is not None:
        lines.insert(0, f"{format_distance(row.walk_m)}{_OVER[row.walk_terrain]}, {minutes:.0f} min by Naismith's rule")
    return lines


def _hazard(row: Hazard) -> str:
    cut = f" above {format_height(row.cut_off_m)} of water" if row.cut_off_m is not None else ""
    months = (
        f", {calendar.month_abbr[row.from_month]} to {calendar.month_abbr[row.to_month]}"
        if row.from_month and row.to_month
        else ""
    )
    return _with(f"{row.kind.label}{cut}{months}", row.note)


def _viewpoint(row: Viewpoint, seen: Sequence[Element], exact: bool) -> out.SharedViewpointOut:
    own = row.latitude_deg is not None and row.longitude_deg is not None
    return out.SharedViewpointOut(
        name=row.name,
        position_words=position_words(row.latitude_deg or 0.0, row.longitude_deg or 0.0) if own else "",
        notes=row.notes,
        seen=[out.SharedSeenOut(name=item.name, told=_seen(item, exact)) for item in seen],
    )


def _seen(row: Element, exact: bool) -> str:
    if not exact:
        return str(row.shape)
    return f"{row.shape}, {row.bearing_deg:.0f}° {compass_point(row.bearing_deg)}, {format_distance(row.distance_m)}"


def _with(words: str, note: str) -> str:
    return f"{words[0].upper()}{words[1:]}{f': {note}' if note else ''}"


def _lines(text: str) -> list[str]:
    return [line for line in text.splitlines() if line.strip()]
