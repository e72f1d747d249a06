"""Pages of the notebook: its shots with a summary of each plan."""

from __future__ import annotations

import logging
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import ColumnElement, Select, and_, case, cast, exists, func, null, or_, select, update
from sqlalchemy.dialects.postgresql import JSONPATH, insert
from sqlalchemy.orm import Session, selectinload, sessionmaker

from ...core.facts.notebook import NotebookOrder
from ...core.facts.shot import ShotFacts
from ...core.planning.plan.shot_plan import ShotPlan, plan_shot
from ...core.planning.verdicts import FAILS, STEPS
from ...store.outings import Outing, OutingStop
from ...store.photographer import Photographer
from ...store.places import Element, Location, Scouting, SeasonNote, Viewpoint
from ...store.rows import Row
from ...store.shots import Shot
from ...store.summaries import KeptMiniature, KeptVerdict, ShotSummary
from ..platform.jobs import ask_for
from ..shots.facts import PLAN_VERSION, shot_facts

VERSION = f"{PLAN_VERSION}.5"
_log = logging.getLogger(__name__)
# The verdict of a shot that cannot be planned.
BROKEN = "cannot be planned: the reason is in the server's log"
# The kind of job.
NOTEBOOK = "notebook"
# Up to this many shots are planned while the page waits, the rest in the background.
_AT_ONCE, _BATCH = 24, 50
Draw = Callable[[ShotFacts, ShotPlan], KeptMiniature | None]


@dataclass(frozen=True)
class Listing:
    """Which shots to list, and in which order. archived: archived shots instead of the others."""

    words: str = ""
    by: NotebookOrder = NotebookOrder.NEXT
    archived: bool = False
    favourites: bool = False


@dataclass(frozen=True)
class Entry:
    """A shot's line in the notebook.

    group: in its order. fresh: verdicts and miniature are those of the current shot.
    """

    id: int
    name: str
    intent: str
    favourite: bool
    archived: bool
    group: str | None
    location_name: str | None
    zone: str | None
    date_local: date | None
    time_utc: datetime | None
    verdicts: Sequence[KeptVerdict]
    miniature: KeptMiniature | None
    fresh: bool


@dataclass(frozen=True)
class Page:
    """A page. total: number of shots that match. pending: some entries are being planned."""

    entries: tuple[Entry, ...]
    total: int
    pending: bool


def page_of_notebook(
    session: Session, owner_id: int, draw: Draw, listing: Listing | None = None, offset: int = 0, limit: int = 60
) -> Page:
    """Return a page of the notebook. draw: makes the miniature of a shot and its plan."""
    revision = session.get_one(Photographer, owner_id).revision
    query = _entries(owner_id, listing or Listing())
    total = session.scalar(select(func.count()).select_from(query.order_by(None).subquery())) or 0
    entries = _read(session, query.offset(offset).limit(limit))
    stale = [entry.id for entry in entries if not entry.fresh]
    if stale:
        renew(session, owner_id, stale[:_AT_ONCE], revision, draw)
        entries = _read(session, query.offset(offset).limit(limit))
    rest = [entry.id for entry in entries if not entry.fresh]
    # Shots written in the meantime are planned at the next request.
    if len(rest) > _AT_ONCE or len(stale) > _AT_ONCE:
        ask_for(session, owner_id, NOTEBOOK, "planning the notebook", "notebook")
    return Page(tuple(entries), total, bool(rest))


def renew(session: Session, owner_id: int, shot_ids: Sequence[int], revision: int, draw: Draw) -> None:
    """Plan shots and store their summaries. revision: of the notebook, as read.

    A shot that cannot be planned or drawn is stored as broken, with its error in the log, so that the others are still
    listed.
    """
    for shot in whole_shots(session, owner_id, shot_ids):
        kept = {"made_revision": revision, "version": VERSION, **_summary(session, shot, draw)}
        session.execute(insert(ShotSummary).values(shot_id=shot.id).on_conflict_do_nothing())
        # A shot written in the meantime keeps its newer mark.
        session.execute(
            update(ShotSummary)
            .where(ShotSummary.shot_id == shot.id, ShotSummary.touched_revision <= revision)
            .values(kept)
        )


def _summary(session: Session, shot: Shot, draw: Draw) -> Row:
    """Return the verdicts, miniature and duration of a shot; a broken one has verdicts that say so."""
    try:
        with session.begin_nested():
            facts = shot_facts(session, shot)
            plan = plan_shot(facts)
    except Exception:
        _log.exception("Shot %s cannot be planned.", shot.id)
        broken = [{"step": step, "mark": str(FAILS), "text": BROKEN} for step in STEPS]
        return {"verdicts": broken, "miniature": None, "sequence_s": None}
    verdicts = [{"step": item.step, "mark": str(item.mark), "text": item.text} for item in plan.verdicts]
    try:
        miniature = draw(facts, plan)
    except Exception:
        _log.exception("The picture of shot %s cannot be drawn.", shot.id)
        miniature = None
    return {"verdicts": verdicts, "miniature": miniature, "sequence_s": plan.sequence.total_s}


def renew_all(sessions: sessionmaker[Session], owner_id: int, draw: Draw, tell: Callable[[float], bool]) -> str:
    """Plan the shots of a notebook that were written since they were planned.

    tell: receives the progress and returns whether to go on.
    """
    done = 0
    while True:
        with sessions() as session, session.begin():
            revision = session.get_one(Photographer, owner_id).revision
            stale = select(Shot.id).outerjoin(ShotSummary).where(Shot.owner_id == owner_id, ~_fresh()).order_by(Shot.id)
            ids = session.scalars(stale.limit(_BATCH)).all()
            left = session.scalar(select(func.count()).select_from(stale.order_by(None).subquery())) or 0
            renew(session, owner_id, ids, revision, draw)
        done += len(ids)
        if not ids or not tell(done / max(1, done + left - len(ids))):
            return f"{done} shots planned."


def _fresh() -> ColumnElement[bool]:
    return and_(
        func.coalesce(ShotSummary.version, "") == VERSION,
        func.coalesce(ShotSummary.made_revision, -1) >= func.coalesce(ShotSummary.touched_revision, 0),
    )


# The state of a shot: its worst mark in the summary, worst first.
_STATES = ("something fails", "something is open", "tight", "holds")


def _state(answers: Sequence[Any]) -> ColumnElement[Any]:
    """Return an SQL expression with the answer for each shot's state."""

    def any_is(mark: str) -> ColumnElement[bool]:
        # A field card is made last: without one nothing else of the plan is missing.
        return func.jsonb_path_exists(
            ShotSummary.verdicts, cast(f'$[*] ? (@.mark == "{mark}" && @.step != "field")', JSONPATH)
        )

    *worse, holds = answers
    return case(
        *((any_is(mark), answer) for mark, answer in zip(("fails", "unsaid", "tight"), worse, strict=True)), else_=holds
    )


def _outing() -> ColumnElement[str]:
    """Return the name of the first outing with a shot."""
    stops = select(Outing.name).join(OutingStop, OutingStop.outing_id == Outing.id).where(OutingStop.shot_id == Shot.id)
    return stops.order_by(Outing.date_local, Outing.id).limit(1).correlate(Shot).scalar_subquery()


def _group(by: NotebookOrder) -> ColumnElement[Any]:
    if by == NotebookOrder.PLACE:
        return Location.name.expression
    if by == NotebookOrder.OUTING:
        return _outing()
    return _state(_STATES) if by == NotebookOrder.STATE else null()


def _order(by: NotebookOrder, group: ColumnElement[Any]) -> list[ColumnElement[Any]]:
    """Return the sort key of the groups."""
    if by == NotebookOrder.NEXT:
        return []
    return [_state(range(len(_STATES)))] if by == NotebookOrder.STATE else [group.nulls_last()]


def _entries(owner_id: int, listing: Listing) -> Select[*tuple[Any, ...]]:
    columns, group = Shot.__table__.c, _group(listing.by)
    query = (
        select(
            Shot.id,
            Shot.name,
            Shot.intent,
            Shot.favourite,
            Shot.archived,
            group.label("group"),
            Location.name.label("location_name"),
            Location.zone,
            columns.date_local,
            columns.time_utc,
            ShotSummary.verdicts,
            ShotSummary.miniature,
            _fresh().label("fresh"),
        )
        .outerjoin(Viewpoint, Viewpoint.id == Shot.viewpoint_id)
        .outerjoin(Location, Location.id == Viewpoint.location_id)
        .outerjoin(ShotSummary, ShotSummary.shot_id == Shot.id)
        .where(Shot.owner_id == owner_id, Shot.archived == listing.archived)
    )
    if listing.favourites:
        query = query.where(Shot.favourite)
    words = listing.words
    if words.strip():
        query = query.where(has_words(pattern_of(words)))
    return query.order_by(
        *_order(listing.by, group), columns.date_local.nulls_last(), columns.time_utc.nulls_last(), Shot.id
    )


def pattern_of(words: str) -> str:
    """Return the pattern of texts that hold words."""
    return "%" + "".join(f"\\{letter}" if letter in "\\%_" else letter for letter in words.strip()) + "%"


def has_words(pattern: str) -> ColumnElement[bool]:
    """Return whether words occur in the texts of a shot: its own, its place's, elements', visits' and outings'."""
    elements = select(Element.id).where(Element.viewpoint_id == Shot.viewpoint_id, Element.name.ilike(pattern))
    visits = select(Scouting.id).where(
        Scouting.viewpoint_id == Shot.viewpoint_id, or_(Scouting.note.ilike(pattern), Scouting.bring.ilike(pattern))
    )
    seasons = select(SeasonNote.id).where(SeasonNote.location_id == Location.id, SeasonNote.note.ilike(pattern))
    outings = (
        select(OutingStop.id)
        .join(Outing)
        .where(
            OutingStop.shot_id == Shot.id,
            or_(Outing.name.ilike(pattern), Outing.note.ilike(pattern), OutingStop.note.ilike(pattern)),
        )
    )
    own = (Shot.name, Shot.intent, Location.name, Location.access_notes, Viewpoint.name)
    return or_(
        *(column.ilike(pattern) for column in own), *(exists(item) for item in (elements, visits, seasons, outings))
    )


def _read(session: Session, query: Select[*tuple[Any, ...]]) -> list[Entry]:
    return [Entry(**{**row, "verdicts": row["verdicts"] or []}) for row in session.execute(query).mappings()]


def whole_shots(session: Session, owner_id: int, shot_ids: Sequence[int]) -> Sequence[Shot]:
    """Return shots with everything their plans need, in few queries."""
    place = selectinload(Shot.viewpoint)
    location = place.selectinload(Viewpoint.location)
    query = (
        select(Shot)
        .where(Shot.owner_id == owner_id, Shot.id.in_(shot_ids))
        .order_by(Shot.id)
        .options(
            place.selectinload(Viewpoint.elements),
            place.selectinload(Viewpoint.scoutings),
            location.selectinload(Location.hazards),
            location.selectinload(Location.season_notes),
            location.selectinload(Location.readings),
            location.selectinload(Location.openings),
            location.joinedload(Location.forecast),
            selectinload(Shot.sharp),
            selectinload(Shot.filters),
            selectinload(Shot.rig),
        )
    )
    return session.scalars(query).all()
