"""The ruler bench: what the screen needs to move a ruler over a zone, and where one is placed for a line."""

from __future__ import annotations

from flask import Response

from kenzet.core.bench.place_ruler import placement_for
from kenzet.say.ruler_words import fit_words
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, laid_quilt, planned
from kenzet.web.wire import base as m
from kenzet.web.wire.bench import (
    BenchRequest,
    BenchView,
    CurveRequest,
    FoundCurve,
    LayRequest,
    LayView,
    bench_of,
    curve_length,
    found_curve,
)

bench = Blueprint("bench", __name__, url_prefix="/api/quilts/<quilt>")


@bench.post("/bench", responses={200: BenchView})
def bench_view(path: m.QuiltKey, body: BenchRequest) -> Response:
    """A zone and all rulers of the kit."""
    _, laid = laid_quilt(path.quilt)
    return answer(bench_of(laid, body))


@bench.post("/bench/lay", responses={200: LayView})
def lay(path: m.QuiltKey, body: LayRequest) -> Response:
    """Where a ruler is placed for a planned line."""
    _, laid = laid_quilt(path.quilt)
    found = planned(laid, body.zone).layered(body.layer)
    drawing = found.drawing_at(body.place)
    line = found.telling_line(drawing) if body.line is None else body.line
    laid_so = placement_for(found, drawing, line, body.side, laid.quilt.kit, body.ruler or "")
    at = laid_so.lay
    fit = laid_so.fit and fit_words(laid.quilt.kit, laid_so.fit, body.unit)
    return answer(
        LayView(line=line, ruler=laid_so.ruler, edge=laid_so.edge, x=at.x, y=at.y, angle=at.angle, fit=fit)
    )


@bench.post("/curve", responses={200: FoundCurve})
def curve(path: m.QuiltKey, body: CurveRequest) -> Response:
    """The radius of a curve from chord and rise (F24), and the ruler edges that sew it."""
    _, laid = laid_quilt(path.quilt)
    chord, rise = (curve_length(body, name) for name in ("chord", "rise"))
    return answer(found_curve(laid.quilt.kit, float(chord.mm), float(rise.mm), body.unit))
