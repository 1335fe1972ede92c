"""At the marking table: what to put on what, from where to where."""

from __future__ import annotations

from fractions import Fraction

from kenzet import texts
from kenzet.core.geom.edge_ticks import edge_names
from kenzet.core.geom.region import Region
from kenzet.core.marks.marking import marks_of
from kenzet.core.marks.strokes import End, Stroke
from kenzet.core.marks.table import MarkingStep
from kenzet.core.numbers.measure import Unit, rounded
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.say import words as w
from kenzet.texts import tr

PINS = tr("Basting pins are still in: remove each pin before the needle reaches it, and count them.")


PEEL = tr("Peel the tape slowly: a stitch may have caught it.")


def _without_ruler(found: ZonePlan, drawing: Drawing, step: MarkingStep, unit: Unit) -> str:
    """What to do with a tape measure, a strip or a stencil."""
    marks = marks_of(found, drawing)
    if step.edge:
        return tr(
            "Tick the {name}. Put the tape measure along it, from its {datum} end:",
            name=step.edge.name,
            datum=tr(step.edge.edge.datum),
        )
    if step.kind == "dots":
        return tr(
            "Put {dots} where they are shown: prick them through the mark sheet, or measure.",
            dots=texts.many(len(step.dots), "dot"),
        )
    if step.kind == "signs":
        return tr("Draw the texture’s sign in the middle of its place.")
    if step.kind == "strips" and marks.tape:
        tape = found.kit.tools[marks.tape.tape].name
        many = tr("a strip") if marks.tape.strips == 1 else tr("{strips} strips", strips=marks.tape.strips)
        rounds = (
            tr("one round")
            if len(marks.tape.rounds) == 1
            else tr("{rounds} rounds", rounds=len(marks.tape.rounds))
        )
        far = w.plain([w.shown(marks.tape.strip, unit, Fraction(1), about=True)])
        return tr(
            "Cut {many} of “{tape}”, {far} long. Put them on at the machine, in {rounds}, and peel them off after each.",
            many=many,
            tape=tape,
            far=far,
            rounds=rounds,
        )
    stencil = found.kit.tools[marks.stencil.stencil].name if marks.stencil else ""
    if step.number == 1:
        return tr(
            "Put “{stencil}” with its first lines on the first lines of the zone. Pat, do not rub.",
            stencil=stencil,
        )
    return tr("Move “{stencil}” on: its first line over the last that you powdered.", stencil=stencil)


def _lay(found: ZonePlan, region: Region, stroke: Stroke, unit: Unit) -> w.Words:
    if stroke.how == "along the same ruler":
        return [tr("Leave the ruler in place.")]
    if stroke.how == "slid along":
        return [tr("Slide the ruler along the same line.")]
    if stroke.how == "over the sheet":
        return [tr("Trace the line from its mark sheet.")]
    if stroke.etched is None:
        return [tr("Put the ruler from one end to the other.")]
    where = tr("the mark before") if stroke.edge is None else _edge_name(region, stroke.edge)
    name = found.kit.rulers[stroke.ruler].name
    return w.told(
        "Put the {etched} mark of “{name}” on {where}; mark along its edge.",
        etched=w.shown(stroke.etched, unit, bare=True),
        name=name,
        where=where,
    )


def _end(region: Region, end: End, found: ZonePlan, unit: Unit) -> w.Words:
    if end.corner:
        return [tr("a corner")]
    if end.edge is None:
        return [tr("its end")]
    edge = region.edges[end.edge]
    laid_off = rounded(end.along, found.kit.step_in(unit))
    return w.told(
        "{laid_off} from the {datum} end of {edge_name}",
        laid_off=w.shown(laid_off, unit),
        datum=tr(edge.datum),
        edge_name=_edge_name(region, end.edge),
    )


def _edge_name(region: Region, number: int) -> str:
    return tr("the {edge_names}", edge_names=edge_names(region)[number])


def step_words(found: ZonePlan, drawing: Drawing, step: MarkingStep, unit: Unit) -> str:
    """The same in one line, for paper."""
    said = tr("Turn the quilt. ") if step.stroke and step.stroke.turn else ""
    said += w.plain(lay_words(found, drawing, step, unit))
    ticks, ends = tick_figures(step, unit), end_words(found, drawing, step, unit)
    if ticks:
        said += f" {', '.join(one.text for one in ticks)} {unit}."
    return said + (
        tr(" From {ends} to {ends2}.", ends=w.plain(ends[0]), ends2=w.plain(ends[1])) if ends else ""
    )


def lay_words(found: ZonePlan, drawing: Drawing, step: MarkingStep, unit: Unit) -> w.Words:
    """What goes on what, or what is done without a ruler."""
    if step.stroke is None:
        return [_without_ruler(found, drawing, step, unit)]
    return _lay(found, drawing.region, step.stroke, unit)


def end_words(found: ZonePlan, drawing: Drawing, step: MarkingStep, unit: Unit) -> list[w.Words]:
    """Where a stroke begins and ends; empty if that is obvious."""
    ends = step.stroke.ends if step.stroke else None
    return [_end(drawing.region, end, found, unit) for end in ends or ()]


def tick_figures(step: MarkingStep, unit: Unit) -> list[w.Shown]:
    """The reading of the tape measure for every tick."""
    return [w.shown(tick.drawn, unit, bare=True) for tick in step.edge.ticks] if step.edge else []
