"""The field: run sheets to take along, events, and the plan with what was found."""

from __future__ import annotations

import re
from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint
from flask import Response, current_app

from ...core.exposure.ledger import ExposureReading
from ...core.facts.log import Rated
from ...core.field.changes import Difference, difference_of
from ...core.field.events import FieldEvent
from ...operations.log import field_events as operations
from ...operations.log.entries import log_run
from ...operations.log.field_events import SentEvent
from ...operations.outings.cards import cards_of_outing, make_cards_of_outing
from ...operations.outings.outings import see_outing
from ...operations.platform.errors import Conflict, Refused
from ...operations.shots.cards import found_otherwise, get_card
from ...store.shots import FieldCard
from ..outings.present import present_outing, times_to_take_along
from ..platform.context import Context, changes_nothing, context
from ..platform.files import answers_with, file_response
from .schemas import field as schemas

PAGE = "text/html"

field = APIBlueprint("field", __name__, url_prefix="/api")


@field.get("/cards/<int:card_id>/run")
@field.output(schemas.CardRunOut)
def card_run(card_id: int) -> Any:
    """The run sheet of a field card, frame by frame."""
    here = context()
    return _card_run(here, *get_card(here.session, here.owner_id, card_id))


@field.get("/cards/<int:card_id>/taken-along")
@field.output(schemas.TakenAlongOut)
def taken_along(card_id: int) -> Any:
    """The content of the file of a card for the phone."""
    return _of_card(context(), card_id)


@field.get("/cards/<int:card_id>/take-along")
@answers_with(PAGE)
def take_along_card(card_id: int) -> Response:
    """A card as one page that works without server and network."""
    return _page(_of_card(context(), card_id))


@field.get("/outings/<int:outing_id>/take-along")
@answers_with(PAGE)
def take_along_outing(outing_id: int) -> Response:
    """An outing as one page that works without server and network, with the newest card of every shot."""
    here = context()
    seen = see_outing(here.session, here.owner_id, outing_id, datetime.now(UTC))
    times = present_outing(here.session, here.owner_id, seen)
    cards = cards_of_outing(here.session, seen)
    if not cards:
        raise Conflict("None of this outing's shots has a field card: make the cards first.")
    return _page(
        schemas.TakenAlongOut(
            name=seen.row.name,
            times=times_to_take_along(times, seen.row.date_local),
            packing=times.packing,
            cards=[_card_run(here, *card) for card in cards],
        )
    )


@field.post("/outings/<int:outing_id>/cards")
@field.output(schemas.OutingCardsOut, status_code=201)
def make_outing_cards(outing_id: int) -> Any:
    """Make the field cards of an outing's shots that are missing or outdated."""
    here = context()
    return schemas.OutingCardsOut(made=make_cards_of_outing(here.session, here.owner_id, outing_id, datetime.now(UTC)))


@field.post("/field/events")
@field.input(schemas.FieldEventsIn, location="json")
@field.output(schemas.KeptEventsOut)
def take_in(json_data: schemas.FieldEventsIn) -> Any:
    """Store events of the field. Sent twice they count once; a stored event never changes."""
    here = context()
    kept = operations.take_in(here.session, here.owner_id, [_sent(item) for item in json_data.events])
    for run_id in dict.fromkeys(item.run_id for item in json_data.events):
        log_run(here.session, here.owner_id, run_id)
    return schemas.KeptEventsOut(kept=kept)


@field.get("/field/runs/<run_id>")
@field.output(schemas.FieldEventsOut)
def run_events(run_id: str) -> Any:
    """The events of a field session, in the order in which they happened."""
    here = context()
    return {"events": operations.events_of(here.session, here.owner_id, run_id)}


@field.get("/field/events/<event_id>/image")
@answers_with("image/jpeg")
def event_image(event_id: str) -> Response:
    """The photograph of an event."""
    here = context()
    return Response(operations.image_of(here.session, here.owner_id, event_id), mimetype="image/jpeg")


@field.post("/shots/<int:shot_id>/found")
@changes_nothing
@field.input(schemas.DifferenceIn, location="json")
@field.output(schemas.RunSheetOut)
def found(shot_id: int, json_data: schemas.DifferenceIn) -> Any:
    """The frames planned with what was found; the shot does not change."""
    here = context()
    return schemas.RunSheetOut.model_validate(
        found_otherwise(here.session, here.owner_id, shot_id, _difference(json_data), json_data.card_id)
    )


def _event(item: schemas.FieldEventIn) -> FieldEvent:
    return FieldEvent(**item.model_dump(exclude={"card_id", "image"}))


def _sent(item: schemas.FieldEventIn) -> SentEvent:
    return SentEvent(_event(item), item.card_id, item.image)


def _difference(said: schemas.DifferenceIn) -> Difference:
    if said.events:
        return difference_of(_event(item) for item in said.events)
    reading = (said.f_number, said.shutter_s, said.iso)
    read = None
    if said.f_number is not None and said.shutter_s is not None and said.iso is not None:
        read = ExposureReading(said.f_number, said.shutter_s, said.iso)
    elif any(item is not None for item in reading):
        lacking = next(
            name for name, value in zip(("f_number", "shutter_s", "iso"), reading, strict=True) if value is None
        )
        raise Refused(lacking, "A reading needs aperture, shutter time and ISO.")
    if (said.element_id is None) != (said.distance_m is None):
        raise Refused(
            "distance_m" if said.distance_m is None else "element_id", "Say which element stands how far away."
        )
    return Difference(
        later_min=said.later_min,
        reading=read,
        read_after_min=said.later_min,
        missing_filter_ids=frozenset(said.missing_filter_ids),
        wind_mps=said.wind_mps,
        element_id=said.element_id,
        distance_m=said.distance_m,
    )


def _card_run(here: Context, card: FieldCard, stale: bool) -> schemas.CardRunOut:
    if card.run is None:
        raise Conflict("This card was made before frames could be worked through: make the card again.")
    return schemas.CardRunOut(
        card_id=card.id, shot_id=card.shot_id, stale=stale, sheet=schemas.RunSheetOut.model_validate(card.run),
        run_ids=operations.run_ids_of_card(here.session, here.owner_id, card.id), aspects=list(Rated),
    )  # fmt: skip


def _of_card(here: Context, card_id: int) -> schemas.TakenAlongOut:
    card = _card_run(here, *get_card(here.session, here.owner_id, card_id))
    return schemas.TakenAlongOut(name=card.sheet.name, times=[], packing=[], cards=[card])


def _page(taken: schemas.TakenAlongOut) -> Response:
    """Return the runner's page with its data embedded."""
    try:
        page = (current_app.config["WEB_DIST"] / "takealong.html").read_text(encoding="utf-8")
    except OSError as error:
        raise Conflict("The page that is taken along is not built: run ./start, which builds it.") from error
    # Escape what would end the script element.
    data = taken.model_dump_json().replace("<", "\\u003c")
    page = page.replace('id="taken-along">null<', f'id="taken-along">{data}<', 1)
    plain = re.sub(r"[^a-z0-9]+", "-", taken.name.lower()).strip("-") or "outing"
    return file_response(page.encode(), PAGE, f"{plain}.html")
