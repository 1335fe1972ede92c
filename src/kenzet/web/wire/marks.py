"""Models of the marks of a zone."""

from __future__ import annotations

from typing import Literal

from kenzet.core.errors import BadValue, TooMany
from kenzet.core.fills.manual_lines import BY_HAND
from kenzet.core.marks.marking import Marks, drawn_too, marks_of, methods
from kenzet.core.marks.repeat import repeat_of
from kenzet.core.marks.sheet import MarkSheet, SheetKind, SheetOptions, mark_sheet, ruler_edges
from kenzet.core.marks.table import steps
from kenzet.core.marks.together import together
from kenzet.core.marks.tools import choices, fabrics_of
from kenzet.core.numbers.measure import Unit, long_figure
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.line_ends import ALLOWANCE
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import MarkMethod
from kenzet.formats.placement import Paper, pages_of, room_on
from kenzet.say import whereabouts
from kenzet.say import words as w
from kenzet.say.mark_words import (
    CAUTION,
    EdgeView,
    MethodView,
    ToolView,
    edge_view,
    method_view,
    note_of,
    pens_by_lean,
    rows_of,
    tool_view,
    tool_words,
)
from kenzet.texts import tr
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn
from kenzet.web.wire.drawn import flat

SheetOf = Literal["zone", "block", "repeat"]


class MarksRequest(m.Reading):
    """The marks of a zone as stored, by a method, for a paper."""

    zone: m.ZoneKey
    place: m.PlaceKey = ""
    layer: m.Layer = 0
    method: MarkMethod | None = None
    paper: Paper = "letter"
    kind: SheetKind = "stitched lines"
    scope: SheetOf = "zone"


class SignView(m.Wire):
    """A small sign of a texture: strokes as flat x, y lists; mm in the part."""

    names: str
    at: list[float]
    strokes: list[list[float]]


class LaidView(m.Wire):
    """A strip of tape or a stencil in round ``round`` (from 0): its corners, flat x, y, and the lines sewn along
    it, from start to end; mm in the part."""

    round: int
    corners: list[float]
    sewn: list[list[float]]


class LayerView(m.Wire):
    """One of the fills of a zone."""

    layer: int
    label: str


class MarksView(m.Wire):
    """The marks of a zone."""

    zone: str
    name: str
    occurs: str
    method: MarkMethod
    methods: list[MethodView]
    chosen_by_her: bool
    drawn_too: int
    strokes: list[list[float]]
    dots: list[list[float]]
    signs: list[SignView]
    tools: list[ToolView]
    tool: str
    tool_words: list[str]
    laid: list[LaidView]
    rounds: int
    round_is: Literal["Round", "Placing"]
    stands_for: Literal["sewn line", "ruler edge"]
    repeats: bool
    by_ruler: bool
    at_the_table: int
    edges: list[EdgeView]
    pages: int
    pages_words: str
    rows: list[w.Row]
    note: w.Words
    caution: str
    layers: list[LayerView]
    layer: int
    drawings: list[m.DrawingView]
    totals: list[w.Total]


_LAYERS = {0: tr("the fill"), 1: tr("the fill on top"), BY_HAND: tr("placed by hand")}


def marks_of_zone(laid: QuiltLayout, found: ZonePlan, body: MarksRequest) -> MarksView:
    """The marks of a zone and every method of marking it."""
    whole, layers = found, sorted({drawing.layer for drawing in found.drawings})
    layer = body.layer if body.layer in layers else layers[0]  # what was on top may have been taken off
    found = whole.layered(layer)
    unit, drawing = body.unit, found.drawing_at(body.place)
    marks = marks_of(found, drawing, body.method)
    on_sheet = together(laid, body.zone, body.place) if body.scope == "block" else [(found, drawing)]
    repeat = repeat_of(found, drawing, room_on(body.paper))
    wish = SheetOptions(marks.method, body.kind, repeat=repeat if body.scope == "repeat" else None)
    sheet = mark_sheet(on_sheet, wish, laid.quilt.name, 0, unit)
    by_ruler = found.kit.sew_with == "ruler foot"
    edges = body.kind == "ruler edges" and marks.method != "half" and by_ruler
    many, pages_words = _pages(sheet, body.paper, unit)
    offered = choices(found.kit.tools, fabrics_of(laid.quilt, drawing)) if marks.count else []
    chosen = [choice for choice in offered if choice.key == found.zone.mark_with]
    tool = next(iter(chosen or offered), None)
    return MarksView(
        zone=body.zone,
        name=found.zone.name,
        occurs=whereabouts.occurs(laid, found.zone, found),
        method=marks.method,
        chosen_by_her=found.zone.marking is not None,
        drawn_too=len(drawn_too(found, drawing, marks.method)),
        methods=[method_view(found, drawing, key, unit) for key in methods(found, drawing)],
        strokes=list(map(flat, ruler_edges(found, drawing, marks) if edges else marks.strokes)),
        stands_for="ruler edge" if edges else "sewn line",
        repeats=repeat is not None,
        by_ruler=by_ruler,
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
        tool_words=[*tool_words(tool, drawing, marks), *pens_by_lean(offered, tool, marks)] if tool else [],
        laid=laid_views(drawing, marks),
        rounds=rounds_of(marks),
        round_is="Placing" if marks.stencil else "Round",
        edges=[edge_view(ticked, found.kit.step_in(unit), unit) for ticked in found.ticked(drawing, unit)],
        pages=many,
        pages_words=pages_words,
        rows=[*rows_of(found, drawing, marks, unit), *_margin(laid, found, drawing, unit)],
        note=note_of(found, drawing, marks, unit),
        caution=CAUTION,
        drawings=drawn.drawings(whole),
        layers=[LayerView(layer=one, label=_LAYERS[one]) for one in layers],
        layer=layer,
        totals=w.totals(laid, plan_quilt(laid), unit),
    )


def _margin(laid: QuiltLayout, plan: ZonePlan, drawing: Drawing, unit: Unit) -> list[w.Row]:
    """The margin at the quilt's edge, if the zone touches it: tape along it is respected, a drawn line is not."""
    if not laid.meets_margin(drawing.shape, plan.zone):
        return []
    words: w.Words = w.told(
        "tape, {inset_of} in from the finished edge, {inset_of2} from the raw edge",
        inset_of=w.shown(laid.quilt.inset_of(plan.zone), unit),
        inset_of2=w.shown(laid.quilt.inset_of(plan.zone) + ALLOWANCE, unit),
    )
    return [w.Row(label=[tr("Margin at the quilt’s edge")], words=words)]


def laid_views(drawing: Drawing, marks: Marks) -> list[LaidView]:
    """Strips of tape by round, or placements of a stencil."""
    if marks.stencil:
        return [
            LaidView(round=k, corners=flat(corners), sewn=[])
            for k, corners in enumerate(marks.stencil.corners)
        ]
    tape = marks.tape
    return [
        LaidView(round=number, corners=flat(placement.corners), sewn=list(map(flat, lines)))
        for number, some in enumerate(tape.rounds if tape else ())
        for placement, lines in zip(some, tape.sewn(drawing, number) if tape else (), strict=True)
    ]


def rounds_of(marks: Marks) -> int:
    """How many times something is put down and removed."""
    return marks.stencil.placements if marks.stencil else len(marks.tape.rounds) if marks.tape else 0


def _pages(sheet: MarkSheet, paper: Paper, unit: Unit) -> tuple[int, str]:
    """The number of pages, in words, and the length of a roll that would do. Too many pages, or none, are reported
    rather than refused: the quilter may choose another paper, or ticks."""
    try:
        pages = pages_of(sheet, paper)
    except (TooMany, BadValue) as error:
        return 0, error.message
    many = len(pages.tiles)
    if many == 1:
        return many, tr("1 page")
    of = "" if many == pages.columns * pages.rows else tr(" of")
    said = tr(
        "{many} pages{of} {columns} × {rows}", many=many, of=of or ",", columns=pages.columns, rows=pages.rows
    )
    if paper == "roll":
        return many, said
    roll = pages_of(sheet, "roll")
    if len(roll.tiles) > 1:
        return many, said
    return many, tr("{said}; or {height} of a 24 in roll", said=said, height=long_figure(roll.height, unit))
