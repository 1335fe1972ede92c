"""The route of whole quilts: its order, its passes, where it begins, what it goes along."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely

from kenzet.core.changes import CHANGES
from kenzet.core.changes.new_quilt import NewQuilt, new_quilt
from kenzet.core.geom.affine import place_all
from kenzet.core.kit.kit import Kit
from kenzet.core.route.bulk import least_in_throat
from kenzet.core.route.in_order import lines_along
from kenzet.core.route.needle import STOP_S, needle, roll
from kenzet.core.route.network import DITCH, RIM, STEP
from kenzet.core.route.quilt import costs_of, route_quilt
from kenzet.core.route.unit import rings
from kenzet.core.route.visits import LEARN, PlaceOrder
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.stitching import Stitching
from kenzet.demo import demo_quilts

IN = 25.4


def ruled_top(columns=3, rows=2, **machine):
    """A top of plain blocks with level lines in each, sewn from the bottom."""
    laid = QuiltLayout(
        new_quilt(
            NewQuilt.model_validate({"name": "Ruled", "columns": columns, "rows": rows, "block": "6 in"})
        )
    )
    place = next(place for place, _ in laid.quilt.layout.places())
    patch = next(iter(laid.top.at[place].patches))
    for change in (
        {"kind": "zone", "refs": [f"{place}/{patch}"]},
        {"kind": "stitching", "stitching": {"order": "from the bottom"}},
        {
            "kind": "quilt",
            "use": "lap",
            "line_ends": "inside",
            "edge": "1/4 in",
            "batting_overhang": "2 in",
            "backing_overhang": "3 in",
        },
    ):
        laid = QuiltLayout(CHANGES[change["kind"]].model_validate(change).apply(laid)[0])
    (zone,) = laid.quilt.zones
    fill = {"kind": "fill", "zone": zone, "fill": {"kind": "lines", "spacing": "1 in", "angle": 0}}
    laid = QuiltLayout(CHANGES["fill"].model_validate(fill).apply(laid)[0])
    kit = laid.quilt.kit
    kit = kit.model_copy(update={"machine": kit.machine.model_copy(update=machine)})
    return QuiltLayout(laid.quilt.model_copy(update={"kit": kit}))


def test_blocks_follow_each_other_and_join_along_seams():
    route = route_quilt(ruled_top())
    assert [visit.place for visit in route.visits] == ["2-1", "2-2", "2-3", "1-3", "1-2", "1-1"]
    assert route.stops == 0
    # every block is sewn from its lower seam up, so from block to block one may have to go down again
    assert [visit.across > 0.1 for visit in route.visits[:4]] == [False, False, False, True]
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
    laid = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.name.startswith("Harbour")))
    route = route_quilt(laid)
    seams = shapely.union_all([shapely.linestrings(ring) for ring in outlines(laid)]).buffer(0.1)
    walks = [visit for visit in route.visits if len(visit.way)]
    assert len(walks) > 3
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
    route = route_quilt(QuiltLayout(CHANGES["stitching"].model_validate(change).apply(laid)[0]))
    places = [visit.place for visit in route.visits]
    assert sorted(places) == sorted(place for place, _ in laid.quilt.layout.places())
    begins = {"centre outward": ("3-2", "3-3"), "edge to edge": ("1-1",), "column by column": ("5-1", "1-1"), "from the bottom": ("5-1",)}  # fmt: skip
    assert places[0] in begins[order]


def test_f42_needle_time_and_f41_thread_grow_with_what_is_done():
    kit, stitching = Kit(), Stitching()
    plain = needle(kit, stitching, {"straight": 1000 * IN}, 0.0, laid=10, pivots=0, stops=0)
    more = needle(
        kit, stitching, {"straight": 900 * IN, "freehand": 100 * IN}, 100 * IN, laid=10, pivots=20, stops=2
    )
    pace = stitching.pace
    minutes = 100 * IN * (1 / pace.freehand.mm - 1 / pace.straight.mm + 1 / pace.travel.mm)
    assert more.seconds - plain.seconds == pytest.approx(
        60 * float(minutes) + 20 * pace.turn + 2 * STOP_S["tie and bury"]
    )
    per_mm = 1 + float(kit.batting.thickness.mm) / float(kit.stitch.mm)
    assert more.thread - plain.thread == pytest.approx(100 * IN * per_mm + 2 * 12 * IN)
    assert plain.bobbins == math.ceil(plain.thread / (2500 * IN))


def test_what_is_sewn_is_told_by_technique_and_adds_up(laid):
    for sewn_with in ("ruler foot", "walking foot"):
        kit = laid.quilt.kit.model_copy(update={"sew_with": sewn_with})
        route = route_quilt(laid.tried(laid.quilt.model_copy(update={"kit": kit})), quick=True)
        assert set(route.sewn) == {"walking" if sewn_with == "walking foot" else "straight"}
        assert sum(route.sewn.values()) == pytest.approx(route.stitched)
    waves = CHANGES["fill"].model_validate(
        {"kind": "fill", "zone": "sashing", "fill": {"kind": "waves", "spacing": "1 in"}}
    )
    curved = route_quilt(QuiltLayout(waves.apply(laid)[0]), quick=True)
    assert set(curved.sewn) == {"straight", "curved"}
    assert sum(curved.sewn.values()) == pytest.approx(curved.stitched)


def stitched_as(laid, **stitching):
    change = {"kind": "stitching", "stitching": stitching}
    return QuiltLayout(CHANGES["stitching"].model_validate(change).apply(laid)[0])


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
    assert both.travelled >= route.travelled - 0.5 * IN  # orders are improved, not proven


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
    near = sum(bulky.network.travel_penalty[k] > 1 for k in bulky.travel.edges)
    assert near <= sum(bulky.network.travel_penalty[k] > 1 for k in one.travel.edges)
    (elsewhere,) = route_quilt(stitched_as(laid, avoided=[{**spot, "part": "other", "how": "never"}])).routes
    assert elsewhere.travelled == pytest.approx(one.travelled)


def with_ditch(**stitching):
    """Two blocks with level lines, and their seams in the ditch as a second layer."""
    laid = ruled_top(columns=2, rows=1)
    (zone,) = laid.quilt.zones
    over = {"kind": "over", "zone": zone, "over": {"fill": {"kind": "beside", "where": "ditch"}}}
    return stitched_as(QuiltLayout(CHANGES["over"].model_validate(over).apply(laid)[0]), **stitching)


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
    route = route_quilt(QuiltLayout(of_ditch.quilt.model_copy(update={"stitching": same})))
    assert [kinds for _, kinds in passes(route)] == [{True, False}, {True, False}]


def test_one_foot_after_the_other_and_a_new_thread_at_the_change():
    laid = ruled_top(columns=2, rows=2)
    (zone,) = laid.quilt.zones
    here = next(iter(laid.quilt.layout.places()))[0]
    one = laid.quilt.zones[zone].model_copy(update={"sew_with": "walking foot"})
    foot = QuiltLayout(laid.quilt.model_copy(update={"zones": {zone: one}}))
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
    laid = QuiltLayout(CHANGES["fill"].model_validate(grid).apply(laid)[0])
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
    laid = QuiltLayout(CHANGES["fill"].model_validate(echo).apply(laid)[0])
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
    laid = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.name.startswith("Sampler")))
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
            some[0] for some in route_quilt(QuiltLayout(sewn)).kinds if some[0].unit.part.name == "Plain"
        )

    one = plain()
    rim = one.network.kinds == RIM
    spots = np.concatenate([path for path, on in zip(one.network.paths, rim, strict=True) if on])
    part, edge = one.unit.part, float(sampler.edge.mm)
    (placing,) = part.places.values()
    x, y = place_all(placing, spots).T
    wide, high = QuiltLayout(sampler).top.width, QuiltLayout(sampler).top.height
    assert np.minimum(np.minimum(x, wide - x), np.minimum(y, high - y)).max() <= edge + 0.1
    assert (one.network.kinds == DITCH).any()  # its other sides
    assert rim[list(one.travel.edges)].any()
    never = plain(rim="never")
    assert not (never.network.kinds == RIM)[list(never.travel.edges)].any()
    assert never.travel.cost + never.travel.stops > one.travel.cost


def test_a_quick_way_sews_the_same_and_gives_way_to_the_shorter_one(laid):
    laid = QuiltLayout(laid.quilt)  # where nothing was looked for yet
    quick = route_quilt(laid, quick=True)
    assert quick.quick and quick.travelled > 0
    short = route_quilt(laid)
    assert not short.quick
    assert quick.stitched == pytest.approx(short.stitched)
    assert [visit.place for visit in quick.visits] == [visit.place for visit in short.visits]
    weighed = [sum(some[0].travel.cost for some in one.kinds) for one in (quick, short)]
    assert weighed[0] >= weighed[1] - 0.01
    again = route_quilt(laid, quick=True)  # nothing that was found is looked for again
    assert not again.quick and again.travelled == short.travelled


def test_another_way_through_the_same_block_is_learnt_only_where_it_saves_enough():
    laid = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.name == "Kelp Garden"))
    order = PlaceOrder(laid, route_quilt(laid).kinds, costs_of(laid.quilt.stitching))
    least, all_of_them = order.best(order.own)
    few = order.fewest
    steps = list(zip(order.across, few[:-1], few[1:], strict=True))
    cost = sum(min(float(across[a, b]), order.stop) for across, a, b in steps)
    cost += sum(float(order.own[kind][way]) for (kind, _), way in zip(order.places, few, strict=True))
    spared = sum(map(len, order.used(all_of_them))) - sum(map(len, order.used(few)))
    assert spared > 0
    assert least - 1e-6 <= cost <= least + spared * LEARN


def test_plans_of_before_the_order_within_a_fill_take_the_order_that_fills_say():
    assert Stitching.model_validate({"families": "as it comes"}).families == "one set whole"
    assert Stitching.model_validate({"families": "in any order"}).families == "in any order"


def test_sets_follow_one_another_in_each_piece_unless_any_order_will_do():
    laid = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.name.startswith("Harbour")))
    star = next(one for one in route_quilt(laid).routes if len(one.unit.courses) > 100)
    turns = {
        k: scope for k, scope in enumerate(star.unit.precedence.scopes) if star.unit.courses[k].zone == 0
    }
    seen: dict[tuple[int, int], int] = {}
    for course in lines_along(star.network, star.runs):
        if course in turns:
            zone, piece, turn = turns[course]
            assert turn >= seen.get((zone, piece), 0)
            seen[zone, piece] = turn
    assert set(seen.values()) == {1}
    free = stitched_as(laid, families="in any order")
    assert {scope[2] for one in route_quilt(free).routes for scope in one.unit.precedence.scopes} == {0}


@pytest.mark.parametrize(
    ("field", "value", "says"),
    [("longest_step", "20 in", "A step from ring to ring"), ("longest_step", "0 in", "A step from ring to ring"), ("least_line", "5 in", "The shortest line")],
)  # fmt: skip
def test_what_she_may_set_of_steps_and_short_lines_has_limits(field, value, says):
    with pytest.raises(ValueError, match=says):
        Stitching.model_validate({field: value})


def test_a_step_farther_than_she_says_is_not_taken():
    """Rings 3/4 in apart in a square: their corners lie 1.06 in from one another."""
    laid = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.name.startswith("Harbour")))
    steps = {}
    for most in ("1 1/4 in", "1/2 in"):
        routes = route_quilt(stitched_as(laid, longest_step=most)).routes
        taken = [
            float(one.network.lengths[k])
            for one in routes
            for k in one.travel.edges
            if one.network.kinds[k] == STEP
        ]
        steps[most] = max(taken, default=0.0)
    assert steps["1/2 in"] <= 0.5 * IN + 0.01 < steps["1 1/4 in"] <= 1.25 * IN + 0.01
