"""What the machine screen would say from the first line to the last, including mishaps on the way; without server
or clock."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Unit
from kenzet.core.placing.as_it_is import placed
from kenzet.core.placing.rest_of import rest_of
from kenzet.core.plan.planner import plan_zone
from kenzet.core.route.quilt import route_quilt
from kenzet.core.sewing.along import lines_there
from kenzet.core.sewing.log import Event, Kind, Log
from kenzet.core.sewing.now import Now, PlaceRoutes, in_quilt, now, place_routes
from kenzet.core.sewing.steps import SewingStep, sewn_until
from kenzet.core.sewing.stretch import Stretch
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.placing_json import placement_json
from kenzet.say import words as w
from kenzet.texts import tr
from kenzet.web.wire.sewing import SewingStepView
from kenzet.web.wire.steps import step_views


@dataclass(frozen=True)
class Mishaps:
    """Lines by their number in sewing order, from 1: ``skip`` these, ``unpick`` those after sewing; where the
    thread ``breaks``, the share of the line sewn before, 0 to 1."""

    skip: Collection[int] = ()
    breaks: Mapping[int, float] = field(default_factory=dict)
    unpick: Collection[int] = ()


def dry_run(laid: QuiltLayout, mishaps: Mishaps, unit: Unit) -> Iterable[dict[str, Any]]:
    """Step by step as JSON values: what is said, and for a line its placement. Skipped lines are sewn at the end."""
    route = route_quilt(laid)
    if not route.visits:
        return
    machine = _Machine(place_routes(laid, route))
    _check(machine.ways, mishaps)
    number = 0
    while True:
        here = machine.now()
        if here is None:
            if not machine.log.sewn.skipped or not any(machine.log.sewn.skipped.values()):
                return
            machine.tell("taken up")
            yield {"event": "taken up"}
            continue
        step = here.steps[0]
        view = next(iter(step_views(laid, machine.log, here, unit)))
        told = {"place": here.visit.place, **_said(view)}
        if step.kind != "line":
            machine.sew(here, step)
            yield {**told, "event": "begun" if step.kind == "begin" else "gone"}
            continue
        number += 1
        told = {"step": number, **told, **_placing(laid, machine, here, step)}
        yield from machine.through(here, step, number, mishaps, told)


def _check(ways: PlaceRoutes, mishaps: Mishaps) -> None:
    """Raises BadValue for a line that does not exist."""
    many = sum(ways.of(visit).many for visit in ways.route.visits)
    for number in (*mishaps.skip, *mishaps.breaks, *mishaps.unpick):
        if not 1 <= number <= many:
            raise BadValue(
                tr(
                    "There are {many} lines, counted from 1; there is no line {number}.",
                    many=many,
                    number=number,
                )
            )


def _said(view: SewingStepView) -> dict[str, Any]:
    text = [view.lay, view.sew, view.then]
    return {
        "kind": view.kind,
        "zone": view.zone,
        "text": " ".join(w.plain(some) for some in text if some),
        "hand_moves_text": w.plain(view.hand),
        "legs_text": [w.plain(one) for one in view.legs],
        "start": view.start,
        "end": view.at,
        "length_mm": view.length_mm,
        "thread_ends": view.stops,
        "points": view.points,
        "travels": view.travels,
    }


def _placing(laid: QuiltLayout, machine: _Machine, here: Now, step: SewingStep) -> dict[str, Any]:
    course = here.way.route.unit.courses[step.sews[0].course]
    key, drawing = here.way.route.unit.drawings[course.zone]
    stretch, plan = step.sews[0].stretch, plan_zone(laid, key)
    assert stretch is not None and plan is not None
    if course.freehand:
        return {"line": course.number, "drawing": stretch.of, "placement": None}
    there = lines_there(here.way, machine.log.sewn.of(here.visit.place))
    last = machine.last.get(here.visit.place, {}).get(stretch.of)
    on = placed(plan, drawing, course.number, there, stretch.of, last)
    return {
        "line": course.number,
        "drawing": stretch.of,
        "reversed": step.sews[0].back,
        "placement": placement_json(plan, drawing, rest_of(on, *step.span)),
        "sewn_there": sorted(there.get(stretch.of, ())),
    }


class _Machine:
    """A simulated machine; ``last`` is the line of each drawing sewn last, by place."""

    def __init__(self, ways: PlaceRoutes) -> None:
        self.ways, self.log = ways, Log()
        self.last: dict[str, dict[str, int]] = {}

    def now(self) -> Now | None:
        return now(self.ways, self.log.sewn)

    def tell(self, kind: Kind, place: str = "", at: tuple[float, float] | None = None, **more: Any) -> None:
        self.log.take(Event(f"dry-{len(self.log) + 1}", kind, float(len(self.log)), place, at, **more))

    def sew(self, here: Now, step: SewingStep) -> None:
        spot = step.moves[-1].end if step.moves else here.steps[1].moves[0].start
        kind: dict[str, Kind] = {"begin": "begun", "go": "gone", "line": "sewn"}
        self.tell(kind[step.kind], here.visit.place, _at(here, spot), far=step.length, sewn=step.sewn)
        if step.sews and step.sews[0].stretch:
            stretch = step.sews[0].stretch
            self.last[here.visit.place] = {stretch.of: stretch.line}

    def through(
        self, here: Now, step: SewingStep, number: int, mishaps: Mishaps, told: dict[str, Any]
    ) -> Iterable[dict[str, Any]]:
        """Sews a line, with the mishaps that occur there."""
        place = here.visit.place
        if number in mishaps.skip:
            self.tell("skipped", place, back=_stretches(step))
            yield {**told, "event": "skipped"}
            return
        if number in mishaps.breaks:
            far = mishaps.breaks[number] * sum(move.length for move in step.sews)
            some, spot = sewn_until(step, far)
            self.tell("broke", place, _at(here, spot), sewn=some)
            yield {**told, "event": "broke", "sewn_mm": round(far, 3)}
            return
        self.sew(here, step)
        yield {**told, "event": "sewn"}
        if number in mishaps.unpick:
            self.tell("unpicked", place, self.log.sewn.at, back=_stretches(step))
            self.last.pop(place, None)
            yield {"step": number, "event": "unpicked"}


def _stretches(step: SewingStep) -> tuple[Stretch, ...]:
    return tuple(move.stretch for move in step.sews if move.stretch is not None)


def _at(here: Now, point: tuple[float, float]) -> tuple[float, float]:
    x, y = in_quilt(here.way, here.visit.place, np.array([point]))[0].tolist()
    return x, y
