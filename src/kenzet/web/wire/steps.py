"""The steps at the machine in words, with their places on the quilt."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np

from kenzet.core.bench.laid_ruler import laid_ruler
from kenzet.core.geom.region import Floats
from kenzet.core.numbers.measure import COARSE, Unit, long_figure
from kenzet.core.placing.as_it_is import placed
from kenzet.core.placing.as_it_lies import as_it_lies
from kenzet.core.placing.cloth import reference_points
from kenzet.core.placing.legs import turned_back
from kenzet.core.placing.placement import Placement
from kenzet.core.placing.rest_of import rest_of
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.sewing.along import lines_there, moves_on, spots_at
from kenzet.core.sewing.log import Log
from kenzet.core.sewing.now import Now, in_quilt
from kenzet.core.sewing.place_route import Move
from kenzet.core.sewing.steps import SewingStep
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import sum_words, whereabouts
from kenzet.say import words as w
from kenzet.say.placing_words import lay_words, leg_words, on_words, short_words, tape_words
from kenzet.say.route_words import texture_name
from kenzet.say.sewing_words import (
    begin_words,
    edge_words,
    hand_words,
    sew_words,
    then_words,
    travel_words,
)
from kenzet.say.whereabouts import corner_words, way_to
from kenzet.texts import tr
from kenzet.web.wire.drawn import flat
from kenzet.web.wire.sewing import SewingStepView, SewnStretch

AHEAD = 60
"""The number of steps sent at once, so that sewing can continue while the server is unreachable."""


def move_in_quilt(here: Now, move: Move) -> Floats:
    """Its path in the quilt's coordinates, (n, 2) mm."""
    return in_quilt(here.way, here.visit.place, move.path)


def step_views(laid: QuiltLayout, log: Log, here: Now, unit: Unit) -> Iterable[SewingStepView]:
    """The next steps at the current place, at most ``AHEAD``."""
    sewn = lines_there(here.way, log.sewn.of(here.visit.place))
    newest = next((event.sewn[-1] for event in reversed(log.events) if event.sewn), None)
    last = (newest.of, newest.line) if newest else ("", -1)
    for k, step in enumerate(here.steps[:AHEAD]):
        if step.kind != "line":
            view = _way_in(here, step, k, unit)
            if k == 0 and here.new_foot:
                view.lay = w.told(
                    "Change to the {new_foot} first. {lay}", new_foot=tr(here.new_foot), lay=view.lay
                )
            yield view
            continue
        yield _line(laid, here, step, sewn, last, k + 1 == len(here.steps), unit)
        stretch = step.sews[-1].stretch
        assert stretch is not None
        sewn.setdefault(stretch.of, set()).add(stretch.line)
        last = (stretch.of, stretch.line)


def _way_in(here: Now, step: SewingStep, number: int, unit: Unit) -> SewingStepView:
    """The step that begins a thread, or travels."""
    placed = [move_in_quilt(here, move) for move in step.travels]
    first = step.moves[0] if step.moves else here.steps[number + 1].moves[0]
    spot = in_quilt(here.way, here.visit.place, first.path[:1])[0]
    end = placed[-1][-1] if placed else spot
    go = travel_words(step.travels, placed, unit)
    lay: w.Words = w.told("Travel {go}.", go=go)
    if step.kind == "begin":
        lay = [begin_words(here, first)]
    elif step.across is not None:
        placed, far = [step.across], w.shown(step.from_place, unit, COARSE[unit], about=True)
        spot = step.across[0]
        where = f"{whereabouts.placed(here.way.route.unit.part.name, here.visit.place)}: {corner_words(here.way.route, first.start, here.way.route.unit.part.places[here.visit.place])}"
        lay = w.told("Travel {far}, as it is drawn, to {where}.", far=far, where=where)
    return SewingStepView(
        kind=step.kind, number=0, freehand=False, zone="", sum=None, hand=[], legs=[], sewn=[], lay=lay, also_sewn=_also(step),
        sew=[], then=w.told('Then travel {go}.', go=go) if step.kind == "begin" and go else [],
        short=[tr("begin a thread") if step.kind == "begin" else tr("travel")],
        ruler=[], hands=[], points=[], travels=[flat(path) for path in placed],
        start=spot.round(3).tolist(), at=end.round(3).tolist(), length_mm=round(step.length, 3), stops=False,
    )  # fmt: skip


def _line(
    laid: QuiltLayout,
    here: Now,
    step: SewingStep,
    sewn: dict[str, set[int]],
    last: tuple[str, int],
    is_last: bool,
    unit: Unit,
) -> SewingStepView:
    one = here.way.route.unit
    course = one.courses[step.sews[0].course]
    key, drawing = one.drawings[course.zone]
    plan = plan_zone(laid, key)
    stretch = step.sews[0].stretch
    assert plan is not None and stretch is not None
    if course.freehand:
        return _freehand(laid, here, step, drawing, is_last, unit)
    placed_moves = [move_in_quilt(here, move) for move in step.sews]
    travels = [move_in_quilt(here, move) for move in step.travels]
    go = travel_words(step.travels, travels, unit, step.sews[0].course)
    before = last[1] if last[0] == stretch.of else None
    on = placed(plan, drawing, course.number, sewn, stretch.of, before)
    placing = one.part.places[here.visit.place]
    rest = rest_of(on, *step.span)
    told = as_it_lies(rest, placing)
    stops = moves_on(plan, drawing, course.number, step.sews, on)
    again = bool(stretch.turn)
    return _sewn_step(
        step,
        placed_moves,
        travels,
        freehand=False,
        zone=laid.zone(key).name,
        lay=[tr("Sew over the same line again. Leave the ruler in place.")] if again
        else (on.by == "tape" and tape_words(plan, drawing, course.number, sewn.get(stretch.of, set()), placing, unit)) or [*lay_words(plan.kit, told, unit), *edge_words(_on_edge(laid, here, plan, drawing, on), unit)],
        sum=None if again else _sum(plan, on, unit),
        hand=hand_words(stops, unit),
        legs=_legs(plan, told, step, unit),
        ruler=[] if again else flat(in_quilt(here.way, here.visit.place, laid_ruler(plan, drawing, rest, step.sews[0].back))),
        hands=[spot.round(3).tolist() for spot in spots_at(np.concatenate(placed_moves), stops)],
        sew=sew_words(step, here.way, course.closed, unit, placed_moves),
        then=then_words(laid, here, step, go, is_last),
        short=short_words(on, unit),
    )  # fmt: skip


def _on_edge(laid: QuiltLayout, here: Now, plan: ZonePlan, drawing: Drawing, on: Placement) -> bool:
    """Whether the seam that a line is placed from is the quilt's own edge."""
    if on.on != "seam":
        return False
    points = in_quilt(here.way, here.visit.place, reference_points(plan, drawing, on))
    size = np.array([laid.top.width, laid.top.height])
    away = np.minimum(np.abs(points), np.abs(points - size)) < VISIBLE
    return bool(len(points)) and bool(away.all(axis=0).any())


def _legs(plan: ZonePlan, on: Placement, step: SewingStep, unit: Unit) -> list[w.Words]:
    """Leg by leg, what is left of the line."""
    back = step.sews[0].back
    return leg_words(plan.kit, on, turned_back(on.legs) if back else on.legs, back, unit)


def _sum(plan: ZonePlan, on: Placement, unit: Unit) -> sum_words.SumView | None:
    """The sum with etched line and foot, if an etched line is used."""
    if (
        on.sides
        or on.total is None
        or on.by not in ("etched line", "edge behind", "gauge")
        or on.on == "mark"
    ):
        return None
    name = tr("your last line") if on.on == "last" else on_words(on)
    return sum_words.the_sum(
        on.total, plan.kit, unit, name, tr("from the seam") if on.on == "seam" else tr("apart")
    )


def _freehand(
    laid: QuiltLayout, here: Now, step: SewingStep, drawing: Drawing, is_last: bool, unit: Unit
) -> SewingStepView:
    """A piece of a texture."""
    key, _ = here.way.route.unit.drawings[here.way.route.unit.courses[step.sews[0].course].zone]
    placed = [move_in_quilt(here, move) for move in step.sews]
    travels = [move_in_quilt(here, move) for move in step.travels]
    far = long_figure(sum(move.length for move in step.sews), unit)
    size = w.shown(drawing.fill.spacing.mm, unit)
    return _sewn_step(
        step,
        placed,
        travels,
        freehand=True,
        zone=laid.zone(key).name,
        lay=w.told('Put the ruler aside. Quilt freehand: {texture_name}, {size} large.', texture_name=texture_name(drawing), size=size),
        sum=None,
        hand=[],
        legs=[],
        sew=[
            tr("Work {way_to} in rows, about {far}, and stop with the needle down.", way_to=way_to(placed[0][0], placed[-1][-1]), far=far)
        ],
        then=[*then_words(laid, here, step, travel_words(step.travels, travels, unit, step.sews[0].course), is_last), f" {' '.join(drawing.fill.notes())}"],
        short=[tr("freehand")],
        ruler=[],
        hands=[],
    )  # fmt: skip


def _sewn_step(step: SewingStep, placed: list[Floats], travels: list[Floats], **said: Any) -> SewingStepView:
    """The step of a line: its path, its length, and its words."""
    return SewingStepView(
        kind="line",
        number=step.number,
        points=[flat(path) for path in placed],
        travels=[flat(path) for path in travels],
        start=placed[0][0].round(3).tolist(),
        at=(travels or placed)[-1][-1].round(3).tolist(),
        length_mm=round(step.length, 3),
        stops=step.stops,
        also_sewn=_also(step),
        sewn=_sewn(step),
        **said,
    )


def _sewn(step: SewingStep) -> list[SewnStretch]:
    return [
        SewnStretch(drawing=s.of, line=s.line, turn=s.turn, begins=s.begins, ends=s.ends, reversed=move.back)
        for move in step.sews
        if (s := move.stretch) is not None
    ]


def _also(step: SewingStep) -> list[SewnStretch]:
    some = [stretch for move in step.travels for stretch in move.also]
    return [SewnStretch(drawing=s.of, line=s.line, turn=s.turn, begins=s.begins, ends=s.ends) for s in some]
