"""What a pinned end of a way costs, and what would end there by itself."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.advice.pinned_ends import Offer, exit_of
from kenzet.core.numbers.measure import long_figure
from kenzet.core.ruler.offset_sums import best_sum
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, laid_quilt
from kenzet.web.route import RouteRequest
from kenzet.web.sewing import logs

exits = APIBlueprint("exits", __name__, url_prefix="/api/quilts/<quilt>")


class ExitOffer(m.Wire):
    """Another ``fill`` for ``zone``."""

    zone: str
    fill: dict[str, Any]
    words: m.Words


class ExitView(m.Wire):
    """``costs`` says what the pins cost, empty where that is nothing or nothing is pinned."""

    costs: m.Words
    offers: list[ExitOffer]


@exits.post("/route/exit", responses={200: ExitView})
def exit_view(path: m.QuiltPath, body: RouteRequest) -> Response:
    """Of the ``number``-th place in the order."""
    kept, laid = laid_quilt(path.quilt)
    visits = (found := logs().ways(kept, laid).route).visits
    one = found.routes[visits[body.number - 1].route] if 0 < body.number <= len(visits) else None
    told = exit_of(laid, one) if one else None
    costs: m.Words = []
    if told and told.extra >= 1:
        costs = ["To begin and end so, ", long_figure(told.extra, body.unit), " more are travelled."]
    return answer(
        ExitView(costs=costs, offers=[_offer(laid, offer, body) for offer in told.offers] if told else [])
    )


def _offer(laid: LaidQuilt, offer: Offer, body: RouteRequest) -> ExitOffer:
    laid_by = best_sum(laid.quilt.kit, offer.fill.spacing.mm, 0.0)
    lines = f"{offer.many} lines" + (f" in place of {offer.had}" if offer.many != offer.had else "")
    return ExitOffer(
        zone=offer.zone,
        fill=offer.fill.model_dump(mode="json"),
        words=[
            f"{laid.zone(offer.zone).name}: {lines}, ",
            show.shown(offer.fill.spacing.mm, body.unit, about=True),
            " apart, ",
            long_figure(offer.saved, body.unit),
            " less" if laid_by.can_be_laid else " less; no mark of your rulers makes it, so each is drawn",
        ],
    )
