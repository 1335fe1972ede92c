"""At the table: the strokes of a zone one at a time, what is drawn, and what is still to be taken off."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from flask import Response
from flask_openapi3 import APIBlueprint
from pydantic import Field

from kenzet.core.drawing import Drawing
from kenzet.core.errors import BadValue
from kenzet.core.geom.region import Region
from kenzet.core.marks.marking import marks_of
from kenzet.core.marks.strokes import End, Stroke, ordered
from kenzet.core.marks.ticks import edge_names
from kenzet.core.marks.tools import care, choices, fabrics_of
from kenzet.core.measure import Unit, rounded
from kenzet.core.plan import plan_zone
from kenzet.core.top.laid import LaidQuilt
from kenzet.core.zone_plan import ZonePlan
from kenzet.store import marked as store
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, connection, laid_quilt, planned

table = APIBlueprint("table", __name__, url_prefix="/api/quilts/<quilt>")


class TableRequest(m.Reading):
    """A zone at a place; ``done`` says how many strokes are drawn by now, ``off`` that its marks are taken off."""

    zone: m.ZoneKey
    place: m.PlaceKey = ""
    layer: m.Layer = 0
    done: Annotated[int, Field(ge=0, le=10_000_000)] | None = None
    off: bool = False


class StrokeView(m.Wire):
    """A stroke: what to lay on what, from where to where; ``points`` flat x, y, mm in the part."""

    points: list[float]
    turn: bool
    lay: m.Words
    begins: m.Words
    ends: m.Words


class StillOn(m.Wire):
    """Marks that are on the quilt, since when, and how they come off."""

    zone: str
    name: str
    since: str
    off: str


class TableView(m.Wire):
    """The strokes of one place in their order; the same ones at ``times`` places. ``done`` counts over all of them."""

    zone: str
    name: str
    strokes: list[StrokeView]
    times: int
    done: int
    still_on: list[StillOn]


@table.post("/table", responses={200: TableView})
def at_the_table(path: m.QuiltPath, body: TableRequest) -> Response:
    """The strokes, and how far she is; what is told is kept."""
    _, laid = laid_quilt(path.quilt)
    found = planned(laid, body.zone).layered(body.layer)
    drawing = found.drawing_at(body.place)
    strokes = ordered(drawing.region, marks_of(found, drawing), found.kit)
    times = sum(len(one.places) for one in found.drawings)
    with connection() as conn:
        if body.done is not None:
            if body.done > len(strokes) * times:
                raise BadValue(f"There are {len(strokes) * times} strokes in all.", "done")
            store.set_done(conn, path.quilt, body.zone, body.done, date.today())
        if body.off:
            store.take_off(conn, path.quilt, body.zone, date.today())
        known = store.marked(conn, path.quilt)
    mine = known.get(body.zone)
    return answer(
        TableView(
            zone=body.zone,
            name=found.zone.name,
            strokes=[_stroke(found, drawing, stroke, body.unit) for stroke in strokes],
            times=times,
            done=min(mine.done, len(strokes) * times) if mine and mine.taken_off is None else 0,
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
    return StillOn(zone=one.zone, name=zone.name, since=since, off=care(hers[0].marker)[0] if hers else "")


def _stroke(found: ZonePlan, drawing: Drawing, stroke: Stroke, unit: Unit) -> StrokeView:
    begins, ends = ([], []) if stroke.ends is None else (
        _end(drawing.region, end, found, unit) for end in stroke.ends
    )  # fmt: skip
    return StrokeView(
        points=stroke.points.round(3).ravel().tolist(),
        turn=stroke.turn,
        lay=_lay(found, drawing.region, stroke, unit),
        begins=begins,
        ends=ends,
    )


def stroke_words(found: ZonePlan, drawing: Drawing, stroke: Stroke, unit: Unit) -> str:
    """The same in one line, for paper."""
    view = _stroke(found, drawing, stroke, unit)
    said = "Turn the quilt. " if view.turn else ""
    said += show.plain(view.lay)
    return said + (f" From {show.plain(view.begins)} to {show.plain(view.ends)}." if view.begins else "")


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
    corner = "top" if abs(edge.end[0] - edge.start[0]) < 1e-3 else "left"
    laid_off = rounded(end.along, found.kit.marking_step.mm)
    return [show.shown(laid_off, unit), f" from the {corner} end of {_edge_name(region, end.edge)}"]


def _edge_name(region: Region, number: int) -> str:
    name = edge_names(region)[number]
    return "the seam" if name.startswith("edge ") else f"the {name}"
