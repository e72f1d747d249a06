"""Signing in and out: the key of this machine's notebook, accounts, invitations."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint
from flask import Response, jsonify
from sqlalchemy.orm import Session

from ...configuration import Access
from ...operations.accounts import accounts as operations
from ...operations.platform.errors import Conflict, Refused
from ...store.accounts import SignIn
from ..platform.request_session import request_session
from ..platform.visitors import (
    SignInNeeded,
    access,
    came_from,
    has_key,
    has_shown_key,
    let_in,
    let_out,
    open_to_all,
    visitor,
)
from . import schemas
from .present import present_account

accounts = APIBlueprint("accounts", __name__, url_prefix="/api")


@accounts.get("/session")
@accounts.output(schemas.SessionOut)
@open_to_all
def session_state() -> Any:
    """How one signs in here, and whether this browser is signed in."""
    if access() is Access.OPEN:
        return schemas.SessionOut(access=Access.OPEN, signed_in=True, name=None)
    if access() is Access.KEY:
        return schemas.SessionOut(access=Access.KEY, signed_in=has_shown_key(), name=None)
    here = visitor()
    return schemas.SessionOut(
        access=Access.ACCOUNTS, signed_in=here is not None, name=here.account.name if here else None
    )


@accounts.post("/session")
@accounts.input(schemas.SignInIn, location="json")
@accounts.output(schemas.SessionOut, status_code=201)
@open_to_all
def sign_in(json_data: schemas.SignInIn) -> Any:
    """Sign in. A wrong name and a wrong password get the same answer."""
    session = _with_accounts()
    try:
        token = operations.sign_in(session, json_data.name, json_data.password, _now(), came_from())
        if token is None:
            raise Refused("password", "Name or password is wrong.")
    except (Refused, operations.TooMany):
        # A failed try is recorded, although the answer is an error.
        session.commit()
        raise
    return _signed_in(token)


@accounts.delete("/session")
@accounts.output({}, status_code=204)
@open_to_all
def sign_out() -> Any:
    """Sign this browser out."""
    session = _with_accounts()
    here = visitor()
    if here is not None:
        operations.sign_out(session, here, _now(), came_from())
    return let_out(Response(status=204))


@accounts.post("/session/key")
@accounts.input(schemas.KeyIn, location="json")
@accounts.output(schemas.SessionOut, status_code=201)
@open_to_all
def show_key(json_data: schemas.KeyIn) -> Any:
    """Enter the key printed by ./start; this browser is remembered from then on."""
    if access() is not Access.KEY:
        raise Conflict("No key is asked for here.")
    if not has_key(json_data.key):
        raise Refused("key", "This is not the key of this notebook. ./start prints the address that holds it.")
    return _let_in(schemas.SessionOut(access=Access.KEY, signed_in=True, name=None), json_data.key)


@accounts.post("/passes/look")
@accounts.input(schemas.TokenIn, location="json")
@accounts.output(schemas.PassOut)
@open_to_all
def look_at_pass(json_data: schemas.TokenIn) -> Any:
    """What a link is for, before it is used."""
    opened = operations.open_pass(_with_accounts(), json_data.token, _now())
    return schemas.PassOut(name=opened.name, password_words=operations.PASSWORD_WORDS)


@accounts.post("/passes")
@accounts.input(schemas.JoinIn, location="json")
@accounts.output(schemas.SessionOut, status_code=201)
@open_to_all
def use_pass(json_data: schemas.JoinIn) -> Any:
    """Create the account of an invitation, or set the password of a recovery link."""
    session = _with_accounts()
    token = operations.use_pass(session, json_data.token, json_data.name, json_data.password, _now(), came_from())
    return _signed_in(token)


@accounts.get("/account")
@accounts.output(schemas.AccountOut)
def account() -> Any:
    """The account: its open sessions and recent events."""
    session, here = _here()
    return present_account(
        here.account,
        operations.sign_ins_of(session, here.account, _now()),
        here,
        operations.events_of(session, here.account),
    )


@accounts.post("/account/password")
@accounts.input(schemas.PasswordIn, location="json")
@accounts.output({}, status_code=204)
def change_password(json_data: schemas.PasswordIn) -> Any:
    """Change the password; every other browser is signed out."""
    session, here = _here()
    try:
        operations.change_password(session, here, json_data.old, json_data.new, _now(), came_from())
    except Refused as error:
        session.rollback()
        if error.field == "old":
            # A wrong guess here counts as a failed sign-in.
            operations.note_wrong_password(session, here.account, _now(), came_from())
            session.commit()
        raise
    return ""


@accounts.delete("/account/sign-ins/<int:sign_in_id>")
@accounts.output({}, status_code=204)
def end_sign_in(sign_in_id: int) -> Any:
    """Sign another browser out."""
    session, here = _here()
    operations.end_sign_in(session, here.account, sign_in_id, _now(), came_from())
    return ""


def _here() -> tuple[Session, SignIn]:
    session = _with_accounts()
    here = visitor()
    if here is None:
        raise SignInNeeded
    return session, here


def _with_accounts() -> Session:
    if access() is not Access.ACCOUNTS:
        raise Conflict("There are no accounts here: this notebook is one photographer's.")
    return request_session()


def _signed_in(token: str) -> Response:
    row = operations.signed_in(request_session(), token, _now())
    assert row is not None
    return _let_in(schemas.SessionOut(access=Access.ACCOUNTS, signed_in=True, name=row.account.name), token)


def _let_in(state: schemas.SessionOut, token: str) -> Response:
    made = jsonify(state)
    made.status_code = 201
    return let_in(made, token)


def _now() -> datetime:
    return datetime.now(UTC)
