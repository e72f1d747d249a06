"""Answers at the tripod as response bodies."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import datetime
from typing import Any

from ...core.facts.choices import group_of
from ...core.facts.shot import ShotFacts
from ...core.labels import label_of
from ...core.now.answer import Answer
from ...core.now.formats import FORMATS
from ...core.now.light import CURVE_STEP_S, WORDS, Coming, LightNow
from ...core.planning.exposure.water import LookBand
from ...core.units.lengths import format_distance
from ...core.units.spelling import format_clock
from ...operations.now.bag import Bag, lens_fitting
from ...store.kit import Lens
from ...store.places import Location
from . import schemas as out


def answer_of(answer: Answer, bag: Bag | None = None, body_id: int | None = None) -> dict[str, Any]:
    """Return an answer's values for a response: its choices in the groups of a shot, and the bag's lens that fits."""
    said = answer.choices
    kit: dict[str, int | None] = {} if body_id is None else {"body_id": body_id}
    if bag is not None:
        wanted = (said.get("focal_mm"), said.get("f_number"), said.get("magnification"))
        kit["lens_id"] = lens_fitting(bag, *wanted)  # type: ignore[arg-type]
    choices: dict[str, Any] = {}
    for name, value in answer.choices.items():
        choices.setdefault(group_of(name), {})[name] = value
    return {"figure": answer.figure, "words": answer.words, "notes": list(answer.notes), "choices": choices, "kit": kit}


def present_bands(bands: Sequence[LookBand]) -> list[out.LookTimesOut]:
    return [
        out.LookTimesOut(name=band.name, label=label_of(band.name), from_s=band.from_s, to_s=band.to_s)
        for band in bands
        if math.isfinite(band.to_s)
    ]


def present_light(facts: ShotFacts, found: LightNow) -> out.LightNowOut:
    """Return the light here and now, in local time."""
    place = facts.location
    assert place is not None
    step = found.step
    return out.LightNowOut(
        **answer_of(found.answer),
        place=place.name and f"{place.name}, {facts.viewpoint_name}" if facts.viewpoint_name else place.name,
        latitude_deg=place.latitude_deg,
        longitude_deg=place.longitude_deg,
        zone=found.zone,
        now_utc=found.now_utc,
        clock=found.clock(found.now_utc),
        ev100=step.ev100,
        ev_words=f"{found.changes_words}, estimated {step.ev_source}" if step.ev_source else found.changes_words,
        coming=[_coming(item, found, place.tide_simulated) for item in found.coming],
        moon_words=f"{found.moon_words}, {100 * found.moon_fraction:.0f}\u202f% lit",
        now_s=_since(found, found.now_utc),
        curve_step_s=CURVE_STEP_S,
        curve_ev100=list(found.curve_ev100),
    )


def _coming(item: Coming, found: LightNow, simulated: bool) -> out.ComingOut:
    return out.ComingOut(
        kind=item.kind,
        words=WORDS[item.kind],
        clock=format_clock(found.local(item.at_utc)),
        tomorrow=found.local(item.at_utc).date() != found.local(found.now_utc).date(),
        seconds=_since(found, item.at_utc),
        figure=None if item.height_m is None else format_distance(item.height_m) + (", simulated" if simulated else ""),
    )


def _since(found: LightNow, moment: datetime) -> float:
    return (moment - found.day_start_utc).total_seconds()


def present_begin(bag: Bag, locations: Sequence[Location]) -> out.BeginNowOut:
    """Return the values that answers begin with."""
    body = next(iter(bag.bodies), None)
    return out.BeginNowOut(
        formats=list(FORMATS),
        bodies=[out.BagPieceOut(id=item.id, name=item.name) for item in bag.bodies],
        filters=[out.BagFilterOut(id=item.id, name=item.name, stops=item.stops) for item in bag.filters],
        wide=_lens(bag.widest_lens),
        close_up=_lens(bag.close_up_lens),
        holds_stops=body.dynamic_range_stops if body else 11.0,
        step_ev=body.bracket_step_ev if body else 2.0,
        film_exponent=body.film_exponent if body else None,
        places=[
            out.OwnPlaceOut(viewpoint_id=point.id, name=f"{location.name}, {point.name}")
            for location in locations
            for point in location.viewpoints
        ],
    )


def _lens(lens: Lens | None) -> out.BagLensOut | None:
    if lens is None:
        return None
    return out.BagLensOut(id=lens.id, name=lens.name, focal_mm=lens.focal_min_mm, f_number=lens.f_number_min)
