"""Finds shots, places, kit, outings and log entries by words, and shots by their settings."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from sqlalchemy import ColumnElement, String, and_, cast, exists, func, or_, select
from sqlalchemy.dialects.postgresql import JSONPATH
from sqlalchemy.orm import Session

from ...store.kit import Accessory, Body, Filter, Lens, Support
from ...store.log import LogEntry
from ...store.outings import Outing
from ...store.places import Element, Location, Viewpoint
from ...store.shots import Shot, ShotFilter
from ...store.summaries import ShotSummary
from .pages import has_words, pattern_of

MOST_OF_A_KIND = 8
_NUMBERS = ("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")
_STOPS = re.compile(rf"(\d+(?:\.\d+)?|{'|'.join(_NUMBERS)})[ -]?stops?(?: nd)?", re.ASCII)
_MARKS = ("fails", "tight", "holds")


class FoundKind(StrEnum):
    SHOT = "shot"
    LOCATION = "location"
    KIT = "kit"
    OUTING = "outing"
    ENTRY = "entry"


@dataclass(frozen=True)
class Found:
    """kind, id: which row. label: its name; words: where or what it is."""

    kind: FoundKind
    id: int
    label: str
    words: str


def find_anything(session: Session, owner_id: int, words: str) -> list[Found]:
    """Return up to eight rows of each kind in which words occur, shots first.

    Shots are found by settings too: "f/16", "ten stops", "Dec" or "9 Dec", "fails".
    """
    if not words.strip():
        return []
    pattern = pattern_of(words)
    return [
        *_shots(session, owner_id, words.strip(), pattern),
        *_places(session, owner_id, pattern),
        *_named(session, owner_id, FoundKind.OUTING, Outing, (Outing.name, Outing.note), pattern),
        *_entries(session, owner_id, pattern),
        *_kit(session, owner_id, pattern),
    ]


def _shots(session: Session, owner_id: int, words: str, pattern: str) -> list[Found]:
    by_setting = _setting(words.lower(), pattern)
    query = (
        select(Shot.id, Shot.name, Location.name)
        .outerjoin(Viewpoint, Viewpoint.id == Shot.viewpoint_id)
        .outerjoin(Location, Location.id == Viewpoint.location_id)
        .outerjoin(ShotSummary, ShotSummary.shot_id == Shot.id)
        .where(Shot.owner_id == owner_id, or_(has_words(pattern), *by_setting))
        .order_by(Shot.archived, Shot.name.ilike(pattern).desc(), Shot.name, Shot.id)
        .limit(MOST_OF_A_KIND)
    )
    return [Found(FoundKind.SHOT, row_id, name, place or "") for row_id, name, place in session.execute(query)]


def _setting(words: str, pattern: str) -> list[ColumnElement[bool]]:
    """Return the conditions of a shot's settings that words may mean."""
    found: list[ColumnElement[bool]] = [
        func.to_char(Shot.__table__.c.date_local, "FMDD Mon YYYY").ilike(pattern),
        cast(func.jsonb_path_query_array(ShotSummary.verdicts, cast("$[*].text", JSONPATH)), String).ilike(pattern),
    ]
    if match := _STOPS.fullmatch(words):
        stops = float(_NUMBERS.index(match[1]) + 1 if match[1] in _NUMBERS else match[1])
        found.append(
            exists(
                select(ShotFilter.shot_id)
                .join(Filter, Filter.id == ShotFilter.filter_id)
                .where(ShotFilter.shot_id == Shot.id, ShotFilter.on_lens, func.abs(Filter.stops - stops) < 0.1)
            )
        )
    if words in _MARKS:
        path = f'$[*] ? (@.mark == "{words}")'
        found.append(func.jsonb_path_exists(ShotSummary.verdicts, cast(path, JSONPATH)))
    return found


def _places(session: Session, owner_id: int, pattern: str) -> list[Found]:
    viewpoints = select(Viewpoint.id).where(Viewpoint.location_id == Location.id, Viewpoint.name.ilike(pattern))
    elements = (
        select(Element.id)
        .join(Viewpoint, Viewpoint.id == Element.viewpoint_id)
        .where(Viewpoint.location_id == Location.id, Element.name.ilike(pattern))
    )
    texts = or_(Location.name.ilike(pattern), Location.notes.ilike(pattern), exists(viewpoints), exists(elements))
    query = select(Location.id, Location.name, Location.zone).where(Location.owner_id == owner_id, texts)
    rows = session.execute(query.order_by(Location.name, Location.id).limit(MOST_OF_A_KIND))
    return [Found(FoundKind.LOCATION, row_id, name, zone) for row_id, name, zone in rows]


def _named(
    session: Session, owner_id: int, kind: FoundKind, table: Any, texts: Sequence[Any], pattern: str, words: str = ""
) -> list[Found]:
    query = (
        select(table.id, table.name)
        .where(table.owner_id == owner_id, or_(*(text.ilike(pattern) for text in texts)))
        .order_by(table.name, table.id)
        .limit(MOST_OF_A_KIND)
    )
    return [Found(kind, row_id, name, words) for row_id, name in session.execute(query)]


def _entries(session: Session, owner_id: int, pattern: str) -> list[Found]:
    texts = (LogEntry.name, LogEntry.place, LogEntry.words, LogEntry.subject)
    query = (
        select(LogEntry.id, LogEntry.name, LogEntry.place)
        .where(and_(LogEntry.owner_id == owner_id, or_(*(text.ilike(pattern) for text in texts))))
        .order_by(LogEntry.taken_at_utc.desc(), LogEntry.id)
        .limit(MOST_OF_A_KIND)
    )
    return [Found(FoundKind.ENTRY, row_id, name, place) for row_id, name, place in session.execute(query)]


def _kit(session: Session, owner_id: int, pattern: str) -> list[Found]:
    kinds = ((Body, "body"), (Lens, "lens"), (Filter, "filter"), (Support, "tripod"), (Accessory, "accessory"))
    found = [
        item
        for table, words in kinds
        for item in _named(session, owner_id, FoundKind.KIT, table, (table.name,), pattern, words)
    ]
    return found[:MOST_OF_A_KIND]
