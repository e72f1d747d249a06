"""Field cards: a plan as it was when the card was made."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import UTC, datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.facts.choices import Hold
from ...core.facts.shot import ShotFacts
from ...core.facts.words import choice_words
from ...core.field.before import focus_checks, framing_words
from ...core.field.changes import Difference, as_found
from ...core.outing.at_visit import facts_at
from ...core.planning.focus.holding import rail_mark
from ...core.planning.plan.shot_plan import ShotPlan, plan_shot
from ...core.planning.sequence.blend_sheet import blend_sheet
from ...core.planning.sequence.frame_lines import frame_lines
from ...core.planning.sequence.timeline import Frame
from ...core.planning.tones.plan import picture_tones, plan_tones
from ...core.planning.way.closures import legs_of
from ...core.planning.way.plan import plan_way
from ...core.planning.weather.plan_b import plan_b_reasons
from ...core.units.lengths import format_distances_apart, format_duration
from ...core.units.markings import format_aperture, format_shutter
from ...core.weather.promise import DEFAULT_WEIGHTS
from ...formats.tonal_png import as_data_url, tonal_png
from ...store.photographer import Photographer
from ...store.shots import FieldCard, Shot
from ..accounts.promise_weights import weights_of
from ..places.forecasts import forecast_of, hours_around
from ..platform.errors import Conflict, NotFound
from ..platform.journal import journaled
from ..platform.rows import LARGEST_ID
from .facts import PLAN_VERSION, inputs_hash, newest_card, shot_facts
from .run_sheets import run_sheet
from .shots import get_shot, shot_scope

# The longer side of a card's small picture.
_PICTURE_POINTS = 240
# Settings that a card lists for every frame.
_ON_THE_CARD = ("Aperture", "Shutter", "ISO")
# What is settled while planning and not in the field.
_AT_THE_DESK = ("exposure.reading_contradicts",)


def make_card(session: Session, owner_id: int, shot_id: int) -> FieldCard:
    """Store the shot's plan as a field card. Raises Conflict while there are no frames to take."""
    shot = get_shot(session, owner_id, shot_id)
    facts = shot_facts(session, shot)
    plan = plan_shot(facts)
    if not plan.sequence.frames:
        raise Conflict("There are no frames to take yet: say what must be sharp and how it is exposed.")
    digest = inputs_hash(facts)
    newest = newest_card(session, shot)
    if newest is not None and newest.inputs_hash == digest:
        return session.get_one(FieldCard, newest.id)
    with journaled(session, owner_id, shot_scope(shot.id), "make a field card"):
        card = new_card(shot, facts, plan, digest, weights_of(session.get_one(Photographer, owner_id)))
        shot.cards.append(card)
    return card


@dataclass(frozen=True)
class OfOuting:
    """The outing that a card is made for. begins_utc: when the shot begins; way: the legs to it and at it."""

    id: int
    name: str
    begins_utc: datetime
    way: Sequence[dict[str, object]] = ()


def new_card(
    shot: Shot,
    facts: ShotFacts,
    plan: ShotPlan,
    digest: str,
    weights: Mapping[str, float] = DEFAULT_WEIGHTS,
    outing: OfOuting | None = None,
) -> FieldCard:
    """Return a new card of a plan with frames, with its run sheet.

    weights: of the promise. outing: the outing it is for, with the facts at its time.
    """
    name = outing.name if outing is not None else ""
    content = card_content(shot, facts, plan) | {"outing": name}
    if outing is not None:
        content["way"] = list(outing.way)
    return FieldCard(
        made_at_utc=datetime.now(UTC),
        version=PLAN_VERSION,
        inputs_hash=digest,
        content=content,
        run=run_sheet(facts, plan, shot.name, shot.id, weights) | {"outing": name},
        outing_id=outing.id if outing is not None else None,
        begins_utc=outing.begins_utc if outing is not None else None,
    )


def get_card(session: Session, owner_id: int, card_id: int) -> tuple[FieldCard, bool]:
    """Return a card, and whether its shot's plan has changed since. Raises NotFound."""
    query = select(FieldCard, Shot).join(Shot).where(FieldCard.id == card_id, Shot.owner_id == owner_id)
    found = session.execute(query).first() if card_id <= LARGEST_ID else None
    if found is None:
        raise NotFound("field card")
    card, shot = found
    return card, card.inputs_hash != inputs_hash(facts_of_card(session, shot, card))


def facts_of_card(session: Session, shot: Shot, card: FieldCard) -> ShotFacts:
    """Return the current facts of a card's shot, at the card's time."""
    facts = shot_facts(session, shot)
    if card.begins_utc is None:
        return facts
    then = facts_at(facts, card.begins_utc)
    forecast = forecast_of(shot.viewpoint.location.forecast) if shot.viewpoint is not None else None
    return replace(then, forecast=hours_around(forecast, then.light.date_local))


def found_otherwise(
    session: Session, owner_id: int, shot_id: int, found: Difference, card_id: int | None = None
) -> dict[str, object]:
    """Return the run sheet of a shot planned with the conditions found in the field, at the time of the card in use.
    The shot does not change.

    Raises NotFound, Conflict, InputError.
    """
    shot = get_shot(session, owner_id, shot_id)
    card = get_card(session, owner_id, card_id)[0] if card_id is not None else None
    now = (
        facts_of_card(session, shot, card)
        if card is not None and card.shot_id == shot.id
        else shot_facts(session, shot)
    )
    facts = as_found(now, found)
    plan = plan_shot(facts)
    if not plan.sequence.frames:
        raise Conflict(
            next((reason.text for reason in plan.sequence.reasons), "With this there are no frames to take.")
        )
    sheet = run_sheet(facts, plan, shot.name, shot.id, weights_of(session.get_one(Photographer, owner_id)))
    return sheet | {"outing": card.content.get("outing", "") if card is not None else ""}


def card_content(shot: Shot, facts: ShotFacts, plan: ShotPlan) -> dict[str, object]:
    """Return the content of a card, in words and figures for the field."""
    light, depth, exposure, sequence = plan.light, plan.depth, plan.exposure, plan.sequence
    starts = facts.light.time_utc
    # A card is made only from a plan with frames, so there is a body and a lens.
    assert facts.body is not None and facts.lens is not None and sequence.total_s is not None
    return {
        "name": shot.name,
        "intent": shot.intent,
        "location": facts.location.name if facts.location else None,
        "viewpoint": facts.viewpoint_name,
        "date": facts.light.date_local.isoformat() if facts.light.date_local else None,
        "start": facts.clock(starts) if starts else None,
        "end": facts.clock(sequence.end_utc) if sequence.end_utc else None,
        "light": light.verdict.text,
        "way": _way(facts, sequence.total_s),
        "bring": facts.scouted.bring if facts.scouted else "",
        "plan_b": next((reason.text for reason in plan_b_reasons(facts)), ""),
        "light_ends": facts.clock(light.window_end_utc) if light.window_end_utc else None,
        "total": format_duration(sequence.total_s),
        "body": facts.body.name,
        "lens": facts.lens.name,
        "framing": framing_words(facts, plan.frame),
        "filters": [item.name for item in facts.filters if item.on_lens],
        "rig": [item.name for item in facts.accessories],
        "held": choice_words(facts.frame.hold) + (", braced" if facts.frame.braced else "") if _told(facts) else "",
        "stack": depth.stack_words if _told(facts) else "",
        "flash": f"{exposure.flash.name} at {exposure.flash.setting}"
        if exposure.flash and exposure.flash.setting
        else "",
        "checks": [asdict(item) for item in focus_checks(plan)],
        "predicted": exposure.predicted,
        "bracket_automatic": exposure.bracket_automatic,
        "range": depth.verdict.text,
        "picture": plan_picture(facts, plan),
        "settings": [
            {"name": item.name, "value": item.value} for item in plan.settings if item.name not in _ON_THE_CARD
        ],
        "frames": [
            _frame(facts, frame, mark, sequence.frames[0])
            for frame, mark in zip(sequence.frames, _marks(sequence.frames), strict=True)
        ],
        "groups": _groups(facts, plan),
        "lines": _lines(facts, sequence.frames),
        "cautions": [
            reason.text for reason in plan.because if reason.severity == "caution" and reason.code not in _AT_THE_DESK
        ],
        "warnings": [reason.text for reason in plan.because if reason.severity in ("fails", "tight")],
    }


def plan_picture(facts: ShotFacts, plan: ShotPlan) -> str | None:
    """Return the picture in tones as a data URL; None while it cannot be drawn."""
    step = plan_tones(facts, plan, _PICTURE_POINTS)
    return as_data_url(tonal_png(picture_tones(step))) if step is not None else None


def _way(facts: ShotFacts, sequence_s: float) -> list[dict[str, object]]:
    """Return the legs of the way with their times, as far as they are known."""
    way = plan_way(facts, sequence_s) if facts.approach else None
    if way is None:
        return []
    return [
        {
            "name": leg.name,
            "start": facts.clock(leg.span.start_utc),
            "end": facts.clock(leg.span.end_utc),
            "dark": leg.dark,
        }
        for leg in legs_of(facts, way)
    ]


def _marks(frames: Sequence[Frame]) -> list[str]:
    return format_distances_apart([frame.focus_distance_m for frame in frames])


def _groups(facts: ShotFacts, plan: ShotPlan) -> list[dict[str, object]]:
    """Return the groups in the order of taking: name, frames, start, and how they are put together."""
    sheet = {row.at: row for row in blend_sheet(plan.sequence).rows}
    found = []
    for at in plan.sequence.order:
        frames = [frame for frame in plan.sequence.frames if frame.group == at]
        first = frames[0]
        clock = (
            facts.clock(facts.light.time_utc + timedelta(seconds=first.start_s))
            if facts.light.time_utc
            else format_duration(first.start_s)
        )
        row = sheet[at]
        waits = plan.sequence.groups[at].waits_s is not None
        found.append(
            {
                "name": row.group.called,
                "first": first.number,
                "last": frames[-1].number,
                "starts": clock,
                "waits": waits,
                "steps": [step.words for step in row.steps],
            }
        )
    return found


def _lines(facts: ShotFacts, frames: Sequence[Frame]) -> list[dict[str, object]]:
    """Return the frames as a card lists them: frames that differ in one thing only share a line."""
    lines = frame_lines(frames)
    marks = format_distances_apart([line.first.focus_distance_m for line in lines])
    found = []
    for line, mark in zip(lines, marks, strict=True):
        first = line.first
        focus = mark if first.rail_mm is None else rail_mark(facts, first.rail_mm)
        if line.step_mm is not None and line.last.rail_mm is not None:
            focus = f"{focus} to {rail_mark(facts, line.last.rail_mm)}, every {abs(line.step_mm):.2f} mm"
        found.append(
            {
                "first": first.number,
                "last": line.last.number,
                "group": first.group,
                "aim": f"{first.aim.bearing_deg:.0f}°, {first.aim.pitch_deg:+.0f}°" if first.aim else "",
                "focus": focus,
                "shutter": ", ".join(format_shutter(time) for time in line.shutters_s)
                + (f" × {line.repeats}" if line.repeats > 1 else ""),
                "note": _note(facts, first, frames[0]),
                "at": format_duration(first.start_s),
            }
        )
    return found


def _told(facts: ShotFacts) -> bool:
    """Return whether the card mentions how the camera is held: close up, or off the tripod."""
    return facts.close_up or facts.frame.hold != Hold.TRIPOD


def _note(facts: ShotFacts, frame: Frame, first: Frame) -> str:
    """Return the changes on camera or lens for a frame, compared with the first."""
    changes = [f"ISO {frame.iso:g}"] if frame.iso != first.iso else []
    changes += [f"{name} on" for name in frame.filters if name not in first.filters]
    changes += [f"{name} off" for name in first.filters if name not in frame.filters]
    return ", ".join(changes)


def _frame(facts: ShotFacts, frame: Frame, mark: str, first: Frame) -> dict[str, object]:
    focus = rail_mark(facts, frame.rail_mm) if frame.rail_mm is not None else mark
    return {
        "number": frame.number,
        "aim": f"{frame.aim.bearing_deg:.0f}°, {frame.aim.pitch_deg:+.0f}°" if frame.aim else "",
        "focus_index": frame.focus_index,
        "focus": focus,
        "aperture": format_aperture(frame.f_number),
        "shutter": format_shutter(frame.shutter_s),
        "shutter_s": frame.shutter_s,
        "iso": f"{frame.iso:g}",
        "offset": f"{round(frame.offset_ev, 2):+g} EV" if abs(frame.offset_ev) >= 0.005 else "0 EV",
        "note": _note(facts, frame, first),
        "at": format_duration(frame.start_s),
    }
