"""What a pinned end costs, and what would end there by itself."""

from __future__ import annotations

from kenzet.core.advice.pinned_ends import Offer
from kenzet.core.numbers.measure import long_figure
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.web.wire import base as m
from kenzet.web.wire.docs import FillDoc
from kenzet.web.wire.route import RouteRequest


def offer_view(laid: QuiltLayout, offer: Offer, body: RouteRequest) -> PinOffer:
    """Another spacing, and what it saves."""
    laid_by = best_offset_sum(laid.quilt.kit, offer.fill.spacing.mm, 0.0)
    lines = f"{offer.many} lines" + (f" in place of {offer.had}" if offer.many != offer.had else "")
    return PinOffer(
        zone=offer.zone,
        fill=offer.fill.model_dump(mode="json"),
        words=[
            f"{laid.zone(offer.zone).name}: {lines}, ",
            w.shown(offer.fill.spacing.mm, body.unit, about=True),
            " apart, ",
            long_figure(offer.saved, body.unit),
            " less" if laid_by.can_be_laid else " less; no mark of your rulers makes it, so each is drawn",
        ],
    )


class PinOffer(m.Wire):
    """Another ``fill`` for ``zone``."""

    zone: str
    fill: FillDoc
    words: w.Words


class PinCostView(m.Wire):
    """``costs`` says what the pins cost, empty where that is nothing or nothing is pinned."""

    costs: w.Words
    offers: list[PinOffer]
