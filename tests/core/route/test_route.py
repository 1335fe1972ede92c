"""The order that runs on: against proven optima, plain rows, and what a walk must be."""

from __future__ import annotations

import math
from fractions import Fraction

import numpy as np
import pytest

from kenzet.core.fills import FILLS
from kenzet.core.geom.clip import Straight, clip
from kenzet.core.route.costs import Costs
from kenzet.core.route.euler_walk import runs
from kenzet.core.route.network import LINE, Course, Lane, network
from kenzet.core.route.planar_faces import faces_of
from kenzet.core.route.solve import Solver
from kenzet.core.route.unit import courses_of, rings
from tests.core.fills.test_fills import EXAMPLES
from tests.optimum import optimum
from tests.shapes import REGIONS, box, drawn, inches

IN = 25.4
SQUARE = inches(box(0, 0, 8, 8))
TRIANGLE = inches([(0, 0), (8, 0), (4, 8 * math.sqrt(3) / 2)])


def ruled(region, *families):
    """A network of families (angle, inches apart, first line from the side it is counted from, that side)."""
    courses = []
    for number, (angle, apart, first, low) in enumerate(families):
        normal = np.array((-math.sin(math.radians(angle)), math.cos(math.radians(angle))))
        across = np.array(region.extremes) @ normal
        datum = float(across.min() + first * IN) if low else float(across.max() - first * IN)
        stretches = clip([(region, Straight(angle, Fraction(apart) * Fraction(127, 5), datum))])
        courses += [
            Course(ends.reshape(2, 2), False, family=number, number=k)
            for k, ends in enumerate(stretches.ends)
        ]
    return courses, network(courses, [Lane(ring) for ring in rings(region.area)], region.corners)


def of_fill(kind, values, region):
    drawing = drawn(FILLS[kind].model_validate({"spacing": "3/4 in", **values}), region)
    courses = courses_of(drawing)
    lanes = [Lane(ring) for ring in rings(drawing.region.area)]
    return courses, network(courses, lanes, drawing.region.corners)


REFERENCE = [
    ("level", SQUARE, [(0, "1/4", 0.125, True)], 7.75),
    ("45 degrees", SQUARE, [(45, "1/4", 0.125, True)], 15.556),
    ("30 degrees", SQUARE, [(30, "1/4", 0.125, True)], 15.689),
    ("two families", TRIANGLE, [(0, "1/2", 0.25, True), (60, "1/2", 0.25, False)], 8.666),
    ("three families", TRIANGLE, [(0, "1/2", 0.25, True), (60, "1/2", 0.25, True), (120, "1/2", 0.25, True)], 3.547),
]  # fmt: skip


@pytest.mark.parametrize(("region", "families", "extra"), [case[1:] for case in REFERENCE], ids=[case[0] for case in REFERENCE])  # fmt: skip
def test_reference_cases_reach_their_proven_optimum(region, families, extra):
    _, net = ruled(region, *families)
    proven = optimum(net, Costs())
    assert proven / IN == pytest.approx(extra, abs=6e-4)
    solver = Solver(net, Costs())
    found = solver.travel()
    assert (found.stops, len(found.groups)) == (0, 1)
    assert found.cost == pytest.approx(proven, abs=0.05)
    assert solver.bound <= proven + 0.01


def test_rings_are_stepped_at_the_right_angle():
    """Rings in a right triangle of 6 in: from each to the next a step of 1/4 in by the diagonal, weighing twice."""
    courses, net = of_fill("echo", {"spacing": "1/4 in"}, inches([(0, 0), (6, 0), (0, 6)]))
    steps = len(courses) - 1
    assert steps >= 5
    found = Solver(net, Costs()).travel()
    assert found.cost / IN == pytest.approx(steps * 0.25 * math.sqrt(2) * 2, abs=1e-3)
    assert (
        Solver(net, Costs(step=None)).travel().stops == steps
    )  # a break a ring where open fabric is never crossed


@pytest.mark.parametrize(("many", "far_side"), [(11, True), (12, False)])
def test_a15_a16_rows_end_on_the_far_or_on_the_start_side(many, far_side):
    apart = Fraction(15, 2) / (many + 1)
    courses, net = ruled(inches(box(0, 0, 7.5, 7.5)), (90, str(apart), float(apart), True))
    assert len(courses) == many
    (run,) = runs(net, courses, Solver(net, Costs()).travel())
    sewn = sum(net.lengths[leg.edge] for leg in run.legs) / IN
    assert sewn == pytest.approx(many * 7.5 + (many - 1) * float(apart), abs=1e-6)
    start, end = net.points[run.start], net.points[run.end]
    assert bool(abs(start[1] - end[1]) > 7 * IN) == far_side


def test_a94_without_a_lane_every_line_is_a_run():
    _, net = ruled(inches(box(0, 0, 7.5, 7.5)), (0, "5/8", 0.625, True))
    assert Solver(net, Costs(ditch=None, retrace=None)).travel().stops == 10
    assert Solver(net, Costs()).travel().stops == 0


def test_a15_path_length_of_f12():
    courses, net = ruled(inches(box(0, 0, 7.5, 7.5)), (0, "5/8", 0.625, True))
    total = net.stitched + Solver(net, Costs()).travel().cost
    assert (len(courses), total / IN) == (11, pytest.approx(88.75))


CASES = [
    (kind, values, region)
    for kind, some in EXAMPLES.items()
    for values in some[:1]
    for region in ("right triangle", "petal", "star background")
]


def rows(courses, net, solver):
    """Plain rows: line after line in order, each joined to the nearer end of the next along the cheapest lane."""
    ends = [[net.nearest(tuple(course.line[k])) for k in (0, -1)] for course in courses]
    best = math.inf
    for first in (0, 1):
        here, cost = ends[0][1 - first], 0.0
        for one in ends[1:]:
            ways = [min(solver.roads.cost(here, node), solver.costs.stop) for node in one]
            near = int(np.argmin(ways))
            cost, here = cost + ways[near], one[1 - near]
        best = min(best, cost)
    return best


@pytest.mark.parametrize(("kind", "values", "region"), CASES, ids=lambda v: v if isinstance(v, str) else "")
def test_every_line_is_sewn_once_in_unbroken_runs_and_never_worse_than_plain_rows(kind, values, region):
    try:
        courses, net = of_fill(kind, values, REGIONS[region])
    except ValueError:
        pytest.skip("this fill does not go into this region")
    if not courses:
        pytest.skip("nothing is sewn by a line here")
    solver = Solver(net, Costs())
    travel = solver.travel()
    walked = runs(net, courses, travel)
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
    assert solver.bound <= solver.worth(travel) + 0.01
    if not any(course.closed for course in courses):
        assert solver.worth(travel) <= rows(courses, net, solver) + 0.05


SMALL = [
    ("lines", {"angle": 30}, "petal"), ("grid", {"second_angle": 60}, "L"), ("echo", {}, "right triangle"),
    ("waves", {}, "right triangle"), ("pairs", {}, "petal"), ("zigzag", {}, "right triangle"), ("chevrons", {}, "right triangle"),
    ("random", {}, "right triangle"), ("random", {"shape": "wavy", "seed": 3, "angle": 30, "spacing": "3/4 in"}, "lattice"),
    ("fan", {"spacing": "1/4 in", "wide": "1/2 in", "at": 0, "narrow": "right", "lines": 9}, "lattice"),
    ("pairs", {"angle": 0, "together": 3, "crossed": "at 60 degrees", "origin": "edge"}, "lattice"),
    ("keys", {"spacing": "1/2 in", "base": "all round"}, "right triangle"),
    ("lines", {"origin": "corner", "first_gap": "3/8 in", "angle": 30}, "star background"), ("pairs", {}, "star background"),
]  # fmt: skip


@pytest.mark.parametrize(("kind", "values", "region"), SMALL, ids=[f"{case[0]} {case[2]}" for case in SMALL])
def test_a_zone_is_within_three_per_cent_of_its_proven_optimum(kind, values, region):
    _, net = of_fill(kind, values, REGIONS[region])
    solver = Solver(net, Costs())
    found = solver.worth(solver.travel())
    assert found <= solver.bound + 0.01 or found <= 1.03 * optimum(net, Costs(), seconds=30)


@pytest.mark.parametrize(
    ("turning", "sewn", "travelled"),
    [(False, [50, 100, 100], [30, 70]), (True, [30, 50, 70, 100], [30, 50, 70, 100])],
    ids=["whole", "turning allowed"],
)
def test_a_line_is_sewn_whole_and_travelled_along_from_where_another_ends_on_it(turning, sewn, travelled):
    across = Course(np.array([[0.0, 50.0], [100.0, 50.0]]), False)
    stem = Course(np.array([[30.0, 50.0], [30.0, 0.0]]), False)
    through = Course(np.array([[70.0, 0.0], [70.0, 100.0]]), False)
    bottom = Lane(np.array([[0.0, 0.0], [100.0, 0.0]]))
    net = network([across, stem, through], [bottom], turning=turning)
    assert sorted(net.lengths[net.passes > 0].tolist()) == pytest.approx(sewn)
    open_ = (net.kinds == LINE) & np.isfinite(Costs().of(net))
    assert sorted(net.lengths[open_].tolist()) == pytest.approx(
        sorted({*travelled, 50, 100} if not turning else travelled)
    )


@pytest.mark.parametrize("region", ["right triangle", "star background"])
@pytest.mark.parametrize("kind", [kind for kind, some in EXAMPLES.items() if some])
def test_no_line_is_left_where_another_meets_it(kind, region):
    """Every time that a line is sewn it is sewn from end to end, a ring round or from corner to corner."""
    try:
        courses, net = of_fill(kind, EXAMPLES[kind][0], REGIONS[region])
    except ValueError:
        pytest.skip("this fill does not go into this region")
    sewn = [0.0] * len(courses)
    for run in runs(net, courses, Solver(net, Costs()).quick(None)):
        for leg in run.legs:
            course = int(net.courses[leg.edge])
            if not leg.sews:
                continue
            sewn[course] += float(net.lengths[leg.edge])
            if not courses[course].closed and not courses[course].freehand:
                whole = np.hypot(*np.diff(courses[course].line, axis=0).T).sum()
                assert net.lengths[leg.edge] == pytest.approx(whole, abs=0.2)
    for course, long in zip(courses, sewn, strict=True):
        assert long == pytest.approx(course.passes * np.hypot(*np.diff(course.line, axis=0).T).sum(), abs=0.5)


@pytest.mark.parametrize(("region", "many"), [("L", 1), ("lattice", 3), ("star background", 9)])
def test_the_lanes_round_every_face_close(region, many):
    """The lattice's holes are faces too, and so is what the star background goes round."""
    _, net = of_fill("lines", {"angle": 30}, REGIONS[region])
    faces = faces_of(net, [True] * len(net.ends))
    assert len(faces) == many
    for face in faces:
        nodes, times = np.unique(net.ends[face], return_counts=True)
        assert len(nodes) > 2 and (times % 2 == 0).all()
        assert (net.kinds[face] != LINE).all()
    assert faces_of(net, [False] * len(net.ends)) == []


def test_forbidden_lanes_are_told_by_their_stops_and_allowed_ones_used():
    _, net = ruled(SQUARE, (0, "1/4", 0.125, True))
    retraced = Solver(net, Costs(ditch=None)).travel()
    assert retraced.stops == 31
    cheap = Solver(net, Costs(stop=0.1 * IN)).travel()
    assert cheap.stops > 0


def test_large_networks_are_solved_by_chains_and_nearly_as_well():
    """The same lines by all distances at once and by chains of seam: the cost of the second is little above the first."""
    _, net = ruled(SQUARE, (30, "1/4", 0.125, True), (120, "1/2", 0.25, True))
    solver = Solver(net, Costs(retrace=None))
    exact = solver.travel()
    lines = solver.whole.along_chains(None)
    assert len(lines.groups) == 1 and lines.stops == 0
    assert exact.cost <= lines.cost + 0.01
    assert lines.cost <= 1.25 * exact.cost
    assert solver.whole.bound_by_chains() <= solver.bound + 0.01


def test_more_lanes_never_cost_more_and_dearer_stops_never_make_more_of_them():
    _, net = ruled(SQUARE, (30, "1/2", 0.25, True), (90, "1/2", 0.25, True))
    free = Solver(net, Costs()).travel()
    narrow = Solver(net, Costs(retrace=None)).travel()
    assert free.cost <= narrow.cost + 0.01
    stops = [Solver(net, Costs(stop=inches_ * IN)).travel().stops for inches_ in (0.1, 0.5, 2.0, 25.0)]
    assert stops == sorted(stops, reverse=True) and stops[-1] == 0


def test_lines_are_sewn_as_often_as_their_fill_says():
    twice = Course(np.array([[0.0, 10.0], [50.0, 10.0]]), False, passes=2)
    once = Course(np.array([[0.0, 20.0], [50.0, 20.0]]), False)
    outline = Lane(np.array([[0.0, 0.0], [50.0, 0.0], [50.0, 30.0], [0.0, 30.0], [0.0, 0.0]]))
    net = network([twice, once], [outline])
    (run,) = runs(net, [twice, once], Solver(net, Costs()).travel())
    sewn = [int(net.courses[leg.edge]) for leg in run.legs if leg.sews]
    assert sorted(sewn) == [0, 0, 1]


def test_a17_an_exit_on_the_side_of_the_start_costs_one_more_line():
    region = inches(box(0, 0, 7.5, 6.25))
    lines = [
        Course(np.array([[0.0, y], [7.5 * IN, y]]), False, number=k)
        for k, y in enumerate(np.arange(11) * 0.625 * IN)
    ]
    sides = [Lane(np.array([[x, 0.0], [x, 6.25 * IN]])) for x in (0.0, 7.5 * IN)]
    net = network(lines, sides, region.corners)
    solver = Solver(net, Costs(retrace=1.0))
    low, far, near = (net.nearest((x * IN, y * IN)) for x, y in ((0, 0), (7.5, 6.25), (0, 6.25)))
    straight = solver.travel((low, far))
    assert (straight.cost / IN, straight.stops) == (pytest.approx(6.25, abs=0.01), 0)
    assert solver.travel((low, near)).cost / IN == pytest.approx(6.25 + 7.5, abs=0.01)
    with_one_less = network(lines[:-1], sides, region.corners)
    end = with_one_less.nearest((0, 9 * 0.625 * IN))
    shorter = Solver(with_one_less, Costs(retrace=1.0)).travel((with_one_less.nearest((0, 0)), end))
    assert shorter.cost / IN == pytest.approx(9 * 0.625, abs=0.01)


def test_a94_lines_without_a_lane_take_a_thread_each_and_with_one_one():
    lines = [Course(np.array([[0.0, 10.0 * k], [80.0, 10.0 * k]]), False, number=k) for k in range(11)]
    alone = Solver(network(lines, []), Costs(retrace=None)).travel()
    assert len(alone.groups) == 11 and alone.stops == 10
    sides = [Lane(np.array([[x, 0.0], [x, 100.0]])) for x in (0.0, 80.0)]
    assert Solver(network(lines, sides), Costs()).travel().stops == 0


@pytest.mark.parametrize(("rows", "side"), [(3, "right"), (4, "left")])
def test_a103_after_an_odd_number_of_rows_the_verticals_begin_at_the_far_side(rows, side):
    """Rows below, verticals above them; the lanes are the sides and the seam between."""
    level = [
        Course(np.array([[0.0, 20.0 * k + 10], [200.0, 20.0 * k + 10]]), False, 0, 0, 0, k)
        for k in range(rows)
    ]
    top = 20.0 * rows
    up = [
        Course(np.array([[x, top], [x, top + 100]]), False, 1, 0, 0, k)
        for k, x in enumerate(np.arange(10, 200, 20.0))
    ]
    outline = [
        Lane(np.array([[0, 0], [0, top + 100], [200, top + 100], [200, 0], [0, 0]], dtype=float)),
        Lane(np.array([[0, top], [200, top]], dtype=float)),
    ]
    courses = [*level, *up]
    net = network(courses, outline)
    begin = net.nearest((0.0, 10.0))
    solver = Solver(net, Costs(retrace=None))
    ends = min(((begin, tip) for tip in net.tips if tip != begin), key=lambda pair: solver.travel(pair).cost)
    (run,) = runs(net, courses, solver.travel(ends), ends)
    sewn = [courses[int(net.courses[leg.edge])] for leg in run.legs if leg.sews]
    assert [one.zone for one in sewn] == [0] * rows + [1] * 10
    first, last = sewn[rows].line[0, 0], sewn[-1].line[0, 0]
    assert (first > last) == (side == "right")


def test_a93_the_second_family_of_a_grid_begins_where_the_first_one_ends():
    region = inches(box(0, 0, 6, 6))
    courses, net = ruled(region, (0, "1", 0.5, True), (90, "1", 0.5, True))
    solver = Solver(net, Costs())
    travel = solver.travel()
    (run,) = runs(net, courses, travel)
    assert travel.stops == 0
    begun: dict[int, int] = {}
    for k, leg in enumerate(run.legs):
        if leg.sews:
            begun.setdefault(courses[int(net.courses[leg.edge])].family, k)
    second = max(begun.values())
    assert len(begun) == 2 and net.kinds[run.legs[second - 1].edge] != LINE  # reached along the edge
