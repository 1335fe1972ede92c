"""Placing: what whole lines and their order cost in travelling, placements a second, and marks against the exact least.

Ratios are of one run: travelling of lines sewn whole, and of lines in an order in which each finds what it is laid on,
against lines that may be left where they meet; placing every line against planning it.
"""

from __future__ import annotations

from itertools import combinations
from time import perf_counter

from kenzet.core.fills import FILLS
from kenzet.core.geom.region import Region
from kenzet.core.kit.kit import Kit
from kenzet.core.marks.marking import marks_of
from kenzet.core.numbers.measure import INCH
from kenzet.core.placing.as_it_is import placed
from kenzet.core.placing.line_order import line_order
from kenzet.core.placing.place_line import PLANNED, planned
from kenzet.core.plan.planner import PLANS, plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.route.costs import Costs
from kenzet.core.route.euler_walk import runs
from kenzet.core.route.in_order import in_order
from kenzet.core.route.network import Lane, network
from kenzet.core.route.precedence import Precedence
from kenzet.core.route.solve import Solver
from kenzet.core.route.unit import courses_of, rings
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import Zone
from kenzet.demo import demo_quilts
from tests.shapes import REGIONS, box, drawn, inches

CASES: list[tuple[str, str, dict[str, object], Region]] = [
    ("level lines in a square", "lines", {"angle": 0}, inches(box(0, 0, 8, 8))),
    ("lines at 45 degrees in a square", "lines", {"angle": 45}, inches(box(0, 0, 8, 8))),
    ("a grid on point in a square", "grid", {"angle": 45, "second_angle": 135}, inches(box(0, 0, 8, 8))),
    ("chevrons in a square", "chevrons", {}, inches(box(0, 0, 8, 8))),
    ("an inset square with quadrants", "inset", {}, inches(box(0, 0, 9, 9))),
    ("a grid in a petal", "grid", {"angle": 45, "second_angle": 135}, REGIONS["petal"]),
    ("a grid in a star background", "grid", {"angle": 45, "second_angle": 135}, REGIONS["star background"]),
    ("rings in a triangle", "echo", {}, REGIONS["right triangle"]),
]
SMALL = CASES[:2] + CASES[3:4] + CASES[5:6]


def main() -> None:
    for name, kind, values, region in CASES:
        travelling(name, *planned_zone(kind, values, region))
    for quilt in demo_quilts():
        speed(quilt.name, QuiltLayout(quilt))
    for name, kind, values, region in SMALL:
        least_marks(name, planned_zone(kind, {**values, "spacing": "1 1/4 in"}, region)[0])


def planned_zone(kind: str, values: dict[str, object], region: Region) -> tuple[ZonePlan, Region]:
    fill = FILLS[kind].model_validate({"spacing": "3/4 in", **values})
    zone = Zone(name="Zone", part="block", patches=("a",), fill=fill, marking="first lines")
    return ZonePlan("zone", zone, Kit(), (drawn(fill, region),), (0.0, 0.0)), region


def travelling(name: str, plan: ZonePlan, region: Region) -> None:
    (drawing,) = plan.drawings
    courses, lanes, costs = courses_of(drawing), [Lane(ring) for ring in rings(region.area)], Costs()
    turning, whole = (
        Solver(network(courses, lanes, region.corners, turning=may), costs) for may in (True, False)
    )
    free, kept = turning.worth(turning.travel()), whole.worth(travel := whole.travel())
    rule = Precedence(courses, [line_order(plan, drawing)])
    walked = runs(whole.network, courses, travel)
    began = perf_counter()
    put = in_order(whole.network, courses, rule, whole.roads, costs, walked, None)
    spent = perf_counter() - began
    ordered = whole.worth(put[0]) if put else kept
    base = max(free, 1.0)
    print(
        f"placing: {name}: turning allowed {free / INCH:.1f} in of travelling ({turning.bound / INCH:.1f} in the bound), "
        f"whole lines {kept / base:.2f} of it, in order {ordered / base:.2f} ({ordered / INCH:.1f} in); "
        f"the order took {spent * 1e3:.0f} ms"
    )


def speed(name: str, laid: QuiltLayout) -> None:
    laid.memo.forget(PLANS)
    began = perf_counter()
    plans = plan_quilt(laid)
    spent = perf_counter() - began
    laid.memo.forget(PLANNED)
    began, many = perf_counter(), 0
    for plan in plans.values():
        for drawing in plan.drawings:
            for line in range(drawing.lines):
                planned(plan, drawing, line)
                many += 1
    took = perf_counter() - began
    print(
        f"placing: {name}: {many / took:,.0f} placements a second, {took / spent:.1f} times planning the lines"
    )


def least_marks(name: str, plan: ZonePlan) -> None:
    """Marks against the least number of lines from which all others can be laid, found by trying every choice."""
    (drawing,) = plan.drawings
    lines = range(drawing.lines)
    laid_on = {
        k: [o for o in lines if o != k and placed(plan, drawing, k, {o}, None).reference == o] for k in lines
    }
    both = {k: set(planned(plan, drawing, k).needs) for k in lines}  # a line that turns, from each of these
    given = {
        k
        for k in lines
        if planned(plan, drawing, k).on in ("seam", "ditch")
        or (planned(plan, drawing, k).on == "corners" and not both[k])
    }
    count = len(marks_of(plan, drawing).lines)

    def all_placed(marked: set[int]) -> bool:
        there = given | marked
        while more := {
            k
            for k in lines
            if k not in there and (there.intersection(laid_on[k]) or (both[k] and both[k] <= there))
        }:
            there |= more
        return len(there) == len(lines)

    least = next(n for n in range(count + 1) if any(all_placed(set(some)) for some in combinations(lines, n)))
    print(f"placing: {name}: {count} marks for {len(lines)} lines, the exact least is {least}")


if __name__ == "__main__":
    main()
