"""The demo's outings: one at dawn, one in the evening."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, time

from ..core.facts.outing import StopKind
from ..store.outings import Outing, OutingStop
from ..store.places import Location
from ..store.shots import Shot


def demo_outings(owner_id: int, shots: Mapping[str, Shot], places: Mapping[str, Location]) -> list[Outing]:
    """Return new outings of the demo's shots by their names."""
    dawn = _day(shots["Brown water over the sill"])
    evening = _day(shots["Layered riggs"])
    return [
        Outing(
            owner_id=owner_id,
            name="Bog at first light, then the sill",
            date_local=dawn,
            contact="the neighbour at number four",
            note="Boots for the boards; no step off them.",
            own_items=["flask of tea"],
            stops=_listed(
                OutingStop(shot_id=shots["Lacewing asleep on a rush"].id, worth=1.5),
                OutingStop(shot_id=shots["Sundew after rain"].id),
                OutingStop(shot_id=shots["Brown water over the sill"].id),
                OutingStop(kind=StopKind.REST, note="Breakfast by the sill", minutes=30, after_clock=time(9)),
                OutingStop(
                    kind=StopKind.SCOUTING,
                    location_id=places["tarn"].id,
                    minutes=40,
                    note="From where does the boulder stand before the notch?",
                ),
            ),
        ),
        Outing(
            owner_id=owner_id,
            name="Lichen at noon, riggs at dusk",
            date_local=evening,
            back_clock=time(20),
            contact="the neighbour at number four",
            stops=_listed(
                OutingStop(shot_id=shots["Lichen map"].id, leg_min=30),
                OutingStop(kind=StopKind.REST, note="Soup in the car", minutes=40, after_clock=time(12)),
                OutingStop(shot_id=shots["Layered riggs"].id, worth=1.5),
            ),
        ),
    ]


def _day(shot: Shot) -> date:
    assert shot.light.date_local is not None
    return shot.light.date_local


def _listed(*stops: OutingStop) -> list[OutingStop]:
    for position, stop in enumerate(stops, start=1):
        stop.position = position
    return list(stops)
