"""The one JSON error shape: {"error": {"kind", "message", "fields": [{"field", "message"}]}}."""

from __future__ import annotations

import errno
from typing import Any

from apiflask import APIFlask, HTTPError
from flask import Response, current_app, jsonify, request
from pydantic import ValidationError
from sqlalchemy.exc import DataError, DBAPIError, IntegrityError, InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from sqlalchemy.orm.exc import ObjectDeletedError, StaleDataError
from werkzeug.exceptions import HTTPException

from ...core.errors import InputError
from ...operations.accounts.accounts import TooMany
from ...operations.platform.errors import ChangedElsewhere, Conflict, NotFound, Refused
from ...store.file_store import FilesAway
from .field_labels import field_label
from .visitors import SignInNeeded

_KINDS = {
    400: "malformed",
    401: "sign_in",
    404: "not_found",
    405: "method",
    409: "conflict",
    413: "too_large",
    415: "media_type",
    422: "invalid",
    429: "too_many",
    503: "unavailable",
    507: "no_room",
}
_MESSAGES = {
    400: "The request could not be read.",
    404: "There is nothing at this address.",
    405: "This address does not take that method.",
    413: "The request is too large.",
    415: "Send application/json.",
}


# PostgreSQL's error codes for conflicting transactions: deadlock, serialization failure, lock timeout.
_IN_THE_WAY = ("40P01", "40001", "55P03")
_DISK_FULL = "53100"


class OtherNotebook(Exception):
    """The page was opened on a notebook that is no longer the one served here."""

    message = "This page was opened on another notebook than the one served now. Nothing was changed: reload the page."


def error_response(
    status: int, message: str, fields: list[dict[str, str]] | None = None, kind: str | None = None
) -> tuple[Response, int]:
    """Return the error shape with a status."""
    body = {"error": {"kind": kind or _KINDS.get(status, "failure"), "message": message, "fields": fields or []}}
    return jsonify(body), status


def in_the_way(error: BaseException) -> bool:
    """Return whether two transactions conflicted, so that a retry may succeed."""
    return isinstance(error, DBAPIError) and getattr(error.orig, "sqlstate", None) in _IN_THE_WAY


def register_errors(app: APIFlask) -> None:
    """Convert every kind of failure into the one error shape."""

    @app.error_processor
    def from_apiflask(error: HTTPError) -> Any:
        cause = error.__cause__
        if isinstance(cause, ValidationError):
            return *_invalid(cause), {}
        return *error_response(error.status_code, _MESSAGES.get(error.status_code, error.message or "")), {}

    app.register_error_handler(NotFound, lambda error: error_response(404, error.message))
    app.register_error_handler(Conflict, lambda error: error_response(409, error.message))
    app.register_error_handler(ChangedElsewhere, _changed_elsewhere)
    app.register_error_handler(OtherNotebook, lambda error: error_response(409, error.message, kind="other_notebook"))
    app.register_error_handler(SignInNeeded, lambda error: error_response(401, error.message))
    app.register_error_handler(TooMany, lambda error: error_response(429, error.message))
    for moved in (StaleDataError, ObjectDeletedError):
        app.register_error_handler(
            moved,
            lambda _: error_response(
                409, "This was changed or deleted at the same moment elsewhere. Look again and repeat it."
            ),
        )
    app.register_error_handler(
        Refused, lambda error: error_response(422, error.message, [{"field": error.field, "message": error.message}])
    )
    app.register_error_handler(
        InputError, lambda error: error_response(422, error.message, [{"field": error.field, "message": error.message}])
    )
    app.register_error_handler(DataError, lambda _: error_response(422, "A value is outside what can be stored."))
    app.register_error_handler(
        IntegrityError, lambda _: error_response(422, "A value does not fit with what is already there.")
    )
    for down in (OperationalError, InterfaceError, PoolTimeout):
        app.register_error_handler(down, _no_database)
    app.register_error_handler(FilesAway, _no_files)
    app.register_error_handler(OSError, lambda error: _no_database(error) if _no_room(error) else _unexpected(error))
    app.register_error_handler(HTTPException, _from_werkzeug)
    app.register_error_handler(Exception, _unexpected)


def _invalid(error: ValidationError) -> tuple[Response, int]:
    fields = [{"field": _path(item["loc"]), "message": _words(item)} for item in error.errors()]
    first = fields[0]
    label = field_label(first["field"])
    message = f"{label[0].upper()}{label[1:]}: {first['message']}" if label else first["message"]
    return error_response(422, message, fields)


def _path(location: tuple[int | str, ...]) -> str:
    return ".".join(str(part) for part in location)


def _words(item: Any) -> str:
    """Return a sentence with what was wrong and what is allowed."""
    kind, limits, given = item["type"], item.get("ctx", {}), item.get("input")
    shown = f"{given!r}" if isinstance(given, (int, float, str)) and len(str(given)) < 60 else "that"
    sentences = {
        "missing": "A value is needed here.",
        "extra_forbidden": "There is no such field.",
        "greater_than": f"Must be greater than {limits.get('gt')}, not {shown}.",
        "greater_than_equal": f"Must be at least {limits.get('ge')}, not {shown}.",
        "less_than_equal": f"Must be at most {limits.get('le')}, not {shown}.",
        "finite_number": "Must be a finite number.",
        "literal_error": f"Must be one of {limits.get('expected')}.",
        "string_too_short": "A text is needed here.",
        "string_too_long": f"Must have at most {limits.get('max_length')} characters.",
        "float_type": "A number is needed here.",
        "int_type": "A whole number is needed here.",
        "int_parsing": f"{shown} is not a whole number.",
        "int_from_float": "A whole number is needed here.",
        "bool_type": "Must be true or false.",
        "too_long": f"Must have at most {limits.get('max_length')} entries.",
        "timezone_aware": "A time needs its zone, such as 2026-01-31T16:04:00Z.",
    }
    if kind == "value_error":
        return str(limits["error"]) if "error" in limits else str(item["msg"])
    if kind.startswith("date_") or kind.startswith("datetime_"):
        return (
            f"{shown} is not a date{' and time' if kind.startswith('datetime') else ''}. Write "
            f"2026-01-31{'T16:04:00Z' if kind.startswith('datetime') else ''}."
        )
    return sentences.get(kind, str(item["msg"]))


def _from_werkzeug(error: HTTPException) -> tuple[Response, int]:
    code = error.code or 500
    if code == 405 and _is_nowhere():
        code = 404
    return error_response(code, _MESSAGES.get(code, error.name))


def _is_nowhere() -> bool:
    """Return whether the address is unknown to the API: the front end answers GET everywhere else."""
    if not request.path.startswith("/api/"):
        return False
    try:
        endpoint, _ = current_app.url_map.bind_to_environ(request.environ).match(method="GET")
    except HTTPException:
        return False
    return str(endpoint).startswith("front_end.")


def _changed_elsewhere(error: ChangedElsewhere) -> tuple[Response, int]:
    fields = [{"field": name, "message": words} for name, words in error.fields.items()]
    return error_response(409, error.message, fields, kind="changed")


def _no_database(error: Exception) -> tuple[Response, int]:
    if in_the_way(error):
        return error_response(409, "Somebody else was writing the same at that moment. Nothing was changed: repeat it.")
    current_app.logger.error("database: %s", error)
    if _no_room(error):
        return error_response(
            507, "The disk is full: nothing was changed. What you typed is kept; make room and try again."
        )
    return error_response(
        503, "The notebook's database does not answer. What you typed is kept; try again in a moment."
    )


def _no_files(error: FilesAway) -> tuple[Response, int]:
    current_app.logger.error("files: %s", error)
    return error_response(
        503, "The storage of photographs does not answer. What you typed is kept; try again in a moment."
    )


def _no_room(error: BaseException) -> bool:
    """Return whether the disk of the database or of this process is full."""
    cause = error.orig if isinstance(error, DBAPIError) else error
    return getattr(cause, "sqlstate", None) == _DISK_FULL or getattr(cause, "errno", None) in (
        errno.ENOSPC,
        errno.EDQUOT,
    )


def _unexpected(error: Exception) -> tuple[Response, int]:
    current_app.logger.exception("unexpected error", exc_info=error)
    return error_response(
        500, "Something went wrong on our side; the details are in the server's log. Nothing was changed."
    )
