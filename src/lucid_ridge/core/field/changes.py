"""Conditions that differ from the plan: the same facts with the values found, for the same rules."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import timedelta

from ..errors import InputError
from ..exposure.ev import ev100, shutter_for_ev_s
from ..exposure.ledger import ExposureReading
from ..facts.place import Element
from ..facts.settings import settings_of
from ..facts.shot import ShotFacts
from ..planning.exposure.exposures import metered_reading, scene_ev100, through_stops
from ..planning.exposure.reading_in_force import at_another_time, reading_in_force
from .events import EventKind, FieldEvent, standing


@dataclass(frozen=True, kw_only=True)
class Difference:
    """What was found.

    later_min: by how much all that is left begins later. reading: of the light, with no filter on; read_after_min: how
    much of the delay was known when it was taken, so that it is carried along by the rest. missing_filter_ids: not in
    the bag after all.

    wind_mps: as it blows; gusts are taken to be half as much again where gust_mps is not said. element_id, distance_m:
    how far something stands from the viewpoint.
    """

    later_min: float = 0.0
    reading: ExposureReading | None = None
    read_after_min: float = 0.0
    missing_filter_ids: frozenset[int] = frozenset()
    wind_mps: float | None = None
    gust_mps: float | None = None
    element_id: int | None = None
    distance_m: float | None = None


# Over the land gusts blow about half as much again as the mean wind (common practice).
GUST_FACTOR = 1.5


def difference_of(events: Iterable[FieldEvent]) -> Difference:
    """Return the combined changes from the events: newest reading, wind and distance, total delay, all missing
    filters.
    """
    told = standing(events)
    late = [event for event in told if event.kind == EventKind.LATE]
    reading = _newest(told, EventKind.READING)
    wind, stands = _newest(told, EventKind.WIND), _newest(told, EventKind.STANDS_AT)
    read = None
    if reading is not None and reading.f_number and reading.shutter_s and reading.iso:
        read = ExposureReading(reading.f_number, reading.shutter_s, reading.iso)
    return Difference(
        later_min=sum(event.value or 0.0 for event in late),
        reading=read,
        read_after_min=sum(
            event.value or 0.0 for event in late if reading is not None and event.at_utc <= reading.at_utc
        ),
        missing_filter_ids=frozenset(
            int(event.value) for event in told if event.kind == EventKind.FILTER_MISSING and event.value is not None
        ),
        wind_mps=wind.value if wind is not None else None,
        element_id=int(stands.text) if stands is not None and stands.text.isdecimal() else None,
        distance_m=stands.value if stands is not None else None,
    )


def _newest(events: Sequence[FieldEvent], kind: EventKind) -> FieldEvent | None:
    return next((event for event in reversed(events) if event.kind == kind), None)


def as_found(facts: ShotFacts, found: Difference) -> ShotFacts:
    """Return the facts with the values found instead of the planned ones.

    Raises InputError for a wind without a forecast: no rule would use it.
    """
    if found.wind_mps is not None and facts.forecast is None:
        raise InputError("wind_mps", "No forecast is kept for this day, and without one no rule asks for the wind.")
    changed = facts
    if found.reading is not None:
        changed = with_reading(_later(changed, found.read_after_min), found.reading)
        changed = _later(changed, found.later_min - found.read_after_min)
    else:
        changed = _later(changed, found.later_min)
    if found.missing_filter_ids:
        changed = without_filters(changed, found.missing_filter_ids)
    if found.wind_mps is not None:
        changed = _windy(changed, found.wind_mps, found.gust_mps or found.wind_mps * GUST_FACTOR)
    if found.element_id is not None and found.distance_m is not None:
        changed = replace(changed, elements=_standing_at(changed.elements, found.element_id, found.distance_m))
    return changed


def with_reading(facts: ShotFacts, reading: ExposureReading) -> ShotFacts:
    """Return the facts with another reading of the light, taken with no filter on; readings of highlight and shadow go
    with it.
    """
    facts = reading_in_force(facts) if facts.read_elsewhere else facts
    before = metered_ev100(facts)
    shift = float(ev100(reading.f_number, reading.shutter_s, reading.iso)) - before if before is not None else 0.0
    counted = [item for item in facts.filters if item.on_when_metered] if before is not None else []
    even = through_stops(facts, metered=before is not None)
    said = facts.exposure
    highlight, shadow = said.highlight_ev, said.shadow_ev
    if highlight is not None:
        highlight += shift + even + sum(item.stops for item in counted if item.kind.graduates)
    if shadow is not None:
        shadow += shift + even
    return replace(
        facts,
        filters=tuple(replace(item, on_when_metered=False) for item in facts.filters),
        spots=tuple(replace(item, ev100=item.ev100 + shift) for item in facts.spots),
    ).choosing(
        metered_f_number=reading.f_number, metered_shutter_s=reading.shutter_s, metered_iso=reading.iso,
        metered_through_lens=reading.through_lens, highlight_ev=highlight, shadow_ev=shadow,
        metered_at_utc=facts.light.time_utc, range_read_at_utc=facts.light.time_utc,
    )  # fmt: skip


def metered_ev100(facts: ShotFacts) -> float | None:
    """Return the EV at ISO 100 of the reading that was metered, filters that were on counted back; None without one."""
    metered = metered_reading(facts)
    return scene_ev100(facts, metered) if metered is not None else None


def reading_at(facts: ShotFacts, scene_ev100: float) -> ExposureReading | None:
    """Return the reading at the shot's own settings that says a scene is so bright; None while body or lens is
    missing.
    """
    settings = settings_of(facts)
    if settings is None:
        return None
    shutter = float(shutter_for_ev_s(scene_ev100, settings.f_number, settings.iso))
    return ExposureReading(settings.f_number, shutter, settings.iso, through_lens=facts.exposure.metered_through_lens)


def without_filters(facts: ShotFacts, missing: frozenset[int]) -> ShotFacts:
    """Return the facts with filters gone from the lens, from the bag and from every group of frames."""
    groups = tuple(
        replace(group, filter_ids=tuple(item for item in group.filter_ids if item not in missing))
        for group in facts.frame_groups
    )
    return replace(facts, filters=tuple(item for item in facts.filters if item.id not in missing), frame_groups=groups)


def _later(facts: ShotFacts, minutes: float) -> ShotFacts:
    """Return the facts for a later start, with the reading as it stands then."""
    if facts.light.time_utc is None or not minutes:
        return facts
    return at_another_time(facts, facts.light.time_utc + timedelta(minutes=minutes))


def _windy(facts: ShotFacts, wind_mps: float, gust_mps: float) -> ShotFacts:
    """Return the facts with another wind in every hour that is forecast."""
    assert facts.forecast is not None
    hours = tuple(replace(hour, wind_mps=wind_mps, gust_mps=max(wind_mps, gust_mps)) for hour in facts.forecast.hours)
    return replace(facts, forecast=replace(facts.forecast, hours=hours))


def _standing_at(elements: Sequence[Element], element_id: int, distance_m: float) -> tuple[Element, ...]:
    return tuple(replace(item, distance_m=distance_m) if item.id == element_id else item for item in elements)
