"""One zone: its plan as it is typed, and where the ruler lies for one of its lines."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.advice.features import features_of
from kenzet.core.advice.suited_fills import suited
from kenzet.core.changes.filling import with_fill, with_over
from kenzet.core.errors import BadValue
from kenzet.core.fills import FILLS, Fill, default_fill
from kenzet.core.fills.manual_lines import BY_HAND
from kenzet.core.plan.planner import plan_zone
from kenzet.core.top.document import validated
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import Over
from kenzet.say import zone_words
from kenzet.say.zone_words import MeetView
from kenzet.web.request_context import answer, laid_quilt, planned
from kenzet.web.wire import base as m
from kenzet.web.wire import zone as z
from kenzet.web.wire.ruler import ruler_view
from kenzet.web.wire.zone import _OneFill, by_step, stepped, zone_view

zones = APIBlueprint("zones", __name__, url_prefix="/api/quilts/<quilt>")


@zones.post("/plan", responses={200: z.ZoneView})
def plan(path: m.QuiltKey, body: z.PlanRequest) -> Response:
    """Reckon a zone with what is typed; nothing is kept."""
    laid = _typed(path.quilt, body)
    return answer(zone_view(laid, plan_zone(laid, body.zone), body))


@zones.post("/ruler", responses={200: z.RulerView})
def ruler(path: m.QuiltKey, body: z.RulerRequest) -> Response:
    """Where the ruler lies for one line."""
    laid = _typed(path.quilt, body)
    return answer(ruler_view(planned(laid, body.zone).layered(body.layer), laid.quilt.kit, body))


@zones.post("/meet", responses={200: MeetView})
def meet(path: m.QuiltKey, body: z.MeetRequest) -> Response:
    """How the zone's fill can hit chosen features of the piecing."""
    found = planned(_typed(path.quilt, body), body.zone).layered(body.layer)
    drawing = found.drawing_at(body.place)
    features = features_of(drawing.shape)
    if max(body.features) >= len(features):
        raise BadValue(f"This zone has {len(features)} features.", "features")
    chosen = [features[k] for k in body.features]
    ways = found.meet(drawing, [feature.point for feature in chosen], body.place)
    return answer(zone_words.meetings(ways, chosen, body.unit))


def _typed(quilt_id: str, body: z.PlanRequest) -> QuiltLayout:
    """The quilt with the typed fill in its zone."""
    kept, laid = laid_quilt(quilt_id)
    zone = laid.zone(body.zone)
    if body.layer == BY_HAND:
        return laid
    over = zone.over
    kept_fill = zone.fill_at(body.place) if body.layer == 0 else over and over.fill
    given: Any = body.fill if body.fill is not None else (kept_fill and kept_fill.model_dump(mode="json"))
    if body.switch is not None:
        if body.switch not in FILLS:
            raise BadValue(f"There is no fill called {body.switch[:40]}.", "switch")
        found = suited(laid, body.zone, body.switch, given, body.place)
        fill: Fill = found.fill if found else default_fill(body.switch, given)
    elif given is None:
        return laid
    else:
        fill = validated(_OneFill, {"fill": given}, body.unit).fill
    if body.step:
        fill = stepped(fill, body.step, kept.quilt.kit)
    if body.along_edge is not None:
        fill = by_step(laid, fill, body)
    if body.layer:
        cells = body.cells or (over.cells if over else "all")
        return laid.with_quilt(
            with_over(kept.quilt, body.zone, Over.model_validate({"fill": fill, "cells": cells}))
        )
    return laid.with_quilt(with_fill(kept.quilt, body.zone, fill, body.place))
