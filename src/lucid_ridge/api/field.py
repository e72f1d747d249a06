"""The field: what is taken along of a plan, what happens out there, and the plan as it is found."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from ..core.exposure.ledger import ExposureReading
from ..core.facts.log import Aspect
from ..core.field.changes import Difference
from ..core.field.events import FieldEvent
from ..operations import field as operations
from ..operations.cards import get_card
from ..operations.errors import Conflict, Refused
from ..operations.field import SentEvent
from ..operations.run_sheets import found_otherwise
from .context import changes_nothing, context
from .schemas import field as schemas

field = APIBlueprint("field", __name__, url_prefix="/api")


@field.get("/cards/<int:card_id>/run")
@field.output(schemas.CardRunOut)
def card_run(card_id: int) -> Any:
    """What is worked through of a field card, frame by frame."""
    here = context()
    card, stale = get_card(here.session, here.owner_id, card_id)
    if card.run is None:
        raise Conflict("This card was made before frames could be worked through: make the card again.")
    return schemas.CardRunOut(
        card_id=card.id, shot_id=card.shot_id, stale=stale, sheet=schemas.RunSheetOut.model_validate(card.run),
        run_ids=operations.run_ids_of_card(here.session, here.owner_id, card.id), aspects=list(Aspect),
    )  # fmt: skip


@field.post("/field/events")
@changes_nothing
@field.input(schemas.FieldEventsIn, location="json")
@field.output(schemas.KeptEventsOut)
def take_in(json_data: schemas.FieldEventsIn) -> Any:
    """Keep events of the field. Sent twice they count once; nothing that is kept is ever changed."""
    here = context()
    return schemas.KeptEventsOut(kept=operations.take_in(here.session, here.owner_id, [_sent(item) for item in json_data.events]))


@field.get("/field/runs/<run_id>")
@field.output(schemas.FieldEventsOut)
def run_events(run_id: str) -> Any:
    """The events of a time out, in the order in which they happened."""
    here = context()
    return {"events": operations.events_of(here.session, here.owner_id, run_id)}


@field.post("/shots/<int:shot_id>/found")
@changes_nothing
@field.input(schemas.DifferenceIn, location="json")
@field.output(schemas.RunSheetOut)
def found(shot_id: int, json_data: schemas.DifferenceIn) -> Any:
    """The frames as they are planned with what was found; the shot itself stays as it is."""
    here = context()
    return schemas.RunSheetOut.model_validate(found_otherwise(here.session, here.owner_id, shot_id, _difference(json_data)))


def _sent(item: schemas.FieldEventIn) -> SentEvent:
    plain = item.model_dump(exclude={"card_id", "image"})
    return SentEvent(FieldEvent(**plain), item.card_id, item.image)


def _difference(said: schemas.DifferenceIn) -> Difference:
    reading = (said.f_number, said.shutter_s, said.iso)
    given = [item for item in reading if item is not None]
    if given and len(given) < 3:
        lacking = next(name for name, value in zip(("f_number", "shutter_s", "iso"), reading, strict=True) if value is None)
        raise Refused(lacking, "A reading needs aperture, shutter time and ISO.")
    if (said.element_id is None) != (said.distance_m is None):
        raise Refused("distance_m" if said.distance_m is None else "element_id", "Say which element stands how far away.")
    return Difference(
        said.later_min, ExposureReading(*given) if given else None, frozenset(said.missing_filter_ids), said.wind_mps,
        element_id=said.element_id, distance_m=said.distance_m,
    )  # fmt: skip
