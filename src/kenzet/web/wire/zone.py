"""Models of one zone: its panel, its ruler, what it can meet."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from kenzet.core.advice import edge_step
from kenzet.core.advice.edge_step import slants, spacing_for
from kenzet.core.advice.suited_fills import suited
from kenzet.core.changes.alike import alike, placing_between, turned_fill
from kenzet.core.changes.filling import with_fill, with_over
from kenzet.core.errors import BadValue
from kenzet.core.fills import FILLS, AnyFill, Fill, default_fill
from kenzet.core.fills.manual_lines import BY_HAND
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import Length, Unit
from kenzet.core.params import Choice, Form, Frozen, forms, step_length
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan, site_at
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.document import validated
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import Cells, Over, Zone
from kenzet.say import sum_words, whereabouts, zone_advice, zone_words
from kenzet.say import words as w
from kenzet.say.ruler_words import CurveView, RulerChoice
from kenzet.say.sum_words import Offer, SumView
from kenzet.say.zone_words import ApartView
from kenzet.texts import tr
from kenzet.web.wire import drawn, spots
from kenzet.web.wire.base import DrawingView, Layer, Number, PlaceKey, Reading, Spot, Wire, ZoneKey
from kenzet.web.wire.docs import FillDoc
from kenzet.web.wire.spots import FeatureView
from kenzet.web.wire.top import EDGE_HELP, ENDS


class GapView(Wire):
    """The widest gap if it is too wide: the circle's center and radius; mm in the part, y up."""

    x: float
    y: float
    radius: float


class ZoneView(Wire):
    """A zone with its plan as the panel shows it. Nothing here is stored yet.

    ``measuring`` is true if the widest gap takes long and was not waited for. ``own_ruler`` is the key of the
    ruler chosen for the zone. ``known`` is advice, the most harmful first. ``over`` names the fill on top,
    ``cells`` where it is. ``times`` is the number of its places in the quilt, ``here_apart`` whether the present
    place has a fill of its own.
    """

    zone: str
    place: str
    where: str
    times: int
    apart: list[ApartView]
    here_apart: bool
    name: str
    occurs: str
    fill: FillDoc | None
    layer: int
    over: str
    cells: str
    pins: list[FillDoc]
    fields: list[w.FieldView]
    step: w.FieldView | None
    sum: SumView | None
    offers: list[Offer]
    figures: list[w.Row]
    own_ruler: str
    sew_with: str
    begin_other: bool
    second_first: bool
    orders: list[str]
    ends: list[w.FieldView]
    alike: list[str]
    rows: list[w.Row]
    known: list[w.Known]
    gap: GapView | None
    measuring: bool
    can_meet: bool
    features: list[FeatureView]
    slivers: list[list[float]]
    drawings: list[DrawingView]
    edges: list[Spot]
    corners: list[Spot]
    totals: list[w.Total]


class PlanRequest(Reading):
    """A zone to plan with what is typed; without ``fill`` the stored one is used. Nothing is stored.

    ``switch`` changes to another fill and keeps the settings that apply; ``along_edge`` is a step along the edge
    that lines meet at an angle, which gives the spacing. Layer 1 is the fill on top, in ``cells`` of the one
    below. ``gap`` waits for the widest gap, however long it takes.
    """

    zone: ZoneKey
    place: PlaceKey = ""
    fill: FillDoc | None = None
    switch: str | None = None
    step: ParameterStep | None = None
    along_edge: Annotated[str, Field(max_length=80)] | None = None
    layer: Layer = 0
    cells: Cells | None = None
    gap: bool = False


class MeetRequest(PlanRequest):
    """Features, by index, that lines must hit; the first one is the datum."""

    features: Annotated[list[Number], Field(min_length=2, max_length=12)]


class RulerRequest(PlanRequest):
    """The line: its number in the drawing (null: one that shows it well), and the side of a ring. Side -1 is the
    longest."""

    line: Number | None = None
    side: Annotated[int, Field(ge=-1, le=1_000_000)] = -1


class StopView(Wire):
    """An end of the line: where the needle stops, and where the ruler's edge crosses the seam."""

    needle: list[float]
    edge: list[float]
    words: w.Words


class RulerView(Wire):
    """The ruler as placed, in the part's coordinates: mm, y up."""

    line: int
    ends: list[float]
    body: list[float]
    etched: list[list[float]]
    chosen: int | None
    foot: list[float]
    radius: float
    stops: list[StopView]
    laid: w.Words
    sum: SumView | None
    rows: list[w.Row]
    curves: list[CurveView]
    rulers: list[RulerChoice]
    ruler: str
    tag: w.Words
    caution: str


class _OneFill(Frozen):
    fill: AnyFill


def by_step(laid: QuiltLayout, fill: Fill, body: PlanRequest) -> Fill:
    """The fill with the spacing that a typed step along the edge makes; the step is kept as typed."""
    try:
        step = Length.parse(body.along_edge or "", body.unit)
    except BadValue as error:
        raise BadValue(error.message, "along_edge") from error
    zone = laid.zone(body.zone)
    shape = laid.shape_at(zone, body.place) or laid.shapes(zone)[0]
    met = slants(shape.uncut, list(fill.lay_out(site_at(shape, shape.places[0], laid.middle))))
    if not met or not edge_step.takes_step(fill):
        raise BadValue(
            tr("Lines meet no edge at an angle here, so the step equals the spacing."), "along_edge"
        )
    values = {"spacing": spacing_for(step, met[0].degrees).text, "step": step.text}
    try:
        checked: Fill = validated(_OneFill, {"fill": {**fill.model_dump(mode="json"), **values}}).fill
    except BadValue as error:
        raise BadValue(error.message, "along_edge") from error
    return checked


def stepped(fill: Fill, step: ParameterStep, kit: Kit) -> Fill:
    """One parameter moved by the marking step, by 5 degrees, or by one."""
    form = forms(type(fill)).get(step.field)
    value = getattr(fill, step.field, None)
    if form is None or form.control == "choice":
        raise BadValue(tr("That cannot be stepped."), "step.field")
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


NOTHING_LAID: dict[str, Any] = {
    "fill": None, "fields": [], "step": None, "sum": None, "offers": [], "figures": [], "rows": [], "known": [], "gap": None, "measuring": False, "can_meet": False, "slivers": [], "orders": [],
}  # fmt: skip
"""The fields about lines, for a zone without lines."""


def zone_view(laid: QuiltLayout, found: ZonePlan | None, body: PlanRequest) -> ZoneView:
    """The panel of a zone, with what is typed."""
    zone = laid.zone(body.zone)
    places = laid.places(zone)
    place = body.place if body.place in places else next(iter(places))
    plans = plan_quilt(laid)
    view = _zone_view(laid, zone, place, body, found, w.totals(laid, plans, body.unit))
    layered = found.layered(body.layer) if found else None
    if found is None or layered is None or not layered.has_drawing_at(place):
        return view
    drawing = layered.drawing_at(place)
    gap = found.widest_gap(drawing) if body.gap else found.quick_gap(drawing)
    view.measuring = gap is None
    if gap and gap.place and gap.width > float(layered.kit.batting.limit.mm) + VISIBLE:
        view.gap = GapView(x=gap.place[0], y=gap.place[1], radius=gap.width / 2)
    met = slants(drawing.shape.uncut, drawing.families)
    view.orders = list(zone_words.ORDERS[drawing.comes_in])
    _say_fill(view, layered, drawing, place, body.unit)
    _say_lines(view, layered, drawing, body.unit)
    view.step = zone_words.step_field(drawing.fill, met, body.unit)
    view.rows = (
        zone_words.begins(layered, drawing, drawing.shape.part.places[place])
        + zone_words.rows(layered, drawing, met, gap, body.unit)
        + zone_words.beyond_edge(laid, layered, drawing, place, body.unit)
        + zone_words.neighbourhood(laid, plans, layered, place, body.unit)
    )
    view.known = zone_advice.known(laid, plans, layered, drawing, place, gap, body.unit) + view.known
    return view


def _zone_view(
    laid: QuiltLayout,
    zone: Zone,
    place: str,
    body: PlanRequest,
    found: ZonePlan | None,
    totals: list[w.Total],
) -> ZoneView:
    """The part of the panel that does not depend on its fill."""
    shape = laid.shape_at(zone, place) or next(iter(laid.shapes(zone)), None)
    return ZoneView(
        zone=body.zone,
        place=place,
        where=whereabouts.place_name(place),
        times=len(laid.places(zone)),
        apart=zone_words.apart(laid, zone),
        here_apart=zone.apart_at(place) is not None,
        name=zone.name,
        occurs=whereabouts.occurs(laid, zone, found),
        layer=body.layer,
        over=zone.over.fill.label if zone.over else "",
        cells=zone.over.cells if zone.over else "all",
        pins=[pin.model_dump(mode="json") for pin in zone.pins],
        own_ruler=zone.ruler or "",
        sew_with=zone.sew_with or laid.quilt.kit.sew_with,
        begin_other=zone.begin_other,
        second_first=zone.second_first,
        ends=_ends(laid, zone, body.unit),
        alike=_open_alike(laid, body.zone, zone),
        features=spots.features(shape) if shape else [],
        edges=spots.edges(shape.uncut) if shape else [],
        corners=spots.corners(shape.uncut) if shape else [],
        drawings=drawn.drawings(found),
        totals=totals,
        **NOTHING_LAID,
    )


def _open_alike(laid: QuiltLayout, key: str, zone: Zone) -> list[str]:
    """The zones of the same outline without the same fill, each at its own angle."""
    if zone.fill is None:
        return []
    found = []
    for other in alike(laid, key):
        placing = placing_between(laid, key, other)
        one, its = (laid.shapes(laid.zone(k))[0].uncut for k in (key, other))
        if placing is not None and laid.zone(other).fill != turned_fill(zone.fill, one, its, placing):
            found.append(other)
    return found


def _ends(laid: QuiltLayout, zone: Zone, unit: Unit) -> list[w.FieldView]:
    """Where its lines end at the quilt's edge; empty for a zone that does not touch it."""
    if not laid.is_laid(zone) or not laid.reaches_edge(zone):
        return []
    as_quilt = next(choice.label for choice in ENDS if choice.key == laid.quilt.line_ends)
    choices = (Choice("", tr("as in the quilt: {as_quilt}", as_quilt=as_quilt)), *ENDS)
    by = zone.edge or laid.quilt.edge
    return [
        w.field("line_ends", Form("choice", tr("At the quilt’s edge lines end"), EDGE_HELP, choices=choices), zone.line_ends or "", unit),
        w.field("edge", Form("length", tr("by"), EDGE_HELP), by, unit, zone.line_ends in ("off the edge", "inside")),
    ]  # fmt: skip


def _say_fill(view: ZoneView, plan: ZonePlan, drawing: Drawing, place: str, unit: Unit) -> None:
    """The fill with its fields, its figures, and spacings that suit it better."""
    fill = drawing.fill
    view.fill = fill.model_dump(mode="json")
    view.fields = w.fields(fill, unit)
    view.can_meet = fill.can_meet
    view.figures = zone_words.figures(plan.figures(drawing, place), unit)
    offers, refused = zone_words.by_her_curves(plan, drawing, place, unit)
    view.offers = zone_words.offers(plan, drawing, place, unit) + offers
    view.known = [w.Known(words=words, tone="tells") for words in refused]


def _say_lines(view: ZoneView, plan: ZonePlan, drawing: Drawing, unit: Unit) -> None:
    """Where the ruler goes for its lines, their drift, the gaps at the edges."""
    if len(drawing.stretches) or _is_laid_by_a_sum(plan, drawing):
        view.sum = sum_words.the_sum(plan.sum(drawing), plan.kit, unit)
        view.sum.instead = sum_words.instead(plan.sum(drawing), unit)
    slivers = [
        drawing.shape.uncut.edges[g.edge] for g in plan.edge_remainders(drawing) if g.sliver and drawing.lines
    ]
    view.slivers = [[*edge.start, *edge.end] for edge in slivers]


def _is_laid_by_a_sum(plan: ZonePlan, drawing: Drawing) -> bool:
    """Whether the line that best shows how the others are placed uses an etched line: curves and templates have no
    sum."""
    if not drawing.lines:
        return False
    on = planned(plan, drawing, plan.telling_line(drawing))
    return (on.sides[0] if on.sides else on).by in ("etched line", "edge behind", "gauge") and on.on != "mark"


def typed_zone(laid: QuiltLayout, body: PlanRequest) -> QuiltLayout:
    """The quilt with the typed fill in its zone. Raises Unknown; BadValue at ``switch``, ``fill.…``, ``step.…`` or
    ``along_edge``."""
    zone = laid.zone(body.zone)
    if body.layer == BY_HAND:
        return laid
    over = zone.over
    kept_fill = zone.fill_at(body.place) if body.layer == 0 else over and over.fill
    given: Any = body.fill if body.fill is not None else (kept_fill and kept_fill.model_dump(mode="json"))
    if body.switch is not None:
        if body.switch not in FILLS:
            raise BadValue(tr("There is no fill called {switch}.", switch=body.switch[:40]), "switch")
        found = suited(laid, body.zone, body.switch, given, body.place)
        fill: Fill = found.fill if found else default_fill(body.switch, given)
    elif given is None:
        return laid
    else:
        fill = validated(_OneFill, {"fill": given}, body.unit).fill
    if body.step:
        fill = stepped(fill, body.step, laid.quilt.kit)
    if body.along_edge is not None:
        fill = by_step(laid, fill, body)
    if body.layer:
        cells = body.cells or (over.cells if over else "all")
        return laid.with_quilt(
            with_over(laid.quilt, body.zone, Over.model_validate({"fill": fill, "cells": cells}))
        )
    return laid.with_quilt(with_fill(laid.quilt, body.zone, fill, body.place))


class ParameterStep(Wire):
    """One step of a parameter by the marking step."""

    field: str
    by: Annotated[int, Field(ge=-200, le=200)]
