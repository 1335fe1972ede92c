"""The cost of a pinned end, and spacings that end there without a detour."""

from __future__ import annotations

from kenzet.core.advice.pinned_ends import Offer
from kenzet.core.numbers.measure import long_figure
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.texts import tr
from kenzet.web.wire import base as m
from kenzet.web.wire.docs import FillDoc
from kenzet.web.wire.route import RouteRequest


def offer_view(laid: QuiltLayout, offer: Offer, body: RouteRequest) -> PinOffer:
    """Another spacing, and what it saves."""
    laid_by = best_offset_sum(laid.quilt.kit, offer.fill.spacing.mm, 0.0)
    lines = tr("{many} lines", many=offer.many) + (
        tr(" in place of {had}", had=offer.had) if offer.many != offer.had else ""
    )
    return PinOffer(
        zone=offer.zone,
        fill=offer.fill.model_dump(mode="json"),
        words=w.told(
            "{name}: {lines}, {mm} apart, {saved}{which}",
            name=laid.zone(offer.zone).name,
            lines=lines,
            mm=w.shown(offer.fill.spacing.mm, body.unit, about=True),
            saved=long_figure(offer.saved, body.unit),
            which=tr(" less travel")
            if laid_by.can_be_laid
            else tr(" less travel; none of your rulers makes this spacing, so each line is marked"),
        ),
    )


class PinOffer(m.Wire):
    """Another ``fill`` for ``zone``, and what it saves."""

    zone: str
    fill: FillDoc
    words: w.Words


class PinCostView(m.Wire):
    """``costs`` says what the pins cost; empty if nothing is pinned or it costs nothing."""

    costs: w.Words
    offers: list[PinOffer]
