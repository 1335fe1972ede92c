"""The gate: who may send requests, how large, in what form; and every error as problem JSON."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from flask import Flask, Response, current_app, request
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException, RequestEntityTooLarge

from kenzet.core.errors import BadValue, KenzetError, Stale, TooMany, Unavailable, Unknown
from kenzet.core.top.document import at_field
from kenzet.texts import tr
from kenzet.web.wire.base import Problem

MOST_BYTES = 1_000_000
FILES = "application/octet-stream"
LINES = "application/x-ndjson"
TAKE_LINES = {"machine.hear"}
TAKE_FILES = {
    "drawing.read_drawing",
    "photos.add_photo",
    "photos.fabric_color_of",
    "inventory.bring_things",
    "swatches.bring_swatches",
    "log_import.bring_log",
}
STATUS = {BadValue: 422, TooMany: 422, Unknown: 404, Stale: 409, Unavailable: 503}
POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; object-src 'none'; "
    "base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
)
_LOCAL = {"127.0.0.1", "localhost", "::1"}


def problem(status: int, title: str, detail: str, field: str = "") -> Response:
    """An error as application/problem+json."""
    body = Problem(title=title, status=status, detail=detail, field=field).model_dump_json()
    return Response(body, status, mimetype="application/problem+json")


def install(app: Flask) -> None:
    """Install the gate in ``app``."""
    app.config["MAX_CONTENT_LENGTH"] = MOST_BYTES
    app.before_request(_gate)
    app.after_request(_headers)
    app.register_error_handler(KenzetError, _told)
    app.register_error_handler(HTTPException, _refused)
    app.register_error_handler(Exception, _unforeseen)


def wrong_form(error: ValidationError) -> Response:
    """The error for a malformed request, at its field."""
    return _told(at_field(error))


def _gate() -> Response | None:
    if urlsplit(f"//{request.host}").hostname not in _LOCAL:
        return problem(403, tr("Wrong address"), tr("Open Kenzet at the address it printed when it started."))
    return None if request.method in ("GET", "HEAD") else _check_body()


def _check_body() -> Response | None:
    """Accepts JSON only from our own pages, up to a size; views that take files check them themselves."""
    origin = request.headers.get("Origin")
    if origin is not None and origin != f"http://{request.host}":
        return problem(
            403, tr("Wrong origin"), tr("Another web page tried to change your quilts. Kenzet refused it.")
        )
    if _sends_no_json():
        return None
    if request.mimetype != "application/json":
        return problem(415, tr("JSON only"), tr("Send application/json."))
    if (request.content_length or 0) > MOST_BYTES:
        raise RequestEntityTooLarge
    try:
        body = request.get_json()
    except RecursionError:
        return problem(400, tr("Not understood"), tr("The body is nested too deeply."))
    if not isinstance(body, dict):
        return problem(400, tr("Not understood"), tr("The body must be a JSON object."))
    return None


def _sends_no_json() -> bool:
    """Whether there is no body to check, or the view takes something else."""
    if request.method == "DELETE":
        return not request.content_length
    takes = {FILES: TAKE_FILES, LINES: TAKE_LINES}.get(request.mimetype, set())
    return request.endpoint in takes


def _headers(response: Response) -> Response:
    response.headers["Content-Security-Policy"] = POLICY
    response.headers["X-Content-Type-Options"] = "nosniff"
    response.headers["Referrer-Policy"] = "no-referrer"
    response.headers["Cross-Origin-Opener-Policy"] = "same-origin"
    response.headers["Cross-Origin-Resource-Policy"] = "same-origin"
    if request.path.startswith("/api/"):
        response.headers["Cache-Control"] = "no-store"
    return response


def problem_of(error: KenzetError) -> Problem:
    """An error as sent to the client."""
    status = next((code for kind, code in STATUS.items() if isinstance(error, kind)), 500)
    return Problem(title=type(error).__name__, status=status, detail=error.message, field=error.field)


def _told(error: KenzetError) -> Response:
    told = problem_of(error)
    return problem(told.status, told.title, told.detail, told.field)


def _refused(error: HTTPException) -> Response:
    said = {
        400: tr("The body is not JSON."),
        404: tr("There is no page at this address."),
        413: tr("A request holds {most_bytes} kB at most.", most_bytes=f"{MOST_BYTES // 1000:,}"),
    }
    code = error.code or 500
    return problem(code, error.name, said.get(code, error.description or error.name))


def _unforeseen(error: Exception) -> Any:
    current_app.logger.exception("unforeseen", exc_info=error)
    return problem(
        500, tr("Server error"), tr("Something went wrong in Kenzet. Nothing was changed. Please try again.")
    )
