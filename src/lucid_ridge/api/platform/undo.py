"""Undo and redo: what they would do, as part of many responses, and their requests."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field
from sqlalchemy.orm import Session

from ...operations.platform import journal
from .fields import Id, In, Name, Out


class UndoOut(Out):
    """What undo and redo would do. The ids are sent along, so that no other edit is undone instead."""

    undo_label: str | None
    redo_label: str | None
    undo_id: int | None
    redo_id: int | None


class ScopesIn(In):
    """The scopes of undo and redo: shot:3, location:2, locations, shots, kit. entry_id: the edit that is meant."""

    scopes: Annotated[list[Name], Field(min_length=1, max_length=2000)]
    entry_id: Id | None = None


class UndoneOut(Out):
    """Result of undo or redo. done false: nothing of the edit could be applied, and it is skipped; words say why."""

    label: str
    done: bool
    words: str
    undo: UndoOut


def present_undo(session: Session, owner_id: int, scopes: list[str]) -> UndoOut:
    """Return the steps that undo and redo would take for these scopes."""
    return UndoOut.model_validate(journal.undo_state(session, owner_id, scopes))
