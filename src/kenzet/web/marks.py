"""The marks of a zone, by the recommended or the chosen method."""

from __future__ import annotations

from flask import Response

from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, laid_quilt, planned
from kenzet.web.wire import base as m
from kenzet.web.wire.marks import MarksRequest, MarksView, marks_of_zone

marks = Blueprint("marks", __name__, url_prefix="/api/quilts/<quilt>")


@marks.post("/marks", responses={200: MarksView})
def marks_view(path: m.QuiltKey, body: MarksRequest) -> Response:
    """The marks of a zone as stored."""
    _, laid = laid_quilt(path.quilt)
    return answer(marks_of_zone(laid, planned(laid, body.zone), body))
