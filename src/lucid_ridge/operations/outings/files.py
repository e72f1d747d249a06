"""Writes an outing as files: calendar, route, JSON."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, time, timedelta

from ...core.facts.outing import StopKind
from ...core.outing.plan import OutingPlan
from ...core.spans.instants import zone_info
from ...formats.calendar import CalendarEntry, write_calendar
from ...formats.json_values import JsonObject
from ...formats.outings import RoutePoint, write_outing_json, write_route
from .outings import OutingView

# Time for packing, on the evening before (common practice).
_PACKING_CLOCK = time(19)


def outing_file(ending: str, seen: OutingView, now_utc: datetime) -> bytes:
    """Return an outing as ics, gpx or json."""
    if ending == "ics":
        return write_calendar(_entries(seen), now_utc)
    if ending == "gpx":
        return write_route(seen.row.name, _points(seen))
    return write_outing_json(_content(seen))


def _at(seen: OutingView, seconds: float) -> datetime:
    return seen.plan.start_utc + timedelta(seconds=seconds)


def _entries(seen: OutingView) -> list[CalendarEntry]:
    """Return an entry for each stop, with an alarm for leaving home before the first and for the way before the
    others.

    An entry on the evening before is for packing and charging.
    """
    found = [_evening_before(seen)] if seen.plan.visits else []
    for visit in seen.plan.visits:
        item = seen.stops[visit.stop.at]
        here = item.facts.location if item.facts is not None else None
        row = seen.row.stops[visit.stop.at]
        leave = _at(seen, visit.out_s)
        ready = _at(seen, visit.begin_s)
        found.append(
            CalendarEntry(
                uid=f"outing-{seen.row.id}-{row.id}@lucid-ridge",
                title=f"{seen.row.name}: {item.name}",
                start_utc=ready,
                end_utc=_at(seen, visit.leave_s),
                place=here.name if here else "",
                latitude_deg=here.latitude_deg if here else None,
                longitude_deg=here.longitude_deg if here else None,
                notes=row.note,
                leave_utc=leave,
                rings="" if not found[1:] else f"Set off for {item.name}",
            )
        )
    return [*found, *_decisions(seen)]


def _decisions(seen: OutingView) -> list[CalendarEntry]:
    """Return an entry for each moment at which plan B is decided, with its rule. A stop that is left out has none."""
    found = []
    for item in seen.plans_b:
        if item.decided_utc is None or item.plan is None:
            continue
        name, row = seen.stops[item.at].name, seen.row.stops[item.at]
        found.append(
            CalendarEntry(
                f"outing-{seen.row.id}-{row.id}-b@lucid-ridge",
                f"{seen.row.name}: {name}, or plan B?",
                item.decided_utc,
                item.decided_utc + timedelta(minutes=5),
                "",
                notes=item.trigger.text,
                leave_utc=item.decided_utc,
                rings=f"Decide: {name}, or {item.name}",
            )
        )
    return found


def _evening_before(seen: OutingView) -> CalendarEntry:
    evening = datetime.combine(seen.row.date_local - timedelta(days=1), _PACKING_CLOCK, zone_info(seen.plan.zone))
    left = "\n".join(item.name for item in seen.packing if item.key not in seen.row.packed)
    return CalendarEntry(
        f"outing-{seen.row.id}-pack@lucid-ridge",
        f"Pack and charge: {seen.row.name}",
        evening,
        evening + timedelta(minutes=30),
        "",
        notes=left,
        leave_utc=evening,
        rings=f"Pack and charge for {seen.row.name}",
    )


def _points(seen: OutingView) -> list[RoutePoint]:
    found = []
    for visit in seen.plan.visits:
        item = seen.stops[visit.stop.at]
        here = item.facts.location if item.facts is not None else None
        if here is not None:
            note = f"begins {_at(seen, visit.begin_s):%Y-%m-%d %H:%M} UTC"
            found.append(
                RoutePoint(
                    item.name, here.latitude_deg, here.longitude_deg, here.elevation_m, _at(seen, visit.begin_s), note
                )
            )
    return found


def _stops_by(plan: OutingPlan, names: Sequence[str]) -> list[dict[str, str]]:
    """Return when each stop of a plan is visited."""
    return [
        {
            "name": names[visit.stop.at],
            **{
                f"{word}_utc": (plan.start_utc + timedelta(seconds=seconds)).isoformat()
                for word, seconds in (("arrive", visit.arrive_s), ("begin", visit.begin_s), ("leave", visit.leave_s))
            },
        }
        for visit in plan.visits
    ]


def _content(seen: OutingView) -> JsonObject:
    plan = seen.plan
    return {
        "name": seen.row.name,
        "date": seen.row.date_local.isoformat(),
        "zone": plan.zone,
        "leave_utc": plan.leave_utc.isoformat() if plan.leave_utc else None,
        "back_utc": plan.back_utc.isoformat() if plan.back_utc else None,
        "walk_m": round(plan.walk_m),
        "stops": [
            {**times, "kind": seen.stops[visit.stop.at].said.kind}
            for times, visit in zip(_stops_by(plan, [stop.name for stop in seen.stops]), plan.visits, strict=True)
        ],
        "plans_b": [
            {
                "instead_of": seen.stops[item.at].name,
                "name": item.name,
                "trigger": item.trigger.text,
                "decided_utc": item.decided_utc.isoformat() if item.decided_utc else None,
                "stops": _stops_by(
                    item.plan, [item.name if at == item.at else stop.name for at, stop in enumerate(seen.stops)]
                )
                if item.plan
                else [],
                "back_utc": item.plan.back_utc.isoformat() if item.plan and item.plan.back_utc else None,
                "minded": [reason.text for reason in item.minded],
            }
            for item in seen.plans_b
        ],
        "left_out": [seen.stops[at].name for at in plan.left],
        "parts": [
            {
                "kind": part.kind,
                "start_utc": part.span.start_utc.isoformat(),
                "end_utc": part.span.end_utc.isoformat(),
                "dark": part.dark,
                "estimated": part.estimated,
            }
            for part in plan.parts
        ],
        "packing": [
            {"group": item.group, "name": item.name, "why": item.why, "packed": item.key in seen.row.packed}
            for item in seen.packing
        ],
        "rests": sum(item.said.kind == StopKind.REST for item in seen.stops),
    }
