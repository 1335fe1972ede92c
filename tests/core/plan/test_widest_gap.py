"""The widest gap: the search against exact cells, and the place where it is."""

from __future__ import annotations

import math

import pytest
import shapely
from shapely.geometry import LineString

from kenzet.core.fills import FILLS
from kenzet.core.geom.cells import cells_of
from kenzet.core.geom.region import Region, widest_circle
from kenzet.core.plan.widest_gap import WidestGap, quick_gap, search_gap, widest_gap
from tests.shapes import IN, REGIONS, box, drawn, inches

SOME = [
    ("waves", {"spacing": "1 in", "skip": None}), ("zigzag", {"spacing": "3/4 in", "skip": None}), ("chevrons", {}),
    ("fan", {"spacing": "1/4 in", "wide": "1/2 in", "at": 0, "lines": 6}), ("shells", {"about": "middle"}),
    ("clamshell", {"spacing": "2 in"}), ("random", {"seed": 5}), ("through", {}),
]  # fmt: skip


@pytest.mark.parametrize(("kind", "values"), SOME)
@pytest.mark.parametrize("name", ["square", "L", "frame", "right triangle"])
def test_the_search_finds_what_exact_cells_give(kind, values, name):
    drawing = drawn(FILLS[kind](**values), REGIONS[name])
    found = widest_gap(drawing)
    exact = 2 * widest_circle(cells_of(drawing.region, drawing.polylines))
    assert found.width == pytest.approx(exact, rel=0.02, abs=0.3)


@pytest.mark.parametrize(("kind", "values"), SOME)
def test_the_circle_at_its_place_is_empty_and_inside(kind, values):
    drawing = drawn(FILLS[kind](**values), REGIONS["square"])
    gap = widest_gap(drawing)
    circle = shapely.Point(gap.place).buffer(gap.width / 2 - 0.05, quad_segs=64)
    assert REGIONS["square"].area.covers(circle)
    assert not any(LineString(line).intersects(circle) for line in drawing.polylines)


def test_a_zone_without_a_line_is_one_gap():
    gap = search_gap(inches(box(0, 0, 9, 6), box(1, 1, 2, 2)), [])
    beside, in_the_corner = 6 * IN, 9 * IN
    assert beside * 0.95 < gap.width <= in_the_corner
    assert search_gap(REGIONS["thin strip"], []).width / IN == pytest.approx(2.0, abs=0.01)


def test_a_freehand_texture_leaves_gaps_as_wide_as_it_is_sewn():
    assert widest_gap(drawn(FILLS["texture"](spacing="1/2 in"), REGIONS["square"])).width / IN == 0.5


def test_the_widest_place_of_a_fan_is_at_its_wide_end():
    fill = FILLS["fan"](spacing="1/4 in", wide="3/4 in", at=0, lines=8)
    region = inches(box(0, 0, 8, 12))
    gap = widest_gap(drawn(fill, region))
    assert math.isfinite(gap.width)
    assert gap.width / IN > 0.75


def test_the_widest_gap_among_thousands_of_cells_is_not_waited_for():
    """Strips too narrow for a full gap: each end is cut into cells. A zone of few lines is measured at once."""
    one = inches(box(0, 0, 1, 90))
    strips = [shapely.box(2 * k * IN, 0, (2 * k + 1) * IN, 90 * IN) for k in range(40)]
    many = Region(shapely.MultiPolygon(strips))
    fill = FILLS["lines"](spacing="1 1/2 in", angle=45)
    few = quick_gap(drawn(fill, one))
    assert few == widest_gap(drawn(fill, one))
    assert few.width < 1.5 * IN
    assert drawn(fill, many).lines > 1_500
    assert quick_gap(drawn(fill, many)) is None
    assert widest_gap(drawn(fill, many)).width == pytest.approx(few.width, rel=0.2)
    narrow = FILLS["lines"](spacing="1/4 in", angle=45)
    assert quick_gap(drawn(narrow, many)) == WidestGap(
        pytest.approx(0.25 * IN)
    )  # a full gap fits: no cell is needed
