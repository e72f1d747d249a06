"""Framings of a shot, stored side by side, and the history of its current one."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.facts import kit
from ...core.facts.choices import FRAMED, FrameChoices, group_of, shot_facts_declared
from ...core.facts.declaring import Value, facts_of
from ...core.facts.shot import ShotFacts
from ...core.planning.focus.plan import plan_depth
from ...core.planning.frame.plan import FrameStep, plan_frame
from ...core.planning.light.plan import plan_light
from ...store.journal import JournalEntry
from ...store.kit import Body, Lens
from ...store.shots import Framing, Shot
from ..kit.from_rows import known_body, known_lens
from ..platform.errors import NotFound, Refused
from ..platform.journal import delete_with_references, journaled
from ..platform.rows import LARGEST_ID, owned
from .edits import edit_of
from .facts import shot_facts
from .shots import edit_shot, shot_scope

MOST_KEPT, MOST_STEPS = 12, 14
# Number of a shot's edits that are searched for changes of its framing.
_LOOKED_THROUGH = 150
KEPT_VERSION = 1
Choices = Mapping[str, Value]


@dataclass(frozen=True)
class FramingView:
    """A framing with its miniature. id None: a step of the history. label: its name, or a summary of the change."""

    id: int | None
    label: str
    made_at_utc: datetime
    choices: Choices
    facts: ShotFacts
    frame: FrameStep
    now: bool


def choices_of(shot: Shot) -> Choices:
    """Return the choices that make a shot's current framing."""
    return {name: getattr(getattr(shot, group_of(name)) if group_of(name) else shot, name) for name in FRAMED}


def kept(choices: Choices) -> dict[str, object]:
    """Return the choices of a framing as stored."""
    return {"version": KEPT_VERSION, "values": dict(choices)}


def read_choices(values: Mapping[str, Value]) -> Choices:
    """Return the choices of a framing from JSON values, without choices that no longer exist."""
    declared = shot_facts_declared()
    return {
        name: declared[name].type(value) if declared[name].choices and value is not None else value
        for name, value in values.items()
        if name in FRAMED
    }


def kept_framings(session: Session, owner_id: int, shot_id: int) -> list[FramingView]:
    """Return the stored framings of a shot in order, each with its plan from the shot's current other facts."""
    shot = owned(session, owner_id, Shot, shot_id)
    see = _Seer(session, owner_id, shot)
    return [see(row.id, row.name, row.made_at_utc, read_choices(row.choices["values"])) for row in shot.framings]


def keep_framing(session: Session, owner_id: int, shot_id: int, name: str) -> Framing:
    """Store the shot's current framing. Raises Refused for too many, or for a name that exists."""
    shot = owned(session, owner_id, Shot, shot_id)
    if len(shot.framings) >= MOST_KEPT:
        raise Refused("name", f"{MOST_KEPT} framings are kept already: let one go first.")
    if any(row.name == name for row in shot.framings):
        raise Refused("name", f"A framing named “{name}” is kept already.")
    with journaled(session, owner_id, shot_scope(shot.id), f"keep framing {name}"):
        row = Framing(name=name, made_at_utc=datetime.now(UTC), choices=kept(choices_of(shot)))
        shot.framings.append(row)
    return row


def take_framing(session: Session, owner_id: int, framing_id: int) -> Shot:
    """Set a shot's choices to those of a stored framing."""
    row = _framing(session, owner_id, framing_id)
    return take_choices(session, owner_id, row.shot_id, read_choices(row.choices["values"]))


def take_choices(session: Session, owner_id: int, shot_id: int, choices: Choices) -> Shot:
    """Set a shot's choices to those of a framing; deleted kit is left unchanged."""
    known = {name: value for name, value in choices.items() if name in FRAMED}
    for name, kind in (("body_id", Body), ("lens_id", Lens)):
        if known.get(name) is not None and not _has(session, owner_id, kind, known[name]):
            del known[name]
    return edit_shot(session, owner_id, shot_id, edit_of(known))


def drop_framing(session: Session, owner_id: int, framing_id: int) -> None:
    """Delete a stored framing; undo restores it."""
    row = _framing(session, owner_id, framing_id)
    with journaled(session, owner_id, shot_scope(row.shot_id), f"delete framing {row.name}"):
        delete_with_references(session, row)


def walk_through(session: Session, owner_id: int, shot_id: int) -> list[FramingView]:
    """Return the earlier framings of a shot, newest first, from the journal of its edits."""
    shot = owned(session, owner_id, Shot, shot_id)
    see, now = _Seer(session, owner_id, shot), choices_of(shot)
    query = (
        select(JournalEntry)
        .where(JournalEntry.owner_id == owner_id, JournalEntry.scope == shot_scope(shot.id), ~JournalEntry.undone)
        .order_by(JournalEntry.id.desc())
        .limit(_LOOKED_THROUGH)
    )
    steps: list[FramingView] = []
    last: Choices | None = None
    # Backwards from the current one: an edit records what it changed, not the result.
    now_or_then = read_choices(now)
    for entry in session.scalars(query):
        for change in entry.changes[::-1]:
            row = change["after"]
            if change["table"] != Shot.__tablename__ or row is None or change["before"] is None:
                continue
            choices, before = now_or_then, read_choices({**now_or_then, **change["before"]})
            now_or_then = before
            if choices in (before, last):
                continue
            last = choices
            steps.append(see(None, entry.label.removeprefix("change "), entry.made_at_utc, choices))
            if len(steps) == MOST_STEPS:
                return steps
    return steps


class _Seer:
    """Draws framings of one shot, whose light is the same for all of them."""

    def __init__(self, session: Session, owner_id: int, shot: Shot) -> None:
        self.session, self.owner_id = session, owner_id
        self.facts, self.now = shot_facts(session, shot), choices_of(shot)
        self.light = plan_light(self.facts)

    def __call__(self, row_id: int | None, label: str, made: datetime, choices: Choices) -> FramingView:
        body, lens = shot_kit(self.session, self.owner_id, choices)
        chosen = self.facts.choosing(
            **{name: value for name, value in choices.items() if name in facts_of(FrameChoices)}
        )
        framed = replace(chosen, body=body or self.facts.body, lens=lens or self.facts.lens)
        frame = plan_frame(framed, plan_depth(framed), self.light)
        same = all(choices.get(name) == self.now[name] for name in FRAMED)
        return FramingView(row_id, label, made, dict(choices), framed, frame, same)


def shot_kit(session: Session, owner_id: int, choices: Choices) -> tuple[kit.Body | None, kit.Lens | None]:
    """Return the body and lens of a framing; None if it names none, or they are deleted."""
    body = session.get(Body, choices["body_id"]) if choices.get("body_id") else None
    lens = session.get(Lens, choices["lens_id"]) if choices.get("lens_id") else None
    return (
        known_body(body) if body is not None and body.owner_id == owner_id else None,
        known_lens(lens) if lens is not None and lens.owner_id == owner_id else None,
    )


def _has(session: Session, owner_id: int, kind: type[Body] | type[Lens], row_id: Value) -> bool:
    return session.scalars(select(kind.id).where(kind.id == row_id, kind.owner_id == owner_id)).first() is not None


def _framing(session: Session, owner_id: int, framing_id: int) -> Framing:
    query = select(Framing).join(Shot).where(Framing.id == framing_id, Shot.owner_id == owner_id)
    row = session.scalars(query).first() if framing_id <= LARGEST_ID else None
    if row is None:
        raise NotFound("framing")
    return row
