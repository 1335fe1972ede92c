"""One zone: its plan as typed, and where the ruler is placed for one of its lines."""

from __future__ import annotations

from flask import Response

from kenzet.core.advice.features import features_of
from kenzet.core.errors import BadValue
from kenzet.core.plan.planner import plan_zone
from kenzet.say import zone_words
from kenzet.say.zone_words import MeetView
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, laid_quilt, planned
from kenzet.web.wire import base as m
from kenzet.web.wire import zone as z
from kenzet.web.wire.ruler import ruler_view
from kenzet.web.wire.zone import typed_zone, zone_view

zones = Blueprint("zones", __name__, url_prefix="/api/quilts/<quilt>")


@zones.post("/preview", responses={200: z.ZoneView})
def preview(path: m.QuiltKey, body: z.PlanRequest) -> Response:
    """The plan of a zone as typed; nothing is stored."""
    _, kept = laid_quilt(path.quilt)
    laid = typed_zone(kept, body)
    return answer(zone_view(laid, plan_zone(laid, body.zone), body))


@zones.post("/ruler", responses={200: z.RulerView})
def ruler(path: m.QuiltKey, body: z.RulerRequest) -> Response:
    """Where the ruler is placed for one line."""
    _, kept = laid_quilt(path.quilt)
    laid = typed_zone(kept, body)
    return answer(ruler_view(planned(laid, body.zone).layered(body.layer), laid.quilt.kit, body))


@zones.post("/spacing-fits", responses={200: MeetView})
def spacing_fits(path: m.QuiltKey, body: z.MeetRequest) -> Response:
    """How the zone's fill can hit chosen features of the piecing."""
    found = planned(typed_zone(laid_quilt(path.quilt)[1], body), body.zone).layered(body.layer)
    drawing = found.drawing_at(body.place)
    features = features_of(drawing.shape)
    if max(body.features) >= len(features):
        raise BadValue(tr("This zone has {features} features.", features=len(features)), "features")
    chosen = [features[k] for k in body.features]
    ways = found.fit_to_points(drawing, [feature.point for feature in chosen], body.place)
    return answer(zone_words.meetings(ways, chosen, body.unit))
