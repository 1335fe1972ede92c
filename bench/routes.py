"""Routes: extra travel against the T-join bound (no route is cheaper), and time against planning the lines again.

The bound leaves loops apart, so that zones with rings or single pieces of cloth can never reach it.
"""

from __future__ import annotations

import math
from fractions import Fraction
from time import perf_counter

import numpy as np

from bench.king_size import king_size
from kenzet.core.changes import CHANGES
from kenzet.core.changes.new_quilt import NewQuilt, new_quilt
from kenzet.core.fills import FILLS
from kenzet.core.geom.clip import Straight, clip
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.route.costs import Costs
from kenzet.core.route.local_search import LocalSearch
from kenzet.core.route.network import Course, Lane, Network, network
from kenzet.core.route.quilt import QuiltRoute, costs_of, route_quilt, units_of
from kenzet.core.route.solve import Solver
from kenzet.core.route.unit import courses_of, rings
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.shapes import box, drawn, inches


def main() -> None:
    square, triangle = inches(box(0, 0, 8, 8)), inches([(0, 0), (8, 0), (4, 4 * math.sqrt(3))])
    one("8 in square, level lines at 1/4", ruled(square, 0))
    one("8 in square, lines at 30 degrees", ruled(square, 30))
    one("8 in triangle, grid of 60 degrees", ruled(triangle, 0, 60))
    echo = drawn(FILLS["echo"].model_validate({"spacing": "1/4 in"}), inches([(0, 0), (6, 0), (0, 6)]))
    one(
        "rings in a triangle of a pinwheel",
        network(courses_of(echo), lanes(echo.region), echo.region.corners),
    )
    for quilt in demo_quilts():
        whole(quilt.name, QuiltLayout(quilt))
        longer(quilt.name, QuiltLayout(quilt), seconds=20)
    whole("king size, 169 blocks and 8,320 lines of sashing", king_size())
    for across in (10, 20, 40):
        whole(f"{across**2:,} blocks, a grid in each", gridded(across))


def gridded(across: int) -> QuiltLayout:
    """A square top of plain blocks with a grid that runs on from the quilt's centre, so that blocks differ."""
    wish = {"name": "Many", "columns": across, "rows": across, "block": "5 in"}
    laid = QuiltLayout(new_quilt(NewQuilt.model_validate(wish)))
    place = next(place for place, _ in laid.quilt.layout.places())
    patch = next(iter(laid.top.at[place].patches))
    zone = CHANGES["zone"].model_validate({"kind": "zone", "refs": [f"{place}/{patch}"]})
    laid = QuiltLayout(zone.apply(laid)[0])
    (key,) = laid.quilt.zones
    fill = {"kind": "fill", "zone": key, "fill": {"kind": "grid", "spacing": "1/2 in"}}
    return QuiltLayout(CHANGES["fill"].model_validate(fill).apply(laid)[0])


def lanes(region):
    return [Lane(ring) for ring in rings(region.area)]


def ruled(region, *angles: float) -> Network:
    courses = []
    for family, angle in enumerate(angles):
        normal = np.array((-math.sin(math.radians(angle)), math.cos(math.radians(angle))))
        datum = float((np.array(region.extremes) @ normal).min()) + INCH / 8
        ends = clip([(region, Straight(angle, Fraction(127, 20), datum))]).ends
        courses += [Course(line.reshape(2, 2), False, family=family, number=k) for k, line in enumerate(ends)]
    return network(courses, lanes(region), region.corners)


def one(name: str, net: Network) -> None:
    solver = Solver(net, Costs())
    began = perf_counter()
    worth = solver.worth(solver.travel())
    spent = perf_counter() - began
    print(f"routes: {name}: travel {told(worth, solver.bound)}; {spent * 1e3:.0f} ms")


def whole(name: str, laid: QuiltLayout) -> None:
    began = perf_counter()
    plan_quilt(laid)
    planned = perf_counter() - began
    began = perf_counter()
    quick = route_quilt(laid, quick=True)
    soon = perf_counter() - began
    began = perf_counter()
    route = route_quilt(laid)
    spent = perf_counter() - began
    taken = [route.routes[visit.route] for visit in route.visits]
    worth = sum(one.travel.cost + one.travel.stops * Costs().stop for one in taken)
    bound = sum(one.bound for one in taken)
    across = sum(visit.across for visit in route.visits)
    print(
        f"routes: {name}: {len(units_of(laid))} kinds at {len(route.visits)} places, travel within them "
        f"{told(worth, bound)}, from place to place {across / INCH:,.0f} in and {route.stops} thread stops; "
        f"{route.travelled / route.stitched:.1%} of the lines; {spent:.2f} s, {spent / planned:.0f} times the planning"
    )
    if quick.quick:
        longer_by = weighed(quick) / weighed(route)
        print(
            f"quick ways: {name}: {soon:.2f} s, {soon / spent:.2f} of that; {longer_by:.3f} of its travelling and stops"
        )


def weighed(route: QuiltRoute) -> float:
    """Travelling and stops."""
    return route.travelled + route.stops * Costs().stop


def longer(name: str, laid: QuiltLayout, seconds: float) -> None:
    """What is gained by looking longer, and by how much a way could be shorter at most: first and then, against what no way is shorter than."""
    costs = costs_of(laid.quilt.stitching)
    found = LocalSearch(route_quilt(laid), costs)
    began = perf_counter()
    found.run(lambda: perf_counter() - began > seconds)
    spent = perf_counter() - began
    kinds = ", ".join(
        f"{kind.one.unit.part.name} {kind.begun / kind.least:.3f} to {kind.worth / kind.least:.3f}"
        for kind in found.kinds
        if kind.least > 1
    )
    print(
        f"looking longer: {name}, {spent:.0f} s: {found.gained:.1%} saved; of what no way is shorter than: {kinds}"
    )


def told(worth: float, bound: float) -> str:
    ratio = f"{worth / bound:.3f} of the bound" if bound > 1 else "the bound is 0"
    return f"{worth / INCH:,.1f} in, {ratio}"


if __name__ == "__main__":
    main()
