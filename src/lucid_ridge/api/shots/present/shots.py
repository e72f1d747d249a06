"""Shots and the notebook as response bodies."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, datetime
from functools import partial
from typing import Any
from zoneinfo import ZoneInfo

from ....core.facts.choices import GROUPS, ShotHead
from ....core.facts.declaring import Kind, facts_of
from ....core.facts.shot import ShotFacts
from ....core.planning.plan.dials import Detents, Dials
from ....core.planning.verdicts import Mark, StepName
from ....core.units.lengths import format_distance
from ....core.units.markings import format_aperture, format_shutter
from ....core.units.spelling import format_clock
from ....operations.notebook.pages import Entry
from ....operations.shots.facts import core_group, groups_of, spots_of, wishes_of
from ....operations.shots.view import ShotView
from ....store.shots import Shot
from ...places.present import present_viewpoint
from ...platform.shared_schemas import MarkingOut
from ...platform.undo import UndoOut
from ..schemas import shots as out
from ..schemas.framings import MiniatureOut
from ..schemas.plan import VerdictOut
from .framings import present_backdrop
from .plan import present_plan
from .sequence import present_group


def present_shot(seen: ShotView) -> out.ShotOut:
    """Return a shot with its place, its plan and what undo would do."""
    shot, facts = seen.row, seen.facts
    return out.ShotOut(
        id=shot.id,
        facts=_facts(seen),
        dials=_dials(seen.dials),
        remarks=_remarks(seen, datetime.now(facts.zone).date()),
        place=seen.keep("place", partial(_place, seen)),
        plan=present_plan(facts, seen.plan),
        card_id=seen.card_id,
        undo=UndoOut.model_validate(seen.undo),
        backdrop=present_backdrop(seen.backdrop, facts) if seen.backdrop else None,
    )


def _dials(found: Dials) -> out.DialsOut:
    def detents(dial: Detents) -> out.DetentsOut:
        marks = [MarkingOut(value=mark.value, label=mark.label) for mark in dial.marks]
        return out.DetentsOut(marks=marks, at_start=dial.at_start, at_end=dial.at_end)

    return out.DialsOut(
        apertures=detents(found.apertures),
        isos=detents(found.isos),
        focals=detents(found.focals),
        shutters=detents(found.shutters),
    )


def _remarks(seen: ShotView, today: date) -> list[out.RemarkOut]:
    """Return remarks on values that are allowed but unusual. today: at the place."""
    found = []
    on = seen.row.light.date_local
    if on is not None and on < today:
        found.append(out.RemarkOut(field="date_local", text="This date is past."))
    if seen.namesake:
        found.append(out.RemarkOut(field="name", text=f"Another shot is called “{seen.row.name}” as well."))
    return found


def present_entry(entry: Entry) -> out.ShotSummaryOut:
    """Return a line of the notebook: marks and a miniature."""
    return out.ShotSummaryOut(
        id=entry.id,
        name=entry.name,
        intent=entry.intent,
        favourite=entry.favourite,
        archived=entry.archived,
        group=entry.group or "",
        location_name=entry.location_name,
        date_local=entry.date_local,
        clock_local=format_clock(entry.time_utc.astimezone(ZoneInfo(entry.zone)))
        if entry.time_utc and entry.zone
        else None,
        # An outdated plan is not shown as a verdict.
        verdicts=[
            VerdictOut(step=StepName(item["step"]), mark=Mark(item["mark"]), text=item["text"])
            for item in entry.verdicts
        ]
        if entry.fresh
        else [],
        miniature=MiniatureOut.model_validate(entry.miniature) if entry.miniature else None,
        fresh=entry.fresh,
    )


def _facts(seen: ShotView) -> out.ShotFactsOut:
    shot, facts = seen.row, seen.facts
    known = {item.id for item in facts.elements}
    head = {name: getattr(shot, name) for name in facts_of(ShotHead)}
    light, frame, depth, exposure, sequence, wishes = (_said(getattr(shot, group)) for group in GROUPS)
    return out.ShotFactsOut(
        **head,
        light=out.LightFactsOut(
            **light,
            clock_local=_clock_of(facts, shot.light.time_utc),
            window_end_clock=_clock_of(facts, shot.light.window_end_utc),
        ),
        frame=out.FrameFactsOut(**frame, accessory_ids=[item.id for item in facts.accessories]),
        depth=out.DepthFactsOut(**depth, sharp_element_ids=sorted(facts.sharp_element_ids)),
        exposure=out.ExposureFactsOut(
            **exposure,
            filters=[out.FilterUseOut.model_validate(use) for use in seen.uses],
            motion_wishes=[out.MotionWishOut.model_validate(item) for item in wishes_of(shot, known)],
            spots=[out.SpotOut.model_validate(item) for item in spots_of(shot, known)],
        ),
        sequence=out.SequenceFactsOut(
            **sequence, frame_groups=[present_group(core_group(item)) for item in groups_of(shot, known)]
        ),
        wishes=out.WishesFactsOut(**wishes),
        labels=_labels(shot),
    )


def _said(group: Any) -> dict[str, Any]:
    values = {name: getattr(group, name) for name in facts_of(type(group))}
    return {name: sorted(value) if isinstance(value, frozenset) else value for name, value in values.items()}


def _labels(shot: Shot) -> dict[str, str]:
    """Return the labels of the shot's values, by name."""
    found = {}
    for group, kind in GROUPS.items():
        for name, item in facts_of(kind).items():
            write, value = _WRITERS.get(item.kind), getattr(getattr(shot, group), name)
            if write is not None and value is not None:
                found[name] = write(value)
    return found


_WRITERS: dict[Kind, Callable[[Any], str]] = {
    Kind.APERTURE: format_aperture,
    Kind.SHUTTER: format_shutter,
    Kind.DISTANCE: format_distance,
    Kind.CLOCK: lambda clock: format_clock(datetime.combine(date.min, clock)),
}


def _place(seen: ShotView) -> out.PlaceOut | None:
    point = seen.row.viewpoint
    if point is None:
        return None
    location = point.location
    tide = seen.facts.location.tide if seen.facts.location else None
    return out.PlaceOut(
        location_id=location.id,
        location_name=location.name,
        latitude_deg=location.latitude_deg,
        longitude_deg=location.longitude_deg,
        elevation_m=location.elevation_m,
        zone=location.zone,
        tide_name=tide.name if tide else None,
        viewpoint=present_viewpoint(point, seen.neighbours),
    )


def _clock_of(facts: ShotFacts, moment: datetime | None) -> str | None:
    return None if moment is None or facts.location is None else facts.clock(moment)
