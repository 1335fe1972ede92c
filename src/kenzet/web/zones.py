"""One zone: its plan as it is typed, and where the ruler lies for one of its lines."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.advice.continuity import flow_mend
from kenzet.core.advice.edge_step import slants, spacing_for
from kenzet.core.advice.features import features_of
from kenzet.core.advice.suited_fills import suited
from kenzet.core.changes.filling import with_fill, with_over
from kenzet.core.errors import BadValue
from kenzet.core.fills import FILLS, AnyFill, Fill, default_fill
from kenzet.core.fills.manual_lines import BY_HAND
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Frozen, forms, step_length
from kenzet.core.plan.planner import plan_quilt, plan_zone
from kenzet.core.plan.zone_plan import ZonePlan, site_at
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.document import validated
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.core.top.zone import Over
from kenzet.web import models as m
from kenzet.web import show, slip, spots
from kenzet.web import zone_models as z
from kenzet.web.at_hand import answer, laid_quilt, planned
from kenzet.web.ruler import ruler_view

zones = APIBlueprint("zones", __name__, url_prefix="/api/quilts/<quilt>")


class _OneFill(Frozen):
    fill: AnyFill


@zones.post("/plan", responses={200: z.ZoneView})
def plan(path: m.QuiltPath, body: z.PlanRequest) -> Response:
    """Reckon a zone with what is typed; nothing is kept."""
    laid = _typed(path.quilt, body)
    return answer(_zone_view(laid, plan_zone(laid, body.zone), body))


@zones.post("/ruler", responses={200: z.RulerView})
def ruler(path: m.QuiltPath, body: z.RulerRequest) -> Response:
    """Where the ruler lies for one line."""
    laid = _typed(path.quilt, body)
    return answer(ruler_view(planned(laid, body.zone).layered(body.layer), laid.quilt.kit, body))


@zones.post("/meet", responses={200: z.MeetView})
def meet(path: m.QuiltPath, body: z.MeetRequest) -> Response:
    """How the zone's fill can hit chosen features of the piecing."""
    found = planned(_typed(path.quilt, body), body.zone).layered(body.layer)
    drawing = found.drawing_at(body.place)
    features = features_of(drawing.shape)
    if max(body.features) >= len(features):
        raise BadValue(f"This zone has {len(features)} features.", "features")
    chosen = [features[k] for k in body.features]
    ways = found.meet(drawing, [feature.point for feature in chosen], body.place)
    return answer(slip.meetings(ways, chosen, body.unit))


def _typed(quilt_id: str, body: z.PlanRequest) -> LaidQuilt:
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
        fill = _stepped(fill, body.step, kept.quilt.kit)
    if body.along_edge is not None:
        fill = _by_step(laid, fill, body)
    if body.layer:
        cells = body.cells or (over.cells if over else "all")
        return laid.with_quilt(
            with_over(kept.quilt, body.zone, Over.model_validate({"fill": fill, "cells": cells}))
        )
    return laid.with_quilt(with_fill(kept.quilt, body.zone, fill, body.place))


def _by_step(laid: LaidQuilt, fill: Fill, body: z.PlanRequest) -> Fill:
    """The fill with the spacing that a typed step along the edge makes; it is remembered as typed."""
    try:
        step = Length.parse(body.along_edge or "", body.unit)
    except BadValue as error:
        raise BadValue(error.message, "along_edge") from error
    zone = laid.zone(body.zone)
    shape = laid.shape_at(zone, body.place) or laid.shapes(zone)[0]
    met = slants(shape.region, list(fill.lay_out(site_at(shape, shape.places[0], laid.middle))))
    if not met or not slip.takes_step(fill):
        raise BadValue("No edge is met at a slant here: the step is the distance itself.", "along_edge")
    values = {"spacing": spacing_for(step, met[0].degrees).text, "step": step.text}
    try:
        checked: Fill = validated(_OneFill, {"fill": {**fill.model_dump(mode="json"), **values}}).fill
    except BadValue as error:
        raise BadValue(error.message, "along_edge") from error
    return checked


def _stepped(fill: Fill, step: z.Step, kit: Kit) -> Fill:
    """One parameter moved by the marking step, or by 5 degrees, or by one."""
    form = forms(type(fill)).get(step.field)
    value = getattr(fill, step.field, None)
    if form is None or form.control == "choice":
        raise BadValue("That cannot be stepped.", "step.field")
    if form.control == "length":
        start = value if isinstance(value, Length) else fill.spacing
        moved: Any = step_length(start, kit.marking_step, step.by).text
    elif form.control == "angle":
        moved = (round(float(value or 0) / 5) + step.by) * 5 % 180
    else:
        moved = max(int(value or 0) + step.by, 1)
    values = {**fill.model_dump(mode="json"), step.field: moved}
    checked: Fill = validated(_OneFill, {"fill": values}).fill
    return checked


def _zone_view(laid: LaidQuilt, found: ZonePlan | None, body: z.PlanRequest) -> z.ZoneView:
    zone, unit = laid.zone(body.zone), body.unit
    places = laid.places(zone)
    place = body.place if body.place in places else next(iter(places))
    shape = laid.shape_at(zone, place) or next(iter(laid.shapes(zone)), None)
    region = shape.region if shape else None
    plans = plan_quilt(laid)
    view = z.ZoneView(
        zone=body.zone,
        place=place,
        where=show.place_name(place),
        times=len(places),
        apart=slip.apart(laid, zone),
        here_apart=zone.apart_at(place) is not None,
        name=zone.name,
        occurs=show.occurs(laid, zone),
        fill=None,
        layer=body.layer,
        over=zone.over.fill.label if zone.over else "",
        cells=zone.over.cells if zone.over else "all",
        pins=[pin.model_dump(mode="json") for pin in zone.pins],
        fields=[],
        step=None,
        sum=None,
        offers=[],
        figures=[],
        drift=[],
        own_ruler=zone.ruler or "",
        sew_with=zone.sew_with or laid.quilt.kit.sew_with,
        rows=[],
        notes=[],
        advice=[],
        across={},
        gap=None,
        measuring=False,
        can_meet=False,
        slivers=[],
        features=spots.features(shape) if shape else [],
        drawings=show.drawings(found),
        edges=spots.edges(region) if region else [],
        corners=spots.corners(region) if region else [],
        totals=show.totals(plans.values(), unit),
    )
    whole, found = found, found and found.layered(body.layer)
    if whole is None or found is None or not found.has_drawing_at(place):
        return view
    drawing = found.drawing_at(place)
    gap = whole.widest_gap(drawing) if body.gap else whole.quick_gap(drawing)
    view.measuring = gap is None
    view.fill = drawing.fill.model_dump(mode="json")
    view.fields = show.fields(drawing.fill, unit)
    if len(drawing.stretches) or len(found.references(drawing).marked) < drawing.lines:
        view.sum = slip.the_sum(found.sum(drawing), found.kit, unit)
        view.sum.instead = slip.instead(found.sum(drawing), unit)
    view.drift = slip.drift(found, drawing, unit)
    view.figures = slip.figures(found.figures(drawing, place), unit)
    view.can_meet = drawing.fill.can_meet
    view.notes = list(drawing.fill.notes())
    if gap and gap.place and gap.width > float(found.kit.batting.limit.mm) + VISIBLE:
        view.gap = z.GapView(x=gap.place[0], y=gap.place[1], radius=gap.width / 2)
    view.offers = slip.offers(found, drawing, place, unit)
    met = slants(drawing.region, drawing.families)
    view.step = slip.step_field(drawing.fill, met, unit)
    view.rows = slip.rows(found, drawing, met, gap, unit)
    view.advice = slip.advice(found, drawing, place, gap, unit)
    beside, told = slip.neighbourhood(laid, plans, found, place, unit)
    view.across = flow_mend(found)
    view.rows += beside
    view.rows[:0] = slip.begins(found, drawing)
    view.advice += told
    edges = drawing.region.edges
    slivers = [edges[g.edge] for g in found.edge_gaps(drawing) if g.sliver and drawing.lines]
    view.slivers = [[*edge.start, *edge.end] for edge in slivers]
    return view
