"""The route: how a quilt is sewn with few thread cuts, block by block and line by line."""

from __future__ import annotations

from flask import Response

from kenzet.web.blueprint import Blueprint
from kenzet.web.open_views import route_view_of
from kenzet.web.request_context import answer, laid_quilt
from kenzet.web.wire import base as m
from kenzet.web.wire.route import RouteOrQuickRequest, RouteView

route = Blueprint("route", __name__, url_prefix="/api/quilts/<quilt>")


@route.post("/route", responses={200: RouteView})
def route_view(path: m.QuiltKey, body: RouteOrQuickRequest) -> Response:
    """Computed for the stored plan."""
    kept, laid = laid_quilt(path.quilt)
    return answer(route_view_of(kept, laid, body))
