"""Answers at the tripod, each by one small request."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint

from ...core.errors import InputError
from ...core.facts.shot import ShotFacts, changed
from ...core.now.answer import Answer
from ...core.now.bracket import bracket_now, is_absolute, range_ends
from ...core.now.close_up import close_up_now, parse_scale
from ...core.now.depth import depth_now
from ...core.now.light import light_now
from ...core.now.neutral_density import behind_filters
from ...core.now.stars import stars_now
from ...core.now.water import water_now
from ...core.planning.light.changing_light import ChangingLight, changing_light
from ...core.units.lengths import parse_distance_m
from ...core.units.stops import parse_each_filter_stops
from ...operations.now.bag import bag_of, body_for, filters_meant, lens_for, set_to
from ...operations.now.here import facts_at_position, facts_at_viewpoint
from ...operations.places.locations import all_locations
from ..platform.context import context
from ..platform.fields import finite_or_none
from . import schemas
from .present import answer_of, present_bands, present_begin, present_light

now = APIBlueprint("now", __name__, url_prefix="/api/now")


@now.get("")
@now.output(schemas.BeginNowOut)
def begin() -> Any:
    """What the answers begin with: the bag, and the photographer's places."""
    here = context()
    return present_begin(bag_of(here.session, here.owner_id), all_locations(here.session, here.owner_id))


@now.get("/light")
@now.input(schemas.HereQuery, location="query")
@now.output(schemas.LightNowOut)
def light(query_data: schemas.HereQuery) -> Any:
    """The light here and now: what comes next, how much there is, how fast it changes."""
    moment = datetime.now(UTC)
    facts = _here(query_data, moment)
    if facts is None:
        raise InputError("coordinates", "Give coordinates, such as 54.562 -3.072, or choose one of your places.")
    return present_light(facts, light_now(facts, moment))


@now.get("/density")
@now.input(schemas.DensityNowQuery, location="query")
@now.output(schemas.DensityNowOut)
def density(query_data: schemas.DensityNowQuery) -> Any:
    """The time behind filters."""
    here = context()
    moment = datetime.now(UTC)
    stops = _named("filters", parse_each_filter_stops, query_data.filters)
    light = _light_from(query_data, moment)
    found = behind_filters(query_data.shutter, sum(stops), query_data.film_exponent, light)
    bag = bag_of(here.session, here.owner_id)
    said = found.answer
    if query_data.shot_id is not None:
        said = replace(said, choices=found.reading(*set_to(here.session, here.owner_id, query_data.shot_id)))
    answer, meant = answer_of(said, bag), filters_meant(bag, stops)
    answer["choices"]["exposure"]["filters"] = [
        {"filter_id": item.id, "on_lens": True, "on_when_metered": False} for item in meant
    ]
    return schemas.DensityNowOut(**answer, open_s=finite_or_none(found.open_s))


@now.get("/depth")
@now.input(schemas.DepthNowQuery, location="query")
@now.output(schemas.DepthNowOut)
def depth(query_data: schemas.DepthNowQuery) -> Any:
    """Where to focus for a range that must be sharp."""
    here = context()
    body = body_for(here.session, here.owner_id, query_data.body_id, query_data.sensor)
    far_m = _named("far", parse_distance_m, query_data.far)
    found = depth_now(query_data.focal_mm, query_data.f_number, query_data.near_m, far_m, body)
    return schemas.DepthNowOut(
        **_kept(found.answer, query_data),
        near_m=found.near_m,
        far_m=finite_or_none(found.far_m),
        sharp_from_m=found.sharp_m[0],
        sharp_to_m=finite_or_none(found.sharp_m[1]),
        focus_m=list(found.focus_m),
        sharp=found.sharp,
    )


@now.get("/close-up")
@now.input(schemas.CloseUpNowQuery, location="query")
@now.output(schemas.AnswerNowOut)
def close_up(query_data: schemas.CloseUpNowQuery) -> Any:
    """Depth per frame and the frames of a close-up."""
    here = context()
    magnification, field_mm = _named("scale", parse_scale, query_data.scale)
    found = close_up_now(
        magnification=magnification,
        field_mm=field_mm,
        depth_mm=query_data.depth_mm,
        f_number=query_data.f_number,
        body=body_for(here.session, here.owner_id, query_data.body_id, query_data.sensor),
        lens=lens_for(here.session, here.owner_id, query_data.lens_id),
        focal_mm=query_data.focal_mm,
    )
    return schemas.AnswerNowOut(**_kept(found.answer, query_data))


@now.get("/bracket")
@now.input(schemas.BracketNowQuery, location="query")
@now.output(schemas.AnswerNowOut)
def bracket(query_data: schemas.BracketNowQuery) -> Any:
    """How many frames hold a range that was read."""
    context()
    texts = (query_data.darkest, query_data.brightest)
    darkest, brightest = range_ends(*texts)
    if brightest < darkest:
        raise InputError("brightest", "The brightest reading is darker than the darkest. Give it the shorter time.")
    found = bracket_now(darkest, brightest, query_data.holds, query_data.step_ev, is_absolute(*texts))
    return schemas.AnswerNowOut(**answer_of(found.answer))


@now.get("/water")
@now.input(schemas.WaterNowQuery, location="query")
@now.output(schemas.WaterNowOut)
def water(query_data: schemas.WaterNowQuery) -> Any:
    """Shutter times for the looks of water."""
    here = context()
    body = body_for(here.session, here.owner_id, query_data.body_id, query_data.sensor)
    found = water_now(query_data.seen, query_data.distance_m, query_data.focal_mm, body, query_data.speed_mps)
    return schemas.WaterNowOut(**_kept(found.answer(query_data.look), query_data), bands=present_bands(found.bands))


@now.get("/stars")
@now.input(schemas.StarsNowQuery, location="query")
@now.output(schemas.AnswerNowOut)
def stars(query_data: schemas.StarsNowQuery) -> Any:
    """How long stars stay points."""
    here = context()
    body = body_for(here.session, here.owner_id, query_data.body_id, query_data.sensor)
    return schemas.AnswerNowOut(**_kept(stars_now(query_data.focal_mm, query_data.f_number, body).answer, query_data))


def _kept(answer: Answer, query: schemas.OfBody) -> dict[str, Any]:
    """Return an answer's values, with the body it was asked for and the lens of the bag that fits."""
    here = context()
    return answer_of(answer, bag_of(here.session, here.owner_id), query.body_id)


def _here(query: schemas.HereQuery, moment: datetime) -> ShotFacts | None:
    here = context()
    if query.viewpoint_id is not None:
        return facts_at_viewpoint(here.session, here.owner_id, query.viewpoint_id, moment)
    return None if query.coordinates is None else facts_at_position(
        here.session, here.owner_id, *query.coordinates, moment
    )  # fmt: skip


def _light_from(query: schemas.HereQuery, moment: datetime) -> ChangingLight | None:
    """Return the light from now on, where a place is given."""
    facts = _here(query, moment)
    if facts is None:
        return None
    return changing_light(changed(facts, date_local=moment.astimezone(facts.zone).date(), time_utc=moment))


def _named(field: str, parse: Any, text: str) -> Any:
    """Return a parsed text; what cannot be read is refused at its field."""
    try:
        return parse(text)
    except InputError as error:
        raise InputError(field, error.message) from None
