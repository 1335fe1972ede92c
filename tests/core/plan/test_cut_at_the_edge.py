"""At the quilt's edge the same block is the same drawing, but for what the edge cuts off."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from kenzet.core.changes import CHANGES
from kenzet.core.changes.new_quilt import NewQuilt, new_quilt
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Region
from kenzet.core.placing.cloth import reference_points
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.drawing import Trace, cut_to
from kenzet.core.plan.lay_lines import uncut_pieces
from kenzet.core.plan.planner import plan_zone
from kenzet.core.top.quilt_layout import QuiltLayout

FILLS = [
    {"kind": "echo", "spacing": "1/2 in"},
    {"kind": "lines", "spacing": "3/4 in", "angle": 45},
    {"kind": "grid", "spacing": "1 in", "angle": 0, "second_angle": 90},
    {"kind": "chevrons", "spacing": "3/4 in"},
    {"kind": "waves", "spacing": "3/4 in"},
    {"kind": "frame", "spacing": "1/2 in"},
    {"kind": "retraced", "spacing": "1/2 in"},
    {"kind": "shells", "spacing": "3/4 in"},
]


def nine_blocks(fill, edge="1/4 in"):
    """Three by three plain blocks of 6 in without a border; the quilt's edge cuts eight of them."""
    laid = QuiltLayout(
        new_quilt(NewQuilt.model_validate({"name": "Nine", "columns": 3, "rows": 3, "block": "6 in"}))
    )
    laid = QuiltLayout(
        laid.quilt.model_copy(update={"line_ends": "inside", "edge": type(laid.quilt.edge).parse(edge)})
    )
    place = "2-2"
    patch = next(iter(laid.top.at[place].patches))
    laid = QuiltLayout(
        CHANGES["zone"].model_validate({"kind": "zone", "refs": [f"{place}/{patch}"]}).apply(laid)[0]
    )
    (zone,) = laid.quilt.zones
    laid = QuiltLayout(
        CHANGES["fill"].model_validate({"kind": "fill", "zone": zone, "fill": fill}).apply(laid)[0]
    )
    return plan_zone(laid, zone)


@pytest.mark.parametrize("fill", FILLS, ids=[fill["kind"] for fill in FILLS])
def test_every_block_has_the_lines_of_the_inner_one_as_far_as_the_edge_lets_them(fill):
    plan = nine_blocks(fill)
    inner = plan.drawing_at("2-2")
    assert inner.shape.whole is None and len(plan.drawings) > 1
    lines = shapely.union_all([shapely.linestrings(line) for line in inner.polylines])
    for drawing in plan.drawings:
        area = drawing.region.area
        mine = shapely.union_all([shapely.linestrings(line) for line in drawing.polylines])
        assert shapely.covers(shapely.buffer(area, 0.05), mine)
        assert shapely.difference(mine, shapely.buffer(lines, 0.05)).length < 0.1
        lost = shapely.difference(
            shapely.intersection(lines, shapely.buffer(area, -0.05)), shapely.buffer(mine, 0.05)
        )
        short = 6.35  # what is shorter is left out
        assert all(part.length < short + 0.2 for part in getattr(lost, "geoms", [lost]))


def test_no_line_is_laid_on_the_cut_where_there_is_no_seam():
    plan = nine_blocks({"kind": "lines", "spacing": "3/4 in", "angle": 0, "origin": "edge", "at": 2})
    corner = plan.drawing_at("3-1")
    assert corner.shape.whole is not None
    whole = shapely.buffer(corner.shape.whole.area.boundary, 0.05)
    first = [planned(plan, corner, k) for k in range(corner.lines) if planned(plan, corner, k).on == "seam"]
    assert first
    for on in first:
        assert shapely.covers(whole, shapely.linestrings(reference_points(plan, corner, on)))
    assert uncut_pieces(corner) == list(corner.shape.whole.pieces)


def test_without_an_allowance_all_blocks_share_one_drawing():
    plan = nine_blocks({"kind": "echo", "spacing": "1/2 in"}, "0 in")
    (drawing,) = plan.drawings
    assert len(drawing.places) == 9 and all(trace.closed for trace in drawing.traces)


def test_lines_through_the_middle_go_through_the_middle_of_every_block():
    plan = nine_blocks({"kind": "lines", "spacing": "3/4 in", "angle": 0})
    for drawing in plan.drawings:
        levels = drawing.stretches.ends[:, 1]
        assert np.abs(levels - 3 * 25.4).min() < 1e-6


def test_a_trace_outside_the_region_has_no_part_in_it():
    region = Region(shapely.box(0, 0, 10, 10))
    outside = Trace(0, 0, Path.of([(20.0, 0.0), (30.0, 10.0)]), None)
    touching = Trace(0, 0, Path.of([(10.0, 10.0), (30.0, 40.0)]), None)
    assert list(cut_to(region, outside)) == list(cut_to(region, touching)) == []
