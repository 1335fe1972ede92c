"""A line that is named as a reference is the one: counted on the way to it, in the direction that is told."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from kenzet.core.kit.kit import Kit
from kenzet.core.placing.as_it_is import placed
from kenzet.core.placing.place_line import planned
from kenzet.say.placing_words import lay_words, on_words
from kenzet.say.words import plain
from tests.core.placing.test_placements import in_order, plan_of

QUARTERS = Kit.model_validate(
    {
        "rulers": {
            "straight": {"kind": "straight ruler", "etched": "quarters"},
            **{
                f"arc-{n}": {
                    "kind": "arc",
                    "measured": "radius",
                    "outside": f"{n}/8 in",
                    "inside": f"{n}/8 in",
                }
                for n in range(4, 80)
            },
        }
    }
)
"""A quarter-marked ruler, and arcs of every eighth."""
NTH = {1: "", 2: "second ", 3: "third ", 4: "fourth "}
WHERE = {
    "to the left": (-1, 0), "to the right": (1, 0), "above": (0, 1), "below": (0, -1), "to the upper left": (-1, 1),
    "to the upper right": (1, 1), "to the lower left": (-1, -1), "to the lower right": (1, -1),
}  # fmt: skip


def way_to(drawing, on, lines):
    """From the middle of a line, or of its first leg where each leg has its own reference, to its reference."""
    own, other = lines[on.line], lines[on.reference]
    if on.sides:
        own = shapely.LineString([on.sides[0].legs[0].start, on.sides[0].legs[0].end])
        other = lines[on.sides[0].reference]
    return shapely.shortest_line(own.interpolate(0.5, normalized=True), other)


@pytest.mark.parametrize(
    ("kind", "spacing", "far"),
    [
        ("shells", "3/8 in", 2),
        ("echo", "3/8 in", 2),
        ("echo", "3/4 in", 1),
        ("lines", "1 in", 1),
    ],
)
@pytest.mark.parametrize("region", ["square", "right triangle"])
def test_the_second_line_is_not_called_the_one_beside_it(kind, spacing, far, region):
    plan, drawing = plan_of(kind, region, "first lines", QUARTERS, spacing=spacing)
    lines = [shapely.LineString(line) for line in drawing.polylines]
    counts = set()
    for line in range(drawing.lines):
        on = planned(plan, drawing, line)
        if on.on != "line" or on.reference is None:
            continue
        way = way_to(drawing, on, lines)
        ends = {line, on.reference}
        over = 1 + sum(one.intersects(way) for k, one in enumerate(lines) if k not in ends)
        said = on_words(on)
        counts.add(over)
        if said.endswith("side this one"):
            ring = shapely.Polygon(drawing.polylines[line])
            inside = ring.contains(shapely.Point(drawing.polylines[on.reference][0]))
            assert said == f"the {NTH[over]}ring {'in' if inside else 'out'}side this one"
        else:
            where = (
                said.removeprefix(f"the {NTH[over]}line ")
                .removesuffix(" of this one")
                .removesuffix(" this one")
            )
            x, y = np.diff(shapely.get_coordinates(way), axis=0)[0]
            assert np.dot(WHERE[where], (x, y)) / np.hypot(*WHERE[where]) > 0.92 * np.hypot(x, y), said
        assert on_words(on) in plain(lay_words(plan.kit, on, "in")) or "beside each leg" in plain(
            lay_words(plan.kit, on, "in")
        )
    assert far in counts or not counts


def test_counted_are_the_lines_that_are_sewn():
    """Where the line between was skipped, the second one is the first that lies there."""
    plan, drawing = plan_of("shells", "square", "first lines", QUARTERS, spacing="3/8 in")
    order = in_order(plan, drawing)
    line = next(k for k in reversed(order) if planned(plan, drawing, k).over == 2)
    reference = planned(plan, drawing, line).reference
    there = set(order[: order.index(line)]) | {line - 1}
    assert on_words(placed(plan, drawing, line, {"": there}, "", None)).startswith("the second line")
    found = placed(plan, drawing, line, {"": there - {line - 1}}, "", None)
    assert found.reference == reference and on_words(found).startswith("the line ")
