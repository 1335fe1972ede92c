"""A longer search for shorter routes: started, watched, stopped; its results are offered, not applied."""

from __future__ import annotations

from flask import Response

from kenzet.core.errors import BadValue
from kenzet.core.route.local_search import LocalSearch
from kenzet.core.route.quilt import costs_of
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, laid_quilt
from kenzet.web.state.routes import routes
from kenzet.web.state.searches import searches
from kenzet.web.wire import base as m
from kenzet.web.wire.route import RouteRequest
from kenzet.web.wire.route_search import SearchQuery, SearchView, search_view

search = Blueprint("search", __name__, url_prefix="/api/quilts/<quilt>/route")


@search.post("/search", responses={200: SearchView})
def begin(path: m.QuiltKey, body: RouteRequest) -> Response:
    """Start it for the ``number``-th place of the route, or for all if that is 0."""
    kept, laid = laid_quilt(path.quilt)
    route = routes().ways(kept, laid).route
    if body.number > len(route.visits):
        raise BadValue(tr("Nothing is left to sew there."), "number")
    found = LocalSearch(route, costs_of(laid.quilt.stitching), body.number)
    if not found.kinds:
        raise BadValue(
            tr("There are too many lines here for a longer search."),
            "number",
        )
    searches().begin(path.quilt, kept.revision, body.number, found)
    return answer(search_view(laid, found, body.unit))


@search.get("/search", responses={200: SearchView})
def look(path: m.QuiltKey, query: SearchQuery) -> Response:
    """Its progress."""
    kept, laid = laid_quilt(path.quilt)
    return answer(search_view(laid, searches().of(path.quilt, kept.revision, query.number), query.unit))


@search.delete("/search", responses={200: SearchView})
def stop(path: m.QuiltKey, query: SearchQuery) -> Response:
    """Stop it; the answer has the best so far."""
    kept, laid = laid_quilt(path.quilt)
    searches().stop(path.quilt, query.number)
    return answer(search_view(laid, searches().of(path.quilt, kept.revision, query.number), query.unit))
