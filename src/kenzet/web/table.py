"""At the table: the strokes of a zone one at a time, what is drawn, and what is still to be taken off."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from flask import Response
from flask_openapi3 import APIBlueprint
from pydantic import Field

from kenzet.core.errors import BadValue
from kenzet.core.geom.edge_ticks import edge_names
from kenzet.core.geom.region import Region
from kenzet.core.marks.marking import marks_of, method_of
from kenzet.core.marks.strokes import End, Stroke
from kenzet.core.marks.table import StepKind, TableStep, steps
from kenzet.core.marks.tools import care, choices, fabrics_of
from kenzet.core.numbers.measure import Unit, rounded
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.store import marked as store
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, connection, laid_quilt, planned
from kenzet.web.marks import flat

table = APIBlueprint("table", __name__, url_prefix="/api/quilts/<quilt>")


PINS = (
    "The pins that hold the layers are still in: take each out before the needle reaches it, and count them."
)
PEEL = "Peel it slowly: a stitch may have caught it."


class TableRequest(m.Reading):
    """A zone at a place; ``done`` says how many steps are done by now, ``off`` that its marks are taken off."""

    zone: m.ZoneKey
    place: m.PlaceKey = ""
    layer: m.Layer = 0
    done: Annotated[int, Field(ge=0, le=10_000_000)] | None = None
    off: bool = False


class StepView(m.Wire):
    """One thing to do: a stroke, or ticks, dots, signs, strips of tape, a stencil. What to lay on what, from where to
    where; ``lines`` are drawn, or sewn where there are strips; ``laid`` the corners of what is laid down; flat x, y,
    mm in the part.
    """

    kind: StepKind
    lines: list[list[float]]
    dots: list[list[float]]
    laid: list[list[float]]
    turn: bool
    lay: m.Words
    begins: m.Words
    ends: m.Words
    figures: list[m.Shown]


class StillOn(m.Wire):
    """Marks that are on the quilt, since when, and how they come off."""

    zone: str
    name: str
    since: str
    off: str


class TableView(m.Wire):
    """What is done at one place, in order; the same at ``times`` places. ``done`` counts over all of them."""

    zone: str
    name: str
    steps: list[StepView]
    times: int
    done: int
    still_on: list[StillOn]
    pins: str


@table.post("/table", responses={200: TableView})
def at_the_table(path: m.QuiltPath, body: TableRequest) -> Response:
    """What to do, and how far she is; what is told is kept."""
    _, laid = laid_quilt(path.quilt)
    found = planned(laid, body.zone).layered(body.layer)
    drawing = found.drawing_at(body.place)
    todo = steps(found, drawing, marks_of(found, drawing))
    times = sum(len(one.places) for one in found.drawings)
    with connection() as conn:
        if body.done is not None:
            if body.done > len(todo) * times:
                raise BadValue(f"There are {len(todo) * times} steps in all.", "done")
            store.set_done(conn, path.quilt, body.zone, body.done, date.today())
        if body.off:
            store.take_off(conn, path.quilt, body.zone, date.today())
        known = store.marked(conn, path.quilt)
    mine = known.get(body.zone)
    return answer(
        TableView(
            zone=body.zone,
            name=found.zone.name,
            steps=[_step(found, drawing, step, body.unit) for step in todo],
            times=times,
            done=min(mine.done, len(todo) * times) if mine and mine.taken_off is None else 0,
            pins=PINS if (laid.quilt.layered, laid.quilt.basted) == ("before marking", "pins") else "",
            still_on=[
                _still(laid, one) for one in known.values() if one.still_on and one.zone in laid.quilt.zones
            ],
        )
    )


def _still(laid: LaidQuilt, one: store.Marked) -> StillOn:
    plan = plan_zone(laid, one.zone)
    offered = choices(laid.quilt.kit.tools, fabrics_of(laid.quilt, plan.drawings[0])) if plan else []
    zone = laid.zone(one.zone)
    hers = [choice for choice in offered if choice.key == zone.mark_with] or offered
    since = one.put_on.strftime("%-d %B") if one.put_on else ""
    if plan and method_of(plan, plan.drawings[0]) == "tape":
        return StillOn(zone=one.zone, name=zone.name, since=since, off=PEEL)
    return StillOn(zone=one.zone, name=zone.name, since=since, off=care(hers[0].marker)[0] if hers else "")


def _step(found: ZonePlan, drawing: Drawing, step: TableStep, unit: Unit) -> StepView:
    stroke = step.stroke
    begins, ends = ([], []) if stroke is None or stroke.ends is None else (
        _end(drawing.region, end, found, unit) for end in stroke.ends
    )  # fmt: skip
    return StepView(
        kind=step.kind,
        lines=list(map(flat, step.lines)),
        dots=[list(dot) for dot in step.dots],
        laid=list(map(flat, step.laid)),
        turn=stroke is not None and stroke.turn,
        lay=_lay(found, drawing.region, stroke, unit) if stroke else [_without_ruler(found, drawing, step)],
        begins=begins,
        ends=ends,
        figures=[show.shown(tick.drawn, unit, bare=True) for tick in step.edge.ticks] if step.edge else [],
    )


def step_words(found: ZonePlan, drawing: Drawing, step: TableStep, unit: Unit) -> str:
    """The same in one line, for paper."""
    view = _step(found, drawing, step, unit)
    said = "Turn the quilt. " if view.turn else ""
    said += show.plain(view.lay)
    if view.figures:
        said += f" {', '.join(one.text for one in view.figures)} {unit}."
    return said + (f" From {show.plain(view.begins)} to {show.plain(view.ends)}." if view.begins else "")


def _without_ruler(found: ZonePlan, drawing: Drawing, step: TableStep) -> str:
    """What is done with a tape measure, a strip or a stencil."""
    marks = marks_of(found, drawing)
    if step.edge:
        return f"Tick {_named(step.edge.name)}, the tape measure lying from its {step.edge.edge.datum} end:"
    if step.kind == "dots":
        return f"Put a dot at every end and turn, {len(step.dots)} in all: prick them through the mark sheet."
    if step.kind == "signs":
        return "Draw the texture’s sign in the middle of its place."
    if step.kind == "strips" and marks.tape:
        tape = found.kit.tools[marks.tape.tape].name
        many = "a strip" if len(step.laid) == 1 else f"{len(step.laid)} strips"
        said = f"Lay {many} of “{tape}” as it is drawn"
        return f"{said}, sew along {'both edges' if marks.tape.both or marks.tape.halving else 'the marked edge'}, then peel slowly."
    stencil = found.kit.tools[marks.stencil.stencil].name if marks.stencil else ""
    if step.number == 1:
        return f"Lay “{stencil}” with its first lines on the first of the zone. Pat, do not rub."
    return f"Move “{stencil}” on: its first line over the last that you powdered."


def _named(edge: str) -> str:
    return "the seam" if edge.startswith("edge ") else f"the {edge}"


def _lay(found: ZonePlan, region: Region, stroke: Stroke, unit: Unit) -> m.Words:
    if stroke.how == "along the same ruler":
        return ["Leave the ruler where it lies."]
    if stroke.how == "slid along":
        return ["Slide the ruler along the same line."]
    if stroke.how == "over the sheet":
        return ["Trace it from its mark sheet."]
    if stroke.etched is None:
        return ["Lay the ruler from one end to the other."]
    where = "the stroke before" if stroke.edge is None else _edge_name(region, stroke.edge)
    name = found.kit.rulers[stroke.ruler].name
    return [
        "Lay the ",
        show.shown(stroke.etched, unit, bare=True),
        f" mark of “{name}” on {where}; draw along its edge.",
    ]


def _end(region: Region, end: End, found: ZonePlan, unit: Unit) -> m.Words:
    if end.corner:
        return ["a corner"]
    if end.edge is None:
        return ["its end"]
    edge = region.edges[end.edge]
    laid_off = rounded(end.along, found.kit.marking_step.mm)
    return [show.shown(laid_off, unit), f" from the {edge.datum} end of {_edge_name(region, end.edge)}"]


def _edge_name(region: Region, number: int) -> str:
    return _named(edge_names(region)[number])
