"""File uploads and downloads: which addresses take files, their size limits, and the responses."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from flask import Flask, Response, current_app, request

View = TypeVar("View", bound=Callable[..., Any])
MEDIA_TYPE = "application/octet-stream"


def takes_file(largest_bytes: int) -> Callable[[View], View]:
    """Mark a view whose request body is a file of at most this size."""

    def mark(view: View) -> View:
        view.__dict__["largest_file_bytes"] = largest_bytes
        return view

    return mark


def answers_with(*media_types: str) -> Callable[[View], View]:
    """Mark a view whose response is a file of one of these types."""

    def mark(view: View) -> View:
        view.__dict__["answers_with"] = media_types
        return view

    return mark


def file_limit() -> int | None:
    """Return the size limit of the current request's file; None if it takes none."""
    view = current_app.view_functions.get(request.endpoint or "")
    return getattr(view, "largest_file_bytes", None)


def largest_file(app: Flask) -> int:
    """Return the largest file that any address of an application takes."""
    return max(getattr(view, "largest_file_bytes", 0) for view in app.view_functions.values())


def sent_file() -> bytes:
    """Return the request's body."""
    return request.get_data()


def file_response(content: bytes, media_type: str, name: str) -> Response:
    """Return a file to be saved under a name."""
    response = Response(content, content_type=media_type)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
