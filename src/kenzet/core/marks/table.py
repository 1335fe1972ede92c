"""The work at the marking table, step by step: ticks, dots, signs, strokes, strips of tape, placements of a
stencil."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from kenzet.core.geom.edge_ticks import TickedEdge
from kenzet.core.geom.region import Floats, Point
from kenzet.core.marks.marking import Marks
from kenzet.core.marks.strokes import Stroke, ordered
from kenzet.core.numbers.measure import Unit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan

StepKind = Literal["ticks", "dots", "signs", "stroke", "strips", "stencil"]


def steps(plan: ZonePlan, drawing: Drawing, marks: Marks, unit: Unit | None = None) -> list[MarkingStep]:
    """All steps for ``marks`` at one place, in order, with figures in ``unit``; empty if there is nothing to mark."""
    return list(_steps(plan, drawing, marks, unit))


def _steps(plan: ZonePlan, drawing: Drawing, marks: Marks, unit: Unit | None) -> Iterable[MarkingStep]:
    if marks.ticks:
        for k, edge in enumerate(plan.ticked(drawing, unit), 1):
            yield MarkingStep(
                "ticks", k, dots=tuple(edge.edge.at(float(tick.at)) for tick in edge.ticks), edge=edge
            )
    if marks.dots:
        yield MarkingStep("dots", 1, dots=marks.dots)
    if marks.signs:
        yield MarkingStep("signs", 1, lines=tuple(stroke for sign in marks.signs for stroke in sign.strokes))
    for k, stroke in enumerate(ordered(drawing.region, marks, plan.kit), 1):
        yield MarkingStep("stroke", k, lines=(stroke.points,), stroke=stroke)
    if marks.tape:
        yield MarkingStep("strips", 1, laid=tuple(strip.corners for strip in marks.tape.placements))
    if marks.stencil:
        for k, corners in enumerate(marks.stencil.corners, 1):
            yield MarkingStep("stencil", k, laid=(corners,))


@dataclass(frozen=True, eq=False)
class MarkingStep:
    """One step. ``lines`` are to be drawn; ``laid`` are the corners (4, 2) of a stencil. Tape is only cut here: it
    is put down at the machine, round by round. ``number`` counts steps of the same kind from 1."""

    kind: StepKind
    number: int
    lines: tuple[Floats, ...] = ()
    dots: tuple[Point, ...] = ()
    laid: tuple[Floats, ...] = ()
    stroke: Stroke | None = None
    edge: TickedEdge | None = None
