"""Lines in an order in which each finds what it is laid on: kept, and as short as the exact best of small cases."""

from __future__ import annotations

import math

import numpy as np
import pytest

from kenzet.core.fills import FILLS
from kenzet.core.kit.kit import Kit
from kenzet.core.placing.line_order import LineOrder, line_order
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.route.costs import Costs
from kenzet.core.route.euler_walk import runs
from kenzet.core.route.in_order import in_order, keeps_order
from kenzet.core.route.network import Lane, network
from kenzet.core.route.precedence import Precedence
from kenzet.core.route.solve import Solver
from kenzet.core.route.unit import courses_of, rings
from kenzet.core.top.zone import Zone
from tests.core.fills.test_fills import EXAMPLES
from tests.shapes import REGIONS, box, drawn, inches

COSTS = Costs()
SMALL = {
    "lines": ({"spacing": "1 in", "angle": 45}, inches(box(0, 0, 4, 4))),
    "a grid": ({"spacing": "1 1/2 in", "second_angle": 90, "angle": 0}, inches(box(0, 0, 5, 5))),
    "chevrons": ({"spacing": "1 in"}, inches(box(0, 0, 4, 4))),
    "lines in two triangles": ({"spacing": "1 in", "angle": 0}, REGIONS["hourglass"]),
}
KINDS = {"lines": "lines", "a grid": "grid", "chevrons": "chevrons", "lines in two triangles": "lines"}


def planned(kind, values, region):
    """Its courses, its network, and what must be sewn before what, where only first lines are marked."""
    fill = FILLS[kind].model_validate({"spacing": "3/4 in", **values})
    drawing = drawn(fill, region)
    zone = Zone(name="Zone", part="block", patches=("a",), fill=fill, marking="first lines")
    plan = ZonePlan("zone", zone, Kit(), (drawing,), (0.0, 0.0))
    courses = courses_of(drawing)
    net = network(courses, [Lane(ring) for ring in rings(region.area)], region.corners)
    return courses, net, Precedence(courses, [line_order(plan, drawing)])


def routed(courses, net, precedence, ends=None):
    solver = Solver(net, COSTS)
    walked = runs(net, courses, solver.travel(ends), ends)
    put = in_order(net, courses, precedence, solver.roads, COSTS, walked, ends)
    return solver, *(put or (solver.travel(ends), walked))


def exact(solver, net, courses, precedence):
    """The least that whole lines in order cost, by trying all of them (Held and Karp): free ends, thread stops priced."""
    far = solver.roads.all
    ends = [net.ends[np.flatnonzero((net.courses == k) & (net.passes > 0))] for k in range(len(courses))]
    ways = [((e[0, 0], e[-1, 1]), (e[-1, 1], e[0, 0])) for e in ends]

    def ready(done, course):
        sewn = precedence.begin()
        for k in range(len(courses)):
            if done >> k & 1:
                sewn.add(k)
        return sewn.ready(course)

    best = {(1 << k, end): 0.0 for k in range(len(courses)) if ready(0, k) for _, end in ways[k]}
    for _ in range(len(courses) - 1):
        after: dict = {}
        known: dict = {}
        for (done, here), cost in best.items():
            if done not in known:
                known[done] = [k for k in range(len(courses)) if not done >> k & 1 and ready(done, k)]
            for k in known[done]:
                for start, end in ways[k]:
                    key = (done | 1 << k, end)
                    total = cost + min(far[here, start], COSTS.stop)
                    after[key] = min(after.get(key, math.inf), total)
        best = after
    return min(best.values())


@pytest.mark.parametrize("case", SMALL)
def test_small_cases_are_within_five_per_cent_of_the_best_order_there_is(case):
    values, region = SMALL[case]
    courses, net, precedence = planned(KINDS[case], values, region)
    solver, travel, walked = routed(courses, net, precedence)
    assert not precedence.free and len(courses) < 15
    assert keeps_order(net, courses, precedence, walked)
    least = exact(solver, net, courses, precedence)
    assert least - 0.01 <= travel.cost + travel.stops * COSTS.stop <= 1.05 * least + 0.01


CASES = [
    (kind, region)
    for kind, some in EXAMPLES.items()
    if some
    for region in ("square", "right triangle", "petal", "hourglass")
]


@pytest.mark.parametrize(("kind", "region"), CASES)
def test_every_line_is_sewn_once_and_finds_what_it_is_laid_on(kind, region):
    try:
        courses, net, precedence = planned(kind, EXAMPLES[kind][0], REGIONS[region])
    except ValueError:
        pytest.skip("this fill does not go into this region")
    if not courses or courses[0].freehand:
        pytest.skip("nothing is sewn by a line here")
    _, travel, walked = routed(courses, net, precedence)
    assert keeps_order(net, courses, precedence, walked)
    passes = np.zeros(len(net.ends), dtype=int)
    for run in walked:
        here = run.start
        for leg in run.legs:
            a, b = net.ends[leg.edge].tolist()
            assert here == (b if leg.back else a)
            here = a if leg.back else b
            passes[leg.edge] += 1
        assert here == run.end
    wanted = net.passes.copy()
    np.add.at(wanted, list(travel.edges), 1)
    assert (passes == wanted).all()
    assert len(walked) == travel.stops + 1


def test_between_given_ends_it_begins_and_ends_there():
    courses, net, precedence = planned("lines", {"angle": 45, "spacing": "1 in"}, inches(box(0, 0, 4, 4)))
    ends = (net.nearest((0.0, 0.0)), net.nearest((4 * 25.4, 4 * 25.4)))
    _, _, walked = routed(courses, net, precedence, ends)
    assert (walked[0].start, walked[-1].end) == ends


def test_a_set_waits_for_the_one_before_in_its_own_piece_only():
    courses = courses_of(
        drawn(FILLS["lines"].model_validate({"spacing": "1 in", "angle": 0}), inches(box(0, 0, 4, 4)))
    )
    assert len(courses) == 3
    order = LineOrder(((), (), ()), (0, 1, 0), (0, 0, 1))
    sewn = Precedence(courses, [order]).begin()
    assert [sewn.ready(k) for k in range(3)] == [True, False, True]
    sewn.add(0)
    assert sewn.ready(1)


def test_a_line_waits_until_all_of_one_way_are_sewn():
    courses = courses_of(
        drawn(FILLS["lines"].model_validate({"spacing": "1 in", "angle": 0}), inches(box(0, 0, 4, 4)))
    )
    precedence = Precedence(courses, [LineOrder(((), (), ((0, 1),)), (0, 0, 0), (0, 0, 0))])
    assert not precedence.allows([0, 2, 1]) and precedence.allows([1, 0, 2])
