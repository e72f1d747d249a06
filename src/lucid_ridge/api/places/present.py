"""Locations, viewpoints and elements as response bodies."""

from __future__ import annotations

import calendar
from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime, time
from zoneinfo import ZoneInfo

from ...core.exposure.moving_things import passes, speed_of
from ...core.facts.materials import material_for
from ...core.facts.place import Approach, OpeningDays
from ...core.light.materials import REFLECTANCES
from ...core.planning.way.arrival import walk_minutes
from ...core.units.lengths import format_distance, format_height
from ...core.units.spelling import format_clock, format_day
from ...formats.harmonic_constants import write_constants
from ...formats.measured_angles import write_angles
from ...formats.tide_tables import write_tide_table
from ...operations.places.exchange import Imported
from ...operations.places.sketches import Sketch
from ...operations.places.skylines import position_of
from ...operations.platform.usage import Use
from ...operations.shots.location_details import AllLocationDetails, LocationDetails
from ...standins.tide import tide_places
from ...store.places import (
    Element,
    Hazard,
    Location,
    LocationGrid,
    MeterReading,
    Opening,
    Scouting,
    SeasonNote,
    Viewpoint,
    WalkTrack,
)
from ..platform.shared_schemas import present_uses
from ..platform.undo import UndoOut
from . import schemas as out


def present_element(row: Element) -> out.ElementOut:
    computed = ("distance_label", "has_skyline", "course_text", "reflectance_typical", "moves_mps", "passes")
    plain = {name: getattr(row, name) for name in out.ElementOut.model_fields if name not in computed}
    course = ", ".join(f"{bearing:g}° {format_distance(distance)}" for bearing, distance in row.course)
    typical = REFLECTANCES[material_for(row.shape, row.material)].typical
    return out.ElementOut(
        **plain,
        distance_label=format_distance(row.distance_m),
        has_skyline=bool(row.skyline),
        course_text=course,
        reflectance_typical=typical,
        moves_mps=speed_of(row.speed_mps, row.moving),
        passes=passes(row.moving),
    )


def present_viewpoint(row: Viewpoint, uses: Sequence[Use]) -> out.ViewpointOut:
    """Return a viewpoint with its elements. uses: the shots taken from it."""
    latitude, longitude = position_of(row)
    return out.ViewpointOut(
        id=row.id,
        name=row.name,
        notes=row.notes,
        latitude_deg=latitude,
        longitude_deg=longitude,
        position_own=row.latitude_deg is not None,
        position_words=position_words(latitude, longitude),
        elevation_m=row.elevation_m,
        skyline=row.skyline,
        skyline_source=row.skyline_source,
        standing=out.StandingOut.model_validate(row.standing) if row.standing else None,
        ground_slope_deg=row.ground_slope_deg,
        ground_down_bearing_deg=row.ground_down_bearing_deg,
        ground_reach_m=row.ground_reach_m,
        elements=[present_element(item) for item in row.elements],
        scoutings=[present_scouting(item) for item in reversed(row.scoutings)],
        used_by=present_uses(uses),
    )


def present_location(seen: LocationDetails) -> out.LocationOut:
    """Return a location with all that belongs to it."""
    row = seen.row
    computed = {
        "viewpoints",
        "hazards",
        "openings",
        "own_tide",
        "season_notes",
        "tracks",
        "readings",
        "grid",
        "walk_label",
        "walk_words",
    }
    plain = {name: getattr(row, name) for name in out.LocationOut.model_fields if name not in computed}
    minutes = walk_minutes(replace(seen.approach, taught_walk=None))
    return out.LocationOut(
        **plain,
        walk_label=format_distance(row.walk_m) if row.walk_m is not None else None,
        walk_words=f"{minutes:.0f} min by Naismith's rule on this ground{_as_walked(seen.approach)}"
        if minutes is not None
        else None,
        viewpoints=[present_viewpoint(point, seen.uses.get(point.id, ())) for point in row.viewpoints],
        hazards=[present_hazard(item) for item in row.hazards],
        openings=[present_opening(item) for item in row.openings],
        own_tide=_own_tide(row) if row.own_tide else None,
        season_notes=[present_season_note(item) for item in row.season_notes],
        tracks=[present_track(item) for item in row.tracks],
        readings=[present_reading(item, row.zone) for item in row.readings],
        grid=present_grid(seen.grid) if seen.grid else None,
    )


def _as_walked(approach: Approach) -> str:
    """Return the duration of the way as the log corrects it; empty if it does not."""
    return f", {walk_minutes(approach):.0f} min as you walk" if approach.taught_walk is not None else ""


def present_locations(seen: AllLocationDetails) -> out.LocationsOut:
    """Return all locations, the reference places for tides, and what undo would do."""
    return out.LocationsOut(
        locations=[present_location(item) for item in seen.locations],
        tide_places=tide_places() if seen.practises else [],
        undo=UndoOut.model_validate(seen.undo),
    )


def present_hazard(row: Hazard) -> out.HazardOut:
    return out.HazardOut.model_validate(row)


def present_scouting(row: Scouting) -> out.ScoutingOut:
    """Return a visit; the address of its photograph changes with the photograph."""
    photo = f"/api/scoutings/{row.id}/photo?kept={row.photo.kept_at_utc.timestamp():.0f}" if row.photo else None
    plain = {name: getattr(row, name) for name in ("id", "visited_on", "note", "bring")}
    angles = [out.AngleOut(name=item[0], bearing_deg=item[1], altitude_deg=item[2]) for item in row.angles or ()]
    return out.ScoutingOut(
        **plain,
        angles=angles,
        angles_text=write_angles(row.angles or ()),
        day_words=format_day(row.visited_on),
        photo=photo,
    )


def present_opening(row: Opening) -> out.OpeningOut:
    """Return an opening with its sentence: open 08:00 to 18:00, Monday to Friday, 1 Apr to 30 Sep every year."""
    plain = {
        name: getattr(row, name) for name in ("id", "kind", "note", "days", "first_date", "last_date", "every_year")
    }
    start, end = _clock(row.from_clock), _clock(row.to_clock)
    hours = f" {start or 'midnight'} to {end or 'midnight'}" if start or end else ""
    dates = [format_day(day, year=not row.every_year) for day in (row.first_date, row.last_date) if day]
    when = (
        f", {' to '.join(dates) if len(dates) == 2 else ('from ' if row.first_date else 'until ') + dates[0]}"
        if dates
        else ""
    )
    every = " every year" if row.every_year and dates else ""
    days = f", {row.days.label}" if row.days != OpeningDays.EVERY_DAY or not when else ""
    return out.OpeningOut(**plain, from_clock=start, to_clock=end, words=f"{row.kind}{hours}{days}{when}{every}")


def _clock(value: time | None) -> str:
    return "" if value is None else format_clock(datetime.combine(date(2000, 1, 1), value))


def _own_tide(row: Location) -> out.OwnTideOut:
    kept = row.own_tide
    assert kept is not None
    waters = [(datetime.fromisoformat(text), height) for text, height in kept["waters"]]
    info = ZoneInfo(row.zone)
    if waters:
        first, last = (format_day(waters[index][0].astimezone(info).date()) for index in (0, -1))
        words = (
            f"{len(waters)} waters from {first} to {last}; between them half a cosine, in estuaries off "
            "by a tenth of the range and more. Beyond them nothing is known."
        )
    else:
        words = (
            f"{len(kept['waves'])} constants about a mean of {format_height(kept['mean_m'])}; without "
            "nodal corrections heights are off by a few per cent."
        )
    return out.OwnTideOut(
        table=write_tide_table(waters, row.zone),
        constants=write_constants(kept["waves"]),
        mean_m=kept["mean_m"],
        source=kept["source"],
        noted_on=date.fromisoformat(kept["noted_on"]) if kept["noted_on"] else None,
        words=words,
    )


def present_season_note(row: SeasonNote) -> out.SeasonNoteOut:
    plain = {name: getattr(row, name) for name in out.SeasonNoteOut.model_fields if name != "words"}
    words = f"{row.from_day} {calendar.month_abbr[row.from_month]} to {row.to_day} {calendar.month_abbr[row.to_month]}"
    return out.SeasonNoteOut(**plain, words=words)


def present_track(row: WalkTrack) -> out.TrackOut:
    return out.TrackOut(
        id=row.id,
        name=row.name,
        length_m=row.length_m,
        length_label=format_distance(row.length_m),
        ascent_m=row.ascent_m,
        descent_m=row.descent_m,
        naismith_words=_hours(row.naismith_h),
        tobler_words=_hours(row.tobler_h) if row.tobler_h is not None else None,
    )


def present_reading(row: MeterReading, zone: str) -> out.ReadingOut:
    local = row.time_utc.astimezone(ZoneInfo(zone))
    return out.ReadingOut(
        id=row.id,
        time_utc=row.time_utc,
        date_local=local.date(),
        clock=format_clock(local),
        ev100=row.ev100,
        note=row.note,
    )


def present_grid(row: LocationGrid) -> out.GridOut:
    south, east = row.north_deg - row.step_lat_deg * (row.rows - 1), row.west_deg + row.step_lon_deg * (row.columns - 1)
    return out.GridOut(
        name=row.name,
        rows=row.rows,
        columns=row.columns,
        spacing_m=round(row.step_lat_deg * 111_132.0, 1),
        south_deg=south,
        north_deg=row.north_deg,
        west_deg=row.west_deg,
        east_deg=east,
    )


def present_imported(found: Imported, seen: LocationDetails) -> out.ImportedOut:
    parts = [
        f"{count} {word}{'' if count == 1 else 's'}"
        for count, word in ((found.viewpoints, "viewpoint"), (found.tracks, "track"))
        if count
    ]
    return out.ImportedOut(
        location=present_location(seen),
        viewpoints=found.viewpoints,
        tracks=found.tracks,
        words=f"{' and '.join(parts)} came into "
        f"{found.location.name if found.locations == 1 else f'{found.locations} locations'}.",
    )


def present_sketch(sketch: Sketch) -> out.SketchOut:
    return out.SketchOut(
        middle=list(sketch.middle),
        half_m=sketch.half_m,
        viewpoints=[
            out.SketchPointOut(id=row, name=name, east_m=east, north_m=north)
            for row, name, east, north in sketch.viewpoints
        ],
        tracks=[
            out.SketchTrackOut(id=row, name=name, line=[list(step) for step in line])
            for row, name, line in sketch.tracks
        ],
        contours=[
            out.ContourOut(level_m=item.level_m, line=[list(step) for step in item.line]) for item in sketch.contours
        ],
        contour_step_m=sketch.contour_step_m,
    )


def position_words(latitude: float, longitude: float, places: int = 4) -> str:
    """Return a position as 54.5310° N, 3.2140° W."""
    return (
        f"{abs(latitude):.{places}f}° {'S' if latitude < 0 else 'N'}, {abs(longitude):.{places}f}° "
        f"{'W' if longitude < 0 else 'E'}"
    )


def _hours(hours: float) -> str:
    minutes = round(hours * 60)
    return f"{minutes} min" if minutes < 60 else f"{minutes // 60} h {minutes % 60:02d} min"
