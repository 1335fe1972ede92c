"""What a mark sheet holds, at true size: the zone's outline, the lines to draw and the ticks.

Glossary: the sheet's coordinates are the part's, mm, y up. A *tick* runs inwards from its edge.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from kenzet.core.drawing import Drawing
from kenzet.core.geom.region import Floats, Point, Region
from kenzet.core.marks.marking import marks_of
from kenzet.core.marks.ticks import TickedEdge
from kenzet.core.measure import Unit, figure
from kenzet.core.top.zone import MarkMethod
from kenzet.core.zone_plan import ZonePlan

TICK = 4.0  # mm


@dataclass(frozen=True, slots=True)
class TickMark:
    """A tick from ``foot`` on the edge to ``tip`` inside, and the figure that belongs to it."""

    foot: Point
    tip: Point
    figure: str


@dataclass(frozen=True, slots=True)
class MarkSheet:
    """``seams`` and ``marks`` are polylines (n, 2); closed ones repeat their first point. ``arcs`` are the marks
    with their arcs kept: vertices (n, 3) of x, y and the bulge of the side that leaves.
    """

    title: str
    subtitle: str
    seams: tuple[Floats, ...]
    marks: tuple[Floats, ...]
    arcs: tuple[Floats, ...]
    ticks: tuple[TickMark, ...]
    bounds: tuple[float, float, float, float]


def mark_sheet(plan: ZonePlan, drawing: Drawing, method: MarkMethod, quilt: str, unit: Unit) -> MarkSheet:
    """The sheet of one drawing; ticks stand where the lines truly end, their figures are rounded."""
    drawn = marks_of(plan, drawing, method)
    whole = method != "half"
    ticked = plan.ticked(drawing)
    ticks = [mark for edge in ticked for mark in _tick_marks(drawing.region, edge, unit)]
    spaced = f" {figure(drawing.fill.spacing.mm, unit).text} {unit} apart" if drawing.fill.is_spaced else ""
    what = f"{len(drawn.lines)} of {drawing.lines} lines drawn" if drawn.lines else "no line needs drawing"
    return MarkSheet(
        title=f"{quilt} · {plan.zone.name}",
        subtitle=f"{drawing.fill.label}{spaced} · {what}",
        seams=tuple(outline(drawing.region)),
        marks=drawn.strokes,
        arcs=tuple(_arcs(drawing, number) for number in drawn.lines)
        if whole
        else tuple(map(_flat, drawn.strokes)),
        ticks=tuple(ticks),
        bounds=drawing.region.bounds,
    )


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


def _tick_marks(region: Region, ticked: TickedEdge, unit: Unit) -> Sequence[TickMark]:
    inward = region.inward(ticked.edge)
    marks = []
    for tick in ticked.ticks:
        x, y = ticked.edge.at(float(tick.at))
        tip = (x + inward[0] * TICK, y + inward[1] * TICK)
        marks.append(TickMark((x, y), tip, figure(tick.drawn, unit).text))
    return marks
