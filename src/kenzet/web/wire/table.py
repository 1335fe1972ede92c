"""At the marking table: one step at a time."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from kenzet.core.marks.marking import method_of
from kenzet.core.marks.table import MarkingStep, StepKind
from kenzet.core.marks.tools import care, choices, fabrics_of
from kenzet.core.numbers.measure import Unit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.say.table_words import PEEL, end_words, lay_words, tick_figures
from kenzet.store import marked as store
from kenzet.texts import on_day
from kenzet.web.wire import base as m
from kenzet.web.wire.drawn import flat


class TableRequest(m.Reading):
    """A zone at a place; ``done`` is the number of steps done, ``off`` says that its marks are removed, ``faded``
    that they disappeared on their own."""

    zone: m.ZoneKey
    place: m.PlaceKey = ""
    layer: m.Layer = 0
    done: Annotated[int, Field(ge=0, le=10_000_000)] | None = None
    off: bool = False
    faded: bool = False


class StepView(m.Wire):
    """One step: a stroke, or ticks, dots, signs, strips of tape, a stencil.

    What to put on what, from where to where; ``lines`` are drawn, or sewn along strips; ``laid`` the corners of
    what is put down; flat x, y, mm in the part.
    """

    kind: StepKind
    lines: list[list[float]]
    dots: list[list[float]]
    laid: list[list[float]]
    turn: bool
    lay: w.Words
    begins: w.Words
    ends: w.Words
    figures: list[w.Shown]


class StillOn(m.Wire):
    """Marks that are on the quilt, since when, and how to remove them."""

    zone: str
    name: str
    since: str
    off: str
    fades: bool


class TableView(m.Wire):
    """The steps at one place, in order; the same at ``times`` places. ``done`` counts over all of them."""

    zone: str
    name: str
    steps: list[StepView]
    times: int
    done: int
    still_on: list[StillOn]
    pins: str


def step_view(found: ZonePlan, drawing: Drawing, step: MarkingStep, unit: Unit) -> StepView:
    """One step, with its place in the part."""
    begins, ends = end_words(found, drawing, step, unit) or ([], [])
    return StepView(
        kind=step.kind,
        lines=list(map(flat, step.lines)),
        dots=[list(dot) for dot in step.dots],
        laid=list(map(flat, step.laid)),
        turn=step.stroke is not None and step.stroke.turn,
        lay=lay_words(found, drawing, step, unit),
        begins=begins,
        ends=ends,
        figures=tick_figures(step, unit),
    )


def still_on(laid: QuiltLayout, one: store.Marked) -> StillOn:
    """Marks that are still on the quilt, and how to remove them."""
    plan = plan_zone(laid, one.zone)
    offered = choices(laid.quilt.kit.tools, fabrics_of(laid.quilt, plan.drawings[0])) if plan else []
    zone = laid.zone(one.zone)
    chosen = [choice for choice in offered if choice.key == zone.mark_with] or offered
    since = on_day(one.put_on) if one.put_on else ""
    if plan and method_of(plan, plan.drawings[0]) == "tape":
        return StillOn(zone=one.zone, name=zone.name, since=since, off=PEEL, fades=False)
    return StillOn(
        zone=one.zone,
        name=zone.name,
        since=since,
        off=care(chosen[0].marker)[0] if chosen else "",
        fades=bool(chosen),
    )
