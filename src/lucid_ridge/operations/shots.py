"""Shots: making, editing, planning."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from datetime import UTC, date, datetime, time, timedelta
from functools import partial
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from ..core.errors import InputError
from ..core.framing.crop import FREE
from ..core.light.instants import local_day, unix_seconds, zone_info
from ..core.planning import facts as core
from ..core.planning.facts import settings_of
from ..core.planning.plan import ShotPlan, plan_shot
from ..core.units.lengths import format_distance
from ..core.units.markings import format_aperture, format_shutter
from ..store.kit import Body, Filter, Lens, Support
from ..store.places import Location, Viewpoint
from ..store.shots import Shot, ShotFilter, ShotSharpElement
from . import rows
from .errors import NotFound, Refused
from .facts import copy_of, shot_facts
from .journal import delete_with_references, journaled

LIST_SCOPE = "shots"
# Beyond this another viewpoint is meant.
FURTHEST_STEP_M = 1000.0
# What an edit is called in the undo list when it changes several values at once.
_LABELS = {
    "f_number": "aperture", "iso": "ISO", "focal_mm": "focal length", "bearing_deg": "bearing", "pitch_deg": "pitch",
    "camera_height_m": "camera height", "time_utc": "time", "clock_local": "time", "date_local": "date",
    "sharp_element_ids": "what must be sharp", "wanted_shutter_s": "wanted shutter", "wanted_look": "wanted look",
    "viewpoint_id": "viewpoint", "body_id": "body", "lens_id": "lens", "support_id": "tripod", "roll_deg": "lean", "camera_east_m": "camera position",
    "camera_north_m": "camera position", "crop_x": "crop", "crop_y": "crop", "crop_focal_mm": "crop", "crop_ratio": "crop", "crop_share": "crop",
    "pano_across_deg": "panorama", "pano_upwards_deg": "panorama",
}  # fmt: skip


def shot_scope(shot_id: int) -> str:
    return f"shot:{shot_id}"


def all_shots(session: Session, owner_id: int) -> Sequence[Shot]:
    """Return the owner's shots by when they come next; those without a date last."""
    query = select(Shot).where(Shot.owner_id == owner_id).order_by(Shot.date_local.nulls_last(), Shot.time_utc.nulls_last(), Shot.id)
    places = selectinload(Shot.viewpoint)
    loaded = query.options(
        places.selectinload(Viewpoint.location), places.selectinload(Viewpoint.elements), selectinload(Shot.body),
        places.selectinload(Viewpoint.location).selectinload(Location.hazards),
        places.selectinload(Viewpoint.location).selectinload(Location.season_notes),
        places.selectinload(Viewpoint.location).selectinload(Location.readings),
        selectinload(Shot.lens), selectinload(Shot.sharp), selectinload(Shot.filters),
    )  # fmt: skip
    return session.scalars(loaded).all()


def get_shot(session: Session, owner_id: int, shot_id: int) -> Shot:
    """Return one of the owner's shots. Raises NotFound."""
    return rows.owned(session, owner_id, Shot, shot_id)


def add_shot(session: Session, owner_id: int, values: Mapping[str, Any]) -> Shot:
    """Make a shot; the first body and lens of the kit are taken along unless others are named."""
    values = dict(values)
    for name, kind in (("body_id", Body), ("lens_id", Lens)):
        if name not in values:
            values[name] = session.scalars(select(kind.id).where(kind.owner_id == owner_id).order_by(kind.id).limit(1)).first()
    with journaled(session, owner_id, LIST_SCOPE, f"new shot {values['name']}"):
        row = Shot(owner_id=owner_id, name=values.pop("name"))
        session.add(row)
        session.flush()
        _change(session, owner_id, row, values)
    return row


def edit_shot(session: Session, owner_id: int, shot_id: int, changes: Mapping[str, Any]) -> Shot:
    """Change what is said of a shot. None lets a value go, so that the application chooses it again.

    Raises Refused at the field for what the kit or the place cannot do.
    """
    row = get_shot(session, owner_id, shot_id)
    with journaled(session, owner_id, shot_scope(row.id), "change " + _label(changes)):
        _change(session, owner_id, row, changes)
    return row


def delete_shot(session: Session, owner_id: int, shot_id: int) -> None:
    """Delete a shot with its cards."""
    row = get_shot(session, owner_id, shot_id)
    with journaled(session, owner_id, LIST_SCOPE, f"delete {row.name}"):
        delete_with_references(session, row)


def plan_of(session: Session, shot: Shot) -> ShotPlan:
    """Return the plan of a shot as its facts stand now."""
    return plan_shot(shot_facts(session, shot))


def _label(changes: Mapping[str, Any]) -> str:
    names = [_LABELS.get(name, name.removesuffix("_id").rsplit("_", 1)[0].replace("_", " ")) for name in changes]
    return ", ".join(dict.fromkeys(names)) or "nothing"


def _change(session: Session, owner_id: int, row: Shot, changes: Mapping[str, Any]) -> None:
    # Nothing reaches the database before every check has been made.
    with session.no_autoflush:
        _change_unflushed(session, owner_id, row, dict(changes))


def _change_unflushed(session: Session, owner_id: int, row: Shot, changes: dict[str, Any]) -> None:
    if changes.pop("keep_subject_size", False) and changes.get("focal_mm") is not None:
        changes.update(_stepped_with_the_zoom(session, row, changes["focal_mm"]))
    if (share := changes.pop("crop_share", None)) is not None:
        settings = settings_of(shot_facts(session, row))
        changes["crop_focal_mm"] = round(settings.focal_mm / share, 1) if settings and share < 0.999 else None
    sharp, filters = changes.pop("sharp_element_ids", None), changes.pop("filters", None)
    clock = changes.pop("clock_local", None)
    old_zone, old_time = _zone(row), row.time_utc
    references: tuple[tuple[str, str, Any], ...] = (
        ("body_id", "body", Body),
        ("lens_id", "lens", Lens),
        ("support_id", "support", Support),
    )
    for name, relation, kind in references:
        if name in changes:
            piece_id = changes.pop(name)
            setattr(row, relation, _referenced(name, partial(rows.owned, session, owner_id, kind, piece_id)) if piece_id else None)
    if "viewpoint_id" in changes:
        point_id = changes.pop("viewpoint_id")
        row.viewpoint = _referenced("viewpoint_id", partial(rows.viewpoint, session, owner_id, point_id)) if point_id else None
        _forget_other_elements(session, row)
    rows.assign(row, changes)
    _keep_time(row, changes, clock, old_zone, old_time)
    _keep_window(row, changes, old_time)
    _check_elements(row, changes, sharp)
    if sharp is not None:
        _set_sharp(session, row, sharp)
    if filters is not None:
        _set_filters(session, owner_id, row, filters)
    _check_kit(row, changes)
    _check_range(row, changes)


def _stepped_with_the_zoom(session: Session, row: Shot, focal_mm: float) -> dict[str, float]:
    """Return the camera's place from which a lens of another focal length shows the subject as large as now: its distance grows alike."""
    facts = shot_facts(session, row)
    settings, subject = settings_of(facts), facts.subject
    seen = facts.seen_from_camera.element(subject.id) if subject else None
    if settings is None or seen is None:
        raise Refused("focal_mm", "To keep the subject's size there must be a subject, a body and a lens.")
    back = seen.distance_m * (focal_mm / settings.focal_mm - 1)
    turn = math.radians(seen.bearing_deg)
    east, north = row.camera_east_m - back * math.sin(turn), row.camera_north_m - back * math.cos(turn)
    if math.hypot(east, north) > FURTHEST_STEP_M:
        raise Refused("focal_mm", f"To keep {seen.name}'s size the camera would have to move by {format_distance(abs(back))}: too far to be the same viewpoint.")  # fmt: skip
    return {"camera_east_m": round(east, 3), "camera_north_m": round(north, 3)}


def _referenced(field: str, find: Any) -> Any:
    try:
        return find()
    except NotFound as error:
        raise Refused(field, error.message) from error


def _zone(row: Shot) -> str | None:
    location: Location | None = row.viewpoint.location if row.viewpoint else None
    return location.zone if location else None


def _keep_time(row: Shot, changes: Mapping[str, Any], clock: time | None, old_zone: str | None, old_time: datetime | None) -> None:
    """Keep date and time of one piece: a new date or place keeps the clock time, a new time sets the date."""
    zone = _zone(row)
    if clock is not None:
        if zone is None or row.date_local is None:
            raise Refused("clock_local", "A clock time needs a viewpoint and a date first.")
        row.time_utc = _at(row.date_local, clock, zone)
    elif changes.get("time_utc") is not None:
        if zone is None:
            raise Refused("time_utc", "A time needs a viewpoint first: its zone says what the clock shows.")
        try:
            unix_seconds(changes["time_utc"])
        except InputError as error:
            raise Refused("time_utc", error.message) from error
        row.date_local = changes["time_utc"].astimezone(zone_info(zone)).date()
    elif old_time is not None and row.time_utc is not None and row.date_local is not None and zone is not None:
        shown = old_time.astimezone(zone_info(old_zone or zone)).time()
        if "date_local" in changes or zone != old_zone:
            row.time_utc = _at(row.date_local, shown, zone)
    if row.date_local is None:
        row.time_utc = None
    elif "date_local" in changes:
        try:
            local_day(row.date_local, zone or "UTC")
        except InputError as error:
            raise Refused("date_local", error.message) from error


def _keep_window(row: Shot, changes: Mapping[str, Any], old_time: datetime | None) -> None:
    """A window ends after the shot's time, within a day; a new date or a later time lets an old end go."""
    end = row.window_end_utc
    if end is None:
        return
    fits = row.time_utc is not None and timedelta(0) < end - row.time_utc <= timedelta(days=1)
    if "window_end_utc" in changes and not fits:
        raise Refused("window_end_utc", "A window ends after the time of the shot, within a day of it.")
    if not fits or ("window_end_utc" not in changes and old_time is not None and "date_local" in changes):
        row.window_end_utc = None


def _at(day: date, clock: time, zone: str) -> datetime:
    """Return the instant a clock shows a time; of two (when clocks go back) the first, of none (forward) the hour after."""
    return datetime.combine(day, clock, tzinfo=zone_info(zone)).astimezone(UTC)


def _forget_other_elements(session: Session, row: Shot) -> None:
    """After a change of viewpoint nothing may be said any more of what cannot be seen from there."""
    known = {item.id for item in row.viewpoint.elements} if row.viewpoint else set()
    _set_sharp(session, row, [item.element_id for item in row.sharp if item.element_id in known])
    if row.subject_element_id not in known:
        row.subject_element_id = None
    if row.moving_element_id not in known:
        row.moving_element_id = None
    if row.water_element_id not in known:
        row.water_element_id = None


def _check_elements(row: Shot, changes: Mapping[str, Any], sharp: Sequence[int] | None) -> None:
    known = {item.id for item in row.viewpoint.elements} if row.viewpoint else set()
    for name in ("subject_element_id", "moving_element_id", "water_element_id"):
        wanted = changes.get(name)
        if wanted is not None and wanted not in known:
            raise Refused(name, "This element is not one of the viewpoint's.")
    if sharp is not None and not set(sharp) <= known:
        raise Refused("sharp_element_ids", "Only elements of the shot's viewpoint can be named sharp.")


def _set_sharp(session: Session, row: Shot, wanted: Sequence[int]) -> None:
    for item in [item for item in row.sharp if item.element_id not in wanted]:
        _take_out(session, row.sharp, item)
    present = {item.element_id for item in row.sharp}
    row.sharp.extend(ShotSharpElement(element_id=element_id) for element_id in sorted(set(wanted) - present))


def _set_filters(session: Session, owner_id: int, row: Shot, wanted: Sequence[Mapping[str, Any]]) -> None:
    uses = {item["filter_id"]: item for item in wanted if item["on_lens"] or item["on_when_metered"]}
    for filter_id in uses:
        _referenced("filters", partial(rows.owned, session, owner_id, Filter, filter_id))
    for use in [use for use in row.filters if use.filter_id not in uses]:
        _take_out(session, row.filters, use)
    for use in row.filters:
        use.on_lens, use.on_when_metered = uses[use.filter_id]["on_lens"], uses[use.filter_id]["on_when_metered"]
    present = {use.filter_id for use in row.filters}
    row.filters.extend(ShotFilter(**item) for filter_id, item in uses.items() if filter_id not in present)


def _take_out(session: Session, collection: list[Any], item: Any) -> None:
    """Remove a row for good; said to the session itself, since the journal does not see orphans."""
    collection.remove(item)
    session.delete(item)


def _check_kit(row: Shot, changes: Mapping[str, Any]) -> None:
    """Refuse what the body and the lens in hand cannot be set to; only values of this edit are looked at."""
    lens, body = row.lens, row.body
    focal, aperture, iso = changes.get("focal_mm"), changes.get("f_number"), changes.get("iso")
    if lens and focal is not None and not lens.focal_min_mm <= focal <= lens.focal_max_mm:
        raise Refused("focal_mm", f"{lens.name} goes from {lens.focal_min_mm:g} to {lens.focal_max_mm:g} mm, not {focal:g} mm.")
    if lens and aperture is not None:
        _check_aperture("f_number", lens, row.focal_mm, aperture)
    metered_at = changes.get("metered_f_number")
    if lens and metered_at is not None and row.metered_through_lens:
        _check_aperture("metered_f_number", lens, row.focal_mm, metered_at, " A hand-held meter can read it: untick “read through the lens” first.")  # fmt: skip
    if body and iso is not None and not body.base_iso <= iso <= body.max_iso:
        raise Refused("iso", f"{body.name} goes from ISO {body.base_iso:g} to {body.max_iso:g}, not {iso:g}.")
    if row.crop_aspect == FREE and row.crop_ratio is None and "crop_aspect" in changes:
        row.crop_ratio = 1.5
    reach = changes.get("crop_focal_mm")
    used = row.focal_mm or (lens.focal_min_mm if lens else None)
    if reach is not None and used is not None and reach < used:
        raise Refused("crop_focal_mm", f"A crop lends reach: {reach:g} mm is shorter than the {used:g} mm in use.")
    metered = changes.get("metered_shutter_s")
    if body and metered is not None and metered < body.fastest_shutter_s * 0.93:
        raise Refused("metered_shutter_s", f"{body.name} is no faster than {format_shutter(body.fastest_shutter_s)}.")
    wanted = changes.get("wanted_shutter_s")
    if body and wanted is not None:
        slowest = 86400.0 if body.has_bulb else body.slowest_shutter_s * 1.1
        if not body.fastest_shutter_s * 0.93 <= wanted <= slowest:
            limit = "without end on bulb" if body.has_bulb else format_shutter(body.slowest_shutter_s)
            raise Refused("wanted_shutter_s", f"{body.name} goes from {format_shutter(body.fastest_shutter_s)} to {limit}, not {format_shutter(wanted)}.")  # fmt: skip
    scale = changes.get("magnification")
    if lens and scale is not None and lens.max_magnification is not None and scale > lens.max_magnification * 1.001:
        raise Refused("magnification", f"{lens.name} reaches {lens.max_magnification:g}:1, not {scale:g}:1.")
    near = changes.get("near_m")
    if lens and near is not None and near * 1000 <= (row.focal_mm or lens.focal_min_mm) * 1.001:
        raise Refused("near_m", f"{format_distance(near)} lies within the focal length: no lens images that.")


def _check_aperture(field: str, lens: Lens, focal_mm: float | None, f_number: float, more: str = "") -> None:
    known: core.Lens = copy_of(core.Lens, lens)
    focal = focal_mm or known.focal_min_mm
    if not known.takes_aperture(f_number, focal):
        at = f" at {focal:g} mm" if known.f_number_min_long is not None else ""
        raise Refused(field, f"{lens.name} opens from {format_aperture(known.widest_f_number(focal))} to {format_aperture(lens.f_number_max)}{at}, not {format_aperture(f_number)}.{more}")  # fmt: skip


def _check_range(row: Shot, changes: Mapping[str, Any]) -> None:
    if row.water_low_m is not None and row.water_high_m is not None and row.water_high_m < row.water_low_m:
        field = "water_low_m" if "water_low_m" in changes and "water_high_m" not in changes else "water_high_m"
        raise Refused(field, f"The deepest water ({row.water_high_m:g} m) must not be under the shallowest ({row.water_low_m:g} m).")
    if row.near_m is not None and row.far_m is not None and not row.far_infinite and row.far_m < row.near_m:
        field = "far_m" if changes.get("far_m") is not None or "near_m" not in changes else "near_m"
        raise Refused(field, f"The far limit ({format_distance(row.far_m)}) must not be closer than the near limit ({format_distance(row.near_m)}).")  # fmt: skip
    if row.shadow_ev is not None and row.highlight_ev is not None and row.highlight_ev < row.shadow_ev:
        field = "shadow_ev" if "shadow_ev" in changes and "highlight_ev" not in changes else "highlight_ev"
        raise Refused(field, f"The highlight reading (EV {row.highlight_ev:g}) must not be under the shadow reading (EV {row.shadow_ev:g}).")  # fmt: skip
