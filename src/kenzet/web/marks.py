"""The marks of a zone, by the way that the app finds best or that she has chosen."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import TooMany
from kenzet.core.fills.manual_lines import BY_HAND
from kenzet.core.geom.region import Floats
from kenzet.core.marks.marking import Marks, marks_of, methods
from kenzet.core.marks.repeat import repeat_of
from kenzet.core.marks.sheet import MarkSheet, SheetWish, mark_sheet, ruler_edges
from kenzet.core.marks.table import steps
from kenzet.core.marks.together import together
from kenzet.core.marks.tools import choices, fabrics_of
from kenzet.core.numbers.measure import Unit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.formats.pdf import pages_of
from kenzet.formats.placement import Paper, room_on
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, laid_quilt, planned
from kenzet.web.mark_models import LaidView, LayerView, MarksRequest, MarksView, SignView
from kenzet.web.marking_words import edge_view, method_view, note_of, rows_of, tool_view, tool_words

marks = APIBlueprint("marks", __name__, url_prefix="/api/quilts/<quilt>")

_LAYERS = {0: "the fill", 1: "the one on top", BY_HAND: "laid by hand"}


CAUTION = "Try the marker on a scrap of this fabric first, and do not press the quilt with the marks in."


@marks.post("/marks", responses={200: MarksView})
def marks_view(path: m.QuiltPath, body: MarksRequest) -> Response:
    """The marks of a zone as it is kept."""
    _, laid = laid_quilt(path.quilt)
    return answer(_view(laid, planned(laid, body.zone), body))


def _view(laid: LaidQuilt, found: ZonePlan, body: MarksRequest) -> MarksView:
    whole, layers = found, sorted({drawing.layer for drawing in found.drawings})
    layer = body.layer if body.layer in layers else layers[0]  # what was on top may have been taken off
    found = whole.layered(layer)
    unit, drawing = body.unit, found.drawing_at(body.place)
    marks = marks_of(found, drawing, body.method)
    drawn = together(laid, body.zone, body.place) if body.of == "block" else [(found, drawing)]
    repeat = repeat_of(found, drawing, room_on(body.paper))
    wish = SheetWish(marks.method, body.kind, repeat=repeat if body.of == "repeat" else None)
    sheet = mark_sheet(drawn, wish, laid.quilt.name, 0, unit)
    edges = body.kind == "ruler edges" and marks.method != "half"
    many, pages_words = _pages(sheet, body.paper)
    offered = choices(found.kit.tools, fabrics_of(laid.quilt, drawing)) if marks.count else []
    hers = [choice for choice in offered if choice.key == found.zone.mark_with]
    tool = next(iter(hers or offered), None)
    return MarksView(
        zone=body.zone,
        name=found.zone.name,
        occurs=show.occurs(laid, found.zone),
        method=marks.method,
        chosen_by_her=found.zone.marking is not None,
        methods=[method_view(found, drawing, key, unit) for key in methods(found, drawing)],
        strokes=list(map(flat, ruler_edges(found, drawing, marks) if edges else marks.strokes)),
        stands_for="ruler edge" if edges else "sewn line",
        repeats=repeat is not None,
        at_the_table=len(steps(found, drawing, marks)),
        dots=[list(dot) for dot in marks.dots],
        signs=[
            SignView(
                names=sign.names,
                at=list(sign.at),
                strokes=list(map(flat, sign.strokes)),
            )
            for sign in marks.signs
        ],
        tools=[tool_view(choice) for choice in offered],
        tool=tool.key if tool else "",
        tool_words=tool_words(tool, drawing, marks) if tool else [],
        laid=laid_views(drawing, marks),
        rounds=rounds_of(marks),
        round_is="Placing" if marks.stencil else "Round",
        edges=[edge_view(ticked, found.kit.marking_step.mm, unit) for ticked in found.ticked(drawing)],
        pages=many,
        pages_words=pages_words,
        rows=[*rows_of(found, drawing, marks, unit), *_margin(laid, drawing, unit)],
        note=note_of(found, drawing, marks, unit),
        caution=CAUTION,
        drawings=show.drawings(whole),
        layers=[LayerView(layer=one, label=_LAYERS[one]) for one in layers],
        layer=layer,
        totals=show.totals(plan_quilt(laid).values(), unit),
    )


def _margin(laid: LaidQuilt, drawing: Drawing, unit: Unit) -> list[m.Row]:
    """What is kept free at the quilt's edge, where the zone reaches it: tape along it is obeyed, a drawn line is not."""
    if not laid.meets_margin(drawing.shape):
        return []
    words: m.Words = ["tape, ", show.shown(laid.quilt.edge.mm, unit), " in from it"]
    return [m.Row(label=["Margin at the quilt’s edge"], words=words)]


def laid_views(drawing: Drawing, marks: Marks) -> list[LaidView]:
    """Strips of tape round by round, or a stencil placing by placing."""
    if marks.stencil:
        return [
            LaidView(round=k, corners=flat(corners), sewn=[])
            for k, corners in enumerate(marks.stencil.corners)
        ]
    return [
        LaidView(round=number, corners=flat(placement.corners), sewn=list(map(flat, lines)))
        for number, some in enumerate(marks.tape.rounds if marks.tape else ())
        for placement, lines in zip(some, marks.tape.sewn(drawing, number), strict=True)
    ]


def rounds_of(marks: Marks) -> int:
    """How often something is laid down and taken up again."""
    return marks.stencil.placements if marks.stencil else len(marks.tape.rounds) if marks.tape else 0


def flat(line: Floats) -> list[float]:
    """x and y in turn."""
    points: list[float] = line.round(3).ravel().tolist()
    return points


def _pages(sheet: MarkSheet, paper: Paper) -> tuple[int, str]:
    """How many pages, in words; more than can be printed are told, not refused: she may take other paper, or ticks."""
    try:
        pages = pages_of(sheet, paper)
    except TooMany as error:
        return 0, error.message
    many = len(pages.tiles)
    return many, "1 page" if many == 1 else f"{many} pages, {pages.columns} × {pages.rows}"
