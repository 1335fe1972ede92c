"""Finds the one line whose mark shortens the route most, because it need not wait for its reference."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from kenzet.core.route.costs import Costs
from kenzet.core.route.euler_walk import runs
from kenzet.core.route.in_order import in_order, lines_along
from kenzet.core.route.solve import Solver
from kenzet.core.route.travel_edges import Ends
from kenzet.core.route.unit_route import UnitRoute

_MOST_TRIED = 16


@dataclass(frozen=True, slots=True)
class OneMark:
    """``line`` of drawing number ``drawing`` of the unit; with it marked, a route costs ``worth`` mm, with
    ``travelled`` mm of travel."""

    drawing: int
    line: int
    worth: float
    travelled: float


def best_mark(
    one: UnitRoute, solver: Solver, costs: Costs, ends: Ends, stopped: Callable[[], bool]
) -> OneMark | None:
    """Of the lines that the shortest route reaches too early, the one whose mark saves most; None if the order
    costs nothing. Each is tried with a quick route, so that the saving is achievable."""
    net, courses, rule = one.network, one.unit.courses, one.unit.precedence
    if rule.free or one.more <= 0:
        return None
    walked = runs(net, courses, solver.quick(ends), ends)
    best: OneMark | None = None
    for course in rule.too_early(lines_along(net, walked))[:_MOST_TRIED]:
        if stopped():
            break
        freed = rule.without(course)
        found = in_order(net, courses, freed, solver.roads, costs, walked, ends, thorough=False)
        travel = found[0] if found else solver.quick(ends)
        worth = solver.worth(travel)
        if best is None or worth < best.worth:
            far = float(net.lengths[list(travel.edges)].sum())
            best = OneMark(courses[course].zone, courses[course].number, worth, far)
    return best
