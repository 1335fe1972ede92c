"""The cost of a pinned end of a route, and spacings that end there without a detour."""

from __future__ import annotations

from flask import Response

from kenzet.core.advice.pinned_ends import pin_cost
from kenzet.core.numbers.measure import long_figure
from kenzet.say import words as w
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, laid_quilt
from kenzet.web.state.routes import routes
from kenzet.web.wire import base as m
from kenzet.web.wire.pin_options import PinCostView, offer_view
from kenzet.web.wire.route import RouteRequest

pins = Blueprint("pins", __name__, url_prefix="/api/quilts/<quilt>")


@pins.post("/route/pin-options", responses={200: PinCostView})
def pin_options(path: m.QuiltKey, body: RouteRequest) -> Response:
    """The options at the ``number``-th place of the route."""
    kept, laid = laid_quilt(path.quilt)
    visits = (found := routes().ways(kept, laid).route).visits
    one = found.routes[visits[body.number - 1].route] if 0 < body.number <= len(visits) else None
    told = pin_cost(laid, one) if one else None
    costs: w.Words = []
    if told and told.extra >= 1:
        costs = w.told(
            "Starting and ending there adds {extra} of travel.", extra=long_figure(told.extra, body.unit)
        )
    return answer(
        PinCostView(
            costs=costs, offers=[offer_view(laid, offer, body) for offer in told.offers] if told else []
        )
    )
