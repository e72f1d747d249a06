"""Run sheets: everything the field runner needs to work through a plan offline, with tables for late starts and other
changes.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict
from datetime import datetime, timedelta

from ...core.facts.shot import ShotFacts
from ...core.field.before import checks_before, focus_checks, framing_words
from ...core.field.recorded import recorded_plan
from ...core.field.run_sheet import last_actions, run_frames
from ...core.field.tables import Changed, Tables, meter, tables_of
from ...core.labels import label_of
from ...core.planning.light.promise import promise_of_light
from ...core.planning.plan.shot_plan import ShotPlan
from ...core.spans.instants import unix_seconds
from ...core.tides.heights import tide_events
from ...core.units.lengths import format_distance, format_height
from ...formats.json_values import JsonObject

RUN_VERSION = 1
_TIDE_STEP_MIN = 15
# The span of the tide that is included, before the start and after the end of the frames.
_TIDE_AROUND = timedelta(hours=4)


def run_sheet(
    facts: ShotFacts, plan: ShotPlan, name: str, shot_id: int, weights: Mapping[str, float]
) -> dict[str, object]:
    """Return the run sheet of a plan with frames. weights: of the promise."""
    frames = run_frames(facts, plan)
    start, light = facts.light.time_utc, plan.light
    sequence = plan.sequence
    return {
        "version": RUN_VERSION,
        "shot_id": shot_id,
        "name": name,
        "place": ", ".join(
            item for item in (facts.location.name if facts.location else None, facts.viewpoint_name) if item
        ),
        "date": facts.light.date_local.isoformat() if facts.light.date_local else None,
        "start_utc": _instant(start),
        "start_clock": facts.clock(start) if start else None,
        "light_ends_utc": _instant(light.window_end_utc),
        "light_ends_clock": facts.clock(light.window_end_utc) if light.window_end_utc else None,
        "light_name": label_of(light.ends_name),
        "lasts_s": sequence.total_s,
        "aim": framing_words(facts, plan.frame),
        "predicted": plan.exposure.predicted,
        "frames": [asdict(frame) for frame in frames],
        "last_actions": list(last_actions(frames)),
        "groups": [{"at": at, "name": sequence.groups[at].group.called} for at in sequence.order],
        "tide": _tide(facts, sequence.total_s or 0.0),
        "before": [asdict(item) for item in checks_before(facts, plan)],
        "checks": [asdict(item) for item in focus_checks(plan)],
        "cautions": [reason.text for reason in plan.because if reason.severity == "caution"],
        "warnings": [
            reason.text
            for reason in plan.because
            if reason.severity in ("fails", "tight") and reason.step in ("depth", "exposure", "sequence")
        ],
        "filters": _filters(facts),
        "elements": [
            {"id": item.id, "name": item.name, "distance": format_distance(item.distance_m)} for item in facts.elements
        ],
        "meter": asdict(meter()),
        "tables": _tables(tables_of(facts, plan)),
        # Not shown, but compared with the pictures taken.
        "record": asdict(recorded_plan(facts, plan, promise_of_light(facts, plan.light, weights))),
    }


def _instant(moment: datetime | None) -> str | None:
    return moment.isoformat() if moment is not None else None


def _filters(facts: ShotFacts) -> list[JsonObject]:
    grouped = {filter_id for group in facts.frame_groups for filter_id in group.filter_ids}
    return [
        {"id": item.id, "name": item.name, "cost": "" if item.kind.graduates else f"{item.stops:g} stops"}
        for item in facts.filters
        if item.on_lens or item.id in grouped
    ]


def _tide(facts: ShotFacts, lasts_s: float) -> JsonObject | None:
    """Return the tide around the frames, and when it turns; None if it is not known."""
    tide, start = facts.location.tide if facts.location else None, facts.light.time_utc
    if tide is None or start is None:
        return None
    first, last = start - _TIDE_AROUND, start + timedelta(seconds=lasts_s) + _TIDE_AROUND
    if not tide.covers(first, last):
        return None
    steps = int((last - first) / timedelta(minutes=_TIDE_STEP_MIN)) + 1
    moments = [first + step * timedelta(minutes=_TIDE_STEP_MIN) for step in range(steps)]
    return {
        "name": tide.name,
        "points": [
            {"at_utc": _instant(item), "height_m": round(float(tide.height_m(float(unix_seconds(item)))), 2)}
            for item in moments
        ],
        "turns": [
            {
                "kind": item.kind,
                "at_utc": _instant(item.time_utc),
                "clock": facts.clock(item.time_utc),
                "height": format_height(item.height_m),
            }
            for item in tide_events(tide, first, last)
        ],
    }


def _tables(tables: Tables) -> JsonObject:
    return {
        "planned_ev100": tables.planned_ev100,
        "readings": [
            {"missing": sorted(missing), "rows": [{"ev100": row.ev100, **_changed(row.plan)} for row in rows]}
            for missing, rows in tables.readings
        ],
        "delays": [
            {"minutes": row.minutes, "ends": row.ends, "apart_stops": row.apart_stops, **_changed(row.plan)}
            for row in tables.delays
        ],
        "ends": tables.ends,
    }


def _changed(plan: Changed) -> JsonObject:
    # Most frames of a row are alike, so each setting is listed once and frames refer to it by number.
    sets = list(dict.fromkeys(plan.frames.values()))
    return {
        "sets": [asdict(item) for item in sets],
        "frames": {key: sets.index(value) for key, value in plan.frames.items()},
        "more": plan.more, "mark": plan.mark, "words": plan.words,
    }  # fmt: skip
