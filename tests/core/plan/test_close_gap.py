"""Lines through gaps: enough of them, inside the zone, across nothing that is sewn."""

import pytest
import shapely
from shapely.geometry import LineString
from shapely.ops import substring

from kenzet.core.fills import FILLS
from kenzet.core.plan.close_gap import MOST, closing_lines
from kenzet.core.plan.widest_gap import search_gap
from tests.shapes import IN, REGIONS, box, drawn, inches

SOME = [
    ("lines", {"spacing": "6 in", "angle": 0}),
    ("lines", {"spacing": "7 in", "angle": 30}),
    ("grid", {"spacing": "5 in"}),
    ("echo", {"spacing": "3 in"}),
]


@pytest.mark.parametrize(("kind", "values"), SOME)
@pytest.mark.parametrize("name", ["square", "L", "right triangle"])
def test_no_gap_over_the_limit_is_left_and_no_line_crosses_another(kind, values, name):
    drawing = drawn(FILLS[kind](**values), REGIONS[name])
    limit = 0.75 * search_gap(drawing.region, drawing.polylines).width
    found = closing_lines([drawing], limit)
    assert 0 < len(found) <= MOST
    assert search_gap(drawing.region, [*drawing.polylines, *found]).width <= limit + 0.1
    every = [LineString(line) for line in [*drawing.polylines, *found]]
    for number, line in enumerate(map(LineString, found)):
        assert drawing.region.area.buffer(0.01).covers(line)
        inner = substring(line, 0.05, line.length - 0.05)  # its ends lie on others
        others = every[: len(drawing.polylines) + number]
        assert not any(inner.intersects(other) for other in others)


def test_a_channel_is_halved_along_its_length():
    drawing = drawn(FILLS["lines"](spacing="6 in", angle=0), inches(box(0, 0, 30, 12)))
    found = closing_lines([drawing], 4 * IN)
    assert len(found) == 2
    assert all(shapely.length(LineString(line)) == pytest.approx(30 * IN) for line in found)


def test_what_is_within_the_limit_gets_no_line_and_what_takes_too_many_none_either():
    drawing = drawn(FILLS["lines"](spacing="1 in", angle=0), REGIONS["square"])
    assert closing_lines([drawing], 2 * IN) == []
    assert closing_lines([drawing], 0.2 * IN) == []
