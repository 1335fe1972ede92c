"""The top as laid out and edited: arrangement, blocks, borders, fabrics, and clicks."""

from __future__ import annotations

from flask import Response

from kenzet.core.changes.zoning import pieces_of
from kenzet.core.geom.region import Region
from kenzet.core.params import Frozen
from kenzet.core.top.cutting import cloth_of, cut_up, points_of, share_of
from kenzet.core.top.document import validated
from kenzet.core.top.pick import picked
from kenzet.core.top.zone import Cut
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, laid_quilt
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn, spots
from kenzet.web.wire.top import (
    CutRequest,
    CutView,
    PickRequest,
    PickView,
    PointsRequest,
    PointsView,
    PointView,
    TopView,
    along_edge,
    top_of,
)

top = Blueprint("top", __name__, url_prefix="/api/quilts/<quilt>")


class _OneCut(Frozen):
    cut: Cut


@top.get("/top", responses={200: TopView})
def top_view(path: m.QuiltKey, query: m.Reading) -> Response:
    """The top as laid out."""
    _, laid = laid_quilt(path.quilt)
    return answer(top_of(laid.quilt, query.unit))


@top.post("/hit-test", responses={200: PickView})
def pick(path: m.QuiltKey, body: PickRequest) -> Response:
    """What a click on a patch selects."""
    _, laid = laid_quilt(path.quilt)
    return answer(PickView(refs=picked(laid, body.ref, body.how)))


@top.post("/cut", responses={200: CutView})
def cut(path: m.QuiltKey, body: CutRequest) -> Response:
    """What a cut would result in; nothing is stored."""
    _, laid = laid_quilt(path.quilt)
    wanted = validated(_OneCut, {"cut": body.cut}, body.unit).cut
    zone = laid.zone(body.zone)
    names = [name for name, _ in pieces_of(laid, zone, wanted, body.alike)]
    part = laid.parts(zone.part)[0]
    pieces, _ = cut_up(part, cloth_of(part, zone), wanted)
    return answer(CutView(names=names, part=part.key, rings=drawn.rings(pieces)))


@top.post("/cut-points", responses={200: PointsView})
def cut_points(path: m.QuiltKey, body: PointsRequest) -> Response:
    """Where a line may begin and end in a zone."""
    _, laid = laid_quilt(path.quilt)
    zone = laid.zone(body.zone)
    part = laid.parts(zone.part)[0]
    cloth = cloth_of(part, zone)
    region = Region(cloth.area, cloth.soft)
    points = [
        PointView(at=list(at), share=list(share_of(part, at)), name=name)
        for name, at in points_of(part, cloth, zone.patches)
    ]
    measured = None
    if body.edge is not None:
        at = along_edge(region, body.edge, body.along, body.unit)
        measured = PointView(at=list(at), share=list(share_of(part, at)), name="measured")
    return answer(PointsView(points=points, edges=spots.edges(region), measured=measured))
