"""How the lines of a route are placed in turn, when everything before each is sewn; and where the hand moves."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.placing.as_it_is import placed
from kenzet.core.placing.legs import hand_moves
from kenzet.core.placing.placement import Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.sewing.place_route import Move, PlaceRoute, cut_out
from kenzet.core.sewing.stretch import Covered
from kenzet.core.top.quilt_layout import QuiltLayout


def placements_along(
    laid: QuiltLayout, way: PlaceRoute
) -> Iterable[tuple[Move, ZonePlan, Drawing, Placement]]:
    """Every line of a route at its first occurrence, with its plan and drawing, and how it is placed then."""
    sewn: dict[str, set[int]] = {}
    last = (-1, -1)
    for move in way.sewn:
        course = way.route.unit.courses[move.course]
        key, drawing = way.route.unit.drawings[course.zone]
        word = way.route.unit.words[course.zone]
        mine = sewn.setdefault(word, set())
        if course.number in mine or course.freehand:
            continue
        plan = plan_zone(laid, key)
        if plan is not None:
            before = last[1] if last[0] == course.zone else None
            yield move, plan, drawing, placed(plan, drawing, course.number, sewn, word, before)
        mine.add(course.number)
        last = (course.zone, course.number)


def lines_there(way: PlaceRoute, covered: Covered) -> dict[str, set[int]]:
    """By drawing (its word), the lines that are sewn completely; skipped and partly unpicked lines are left out."""
    missing: dict[str, set[int]] = {}
    found: dict[str, set[int]] = {}
    for move in way.sewn:
        stretch = move.stretch
        if stretch is None or stretch.turn:
            continue
        found.setdefault(stretch.of, set()).add(stretch.line)
        if covered.left(stretch):
            missing.setdefault(stretch.of, set()).add(stretch.line)
    return {word: lines - missing.get(word, set()) for word, lines in found.items()}


def moves_on(
    plan: ZonePlan, drawing: Drawing, line: int, moves: Iterable[Move], placement: Placement
) -> list[float]:
    """Where the hand on the ruler moves while ``moves`` sew the line, mm from where they begin; empty without a
    ruler."""
    some = [move.stretch for move in moves if move.stretch is not None]
    first = next(iter(moves), None)
    if not some or first is None or placement.by in ("follow", "eye", "ditch", "tape", "gauge", "rim"):
        return []
    crossings = plan.crossings(drawing, line) if drawing.trace(line) is None else []
    begins, ends = min(one.begins for one in some), max(one.ends for one in some)
    return hand_moves(drawing, line, crossings, float(plan.kit.hand.mm), begins, ends, first.back)


def spots_at(path: Floats, at: Iterable[float]) -> list[Floats]:
    """The points of ``path`` (n, 2) at distances ``at`` along it, mm."""
    whole = float(np.hypot(*np.diff(path, axis=0).T).sum())
    return [cut_out(path, 0.0, min(far, whole))[-1] for far in at]
