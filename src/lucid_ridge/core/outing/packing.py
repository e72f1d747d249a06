"""What an outing needs in the bag: from its shots' kit, the light, the weather and the places.

Sources: common practice of walkers and photographers; wind chill as in weather/chill.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from typing import Protocol

from ..facts.filters import Mount
from ..facts.outing import Outing, StopKind
from ..facts.place import HazardKind
from ..planning.plan.shot_plan import ShotPlan
from ..units.spelling import percent
from ..weather.forecast import ForecastHour, wind_chill_c
from .plan import OutingPlan
from .stop_facts import StopFacts


class Add(Protocol):
    def __call__(self, group: str, name: str, why: str, key: str = "") -> None: ...


_COLD_C, _WET_MM_PER_H = 5.0, 0.2


@dataclass(frozen=True)
class Item:
    """key: stays the same while the item is the same, so that a tick stays with it.

    why: for which stops, or what it is for.
    """

    key: str
    group: str
    name: str
    why: str


def packing_list(
    outing: Outing,
    plan: OutingPlan,
    stops: Sequence[StopFacts],
    plans: Sequence[ShotPlan | None],
    own: Sequence[str] = (),
) -> tuple[Item, ...]:
    """Return the packing list in groups, each item once.

    plans: of the shots, None of other stops. own: the photographer's own items.
    """
    taken = [at for at in plan.order if stops[at].said.kind == StopKind.SHOT]
    found: dict[str, Item] = {}

    def add(group: str, name: str, why: str, key: str = "") -> None:
        key = key or f"{group}:{name}"
        old = found.get(key)
        if old is None:
            found[key] = Item(key, group, name, why)
        elif why and why not in old.why.split(", "):
            found[key] = Item(key, group, name, f"{old.why}, {why}" if old.why else why)

    for at in taken:
        _kit(add, stops[at])
    _stores(add, stops, plans, taken)
    simulated = any(item.facts and item.facts.forecast and item.facts.forecast.simulated for item in stops)
    _weather(add, [hour for at in plan.order if (hour := _hour(stops[at], plan, at)) is not None], simulated)
    if any(part.dark for part in plan.parts):
        add("to get there", "head torch with spare battery", "ways in the dark")
    for at in plan.order:
        _place(add, stops[at])
    if (
        plan.back_utc is not None
        and plan.leave_utc is not None
        and (plan.back_utc - plan.leave_utc).total_seconds() > 4 * 3600
    ):
        add("for oneself", "food and water", "out for hours")
    add(
        "for oneself",
        "telephone, charged",
        f"word left with {outing.contact}" if outing.contact else "leave word with someone",
    )
    for name in own:
        add("my own", name, "", f"own:{name}")
    return tuple(found.values())


def _kit(add: Add, item: StopFacts) -> None:
    facts = item.facts
    if facts is None:
        return
    if facts.body is not None:
        add("camera", facts.body.name, item.name, f"body:{facts.body.id}")
    if facts.lens is not None:
        add("camera", facts.lens.name, item.name, f"lens:{facts.lens.id}")
    for piece in facts.accessories:
        add("camera", piece.name, item.name, f"accessory:{piece.id}")
    if facts.support is not None:
        add("camera", facts.support.name, item.name, f"support:{facts.support.id}")
    grouped = {filter_id for group in facts.frame_groups for filter_id in group.filter_ids}
    for glass in facts.filters:
        if glass.on_lens or glass.on_when_metered or glass.id in grouped:
            add("filters", glass.name, item.name, f"filter:{glass.id}")
            if glass.mount == Mount.PLATE:
                thread = facts.lens.filter_thread_mm if facts.lens is not None else None
                add("filters", f"holder and adapter ring{f' for {thread:g} mm' if thread else ''}", item.name)
            if glass.kind.lengthens_exposure and glass.stops >= 6:
                add("filters", "cover for the viewfinder, cloth for the glass", item.name, "filters:cover")
    if facts.scouted is not None and facts.scouted.bring:
        add("to get there", facts.scouted.bring, f"noted at {item.name}")


def _stores(add: Add, stops: Sequence[StopFacts], plans: Sequence[ShotPlan | None], taken: Sequence[int]) -> None:
    """Add batteries and cards for all the frames of a body together."""
    shares: dict[int, list[float]] = {}
    bodies = {}
    for at in taken:
        facts, made = stops[at].facts, plans[at]
        supplies = made.sequence.supplies if made is not None else None
        if facts is None or facts.body is None or supplies is None:
            continue
        bodies[facts.body.id] = facts.body
        sums = shares.setdefault(facts.body.id, [0.0, 0.0])
        sums[0] += (supplies.battery_share or 0.0) * facts.body.batteries
        sums[1] += supplies.card_share or 0.0
    for body_id, (batteries, cards) in shares.items():
        body = bodies[body_id]
        need = max(1, math.ceil(batteries * 1.2 + 1e-9)) + 1
        add(
            "power and cards",
            f"{need} batteries for the {body.name}, charged",
            f"the frames take {batteries:.1f}, one more as a reserve",
            f"battery:{body_id}",
        )
        add(
            "power and cards",
            f"{max(1, math.ceil(cards * 1.2))} card{'s' if cards * 1.2 > 1 else ''} for the {body.name}, empty",
            f"the frames fill {percent(cards)} of one",
            f"card:{body_id}",
        )


def _hour(item: StopFacts, plan: OutingPlan, at: int) -> ForecastHour | None:
    facts = item.facts
    visit = next((visit for visit in plan.visits if visit.stop.at == at), None)
    if facts is None or facts.forecast is None or visit is None:
        return None
    return facts.forecast.at(plan.start_utc + timedelta(seconds=visit.begin_s))


def _weather(add: Add, hours: Sequence[ForecastHour], simulated: bool) -> None:
    if not hours:
        return
    so = " (simulated)" if simulated else ""
    coldest = min(
        chill if (chill := wind_chill_c(hour.temperature_c, hour.wind_mps)) is not None else hour.temperature_c
        for hour in hours
    )
    if coldest < _COLD_C:
        add("for oneself", "warm layers, hat, gloves one can work in", f"feels like {coldest:.0f} °C{so}")
    wettest = max(hour.rain_mm for hour in hours)
    if wettest >= _WET_MM_PER_H:
        add("for oneself", "waterproofs, a cover for the camera, dry cloths", f"rain of {wettest:.1f} mm an hour{so}")


def _place(add: Add, item: StopFacts) -> None:
    facts = item.facts
    if facts is None:
        return
    if any(hazard.kind == HazardKind.TIDE for hazard in facts.hazards) or (
        facts.location is not None and facts.location.tide is not None
    ):
        add("to get there", "official tide table, and a watch", item.name)
    if facts.access is not None and facts.access.notes:
        add("to get there", "permits and keys as noted", item.name)
