"""Fills side by side: the gallery of those that suit a zone, and the variants kept to compare."""

from __future__ import annotations

from flask import Response

from kenzet.core.advice.suited_fills import gallery, try_fill
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, laid_quilt
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn
from kenzet.web.wire.variants import (
    GalleryView,
    VariantsView,
    ZoneRequest,
    card,
    patches_of,
    shape_of,
    table_of,
)

variants = Blueprint("variants", __name__, url_prefix="/api/quilts/<quilt>")


VariantsView.model_rebuild()


@variants.post("/gallery", responses={200: GalleryView})
def show_gallery(path: m.QuiltKey, body: ZoneRequest) -> Response:
    """Every fill that suits the zone, at sensible settings."""
    _, laid = laid_quilt(path.quilt)
    zone = laid.zone(body.zone)
    shape, place = shape_of(laid, body)
    held = zone.fill_at(place)
    given = held.model_dump(mode="json") if held else None
    cards = [card(found, laid.quilt.stitching, body.unit) for found in gallery(laid, body.zone, given, place)]
    return answer(
        GalleryView(rings=drawn.rings(shape.region.area.geoms), patches=patches_of(shape), cards=cards)
    )


@variants.post("/variants", responses={200: VariantsView})
def show_variants(path: m.QuiltKey, body: ZoneRequest) -> Response:
    """The kept variants, drawn and compared."""
    _, laid = laid_quilt(path.quilt)
    shape, place = shape_of(laid, body)
    pins = [try_fill(laid, body.zone, fill, shape, place) for fill in laid.zone(body.zone).pins]
    found = [pin for pin in pins if pin is not None]
    view = VariantsView(
        rings=drawn.rings(shape.region.area.geoms),
        patches=patches_of(shape),
        cards=[card(pin, laid.quilt.stitching, body.unit) for pin in found],
        table=table_of(found, laid.quilt.stitching, body.unit),
    )
    return answer(view)
