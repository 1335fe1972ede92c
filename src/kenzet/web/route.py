"""The route: how a quilt is sewn with few thread stops, block by block and line by line."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import Unknown
from kenzet.core.route.quilt import line_of
from kenzet.core.route.turns import is_freehand
from kenzet.core.route.unit import rings
from kenzet.formats.route_svg import WayPiece, route_svg
from kenzet.say.route_words import sentence
from kenzet.web.open_views import route_view_of
from kenzet.web.request_context import answer, file_answer, laid_quilt
from kenzet.web.state.routes import routes
from kenzet.web.wire import base as m
from kenzet.web.wire.route import RouteOrQuickRequest, RouteView, WayQuery

route = APIBlueprint("route", __name__, url_prefix="/api/quilts/<quilt>")


@route.post("/route", responses={200: RouteView})
def route_view(path: m.QuiltKey, body: RouteOrQuickRequest) -> Response:
    """Worked out for the plan as it is kept."""
    kept, laid = laid_quilt(path.quilt)
    return answer(route_view_of(kept, laid, body))


@route.get("/route.svg")
def way_svg(path: m.QuiltKey, query: WayQuery) -> Response:
    """As a picture at true size, in the coordinates of the block, every line numbered."""
    kept, laid = laid_quilt(path.quilt)
    found = routes().soon(kept, laid).route
    if not 0 < query.number <= len(found.visits):
        raise Unknown("Nothing is sewn there.", "number")
    visit = found.visits[query.number - 1]
    one = found.routes[visit.route]
    part = one.unit.part
    way = [
        WayPiece(line_of(one.network.paths[leg.edge], leg.back), leg.sews, k == 0, is_freehand(one, leg))
        for run in (one.backwards if visit.back else one.runs)
        for k, leg in enumerate(run.legs)
    ]
    seams = [ring for patch in part.patches.values() for ring in rings(patch.area)]
    title = f"{laid.quilt.name} · {part.name} · {sentence(one, visit)}"
    data = route_svg(title, (part.width, part.height), seams, way, query.unit)
    return file_answer(data, "image/svg+xml", f"{part.key}-route.svg")
