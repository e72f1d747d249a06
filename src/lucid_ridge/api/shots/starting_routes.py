"""A new shot from a kind of picture."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint

from ...core.labels import label_of
from ...core.starting.catalogue import KINDS, kind_of
from ...core.starting.suited import usual_lens
from ...core.starting.when import StartTime
from ...core.units.spelling import format_day
from ...operations.now.starting import Beginning, LightToCome, begin_shot, next_light, suited_lenses
from ...operations.shots.view import view_shot
from ..platform.context import context
from .present.shots import present_shot
from .schemas import starting as schemas
from .schemas.shots import ShotOut

starting = APIBlueprint("starting", __name__, url_prefix="/api/starting")


@starting.get("/kinds")
@starting.output(schemas.PictureKindsOut)
def kinds() -> Any:
    """The kinds of picture that a shot can begin with, each with a lens that suits it."""
    here = context()
    suited = suited_lenses(here.session, here.owner_id)
    return schemas.PictureKindsOut(
        kinds=[
            schemas.PictureKindOut(
                key=kind.key,
                label=kind.label,
                words=kind.words,
                lens_id=suited[kind.key],
                lens_preset=usual_lens(kind),
            )
            for kind in KINDS
        ]
    )


@starting.get("/light")
@starting.input(schemas.StartLightQuery, location="query")
@starting.output(schemas.StartLightOut)
def light(query_data: schemas.StartLightQuery) -> Any:
    """When the light of a kind comes at a place, the soonest first."""
    here = context()
    said = Beginning(
        kind=query_data.kind,
        viewpoint_id=query_data.viewpoint_id,
        position=query_data.coordinates,
        day=query_data.day,
    )
    found = next_light(here.session, here.owner_id, said, datetime.now(UTC))
    if found is None:
        return schemas.StartLightOut(place="", times=[], words="Choose a place, and the times appear here.")
    return _present(query_data.kind, found)


def _present(key: str, found: LightToCome) -> schemas.StartLightOut:
    place, kind = found.facts.location, kind_of(key)
    assert place is not None
    wanted = label_of(kind.light) if kind.light is not None else "light at noon"
    return schemas.StartLightOut(
        place=place.name,
        times=[
            schemas.StartTimeOut(start_utc=item.start_utc, date_local=item.date_local, words=_words(found, item))
            for item in found.times
        ],
        words=wanted if found.times else f"There is no {wanted} here within 60 days.",
    )


def _words(found: LightToCome, item: StartTime) -> str:
    facts = found.facts.choosing(date_local=item.date_local)
    day = format_day(item.date_local, weekday=True, year=False)
    end = "" if item.end_utc is None else f" to {facts.clock(item.end_utc)}"
    return f"{day}, {facts.clock(item.start_utc)}{end}"


@starting.post("/shots")
@starting.input(schemas.StartIn, location="json")
@starting.output(ShotOut, status_code=201)
def begin(json_data: schemas.StartIn) -> Any:
    """Create a shot of a kind of picture, planned with its scene, time and settings."""
    here = context()
    values = json_data.model_dump(exclude={"coordinates"})
    said = Beginning(**values, position=json_data.coordinates)
    return present_shot(
        view_shot(here.session, here.owner_id, begin_shot(here.session, here.owner_id, said, datetime.now(UTC)))
    )
