"""The content of a mark sheet at true size: the zone's outline, the lines to mark and the ticks.

Glossary: the sheet's coordinates are the part's, mm, y up. A *tick* runs inwards from its edge.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
import shapely

from kenzet.core.geom.edge_ticks import TickedEdge, mirrored
from kenzet.core.geom.paths import Path, with_arcs
from kenzet.core.geom.region import Floats, Point, Region
from kenzet.core.marks.marking import Marks, marks_of, method_of, methods
from kenzet.core.marks.repeat import Repeat
from kenzet.core.numbers.measure import Unit, figure
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.tolerances import EQUAL, ON_EDGE
from kenzet.core.top.zone import MarkMethod
from kenzet.texts import tr

TICK = 4.0  # mm


@dataclass(frozen=True, slots=True)
class TickMark:
    """A tick from ``foot`` on the edge to ``tip`` inside, and its figure."""

    foot: Point
    tip: Point
    figure: str


SheetKind = Literal["stitched lines", "ruler edges", "pounce", "light box"]
POUNCE = 3.0  # mm from hole to hole


@dataclass(frozen=True, eq=False)
class MarkSheet:
    """``seams`` and ``marks`` are polylines (n, 2); closed ones repeat their first point. ``arcs`` are the marks
    with true arcs: vertices (n, 3) of x, y and bulge. ``dots`` are (n, 2). With ``by_ticks`` the ticks are to
    be marked; otherwise they only show where lines end."""

    title: str
    subtitle: str
    kind: SheetKind
    back: bool
    seams: tuple[Floats, ...]
    marks: tuple[Floats, ...]
    arcs: tuple[Floats, ...]
    dots: Floats
    signs: tuple[Floats, ...]
    ticks: tuple[TickMark, ...]
    ticked: tuple[TickedEdge, ...]
    bounds: tuple[float, float, float, float]
    by_ticks: bool = False

    @property
    def to_mark(self) -> list[Floats]:
        """Everything to be marked, as polylines (n, 2)."""
        dots = [np.array([dot, dot]) for dot in self.dots]
        ticks = [np.array([tick.foot, tick.tip]) for tick in self.ticks] if self.by_ticks else []
        return [*self.marks, *self.signs, *dots, *ticks]

    @property
    def tells_figures(self) -> bool:
        """Whether figures are printed: not on sheets that are pricked or lie under the fabric, where nobody reads
        them and they would show through."""
        return self.kind in ("stitched lines", "ruler edges")


def mark_sheet(
    drawn: Sequence[tuple[ZonePlan, Drawing]], wish: SheetOptions, quilt: str, revision: int, unit: Unit
) -> MarkSheet:
    """The sheet of one zone, or of all zones of a block. Ticks are at the exact ends of lines, their figures are
    rounded. ``revision`` is that of the plan and identifies outdated sheets."""
    alone = len(drawn) == 1
    each = [
        (plan, drawing, marks_of(plan, drawing, _method(plan, drawing, wish, alone)))
        for plan, drawing in drawn
    ]
    arcs = [line for plan, drawing, marks in each for line in _arcs_of(plan, drawing, marks, wish.kind)]
    marks = [Path(line).points for line in arcs]
    dots = [np.array(marks.dots).reshape(-1, 2) for _, _, marks in each]
    if wish.kind == "pounce":
        dots, marks, arcs = [*dots, *(_pricked(line) for line in marks)], [], []
    edges = [(drawing.region, edge) for plan, drawing in drawn for edge in plan.ticked(drawing, unit)]
    boxes = np.array([drawing.region.bounds for _, drawing in drawn])
    left, low = boxes[:, :2].min(axis=0).tolist()
    right, high = boxes[:, 2:].max(axis=0).tolist()
    step = drawn[0][0].kit.step_in(unit)
    told = [mirrored(edge, left + right, step) if wish.back else edge for _, edge in edges]
    ticks = [
        mark
        for (region, edge), by in zip(edges, told, strict=True)
        for mark in _tick_marks(region, edge, by, unit)
    ]
    zones = dict.fromkeys(plan.zone.name for plan, _ in drawn)
    sheet = MarkSheet(
        title=f"{quilt} · {', '.join(zones)}",
        subtitle=tr("{what} · plan {revision}", what=_what(each, wish, unit), revision=revision),
        kind=wish.kind,
        back=wish.back,
        seams=tuple(ring for _, drawing in drawn for ring in outline(drawing.region)),
        marks=tuple(marks),
        arcs=tuple(arcs),
        dots=np.concatenate(dots) if dots else np.zeros((0, 2)),
        signs=tuple(stroke for _, _, marks in each for sign in marks.signs for stroke in sign.strokes),
        ticks=tuple(ticks),
        ticked=tuple(told),
        bounds=(left, low, right, high),
        by_ticks=any(marks.ticks for _, _, marks in each),
    )
    sheet = _cut_to(sheet, wish.repeat, unit) if wish.repeat else sheet
    return _mirrored(sheet) if wish.back else sheet


def _method(plan: ZonePlan, drawing: Drawing, wish: SheetOptions, alone: bool) -> MarkMethod:
    """The method asked for if possible. On a sheet of several zones, "nothing" is ignored, as it applies to one
    zone only."""
    can_be = wish.method in methods(plan, drawing) and (alone or wish.method != "nothing")
    return wish.method if can_be else method_of(plan, drawing)


def _what(each: Sequence[tuple[ZonePlan, Drawing, Marks]], wish: SheetOptions, unit: Unit) -> str:
    lines = sum(len(marks.lines) for _, _, marks in each)
    said = (
        tr(
            "{lines} of {value} lines marked",
            lines=lines,
            value=sum((drawing.lines for _, drawing, _ in each)),
        )
        if lines
        else tr("no line needs a mark")
    )
    if len(each) == 1:
        fill = each[0][1].fill
        spaced = (
            tr(" {mm} {unit} apart", mm=figure(fill.spacing.mm, unit).text, unit=unit)
            if fill.is_spaced
            else ""
        )
        said = f"{fill.label}{spaced} · {said}"
    kind = {
        "ruler edges": tr(" · where the ruler’s EDGE goes"),
        "pounce": tr(" · holes to pounce through"),
    }.get(wish.kind, "")
    return said + kind + (tr(" · MIRRORED, for the back") if wish.back else "")


def _arcs_of(plan: ZonePlan, drawing: Drawing, marks: Marks, kind: SheetKind) -> Iterable[Floats]:
    """What is marked, with its arcs; or the ruler's edge, if the sheet shows that."""
    if kind == "ruler edges":
        yield from map(_flat, ruler_edges(plan, drawing, marks))
    elif marks.method == "half":
        yield from map(_flat, marks.strokes)
    else:
        for number in marks.lines:
            yield from (
                map(_flat, marks.drawn_of(number)) if number in marks.middles else [_arcs(drawing, number)]
            )


def ruler_edges(plan: ZonePlan, drawing: Drawing, marks: Marks) -> list[Floats]:
    """The position of the ruler's edge for every marked line, polylines (n, 2)."""
    return [_edge_line(plan, drawing, number) for number in marks.lines]


def _edge_line(plan: ZonePlan, drawing: Drawing, number: int) -> Floats:
    """The position of the working edge for a line: one foot offset beside it, extended to the seams that it meets."""
    trace = drawing.trace(number)
    if trace is None:
        pose, _, _ = plan.pose(drawing, number)
        return np.array([stop.edge for stop in pose.stops])
    if trace.closed:
        grown = shapely.buffer(
            shapely.Polygon(trace.points),
            float(plan.kit.foot_offset),
            join_style="mitre",
            mitre_limit=12,
            quad_segs=32,
        )
        return np.asarray(grown.exterior.coords)
    beside = shapely.offset_curve(
        shapely.LineString(trace.polyline), -float(plan.kit.foot_offset), join_style="mitre", quad_segs=32
    )
    longest = max(getattr(beside, "geoms", [beside]), key=lambda part: part.length)
    return np.asarray(longest.coords)


def _pricked(line: Floats) -> Floats:
    """Holes along a line, including its ends, about POUNCE apart."""
    run = shapely.LineString(line)
    many = max(round(run.length / POUNCE), 1)
    holes: Floats = shapely.get_coordinates(
        shapely.line_interpolate_point(run, np.linspace(0, run.length, many + 1))
    )
    return holes


def _mirrored(sheet: MarkSheet) -> MarkSheet:
    """The sheet mirrored left to right about its own middle; figures stay readable."""
    across = sheet.bounds[0] + sheet.bounds[2]

    def turn(line: Floats) -> Floats:
        found = line.copy()
        found[:, 0] = across - found[:, 0]
        if found.shape[1] == 3:
            found[:, 2] *= -1
        return found

    def point(at: Point) -> Point:
        return across - at[0], at[1]

    return replace(
        sheet,
        seams=tuple(map(turn, sheet.seams)),
        marks=tuple(map(turn, sheet.marks)),
        arcs=tuple(map(turn, sheet.arcs)),
        dots=turn(sheet.dots),
        signs=tuple(map(turn, sheet.signs)),
        ticks=tuple(TickMark(point(tick.foot), point(tick.tip), tick.figure) for tick in sheet.ticks),
    )


def _cut_to(sheet: MarkSheet, repeat: Repeat, unit: Unit) -> MarkSheet:
    """The part of ``sheet`` in the repeats, with ticks where they begin."""
    window = repeat.window
    beside, above = (ON_EDGE, 0.0) if repeat.upright else (0.0, ON_EDGE)
    wider = (window[0] - beside, window[1] - above, window[2] + beside, window[3] + above)
    marks = tuple(_inside(sheet.marks, window))
    inside = np.array([_holds(window, dot) for dot in sheet.dots.tolist()], dtype=bool)
    ticks = [tick for tick in sheet.ticks if _holds(window, tick.foot)]
    ends = [
        _repeat_tick(repeat, at, tr("repeat {k}", k=k) if k else "begin")
        for k, at in enumerate(repeat.begins)
    ]
    many = tr("{many} repeats", many=repeat.many) if repeat.many > 1 else tr("1 repeat")
    return replace(
        sheet,
        subtitle=tr(
            "{subtitle} · {many} of {each} {unit}: put “begin” on the last tick",
            subtitle=sheet.subtitle,
            many=many,
            each=figure(repeat.each, unit).text,
            unit=unit,
        ),
        seams=tuple(_inside(sheet.seams, wider)),
        marks=marks,
        arcs=tuple(with_arcs(line, closed=False) for line in marks),
        dots=sheet.dots[inside],
        signs=tuple(_inside(sheet.signs, window)),
        ticks=(*ticks, *ends),
        bounds=window,
    )


def _repeat_tick(repeat: Repeat, at: float, name: str) -> TickMark:
    high = repeat.high
    if repeat.upright:
        return TickMark((high, at), (high - TICK, at), name)
    return TickMark((at, high), (at, high - TICK), name)


def _inside(lines: Iterable[Floats], window: tuple[float, float, float, float]) -> Iterable[Floats]:
    for line in lines:
        cut = shapely.clip_by_rect(shapely.linestrings(line[:, :2]), *window)
        for part in getattr(cut, "geoms", [cut]):
            if part.geom_type == "LineString" and part.length > 0:
                yield np.asarray(part.coords)


def _holds(window: tuple[float, float, float, float], point: Sequence[float]) -> bool:
    left, low, right, high = window
    return left - EQUAL <= point[0] <= right + EQUAL and low - EQUAL <= point[1] <= high + EQUAL


def outline(region: Region) -> list[Floats]:
    """Every ring of ``region`` as a closed polyline."""
    rings = [ring for p in region.area.geoms for ring in (p.exterior, *p.interiors)]
    return [np.asarray(ring.coords) for ring in rings]


def _flat(line: Floats) -> Floats:
    return np.hstack([line, np.zeros((len(line), 1))])


def _arcs(drawing: Drawing, number: int) -> Floats:
    trace = drawing.trace(number)
    if trace is None:
        return _flat(drawing.polylines[number])
    vertices = trace.arcs
    return np.vstack([vertices, vertices[:1]]) if trace.closed else vertices


def _tick_marks(region: Region, ticked: TickedEdge, told: TickedEdge, unit: Unit) -> Sequence[TickMark]:
    """The ticks of an edge, with the figures of ``told``: the same edge, on the back counted from its other end."""
    inward = region.inward(ticked.edge)
    turned = told is not ticked and told.edge.datum == "left"
    figures = told.ticks[::-1] if turned else told.ticks
    marks = []
    for tick, counted in zip(ticked.ticks, figures, strict=True):
        x, y = ticked.edge.at(float(tick.at))
        tip = (x + inward[0] * TICK, y + inward[1] * TICK)
        marks.append(TickMark((x, y), tip, figure(counted.drawn, unit).text))
    return marks


@dataclass(frozen=True, slots=True)
class SheetOptions:
    """The kind of sheet: the lines as sewn, the ruler's edge, holes to pounce through, or bold lines for a light
    box. ``back``: mirrored, for the quilt's back; ``repeat``: only a few repeats of a border."""

    method: MarkMethod
    kind: SheetKind = "stitched lines"
    back: bool = False
    repeat: Repeat | None = None
