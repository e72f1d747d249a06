"""Shots: creating, editing, deleting."""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from dataclasses import replace
from functools import partial
from typing import TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session, lazyload

from ...core.exposure.moving_things import MotionWish, passes
from ...core.facts.changes import Changes, Group
from ...core.facts.choices import GROUPS, DepthChoices, ExposureChoices, LightChoices
from ...core.facts.declaring import facts_of
from ...core.facts.frame_groups import FrameGroup
from ...core.facts.settings import settings_of, sides_mm
from ...core.facts.spots import SpotPart, parse_reading
from ...core.framing.crop import Aspect
from ...core.optics.close_up import magnification_from_field
from ...core.units.lengths import format_distance
from ...store.base import Base
from ...store.kit import Accessory, Body, Filter, Lens, Support
from ...store.places import Location
from ...store.shots import Shot, ShotAccessory, ShotFilter, ShotSharpElement
from ...store.versioned import Spot, Wished
from ..platform import rows
from ..platform.errors import NotFound
from ..platform.journal import delete_with_references, journaled
from ..platform.shot_context import is_cached
from .checks import check_kit, check_order, refusal
from .edit_context import known_elements, used_kit, zone_of
from .edits import FilterUse, MotionWished, ShotEdit, SpotSaid
from .facts import groups_of, kept_group, shot_facts, spots_of, wishes_of
from .times import reads_light, stamped, timed

LIST_SCOPE = "shots"
# Further away than this, another viewpoint is meant.
FURTHEST_STEP_M = 1000.0
LONGEST_NAME = 200
# A free crop begins with the ratio of a 36 x 24 mm frame.
_FREE_RATIO = 1.5
_ELEMENT = "element"
_BARE = tuple(lazyload(item) for item in (Shot.viewpoint, Shot.body, Shot.lens, Shot.support))
Found = TypeVar("Found")


def shot_scope(shot_id: int) -> str:
    return f"shot:{shot_id}"


def get_shot(session: Session, owner_id: int, shot_id: int) -> Shot:
    """Return one of the owner's shots. Raises NotFound."""
    # Place and kit are loaded in the same query, unless they are cached.
    known = is_cached(session, shot_id, "facts")
    return rows.owned(session, owner_id, Shot, shot_id, *(_BARE if known else ()))


def usual_kit(session: Session, owner_id: int) -> dict[str, int | None]:
    """Return the ids of body, lens and tripod that a new shot begins with: those of the newest one, else the first body
    and lens of the kit, and its only tripod.
    """
    last = session.scalars(select(Shot).where(Shot.owner_id == owner_id).order_by(Shot.id.desc()).limit(1)).first()
    found: dict[str, int | None] = {}
    for name, kind in (("body_id", Body), ("lens_id", Lens), ("support_id", Support)):
        ids = session.scalars(select(kind.id).where(kind.owner_id == owner_id).order_by(kind.id).limit(2)).all()
        first = ids[0] if ids and (kind is not Support or len(ids) == 1) else None
        found[name] = (getattr(last, name) if last is not None else None) or first
    return found


def add_shot(session: Session, owner_id: int, edit: ShotEdit) -> Shot:
    """Create a shot, with the usual kit unless other is given."""
    usual = {name: piece for name, piece in usual_kit(session, owner_id).items() if name not in edit.head}
    edit = replace(edit, head=edit.head.also(**usual))
    name = str(edit.head.values["name"])
    with journaled(session, owner_id, LIST_SCOPE, f"new shot {name}"):
        row = Shot(owner_id=owner_id, name=name)
        session.add(row)
        session.flush()
        _change(session, owner_id, row, edit)
    return row


def edit_shot(session: Session, owner_id: int, shot_id: int, edit: ShotEdit) -> Shot:
    """Edit a shot.

    None clears a value, so that the application chooses it. Raises Refused at the field for what kit or place do not
    allow.
    """
    row = get_shot(session, owner_id, shot_id)
    with journaled(session, owner_id, shot_scope(row.id), f"change {edit.label}"):
        _change(session, owner_id, row, edit)
    return row


def copy_shot(session: Session, owner_id: int, shot_id: int) -> Shot:
    """Create a copy of a shot, to take it with other kit, on another date or elsewhere.

    Cards and framings stay with the original.
    """
    row = get_shot(session, owner_id, shot_id)
    known = known_elements(session, row)
    with journaled(session, owner_id, LIST_SCOPE, f"copy {row.name}"):
        made = Shot(
            owner_id=owner_id,
            name=_copied_name(row.name),
            intent=row.intent,
            viewpoint=row.viewpoint,
            body=row.body,
            lens=row.lens,
            support=row.support,
            **{group: getattr(row, group) for group in GROUPS},
            spots=spots_of(row, known),
            motion_wishes=wishes_of(row, known),
            frame_groups=groups_of(row, known),
            sharp=[ShotSharpElement(element_id=item.element_id) for item in row.sharp],
            filters=[
                ShotFilter(
                    filter_id=item.filter_id,
                    on_lens=item.on_lens,
                    on_when_metered=item.on_when_metered,
                    set_stops=item.set_stops,
                )
                for item in row.filters
            ],
            rig=[ShotAccessory(accessory_id=item.accessory_id, accessory=item.accessory) for item in row.rig],
        )
        session.add(made)
        session.flush()
    return made


def _copied_name(name: str) -> str:
    ending = " (copy)"
    return f"{name[: LONGEST_NAME - len(ending)]}{ending}"


def delete_shot(session: Session, owner_id: int, shot_id: int) -> None:
    """Delete a shot with its cards."""
    row = get_shot(session, owner_id, shot_id)
    with journaled(session, owner_id, LIST_SCOPE, f"delete {row.name}"):
        delete_with_references(session, row)


def _change(session: Session, owner_id: int, row: Shot, edit: ShotEdit) -> None:
    # Nothing is written before every check has passed.
    with session.no_autoflush:
        edit = _commands_carried_out(session, row, edit)
        zone_before, light_before, point_before = zone_of(session, row), row.light, row.viewpoint_id
        _set_head(session, owner_id, row, edit)
        row.light = timed(edit.light.applied_to(row.light), edit, light_before, zone_before, zone_of(session, row))
        row.frame, row.depth = edit.frame.applied_to(row.frame), edit.depth.applied_to(row.depth)
        exposure = edit.exposure.applied_to(row.exposure)
        row.exposure = stamped(exposure, edit, light_before, row.light)
        if reads_light(edit):
            row.read_at_viewpoint_id = row.viewpoint.id if row.viewpoint is not None else None
        elif row.read_at_viewpoint_id is None and row.viewpoint is not None and row.viewpoint.id != point_before:
            row.read_at_viewpoint_id = point_before
        row.sequence = edit.sequence.applied_to(row.sequence)
        row.wishes = edit.wishes.applied_to(row.wishes)
        _check_elements(session, row, edit)
        _check_plan_b(session, owner_id, row, edit)
        if edit.sharp_element_ids is not None:
            _set_sharp(session, row, edit.sharp_element_ids)
        if edit.accessory_ids is not None:
            _set_rig(session, owner_id, row, edit.accessory_ids)
        if edit.filters is not None:
            _set_filters(session, owner_id, row, edit.filters)
        if edit.spots is not None:
            _set_spots(session, row, edit.spots)
        if edit.motion_wishes is not None:
            _set_wishes(session, row, edit.motion_wishes)
        if edit.frame_groups is not None:
            _set_groups(session, owner_id, row, edit.frame_groups)
        check_kit(used_kit(session, row), row, edit)
        check_order(row, edit)


def _commands_carried_out(session: Session, row: Shot, edit: ShotEdit) -> ShotEdit:
    """Return an edit with the values computed from its commands, for the shot's current state."""
    focal_mm = edit.frame.number("focal_mm")
    if edit.keep_subject_size and focal_mm is not None:
        edit = edit.framed(**_stepped_with_the_zoom(session, row, focal_mm))
    if edit.field_mm is not None:
        body = used_kit(session, row).body
        if body is None:
            raise refusal(
                "field_mm",
                "A magnification follows from a field once a body is chosen: its sensor is held against the ruler.",
            )
        wide = sides_mm(body, row.frame.orientation)[0]
        edit = edit.focused(magnification=float(f"{magnification_from_field(wide, edit.field_mm):.4g}"))
    if edit.crop_share is not None:
        settings = settings_of(shot_facts(session, row))
        edit = edit.framed(
            crop_focal_mm=round(settings.focal_mm / edit.crop_share, 1)
            if settings and edit.crop_share < 0.999
            else None
        )
    if (
        edit.frame.values.get("crop_aspect") == Aspect.FREE
        and row.frame.crop_ratio is None
        and "crop_ratio" not in edit.frame
    ):
        edit = edit.framed(crop_ratio=_FREE_RATIO)
    return edit


def _set_head(session: Session, owner_id: int, row: Shot, edit: ShotEdit) -> None:
    head = edit.head
    rows.assign(
        row, {name: value for name, value in head.values.items() if name in ("name", "intent", "favourite", "archived")}
    )
    if "body_id" in head:
        row.body = _piece(session, owner_id, "body_id", Body, head.reference("body_id"))
    if "lens_id" in head:
        row.lens = _piece(session, owner_id, "lens_id", Lens, head.reference("lens_id"))
    if "support_id" in head:
        row.support = _piece(session, owner_id, "support_id", Support, head.reference("support_id"))
    if "viewpoint_id" in head:
        point_id = head.reference("viewpoint_id")
        row.viewpoint = (
            _referenced("viewpoint_id", partial(rows.viewpoint, session, owner_id, point_id)) if point_id else None
        )
        _forget_other_elements(session, row)


Piece = TypeVar("Piece", Body, Lens, Support)


def _piece(session: Session, owner_id: int, name: str, kind: type[Piece], piece_id: int | None) -> Piece | None:
    return _referenced(name, partial(rows.owned, session, owner_id, kind, piece_id)) if piece_id else None


def _stepped_with_the_zoom(session: Session, row: Shot, focal_mm: float) -> dict[str, float]:
    """Return the camera position from which another focal length shows the subject at the same size: its distance
    grows in proportion.
    """
    facts = shot_facts(session, row)
    settings, subject = settings_of(facts), facts.subject
    seen = facts.seen_from_camera.element(subject.id) if subject else None
    if settings is None or seen is None:
        raise refusal("focal_mm", "To keep the subject's size there must be a subject, a body and a lens.")
    back = seen.distance_m * (focal_mm / settings.focal_mm - 1)
    turn = math.radians(seen.bearing_deg)
    east, north = row.frame.camera_east_m - back * math.sin(turn), row.frame.camera_north_m - back * math.cos(turn)
    if math.hypot(east, north) > FURTHEST_STEP_M:
        raise refusal(
            "focal_mm",
            f"To keep {seen.name}'s size the camera would have to move by {format_distance(abs(back))}: too "
            "far to be the same viewpoint.",
        )
    return {"camera_east_m": round(east, 3), "camera_north_m": round(north, 3)}


def _referenced(name: str, find: partial[Found]) -> Found:
    try:
        return find()
    except NotFound as error:
        raise refusal(name, error.message) from error


def _forget_other_elements(session: Session, row: Shot) -> None:
    """Remove references to elements that cannot be seen from a new viewpoint."""
    known = known_elements(session, row).keys()
    _set_sharp(session, row, [item.element_id for item in row.sharp if item.element_id in known])
    row.light = _with_known(LightChoices, row.light, known)
    row.depth = _with_known(DepthChoices, row.depth, known)
    row.exposure = _with_known(ExposureChoices, row.exposure, known)
    row.spots = spots_of(row, known)
    row.motion_wishes = wishes_of(row, known)
    row.frame_groups = groups_of(row, known)


def _with_known(kind: type[Group], group: Group, known: Collection[int]) -> Group:
    gone = (
        name
        for name, item in facts_of(kind).items()
        if item.fact.refers == _ELEMENT and getattr(group, name) not in known
    )
    return Changes(kind, dict.fromkeys(gone)).applied_to(group)


def _check_plan_b(session: Session, owner_id: int, row: Shot, edit: ShotEdit) -> None:
    for name, kind in (("plan_b_shot_id", Shot), ("plan_b_location_id", Location)):
        wanted = edit.light.reference(name)
        if wanted is not None:
            _referenced(name, partial(rows.owned, session, owner_id, kind, wanted))
    if edit.light.reference("plan_b_shot_id") == row.id:
        raise refusal("plan_b_shot_id", "A shot is not its own plan B: choose another.")


def _check_elements(session: Session, row: Shot, edit: ShotEdit) -> None:
    known = known_elements(session, row).keys()
    for changes in (edit.light, edit.depth, edit.exposure):
        for name, item in facts_of(changes.kind).items():
            if (
                item.fact.refers == _ELEMENT
                and changes.reference(name) is not None
                and changes.reference(name) not in known
            ):
                raise refusal(name, "This element is not one of the viewpoint's.")
    if edit.sharp_element_ids is not None and not set(edit.sharp_element_ids) <= known:
        raise refusal("sharp_element_ids", "Only elements of the shot's viewpoint can be named sharp.")


def _set_sharp(session: Session, row: Shot, wanted: Sequence[int]) -> None:
    for item in [item for item in row.sharp if item.element_id not in wanted]:
        _take_out(session, row.sharp, item)
    present = {item.element_id for item in row.sharp}
    row.sharp.extend(ShotSharpElement(element_id=element_id) for element_id in sorted(set(wanted) - present))


def _set_rig(session: Session, owner_id: int, row: Shot, wanted: Sequence[int]) -> None:
    found = {
        piece_id: _referenced("accessory_ids", partial(rows.owned, session, owner_id, Accessory, piece_id))
        for piece_id in wanted
    }
    for item in [item for item in row.rig if item.accessory_id not in found]:
        _take_out(session, row.rig, item)
    present = {item.accessory_id for item in row.rig}
    row.rig.extend(
        ShotAccessory(accessory_id=piece_id, accessory=piece)
        for piece_id, piece in sorted(found.items())
        if piece_id not in present
    )


def _set_spots(session: Session, row: Shot, wanted: Sequence[SpotSaid]) -> None:
    known = known_elements(session, row)
    for item in wanted:
        if (item.part == SpotPart.ELEMENT) != (item.element_id is not None):
            raise refusal("spots", "A spot reading of an element names it; one of sky or land names none.")
        if item.element_id is not None and item.element_id not in known:
            raise refusal("spots", "This element is not one of the viewpoint's.")
    row.spots = [
        Spot(
            part=str(item.part),
            element_id=item.element_id,
            said=item.said,
            ev100=parse_reading(item.said),
            through_stops=item.through_stops,
        )
        for item in wanted
    ]


def _set_wishes(session: Session, row: Shot, wanted: Sequence[MotionWished]) -> None:
    elements = known_elements(session, row)
    ids = [item.element_id for item in wanted]
    if len(set(ids)) < len(ids):
        raise refusal("motion_wishes", "What moves has one wish each.")
    for item in wanted:
        element = elements.get(item.element_id) if item.element_id is not None else None
        if item.element_id is not None and element is None:
            raise refusal("motion_wishes", "This element is not one of the viewpoint's.")
        if item.wish == MotionWish.GONE and not passes(element.moving if element is not None else None):
            raise refusal(
                "motion_wishes", "Only people, birds, boats and insects can be gone: say so of the element first."
            )
    row.motion_wishes = [Wished(element_id=item.element_id, wish=str(item.wish)) for item in wanted]


def _set_groups(session: Session, owner_id: int, row: Shot, wanted: Sequence[FrameGroup]) -> None:
    known = known_elements(session, row)
    bag = set(session.scalars(select(Filter.id).where(Filter.owner_id == owner_id)))
    for group in wanted:
        if group.focus_element_id is not None and group.focus_element_id not in known:
            raise refusal("frame_groups", f"{group.called.capitalize()}: this element is not one of the viewpoint's.")
        if not set(group.filter_ids) <= bag:
            raise refusal("frame_groups", f"{group.called.capitalize()}: this filter is not in the bag.")
    row.frame_groups = [kept_group(group) for group in wanted]


def _set_filters(session: Session, owner_id: int, row: Shot, wanted: Sequence[FilterUse]) -> None:
    uses = {item.filter_id: item for item in wanted if item.on_lens or item.on_when_metered}
    for said in uses.values():
        piece = _referenced("filters", partial(rows.owned, session, owner_id, Filter, said.filter_id))
        if said.set_stops is not None and not piece.stops <= said.set_stops <= (piece.stops_max or piece.stops):
            most = f" to {piece.stops_max:g} stops" if piece.stops_max else " stops and cannot be turned"
            raise refusal("filters", f"{piece.name} takes {piece.stops:g}{most}, not {said.set_stops:g}.")
    for use in [use for use in row.filters if use.filter_id not in uses]:
        _take_out(session, row.filters, use)
    for use in row.filters:
        said = uses[use.filter_id]
        use.on_lens, use.on_when_metered, use.set_stops = said.on_lens, said.on_when_metered, said.set_stops
    present = {use.filter_id for use in row.filters}
    row.filters.extend(
        ShotFilter(
            filter_id=item.filter_id,
            on_lens=item.on_lens,
            on_when_metered=item.on_when_metered,
            set_stops=item.set_stops,
        )
        for item in uses.values()
        if item.filter_id not in present
    )


Row = TypeVar("Row", bound=Base)


def _take_out(session: Session, collection: list[Row], item: Row) -> None:
    """Delete a row explicitly, since the journal does not see orphans."""
    collection.remove(item)
    session.delete(item)
