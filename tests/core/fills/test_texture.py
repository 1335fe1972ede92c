"""What is filled freehand: the way through it, when it is sewn, and what one may travel across."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from kenzet.core.changes import CHANGES
from kenzet.core.fills import FILLS
from kenzet.core.plan.planner import plan_zone
from kenzet.core.route.network import TEXTURE
from kenzet.core.route.quilt import route_quilt
from kenzet.core.route.texture import texture_ways
from kenzet.core.sewing.now import place_routes
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.core.sewing.test_sewing import Machine, anything_happens, hangs_together
from tests.shapes import REGIONS, drawn, inches

MEANDER = {"kind": "texture", "spacing": "1/2 in", "texture": "meander"}


def long(way):
    return float(np.hypot(*np.diff(way, axis=0).T).sum())


@pytest.mark.parametrize("thickness", ["open", "dense"])
@pytest.mark.parametrize("region", REGIONS, ids=str)
def test_a_way_goes_through_all_of_a_texture_and_is_as_long_as_it_is_dense(region, thickness):
    drawing = drawn(FILLS["texture"].model_validate({**MEANDER, "thickness": thickness}), REGIONS[region])
    ways = texture_ways(drawing)
    area = drawing.region.area
    assert len(ways) == len(area.geoms)
    for way in ways:
        line = shapely.linestrings(way)
        assert shapely.difference(line, shapely.buffer(area, 0.05)).length == 0
        ends = shapely.points(way[[0, -1]])
        assert shapely.dwithin(area.boundary, ends, 0.05).all()
    if region == "sliver":  # narrower than a row: from end to end
        return
    apart = 1 / drawing.fill.claimed_density
    assert sum(map(long, ways)) == pytest.approx(drawing.stitched, rel=0.15)  # rows are whole
    reached = shapely.buffer(shapely.multilinestrings([shapely.linestrings(way) for way in ways]), apart)
    assert shapely.difference(area, reached).area < 0.08 * area.area  # sharp corners


def test_a_neck_narrower_than_a_row_parts_the_way_and_nothing_crosses_outside():
    lobes = [
        (0, 0),
        (3, 0),
        (3, 1.4),
        (6, 1.4),
        (6, 5),
        (9, 5),
        (9, 8),
        (6, 8),
        (5.9, 1.5),
        (3, 1.5),
        (3, 3),
        (0, 3),
    ]
    drawing = drawn(FILLS["texture"].model_validate(MEANDER), inches(lobes))
    area = shapely.buffer(drawing.region.area, 0.05)
    ways = texture_ways(drawing)
    assert len(ways) == 2
    for way in ways:
        assert area.covers(shapely.linestrings(way))
        assert shapely.dwithin(drawing.region.area.boundary, shapely.points(way[[0, -1]]), 0.05).all()


@pytest.mark.parametrize("spacing", ["1/8 in", "20 in"])
def test_a_texture_as_fine_or_as_large_as_can_be_has_a_way(spacing):
    drawing = drawn(FILLS["texture"].model_validate({**MEANDER, "spacing": spacing}), REGIONS["square"])
    (way,) = texture_ways(drawing)
    assert long(way) > 0 and shapely.buffer(drawing.region.area, 0.05).covers(shapely.linestrings(way))


def quilt(fill=MEANDER, zone="star-background", sew_with="ruler foot", **stitching):
    laid = QuiltLayout(next(one for one in demo_quilts() if one.name == "Harbour Lights"))
    changed = CHANGES["fill"].model_validate({"kind": "fill", "zone": zone, "fill": fill}).apply(laid)[0]
    kit = changed.kit.model_copy(update={"sew_with": sew_with})
    sewn = changed.stitching.model_copy(update=stitching)
    return QuiltLayout(changed.model_copy(update={"kit": kit, "stitching": sewn}))


def is_freehand(route, visit):
    return all(course.freehand for course in route.routes[visit.route].unit.courses)


def test_a_texture_follows_the_lines_of_its_block_and_its_thread_counts():
    laid = quilt()
    route = route_quilt(laid, quick=True)
    blocks = [visit for visit in route.visits if visit.place != "sashing"]
    for lines, texture in zip(blocks[::2], blocks[1::2], strict=True):
        assert lines.place == texture.place
        assert (is_freehand(route, lines), is_freehand(route, texture)) == (False, True)
    planned = sum(
        drawing.stitched * len(drawing.places)
        for zone in laid.quilt.zones
        if (plan := plan_zone(laid, zone))
        for drawing in plan.drawings
    )
    assert route.stitched == pytest.approx(planned, rel=0.02)


def test_no_texture_is_sewn_with_the_walking_foot():
    route = route_quilt(quilt(sew_with="walking foot"), quick=True)
    feet = [(is_freehand(route, visit), route.routes[visit.route].unit.foot) for visit in route.visits]
    assert feet == sorted(feet)  # lines first, with one change of foot
    assert set(feet) == {(False, "walking foot"), (True, "ruler foot")}


def test_one_may_travel_across_a_texture_unless_she_never_will():
    def across(**stitching):
        route = route_quilt(quilt(**stitching))
        return [
            kind
            for one in route.routes
            for kind in one.network.kinds[list(one.travel.edges)].tolist()
            if kind == TEXTURE
        ]

    assert across()
    assert not across(across="never")


@pytest.mark.parametrize("zone", ["sashing", "star-background"])
def test_a_quilt_with_a_texture_is_sewn_to_its_end(zone):
    laid = quilt(zone=zone)
    route = route_quilt(laid, quick=True)
    ways = place_routes(laid, route)
    machine = Machine(ways)
    hangs_together(machine)
    sewn = machine.log.sewn
    assert all(one.left == 0 for one in ways.left(sewn))
    assert sewn.lines == pytest.approx(route.stitched, rel=1e-4)
    assert sewn.way == pytest.approx(route.stitched + route.travelled, abs=1)
    assert sewn.threads == route.stops + 1


def test_another_texture_is_another_plan():
    def word(**values):
        laid = quilt({**MEANDER, **values})
        return plan_zone(laid, "star-background").drawings[0].word

    assert word() == word()
    assert len({word(), word(spacing="1/4 in"), word(texture="pebbles")}) == 3


@pytest.mark.parametrize("seed", range(3))
def test_whatever_happens_lines_and_texture_of_a_place_are_sewn_once(seed):
    laid = quilt()
    anything_happens(place_routes(laid, route_quilt(laid, quick=True)), seed)
