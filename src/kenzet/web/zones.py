"""One zone: its plan as it is typed, where the ruler lies, its marks and its sheets; and the kit."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from flask import Response, current_app
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import BadValue
from kenzet.core.fills import FILLS, AnyFill, Fill, default_fill
from kenzet.core.kit.kit import Kit
from kenzet.core.marks.sheet import MarkSheet, mark_sheet
from kenzet.core.marks.ticks import edge_names
from kenzet.core.measure import Length, Unit, in_words, long_figure
from kenzet.core.params import Form, Frozen, forms, step_length
from kenzet.core.plan import Drawing, LaidQuilt, ZonePlan, check_kit, plan_quilt, plan_zone
from kenzet.core.steps import slants
from kenzet.core.top.changes import with_zone
from kenzet.core.top.document import validated
from kenzet.formats.pdf import pages_of, pdf
from kenzet.formats.svg import svg
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import laid_quilt

zones = APIBlueprint("zones", __name__, url_prefix="/api/quilts/<quilt>")

CAUTION = (
    "Only a ruler foot against a thick ruler, as your machine's manual says. Needle down and the machine "
    "stopped before you move the ruler; fingers behind its edge."
)
MARK_CAUTION = "Try the marker on a scrap of this fabric first, and do not press the quilt with the marks in."


class _OneFill(Frozen):
    fill: AnyFill


@zones.post("/plan", responses={200: m.ZoneView})
def plan(path: m.QuiltPath, body: m.PlanRequest) -> Response:
    """Reckon a zone with what is typed; nothing is kept."""
    laid = _typed(path.quilt, body)
    return _json(_zone_view(laid, plan_zone(laid, body.zone), body))


@zones.post("/ruler", responses={200: m.RulerView})
def ruler(path: m.QuiltPath, body: m.RulerRequest) -> Response:
    """Where the ruler lies for one line."""
    found = _planned(_typed(path.quilt, body), body.zone)
    return _json(_ruler_view(found, body))


@zones.post("/marks", responses={200: m.MarksView})
def marks(path: m.QuiltPath, body: m.MarksRequest) -> Response:
    """The marks of a zone as it is kept."""
    _, laid = laid_quilt(path.quilt)
    return _json(_marks_view(laid, _planned(laid, body.zone), body))


@zones.post("/kit", responses={200: m.KitView})
def kit(path: m.QuiltPath, body: m.KitRequest) -> Response:
    """Check a kit as typed; nothing is kept."""
    kept, laid = laid_quilt(path.quilt)
    typed = kept.quilt.kit
    if body.kit is not None:
        typed = validated(Kit, body.kit, body.unit, "kit")
        check_kit(laid.with_quilt(kept.quilt.model_copy(update={"kit": typed})))
    return _json(_kit_view(typed, body.unit))


@zones.get("/zones/<zone>/sheet.pdf")
def sheet_pdf(path: m.ZonePath, query: m.SheetQuery) -> Response:
    """The mark sheet at true size, tiled over pages."""
    return _file(pdf(_sheet(path, query), query.paper), "application/pdf", f"{path.zone}-marks.pdf")


@zones.get("/zones/<zone>/sheet.svg")
def sheet_svg(path: m.ZonePath, query: m.SheetQuery) -> Response:
    """The mark sheet at true size as one drawing."""
    return _file(svg(_sheet(path, query), query.unit), "image/svg+xml", f"{path.zone}-marks.svg")


def _typed(quilt_id: str, body: m.PlanRequest) -> LaidQuilt:
    """The quilt with the typed fill in its zone."""
    kept, laid = laid_quilt(quilt_id)
    zone = laid.zone(body.zone)
    given: Any = body.fill if body.fill is not None else (zone.fill and zone.fill.model_dump(mode="json"))
    if body.switch is not None:
        if body.switch not in FILLS:
            raise BadValue(f"There is no fill called {body.switch[:40]}.", "switch")
        fill: Fill = default_fill(body.switch, given)
    elif given is None:
        return laid
    else:
        fill = validated(_OneFill, {"fill": given}, body.unit).fill
    if body.step:
        fill = _stepped(fill, body.step, kept.quilt.kit)
    return laid.with_quilt(with_zone(kept.quilt, body.zone, fill=fill))


def _stepped(fill: Fill, step: m.Step, kit: Kit) -> Fill:
    """One parameter moved by the marking step, or by 5 degrees, or by one."""
    form = forms(type(fill)).get(step.field)
    value = getattr(fill, step.field, None)
    if form is None or form.control == "choice":
        raise BadValue("That cannot be stepped.", "step.field")
    if form.control == "length":
        moved: Any = step_length(
            value if isinstance(value, Length) else fill.spacing, kit.marking_step, step.by
        ).text
    elif form.control == "angle":
        moved = (round(float(value or 0) / 5) + step.by) * 5 % 180
    else:
        moved = max(int(value or 0) + step.by, 1)
    values = {**fill.model_dump(mode="json"), step.field: moved}
    checked: Fill = validated(_OneFill, {"fill": values}).fill
    return checked


def _planned(laid: LaidQuilt, key: str) -> ZonePlan:
    found = plan_zone(laid, key)
    if found is None:
        raise BadValue("This zone is left open: choose a fill for it first.", "zone")
    return found


def _zone_view(laid: LaidQuilt, found: ZonePlan | None, body: m.PlanRequest) -> m.ZoneView:
    zone, unit = laid.zone(body.zone), body.unit
    region, part = laid.region(zone), laid.top.parts[zone.part]
    view = m.ZoneView(
        zone=body.zone,
        name=zone.name,
        occurs=show.occurs(part, len(zone.patches)),
        fill=None,
        fields=[],
        sum=None,
        offers=[],
        rows=[],
        advice=[],
        drawings=show.drawings(found),
        edges=show.spots(region.edges, edge_names(region)),
        corners=[m.Spot(points=list(c), name=f"corner {n}") for n, c in enumerate(region.corners, 1)],
        totals=show.totals(plan_quilt(laid).values(), unit),
    )
    if found is None:
        return view
    drawing = found.drawing_at(body.placing)
    gap = found.widest_gap(drawing)
    view.fill = found.fill.model_dump(mode="json")
    view.fields = show.fields(found.fill, unit)
    view.sum = show.the_sum(found.sum, unit)
    view.offers = show.offers(found, body.placing, unit)
    view.rows = show.rows(found, drawing, slants(region, drawing.families), gap, unit)
    view.advice = show.advice(found, drawing, gap, unit)
    return view


def _ruler_view(found: ZonePlan, body: m.RulerRequest) -> m.RulerView:
    drawing, unit = found.drawing_at(body.placing), body.unit
    pose, reference, reckoned = found.pose(drawing, body.line, body.side)
    start, end = found.line_ends(drawing, body.line, body.side)
    on = {"seam": "the seam", "line": "your last line", "mark": "the drawn line"}[reference.kind]
    marked = reference.kind == "mark"
    total = "from the seam" if reference.kind == "seam" else "apart"
    the_sum = None if marked else show.the_sum(reckoned, unit, on, total)
    foot = show.shown(found.kit.foot.offset.mm, unit)
    laid: m.Words = (
        ["No seam gives this line: draw it, and lay the ruler's edge ", foot, " beside the drawn line."]
        if marked
        else [f"Laid on {on}, ", show.shown(reckoned.spacing, unit), " away."]
    )
    moves = "the ruler is long enough" if pose.moves == 0 else f"slide the ruler along {pose.moves} times"
    rows = [
        m.Row(
            label=["This line"],
            words=[
                show.shown(_length(start, end), unit, Fraction(1, 16) if unit == "in" else Fraction(1, 2))
            ],
        ),
        m.Row(label=["The ruler"], words=[moves]),
    ]
    stops = []
    for name, stop in zip(("start", "end"), pose.stops, strict=True):
        words: m.Words = [f"Needle stops at the {name}"]
        if stop.along is not None:
            words += [
                "; the ruler's edge crosses the seam ",
                show.shown(stop.along, unit, Fraction(1, 32) if unit == "in" else None),
                " from there",
            ]
        stops.append(m.StopView(needle=list(stop.needle), edge=list(stop.edge), words=words))
    return m.RulerView(
        line=body.line,
        ends=[*start, *end],
        body=[v for point in pose.body for v in point],
        etched=[list(line) for line in pose.etched],
        chosen=None if marked else pose.chosen,
        foot=list(pose.foot),
        radius=pose.foot_radius,
        stops=stops,
        laid=laid,
        sum=the_sum,
        rows=rows,
        tag=_tag(reckoned, on, unit, marked),
        caution=CAUTION,
    )


def _tag(reckoned: Any, on: str, unit: Unit, marked: bool) -> m.Words:
    if marked:
        return ["edge ", show.shown(reckoned.foot, unit), " from the drawn line"]
    if reckoned.etched is None:
        return (
            ["edge ", show.shown(reckoned.behind, unit), f" behind {on}"]
            if reckoned.behind > 0
            else ["no etched line fits"]
        )
    return (
        ["edge on ", on]
        if reckoned.etched == 0
        else [show.shown(reckoned.etched, unit, bare=True), f" mark on {on}"]
    )


def _length(start: tuple[float, float], end: tuple[float, float]) -> float:
    return float(((end[0] - start[0]) ** 2 + (end[1] - start[1]) ** 2) ** 0.5)


def _marks_view(laid: LaidQuilt, found: ZonePlan, body: m.MarksRequest) -> m.MarksView:
    unit, drawing = body.unit, found.drawing_at(body.placing)
    method = body.method or found.zone.marking
    step = found.kit.marking_step.mm
    marked = found.marked(drawing, method)
    pages = pages_of(mark_sheet(found, drawing, method, laid.quilt.name, unit), body.paper)
    times = len(found.part.placings)
    pen = sum(_line_length(drawing, number) for number in marked)
    laid_rest = drawing.lines - len(marked)
    return m.MarksView(
        zone=body.zone,
        name=found.zone.name,
        occurs=show.occurs(found.part, len(found.zone.patches)),
        method=method,
        methods=[_method(found, drawing, "first lines"), _method(found, drawing, "all lines")],
        marked=marked,
        edges=_edges(found, drawing, unit, step),
        pages=len(pages.tiles),
        pages_words=f"{len(pages.tiles)} page{'s' if len(pages.tiles) != 1 else ''}, {pages.columns} across and {pages.rows} down",
        rows=[
            m.Row(label=["Lines to draw here"], words=[f"{len(marked)} of {drawing.lines}"]),
            m.Row(label=["Laid by ruler, no mark"], words=[f"{laid_rest}"]),
            m.Row(
                label=["Pen line here" + (" · in the quilt" if times > 1 else "")],
                words=[_pen(pen, times, unit)],
            ),
            m.Row(label=["Ticks rounded to"], words=[show.shown(step, unit)]),
        ],
        note=_marks_note(drawing, marked, unit, found),
        caution=MARK_CAUTION,
        drawings=show.drawings(found),
        totals=show.totals(plan_quilt(laid).values(), unit),
    )


def _pen(pen: float, times: int, unit: Unit) -> str:
    return (
        f"{long_figure(pen, unit)} · {long_figure(pen * times, unit)}"
        if times > 1
        else long_figure(pen, unit)
    )


def _marks_note(drawing: Drawing, marked: list[int], unit: Unit, found: ZonePlan) -> m.Words:
    if drawing.rings:
        return ["Rings meet no edge: each is laid on the seam or on the ring outside it, all the way round."]
    if not marked:
        return ["A seam gives the first line of every family, and each line gives the next: nothing to draw."]
    return [
        "Drawn where no seam runs along the lines; every other line is laid ",
        show.shown(found.fill.spacing.mm, unit),
        " from the one before.",
    ]


def _method(found: ZonePlan, drawing: Drawing, method: Any) -> m.MethodView:
    count = len(found.marked(drawing, method))
    label = "First of each family" if method == "first lines" else "All the lines"
    said = "none to draw" if count == 0 else f"{count} to draw"
    return m.MethodView(key=method, label=label, words=[said])


def _line_length(drawing: Drawing, number: int) -> float:
    if number < len(drawing.stretches):
        return float(drawing.stretches.lengths[number])
    return drawing.rings[number - len(drawing.stretches)].length


def _edges(found: ZonePlan, drawing: Drawing, unit: Unit, step: Fraction) -> list[m.EdgeView]:
    views = []
    for ticked in found.ticked(drawing):
        upright = abs(ticked.edge.end[0] - ticked.edge.start[0]) < 1e-3
        views.append(
            m.EdgeView(
                name=ticked.name,
                from_corner="top" if upright else "left",
                points=[*ticked.edge.start, *ticked.edge.end],
                ticks=[
                    m.TickView(
                        points=list(ticked.edge.at(float(tick.at))),
                        shown=show.shown(tick.drawn, unit, bare=True),
                        error=_error(tick.error, unit),
                    )
                    for tick in ticked.ticks
                ],
                note=show.edge_note(ticked, unit, step),
            )
        )
    return views


def _error(error: Fraction, unit: Unit) -> m.Words:
    if abs(error) < Fraction(1, 100):
        return ["exact"]
    return [
        show.shown(abs(error), unit, Fraction(1, 64) if unit == "in" else None),
        " over" if error > 0 else " under",
    ]


def _sheet(path: m.ZonePath, query: m.SheetQuery) -> MarkSheet:
    kept, laid = laid_quilt(path.quilt)
    found = _planned(laid, path.zone)
    method = query.method or found.zone.marking
    return mark_sheet(found, found.drawing_at(query.placing), method, kept.quilt.name, query.unit)


def _kit_view(kit: Kit, unit: Unit) -> m.KitView:
    asked = [
        (
            "foot.offset",
            Form(
                "length",
                "Needle to the rim of your ruler foot",
                "Half of the foot's width where the needle is in its middle.",
            ),
            kit.foot.offset,
        ),
        ("ruler.length", Form("length", "Ruler, along its working edge"), kit.ruler.length),
        ("ruler.width", Form("length", "Ruler, across"), kit.ruler.width),
        (
            "marking_step",
            Form("length", "You mark in steps of", "Ticks are rounded to this, and [ ] step by it."),
            kit.marking_step,
        ),
        (
            "batting.limit",
            Form("length", "Widest gap your batting allows", "It stands on its label."),
            kit.batting.limit,
        ),
    ]
    made = [show.field(name, form, value, unit) for name, form, value in asked]
    etched = kit.ruler.etched
    text = etched if isinstance(etched, str) else ", ".join(line.text for line in etched)
    made.append(
        m.FieldView(
            name="ruler.etched",
            label="Etched lines",
            help="Quarters, eighths, or a list of their distances from the working edge.",
            control="choice",
            text=text,
            shown=None,
            empty="",
            choices=[m.ChoiceView(key=k, label=k, picks="") for k in ("quarters", "eighths")],
            presets=[],
            used=True,
        )  # fmt: skip
    )
    foot = in_words(kit.foot.offset.mm, unit)
    return m.KitView(
        kit=kit.model_dump(mode="json"),
        fields=made,
        makes=show.etched_rows(kit, unit),
        sentence=[
            f"An etched line on your last line stitches that much plus {foot} away from it: your foot counts in."
        ],
    )


def _file(data: bytes, kind: str, name: str) -> Response:
    response = Response(data, mimetype=kind)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def _json(value: m.Wire) -> Response:
    return current_app.response_class(value.model_dump_json(), mimetype="application/json")
