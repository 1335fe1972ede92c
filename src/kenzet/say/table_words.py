"""At the table: what to lay on what, from where to where."""

from __future__ import annotations

from fractions import Fraction

from kenzet.core.geom.edge_ticks import edge_names
from kenzet.core.geom.region import Region
from kenzet.core.marks.marking import marks_of
from kenzet.core.marks.strokes import End, Stroke
from kenzet.core.marks.table import MarkingStep
from kenzet.core.numbers.measure import Unit, rounded
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.say import words as w

PINS = "Basting pins are still in: remove each pin before the needle reaches it, and count them."


PEEL = "Peel the tape slowly: a stitch may have caught it."


def _without_ruler(found: ZonePlan, drawing: Drawing, step: MarkingStep, unit: Unit) -> str:
    """What is done with a tape measure, a strip or a stencil."""
    marks = marks_of(found, drawing)
    if step.edge:
        return f"Tick the {step.edge.name}, the tape measure lying from its {step.edge.edge.datum} end:"
    if step.kind == "dots":
        return f"Put {w.many(len(step.dots), 'dot')} where they are shown: prick them through the mark sheet, or measure."
    if step.kind == "signs":
        return "Draw the texture’s sign in the middle of its place."
    if step.kind == "strips" and marks.tape:
        tape = found.kit.tools[marks.tape.tape].name
        many = "a strip" if marks.tape.strips == 1 else f"{marks.tape.strips} strips"
        rounds = "one round" if len(marks.tape.rounds) == 1 else f"{len(marks.tape.rounds)} rounds"
        far = w.plain([w.shown(marks.tape.strip, unit, Fraction(1), about=True)])
        return f"Cut {many} of “{tape}”, {far} long. Put them on at the machine, in {rounds}, and peel them off after each."
    stencil = found.kit.tools[marks.stencil.stencil].name if marks.stencil else ""
    if step.number == 1:
        return f"Lay “{stencil}” with its first lines on the first of the zone. Pat, do not rub."
    return f"Move “{stencil}” on: its first line over the last that you powdered."


def _lay(found: ZonePlan, region: Region, stroke: Stroke, unit: Unit) -> w.Words:
    if stroke.how == "along the same ruler":
        return ["Leave the ruler in place."]
    if stroke.how == "slid along":
        return ["Slide the ruler along the same line."]
    if stroke.how == "over the sheet":
        return ["Trace the line from its mark sheet."]
    if stroke.etched is None:
        return ["Put the ruler from one end to the other."]
    where = "the mark before" if stroke.edge is None else _edge_name(region, stroke.edge)
    name = found.kit.rulers[stroke.ruler].name
    return [
        "Lay the ",
        w.shown(stroke.etched, unit, bare=True),
        f" mark of “{name}” on {where}; draw along its edge.",
    ]


def _end(region: Region, end: End, found: ZonePlan, unit: Unit) -> w.Words:
    if end.corner:
        return ["a corner"]
    if end.edge is None:
        return ["its end"]
    edge = region.edges[end.edge]
    laid_off = rounded(end.along, found.kit.step_in(unit))
    return [w.shown(laid_off, unit), f" from the {edge.datum} end of {_edge_name(region, end.edge)}"]


def _edge_name(region: Region, number: int) -> str:
    return f"the {edge_names(region)[number]}"


def step_words(found: ZonePlan, drawing: Drawing, step: MarkingStep, unit: Unit) -> str:
    """The same in one line, for paper."""
    said = "Turn the quilt. " if step.stroke and step.stroke.turn else ""
    said += w.plain(lay_words(found, drawing, step, unit))
    ticks, ends = tick_figures(step, unit), end_words(found, drawing, step, unit)
    if ticks:
        said += f" {', '.join(one.text for one in ticks)} {unit}."
    return said + (f" From {w.plain(ends[0])} to {w.plain(ends[1])}." if ends else "")


def lay_words(found: ZonePlan, drawing: Drawing, step: MarkingStep, unit: Unit) -> w.Words:
    """What is laid on what, or done without a ruler."""
    if step.stroke is None:
        return [_without_ruler(found, drawing, step, unit)]
    return _lay(found, drawing.region, step.stroke, unit)


def end_words(found: ZonePlan, drawing: Drawing, step: MarkingStep, unit: Unit) -> list[w.Words]:
    """Where a stroke begins and ends; nothing where that need not be told."""
    ends = step.stroke.ends if step.stroke else None
    return [_end(drawing.region, end, found, unit) for end in ends or ()]


def tick_figures(step: MarkingStep, unit: Unit) -> list[w.Shown]:
    """What is read off the tape measure for every tick."""
    return [w.shown(tick.drawn, unit, bare=True) for tick in step.edge.ticks] if step.edge else []
