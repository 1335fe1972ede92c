"""A longer search: what no way is shorter than, the shortest way, and ways that are kept."""

from __future__ import annotations

import threading
from dataclasses import replace

import pytest

from kenzet.core.route.costs import Costs
from kenzet.core.route.in_order import OrderSearch, lines_along
from kenzet.core.route.local_search import Kind, LocalSearch, look
from kenzet.core.route.quilt import costs_of, route_quilt
from kenzet.core.route.solve import Solver
from kenzet.core.route.unit_route import network_fingerprint
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.core.route.test_route import IN, REFERENCE, of_fill, ruled
from tests.optimum import optimum
from tests.shapes import REGIONS

CASES = [
    ("lines", {"angle": 30}, "petal"),
    ("grid", {"second_angle": 60}, "L"),
    ("lines", {}, "star background"),
]


def kind_of(solver, travel, ends=None):
    worth = solver.worth(travel)
    return Kind(
        None, ends, network_fingerprint(solver.network, solver.costs, ends), 1, travel.edges, worth, worth
    )


@pytest.mark.parametrize(("kind", "values", "region"), CASES, ids=[f"{case[0]} {case[2]}" for case in CASES])
def test_a_way_that_was_not_looked_at_is_made_the_proven_shortest(kind, values, region):
    _, net = of_fill(kind, values, REGIONS[region])
    solver = Solver(net, Costs())
    found = kind_of(solver, solver.whole.travel(solver.whole.tree(None)))
    look(found, solver, lambda: False)
    assert found.proven
    assert found.worth == pytest.approx(optimum(net, Costs()), rel=2e-4)
    assert solver.worth(solver.known(found.kept, None)) == pytest.approx(found.worth)


@pytest.mark.parametrize("case", REFERENCE, ids=[case[0] for case in REFERENCE])
def test_with_broken_numbers_the_program_is_below_the_optimum_and_with_whole_ones_it_is_there(case):
    _, region, families, extra = case
    _, net = ruled(region, *families)
    solver = Solver(net, Costs())
    program = solver.program(None)
    program.relax()
    assert solver.bound - 0.01 <= program.bound <= extra * IN + 0.02
    for _ in range(60):
        answer = program.solve(solver.quick(None).edges)
        if answer.whole:
            break
    assert solver.worth(solver.known(answer.edges, None)) == pytest.approx(extra * IN, abs=0.05)


def test_between_given_ends_no_way_is_shorter_than_told():
    _, net = of_fill("grid", {"second_angle": 60}, REGIONS["L"])
    solver = Solver(net, Costs())
    ends = (net.nearest((0, 0)), net.nearest((0, 200)))
    found = kind_of(solver, solver.travel(ends), ends)
    look(found, solver, lambda: False)
    assert found.proven
    assert found.worth >= kind_of(solver, solver.travel()).worth - 0.01
    travel = solver.known(found.kept, ends)
    assert (travel.stops, len(travel.groups)) == (0, 1)


def test_it_ends_when_it_is_stopped():
    _, net = of_fill("lines", {}, REGIONS["lattice"])
    solver = Solver(net, Costs())
    asked = []

    def stopped():
        asked.append(1)
        return len(asked) > 3

    found = kind_of(solver, solver.whole.travel(solver.whole.tree(None)))
    look(found, solver, stopped)
    assert not found.proven
    assert found.least <= found.worth


def test_one_that_is_stopped_at_once_has_found_nothing(laid):
    found = LocalSearch(route_quilt(laid), costs_of(laid.quilt.stitching))
    found.run(lambda: True)
    assert found.done and not found.ways
    assert 0 < found.left < 1  # the bounds are told all the same


@pytest.fixture(scope="module")
def sampler():
    """Every line drawn, so that any order will do."""
    quilt = next(quilt for quilt in demo_quilts() if quilt.name.startswith("Sampler"))
    zones = {key: zone.model_copy(update={"marking": "all lines"}) for key, zone in quilt.zones.items()}
    stitching = quilt.stitching.model_copy(update={"families": "in any order"})
    return quilt.model_copy(update={"zones": zones, "stitching": stitching})


def with_ways(quilt, ways):
    return quilt.model_copy(update={"stitching": quilt.stitching.model_copy(update={"ways": ways})})


def test_what_is_kept_is_taken_and_what_was_found_first_comes_back(sampler):
    laid = QuiltLayout(sampler)
    route = route_quilt(laid)
    costs = costs_of(sampler.stitching)
    quick = {some[0].word: Solver(some[0].network, costs).quick(None).edges for some in route.kinds}
    first = next(
        some[0] for some in route.kinds if sorted(quick[some[0].word]) != sorted(some[0].travel.edges)
    )
    kept = laid.with_quilt(with_ways(sampler, {first.word: quick[first.word]}))
    (again,) = [some[0] for some in route_quilt(kept).kinds if some[0].word == first.word]
    assert again.known == quick[first.word]
    assert sorted(again.travel.edges) == sorted(quick[first.word])
    back = kept.with_quilt(sampler)
    assert [some[0].travel.edges for some in route_quilt(back).kinds] == [
        some[0].travel.edges for some in route.kinds
    ]


def test_kept_ways_of_other_networks_or_worse_than_a_quick_one_are_left(sampler):
    route = route_quilt(QuiltLayout(sampler))
    first = route.kinds[0][0]
    for edges in ((99_999,),):
        found = route_quilt(QuiltLayout(with_ways(sampler, {"0123456789abcdef": edges})))
        assert [some[0].travel.edges for some in found.kinds] == [
            some[0].travel.edges for some in route.kinds
        ]
    for edges in ((99_999,), (0,), (0, 0)):
        found = route_quilt(QuiltLayout(with_ways(sampler, {first.word: edges})))
        assert found.kinds[0][0].travel.edges == first.travel.edges


def test_a_word_tells_other_prices_and_other_ends_apart():
    _, net = of_fill("lines", {}, REGIONS["petal"])
    costs = Costs()
    words = {
        network_fingerprint(net, costs, None),
        network_fingerprint(net, costs, (0, 1)),
        network_fingerprint(net, replace(costs, retrace=1.0), None),
        network_fingerprint(net, replace(costs, stop=1.0), None),
    }
    assert len(words) == 4
    assert network_fingerprint(net, costs, None) == network_fingerprint(
        of_fill("lines", {}, REGIONS["petal"])[1], costs, None
    )


def test_all_kinds_of_a_quilt_are_looked_at_and_what_is_gained_holds(sampler):
    laid = QuiltLayout(sampler)
    found = LocalSearch(route_quilt(laid), costs_of(sampler.stitching))
    for kind in found.kinds:  # as if the first search had done less
        solver = Solver(kind.one.network, costs_of(sampler.stitching))
        travel = solver.whole.travel(solver.whole.tree(None))
        kind.kept, kind.begun, kind.worth = travel.edges, solver.worth(travel), solver.worth(travel)
    thread = threading.Thread(target=found.run, args=(lambda: False,))
    thread.start()
    thread.join(60)
    assert found.done and all(kind.proven for kind in found.kinds)
    assert found.left < 1e-3
    again = route_quilt(QuiltLayout(with_ways(sampler, dict(found.ways))))
    for kind in found.kinds:
        (one,) = [some[0] for some in again.kinds if some[0].word == kind.word]
        solver = Solver(one.network, costs_of(sampler.stitching))
        assert solver.worth(one.travel) == pytest.approx(
            kind.worth if kind.better else solver.worth(solver.travel())
        )


def test_lines_that_come_in_an_order_are_looked_at_longer_and_the_order_found_is_kept():
    quilt = next(quilt for quilt in demo_quilts() if quilt.name.startswith("Sampler"))
    route = route_quilt(QuiltLayout(quilt))
    first = next(some[0] for some in route.kinds if some[0].unit.part.name.startswith("Two"))
    many = len(first.unit.courses)
    unit, costs = first.unit, costs_of(quilt.stitching)
    assert not unit.precedence.free
    solver = Solver(first.network, costs)
    poor = list(range(many))  # as they are numbered: one set after the other
    search = OrderSearch(first.network, unit.courses, unit.precedence, solver.roads, costs, poor, None)
    begun = search.cost
    for _ in range(60):
        search.shake()
    assert search.cost < begun and unit.precedence.allows(search.order)
    again = route_quilt(QuiltLayout(with_ways(quilt, {first.word: search.order})))
    (kept,) = [some[0] for some in again.kinds if some[0].word == first.word]
    assert lines_along(kept.network, kept.runs) == list(search.order)
    assert solver.worth(kept.travel) == pytest.approx(search.cost, abs=0.01)
    for no_order in (poor[:-1], poor[::-1], [0] * many):
        found = route_quilt(QuiltLayout(with_ways(quilt, {first.word: tuple(no_order)})))
        assert [sorted(some[0].travel.edges) for some in found.kinds] == [
            sorted(some[0].travel.edges) for some in route.kinds
        ]
