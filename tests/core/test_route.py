"""The order that runs on: against proven optima, plain rows, and what a walk must be."""

from __future__ import annotations

import math
from fractions import Fraction

import numpy as np
import pytest
import shapely

from kenzet.core.begin import Wish, begun
from kenzet.core.changes import CHANGES
from kenzet.core.fills import FILLS
from kenzet.core.geom.clip import Straight, clip
from kenzet.core.geom.placing import place_all
from kenzet.core.kit.kit import Kit
from kenzet.core.route.bulk import least_in_throat
from kenzet.core.route.costs import Costs
from kenzet.core.route.faces import faces_of
from kenzet.core.route.needle import STOP_S, TRAVEL_MM_S, TURN_S, needle, roll
from kenzet.core.route.network import DITCH, LINE, RIM, Course, Lane, network
from kenzet.core.route.quilt import route_quilt
from kenzet.core.route.solve import Solver
from kenzet.core.route.unit import courses_of, rings
from kenzet.core.route.walk import runs
from kenzet.core.top.laid import LaidQuilt
from kenzet.demo import demo_quilts
from tests.core.test_fills import EXAMPLES
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
        across = np.array(region.reach) @ normal
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


def test_lines_are_split_where_another_ends_on_them_but_not_where_they_cross():
    across = Course(np.array([[0.0, 50.0], [100.0, 50.0]]), False)
    stem = Course(np.array([[30.0, 50.0], [30.0, 0.0]]), False)
    through = Course(np.array([[70.0, 0.0], [70.0, 100.0]]), False)
    net = network([across, stem, through], [Lane(np.array([[0.0, 0.0], [100.0, 0.0]]))])
    sewn = net.kinds == LINE
    assert sorted(net.lengths[sewn].tolist()) == pytest.approx([30, 50, 70, 100])


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


def ruled_top(columns=3, rows=2, **machine):
    """A top of plain blocks with level lines in each, sewn from the bottom."""
    laid = LaidQuilt(
        begun(Wish.model_validate({"name": "Ruled", "columns": columns, "rows": rows, "block": "6 in"}))
    )
    place = next(place for place, _ in laid.quilt.layout.places())
    patch = next(iter(laid.top.at[place].patches))
    for change in (
        {"kind": "zone", "refs": [f"{place}/{patch}"]},
        {"kind": "stitching", "stitching": {"order": "from the bottom"}},
    ):
        laid = LaidQuilt(CHANGES[change["kind"]].model_validate(change).made(laid)[0])
    (zone,) = laid.quilt.zones
    fill = {"kind": "fill", "zone": zone, "fill": {"kind": "lines", "spacing": "1 in", "angle": 0}}
    laid = LaidQuilt(CHANGES["fill"].model_validate(fill).made(laid)[0])
    kit = laid.quilt.kit
    kit = kit.model_copy(update={"machine": kit.machine.model_copy(update=machine)})
    return LaidQuilt(laid.quilt.model_copy(update={"kit": kit}))


def test_blocks_follow_each_other_and_join_along_seams():
    route = route_quilt(ruled_top())
    assert [visit.place for visit in route.visits] == ["2-1", "2-2", "2-3", "1-3", "1-2", "1-1"]
    assert route.stops == 0
    assert [visit.across > 0.1 for visit in route.visits] == [False, False, False, True, False, False]
    assert route.visits[3].across < 2.5 * IN  # up to the next row; beside each other they go on at one point
    up = route.visits[3].way[1:-1]  # its ends lie on the zone, off the raw edge
    seams = shapely.union_all([shapely.linestrings(ring) for ring in outlines(ruled_top())])
    assert shapely.dwithin(shapely.points(up), seams, 0.1).all()


def outlines(laid):
    """Where the seams of a top's blocks and edges lie."""
    for part in laid.top.parts.values():
        for placing in part.places.values():
            for patch in part.patches.values():
                yield from (place_all(placing, ring) for ring in rings(patch.area))


def test_from_block_to_block_one_goes_along_the_seams_of_the_sashing():
    """Every step of the way lies on a seam of the quilt, whatever lies between the blocks."""
    laid = LaidQuilt(next(quilt for quilt in demo_quilts() if quilt.name.startswith("Harbour")))
    route = route_quilt(laid)
    seams = shapely.union_all([shapely.linestrings(ring) for ring in outlines(laid)]).buffer(0.1)
    walks = [visit for visit in route.visits if len(visit.way)]
    assert len(walks) > 5
    for visit in walks:
        lane = shapely.linestrings(visit.way)
        assert (
            shapely.intersection(lane, seams).length > 0.4 * lane.length
        )  # the rest leads over its own block
        assert visit.across == pytest.approx(lane.length)


def test_a107_a_throat_on_the_left_swaps_the_sides_and_no_line():
    right, left = route_quilt(ruled_top()), route_quilt(ruled_top(throat="left"))
    mirror = {"1": "3", "2": "2", "3": "1"}
    swapped = [
        f"{row}-{mirror[column]}" for row, column in (visit.place.split("-") for visit in right.visits)
    ]
    assert [visit.place for visit in left.visits] == swapped
    assert left.stitched == pytest.approx(right.stitched)
    assert left.travelled == pytest.approx(right.travelled, rel=0.01)


@pytest.mark.parametrize("order", ["centre outward", "edge to edge", "column by column", "from the bottom"])
def test_every_school_goes_everywhere_once(order):
    laid = ruled_top(columns=4, rows=5)
    change = {"kind": "stitching", "stitching": {"order": order}}
    route = route_quilt(LaidQuilt(CHANGES["stitching"].model_validate(change).made(laid)[0]))
    places = [visit.place for visit in route.visits]
    assert sorted(places) == sorted(place for place, _ in laid.quilt.layout.places())
    begins = {"centre outward": ("3-2", "3-3"), "edge to edge": ("1-1",), "column by column": ("5-1", "1-1"), "from the bottom": ("5-1",)}  # fmt: skip
    assert places[0] in begins[order]


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


def test_f42_needle_time_and_f41_thread_grow_with_what_is_done():
    kit = Kit()
    plain = needle(kit, 1000 * IN, 0.0, laid=10, pivots=0, stops=0, ends="tie and bury")
    more = needle(kit, 1000 * IN, 100 * IN, laid=10, pivots=20, stops=2, ends="tie and bury")
    assert more.seconds - plain.seconds == pytest.approx(
        100 * IN / TRAVEL_MM_S + 20 * TURN_S + 2 * STOP_S["tie and bury"]
    )
    per_mm = 1 + float(kit.batting.thickness.mm) / float(kit.stitch.mm)
    assert more.thread - plain.thread == pytest.approx(100 * IN * per_mm + 2 * 12 * IN)
    assert plain.bobbins == math.ceil(plain.thread / (2500 * IN))


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


def stitched_as(laid, **stitching):
    change = {"kind": "stitching", "stitching": stitching}
    return LaidQuilt(CHANGES["stitching"].model_validate(change).made(laid)[0])


def test_her_own_order_comes_first_and_the_rest_follows():
    laid = stitched_as(ruled_top(), order="my own", own=["1-3", "2-1", "1-2", "9-9"])
    places = [visit.place for visit in route_quilt(laid).visits]
    assert places[:3] == ["1-3", "2-1", "1-2"] and sorted(places[3:]) == ["1-1", "2-2", "2-3"]


@pytest.mark.parametrize("corner", ["lower left", "lower right", "upper left", "upper right"])
def test_a_way_begins_where_it_is_pinned_and_is_never_taken_backwards(corner):
    laid = ruled_top()
    part = next(iter(route_quilt(laid).routes)).unit.part
    route = route_quilt(stitched_as(laid, pins={part.key: {"start": corner}}))
    up, side = corner.split(" ")
    for visit in route.visits:
        one = route.routes[visit.route]
        x, y = one.network.points[one.runs[0].start]
        assert one.pinned and not visit.back
        assert (x > part.width / 2) == (side == "right") and (y > part.height / 2) == (up == "upper")
    both = route_quilt(stitched_as(laid, pins={part.key: {"start": corner, "end": corner}}))
    for one in both.routes:
        ends = one.network.points[[one.runs[0].start, one.runs[-1].end]]
        assert np.abs(ends[0] - ends[1]).max() < 1.1 * IN
    assert both.travelled >= route.travelled - 0.01


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


def test_a_seam_that_is_forbidden_is_never_travelled_and_a_bulky_one_less():
    laid = ruled_top(columns=1, rows=1)
    (one,) = route_quilt(laid).routes
    part = one.unit.part
    edge = next(k for k in one.travel.edges)
    x, y = one.network.paths[edge].mean(axis=0).tolist()
    spot = {"part": part.key, "x": x, "y": y}
    (never,) = route_quilt(stitched_as(laid, avoided=[{**spot, "how": "never"}])).routes
    travelled = [never.network.paths[k] for k in never.travel.edges]
    assert all(np.hypot(*(path.mean(axis=0) - (x, y))) > 1 for path in travelled)
    assert never.travelled >= one.travelled
    (bulky,) = route_quilt(stitched_as(laid, avoided=[{**spot, "how": "bulky"}])).routes
    near = sum(bulky.network.dear[k] > 1 for k in bulky.travel.edges)
    assert near <= sum(bulky.network.dear[k] > 1 for k in one.travel.edges)
    (elsewhere,) = route_quilt(stitched_as(laid, avoided=[{**spot, "part": "other", "how": "never"}])).routes
    assert elsewhere.travelled == pytest.approx(one.travelled)


def with_ditch(**stitching):
    """Two blocks with level lines, and their seams in the ditch as a second layer."""
    laid = ruled_top(columns=2, rows=1)
    (zone,) = laid.quilt.zones
    over = {"kind": "over", "zone": zone, "over": {"fill": {"kind": "beside", "where": "ditch"}}}
    return stitched_as(LaidQuilt(CHANGES["over"].model_validate(over).made(laid)[0]), **stitching)


def passes(route):
    """The place and whether the ditch is sewn there, visit after visit."""
    return [
        (visit.place, {drawing.fill.in_the_ditch for _, drawing in route.routes[visit.route].unit.drawings})
        for visit in route.visits
    ]


def test_the_ditch_is_sewn_with_the_rest_or_in_a_pass_before_or_after_it():
    together = passes(route_quilt(with_ditch()))
    assert [kinds for _, kinds in together] == [{True, False}, {True, False}]
    first, last = (passes(route_quilt(with_ditch(ditch=when))) for when in ("first", "last"))
    assert [kinds for _, kinds in first] == [{True}, {True}, {False}, {False}]
    assert [kinds for _, kinds in last] == [{False}, {False}, {True}, {True}]
    assert [place for place, _ in first][:2] == [place for place, _ in together]


def test_a_zone_is_sewn_everywhere_before_or_after_all_others(laid):
    """An anchor, or what ends in a dead end: what is said of the zone goes before what is said of the ditch."""

    def zones(**stitching):
        sewn = {"stitching": laid.quilt.stitching.model_copy(update=stitching)}
        route = route_quilt(laid.with_quilt(laid.quilt.model_copy(update=sewn)))
        return [{zone for zone, _ in route.routes[visit.route].unit.drawings} for visit in route.visits]

    every = set().union(*zones())
    (anchor, *_), last = sorted(every - {"sashing"}), "sashing"
    order = zones(turns={anchor: "first", last: "last", "no such zone": "first"})
    assert order[:12] == [{anchor}] * 12 and order[-1] == {last}
    assert order[12:-1] == [every - {anchor, last}] * 12
    of_ditch = with_ditch(ditch="first")
    (zone,) = of_ditch.quilt.zones
    same = of_ditch.quilt.stitching.model_copy(update={"turns": {zone: "last"}})
    route = route_quilt(LaidQuilt(of_ditch.quilt.model_copy(update={"stitching": same})))
    assert [kinds for _, kinds in passes(route)] == [{True, False}, {True, False}]


def test_one_foot_after_the_other_and_a_new_thread_at_the_change():
    laid = ruled_top(columns=2, rows=2)
    (zone,) = laid.quilt.zones
    here = next(iter(laid.quilt.layout.places()))[0]
    one = laid.quilt.zones[zone].model_copy(update={"sew_with": "walking foot"})
    foot = LaidQuilt(laid.quilt.model_copy(update={"zones": {zone: one}}))
    route = route_quilt(foot)
    assert {route.routes[visit.route].unit.foot for visit in route.visits} == {"walking foot"}
    assert route.stops == 0 and here in {visit.place for visit in route.visits}
    mixed = with_ditch(ditch="first")
    (zone,) = mixed.quilt.zones
    route = route_quilt(mixed)
    at = [route.routes[visit.route].unit.rank for visit in route.visits]
    assert at == sorted(at)


def test_the_directions_of_a_grid_are_sewn_one_after_the_other_over_the_whole_quilt():
    laid = ruled_top(columns=2, rows=2)
    (zone,) = laid.quilt.zones
    grid = {"kind": "fill", "zone": zone, "fill": {"kind": "grid", "spacing": "1 in"}}
    laid = LaidQuilt(CHANGES["fill"].model_validate(grid).made(laid)[0])
    whole, apart = route_quilt(laid), route_quilt(stitched_as(laid, families="one by one"))
    assert apart.stitched == pytest.approx(whole.stitched)
    assert (len(whole.visits), len(apart.visits)) == (4, 8)
    families = [
        {course.family for course in apart.routes[visit.route].unit.courses} for visit in apart.visits
    ]
    assert families == [{0}] * 4 + [{1}] * 4
    lines = sorted((v.place, c.number) for v in apart.visits for c in apart.routes[v.route].unit.courses)
    assert lines == sorted(
        (v.place, c.number) for v in whole.visits for c in whole.routes[v.route].unit.courses
    )


def test_rings_are_met_from_outside_whichever_way_the_block_is_gone_through():
    """Inward echoes: each is laid on the one before it, and the first one on the seam."""
    laid = ruled_top(columns=1, rows=1)
    (zone,) = laid.quilt.zones
    echo = {"kind": "fill", "zone": zone, "fill": {"kind": "echo", "spacing": "1/2 in"}}
    laid = LaidQuilt(CHANGES["fill"].model_validate(echo).made(laid)[0])
    (one,) = route_quilt(laid).routes
    for way in (one.runs, one.backwards):
        (run,) = way
        first = list(
            dict.fromkeys(
                one.unit.courses[int(one.network.courses[leg.edge])].number for leg in run.legs if leg.sews
            )
        )
        assert first == sorted(first) or first == sorted(first, reverse=True)
    (forth,), (back,) = one.runs, one.backwards
    assert (back.start, back.end) == (forth.end, forth.start)
    edges = [sorted((leg.edge, leg.sews) for leg in run.legs) for run in (forth, back)]
    assert edges[0] == edges[1]


def test_the_edge_with_the_least_of_the_quilt_in_the_throat():
    laid = ruled_top(columns=3, rows=5)
    part = next(iter(laid.top.parts.values()))
    found = {
        place: least_in_throat(laid, laid.top.at[place], place)
        for place in ("1-1", "1-3", "3-1", "5-2", "3-2")
    }
    assert [one.edge for one in found.values()] == ["left", "right", "left", "bottom", "right"]
    assert found["1-1"].width == pytest.approx(6 * IN) and found["3-2"].width == pytest.approx(12 * IN)
    assert found["3-2"].thick == pytest.approx(roll(12 * IN, float(laid.quilt.kit.batting.thickness.mm)))
    assert least_in_throat(laid, laid.top.whole, next(iter(laid.top.whole.places))) is None and part


def test_from_place_to_place_one_goes_along_seams_and_not_across_the_cloth():
    laid = LaidQuilt(next(quilt for quilt in demo_quilts() if quilt.name.startswith("Sampler")))
    seams = [
        shapely.linestrings(place_all(placing, ring))
        for part in laid.top.parts.values()
        for placing in part.places.values()
        for patch in part.patches.values()
        for ring in rings(patch.area)
    ]
    hidden = shapely.buffer(shapely.union_all(seams), 0.2)
    ways = [visit.way for visit in route_quilt(laid).visits if len(visit.way)]
    assert len(ways) == 2
    for way in ways:
        assert shapely.difference(shapely.linestrings(way), hidden).length < 0.6 * IN


def test_no_more_threads_over_one_place_than_she_wants_where_another_lane_leads(laid):
    """The sashing's rings are travelled over the same steps twice; with one thread at most they are not."""

    def threads(over):
        sewn = laid.quilt.stitching.model_copy(update={"over": over})
        kinds = route_quilt(laid.with_quilt(laid.quilt.model_copy(update={"stitching": sewn}))).kinds
        return {some[0].unit.part.key: [int(one.threads.max()) for one in some] for some in kinds}

    assert max(threads(4)["sashing"]) == 2
    assert set(threads(1)["sashing"]) == {1}


def test_the_quilts_edge_is_a_lane_that_the_binding_covers_and_may_be_forbidden():
    sampler = next(quilt for quilt in demo_quilts() if quilt.name.startswith("Sampler"))

    def plain(**stitching):
        sewn = sampler.model_copy(update={"stitching": sampler.stitching.model_copy(update=stitching)})
        return next(
            some[0] for some in route_quilt(LaidQuilt(sewn)).kinds if some[0].unit.part.name == "Plain"
        )

    one = plain()
    rim = one.network.kinds == RIM
    spots = np.concatenate([path for path, on in zip(one.network.paths, rim, strict=True) if on])
    part, edge = one.unit.part, float(sampler.edge.mm)
    (placing,) = part.places.values()
    x, y = place_all(placing, spots).T
    wide, high = LaidQuilt(sampler).top.width, LaidQuilt(sampler).top.height
    assert np.minimum(np.minimum(x, wide - x), np.minimum(y, high - y)).max() <= edge + 0.1
    assert (one.network.kinds == DITCH).any()  # its other sides
    assert rim[list(one.travel.edges)].any()
    never = plain(rim="never")
    assert not (never.network.kinds == RIM)[list(never.travel.edges)].any()
    assert never.travel.cost + never.travel.stops > one.travel.cost
