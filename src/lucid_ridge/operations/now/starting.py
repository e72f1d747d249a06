"""A new shot from a kind of picture: its place, kit, scene and settings in one go."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session

from ...core.facts.shot import ShotFacts
from ...core.starting.catalogue import KINDS, kind_of
from ...core.starting.day_words import day_meant
from ...core.starting.picture_kind import ScenePart
from ...core.starting.scene import StartScene, start_scene
from ...core.starting.settings import FoundSettings, choices_of, found_settings
from ...core.starting.suited import suited_lens
from ...core.starting.when import StartTime, next_times
from ...store.kit import Body, Lens, Support
from ...store.places import Viewpoint
from ...store.shots import Shot
from ..kit.from_rows import known_body, known_lens, known_support
from ..kit.pieces import all_of
from ..kit.presets import add_preset
from ..places import viewpoints
from ..places.edits import ElementEdit, NewLocation
from ..places.locations import add_location
from ..platform import rows
from ..platform.errors import Refused, refused_at
from ..shots.edits import FilterUse, ShotEdit, edit_of
from ..shots.facts import shot_facts
from ..shots.shots import add_shot, edit_shot, usual_kit
from .here import facts_at_position, facts_at_viewpoint


@dataclass(frozen=True, kw_only=True)
class Beginning:
    """What a new shot begins with. kind: a key, or empty for an empty shot. viewpoint_id: a place of one's own, or
    position with a name for a new one; neither: later. day: "tomorrow", "sat", a date; None: the next such light.
    start_utc: one of the times that next_light offered. *_preset: keys of usual kit to add, where no id is given.
    """

    kind: str = ""
    name: str | None = None
    viewpoint_id: int | None = None
    position: tuple[float, float] | None = None
    place_name: str | None = None
    day: str | None = None
    start_utc: datetime | None = None
    body_id: int | None = None
    body_preset: str | None = None
    lens_id: int | None = None
    lens_preset: str | None = None
    support_preset: str | None = None


@dataclass(frozen=True)
class LightToCome:
    """The next times of a kind's light at a place, the soonest first, and the place's facts."""

    facts: ShotFacts
    times: tuple[StartTime, ...]


def suited_lenses(session: Session, owner_id: int) -> dict[str, int | None]:
    """Return for each kind of picture the id of the bag's lens that suits it; None without lenses."""
    lenses = [known_lens(row) for row in all_of(session, owner_id, Lens)]
    body_id = usual_kit(session, owner_id)["body_id"]
    body = known_body(session.get_one(Body, body_id)) if body_id is not None else None
    suited = {kind.key: suited_lens(kind, lenses, body) for kind in KINDS}
    return {key: None if lens is None else lens.id for key, lens in suited.items()}


def next_light(session: Session, owner_id: int, said: Beginning, now_utc: datetime) -> LightToCome | None:
    """Return when the light of a kind comes; None without a place. Raises InputError at kind, day or position."""
    facts = _place(session, owner_id, said, now_utc)
    if facts is None or facts.location is None:
        return None
    from_day = _day(said, facts, now_utc)
    return LightToCome(facts, next_times(kind_of(said.kind), facts.location, now_utc, from_day))


def begin_shot(session: Session, owner_id: int, said: Beginning, now_utc: datetime) -> Shot:
    """Create a shot of a kind with its scene, wishes, time and settings.

    A viewpoint that has elements keeps them, and the camera looks at them. Raises Refused and InputError at the field.
    """
    kind = kind_of(said.kind) if said.kind else None
    times = next_light(session, owner_id, said, now_utc) if kind is not None else None
    at = _from_now(_chosen(said, times), now_utc)
    kit = _kit(session, owner_id, said)
    point = _viewpoint(session, owner_id, said)
    head = {"viewpoint_id": point.id if point is not None else None, **kit}
    named = said.name or (kind.label if kind is not None else "New shot")
    if kind is None:
        return add_shot(session, owner_id, edit_of({"name": named, **head}))
    body = session.get(Body, kit["body_id"]) if kit["body_id"] is not None else None
    lens = session.get(Lens, kit["lens_id"]) if kit["lens_id"] is not None else None
    if body is None or lens is None:
        raise Refused("body_id" if body is None else "lens_id", "Choose a body and a lens: a usual one will do.")
    support = session.get(Support, kit["support_id"]) if kit["support_id"] is not None else None
    scene = start_scene(kind, known_body(body), known_lens(lens), known_support(support) if support else None)
    sharp, at = _elements(session, owner_id, point, scene, at)
    choices = choices_of(kind, scene, at, known_body(body), known_lens(lens))
    edit = replace(edit_of({"name": named, **head, **choices}), sharp_element_ids=sharp)
    shot = add_shot(session, owner_id, edit)
    found = found_settings(shot_facts(session, shot))
    return shot if found is None else edit_shot(session, owner_id, shot.id, _settings(found))


def _place(session: Session, owner_id: int, said: Beginning, now_utc: datetime) -> ShotFacts | None:
    if said.viewpoint_id is not None:
        return facts_at_viewpoint(session, owner_id, said.viewpoint_id, now_utc)
    return facts_at_position(session, owner_id, *said.position, now_utc) if said.position is not None else None


def _day(said: Beginning, facts: ShotFacts, now_utc: datetime) -> date | None:
    return None if not said.day else day_meant(said.day, now_utc.astimezone(facts.zone).date())


def _chosen(said: Beginning, found: LightToCome | None) -> StartTime | None:
    """Return the time that was chosen, else the next one."""
    if found is None:
        return None
    if said.start_utc is not None:
        return next((item for item in found.times if item.start_utc == said.start_utc), None) or _refuse_time()
    return found.times[0] if found.times else None


def _from_now(at: StartTime | None, now_utc: datetime) -> StartTime | None:
    """Return a time whose light has begun already as one that begins with the next minute."""
    if at is None or at.end_utc is None or at.start_utc >= now_utc:
        return at
    return replace(at, start_utc=now_utc.replace(second=0, microsecond=0) + timedelta(minutes=1))


def _refuse_time() -> StartTime:
    raise Refused("start_utc", "That time is not one of the next ones. Choose again.")


def _kit(session: Session, owner_id: int, said: Beginning) -> dict[str, int | None]:
    """Return the ids of body, lens and tripod: those said, usual pieces that are added, else the usual kit."""
    found = usual_kit(session, owner_id)
    for name, kind, piece_id in (("body_id", Body, said.body_id), ("lens_id", Lens, said.lens_id)):
        if piece_id is not None:
            with refused_at(name):
                found[name] = rows.owned(session, owner_id, kind, piece_id).id
    presets = {"body_id": said.body_preset, "lens_id": said.lens_preset, "support_id": said.support_preset}
    for name, key in presets.items():
        if key is not None and (name == "support_id" or getattr(said, name) is None):
            with refused_at(name.replace("_id", "_preset")):
                found[name] = add_preset(session, owner_id, key).id
    return found


def _viewpoint(session: Session, owner_id: int, said: Beginning) -> Viewpoint | None:
    if said.viewpoint_id is not None:
        with refused_at("viewpoint_id"):
            return rows.viewpoint(session, owner_id, said.viewpoint_id)
    if said.position is None:
        return None
    new = NewLocation(said.position[0], said.position[1], said.place_name)
    return add_location(session, owner_id, new).viewpoints[0]


def _elements(
    session: Session, owner_id: int, point: Viewpoint | None, scene: StartScene, at: StartTime | None
) -> tuple[tuple[int, ...] | None, StartTime | None]:
    """Add the scene to the viewpoint, or take what stands there; return the ids of what must be sharp, and the time
    with the bearing to look at.
    """
    if point is None:
        return None, at
    if point.elements:
        first = point.elements[0]
        return tuple(item.id for item in point.elements), at and replace(at, bearing_deg=first.bearing_deg)
    bearing = at.bearing_deg if at is not None else 0.0
    added = [
        (part, viewpoints.add_element(session, owner_id, point.id, ElementEdit(_columns(part, bearing))))
        for part in scene.parts
    ]
    return tuple(row.id for part, row in added if part.sharp), at


def _columns(part: ScenePart, bearing_deg: float) -> dict[str, object]:
    return {
        "name": part.name,
        "shape": part.shape,
        "bearing_deg": (bearing_deg + part.aside_deg) % 360,
        "distance_m": part.distance_m,
        "width_m": part.width_m,
        "height_m": part.height_m,
        "base_m": part.base_m,
        "speed_mps": part.speed_mps,
        "material": part.material,
        "moving": part.moving,
    }


def _settings(found: FoundSettings) -> ShotEdit:
    on = tuple(FilterUse(item.id, True, item.on_when_metered, item.set_stops) for item in found.filters)
    return replace(edit_of(found.choices), filters=on)
