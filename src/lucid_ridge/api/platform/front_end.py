"""Serves the built front end: precompressed files, cached for long if their name holds a hash."""

from __future__ import annotations

from pathlib import Path

from flask import Blueprint, Response, abort, current_app, request, send_from_directory

front_end = Blueprint("front_end", __name__)


@front_end.get("/")
@front_end.get("/<path:path>")
def page(path: str = "index.html") -> Response:
    """Return a file of the build, or the application's page for its own addresses."""
    if path.startswith("api/"):
        abort(404)
    if path == "favicon.ico":
        # Browsers request it on pages without an icon, such as a JSON response.
        path = "ridge.svg"
    dist: Path = current_app.config["WEB_DIST"]
    is_asset = path.startswith("assets/") or "." in path.rsplit("/", 1)[-1]
    if not is_asset:
        path = "index.html"
    compressed = dist / f"{path}.gz"
    try:
        zipped = "gzip" in request.headers.get("Accept-Encoding", "") and ".." not in path and compressed.is_file()
        response = send_from_directory(dist, f"{path}.gz" if zipped else path)
    except (OSError, ValueError):
        # A name that no file can have.
        abort(404)
    if zipped:
        plain = current_app.extensions["mimetypes"].guess_type(path)[0]
        response.headers["Content-Type"] = plain or "application/octet-stream"
        response.headers["Content-Encoding"] = "gzip"
    response.headers["Vary"] = "Accept-Encoding"
    response.headers["Cache-Control"] = (
        "public, max-age=31536000, immutable" if path.startswith("assets/") else "no-cache"
    )
    return response
