"""Whole and cut cells of grids, and a way that begins at the first whole one."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from kenzet.core.changes import CHANGES
from kenzet.core.fills import FILLS
from kenzet.core.route.cells import cells_of
from kenzet.core.route.quilt import route_quilt, units_of
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.shapes import box, drawn, inches

IN = 25.4
CORNERS = [(0.0, 0.0), (8 * IN, 0.0), (8 * IN, 8 * IN), (0.0, 8 * IN)]


def grid(region=None, **values):
    fill = FILLS["grid"].model_validate({"spacing": "1 in", "angle": 0, "second_angle": 90, **values})
    return drawn(fill, region or inches(box(0, 0, 8, 8)))


@pytest.mark.parametrize(
    ("origin", "whole", "cut", "inside"), [("centre line", 64, 0, 0.0), ("centre gap", 49, 32, 0.5)]
)
def test_cells_are_whole_where_no_edge_cuts_them(origin, whole, cut, inside):
    cells = cells_of([grid(origin=origin)], CORNERS)
    assert (cells.whole, cells.cut) == (whole, cut)
    assert cells.corner == 0 and cells.first.area == pytest.approx(IN**2)
    assert cells.first.distance(shapely.Point(0, 0)) == pytest.approx(inside * 2**0.5 * IN, abs=0.01)


def test_cells_of_an_uneven_grid_may_differ_and_those_of_a_triangle_lie_in_it():
    region = inches([(0, 0), (8, 0), (0, 8)])
    drawing = grid(region, second_spacing="2 in")
    cells = cells_of([drawing], CORNERS)
    assert cells.whole and cells.cut and region.area.buffer(0.01).covers(cells.first)
    assert cells.whole * 2 * IN**2 <= region.area.area
    assert cells.first.area == pytest.approx(2 * IN**2)


def test_lines_of_one_direction_have_no_cells():
    lines = drawn(FILLS["lines"].model_validate({"spacing": "1 in"}), inches(box(0, 0, 8, 8)))
    assert cells_of([lines], CORNERS) is None
    assert cells_of([grid(spacing="7 in", origin="centre line")], CORNERS) is None


def test_a_way_may_begin_at_the_first_whole_cell():
    sampler = QuiltLayout(next(quilt for quilt in demo_quilts() if quilt.name.startswith("Sampler")))
    unit = next(one for one in units_of(sampler) if one.cells)
    pins = {unit.part.key: {"start": "first whole cell"}}
    change = CHANGES["stitching"].model_validate({"kind": "stitching", "stitching": {"pins": pins}})
    route = route_quilt(QuiltLayout(change.apply(sampler)[0]))
    one = next(one for one in route.routes if one.unit.part.key == unit.part.key)
    assert one.pinned and len(one.runs) == 1
    start = one.network.points[one.runs[0].start]
    cell = unit.cells.first
    sides = shapely.get_coordinates(cell.exterior)
    ways = np.diff(sides, axis=0)
    out = start - sides[:-1]
    across = abs(ways[:, 0] * out[:, 1] - ways[:, 1] * out[:, 0]) / np.hypot(*ways.T)
    assert across.min() < 0.05  # in line with one of its sides
    assert cell.distance(shapely.Point(start)) < 2 * np.hypot(*ways.T).max()
